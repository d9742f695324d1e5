"""Sets of bands that colour is computed at: all 36, or the shipped 8 (pixels) and 10 (export).

The small sets are chosen by exchange search and weighted least squares with the white held exactly
(tools/make_bands.py).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.lab import xyz_to_lab
from pennello.colour.lights import Light, seen_weights
from pennello.colour.observer import WAVELENGTH_NM, WEIGHTS, xyz_to_rgb
from pennello.colour.srgb import encode

Array = NDArray[np.floating[Any]]


@dataclass(frozen=True, slots=True, eq=False)
class Basis:
    """A set of bands with their weights to XYZ.

    Attributes
    ----------
    index
        Which of the 36 bands, ascending, shape (bands,).
    weights
        From reflectance at those bands to XYZ, shape (bands, 3); their sums are exactly the white.
    """

    index: NDArray[np.intp]
    weights: Array

    @property
    def wavelength_nm(self) -> Array:
        """Band centres, nm, shape (bands,)."""
        return WAVELENGTH_NM[self.index]

    def pick(self, spectra: Array) -> Array:
        """Return spectra (..., 36) at these bands only, shape (..., bands)."""
        return spectra[..., self.index]

    def xyz(self, reflectance: Array) -> Array:
        """Return XYZ, shape (..., 3), of reflectance, shape (..., bands)."""
        return reflectance @ self.weights.astype(reflectance.dtype)

    def lab(self, reflectance: Array) -> Array:
        """Return L*, a*, b*, shape (..., 3), of reflectance, shape (..., bands)."""
        return xyz_to_lab(self.xyz(reflectance))

    def srgb(self, reflectance: Array) -> Array:
        """Return display sRGB in [0, 1], shape (..., 3), of reflectance, shape (..., bands)."""
        return encode(xyz_to_rgb(self.xyz(reflectance)))


FULL = Basis(np.arange(len(WEIGHTS)), WEIGHTS)
"""The reference: all 36 bands."""


@cache
def full_basis(light: Light) -> Basis:
    """Return all 36 bands, as colours are seen in a light."""
    return FULL if light is Light.DAYLIGHT else Basis(FULL.index, seen_weights(light))


@cache
def small_basis(bands: int, light: Light = Light.DAYLIGHT) -> Basis:
    """Return the shipped set of 8 or 10 bands; in other light than daylight those of 8 only.

    The bands are the same in every light, so that what was laid in one is seen in another.
    """
    name = f"bands_{bands}.csv" if light is Light.DAYLIGHT else f"bands_{bands}_{light.name.lower()}.csv"
    text = (files("pennello.colour") / "data" / name).read_text("utf-8")
    table = np.loadtxt(text.splitlines(), delimiter=",", comments="#")
    index = np.rint((table[:, 0] - WAVELENGTH_NM[0]) / 10).astype(np.intp)
    return Basis(index, table[:, 1:4])
