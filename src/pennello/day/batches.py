"""Batches: in which order those who wait are painted so that loads and changes are saved, and nobody waits too long.

Sequence-dependent setups on one machine (Pinedo); all orders up to eight people, beyond that a greedy order that is
there at once, improved by moving one person at a time. No one is passed by more people, and no one waits longer, than
the painter allows.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise, permutations

from pennello.day.event import Event, Guest, MenuItem

LOAD_S = 12.0
"""A brush that is loaded for the first time, s (a default, as at the chair)."""

MOST_ALL = 8
"""So many people are tried in all orders."""


@dataclass(frozen=True, slots=True)
class Fairness:
    """What the painter allows.

    Attributes
    ----------
    passed_by
        How many who came later may be painted before somebody.
    longest_s
        How long somebody may wait until painting begins, from when they came; who has waited longer already goes by
        the order in which they came.
    """

    passed_by: int = 3
    longest_s: float = 1800.0


@dataclass(frozen=True, slots=True)
class Batch:
    """An order of people: their ids, the seconds until all are painted, and what the order of coming would take."""

    order: tuple[str, ...]
    seconds: float
    as_they_came_s: float
    proved: bool

    @property
    def saved_s(self) -> float:
        """What it saves, s."""
        return self.as_they_came_s - self.seconds


def setup_s(before: MenuItem | None, item: MenuItem) -> float:
    """Return how long loading takes for a design after another: a first load for each brush that is not ready so."""
    ready = set(before.loads) if before is not None else set()
    return LOAD_S * len(set(item.loads) - ready)


def batched(event: Event, now_s: float, fair: Fairness, last: str = "") -> Batch:
    """Return the best order of those who wait and have chosen.

    Parameters
    ----------
    now_s
        The moment, s after the event began.
    last
        The design that is painted now, whose loads are ready after it; "" for none.
    """
    waiting = [one for one in event.guests if one.state.value == "waiting" and one.item]
    came = sorted(waiting, key=lambda one: (one.came_s, one.id))
    task = _Task(event, now_s, fair, tuple(came), event.item(last) if last else None)
    usual = tuple(range(len(came)))
    if len(came) <= MOST_ALL:
        best = min((one for one in permutations(usual) if task.allowed(one)), key=task.key, default=usual)
        proved = True
    else:
        best, proved = _improved(task, _greedy(task)), False
    return Batch(tuple(came[number].id for number in best), task.seconds(best), task.seconds(usual), proved)


@dataclass(frozen=True, slots=True)
class _Task:
    event: Event
    now_s: float
    fair: Fairness
    people: tuple[Guest, ...]
    last: MenuItem | None

    def item(self, number: int) -> MenuItem:
        return self.event.item(self.people[number].item)

    def begins(self, order: Sequence[int]) -> list[float]:
        """Return when each is begun, s from now, in the order."""
        now, before, found = 0.0, self.last, []
        for number in order:
            item = self.item(number)
            found.append(now)
            now += setup_s(before, item) + _painting(item, short=self.people[number].short)
            before = item
        return found

    def seconds(self, order: Sequence[int]) -> float:
        """Return how long all take."""
        if not order:
            return 0.0
        items = [self.item(number) for number in order]
        setups = setup_s(self.last, items[0]) + sum(setup_s(one, two) for one, two in pairwise(items))
        return setups + sum(_painting(self.item(number), short=self.people[number].short) for number in order)

    def key(self, order: Sequence[int]) -> tuple[float, float]:
        """Return what an order is chosen by: how long all take, then how far it is from the order of coming."""
        return self.seconds(order), float(sum(abs(at - number) for at, number in enumerate(order)))

    def allowed(self, order: Sequence[int]) -> bool:
        """Return whether nobody is passed by more people, or waits longer, than is fair."""
        for at, (number, begins) in enumerate(zip(order, self.begins(order), strict=True)):
            if at - number > self.fair.passed_by:
                return False
            waited = self.now_s - self.people[number].came_s + begins
            if at > number and waited > self.fair.longest_s:
                return False
        return True


def _painting(item: MenuItem, *, short: bool) -> float:
    """Return how long a design takes without its loads, s."""
    return max(item.seconds(short=short) - LOAD_S * len(item.loads), 5.0)


def _greedy(task: _Task) -> tuple[int, ...]:
    """Return an order that takes next who needs least loading, as long as the rest may wait."""
    order: list[int] = []
    rest = list(range(len(task.people)))
    before = task.last
    while rest:
        ranked = sorted(rest, key=lambda number, was=before: (setup_s(was, task.item(number)), number))  # type: ignore[misc]
        for number in ranked:
            others = [one for one in rest if one != number]
            if number == rest[0] or task.allowed((*order, number, *others)):
                order.append(number)
                rest = others
                before = task.item(number)
                break
    return tuple(order)


def _improved(task: _Task, order: tuple[int, ...]) -> tuple[int, ...]:
    """Return an order that moving one person makes no better."""
    best = order
    better = True
    while better:
        better = False
        for at in range(len(best)):
            rest = best[:at] + best[at + 1 :]
            for to in range(len(best)):
                tried = (*rest[:to], best[at], *rest[to:])
                if task.seconds(tried) < task.seconds(best) - 1e-9 and task.allowed(tried):
                    best, better = tried, True
                    break
            if better:
                break
    return best
