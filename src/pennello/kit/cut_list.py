"""What to cut and weigh to make a cake."""

from __future__ import annotations

from dataclasses import dataclass

from pennello.kit.cake import Cake

DENSITY_G_PER_CM3 = 1.5
"""Density of pressed cake paint, g/cm3 (a default)."""


@dataclass(frozen=True, slots=True)
class Cut:
    """One stripe to make: its place from the left wall and its size in mm, and its weight in grams."""

    paint: str
    from_mm: float
    width_mm: float
    length_mm: float
    depth_mm: float
    grams: float


def cut_list(cake: Cake) -> tuple[Cut, ...]:
    """Return the stripes of a fresh cake, left to right."""
    return tuple(
        Cut(
            stripe.paint,
            at,
            stripe.width_mm,
            cake.length_mm,
            cake.depth_mm,
            stripe.width_mm * cake.length_mm * cake.depth_mm / 1000 * DENSITY_G_PER_CM3,
        )
        for stripe, at in zip(cake.stripes, cake.edges_mm, strict=False)
    )
