"""The smoothest reflectance that has a given sRGB colour.

Method: least hyperbolic-tangent-slope squares, S. A. Burns, Numerical methods for smoothest reflectance
reconstruction, Color Research & Application 45 (2020) 8-21, doi:10.1002/col.22437. With R = (tanh z + 1) / 2
the squared slope of z is least while R keeps the linear RGB: Newton's method on the Lagrange conditions, all
colours at once, with a step that is halved wherever it would not help.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from pennello.colour.observer import WEIGHTS, XYZ_TO_RGB
from pennello.colour.srgb import decode
from pennello.errors import PennelloError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

LINEAR_RANGE = (0.003, 0.98)
"""Linear RGB is clamped to this first: pure white has no finite z."""

_BANDS = len(WEIGHTS)
_RESPONSE = (WEIGHTS @ XYZ_TO_RGB.T).T  # linear RGB of a reflectance, shape (3, 36)
_SLOPES = np.diff(np.eye(_BANDS), axis=0)
_ROUGHNESS = 2 * _SLOPES.T @ _SLOPES
_TOLERANCE = 1e-10
_MOST_STEPS = 100
_MOST_HALVINGS = 12


class RecoveryError(PennelloError):
    """No smooth reflectance was found for a colour."""

    def __init__(self, linear_rgb: Array) -> None:
        super().__init__(
            phrase("no smooth reflectance found for linear RGB {colour}.", colour=np.round(linear_rgb, 4).tolist())
        )
        self.linear_rgb = linear_rgb


def reflectance_from_srgb(display: ArrayLike) -> Array:
    """Return the smoothest reflectance of display colours.

    Parameters
    ----------
    display
        sRGB display values in [0, 1], shape (..., 3).

    Returns
    -------
    Reflectance in (0, 1) at the 36 bands of `observer.WAVELENGTH_NM`, shape (..., 36).

    Raises
    ------
    RecoveryError
        If Newton's method does not converge (it does on the whole sRGB grid).
    """
    linear = np.clip(decode(display), *LINEAR_RANGE)
    flat = np.atleast_2d(linear).reshape(-1, 3).astype(np.float64)
    return _recover(flat).reshape(*linear.shape[:-1], _BANDS)


def _recover(linear: Array) -> Array:
    unknowns = np.zeros((len(linear), _BANDS + 3))
    grey = linear.mean(axis=1, keepdims=True)
    unknowns[:, :_BANDS] = np.arctanh(2 * grey - 1)
    residual = _residual(unknowns, linear)
    open_ones = np.arange(len(linear))
    for _ in range(_MOST_STEPS):
        open_ones = open_ones[np.abs(residual[open_ones]).max(axis=1) > _TOLERANCE]
        if not len(open_ones):
            return (np.tanh(unknowns[:, :_BANDS]) + 1) / 2
        unknowns[open_ones], residual[open_ones] = _newton_step(
            unknowns[open_ones], residual[open_ones], linear[open_ones]
        )
    raise RecoveryError(linear[open_ones[0]])


def _residual(unknowns: Array, linear: Array) -> Array:
    z, multipliers = unknowns[:, :_BANDS], unknowns[:, _BANDS:]
    tanh = np.tanh(z)
    slope = (1 - tanh**2) / 2
    stationary = z @ _ROUGHNESS + slope * (multipliers @ _RESPONSE)
    matched = ((tanh + 1) / 2) @ _RESPONSE.T - linear
    return np.concatenate([stationary, matched], axis=1)


def _jacobian(unknowns: Array) -> Array:
    tanh = np.tanh(unknowns[:, :_BANDS])
    slope = (1 - tanh**2) / 2
    curve = -2 * tanh * slope * (unknowns[:, _BANDS:] @ _RESPONSE)
    jacobian = np.zeros((len(unknowns), _BANDS + 3, _BANDS + 3))
    jacobian[:, :_BANDS, :_BANDS] = _ROUGHNESS
    diagonal = np.arange(_BANDS)
    jacobian[:, diagonal, diagonal] += curve
    jacobian[:, _BANDS:, :_BANDS] = _RESPONSE * slope[:, None, :]
    jacobian[:, :_BANDS, _BANDS:] = jacobian[:, _BANDS:, :_BANDS].transpose(0, 2, 1)
    return jacobian


def _newton_step(unknowns: Array, residual: Array, linear: Array) -> tuple[Array, Array]:
    step = np.linalg.solve(_jacobian(unknowns), residual[..., None])[..., 0]
    merit = np.linalg.norm(residual, axis=1)
    fraction = np.ones(len(unknowns))
    for _ in range(_MOST_HALVINGS):
        tried = unknowns - fraction[:, None] * step
        tried_residual = _residual(tried, linear)
        worse = np.linalg.norm(tried_residual, axis=1) > merit * (1 - 1e-4 * fraction)
        if not worse.any():
            break
        fraction[worse] /= 2
    return tried, tried_residual
