"""A film of paint on skin and its colour. A film knows optical depths, volume and coverage; it knows no paints."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis
from pennello.colour.kubelka_munk import film as film_reflectance
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
        S times thickness, shape (rows, bands, columns).
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


def to_film(laid: Deposit, paint_optics: PaintOptics, basis: Basis, dtype: Any = np.float32) -> Film:
    """Return the film of a deposit whose channels are the paints of `paint_optics` (at the bands of `basis`)."""
    channels = laid.channels.astype(dtype)
    kx, sx = (
        np.ascontiguousarray(np.tensordot(one.T.astype(dtype), channels, axes=1).transpose(1, 0, 2))
        for one in (paint_optics.k, paint_optics.s)
    )
    return Film(
        laid.canvas,
        basis,
        kx,
        sx,
        laid.channels.sum(axis=0).astype(dtype),
        laid.coverage.astype(dtype),
    )


def covered_reflectance(kx: Array, sx: Array, coverage: Array, substrate: Array) -> Array:
    """Return R = Rg + A (film(KX / A) - Rg): a pixel that is covered in part is seen as the mean of both parts.

    Source: A. Murray, Journal of the Franklin Institute 221 (1936) 721-744 (from memory).

    Parameters
    ----------
    kx, sx, coverage
        Shapes (..., bands), (..., bands), (...), averaged over the pixel.
    substrate
        Reflectance below, shape (bands,).
    """
    part = np.maximum(coverage, _LEAST_COVERAGE).astype(kx.dtype)
    depth_k = np.minimum(kx / part[..., None], MOST_OPTICAL_DEPTH)
    depth_s = np.minimum(sx / part[..., None], MOST_OPTICAL_DEPTH)
    below = substrate.astype(kx.dtype)
    result: Array = below + coverage[..., None].astype(kx.dtype) * (film_reflectance(depth_k, depth_s, below) - below)
    return result


@dataclass(frozen=True, slots=True, eq=False)
class Samples:
    """A film read at points, kx and sx with a last axis of bands. Depths are those of the covered part."""

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
    kx, sx = (np.zeros((*column.shape, film.kx.shape[1])) for _ in range(2))
    thickness, coverage = (np.zeros(column.shape) for _ in range(2))
    for d_row, d_column in ((0, 0), (0, 1), (1, 0), (1, 1)):
        weight = (low if d_row else 1 - low) * (right if d_column else 1 - right)
        at = (row + d_row, column + d_column)
        kx += weight[..., None] * film.kx[at[0], :, at[1]]
        sx += weight[..., None] * film.sx[at[0], :, at[1]]
        thickness += weight * film.thickness_um[at]
        coverage += weight * film.coverage[at]
    part = np.maximum(coverage, _LEAST_COVERAGE)
    return Samples(kx / part[..., None], sx / part[..., None], thickness / part, coverage)
