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
    """Return the strokes of a chart ("skin" for a plan without motifs) in the order of painting, as they are loaded."""
    painted = dict(arranged.work.painted)[chart]
    ways = {stroke.id: stroke for stroke in painted.strokes}
    strokes, starts, owners = [], [], []
    for number in arranged.timing.order:
        job = arranged.jobs[number]
        begins = arranged.timing.starts[number] / 10
        if job.chart == chart:
            for name, offset in zip(job.strokes, job.offsets_s, strict=True):
                strokes.append(ways[name])
                starts.append(begins + offset)
                owners.append(job.id)
    return LaidOut(replace(painted, strokes=tuple(strokes)), tuple(starts), tuple(owners))
