"""The colour difference CIEDE2000.

Source: G. Sharma, W. Wu, E. N. Dalal, The CIEDE2000 color-difference formula: implementation notes,
supplementary test data, and mathematical observations, Color Research & Application 30 (2005) 21-30,
doi:10.1002/col.20070.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.floating[Any]]

_POW25_7 = 25.0**7


def ciede2000(lab_1: ArrayLike, lab_2: ArrayLike) -> Array:
    """Return the colour difference dE00.

    Parameters
    ----------
    lab_1, lab_2
        L*, a*, b*, shapes (..., 3) that broadcast.

    Returns
    -------
    dE00 >= 0, the broadcast shape without its last axis; NaN where an input is NaN.

    >>> round(float(ciede2000([50, 2.6772, -79.7751], [50, 0, -82.7485])), 4)
    2.0425
    """
    one, two = np.broadcast_arrays(np.asarray(lab_1, np.float64), np.asarray(lab_2, np.float64))
    chroma_1, hue_1, chroma_2, hue_2 = _primed_chroma_and_hue(one, two)
    d_lightness = two[..., 0] - one[..., 0]
    d_chroma = chroma_2 - chroma_1
    turn, mean_hue = _hue_turn_and_mean(chroma_1 * chroma_2 == 0, hue_1, hue_2)
    d_hue = 2 * np.sqrt(chroma_1 * chroma_2) * np.sin(turn / 2)

    mean_chroma = (chroma_1 + chroma_2) / 2
    mean_lightness_50 = ((one[..., 0] + two[..., 0]) / 2 - 50) ** 2
    t = (
        1
        - 0.17 * np.cos(mean_hue - np.radians(30))
        + 0.24 * np.cos(2 * mean_hue)
        + 0.32 * np.cos(3 * mean_hue + np.radians(6))
        - 0.20 * np.cos(4 * mean_hue - np.radians(63))
    )
    s_l = 1 + 0.015 * mean_lightness_50 / np.sqrt(20 + mean_lightness_50)
    s_c = 1 + 0.045 * mean_chroma
    s_h = 1 + 0.015 * mean_chroma * t
    dl, dc, dh = d_lightness / s_l, d_chroma / s_c, d_hue / s_h
    squared = dl**2 + dc**2 + dh**2 + _rotation(mean_chroma, mean_hue) * dc * dh
    return np.asarray(np.sqrt(np.maximum(squared, 0)))


def _primed_chroma_and_hue(one: Array, two: Array) -> tuple[Array, Array, Array, Array]:
    plain = (np.hypot(one[..., 1], one[..., 2]) + np.hypot(two[..., 1], two[..., 2])) / 2
    scale = 1.5 - 0.5 * np.sqrt(plain**7 / (plain**7 + _POW25_7))
    a_1, a_2 = one[..., 1] * scale, two[..., 1] * scale
    hue_1 = np.arctan2(one[..., 2], a_1) % (2 * np.pi)
    hue_2 = np.arctan2(two[..., 2], a_2) % (2 * np.pi)
    return np.hypot(a_1, one[..., 2]), hue_1, np.hypot(a_2, two[..., 2]), hue_2


def _hue_turn_and_mean(grey: NDArray[np.bool_], hue_1: Array, hue_2: Array) -> tuple[Array, Array]:
    """Return the signed hue step and the mean hue, radians; a grey has no hue of its own."""
    raw = hue_2 - hue_1
    total = hue_1 + hue_2
    far = np.abs(raw) > np.pi
    turn = np.where(far, raw - np.copysign(2 * np.pi, raw), raw)
    mean = np.where(far, (total + np.where(total < 2 * np.pi, 2, -2) * np.pi) / 2, total / 2)
    return np.where(grey, 0.0, turn), np.where(grey, total, mean)


def _rotation(mean_chroma: Array, mean_hue: Array) -> Array:
    bump = np.exp(-(((np.degrees(mean_hue) - 275) / 25) ** 2))
    r_c = 2 * np.sqrt(mean_chroma**7 / (mean_chroma**7 + _POW25_7))
    return np.asarray(-np.sin(np.radians(60) * bump) * r_c)
