"""What an order lays on a chart: its strokes as they come, each when its turn is."""

from __future__ import annotations

from dataclasses import dataclass, replace

from pennello.design.plan import Plan
from pennello.order.arrange import Arranged


@dataclass(frozen=True, slots=True, eq=False)
class LaidOut:
    """A plan whose strokes come in the order of painting, with the start of each, s, and the job it is of."""

    plan: Plan
    starts_s: tuple[float, ...]
    jobs: tuple[str, ...]


def laid_out(arranged: Arranged, chart: str) -> LaidOut:
    """Return the strokes of a chart ("skin" for a plan without motifs) in the order of painting.

    A stroke that would go on with a leftover that is no longer in the brush is loaded anew.
    """
    work = arranged.design.work
    painted = dict(work.painted)[chart]
    fresh = dict(work.fresh)
    strokes, starts, owners = [], [], []
    last = ""
    for number in arranged.timing.order:
        job = arranged.jobs[number]
        begins = arranged.timing.starts[number] / 10
        for name, offset in zip(job.strokes, job.offsets_s, strict=True):
            if job.chart == chart:
                stroke = painted.stroke(name)
                if stroke.recipe.after and stroke.recipe.after != last and name in fresh:
                    stroke = replace(stroke, recipe=fresh[name])
                strokes.append(stroke)
                starts.append(begins + offset)
                owners.append(job.id)
            last = name
    return LaidOut(replace(painted, strokes=tuple(strokes)), tuple(starts), tuple(owners))
