"""Does a design still read on a skin? Contrast of what is laid against the skin beside it.

Source of the ratio: W3C, Web Content Accessibility Guidelines 2.1, relative luminance and contrast ratio.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.floating[Any]]

READS = 1.5
"""Least ratio of a rim or line to the skin at which it still reads at arm's length (a default)."""


def relative_luminance(srgb: Array) -> Array:
    """Return relative luminance in [0, 1], shape (...), of sRGB in [0, 1], shape (..., 3).

    >>> round(float(relative_luminance(np.array([1.0, 1.0, 1.0]))), 4)
    1.0
    """
    given = np.asarray(srgb, np.float64)
    linear = np.where(given <= 0.03928, given / 12.92, ((given + 0.055) / 1.055) ** 2.4)
    return np.asarray(linear @ np.array([0.2126, 0.7152, 0.0722]))


def contrast_ratio(one: Array, other: Array) -> float:
    """Return the contrast ratio of two sRGB colours, 1 to 21.

    >>> round(contrast_ratio(np.zeros(3), np.ones(3)), 1)
    21.0
    """
    light, dark = sorted((float(relative_luminance(one)), float(relative_luminance(other))), reverse=True)
    return (light + 0.05) / (dark + 0.05)
