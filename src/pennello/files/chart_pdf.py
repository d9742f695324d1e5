"""A painted chart on a page."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from pennello.files.page import MARGIN_MM, PAGE_HEIGHT_MM, PAGE_WIDTH_MM, Page, write_page
from pennello.files.picture import Picture

_TOP_MM, _FOOT_MM = 28.0, 34.0


def write_chart(picture: Picture, title: str, below: str, path: Path) -> None:
    """Write a picture of a painted chart, as large as the page has room, as a one-page PDF.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """

    def draw(page: Page) -> None:
        page.text(MARGIN_MM, 18, title, 20, bold=True)
        page.text(MARGIN_MM, 24, below, 9, quiet=True)
        room = PAGE_WIDTH_MM - 2 * MARGIN_MM, PAGE_HEIGHT_MM - _TOP_MM - _FOOT_MM
        rows, columns = picture.shape[:2]
        scale = min(room[0] / columns, room[1] / rows)
        wide, high = columns * scale, rows * scale
        page.picture((PAGE_WIDTH_MM - wide) / 2, _TOP_MM, wide, high, np.ascontiguousarray(picture))

    write_page(path, title, draw, enlarged=True)
