"""The NumPy reference of the deposit: volume is splatted, never divided by an area, so none is made or lost.

Every step of every bin leaves its paint over the chisel's thickness, in drops at most half a pixel apart, each shared out to four pixels by
tent weights. Then the wet film levels over a physical 0.3 mm, inside the swept area only and again without making or losing any.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.lay.canvas import Canvas
from pennello.lay.coverage import swept_coverage
from pennello.lay.reservoir import Run
from pennello.lay.track import Track
from pennello.load.pickup import BINS

Array = NDArray[np.floating[Any]]

LEVELLING_MM = 0.3
"""Standard deviation of the levelling of the wet film, mm (a default)."""


@dataclass(frozen=True, slots=True, eq=False)
class Deposit:
    """Paint on a canvas.

    Attributes
    ----------
    channels
        Mean thickness over each pixel of what was splatted, um, shape (channels, rows, columns).
    coverage
        Part of each pixel that the nib passed over, in [0, 1], shape (rows, columns).
    """

    canvas: Canvas
    channels: Array
    coverage: Array

    @property
    def volumes_mm3(self) -> Array:
        """Volume of each channel, mm3, shape (channels,)."""
        return np.asarray(self.channels.sum(axis=(1, 2)) / self.canvas.px_per_mm**2 / 1000)


def deposit(track: Track, stretches: list[Run], contents: list[Array], canvas: Canvas) -> Deposit:
    """Return what a stroke leaves.

    Parameters
    ----------
    stretches
        The runs of the stroke, in order.
    contents
        For each run, how much of each channel a bin holds per mm of edge at its start, shape (channels, 64), mm3/mm.
    """
    plane = canvas.rows * canvas.columns
    total = np.zeros((len(contents[0]), plane))
    for run, held in zip(stretches, contents, strict=True):
        for volume, points in (_touch_down(track, run, canvas), _pull(track, run, canvas)):
            if points is not None:
                _splat(total, volume, held, points, canvas)
    bin_mm = track_bin_mm(stretches[0])
    thickness = total.reshape(-1, canvas.rows, canvas.columns) * bin_mm * canvas.px_per_mm**2 * 1000
    coverage = swept_coverage(track, canvas)
    return Deposit(canvas, _levelled(thickness, coverage, LEVELLING_MM * canvas.px_per_mm), coverage)


def track_bin_mm(run: Run) -> float:
    """Return the length of edge that one bin stands for, mm."""
    return run.edge.width_mm / BINS


def _fine_bins(track: Track, canvas: Canvas) -> int:
    return max(1, math.ceil(track.width_mm * canvas.px_per_mm * 2 / BINS))


def _offsets(track: Track, canvas: Canvas, spread_mm: float) -> Array:
    """Return places through the chisel's thickness, mm, at most half a pixel apart over a spread."""
    count = max(3, math.ceil(spread_mm * canvas.px_per_mm * 2))
    return ((np.arange(count) + 0.5) / count - 0.5) * track.thickness_mm


def _places(track: Track, moments: Array, canvas: Canvas, spread_mm: float) -> Array:
    """Return pixel coordinates of drops at (fractional) moments, shape (2, moments, 64, fine bins, offsets)."""
    fine = _fine_bins(track, canvas)
    u = ((np.arange(BINS * fine) + 0.5) / (BINS * fine) - 0.5) * track.width_mm
    v = _offsets(track, canvas, spread_mm)
    centre = _between(track.centre, moments)
    edge = _between(track.edge, moments)
    scale = canvas.px_per_mm
    x = (centre[:, 0] - canvas.left_mm)[:, None, None] + u[:, None] * edge[:, 0, None, None]
    y = (centre[:, 1] - canvas.top_mm)[:, None, None] + u[:, None] * edge[:, 1, None, None]
    shape = (len(moments), BINS, fine, len(v))
    places = np.stack([x - v * edge[:, 1, None, None], y + v * edge[:, 0, None, None]])
    return np.asarray(places.reshape(2, *shape) * scale)


