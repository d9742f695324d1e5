"""Pictures of an order: what each job lays, and the design after each step."""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pennello.colour.lights import Light
from pennello.design.laid_marks import ReadyMark, ready_mark
from pennello.design.marks import Mark
from pennello.design.on_chart import chart_of, painted_plan
from pennello.design.plan import Plan, skin_bytes
from pennello.design.scene import (
    BANDS,
    THREADS,
    Carrying,
    Check,
    Ready,
    fresh_film,
    go_on,
    lay_in_order,
    pulls,
    skin_canvas,
)
from pennello.design.surface import draw_mark
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import best
from pennello.lay.skin_film import Box, Engine, SkinFilm
from pennello.order.arrange import Arranged, Design, at_once, design_of
from pennello.order.job import PaintJob
from pennello.order.jobs import SKIN, mark_of
from pennello.order.laid import LaidOut, laid_out
from pennello.order.stages import SheetPictures, Under, stages
from pennello.phrases import phrase
from pennello.session.chart_photo import photo_if_any
from pennello.session.chart_scene import SURROUND, Painted, chart_picture, corner_of, covered_bytes

Picture = NDArray[np.uint8]
Report = Callable[[float, str], None]

THUMB_PX_PER_MM = 2.0
SHEET_PX_PER_MM = 4.0
_CHANGED, _FAINT, _AROUND_MM = 3, 0.35, 7.0
_MARGIN = 4
_EDGE_MM, _MOST_PX = 3.0, 400


def thumbnails(design: Design, report: Report | None = None, engine: Engine | None = None) -> dict[str, Picture]:
    """Return what each job lays, alone on the skin, as sRGB bytes with what is bare left clear, by job."""
    doer, found = engine or best(), {}
    for _, laid in design.work.painted:
        canvas = skin_canvas(laid, THUMB_PX_PER_MM)
        ready = {one.stroke: one for one in pulls(laid, canvas.px_per_mm)}
        mine = [job for job in design.work.jobs if job.strokes and job.strokes[0] in ready]
        for number, job in enumerate(mine):
            if report is not None:
                report(number / len(mine), phrase("a picture of {job}", job=job.name))
            film = fresh_film(laid, canvas)
            keys = [(ready[name], 0.0) for name in job.strokes]
            lay_in_order(film, keys, Carrying(), doer, evaporation_um_s(laid.dry_after_s))
            found[job.id] = _cropped(_rgba(film, doer))
    plan = design.work.plan
    marks = ((job.id, mark_of(plan, job)) for job in design.work.jobs)
    return found | {name: mark_thumbnail(plan, mark) for name, mark in marks if mark is not None}


def mark_thumbnail(plan: Plan, mark: Mark) -> Picture:
    """Return glitter, a stencil or a gem on the plan's skin, sRGB bytes with what is bare, shape (rows, columns, 4)."""
    from pennello.files.pillow_surface import PillowSurface  # noqa: PLC0415 - not at the start

    edge = _EDGE_MM
    longest = max(mark.width_mm, mark.height_mm) + 2 * edge
    scale = min(THUMB_PX_PER_MM, _MOST_PX / longest)
    size = (math.ceil((mark.width_mm + 2 * edge) * scale), math.ceil((mark.height_mm + 2 * edge) * scale))
    left, top = mark.x_mm - mark.width_mm / 2 - edge, mark.y_mm - mark.height_mm / 2 - edge
    surface = PillowSurface(size, left, top, scale, skin_bytes(plan.skin))
    draw_mark(surface, mark)
    picture = surface.picture
    return np.dstack([picture, np.full(picture.shape[:2], 255, np.uint8)])


def _rgba(film: SkinFilm, engine: Engine) -> Picture:
    picture = engine.picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns))
    return np.dstack([picture, covered_bytes(film)])


def _cropped(rgba: Picture) -> Picture:
    """Return the painted part of a picture with a small margin."""
    rows, columns = np.nonzero(rgba[..., 3] > 20)
    if not len(rows):
        return rgba[:1, :1]
    top, left = max(rows.min() - _MARGIN, 0), max(columns.min() - _MARGIN, 0)
    return np.ascontiguousarray(rgba[top : rows.max() + _MARGIN, left : columns.max() + _MARGIN])


