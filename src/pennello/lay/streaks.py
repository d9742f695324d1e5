"""Streaks: a stiff load, and any load that runs dry, breaks up along the way instead of laying an even film.

Clumps of bristles give by turns too much and too little; what a clump gives in all stays the same, and so does the
volume. Common practice, no published source, for what it looks like; sizes and strength are defaults.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kept import kept
from pennello.kit.contact import BINS

Array = NDArray[np.floating[Any]]

CLUMP_MM, SKIP_MM = 0.6, 7.0
"""Width of a clump of bristles and length over which it skips (defaults)."""

RUNS_DRY = 0.25
"""A bin with less of its load than this begins to streak however creamy it was (a default)."""

SEED = 7


LIGHT = (0.06, 0.3)
"""At pressures from the second down to the first the bristles part more and more (a default)."""


def lightness(pressure: Array) -> Array:
    """Return how far the bristles of a brush part under light pressure, in [0, 1], shape (n,)."""
    return np.asarray(np.clip((LIGHT[1] - pressure) / (LIGHT[1] - LIGHT[0]), 0, 1))


def broken(given: Array, held: Array, s_mm: Array, width_mm: float, drag: float, light: Array) -> Array:
    """Return what each step leaves with streaks in it.

    Parameters
    ----------
    given, held
        Share of each bin's paint that each step leaves and that was there before it, shape (steps, 64).
    s_mm
        Where the steps are along the stroke, mm, shape (steps,).
    drag
        How stiff the load is, in [0, 1]: 1 for a nearly dry one, 0 for one that flows.
    light
        How far the bristles part because they are hardly pressed, in [0, 1], shape (steps,).

    Returns
    -------
    Shares of the same total for each bin, none negative.
    """
    strength = np.clip(drag * (1 - held) + np.clip(1 - held / RUNS_DRY, 0, 1) + light[:, None], 0, 1)
    if len(given) < 2 or float(strength.max(initial=0)) < 1e-3:
        return given
    uneven = given * (1 + strength * _clumps(s_mm, width_mm))
    total = uneven.sum(axis=0)
    return np.asarray(uneven * np.divide(given.sum(axis=0), total, out=np.ones(BINS), where=total > 0))


def _clumps(s_mm: Array, width_mm: float) -> Array:
    """Return by how much clumps give more or less, in [-1, 1], smooth along the way, shape (steps, 64)."""
    across = (np.arange(BINS) + 0.5) / BINS * width_mm / CLUMP_MM
    along = (s_mm - s_mm[0]) / SKIP_MM
    knots = _noise(int(along[-1]) + 3, int(across[-1]) + 3)
    rows = _between(knots, along)
    return np.asarray(np.tanh(2.0 * _between(rows.T, across).T))


def _between(knots: Array, at: Array) -> Array:
    """Return knots read between their rows, with level ends of each piece."""
    low = np.floor(at).astype(np.intp)
    part = at - low
    smooth = (part * part * (3 - 2 * part))[:, None]
    return np.asarray(knots[low] * (1 - smooth) + knots[low + 1] * smooth)


@kept
def _noise(rows: int, columns: int) -> Array:
    return np.random.default_rng(SEED).standard_normal((rows, columns))
