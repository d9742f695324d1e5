"""The film of many strokes on one skin: what is dry has become ground, what is wet lies on it and mixes.

A pixel holds the reflectance of all that is dry below, and one wet film over it: K and S times thickness, its solids,
how much of the pixel it covers, and when it was laid. It holds no paint identities. Before a stroke comes, the dry
part of what lies there is baked into the ground: a film that has lost all its wetness is only stacked upon, a fresh
one mixes fully, one in between does both in proportion.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis
from pennello.kept import kept
from pennello.lay.canvas import Canvas
from pennello.lay.drying import TAU_S, wetness
from pennello.lay.motion import Motion
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

PICK_UP = 0.25
"""Share of a wet film that a bin passing over it takes up once (a default)."""

SURFACE = 8
"""How many times faster than its own paint a bin gives what it has taken up, which lies outside (a default)."""

LEAST_WET_UM = 0.02
"""A film thinner than this is not taken up."""

CELL_MM = 0.5
"""Wet paint is taken up in cells about this wide."""

_THIN_UM = 1e-4
_KEPT_PIXELS = 100_000


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle of pixels: rows and columns from, to."""

    top: int
    bottom: int
    left: int
    right: int

    @property
    def empty(self) -> bool:
        """Whether it holds no pixel."""
        return self.bottom <= self.top or self.right <= self.left

    def meets(self, other: Box) -> bool:
        """Return whether both share a pixel."""
        apart = self.bottom <= other.top or other.bottom <= self.top
        return not (apart or self.right <= other.left or other.right <= self.left)

    def joined(self, other: Box | None) -> Box:
        """Return the rectangle round both."""
        if other is None or other.empty:
            return self
        return Box(
            min(self.top, other.top),
            max(self.bottom, other.bottom),
            min(self.left, other.left),
            max(self.right, other.right),
        )


@dataclass(frozen=True, slots=True, eq=False)
class SkinFilm:
    """All that lies on a patch of skin. The arrays are its own: `copy` before a stroke that may be taken back.

    Attributes
    ----------
    wet
        The wet film's K and S times thickness and its solids, um, shape (rows, columns, bands + 2).
    cover
        How much of each pixel the wet film covers, in [0, 1], shape (rows, columns).
    laid_s
        When it was laid, s, shape (rows, columns).
    ground
        Reflectance of skin and dry paint below, shape (rows, columns, bands).
    dry_um
        Solids that are dry, um, shape (rows, columns).
    """

    canvas: Canvas
    basis: Basis
    wet: Array
    cover: Array
    laid_s: Array
    ground: Array
    dry_um: Array

    def copy(self) -> SkinFilm:
        """Return a film with arrays of its own."""
        arrays = (self.wet, self.cover, self.laid_s, self.ground, self.dry_um)
        return SkinFilm(self.canvas, self.basis, *(values.copy() for values in arrays))

    @property
    def nbytes(self) -> int:
        """Memory of the arrays, bytes."""
        return sum(a.nbytes for a in (self.wet, self.cover, self.laid_s, self.ground, self.dry_um))

    def volume_mm3(self) -> float:
        """Return all solids on the skin, wet and dry, mm3."""
        solids = self.wet[..., -1].sum(dtype=np.float64) + self.dry_um.sum(dtype=np.float64)
        return float(solids) / self.canvas.px_per_mm**2 / 1000

    def wetness_at(self, at_s: float, tau_coat_s: float = TAU_S) -> Array:
        """Return the wetness of what lies there at a time, shape (rows, columns); 0 where nothing is wet."""
        wet = wetness(self.wet[..., -1], at_s - self.laid_s, tau_coat_s)
        return np.asarray(np.where(self.wet[..., -1] > _THIN_UM, wet, 0.0))


class Engine(Protocol):
    """What does the work on pixels: the NumPy reference, or the kernel."""

    name: str

    def __hash__(self) -> int:
        """Return a number for caches."""

    def cover(self, track: Track, canvas: Canvas) -> Array:
        """Return the swept part of each pixel, shape (rows, columns)."""

    def change(
        self, below: Array, coverage: Array, motion: Motion, canvas: Canvas, pull: Pulling
    ) -> tuple[Array, Array]:
        """Return what a stroke adds to each pixel, levelled, and what its bins have taken up."""

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

    def settle(self, wet: Array, cover: Array, laid_s: Array, change: Array, swept: Array, at_s: float) -> None:
        """Add what a stroke changed, in place: the film, what it covers, and when it was laid, by its share."""

    def picture(self, film: SkinFilm, box: Box) -> Picture:
        """Return the sRGB bytes of a part of the film."""


