"""From a plan to an order of painting: jobs, what must lie between them, a good order, its steps, and why."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from pennello.design.ordering import Ordering
from pennello.design.pace import Pace, StepKind, pace_at
from pennello.design.plan import Plan
from pennello.lay.skin_film import Engine
from pennello.order.bound import lower_bound
from pennello.order.films import Films, films_of, with_areas
from pennello.order.improve import Improved, improve
from pennello.order.job import Lag, PaintJob
from pennello.order.jobs import Known, Work, loaded_in, work_of
from pennello.order.lags import lags_of
from pennello.order.problem import Problem, Timing, along, lawful, make_problem, problem_of, time_order
from pennello.order.search import MOST_EXACT, RESTARTS_S, exact_order, first_order, improved
from pennello.order.steps import Step, StopPoint, Sums, steps_of, stop_points, sums_of
from pennello.order.target import Choice, choose
from pennello.order.units import Units, units_of
from pennello.phrases import mark, phrase

Report = Callable[[float, str], None]

_TENTH_S = 0.11

_LINES = (StepKind.LINE, StepKind.DOTS)

CUES: tuple[tuple[str, tuple[StepKind, ...], str], ...] = (
    ("eye", (StepKind.GEM,), phrase("May I put a gem near your eye? Keep it closed until I say so, please.")),
    (
        "eye",
        (StepKind.GLITTER,),
        phrase("May I put some glitter near your eye? Keep it closed until I say so, please."),
    ),
    ("eye", _LINES, phrase("I draw a line by your eye now: keep it closed and still, please.")),
    ("eye", (), phrase("Close your eyes and keep them closed, please.")),
    ("lips", _LINES, phrase("Lips a little apart and still, please.")),
    ("lips", (StepKind.GLITTER,), phrase("May I put some glitter near your lips? Press them together, please.")),
    ("lips", (), phrase("May I paint by your mouth? Open it a little and breathe through your nose, please.")),
    ("nostril", (), phrase("This tickles your nose for a moment, and is quick.")),
)
"""What the painter says before a step: near what, for which kinds of step (none: for all others), in words.

Common practice, no published source.
"""


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
            words = [_cue(job, near) for near in job.near]
            if any(words):
                told[job.id] = " ".join(dict.fromkeys(one for one in words if one))
        return told


def _cue(job: PaintJob, near: str) -> str:
    """Return what is said before a job that lies near something, or nothing."""
    return next((words for zone, kinds, words in CUES if zone == near and (not kinds or job.kind in kinds)), "")


@dataclass(frozen=True, slots=True, eq=False)
class Arranged:
    """An order: the jobs that are painted, when, as steps, what it comes to, and how near to the best it is.

    Attributes
    ----------
    work
        The same as it is loaded in this order.
    gap
        How far the order may be from the best there is, as a share; 0 for proven.
    own_total_s
        What the plan's own order would take, s.
    missed_lags
        Lags whose window cannot be met.
    choice
        What a target time left out, or None without a target.
    shortest
        Whether it is proved that none is shorter, switches that the painter would rather not make included.
    """

    design: Design
    work: Work
    jobs: tuple[PaintJob, ...]
    problem: Problem
    timing: Timing
    steps: tuple[Step, ...]
    sums: Sums
    stops: tuple[StopPoint, ...]
    gap: float
    by: str
    own_total_s: float
    missed_lags: tuple[Lag, ...] = ()
    choice: Choice | None = None
    lags: tuple[Lag, ...] = field(default=())
    shortest: bool = False

    @property
    def how_good(self) -> str:
        """What is proved of the order: a sentence without its stop."""
        if self.gap:
            return phrase("At most {gap:.1%} above the best there is", gap=self.gap)
        return (
            phrase("No order is shorter")
            if self.shortest
            else phrase("None is better: a shorter one goes over to and fro")
        )

    @property
    def missed(self) -> tuple[str, ...]:
        """What cannot be met, in words."""
        return tuple(lag.words for lag in self.missed_lags)

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
    tempo = pace_at(plan.ordering.tempo, pace)
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
    choice, jobs = _taken(design, target_s)
    if not jobs:
        nothing = Loaded(design.work, (), _NOTHING, _NONE)
        return _told(design, jobs, nothing, Best(_NOTHING, 0, proven=True, by=mark("nothing to order")), choice, 0.0)
    loading = _Loading(design, jobs)
    if design.work.plan.ordering.sequence:
        return _told(design, jobs, loading.sequenced(), None, choice)
    units = _units(design, jobs)
    own = loading.listed(units)
    problem = replace(units.problem, most_total=own.total) if own.late == 0 else units.problem
    say = None
    if found is not None:
        tell = found

        def say(timing: Timing) -> None:
            best = Best(timing, lower_bound(problem), proven=False, by="restarts")
            tell(_told(design, jobs, loading.of(units.jobs_in(timing.order)), best, choice))

    first = first_order(problem, own.order)
    answer = _improved(problem, first, seconds, improve_s, report, say, seed)
    best = Best(answer.timing, answer.bound, proven=answer.proven, by=answer.by)
    named = ((best.by, answer.timing), (mark("list scheduling"), first), (mark("as the plan has it"), own))
    by, loaded, listed_s = loading.best(units, named)
    return _told(design, jobs, loaded, replace(best, by=by), choice, listed_s)


def at_once(design: Design) -> Loaded:
    """Return the order that `arrange` finds without restarts, and nothing of what it tells of it: for a picture."""
    _, jobs = _taken(design, None)
    if not jobs:
        return Loaded(design.work, (), _NOTHING, _NONE)
    loading = _Loading(design, jobs)
    if design.work.plan.ordering.sequence:
        return loading.sequenced()
    units = _units(design, jobs)
    own = loading.listed(units)
    problem = replace(units.problem, most_total=own.total) if own.late == 0 else units.problem
    first = first_order(problem, own.order)
    best = exact_order(problem, first) if problem.count <= MOST_EXACT else first
    return loading.best(units, (("", best), ("", first), ("", own)))[1]


def _taken(design: Design, target_s: float | None) -> tuple[Choice | None, tuple[PaintJob, ...]]:
    """Return what is left out for the sake of a target, and the jobs that are painted."""
    ordering = design.work.plan.ordering
    wished = ordering.target_s if target_s is None else replace(ordering, target_s=target_s).target_s
    if wished is None:
        return None, design.work.jobs
    choice = _chosen(design, wished)
    return choice, tuple(job for job in design.work.jobs if job.part in choice.parts)


def _worth(timing: Timing, listed: Timing) -> tuple[int, int, int]:
    """Return what orders are told apart by: windows that are missed, longer than the plan's own, all that it costs."""
    over = max(0, timing.total - listed.total) if listed.late == 0 else 0
    return timing.late, over, timing.cost


