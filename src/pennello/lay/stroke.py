"""A stroke as it is meant: the path, how the chisel is held, pressure, wiggle, reloads."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import Enum
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import OutOfRangeError
from pennello.path.cubic import CubicPath, position

Array = NDArray[np.floating[Any]]


class NibMode(Enum):
    """How the chisel turns along the stroke."""

    FIXED = "fixed"
    FOLLOWING = "following"
    PIVOTING = "pivoting"
    KEYED = "keyed"


class Exit(Enum):
    """What leaves the skin last when the brush lifts at the end: all of the edge, or one corner."""

    EDGE = "edge"
    A = "corner A"
    B = "corner B"


MOST_KEYS = 64


@dataclass(frozen=True, slots=True)
class Key:
    """A value at a place along the stroke, `at` in [0, 1] of its length; in between it changes evenly."""

    at: float
    value: float

    def __post_init__(self) -> None:
        if not 0 <= self.at <= 1:
            raise OutOfRangeError("place of a key along the stroke", self.at, "0 (start) to 1 (end)")


def keyed(keys: tuple[Key, ...], fraction: Array) -> Array:
    """Return the values of keys at fractions of the stroke, shape (n,)."""
    return np.interp(fraction, [key.at for key in keys], [key.value for key in keys])


def _check_keys(name: str, keys: tuple[Key, ...], low: float, high: float) -> None:
    if len(keys) > MOST_KEYS:
        raise OutOfRangeError(f"number of {name} keys", len(keys), f"at most {MOST_KEYS}")
    if any(b.at < a.at for a, b in pairwise(keys)):
        raise OutOfRangeError(f"places of {name} keys", [key.at for key in keys], "rising")
    worst = next((key.value for key in keys if not low <= key.value <= high), None)
    if worst is not None:
        raise OutOfRangeError(name, worst, f"{low:g} to {high:g}")


@dataclass(frozen=True, slots=True)
class PartKey:
    """The part of the edge on the skin, from and to, u in [0, 1], at a place along the stroke, `at` in [0, 1]."""

    at: float
    from_u: float
    to_u: float

    def __post_init__(self) -> None:
        if not 0 <= self.at <= 1:
            raise OutOfRangeError("place of a part of the edge along the stroke", self.at, "0 (start) to 1 (end)")
        if not 0 <= self.from_u < self.to_u <= 1:
            wanted = "from and to, rising, within 0 to 1"
            raise OutOfRangeError("part of the edge on the skin", [self.from_u, self.to_u], wanted)


class Over(Enum):
    """What pats are set down over: along the way, or over the place that it encloses."""

    WAY = "way"
    PLACE = "place"


MOST_PATS = 400


@dataclass(frozen=True, slots=True)
class Pats:
    """One contact set down again and again, from one load: a patted field is one stroke.

    Attributes
    ----------
    overlap
        Share of its own size by which a pat lies over the one before, 0 (side by side) to 0.9.
    turn_deg
        How far pats are turned to and fro, at random but the same each time, 0 to 180 degrees.
    over
        Along the way, or over the place that the way encloses.
    seed
        Another seed, other turns.
    mirrored
        Whether all of it is the mirror image: turns and rows the other way round.
    """

    overlap: float = 0.35
    turn_deg: float = 20.0
    over: Over = Over.WAY
    seed: int = 1
    mirrored: bool = False

    def __post_init__(self) -> None:
        if not 0 <= self.overlap <= 0.9:
            raise OutOfRangeError("overlap of pats", self.overlap, "0 to 0.9")
        if not 0 <= self.turn_deg <= 180:
            raise OutOfRangeError("turn of pats", self.turn_deg, "0 to 180 degrees")
        if not 0 <= self.seed <= 2**31 - 1:
            raise OutOfRangeError("seed of pats", self.seed, "a whole number, 0 to 2147483647")


@dataclass(frozen=True, slots=True)
class Nib:
    """How the chisel is held. Angles turn from +x (right) towards +y (down); the chisel points from A to B.

    KEYED turns as FOLLOWING does, by the angles of `keys`, degrees from travel to chisel.

    Attributes
    ----------
    angle_deg
        FIXED: direction of the chisel. FOLLOWING: angle between travel and chisel (90 lays the full width, with
        B on the right hand of travel). PIVOTING: direction of the chisel at the start. -720 to 720.
    angle_end_deg
        PIVOTING only: direction of the chisel at the end; it turns evenly along the path.
    pivot_u
        PIVOTING only: which point of the edge follows the path, 0 for corner A to 1 for corner B. In the other
        modes the middle does.
    """

    mode: NibMode = NibMode.FOLLOWING
    angle_deg: float = 90.0
    angle_end_deg: float = 90.0
    pivot_u: float = 0.0
    keys: tuple[Key, ...] = ()

    def __post_init__(self) -> None:
        _check_keys("chisel angle", self.keys, -720, 720)
        if self.mode is NibMode.KEYED and not self.keys:
            raise OutOfRangeError("number of chisel angle keys", 0, "at least 1 for a keyed chisel")
        for angle in (self.angle_deg, self.angle_end_deg):
            if not -720 <= angle <= 720:
                raise OutOfRangeError("chisel angle", angle, "-720 to 720 degrees")
        if not 0 <= self.pivot_u <= 1:
            raise OutOfRangeError("pivot point on the edge", self.pivot_u, "0 (corner A) to 1 (corner B)")


@dataclass(frozen=True, slots=True)
class Wiggle:
    """Sideways waves along the stroke.

    Attributes
    ----------
    count
        How many, 0 to 100.
    width_mm
        From crest to trough, 0 to 60 mm.
    fades
        Share of the stroke at each end over which they die out, 0 to 0.5.
    """

    count: float = 0.0
    width_mm: float = 0.0
    fades: float = 0.0

    def __post_init__(self) -> None:
        if not 0 <= self.count <= 100:
            raise OutOfRangeError("number of wiggles", self.count, "0 to 100")
        if not 0 <= self.width_mm <= 60:
            raise OutOfRangeError("width of a wiggle", self.width_mm, "0 to 60 mm")
        if not 0 <= self.fades <= 0.5:
            raise OutOfRangeError("share over which a wiggle dies out", self.fades, "0 to 0.5")

    def envelope(self, fraction: Array) -> Array:
        """Return how high waves are at fractions of the stroke, in [0, 1], shape (n,)."""
        if self.fades <= 0:
            return np.ones(len(fraction))
        return np.clip(np.minimum(fraction, 1 - fraction) / self.fades, 0, 1)


@dataclass(frozen=True, slots=True)
class Stroke:
    """One pull of the brush.

    Attributes
    ----------
    pressure
        0 (hovering) to 1 (full belly); 0.5 lays the nominal width.
    reload_mm
        Where along the stroke the painter lifts, goes back to the cake and starts again, mm, ascending.
    pressures
        Pressure along the stroke as keys, each 0.05 to 1; without any it is `pressure` all the way.
    flips_mm
        Where along the stroke the brush is turned half round, so that A and B change sides, mm, ascending.
    part
        From and to, u in [0, 1]: the part of the edge that touches the skin at all.
    lift_mm
        Over how much of the end the brush lifts off, 0 to 200 mm; `exit` says what leaves last.
    leans
        How far the brush is laid over along the stroke as keys, each 0 (upright) to 70 degrees.
    tilts
        Towards which corner it is tilted along the stroke as keys, each -1 (corner A alone touches) to 1 (corner B).
    parts
        The part that touches along the stroke as keys; without any it is `part` all the way.
    on_part
        Whether the middle of the part that touches follows the path, and not that of the whole edge.
    pats
        Set down again and again instead of pulled; None for a pulled stroke.
    """

    path: CubicPath
    nib: Nib = field(default_factory=Nib)
    pressure: float = 0.5
    wiggle: Wiggle = field(default_factory=Wiggle)
    reload_mm: tuple[float, ...] = ()
    pressures: tuple[Key, ...] = ()
    flips_mm: tuple[float, ...] = ()
    part: tuple[float, float] = (0.0, 1.0)
    lift_mm: float = 0.0
    exit: Exit = Exit.EDGE
    leans: tuple[Key, ...] = ()
    tilts: tuple[Key, ...] = ()
    parts: tuple[PartKey, ...] = ()
    on_part: bool = False
    pats: Pats | None = None

    def __post_init__(self) -> None:
        _check_keys("pressure", self.pressures, 0.05, 1.0)
        _check_keys("lean", self.leans, 0.0, 70.0)
        _check_keys("tilt", self.tilts, -1.0, 1.0)
        if len(self.parts) > MOST_KEYS or any(b.at < a.at for a, b in pairwise(self.parts)):
            places = [key.at for key in self.parts]
            raise OutOfRangeError("places of part keys", places, f"rising, at most {MOST_KEYS}")
        if not 0 <= self.part[0] < self.part[1] <= 1:
            raise OutOfRangeError("part of the edge on the skin", list(self.part), "from and to, rising, within 0 to 1")
        if not 0 <= self.lift_mm <= 200:
            raise OutOfRangeError("lift at the end", self.lift_mm, "0 to 200 mm")
        _check_places("flips", self.flips_mm)
        _check_places("reloads", self.reload_mm)
        if not 0.05 <= self.pressure <= 1:
            raise OutOfRangeError("pressure", self.pressure, "0.05 to 1")

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


def rim_line(stroke: Stroke, width_mm: float, count: int = 25) -> Array:
    """Return the way of corner A of a chisel that swings round a point of its edge, without waves, mm, (count, 2).

    Parameters
    ----------
    width_mm
        Width of the brush, > 0 mm.
    count
        How many points, 2 or more.
    """
    fraction = np.linspace(0, 1, count)
    on_path = position(stroke.path, fraction * stroke.path.curves)
    nib = stroke.nib
    theta = np.radians(nib.angle_deg + (nib.angle_end_deg - nib.angle_deg) * fraction)
    edge = np.stack([np.cos(theta), np.sin(theta)], axis=1)
    return np.asarray(on_path - nib.pivot_u * width_mm * edge)


def _check_places(name: str, places: tuple[float, ...]) -> None:
    if len(places) > 50:
        raise OutOfRangeError(f"number of {name}", len(places), "at most 50")
    if list(places) != sorted(places) or not all(0 <= at <= 1e5 for at in places):
        raise OutOfRangeError(f"places of {name}", list(places), "in rising order, 0 mm or more")
