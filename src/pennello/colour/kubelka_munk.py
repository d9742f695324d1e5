"""Two-constant Kubelka-Munk theory: mixing, hiding films, thin films, and scattering from a contrast ratio.

Sources: P. Kubelka, F. Munk, Zeitschrift fuer technische Physik 12 (1931) 593-601; P. Kubelka, Journal of the
Optical Society of America 38 (1948) 448-457; D. R. Duncan, Proceedings of the Physical Society 52 (1940) 390-401
(mixtures); ISO 18314-2 (Kubelka-Munk, pigmented media); ISO 6504-3, Paints and varnishes - Determination of hiding
power - Part 3 (contrast ratio). K and S are per micrometre of film. What is lost and sent back at the film's surface
(J. L. Saunderson, Journal of the Optical Society of America 32 (1942) 727-736) is not applied: sRGB masstones and skin
samples are taken as they look, surface and all.

Convention for the contrast ratio: Y over an ideal black (reflectance 0) divided by Y over a white chart of
reflectance 0.80, daylight D65, 2 degree observer, at the film thickness stated with the ratio. S is taken equal
in every band unless the paint says how it falls with the wavelength.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from pennello.colour.observer import WAVELENGTH_NM, WEIGHTS
from pennello.errors import OutOfRangeError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

CONTRAST_FILM_UM = 20.0
"""Film thickness of a contrast ratio when none is stated, um (a default)."""

CONTRAST_BLACK = 0.0
CONTRAST_WHITE = 0.80
CONTRAST_RANGE = (0.01, 0.999)

SCATTERING_OF_WHITE = 0.15
"""S of a paint of Y = 1 with no contrast ratio, per um (a default); other paints scale with Y^0.7."""

SCATTERING_FLOOR = 0.0005
"""Least S, per um (a default)."""

SCATTERING_OF_BLACK = 0.02
"""S of a black, per um (a default): with the K/S of its masstone, about 50, its K is about 1.05. A contrast ratio
cannot tell it, for every black hides; a let-down in white can: 1 part in 10 gives L* 55 to 66 (common practice)."""

BLACK_Y = (0.012, 0.03)
"""Masstones darker than the first count as black, lighter than the second do not; in between it passes over."""

CONTRAST_OF_WHAT_HIDES = 0.95
"""From this ratio on a black film hides whatever its S is."""

REFERENCE_NM = 550.0
"""Where S is the same whatever its fall with the wavelength, nm."""


def k_over_s(reflectance: ArrayLike) -> Array:
    """Return K/S of a hiding film of this reflectance in (0, 1], any shape.

    >>> float(k_over_s(0.5))
    0.25
    """
    r = np.asarray(reflectance, dtype=np.float64)
    return np.asarray((1 - r) ** 2 / (2 * r))


def hiding_reflectance(k: ArrayLike, s: ArrayLike) -> Array:
    """Return the reflectance of a film thick enough to hide.

    Written as 1 / (1 + q + sqrt(q^2 + 2 q)), q = K/S, which loses no digits for strong absorbers; with S = 0 it is 0.
    """
    k_, s_ = np.broadcast_arrays(np.asarray(k, np.float64), np.asarray(s, np.float64))
    with np.errstate(divide="ignore", invalid="ignore"):
        ratio = np.where(s_ > 0, k_ / np.where(s_ > 0, s_, 1), np.inf)
    return np.asarray(1 / (1 + ratio + np.sqrt(ratio * (ratio + 2))))


def film(kx: Array, sx: Array, substrate: Array) -> Array:
    """Return the reflectance of a film over a substrate, in the form that never overflows.

    q = KX (KX + 2 SX), t = tanh(sqrt q) / sqrt q, R = [Rg + t (SX - Rg (KX + SX))] / [1 + t (KX + SX - Rg SX)].

    Parameters
    ----------
    kx, sx
        Optical depths K and S times thickness, >= 0, no unit; shapes that broadcast.
    substrate
        Reflectance below, in [0, 1].

    Returns
    -------
    Reflectance in [0, 1], the broadcast shape, in the precision of the inputs.
    """
    both = kx + sx
    root = np.sqrt(kx * (both + sx))
    small = root < 1e-4
    safe = np.where(small, 1, root)
    t = np.where(small, 1 - root * root / 3, np.tanh(safe) / safe)
    result: Array = (substrate + t * (sx - substrate * both)) / (1 + t * (both - substrate * sx))
    return result


def mix(parts: ArrayLike, k: ArrayLike, s: ArrayLike) -> tuple[Array, Array]:
    """Return K and S of mixtures: linear in volume and in nothing else, so that two wet coats are one mixed coat.

    Source: D. R. Duncan, Proceedings of the Physical Society 52 (1940) 390-401 (from memory).

    Parameters
    ----------
    parts
        Volumes of each paint, >= 0, shape (..., paints).
    k, s
        K and S of the paints per um, shape (paints, bands) each.

    Returns
    -------
    K and S per um, shape (..., bands) each; zero where there is no volume.
    """
    shares = volume_shares(parts)
    return shares @ np.asarray(k, np.float64), shares @ np.asarray(s, np.float64)


def volume_shares(parts: ArrayLike) -> Array:
    """Return each paint's share of the volume in [0, 1], shape (..., paints); 0 where there is none."""
    volumes = np.asarray(parts, np.float64)
    total = volumes.sum(axis=-1, keepdims=True)
    return np.asarray(np.divide(volumes, total, out=np.zeros_like(volumes), where=total > 0))


