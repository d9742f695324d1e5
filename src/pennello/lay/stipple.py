"""How a sponge prints: a soft, stippled rim and, where it was pressed and not swept, pores.

Both are a texture of the skin's place, the same for a seed at any resolution; it takes paint away in spots and gives it
to what is covered, so that no volume is made or lost. Pats that overlap close each other's pores. Common practice, no
published source: rims of 3 to 6 mm, pores of 0.3 to 1.5 mm; the shares are defaults.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kept import kept
from pennello.lay.canvas import Canvas
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]

RIM_MM = 4.5
"""Over how much of its rim a sponge's print thins out into spots, mm (a default)."""

PORES = 0.16
"""Share of a single press that pores leave bare (a default)."""

GRAINS_MM = (1.1, 0.5)
"""Sizes of the spots, mm (defaults)."""

SEED = 29
_SOFT = 0.12  # of the noise: spots have no razor-sharp edges either
_LEAST_AT_THE_RIM = 0.12


def stippled(solids: Array, swept: Array, track: Track, canvas: Canvas) -> Array | None:
    """Return by how much a sponge's texture thins each pixel, in [0, 1], shape (rows, columns); None for a brush.

    Parameters
    ----------
    solids
        What the stroke would lay evenly, um, shape (rows, columns).
    swept
        Swept part of each pixel, shape (rows, columns).
    """
    if not track.sponge or not swept.any():
        return None
    spots = _noise(canvas, SEED)
    weight = _threshold(_inwards(swept, canvas.px_per_mm) - spots)
    if track.still:
        covered = swept > 0.99
        single = float(np.percentile(solids[covered], 20)) if covered.any() else 0.0
        passes = np.maximum(solids / single, 1.0) if single > 0 else 1.0
        weight = weight * _threshold(_noise(canvas, SEED + 1) - PORES / passes)
    return np.asarray(weight)


def spotted(canvas: Canvas, share: float) -> Array:
    """Return what a tapped sponge covers of each pixel, a share in (0, 1] in all, shape (rows, columns)."""
    if share >= 1:
        return np.ones((canvas.rows, canvas.columns))
    spots = 0.5 * _octave(canvas, GRAINS_MM[1], SEED + 2) + 0.5 * _octave(canvas, GRAINS_MM[1] / 2, SEED + 3)
    order = spots.ravel().argsort().argsort().reshape(spots.shape) / max(spots.size - 1, 1)  # even: a share is a share
    return _threshold(share - order)


def thinned(change: Array, weight: Array, volume: Array) -> Array:
    """Return what a stroke lays with the texture in it, of the same volume.

    Parameters
    ----------
    change
        Shape (rows, columns, channels).
    weight
        From `stippled`, shape (rows, columns).
    volume
        The channel whose sum stays, shape (rows, columns).
    """
    kept_mm3 = float((volume * weight).sum(dtype=np.float64))
    factor = float(volume.sum(dtype=np.float64)) / kept_mm3 if abs(kept_mm3) > 1e-12 else 1.0
    return np.asarray(change * (weight * factor).astype(change.dtype)[..., None])


def _threshold(above: Array) -> Array:
    return np.asarray(np.clip(above / _SOFT + 0.5, 0, 1))


def _inwards(swept: Array, px_per_mm: float) -> Array:
    """Return how sure a spot is to be there: little at the rim, more than 1 from RIM_MM inwards."""
    half = max(1, round(RIM_MM / 2 * px_per_mm))
    near = _boxed(_boxed(np.asarray(swept, np.float64), half), half)
    return np.asarray(_LEAST_AT_THE_RIM + 1.1 * np.clip((near - 0.45) / 0.5, -0.2, 1))


def _boxed(plane: Array, half: int) -> Array:
    """Return means over squares of 2 half + 1 pixels a side; beyond the margin there is nothing."""
    size = 2 * half + 1
    for axis in (0, 1):
        padded = np.pad(plane, [(half + 1, half) if one == axis else (0, 0) for one in (0, 1)])
        total = np.cumsum(padded, axis=axis)
        low, high = (np.take(total, range(start, total.shape[axis] + start - size), axis=axis) for start in (0, size))
        plane = (high - low) / size
    return plane


@kept
def _noise(canvas: Canvas, seed: int) -> Array:
    """Return smooth noise, about even in [0, 1], that belongs to places on the skin, shape (rows, columns)."""
    coarse, fine = (_octave(canvas, grain, seed + number) for number, grain in enumerate(GRAINS_MM))
    return np.asarray(np.clip((0.6 * coarse + 0.4 * fine - 0.5) * 1.5 + 0.5, 0, 1), np.float32)


def _octave(canvas: Canvas, grain_mm: float, seed: int) -> Array:
    step = 1 / canvas.px_per_mm
    x = (canvas.left_mm + (np.arange(canvas.columns) + 0.5) * step) / grain_mm
    y = (canvas.top_mm + (np.arange(canvas.rows) + 0.5) * step) / grain_mm
    left, top = math.floor(float(x[0])), math.floor(float(y[0]))
    knots = _hashed(np.arange(left, math.floor(float(x[-1])) + 3), np.arange(top, math.floor(float(y[-1])) + 3), seed)
    rows = _smooth(knots, y - top)
    return np.ascontiguousarray(_smooth(rows.T, x - left).T)


def _smooth(knots: Array, at: Array) -> Array:
    low = np.floor(at).astype(np.intp)
    part = at - low
    part = (part * part * (3 - 2 * part))[:, None]
    return np.asarray(knots[low] * (1 - part) + knots[low + 1] * part)


def _hashed(x: NDArray[np.intp], y: NDArray[np.intp], seed: int) -> Array:
    """Return numbers in [0, 1) that hang on two whole numbers and a seed alone, shape (y, x)."""
    with np.errstate(over="ignore"):
        mixed = x.astype(np.uint64)[None, :] * np.uint64(0x9E3779B97F4A7C15)
        mixed = mixed ^ (y.astype(np.uint64)[:, None] * np.uint64(0xC2B2AE3D27D4EB4F)) ^ np.uint64(seed * 0x165667B1)
        for shift, factor in ((30, 0xBF58476D1CE4E5B9), (27, 0x94D049BB133111EB)):
            mixed = (mixed ^ (mixed >> np.uint64(shift))) * np.uint64(factor)
        mixed ^= mixed >> np.uint64(31)
    return np.asarray((mixed >> np.uint64(11)).astype(np.float64) / 2**53)
