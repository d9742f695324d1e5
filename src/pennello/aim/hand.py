"""How far a human hand strays from what it means to do. All sizes are defaults until the notebook has measured them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum

from pennello.errors import OutOfRangeError
from pennello.load.scatter import Slips


class Steadiness(Enum):
    """How steady the hand is today; everything it does wrong is this much larger or smaller."""

    STEADY = "steady"
    NORMAL = "normal"
    BUMPY = "bumpy"

    @property
    def factor(self) -> float:
        """Size of its slips against a normal hand's (defaults)."""
        return {"steady": 0.5, "normal": 1.0, "bumpy": 2.0}[self.value]


SLIPS = ("offset_mm", "skew_deg", "angle_deg", "drift_share", "passes")
"""The slips of a hand, in the order in which tries draw them."""

_MOST = {"offset_mm": 20.0, "skew_deg": 45.0, "angle_deg": 90.0, "drift_share": 2.0, "passes": 50.0}


@dataclass(frozen=True, slots=True)
class Hand:
    """Standard deviations of a hand's slips.

    Attributes
    ----------
    offset_mm
        Where the brush lands on the cake, mm (a default: 0.8).
    skew_deg
        How square it lies to the stripes, degrees (a default: 3).
    angle_deg
        How the chisel is held on the skin, degrees (a default: 6).
    drift_share
        How much more or less it drifts while sweeping, as a share of the drift meant (a default: 0.25).
    passes
        Sweeps too many or too few (a default: 1.5).
    """

    steadiness: Steadiness = Steadiness.NORMAL
    offset_mm: float = 0.8
    skew_deg: float = 3.0
    angle_deg: float = 6.0
    drift_share: float = 0.25
    passes: float = 1.5

    def __post_init__(self) -> None:
        for name, most in _MOST.items():
            value = getattr(self, name)
            if not 0 <= value <= most:
                raise OutOfRangeError(f"{name} of the hand", value, f"0 to {most:g}")

    @property
    def sizes(self) -> tuple[float, ...]:
        """Standard deviations as they are today, in the order of SLIPS."""
        return tuple(self.steadiness.factor * float(getattr(self, name)) for name in SLIPS)

    @property
    def slips(self) -> Slips:
        """What it does otherwise than meant while it loads, as it is today."""
        offset, skew, _, drift, passes = self.sizes
        return Slips(offset, skew, drift, passes)

    def at(self, steadiness: Steadiness) -> Hand:
        """Return the same hand on another day."""
        return replace(self, steadiness=steadiness)