@dataclass(frozen=True, slots=True)
class Best:
    """What a search found for the units, and what no order can cost less than."""

    timing: Timing
    bound: int
    proven: bool
    by: str


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
        return Improved(best, best.cost, proven=True, by=mark("all orders"))
    if seconds > 0:
        best = improved(problem, best, seconds, seed, report, say)
    if improve_s > 0:
        return improve(problem, best, improve_s, report, say)
    bound = lower_bound(problem)
    return Improved(best, bound, proven=best.cost <= bound, by="restarts" if seconds > 0 else mark("list scheduling"))


def own_order(problem: Problem, jobs: Sequence[PaintJob], ordering: Ordering) -> tuple[int, ...]:
    """Return the painter's own order by number, or the plan's: what must come first is moved before, no more."""
    at = {name: place for place, name in enumerate(ordering.sequence)}
    wished = sorted(range(len(jobs)), key=lambda number: (at.get(jobs[number].id, len(at)), number))
    return _lawful(problem, wished)


def _units(design: Design, jobs: Sequence[PaintJob]) -> Units:
    pace = design.pace
    return units_of(jobs, design.lags, pace, design.cues, design.work.plan.ordering.sides, _tail_s(pace))


def _tail_s(pace: Pace) -> float:
    return pace.seconds(StepKind.CHECK, pace.check_s)


def _lawful(problem: Problem, wished: Sequence[int]) -> tuple[int, ...]:
    """Return an order as wished where what must come first is moved before, no more."""
    order: list[int] = []
    done: set[int] = set()
    left = list(wished)
    while left:
        job = next(one for one in left if all(first in done for first, _, _ in problem.before[one]))
        order.append(job)
        done.add(job)
        left.remove(job)
    assert lawful(problem, order)
    return tuple(order)


def _chosen(design: Design, target_s: float) -> Choice:
    jobs = design.work.jobs
    part_of = {job.id: job.part for job in jobs}

    def timed(parts: frozenset[str]) -> float:
        taken = tuple(job for job in jobs if job.part in parts)
        if not taken:
            return 0.0
        units, loading = _units(design, taken), _Loading(design, taken)
        first = first_order(units.problem, loading.listed(units).order)
        if first.total / 10 > target_s and units.problem.count <= MOST_EXACT:  # it may fit after all
            first = exact_order(units.problem, first)
        return loading.of(units.jobs_in(first.order)).timing.total / 10

    needs = [
        (part_of[lag.after], part_of[lag.before])
        for lag in design.lags
        if design.work.job(lag.after).kind is StepKind.GLITTER
        and part_of[lag.after] != part_of[lag.before]
        and design.films.meet(lag.before, lag.after)
    ]
    return choose(jobs, target_s, timed, needs)


class Loaded(NamedTuple):
    """An order of jobs as it is really loaded: the work, its jobs, when they start, and the problem."""

    work: Work
    jobs: tuple[PaintJob, ...]
    timing: Timing
    problem: Problem


