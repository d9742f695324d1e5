"""A brush and what it holds. The constants that nobody in the trade states are marked defaults, to be calibrated."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from pennello.errors import OutOfRangeError


class ApplicatorKind(Enum):
    """Kinds of applicator."""

    FLAT = "flat"


_RANGES = {
    "width_mm": (1.0, 120.0),
    "thickness_mm": (0.2, 30.0),
    "bristle_mm": (2.0, 80.0),
    "capacity_mm3_per_mm": (0.01, 100.0),
    "release_mm": (5.0, 5000.0),
    "fill_passes": (0.2, 100.0),
    "splay": (0.0, 1.0),
}


@dataclass(frozen=True, slots=True)
class Applicator:
    """A flat brush.

    Attributes
    ----------
    width_mm
        Chisel width W, 1 to 120 mm.
    thickness_mm
        Chisel thickness t at the tip under medium pressure, 0.2 to 30 mm (a default: 2).
    bristle_mm
        Bristle length from the ferrule, 2 to 80 mm; only drawn.
    capacity_mm3_per_mm
        Solids that a full creamy load holds per mm of edge, mm3 (a default: 3).
    release_mm
        Own travel after which a bin has laid all but 1/e of its paint, mm (a default: 150).
    fill_passes
        Sweeps over the cake after which the brush is full but for 1/e (a default: 4).
    splay
        Share of its width that the chisel gains from no pressure to full pressure (a default: 0.16).
    """

    id: str
    name: str
    width_mm: float
    kind: ApplicatorKind = ApplicatorKind.FLAT
    thickness_mm: float = 2.0
    bristle_mm: float = 17.0
    capacity_mm3_per_mm: float = 3.0
    release_mm: float = 150.0
    fill_passes: float = 4.0
    splay: float = 0.16

    def __post_init__(self) -> None:
        for name, (low, high) in _RANGES.items():
            value = getattr(self, name)
            if not low <= value <= high:
                raise OutOfRangeError(f"{name} of {self.name}", value, f"{low:g} to {high:g}")

    def contact_width_mm(self, pressure: float) -> float:
        """Return the chisel's width on the skin, mm, at a pressure in [0, 1]; W at 0.5."""
        return self.width_mm * (1 + self.splay * (pressure - 0.5))

    def contact_thickness_mm(self, pressure: float) -> float:
        """Return the chisel's thickness on the skin, mm, at a pressure in [0, 1]; t at 0.5."""
        return self.thickness_mm * (0.5 + pressure)

    def release_rate(self, pressure: float) -> float:
        """Return how much faster than at medium pressure the brush gives paint, at a pressure in [0, 1]."""
        return 0.5 + pressure
