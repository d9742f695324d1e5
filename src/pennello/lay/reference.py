"""The NumPy reference of the film of many strokes: slow, plain, and the truth that the kernel is held to."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.kubelka_munk import film as film_reflectance
from pennello.kit.contact import BINS
from pennello.lay import channels
from pennello.lay.canvas import Canvas
from pennello.lay.coverage import swept_coverage
from pennello.lay.deposit import LEVELLING_MM, levelled
from pennello.lay.drying import mixing_share, wetness
from pennello.lay.film import MOST_OPTICAL_DEPTH, covered_reflectance
from pennello.lay.motion import Motion
from pennello.lay.render import to_bytes
from pennello.lay.skin_film import (
    LEAST_COVER,
    LEAST_WET_UM,
    SURFACE,
    THIN_UM,
    TIE,
    Box,
    Picture,
    Pulling,
    SkinFilm,
    cell_px,
)
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]


class Reference:
    """Works with whole arrays, an event at a time."""

    name = "reference"

    def cover(self, track: Track, canvas: Canvas) -> Array:
        """Return the swept part of each pixel, shape (rows, columns)."""
        return swept_coverage(track, canvas)

    def change(
        self, below: Array, coverage: Array, motion: Motion, canvas: Canvas, pull: Pulling
    ) -> tuple[Array, Array]:
        """Return what a stroke adds to each pixel, levelled, and what its bins have taken up."""
        many = below.shape[2]
        plane = canvas.rows * canvas.columns
        result = np.zeros((plane, many))
        scale = canvas.px_per_mm**2 * 1000
        contents, carried = pull.contents * scale, pull.carried * scale
        cells = _Cells(below, coverage, canvas) if pull.wet(below, coverage) else None
        now = -1
        for event in range(len(motion.pose)):
            stretch = int(motion.stretch[event])
            if stretch != now:
                now, carried = stretch, carried * pull.keeps[stretch][:, None]
            taps, weights = _taps(motion, event, pull.drops_across, canvas)
            given = motion.given[event]
            amounts = given[:, None] * contents[stretch]
            if cells is not None:
                own = np.divide(given, motion.held[event], out=np.zeros(BINS), where=motion.held[event] > 1e-12)
                away = (1 - (1 - np.minimum(own, 1)) ** SURFACE)[:, None]
                amounts = amounts + carried * away
                carried = carried * (1 - away) + cells.take(motion, event, pull.uptake)
            _add(result, taps, weights, amounts)
        if cells is not None:
            result -= cells.lost().reshape(plane, many)
        planes = np.ascontiguousarray(result.T.reshape(many, canvas.rows, canvas.columns))
        level = levelled(planes, coverage, LEVELLING_MM * canvas.px_per_mm)
        return np.ascontiguousarray(level.transpose(1, 2, 0)), carried / scale

    def bake(self, part: SkinFilm, swept: Array, at_s: float, rate_um_s: float) -> None:
        """Let what has set by a time become ground where a stroke comes, in place."""
        wet, cover, solids = part.wet, part.cover, part.wet[..., channels.SOLIDS]
        there = (swept > 0) & (cover > 0) & (solids > 0)
        left = wetness(part.body_um, part.water_um(), at_s - part.as_of_s, rate_um_s)
        mixes = mixing_share(left) * part.body_um
        stays = np.where(there, np.divide(mixes, solids, out=np.zeros_like(mixes), where=solids > 0), 1.0)
        stays = np.minimum(stays, 1.0)
        sets = 1 - stays
        part.dry_um[...] += solids * sets
        inner = (sets / np.maximum(cover, LEAST_COVER))[..., None]
        depth_k = np.minimum(channels.depth_k(wet) * inner, MOST_OPTICAL_DEPTH)
        depth_s = np.minimum(channels.depth_s(wet, part.basis) * inner, MOST_OPTICAL_DEPTH)
        baked = part.ground + cover[..., None] * (film_reflectance(depth_k, depth_s, part.ground) - part.ground)
        part.ground[...] = np.where((sets > 0)[..., None], baked, part.ground)
        wet *= stays[..., None]
        wet[..., channels.WATER] = np.where(there, wet[..., channels.SOLIDS] * left, wet[..., channels.WATER])
        part.as_of_s[there] = at_s
        gone = there & (stays <= 0)
        cover[gone] = 0.0
        part.body_um[gone] = 0.0

    def settle(self, part: SkinFilm, change: Array, swept: Array, at_s: float) -> None:
        """Add what a stroke changed, in place: the film, its water, and what it covers."""
        wet, there = part.wet, swept > 0
        before = wet[..., channels.SOLIDS].copy()
        set_um = np.maximum(part.body_um - before, 0.0)
        ratio = np.divide(wet[..., channels.WATER], before, out=np.zeros_like(before), where=before > THIN_UM)
        wet[there] = np.maximum(wet[there] + change[there], 0.0)
        after = wet[..., channels.SOLIDS]
        body = set_um + after
        water = wet[..., channels.WATER] + ratio * set_um
        share = np.divide(after, body, out=np.zeros_like(body), where=body > THIN_UM)
        wet[..., channels.WATER] = np.where(there, water * share, wet[..., channels.WATER])
        part.body_um[there] = body[there]
        part.as_of_s[there] = at_s
        part.cover[...] += swept - part.cover * swept

    def picture(self, film: SkinFilm, box: Box) -> Picture:
        """Return the sRGB bytes of a part of the film."""
        part = film.part(box)
        deep = (channels.depth_k(part.wet), channels.depth_s(part.wet, part.basis))
        return to_bytes(covered_reflectance(*deep, part.cover, part.ground), film.basis)


def _taps(motion: Motion, event: int, fine: int, canvas: Canvas) -> tuple[NDArray[np.intp], Array]:
    """Return the four pixels of each drop and their weights, shape (64, 4 x drops of a bin); weights sum to 1."""
    cx, cy, ex, ey, width, thick, stagger = motion.pose[event]
    count = int(motion.count[event])
    u = (((np.arange(BINS * fine) + 0.5) / (BINS * fine) - 0.5) * width).reshape(BINS, fine, 1)
    near, far = (side[:, None, None] for side in motion.sides_of(event))
    v = (near + (np.arange(count) + 0.5) / count * (far - near)) * thick
    shift = stagger * width / (BINS * fine)
    px = canvas.px_per_mm
    x = ((cx + shift * ex - canvas.left_mm) + u * ex - v * ey) * px - 0.5
    y = ((cy + shift * ey - canvas.top_mm) + u * ey + v * ex) * px - 0.5
    column, row = np.floor(x).astype(np.intp), np.floor(y).astype(np.intp)
    inside = (column >= 0) & (row >= 0) & (column < canvas.columns - 1) & (row < canvas.rows - 1)
    fx, fy = x - column, y - row
    first = np.where(inside, row * canvas.columns + column, 0)
    taps = np.stack([first, first + 1, first + canvas.columns, first + canvas.columns + 1], axis=-1)
    weights = np.stack([(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy], axis=-1) / (fine * count)
    return taps.reshape(BINS, -1), (weights * inside[..., None]).reshape(BINS, -1)


def _add(result: Array, taps: NDArray[np.intp], weights: Array, amounts: Array) -> None:
    for channel in range(result.shape[1]):
        result[:, channel] += np.bincount(
            taps.ravel(), (weights * amounts[:, channel, None]).ravel(), minlength=len(result)
        )


class _Cells:
    """The wet film that a stroke comes over, in cells of about half a millimetre, from which bins take paint up."""

    def __init__(self, below: Array, swept: Array, canvas: Canvas) -> None:
        self.block = cell_px(canvas.px_per_mm)
        self.reached = below * (swept > 0)[..., None]
        rows, columns = (np.arange(0, size, self.block) for size in below.shape[:2])
        self.film = np.add.reduceat(np.add.reduceat(self.reached.astype(np.float64), rows, axis=0), columns, axis=1)
        self.kept = np.ones(self.film.shape[:2])
        size = self.block / canvas.px_per_mm
        self.x_mm = canvas.left_mm + (np.arange(len(columns)) + 0.5) * size
        self.y_mm = (canvas.top_mm + (np.arange(len(rows)) + 0.5) * size)[:, None]
        self.size_mm = size

    def take(self, motion: Motion, event: int, uptake: float) -> Array:
        """Take up what lies under the contact; return what each bin got, shape (64, channels)."""
        cx, cy, ex, ey, width, thick, _ = motion.pose[event]
        x, y = self.x_mm - cx, self.y_mm - cy
        u, v = (x * ex + y * ey) / width + 0.5, (y * ex - x * ey) / thick
        u, slack = u + TIE / BINS, TIE / thick
        inside = (u >= 0) & (u < 1) & (self.film[..., channels.SOLIDS] > LEAST_WET_UM * self.block**2)
        row, column = np.nonzero(inside)
        bins = np.floor(u[row, column] * BINS).astype(np.intp)
        near, far = motion.sides_of(event)
        under = (
            (v[row, column] >= near[bins] - slack)
            & (v[row, column] <= far[bins] + slack)
            & (motion.passes[event][bins] > 0)
        )
        row, column, bins = row[under], column[under], bins[under]
        stays = np.exp(-motion.passes[event][bins] * uptake)
        taken = self.film[row, column] * (1 - stays)[:, None]
        self.film[row, column] -= taken
        self.kept[row, column] *= stays
        half = int(0.5 * self.size_mm / (width / BINS) + 0.5)
        got = np.zeros((BINS, self.film.shape[2]))
        for shift in range(-half, half + 1):
            np.add.at(got, np.clip(bins + shift, 0, BINS - 1), taken / (2 * half + 1))
        return got

    def lost(self) -> Array:
        """Return what each pixel has lost, shape (rows, columns, channels)."""
        rows, columns = self.reached.shape[:2]
        share = np.repeat(np.repeat(1 - self.kept, self.block, axis=0), self.block, axis=1)[:rows, :columns]
        return np.asarray(self.reached * share[..., None])
