"""What is painted in one go as one unit: a search orders units; the jobs in each stay as the plan has them."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from pennello.design.ordering import Sides
from pennello.design.pace import Pace
from pennello.order.job import Lag, PaintJob
from pennello.order.problem import NEVER, Problem, disliked, make_problem, setups, tenths


@dataclass(frozen=True, slots=True)
class Units:
    """Jobs by unit, each in its own order; the problem of ordering the units."""

    jobs: tuple[PaintJob, ...]
    members: tuple[tuple[int, ...], ...]
    problem: Problem

    def jobs_in(self, order: Sequence[int]) -> tuple[int, ...]:
        """Return numbers of jobs in their order for numbers of units in theirs."""
        return tuple(job for unit in order for job in self.members[unit])

    def units_in(self, jobs: Sequence[int]) -> tuple[int, ...]:
        """Return numbers of units in the order in which their first jobs come."""
        of = {job: unit for unit, members in enumerate(self.members) for job in members}
        return tuple(dict.fromkeys(of[job] for job in jobs))


def units_of(
    jobs: Sequence[PaintJob], lags: Iterable[Lag], pace: Pace, cues: Mapping[str, str], sides: Sides, tail_s: float
) -> Units:
    """Return the units of some jobs; lags about others are left out."""
    groups: dict[str, list[int]] = {}
    for number, job in enumerate(jobs):
        groups.setdefault(job.unit, []).append(number)
    members = tuple(tuple(group) for group in groups.values())
    lasts: list[int] = []
    spans: dict[str, _Span] = {}
    for unit, group in enumerate(members):
        lasts.append(_within([jobs[number] for number in group], unit, spans, pace, cues))
    told = [_between(spans[lag.before], spans[lag.after], lag, lasts) for lag in lags if _apart(lag, spans)]
    firsts = [jobs[group[0]] for group in members]
    befores: list[PaintJob | None] = [*(jobs[group[-1]] for group in members), None]
    setup = _table(befores, firsts, lambda one, job: _setup(one, job, pace, cues), _alike(cues))
    dislike = _table(befores, firsts, lambda one, job: disliked(one, job, sides), _alike_in_place)
    names = [job.unit for job in firsts]
    return Units(tuple(jobs), members, make_problem(names, lasts, setup, told, dislike, tenths(tail_s)))


def _table(
    befores: Sequence[PaintJob | None],
    firsts: Sequence[PaintJob],
    cost: Callable[[PaintJob | None, PaintJob], int],
    alike: Callable[[PaintJob], object],
) -> list[list[int]]:
    """Return a cost from each unit to each other one, and from the very start (the last row).

    Parameters
    ----------
    alike
        All of a job that counts for its costs: many jobs are alike in it, and a cost is worked out once.
    """
    kinds = [alike(job) for job in firsts]
    rows: dict[object, list[int]] = {}
    found = []
    for number, one in enumerate(befores):
        kind = None if one is None else alike(one)
        if kind not in rows:
            known: dict[object, int] = {}
            for after, job in zip(kinds, firsts, strict=True):
                if after not in known:
                    known[after] = cost(one, job)
            rows[kind] = [known[after] for after in kinds]
        row = list(rows[kind])
        if one is not None:
            row[number] = 0
        found.append(row)
    return found


def _alike(cues: Mapping[str, str]) -> Callable[[PaintJob], object]:
    """Return what tells all of a job that counts for what is done before and after it."""

    def kind(job: PaintJob) -> object:
        taken = (job.load_s, job.again_s, job.may_go_on, job.follows, job.filled, job.goes_on)
        return (job.place, job.brush, job.load, job.sources, job.face, job.chart, cues.get(job.id), taken)

    return kind


def _alike_in_place(job: PaintJob) -> object:
    """Return all of a job that counts for a switch that the painter would rather not make."""
    return (job.region, job.twin, job.id) if job.twin else (job.region, "", "")


class _Span(NamedTuple):
    """Where a job lies: in which unit, from when to when after its start, tenths of a second."""

    unit: int
    start: int
    end: int


def _within(group: Sequence[PaintJob], unit: int, spans: dict[str, _Span], pace: Pace, cues: Mapping[str, str]) -> int:
    """Note when each job of a unit begins and ends in it; return how long it lasts, tenths of a second."""
    now = 0
    for place, job in enumerate(group):
        now += _setup(group[place - 1], job, pace, cues) if place else 0
        spans[job.id] = _Span(unit, now, now + tenths(job.pull_s))
        now = spans[job.id].end
    return now


def _apart(lag: Lag, spans: Mapping[str, _Span]) -> bool:
    return lag.before in spans and lag.after in spans and spans[lag.before].unit != spans[lag.after].unit


def _between(one: _Span, other: _Span, lag: Lag, lasts: Sequence[int]) -> tuple[int, int, int, int]:
    """Return what a lag between two jobs asks of their units: from the end of one to the start of the other."""
    shift = one.end - lasts[one.unit] - other.start
    most = NEVER if math.isinf(lag.most_s) else max(math.floor(lag.most_s * 10) + shift, 0)
    return one.unit, other.unit, max(tenths(lag.least_s) + shift, 0), most


def _setup(before: PaintJob | None, job: PaintJob, pace: Pace, cues: Mapping[str, str]) -> int:
    """Return how long the hand takes between two jobs, tenths of a second."""
    return sum(tenths(part.seconds) for part in setups(before, job, pace, cues))
