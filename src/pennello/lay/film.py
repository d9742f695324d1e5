"""A film of paint on skin and its colour. A film knows optical depths, volume and coverage; it knows no paints."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis
from pennello.colour.kubelka_munk import film as film_reflectance
from pennello.colour.kubelka_munk import tint_weights
from pennello.kit.paint import PaintOptics
from pennello.lay.canvas import Canvas
from pennello.lay.deposit import Deposit

Array = NDArray[np.floating[Any]]

MOST_OPTICAL_DEPTH = 60.0
_LEAST_COVERAGE = 1e-3


@dataclass(frozen=True, slots=True, eq=False)
class Film:
    """Optical depths on a canvas, averaged over each pixel.

    Attributes
    ----------
    kx
        K times thickness, shape (rows, bands, columns).
    sx
        S times thickness, shape (rows, columns).
    thickness_um
        Solids, um, shape (rows, columns).
    coverage
        Part of each pixel that is covered, in [0, 1], shape (rows, columns).
    """

    canvas: Canvas
    basis: Basis
    kx: Array
    sx: Array
    thickness_um: Array
    coverage: Array


def optical_contents(solids: Array, paint_optics: PaintOptics) -> Array:
    """Return solids (paints, 64) scaled so that their sums of K and S are those of each bin's mixture."""
    weights = tint_weights(solids.T, paint_optics.tint).T
    return np.asarray(weights * solids.sum(axis=0))


def to_film(laid: Deposit, paint_optics: PaintOptics, basis: Basis, dtype: Any = np.float32) -> Film:
    """Return the film of a deposit whose channels are the paints of `paint_optics` (at the bands of `basis`)."""
    channels = laid.channels.astype(dtype)
    kx = np.tensordot(paint_optics.k.T.astype(dtype), channels, axes=1).transpose(1, 0, 2)
    sx = np.tensordot(paint_optics.s[:, 0].astype(dtype), channels, axes=1)
    return Film(
        laid.canvas,
        basis,
        np.ascontiguousarray(kx),
        sx,
        laid.channels.sum(axis=0).astype(dtype),
        laid.coverage.astype(dtype),
    )


def covered_reflectance(kx: Array, sx: Array, coverage: Array, substrate: Array) -> Array:
    """Return R = Rg + A (film(KX / A) - Rg).

    Parameters
    ----------
    kx, sx, coverage
        Shapes (..., bands), (...), (...), averaged over the pixel.
    substrate
        Reflectance below, shape (bands,).
    """
    part = np.maximum(coverage, _LEAST_COVERAGE).astype(kx.dtype)
    depth_k = np.minimum(kx / part[..., None], MOST_OPTICAL_DEPTH)
    depth_s = np.minimum(sx / part, MOST_OPTICAL_DEPTH)[..., None]
    below = substrate.astype(kx.dtype)
    result: Array = below + coverage[..., None].astype(kx.dtype) * (film_reflectance(depth_k, depth_s, below) - below)
    return result


@dataclass(frozen=True, slots=True, eq=False)
class Samples:
    """A film read at points, kx with a last axis of bands. Depths are those of the covered part."""

    kx: Array
    sx: Array
    thickness_um: Array
    coverage: Array


def sample(film: Film, points_mm: Array) -> Samples:
    """Return the film at points (..., 2) in mm, between pixels by tent weights and per covered area."""
    place = film.canvas.to_px(points_mm) - 0.5
    column = np.clip(np.floor(place[..., 0]).astype(np.intp), 0, film.canvas.columns - 2)
    row = np.clip(np.floor(place[..., 1]).astype(np.intp), 0, film.canvas.rows - 2)
    right, low = place[..., 0] - column, place[..., 1] - row
    kx = np.zeros((*column.shape, film.kx.shape[1]))
    sx, thickness, coverage = (np.zeros(column.shape) for _ in range(3))
    for d_row, d_column in ((0, 0), (0, 1), (1, 0), (1, 1)):
        weight = (low if d_row else 1 - low) * (right if d_column else 1 - right)
        at = (row + d_row, column + d_column)
        kx += weight[..., None] * film.kx[at[0], :, at[1]]
        sx += weight * film.sx[at]
        thickness += weight * film.thickness_um[at]
        coverage += weight * film.coverage[at]
    part = np.maximum(coverage, _LEAST_COVERAGE)
    return Samples(kx / part[..., None], sx / part, thickness / part, coverage)
