"""A fast forecast for other loads of the same stroke.

What a stroke does with a bin's paint does not depend on the paint, so one laid stroke gives the thickness that
each unit of load leaves at each station; another load then only needs mixing and a film. Levelling across the
edge is included. Used to search; what is proposed is laid for real.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import Comparison
from pennello.colour.basis import small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.kubelka_munk import film
from pennello.kit.contact import BINS
from pennello.kit.paint import optics
from pennello.lay.deposit import LEVELLING_MM
from pennello.lay.film import optical_contents
from pennello.load.edge import LoadedEdge, load
from pennello.load.recipe import Recipe

Array = NDArray[np.floating[Any]]

_BANDS = 10


class Forecast:
    """Mean dE00 of other loads, forecast from one laid stroke.

    Parameters
    ----------
    attempt
        What was laid.
    edge
        The load that it was laid with.
    seen
        Its comparison.
    """

    def __init__(self, attempt: Attempt, edge: LoadedEdge, seen: Comparison) -> None:
        self._attempt = attempt
        self._stations = slice(1, None, 4)
        self._goal = seen.wanted_lab
        held = edge.volume_mm3_per_mm
        loaded = held > 0.02 * held.max(initial=0)
        thickness = seen.film_um[self._stations]
        typical = thickness[:, loaded].mean(axis=1, keepdims=True) / held[loaded].mean() if loaded.any() else 0.0
        self._um_per_unit = np.where(loaded, thickness / np.where(loaded, held, 1), typical)
        self._basis = small_basis(_BANDS)
        self._skin = self._basis.pick(attempt.skin)

    def mean_de00(self, recipe: Recipe) -> float:
        """Return the forecast mean dE00 of a load."""
        edge = load(recipe, self._attempt.cakes, self._attempt.brush, self._attempt.residue)
        constants = optics(tuple(self._attempt.paints[name] for name in edge.paints)).at(self._basis)
        blur = levelling_matrix(edge.width_mm)
        contents = (optical_contents(edge.solids, constants) @ blur)[None] * self._um_per_unit[:, None, :]
        kx = np.einsum("spb,pk->sbk", contents, constants.k)
        sx = np.einsum("spb,p->sb", contents, constants.s[:, 0])[..., None]
        return float(ciede2000(self._basis.lab(film(kx, sx, self._skin)), self._goal).mean())


@lru_cache(maxsize=32)
def levelling_matrix(width_mm: float) -> Array:
    """Return how levelling shares the bins' paint along the edge, shape (64, 64), columns and rows summing to 1."""
    sd = LEVELLING_MM * BINS / width_mm
    reach = max(1, math.ceil(4 * sd))
    matrix = np.zeros((BINS, BINS))
    for step in range(-reach, reach + 1):
        target = np.arange(BINS) + step
        target = np.where(target < 0, -1 - target, target)
        target = np.where(target >= BINS, 2 * BINS - 1 - target, target)
        np.add.at(matrix, (np.arange(BINS), np.clip(target, 0, BINS - 1)), math.exp(-0.5 * (step / sd) ** 2))
    return np.asarray(matrix / matrix.sum(axis=1, keepdims=True))
