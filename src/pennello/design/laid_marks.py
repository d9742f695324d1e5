"""Glitter and stencils on the film, each when its turn comes; gems, which lie on it.

A grain of glitter sticks where the film under it is tacky. In wet paint it sinks and is dulled, from what is dry or
bare most of it is brushed off again, unless it is set there on purpose as the last touch. What is laid over it later
covers it. A stencil is sponged through: paint in the shape of its outlines, with the spots that a sponge leaves. Common
practice, no published source; the shares are defaults.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from pennello.aim.wish import SPONGE_COAT_UM
from pennello.colour.basis import small_basis
from pennello.design.marks import Glitter, Mark, Stencil, grains, paths_of
from pennello.design.ordering import GlitterWhen
from pennello.design.plan import Plan
from pennello.design.touch import shape_of
from pennello.kept import kept
from pennello.kit.paint import Paint
from pennello.lay import channels
from pennello.lay.canvas import Canvas
from pennello.lay.drying import DRY, TACKY, wetness
from pennello.lay.skin_film import THIN_UM, Box, Engine, SkinFilm, box_of
from pennello.lay.stipple import spotted

Array = NDArray[np.floating[Any]]

STICKS_DRY = 0.1
"""Share of the grains that stay where nothing holds them (a default)."""

SUNK = 0.55
"""How much of a grain still shows that fell into wet paint (a default)."""

GRAIN_UM = 8.0
"""Under so much paint that is laid over it a grain shows only 1/e (a default)."""

_AROUND_MM = 1.0
_FINE = 3
"""Each pixel of a stencil's edge is looked at in so many rows and columns."""


@dataclass(frozen=True, slots=True, eq=False)
class ReadyMark:
    """Something ready to come onto a film; the same object as long as nothing that it rests on changes.

    Attributes
    ----------
    held
        Whether grains stay wherever they fall: glitter set as the last touch.
    cover, paint
        Of a stencil: the part of each pixel that is covered, shape (rows, columns), and its film, as channels, (n,).
    """

    mark: Mark
    canvas: Canvas
    held: bool
    cover: Array | None = None
    paint: Array | None = None

    @property
    def stroke(self) -> str:
        """A name among those of strokes."""
        return f"~{self.mark.chart}/{self.mark.name}"

    @property
    def goes_on(self) -> str:
        """Nothing is in a brush from before."""
        return ""


@dataclass(frozen=True, slots=True, eq=False)
class Strewn:
    """Glitter as it fell: how much of each grain shows, in [0, 1], and how much paint lay under it, um, shapes (n,)."""

    shows: Array
    under_um: Array


@dataclass(frozen=True, slots=True, eq=False)
class SeenMark:
    """A mark that lies there at a moment, and how much of each grain of glitter shows, in [0, 1]; None: all of it."""

    mark: Mark
    shows: Array | None = None


def ready_mark(plan: Plan, mark: Mark, px_per_mm: float, bands: int, *, held: bool = False) -> ReadyMark:
    """Return a mark of a plan ready to come onto a film.

    Parameters
    ----------
    held
        Whether glitter is set on purpose, wherever it falls; it is so too where a plan has it as its last touch.
    """
    last = held or plan.ordering.glitter is GlitterWhen.LAST
    if not isinstance(mark, Stencil):
        return _dry(mark, px_per_mm, last)
    own = next((one for one in plan.paints if one.srgb.lower() == mark.srgb.lower()), None)
    return _sponged(mark, own or Paint("stencil", mark.name, mark.srgb), px_per_mm, bands)


def canvas_of(mark: Mark, px_per_mm: float) -> Canvas:
    """Return the pixels that a mark can reach."""
    half = max(mark.width_mm, mark.height_mm) / 2 if not isinstance(mark, Glitter) else 0.0
    wide, tall = max(mark.width_mm / 2, half) + _AROUND_MM, max(mark.height_mm / 2, half) + _AROUND_MM
    if isinstance(mark, Stencil) and mark.outlines:
        points = np.array([point for path in paths_of(mark) for point in path.points_mm])
        away = np.abs(points - (mark.x_mm, mark.y_mm)).max(axis=0) + _AROUND_MM
        wide, tall = float(away[0]), float(away[1])
    left, top = (math.floor((at - size) * px_per_mm) for at, size in ((mark.x_mm, wide), (mark.y_mm, tall)))
    rows, columns = math.ceil(2 * tall * px_per_mm) + 1, math.ceil(2 * wide * px_per_mm) + 1
    return Canvas(left / px_per_mm, top / px_per_mm, columns, rows, px_per_mm)


@kept
def _dry(mark: Mark, px_per_mm: float, held: bool) -> ReadyMark:  # noqa: FBT001 - of a cache
    return ReadyMark(mark, canvas_of(mark, px_per_mm), held)


