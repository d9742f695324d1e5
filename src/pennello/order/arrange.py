"""From a plan to an order of painting: jobs, what must lie between them, a good order, its steps, and why."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from pennello.design.ordering import Ordering
from pennello.design.plan import Plan
from pennello.lay.skin_film import Engine
from pennello.order.bound import lower_bound
from pennello.order.films import Films, films_of, with_areas
from pennello.order.improve import Improved, improve
from pennello.order.job import Lag, PaintJob
from pennello.order.jobs import Work, work_of
from pennello.order.lags import lags_of
from pennello.order.pace import Pace, StepKind
from pennello.order.problem import Problem, Timing, lawful, problem_of, time_order
from pennello.order.search import MOST_EXACT, RESTARTS_S, exact_order, first_order, improved
from pennello.order.steps import Step, StopPoint, Sums, steps_of, stop_points, sums_of
from pennello.order.target import Choice, choose

Report = Callable[[float, str], None]

_TENTH_S = 0.11

CUES = {
    "eye": "Close your eyes and keep them closed, please.",
    "lips": "Close your mouth and hold still, please.",
    "nostril": "This may tickle your nose for a moment.",
}
"""What the painter says before a step near these (common practice)."""


@dataclass(frozen=True, slots=True, eq=False)
class Design:
    """What is ordered, before it is: the jobs with their films, and what must lie between them."""

    work: Work
    films: Films
    lags: tuple[Lag, ...]
    pace: Pace

    @property
    def cues(self) -> dict[str, str]:
        """What is said before each job that lies near eyes, lips or nose."""
        told = {}
        for job in self.work.jobs:
            kinds = [kind for kind in CUES if kind in job.near]
            if kinds:
                told[job.id] = " ".join(CUES[kind] for kind in kinds)
        return told


@dataclass(frozen=True, slots=True, eq=False)
class Arranged:
    """An order: the jobs that are painted, when, as steps, what it comes to, and how near to the best it is.

    Attributes
    ----------
    gap
        How far the order may be from the best there is, as a share; 0 for proven.
    own_total_s
        What the plan's own order would take, s.
    missed
        Lags whose window cannot be met: each a sentence.
    choice
        What a target time left out, or None without a target.
    """

    design: Design
    jobs: tuple[PaintJob, ...]
    problem: Problem
    timing: Timing
    steps: tuple[Step, ...]
    sums: Sums
    stops: tuple[StopPoint, ...]
    gap: float
    by: str
    own_total_s: float
    missed: tuple[str, ...] = ()
    choice: Choice | None = None
    lags: tuple[Lag, ...] = field(default=())

    @property
    def order(self) -> tuple[str, ...]:
        """Ids of the jobs in their order."""
        return tuple(self.jobs[number].id for number in self.timing.order)

    def job(self, name: str) -> PaintJob:
        """Return a job by id."""
        return next(job for job in self.jobs if job.id == name)

    def step(self, name: str) -> Step:
        """Return a step by id."""
        return next(step for step in self.steps if step.id == name)


def design_of(
    plan: Plan,
    chart: str = "",
    pace: Pace | None = None,
    report: Report | None = None,
    engine: Engine | None = None,
    films: Films | None = None,
) -> Design:
    """Return what is to be ordered of a chart of a plan, or of all of it ("").

    Parameters
    ----------
    films
        Of the same jobs, from before; without them every job is laid once to see its film.
    """
    tempo = pace or Pace()
    work = work_of(plan, chart, tempo)
    films = films or films_of(work, report, engine)
    work = with_areas(work, films)
    return Design(work, films, lags_of(work, films), tempo)


def arrange(
    design: Design,
    seconds: float = RESTARTS_S,
    improve_s: float = 0.0,
    target_s: float | None = None,
    report: Report | None = None,
    found: Callable[[Arranged], None] | None = None,
    seed: int = 1,
) -> Arranged:
    """Return a good order.

    Parameters
    ----------
    seconds
        How long restarts may look; 0 for the list scheduler alone.
    improve_s
        How long CP-SAT may improve it after that; 0 for not at all.
    target_s
        Leave out what does not fit into this time, nice and skip parts only; None for the ordering's own target.
    found
        Called with each better order.

    Raises
    ------
    OutOfRangeError
        If the target is not 5 s to ten hours.
    """
    ordering = design.work.plan.ordering
    wished = ordering.target_s if target_s is None else replace(ordering, target_s=target_s).target_s
    choice = _chosen(design, wished) if wished is not None else None
    taken = frozenset(choice.parts) if choice is not None else frozenset(job.part for job in design.work.jobs)
    jobs = tuple(job for job in design.work.jobs if job.part in taken)
    problem = _problem(design, jobs)
    if not jobs:
        return _told(design, jobs, problem, Timing((), (), 0, 0, 0), 0.0, "nothing to order", 0.0, choice)
    own = time_order(problem, own_order(problem, jobs, ordering))
    problem = replace(problem, most_total=own.total) if own.late == 0 else problem
    say = None
    if found is not None:
        tell = found

        def say(timing: Timing) -> None:
            tell(_told(design, jobs, problem, timing, _gap(problem, timing), "restarts", own.total / 10, choice))

    if ordering.sequence:
        best, answer = own, Improved(own, lower_bound(problem), proven=False, by="your own order")
    else:
        best = first_order(problem, own.order)
        answer = _improved(problem, best, seconds, improve_s, report, say, seed)
    return _told(design, jobs, problem, answer.timing, answer.gap, answer.by, own.total / 10, choice)


def _improved(
    problem: Problem,
    best: Timing,
    seconds: float,
    improve_s: float,
    report: Report | None,
    say: Callable[[Timing], None] | None,
    seed: int,
) -> Improved:
    if problem.count <= MOST_EXACT:
        best = exact_order(problem, best)
        return Improved(best, best.cost, proven=True, by="all orders")
    if seconds > 0:
        best = improved(problem, best, seconds, seed, report, say)
    if improve_s > 0:
        return improve(problem, best, improve_s, report, say)
    bound = lower_bound(problem)
    return Improved(best, bound, proven=best.cost <= bound, by="restarts" if seconds > 0 else "list scheduling")


def own_order(problem: Problem, jobs: Sequence[PaintJob], ordering: Ordering) -> tuple[int, ...]:
    """Return the painter's own order by number, or the plan's: what must come first is moved before, no more."""
    at = {name: place for place, name in enumerate(ordering.sequence)}
    wished = sorted(range(len(jobs)), key=lambda number: (at.get(jobs[number].id, len(at)), number))
    order: list[int] = []
    left = list(wished)
    while left:
        job = next(one for one in left if all(first in order for first, _, _ in problem.before[one]))
        order.append(job)
        left.remove(job)
    assert lawful(problem, order)
    return tuple(order)


def _problem(design: Design, jobs: Sequence[PaintJob]) -> Problem:
    pace = design.pace
    tail = pace.seconds(StepKind.CHECK, pace.check_s) if jobs else 0.0
    return problem_of(jobs, design.lags, pace, design.cues, design.work.plan.ordering.sides, tail)


def _chosen(design: Design, target_s: float) -> Choice:
    jobs = design.work.jobs
    part_of = {job.id: job.part for job in jobs}

    def timed(parts: frozenset[str]) -> float:
        taken = [job for job in jobs if job.part in parts]
        problem = _problem(design, taken)
        if not taken:
            return 0.0
        first = first_order(problem, own_order(problem, taken, Ordering()))
        if first.total / 10 > target_s and problem.count <= MOST_EXACT:  # it may fit after all
            first = exact_order(problem, first)
        return first.total / 10

    needs = [
        (part_of[lag.after], part_of[lag.before])
        for lag in design.lags
        if design.work.job(lag.after).kind is StepKind.GLITTER
        and part_of[lag.after] != part_of[lag.before]
        and design.films.meet(lag.before, lag.after)
    ]
    return choose(jobs, target_s, timed, needs)


def _gap(problem: Problem, timing: Timing) -> float:
    bound = lower_bound(problem)
    return max(0.0, (timing.paid - bound) / timing.paid) if timing.paid else 0.0


def _told(
    design: Design,
    jobs: tuple[PaintJob, ...],
    problem: Problem,
    timing: Timing,
    gap: float,
    by: str,
    own_total_s: float,
    choice: Choice | None,
) -> Arranged:
    steps = steps_of(jobs, design.lags, timing, design.pace, design.cues)
    sums = sums_of(steps, jobs, timing)
    number = {job.id: place for place, job in enumerate(jobs)}
    late = tuple(
        lag.words
        for lag in design.lags
        if lag.before in number
        and lag.after in number
        and timing.starts[number[lag.after]] / 10
        - timing.starts[number[lag.before]] / 10
        - jobs[number[lag.before]].pull_s
        > lag.most_s + 0.05
    )
    stops = stop_points(steps, jobs)
    return Arranged(
        design, jobs, problem, timing, steps, sums, stops, round(gap, 4), by, own_total_s, late, choice, design.lags
    )


def moved(arranged: Arranged, name: str, to: int) -> tuple[str, ...] | str:
    """Return the order with a job at another place, or the sentence that says why it cannot be there.

    Parameters
    ----------
    to
        Its place among the jobs, 0 for the first.
    """
    order = [one for one in arranged.order if one != name]
    place = min(max(to, 0), len(order))
    early, late = set(order[:place]), set(order[place:])
    for lag in arranged.lags:
        if lag.after == name and lag.before in late:
            return f"{arranged.job(name).name} cannot come before {arranged.job(lag.before).name}: {_reason(lag)}."
        if lag.before == name and lag.after in early:
            return f"{arranged.job(name).name} cannot come after {arranged.job(lag.after).name}: {_reason(lag)}."
    order.insert(place, name)
    return tuple(order)


def _reason(lag: Lag) -> str:
    return lag.words or lag.why.value


def in_order(design: Design, order: Sequence[str], choice: Choice | None = None) -> Arranged:
    """Return the steps of a given order of jobs, as it is; ids that are not there are left out."""
    known = {job.id: job for job in design.work.jobs}
    wanted = [name for name in order if name in known]
    jobs = tuple(job for job in design.work.jobs if job.id in wanted)
    problem = _problem(design, jobs)
    numbers = {job.id: number for number, job in enumerate(jobs)}
    timing = time_order(problem, [numbers[name] for name in wanted]) if jobs else Timing((), (), 0, 0, 0)
    own = time_order(problem, own_order(problem, jobs, Ordering())).total / 10 if jobs else 0.0
    return _told(design, jobs, problem, timing, _gap(problem, timing), "your own order", own, choice)
