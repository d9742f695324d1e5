"""Pictures of a film on skin, as 8-bit sRGB."""

from __future__ import annotations

from functools import cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis
from pennello.colour.observer import XYZ_TO_RGB
from pennello.colour.srgb import encode
from pennello.lay.film import Film, covered_reflectance

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

_LEVELS = 1 << 14


@cache
def display_table() -> Picture:
    """Return the sRGB bytes of linear light from 0 to 1 in equal steps."""
    return np.rint(encode(np.linspace(0, 1, _LEVELS + 1)) * 255).astype(np.uint8)


def to_bytes(reflectance: Array, basis: Basis) -> Picture:
    """Return 8-bit sRGB, shape (..., 3), of reflectance, shape (..., bands)."""
    to_rgb = (basis.weights @ XYZ_TO_RGB.T).astype(reflectance.dtype)
    linear = np.clip(reflectance @ to_rgb, 0, 1)
    return display_table()[(linear * _LEVELS + 0.5).astype(np.uint16)]


def render(film: Film, skin: Array) -> Picture:
    """Return the film on skin, shape (rows, columns, 3).

    Parameters
    ----------
    skin
        Reflectance of the skin at 36 bands, shape (36,).
    """
    below = film.basis.pick(skin)
    picture = np.empty((film.canvas.rows, film.canvas.columns, 3), np.uint8)
    picture[:] = to_bytes(below, film.basis)
    covered = np.nonzero(film.coverage > 0)
    kx, sx = (depth[covered[0], :, covered[1]] for depth in (film.kx, film.sx))
    seen = covered_reflectance(kx, sx, film.coverage[covered], below)
    picture[covered] = to_bytes(seen, film.basis)
    return picture
