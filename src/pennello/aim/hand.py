"""How far a human hand strays from what it means to do. All sizes are defaults until the notebook has measured them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum
from typing import Annotated

from pennello.load.scatter import Slips
from pennello.record import Told, check


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


@dataclass(frozen=True, slots=True)
class Hand:
    """Standard deviations of a hand's slips: defaults until the notebook has measured them."""

    steadiness: Annotated[Steadiness, Told("`steady`, `normal`, `bumpy`")] = Steadiness.NORMAL
    offset_mm: Annotated[
        float, Told("where the brush lands on the cake", "mm", within=(0.0, 20.0), called="offset_mm of the hand")
    ] = 0.8
    skew_deg: Annotated[
        float,
        Told("how square it lies to the stripes", "degrees", within=(0.0, 45.0), called="skew_deg of the hand"),
    ] = 3.0
    angle_deg: Annotated[
        float,
        Told("how the chisel is held on the skin", "degrees", within=(0.0, 90.0), called="angle_deg of the hand"),
    ] = 6.0
    drift_share: Annotated[
        float,
        Told(
            "how much more or less it drifts while sweeping, as a share of the drift meant",
            within=(0.0, 2.0),
            called="drift_share of the hand",
        ),
    ] = 0.25
    passes: Annotated[
        float, Told("sweeps too many or too few", "sweeps", within=(0.0, 50.0), called="passes of the hand")
    ] = 1.5

    def __post_init__(self) -> None:
        check(self)

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