@dataclass(frozen=True, slots=True, eq=False)
class Pulling:
    """What a stroke brings.

    Attributes
    ----------
    contents
        For each stretch what a bin holds at its start, channels of the film times mm3, (stretches, 64, channels).
    keeps
        What a visit to the cake leaves of what was taken up, for each stretch, shape (stretches, 64).
    carried
        What the bins have taken up before, shape (64, channels).
    drops_across
        Drops of a bin along the edge.
    pick_up
        Share of a wet film that a passing bin takes up.
    """

    contents: Array
    keeps: Array
    carried: Array
    drops_across: int
    pick_up: float = PICK_UP

    def wet(self, below: Array, coverage: Array) -> bool:
        """Return whether wet paint comes into it: in the way, or carried from before."""
        there = bool(self.carried.any()) or bool((coverage[below[..., -1] > LEAST_WET_UM] > 0).any())
        return self.pick_up > 0 and there


def cell_px(px_per_mm: float) -> int:
    """Return how many pixels a side the cells have in which wet paint is taken up."""
    return max(1, round(CELL_MM * px_per_mm))


def bare_skin(canvas: Canvas, basis: Basis, skin: Array, *, thin: bool = False) -> SkinFilm:
    """Return a patch of skin with nothing on it; skin is its reflectance at 36 bands.

    A thin one keeps its ground once for all pixels; it can be read and copied, and its copy painted on.
    """
    shape = (canvas.rows, canvas.columns)
    bands = basis.pick(skin).astype(np.float32)
    planes = [np.zeros(shape, np.float32) for _ in range(3)]
    once = np.broadcast_to(bands, (*shape, len(bands)))
    ground = once if thin else np.ascontiguousarray(once)
    wet = np.zeros((*shape, len(bands) + 2), np.float32)
    return SkinFilm(canvas, basis, wet, planes[0], planes[1], ground, planes[2])


def box_of(inner: Canvas, outer: Canvas) -> tuple[Box, Canvas]:
    """Return where a canvas lies in another of the same resolution, clipped to it, and the clipped canvas."""
    px = outer.px_per_mm
    left, top = round((inner.left_mm - outer.left_mm) * px), round((inner.top_mm - outer.top_mm) * px)
    box = Box(
        min(max(top, 0), outer.rows),
        min(max(top + inner.rows, 0), outer.rows),
        min(max(left, 0), outer.columns),
        min(max(left + inner.columns, 0), outer.columns),
    )
    corner = (outer.left_mm + box.left / px, outer.top_mm + box.top / px)
    return box, Canvas(*corner, max(box.right - box.left, 0), max(box.bottom - box.top, 0), px)


def pull_over(
    film: SkinFilm,
    track: Track,
    motion: Motion,
    stroke_canvas: Canvas,
    pulling: Pulling,
    at_s: float,
    engine: Engine,
    tau_coat_s: float = TAU_S,
) -> tuple[Box, Array]:
    """Pull a stroke over the film, in place.

    Parameters
    ----------
    at_s
        When, s; what lies there has dried until then.

    Returns
    -------
    The pixels that may have changed, and what the bins have taken up, shape (64, channels).
    """
    box, canvas = box_of(stroke_canvas, film.canvas)
    if box.empty:
        return box, pulling.carried
    part = (slice(box.top, box.bottom), slice(box.left, box.right))
    wet, cover, laid_s, ground, dry_um = (
        values[part] for values in (film.wet, film.cover, film.laid_s, film.ground, film.dry_um)
    )
    swept = swept_by(engine, track, canvas)
    engine.bake(wet, cover, laid_s, ground, dry_um, swept, at_s, tau_coat_s)
    change, carried = engine.change(wet, swept, motion, canvas, pulling)
    engine.settle(wet, cover, laid_s, change, swept, at_s)
    return box, carried


def swept_by(engine: Engine, track: Track, canvas: Canvas) -> Array:
    """Return the swept part of each pixel; kept for the strokes of a plan, as long as they are not huge."""
    if canvas.rows * canvas.columns > _KEPT_PIXELS:
        return engine.cover(track, canvas)
    return _kept_cover(engine, track, canvas)


@kept
def _kept_cover(engine: Engine, track: Track, canvas: Canvas) -> Array:
    swept = engine.cover(track, canvas)
    swept.flags.writeable = False
    return swept
