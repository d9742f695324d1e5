"""The standard observer under daylight, at 36 bands, and the sRGB primaries seen by it.

Tables: CIE 1931 2 degree colour-matching functions and illuminant D65 at 10 nm, 380-730 nm (CIE 015:2018,
tables 1 and 6; written to data/observer.csv by tools/make_bands.py). The weights' own white is used throughout,
so that reflectance 1 is exactly white.
"""

from __future__ import annotations

from importlib.resources import files
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.floating[Any]]

_SRGB_PRIMARIES = ((0.64, 0.33), (0.30, 0.60), (0.15, 0.06))  # IEC 61966-2-1, chromaticities x, y


def _read_table() -> tuple[Array, Array, Array]:
    text = (files("pennello.colour") / "data" / "observer.csv").read_text("utf-8")
    table = np.loadtxt(text.splitlines(), delimiter=",", comments="#")
    weights = table[:, 1:4] * table[:, 4:5]
    return table[:, 0], table[:, 1:4], weights / weights[:, 1].sum()


def _primaries_matrix(white: Array) -> Array:
    columns = np.array([(x / y, 1.0, (1 - x - y) / y) for x, y in _SRGB_PRIMARIES]).T
    return columns * np.linalg.solve(columns, white)


WAVELENGTH_NM, MATCHING, WEIGHTS = _read_table()
"""Band centres, shape (36,), nm; the colour-matching functions, and by daylight the weights from reflectance to XYZ,
shape (36, 3) each, with Y of white = 1."""

WHITE_XYZ: Array = WEIGHTS.sum(axis=0)
"""XYZ of reflectance 1, shape (3,)."""

RGB_TO_XYZ = _primaries_matrix(WHITE_XYZ)
"""Linear sRGB to XYZ (column vectors), shape (3, 3); (1, 1, 1) gives `WHITE_XYZ`."""

XYZ_TO_RGB: Array = np.linalg.inv(RGB_TO_XYZ)


def xyz_to_rgb(xyz: Array) -> Array:
    """Return linear sRGB, shape (..., 3), of XYZ, shape (..., 3); not clipped."""
    return xyz @ XYZ_TO_RGB.T.astype(xyz.dtype)


def rgb_to_xyz(rgb: Array) -> Array:
    """Return XYZ, shape (..., 3), of linear sRGB, shape (..., 3)."""
    return rgb @ RGB_TO_XYZ.T.astype(rgb.dtype)
