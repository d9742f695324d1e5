"""The film of a chart while a hand pulls a stroke over it: what is there stays, the stroke is laid anew each time."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan, PlanStroke
from pennello.design.scene import Carrying, ReadyPull, fresh_film, pulled_alone
from pennello.design.visits import whole_load
from pennello.kept import ResultShelf, kept_aside
from pennello.lay.canvas import Canvas
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import best
from pennello.lay.skin_film import Engine, Picture, SkinFilm, box_of
from pennello.lay.stroke import Stroke
from pennello.path.cubic import Point
from pennello.session.chart_scene import covered_bytes

PX_PER_MM = 3.0
_DRY_S = 1e6
"""A stroke is pulled over what is dry: the order sees to that."""

_MARGIN_MM = 2.0
_MOST_ASIDE_BYTES = 8_000_000
"""What is kept of strokes that come but once may weigh, bytes (a default): what each step needs again is among it."""


@dataclass(frozen=True, slots=True, eq=False)
class Patch:
    """What a stroke changes on a part of the chart.

    Attributes
    ----------
    rgba
        sRGB bytes and cover, clear elsewhere.
    chisel
        Unit vector from corner A to B where the brush is at its end.
    """

    canvas: Canvas
    rgba: Picture
    chisel: Point


class PullScene:
    """A chart as it is painted, for strokes to be pulled over it.

    Parameters
    ----------
    film
        What is painted there, of any resolution, or None for bare skin. It stays as it is.
    px_per_mm
        Resolution of what is laid, px/mm.
    """

    def __init__(
        self,
        plan: Plan,
        chart: str,
        film: SkinFilm | None,
        px_per_mm: float = PX_PER_MM,
        engine: Engine | None = None,
    ) -> None:
        self._plan, self._engine = replace(plan, strokes=plan.strokes, motifs=(), overlays=()), engine or best()
        self._times = 1
        self._aside = ResultShelf(_MOST_ASIDE_BYTES)
        self._alone: dict[str, PlanStroke] = {}
        left, top, right, bottom = chart_of(plan, chart).bounds_mm
        start = [np.floor((edge - _MARGIN_MM) * px_per_mm) / px_per_mm for edge in (left, top)]
        columns, rows = (int((b - a + 2 * _MARGIN_MM) * px_per_mm) + 2 for a, b in ((left, right), (top, bottom)))
        canvas = Canvas(float(start[0]), float(start[1]), columns, rows, px_per_mm)
        self._film = fresh_film(plan, canvas)
        if film is not None:
            self._take(film)

    def _take(self, film: SkinFilm) -> None:
        """Let a film lie there, all of it dry: each pixel is the one of the film that its middle lies in."""
        mine, its = self._film.canvas, film.canvas
        down, rows = _picked(mine.top_mm, mine.rows, mine.px_per_mm, its.top_mm, its.rows, its.px_per_mm)
        across, columns = _picked(mine.left_mm, mine.columns, mine.px_per_mm, its.left_mm, its.columns, its.px_per_mm)
        for own, other in zip(self._film.arrays, film.arrays, strict=True):
            own[down, across] = other[np.ix_(rows, columns)]
        everywhere = np.ones(self._film.cover.shape, np.float32)
        self._engine.bake(self._film, everywhere, self._at_s, evaporation_um_s(self._plan.dry_after_s))
        self._times += 1

    @property
    def _at_s(self) -> float:
        """When the next stroke comes, s: all that lies there is dry by then, and nothing else was laid then."""
        return _DRY_S * self._times

    def keep(self, load: str, stroke: Stroke) -> None:
        """Lay a stroke for good: what is pulled next lies over it."""
        ready = self._ready(load, stroke)
        Carrying().lay(self._film, ready, self._at_s, self._engine, evaporation_um_s(self._plan.dry_after_s))
        self._times += 1

    def _ready(self, load: str, stroke: Stroke) -> ReadyPull:
        if load not in self._alone:
            source = whole_load(self._plan, load)
            self._alone[load] = replace(source, id="~pulled", recipe=replace(source.recipe, after=""), wait_s=0.0)
        alone = replace(self._alone[load], stroke=stroke)
        return pulled_alone(self._plan, alone, self._film.canvas.px_per_mm)

    def lay(self, load: str, stroke: Stroke) -> Patch | None:
        """Return what a stroke of a load changes on the chart, clear elsewhere; None where it lies beside the chart."""
        with kept_aside(self._aside):
            return self._laid(load, stroke)

    def _laid(self, load: str, stroke: Stroke) -> Patch | None:
        ready = self._ready(load, stroke)
        box, _ = box_of(ready.canvas, self._film.canvas)
        if box.empty:
            return None
        under = self._film.part(box).copy()
        Carrying().lay(under, ready, self._at_s, self._engine, evaporation_um_s(self._plan.dry_after_s))
        whole, _ = box_of(under.canvas, under.canvas)
        rgba = np.empty((*under.cover.shape, 4), np.uint8)
        rgba[..., :3] = self._engine.picture(under.in_light(self._plan.light), whole)
        rgba[..., 3] = covered_bytes(under) * (under.as_of_s == np.float32(self._at_s))
        across, down = ready.track.edge[-1].tolist()
        return Patch(under.canvas, rgba, (across, down))


def _picked(
    begin: float, count: int, px: float, other_begin: float, other_count: int, other_px: float
) -> tuple[slice, NDArray[np.intp]]:
    """Return which pixels of a row have their middles in another one, and in which of its pixels each of them lies."""
    there = np.floor((begin + (np.arange(count) + 0.5) / px - other_begin) * other_px).astype(np.intp)
    first, end = np.searchsorted(there, [0, other_count])
    return slice(int(first), int(end)), there[first:end]
