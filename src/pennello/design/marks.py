"""What lies over the paint, or is kept free of it: glitter, stencils, lines and dots, reserved places.

All but the reserved place are simple pictures, not films: glitter is so many grains a cm2, a stencil or line work one
flat colour of a coverage.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray

from pennello.colour.srgb import parse_hex
from pennello.limits import MOST_OUTLINES
from pennello.motif.place import FARTHEST_MM
from pennello.path.cubic import CubicPath
from pennello.record import Told, check

LINE_MM = (0.2, 30.0)
GRAINS_CM2 = (1.0, 400.0)
COVER = (0.05, 1.0)
SIZE_MM = (1.0, 500.0)
RADIUS_MM = (1.0, 200.0)
MOST_SEED = 2**31 - 1
_FAR = (-FARTHEST_MM, FARTHEST_MM)
DOT_MM = 0.5
"""A line shorter than this is a dot."""


@dataclass(frozen=True, slots=True)
class _Mark:
    """What every mark has."""

    name: Annotated[str, Told("what it is called", text="name", in_file="")]
    x_mm: Annotated[float, Told("its middle", "mm", within=_FAR, called="the place of {name}", in_file=0.0)]
    y_mm: Annotated[float, Told("down", "mm", within=_FAR, called="the place of {name}", in_file=0.0)]
    width_mm: Annotated[
        float,
        Told("of the oval, or what outlines or lines take up", "mm", within=SIZE_MM, called="size of {name}"),
    ] = 30.0
    height_mm: Annotated[float, Told("the same down", "mm", within=SIZE_MM, called="size of {name}")] = 20.0
    srgb: Annotated[str, Told("colour of the grains, or of the paint", text="colour")] = "#f5e6a8"
    chart: Annotated[str, Told("the chart it lies on", text="id")] = "face"

    def __post_init__(self) -> None:
        parse_hex(self.srgb)
        check(self)


@dataclass(frozen=True, slots=True)
class Glitter(_Mark):
    """Glitter strewn over an oval: so many grains a cm2, 1 to 400, the same for a seed."""

    word: ClassVar[Literal["glitter"]] = "glitter"
    grains_cm2: Annotated[float, Told("grains a cm2", within=GRAINS_CM2, called="amount of {name}", key="amount")] = (
        60.0
    )
    seed: Annotated[int, Told("another one, other grains", within=(0, MOST_SEED), called="seed of {name}")] = 1


@dataclass(frozen=True, slots=True)
class Stencil(_Mark):
    """A sponge through a stencil: closed outlines about their middle, mm, and how much it covers, 0.05 to 1."""

    word: ClassVar[Literal["stencil"]] = "stencil"
    cover: Annotated[float, Told("how much it covers", within=COVER, called="amount of {name}", key="amount")] = 0.8
    outlines: Annotated[
        tuple[CubicPath, ...], Told("closed outlines about its middle", "mm", count=(0, MOST_OUTLINES))
    ] = ()


@dataclass(frozen=True, slots=True)
class Lines(_Mark):
    """Lines and dots about their middle, mm, of one width, 0.2 to 30 mm; a line of no length is a dot."""

    word: ClassVar[Literal["lines"]] = "lines"
    cover: Annotated[float, Told("how much it covers", within=COVER, called="amount of {name}", key="amount")] = 1.0
    outlines: Annotated[
        tuple[CubicPath, ...],
        Told("lines about its middle; one of no length is a dot", "mm", count=(0, MOST_OUTLINES)),
    ] = ()
    line_mm: Annotated[float, Told("their width", "mm", within=LINE_MM, called="width of {name}", since=6)] = 1.5


Mark = Glitter | Stencil | Lines
MARKS: tuple[type[Mark], ...] = (Glitter, Stencil, Lines)


@dataclass(frozen=True, slots=True)
class Reserved:
    """A round place on a chart that is kept for what comes later: a horn, a tongue, lips; `for_motif` may lie there."""

    word: ClassVar[str] = "place"
    name: Annotated[str, Told("what it is kept for", text="name", in_file="")]
    x_mm: Annotated[float, Told("its middle", "mm", within=_FAR, called="the place for {name}", in_file=0.0)]
    y_mm: Annotated[float, Told("down", "mm", within=_FAR, called="the place for {name}", in_file=0.0)]
    radius_mm: Annotated[
        float, Told("how far it reaches", "mm", within=RADIUS_MM, called="radius of the place for {name}")
    ] = 10.0
    chart: Annotated[str, Told("the chart it lies on", text="id")] = "face"
    for_motif: Annotated[str, Told("id of a motif that may lie there", text="name")] = ""

    def __post_init__(self) -> None:
        check(self)


def paths_of(mark: Stencil | Lines) -> tuple[CubicPath, ...]:
    """Return a stencil's outlines, or lines, where they lie on the chart, mm."""
    x, y = mark.x_mm, mark.y_mm
    return tuple(CubicPath(tuple((a + x, b + y) for a, b in path.points_mm)) for path in mark.outlines)


def is_dot(path: CubicPath) -> bool:
    """Return whether a line is a dot: no longer than half a millimetre across."""
    points = np.array(path.points_mm)
    return bool(np.ptp(points, axis=0).max() < DOT_MM)


@lru_cache(maxsize=64)
def grains(glitter: Glitter) -> NDArray[np.floating[Any]]:
    """Return glitter's grains: x, y, radius (mm) and brightness in [0.5, 1.4], shape (n, 4); the same for a seed."""
    rng = np.random.default_rng(glitter.seed)
    area = math.pi / 4 * glitter.width_mm * glitter.height_mm / 100
    count = max(1, round(glitter.grains_cm2 * area))
    angle, out = rng.uniform(0, 2 * math.pi, count), np.sqrt(rng.uniform(0, 1, count))
    x = glitter.x_mm + glitter.width_mm / 2 * out * np.cos(angle)
    y = glitter.y_mm + glitter.height_mm / 2 * out * np.sin(angle)
    return np.stack([x, y, rng.uniform(0.15, 0.4, count), rng.uniform(0.5, 1.4, count)], axis=1)
