"""What an order lays on a chart: its strokes as they come, each when its turn is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from pennello.design.marks import Mark
from pennello.design.plan import Plan, PlanStroke
from pennello.order.arrange import Arranged, Loaded
from pennello.order.jobs import mark_of


@dataclass(frozen=True, slots=True, eq=False)
class LaidOut:
    """A plan whose strokes come in the order of painting, with the start of each, s, and the job it is of.

    Attributes
    ----------
    marks
        Glitter, stencils and gems with the start of each, s.
    elsewhere
        Strokes of other charts whose leftovers are gone on with here, in the order of painting.
    """

    plan: Plan
    starts_s: tuple[float, ...]
    jobs: tuple[str, ...]
    marks: tuple[tuple[Mark, float], ...] = ()
    elsewhere: tuple[PlanStroke, ...] = ()


def laid_out(arranged: Arranged | Loaded, chart: str) -> LaidOut:
    """Return what comes onto a chart ("skin" for a plan without motifs) in the order of painting, as it is loaded."""
    plan = arranged.work.plan
    painted = dict(arranged.work.painted).get(chart, replace(plan, strokes=(), motifs=()))
    ways = {stroke.id: stroke for stroke in painted.strokes}
    strokes, starts, owners = [], [], []
    marks: list[tuple[Mark, float]] = []
    for number in arranged.timing.order:
        job = arranged.jobs[number]
        begins = arranged.timing.starts[number] / 10
        if job.chart != chart:
            continue
        mark = mark_of(plan, job)
        if mark is not None:
            marks.append((mark, begins))
        for name, offset in zip(job.strokes, job.offsets_s, strict=True):
            strokes.append(ways[name])
            starts.append(begins + offset)
            owners.append(job.id)
    there = _elsewhere(arranged, strokes)
    return LaidOut(replace(painted, strokes=tuple(strokes)), tuple(starts), tuple(owners), tuple(marks), there)


def _elsewhere(arranged: Arranged | Loaded, strokes: Sequence[PlanStroke]) -> tuple[PlanStroke, ...]:
    """Return the strokes of other charts that these go on with, and those that they went on with."""
    here = {stroke.id for stroke in strokes}
    others = {one.id: one for _, plan in arranged.work.painted for one in plan.strokes if one.id not in here}
    needed: set[str] = set()
    for stroke in strokes:
        name = stroke.recipe.after
        while name in others and name not in needed:
            needed.add(name)
            name = others[name].recipe.after
    order = [name for at in arranged.timing.order for name in arranged.jobs[at].strokes]
    return tuple(others[name] for name in order if name in needed)