def _between(values: Array, moments: Array) -> Array:
    index = np.floor(moments).astype(np.intp)
    part = (moments - index)[:, None]
    following = np.minimum(index + 1, len(values) - 1)
    return np.asarray(values[index] * (1 - part) + values[following] * part)


def _touch_down(track: Track, run: Run, canvas: Canvas) -> tuple[Array, Array | None]:
    return run.touch_down[None, :], _places(track, np.array([float(run.first)]), canvas, track.thickness_mm)


def _pull(track: Track, run: Run, canvas: Canvas) -> tuple[Array, Array | None]:
    if run.last <= run.first:
        return run.given, None
    # only the spread square to travel needs close drops: along it the next steps fill in
    cosine = np.abs(np.cos(track.phi[run.first : run.last + 1]))
    turning = np.ptp(np.unwrap(np.arctan2(track.edge[:, 1], track.edge[:, 0]))) * track.width_mm > track.length_mm
    spread = track.thickness_mm * (1.0 if turning else float(cosine.max()))
    return run.given, _places(track, np.arange(run.first, run.last) + 0.5, canvas, spread)


def _splat(total: Array, volume: Array, held: Array, places: Array, canvas: Canvas) -> None:
    """Add drops to the channels; `volume` (moments, 64) times `held` (channels, 64) is shared by a bin's drops."""
    moments, bins, fine, offsets = places.shape[1:]
    drops = fine * offsets
    x, y = (places[axis].reshape(moments, bins, drops) - 0.5 for axis in (0, 1))
    column, row = np.floor(x), np.floor(y)
    right, low = x - column, y - row
    corner = (row * canvas.columns + column).astype(np.intp)
    index = np.stack([corner, corner + 1, corner + canvas.columns, corner + canvas.columns + 1])
    weight = np.stack([(1 - right) * (1 - low), right * (1 - low), (1 - right) * low, right * low])
    given = weight * (volume / drops)[None, :, :, None]
    flat = index.ravel()
    low_index, high_index = int(flat.min()), int(flat.max()) + 1
    flat = flat - low_index
    for channel, per_bin in zip(total, held, strict=True):
        if per_bin.any():
            amount = given * per_bin[None, None, :, None]
            channel[low_index:high_index] += np.bincount(flat, amount.ravel(), high_index - low_index)


def _levelled(thickness: Array, coverage: Array, sd_px: float) -> Array:
    """Return the film after levelling: a normal blur that only shares paint out among covered ground."""
    kernel = _kernel(sd_px)
    reach = _blurred(coverage[None], kernel)[0]
    shared = np.divide(thickness, reach, out=np.zeros_like(thickness), where=reach > 1e-12)
    levelled = coverage * _blurred(shared, kernel)
    # a drop whose whole neighbourhood the scanlines missed stays where it fell
    stray = np.where(reach > 1e-12, 0.0, thickness)
    return np.asarray(levelled + stray)


def _kernel(sd_px: float) -> Array:
    reach = max(1, math.ceil(3 * sd_px))
    steps = np.arange(-reach, reach + 1)
    kernel = np.exp(-0.5 * (steps / max(sd_px, 0.3)) ** 2)
    return np.asarray(kernel / kernel.sum())


def _blurred(planes: Array, kernel: Array) -> Array:
    """Return planes (n, rows, columns) convolved along both axes; nothing lies beyond the margin."""
    for axis in (1, 2):
        reach = len(kernel) // 2
        pad = [(0, 0), (0, 0), (0, 0)]
        pad[axis] = (reach, reach)
        padded = np.pad(planes, pad)
        size = planes.shape[axis]
        planes = sum(
            weight * padded.take(np.arange(shift, shift + size), axis=axis) for shift, weight in enumerate(kernel)
        )
    return planes
