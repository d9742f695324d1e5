"""How thick each job's paint lies and where: from the film engine, not from a table."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from pennello.aim.wish import edge_lab
from pennello.chart.chart import drawn
from pennello.colour.lab import hex_to_lab
from pennello.design.marks import Glitter, Lines, Mark
from pennello.design.plan import Plan, skin_spectrum
from pennello.design.scene import Carrying, fresh_film, lay_in_order, pulls, skin_canvas
from pennello.design.touch import shape_of
from pennello.kit.contact import BINS
from pennello.lay.canvas import Canvas
from pennello.lay.channels import SOLIDS
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import best
from pennello.lay.skin_film import Engine
from pennello.order.job import PaintJob
from pennello.order.jobs import SKIN, Work
from pennello.order.pace import StepKind

Array = NDArray[np.floating[Any]]
Report = Callable[[float, str], None]

PX_PER_MM = 1.0
COVERED = 0.3
"""From this share of a pixel on it counts as painted (a default)."""

THICK_SHARE = 80.0
"""The percentile of the film's thickness in an overlap that has to dry (a default)."""

PLAIN_DE = 3.0
"""Loads within so much of one colour are one plain paint (a default)."""

OVERLAY_UM = 6.0
"""How thick lines and stencils that are simple pictures count, um, when they dry (a default)."""

OVERLAP_MM2 = 4.0
"""Jobs that share less than this do not wait for each other (a default)."""


@dataclass(frozen=True, slots=True, eq=False)
class JobFilm:
    """Where a job's paint lies on its chart's canvas.

    Attributes
    ----------
    um
        Thickness, um, shape (rows, columns); 0 where there is none.
    water_um
        Its water, as much as creamy paint of that thickness has, um, shape (rows, columns).
    """

    canvas: Canvas
    um: Array
    water_um: Array

    @property
    def area_cm2(self) -> float:
        """Painted area, cm2."""
        return float((self.um > 0).sum()) / self.canvas.px_per_mm**2 / 100


@dataclass(frozen=True, slots=True, eq=False)
class Films:
    """Films by job, and the colours across each job's load as L*, a*, b*, shape (64, 3)."""

    by_job: dict[str, JobFilm]
    colours: dict[str, Array]

    def lightness(self, name: str) -> float:
        """Return how light a job's load is: its mean L*."""
        return float(self.colours[name][:, 0].mean())

    def alike(self, one: str, other: str) -> bool:
        """Return whether two jobs are laid in the same plain colour: wet or dry, nothing muddies."""
        if one not in self.colours or other not in self.colours:
            return False
        both = np.concatenate([self.colours[one], self.colours[other]])
        return bool(np.linalg.norm(both - both.mean(axis=0), axis=1).max() < PLAIN_DE)

    def overlap_mm2(self, one: str, other: str) -> float:
        """Return the area that two jobs share, mm2."""
        both = self._both(one, other)
        if both is None:
            return 0.0
        return float(both.sum()) / self.by_job[one].canvas.px_per_mm ** 2

    def meet(self, one: str, other: str) -> bool:
        """Return whether two jobs share enough skin to wait for each other."""
        return self.overlap_mm2(one, other) >= OVERLAP_MM2

    def under_um(self, lower: str, upper: str) -> float:
        """Return how thick the lower film is under the upper one, um: its 80th percentile there."""
        both = self._both(lower, upper)
        if both is None or not both.any():
            return 0.0
        return float(np.percentile(self.by_job[lower].um[both], THICK_SHARE))

    def time_to(self, wet: float, name: str, upper: str, rate_um_s: float) -> float:
        """Return after how long a film has only a wetness left under another job, s: in four fifths of that place.

        Where they do not meet it is what the whole film needs.
        """
        lower = self.by_job.get(name)
        if lower is None:
            return 0.0
        both = self._both(name, upper)
        place = both if both is not None and both.any() else lower.um > 0
        needed = np.maximum(lower.water_um[place] - wet * lower.um[place], 0.0) / rate_um_s
        return float(np.percentile(needed, THICK_SHARE)) if needed.size else 0.0

    def thick_um(self, name: str) -> float:
        """Return how thick a job's film is, um: its 80th percentile."""
        um = self.by_job[name].um if name in self.by_job else np.zeros((1, 1))
        return float(np.percentile(um[um > 0], THICK_SHARE)) if (um > 0).any() else 0.0

    def _both(self, one: str, other: str) -> NDArray[np.bool_] | None:
        first, second = self.by_job.get(one), self.by_job.get(other)
        if first is None or second is None or first.canvas is not second.canvas:
            return None
        return (first.um > 0) & (second.um > 0)


