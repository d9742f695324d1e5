"""A fast forecast for other loads of the same stroke.

What a stroke does with a bin's paint does not depend on the paint, so one laid stroke gives the thickness that
each unit of load leaves at each station; another load then only needs mixing and a film. Levelling across the
edge is included. Used to search; what is proposed is laid for real.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import Comparison
from pennello.colour.basis import small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.kubelka_munk import film
from pennello.kept import remembered
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS
from pennello.kit.paint import optics
from pennello.lay.deposit import LEVELLING_MM
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
        self._goal = seen.goals[self._stations]
        held = edge.volume_mm3_per_mm
        loaded = held > 0.02 * held.max(initial=0)
        thickness = seen.film_um[self._stations]
        typical = thickness[:, loaded].mean(axis=1, keepdims=True) / held[loaded].mean() if loaded.any() else 0.0
        self._um_per_unit = np.where(loaded, thickness / np.where(loaded, held, 1), typical)
        self._basis = small_basis(_BANDS)
        self._skin = self._basis.pick(attempt.skin)

    def widen(self, cakes: Mapping[str, Cake]) -> None:
        """Let loads reach these cakes too."""
        self._attempt = replace(self._attempt, cakes={**self._attempt.cakes, **cakes})

    def mean_de00(self, recipe: Recipe) -> float:
        """Return the forecast mean dE00 of a load."""
        return float(self.differences((recipe,)).mean())

    def differences(self, recipes: Sequence[Recipe], thicker: Array | None = None) -> Array:
        """Return the forecast dE00 of loads at three stations, shape (loads, 3, 64); see `labs`."""
        return ciede2000(self.labs(recipes, thicker), self._goal)

    def labs(self, recipes: Sequence[Recipe], thicker: Array | None = None) -> Array:
        """Return the forecast colours of loads as L*, a*, b*, shape (loads, 3, 64, 3).

        Parameters
        ----------
        recipes
            Loads from the same cakes and pans.
        thicker
            How much thicker the film of each is than the stroke leaves it otherwise, shape (loads,).
        """
        here = self._attempt
        edges = [load(recipe, here.cakes, here.brush, here.residue) for recipe in recipes]
        constants = optics(tuple(here.paints[name] for name in edges[0].paints)).at(self._basis)
        held = np.array([edge.solids for edge in edges])
        levelled = held @ levelling_matrix(edges[0].width_mm)
        thickness = self._um_per_unit[None] * (1.0 if thicker is None else thicker[:, None, None])
        kx = (levelled.transpose(0, 2, 1) @ constants.k)[:, None] * thickness[..., None]
        sx = (levelled.transpose(0, 2, 1) @ constants.s)[:, None] * thickness[..., None]
        return self._basis.lab(film(kx, sx, self._skin))


@remembered(32)
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
