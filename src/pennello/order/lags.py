"""What must lie between jobs: dry before, still wet, still tacky, light before dark, the nose late, own rules."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import chain, product

from pennello.design.on_chart import chart_of
from pennello.design.ordering import GlitterWhen, Ordering, RuleKind, Whites
from pennello.design.pace import StepKind
from pennello.design.part import Habit
from pennello.design.parts import habit_of
from pennello.design.plan import Plan
from pennello.lay.drying import DRY, TACKY, evaporation_um_s
from pennello.motif.catalogue import motif
from pennello.motif.roles import Wet
from pennello.order.films import LINE_KINDS, Films
from pennello.order.job import Lag, PaintJob, Why
from pennello.order.jobs import SKIN, Work
from pennello.order.problem import bits
from pennello.phrases import named, phrase
from pennello.units import about_seconds_text

HOLDS_GLITTER = 0.5
"""Glitter is held by what covers at least so much of it, against what covers most; the last of these (a default)."""

_BY_THE_NOSE = (StepKind.STROKES, StepKind.LINE, StepKind.DOTS)

LIGHT_L, DARK_L = 75.0, 35.0
"""Line work lighter than the one is white, darker than the other is black, in L* (defaults)."""


def lags_of(work: Work, films: Films) -> tuple[Lag, ...]:
    """Return what must lie between the jobs of a plan; the order of what overlaps is the plan's own.

    No set of them asks for two jobs to come before each other: what would is left out, own rules last of all.
    """
    plan = work.plan
    habits = {placed.id: habit_of(plan, placed) for placed in plan.motifs}
    case = _Case(work, films, evaporation_um_s(plan.dry_after_s), plan.ordering, habits)
    unit = {job.id: job.unit for job in work.jobs}
    order = _Order(list(dict.fromkeys(unit.values())))
    found: dict[tuple[str, str, float, float], Lag] = {}
    for lag in chain(
        _own(case), _leftovers(work), _overlaps(case, unit, order), _whites(case), _nose(case, unit, order)
    ):
        one, other = unit[lag.before], unit[lag.after]
        if one == other:  # painted in one go: what lies below comes first as the plan has it, and nothing waits
            if lag.why in (Why.GO, Why.LOAD, Why.LIES):
                found.setdefault((lag.before, lag.after, 0.0, math.inf), lag)
        elif order.add(one, other):
            found.setdefault((lag.before, lag.after, lag.least_s, lag.most_s), lag)
    return tuple(found.values())


@dataclass(frozen=True, slots=True, eq=False)
class _Case:
    """What lags are made from: jobs, films, how fast paint dries, what the painter says."""

    work: Work
    films: Films
    rate_um_s: float
    ordering: Ordering
    habits: dict[str, Habit]

    def dry(self, lower: PaintJob, upper: PaintJob) -> float:
        """After how long a film is dry under another job, s, rounded up to a tenth."""
        return math.ceil(self.films.time_to(DRY, lower.id, upper.id, self.rate_um_s) * 10) / 10

    def tacky(self, lower: PaintJob, upper: PaintJob) -> float:
        """After how long it is tacky, s."""
        return self.films.time_to(TACKY, lower.id, upper.id, self.rate_um_s)

    def habit(self, job: PaintJob) -> Habit:
        """How the part of a job is painted."""
        return self.habits.get(job.piece, Habit.USUAL)

    def rule(self, one: PaintJob, other: PaintJob) -> RuleKind | None:
        """The painter's own rule between two jobs, whichever way, the last one that was made."""
        found = None
        for rule in self.ordering.rules:
            pairs = ((one, other), (other, one))
            if any(rule.earlier in first.names and rule.later in second.names for first, second in pairs):
                found = rule.kind
        return found


class _Order:
    """Which jobs come before which, so far: for each the ones after and before it, as the bits of a number."""

    def __init__(self, names: list[str]) -> None:
        self._at = {name: place for place, name in enumerate(names)}
        self._after, self._before = [0] * len(names), [0] * len(names)

    def has(self, before: str, after: str) -> bool:
        """Return whether one already comes before another."""
        return bool(self._after[self._at[before]] >> self._at[after] & 1)

    def add(self, before: str, after: str) -> bool:
        """Take that one comes before another; return False if it would have to come after it."""
        one, other = self._at[before], self._at[after]
        if one == other or self._after[other] >> one & 1:
            return False
        if not self._after[one] >> other & 1:
            later, earlier = self._after[other] | 1 << other, self._before[one] | 1 << one
            for place in bits(earlier):
                self._after[place] |= later
            for place in bits(later):
                self._before[place] |= earlier
        return True


