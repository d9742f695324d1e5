"""A split cake: a pan of parallel colour stripes."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

import numpy as np

from pennello.record import Told, check

STRIPES = (2, 7)
MOST_DIRT = 2000
DEPTH_MM = (0.5, 60.0)
STRIPE_MM = (0.5, 120.0)
SOFTNESS_MM = (0.0, 10.0)


@dataclass(frozen=True, slots=True)
class Portion:
    """A paint and how much of it: parts of a mixture, or mm3 of dirt."""

    paint: Annotated[str, Told("id of a paint", text="id")]
    amount: Annotated[float, Told("how much", within=(0.0, 1e9), called="amount of {paint}")]

    def __post_init__(self) -> None:
        check(self)


@dataclass(frozen=True, slots=True)
class Stripe:
    """One stripe of a cake; at a hollow as deep as the cake it is worn out, paints on its top included."""

    paint: Annotated[str, Told("id of its paint", text="id")]
    width_mm: Annotated[float, Told("its width", "mm", within=STRIPE_MM, called="stripe width")]
    hollow_mm: Annotated[
        float, Told("how deep it is worn", "mm", within=(0.0, DEPTH_MM[1]), called="hollow of a stripe", since=2)
    ] = 0.0
    dirt: Annotated[
        tuple[Portion, ...],
        Told("other paints that brushes left on top of it", since=2, count=(0, MOST_DIRT), keys={"amount": "mm3"}),
    ] = ()

    def __post_init__(self) -> None:
        check(self)

    @property
    def dirt_mm3(self) -> float:
        """Volume of other paints on top of it, mm3."""
        return float(sum(portion.amount for portion in self.dirt))


@dataclass(frozen=True, slots=True)
class Cake:
    """A pan of stripes, left to right.

    An ombre's stripes have their own paint in the middle (at the walls the walls do); in between they change evenly.
    """

    id: Annotated[str, Told("key within a plan", text="id")]
    name: Annotated[str, Told("the name shown", text="name", in_file="", default="the id")]
    stripes: Annotated[tuple[Stripe, ...], Told("left to right", count=STRIPES, called="stripes of {name}")]
    softness_mm: Annotated[
        float,
        Told(
            "standard deviation of the blend that the cake itself has at a boundary",
            "mm",
            within=SOFTNESS_MM,
            called="boundary softness of {name}",
        ),
    ] = 0.3
    length_mm: Annotated[
        float,
        Told(
            "length of the stripes; with the depth it says how much paint there is",
            "mm",
            within=(5.0, 300.0),
            called="length of {name}",
        ),
    ] = 45.0
    depth_mm: Annotated[
        float, Told("depth of fresh paint", "mm", within=DEPTH_MM, called="depth of {name}", since=2)
    ] = 8.0
    ombre: Annotated[bool, Told("the tones run into each other all the way, from middle to middle", since=2)] = False

    def __post_init__(self) -> None:
        check(self)

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
