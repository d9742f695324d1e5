"""Which part of every pixel a stroke has passed over: the union of all footprints, by scanlines.

Every footprint and every quadrilateral swept between two of them crosses a scanline in one interval. The
intervals of a scanline are merged, and what is left is shared out to the pixels exactly along the line; four
scanlines a pixel.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.contact import bin_places
from pennello.lay.canvas import Canvas
from pennello.lay.track import Track
from pennello.path.cubic import far_mm

Array = NDArray[np.floating[Any]]
Lines = NDArray[np.intp]

_LINES = 4


def swept_coverage(track: Track, canvas: Canvas) -> Array:
    """Return coverage in [0, 1], shape (rows, columns), float64."""
    quads = canvas.to_px(footprints(track, canvas.px_per_mm))
    line, start, end = _merged(*_intervals(quads, canvas.rows * _LINES), canvas.columns)
    stride = canvas.columns + 2
    change = np.zeros(canvas.rows * _LINES * stride)
    for place, sign in ((start, 1.0), (end, -1.0)):
        pixel = np.floor(place).astype(np.intp)
        part = place - pixel
        at = line * stride + pixel
        change += sign * np.bincount(at, 1 - part, len(change))
        change += sign * np.bincount(at + 1, part, len(change))
    covered = np.cumsum(change.reshape(canvas.rows, _LINES, stride).mean(axis=1), axis=1)
    return np.asarray(np.clip(covered[:, : canvas.columns], 0, 1))


def footprints(track: Track, px_per_mm: float) -> Array:
    """Return quadrilaterals whose union is what the nib passes over, mm, shape (quads, 4, 2)."""
    return _of_rectangle(track, px_per_mm) if _square(track) else _of_outline(track, px_per_mm)


def _square(track: Track) -> bool:
    """Return whether the contact is a plain chisel's rectangle."""
    return bool((track.far - track.near).min() >= 1 - 1e-9)


def _of_rectangle(track: Track, px_per_mm: float) -> Array:
    """Return those of a plain chisel.

    A long side of the nib sweeps from moment to moment, and where the nib slants so does the other one, which then
    reaches further. The nib itself adds to that only where it starts, stops or moves along its chisel.
    """
    moments = _spaced(track, max(track.thickness_mm / 2, 0.7 / px_per_mm))
    low, high = (end[moments] for end in track.reach)
    edge, thick = track.edge[moments], track.thicknesses_mm[moments]
    along = (np.stack([low, high], axis=1) - 0.5) * track.widths_mm[moments][:, None]
    ends = track.centre[moments][:, None, :] + along[:, :, None] * edge[:, None, :]
    half = (track.across[moments] * (thick / 2)[:, None])[:, None, :]
    near, far = ends - half, ends + half
    slants = _slanting(ends, edge, thick * px_per_mm)
    changes = np.zeros(len(moments), bool)
    for end in (low, high):  # where more or less of the edge comes down, both sides and the nib reach on their own
        differs = np.abs(end[1:] - end[:-1]) > _CHANGES
        changes[:-1] |= differs
        changes[1:] |= differs
    slants |= changes
    touching, sweeps = high > low, _sweeps(track, moments)
    rectangles = np.concatenate([near, far[:, ::-1]], axis=1)[(_bare_between(track, moments) | changes) & touching]
    near_swept, far_swept = (np.concatenate([side[:-1], side[1:, ::-1]], axis=1) for side in (near, far))
    sweeps &= touching[:-1] | touching[1:]
    return np.concatenate([rectangles, near_swept[sweeps], far_swept[(slants[:-1] | slants[1:]) & sweeps]])


def _slanting(ends: Array, edge: Array, thick_px: Array) -> NDArray[np.bool_]:
    """Return at which moments an end of the edge moves so far along the edge that both long sides show.

    It is the corners' own way that counts, waves and turns with it. Shapes (n, 2, 2), (n, 2), (n,).
    """
    step = ends[1:] - ends[:-1]
    length = np.maximum(far_mm(step), 1e-12)
    along = np.abs(step[..., 0] * edge[:-1, None, 0] + step[..., 1] * edge[:-1, None, 1])
    between = ((along / length).max(axis=1) * thick_px[:-1] > 0.2) & (length.max(axis=1) > 1e-9)
    slants = np.zeros(len(ends), bool)
    slants[:-1] |= between
    slants[1:] |= between
    slants[[0, -1]] = True
    return slants


