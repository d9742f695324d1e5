"""What else comes to lie on a chart, or is kept free of paint: glitter, stencils, gems, reserved places.

All have their time in the order: glitter sticks to what is tacky then, a stencil is sponged into the film, a gem is
stuck on. `laid_marks` lays them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray

from pennello.colour.srgb import parse_hex
from pennello.errors import OutOfRangeError
from pennello.kept import kept_small
from pennello.lay.families.shapes import arc, straight
from pennello.limits import MOST_OUTLINES
from pennello.motif.place import FARTHEST_MM, Place
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase
from pennello.record import Told, check

GRAINS_CM2 = (1.0, 400.0)
COVER = (0.05, 1.0)
SIZE_MM = (1.0, 500.0)
RADIUS_MM = (1.0, 200.0)
MOST_SEED = 2**31 - 1
_FAR = (-FARTHEST_MM, FARTHEST_MM)
TURN_DEG = (-360.0, 360.0)
GEM_MM = (1.0, 25.0)


@dataclass(frozen=True, slots=True)
class _Mark:
    """What every mark has."""

    name: Annotated[str, Told("what it is called", text="name", in_file="")]
    x_mm: Annotated[float, Told("its middle", "mm", within=_FAR, called="the place of {name}", in_file=0.0)]
    y_mm: Annotated[float, Told("down", "mm", within=_FAR, called="the place of {name}", in_file=0.0)]
    width_mm: Annotated[
        float,
        Told("of the oval, of a gem, or what outlines take up", "mm", within=SIZE_MM, called="size of {name}"),
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
    turn_deg: Annotated[float, Told("turned about its middle", "degrees", within=TURN_DEG, since=10)] = 0.0


class GemShape(Enum):
    """What outline a gem has."""

    ROUND = "round"
    DROP = "drop"
    STAR = "star"


@dataclass(frozen=True, slots=True)
class Gem(_Mark):
    """A gem stuck on with what its label says, as wide as `width_mm`, 1 to 25 mm; a drop or star points up at 0."""

    word: ClassVar[Literal["gem"]] = "gem"
    shape: Annotated[GemShape, Told("`round`, `drop`, `star`", key="gem", since=10)] = GemShape.ROUND
    turn_deg: Annotated[float, Told("turned about its middle", "degrees", within=TURN_DEG, since=10)] = 0.0

    def __post_init__(self) -> None:
        super(Gem, self).__post_init__()
        if not GEM_MM[0] <= self.width_mm <= GEM_MM[1]:
            raise OutOfRangeError(
                phrase("width of the gem {name}", name=self.name), self.width_mm, "1 to 25 mm", "width_mm"
            )


Mark = Glitter | Stencil | Gem
MARKS: tuple[type[Mark], ...] = (Glitter, Stencil, Gem)


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


def paths_of(mark: Stencil | Gem) -> tuple[CubicPath, ...]:
    """Return a stencil's outlines, or a gem's, where they lie on the chart, mm."""
    outlines = mark.outlines if isinstance(mark, Stencil) else (gem_outline(mark),)
    place = Place(mark.x_mm, mark.y_mm, mark.turn_deg)
    return tuple(
        CubicPath(tuple((float(x), float(y)) for x, y in place.points(np.array(path.points_mm)))) for path in outlines
    )


def gem_outline(gem: Gem) -> CubicPath:
    """Return a gem's outline about its middle, mm."""
    return _gem_outline(gem.shape, gem.width_mm / 2)


@kept_small
def _gem_outline(shape: GemShape, radius: float) -> CubicPath:
    if shape is GemShape.STAR:
        turns = [math.pi * n / 5 - math.pi / 2 for n in range(11)]
        sizes = [radius if n % 2 == 0 else 0.45 * radius for n in range(11)]
        return straight(
            [(size * math.cos(turn), size * math.sin(turn)) for turn, size in zip(turns, sizes, strict=True)]
        )
    ring = arc(radius, -90.0, 270.0)
    if shape is GemShape.ROUND:
        return ring
    points = np.array(ring.points_mm)
    up = points[:, 1] < 0  # narrow towards the point, which lies farther out
    points[up, 0] *= 1 + 0.7 * points[up, 1] / radius
    points[up, 1] *= 1.5
    return CubicPath(tuple((float(x), float(y)) for x, y in points))


@kept_small
def grains(glitter: Glitter) -> NDArray[np.floating[Any]]:
    """Return glitter's grains: x, y, radius (mm) and brightness in [0.5, 1.4], shape (n, 4); the same for a seed."""
    rng = np.random.default_rng(glitter.seed)
    area = math.pi / 4 * glitter.width_mm * glitter.height_mm / 100
    count = max(1, round(glitter.grains_cm2 * area))
    angle, out = rng.uniform(0, 2 * math.pi, count), np.sqrt(rng.uniform(0, 1, count))
    x = glitter.x_mm + glitter.width_mm / 2 * out * np.cos(angle)
    y = glitter.y_mm + glitter.height_mm / 2 * out * np.sin(angle)
    return np.stack([x, y, rng.uniform(0.15, 0.4, count), rng.uniform(0.5, 1.4, count)], axis=1)
