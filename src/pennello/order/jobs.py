"""From a plan to the jobs of the hand: strokes that go together, glitter, stencils, gems; how long each takes."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from pennello.chart.catalogue import chart
from pennello.chart.chart import Chart
from pennello.chart.measures import Measures
from pennello.design.clock import load_s, pull_s, step_kind
from pennello.design.line_work import is_line_work
from pennello.design.marks import Glitter, Mark, Stencil
from pennello.design.on_chart import chart_of, charts_used, painted_plan, pieces_on
from pennello.design.ordering import Priority, RuleKind, Sides
from pennello.design.pace import Pace, StepKind
from pennello.design.part import Habit
from pennello.design.parts import line_of, names_of, pieces_in, unit_of
from pennello.design.placed import LaidPiece, PlacedMotif
from pennello.design.plan import Plan, PlanStroke, Reload
from pennello.design.reach import edges_along
from pennello.design.visits import ToLay, filled, share_of, whole_load
from pennello.kept import kept_small, remembered
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.paint import Near
from pennello.lay.stroke import Stroke
from pennello.load.recipe import Recipe
from pennello.motif.catalogue import motif
from pennello.order.job import MIDDLE, PaintJob
from pennello.path.cubic import length_mm
from pennello.phrases import phrase

SKIN = "skin"
"""The patch that strokes of a plan without motifs lie on."""

NEAR_MM = 12.0
"""So near to an eye, the lips or a nostril the painter says something first (a default)."""

SIDE_MM = 8.0
"""So near to the midline a job is in the middle (a default)."""

SPONGES = (
    ApplicatorKind.BLOCK_SPONGE,
    ApplicatorKind.PETAL_SPONGE,
    ApplicatorKind.HALF_CIRCLE_SPONGE,
    ApplicatorKind.DAUBER,
)
"""What bases are laid with: what lies over them need not wait until they are dry."""


@dataclass(frozen=True, slots=True)
class Work:
    """Jobs of a plan in the plan's own order, and the strokes that they lay.

    Attributes
    ----------
    painted
        By chart (or "skin") a plan whose strokes are those that are laid.
    """

    plan: Plan
    jobs: tuple[PaintJob, ...]
    painted: tuple[tuple[str, Plan], ...]

    def job(self, name: str) -> PaintJob:
        """Return a job by id."""
        return next(job for job in self.jobs if job.id == name)


@remembered(32)
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
    painted = tuple((key, painted_plan(plan, key)) for key in keys)
    jobs = [job for key, laid in painted for job in _chart_jobs(plan, laid, key, tempo)]
    jobs += [_overlay_job(plan, overlay, tempo) for key in keys for overlay in plan.overlays if overlay.chart == key]
    return Work(plan, tuple(jobs), painted)


Known = dict[tuple[str, tuple[bool, ...]], PaintJob]
"""Jobs as they are loaded, by their id and which of their strokes are loaded anew."""


def loaded_in(work: Work, order: Sequence[str], pace: Pace, known: Known | None = None) -> Work:
    """Return the work as it is loaded where its jobs come in this order: who goes on, and who is loaded anew.

    Parameters
    ----------
    known
        Jobs of the same work from other orders; more are added.
    """
    seen = {} if known is None else known
    jobs = {job.id: job for job in work.jobs}
    ways = {stroke.id: stroke for _, one in work.painted for stroke in one.strokes}
    asked = [
        ToLay(name, load, ways[name].stroke, share)
        for job in (jobs[one] for one in order)
        for name, load, share in zip(
            job.strokes, job.stroke_loads or (job.load,) * len(job.strokes), job.shares, strict=True
        )
    ]
    laid = ways | _loaded_otherwise(ways, zip(asked, filled(work.plan, asked), strict=True))
    ordered = set(order)
    return Work(
        work.plan,
        tuple(
            _filled(work.plan, laid, job, pace, seen) if job.id in ordered and job.strokes else job for job in work.jobs
        ),
        tuple(
            (key, replace(one, strokes=tuple(laid[stroke.id] for stroke in one.strokes))) for key, one in work.painted
        ),
    )


def _loaded_otherwise(ways: Mapping[str, PlanStroke], found: Iterable[tuple[ToLay, Recipe]]) -> dict[str, PlanStroke]:
    """Return the strokes that are loaded otherwise than they were; most are not."""
    return {one.id: replace(ways[one.id], recipe=new) for one, new in found if new != ways[one.id].recipe}


def _filled(plan: Plan, strokes: Mapping[str, PlanStroke], job: PaintJob, pace: Pace, known: Known) -> PaintJob:
    anew = tuple(bool(strokes[name].recipe.pickups) for name in job.strokes)
    if (job.id, anew) not in known:
        known[job.id, anew] = _timed(plan, strokes, job, pace, goes_on=not anew[0], filled=True)
    return known[job.id, anew]


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
    placed_by_id = {one.id: one for one in plan.motifs}
    priorities: dict[str, Priority] = {}
    jobs = []
    for group, numbers in groups.items():
        placed = placed_by_id[group[0]]
        strokes = [laid.strokes[number] for number in numbers]
        mine = [pieces[number] for number in numbers]
        has_twin = (group[0], group[1], not group[2], group[3]) in groups
        job = replace(
            _stroke_job(plan, strokes, mine[0].load, pace),
            id=job_id(*group),
            name=_name(placed, group, len(numbers), chart, has_twin=has_twin),
            chart=key,
            kind=_kind(plan, mine[0].load, strokes, dots=group[3] == "dot"),
            row=group[1],
            region=_region(chart, mine),
            twin=job_id(group[0], group[1], not group[2], group[3]) if has_twin else "",
            near=_near(plan, chart, mine),
        )
        jobs.append(_in_part(plan, placed, job, priorities, twin=group[2]))
    by_id = {stroke.id: stroke for stroke in laid.strokes}
    return [_timed(plan, by_id, job, pace) for job in jobs]


def _usual_of(plan: Plan, part: str, placed: PlacedMotif) -> Priority:
    """Return how much a part matters where the painter says nothing: as much as the piece that matters most."""
    members = pieces_in(plan, part) or (placed,)
    must = any(usual_priority(plan, one) is Priority.MUST for one in members)
    return Priority.MUST if must else Priority.NICE


def _in_part(
    plan: Plan, placed: PlacedMotif, job: PaintJob, priorities: dict[str, Priority], *, twin: bool
) -> PaintJob:
    """Return a job with what it belongs to: its part and unit, what rules call it, how much it matters.

    Parameters
    ----------
    priorities
        Usual priorities of parts that are known already; more are added.
    """
    part = unit_of(plan, placed)
    kind = motif(placed.motif) if placed.motif else None
    names = names_of(plan, placed) | ({kind.group} if kind is not None else set())
    go = _in_one_go_with(plan, placed, part, names)
    usual = priorities.get(part) or _usual_of(plan, part, placed)
    priorities[part] = usual
    regions = plan.ordering.sides is Sides.REGIONS
    line = line_of(plan, placed.part)
    of = f"{line[0].name}: " if line and line[0].name != placed.name else ""
    return replace(
        job,
        name=of + job.name,
        piece=placed.id,
        sign=placed.sign.words if placed.sign is not None else "",
        part=part,
        unit=f"{go}{'/twin' if twin else ''}" if go else job.id,
        names=names,
        priority=plan.ordering.priority(part, usual),
        worth=dict(plan.ordering.worth).get(part, 1.0),
        place=job.region if regions else chart_of(plan, job.chart).name,
    )


def _in_one_go_with(plan: Plan, placed: PlacedMotif, part: str, names: frozenset[str]) -> str:
    """Return what a piece is painted in one go with: its part, itself, or "" where its rows may wait."""
    if any(rule.earlier == rule.later in names and rule.kind is RuleKind.DRY for rule in plan.ordering.rules):
        return ""
    if any(one.id == part and one.habit is Habit.ONE_GO for one in plan.parts):
        return part
    return placed.id if placed.motif and motif(placed.motif).in_one_go else ""


def part_names(plan: Plan) -> dict[str, str]:
    """Return what the parts of a design are called, by id; overlays go by their names."""
    strokes = {one.id: one.name for one in plan.strokes}
    return strokes | {one.id: one.name for one in plan.motifs} | {one.id: one.name for one in plan.parts}


def job_id(motif_id: str, row: int, twin: bool, part: str) -> str:  # noqa: FBT001 - a part of the key
    """Return the id of a job: its motif, part and row, and whether it is of the mirror image."""
    return f"{motif_id}/{part}{row + 1}{'/twin' if twin else ''}"


def usual_priority(plan: Plan, placed: PlacedMotif) -> Priority:
    """Return what may be left out first where the painter says nothing: line work and leaves (a default)."""
    group = motif(placed.motif).group if placed.motif else "lines" if is_line_work(plan, placed) else ""
    return Priority.NICE if group in ("lines", "leaves") else Priority.MUST


def _name(placed: PlacedMotif, group: tuple[str, int, bool, str], count: int, chart: Chart, *, has_twin: bool) -> str:
    told = placed.name
    if placed.motif:
        part = next(part for part in motif(placed.motif).parts if part.key == group[3])
        told = f"{told}: {count} × {part.name}" if count > 1 else f"{told}: {part.name}"
        if group[1]:
            told = phrase("{piece}, row {row}", piece=told, row=group[1] + 1)
    if not has_twin or chart.midline_mm is None:
        return told
    if (placed.place.x_mm > chart.midline_mm) != group[2]:
        return phrase("{piece}, wearer's left", piece=told)
    return phrase("{piece}, wearer's right", piece=told)


def _region(chart: Chart, pieces: Sequence[LaidPiece]) -> str:
    if chart.midline_mm is None:
        return chart.name
    points = np.array([point for piece in pieces for point in piece.stroke.path.points_mm])
    off = float(points[:, 0].mean()) - chart.midline_mm
    if abs(off) < SIDE_MM:
        return f"{chart.name}, {MIDDLE}"
    return (
        phrase("{chart}, wearer's left", chart=chart.name)
        if off > 0
        else phrase("{chart}, wearer's right", chart=chart.name)
    )


def _near(plan: Plan, chart: Chart, pieces: Sequence[LaidPiece]) -> tuple[str, ...]:
    """Return the kinds of zones within 12 mm of the strokes."""
    if not chart.zones:
        return ()
    source = plan.stroke(pieces[0].load)
    strokes = tuple(piece.stroke for piece in pieces)
    return _near_zones(strokes, plan.brush(source.brush), plan.axis(source.id), chart.key, plan.measures)


@kept_small
def _near_zones(
    strokes: tuple[Stroke, ...], brush: Applicator, axis: GradientAxis, chart_key: str, measures: Measures
) -> tuple[str, ...]:
    points = np.concatenate([edges_along(stroke, brush, axis).reshape(-1, 2) for stroke in strokes])
    found = []
    for zone in chart(chart_key, measures).zones:
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
            _stroke_job(plan, strokes, first.id, pace),
            id=first.id,
            name=first.name
            if len(strokes) == 1
            else phrase("{first} and {count} more of its load", first=first.name, count=len(strokes) - 1),
            piece=first.id,
            part=first.id,
            unit=first.id,
            names=frozenset({first.id}),
            chart=SKIN,
            kind=_kind(plan, first.id, strokes, dots=False),
            stroke_loads=tuple(stroke.id for stroke in strokes),
            shares=tuple(share_of(plan, stroke, stroke.stroke) for stroke in strokes),
            region=SKIN,
            place=SKIN,
            near=() if first.near is Near.SKIN else (first.near.value,),
            priority=plan.ordering.priority(first.id),
            worth=dict(plan.ordering.worth).get(first.id, 1.0),
        )
        jobs.append(_timed(plan, {stroke.id: stroke for stroke in strokes}, job, pace))
    jobs += [_overlay_job(plan, overlay, pace) for key in keys for overlay in plan.overlays if overlay.chart == key]
    return Work(plan, tuple(jobs), ((SKIN, plan),) if plan.strokes else ())


# --- what both share ---


def _stroke_job(plan: Plan, strokes: Sequence[PlanStroke], load: str, pace: Pace) -> PaintJob:
    """Return a job with what it takes to load; its times come with its kind."""
    source, whole = plan.stroke(load), whole_load(plan, load)
    brush = plan.brush(source.brush)
    shares = tuple(share_of(plan, source, stroke.stroke) for stroke in strokes)
    return PaintJob(
        id="",
        name="",
        kind=StepKind.STROKES,
        part="",
        chart="",
        strokes=tuple(stroke.id for stroke in strokes),
        load=load,
        brush=source.brush,
        load_s=load_s(whole.recipe, brush, pace),
        again_s=load_s(whole.recipe, brush, pace, again=True),
        sources=frozenset((*whole.recipe.cakes, *whole.recipe.pan_paints)),
        follows=source.recipe.after,
        shares=shares,
        may_go_on=_may_go_on(source, sum(shares), len(strokes)),
        sponge=brush.kind in SPONGES,
        face=source.recipe.lays if brush.kind.two_faced else None,
    )


def _may_go_on(load: PlanStroke, share: float, count: int) -> bool:
    """Return whether strokes may go on with what an earlier one of their load left, as far as their habit goes."""
    match load.reload:
        case Reload.EACH:
            return False
        case Reload.COUNT:
            return count < load.reload_after
        case Reload.PALE:
            return share < 1
    return True


def _timed(
    plan: Plan,
    strokes: Mapping[str, PlanStroke],
    job: PaintJob,
    pace: Pace,
    *,
    goes_on: bool = False,
    filled: bool = False,
) -> PaintJob:
    """Return a job with its tool's name, the start of each stroke, when it is loaded anew, how long it all takes."""
    now, offsets, rinses = 0.0, [], 0
    loads = 0 if filled and goes_on else 1
    reloads: list[tuple[float, float]] = []
    anew: list[int] = []
    pulls: list[float] = []
    brush, own = plan.brush(job.brush), plan.stroke(job.load).recipe
    for number, name in enumerate(job.strokes):
        stroke = strokes[name]
        recipe = stroke.recipe if stroke.recipe.pickups else own
        anew_s = load_s(recipe, brush, pace, again=True)
        if number and stroke.recipe.pickups:
            reloads.append((round(now, 1), round(now + anew_s, 1)))
            anew.append(number + 1)
            loads += 1
            now += anew_s
        offsets.append(round(now, 1))
        kind = step_kind(brush, stroke.stroke) if job.kind is StepKind.LINE else job.kind  # dots among lines
        lasts_s = job.pulls_s[number] if job.pulls_s else pull_s(stroke, brush, kind, pace)
        pulls.append(lasts_s)
        way = length_mm(stroke.stroke.path) if stroke.stroke.reload_mm else 1.0
        for place, at_mm in enumerate(stroke.stroke.reload_mm):
            begins = now + lasts_s * min(at_mm / way, 1.0) + place * anew_s
            reloads.append((round(begins, 1), round(begins + anew_s, 1)))
        loads += len(stroke.stroke.reload_mm)
        now += lasts_s + len(stroke.stroke.reload_mm) * anew_s
        rinses += sum(pickup.before.rinses for pickup in stroke.recipe.pickups[1:])
    visits = max(len(whole_load(plan, job.load).recipe.pickups), 1)
    return replace(
        job,
        goes_on=goes_on,
        filled=filled,
        tool=brush.name,
        pulls_s=tuple(pulls),
        offsets_s=tuple(offsets),
        reloads_s=tuple(reloads),
        anew=tuple(anew),
        pull_s=max(round(now, 1), 0.1),
        loads=loads * visits,
        rinses=rinses,
    )


