"""The painted chart: motifs as a picture with what is bare left clear, and the chart's own picture for files."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Chart
from pennello.colour.lights import Light, seen_bytes
from pennello.colour.srgb import format_hex, parse_hex
from pennello.design.clock import seconds, turns
from pennello.design.laid_marks import SeenMark
from pennello.design.marks import Mark, Stencil
from pennello.design.on_chart import painted_plan
from pennello.design.parts import together_with
from pennello.design.plan import Plan
from pennello.design.scene import MOST_SHOWN_PIXELS, Check, go_on
from pennello.design.surface import (
    DrawingSurface,
    Ink,
    draw_contours,
    draw_features,
    draw_mark,
    draw_skin,
    skin_outlines,
)
from pennello.kept import remembered
from pennello.lay.canvas import Canvas
from pennello.lay.engine import best
from pennello.lay.skin_film import Box, Engine, SkinFilm
from pennello.motif.place import Place
from pennello.order.laid import LaidOut
from pennello.session.chart_photo import LaidPhoto
from pennello.session.chart_views import WHOLE, frame_of
from pennello.session.skin_scene import SkinScene

if TYPE_CHECKING:
    from pennello.files.pillow_surface import PillowSurface

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

REST_PX_PER_MM = 3.0
LIFT_PX_PER_MM = 2.0
"""Resolution of what is carried by a hand that drags."""

SURROUND = "#F7F6F4"
"""What is about a chart: neutral, since paint is judged against it."""

_LEAST_UM = 0.05
_ROUND_IT_MM = 6


@dataclass(frozen=True, slots=True, eq=False)
class Painted:
    """What is painted and where: sRGB bytes and how much of each pixel is covered, shape (rows, columns, 4).

    A sketch is not painted yet: lines where strokes will lie.
    """

    plan: Plan
    chart: str
    canvas: Canvas
    rgba: Picture
    strokes: int
    ends_s: float = 0.0
    wetness: Array | None = None
    marks: tuple[SeenMark, ...] = ()
    light: Light = Light.DAYLIGHT
    sketch: bool = False

    def knows(self, mark: Mark) -> bool:
        """Return whether a mark as it is now was painted with it, or is to come later."""
        return mark.chart == self.chart and mark in self.plan.overlays

    def to_draw(self, mark: Mark) -> SeenMark | None:
        """Return how a mark is drawn over the picture; None for what is in it, or comes later.

        What was changed since is drawn as it is.
        """
        if not self.knows(mark):
            return SeenMark(mark)
        seen = next((one for one in self.marks if one.mark == mark), None)
        return None if isinstance(mark, Stencil) else seen


class ChartScene:
    """Paints the motifs of a chart; what does not change from one plan to the next is kept."""

    def __init__(self, px_per_mm: float = REST_PX_PER_MM, most_pixels: int = MOST_SHOWN_PIXELS) -> None:
        self._px_per_mm, self._most_pixels = px_per_mm, most_pixels
        self._scene: tuple[str, SkinScene] | None = None  # of the chart that was painted last: films are large

    @property
    def film(self) -> SkinFilm | None:
        """The film of the chart that was painted last; it is this scene's own."""
        return None if self._scene is None else self._scene[1].film()

    def paint(
        self,
        plan: Plan,
        key: str,
        engine: Engine | None = None,
        at_s: float | None = None,
        check: Check = go_on,
        order: LaidOut | None = None,
        light: Light = Light.DAYLIGHT,
    ) -> Painted | None:
        """Return a chart's motifs as painted, or None where there are none.

        Parameters
        ----------
        at_s
            Only what is laid by then, s, with how wet it is; without it everything, at its end.
        check
            Called after each stroke; what it raises ends the work.
        order
            Its strokes in the order of painting, with their times; without it as the plan lists them.
        light
            In which it is seen.
        """
        due = _due(plan, key, order, math.inf if at_s is None else at_s)
        if not due.plan.strokes and not due.marks:
            return None
        if self._scene is None or self._scene[0] != key:
            self._scene = (key, SkinScene(self._px_per_mm, self._most_pixels))
        scene = self._scene[1]
        there = () if order is None else order.elsewhere
        view = scene.show(
            due.plan,
            None,
            engine,
            check,
            due.starts_s,
            due.marks,
            held=order is None,
            elsewhere=there,
            light=light,
        )
        film = scene.film()
        assert film is not None
        rgba = np.dstack([view.picture, covered_bytes(film)])
        wet = scene.wetness(due.ends_s if at_s is None else at_s, plan.dry_after_s)
        return Painted(plan, key, view.canvas, rgba, len(due.plan.strokes), due.ends_s, wet, scene.seen(), light)

    def relit(self, painted: Painted, plan: Plan, light: Light, engine: Engine | None = None) -> Painted | None:
        """Return what was painted last in another light, for a plan that differs in nothing else; None if gone."""
        film = None if self._scene is None or self._scene[0] != painted.chart else self._scene[1].film()
        if film is None or film.canvas != painted.canvas:
            return None
        whole = Box(0, film.canvas.rows, 0, film.canvas.columns)
        picture = (engine or best()).picture(film.in_light(light), whole)
        return replace(painted, plan=plan, rgba=np.dstack([picture, covered_bytes(film)]), light=light)


