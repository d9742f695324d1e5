"""How far one real load strays from the mean: the hand lands beside the mark, turned, sweeps too often or too seldom.

And sweeps drift, each its own way, and only the last few count: a load of n sweeps is a mean of single sweeps weighted
by e^(-k / n0) from the last one back. Seeded, so that the same load always shows the same band. Common practice, no
published source, for the mechanism; the sizes of the slips are the hand's, defaults until they are measured.
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
from pennello.load.recipe import PASSES, SKEW_DEG, PickUp, Recipe, Way
from pennello.load.visit import Visit, find_cake, visit

Array = NDArray[np.floating[Any]]

TRIES = 240
SEED = 20260
_MOST_SWEEPS_BACK = 8.0  # fill constants: earlier sweeps weigh under e^-8
_GRID_MM = 0.1


@dataclass(frozen=True, slots=True)
class Slips:
    """Standard deviations of what a hand does otherwise than meant while it loads.

    Attributes
    ----------
    offset_mm
        Where the brush lands on the cake, mm, >= 0.
    skew_deg
        How square it lies to the stripes, degrees, >= 0.
    drift_share
        How much more or less it drifts than meant, as a share (of the logarithm), >= 0.
    passes
        Sweeps too many or too few, >= 0.
    """

    offset_mm: float = 0.8
    skew_deg: float = 3.0
    drift_share: float = 0.25
    passes: float = 1.5


STEADY_AS_A_ROCK = Slips(0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True, eq=False)
class Band:
    """Where 8 of 10 real loads lie at each place of the edge.

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
    slips: Slips | None = None,
) -> Band:
    """Return the band of a load.

    Parameters
    ----------
    tries
        How many real loads to look at, 2 or more.
    seed
        The same seed gives the same band.
    slips
        Of the hand that loads; a usual one by default.
    """
    rng = np.random.default_rng(seed)
    start = before_load(recipe, cakes, brush, residue)
    slipped = _Slipped.drawn(slips or Slips(), tries, rng)
    visits = [(pickup, visit(pickup, cakes, brush, start.axis, start.paints)) for pickup in recipe.laid]
    drifts = [_drifted(pickup, by, cakes, brush, start.axis, rng, slipped) for pickup, by in visits]
    sweeps = [slipped.sweeps(pickup) for pickup, _ in visits]
    shares = []
    for number in range(tries):
        edge = start
        for (_, by), met, made in zip(visits, drifts, sweeps, strict=True):
            taken = by.part * (1 - math.exp(-float(made[number]) / brush.fill_passes))
            edge = exchanged(edge, replace(by, taken=taken), met[number] if met is not None else None)
        shares.append(edge.share)
    ordered = np.sort(np.array(shares), axis=0)
    low, high = (ordered[round(level * (tries - 1))] for level in (0.1, 0.9))
    return Band(start.paints, low, high, np.array(shares))


@dataclass(frozen=True, slots=True, eq=False)
class _Slipped:
    """What each try does otherwise than meant, shape (tries,) each: the same in all pick-ups of a load."""

    offset_mm: Array
    skew_deg: Array
    drift: Array
    passes: Array

    @classmethod
    def drawn(cls, slips: Slips, tries: int, rng: np.random.Generator) -> _Slipped:
        """Draw the tries."""
        offset, skew, drift, passes = rng.standard_normal((4, tries))
        return cls(
            offset * slips.offset_mm,
            skew * slips.skew_deg,
            np.exp(drift * slips.drift_share),
            passes * slips.passes,
        )

    def sweeps(self, pickup: PickUp) -> Array:
        """Return how many sweeps each try makes."""
        return np.asarray(np.clip(pickup.passes + self.passes, min(1.0, pickup.passes), PASSES[1]))


def _drifted(
    pickup: PickUp,
    by: Visit,
    cakes: Mapping[str, Cake],
    brush: Applicator,
    axis: GradientAxis,
    rng: np.random.Generator,
    slipped: _Slipped,
) -> Array | None:
    """Return what each try meets, shape (tries, paints, 64); None where nothing can drift."""
    if not pickup.cake or axis is GradientAxis.ALONG or pickup.way is Way.ROLL:
        return None
    cake, sweeps = find_cake(pickup.cake, cakes), slipped.sweeps(pickup)
    back = max(1, min(round(float(sweeps.max())), math.ceil(_MOST_SWEEPS_BACK * brush.fill_passes)))
    weights = np.exp(-np.arange(back) / brush.fill_passes) * (np.arange(back)[None] < np.maximum(sweeps, 1.0)[:, None])
    weights /= weights.sum(axis=1, keepdims=True)
    strays = rng.standard_normal((len(sweeps), back)) * (pickup.drift_mm * slipped.drift)[:, None]
    edges = bin_edges_mm(pickup, brush)
    table_mm, table = _table(cake, replace(pickup, drift_mm=0.0), brush, edges)
    at = _places(edges, pickup, slipped)[:, None, :] + strays[:, :, None]
    seen = np.stack([np.interp(at, table_mm, row) for row in table], axis=1)  # (tries, stripes, back, bins)
    stripes = np.einsum("tskb,tk->tsb", seen, weights)
    if pickup.flip:
        stripes = stripes[:, :, ::-1]
    stripes = stripes * stripes_reached(cake)[None, :, None]
    total = stripes.sum(axis=1, keepdims=True)
    stripes = np.divide(stripes, total, out=np.zeros_like(stripes), where=total > 0)
    return np.asarray(np.einsum("tsb,sp->tpb", stripes, by.composition))


def _places(edges: Array, pickup: PickUp, slipped: _Slipped) -> Array:
    """Return where each try's bins lie on the cake before sweeps drift, mm, shape (tries, 64)."""
    centres = (edges[:-1] + edges[1:]) / 2
    turned = np.clip(pickup.skew_deg + slipped.skew_deg, *SKEW_DEG)
    closer = np.cos(np.radians(turned)) / math.cos(math.radians(pickup.skew_deg))
    return np.asarray(centres.mean() + slipped.offset_mm[:, None] + closer[:, None] * (centres - centres.mean())[None])


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
