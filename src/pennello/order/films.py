"""How thick each job's paint lies and where: from the film engine, not from a table."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from pennello.aim.wish import edge_lab
from pennello.colour.basis import FULL, small_basis
from pennello.design.laid_marks import canvas_of
from pennello.design.marks import Mark
from pennello.design.pace import StepKind
from pennello.design.plan import Plan, skin_spectrum
from pennello.design.scene import BANDS, Carrying, ReadyPull, pulls
from pennello.design.touch import layer_shape
from pennello.design.visits import whole_load
from pennello.kept import kept
from pennello.lay.canvas import Canvas
from pennello.lay.channels import SOLIDS
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import best
from pennello.lay.skin_film import Engine, bare_skin
from pennello.load.edge import load
from pennello.order.job import PaintJob
from pennello.order.jobs import Work, mark_of
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]
Report = Callable[[float, str], None]

PX_PER_MM = 1.0
TOUCHED = 0.02
"""From this share of a pixel on two jobs may touch there (a default)."""

COVERED = 0.3
"""From this share of a pixel on it counts as painted (a default)."""

THICK_SHARE = 80.0
"""The percentile of the film's thickness in an overlap that has to dry (a default)."""

PLAIN_DE = 3.0
"""Loads within so much of one colour are one plain paint (a default)."""

OVERLAY_UM = 6.0
"""How thick a stencil counts, um, when it dries (a default)."""

OVERLAP_MM2 = 4.0
"""Jobs that share less than this do not wait for each other (a default)."""


@dataclass(frozen=True, slots=True, eq=False)
class JobFilm:
    """Where a job's paint lies, on whole mm of its chart.

    Attributes
    ----------
    um
        Thickness, um, shape (rows, columns); 0 where there is none.
    water_um
        Its water, as much as creamy paint of that thickness has, um, shape (rows, columns).
    touched
        Where any of it lies, shape (rows, columns).
    left, top
        Where the first pixel begins, mm.
    """

    um: Array
    water_um: Array
    touched: NDArray[np.bool_]
    left: int
    top: int
    _thick: list[float] = field(default_factory=list, repr=False)
    _times: dict[tuple[float, float], float] = field(default_factory=dict, repr=False)

    def thick_um(self) -> float:
        """Return how thick it is, um: its 80th percentile."""
        if not self._thick:
            um = self.um[self.um > 0]
            self._thick.append(percentile(um, THICK_SHARE) if um.size else 0.0)
        return self._thick[0]

    def time_to(self, wet: float, rate_um_s: float) -> float:
        """Return after how long it has only a wetness left, s: in four fifths of it."""
        if (wet, rate_um_s) not in self._times:
            there = self.um > 0
            self._times[wet, rate_um_s] = _time_of(self.um[there], self.water_um[there], wet, rate_um_s)
        return self._times[wet, rate_um_s]

    @property
    def area_cm2(self) -> float:
        """Painted area, cm2."""
        return float((self.um > 0).sum()) / PX_PER_MM**2 / 100

    def within(self, other: JobFilm) -> tuple[slice, slice] | None:
        """Return which rows and columns lie in another film's rectangle, or None."""
        rows = (max(self.top, other.top), min(self.top + len(self.um), other.top + len(other.um)))
        columns = (max(self.left, other.left), min(self.left + self.um.shape[1], other.left + other.um.shape[1]))
        if rows[0] >= rows[1] or columns[0] >= columns[1]:
            return None
        return slice(rows[0] - self.top, rows[1] - self.top), slice(columns[0] - self.left, columns[1] - self.left)