def _overlaps(case: _Case, unit: dict[str, str], order: _Order) -> Iterator[Lag]:
    """What lies over another job's paint, however little, comes after it; where it is enough it waits.

    Where a rule of the painter's own turns two round, the one that now lies below dries instead.
    """
    jobs, films = case.work.jobs, case.films
    pulled = _pulled_parts(case.work)
    near = films.near()
    for number, upper in enumerate(jobs):
        below = [lower for lower in jobs[:number] if lower.id in near[upper.id] and films.touch(lower.id, upper.id)]
        if upper.kind is StepKind.GLITTER:
            yield from _glitter(case, upper, below)
            continue
        for lower in (one for one in below if one.kind is not StepKind.GLITTER):
            turned = order.has(unit[upper.id], unit[lower.id])
            one, other = (upper, lower) if turned else (lower, upper)
            if one.unit == other.unit:
                words = phrase(
                    "{other} goes straight over {one}: it is painted in one go", other=other.name, one=one.name
                )
                yield Lag(one.id, other.id, 0.0, math.inf, Why.GO, words)
            elif not (one.piece == other.piece and one.twin == other.id):  # twin halves never wait for each other
                yield _over(case, one, other, pulled)


def _over(case: _Case, lower: PaintJob, upper: PaintJob, pulled: frozenset[tuple[str, str]]) -> Lag:
    """Return what lies between a job and one that goes over it."""
    own, habit = case.rule(lower, upper), case.habit(upper)
    if (free := _lies_free(case, lower, upper, own, habit)) is not None:
        return free
    if own is None:
        if habit in (Habit.WET, Habit.TACKY):
            return _while_wet(case, lower, upper, tacky=habit is Habit.TACKY)
        if lower.piece == upper.piece and _is(upper, pulled) and not _is(lower, pulled):
            return _while_wet(case, lower, upper, tacky=False)
        if lower.sponge and upper.kind is StepKind.STROKES and habit is not Habit.DRY:
            least = math.ceil(case.tacky(lower, upper) * 10) / 10
            told = about_seconds_text(least)
            words = phrase(
                "{lower} sets for {told}, until it is tacky, before {upper} goes over it",
                lower=lower.name,
                told=told,
                upper=upper.name,
            )
            return Lag(lower.id, upper.id, least, math.inf, Why.DRY, words)
    least, um = case.dry(lower, upper), case.films.under_um(lower.id, upper.id)
    words = phrase(
        "{lower} ({um:.0f} µm) dries for {least} before {upper} goes over it",
        lower=lower.name,
        um=um,
        least=about_seconds_text(least),
        upper=upper.name,
    )
    return Lag(lower.id, upper.id, least, math.inf, Why.DRY, words)


def _lies_free(case: _Case, lower: PaintJob, upper: PaintJob, own: RuleKind | None, habit: Habit) -> Lag | None:
    """Return a lag without a wait, where none is needed: by a rule, for too small a place, in one paint or load."""
    films, names = case.films, phrase("{upper} goes over {lower}", upper=upper.name, lower=lower.name)
    why, words = None, ""
    if own is RuleKind.ANY:
        why, words = Why.OVER, phrase("{names} however wet it is: your own rule", names=names)
    elif own is RuleKind.WET or (own is None and not films.meet(lower.id, upper.id)):
        why, words = Why.LIES, phrase("{upper} lies over {lower}", upper=upper.name, lower=lower.name)
    elif own is None and upper.kind is StepKind.DOTS and habit is Habit.USUAL:
        why, words = (
            Why.LIES,
            phrase("{upper} is set down on {lower}, not dragged: it need not wait", upper=upper.name, lower=lower.name),
        )
    elif own is None and films.alike(lower.id, upper.id):
        why, words = Why.SAME, phrase("{names}, in the same paint", names=names)
    elif own is None and _of_one_load(lower, upper, habit):
        why, words = Why.LOAD, phrase("{names}, of one load", names=names)
    return None if why is None else Lag(lower.id, upper.id, 0.0, math.inf, why, words)


