"""A load as the painter would tell it: one pick-up after another."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from pennello.errors import OutOfRangeError


class Wetness(Enum):
    """How wet the brush meets the cake.

    `solids` is the share of a creamy load's solids that the brush then holds, `mixing_mm` the blur that one
    sweep adds in the bristles (its square grows with the sweeps), `water` the water for each volume of solids.
    All three are defaults; creamy is the reference, whose own blur is part of the drift.
    """

    NEARLY_DRY = "nearly dry"
    DAMP = "damp"
    CREAMY = "creamy"
    WET = "wet"
    TOO_WET = "too wet"

    @property
    def solids(self) -> float:
        """Share of a creamy load's solids."""
        return _WETNESS[self][0]

    @property
    def mixing_mm(self) -> float:
        """Blur added by one sweep, mm."""
        return _WETNESS[self][1]

    @property
    def water(self) -> float:
        """Volume of water for each volume of solids."""
        return _WETNESS[self][2]


_WETNESS = {
    Wetness.NEARLY_DRY: (0.35, 0.0, 0.2),
    Wetness.DAMP: (0.75, 0.0, 0.5),
    Wetness.CREAMY: (1.0, 0.0, 1.0),
    Wetness.WET: (0.85, 0.25, 2.0),
    Wetness.TOO_WET: (0.6, 0.5, 4.0),
}


class Before(Enum):
    """What happens to the residue before a pick-up; `keeps` is the share that stays (the wipe is a default)."""

    KEEP = "keep"
    WIPE = "wipe"
    RINSE = "rinse"

    @property
    def keeps(self) -> float:
        """Share of the residue that stays in the brush."""
        return {Before.KEEP: 1.0, Before.WIPE: 0.25, Before.RINSE: 0.0}[self]


OFFSET_MM = (-130.0, 850.0)
SKEW_DEG = (-60.0, 60.0)
PASSES = (0.0, 200.0)
DRIFT_MM = (0.0, 20.0)
LEAST_HAND_DRIFT_MM = 0.3
"""No hand sweeps straighter than this (a default); mends never ask for less."""


@dataclass(frozen=True, slots=True)
class PickUp:
    """One visit to a cake: sweeping the flat along the stripes.

    Attributes
    ----------
    cake
        Id of the cake.
    offset_mm
        Where the brush's left corner lies, mm from the cake's left wall, with no skew; a skewed brush turns
        about its middle.
    flip
        Whether corner B lies left instead of A.
    skew_deg
        How far the chisel is turned away from lying square across the stripes, degrees.
    passes
        Sweeps, back or forth, each counted.
    drift_mm
        Sideways drift while sweeping: the standard deviation of the brush's place, mm.
    """

    cake: str
    offset_mm: float = 0.0
    flip: bool = False
    skew_deg: float = 0.0
    passes: float = 12.0
    drift_mm: float = 0.8
    wetness: Wetness = Wetness.CREAMY
    before: Before = Before.KEEP

    def __post_init__(self) -> None:
        _check("offset on the cake", self.offset_mm, OFFSET_MM, "mm")
        _check("skew on the cake", self.skew_deg, SKEW_DEG, "degrees")
        _check("number of sweeps", self.passes, PASSES, "sweeps")
        _check("sideways drift", self.drift_mm, DRIFT_MM, "mm")


def _check(name: str, value: float, limits: tuple[float, float], unit: str) -> None:
    if not limits[0] <= value <= limits[1]:
        raise OutOfRangeError(name, value, f"{limits[0]:g} to {limits[1]:g} {unit}")


MOST_PICKUPS = 20


@dataclass(frozen=True, slots=True)
class Recipe:
    """A load: pick-ups in their order, 1 to 20, onto a clean brush."""

    pickups: tuple[PickUp, ...]

    def __post_init__(self) -> None:
        if not 1 <= len(self.pickups) <= MOST_PICKUPS:
            raise OutOfRangeError("number of pick-ups", len(self.pickups), f"1 to {MOST_PICKUPS}")

    @property
    def cakes(self) -> tuple[str, ...]:
        """Ids of the cakes visited, each once, in order."""
        return tuple(dict.fromkeys(pickup.cake for pickup in self.pickups))
