"""A brush, sponge or dauber and what it holds. Constants that nobody in the trade states are marked defaults."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from pennello.errors import OutOfRangeError


class GradientAxis(Enum):
    """Which way the loaded edge runs: across the stroke from corner A to B, or along the print from tip to belly."""

    ACROSS = "across"
    ALONG = "along"


class ApplicatorKind(Enum):
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


_RANGES = {
    "width_mm": (0.5, 120.0),
    "thickness_mm": (0.2, 120.0),
    "bristle_mm": (2.0, 80.0),
    "capacity_mm3_per_mm": (0.01, 200.0),
    "release_mm": (5.0, 10000.0),
    "fill_passes": (0.2, 100.0),
    "splay": (0.0, 1.0),
    "cut_deg": (0.0, 60.0),
    "tip_mm": (0.1, 30.0),
    "print_mm": (0.5, 120.0),
    "drift_mm": (0.0, 20.0),
    "root_share": (0.0, 0.5),
}

CALIBRATED = tuple(_RANGES)
"""What a painter may have measured on his own brush; `own` names those that he has."""


@dataclass(frozen=True, slots=True)
class Applicator:
    """A brush, sponge or dauber.

    Attributes
    ----------
    width_mm
        Width W of the chisel, sponge or belly under medium pressure, 0.5 to 120 mm.
    thickness_mm
        Thickness t of the contact square to the edge under medium pressure, 0.2 to 120 mm (a default: 2).
    bristle_mm
        Bristle length from the ferrule, or height of a sponge, 2 to 80 mm: how much of it a leaned brush lays down.
    capacity_mm3_per_mm
        Solids that a full creamy load holds per mm of edge where the contact is thickest, mm3 (a default: 4.2).
    release_mm
        Own travel after which a bin has laid all but 1/e of its paint, mm (a default: 150).
    fill_passes
        Sweeps or presses on the cake after which it is full but for 1/e (a default: 4).
    splay
        Share of its width that it gains from no pressure to full pressure (a default: 0.16).
    cut_deg
        Cut of an angle brush, degrees; its long toe is corner A, its short heel corner B.
    tip_mm
        Width of the point of a round, liner or petal brush, mm (a default: 0.6).
    print_mm
        Length of the print of a round, liner or petal brush laid down to the belly, mm (a default: 18).
    drift_mm
        How far sweeps usually drift with it, mm: what a new pick-up begins with (a default: 0.8).
    root_share
        Share of what it held that a rinse leaves in the root of its bristles, 0 to 0.5 (a default: 0.03).
    own
        Names of the constants that its painter measured; all others are defaults.
    """

    id: str
    name: str
    width_mm: float
    kind: ApplicatorKind = ApplicatorKind.FLAT
    thickness_mm: float = 2.0
    bristle_mm: float = 17.0
    capacity_mm3_per_mm: float = 4.2
    release_mm: float = 150.0
    fill_passes: float = 4.0
    splay: float = 0.16
    cut_deg: float = 25.0
    tip_mm: float = 0.6
    print_mm: float = 18.0
    drift_mm: float = 0.8
    root_share: float = 0.03
    own: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        for name, (low, high) in _RANGES.items():
            value = getattr(self, name)
            if not low <= value <= high:
                raise OutOfRangeError(f"{name} of {self.name}", value, f"{low:g} to {high:g}")
        for name in self.own:
            if name not in CALIBRATED:
                raise OutOfRangeError(f"an own constant of {self.name}", name, f"one of {', '.join(CALIBRATED)}")

    def edge_mm(self, axis: GradientAxis) -> float:
        """Return the length of the loaded edge, mm: the width, or along the print from tip to belly."""
        return self.width_mm if axis is GradientAxis.ACROSS else self.print_mm
