"""The NumPy reference of the film of many strokes: slow, plain, and the truth that the kernel is held to."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.kubelka_munk import film as film_reflectance
from pennello.kit.contact import BINS
from pennello.lay.canvas import Canvas
from pennello.lay.coverage import swept_coverage
from pennello.lay.deposit import LEVELLING_MM, levelled
from pennello.lay.drying import wetness
from pennello.lay.film import MOST_OPTICAL_DEPTH, covered_reflectance
from pennello.lay.motion import Motion
from pennello.lay.render import to_bytes
from pennello.lay.skin_film import LEAST_WET_UM, SURFACE, Box, Picture, Pulling, SkinFilm
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
        channels = below.shape[2]
        plane = canvas.rows * canvas.columns
        film = below.reshape(plane, channels).astype(np.float64)
        result = np.zeros((plane, channels))
        carried = pull.carried.astype(np.float64)
        contents = pull.contents * canvas.px_per_mm**2 * 1000
        wet = bool((coverage.ravel()[film[:, -1] > LEAST_WET_UM] > 0).any() or carried.any()) and pull.pick_up > 0
        rate = np.where(film[:, -1] > LEAST_WET_UM, pull.pick_up, 0.0)
        now = -1
        for event in range(len(motion.pose)):
            stretch = int(motion.stretch[event])
            if stretch != now:
                now, carried = stretch, carried * pull.keeps[stretch][:, None]
            taps, weights = _taps(motion, event, pull.drops_across, canvas)
            given = motion.given[event]
            own = given[:, None] * contents[stretch]
            if not wet:
                _add(result, taps, weights, own)
                continue
            own_part = np.divide(given, motion.held[event], out=np.zeros(BINS), where=motion.held[event] > 1e-12)
            away = (1 - (1 - np.minimum(own_part, 1)) ** SURFACE)[:, None]
            taken = _taken(film, taps, weights, motion.area_mm2[event] * canvas.px_per_mm**2, rate, result)
            _add(result, taps, weights, own + carried * away)
            carried = carried * (1 - away) + taken
        planes = np.ascontiguousarray(result.T.reshape(channels, canvas.rows, canvas.columns))
        level = levelled(planes, coverage, LEVELLING_MM * canvas.px_per_mm)
        return np.ascontiguousarray(level.transpose(1, 2, 0)), carried / (canvas.px_per_mm**2 * 1000)

    def bake(
        self,
        wet: Array,
        cover: Array,
        laid_s: Array,
        ground: Array,
        dry_um: Array,
        swept: Array,
        at_s: float,
        tau_coat_s: float,
    ) -> None:
        """Let what has dried by a time become ground where a stroke comes, in place."""
        there = (swept > 0) & (cover > 0)
        stays = np.where(there, wetness(wet[..., -1], at_s - laid_s, tau_coat_s), 1.0)
        dry = 1 - stays
        dry_um += wet[..., -1] * dry
        inner = dry / np.maximum(cover, 1e-3)
        depth_k = np.minimum(wet[..., :-2] * inner[..., None], MOST_OPTICAL_DEPTH)
        depth_s = np.minimum(wet[..., -2] * inner, MOST_OPTICAL_DEPTH)[..., None]
        baked = ground + cover[..., None] * (film_reflectance(depth_k, depth_s, ground) - ground)
        ground[...] = np.where((dry > 0)[..., None], baked, ground)
        wet *= stays[..., None]
        cover[stays <= 0] = 0.0

    def settle(self, wet: Array, cover: Array, laid_s: Array, change: Array, swept: Array, at_s: float) -> None:
        """Add what a stroke changed, in place: the film, what it covers, and when it was laid, by its share."""
        before, fresh = wet[..., -1].copy(), np.clip(change[..., -1], 0, None)
        there = swept > 0
        wet[there] = np.maximum(wet[there] + change[there], 0.0)
        cover += swept - cover * swept
        total = before + fresh
        share = np.divide(fresh, total, out=np.zeros_like(total), where=there & (total > 1e-4))
        laid_s += (at_s - laid_s) * share

    def picture(self, film: SkinFilm, box: Box) -> Picture:
        """Return the sRGB bytes of a part of the film."""
        part = (slice(box.top, box.bottom), slice(box.left, box.right))
        wet, cover = film.wet[part], film.cover[part]
        seen = covered_reflectance(wet[..., :-2], wet[..., -2], cover, film.ground[part])
        return to_bytes(seen, film.basis)


def _taps(motion: Motion, event: int, fine: int, canvas: Canvas) -> tuple[NDArray[np.intp], Array]:
    """Return the four pixels of each drop and their weights, shape (64, 4 x drops of a bin); weights sum to 1."""
    cx, cy, ex, ey, width, thick, stagger = motion.pose[event]
    count = int(motion.count[event])
    u = (((np.arange(BINS * fine) + 0.5) / (BINS * fine) - 0.5) * width).reshape(BINS, fine, 1)
    near, far = (side[:, None, None] for side in motion.sides)
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


def _taken(film: Array, taps: NDArray[np.intp], weights: Array, ground: Array, rate: Array, result: Array) -> Array:
    """Take wet paint up, in place, and return what each bin got, shape (64, channels).

    A pixel under a load of L (ground passed, in pixels, times rate) keeps e^-L of its film; the bins share the rest.
    """
    loads = weights * ground[:, None] * rate[taps]
    load = np.bincount(taps.ravel(), loads.ravel(), minlength=len(film))
    reached = np.flatnonzero(load > 0)
    if not len(reached):
        return np.zeros((BINS, film.shape[1]))
    factor = np.zeros(len(film))
    factor[reached] = -np.expm1(-load[reached]) / load[reached]
    parts = loads * factor[taps]
    taken = np.einsum("bt,btc->bc", parts, film[taps])
    lost = film[reached] * -np.expm1(-load[reached])[:, None]
    result[reached] -= lost
    film[reached] -= lost
    return np.asarray(taken)
