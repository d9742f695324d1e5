"""What must lie between jobs: dry before, still wet, still tacky, light before dark, the nose late, own rules."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import chain

from pennello.design.on_chart import chart_of
from pennello.design.ordering import GlitterWhen, Ordering, RuleKind, Whites
from pennello.lay.drying import DRY, TACKY, evaporation_um_s
from pennello.motif.catalogue import motif
from pennello.motif.roles import Wet
from pennello.order.films import LINE_KINDS, Films
from pennello.order.job import Lag, PaintJob, Why
from pennello.order.jobs import SKIN, Work
from pennello.order.pace import StepKind
from pennello.units import about_seconds_text

LIGHT_L, DARK_L = 75.0, 35.0
"""Line work lighter than the one is white, darker than the other is black, in L* (defaults)."""


def lags_of(work: Work, films: Films) -> tuple[Lag, ...]:
    """Return what must lie between the jobs of a plan; the order of what overlaps is the plan's own.

    No set of them asks for two jobs to come before each other: what would is left out, own rules last of all.
    """
    plan = work.plan
    rate = evaporation_um_s(plan.dry_after_s)
    found: list[Lag] = []
    order = _Order([job.id for job in work.jobs])
    for lag in chain(
        _own(work, films, rate, plan.ordering),
        _leftovers(work),
        _overlaps(work, films, rate, plan.ordering, order),
        _whites(work, films, plan.ordering),
        _nose(work, plan.ordering, order),
    ):
        if not order.add(lag.before, lag.after):
            continue
        found.append(lag)
    return tuple(found)


class _Order:
    """Which jobs come before which, so far."""

    def __init__(self, names: list[str]) -> None:
        self._after: dict[str, set[str]] = {name: set() for name in names}

    def has(self, before: str, after: str) -> bool:
        """Return whether one already comes before another."""
        return after in self._after[before]

    def add(self, before: str, after: str) -> bool:
        """Take that one comes before another; return False if it would have to come after it."""
        if before == after or before in self._after[after]:
            return False
        gained = {after} | self._after[after]
        for name in self._after:
            if name == before or before in self._after[name]:
                self._after[name] |= gained
        return True


def _in_one_go(work: Work) -> set[str]:
    return {one.id for one in work.plan.motifs if one.motif and motif(one.motif).in_one_go}


def _overlaps(work: Work, films: Films, rate: float, ordering: Ordering, order: _Order) -> Iterator[Lag]:
    """What lies over another job's paint waits until that is dry; a pulled white comes while it is wet.

    Where a rule of the painter's own turns two round, the one that now lies below dries instead.
    """
    jobs = work.jobs
    kinds = {frozenset((rule.earlier, rule.later)): rule.kind for rule in ordering.rules}
    pulled = _pulled_parts(work)
    in_one_go = _in_one_go(work)
    for number, upper in enumerate(jobs):
        below = [lower for lower in jobs[:number] if lower.chart == upper.chart and films.meet(lower.id, upper.id)]
        if upper.kind is StepKind.GLITTER:
            yield from _glitter(work, upper, below, films, rate, ordering)
            continue
        for lower in (one for one in below if one.kind is not StepKind.GLITTER):
            one, other = (upper, lower) if order.has(upper.id, lower.id) else (lower, upper)
            own = kinds.get(frozenset((one.part, other.part)))
            if own is None and one.part == other.part and one.part in in_one_go:
                words = f"{other.name} goes straight over {one.name}: it is painted in one go"
                yield Lag(one.id, other.id, 0.0, math.inf, Why.GO, words)
            else:
                yield from _over(one, other, films, rate, own, pulled)


def _over(
    lower: PaintJob,
    upper: PaintJob,
    films: Films,
    rate: float,
    own: RuleKind | None,
    pulled: frozenset[tuple[str, str]],
) -> Iterator[Lag]:
    um = films.under_um(lower.id, upper.id)
    if own is RuleKind.WET:
        return
    if own is None and films.alike(lower.id, upper.id):
        words = f"{upper.name} goes over {lower.name}, in the same paint"
        yield Lag(lower.id, upper.id, 0.0, math.inf, Why.SAME, words)
        return
    if own is RuleKind.ANY:
        words = f"{upper.name} goes over {lower.name} however wet it is: your own rule"
        yield Lag(lower.id, upper.id, 0.0, math.inf, Why.OVER, words)
    elif lower.part == upper.part and _is(upper, pulled) and not _is(lower, pulled):
        most = math.floor(films.time_to(TACKY, lower.id, upper.id, rate) * 10) / 10
        words = f"{upper.name} is pulled while {lower.name} is wet, within {about_seconds_text(most)}"
        yield Lag(lower.id, upper.id, 0.0, most, Why.WET, words)
    else:
        least = math.ceil(films.time_to(DRY, lower.id, upper.id, rate) * 10) / 10
        words = f"{lower.name} ({um:.0f} µm) dries for {about_seconds_text(least)} before {upper.name} goes over it"
        yield Lag(lower.id, upper.id, least, math.inf, Why.DRY, words)


def _pulled_parts(work: Work) -> frozenset[tuple[str, str]]:
    """Return motifs with those of their parts that are pulled through what is still wet (common practice)."""
    kinds = {one.id: motif(one.motif) for one in work.plan.motifs if one.motif}
    return frozenset((name, part.key) for name, kind in kinds.items() for part in kind.parts if part.wet is Wet.PULLED)


def _is(job: PaintJob, parts: frozenset[tuple[str, str]]) -> bool:
    """Return whether a job is of one of these parts of motifs."""
    within = job.id.split("/")[1]
    return any(job.part == name and within.startswith(part) for name, part in parts)


def _glitter(
    work: Work, glitter: PaintJob, below: list[PaintJob], films: Films, rate: float, ordering: Ordering
) -> Iterator[Lag]:
    """Glitter sticks while the last film under it is tacky; or it is the last touch of its chart."""
    last = ordering.glitter is GlitterWhen.LAST
    below = [job for job in below if job.kind is not StepKind.GLITTER]
    for lower in work.jobs:
        if last and lower.chart == glitter.chart and lower.kind is not StepKind.GLITTER:
            yield Lag(lower.id, glitter.id, 0.0, math.inf, Why.LAST, "glitter is the last touch")
    if last or not below:
        return
    for lower in below[:-1]:
        yield Lag(lower.id, glitter.id, 0.0, math.inf, Why.TACKY, f"{glitter.name} goes over {lower.name}")
    top = below[-1]
    opens, closes = films.time_to(TACKY, top.id, glitter.id, rate), films.time_to(DRY, top.id, glitter.id, rate)
    words = f"{glitter.name} sticks while {top.name} is tacky, {opens:.0f} to {about_seconds_text(closes)} after it"
    yield Lag(top.id, glitter.id, math.ceil(opens * 10) / 10, math.floor(closes * 10) / 10, Why.TACKY, words)


def _whites(work: Work, films: Films, ordering: Ordering) -> Iterator[Lag]:
    """White lights before black lines or after them, on one chart."""
    if ordering.whites is Whites.FREE:
        return
    lines = [job for job in work.jobs if job.kind in LINE_KINDS]
    light = [job for job in lines if films.lightness(job.id) >= LIGHT_L]
    dark = [job for job in lines if films.lightness(job.id) <= DARK_L]
    first, second, why = (light, dark, Why.LIGHT) if ordering.whites is Whites.BEFORE else (dark, light, Why.DARK)
    for one in first:
        for other in second:
            if one.chart == other.chart:
                yield Lag(one.id, other.id, 0.0, math.inf, why, f"{one.name} before {other.name}: {why.value}")


def _nose(work: Work, ordering: Ordering, order: _Order) -> Iterator[Lag]:
    """What is laid by the nose comes after all loaded strokes on the head that need not wait for some of it.

    Line work, stencils and glitter come late by themselves: they wait for paint to dry.
    """
    if not ordering.nose_last:
        return
    heads = {key for key in {job.chart for job in work.jobs} if key == SKIN or chart_of(work.plan, key).zones}
    late = [job for job in work.jobs if "nostril" in job.near]
    for job in work.jobs:
        if job in late or job.kind is not StepKind.STROKES or job.chart not in heads:
            continue
        if any(order.has(other.id, job.id) for other in late):
            continue
        for other in late:
            words = f"{other.name} lies by the nose, which tickles: late and quick"
            yield Lag(job.id, other.id, 0.0, math.inf, Why.NOSE, words)


def _leftovers(work: Work) -> Iterator[Lag]:
    """A stroke that goes on with a leftover comes after the stroke that leaves it."""
    if not work.plan.strokes or dict(work.painted).keys() != {SKIN}:
        return
    owner = {name: job for job in work.jobs for name in job.strokes}
    for stroke in work.plan.strokes:
        before = stroke.recipe.after
        if before in owner and owner[before] is not owner[stroke.id]:
            words = f"{stroke.name} goes on with what {before} leaves"
            yield Lag(owner[before].id, owner[stroke.id].id, 0.0, math.inf, Why.OWN, words)
    for earlier, later in zip(work.plan.strokes, work.plan.strokes[1:], strict=False):
        if later.wait_s > 0 and owner[earlier.id] is not owner[later.id]:
            words = f"you wait {later.wait_s:.0f} s before {later.name}"
            yield Lag(owner[earlier.id].id, owner[later.id].id, round(later.wait_s, 1), math.inf, Why.OWN, words)


def _own(work: Work, films: Films, rate: float, ordering: Ordering) -> Iterator[Lag]:
    """The painter's own rules between parts."""
    for rule in ordering.rules:
        if rule.earlier == rule.later:
            continue  # about rows that lie over each other
        earlier = [job for job in work.jobs if job.part == rule.earlier]
        later = [job for job in work.jobs if job.part == rule.later]
        for one in earlier:
            for other in later:
                yield from _ruled(one, other, rule.kind, films, rate)


def _ruled(one: PaintJob, other: PaintJob, kind: RuleKind, films: Films, rate: float) -> Iterator[Lag]:
    if kind is RuleKind.AFTER:
        yield Lag(one.id, other.id, 0.0, math.inf, Why.OWN, f"{one.name} before {other.name}: your own rule")
    elif kind is RuleKind.DRY:
        least = math.ceil(films.time_to(DRY, one.id, other.id, rate) * 10) / 10
        words = f"{one.name} dries for {about_seconds_text(least)} before {other.name}: your own rule"
        yield Lag(one.id, other.id, least, math.inf, Why.OWN, words)
    elif kind is RuleKind.WET:
        most = math.floor(films.time_to(TACKY, one.id, other.id, rate) * 10) / 10
        words = f"{other.name} while {one.name} is wet, within {about_seconds_text(most)}: your own rule"
        yield Lag(one.id, other.id, 0.0, most, Why.OWN, words)
