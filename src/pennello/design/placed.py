"""Motifs placed on a chart: what they are made of, where they lie, and the strokes that they come to."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Side
from pennello.colour.srgb import parse_hex
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.lay.stroke import Stroke
from pennello.motif.catalogue import motif
from pennello.motif.motif import Made, Piece
from pennello.motif.place import FARTHEST_MM, Place
from pennello.path.cubic import CubicPath

MOST_PER_LOAD = 40
SINGLE = "stroke"
"""The one part of a single stroke."""

FREE = ""
"""The motif of a single stroke that was broken off one: it has a way of its own."""


@dataclass(frozen=True, slots=True)
class PlacedMotif:
    """A motif on a chart.

    Attributes
    ----------
    motif
        Key of its constructor, or "" for a single stroke with its own `way`.
    values
        Numbers that are not at their defaults, by key.
    loads
        For each part the id of the stroke whose brush, load and wish it is laid with.
    chart
        Key of the chart that it lies on.
    twin
        Whether its mirror image across the midline is painted with it.
    per_load
        How many strokes of one part are laid from one load, 1 to 40.
    group
        Name of a group that moves together; "" for none.
    """

    id: str
    name: str
    motif: str
    loads: tuple[tuple[str, str], ...]
    values: tuple[tuple[str, float], ...] = ()
    place: Place = field(default_factory=Place)
    chart: str = "face"
    twin: bool = False
    per_load: int = 1
    group: str = ""
    way: Stroke | None = None

    def __post_init__(self) -> None:
        if not 1 <= self.per_load <= MOST_PER_LOAD:
            raise OutOfRangeError(f"strokes of {self.name} from one load", self.per_load, f"1 to {MOST_PER_LOAD}")
        if (self.motif == FREE) != (self.way is not None):
            raise OutOfRangeError(f"the way of {self.name}", self.motif, "a motif, or one stroke with its own way")
        if self.motif != FREE:
            made = motif(self.motif)
            made.values(dict(self.values))
            known = [part.key for part in made.parts]
            for part, _ in self.loads:
                if part not in known:
                    raise UnknownNameError("part", part, known, self.name)

    @property
    def load_of(self) -> Mapping[str, str]:
        """Stroke by part."""
        return dict(self.loads)

    def with_value(self, key: str, value: float) -> PlacedMotif:
        """Return the motif with another number."""
        return replace(self, values=tuple({**dict(self.values), key: value}.items()))


@dataclass(frozen=True, slots=True)
class Reserved:
    """A round place on a chart that is kept for what comes later: a horn, a tongue, lips; `for_motif` may lie there."""

    name: str
    x_mm: float
    y_mm: float
    radius_mm: float = 10.0
    chart: str = "face"
    for_motif: str = ""

    def __post_init__(self) -> None:
        if not 1 <= self.radius_mm <= 200:
            raise OutOfRangeError(f"radius of the place for {self.name}", self.radius_mm, "1 to 200 mm")
        if not (abs(self.x_mm) <= FARTHEST_MM and abs(self.y_mm) <= FARTHEST_MM):
            raise OutOfRangeError(f"the place for {self.name}", (self.x_mm, self.y_mm), "within 4000 mm")


GLITTER, STENCIL, LINES = "glitter", "stencil", "lines"
KINDS = (GLITTER, STENCIL, LINES)
LINE_MM = (0.2, 30.0)
MOST_SEED = 2**31 - 1
DOT_MM = 0.5
"""A line shorter than this is a dot."""


@dataclass(frozen=True, slots=True)
class Overlay:
    """What lies over the paint: glitter strewn over an oval, a sponge through a stencil, or lines and dots.

    All are simple pictures, not films: glitter is so many grains a cm², a stencil one flat colour of a coverage,
    lines (outlines, highlights, dots) one colour, width and coverage.

    Attributes
    ----------
    kind
        "glitter", "stencil" or "lines".
    width_mm, height_mm
        Size of the oval, or of what the outlines or lines take up.
    srgb
        Colour of the grains, or of the paint.
    amount
        Grains a cm², 1 to 400; or coverage in [0.05, 1].
    outlines
        Closed outlines of a stencil, or lines, about their middle, mm; a line of no length is a dot.
    line_mm
        Width of lines, 0.2 to 30 mm.
    """

    name: str
    kind: str
    x_mm: float
    y_mm: float
    width_mm: float = 30.0
    height_mm: float = 20.0
    srgb: str = "#f5e6a8"
    amount: float = 60.0
    chart: str = "face"
    seed: int = 1
    outlines: tuple[CubicPath, ...] = ()
    line_mm: float = 1.5

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise OutOfRangeError(f"kind of {self.name}", self.kind, "glitter, stencil or lines")
        if not LINE_MM[0] <= self.line_mm <= LINE_MM[1]:
            raise OutOfRangeError(f"width of {self.name}", self.line_mm, f"{LINE_MM[0]:g} to {LINE_MM[1]:g} mm")
        if not 0 <= self.seed <= MOST_SEED:
            raise OutOfRangeError(f"seed of {self.name}", self.seed, f"a whole number, 0 to {MOST_SEED}")
        parse_hex(self.srgb)
        low, high = (1.0, 400.0) if self.kind == GLITTER else (0.05, 1.0)
        if not low <= self.amount <= high:
            raise OutOfRangeError(f"amount of {self.name}", self.amount, f"{low:g} to {high:g}")
        if not (1 <= self.width_mm <= 500 and 1 <= self.height_mm <= 500):
            raise OutOfRangeError(f"size of {self.name}", (self.width_mm, self.height_mm), "1 to 500 mm")
        if not (abs(self.x_mm) <= FARTHEST_MM and abs(self.y_mm) <= FARTHEST_MM):
            raise OutOfRangeError(f"the place of {self.name}", (self.x_mm, self.y_mm), "within 4000 mm")


def paths_of(overlay: Overlay) -> tuple[CubicPath, ...]:
    """Return a stencil's outlines, or lines, where they lie on the chart, mm."""
    x, y = overlay.x_mm, overlay.y_mm
    return tuple(CubicPath(tuple((a + x, b + y) for a, b in path.points_mm)) for path in overlay.outlines)


