"""A PDF page measured in mm from the top left, in the shipped typeface, with a caution at its foot."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from functools import cache
from importlib.resources import as_file, files
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfbase.pdfmetrics import registerFont
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from pennello.disk import write_bytes
from pennello.files.paper import PaperSize, new_canvas, paper_now
from pennello.files.picture import Picture
from pennello.files.words import printable
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

PAGE_WIDTH_MM, PAGE_HEIGHT_MM = (side / mm for side in A4)
MARGIN_MM = 14.0
_LETTER_UP_MM, _LETTER_FOOT_UP_MM = 8.0, 3.6
"""On Letter, 17.6 mm shorter than A4, pages stand so much higher, and the foot closer to what is above it."""

_INK = (0.145, 0.129, 0.114)
_INK_BYTES = (37, 33, 29)
_QUIET = (0.357, 0.329, 0.294)
CAUTION = phrase(
    "Predicted from the paints' colours, not measured. Use only products made for skin and inside their date, clean "
    "tools for each person, nothing on broken skin. Labels, local rules and licensed practice decide."
)


@cache
def _fonts() -> tuple[str, str]:
    for name in ("SourceSansPro-Regular", "SourceSansPro-Semibold"):
        with as_file(files("pennello.files") / "fonts" / f"{name}.ttf") as path:
            registerFont(TTFont(name, str(path)))
    return "SourceSansPro-Regular", "SourceSansPro-Semibold"


def rows_of(words: str, width_mm: float, size: float) -> int:
    """Return how many rows words take within a width."""
    return max(1, len(simpleSplit(words, _fonts()[0], size, width_mm * mm)))


Draw = Callable[["Page"], None]


class Page:
    """A PDF page measured in mm from the top left."""

    def __init__(self, canvas: Canvas) -> None:
        self.canvas = canvas
        self.regular, self.bold = _fonts()

    def text(
        self, x: float, y: float, words: str, size: float = 10, *, bold: bool = False, quiet: bool = False
    ) -> None:
        """Write words at a place."""
        self.canvas.setFillColorRGB(*(_QUIET if quiet else _INK))
        self.canvas.setFont(self.bold if bold else self.regular, size)
        self.canvas.drawString(x * mm, (PAGE_HEIGHT_MM - y) * mm, printable(words))

    def paragraph(
        self, x: float, y: float, words: str, width: float, size: float = 10, *, quiet: bool = False
    ) -> float:
        """Write words within a width and return the y below them."""
        for line in simpleSplit(words, self.regular, size, width * mm):
            self.text(x, y, line, size, quiet=quiet)
            y += size * 0.48
        return y

    def fill(self, x: float, y: float, width: float, height: float, colour: Any) -> None:
        """Fill a rectangle."""
        self.canvas.setFillColorRGB(*(float(part) / 255 for part in colour))
        self.canvas.rect(x * mm, (PAGE_HEIGHT_MM - y - height) * mm, width * mm, height * mm, stroke=0, fill=1)

    def frame(self, x: float, y: float, width: float, height: float, weight: float = 0.4) -> None:
        """Frame a rectangle."""
        self.canvas.setLineWidth(weight)
        self.canvas.setStrokeColorRGB(*_INK)
        self.canvas.rect(x * mm, (PAGE_HEIGHT_MM - y - height) * mm, width * mm, height * mm, stroke=1, fill=0)

    def line(self, x0: float, y0: float, x1: float, y1: float, weight: float = 0.4) -> None:
        """Draw a line."""
        self.canvas.setLineWidth(weight)
        self.canvas.setStrokeColorRGB(*_INK)
        self.canvas.line(x0 * mm, (PAGE_HEIGHT_MM - y0) * mm, x1 * mm, (PAGE_HEIGHT_MM - y1) * mm)

    def picture(self, x: float, y: float, width: float, height: float, picture: Picture) -> None:
        """Draw a picture into a rectangle."""
        reader = ImageReader(Image.fromarray(picture))
        self.canvas.drawImage(reader, x * mm, (PAGE_HEIGHT_MM - y - height) * mm, width * mm, height * mm)

    def ruler(self, x: float, y: float, length_mm: float) -> None:
        """Draw a mm ruler downwards from y, with a long mark every 10 mm."""
        for at in range(int(length_mm) + 1):
            tall = 2.4 if at % 10 == 0 else 1.6 if at % 5 == 0 else 0.9
            self.line(x + at, y, x + at, y + tall, 0.2)
            if at % 10 == 0:
                self.text(x + at - 1, y + 5.2, str(at), 6.5, quiet=True)
        self.text(x + length_mm + 1, y + 2.4, "mm", 6.5, quiet=True)

    def strips(self, x: float, y: float, width: float, height: float, colours: Picture) -> None:
        """Draw colours, shape (n, 3), side by side."""
        self.picture(x, y, width, height, np.repeat(colours[None], 2, axis=0))

    def cubic(self, points: Array, weight: float = 0.4, colour: Any = _INK_BYTES, *, dashed: bool = False) -> None:
        """Draw a path of cubic curves, points of shape (3 n + 1, 2) in mm."""
        at = [(float(x) * mm, (PAGE_HEIGHT_MM - float(y)) * mm) for x, y in points]
        drawn = self.canvas.beginPath()
        drawn.moveTo(*at[0])
        for first in range(1, len(at) - 2, 3):
            drawn.curveTo(*at[first], *at[first + 1], *at[first + 2])
        self.canvas.setLineWidth(weight)
        self.canvas.setLineCap(1)
        self.canvas.setDash(*((2, 2) if dashed else ()))
        self.canvas.setStrokeColorRGB(*(float(part) / 255 for part in colour))
        self.canvas.drawPath(drawn, stroke=1, fill=0)
        self.canvas.setDash()
        self.canvas.setLineCap(0)

    def shape(self, points: Array, colour: Any) -> None:
        """Fill a closed path of cubic curves, points of shape (3 n + 1, 2) in mm."""
        self.canvas.setFillColorRGB(*(float(part) / 255 for part in colour))
        self.canvas.drawPath(self._closed([points]), stroke=0, fill=1)

    def disc(self, x: float, y: float, radius: float, colour: Any) -> None:
        """Fill a disc, mm."""
        self.canvas.setFillColorRGB(*(float(part) / 255 for part in colour))
        self.canvas.circle(x * mm, (PAGE_HEIGHT_MM - y) * mm, radius * mm, stroke=0, fill=1)

    def _closed(self, shapes: Sequence[Array]) -> Any:
        drawn = self.canvas.beginPath()
        for points in shapes:
            at = [(float(x) * mm, (PAGE_HEIGHT_MM - float(y)) * mm) for x, y in points]
            drawn.moveTo(*at[0])
            for first in range(1, len(at) - 2, 3):
                drawn.curveTo(*at[first], *at[first + 1], *at[first + 2])
            drawn.close()
        return drawn

    @contextmanager
    def clipped_to(self, shapes: Sequence[Array]) -> Iterator[None]:
        """Draw within closed paths of cubic curves only, each of shape (3 n + 1, 2) in mm."""
        self.canvas.saveState()
        self.canvas.clipPath(self._closed(shapes), stroke=0, fill=0, fillMode=1)
        try:
            yield
        finally:
            self.canvas.restoreState()

    def polygon(self, points: Array, colour: Any, *, cover: float = 1.0) -> None:
        """Fill a closed polygon, points of shape (n, 2) in mm; `cover` in [0, 1] lets what lies below show through."""
        drawn = self.canvas.beginPath()
        for number, (x, y) in enumerate(points):
            place = (float(x) * mm, (PAGE_HEIGHT_MM - float(y)) * mm)
            drawn.lineTo(*place) if number else drawn.moveTo(*place)
        drawn.close()
        self.canvas.saveState()
        self.canvas.setFillColorRGB(*(float(part) / 255 for part in colour), alpha=cover if cover < 1 else None)
        self.canvas.drawPath(drawn, stroke=0, fill=1)
        self.canvas.restoreState()

    @contextmanager
    def clipped(self, x: float, y: float, width: float, height: float) -> Iterator[None]:
        """Draw within a rectangle only."""
        self.canvas.saveState()
        window = self.canvas.beginPath()
        window.rect(x * mm, (PAGE_HEIGHT_MM - y - height) * mm, width * mm, height * mm)
        self.canvas.clipPath(window, stroke=0, fill=0)
        try:
            yield
        finally:
            self.canvas.restoreState()

    def foot(self, *, up_mm: float = 0.0, between_mm: float = 12.0, ruler: bool = True) -> None:
        """Draw the ruler that tells whether the print is at true scale, and the caution.

        Parameters
        ----------
        up_mm
            How much higher than at the foot of A4.
        between_mm
            From the ruler to the caution.
        ruler
            Whether it is at true scale.
        """
        top = PAGE_HEIGHT_MM - 26 - up_mm
        if ruler:
            self.ruler(MARGIN_MM, top, 100)
            self.line(MARGIN_MM, top, MARGIN_MM + 100, top, 0.5)
            words = phrase("Check: this ruler is 100 mm long when printed at 100 %.")
            self.text(MARGIN_MM + 106, top + 3, words, 8, quiet=True)
        self.paragraph(MARGIN_MM, top + between_mm, CAUTION, PAGE_WIDTH_MM - 2 * MARGIN_MM, 7.5, quiet=True)


def write_page(path: Path, title: str, draw: Draw, *, enlarged: bool = False) -> None:
    """Write a one-page PDF so that either all of it or the old file is there; see `write_pages`."""
    write_pages(path, title, [draw], enlarged=int(enlarged))


def write_pages(path: Path, title: str, draws: Sequence[Draw], *, enlarged: int = 0) -> None:
    """Write a PDF of pages, on the paper that there is, so that either all of it or the old file is there.

    Pages are drawn for A4. On Letter they move up, at true scale, and the foot with them; on A3 they stand in the
    middle at true scale, or fill it.

    Parameters
    ----------
    enlarged
        How many of the first pages may be enlarged: nothing on them is at true scale.
    """
    file, size = io.BytesIO(), paper_now().size
    canvas = new_canvas(file, title, size.points)
    for number, draw in enumerate(draws):
        page = Page(canvas)
        larger = size is PaperSize.A3 and number < enlarged
        _frame_on(canvas, size, larger=larger)
        draw(page)
        if size is PaperSize.LETTER:
            page.foot(up_mm=_LETTER_FOOT_UP_MM, between_mm=11.0)
        else:
            page.foot(ruler=not larger)
        canvas.showPage()
    canvas.save()
    write_bytes(file.getvalue(), path)


def _frame_on(canvas: Canvas, size: PaperSize, *, larger: bool) -> None:
    """Lay the frame of an A4 page on a paper."""
    (wide, high), (a4_wide, a4_high) = size.points, A4
    if larger:
        canvas.scale(wide / a4_wide, high / a4_high)
        return
    top = _LETTER_UP_MM * mm if size is PaperSize.LETTER else 0.0
    canvas.translate((wide - a4_wide) / 2, high - a4_high + top)


def fit(width_mm: float, height_mm: float, box: tuple[float, float]) -> float:
    """Return the scale that makes a thing fit a box, 1 if it does as it is."""
    return min(1.0, box[0] / width_mm, box[1] / height_mm)


def scale_words(scale: float) -> str:
    """Say how large it is drawn."""
    return (
        phrase("true scale") if scale == 1 else phrase("scale 1 : {scale:.2f}, too large for the page", scale=1 / scale)
    )
