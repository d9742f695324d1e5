"""What paper is printed on: its size, and whose name stands in the file. What writes paper asks here."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from enum import Enum
from typing import IO, TYPE_CHECKING

from pennello.phrases import language, phrase

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

MOST_MAKER = 80
_PT_PER_MM = 72 / 25.4


class PaperSize(Enum):
    """A size of paper, upright (ISO 216 for A4 and A3, ANSI/ASME Y14.1 for Letter)."""

    A4 = "A4"
    LETTER = "Letter"
    A3 = "A3"

    @property
    def points(self) -> tuple[float, float]:
        """Width and height, 1/72 inch."""
        wide, high = self.mm
        return wide * _PT_PER_MM, high * _PT_PER_MM

    @property
    def mm(self) -> tuple[float, float]:
        """Width and height, mm."""
        return {PaperSize.A4: (210.0, 297.0), PaperSize.LETTER: (215.9, 279.4), PaperSize.A3: (297.0, 420.0)}[self]


@dataclass(frozen=True, slots=True)
class Paper:
    """A size of paper, and who made what is on it; "" for nobody's name."""

    size: PaperSize = PaperSize.A4
    maker: str = ""


_NOW: ContextVar[Paper] = ContextVar("paper", default=Paper())  # noqa: B039 - it is frozen


def paper_now() -> Paper:
    """Return the paper that is written on here; A4 where nothing was said."""
    return _NOW.get()


@contextmanager
def on_paper(paper: Paper) -> Iterator[None]:
    """Write what is written within on such paper; each thread has its own."""
    before = _NOW.set(paper)
    try:
        yield
    finally:
        _NOW.reset(before)


def new_canvas(file: IO[bytes], title: str, size_pt: tuple[float, float], kind: str = "") -> Canvas:
    """Return a PDF to draw on: with its title, who made it, its language, the date, and not to be scaled in print.

    Parameters
    ----------
    kind
        What it is, as "load card".
    """
    from reportlab import rl_config  # noqa: PLC0415 - only where something is written
    from reportlab.pdfgen.canvas import Canvas  # noqa: PLC0415

    rl_config.useA85 = 0  # pictures as they are: a quarter less, and written in Python that is seconds less
    canvas = Canvas(file, pagesize=size_pt, lang=language())
    canvas.setTitle(title)
    if maker := paper_now().maker:
        canvas.setAuthor(maker)
    canvas.setCreator("Pennello")
    canvas.setSubject(kind or phrase("Face painting, predicted"))
    canvas.setViewerPreference("PrintScaling", "None")
    canvas.setViewerPreference("DisplayDocTitle", "true")
    return canvas
