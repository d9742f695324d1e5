"""The normal distribution in closed form, without SciPy.

With F(x) = x Phi(x / s) + s phi(x / s), the integral of Phi((b - x) / s) from x0 to x1 is F(b - x0) - F(b - x1).
"""

from __future__ import annotations

import math
from statistics import NormalDist
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kept import remembered

Array = NDArray[np.floating[Any]]

WIDTH_10_90 = 2 * NormalDist().inv_cdf(0.9)
"""10-90 width of a normal blend of standard deviation 1: 2.563."""

_LEAST_SD_MM = 1e-9
_FAR = 9.0  # standard deviations beyond which the distribution is 0 or 1 in double precision
_erf = np.frompyfunc(math.erf, 1, 1)
_PER_SD = 512


@remembered(1)
def _table() -> tuple[Array, Array, Array]:
    """Return F, Phi and phi / 2 of a standard normal at every 1/512 from -9 to 9."""
    z = np.arange(-_FAR * _PER_SD, _FAR * _PER_SD + 1) / _PER_SD
    cumulative = 0.5 * (1 + np.asarray(_erf(z / math.sqrt(2)), np.float64))
    density = np.exp(-0.5 * z * z) / math.sqrt(2 * math.pi)
    return z * cumulative + density, cumulative, density / 2


def phi_integral(x: Array, sd: float) -> Array:
    """Return F(x), any shape; with sd = 0 (below 1e-9) it is max(x, 0).

    Taken from a table by Taylor's series to the third power: within 1e-12 sd of the closed form.
    """
    place = np.asarray(x, np.float64)
    if sd < _LEAST_SD_MM:
        return np.asarray(np.maximum(place, 0.0))
    z = np.minimum(np.maximum(place / sd, -_FAR), _FAR)
    steps = np.rint(z * _PER_SD)
    at = steps.astype(np.intp) + int(_FAR * _PER_SD)
    start, d = steps / _PER_SD, z - steps / _PER_SD
    integral, cumulative, half_density = _table()
    near = integral[at] + d * (cumulative[at] + d * half_density[at] * (1 - start * d / 3))
    return np.asarray(sd * near + np.maximum(place - _FAR * sd, 0.0))


def phi_integral_twice(x: Array, sd: float) -> Array:
    """Return the integral of F from far below up to x; with sd = 0 it is max(x, 0)^2 / 2.

    In closed form: ((x^2 + sd^2) Phi(x / sd) + x sd phi(x / sd)) / 2.
    """
    place = np.asarray(x, np.float64)
    if sd < _LEAST_SD_MM:
        return np.asarray(np.maximum(place, 0.0) ** 2 / 2)
    z = np.clip(place / sd, -_FAR, _FAR)
    cumulative = 0.5 * (1 + np.asarray(_erf(z / math.sqrt(2)), np.float64))
    density = np.exp(-0.5 * z * z) / math.sqrt(2 * math.pi)
    below = ((place**2 + sd**2) * cumulative + place * sd * density) / 2
    return np.asarray(np.where(place < -_FAR * sd, 0.0, below))


def probit(share: Array) -> Array:
    """Return the normal quantile of shares strictly between 0 and 1."""
    return np.asarray(np.vectorize(NormalDist().inv_cdf, otypes=[float])(share))