def _sweeps(track: Track, moments: Lines) -> NDArray[np.bool_]:
    """Return between which neighbours among the moments the nib stays on the skin."""
    jumps = np.concatenate([[0], np.cumsum(track.jump)])
    return np.asarray(jumps[moments[1:]] == jumps[moments[:-1]])


_CHANGES = 1e-3
_SLICES = 20
_FLAT = 0.005
_OUTLINE_STEP_MM = 1.0


def _slices() -> Array:
    """Return where along what touches it is cut: closer at both ends, which are round."""
    return np.asarray((1 - np.cos(np.linspace(0, math.pi, _SLICES + 1))) / 2)


def _of_outline(track: Track, px_per_mm: float) -> Array:
    """Return those of any other contact.

    What touches of it is cut into slices along the edge, each a quadrilateral whose four sides sweep from moment to
    moment.
    """
    moments = _spaced(track, max(_OUTLINE_STEP_MM, 0.7 / px_per_mm))
    near, far = _sides(track, moments)
    slices = np.stack([near[:, :-1], near[:, 1:], far[:, 1:], far[:, :-1]], axis=2)
    touching, sweeps = _touching(track, moments)
    sides = [np.stack([slices[:, :, a], slices[:, :, (a + 1) % 4]], axis=2) for a in range(4)]
    swept = [np.concatenate([side[:-1], side[1:, :, ::-1]], axis=2)[sweeps].reshape(-1, 4, 2) for side in sides]
    return np.concatenate([slices[touching].reshape(-1, 4, 2), *swept])


def hulls(track: Track, px_per_mm: float) -> Array:
    """Return sets of points whose convex hulls together are what the nib passes over, mm, shape (sets, points, 2).

    The same area as of `footprints` by far fewer shapes where the contact is round: its outline from moment to moment.
    """
    if _square(track):
        return footprints(track, px_per_mm)
    moments = _spaced(track, max(_OUTLINE_STEP_MM, 0.7 / px_per_mm))
    near, far = _sides(track, moments)
    rings = np.concatenate([near, far[:, ::-1]], axis=1)
    touching, sweeps = _touching(track, moments)
    if not _convex(rings[touching]):
        return footprints(track, px_per_mm)
    alone = touching.copy()  # set down and lifted without a sweep
    alone[:-1] &= ~sweeps
    alone[1:] &= ~sweeps
    swept = np.concatenate([rings[:-1], rings[1:]], axis=1)[sweeps]
    return np.concatenate([np.concatenate([rings, rings], axis=1)[alone], swept])


def _convex(rings: Array) -> bool:
    """Return whether all rings turn one way only, but for kinks of half a hundredth of their size."""
    step = np.diff(rings, axis=1, append=rings[:, :1])
    after = np.roll(step, -1, axis=1)
    turn = step[..., 0] * after[..., 1] - step[..., 1] * after[..., 0]
    size = np.ptp(rings, axis=1).prod(axis=1)
    one_way = np.minimum(-turn.min(axis=1, initial=0.0), turn.max(axis=1, initial=0.0))
    return bool((one_way <= _FLAT * size).all())


def _touching(track: Track, moments: Lines) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
    """Return at which moments something touches, and between which of them it sweeps."""
    low, high = (end[moments] for end in track.reach)
    touching, sweeps = high > low, _sweeps(track, moments)
    return touching, sweeps & (touching[:-1] | touching[1:])


def _sides(track: Track, moments: Lines) -> tuple[Array, Array]:
    """Return both long sides of what touches, in even steps along the edge, mm, each of shape (moments, steps, 2)."""
    low, high = (end[moments][:, None] for end in track.reach)
    u = low + (high - low) * _slices()
    thick = track.thicknesses_mm[moments][:, None]
    if len(track.near) == 1 and len(track.far) == 1:
        near, far = (np.interp(u, bin_places(), side[0]) * thick for side in (track.near, track.far))
    else:
        form_low, form_high = (end[moments][:, None] for end in (track.form_low, track.form_high))
        place = (u - form_low) / np.maximum(form_high - form_low, 1e-9)
        near, far = (np.interp(place, np.linspace(0, 1, len(side)), side) * thick for side in track.outline)
    along = ((u - 0.5) * track.widths_mm[moments][:, None])[..., None] * track.edge[moments][:, None, :]
    middle = track.centre[moments][:, None, :] + along
    across = track.across[moments][:, None, :]
    return middle + near[..., None] * across, middle + far[..., None] * across


