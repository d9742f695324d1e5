"""Practice sheets: how many places of a stroke or part fit a page at true scale, and where they stand, mm.

A place is printed grey, so that white paint is seen on a photo as well as dark; the paper round it stays white. Sizes
are of our own making; A4 is ISO 216.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from pennello.design.on_chart import pieces_on
from pennello.design.parts import pieces_in
from pennello.design.placed import LaidPiece, PlacedMotif
from pennello.design.plan import Plan
from pennello.design.touch import swept, swept_by, together
from pennello.errors import PennelloError, UnknownNameError
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.lay.laying import pull
from pennello.lay.stroke import Stroke
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

SHEET_MM = (210.0, 297.0)
MOST_PLACES = 10
SHEET_MARK_MM = 10.0
SHEET_MARKS_MM = ((18.0, 38.0), (192.0, 38.0), (192.0, 262.0), (18.0, 262.0))
"""Middles of the corner marks, clockwise from the top left."""

_AREA = (12.0, 46.0, 186.0, 208.0)
"""Where places may stand: left, top, width, height."""

GAP_MM = 4.0
ROOM_MM = 5.0
"""White between places, and grey round what is to be laid."""

PLACE_R = 0.45
"""What the grey of a place reflects (a default)."""


class SheetProblemError(PennelloError):
    """What is to be practised does not fit a sheet."""


@dataclass(frozen=True, slots=True, eq=False)
class Practised:
    """What is practised, about its own middle, mm.

    Attributes
    ----------
    key, name
        Id in the plan, and what it is called.
    shape
        The area that it touches.
    strokes
        What is pulled, each with its brush and axis; of one alone the slips of the hand can be told.
    """

    key: str
    name: str
    shape: BaseGeometry
    strokes: tuple[tuple[Stroke, Applicator, GradientAxis], ...]

    @property
    def single(self) -> tuple[Stroke, Applicator, GradientAxis] | None:
        """The one stroke that it is, or None."""
        return self.strokes[0] if len(self.strokes) == 1 else None

    @property
    def start_mm(self) -> tuple[float, float]:
        """Where the first stroke begins."""
        track = pull(*self.strokes[0]).track
        return float(track.centre[0, 0]), float(track.centre[0, 1])

    def way_mm(self, number: int = 0) -> Array:
        """Return the way of a stroke, shape (n, 2)."""
        return np.asarray(pull(*self.strokes[number]).track.centre)

    def rim_mm(self, number: int = 0) -> Array:
        """Return the way of corner A of a stroke, where its first stripe lies, shape (n, 2)."""
        track = pull(*self.strokes[number]).track
        return np.asarray(track.points(np.arange(len(track.s_mm)), np.array([0.0]))[:, 0])


@dataclass(frozen=True, slots=True)
class TryPlace:
    """A place on a sheet: its number, its box, and where the middle of what is practised goes, mm."""

    number: int
    x: float
    y: float
    width: float
    height: float

    @property
    def middle_mm(self) -> tuple[float, float]:
        """Its middle."""
        return self.x + self.width / 2, self.y + self.height / 2


def practised(plan: Plan, name: str) -> Practised:
    """Return a stroke of a load, a piece or a part as it is practised.

    Parameters
    ----------
    name
        Id of a load (its trial stroke), of a piece or of a part.

    Raises
    ------
    UnknownNameError
        If the plan has none of that id.
    SheetProblemError
        If it lays nothing.
    """
    if any(one.id == name for one in plan.strokes):
        source = plan.stroke(name)
        brush, axis = plan.brush(source.brush), plan.axis(name)
        return _centred(name, source.name, swept_by(source.stroke, brush, axis), ((source.stroke, brush, axis),))
    part = plan.parts_by_id.get(name)
    placed = pieces_in(plan, name) if part is not None else tuple(one for one in plan.motifs if one.id == name)
    pieces = _own_side(plan, placed)
    if not pieces:
        raise UnknownNameError(phrase("load, piece or part"), name, _known(plan))
    pulled = tuple((one.stroke, plan.brush(plan.stroke(one.load).brush), plan.axis(one.load)) for one in pieces)
    title = part.name if part is not None else placed[0].name
    return _centred(name, title, together([swept(plan, one) for one in pieces]), pulled)


def _known(plan: Plan) -> list[str]:
    return [one.id for those in (plan.strokes, plan.parts, plan.motifs) for one in those]


def _own_side(plan: Plan, placed: tuple[PlacedMotif, ...]) -> list[LaidPiece]:
    """Return the strokes of pieces, in the order of painting, without those of twins."""
    names = {one.id for one in placed}
    charts = dict.fromkeys(one.chart for one in placed)
    return [one for key in charts for one in pieces_on(plan, key) if not one.twin and one.motif in names]


def _centred(
    key: str, name: str, shape: BaseGeometry, strokes: tuple[tuple[Stroke, Applicator, GradientAxis], ...]
) -> Practised:
    if shape.is_empty:
        raise SheetProblemError(phrase("{name} touches nothing; there is nothing to practise on it.", name=name))
    left, top, right, bottom = shape.bounds
    by = np.array([-(left + right) / 2, -(top + bottom) / 2])
    moved = tuple((_shifted(stroke, by), brush, axis) for stroke, brush, axis in strokes)
    return Practised(key, name, shapely.affinity.translate(shape, *by), moved)


def _shifted(stroke: Stroke, by: Array) -> Stroke:
    points = tuple((float(x + by[0]), float(y + by[1])) for x, y in stroke.path.points_mm)
    return replace(stroke, path=replace(stroke.path, points_mm=points))


def places_for(what: Practised, most: int = MOST_PLACES) -> tuple[TryPlace, ...]:
    """Return the places of a sheet: as many as fit at true scale, up to ten.

    Raises
    ------
    SheetProblemError
        If not even one fits.
    """
    left, top, right, bottom = what.shape.bounds
    wide, high = right - left + 2 * ROOM_MM, bottom - top + 2 * ROOM_MM
    x, y, width, height = _AREA
    columns, rows = (int((size + GAP_MM) // (one + GAP_MM)) for size, one in ((width, wide), (height, high)))
    if columns < 1 or rows < 1:
        words = phrase(
            "{what} is {right:.0f} x {bottom:.0f} mm; a sheet holds {width:.0f} x {height:.0f} mm.",
            what=what.name,
            right=right - left,
            bottom=bottom - top,
            width=width,
            height=height,
        )
        raise SheetProblemError(phrase("{words} Practise one of its strokes.", words=words))
    while columns * rows > most and (columns > 1 or rows > 1):
        fewer_rows = columns * (rows - 1) >= most or columns == 1
        columns, rows = (columns, rows - 1) if fewer_rows and rows > 1 else (columns - 1, rows)
    box_w, box_h = ((size - GAP_MM * (count - 1)) / count for size, count in ((width, columns), (height, rows)))
    return tuple(
        TryPlace(row * columns + column + 1, x + column * (box_w + GAP_MM), y + row * (box_h + GAP_MM), box_w, box_h)
        for row in range(rows)
        for column in range(columns)
    )[:most]
