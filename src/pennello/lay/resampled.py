"""What lies on one canvas averaged over the pixels of another."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array

from pennello.lay.canvas import Canvas

Array = NDArray[np.floating[Any]]


def resampled(values: Array, here: Canvas, there: Canvas, beside: Array | float = 0.0) -> Array:
    """Return the means of values over the pixels of another canvas.

    Parameters
    ----------
    values
        One for each pixel of `here`, shape (rows, columns) or (rows, columns, channels).
    beside
        What lies beside `here`: one value, or one for each channel.

    Returns
    -------
    Shape (rows, columns) of `there`, and channels as they are. Of what lies on both canvases nothing is lost or added:
    the sum times the area of a pixel is the same.
    """
    down = _shares(here.top_mm, here.rows, here.px_per_mm, there.top_mm, there.rows, there.px_per_mm)
    across = _shares(here.left_mm, here.columns, here.px_per_mm, there.left_mm, there.columns, there.px_per_mm)
    given = values.reshape(here.rows, here.columns, -1)
    channels = given.shape[2]
    rows = (down @ given.reshape(here.rows, -1)).reshape(there.rows, here.columns, channels)
    turned = np.ascontiguousarray(rows.transpose(1, 0, 2)).reshape(here.columns, -1)
    means = (across @ turned).reshape(there.columns, there.rows, channels).transpose(1, 0, 2)
    covered = np.outer(down.sum(axis=1), across.sum(axis=1))[..., None]
    result = means + (1 - covered) * np.asarray(beside, values.dtype)
    return np.ascontiguousarray(result.reshape(there.rows, there.columns, *values.shape[2:]), values.dtype)


def _shares(begin: float, count: int, px: float, other_begin: float, other_count: int, other_px: float) -> csr_array:
    """Return which share of each pixel of the other row lies in each pixel of a row, shape (other_count, count)."""
    edges = (other_begin - begin) * px + np.arange(other_count + 1) * (px / other_px)
    first = np.floor(edges[:-1]).astype(int)
    most = int(np.ceil(px / other_px)) + 1
    place = first[:, None] + np.arange(most)
    long = np.minimum(edges[1:, None], place + 1) - np.maximum(edges[:-1, None], place)
    rows = np.broadcast_to(np.arange(other_count)[:, None], place.shape)
    there = (long > 0) & (place >= 0) & (place < count)
    shares = (long[there] * (other_px / px)).astype(np.float32)
    return csr_array((shares, (rows[there], place[there])), shape=(other_count, count))
