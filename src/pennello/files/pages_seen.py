"""Pages of a PDF as pictures, by PDFium: to look at before they are printed, and to print."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from threading import Lock
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import FileProblemError
from pennello.phrases import phrase

Picture = NDArray[np.uint8]

MOST_PAGES = 400
_ONE_AT_A_TIME = Lock()
"""PDFium is not made for several threads at once, not even with a document each."""

_PT_PER_INCH, _MM_PER_INCH = 72.0, 25.4


def pages_seen(
    pdf: bytes, dots_per_inch: float, check: Callable[[], object] = lambda: None
) -> Iterator[tuple[Picture, float, float]]:
    """Yield each page of a PDF as sRGB bytes, shape (rows, columns, 3), with its width and height, mm.

    Parameters
    ----------
    check
        Called before each page; what it raises ends the work.

    Raises
    ------
    FileProblemError
        If it is no PDF.
    """
    import pypdfium2  # noqa: PLC0415 - only where pages are looked at

    with _ONE_AT_A_TIME:
        try:
            document: Any = pypdfium2.PdfDocument(pdf)
        except pypdfium2.PdfiumError as error:
            raise FileProblemError(phrase("the pages"), phrase("this is no PDF that can be shown.")) from error
        count = min(len(document), MOST_PAGES)
    try:
        for number in range(count):
            check()
            with _ONE_AT_A_TIME:
                page = document[number]
                wide, high = (side / _PT_PER_INCH * _MM_PER_INCH for side in page.get_size())
                picture = page.render(scale=dots_per_inch / _PT_PER_INCH, rev_byteorder=True).to_numpy()
                seen = np.array(picture[..., :3])
                page.close()
            yield seen, wide, high
    finally:
        with _ONE_AT_A_TIME:
            document.close()
