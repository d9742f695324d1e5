"""How far one real load strays from the mean: sweeps drift, each its own way, and only the last few count.

A load of n sweeps is a mean of single sweeps weighted by e^(-k / n0) from the last one back, so more sweeps narrow
the band until about 2 n0 of them; seeded, so that the same load always shows the same band. Common practice, no
published source, for the mechanism.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.load.edge import LoadedEdge, before_load, exchanged
from pennello.load.pickup import bin_edges_mm, blur_mm, blurred_stripes, stripes_reached
from pennello.load.recipe import PickUp, Recipe, Way
from pennello.load.visit import Visit, find_cake, visit

Array = NDArray[np.floating[Any]]

TRIES = 48
SEED = 20260
_MOST_SWEEPS_BACK = 8.0  # fill constants: earlier sweeps weigh under e^-8
_GRID_MM = 0.1


@dataclass(frozen=True, slots=True, eq=False)
class Band:
    """Where 8 of 10 real loads lie.

    Attributes
    ----------
    low, high
        10 and 90 % of the shares, shape (paints, 64).
    tries
        The loads themselves, shape (tries, paints, 64).
    """

    paints: tuple[str, ...]
    low: Array
    high: Array
    tries: Array

    @property
    def widest(self) -> float:
        """The widest spread between low and high, in share."""
        return float((self.high - self.low).max(initial=0))


def scatter_band(
    recipe: Recipe,
    cakes: Mapping[str, Cake],
    brush: Applicator,
    residue: LoadedEdge | None = None,
    *,
    tries: int = TRIES,
    seed: int = SEED,
) -> Band:
    """Return the band of a load.

    Parameters
    ----------
    tries
        How many real loads to look at, 2 or more.
    seed
        The same seed gives the same band.
    """
    rng = np.random.default_rng(seed)
    start = before_load(recipe, cakes, brush, residue)
    visits = [(pickup, visit(pickup, cakes, brush, start.axis, start.paints)) for pickup in recipe.laid]
    drifts = [_drifted(pickup, by, cakes, brush, start.axis, rng, tries) for pickup, by in visits]
    shares = []
    for number in range(tries):
        edge = start
        for (_, by), met in zip(visits, drifts, strict=True):
            edge = exchanged(edge, by, met[number] if met is not None else None)
        shares.append(edge.share)
    ordered = np.sort(np.array(shares), axis=0)
    low, high = (ordered[round(level * (tries - 1))] for level in (0.1, 0.9))
    return Band(start.paints, low, high, np.array(shares))


def _drifted(
    pickup: PickUp,
    by: Visit,
    cakes: Mapping[str, Cake],
    brush: Applicator,
    axis: GradientAxis,
    rng: np.random.Generator,
    tries: int,
) -> Array | None:
    """Return what each try meets, shape (tries, paints, 64); None where nothing can drift."""
    if not pickup.cake or axis is GradientAxis.ALONG or pickup.way is Way.ROLL or pickup.drift_mm == 0:
        return None
    cake = find_cake(pickup.cake, cakes)
    back = max(1, min(round(pickup.passes), math.ceil(_MOST_SWEEPS_BACK * brush.fill_passes)))
    weights = np.exp(-np.arange(back) / brush.fill_passes)
    strays = rng.normal(0.0, pickup.drift_mm, (tries, back))
    edges = bin_edges_mm(pickup, brush)
    table_mm, table = _table(cake, replace(pickup, drift_mm=0.0), brush, edges)
    at = (edges[:-1] + edges[1:])[None, None, :] / 2 + strays[:, :, None]
    seen = np.stack([np.interp(at, table_mm, row) for row in table], axis=1)  # (tries, stripes, back, bins)
    stripes = np.einsum("tskb,k->tsb", seen, weights / weights.sum())
    if pickup.flip:
        stripes = stripes[:, :, ::-1]
    stripes = stripes * stripes_reached(cake)[None, :, None]
    total = stripes.sum(axis=1, keepdims=True)
    stripes = np.divide(stripes, total, out=np.zeros_like(stripes), where=total > 0)
    return np.asarray(np.einsum("tsb,sp->tpb", stripes, by.composition))


def _table(cake: Cake, still: PickUp, brush: Applicator, edges: Array) -> tuple[Array, Array]:
    """Return the stripes that a bin meets without drift, at places every 0.1 mm: mm, and shape (stripes, places)."""
    reach = 25.0  # further than any hand drifts
    sd = math.hypot(blur_mm(still, cake, brush), (edges[1] - edges[0]) / math.sqrt(12))
    grid = np.arange(edges[0] - reach, edges[-1] + reach, _GRID_MM)
    return (grid[:-1] + grid[1:]) / 2, blurred_stripes(cake, grid, sd)


def band_of(band: Band, paint: str) -> tuple[Array, Array]:
    """Return low and high of one paint, each shape (64,)."""
    row = band.paints.index(paint)
    return band.low[row], band.high[row]
