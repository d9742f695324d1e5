"""Which part of every pixel a stroke has passed over: the union of all footprints, by scanlines.

Every footprint and every quadrilateral swept between two of them crosses a scanline in one interval; the union of the intervals is a running
count of starts less ends. Four scanlines a pixel, eight steps along each.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.lay.canvas import Canvas
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]

_LINES = 4
_PARTS = 8


def swept_coverage(track: Track, canvas: Canvas) -> Array:
    """Return coverage in [0, 1], shape (rows, columns), float64."""
    quads = canvas.to_px(_footprints(track, canvas.px_per_mm))
    line, start, end = _intervals(quads, canvas.rows * _LINES)
    width = canvas.columns * _PARTS
    first = np.clip(np.rint(start * _PARTS), 0, width).astype(np.intp)
    last = np.clip(np.rint(end * _PARTS), 0, width).astype(np.intp)
    stride = width + 1
    size = canvas.rows * _LINES * stride
    change = np.bincount(line * stride + first, minlength=size) - np.bincount(line * stride + last, minlength=size)
    inside = np.cumsum(change.reshape(-1, stride)[:, :-1].astype(np.int32), axis=1) > 0
    blocks = inside.reshape(canvas.rows, _LINES, canvas.columns, _PARTS)
    return np.asarray(blocks.mean(axis=(1, 3)))


def _footprints(track: Track, px_per_mm: float) -> Array:
    """Return rectangles of the nib and what its two long sides sweep between them, mm, shape (quads, 4, 2)."""
    moments = _spaced(track, max(track.thickness_mm / 3, 0.7 / px_per_mm))
    ends = track.points(moments, np.array([0.0, 1.0]))
    half = track.across[moments][:, None, :] * track.thickness_mm / 2
    near, far = ends - half, ends + half
    rectangles = np.concatenate([near, far[:, ::-1]], axis=1)
    swept = [np.concatenate([side[:-1], side[1:, ::-1]], axis=1) for side in (near, far)]
    return np.concatenate([rectangles, *swept])


def _spaced(track: Track, step_mm: float) -> NDArray[np.intp]:
    """Return moments between which no bin moves further than about a step; the first and the last are among them."""
    steps = np.diff(track.travel_mm[:, [0, -1]], axis=0).max(axis=1, initial=0)
    travelled = np.concatenate([[0.0], np.cumsum(steps)])
    count = math.ceil(travelled[-1] / step_mm) + 1
    chosen = np.searchsorted(travelled, np.linspace(0, travelled[-1], count))
    return np.unique(np.concatenate([[0], np.clip(chosen, 0, len(steps)), [len(steps)]]))


def _intervals(quads: Array, lines: int) -> tuple[NDArray[np.intp], Array, Array]:
    """Return scanline numbers and the x interval on each that a quadrilateral (or the hull of a bow-tie) covers, px."""
    y = quads[:, :, 1] * _LINES - 0.5
    first = np.clip(np.ceil(y.min(axis=1)), 0, lines).astype(np.intp)
    last = np.clip(np.floor(y.max(axis=1)) + 1, first, lines).astype(np.intp)
    count = last - first
    quad = np.repeat(np.arange(len(quads)), count)
    line = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count) + first[quad]
    low = np.full(len(line), np.inf)
    high = np.full(len(line), -np.inf)
    for corner in range(4):
        y0, y1 = y[quad, corner], y[quad, (corner + 1) % 4]
        x0, x1 = quads[quad, corner, 0], quads[quad, (corner + 1) % 4, 0]
        rise = y1 - y0
        part = np.divide(line - y0, rise, out=np.full(len(line), -1.0), where=np.abs(rise) > 1e-12)
        crosses = (part >= 0) & (part <= 1)
        x = x0 + part * (x1 - x0)
        low = np.where(crosses, np.minimum(low, x), low)
        high = np.where(crosses, np.maximum(high, x), high)
    real = high >= low
    return line[real], low[real], high[real]
