"""The loaded edge: 64 bins of paints, filled by one visit after another."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kept import kept
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS
from pennello.load.gaussian import WIDTH_10_90, probit
from pennello.load.recipe import Recipe
from pennello.load.visit import Visit, find_cake, visit

Array = NDArray[np.floating[Any]]


@dataclass(frozen=True, slots=True, eq=False)
class LoadedEdge:
    """What the brush holds, bin by bin from A to B.

    Attributes
    ----------
    paints
        Ids of the paints, in the order of the rows below.
    solids
        Solids per mm of edge, mm3/mm, shape (paints, 64), >= 0.
    water
        Water per mm of edge, mm3/mm, shape (64,).
    width_mm
        Length of the edge, mm: the width of the chisel, or of the print from tip to belly.
    axis
        Which of the two.
    root
        Old paint in the root of the bristles after a rinse, which no cake reaches: solids per mm of edge, shape
        (paints, 64); None where there is none.
    """

    paints: tuple[str, ...]
    solids: Array
    water: Array
    width_mm: float
    axis: GradientAxis = GradientAxis.ACROSS
    root: Array | None = None

    @property
    def volume_mm3_per_mm(self) -> Array:
        """Solids per mm of edge, shape (64,)."""
        return np.asarray(self.solids.sum(axis=0))

    @property
    def share(self) -> Array:
        """Shares by volume in [0, 1], shape (paints, 64); they sum to 1 wherever anything is loaded."""
        total = self.volume_mm3_per_mm
        return np.divide(self.solids, total, out=np.zeros_like(self.solids), where=total > 0)

    @property
    def total_mm3(self) -> float:
        """Solids on the whole edge, mm3."""
        return float(self.solids.sum()) * self.width_mm / BINS


@dataclass(frozen=True, slots=True)
class Boundary:
    """Where one paint hands over to the next along the edge: from A's side to B's, mm from A, and its 10-90 width."""

    from_paint: str
    to_paint: str
    at_mm: float
    width_10_90_mm: float


def clean_edge(brush: Applicator, paints: tuple[str, ...] = (), axis: GradientAxis = GradientAxis.ACROSS) -> LoadedEdge:
    """Return the edge of a rinsed brush."""
    return LoadedEdge(paints, np.zeros((len(paints), BINS)), np.zeros(BINS), brush.edge_mm(axis), axis)


def axis_of(recipe: Recipe, brush: Applicator, residue: LoadedEdge | None) -> GradientAxis:
    """Return which way the edge runs: as the recipe loads it, or as it did where a stroke goes on with a leftover."""
    return recipe.axis(brush) if recipe.pickups or residue is None else residue.axis


def load(recipe: Recipe, cakes: Mapping[str, Cake], brush: Applicator, residue: LoadedEdge | None = None) -> LoadedEdge:
    """Return the edge after all pick-ups of a recipe.

    Parameters
    ----------
    cakes
        Cakes by id; those that the recipe names must be there.
    residue
        What the brush held before, or None for a clean brush.

    Raises
    ------
    UnknownNameError
        If the recipe names a cake that is not there.
    """
    edge = before_load(recipe, cakes, brush, residue)
    for pickup in recipe.laid:
        edge = exchanged(edge, visit(pickup, cakes, brush, edge.axis, edge.paints))
    return edge


def stages(
    recipe: Recipe, cakes: Mapping[str, Cake], brush: Applicator, residue: LoadedEdge | None = None
) -> tuple[LoadedEdge, ...]:
    """Return the edge after each pick-up in order; one of the other face leaves the laying face as it is."""
    edge, found = before_load(recipe, cakes, brush, residue), []
    for pickup in recipe.pickups:
        if pickup.face is recipe.lays:
            edge = exchanged(edge, visit(pickup, cakes, brush, edge.axis, edge.paints))
        found.append(edge)
    return tuple(found)


def kept_share(recipe: Recipe, cakes: Mapping[str, Cake], brush: Applicator) -> Array:
    """Return what a load leaves in each bin of what was in the brush before, in [0, 1], shape (64,)."""
    paints = before_load(recipe, cakes, brush, None).paints
    kept = np.ones(BINS)
    for pickup in recipe.laid:
        by = visit(pickup, cakes, brush, recipe.axis(brush), paints)
        kept = kept * by.stays * (1 - by.taken)
    return kept


def before_load(recipe: Recipe, cakes: Mapping[str, Cake], brush: Applicator, residue: LoadedEdge | None) -> LoadedEdge:
    """Return what the brush holds when the load begins, with rows for all paints that it will meet."""
    axis = axis_of(recipe, brush, residue)
    met = (paint for name in recipe.cakes for paint in find_cake(name, cakes).paints)
    paints = tuple(dict.fromkeys([*(residue.paints if residue else ()), *met, *recipe.pan_paints]))
    return _spread(residue, paints, axis, brush) if residue else clean_edge(brush, paints, axis)


def _spread(edge: LoadedEdge, paints: tuple[str, ...], axis: GradientAxis, brush: Applicator) -> LoadedEdge:
    """Return the edge with rows for more paints; where the axis is another one, all its paint spread evenly."""
    length = brush.edge_mm(axis)
    rows = [paints.index(name) for name in edge.paints]
    solids, root = np.zeros((len(paints), BINS)), None
    solids[rows] = edge.solids
    water = edge.water
    if edge.root is not None:
        root = np.zeros((len(paints), BINS))
        root[rows] = edge.root
    if edge.axis is not axis:
        if root is not None:
            root = np.repeat(root.mean(axis=1, keepdims=True), BINS, axis=1) * edge.width_mm / length
        solids = np.repeat(solids.mean(axis=1, keepdims=True), BINS, axis=1) * edge.width_mm / length
        water = np.full(BINS, edge.water.mean() * edge.width_mm / length)
    return LoadedEdge(paints, solids, water, length, axis, root)


def exchanged(edge: LoadedEdge, by: Visit, met: Array | None = None) -> LoadedEdge:
    """Return the edge after a visit; `met` may replace what it meets, shape (paints, 64)."""
    new, kept = by.taken * by.full, 1 - by.taken
    solids = edge.solids * (by.stays * kept) + new * (by.met if met is None else met)
    water = edge.water * (by.stays_water * kept) + new * by.wetness_water
    return LoadedEdge(edge.paints, solids, water, edge.width_mm, edge.axis, _root(edge, by))


def _root(edge: LoadedEdge, by: Visit) -> Array | None:
    """Return what is in the root after a visit: a rinse leaves a share of all that was held."""
    if by.root >= 1:
        return edge.root
    held = edge.solids if edge.root is None else edge.solids + edge.root
    root = held * by.root
    return root if root.any() else None


def bled(edge: LoadedEdge, pressure: float) -> LoadedEdge:
    """Return the edge with what hard pressure squeezes out of the root: nothing up to 0.5, all of it at 1."""
    hard = min(max(2 * pressure - 1, 0.0), 1.0)
    if edge.root is None or hard <= 0:
        return edge
    return replace(edge, solids=edge.solids + hard * edge.root, root=(1 - hard) * edge.root)


@kept
def boundaries(edge: LoadedEdge) -> tuple[Boundary, ...]:
    """Return where paints hand over along the edge, from A to B.

    The ratio of two neighbours runs from 0 to 1 across their boundary; its 10, 50 and 90 % points are found on
    the normal-quantile scale, where a normal blend is a straight line, and the width of a bin is taken off
    again. Where two paints never reach 10 and 90 % the blend counts as wide as the edge at most.
    """
    share = edge.share
    loaded = np.flatnonzero(edge.volume_mm3_per_mm > 0)
    if not len(loaded):
        return ()
    leader = share[:, loaded].argmax(axis=0)
    steps = np.flatnonzero(np.diff(leader))
    return tuple(_boundary(edge, share, loaded, leader, int(step)) for step in steps)


def _boundary(
    edge: LoadedEdge, share: Array, loaded: NDArray[np.intp], leader: NDArray[np.intp], step: int
) -> Boundary:
    one, two = int(leader[step]), int(leader[step + 1])
    pair = share[one, loaded] + share[two, loaded]
    ratio = np.divide(share[two, loaded], pair, out=np.full(len(loaded), 0.5), where=pair > 0)
    start = step
    while start > 0 and ratio[start - 1] < ratio[start] and ratio[start] > 1e-4:
        start -= 1
    end = step + 1
    while end < len(loaded) - 1 and ratio[end + 1] > ratio[end] and ratio[end] < 1 - 1e-4:
        end += 1
    at = ((loaded[start : end + 1]) + 0.5) * edge.width_mm / BINS
    z = probit(np.clip(ratio[start : end + 1], 1e-6, 1 - 1e-6))
    low, middle, high = (_crossing(at, z, level) for level in (-WIDTH_10_90 / 2, 0.0, WIDTH_10_90 / 2))
    bin_part = (WIDTH_10_90 * edge.width_mm / BINS) ** 2 / 12
    width = math.sqrt(max((high - low) ** 2 - bin_part, 0.0))
    return Boundary(edge.paints[one], edge.paints[two], middle, min(width, edge.width_mm))


def _crossing(at: Array, z: Array, level: float) -> float:
    """Return where z, which rises, reaches a level; carried on straight beyond the last two points."""
    i = int(np.clip(np.searchsorted(z, level), 1, len(z) - 1))
    slope = (z[i] - z[i - 1]) / (at[i] - at[i - 1])
    return float(at[i - 1] + (level - z[i - 1]) / slope)