def order_found(plan: Plan, chart: str, check: Check = go_on, engine: Engine | None = None) -> LaidOut | None:
    """Return the strokes of a chart in a good order, found at once, with their times; None where none lie on it.

    Parameters
    ----------
    check
        Called now and then; what it raises ends the work.
    """
    design = design_of(plan, chart, report=lambda *_: check(), engine=engine)
    return laid_out(at_once(design), chart) if design.work.jobs else None


def played_plan(plan: Plan, chart: str) -> Plan:
    """Return a plan of the strokes of a chart in the order found, to be played one after another."""
    order = order_found(plan, chart)
    return painted_plan(plan, chart) if order is None else order.plan


@dataclass(frozen=True, slots=True, eq=False)
class Moment:
    """The design after a job: its number in the order, the job, when it ends, s, and the picture, sRGB bytes."""

    number: int
    job: str
    at_s: float
    picture: Picture


def sequence(
    arranged: Arranged, chart: str, px_per_mm: float, engine: Engine | None = None, surround: str = SURROUND
) -> Iterator[Moment]:
    """Yield the design on a chart ("skin" for a plan without motifs) after each job of an order that lies on it."""
    plan = arranged.design.work.plan
    laying = _Laying(arranged, chart, px_per_mm, engine or best())
    with ThreadPoolExecutor(THREADS) as pool:
        drawn: deque[tuple[int, str, float, Future[Picture]]] = deque()
        for number, (job, ends_s) in enumerate(jobs_on(arranged, chart), 1):
            laying.lay(job)
            page = pool.submit(_page, plan, chart, laying.painted, px_per_mm, surround)
            drawn.append((number, job.id, ends_s, page))
            while len(drawn) > THREADS:  # pages are drawn while the next strokes are laid
                yield _moment(drawn.popleft())
        while drawn:
            yield _moment(drawn.popleft())


def jobs_on(arranged: Arranged, chart: str) -> Iterator[tuple[PaintJob, float]]:
    """Yield the jobs on a chart in the order of painting, and when each ends, s."""
    for place in arranged.timing.order:
        job = arranged.jobs[place]
        if job.chart == chart:
            yield job, arranged.timing.starts[place] / 10 + job.pull_s


class _Laying:
    """Lays the jobs of an order on one chart, one after another."""

    def __init__(
        self, arranged: Arranged, chart: str, px_per_mm: float, engine: Engine, light: Light = Light.DAYLIGHT
    ) -> None:
        self._plan, self._chart, self._engine, self._light = arranged.design.work.plan, chart, engine, light
        self._rate = evaporation_um_s(self._plan.dry_after_s)
        self._film: SkinFilm | None = None
        self._keys: dict[str, list[tuple[Ready, float]]] = {}
        self._carrying = Carrying()
        self._marks: tuple[ReadyMark, ...] = ()
        self.strokes = 0
        out = laid_out(arranged, chart)
        if not out.plan.strokes and not out.marks:
            return
        canvas = skin_canvas(out.plan, px_per_mm, marks=[mark for mark, _ in out.marks])
        self._film = fresh_film(out.plan, canvas)
        ready = pulls(out.plan, canvas.px_per_mm, elsewhere=out.elsewhere)
        for one, at, job in zip(ready, out.starts_s, out.jobs, strict=True):
            self._keys.setdefault(job, []).append((one, at))
        for mark, at in out.marks:
            strewn = ready_mark(self._plan, mark, canvas.px_per_mm, BANDS)
            self._keys.setdefault(f"{mark.chart}/{mark.name}", []).append((strewn, at))

    def lay(self, job: PaintJob) -> None:
        """Lay what a job lays."""
        keys = self._keys.get(job.id, [])
        if keys and self._film is not None:
            lay_in_order(self._film, keys, self._carrying, self._engine, self._rate)
            self.strokes += len(job.strokes)
            self._marks += tuple(one for one, _ in keys if isinstance(one, ReadyMark))

    @property
    def painted(self) -> Painted | None:
        """What is painted so far, as a picture of its own."""
        film = self._film
        if film is None:
            return None
        seen = tuple(self._carrying.seen(film, one) for one in self._marks)
        rgba = _rgba(film.in_light(self._light), self._engine)
        return Painted(self._plan, self._chart, film.canvas, rgba, self.strokes, marks=seen, light=self._light)


