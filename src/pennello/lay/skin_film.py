"""The film of many strokes on one skin: what is dry has become ground, what is wet lies on it and mixes.

A pixel holds the reflectance of all that is set below, and one film over it that still mixes: K and S times thickness,
its water, its solids, and how much of the pixel it covers. It holds no paint identities. Before a stroke comes, what of
the film no longer mixes is baked into the ground (`drying.mixing_share`): a dry film is only stacked upon, a fresh one
mixes for the most part. What has set but is not dry still belongs to one body of paint, whose water leaves at one
surface; how long it takes is told by the solids of the whole body. Baking twice is baking once over both times.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis, small_basis
from pennello.colour.lights import Light
from pennello.kept import kept
from pennello.lay import channels
from pennello.lay.canvas import Canvas
from pennello.lay.drying import evaporation_um_s, wetness
from pennello.lay.motion import Motion
from pennello.lay.stipple import stippled, thinned
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

UPTAKE = 0.25
"""Share of a wet film that a bin passing over it takes up once (a default)."""

SURFACE = 8
"""How many times faster than its own paint a bin gives what it has taken up, which lies outside (a default)."""

TIE = 1e-6
"""Where a boundary of bins or of the contact runs through the middle of a pixel, it goes to one side whoever works."""

LEAST_WET_UM = 0.02
"""A film thinner than this is not taken up."""

CELL_MM = 0.5
"""Wet paint is taken up in cells about this wide."""

THIN_UM = 1e-4
"""Less than this is no film, um."""

LEAST_COVER = 1e-3
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
        The part that mixes, as `channels`: K and S times thickness, water and solids, um, (rows, columns, bands + 4).
    cover
        How much of each pixel the wet film covers, in [0, 1], shape (rows, columns).
    as_of_s
        Until when its water has been worked out, s, shape (rows, columns).
    body_um
        Solids of all that is not dry yet, whether it still mixes or has set, um, shape (rows, columns).
    ground
        Reflectance of skin and of the paint that has set, shape (rows, columns, bands).
    dry_um
        Solids that have set, um, shape (rows, columns).
    """

    canvas: Canvas
    basis: Basis
    wet: Array
    cover: Array
    as_of_s: Array
    body_um: Array
    ground: Array
    dry_um: Array

    @property
    def arrays(self) -> tuple[Array, ...]:
        """All arrays, in the order of the attributes."""
        return self.wet, self.cover, self.as_of_s, self.body_um, self.ground, self.dry_um

    def copy(self) -> SkinFilm:
        """Return a film with arrays of its own."""
        return SkinFilm(self.canvas, self.basis, *(values.copy() for values in self.arrays))

    def in_light(self, light: Light) -> SkinFilm:
        """Return the same film as it is seen in a light: views, no copies. A film of 8 bands only."""
        return SkinFilm(self.canvas, small_basis(len(self.basis.index), light), *self.arrays)

    def part(self, box: Box) -> SkinFilm:
        """Return the same film within a rectangle of pixels: views, no copies."""
        inside = (slice(box.top, box.bottom), slice(box.left, box.right))
        px = self.canvas.px_per_mm
        corner = (self.canvas.left_mm + box.left / px, self.canvas.top_mm + box.top / px)
        canvas = Canvas(*corner, box.right - box.left, box.bottom - box.top, px)
        return SkinFilm(canvas, self.basis, *(values[inside] for values in self.arrays))

    @property
    def nbytes(self) -> int:
        """Memory of the arrays, bytes."""
        return sum(a.nbytes for a in self.arrays)

    def volume_mm3(self) -> float:
        """Return all solids on the skin, wet and dry, mm3."""
        solids = self.wet[..., channels.SOLIDS].sum(dtype=np.float64) + self.dry_um.sum(dtype=np.float64)
        return float(solids) / self.canvas.px_per_mm**2 / 1000

    def water_um(self) -> Array:
        """Return the water of all that is not dry yet as it was worked out last, um, shape (rows, columns)."""
        solids = self.wet[..., channels.SOLIDS]
        ratio = np.divide(self.wet[..., channels.WATER], solids, out=np.zeros_like(solids), where=solids > THIN_UM)
        return np.asarray(ratio * self.body_um)

    def wetness_at(self, at_s: float, rate_um_s: float | None = None) -> Array:
        """Return the wetness of what lies there at a time, shape (rows, columns); 0 where nothing is wet."""
        rate = evaporation_um_s() if rate_um_s is None else rate_um_s
        wet = wetness(self.body_um, self.water_um(), at_s - self.as_of_s, rate)
        return np.asarray(np.where(self.wet[..., channels.SOLIDS] > THIN_UM, wet, 0.0))


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

    def bake(self, part: SkinFilm, swept: Array, at_s: float, rate_um_s: float) -> None:
        """Let what has set by a time become ground where a stroke comes, in place."""

    def settle(self, part: SkinFilm, change: Array, swept: Array, at_s: float) -> None:
        """Add what a stroke changed, in place: the film, its water, and what it covers."""

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
    uptake
        Share of a wet film that a passing bin takes up.
    """

    contents: Array
    keeps: Array
    carried: Array
    drops_across: int
    uptake: float = UPTAKE

    def wet(self, below: Array, coverage: Array) -> bool:
        """Return whether wet paint comes into it: in the way, or carried from before."""
        there = bool(self.carried.any()) or bool((coverage[below[..., channels.SOLIDS] > LEAST_WET_UM] > 0).any())
        return self.uptake > 0 and there


def cell_px(px_per_mm: float) -> int:
    """Return how many pixels a side the cells have in which wet paint is taken up."""
    return max(1, round(CELL_MM * px_per_mm))


def bare_skin(canvas: Canvas, basis: Basis, skin: Array, *, thin: bool = False) -> SkinFilm:
    """Return a patch of skin with nothing on it; skin is its reflectance at 36 bands.

    A thin one keeps its ground once for all pixels; it can be read and copied, and its copy painted on.
    """
    shape = (canvas.rows, canvas.columns)
    bands = basis.pick(skin).astype(np.float32)
    planes = [np.zeros(shape, np.float32) for _ in range(4)]
    once = np.broadcast_to(bands, (*shape, len(bands)))
    ground = once if thin else np.ascontiguousarray(once)
    wet = np.zeros((*shape, channels.count(len(bands))), np.float32)
    cover, as_of_s, body_um, dry_um = planes
    return SkinFilm(canvas, basis, wet, cover, as_of_s, body_um, ground, dry_um)


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
    rate_um_s: float | None = None,
) -> tuple[Box, Array]:
    """Pull a stroke over the film, in place.

    Parameters
    ----------
    at_s
        When, s; what lies there has dried until then.
    rate_um_s
        How fast water leaves (`drying.evaporation_um_s`); as a usual coat dries by default.

    Returns
    -------
    The pixels that may have changed, and what the bins have taken up, shape (64, channels).
    """
    box, canvas = box_of(stroke_canvas, film.canvas)
    if box.empty:
        return box, pulling.carried
    part = film.part(box)
    swept = swept_by(engine, track, canvas)
    engine.bake(part, swept, at_s, evaporation_um_s() if rate_um_s is None else rate_um_s)
    change, carried = engine.change(part.wet, swept, motion, canvas, pulling)
    weight = stippled(change[..., channels.SOLIDS], swept, track, canvas)
    if weight is not None:
        change, swept = thinned(change, weight, change[..., channels.SOLIDS]), _single(swept * weight)
    engine.settle(part, change, swept, at_s)
    return box, carried


def _single(values: Array) -> Array:
    return np.ascontiguousarray(values, np.float32)


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
