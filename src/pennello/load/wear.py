"""Cakes that live: what a load takes out of the stripes and what the brush leaves on them.

While the brush sweeps, paint goes both ways: with T = n / n0 a bin takes M p T and gives back what it holds on the
way, m0 (1 - e^-T) + M p (T - 1 + e^-T), to the stripes under it. What the brush gains is what the cake loses.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.kit.contact import BINS
from pennello.load.edge import LoadedEdge, before_load, exchanged
from pennello.load.pickup import stripes_reached
from pennello.load.recipe import Recipe
from pennello.load.visit import Visit, stirred_mm3, visit

Array = NDArray[np.floating[Any]]

CLEAN_TOP_MM = 0.3
"""How much a damp sponge takes off with the dirty layer, mm (a default)."""

_LEAST_DIRT_MM3 = 1e-9


@dataclass(frozen=True, slots=True, eq=False)
class CakeUse:
    """What one load does to one cake, mm3 of each paint out of each stripe (negative: left on it).

    Attributes
    ----------
    paints
        Ids, in the order of the columns.
    lost
        Shape (stripes, paints).
    """

    paints: tuple[str, ...]
    lost: Array


def cake_use(
    recipe: Recipe, cakes: Mapping[str, Cake], brush: Applicator, residue: LoadedEdge | None = None
) -> tuple[LoadedEdge, dict[str, CakeUse]]:
    """Return the loaded edge and what the load took from each cake that it visited."""
    edge = before_load(recipe, cakes, brush, residue)
    uses: dict[str, CakeUse] = {}
    for pickup in recipe.laid:
        by = visit(pickup, cakes, brush, edge.axis, edge.paints)
        if pickup.cake:
            lost = _lost(by, edge)
            before = uses.get(pickup.cake)
            uses[pickup.cake] = CakeUse(edge.paints, lost + before.lost if before else lost)
        edge = exchanged(edge, by)
    return edge, uses


def _lost(by: Visit, edge: LoadedEdge) -> Array:
    """Return what the stripes lose to the brush, mm3, shape (stripes, paints)."""
    bin_mm, gone = edge.width_mm / BINS, 1 - math.exp(-by.turnover)
    taken = (by.stripes * (by.part * by.full * by.turnover)).sum(axis=1)[:, None] * by.composition
    given = by.part * (edge.solids * by.stays * gone + by.full * by.met * (by.turnover - gone))
    return np.asarray((taken - by.stripes @ given.T) * bin_mm)


def worn(cake: Cake, use: CakeUse) -> Cake:
    """Return the cake after a use: hollower, and dirty where other paints were left."""
    stripes = tuple(
        _worn_stripe(cake, stripe, dict(zip(use.paints, lost, strict=True)))
        for stripe, lost in zip(cake.stripes, use.lost.tolist(), strict=True)
    )
    return replace(cake, stripes=stripes)


def _worn_stripe(cake: Cake, stripe: Stripe, lost: dict[str, float]) -> Stripe:
    """Return a stripe after a use: it sinks by what it lost in all; paint that was left on it fills it up again."""
    area = stripe.width_mm * cake.length_mm
    hollow = stripe.hollow_mm + sum(lost.values()) / area
    lost.pop(stripe.paint, None)
    dirt = {portion.paint: portion.amount for portion in stripe.dirt}
    for paint, amount in lost.items():
        dirt[paint] = dirt.get(paint, 0.0) - amount
    kept = tuple(Portion(paint, amount) for paint, amount in dirt.items() if amount > _LEAST_DIRT_MM3)
    return replace(stripe, hollow_mm=min(max(hollow, 0.0), cake.depth_mm), dirt=kept)


def cleaned(cake: Cake) -> Cake:
    """Return the cake after a damp sponge took the dirty layer off, and 0.3 mm (a default) of dirty stripes with it."""

    def clean(stripe: Stripe) -> Stripe:
        off_mm = CLEAN_TOP_MM + stripe.dirt_mm3 / (stripe.width_mm * cake.length_mm)
        return replace(stripe, hollow_mm=min(stripe.hollow_mm + off_mm, cake.depth_mm), dirt=())

    return replace(cake, stripes=tuple(clean(stripe) if stripe.dirt else stripe for stripe in cake.stripes))


def refilled(cake: Cake) -> Cake:
    """Return the cake as new."""
    return replace(cake, stripes=tuple(replace(stripe, hollow_mm=0.0, dirt=()) for stripe in cake.stripes))


def worn_out(cake: Cake) -> tuple[int, ...]:
    """Return which stripes a brush does not reach any more, in full or in part."""
    return tuple(int(index) for index in np.flatnonzero(stripes_reached(cake) < 1))


def dirt_share(cake: Cake) -> Array:
    """Return how much of each stripe's top layer is other paint, in [0, 1], shape (stripes,)."""
    dirt = np.array([stripe.dirt_mm3 for stripe in cake.stripes])
    return np.asarray(dirt / stirred_mm3(cake, np.zeros(len(cake.stripes))))


def loads_left(cake: Cake, use: CakeUse) -> tuple[float, ...]:
    """Return how many more such loads each stripe has paint for; infinite where the load takes nothing of it."""
    taken = use.lost.sum(axis=1).tolist()
    return tuple(cake.left_mm3(index) / lost if lost > 1e-9 else math.inf for index, lost in enumerate(taken))