def painted_at(
    arranged: Arranged,
    chart: str,
    px_per_mm: float,
    at_s: float = math.inf,
    engine: Engine | None = None,
    light: Light = Light.DAYLIGHT,
    check: Check = go_on,
) -> Painted | None:
    """Return what is painted on a chart at a moment of an order, s, all that ends by then, as it is seen in a light.

    Parameters
    ----------
    check
        Called before each job; what it raises ends the work.
    """
    laying = _Laying(arranged, chart, px_per_mm, engine or best(), light)
    for job, ends_s in jobs_on(arranged, chart):
        check()
        if ends_s <= at_s:
            laying.lay(job)
    return laying.painted


def _moment(drawn: tuple[int, str, float, Future[Picture]]) -> Moment:
    number, job, at_s, page = drawn
    return Moment(number, job, at_s, page.result())


def _page(plan: Plan, chart: str, painted: Painted | None, px_per_mm: float, surround: str) -> Picture:
    """Return the chart, or the bare patch of skin, with what lies on it."""
    if chart == SKIN:
        assert painted is not None
        return np.ascontiguousarray(painted.rgba[..., :3])
    skin = skin_bytes(plan.skin)
    photo = photo_if_any(plan, chart)
    return chart_picture(chart_of(plan, chart), painted, skin, px_per_mm, surround=surround, photo=photo)


def sheet_pictures(
    arranged: Arranged,
    px_per_mm: float = SHEET_PX_PER_MM,
    engine: Engine | None = None,
    check: Check = go_on,
) -> SheetPictures:
    """Return the pictures of a sheet, from the same film as `sequence`; `check` is called before each stage."""
    doer, told = engine or best(), stages(arranged)
    plan = arranged.design.work.plan
    found: list[tuple[Picture, float, float] | None] = [None] * len(told)
    whole: dict[str, Picture] = {}
    under: dict[str, Under] = {}
    for chart in dict.fromkeys(stage.chart for stage in told):
        laying = _Laying(arranged, chart, px_per_mm, doer)
        before = _page(plan, chart, laying.painted, px_per_mm, "#FFFFFF")
        if chart != SKIN and photo_if_any(plan, chart) is not None:
            left, top = corner_of(chart_of(plan, chart))
            under[chart] = Under(_faint(before), left, top, px_per_mm)
        for place, stage in enumerate(told):
            if stage.chart != chart:
                continue
            check()
            for name in stage.jobs:
                laying.lay(arranged.job(name))
            after = _page(plan, chart, laying.painted, px_per_mm, "#FFFFFF")
            found[place] = _crop(before, after, px_per_mm)
            before = after
        whole[chart] = before
    return SheetPictures(whole, tuple(found), under)


def _crop(before: Picture, after: Picture, px_per_mm: float) -> tuple[Picture, float, float] | None:
    """Return where a picture has changed, the rest of it faint, and its size, mm; None where nothing has."""
    new = np.abs(after.astype(np.int16) - before).max(axis=2) > _CHANGED
    rows, columns = np.nonzero(new)
    if not len(rows):
        return None
    margin = round(_AROUND_MM * px_per_mm)
    top, left = max(int(rows.min()) - margin, 0), max(int(columns.min()) - margin, 0)
    part = (slice(top, int(rows.max()) + margin), slice(left, int(columns.max()) + margin))
    picture = np.where(new[part][..., None], after[part], _faint(after[part]))
    return picture, picture.shape[1] / px_per_mm, picture.shape[0] / px_per_mm


def file_stem(job: str) -> str:
    """Return a job's id as a part of a file's name.

    >>> file_stem("petal-ring/petal1/twin")
    'petal-ring-petal1-twin'
    """
    return "".join(letter if letter.isalnum() or letter in "-_" else "-" for letter in job)[:80]


def _faint(picture: Picture) -> Picture:
    """Return a picture as it looks where it only tells the place."""
    return np.asarray(255 - (255 - picture.astype(np.float32)) * _FAINT).astype(np.uint8)
