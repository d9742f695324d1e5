"""Cakes as numbers, very many at once: what each lays for each wish.

A cake is up to 7 stripes of stock paints; a stroke looks at it through a window as wide as its brush, which may lie
flipped. Everything is measured from the cake's left wall, in mm, and padded with stripes of no width.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis, small_basis
from pennello.colour.kubelka_munk import film
from pennello.kit.cake import STRIPES
from pennello.kit.paint import Paint, optics
from pennello.solve.coats import SAMPLES, Goal

Array = NDArray[np.floating[Any]]

MOST_STRIPES = STRIPES[1]
LEAST_STRIPE_MM = 2.5
"""A narrower stripe is hard to lay and soon blurs away (common practice, no published source)."""

_CHUNK = 64


@dataclass(frozen=True, slots=True, eq=False)
class Look:
    """A stroke's look at the cake: its window, what is wanted in it, its coat, its blur and how much it counts."""

    width_mm: float
    goal: Goal
    coat_um: float
    blur_mm: float
    weight: float = 1.0


@dataclass(frozen=True, slots=True)
class MadeCake:
    """A cake as the search sees it: stock paints by number, widths in mm, and for each look where and whether flipped.

    `offsets_mm` are from the left wall to the window's left edge.
    """

    paints: tuple[int, ...]
    widths_mm: tuple[float, ...]
    offsets_mm: tuple[float, ...]
    flips: tuple[bool, ...]

    @property
    def width_mm(self) -> float:
        """Width across the stripes, mm."""
        return sum(self.widths_mm)


class Space:
    """Rates cakes made of a stock against looks.

    Parameters
    ----------
    stock
        Paints to make cakes of.
    skin
        Reflectance at 36 bands.
    """

    def __init__(self, stock: Sequence[Paint], looks: Sequence[Look], skin: Array, basis: Basis | None = None) -> None:
        from scipy.special import ndtr  # noqa: PLC0415 - SciPy only where a search runs

        self.stock, self.looks = tuple(stock), tuple(looks)
        self._below = ndtr
        self._basis = basis or small_basis(10)
        constants = optics(self.stock).at(self._basis)
        self._k, self._s = constants.k, constants.s
        self._skin = self._basis.pick(skin)

    def rate(self, ones: Sequence[MadeCake]) -> Array:
        """Return the mean dE00 of each cake for each look, shape (cakes, looks)."""
        parts = [self._rated(ones[start : start + _CHUNK]) for start in range(0, len(ones), _CHUNK)]
        return np.asarray(np.concatenate([np.empty((0, len(self.looks))), *parts]))

    def total(self, ones: Sequence[MadeCake]) -> Array:
        """Return the weighted mean dE00 of each cake, shape (cakes,)."""
        weights = np.array([look.weight for look in self.looks])
        return np.asarray(self.rate(ones) @ (weights / weights.sum()))

    def pure_labs(self, look: Look) -> Array:
        """Return a coat of each stock paint as L*, a*, b*, shape (paints, 3)."""
        return np.asarray(self._lab(np.eye(len(self.stock))[None], look.coat_um)[0])

    def _rated(self, ones: Sequence[MadeCake]) -> Array:
        paints = np.zeros((len(ones), MOST_STRIPES), np.intp)
        widths = np.zeros((len(ones), MOST_STRIPES))
        for row, one in enumerate(ones):
            paints[row, : len(one.paints)] = one.paints
            widths[row, : len(one.paints)] = one.widths_mm
        edges = np.concatenate([np.zeros((len(ones), 1)), np.cumsum(widths, axis=1)], axis=1)
        result = np.empty((len(ones), len(self.looks)))
        for number, look in enumerate(self.looks):
            offsets = np.array([one.offsets_mm[number] for one in ones])
            lab = self._seen(paints, edges, offsets, look)
            flips = np.array([one.flips[number] for one in ones])
            lab = np.where(flips[:, None, None], lab[:, ::-1], lab)
            result[:, number] = look.goal.difference(lab).mean(axis=1)
        return result

    def _seen(self, paints: NDArray[np.intp], edges: Array, offsets: Array, look: Look) -> Array:
        """Return what a look sees of each cake as L*, a*, b*, shape (cakes, 32, 3)."""
        cell = look.width_mm / SAMPLES
        at = offsets[:, None] + (np.arange(SAMPLES) + 0.5) * cell
        sd = np.hypot(max(look.blur_mm, 1e-3), cell / np.sqrt(12))
        wall = edges[:, -1:, None]
        x = at[:, None, :]
        e = edges[:, :, None]
        reached = self._below((e - x) / sd)  # the pan, and its mirror images beyond both walls
        mirrored = self._below((-e - x) / sd), self._below((2 * wall - e - x) / sd)
        shares = np.diff(reached, axis=1) - np.diff(mirrored[0], axis=1) - np.diff(mirrored[1], axis=1)
        shares = np.clip(shares, 0, None)
        shares /= np.maximum(shares.sum(axis=1, keepdims=True), 1e-9)
        each = shares.transpose(0, 2, 1)
        k, s = each @ self._k[paints], each @ self._s[paints]
        return self._basis.lab(film(k * look.coat_um, s * look.coat_um, self._skin))

    def _lab(self, shares: Array, coat_um: float) -> Array:
        each = shares / shares.sum(axis=-1, keepdims=True)
        k, s = each @ self._k * coat_um, each @ self._s * coat_um
        return self._basis.lab(film(k, s, self._skin))
