"""A load as the painter would tell it: one pick-up after another."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Portion
from pennello.phrases import phrase
from pennello.quick_enum import QuickEnum
from pennello.record import Told, check


class Wetness(QuickEnum):
    """How wet the brush meets the cake, with its sign to the eye and its mend.

    `solids` is the share of a creamy load's solids that the brush then holds, `mixing_mm` the blur that one
    sweep adds in the bristles (its square grows with the sweeps), `water` the water for each volume of solids,
    against creamy paint.
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

    @property
    def wick_mm(self) -> float:
        """How far a dip fades up the bristles: the standard deviation of its upper end, mm."""
        return _WETNESS[self][3]

    @property
    def sign(self) -> str:
        """What it looks like (common practice, no published source)."""
        return _SIGNS[self][0]

    @property
    def mend(self) -> str:
        """What makes it creamy."""
        return _SIGNS[self][1]


_WETNESS = {
    Wetness.NEARLY_DRY: (0.35, 0.0, 0.25, 0.3),
    Wetness.DAMP: (0.75, 0.0, 0.7, 0.6),
    Wetness.CREAMY: (1.0, 0.0, 1.0, 0.9),
    Wetness.WET: (0.85, 0.25, 2.0, 1.5),
    Wetness.TOO_WET: (0.6, 0.5, 4.0, 2.5),
}
_SIGNS = {
    Wetness.NEARLY_DRY: (phrase("drags and streaks, goes pale soon"), phrase("mist the cake once")),
    Wetness.DAMP: (phrase("a little stiff, the far end thins"), phrase("mist the cake lightly")),
    Wetness.CREAMY: (phrase("creamy: no bubbles, no drip"), ""),
    Wetness.WET: (phrase("a few bubbles on the cake"), phrase("sweep on until they vanish")),
    Wetness.TOO_WET: (phrase("bubbles and a drip at the corner"), phrase("blot, then sweep on until it is creamy")),
}


class Before(QuickEnum):
    """What happens to the residue before a pick-up; the shares that stay are defaults.

    Wiping and rinsing reach the whole brush, blotting only the part that goes into the paint next.
    """

    KEEP = "keep"
    BLOT = "blot"
    WIPE = "wipe"
    RINSE = "rinse"
    RINSE_TWICE = "rinse twice"

    @property
    def rinses(self) -> int:
        """How often the brush goes through the water; each time its root keeps a share (see `Applicator`)."""
        return {Before.RINSE: 1, Before.RINSE_TWICE: 2}.get(self, 0)

    @property
    def keeps(self) -> float:
        """Share of the residue that stays in the brush."""
        return _BEFORE[self][0]

    @property
    def keeps_water(self) -> float:
        """Share of its water that stays."""
        return _BEFORE[self][1]


_BEFORE = {
    Before.KEEP: (1.0, 1.0),
    Before.BLOT: (0.6, 0.3),
    Before.WIPE: (0.25, 0.25),
    Before.RINSE: (0.0, 0.0),
    Before.RINSE_TWICE: (0.0, 0.0),
}


class Way(QuickEnum):
    """How the brush meets the paint.

    SWEEP: along the stripes, edge across them. PRESS: set down and lifted, as sponges and daubers are. DIP: point
    first, to a depth. SIDE: one side of the bristles lies on the paint. ROLL: turned over in it, which mixes all
    that lies under it.
    """

    SWEEP = "sweep"
    PRESS = "press"
    DIP = "dip"
    SIDE = "side"
    ROLL = "roll"


class Face(QuickEnum):
    """The faces of a sponge."""

    FRONT = "front"
    BACK = "back"


OFFSET_MM = (-130.0, 850.0)
SKEW_DEG = (-60.0, 60.0)
PASSES = (0.0, 200.0)
DRIFT_MM = (0.0, 20.0)
WHOLE_EDGE = (0.0, 1.0)
MOST_IN_PAN = 6
LEAST_HAND_DRIFT_MM = 0.3
"""No hand sweeps straighter than this (a default); mends never ask for less."""


