"""CIE 1976 L*a*b* against the weights' own white. Source: CIE 015:2018, section 8.2.1; ISO/CIE 11664-4."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from pennello.colour.observer import WHITE_XYZ, rgb_to_xyz, xyz_to_rgb
from pennello.colour.srgb import decode, encode, format_hex, parse_hex

Array = NDArray[np.floating[Any]]

_EPSILON = (6 / 29) ** 3
_SLOPE = (29 / 6) ** 2 / 3


def xyz_to_lab(xyz: Array) -> Array:
    """Return L*, a*, b*, shape (..., 3), of XYZ with Y of white = 1.

    >>> xyz_to_lab(WHITE_XYZ).round(9).tolist()
    [100.0, 0.0, 0.0]
    """
    ratio = np.maximum(xyz, 0) / WHITE_XYZ.astype(xyz.dtype)
    f = np.where(ratio > _EPSILON, np.cbrt(ratio), _SLOPE * ratio + 4 / 29)
    fx, fy, fz = f[..., 0], f[..., 1], f[..., 2]
    return np.stack([116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)], axis=-1)


def lab_to_xyz(lab: ArrayLike) -> Array:
    """Return XYZ, shape (..., 3), of L*, a*, b*; the inverse of `xyz_to_lab`."""
    values = np.asarray(lab, dtype=np.float64)
    fy = (values[..., 0] + 16) / 116
    f = np.stack([fy + values[..., 1] / 500, fy, fy - values[..., 2] / 200], axis=-1)
    return np.where(f > 6 / 29, f**3, (f - 4 / 29) / _SLOPE) * WHITE_XYZ


def hex_to_lab(text: str) -> Array:
    """Return L*, a*, b*, shape (3,), of "#rrggbb"."""
    return xyz_to_lab(rgb_to_xyz(decode(parse_hex(text))))


def picture_lab(picture: NDArray[np.uint8]) -> Array:
    """Return L*, a*, b*, shape (..., 3), of sRGB bytes, shape (..., 3)."""
    return xyz_to_lab(rgb_to_xyz(decode(picture / 255.0)))


def lab_to_hex(lab: ArrayLike) -> str:
    """Return the nearest "#rrggbb" of L*, a*, b*, shape (3,); channels are clipped one by one."""
    return format_hex(encode(xyz_to_rgb(lab_to_xyz(lab))))
