"""The order as a problem of one hand: setups between jobs, least and most lags, and when each job then starts.

All times are whole tenths of a second, so that every solver sees the same numbers. With setups that depend on the job
before and lags between jobs this is the single-machine problem 1 | s_ij, min and max lags | Cmax
(Pinedo, Scheduling: Theory, Algorithms, and Systems).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from pennello.design.ordering import Sides
from pennello.design.pace import Pace, StepKind
from pennello.order.job import Lag, PaintJob
from pennello.phrases import phrase

NEVER = 10**9
LATE_COST = 1000
"""What a tenth of a second outside a window counts against a tenth of a second in all."""

SIDES_COST = 30
"""What a switch that the painter would rather not make counts, tenths of a second (a default)."""

START = -1

TURN = "turn"
"""What is done with a sponge whose other face lays."""


@dataclass(frozen=True, slots=True)
class Problem:
    """What a search needs, by number of the job; all times in tenths of a second.

    Attributes
    ----------
    names
        Ids of the jobs.
    lasts
        How long each job takes from its first touch.
    setup
        setup[i][j]: between the end of job i and the first touch of job j; the last row: at the very start.
    dislike
        dislike[i][j]: what the painter would pay not to make that switch.
    before
        For each job the jobs that must come before it with the least and most time from their end to its start.
    most_total
        No answer may take longer in all.
    """

    names: tuple[str, ...]
    lasts: tuple[int, ...]
    setup: tuple[tuple[int, ...], ...]
    dislike: tuple[tuple[int, ...], ...]
    before: tuple[tuple[tuple[int, int, int], ...], ...]
    after: tuple[frozenset[int], ...] = field(default=())
    windows: tuple[tuple[int, int, int], ...] = ()
    tail: int = 0
    most_total: int = NEVER

    @property
    def count(self) -> int:
        """How many jobs there are."""
        return len(self.names)


def make_problem(
    names: Sequence[str],
    lasts: Sequence[int],
    setup: Sequence[Sequence[int]],
    lags: Iterable[tuple[int, int, int, int]] = (),
    dislike: Sequence[Sequence[int]] | None = None,
    tail: int = 0,
) -> Problem:
    """Return a problem; lags are (before, after, least, most) by number, `tail` what comes after the last job."""
    count = len(names)
    before: list[dict[int, tuple[int, int]]] = [{} for _ in range(count)]
    for one, other, least, most in lags:
        old = before[other].get(one, (0, NEVER))
        before[other][one] = (max(old[0], least), min(old[1], most))
    flat = tuple(tuple((one, *span) for one, span in row.items()) for row in before)
    windows = tuple((one, other, most) for other, row in enumerate(flat) for one, _, most in row if most < NEVER)
    unloved = dislike if dislike is not None else [[0] * count] * (count + 1)
    return Problem(
        tuple(names),
        tuple(lasts),
        tuple(tuple(row) for row in setup),
        tuple(tuple(row) for row in unloved),
        flat,
        closure(flat),
        windows,
        tail,
    )


def closure(before: Sequence[Sequence[tuple[int, int, int]]]) -> tuple[frozenset[int], ...]:
    """Return for each job all that must come after it, through others too."""
    after = np.zeros((len(before), len(before)), bool)
    for other, row in enumerate(before):
        for one, _, _ in row:
            after[one, other] = True
    for middle in range(len(before)):
        after[after[:, middle]] |= after[middle]
    return tuple(frozenset(np.flatnonzero(row).tolist()) for row in after)


def bits(number: int) -> Iterator[int]:
    """Yield the places of the bits of a number that are set.

    >>> list(bits(0b1010))
    [1, 3]
    """
    while number:
        lowest = number & -number
        yield lowest.bit_length() - 1
        number ^= lowest


@dataclass(frozen=True, slots=True)
class Timing:
    """When each job starts (first touch), by number, tenths of a second; what it all comes to.

    Attributes
    ----------
    total
        From the first load to the end of the last job and what comes after it.
    late
        By how much windows are missed, in all; 0 for an order that can be.
    cost
        What a search makes small: total, switches that are not liked, and windows that are missed.
    """

    order: tuple[int, ...]
    starts: tuple[int, ...]
    total: int
    late: int
    cost: int

    @property
    def paid(self) -> int:
        """Total and switches that are not liked, without windows that are missed: what a bound can be held against."""
        return self.cost - LATE_COST * self.late


def time_order(problem: Problem, order: Sequence[int]) -> Timing:
    """Return when the jobs of an order start: each as early as can be, pushed later only for the sake of a window."""
    floor = [0] * problem.count
    starts = _earliest(problem, order, floor)
    late = 0
    if problem.windows:
        starts, late = _push(problem, order, starts, floor)
    lasts = problem.lasts
    total = starts[order[-1]] + lasts[order[-1]] + problem.tail if order else problem.tail
    dislike, unloved, last = problem.dislike, 0, START
    for job in order:
        unloved += dislike[last][job]
        last = job
    over = max(0, total - problem.most_total)
    return Timing(tuple(order), tuple(starts), total, late, total + unloved + LATE_COST * (late + over))


def _earliest(problem: Problem, order: Sequence[int], floor: Sequence[int]) -> list[int]:
    setup, lasts, before = problem.setup, problem.lasts, problem.before
    starts = [0] * problem.count
    now, last = 0, START
    for job in order:
        start = now + setup[last][job]
        start = max(start, floor[job])
        for one, least, _ in before[job]:
            ready = starts[one] + lasts[one] + least
            start = max(start, ready)
        starts[job] = start
        now = start + lasts[job]
        last = job
    return starts


def _push(problem: Problem, order: Sequence[int], starts: list[int], floor: list[int]) -> tuple[list[int], int]:
    """Start jobs later so that others come within their windows; return the starts and what is still missed.

    The starts are the least that satisfy all differences, found as by Bellman (1958) and Ford (1956). Each round goes
    through the order once and so settles all that points forward; only windows point back, so where one round more
    than there are windows does not suffice, none does.
    """
    lasts, tried = problem.lasts, starts
    for _ in range(len(problem.windows) + 2):
        moved = False
        for one, other, most in problem.windows:
            need = tried[other] - most - lasts[one]
            if need > tried[one]:
                floor[one] = need
                moved = True
        if not moved:
            return tried, 0
        tried = _earliest(problem, order, floor)
    return starts, missed(problem, starts)


def missed(problem: Problem, starts: Sequence[int]) -> int:
    """Return by how much windows are missed in all."""
    lasts = problem.lasts
    return sum(max(0, starts[other] - starts[one] - lasts[one] - most) for one, other, most in problem.windows)


def lawful(problem: Problem, order: Sequence[int]) -> bool:
    """Return whether an order holds every job once and none before what must come first."""
    if sorted(order) != list(range(problem.count)):
        return False
    at = {job: place for place, job in enumerate(order)}
    return all(at[one] < at[job] for job in order for one, _, _ in problem.before[job])


def span(problem: Problem, order: Sequence[int], job: int) -> tuple[int, int]:
    """Return the first and last place that a job can be moved to in an order, all others staying in theirs."""
    rest = [one for one in order if one != job]
    first = max((place + 1 for place, one in enumerate(rest) if job in problem.after[one]), default=0)
    last = min((place for place, one in enumerate(rest) if one in problem.after[job]), default=len(rest))
    return first, last


# --- from jobs ---


def tenths(seconds: float) -> int:
    """Return seconds as whole tenths, rounded up; for ever stays for ever."""
    return NEVER if math.isinf(seconds) else math.ceil(round(seconds * 10, 6))


@dataclass(frozen=True, slots=True)
class Setup:
    """One thing that the hand does before a job: what kind, how long, s, and in words."""

    kind: StepKind
    seconds: float
    words: str


def setups(before: PaintJob | None, job: PaintJob, pace: Pace, cues: Mapping[str, str]) -> tuple[Setup, ...]:
    """Return what the hand does between two jobs: change or rinse the brush, load, go over, say something.

    A brush that is put down goes into the rinse pot and comes back clean; that is part of the change (common practice).
    One that goes to the same paint again is not rinsed, and nothing is said twice in a row.
    """
    found = []
    if before is not None and before.place != job.place:
        found.append(
            Setup(StepKind.MOVE, pace.seconds(StepKind.MOVE, pace.move_s), phrase("over to {place}", place=job.place))
        )
    found += _tool(before, job, pace)
    if job.id in cues and (before is None or cues.get(before.id) != cues[job.id]):
        found.append(Setup(StepKind.CUE, pace.seconds(StepKind.CUE, pace.cue_s), cues[job.id]))
    return tuple(found)


def _tool(before: PaintJob | None, job: PaintJob, pace: Pace) -> Iterator[Setup]:
    """What is done with the brush: changed, rinsed, loaded."""
    held = before if before is not None and before.brush == job.brush else None
    same = held is not None and held.load == job.load
    if job.brush and held is None:
        yield Setup(StepKind.CHANGE, pace.seconds(StepKind.CHANGE, pace.change_s), "brush")
    elif held is not None and held.face is not job.face:
        yield Setup(StepKind.CHANGE, pace.seconds(StepKind.CHANGE, pace.turn_s), TURN)
    elif held is not None and not same and held.sources != job.sources and held.load != job.follows:
        yield Setup(StepKind.RINSE, pace.seconds(StepKind.RINSE, pace.rinse_s), "rinse")
    if job.load_s and not goes_on(before, job):
        yield Setup(StepKind.LOAD, job.again_s if same else job.load_s, "load")


def goes_on(before: PaintJob | None, job: PaintJob) -> bool:
    """Return whether a job needs no load of its own: it goes on with what the one before left.

    Before an order is found it is what may be; then it is what is.
    """
    if job.filled:
        return job.goes_on
    if before is None or before.brush != job.brush:
        return False
    return before.load == job.load and job.may_go_on


def problem_of(jobs: Sequence[PaintJob], lags: Iterable[Lag], tail_s: float) -> Problem:
    """Return what must come before what among some jobs, without seconds between them; other lags are left out."""
    count = len(jobs)
    number = {job.id: place for place, job in enumerate(jobs)}
    told = [
        (
            number[lag.before],
            number[lag.after],
            tenths(lag.least_s),
            NEVER if math.isinf(lag.most_s) else math.floor(lag.most_s * 10),
        )
        for lag in lags
        if lag.before in number and lag.after in number
    ]
    lasts = [tenths(job.pull_s) for job in jobs]
    nothing = [(0,) * count] * (count + 1)
    return make_problem([job.id for job in jobs], lasts, nothing, told, nothing, tenths(tail_s))


def along(
    problem: Problem, jobs: Sequence[PaintJob], pace: Pace, cues: Mapping[str, str], sides: Sides, order: Sequence[int]
) -> Problem:
    """Return the problem of jobs as they are loaded in one order: what the hand does along that alone is worked out."""
    nothing = (0,) * len(jobs)
    setup, dislike = [nothing] * (len(jobs) + 1), [nothing] * (len(jobs) + 1)
    last = START
    for job in order:
        before = None if last == START else jobs[last]
        takes = sum(tenths(part.seconds) for part in setups(before, jobs[job], pace, cues))
        setup[last] = (*nothing[:job], takes, *nothing[job + 1 :])
        dislike[last] = (*nothing[:job], disliked(before, jobs[job], sides), *nothing[job + 1 :])
        last = job
    lasts = tuple(tenths(job.pull_s) for job in jobs)
    return replace(problem, lasts=lasts, setup=tuple(setup), dislike=tuple(dislike))


def disliked(one: PaintJob | None, job: PaintJob, sides: Sides) -> int:
    """Return what the painter would pay not to go from one job to another."""
    if one is None or sides is Sides.FREE:
        return 0
    if sides is Sides.REGIONS:
        return SIDES_COST if one.region != job.region else 0
    return SIDES_COST if one.twin and one.twin != job.id and job.twin != one.id else 0
