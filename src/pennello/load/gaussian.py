"""The normal distribution in closed form, without SciPy.

With F(x) = x Phi(x / s) + s phi(x / s), the integral of Phi((b - x) / s) from x0 to x1 is F(b - x0) - F(b - x1).
"""

from __future__ import annotations

import math
from statistics import NormalDist
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.floating[Any]]

WIDTH_10_90 = 2 * NormalDist().inv_cdf(0.9)
"""10-90 width of a normal blend of standard deviation 1: 2.563."""

_LEAST_SD_MM = 1e-9
_FAR = 9.0  # standard deviations beyond which the distribution is 0 or 1 in double precision
_erf = np.frompyfunc(math.erf, 1, 1)


def phi_integral(x: Array, sd: float) -> Array:
    """Return F(x), any shape; with sd = 0 (below 1e-9) it is max(x, 0)."""
    result = np.array(np.maximum(x, 0.0), np.float64)
    if sd < _LEAST_SD_MM:
        return result
    z = np.asarray(x, np.float64) / sd
    near = np.abs(z) < _FAR
    z = z[near]
    cumulative = 0.5 * (1 + np.asarray(_erf(z / math.sqrt(2)), np.float64))
    result[near] = sd * (z * cumulative + np.exp(-0.5 * z * z) / math.sqrt(2 * math.pi))
    return result


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