def _kind(plan: Plan, load: str, strokes: Sequence[PlanStroke], *, dots: bool) -> StepKind:
    brush = plan.brush(plan.stroke(load).brush)
    kinds = {step_kind(brush, stroke.stroke) for stroke in strokes}
    if dots or kinds == {StepKind.DOTS}:
        return StepKind.DOTS
    return StepKind.LINE if StepKind.LINE in kinds else StepKind.STROKES


def mark_of(plan: Plan, job: PaintJob) -> Mark | None:
    """Return the glitter, stencil or gem that a job brings, or None for strokes."""
    if job.strokes:
        return None
    return next(one for one in plan.overlays if (one.name, one.chart) == (job.part, job.chart))


def _overlay_job(plan: Plan, overlay: Mark, pace: Pace) -> PaintJob:
    kind, seconds = _overlay_time(overlay, pace)
    area = math.pi / 4 * overlay.width_mm * overlay.height_mm / 100
    chart = chart_of(plan, overlay.chart)
    side = MIDDLE
    if chart.midline_mm is not None and abs(overlay.x_mm - chart.midline_mm) >= SIDE_MM:
        side = f"wearer's {'left' if overlay.x_mm > chart.midline_mm else 'right'}"
    return PaintJob(
        id=f"{overlay.chart}/{overlay.name}",
        name=overlay.name,
        kind=kind,
        piece=overlay.name,
        part=overlay.name,
        unit=f"{overlay.chart}/{overlay.name}",
        names=frozenset({overlay.name, kind.value}),
        chart=overlay.chart,
        place=chart.name,
        pull_s=max(pace.seconds(kind, seconds), 0.1),
        brush=f"{kind.value} {overlay.name}",
        tool=f"{kind.value} ({overlay.name})",
        region=chart.name if chart.midline_mm is None else f"{chart.name}, {side}",
        near=_near_overlay(chart, overlay),
        priority=plan.ordering.priority(overlay.name, Priority.NICE),
        worth=dict(plan.ordering.worth).get(overlay.name, 1.0),
        area_cm2=round(area, 2),
    )


def _overlay_time(overlay: Mark, pace: Pace) -> tuple[StepKind, float]:
    """Return what kind of step glitter, a stencil or a gem is, and how long it takes by the defaults, s."""
    area = math.pi / 4 * overlay.width_mm * overlay.height_mm / 100
    if isinstance(overlay, Glitter):
        return StepKind.GLITTER, pace.glitter_s + pace.glitter_s_per_cm2 * area
    if isinstance(overlay, Stencil):
        return StepKind.STENCIL, pace.stencil_s + pace.stencil_s_per_cm2 * area
    return StepKind.GEM, pace.gem_s


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
