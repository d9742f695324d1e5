"""Why a job stands where it does: one sentence for each that fills a wait, saves a load, or catches a window."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pennello.design.ordering import Ordering
from pennello.order.arrange import Arranged, own_order
from pennello.order.job import Lag, PaintJob
from pennello.phrases import phrase


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
        last = order[place - 1] if place else -1
        words = _in_window(arranged, number, ends)
        if not words and own_before[number] != last and not _goes_on_so(jobs, order, place):
            words = _moved(arranged, number, jobs[last] if place else None, ends)
        if words:
            found.append(Reason(job.id, phrase("{job} now: {words}", job=job.name, words=words)))
    return tuple(found)


def _goes_on_so(jobs: Sequence[PaintJob], order: Sequence[int], place: int) -> bool:
    """Return whether a job goes on with one load as the two before it do: that is told once."""
    loads = [jobs[number].load for number in order[max(place - 2, 0) : place + 1]]
    return len(loads) == 3 and loads[0] == loads[1] == loads[2] != ""


def _in_window(arranged: Arranged, number: int, ends: Mapping[str, float]) -> str:
    """Return in words within what a job has to come, or nothing where it may come at any time."""
    job, start = arranged.jobs[number], arranged.timing.starts[number] / 10
    window = next((lag for lag in arranged.lags if lag.after == job.id and not math.isinf(lag.most_s)), None)
    if window is None or window.before not in ends:
        return ""
    left = ends[window.before] + window.most_s - start
    return phrase("{window}; {left:.0f} s are left", window=window.words, left=max(left, 0))


def _moved(arranged: Arranged, number: int, before: PaintJob | None, ends: dict[str, float]) -> str:
    """Return in words what a job gains by coming after another one than in the plan's order, or nothing."""
    job = arranged.jobs[number]
    if before is not None and before.load == job.load and job.load:
        return phrase("the same load as {before}, no rinse", before=before.name)
    if before is not None and before.twin == job.id:
        return phrase("the same on the other side")
    filled = _fills(arranged, number, arranged.timing.starts[number] / 10, ends)
    if filled is not None:
        lag, left = filled
        wet = arranged.job(lag.before).name
        return (
            phrase("{wet} is wet for {left:.0f} s more", wet=wet, left=left)
            if left >= 1
            else phrase("{wet} is still wet", wet=wet)
        )
    if before is not None and before.brush == job.brush:
        return phrase("the same brush")
    return phrase("the hand is there already") if before is not None and before.region == job.region else ""


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
