"""A split cake: a pan of parallel colour stripes."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from pennello.errors import OutOfRangeError

STRIPES = (2, 7)
DEPTH_MM = (0.5, 60.0)
STRIPE_MM = (0.5, 120.0)
SOFTNESS_MM = (0.0, 10.0)


@dataclass(frozen=True, slots=True)
class Portion:
    """A paint and how much of it: parts of a mixture, or mm3 of dirt."""

    paint: str
    amount: float

    def __post_init__(self) -> None:
        if not 0 <= self.amount <= 1e9:
            raise OutOfRangeError(f"amount of {self.paint}", self.amount, "0 or more")


@dataclass(frozen=True, slots=True)
class Stripe:
    """One stripe of a cake.

    Attributes
    ----------
    paint
        Id of its paint.
    width_mm
        0.5 to 120 mm.
    hollow_mm
        How far its top, other paints on it included, lies below the fresh one, mm, 0 or more; at the cake's depth it
        is worn out.
    dirt
        Other paints that brushes left on top of it, mm3 of each.
    """

    paint: str
    width_mm: float
    hollow_mm: float = 0.0
    dirt: tuple[Portion, ...] = ()

    def __post_init__(self) -> None:
        if not STRIPE_MM[0] <= self.width_mm <= STRIPE_MM[1]:
            raise OutOfRangeError("stripe width", self.width_mm, "0.5 to 120 mm")
        if not 0 <= self.hollow_mm <= DEPTH_MM[1]:
            raise OutOfRangeError("hollow of a stripe", self.hollow_mm, f"0 to {DEPTH_MM[1]:g} mm")

    @property
    def dirt_mm3(self) -> float:
        """Volume of other paints on top of it, mm3."""
        return float(sum(portion.amount for portion in self.dirt))


@dataclass(frozen=True, slots=True)
class Cake:
    """A pan of stripes, left to right.

    Attributes
    ----------
    stripes
        2 to 7 stripes.
    softness_mm
        How far neighbours run into each other at a boundary: the standard deviation of the blend, 0 to 10 mm.
    length_mm
        Length of the stripes, 5 to 300 mm.
    depth_mm
        Depth of fresh paint, 0.5 to 60 mm (a default: 8).
    ombre
        Whether the tones run into each other all the way: each stripe's middle has its paint (at the walls the
        walls do), and in between they change evenly.
    """

    id: str
    name: str
    stripes: tuple[Stripe, ...]
    softness_mm: float = 0.3
    length_mm: float = 45.0
    depth_mm: float = 8.0
    ombre: bool = False

    def __post_init__(self) -> None:
        if not STRIPES[0] <= len(self.stripes) <= STRIPES[1]:
            raise OutOfRangeError(f"number of stripes of {self.name}", len(self.stripes), "2 to 7")
        if not SOFTNESS_MM[0] <= self.softness_mm <= SOFTNESS_MM[1]:
            raise OutOfRangeError(f"boundary softness of {self.name}", self.softness_mm, "0 to 10 mm")
        if not 5 <= self.length_mm <= 300:
            raise OutOfRangeError(f"length of {self.name}", self.length_mm, "5 to 300 mm")
        if not DEPTH_MM[0] <= self.depth_mm <= DEPTH_MM[1]:
            raise OutOfRangeError(f"depth of {self.name}", self.depth_mm, "0.5 to 60 mm")

    @property
    def width_mm(self) -> float:
        """Width across the stripes, mm."""
        return float(sum(stripe.width_mm for stripe in self.stripes))

    @property
    def edges_mm(self) -> tuple[float, ...]:
        """Both walls and all boundaries, from the left wall, mm; one more than there are stripes."""
        return (0.0, *(float(edge) for edge in np.cumsum([stripe.width_mm for stripe in self.stripes])))

    @property
    def paints(self) -> tuple[str, ...]:
        """Ids of its paints, each once, in order; then those of its dirt."""
        dirt = (portion.paint for stripe in self.stripes for portion in stripe.dirt)
        return tuple(dict.fromkeys([*(stripe.paint for stripe in self.stripes), *dirt]))

    @property
    def middles_mm(self) -> tuple[float, ...]:
        """Where each stripe is most itself, mm from the left wall: its middle; of an ombre's outer two, the wall."""
        edges = self.edges_mm
        middles = [(low + high) / 2 for low, high in pairwise(edges)]
        return (0.0, *middles[1:-1], edges[-1]) if self.ombre else tuple(middles)

    def left_mm3(self, stripe: int) -> float:
        """Return how much of its own paint is left in a stripe, mm3; what lies on top of it is not counted."""
        one = self.stripes[stripe]
        filled = max(0.0, self.depth_mm - one.hollow_mm) * one.width_mm * self.length_mm
        return max(0.0, filled - one.dirt_mm3)
