"""The NumPy reference of the deposit: volume is splatted, never divided by an area, so none is made or lost.

Every step of every bin leaves its paint in drops spread over the chisel's thickness; tent weights share a drop
out to four pixels. Then the wet film levels over a physical 0.3 mm, inside the swept area only and again
without making or losing any. Drops lie at most 0.5 mm apart: after levelling a regular row of them ripples by 2
exp(-2 pi^2 (0.3 / 0.5)^2) = 0.2 % at most, at any resolution.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.lay.canvas import Canvas
from pennello.lay.reservoir import Run
from pennello.lay.track import Track
from pennello.load.pickup import BINS

Array = NDArray[np.floating[Any]]

LEVELLING_MM = 0.3
"""Standard deviation of the levelling of the wet film, mm (a default)."""

DROP_MM = 0.5
"""Greatest distance between drops, mm."""

_NOTHING = 1e-10  # of a load: a share too small to carry


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


def deposit(track: Track, stretches: list[Run], contents: list[Array], canvas: Canvas, coverage: Array) -> Deposit:
    """Return what a stroke leaves.

    Parameters
    ----------
    stretches
        The runs of the stroke, in order.
    contents
        For each run, how much of each channel a bin holds per mm of edge at its start, shape (channels, 64), mm3/mm.
    coverage
        Swept part of each pixel, shape (rows, columns).
    """
    total = np.zeros((len(contents[0]), canvas.rows * canvas.columns))
    for run, held in zip(stretches, contents, strict=True):
        most = _through(track.thickness_mm)
        _splat(
            total,
            run.touch_down[None],
            held,
            _places(track, np.array([float(run.first)]), most, canvas),
            canvas,
        )
        counts = _drop_counts(track, run)
        for count in np.unique(counts):
            steps = np.flatnonzero(counts == count)
            _splat(
                total,
                run.given[steps],
                held,
                _places(track, run.first + steps + 0.5, int(count), canvas),
                canvas,
            )
    bin_mm = stretches[0].edge.width_mm / BINS
    thickness = total.reshape(-1, canvas.rows, canvas.columns) * bin_mm * canvas.px_per_mm**2 * 1000
    return Deposit(canvas, _levelled(thickness, coverage, LEVELLING_MM * canvas.px_per_mm), coverage)


def _through(thickness_mm: float) -> int:
    return math.ceil(thickness_mm / DROP_MM)


def _drop_counts(track: Track, run: Run) -> NDArray[np.intp]:
    """Return how many drops each step needs through the chisel's thickness.

    Only what spreads square to travel needs close drops: along it the next steps fill in, except at both ends.
    """
    sideways = track.thickness_mm * np.abs(np.cos(track.phi[run.first : run.last]))
    own = track.travel_mm[run.first : run.last + 1].max(axis=1)
    end = (own[:-1] - own[0] < track.thickness_mm) | (own[-1] - own[1:] < track.thickness_mm)
    most = _through(track.thickness_mm)
    spread = np.where(end, track.thickness_mm, sideways)
    return np.clip(np.ceil(spread / DROP_MM), min(2, most), most).astype(np.intp)


def _places(track: Track, moments: Array, count: int, canvas: Canvas) -> tuple[Array, Array]:
    """Return pixel coordinates x and y of drops at (fractional) moments, each (moments, 64, drops of a bin)."""
    fine = math.ceil(track.width_mm / BINS / DROP_MM)
    u = (((np.arange(BINS * fine) + 0.5) / (BINS * fine) - 0.5) * track.width_mm).reshape(BINS, fine, 1)
    v = ((np.arange(count) + 0.5) / count - 0.5) * track.thickness_mm
    along, through = (a.reshape(BINS, -1) * canvas.px_per_mm for a in np.broadcast_arrays(u, v))
    centre = canvas.to_px(_between(track.centre, moments))[:, :, None, None]
    edge = _between(track.edge, moments)[:, :, None, None]
    x = centre[:, 0] + along * edge[:, 0] - through * edge[:, 1]
    y = centre[:, 1] + along * edge[:, 1] + through * edge[:, 0]
    return x, y


def _between(values: Array, moments: Array) -> Array:
    index = np.floor(moments).astype(np.intp)
    part = (moments - index)[:, None]
    following = np.minimum(index + 1, len(values) - 1)
    return np.asarray(values[index] * (1 - part) + values[following] * part)


def _splat(total: Array, volume: Array, held: Array, places: tuple[Array, Array], canvas: Canvas) -> None:
    """Add drops to the channels; `volume` (moments, 64) times `held` (channels, 64) is shared by a bin's drops."""
    x, y = (place - 0.5 for place in places)
    column, row = np.floor(x), np.floor(y)
    right, low = x - column, y - row
    corner = (row * canvas.columns + column).astype(np.intp)
    start = int(corner.min())
    corner -= start
    size = int(corner.max()) + canvas.columns + 2
    part = (volume / x.shape[2])[:, :, None]
    lower = part * low
    upper = part - lower
    weights = {0: upper * (1 - right), 1: upper * right}
    weights |= {canvas.columns: lower * (1 - right), canvas.columns + 1: lower * right}
    least = _NOTHING * float(held.sum(axis=0).max(initial=0))
    for channel, per_bin in zip(total, held, strict=True):
        used = np.flatnonzero(per_bin > least)
        if not len(used):
            continue
        bins = slice(int(used[0]), int(used[-1]) + 1)
        at = corner[:, bins].ravel()
        for shift, weight in weights.items():
            amount = weight[:, bins] * per_bin[bins, None]
            counted = np.bincount(at, amount.ravel(), size)[: channel.size - start - shift]
            channel[start + shift : start + shift + len(counted)] += counted


def _levelled(thickness: Array, coverage: Array, sd_px: float) -> Array:
    """Return the film after levelling: a normal blur that only shares paint out among covered ground."""
    kernel = _kernel(sd_px)
    reach = _blurred(coverage[None], kernel)[0]
    reached = reach > 1e-12
    shared = thickness * np.divide(1.0, reach, out=np.zeros_like(reach), where=reached)
    levelled = coverage * _blurred(shared, kernel)
    if not reached.all():  # a drop whose whole neighbourhood the scanlines missed stays where it fell
        levelled += np.where(reached, 0.0, thickness)
    return np.asarray(levelled)


def _kernel(sd_px: float) -> Array:
    reach = max(1, math.ceil(3 * sd_px))
    steps = np.arange(-reach, reach + 1)
    kernel = np.exp(-0.5 * (steps / max(sd_px, 0.3)) ** 2)
    return np.asarray(kernel / kernel.sum())


def _blurred(planes: Array, kernel: Array) -> Array:
    """Return planes (n, rows, columns) convolved along both axes; nothing lies beyond the margin."""
    return _blurred_along(_blurred_along(planes, kernel, 1), kernel, 2)


def _blurred_along(planes: Array, kernel: Array, axis: int) -> Array:
    """Return planes convolved along one axis with a symmetric kernel."""
    reach = len(kernel) // 2
    result = planes * kernel[reach]
    size = planes.shape[axis]
    for shift in range(1, min(reach, size - 1) + 1):
        ahead = tuple(slice(shift, None) if a == axis else slice(None) for a in range(3))
        behind = tuple(slice(None, -shift) if a == axis else slice(None) for a in range(3))
        result[behind] += kernel[reach + shift] * planes[ahead]
        result[ahead] += kernel[reach + shift] * planes[behind]
    return np.asarray(result)
