"""A brush, sponge or dauber and what it holds. Constants that nobody in the trade states are marked defaults."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pennello.errors import OutOfRangeError
from pennello.phrases import phrase
from pennello.quick_enum import QuickEnum
from pennello.record import Told, check


class GradientAxis(QuickEnum):
    """Which way the loaded edge runs: across the stroke from corner A to B, or along the print from tip to belly."""

    ACROSS = "across"
    ALONG = "along"


class ApplicatorKind(QuickEnum):
    """Kinds of applicator."""

    FLAT = "flat"
    ANGLE = "angle"
    FILBERT = "filbert"
    PETAL_BRUSH = "petal brush"
    ROUND = "round"
    LINER = "liner"
    BLOCK_SPONGE = "block sponge"
    PETAL_SPONGE = "petal sponge"
    HALF_CIRCLE_SPONGE = "half-circle sponge"
    DAUBER = "dauber"

    @property
    def dips(self) -> bool:
        """Whether a tip dip gives it a gradient from tip to belly."""
        return self in {ApplicatorKind.PETAL_BRUSH, ApplicatorKind.ROUND, ApplicatorKind.LINER}

    @property
    def pressed(self) -> bool:
        """Whether it is pressed onto a cake rather than swept: sponges and daubers."""
        return self in {
            ApplicatorKind.BLOCK_SPONGE,
            ApplicatorKind.PETAL_SPONGE,
            ApplicatorKind.HALF_CIRCLE_SPONGE,
            ApplicatorKind.DAUBER,
        }

    @property
    def two_faced(self) -> bool:
        """Whether it has a second face that can be loaded on its own."""
        return self.pressed and self is not ApplicatorKind.DAUBER


CALIBRATED = (
    *("width_mm", "thickness_mm", "bristle_mm", "capacity_mm3_per_mm", "release_mm", "fill_passes", "splay"),
    *("cut_deg", "tip_mm", "print_mm", "drift_mm", "root_share"),
)
"""What a painter may have measured on his own brush; `own` names those that he has."""

MOST_OWN = 20
_KINDS_SINCE = {one.value: 2 for one in ApplicatorKind if one is not ApplicatorKind.FLAT}


@dataclass(frozen=True, slots=True)
class Applicator:
    """A brush, sponge or dauber.

    All constants but the width are defaults until its painter has measured them; `own` names those that he has.
    """

    id: Annotated[str, Told("key within a plan", text="id")]
    name: Annotated[str, Told("the name shown", text="name", in_file="", default="the id")]
    width_mm: Annotated[
        float,
        Told(
            "chisel width W, of a sponge or belly its width, under medium pressure (1/2 in = 12.7, 3/4 in = 19.05, "
            "1 in = 25.4)",
            "mm",
            within=(0.5, 120.0),
            called="width_mm of {name}",
        ),
    ]
    kind: Annotated[
        ApplicatorKind,
        Told(
            "`flat`, `angle`, `filbert`, `petal brush`, `round`, `liner`, `block sponge`, `petal sponge`, "
            "`half-circle sponge`, `dauber`",
            values=_KINDS_SINCE,
        ),
    ] = ApplicatorKind.FLAT
    thickness_mm: Annotated[
        float,
        Told(
            "thickness t of what touches, square to the edge, under medium pressure",
            "mm",
            within=(0.2, 120.0),
            called="thickness_mm of {name}",
        ),
    ] = 2.0
    bristle_mm: Annotated[
        float,
        Told(
            "bristle length from the ferrule, or height of a sponge: how much of it lies on the skin when it leans",
            "mm",
            within=(2.0, 80.0),
            called="bristle_mm of {name}",
        ),
    ] = 17.0
    capacity_mm3_per_mm: Annotated[
        float,
        Told(
            "solids M that a full creamy load holds per mm of edge where the contact is thickest",
            "mm3 per mm",
            within=(0.01, 200.0),
            called="capacity_mm3_per_mm of {name}",
            default="4.2 (3 in files before schema 7)",
        ),
    ] = 4.2
    release_mm: Annotated[
        float,
        Told(
            "own travel L after which a bin has laid all but 1/e",
            "mm",
            within=(5.0, 10000.0),
            called="release_mm of {name}",
        ),
    ] = 150.0
    fill_passes: Annotated[
        float,
        Told(
            "sweeps or presses n0 after which it is full but for 1/e",
            "sweeps",
            within=(0.2, 100.0),
            called="fill_passes of {name}",
        ),
    ] = 4.0
    splay: Annotated[
        float,
        Told("share of its width that it gains from no to full pressure", within=(0.0, 1.0), called="splay of {name}"),
    ] = 0.16
    cut_deg: Annotated[
        float,
        Told(
            "cut of an angle brush; its long toe is A, its short heel B",
            "degrees",
            within=(0.0, 60.0),
            called="cut_deg of {name}",
            since=2,
        ),
    ] = 25.0
    tip_mm: Annotated[
        float,
        Told(
            "width of the point of a round, liner or petal brush",
            "mm",
            within=(0.1, 30.0),
            called="tip_mm of {name}",
            since=2,
        ),
    ] = 0.6
    print_mm: Annotated[
        float,
        Told(
            "length of the print of a round, liner or petal brush laid down to the belly",
            "mm",
            within=(0.5, 120.0),
            called="print_mm of {name}",
            since=2,
        ),
    ] = 18.0
    drift_mm: Annotated[
        float,
        Told(
            "how far sweeps with it usually drift: what a new pick-up begins with",
            "mm",
            within=(0.0, 20.0),
            called="drift_mm of {name}",
            since=2,
        ),
    ] = 0.8
    root_share: Annotated[
        float,
        Told(
            "share of old paint that a rinse leaves in the root of the bristles; hard pressure squeezes it out",
            within=(0.0, 0.5),
            called="root_share of {name}",
            since=7,
        ),
    ] = 0.03
    own: Annotated[
        tuple[str, ...], Told("names of the constants above that you measured", since=2, count=(0, MOST_OWN))
    ] = ()

    def __post_init__(self) -> None:
        check(self)
        for name in self.own:
            if name not in CALIBRATED:
                raise OutOfRangeError(
                    phrase("an own constant of {name}", name=self.name),
                    name,
                    phrase("one of {calibrated}", calibrated=", ".join(CALIBRATED)),
                )

    def edge_mm(self, axis: GradientAxis) -> float:
        """Return the length of the loaded edge, mm: the width, or along the print from tip to belly."""
        return self.width_mm if axis is GradientAxis.ACROSS else self.print_mm
