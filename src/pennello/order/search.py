"""Finding a good order: a list scheduler at once, restarts that improve it, and all orders for a few jobs.

List scheduling by priority rules (Graham 1969), insertion moves with ruin and recreate (Schrimpf et al. 2000), and
branch and bound over sequences for up to nine jobs.
"""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Sequence

from pennello.breath import breathe
from pennello.order.bound import least_setups, lower_bound, tails
from pennello.order.problem import NEVER, START, Problem, Timing, time_order
from pennello.phrases import phrase

MOST_EXACT = 9
"""Up to so many jobs the best order is found for certain."""

RESTARTS_S = 1.0
Report = Callable[[float, str], None]
Clock = Callable[[], float]

_LOOKS = 40
_RULES = ((1.0, 0.0), (1.0, 0.3), (1.0, 1.0), (0.3, 1.0), (2.0, 0.1))
_MANY = 60
"""Weights of setups and of what hangs on a job; where there are more jobs the first three have to do."""


def better(one: Timing, other: Timing | None) -> bool:
    """Return whether an order is to be preferred: the lower cost, then the shorter time."""
    return other is None or (one.cost, one.total) < (other.cost, other.total)


def first_order(problem: Problem, own: Sequence[int] = ()) -> Timing:
    """Return the best of a few priority rules, and of the painter's own order if it is given: within milliseconds."""
    rests = tails(problem)
    best: Timing | None = time_order(problem, own) if own else None
    for weight_setup, weight_tail in _RULES if problem.count <= _MANY else _RULES[:3]:
        found = time_order(problem, _listed(problem, rests, weight_setup, weight_tail))
        if better(found, best):
            best = found
    assert best is not None
    return best


def _listed(problem: Problem, rests: Sequence[int], weight_setup: float, weight_tail: float) -> list[int]:
    """Return an order by taking, each time, the job that can start soonest, less what hangs on it."""
    setup, lasts, before = problem.setup, problem.lasts, problem.before
    waits, opens = [len(row) for row in before], _opened(problem)
    ready = [job for job, count in enumerate(waits) if not count]
    ends = [0] * problem.count
    order: list[int] = []
    now, last = 0, START
    while ready:
        best, best_key, best_start = -1, 0.0, 0
        for job in sorted(ready):
            start = now + setup[last][job]
            closes = NEVER
            for one, least, most in before[job]:
                start = max(start, ends[one] + least)
                closes = min(closes, ends[one] + most)
            urgent = -2000.0 if closes < NEVER and start <= closes < start + 400 else 0.0
            key = weight_setup * (start - now) + problem.dislike[last][job] - weight_tail * rests[job] + urgent
            if best < 0 or key < best_key:
                best, best_key, best_start = job, key, start
        order.append(best)
        ready.remove(best)
        for job in opens[best]:
            waits[job] -= 1
            if not waits[job]:
                ready.append(job)
        ends[best] = now = best_start + lasts[best]
        last = best
    return order


def _opened(problem: Problem) -> list[list[int]]:
    """Return for each job those that must come after it, each as often as it is told."""
    found: list[list[int]] = [[] for _ in problem.before]
    for job, row in enumerate(problem.before):
        for one, _, _ in row:
            found[one].append(job)
    return found


# --- all orders ---


def exact_order(problem: Problem, start: Timing) -> Timing:
    """Return the best of all lawful orders by branch and bound, for up to nine jobs or little freedom."""
    branches = _Branches(problem, start)
    branches.grow(frozenset(range(problem.count)), sum(problem.lasts) + sum(branches.least_setup))
    return branches.best


class _Branches:
    """The best order so far, and the one that is grown; a function that calls itself by name would be in a ring."""

    def __init__(self, problem: Problem, start: Timing) -> None:
        self._problem, self.best = problem, start
        self.least_setup, self._rests = least_setups(problem), tails(problem)
        self._order: list[int] = []

    def grow(self, left: frozenset[int], work: int) -> None:
        """Put each job that is left next, unless no order of that begin can be better; `work` is theirs, s."""
        problem, order = self._problem, self._order
        if not left:
            found = time_order(problem, order)
            if better(found, self.best):
                self.best = found
            return
        part = time_order(problem, order) if order else None
        now = part.starts[order[-1]] + problem.lasts[order[-1]] if part else 0
        paid = part.cost - part.total if part and not problem.windows else 0
        chain = max(problem.lasts[job] + self._rests[job] for job in left)
        if now + max(work, chain) + problem.tail + paid > self.best.cost:
            return
        last = order[-1] if order else START
        ready = [job for job in left if all(one not in left for one, _, _ in problem.before[job])]
        for job in sorted(ready, key=lambda one: problem.setup[last][one] - self._rests[one]):
            order.append(job)
            self.grow(left - {job}, work - problem.lasts[job] - self.least_setup[job])
            order.pop()


