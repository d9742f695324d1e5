"""The kernel as an engine. Importing this imports Numba: only in the background, or where somebody waits for it."""

from __future__ import annotations

import threading
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis
from pennello.colour.observer import XYZ_TO_RGB
from pennello.kept import remembered
from pennello.lay import kernel
from pennello.lay.canvas import Canvas
from pennello.lay.channels import fall
from pennello.lay.coverage import footprints
from pennello.lay.deposit import LEVELLING_MM, levelling_kernel
from pennello.lay.film import MOST_OPTICAL_DEPTH
from pennello.lay.motion import Motion
from pennello.lay.render import display_table
from pennello.lay.skin_film import LEAST_WET_UM, SURFACE, Box, Picture, Pulling, SkinFilm, cell_px
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]


def _single(values: Array) -> Array:
    return np.ascontiguousarray(values, np.float32)


def _fixed(values: Array) -> Array:
    """Return values that are only read: whoever made them, the kernel is compiled for them once."""
    same = _single(values).view()
    same.flags.writeable = False
    return same


class Compiled:
    """Works through Numba, without the GIL."""

    name = "kernel"

    def __init__(self) -> None:
        self._one_at_a_time = threading.Lock()  # Numba's own threads cannot be called from two of Python's

    def cover(self, track: Track, canvas: Canvas) -> Array:
        """Return the swept part of each pixel, shape (rows, columns)."""
        quads = _single(canvas.to_px(footprints(track, canvas.px_per_mm)))
        covered: Array = kernel.cover(quads, canvas.rows, canvas.columns)
        return covered

    def change(
        self, below: Array, coverage: Array, motion: Motion, canvas: Canvas, pull: Pulling
    ) -> tuple[Array, Array]:
        """Return what a stroke adds to each pixel, levelled, and what its bins have taken up.

        Raises
        ------
        ValueError
            If the film is not one of 8 bands: the kernel is compiled for its channels.
        """
        if below.shape[2] != kernel.CHANNELS:
            raise ValueError("the kernel lays films of 8 bands only")
        px = canvas.px_per_mm
        scale = px**2 * 1000
        out, swept = np.zeros(below.shape, np.float32), _fixed(coverage)
        given, sides = _single(motion.given), _single(motion.sides)
        contents, carried = _single(pull.contents * scale), _single(pull.carried * scale)
        place = (float(canvas.left_mm), float(canvas.top_mm), float(px))
        drops = (motion.pose, motion.count, motion.stretch, given)
        if pull.wet(below, coverage):
            passes, taking = _single(motion.passes), (pull.uptake, LEAST_WET_UM, SURFACE, cell_px(px))
            kernel.splat_wet(
                out,
                below,
                swept,
                *drops,
                _single(motion.held),
                passes,
                contents,
                sides,
                pull.drops_across,
                place,
                taking,
                _single(pull.keeps),
                carried,
            )
        else:
            kernel.splat(out, *drops, contents, sides, pull.drops_across, place)
        weights = levelling_kernel(LEVELLING_MM * px)
        kernel.level(out, swept, _single(weights[len(weights) // 2 :]))
        return out, carried / scale

    def bake(self, part: SkinFilm, swept: Array, at_s: float, rate_um_s: float) -> None:
        """Let what has set by a time become ground where a stroke comes, in place."""
        when, rate, deep = np.float32(at_s), np.float32(rate_um_s), np.float32(MOST_OPTICAL_DEPTH)
        kernel.bake(*part.arrays, _fixed(swept), when, rate, _fall(part.basis), deep)

    def settle(self, part: SkinFilm, change: Array, swept: Array, at_s: float) -> None:
        """Add what a stroke changed, in place: the film, its water, and what it covers."""
        kernel.settle(part.wet, part.cover, part.as_of_s, part.body_um, change, _fixed(swept), np.float32(at_s))

    def picture(self, film: SkinFilm, box: Box) -> Picture:
        """Return the sRGB bytes of a part of the film."""
        part = film.part(box)
        to_rgb = _single(film.basis.weights @ XYZ_TO_RGB.T)
        deep = np.float32(MOST_OPTICAL_DEPTH)
        with self._one_at_a_time:
            seen: Picture = kernel.shown(
                part.wet, part.cover, part.ground, to_rgb, display_table(), _fall(film.basis), deep
            )
        return seen


@remembered(4)
def _fall(basis: Basis) -> Array:
    return _single(fall(basis))