def falling(exponent: ArrayLike) -> Array:
    """Return S at the 36 bands against S at 550 nm, for S that falls as the wavelength to the power of -exponent.

    Parameters
    ----------
    exponent
        0 (equal in all bands) to 2, shape (...); 1 for titanium whites.

    Returns
    -------
    Shape (..., 36).
    """
    return np.asarray((REFERENCE_NM / WAVELENGTH_NM) ** np.asarray(exponent, np.float64)[..., None])


def scattering(
    hiding: ArrayLike, contrast: ArrayLike, film_um: ArrayLike = CONTRAST_FILM_UM, exponent: ArrayLike = 0.0
) -> Array:
    """Return S per um, at 550 nm, of the paints whose films have these contrast ratios.

    Parameters
    ----------
    hiding
        Reflectance of the masstones, shape (..., 36), in (0, 1).
    contrast
        Contrast ratios in [0.01, 0.999], shape (...); see the convention above.
    film_um
        Thickness of the films that the ratios belong to, > 0 um, shape (...).
    exponent
        How S falls with the wavelength, see `falling`, shape (...).

    Raises
    ------
    OutOfRangeError
        If a ratio or a thickness is outside its range.
    """
    wanted, thickness = np.asarray(contrast, np.float64), np.asarray(film_um, np.float64)
    if not np.all((wanted >= CONTRAST_RANGE[0]) & (wanted <= CONTRAST_RANGE[1])):
        raise OutOfRangeError(phrase("contrast ratio"), contrast, "0.01 to 0.999")
    if not np.all((thickness > 0) & np.isfinite(thickness)):
        raise OutOfRangeError(phrase("film thickness of the contrast ratio"), film_um, "above 0 um")
    shape = np.broadcast_to(falling(exponent), np.shape(hiding))
    ratio = k_over_s(hiding) * shape
    low = np.full(ratio.shape[:-1], np.log(1e-6))
    high = -low
    for _ in range(32):  # bisection to 1e-8: the ratio rises with thickness, whatever the paint
        middle = (low + high) / 2
        depth = np.exp(middle)[..., None]
        thin = contrast_ratio(ratio * depth, shape * depth, 1.0) < wanted
        low, high = np.where(thin, middle, low), np.where(thin, high, middle)
    least = np.where(wanted >= CONTRAST_OF_WHAT_HIDES, least_scattering(hiding), SCATTERING_FLOOR)
    return np.asarray(np.maximum(np.exp((low + high) / 2) / thickness, least))


def least_scattering(hiding: ArrayLike) -> Array:
    """Return the least S per um of paints by how dark their masstones are; hiding has shape (..., 36)."""
    luminance = np.asarray(hiding, np.float64) @ WEIGHTS[:, 1]
    black = np.clip((BLACK_Y[1] - luminance) / (BLACK_Y[1] - BLACK_Y[0]), 0.0, 1.0)
    return np.asarray(SCATTERING_FLOOR + black * (SCATTERING_OF_BLACK - SCATTERING_FLOOR))


def contrast_ratio(k: Array, s: ArrayLike, film_um: float) -> Array:
    """Return the contrast ratios of films.

    Parameters
    ----------
    k, s
        Per um, shapes (..., 36) and (..., 36) or (..., 1).
    film_um
        Thickness of the films, um.

    Returns
    -------
    Ratios in (0, 1), shape (...).
    """
    kx, sx = np.broadcast_arrays(k * film_um, np.asarray(s, np.float64) * film_um)
    luminance = WEIGHTS[:, 1]
    over_black = film(kx, sx, np.asarray(CONTRAST_BLACK)) @ luminance
    return np.asarray(over_black / (film(kx, sx, np.asarray(CONTRAST_WHITE)) @ luminance))


def default_scattering(hiding: ArrayLike) -> Array:
    """Return S per um of paints with no contrast ratio: proportional to Y^0.7 of the masstone, with a floor.

    Parameters
    ----------
    hiding
        Reflectance of the masstones, shape (..., 36).
    """
    luminance = np.asarray(hiding, np.float64) @ WEIGHTS[:, 1]
    return np.maximum(SCATTERING_OF_WHITE * luminance**0.7, least_scattering(hiding))