def _bare_between(track: Track, moments: Lines) -> NDArray[np.bool_]:
    """Return at which moments the long sides have not yet swept, or will no longer sweep, what lies under the nib."""
    across = np.sin(track.phi[moments])
    travelled = track.travel_mm[moments].mean(axis=1)
    travelled[1:] -= travelled[:-1].copy()
    advanced = np.cumsum(travelled * across)
    enough = 1.5 * track.thicknesses_mm[moments]
    bare = (across < 0.25) | (advanced < enough) | (advanced[-1] - advanced < enough)
    bare[[0, -1]] = True
    jumps = ~_sweeps(track, moments)  # at a flip the nib leaves and comes down again
    bare[:-1] |= jumps
    bare[1:] |= jumps
    return np.asarray(bare)


def _spaced(track: Track, step_mm: float) -> Lines:
    """Return moments between which nothing moves further than about a step, with both ends and all turnings back."""
    moving = np.empty((5, len(track.s_mm)))  # what touches moves too
    moving[0], moving[1] = track.travel_mm[:, 0], track.travel_mm[:, -1]
    np.multiply((track.low, track.high), track.widths_mm, out=moving[2:4])
    np.divide(track.thicknesses_mm, 2, out=moving[4])
    travelled = np.zeros(len(track.s_mm))
    np.cumsum(np.abs(moving[:, 1:] - moving[:, :-1]).max(axis=0), out=travelled[1:])
    chosen = np.searchsorted(travelled, np.linspace(0, travelled[-1], math.ceil(travelled[-1] / step_mm) + 1))
    moves = track.centre[1:] - track.centre[:-1]
    back = 1 + np.flatnonzero((moves[:-1] * moves[1:]).sum(axis=1) < 0)
    wanted = np.zeros(len(travelled), bool)
    jumps = np.flatnonzero(track.jump)
    wanted[[0, -1]] = wanted[np.minimum(chosen, len(wanted) - 1)] = True
    wanted[back] = wanted[jumps] = wanted[jumps + 1] = True
    return np.flatnonzero(wanted)


def _intervals(quads: Array, lines: int) -> tuple[Lines, Array, Array]:
    """Return scanline numbers and the x interval on each that a quadrilateral (or the hull of a bow-tie) covers, px."""
    x, y = quads[:, :, 0], quads[:, :, 1] * _LINES - 0.5
    rise = np.roll(y, -1, axis=1) - y
    level = np.abs(rise) < 1e-9
    run = (np.roll(x, -1, axis=1) - x) / np.where(level, 1, rise)
    low_y, high_y = np.minimum(y, np.roll(y, -1, axis=1)), np.maximum(y, np.roll(y, -1, axis=1))
    high_y[level] = -np.inf  # a level side crosses no scanline; its neighbours end on it
    first = np.clip(np.ceil(y.min(axis=1)), 0, lines).astype(np.intp)
    last = np.clip(np.floor(y.max(axis=1)) + 1, first, lines).astype(np.intp)
    count = last - first
    quad = np.repeat(np.arange(len(quads)), count)
    line = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count) + first[quad]
    low = np.full(len(line), np.inf)
    high = np.full(len(line), -np.inf)
    for side in range(4):
        crosses = (line >= low_y[quad, side]) & (line <= high_y[quad, side])
        at = x[quad, side] + (line - y[quad, side]) * run[quad, side]
        low = np.minimum(low, np.where(crosses, at, np.inf))
        high = np.maximum(high, np.where(crosses, at, -np.inf))
    real = high >= low
    return line[real], low[real], high[real]


def _merged(line: Lines, start: Array, end: Array, columns: int) -> tuple[Lines, Array, Array]:
    """Return the unions of overlapping intervals of each scanline, clipped to the canvas."""
    if not len(line):
        return line, start, end
    apart = columns + 2.0  # puts the scanlines one behind the other on one axis
    begins = line * apart + np.clip(start, 0, columns)
    order = np.argsort(begins)
    begins = begins[order]
    reached = np.maximum.accumulate((line * apart + np.clip(end, 0, columns))[order])
    opens = np.concatenate([[True], begins[1:] > reached[:-1]])
    closes = np.concatenate([opens[1:], [True]])
    lines = line[order][opens]
    return lines, begins[opens] - lines * apart, reached[closes] - lines * apart
