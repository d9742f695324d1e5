"""Why a job stands where it does: one sentence for each that fills a wait, saves a load, or catches a window."""

from __future__ import annotations

import math
from dataclasses import dataclass

from pennello.design.ordering import Ordering
from pennello.order.arrange import Arranged, own_order
from pennello.order.job import Lag


@dataclass(frozen=True, slots=True)
class Reason:
    """A job and why it stands there."""

    job: str
    words: str


def reasons(arranged: Arranged) -> tuple[Reason, ...]:
    """Return a sentence for each job that stands elsewhere than in the plan's own order, or in a window."""
    own = own_order(arranged.problem, arranged.jobs, Ordering())
    own_before = {own[place]: own[place - 1] if place else -1 for place in range(len(own))}
    order, jobs = arranged.timing.order, arranged.jobs
    ends = {jobs[number].id: arranged.timing.starts[number] / 10 + jobs[number].pull_s for number in order}
    found = []
    for place, number in enumerate(order):
        job = jobs[number]
        start = arranged.timing.starts[number] / 10
        before = jobs[order[place - 1]] if place else None
        window = next((lag for lag in arranged.lags if lag.after == job.id and not math.isinf(lag.most_s)), None)
        if window is not None and window.before in ends:
            left = ends[window.before] + window.most_s - start
            found.append(Reason(job.id, f"{job.name} now: {window.words}; {max(left, 0):.0f} s are left"))
        elif own_before[number] == (order[place - 1] if place else -1):
            continue
        elif before is not None and before.load == job.load and job.load:
            found.append(Reason(job.id, f"{job.name} now: the same load as {before.name}, no rinse"))
        elif before is not None and before.twin == job.id:
            found.append(Reason(job.id, f"{job.name} now: the same on the other side"))
        else:
            filled = _fills(arranged, number, start, ends)
            if filled is not None:
                lag, left = filled
                wet = arranged.job(lag.before).name
                found.append(Reason(job.id, f"{job.name} now: {wet} is wet for {left:.0f} s more"))
            elif before is not None and before.brush == job.brush:
                found.append(Reason(job.id, f"{job.name} now: the same brush"))
            elif before is not None and before.region == job.region:
                found.append(Reason(job.id, f"{job.name} now: the hand is there already"))
    return tuple(found)


def _fills(arranged: Arranged, number: int, start: float, ends: dict[str, float]) -> tuple[Lag, float] | None:
    """Return the wait that a job fills: something later waits for paint that is wet while this one is laid."""
    order = arranged.timing.order
    later = {arranged.jobs[one].id for one in order[order.index(number) + 1 :]}
    earlier = {arranged.jobs[one].id for one in order[: order.index(number)]}
    open_ = [
        (lag, ends[lag.before] + lag.least_s - start)
        for lag in arranged.lags
        if lag.before in earlier and lag.after in later and lag.least_s > 0 and ends[lag.before] + lag.least_s > start
    ]
    return min(open_, key=lambda one: one[1]) if open_ else None