@dataclass(frozen=True, slots=True)
class PickUp:
    """One visit to a cake or a pan.

    A skewed brush turns about its middle; `offset_mm` is where its left corner lies with no skew, of a pick-up with a
    part of the edge where the whole edge would lie. For a dip u runs from the tip.
    """

    cake: Annotated[
        str, Told("id of the cake, or left out when a pan says what it is from", text="id", left_out=True)
    ] = ""
    offset_mm: Annotated[
        float,
        Told("the brush's left corner from the cake's left wall", "mm", within=OFFSET_MM, called="offset on the cake"),
    ] = 0.0
    flip: Annotated[bool, Told("corner B lies left instead of A")] = False
    skew_deg: Annotated[
        float, Told("the brush turned about its middle", "degrees", within=SKEW_DEG, called="skew on the cake")
    ] = 0.0
    passes: Annotated[
        float,
        Told(
            "sweeps (back or forth, each counted), presses, dips or turns",
            "sweeps",
            within=PASSES,
            called="number of sweeps",
        ),
    ] = 12.0
    drift_mm: Annotated[
        float,
        Told("standard deviation of the sideways drift", "mm", within=DRIFT_MM, called="sideways drift"),
    ] = 0.8
    wetness: Annotated[Wetness, Told("`nearly dry`, `damp`, `creamy`, `wet`, `too wet`")] = Wetness.CREAMY
    before: Annotated[
        Before,
        Told(
            "what happens to the residue: `keep`, `blot`, `wipe`, `rinse`, since 7 `rinse twice`",
            values={"blot": 2, "rinse twice": 7},
        ),
    ] = Before.KEEP
    way: Annotated[Way, Told("`sweep`, `press`, `dip`, `side`, `roll`", since=2)] = Way.SWEEP
    part: Annotated[
        tuple[float, float],
        Told(
            "from and to in u, in whole bins of 1/64: the part of the edge that meets the paint",
            since=2,
            items=WHOLE_EDGE,
        ),
    ] = WHOLE_EDGE
    pan: Annotated[
        tuple[Portion, ...],
        Told(
            "a paint, or several mixed by parts; left out when a cake is given",
            since=2,
            count=(0, MOST_IN_PAN),
            called="paints in the pan",
            left_out=True,
            keys={"amount": "parts"},
            defaults={"amount": 1.0},
        ),
    ] = ()
    face: Annotated[Face, Told("of a sponge: `front`, `back`", since=2)] = Face.FRONT

    def __post_init__(self) -> None:
        check(self)
        if not 0 <= self.part[0] < self.part[1] <= 1:
            raise OutOfRangeError(
                phrase("part of the edge"), list(self.part), phrase("from and to, rising, within 0 to 1")
            )
        if bool(self.cake) == bool(self.pan):
            raise OutOfRangeError(
                phrase("what is picked up from"), self.cake or "nothing", phrase("either a cake or a pan of paint")
            )
        worst = next((portion for portion in self.pan if not 0 < portion.amount < float("inf")), None)
        if worst is not None:
            raise OutOfRangeError(
                phrase("parts of {paint} in the pan", paint=worst.paint),
                worst.amount,
                phrase("above 0; take it out instead"),
            )

    @property
    def whole(self) -> bool:
        """Whether all of the edge meets the paint."""
        return self.part == WHOLE_EDGE


MOST_PICKUPS = 20


@dataclass(frozen=True, slots=True)
class Recipe:
    """A load: pick-ups in their order, at most 20.

    Attributes
    ----------
    after
        Id of the stroke whose leftover is in the brush when the load begins; "" for a clean brush. With it there
        may be no pick-up at all: the leftover is the load.
    lays
        The face of a sponge that the stroke is laid with; pick-ups of the other face wait on it.
    """

    pickups: Annotated[tuple[PickUp, ...], Told("in their order", count=(0, MOST_PICKUPS), called="pick-ups")]
    after: Annotated[
        str,
        Told(
            "id of an earlier stroke with the same brush whose leftover it goes on with; then there may be no pick-up",
            since=2,
            text="maybe id",
        ),
    ] = ""
    lays: Annotated[Face, Told("the face of a sponge that is laid: `front`, `back`", since=2)] = Face.FRONT

    def __post_init__(self) -> None:
        if not (0 if self.after else 1) <= len(self.pickups) <= MOST_PICKUPS:
            raise OutOfRangeError(
                phrase("number of pick-ups"),
                len(self.pickups),
                phrase("1 to {most_pickups}", most_pickups=MOST_PICKUPS),
            )

    @property
    def cakes(self) -> tuple[str, ...]:
        """Ids of the cakes visited, each once, in order."""
        return tuple(dict.fromkeys(pickup.cake for pickup in self.pickups if pickup.cake))

    @property
    def pan_paints(self) -> tuple[str, ...]:
        """Ids of the paints taken from pans, each once, in order."""
        return tuple(dict.fromkeys(portion.paint for pickup in self.pickups for portion in pickup.pan))

    @property
    def laid(self) -> tuple[PickUp, ...]:
        """The pick-ups of the face that lays."""
        return tuple(pickup for pickup in self.pickups if pickup.face is self.lays)

    @property
    def drag(self) -> float:
        """How stiff the load is, in [0, 1]: 1 after a last pick-up that is nearly dry."""
        return 1.0 if self.laid and self.laid[-1].wetness is Wetness.NEARLY_DRY else 0.0

    def axis(self, brush: Applicator) -> GradientAxis:
        """Return which way the edge runs: along the print for a round or petal brush that is dipped."""
        dipped = brush.kind.dips and any(pickup.way is Way.DIP for pickup in self.pickups)
        return GradientAxis.ALONG if dipped else GradientAxis.ACROSS

    @property
    def main(self) -> int:
        """Number of the pick-up that lays the window: the last with all of the edge, or simply the last (-1: none)."""
        whole = [index for index, pickup in enumerate(self.pickups) if pickup.whole and pickup.face is self.lays]
        return whole[-1] if whole else len(self.pickups) - 1