class _Loading:
    """Some jobs of a design, to be timed in one order after another as they are really loaded."""

    def __init__(self, design: Design, jobs: tuple[PaintJob, ...]) -> None:
        self._design, self._jobs = design, jobs
        self._problem = problem_of(jobs, design.lags, _tail_s(design.pace))
        self._cues, self._sides = design.cues, design.work.plan.ordering.sides
        self._known: Known = {}

    def of(self, order: Sequence[int]) -> Loaded:
        """Return an order, by number, as it is loaded."""
        pace = self._design.pace
        work = loaded_in(self._design.work, [self._jobs[number].id for number in order], pace, self._known)
        anew = {job.id: job for job in work.jobs}
        taken = tuple(anew[job.id] for job in self._jobs)
        problem = along(self._problem, taken, pace, self._cues, self._sides, order)
        return Loaded(work, taken, time_order(problem, tuple(order)), problem)

    def sequenced(self) -> Loaded:
        """Return the painter's own order as it is loaded."""
        return self.of(own_order(self._problem, self._jobs, self._design.work.plan.ordering))

    def as_listed(self) -> Loaded:
        """Return the plan's order as it is loaded, what must come first moved before."""
        return self.of(own_order(self._problem, self._jobs, Ordering()))

    def listed(self, units: Units) -> Timing:
        """Return the units as the plan lists them, what must come first moved before."""
        listed = units.units_in(own_order(self._problem, self._jobs, Ordering()))
        return time_order(units.problem, _lawful(units.problem, listed))

    def best(self, units: Units, named: Sequence[tuple[str, Timing]]) -> tuple[str, Loaded, float]:
        """Return which of some orders is the best as it is loaded, it, and how long the last of them takes, s."""
        orders = dict.fromkeys(timing.order for _, timing in named)
        tried = {order: self.of(units.jobs_in(order)) for order in orders}
        listed = tried[named[-1][1].order].timing
        by, timing = min(named, key=lambda one: _worth(tried[one[1].order].timing, listed))
        return by, tried[timing.order], listed.total / 10


def _told(
    design: Design,
    jobs: tuple[PaintJob, ...],
    loaded: Loaded,
    best: Best | None,
    choice: Choice | None,
    own_total_s: float | None = None,
) -> Arranged:
    """Return all that is told of an order of jobs; `best` is None for one of the painter's own."""
    work, taken, timing, problem = loaded
    steps = steps_of(taken, design.lags, timing, design.pace, design.cues)
    number = {job.id: place for place, job in enumerate(taken)}
    late = tuple(
        lag
        for lag in design.lags
        if lag.before in number
        and lag.after in number
        and timing.starts[number[lag.after]] / 10
        - timing.starts[number[lag.before]] / 10
        - taken[number[lag.before]].pull_s
        > lag.most_s + 0.05
    )
    bound = best.bound if best is not None else lower_bound(_units(design, jobs).problem) if jobs else 0
    gap = round(max(0.0, (timing.paid - bound) / timing.paid) if timing.paid else 0.0, 4)
    shortest = gap == 0 and (not jobs or _is_shortest(_units(design, jobs).problem, timing.total))
    return Arranged(
        design=design,
        work=work,
        jobs=taken,
        problem=problem,
        timing=timing,
        steps=steps,
        sums=sums_of(steps, taken),
        stops=stop_points(steps, taken),
        gap=gap,
        by=best.by if best is not None else mark("your own order"),
        own_total_s=_listed_s(design, jobs) if own_total_s is None else own_total_s,
        missed_lags=late,
        choice=choice,
        lags=design.lags,
        shortest=shortest,
    )


def _is_shortest(problem: Problem, total: int) -> bool:
    """Return whether it is proved that no order takes less, switches that are not liked left out of it."""
    plain = replace(problem, dislike=((0,) * problem.count,) * (problem.count + 1))
    if problem.count <= MOST_EXACT and plain.dislike != problem.dislike:
        return total <= exact_order(plain, first_order(plain)).total
    return plain.dislike == problem.dislike or total <= lower_bound(plain)


def _listed_s(design: Design, jobs: tuple[PaintJob, ...]) -> float:
    """Return how long the plan's own order takes, s."""
    if not jobs:
        return 0.0
    return _Loading(design, jobs).as_listed().timing.total / 10


_NOTHING = Timing((), (), 0, 0, 0)
_NONE = make_problem([], [], [[]])


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
            return phrase(
                "{job} cannot come before {job_2}: {reason}.",
                job=arranged.job(name).name,
                job_2=arranged.job(lag.before).name,
                reason=_reason(lag),
            )
        if lag.before == name and lag.after in early:
            return phrase(
                "{job} cannot come after {job_2}: {reason}.",
                job=arranged.job(name).name,
                job_2=arranged.job(lag.after).name,
                reason=_reason(lag),
            )
    order.insert(place, name)
    return tuple(order)


def _reason(lag: Lag) -> str:
    return lag.words or lag.why.value


def in_order(design: Design, order: Sequence[str], choice: Choice | None = None) -> Arranged:
    """Return the steps of a given order of jobs, as it is; ids that are not there are left out."""
    known = {job.id for job in design.work.jobs}
    wanted = [name for name in order if name in known]
    jobs = tuple(job for job in design.work.jobs if job.id in wanted)
    numbers = {job.id: number for number, job in enumerate(jobs)}
    loaded = Loaded(design.work, (), _NOTHING, _NONE)
    if jobs:
        loaded = _Loading(design, jobs).of([numbers[name] for name in wanted])
    return _told(design, jobs, loaded, None, choice)