@dataclass(frozen=True, slots=True, eq=False)
class _Due:
    """What is on a chart by a time: strokes and marks with their times, and when all that is planned has ended, s."""

    plan: Plan
    starts_s: tuple[float, ...]
    marks: tuple[tuple[Mark, float], ...]
    ends_s: float


def _due(plan: Plan, key: str, order: LaidOut | None, by_s: float) -> _Due:
    """Return what is laid by a time, s; where nobody looked for an order, glitter and stencils come after all else."""
    every = painted_plan(plan, key) if order is None else order.plan
    times = tuple(turn.start_s for turn in turns(every)) if order is None else order.starts_s
    last = every.strokes[-1] if times else None
    ends_s = 0.0 if last is None else times[-1] + seconds(last, every.brush(last.brush))[1]
    marks = tuple((one, ends_s) for one in plan.overlays if one.chart == key) if order is None else order.marks
    count = sum(start <= by_s for start in times)
    due = tuple(one for one in marks if one[1] <= by_s)
    laid = replace(every, strokes=every.strokes[:count])
    return _Due(laid, times[:count], due, max([ends_s, *(start for _, start in marks)]))


@dataclass(frozen=True, slots=True, eq=False)
class Lifted:
    """What a hand takes up when it drags motifs: them alone, and the chart without them."""

    motif: str
    place: Place
    group: frozenset[str]
    alone: Painted
    rest: Painted | None
    twin: bool


def lift(plan: Plan, key: str, name: str, check: Check = go_on) -> Lifted | None:
    """Return a motif, with all of its group, painted apart from everything else on its chart, at a low resolution.

    Mirror images that follow it are left out of both pictures: whoever shows them mirrors what is carried.
    """
    chosen = next((one for one in plan.motifs if one.id == name), None)
    if chosen is None:
        return None
    group = together_with(plan, name)
    taken = tuple(replace(one, twin=False) for one in plan.motifs if one.id in group)
    left = tuple(one for one in plan.motifs if one.id not in group)
    alone = ChartScene(LIFT_PX_PER_MM).paint(replace(plan, motifs=taken), key, check=check, light=plan.light)
    if alone is None:
        return None
    rest = ChartScene(LIFT_PX_PER_MM).paint(replace(plan, motifs=left), key, check=check, light=plan.light)
    return Lifted(name, chosen.place, group, alone, rest, chosen.twin)


def covered_bytes(film: SkinFilm) -> Picture:
    """Return how much of each pixel is painted, as bytes; what has dried counts as all of it."""
    share = np.where(film.dry_um > _LEAST_UM, 1.0, film.cover)
    return np.asarray(np.rint(np.clip(share, 0, 1) * 255).astype(np.uint8))