def _of_one_load(lower: PaintJob, upper: PaintJob, habit: Habit) -> bool:
    """Return whether two jobs are of one load: they never wait for each other unless told to (common practice)."""
    told = habit in (Habit.ROWS, Habit.DRY, Habit.WET, Habit.TACKY)
    return bool(upper.load) and lower.load == upper.load and not told


def _while_wet(case: _Case, lower: PaintJob, upper: PaintJob, *, tacky: bool) -> Lag:
    most = math.floor(case.tacky(lower, upper) * 10) / 10
    if not tacky:
        words = phrase(
            "{upper} is pulled while {lower} is wet, within {most}",
            upper=upper.name,
            lower=lower.name,
            most=about_seconds_text(most),
        )
        return Lag(lower.id, upper.id, 0.0, most, Why.WET, words)
    opens, closes = math.ceil(case.tacky(lower, upper) * 10) / 10, case.dry(lower, upper)
    words = phrase(
        "{upper} goes over {lower} while it is tacky, {opens:.0f} to {closes} after it",
        upper=upper.name,
        lower=lower.name,
        opens=opens,
        closes=about_seconds_text(closes),
    )
    return Lag(lower.id, upper.id, opens, max(closes, opens), Why.TACKY, words)


def _pulled_parts(work: Work) -> frozenset[tuple[str, str]]:
    """Return motifs with those of their parts that are pulled through what is still wet (common practice)."""
    kinds = {one.id: motif(one.motif) for one in work.plan.motifs if one.motif}
    return frozenset((name, part.key) for name, kind in kinds.items() for part in kind.parts if part.wet is Wet.PULLED)


def _is(job: PaintJob, parts: frozenset[tuple[str, str]]) -> bool:
    """Return whether a job is of one of these parts of motifs."""
    within = job.id.split("/")[1]
    return any(job.piece == name and within.startswith(part) for name, part in parts)


def _glitter(case: _Case, glitter: PaintJob, below: list[PaintJob]) -> Iterator[Lag]:
    """Glitter sticks while what most of it lies on is tacky; or it is the last touch of its chart."""
    last = case.ordering.glitter is GlitterWhen.LAST
    below = [job for job in below if job.kind is not StepKind.GLITTER]
    for lower in case.work.jobs:
        if last and lower.chart == glitter.chart and lower.kind is not StepKind.GLITTER:
            yield Lag(lower.id, glitter.id, 0.0, math.inf, Why.LAST, phrase("glitter is the last touch"))
    if last or not below:
        return
    areas = {job.id: case.films.overlap_mm2(job.id, glitter.id) for job in below}
    most = max(areas.values())
    held = [job for job in below if areas[job.id] >= HOLDS_GLITTER * most]
    top = held[-1]
    for lower in below:
        if lower is not top:
            yield Lag(
                lower.id,
                glitter.id,
                0.0,
                math.inf,
                Why.TACKY,
                phrase("{glitter} goes over {lower}", glitter=glitter.name, lower=lower.name),
            )
    opens, closes = case.tacky(top, glitter), case.films.time_to(DRY, top.id, glitter.id, case.rate_um_s)
    words = phrase(
        "{glitter} sticks while {top} is tacky, {opens:.0f} to {closes} after it",
        glitter=glitter.name,
        top=top.name,
        opens=opens,
        closes=about_seconds_text(closes),
    )
    yield Lag(top.id, glitter.id, math.ceil(opens * 10) / 10, math.floor(closes * 10) / 10, Why.TACKY, words)


