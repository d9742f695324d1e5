"""From a plan to the jobs of the hand: strokes that go together, glitter and stencils, with how long each takes."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from pennello.chart.chart import Chart
from pennello.design.marks import Glitter, Lines, Mark, Stencil, is_dot
from pennello.design.on_chart import chart_of, charts_used, painted_plan, pieces_on
from pennello.design.ordering import Priority
from pennello.design.placed import LaidPiece, PlacedMotif
from pennello.design.plan import Plan, PlanStroke
from pennello.design.reach import edges_of
from pennello.kit.applicator import ApplicatorKind
from pennello.kit.paint import Near
from pennello.load.recipe import Recipe
from pennello.motif.catalogue import motif
from pennello.order.job import MIDDLE, PaintJob
from pennello.order.pace import Pace, StepKind
from pennello.path.cubic import length_mm

SKIN = "skin"
"""The patch that strokes of a plan without motifs lie on."""

NEAR_MM = 12.0
"""So near to an eye, the lips or a nostril the painter says something first (a default)."""

SIDE_MM = 8.0
"""So near to the midline a job is in the middle (a default)."""

_LINERS = (ApplicatorKind.ROUND, ApplicatorKind.LINER)
_DOT_MM = 1.5


@dataclass(frozen=True, slots=True)
class Work:
    """Jobs of a plan in the plan's own order, and the strokes that they lay.

    Attributes
    ----------
    painted
        By chart (or "skin") a plan whose strokes are those that are laid.
    fresh
        By id of a stroke that goes on with a leftover, the load for when that leftover is not there.
    """

    plan: Plan
    jobs: tuple[PaintJob, ...]
    painted: tuple[tuple[str, Plan], ...]
    fresh: tuple[tuple[str, Recipe], ...] = ()

    def job(self, name: str) -> PaintJob:
        """Return a job by id."""
        return next(job for job in self.jobs if job.id == name)


@lru_cache(maxsize=32)
def work_of(plan: Plan, chart: str = "", pace: Pace | None = None) -> Work:
    """Return the jobs of a chart of a plan, of all its charts (""), or of its strokes if it has no motif.

    Raises
    ------
    UnknownNameError
        If there is no such chart.
    """
    tempo = pace or Pace()
    if chart:
        chart_of(plan, chart)
    keys = (chart,) if chart else charts_used(plan)
    if not chart and not plan.motifs:
        return _bench_work(plan, keys, tempo)
    jobs: list[PaintJob] = []
    painted, fresh = [], []
    for key in keys:
        laid = painted_plan(plan, key)
        found = _chart_jobs(plan, laid, key, tempo)
        painted.append((key, laid))
        fresh += [
            (stroke.id, replace(plan.stroke(piece.load).recipe, after=""))
            for stroke, piece in zip(laid.strokes, pieces_on(plan, key), strict=True)
            if stroke.recipe.after and plan.stroke(piece.load).recipe.pickups
        ]
        jobs += found
    jobs += [_overlay_job(plan, overlay, tempo) for key in keys for overlay in plan.overlays if overlay.chart == key]
    return Work(plan, tuple(jobs), tuple(painted), tuple(fresh))


# --- strokes on charts ---


def _in_groups(pieces: Sequence[LaidPiece]) -> dict[tuple[str, int, bool, str], list[int]]:
    """Return the numbers of what is painted in one go: a row of a motif, one of twins, a part of it."""
    groups: dict[tuple[str, int, bool, str], list[int]] = {}
    for number, piece in enumerate(pieces):
        groups.setdefault((piece.motif, piece.row, piece.twin, piece.part), []).append(number)
    return groups


def _chart_jobs(plan: Plan, laid: Plan, key: str, pace: Pace) -> list[PaintJob]:
    chart, pieces = chart_of(plan, key), pieces_on(plan, key)
    groups = _in_groups(pieces)
    owner = {number: group for group, numbers in groups.items() for number in numbers}
    at = {stroke.id: number for number, stroke in enumerate(laid.strokes)}
    jobs = []
    for group, numbers in groups.items():
        placed = next(one for one in plan.motifs if one.id == group[0])
        strokes = [laid.strokes[number] for number in numbers]
        mine = [pieces[number] for number in numbers]
        before = at.get(strokes[0].recipe.after)
        follows = before is not None and groups[owner[before]][-1] == before
        goes_on = job_id(*owner[before]) if before is not None and follows else ""
        has_twin = (group[0], group[1], not group[2], group[3]) in groups
        jobs.append(
            replace(
                _stroke_job(strokes, plan.stroke(mine[0].load), pace),
                id=job_id(*group),
                name=_name(placed, group, len(numbers), chart, has_twin=has_twin),
                part=placed.id,
                chart=key,
                kind=_kind(plan, mine[0].load, strokes, dots=group[3] == "dot"),
                row=group[1],
                goes_on=goes_on,
                region=_region(chart, mine),
                twin=job_id(group[0], group[1], not group[2], group[3]) if has_twin else "",
                near=_near(plan, chart, mine),
                priority=plan.ordering.priority(placed.id, usual_priority(placed)),
                worth=dict(plan.ordering.worth).get(placed.id, 1.0),
                reload_every=placed.per_load if placed.per_load < len(numbers) else 0,
            )
        )
    return [_timed(plan, laid, job, pace) for job in jobs]


def part_names(plan: Plan) -> dict[str, str]:
    """Return what the parts of a design are called, by id; overlays go by their names."""
    return {stroke.id: stroke.name for stroke in plan.strokes} | {placed.id: placed.name for placed in plan.motifs}


def job_id(motif_id: str, row: int, twin: bool, part: str) -> str:  # noqa: FBT001 - a part of the key
    """Return the id of a job: its motif, part and row, and whether it is of the mirror image."""
    return f"{motif_id}/{part}{row + 1}{'/twin' if twin else ''}"


def usual_priority(placed: PlacedMotif) -> Priority:
    """Return what may be left out first where the painter says nothing: line work and leaves (a default)."""
    group = motif(placed.motif).group if placed.motif else ""
    return Priority.NICE if group in ("lines", "leaves") else Priority.MUST


def _name(placed: PlacedMotif, group: tuple[str, int, bool, str], count: int, chart: Chart, *, has_twin: bool) -> str:
    if not placed.motif:
        return placed.name
    part = next(part for part in motif(placed.motif).parts if part.key == group[3])
    told = f"{count} × {part.name}" if count > 1 else part.name
    row = f", row {group[1] + 1}" if group[1] else ""
    side = ""
    if has_twin and chart.midline_mm is not None:
        left = (placed.place.x_mm > chart.midline_mm) != group[2]
        side = ", wearer's left" if left else ", wearer's right"
    return f"{placed.name}: {told}{row}{side}"


def _region(chart: Chart, pieces: Sequence[LaidPiece]) -> str:
    if chart.midline_mm is None:
        return chart.name
    points = np.array([point for piece in pieces for point in piece.stroke.path.points_mm])
    off = float(points[:, 0].mean()) - chart.midline_mm
    if abs(off) < SIDE_MM:
        return f"{chart.name}, {MIDDLE}"
    return f"{chart.name}, wearer's {'left' if off > 0 else 'right'}"


def _near(plan: Plan, chart: Chart, pieces: Sequence[LaidPiece]) -> tuple[str, ...]:
    """Return the kinds of zones within 12 mm of the strokes."""
    if not chart.zones:
        return ()
    points = np.concatenate([edges_of(plan, piece).reshape(-1, 2) for piece in pieces])
    found = []
    for zone in chart.zones:
        low, high = zone.polygon.min(axis=0) - NEAR_MM, zone.polygon.max(axis=0) + NEAR_MM
        close = points[np.all((points > low) & (points < high), axis=1)]
        if len(close) and float(np.linalg.norm(close[:, None] - zone.polygon[None], axis=2).min()) < NEAR_MM:
            found.append("eye" if zone.kind == "lid" else zone.kind)
    return tuple(dict.fromkeys(found))


# --- strokes of a plan without motifs ---


def _bench_work(plan: Plan, keys: Iterable[str], pace: Pace) -> Work:
    groups: list[list[PlanStroke]] = []
    for stroke in plan.strokes:
        if stroke.recipe.after and groups and groups[-1][-1].id == stroke.recipe.after:
            groups[-1].append(stroke)
        else:
            groups.append([stroke])
    jobs = []
    for strokes in groups:
        first = strokes[0]
        job = replace(
            _stroke_job(strokes, first, pace),
            id=first.id,
            name=first.name if len(strokes) == 1 else f"{first.name} and {len(strokes) - 1} more of its load",
            part=first.id,
            chart=SKIN,
            kind=_kind(plan, first.id, strokes, dots=False),
            region=SKIN,
            near=() if first.near is Near.SKIN else (first.near.value,),
            priority=plan.ordering.priority(first.id),
            worth=dict(plan.ordering.worth).get(first.id, 1.0),
        )
        jobs.append(_timed(plan, plan, job, pace))
    jobs += [_overlay_job(plan, overlay, pace) for key in keys for overlay in plan.overlays if overlay.chart == key]
    return Work(plan, tuple(jobs), ((SKIN, plan),) if plan.strokes else ())


# --- what both share ---


def _stroke_job(strokes: Sequence[PlanStroke], source: PlanStroke, pace: Pace) -> PaintJob:
    """Return a job with what it takes to load; its times come with its kind."""
    load_s, visits, rinses = _load_of(source.recipe if source.recipe.pickups else strokes[0].recipe, pace)
    again = [stroke for stroke in strokes[1:] if stroke.recipe.pickups]
    within = [stroke for stroke in strokes for _ in stroke.stroke.reload_mm]
    more = [_load_of(stroke.recipe if stroke.recipe.pickups else source.recipe, pace) for stroke in (*again, *within)]
    return PaintJob(
        id="",
        name="",
        kind=StepKind.STROKES,
        part="",
        chart="",
        strokes=tuple(stroke.id for stroke in strokes),
        load=source.id,
        brush=source.brush,
        load_s=load_s,
        loads=visits + sum(one[1] for one in more),
        rinses=rinses + sum(one[2] for one in more),
    )


def _load_of(recipe: Recipe, pace: Pace) -> tuple[float, int, int]:
    """Return how long a load takes, s, its visits, and its rinses."""
    rinses = sum(pickup.before.rinses for pickup in recipe.pickups)
    visits = len(recipe.pickups)
    seconds = visits * pace.seconds(StepKind.LOAD, pace.pick_up_s) + rinses * pace.seconds(StepKind.RINSE, pace.rinse_s)
    return round(seconds, 1), visits, rinses


def _timed(plan: Plan, laid: Plan, job: PaintJob, pace: Pace) -> PaintJob:
    """Return a job with its tool's name, the start of each stroke, when it is loaded anew, how long it all takes."""
    now, offsets = 0.0, []
    reloads: list[tuple[float, float]] = []
    for number, name in enumerate(job.strokes):
        stroke = laid.stroke(name)
        load_s = _load_of(stroke.recipe if stroke.recipe.pickups else plan.stroke(job.load).recipe, pace)[0]
        if number and stroke.recipe.pickups:
            reloads.append((round(now, 1), round(now + load_s, 1)))
            now += load_s
        offsets.append(round(now, 1))
        pull_s, way = _pull_s(stroke, job.kind, pace), length_mm(stroke.stroke.path)
        for place, at_mm in enumerate(stroke.stroke.reload_mm):
            begins = now + pull_s * min(at_mm / way, 1.0) + place * load_s
            reloads.append((round(begins, 1), round(begins + load_s, 1)))
        now += pull_s + len(stroke.stroke.reload_mm) * load_s
    return replace(
        job,
        tool=plan.brush(job.brush).name,
        offsets_s=tuple(offsets),
        reloads_s=tuple(reloads),
        pull_s=max(round(now, 1), 0.1),
    )