def _each_alone(laid: Plan, mine: Sequence[PaintJob], doer: Engine, report: Report) -> dict[str, JobFilm]:
    """Return the films of a chart's jobs, each laid on bare skin."""
    found: dict[str, JobFilm] = {}
    canvas = skin_canvas(laid, PX_PER_MM)
    ready = {one.stroke: one for one in pulls(laid, canvas.px_per_mm)}
    for number, job in enumerate(mine):
        report(number / len(mine), f"how thick {job.name} lies")
        film = fresh_film(laid, canvas)
        keys = [(ready[name], 0.0) for name in job.strokes]
        lay_in_order(film, keys, Carrying(), doer, evaporation_um_s(laid.dry_after_s))
        covered = (film.cover > COVERED) | (film.dry_um > 0)
        um, water = (film.wet[..., SOLIDS] + film.dry_um) * covered, film.water_um() * covered
        found[job.id] = JobFilm(canvas, np.asarray(um, np.float32), np.asarray(water, np.float32))
    return found


def films_of(work: Work, report: Report | None = None, engine: Engine | None = None) -> Films:
    """Return the films of all jobs of a plan, each laid on bare skin; and how light their loads are."""
    found: dict[str, JobFilm] = {}
    painted = dict(work.painted)
    doer = engine or best()
    for key, laid in work.painted:
        mine = [job for job in work.jobs if job.chart == key and job.strokes]
        found |= _each_alone(laid, mine, doer, report or (lambda *_: None))
    for job in work.jobs:
        if not job.strokes:
            overlay = _overlay(work.plan, job)
            canvas = found_canvas(found, work, job.chart) or _canvas_round(overlay)
            mask = overlay_mask(overlay, canvas) * OVERLAY_UM
            found[job.id] = JobFilm(canvas, mask, mask)
    colours = {job.id: _colours(painted, job) for job in work.jobs if job.strokes}
    for job in work.jobs:
        if job.kind in LINE_KINDS and not job.strokes:
            colours[job.id] = np.tile(hex_to_lab(_overlay(work.plan, job).srgb), (BINS, 1))
    return Films(found, colours)


def found_canvas(found: dict[str, JobFilm], work: Work, chart: str) -> Canvas | None:
    """Return the canvas that a chart's jobs lie on, or None where nothing is painted."""
    return next((found[job.id].canvas for job in work.jobs if job.chart == chart and job.id in found), None)


def with_areas(work: Work, films: Films) -> Work:
    """Return the jobs with the area that each paints, cm2."""
    jobs = tuple(replace(job, area_cm2=round(films.by_job[job.id].area_cm2, 2)) for job in work.jobs)
    return replace(work, jobs=jobs)


def overlay_mask(overlay: Mark, canvas: Canvas) -> Array:
    """Return 1 um where glitter is strewn or a stencil lets paint through, shape (rows, columns)."""
    x = canvas.left_mm + (np.arange(canvas.columns) + 0.5) / canvas.px_per_mm - overlay.x_mm
    y = canvas.top_mm + (np.arange(canvas.rows) + 0.5) / canvas.px_per_mm - overlay.y_mm
    if isinstance(overlay, Glitter):
        oval = (2 * x[None] / overlay.width_mm) ** 2 + (2 * y[:, None] / overlay.height_mm) ** 2
        return np.asarray(oval <= 1.0, np.float32)
    points = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
    within = np.zeros(len(points), bool)
    for outline in overlay.outlines:
        if isinstance(overlay, Lines):
            within |= _near(points, drawn(outline), overlay.line_mm / 2)
        else:
            within |= shapely.contains_xy(shape_of(outline), points[:, 0], points[:, 1])
    return within.reshape(canvas.rows, canvas.columns).astype(np.float32)


def _near(points: Array, line: Array, reach_mm: float) -> NDArray[np.bool_]:
    """Return which points lie within a reach of a line, mm, shapes (n, 2) and (m, 2)."""
    low, high = line.min(axis=0) - reach_mm, line.max(axis=0) + reach_mm
    close = np.flatnonzero(np.all((points >= low) & (points <= high), axis=1))
    found = np.zeros(len(points), bool)
    start, way = line[:-1], np.diff(line, axis=0)
    length = np.maximum((way**2).sum(axis=1), 1e-12)
    for at in close.tolist():
        along = np.clip(((points[at] - start) * way).sum(axis=1) / length, 0, 1)
        away = np.hypot(*(start + along[:, None] * way - points[at]).T)
        found[at] = bool(away.min() <= reach_mm)
    return found


def _overlay(plan: Plan, job: PaintJob) -> Mark:
    return next(one for one in plan.overlays if (one.name, one.chart) == (job.part, job.chart))


def _canvas_round(overlay: Mark) -> Canvas:
    """Return a canvas round an overlay that lies on bare skin."""
    left, top = overlay.x_mm - overlay.width_mm / 2, overlay.y_mm - overlay.height_mm / 2
    return Canvas(left, top, math.ceil(overlay.width_mm) + 1, math.ceil(overlay.height_mm) + 1, PX_PER_MM)


def _colours(painted: dict[str, Plan], job: PaintJob) -> Array:
    laid = painted[job.chart if job.chart in painted else SKIN]
    paints = laid.paints_by_id
    return edge_lab(laid.edge(job.strokes[0]), paints, skin_spectrum(laid.skin))


LINE_KINDS = (StepKind.LINE, StepKind.DOTS)
