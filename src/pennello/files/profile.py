"""Colours along a line across a picture."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.lab import xyz_to_lab
from pennello.colour.observer import rgb_to_xyz
from pennello.colour.srgb import decode
from pennello.errors import OutOfRangeError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

LINE_PX = 7
"""How many pixels to the sides of the line are averaged, in linear light."""


def line_colours(picture: NDArray[np.uint8], start: tuple[float, float], end: tuple[float, float]) -> Array:
    """Return L*, a*, b* along a line from x, y to x, y, px, shape (n, 3), one for each pixel of its length.

    Raises
    ------
    OutOfRangeError
        If an end lies outside the picture, or the line is shorter than 8 pixels.
    """
    rows, columns = picture.shape[:2]
    for x, y in (start, end):
        if not (0 <= x <= columns - 1 and 0 <= y <= rows - 1):
            raise OutOfRangeError(
                phrase("an end of the line"),
                (x, y),
                phrase("within the picture, 0,0 to {columns},{rows}", columns=columns - 1, rows=rows - 1),
            )
    way = np.subtract(end, start).astype(np.float64)
    length = float(np.hypot(*way))
    if length < 8:
        raise OutOfRangeError(phrase("length of the line"), round(length, 1), "at least 8 px")
    along = np.asarray(start) + np.linspace(0, 1, round(length) + 1)[:, None] * way
    aside = np.array([-way[1], way[0]]) / length
    offsets = np.arange(LINE_PX) - LINE_PX // 2
    at = np.rint(along[:, None] + offsets[None, :, None] * aside).astype(np.intp)
    column, row = np.clip(at[..., 0], 0, columns - 1), np.clip(at[..., 1], 0, rows - 1)
    return xyz_to_lab(rgb_to_xyz(decode(picture[row, column] / 255.0).mean(axis=1)))
