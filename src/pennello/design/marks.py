"""What lies over the paint, or is kept free of it: glitter, stencils, lines and dots, reserved places.

All but the reserved place are simple pictures, not films: glitter is so many grains a cm2, a stencil or line work one
flat colour of a coverage.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray

from pennello.colour.srgb import parse_hex
from pennello.errors import OutOfRangeError
from pennello.motif.place import FARTHEST_MM
from pennello.path.cubic import CubicPath

LINE_MM = (0.2, 30.0)
GRAINS_CM2 = (1.0, 400.0)
COVER = (0.05, 1.0)
SIZE_MM = (1.0, 500.0)
RADIUS_MM = (1.0, 200.0)
MOST_SEED = 2**31 - 1
DOT_MM = 0.5
"""A line shorter than this is a dot."""


@dataclass(frozen=True, slots=True)
class _Mark:
    """What every mark has.

    Attributes
    ----------
    x_mm, y_mm
        Its middle on the chart.
    width_mm, height_mm
        Size of the oval, or of what the outlines or lines take up, 1 to 500 mm.
    srgb
        Colour of the grains, or of the paint.
    """

    name: str
    x_mm: float
    y_mm: float
    width_mm: float = 30.0
    height_mm: float = 20.0
    srgb: str = "#f5e6a8"
    chart: str = "face"

    def __post_init__(self) -> None:
        parse_hex(self.srgb)
        low, high = SIZE_MM
        if not (low <= self.width_mm <= high and low <= self.height_mm <= high):
            raise OutOfRangeError(f"size of {self.name}", (self.width_mm, self.height_mm), f"{low:g} to {high:g} mm")
        _check_place(f"the place of {self.name}", self.x_mm, self.y_mm)


@dataclass(frozen=True, slots=True)
class Glitter(_Mark):
    """Glitter strewn over an oval: so many grains a cm2, 1 to 400, the same for a seed."""

    word: ClassVar[Literal["glitter"]] = "glitter"
    grains_cm2: float = 60.0
    seed: int = 1

    def __post_init__(self) -> None:
        _Mark.__post_init__(self)
        _check(f"amount of {self.name}", self.grains_cm2, GRAINS_CM2)
        if not 0 <= self.seed <= MOST_SEED:
            raise OutOfRangeError(f"seed of {self.name}", self.seed, f"a whole number, 0 to {MOST_SEED}")


@dataclass(frozen=True, slots=True)
class Stencil(_Mark):
    """A sponge through a stencil: closed outlines about their middle, mm, and how much it covers, 0.05 to 1."""

    word: ClassVar[Literal["stencil"]] = "stencil"
    cover: float = 0.8
    outlines: tuple[CubicPath, ...] = ()

    def __post_init__(self) -> None:
        _Mark.__post_init__(self)
        _check(f"amount of {self.name}", self.cover, COVER)


@dataclass(frozen=True, slots=True)
class Lines(_Mark):
    """Lines and dots about their middle, mm, of one width, 0.2 to 30 mm; a line of no length is a dot."""

    word: ClassVar[Literal["lines"]] = "lines"
    cover: float = 1.0
    outlines: tuple[CubicPath, ...] = ()
    line_mm: float = 1.5

    def __post_init__(self) -> None:
        _Mark.__post_init__(self)
        _check(f"amount of {self.name}", self.cover, COVER)
        _check(f"width of {self.name}", self.line_mm, LINE_MM, " mm")


Mark = Glitter | Stencil | Lines
MARKS: tuple[type[Mark], ...] = (Glitter, Stencil, Lines)


@dataclass(frozen=True, slots=True)
class Reserved:
    """A round place on a chart that is kept for what comes later: a horn, a tongue, lips; `for_motif` may lie there."""

    word: ClassVar[str] = "place"
    name: str
    x_mm: float
    y_mm: float
    radius_mm: float = 10.0
    chart: str = "face"
    for_motif: str = ""

    def __post_init__(self) -> None:
        _check(f"radius of the place for {self.name}", self.radius_mm, RADIUS_MM, " mm")
        _check_place(f"the place for {self.name}", self.x_mm, self.y_mm)


def _check(name: str, value: float, limits: tuple[float, float], unit: str = "") -> None:
    if not limits[0] <= value <= limits[1]:
        raise OutOfRangeError(name, value, f"{limits[0]:g} to {limits[1]:g}{unit}")


def _check_place(name: str, x_mm: float, y_mm: float) -> None:
    if not (abs(x_mm) <= FARTHEST_MM and abs(y_mm) <= FARTHEST_MM):
        raise OutOfRangeError(name, (x_mm, y_mm), "within 4000 mm")


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