def chart_picture(
    chart: Chart,
    painted: Painted | None,
    skin_srgb: tuple[int, int, int],
    px_per_mm: float,
    *,
    mirrored: bool = False,
    surround: str = SURROUND,
    view: str = WHOLE,
    photo: LaidPhoto | None = None,
    light: Light = Light.DAYLIGHT,
) -> Picture:
    """Return a chart with what is painted on it, sRGB bytes, shape (rows, columns, 3).

    Parameters
    ----------
    mirrored
        As the painter sees herself in a mirror.
    surround
        What lies round the chart, "#rrggbb".
    view
        A close view of the chart in the place of the whole.
    photo
        What is seen in the place of the drawing; it is not lit otherwise.
    light
        In which eyes, glitter and gems are seen; what is painted and `skin_srgb` have it already.

    Raises
    ------
    UnknownNameError
        If the chart has no view of that name.
    """
    crop = None if view == WHOLE else frame_of(chart, view)
    skin = Ink(*skin_srgb)
    surface = _bare(chart, skin, px_per_mm, surround, light).copy()
    if photo is not None:
        surface.warp(photo.picture, photo.onto)
    with surface.within(skin_outlines(chart)):
        if painted is not None:
            canvas = painted.canvas
            surface.paint(painted.rgba, canvas.left_mm, canvas.top_mm, canvas.px_per_mm)
            draw_seen(surface, painted.marks, light)
    if photo is None:
        draw_contours(surface, chart, skin)
    picture = surface.picture
    if crop is not None:
        picture = _cropped(picture, crop, corner_of(chart), px_per_mm)
    return np.ascontiguousarray(picture[:, ::-1] if mirrored else picture)


def _cropped(
    picture: Picture, crop: tuple[float, float, float, float], corner: tuple[int, int], px_per_mm: float
) -> Picture:
    x, y, width, height = crop
    left, top = (round(at * px_per_mm) for at in (x - width / 2 - corner[0], y - height / 2 - corner[1]))
    rows = slice(max(top, 0), top + round(height * px_per_mm))
    return picture[rows, max(left, 0) : left + round(width * px_per_mm)]


def sides_of(chart: Chart) -> tuple[int, int, int, int]:
    """Return left, top, right and bottom of a chart's picture, mm."""
    left, top, right, bottom = (round(edge) for edge in chart.bounds_mm)
    return left - _ROUND_IT_MM, top - _ROUND_IT_MM, right + _ROUND_IT_MM, bottom + _ROUND_IT_MM


def corner_of(chart: Chart) -> tuple[int, int]:
    """Return the upper left corner of a chart's picture, mm."""
    return sides_of(chart)[:2]


def draw_seen(surface: DrawingSurface, marks: Sequence[SeenMark], light: Light = Light.DAYLIGHT) -> None:
    """Draw glitter and gems as they are seen; stencils are paint of the film."""
    for one in marks:
        if not isinstance(one.mark, Stencil):
            draw_mark(surface, lit(one.mark, light), one.shows)


def lit(mark: Mark, light: Light) -> Mark:
    """Return a mark in the colour that it is seen in."""
    if light is Light.DAYLIGHT:
        return mark
    red, green, blue = np.rint(parse_hex(mark.srgb) * 255).astype(int).tolist()
    return replace(mark, srgb=format_hex(np.array(seen_bytes(red, green, blue, light)) / 255))


@remembered(1)
def _bare(chart: Chart, skin: Ink, px_per_mm: float, surround: str, light: Light) -> PillowSurface:
    """Return a chart's bare skin, the last one kept: a sequence shows it again and again."""
    from pennello.files.pillow_surface import PillowSurface  # noqa: PLC0415 - only for files

    left, top, right, bottom = sides_of(chart)
    size = (round((right - left) * px_per_mm), round((bottom - top) * px_per_mm))
    surface = PillowSurface(size, left, top, px_per_mm, surround)
    draw_skin(surface, chart, skin, light)
    draw_features(surface, chart, skin)
    return surface