def _pull_s(stroke: PlanStroke, kind: StepKind, pace: Pace) -> float:
    if kind is StepKind.DOTS:
        return pace.seconds(kind, pace.dot_s)
    speed = pace.line_mm_s if kind is StepKind.LINE else pace.stroke_mm_s
    return pace.seconds(kind, pace.touch_s + length_mm(stroke.stroke.path) / speed)


def _kind(plan: Plan, load: str, strokes: Sequence[PlanStroke], *, dots: bool) -> StepKind:
    tiny = all(length_mm(stroke.stroke.path) < _DOT_MM for stroke in strokes)
    fine = plan.brush(plan.stroke(load).brush).kind in _LINERS
    if dots or (fine and tiny):
        return StepKind.DOTS
    return StepKind.LINE if fine else StepKind.STROKES


def _overlay_job(plan: Plan, overlay: Mark, pace: Pace) -> PaintJob:
    kind, seconds = _overlay_time(overlay, pace)
    lines = isinstance(overlay, Lines)
    area = math.pi / 4 * overlay.width_mm * overlay.height_mm / 100
    chart = chart_of(plan, overlay.chart)
    side = MIDDLE
    if chart.midline_mm is not None and abs(overlay.x_mm - chart.midline_mm) >= SIDE_MM:
        side = f"wearer's {'left' if overlay.x_mm > chart.midline_mm else 'right'}"
    return PaintJob(
        id=f"{overlay.chart}/{overlay.name}",
        name=overlay.name,
        kind=kind,
        part=overlay.name,
        chart=overlay.chart,
        pull_s=max(pace.seconds(kind, seconds), 0.1),
        brush=f"liner {overlay.srgb}" if lines else f"{kind.value} {overlay.name}",
        tool=f"liner ({overlay.name})" if lines else f"{kind.value} ({overlay.name})",
        load_s=pace.seconds(StepKind.LOAD, pace.pick_up_s) if lines else 0.0,
        loads=1 if lines else 0,
        region=chart.name if chart.midline_mm is None else f"{chart.name}, {side}",
        near=_near_overlay(chart, overlay),
        priority=plan.ordering.priority(overlay.name, Priority.NICE),
        worth=dict(plan.ordering.worth).get(overlay.name, 1.0),
        area_cm2=round(area, 2),
    )