def is_dot(path: CubicPath) -> bool:
    """Return whether a line is a dot: no longer than half a millimetre across."""
    points = np.array(path.points_mm)
    return bool(np.ptp(points, axis=0).max() < DOT_MM)


@lru_cache(maxsize=64)
def grains(overlay: Overlay) -> NDArray[np.floating[Any]]:
    """Return glitter's grains: x, y, radius (mm) and brightness in [0.5, 1.4], shape (n, 4); the same for a seed."""
    rng = np.random.default_rng(overlay.seed)
    area = math.pi / 4 * overlay.width_mm * overlay.height_mm / 100
    count = max(1, round(overlay.amount * area))
    angle, out = rng.uniform(0, 2 * math.pi, count), np.sqrt(rng.uniform(0, 1, count))
    x = overlay.x_mm + overlay.width_mm / 2 * out * np.cos(angle)
    y = overlay.y_mm + overlay.height_mm / 2 * out * np.sin(angle)
    return np.stack([x, y, rng.uniform(0.15, 0.4, count), rng.uniform(0.5, 1.4, count)], axis=1)


def made_of(placed: PlacedMotif, prints: tuple[tuple[str, float], ...]) -> Made:
    """Return what a placed motif comes to in its own mm; prints are widths of the brushes by part."""
    if placed.way is not None:
        return Made((Piece(SINGLE, placed.way),))
    return _made(placed.motif, placed.values, prints)


@lru_cache(maxsize=512)
def _made(key: str, values: tuple[tuple[str, float], ...], prints: tuple[tuple[str, float], ...]) -> Made:
    """Return what a motif comes to, wherever it lies: a drag makes nothing anew."""
    return motif(key).made(dict(values), dict(prints))


@dataclass(frozen=True, slots=True)
class LaidPiece:
    """A stroke of a placed motif where it lies, with the load that it is laid with and whether it is of the twin."""

    motif: str
    part: str
    row: int
    load: str
    stroke: Stroke
    twin: bool
    rim: Side = Side.A


def pieces_of(
    placed: PlacedMotif, prints: tuple[tuple[str, float], ...], midline_mm: float | None
) -> tuple[LaidPiece, ...]:
    """Return the strokes of a placed motif on its chart, and of its mirror image if it has one."""
    made, loads = made_of(placed, prints), placed.load_of
    places = [(placed.place, False)]
    if placed.twin and midline_mm is not None:
        places.append((twin_place(placed.place, midline_mm), True))
    return tuple(
        LaidPiece(placed.id, piece.part, piece.row, loads[piece.part], _at(place, piece.stroke), twin)
        for row in sorted({piece.row for piece in made.pieces})
        for place, twin in places
        for piece in made.pieces
        if piece.row == row and piece.part in loads
    )


@lru_cache(maxsize=8192)
def _at(place: Place, stroke: Stroke) -> Stroke:
    return place.stroke(stroke)


def twin_place(place: Place, midline_mm: float) -> Place:
    """Return the place of a mirror image across a vertical line."""
    return place.then(Place(2 * midline_mm, 0.0, 0.0, 1.0, mirrored=True))