@kept
def _sponged(mark: Stencil, paint: Paint, px_per_mm: float, bands: int) -> ReadyMark:
    canvas, basis = canvas_of(mark, px_per_mm), small_basis(bands)
    coat = channels.of_paints(np.full((1, 1), SPONGE_COAT_UM), np.full(1, SPONGE_COAT_UM), (paint,), basis)[0]
    return ReadyMark(mark, canvas, held=True, cover=stencil_cover(mark, canvas), paint=np.asarray(coat, np.float32))


def stencil_cover(mark: Stencil, canvas: Canvas) -> Array:
    """Return the part of each pixel that a sponge covers through a stencil, shape (rows, columns)."""
    step = 1 / (canvas.px_per_mm * _FINE)
    x = canvas.left_mm + (np.arange(canvas.columns * _FINE) + 0.5) * step
    y = canvas.top_mm + (np.arange(canvas.rows * _FINE) + 0.5) * step
    across, down = np.meshgrid(x, y)
    within = np.zeros(across.shape, bool)
    for outline in paths_of(mark):
        shape = shape_of(outline)
        shapely.prepare(shape)
        within |= shapely.contains_xy(shape, across, down)
    open_part = within.reshape(canvas.rows, _FINE, canvas.columns, _FINE).mean(axis=(1, 3))
    return np.asarray(open_part * spotted(canvas, mark.cover), np.float32)


def lay_mark(
    film: SkinFilm, ready: ReadyMark, at_s: float, engine: Engine, rate_um_s: float
) -> tuple[Box, Strewn | None]:
    """Bring a mark onto the film, in place; return the pixels that may have changed, and glitter as it fell."""
    if isinstance(ready.mark, Glitter):
        return Box(0, 0, 0, 0), _strewn(film, ready, at_s, rate_um_s)
    box, canvas = box_of(ready.canvas, film.canvas)
    if ready.cover is None or ready.paint is None or box.empty:
        return Box(0, 0, 0, 0), None
    top, left = (
        round((canvas.top_mm - ready.canvas.top_mm) * canvas.px_per_mm),
        round((canvas.left_mm - ready.canvas.left_mm) * canvas.px_per_mm),
    )
    cover = np.ascontiguousarray(ready.cover[top : top + canvas.rows, left : left + canvas.columns])
    part = film.part(box)
    engine.bake(part, cover, at_s, rate_um_s)
    engine.settle(part, cover[..., None] * ready.paint, cover, at_s)
    return box, None


def _strewn(film: SkinFilm, ready: ReadyMark, at_s: float, rate_um_s: float) -> Strewn:
    """Return which grains stay, by what each of them falls on."""
    assert isinstance(ready.mark, Glitter)
    inside, rows, columns = _pixels(film.canvas, ready.mark)
    count = len(inside)
    under, wet = np.zeros(count), np.zeros(count)
    at = (rows[inside], columns[inside])
    under[inside] = _solids(film, at)
    body, solids = film.body_um[at], film.wet[(*at, channels.SOLIDS)]
    ratio = np.divide(film.wet[(*at, channels.WATER)], solids, out=np.zeros_like(solids), where=solids > THIN_UM)
    wet[inside] = wetness(body, ratio * body, at_s - film.as_of_s[at], rate_um_s)
    if ready.held:
        return Strewn(np.where(wet > TACKY, SUNK, 1.0), under)
    stays = np.random.default_rng(ready.mark.seed + 1).uniform(0, 1, count) < STICKS_DRY
    loose = wet <= DRY
    return Strewn(np.where(loose, stays, np.where(wet > TACKY, SUNK, 1.0)), under)


def seen_of(film: SkinFilm, ready: ReadyMark, strewn: Strewn | None) -> SeenMark:
    """Return how a mark that was laid is seen now: grains under what came later are hidden."""
    if strewn is None or not isinstance(ready.mark, Glitter):
        return SeenMark(ready.mark)
    inside, rows, columns = _pixels(film.canvas, ready.mark)
    over = np.zeros(len(inside))
    over[inside] = np.maximum(_solids(film, (rows[inside], columns[inside])) - strewn.under_um[inside], 0.0)
    return SeenMark(ready.mark, np.asarray(strewn.shows * np.exp(-over / GRAIN_UM)))


def _solids(film: SkinFilm, at: tuple[NDArray[np.intp], NDArray[np.intp]]) -> Array:
    return np.asarray(film.wet[(*at, channels.SOLIDS)] + film.dry_um[at], np.float64)


def _pixels(canvas: Canvas, mark: Glitter) -> tuple[NDArray[np.bool_], NDArray[np.intp], NDArray[np.intp]]:
    """Return which grains lie on a canvas, and the pixel of each."""
    found = grains(mark)
    columns = np.floor((found[:, 0] - canvas.left_mm) * canvas.px_per_mm).astype(np.intp)
    rows = np.floor((found[:, 1] - canvas.top_mm) * canvas.px_per_mm).astype(np.intp)
    inside = (rows >= 0) & (rows < canvas.rows) & (columns >= 0) & (columns < canvas.columns)
    return inside, rows, columns