def _whites(case: _Case) -> Iterator[Lag]:
    """White lights before black lines or after them, on one chart."""
    ordering, films = case.ordering, case.films
    if ordering.whites is Whites.FREE:
        return
    lines = [job for job in case.work.jobs if job.kind in LINE_KINDS]
    light = [job for job in lines if films.lightness(job.id) >= LIGHT_L]
    dark = [job for job in lines if films.lightness(job.id) <= DARK_L]
    first, second, why = (light, dark, Why.LIGHT) if ordering.whites is Whites.BEFORE else (dark, light, Why.DARK)
    for one in first:
        for other in second:
            if one.chart == other.chart:
                yield Lag(
                    one.id,
                    other.id,
                    0.0,
                    math.inf,
                    why,
                    phrase("{one} before {other}: {why}", one=one.name, other=other.name, why=named(why)),
                )


def _nose(case: _Case, unit: dict[str, str], order: _Order) -> Iterator[Lag]:
    """What is laid by the nose, lines too, comes after all that is painted on the head and need not wait for it.

    A base that reaches the nose is none of it: all lies over that. Stencils and glitter have their own time.
    """
    if not case.ordering.nose_last:
        return
    painted = [job for job in case.work.jobs if job.kind in _BY_THE_NOSE and _on_head(case.work.plan, job)]
    late = [job for job in painted if "nostril" in job.near and not job.sponge]
    units = {unit[job.id] for job in late}
    before = (job for job in painted if not _waits_for(unit[job.id], units, order))
    for job, other in product(before, late):
        words = phrase("{other} lies by the nose, which tickles: late and quick", other=other.name)
        yield Lag(job.id, other.id, 0.0, math.inf, Why.NOSE, words)


def _on_head(plan: Plan, job: PaintJob) -> bool:
    return job.chart == SKIN or bool(chart_of(plan, job.chart).zones)


def _waits_for(name: str, units: set[str], order: _Order) -> bool:
    """Return whether a unit is one of these, or has to come after one."""
    return name in units or any(order.has(one, name) for one in units)


def _leftovers(work: Work) -> Iterator[Lag]:
    """A stroke that goes on with a leftover comes after the stroke that leaves it."""
    if not work.plan.strokes or dict(work.painted).keys() != {SKIN}:
        return
    owner = {name: job for job in work.jobs for name in job.strokes}
    for stroke in work.plan.strokes:
        before = stroke.recipe.after
        if before in owner and owner[before] is not owner[stroke.id]:
            words = phrase("{stroke} goes on with what {before} leaves", stroke=stroke.name, before=before)
            yield Lag(owner[before].id, owner[stroke.id].id, 0.0, math.inf, Why.OWN, words)
    for earlier, later in zip(work.plan.strokes, work.plan.strokes[1:], strict=False):
        if later.wait_s > 0 and owner[earlier.id] is not owner[later.id]:
            words = phrase("you wait {wait_s:.0f} s before {later}", wait_s=later.wait_s, later=later.name)
            yield Lag(owner[earlier.id].id, owner[later.id].id, round(later.wait_s, 1), math.inf, Why.OWN, words)


def _own(case: _Case) -> Iterator[Lag]:
    """The painter's own rules between parts, kinds and pieces; one about the same twice is about what overlaps."""
    for rule in case.ordering.rules:
        earlier = [job for job in case.work.jobs if rule.earlier in job.names]
        later = [job for job in case.work.jobs if rule.later in job.names]
        for one in earlier:
            for other in later:
                if one is not other and rule.earlier != rule.later:
                    yield from _ruled(case, one, other, rule.kind)


def _ruled(case: _Case, one: PaintJob, other: PaintJob, kind: RuleKind) -> Iterator[Lag]:
    if kind is RuleKind.AFTER:
        yield Lag(
            one.id,
            other.id,
            0.0,
            math.inf,
            Why.OWN,
            phrase("{one} before {other}: your own rule", one=one.name, other=other.name),
        )
    elif kind is RuleKind.DRY:
        least = case.dry(one, other)
        words = phrase(
            "{one} dries for {least} before {other}: your own rule",
            one=one.name,
            least=about_seconds_text(least),
            other=other.name,
        )
        yield Lag(one.id, other.id, least, math.inf, Why.OWN, words)
    elif kind is RuleKind.WET:
        most = math.floor(case.tacky(one, other) * 10) / 10
        words = phrase(
            "{other} while {one} is wet, within {most}: your own rule",
            other=other.name,
            one=one.name,
            most=about_seconds_text(most),
        )
        yield Lag(one.id, other.id, 0.0, most, Why.OWN, words)
