"""One visit of the brush to a cake or pan, as numbers per bin: what it meets, how much it exchanges.

Law of exchange (common practice, no published source): with n sweeps, m' = m e^(-n / n0) + (1 - e^(-n / n0)) M p, where
m is what a bin holds, M its capacity and p what it meets. The residue of an earlier load therefore fades by the same
factor as the new one grows.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import UnknownNameError
from pennello.kept import kept
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS, profile
from pennello.load.pickup import met_shares, part_met, stripes_reached
from pennello.load.recipe import Before, PickUp
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

TOP_LAYER_MM = 0.3
"""How deep sweeping stirs the top of a cake: where dirt lies, mm (a default)."""


@dataclass(frozen=True, slots=True, eq=False)
class Visit:
    """What happens in each bin.

    Attributes
    ----------
    stripes
        Shares of the stripes (of a pan: one) that a bin exchanges with, shape (stripes, 64), summing to 1.
    composition
        Paints in the top of each stripe, shape (stripes, paints), rows summing to 1.
    part
        Part of each bin that exchanges at all, in [0, 1], shape (64,).
    full
        What each bin holds when full, mm3 of solids per mm, shape (64,).
    turnover
        Sweeps over the brush's fill constant, n / n0.
    stays, stays_water
        Share of the residue in each bin after wiping, blotting or rinsing, shape (64,).
    wetness_water
        Volume of water taken with each volume of solids.
    taken
        Share of each bin's content that is exchanged, in [0, 1], shape (64,).
    met
        Shares of the paints met, shape (paints, 64).
    root
        Share of what was held that stays in the root of the bristles after rinsing; 1 where nothing is rinsed.
    """

    stripes: Array
    composition: Array
    part: Array
    full: Array
    turnover: float
    stays: Array
    stays_water: Array
    wetness_water: float
    taken: Array
    met: Array
    root: float = 1.0


def visit(
    pickup: PickUp, cakes: Mapping[str, Cake], brush: Applicator, axis: GradientAxis, paints: tuple[str, ...]
) -> Visit:
    """Return what a pick-up does.

    Parameters
    ----------
    paints
        Ids of the paints in the order of the result's columns; all that the source holds must be there.

    Raises
    ------
    UnknownNameError
        If the cake is not there.
    """
    cake = None if pickup.pan else find_cake(pickup.cake, cakes)
    return _visit(pickup, cake, brush, axis, paints)


@kept
def _visit(pickup: PickUp, cake: Cake | None, brush: Applicator, axis: GradientAxis, paints: tuple[str, ...]) -> Visit:
    part = part_met(pickup, brush, axis)
    full = brush.capacity_mm3_per_mm * pickup.wetness.solids * profile(brush, axis)
    turnover = pickup.passes / brush.fill_passes
    stays, stays_water = _residue(pickup.before, part)
    stripes: Array
    if cake is None:
        stripes, composition = np.ones((1, BINS)), _pan_composition(pickup, paints)
    else:
        stripes, over = met_shares(pickup, cake, brush, axis)
        reach = stripes_reached(cake)
        if min(reach) < 1:
            reached = stripes * reach[:, None]
            total = reached.sum(axis=0)
            over = over * total
            stripes = np.divide(reached, total, out=stripes.copy(), where=total > 0)
        part = part * over
        if any(stripe.dirt for stripe in cake.stripes):
            gross = stripes @ (part * full) * (turnover * brush.edge_mm(axis) / BINS)
            composition = top_composition(cake, gross, paints)
        else:
            composition = _clean_composition(tuple(paints.index(stripe.paint) for stripe in cake.stripes), len(paints))
    taken, met = part * (1 - math.exp(-turnover)), composition.T @ stripes
    root = brush.root_share**pickup.before.rinses if pickup.before.rinses else 1.0
    return Visit(stripes, composition, part, full, turnover, stays, stays_water, pickup.wetness.water, taken, met, root)


def _residue(before: Before, part: Array) -> tuple[Array, Array]:
    """Return which share of solids and of water stays in each bin before a pick-up."""
    if before is Before.BLOT:
        return 1 - part * (1 - before.keeps), 1 - part * (1 - before.keeps_water)
    return np.full(BINS, before.keeps), np.full(BINS, before.keeps_water)


def find_cake(name: str, cakes: Mapping[str, Cake]) -> Cake:
    """Return a cake by id; raises UnknownNameError."""
    if name not in cakes:
        raise UnknownNameError(phrase("cake"), name, sorted(cakes))
    return cakes[name]


def stirred_mm3(cake: Cake, gross: Array) -> Array:
    """Return the volume of each stripe that a visit stirs, mm3: its top layer, or all that is exchanged if more."""
    layers = np.array([stripe.width_mm * cake.length_mm * TOP_LAYER_MM for stripe in cake.stripes])
    dirt = np.array([stripe.dirt_mm3 for stripe in cake.stripes])
    return np.asarray(np.maximum(np.maximum(layers, gross), dirt))


def top_composition(cake: Cake, gross: Array, paints: tuple[str, ...]) -> Array:
    """Return the paints in the top of each stripe, dirt with them, shape (stripes, paints), rows summing to 1.

    Parameters
    ----------
    gross
        What a visit exchanges with each stripe, mm3.
    """
    composition = np.zeros((len(cake.stripes), len(paints)))
    stirred = stirred_mm3(cake, gross)
    for index, stripe in enumerate(cake.stripes):
        composition[index, paints.index(stripe.paint)] = 1 - stripe.dirt_mm3 / stirred[index]
        for portion in stripe.dirt:
            composition[index, paints.index(portion.paint)] += portion.amount / stirred[index]
    return composition


@kept
def _clean_composition(rows: tuple[int, ...], paints: int) -> Array:
    composition: Array = np.eye(paints)[list(rows)]
    return composition


def _pan_composition(pickup: PickUp, paints: tuple[str, ...]) -> Array:
    composition: Array = np.zeros((1, len(paints)))
    total = sum(portion.amount for portion in pickup.pan)
    for portion in pickup.pan:
        composition[0, paints.index(portion.paint)] += portion.amount / total
    return composition