@dataclass(frozen=True, slots=True, eq=False)
class Films:
    """Films by job, and the colours across each job's load as L*, a*, b*, shape (64, 3)."""

    by_job: dict[str, JobFilm]
    colours: dict[str, Array]
    charts: dict[str, str]
    _alike: dict[tuple[int, int], bool] = field(default_factory=dict)

    def lightness(self, name: str) -> float:
        """Return how light a job's load is: its mean L*."""
        return float(self.colours[name][:, 0].mean())

    def alike(self, one: str, other: str) -> bool:
        """Return whether two jobs are laid in the same plain colour: wet or dry, nothing muddies."""
        if one not in self.colours or other not in self.colours:
            return False
        first, second = self.colours[one], self.colours[other]
        pair = (id(first), id(second))  # jobs of one load have one array
        if pair not in self._alike:
            both = np.concatenate([first, second])
            self._alike[pair] = bool(np.linalg.norm(both - both.mean(axis=0), axis=1).max() < PLAIN_DE)
        return self._alike[pair]

    def overlap_mm2(self, one: str, other: str) -> float:
        """Return the area that two jobs share, mm2."""
        pair = self._pair(one, other)
        return pair.shared_mm2 if pair is not None else 0.0

    def meet(self, one: str, other: str) -> bool:
        """Return whether two jobs share enough skin to wait for each other."""
        return self.overlap_mm2(one, other) >= OVERLAP_MM2

    def near(self) -> dict[str, frozenset[str]]:
        """Return for each job those whose rectangle on the same chart meets its own."""
        names = list(self.by_job)
        films = [self.by_job[name] for name in names]
        left, top = np.array([one.left for one in films]), np.array([one.top for one in films])
        right = left + [one.um.shape[1] for one in films]
        bottom = top + [len(one.um) for one in films]
        charts = np.unique([self.charts[name] for name in names], return_inverse=True)[1] if names else left
        across = (left[:, None] < right[None]) & (left[None] < right[:, None])
        down = (top[:, None] < bottom[None]) & (top[None] < bottom[:, None])
        meets = across & down & (charts[:, None] == charts)
        found = (frozenset(names[at] for at in np.flatnonzero(row)) for row in meets)
        return dict(zip(names, found, strict=True))

    def touch(self, one: str, other: str) -> bool:
        """Return whether two jobs touch at all: which of them lies over the other is seen."""
        pair = self._pair(one, other)
        return pair is not None and pair.touch

    def under_um(self, lower: str, upper: str) -> float:
        """Return how thick the lower film is under the upper one, um: its 80th percentile there."""
        pair = self._pair(lower, upper)
        return pair.under_um if pair is not None else 0.0

    def time_to(self, wet: float, name: str, upper: str, rate_um_s: float) -> float:
        """Return after how long a film has only a wetness left under another job, s: in four fifths of that place.

        Where they do not meet it is what the whole film needs.
        """
        film = self.by_job.get(name)
        if film is None:
            return 0.0
        pair = self._pair(name, upper)
        if pair is None or not pair.um.size:
            return film.time_to(wet, rate_um_s)
        return _time_of(pair.um, pair.water_um, wet, rate_um_s)

    def thick_um(self, name: str) -> float:
        """Return how thick a job's film is, um: its 80th percentile."""
        return self.by_job[name].thick_um() if name in self.by_job else 0.0

    def _pair(self, one: str, other: str) -> _Pair | None:
        """Return what a film and another one share; None where they lie apart."""
        first, second = self.by_job.get(one), self.by_job.get(other)
        if first is None or second is None or self.charts[one] != self.charts[other]:
            return None
        return _pair_of(first, second)


@dataclass(frozen=True, slots=True, eq=False)
class _Pair:
    """A film where another one lies: whether they touch, how much they share, its thickness and water there."""

    touch: bool
    shared_mm2: float
    under_um: float
    um: Array
    water_um: Array


@kept
def _pair_of(first: JobFilm, second: JobFilm) -> _Pair | None:
    """Return what one film is where another one lies; kept, since films stay the same while nothing of them changes."""
    mine, its = first.within(second), second.within(first)
    if mine is None or its is None:
        return None
    there = (first.um[mine] > 0) & (second.um[its] > 0)
    um = first.um[mine][there]
    touch = bool((first.touched[mine] & second.touched[its]).any())
    thick = percentile(um, THICK_SHARE) if um.size else 0.0
    return _Pair(touch, float(there.sum()) / PX_PER_MM**2, thick, um, first.water_um[mine][there])


def _time_of(um: Array, water_um: Array, wet: float, rate_um_s: float) -> float:
    return percentile(np.maximum(water_um - wet * um, 0.0) / rate_um_s, THICK_SHARE) if um.size else 0.0


def percentile(values: Array, share: float) -> float:
    """Return a percentile of one or more values, in between evenly, as NumPy has it by default.

    >>> percentile(np.array([3.0, 1.0, 2.0]), 75.0)
    2.5
    """
    place = (len(values) - 1) * share / 100
    low = math.floor(place)
    parted = np.partition(values, (low, min(low + 1, len(values) - 1)))
    first = float(parted[low])
    return first if place == low else first + (place - low) * (float(parted[low + 1]) - first)


