"""A split cake: a pan of parallel colour stripes."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from pennello.errors import OutOfRangeError

STRIPES = (2, 7)
STRIPE_MM = (0.5, 120.0)
LEAST_DRAGGED_STRIPE_MM = 1.0
SOFTNESS_MM = (0.0, 10.0)


@dataclass(frozen=True, slots=True)
class Stripe:
    """One stripe: the id of its paint and its width in mm (0.5 to 120)."""

    paint: str
    width_mm: float

    def __post_init__(self) -> None:
        if not STRIPE_MM[0] <= self.width_mm <= STRIPE_MM[1]:
            raise OutOfRangeError("stripe width", self.width_mm, "0.5 to 120 mm")


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
        Length of the stripes, 5 to 300 mm; only drawn.
    """

    id: str
    name: str
    stripes: tuple[Stripe, ...]
    softness_mm: float = 0.3
    length_mm: float = 45.0

    def __post_init__(self) -> None:
        if not STRIPES[0] <= len(self.stripes) <= STRIPES[1]:
            raise OutOfRangeError(f"number of stripes of {self.name}", len(self.stripes), "2 to 7")
        if not SOFTNESS_MM[0] <= self.softness_mm <= SOFTNESS_MM[1]:
            raise OutOfRangeError(f"boundary softness of {self.name}", self.softness_mm, "0 to 10 mm")
        if not 5 <= self.length_mm <= 300:
            raise OutOfRangeError(f"length of {self.name}", self.length_mm, "5 to 300 mm")

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
        """Ids of its paints, each once, in order."""
        return tuple(dict.fromkeys(stripe.paint for stripe in self.stripes))


def with_boundary(cake: Cake, boundary: int, at_mm: float) -> Cake:
    """Return the cake with an inner boundary moved; its two stripes trade width and keep at least 1 mm each.

    Parameters
    ----------
    boundary
        Which one: 1 is between the first and the second stripe.
    at_mm
        Where it should lie, mm from the left wall; clipped to what the two stripes allow.
    """
    edges = cake.edges_mm
    low, high = edges[boundary - 1] + LEAST_DRAGGED_STRIPE_MM, edges[boundary + 1] - LEAST_DRAGGED_STRIPE_MM
    at = min(max(at_mm, low), high) if low <= high else edges[boundary]
    stripes = list(cake.stripes)
    stripes[boundary - 1] = replace(stripes[boundary - 1], width_mm=at - edges[boundary - 1])
    stripes[boundary] = replace(stripes[boundary], width_mm=edges[boundary + 1] - at)
    return replace(cake, stripes=tuple(stripes))
