"""What a pixel of wet film, or a bin of the brush, is written down as: channels that add up when paint meets paint.

K at each band, S in two parts, water, and the solids themselves, last. S of any paint is read as a part that is equal
in all bands and one that falls as 1 / wavelength: exact for both, within 3 % for exponents up to 2.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis
from pennello.colour.kubelka_munk import REFERENCE_NM
from pennello.kept import kept_small, remembered
from pennello.kit.paint import Paint, optics

Array = NDArray[np.floating[Any]]

BESIDES_K = 4
"""Channels besides K: S equal in all bands, S falling as 1 / wavelength, water, solids."""

S_EVEN, S_FALLING, WATER, SOLIDS = -4, -3, -2, -1


def count(bands: int) -> int:
    """Return how many channels a film of so many bands has."""
    return bands + BESIDES_K


@remembered(8)
def fall(basis: Basis) -> Array:
    """Return 550 nm / wavelength at each band, shape (bands,)."""
    return np.asarray(REFERENCE_NM / basis.wavelength_nm)


def scattering_parts(s: Array, basis: Basis) -> Array:
    """Return S of paints, shape (paints, bands), as its even and its falling part, shape (paints, 2)."""
    shapes = np.stack([np.ones(len(fall(basis))), fall(basis)], axis=1)
    parts, *_ = np.linalg.lstsq(shapes, s.T, rcond=None)
    return np.asarray(parts.T)


@kept_small
def per_volume(paints: tuple[Paint, ...], basis: Basis) -> Array:
    """Return K at each band and S in two parts of a unit of each paint's solids, shape (bands + 2, paints)."""
    constants = optics(paints).at(basis)
    return np.concatenate([constants.k.T, scattering_parts(constants.s, basis).T])


def of_paints(solids: Array, water: Array, paints: tuple[Paint, ...], basis: Basis) -> Array:
    """Return volumes of paints and their water as channels.

    Parameters
    ----------
    solids
        mm3, shape (paints, n).
    water
        As much as creamy paint of one mm3 has, shape (n,).
    paints
        Which they are, in the order of `solids`.

    Returns
    -------
    Shape (n, bands + 4).
    """
    return np.concatenate([per_volume(paints, basis) @ solids, water[None], solids.sum(axis=0)[None]]).T


def depth_k(film: Array) -> Array:
    """Return K times thickness, shape (..., bands)."""
    return film[..., :-BESIDES_K]


def depth_s(film: Array, basis: Basis) -> Array:
    """Return S times thickness, shape (..., bands)."""
    even, falling = film[..., S_EVEN, None], film[..., S_FALLING, None]
    return np.asarray(even + falling * fall(basis).astype(film.dtype))