def _overlay_time(overlay: Mark, pace: Pace) -> tuple[StepKind, float]:
    """Return what kind of step glitter, a stencil or line work is, and how long it takes by the defaults, s."""
    area = math.pi / 4 * overlay.width_mm * overlay.height_mm / 100
    if isinstance(overlay, Glitter):
        return StepKind.GLITTER, pace.glitter_s + pace.glitter_s_per_cm2 * area
    if isinstance(overlay, Stencil):
        return StepKind.STENCIL, pace.stencil_s + pace.stencil_s_per_cm2 * area
    dots = sum(is_dot(path) for path in overlay.outlines)
    ways = [length_mm(path) for path in overlay.outlines if not is_dot(path)]
    seconds = dots * pace.dot_s + sum(pace.touch_s + way / pace.line_mm_s for way in ways)
    return (StepKind.LINE if ways else StepKind.DOTS), seconds


def _near_overlay(chart: Chart, overlay: Mark) -> tuple[str, ...]:
    angle = np.linspace(0, 2 * math.pi, 33)
    ring = np.stack(
        [
            overlay.x_mm + overlay.width_mm / 2 * np.cos(angle),
            overlay.y_mm + overlay.height_mm / 2 * np.sin(angle),
        ],
        axis=1,
    )
    return tuple(
        dict.fromkeys(
            zone.kind
            for zone in chart.zones
            if float(np.linalg.norm(ring[:, None] - zone.polygon[None], axis=2).min()) < NEAR_MM
        )
    )