def _each_alone(laid: Plan, mine: Sequence[PaintJob], doer: Engine, report: Report) -> dict[str, JobFilm]:
    """Return the films of a chart's jobs, each laid on bare skin."""
    found: dict[str, JobFilm] = {}
    ready = {one.stroke: one for one in pulls(laid, PX_PER_MM)}
    for number, job in enumerate(mine):
        report(number / len(mine), phrase("how thick {job} lies", job=job.name))
        found[job.id] = _alone(tuple(ready[name] for name in job.strokes), laid.dry_after_s, doer)
    return found


@kept
def _alone(strokes: tuple[ReadyPull, ...], dry_after_s: float, doer: Engine) -> JobFilm:
    """Return what strokes lay on bare skin, on a canvas of their own; kept as long as nothing of them changes."""
    lefts, tops = [one.canvas.left_mm for one in strokes], [one.canvas.top_mm for one in strokes]
    left, top = math.floor(min(lefts)), math.floor(min(tops))
    right = max(one.canvas.left_mm + one.canvas.columns / one.canvas.px_per_mm for one in strokes)
    bottom = max(one.canvas.top_mm + one.canvas.rows / one.canvas.px_per_mm for one in strokes)
    canvas = Canvas(left, top, math.ceil(right - left) + 1, math.ceil(bottom - top) + 1, PX_PER_MM)
    film = bare_skin(canvas, small_basis(BANDS), np.ones(len(FULL.weights)))
    carrying, rate = Carrying(), evaporation_um_s(dry_after_s)
    for one in strokes:
        carrying.lay(film, one, 0.0, doer, rate)
    solids = film.wet[..., SOLIDS] + film.dry_um
    covered = (film.cover > COVERED) | (film.dry_um > 0)
    um, water = solids * covered, film.water_um() * covered
    touched = (film.cover > TOUCHED) | (film.dry_um > 0)
    return JobFilm(np.asarray(um, np.float32), np.asarray(water, np.float32), touched, left, top)


def films_of(work: Work, report: Report | None = None, engine: Engine | None = None) -> Films:
    """Return the films of all jobs of a plan, each laid on bare skin; and how light their loads are."""
    found: dict[str, JobFilm] = {}
    doer = engine or best()
    for key, laid in work.painted:
        mine = [job for job in work.jobs if job.chart == key and job.strokes]
        found |= _each_alone(laid, mine, doer, report or (lambda *_: None))
    for job in work.jobs:
        if not job.strokes:
            mark = mark_of(work.plan, job)
            if mark is not None:
                found[job.id] = _of_overlay(mark)
    by_load = _colours_by_load(work)
    colours = {job.id: by_load[job.load] for job in work.jobs if job.strokes}
    return Films(found, colours, {job.id: job.chart for job in work.jobs})


@kept
def _of_overlay(overlay: Mark) -> JobFilm:
    """Return where glitter, a stencil or a gem lies, as a thin film."""
    canvas = canvas_of(overlay, PX_PER_MM)
    mask = overlay_mask(overlay, canvas) * OVERLAY_UM
    return JobFilm(mask, mask, mask > 0, round(canvas.left_mm), round(canvas.top_mm))


def with_areas(work: Work, films: Films) -> Work:
    """Return the jobs with the area that each paints, cm2."""
    jobs = tuple(replace(job, area_cm2=round(films.by_job[job.id].area_cm2, 2)) for job in work.jobs)
    return replace(work, jobs=jobs)


def overlay_mask(overlay: Mark, canvas: Canvas) -> Array:
    """Return 1 um where glitter is strewn, a stencil lets paint through or a gem lies, shape (rows, columns)."""
    x = canvas.left_mm + (np.arange(canvas.columns) + 0.5) / canvas.px_per_mm
    y = canvas.top_mm + (np.arange(canvas.rows) + 0.5) / canvas.px_per_mm
    points = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
    within = shapely.contains_xy(layer_shape(overlay), points[:, 0], points[:, 1])
    return np.asarray(within, np.float32).reshape(canvas.rows, canvas.columns)


def _colours_by_load(work: Work) -> dict[str, Array]:
    """Return the colours across each load that something is laid with, as L*, a*, b*, shape (64, 3)."""
    plan, found = work.plan, {}
    for name in dict.fromkeys(job.load for job in work.jobs if job.strokes):
        whole = whole_load(plan, name)
        edge = load(replace(whole.recipe, after=""), plan.cakes_by_id, plan.brush(whole.brush))
        found[name] = edge_lab(edge, plan.paints_by_id, skin_spectrum(plan.skin))
    return found


LINE_KINDS = (StepKind.LINE, StepKind.DOTS)
