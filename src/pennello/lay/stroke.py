"""A stroke as it is meant: the path, how the chisel is held, pressure, wiggle, reloads."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import pairwise
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import OutOfRangeError
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase
from pennello.quick_enum import QuickEnum
from pennello.record import Told, check

Array = NDArray[np.floating[Any]]


class NibMode(QuickEnum):
    """How the chisel turns along the stroke."""

    FIXED = "fixed"
    FOLLOWING = "following"
    PIVOTING = "pivoting"
    KEYED = "keyed"


class Exit(QuickEnum):
    """What leaves the skin last when the brush lifts at the end: all of the edge, or one corner."""

    EDGE = "edge"
    A = "corner A"
    B = "corner B"


MOST_KEYS, MOST_PLACES = 64, 50
PRESSURE = (0.05, 1.0)
ANGLE_DEG = (-720.0, 720.0)
_FAR = (0.0, 1e5)


@dataclass(frozen=True, slots=True)
class Key:
    """A value at a place along the stroke, `at` in [0, 1] of its length; in between it changes evenly."""

    at: Annotated[
        float,
        Told("0 (start) to 1 (end) of its length", within=(0.0, 1.0), called="place of a key along the stroke"),
    ]
    value: float

    def __post_init__(self) -> None:
        check(self)


def keyed(keys: tuple[Key, ...], fraction: Array) -> Array:
    """Return the values of keys at fractions of the stroke, shape (n,)."""
    return np.interp(fraction, [key.at for key in keys], [key.value for key in keys])


def _check_keys(name: str, keys: tuple[Key, ...], low: float, high: float) -> None:
    if any(b.at < a.at for a, b in pairwise(keys)):
        raise OutOfRangeError(phrase("places of {name} keys", name=name), [key.at for key in keys], "rising")
    worst = next((key.value for key in keys if not low <= key.value <= high), None)
    if worst is not None:
        raise OutOfRangeError(name, worst, phrase("{low:g} to {high:g}", low=low, high=high))


@dataclass(frozen=True, slots=True)
class PartKey:
    """The part of the edge on the skin, from and to, u in [0, 1], at a place along the stroke, `at` in [0, 1]."""

    at: Annotated[
        float,
        Told(
            "0 (start) to 1 (end) of its length",
            within=(0.0, 1.0),
            called="place of a part of the edge along the stroke",
        ),
    ]
    from_u: float
    to_u: float

    def __post_init__(self) -> None:
        check(self)
        if not 0 <= self.from_u < self.to_u <= 1:
            wanted = phrase("from and to, rising, within 0 to 1")
            raise OutOfRangeError(phrase("part of the edge on the skin"), [self.from_u, self.to_u], wanted)


class Over(QuickEnum):
    """What pats are set down over: along the way, or over the place that it encloses."""

    WAY = "way"
    PLACE = "place"


MOST_PATS = 400


@dataclass(frozen=True, slots=True)
class Pats:
    """One contact set down again and again, from one load: a patted field is one stroke."""

    overlap: Annotated[
        float,
        Told(
            "share of its own size by which a pat lies over the one before, 0 side by side",
            within=(0.0, 0.9),
            called="overlap of pats",
        ),
    ] = 0.35
    turn_deg: Annotated[
        float,
        Told(
            "how far pats are turned to and fro, at random but the same each time",
            "degrees",
            within=(0.0, 180.0),
            called="turn of pats",
        ),
    ] = 20.0
    over: Annotated[Over, Told("along the `way`, or over the `place` that it encloses")] = Over.WAY
    seed: Annotated[int, Told("another one, other turns", within=(0, 2**31 - 1), called="seed of pats")] = 1
    mirrored: Annotated[bool, Told("all of it is the mirror image: turns and rows the other way round")] = False

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class Nib:
    """How the chisel is held. Angles turn from +x (right) towards +y (down); the chisel points from A to B.

    KEYED turns as FOLLOWING does, by the angles of `keys`, degrees from travel to chisel.

    """

    mode: Annotated[
        NibMode,
        Told("`fixed`, `following`, `pivoting`, `keyed` (as following, by the angles of `keys`)", values={"keyed": 3}),
    ] = NibMode.FOLLOWING
    angle_deg: Annotated[
        float,
        Told(
            "fixed: direction of the chisel. Following: angle from travel to chisel; 90 lays the full width with B on "
            "the right hand of travel. Pivoting: direction at the start",
            "degrees",
            within=ANGLE_DEG,
            called="chisel angle",
        ),
    ] = 90.0
    angle_end_deg: Annotated[
        float,
        Told("pivoting: direction at the end; it turns evenly", "degrees", within=ANGLE_DEG, called="chisel angle"),
    ] = 90.0
    pivot_u: Annotated[
        float,
        Told(
            "pivoting: which point of the edge follows the path, 0 = corner A, 1 = corner B; else the middle does",
            within=(0.0, 1.0),
            called="pivot point on the edge",
        ),
    ] = 0.0
    keys: Annotated[
        tuple[Key, ...], Told("keyed: angles along the stroke, degrees", since=3, count=(0, MOST_KEYS))
    ] = ()

    def __post_init__(self) -> None:
        check(self)
        _check_keys(phrase("chisel angle"), self.keys, *ANGLE_DEG)
        if self.mode is NibMode.KEYED and not self.keys:
            raise OutOfRangeError(phrase("number of chisel angle keys"), 0, phrase("at least 1 for a keyed chisel"))


@dataclass(frozen=True, slots=True)
class Wiggle:
    """Sideways waves along the stroke."""

    count: Annotated[float, Told("how many waves", within=(0.0, 100.0), called="number of wiggles")] = 0.0
    width_mm: Annotated[float, Told("from crest to trough", "mm", within=(0.0, 60.0), called="width of a wiggle")] = 0.0
    fades: Annotated[
        float,
        Told(
            "share of the stroke at each end over which they die out",
            within=(0.0, 0.5),
            called="share over which a wiggle dies out",
            since=7,
        ),
    ] = 0.0

    def __post_init__(self) -> None:
        check(self)

    def envelope(self, fraction: Array) -> Array:
        """Return how high waves are at fractions of the stroke, in [0, 1], shape (n,)."""
        if self.fades <= 0:
            return np.ones(len(fraction))
        return np.clip(np.minimum(fraction, 1 - fraction) / self.fades, 0, 1)


@dataclass(frozen=True, slots=True)
class Stroke:
    """One pull of the brush: its way, how the chisel is held, and what the hand does on the way."""

    path: Annotated[CubicPath, Told("the way over the skin")]
    nib: Annotated[Nib, Told("how the chisel is held, below", default="follows the path, 90 degrees")] = field(
        default_factory=Nib
    )
    pressure: Annotated[float, Told("0 hovers, 0.5 lays the nominal width, 1 the full belly", within=PRESSURE)] = 0.5
    wiggle: Annotated[Wiggle, Told("sideways waves, below", default="none")] = field(default_factory=Wiggle)
    reload_mm: Annotated[
        tuple[float, ...],
        Told(
            "where the painter lifts, goes back to the cake and starts again, rising",
            "mm",
            count=(0, MOST_PLACES),
            items=_FAR,
        ),
    ] = ()
    pressures: Annotated[
        tuple[Key, ...],
        Told(
            'pressure along the stroke: `[{"at": 0, "value": 0.1}, ...]`, `at` in 0 to 1 of its length, rising, values '
            "as above; without any it is `pressure`",
            since=3,
            count=(0, MOST_KEYS),
        ),
    ] = ()
    flips_mm: Annotated[
        tuple[float, ...],
        Told(
            "where the brush is turned half round on the way, so that A and B change sides, rising",
            "mm",
            since=3,
            count=(0, MOST_PLACES),
            items=_FAR,
        ),
    ] = ()
    part: Annotated[
        tuple[float, float], Told("from and to, u: the part of the edge that touches the skin", since=3, items=(0, 1))
    ] = (0.0, 1.0)
    lift_mm: Annotated[
        float,
        Told(
            "over how much of the end the brush lifts",
            "mm",
            within=(0.0, 200.0),
            called="lift at the end",
            since=3,
        ),
    ] = 0.0
    exit: Annotated[Exit, Told("what leaves last: `edge`, `corner A`, `corner B`", since=3)] = Exit.EDGE
    leans: Annotated[
        tuple[Key, ...],
        Told(
            "how far the brush is laid over, as keys like `pressures`, each 0 (upright) to 70 degrees",
            since=7,
            count=(0, MOST_KEYS),
            default="upright",
        ),
    ] = ()
    tilts: Annotated[
        tuple[Key, ...],
        Told(
            "towards which corner it is tilted, as keys, each -1 to 1: at -1 corner A alone touches, at 1 corner B",
            since=7,
            count=(0, MOST_KEYS),
            default="level",
        ),
    ] = ()
    parts: Annotated[
        tuple[PartKey, ...],
        Told(
            'the part that touches, as keys `{"at", "from_u", "to_u"}`; without any it is `part` all the way',
            since=7,
            count=(0, MOST_KEYS),
        ),
    ] = ()
    on_part: Annotated[
        bool, Told("the path is that of the middle of the part that touches, not of the whole edge", since=7)
    ] = False
    pats: Annotated[
        Pats | None,
        Told(
            "set down again and again from one load, below; over a place the path is its outline",
            since=7,
            default="left out: pulled",
        ),
    ] = None

    def __post_init__(self) -> None:
        check(self)
        _check_keys("pressure", self.pressures, *PRESSURE)
        _check_keys("lean", self.leans, 0.0, 70.0)
        _check_keys("tilt", self.tilts, -1.0, 1.0)
        if any(b.at < a.at for a, b in pairwise(self.parts)):
            raise OutOfRangeError(phrase("places of part keys"), [key.at for key in self.parts], "rising")
        if not 0 <= self.part[0] < self.part[1] <= 1:
            raise OutOfRangeError(
                phrase("part of the edge on the skin"), list(self.part), phrase("from and to, rising, within 0 to 1")
            )
        _check_places("flips", self.flips_mm)
        _check_places("reloads", self.reload_mm)

    def pressure_at(self, fraction: Array) -> Array:
        """Return the pressure at fractions of the stroke, lift included, in [0, 1], shape (n,)."""
        return keyed(self.pressures, fraction) if self.pressures else np.full(len(fraction), self.pressure)

    @property
    def most_pressure(self) -> float:
        """The greatest pressure on the way."""
        return max((key.value for key in self.pressures), default=self.pressure)

    def part_at(self, fraction: Array) -> tuple[Array, Array]:
        """Return from where to where of the edge may touch at fractions of the stroke, u, shape (n,) each."""
        if not self.parts:
            return np.full(len(fraction), self.part[0]), np.full(len(fraction), self.part[1])
        at = [key.at for key in self.parts]
        return np.interp(fraction, at, [key.from_u for key in self.parts]), np.interp(
            fraction, at, [key.to_u for key in self.parts]
        )


def _check_places(name: str, places: tuple[float, ...]) -> None:
    if list(places) != sorted(places) or not all(0 <= at <= 1e5 for at in places):
        raise OutOfRangeError(
            phrase("places of {name}", name=name), list(places), phrase("in rising order, 0 mm or more")
        )