# --- restarts ---


def improved(
    problem: Problem,
    start: Timing,
    seconds: float = RESTARTS_S,
    seed: int = 1,
    report: Report | None = None,
    found: Callable[[Timing], None] | None = None,
    clock: Clock = time.monotonic,
) -> Timing:
    """Return a better order, or the same: insertion moves from many starts until the time is up.

    Parameters
    ----------
    seconds
        How long to look. It ends before that when the order is as short as the lower bound.
    report
        Called with the share of the time that has passed; may raise to stop.
    found
        Called with each order that is better than all before.
    """
    if problem.count < 2:
        return start
    rng = random.Random(seed)
    floor = lower_bound(problem)
    begun = clock()
    best = here = _descended(problem, start, rng, lambda: clock() - begun > seconds)
    if found is not None and better(best, start):
        found(best)
    stale = 0
    while best.cost > floor:
        passed = clock() - begun
        if report is not None:
            report(min(passed / seconds, 1.0), phrase("{total:.0f} s so far", total=best.total / 10))
        if passed > seconds:
            break
        broken = _recreated(problem, here, rng)
        tried = _descended(problem, broken, rng, lambda: clock() - begun > seconds)
        if better(tried, here) or rng.random() < 0.03:
            here = tried
        stale = 0 if better(tried, best) else stale + 1
        if better(tried, best):
            best = tried
            if found is not None:
                found(best)
        elif stale > _LOOKS:
            here, stale = best, 0
    return best


def _descended(problem: Problem, start: Timing, rng: random.Random, done: Callable[[], bool]) -> Timing:
    """Return an order that moving no single job, and no two neighbours together, makes better."""
    here = start
    better_found = True
    while better_found and not done():
        better_found = False
        jobs = list(here.order)
        rng.shuffle(jobs)
        for job in jobs:
            if done():
                break
            for length in (1, 2, 3):
                moved = _best_place(problem, here, job, length)
                if moved is not None:
                    here, better_found = moved, True
    return here


def _best_place(problem: Problem, here: Timing, job: int, length: int) -> Timing | None:
    """Return the order with a job, and so many after it, at the best other place; None where none is better."""
    breathe()
    at = here.order.index(job)
    block = here.order[at : at + length]
    if len(block) < length:
        return None
    rest = [one for one in here.order if one not in block]
    first, last = _span(problem, rest, block)
    best: Timing | None = None
    for place in range(first, last + 1):
        if place != at:
            tried = time_order(problem, [*rest[:place], *block, *rest[place:]])
            if better(tried, best or here):
                best = tried
    return best


def _span(problem: Problem, rest: Sequence[int], block: Sequence[int]) -> tuple[int, int]:
    members = set(block)
    after = frozenset().union(*(problem.after[job] for job in block))
    first = max((place + 1 for place, one in enumerate(rest) if not problem.after[one].isdisjoint(members)), default=0)
    last = min((place for place, one in enumerate(rest) if one in after), default=len(rest))
    return first, last


def _recreated(problem: Problem, here: Timing, rng: random.Random) -> Timing:
    """Return the order with some jobs taken out and each put back where it costs least for now."""
    count = problem.count
    out = rng.sample(range(count), min(count, rng.randint(2, max(2, min(8, count // 3)))))
    order = [job for job in here.order if job not in out]
    rng.shuffle(out)
    for job in out:
        first, last = _span(problem, order, (job,))
        places = list(range(first, last + 1))
        if not places:
            return here
        order.insert(min(places, key=lambda place: (_added(problem, order, job, place), rng.random())), job)
    return time_order(problem, order)


def _added(problem: Problem, order: Sequence[int], job: int, place: int) -> int:
    """Return what setups a job adds between two others."""
    one = order[place - 1] if place else START
    added = problem.setup[one][job] + problem.dislike[one][job]
    if place < len(order):
        added += problem.setup[job][order[place]] - problem.setup[one][order[place]]
        added += problem.dislike[job][order[place]] - problem.dislike[one][order[place]]
    return added
