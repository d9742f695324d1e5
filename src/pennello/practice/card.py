"""The calibration card: what stands where on it, mm from its top left corner. Printing and reading share this.

An A6 card on its side. Black and white bars lie under four strokes, so that what a film hides is seen where it is laid;
beside them lie dabs of each paint and let-downs of the dark ones. Sizes are of our own making; A6 is ISO 216.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

import numpy as np

from pennello.colour.kubelka_munk import BLACK_Y
from pennello.colour.observer import WEIGHTS
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.paint import Paint, masstones
from pennello.phrases import named, phrase, plural

WIDTH_MM, HEIGHT_MM = 148.0, 105.0
"""A6 on its side."""

BAR_MM = 10.0
"""A black bar and a white one are each so wide."""

MARK_MM = 9.0
MARK_CENTRES_MM = ((8.5, 6.5), (139.5, 6.5), (139.5, 99.0), (8.5, 99.0))
"""Middles of the corner marks, from the top left clockwise."""

ROW_MM = 26.9
_ROW_TOPS = (12.6, 39.5, 66.4)
WIDEST_MM = 25.5
"""Widest brush that fits a field, mm."""

GREY = (20.0, 3.5, 26.0, 6.0)
"""The grey bar: left, top, width, height, mm."""

RULER_MM = (22.0, 96.2)
"""Where the ruler begins; it is 100 mm long."""

PAPER_R, INK_R, GREY_R = 0.86, 0.045, 0.22
"""Reflectances of plain paper, printed black and printed grey, the same in all bands (defaults)."""

DAB_MM = 7.0
_CELL_MM = 8.4
DAB_COATS = 3
LET_DOWN = 0.1
"""Share of a dark paint in its let-down, by volume: 1 part in 9 of white."""

DARK_Y = 0.16
"""A paint whose masstone is darker is let down in white: how strongly it tints cannot be told from it alone."""


class FieldKind(Enum):
    """What is painted into a field."""

    STROKE = "stroke"
    DAB = "dab"
    LET_DOWN = "let-down"


@dataclass(frozen=True, slots=True)
class Field:
    """A place to paint into.

    Attributes
    ----------
    x, y, width, height
        Its box, mm.
    words
        What to paint there.
    paint
        Id of the paint of a dab or let-down.
    passes, pressure
        Of a stroke: sweeps on the cake before it, and how hard it is pressed, 0 to 1.
    """

    kind: FieldKind
    x: float
    y: float
    width: float
    height: float
    words: str
    paint: str = ""
    passes: int = 12
    pressure: float = 0.5


@dataclass(frozen=True, slots=True)
class Card:
    """A card for one brush and one cake.

    Attributes
    ----------
    fields
        Where to paint what.
    bars
        Black bars: left, top, width, height, mm; between them the paper is white.
    """

    fields: tuple[Field, ...]
    bars: tuple[tuple[float, float, float, float], ...]

    def of(self, kind: FieldKind) -> tuple[Field, ...]:
        """Return the fields of a kind, in their order."""
        return tuple(one for one in self.fields if one.kind is kind)

    def ground(self, x_mm: np.ndarray, y_mm: np.ndarray) -> np.ndarray:
        """Return the reflectance of the printed card at places, the same shape."""
        found = np.full(np.broadcast(x_mm, y_mm).shape, PAPER_R)
        for bars, reflectance in ((self.bars, INK_R), ((GREY,), GREY_R)):
            for left, top, width, height in bars:
                inside = (x_mm >= left) & (x_mm < left + width) & (y_mm >= top) & (y_mm < top + height)
                found[inside] = reflectance
        return found


class CardFitError(PennelloError):
    """A brush or a cake does not fit the card."""


_LEFT_A, _LEFT_B = 6.0, 80.0
_STROKES = (
    (_LEFT_A, 0, 60.0, 12, 0.5, "12 sweeps, 60 mm"),
    (_LEFT_B, 0, 60.0, 4, 0.5, "4 sweeps, 60 mm"),
    (_LEFT_A, 1, 90.0, 12, 0.5, "12 sweeps, 90 mm"),
    (_LEFT_A, 2, 60.0, 12, 0.85, phrase("12 sweeps, pressed hard, 60 mm")),
)


def card_for(brush: Applicator, paints: tuple[Paint, ...]) -> Card:
    """Return the card for a brush and the paints of a cake.

    Parameters
    ----------
    paints
        At most seven, as a cake has.

    Raises
    ------
    CardFitError
        If the brush is no flat, is wider than 25.5 mm, or there are no paints.
    """
    if brush.kind is not ApplicatorKind.FLAT:
        words = phrase(
            "The card is painted with a flat brush; {brush} is of the kind {kind}. Take a flat one.",
            brush=brush.name,
            kind=named(brush.kind),
        )
        raise CardFitError(words)
    if brush.width_mm > WIDEST_MM:
        words = phrase(
            "{brush} is {width_mm:g} mm wide; the fields of the card hold up to {widest_mm:g} mm.",
            brush=brush.name,
            width_mm=brush.width_mm,
            widest_mm=WIDEST_MM,
        )
        raise CardFitError(words)
    if not paints or len(paints) > 7:
        raise CardFitError(phrase("A card takes the paints of one cake, 1 to 7; these are {count}.", count=len(paints)))
    fields = [
        Field(FieldKind.STROKE, x, _ROW_TOPS[row], length, ROW_MM, words, passes=passes, pressure=pressure)
        for x, row, length, passes, pressure, words in _STROKES
    ]
    fields += _dabs(102.5, _ROW_TOPS[1], 4, FieldKind.DAB, paints)
    dark = dark_paints(paints)
    fields += _dabs(82.0, _ROW_TOPS[2], 7, FieldKind.LET_DOWN, dark)
    bars = [
        (x + BAR_MM * number, _ROW_TOPS[row], BAR_MM, ROW_MM)
        for x, row, length, *_ in _STROKES
        for number in range(0, int(length / BAR_MM), 2)
    ]
    return Card(tuple(fields), tuple(bars))


def dark_paints(paints: tuple[Paint, ...]) -> tuple[Paint, ...]:
    """Return those whose let-down in white is asked for: the dark ones, where there is a white to let down in."""
    luminance = masstones(paints) @ WEIGHTS[:, 1]
    if luminance.max() < 0.6:
        return ()
    return tuple(one for one, y in zip(paints, luminance, strict=True) if y < max(DARK_Y, BLACK_Y[1]))


def white_of(paints: tuple[Paint, ...]) -> str:
    """Return the id of the lightest paint: the white that dark ones are let down in."""
    return paints[int((masstones(paints) @ WEIGHTS[:, 1]).argmax())].id


def _dabs(x: float, y: float, columns: int, kind: FieldKind, paints: tuple[Paint, ...]) -> list[Field]:
    words = (
        plural(DAB_COATS, "{dab_coats} coat", "{dab_coats} coats", dab_coats=DAB_COATS)
        if kind is FieldKind.DAB
        else phrase("1 in 9 of white")
    )
    return [
        Field(
            kind,
            x + _CELL_MM * (number % columns),
            y + 4.0 + (_CELL_MM + 3.0) * (number // columns),
            DAB_MM,
            DAB_MM,
            f"{one.name}, {words}",
            paint=one.id,
        )
        for number, one in enumerate(paints)
    ]
