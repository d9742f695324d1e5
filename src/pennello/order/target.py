"""Which parts of a design fit into a time: all that must be there, and the best-looking rest.

Choosing by value against seconds is the knapsack problem (Dantzig 1957); since loads and waits depend on what else is
painted, every choice is timed as it would be painted. Up to ten free parts all choices are tried.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

from pennello.design.ordering import Priority
from pennello.order.job import PaintJob
from pennello.order.pace import StepKind

MOST_TRIED = 10
SKIP_SHARE = 0.5
"""What a part marked "skip" counts against one marked "nice" (a default)."""

SPARKLE = 1.5
"""What a cm2 of glitter counts against one of paint (a default)."""


@dataclass(frozen=True, slots=True)
class Choice:
    """Which parts are painted, how long they take, s, how much of the look they give, and what is left out.

    Attributes
    ----------
    instead
        Where what must be there takes too long: the parts that would fit if nothing had to be there.
    """

    parts: tuple[str, ...]
    left_out: tuple[str, ...]
    total_s: float
    value: float
    fits: bool
    instead: tuple[str, ...] = ()

    def words(self, names: Mapping[str, str] | None = None) -> tuple[str, ...]:
        """Return sentences about what does not fit; names are what parts are called, by id."""
        called = names or {}

        def listed(parts: Sequence[str]) -> str:
            return ", ".join(called.get(name, name) for name in parts)

        told = [] if self.fits else ["What must be there takes longer than your time."]
        if self.left_out:
            told.append(f"Left out for the time: {listed(self.left_out)}.")
        if self.instead:
            spared = [name for name in self.parts if name not in self.instead]
            told.append(f"It fits without {listed(spared)}: mark that as nice.")
        elif not self.fits:
            told.append("No part of it fits.")
        return tuple(told)


@dataclass(frozen=True, slots=True)
class TargetPart:
    """A part of a design: whether it must be there, what it adds, and its seconds alone, with and without its loads."""

    id: str
    priority: Priority
    value: float
    seconds: float
    least_s: float = 0.0

    @property
    def value_per_s(self) -> float:
        """What it adds a second."""
        return self.value / max(self.seconds, 0.1)


def parts_of(jobs: Sequence[PaintJob]) -> tuple[TargetPart, ...]:
    """Return the parts of a design in order; the value is painted area in cm2 times the painter's worth."""
    found: dict[str, list[PaintJob]] = {}
    for job in jobs:
        found.setdefault(job.part, []).append(job)
    return tuple(
        TargetPart(
            name,
            group[0].priority,
            round(
                sum(job.area_cm2 * (SPARKLE if job.kind is StepKind.GLITTER else 1.0) for job in group)
                * group[0].worth
                * (SKIP_SHARE if group[0].priority is Priority.SKIP else 1.0),
                3,
            ),
            round(sum(job.load_s + job.pull_s for job in group), 1),
            sum(job.pull_s for job in group),
        )
        for name, group in found.items()
    )


def choose(
    jobs: Sequence[PaintJob],
    target_s: float,
    timed: Callable[[frozenset[str]], float],
    needs: Sequence[tuple[str, str]] = (),
) -> Choice:
    """Return the parts to paint within a time.

    Parameters
    ----------
    timed
        How long a set of parts takes, s, as it would be painted.
    needs
        Pairs (part, part that it needs): glitter needs what it sticks to.
    """
    parts = parts_of(jobs)
    must = frozenset(part.id for part in parts if part.priority is Priority.MUST)
    free = [part for part in parts if part.priority is not Priority.MUST]
    value = {part.id: part.value for part in parts}
    least = {part.id: part.least_s for part in parts}
    times: dict[frozenset[str], float] = {}

    def seconds(chosen: frozenset[str]) -> float:
        if chosen not in times:
            times[chosen] = timed(chosen)
        return times[chosen]

    def whole(chosen: frozenset[str]) -> bool:
        return all(need in chosen for part, need in needs if part in chosen)

    def best_of(kept: frozenset[str], rest: Sequence[TargetPart]) -> frozenset[str]:
        tried = _all(kept, rest) if len(rest) <= MOST_TRIED else _greedy(kept, rest, target_s, seconds, whole)
        by_value = sorted(filter(whole, tried), key=lambda chosen: -sum(value[name] for name in chosen))
        quick = (one for one in by_value if sum(least[name] for name in one) <= target_s)
        return next((one for one in quick if seconds(one) <= target_s), kept)

    fits = seconds(must) <= target_s
    best = best_of(must, free) if fits else must
    instead = frozenset[str]() if fits else best_of(frozenset(), parts)
    return Choice(
        tuple(part.id for part in parts if part.id in best),
        tuple(part.id for part in parts if part.id not in best),
        seconds(best),
        round(sum(value[name] for name in best), 3),
        fits,
        tuple(part.id for part in parts if part.id in instead),
    )


def _all(must: frozenset[str], free: Sequence[TargetPart]) -> list[frozenset[str]]:
    names = [part.id for part in free]
    return [must | set(group) for size in range(len(names) + 1) for group in combinations(names, size)]


def _greedy(
    must: frozenset[str],
    free: Sequence[TargetPart],
    target_s: float,
    seconds: Callable[[frozenset[str]], float],
    whole: Callable[[frozenset[str]], bool],
) -> list[frozenset[str]]:
    """Return choices that grow by value a second, and the same with one swapped for another."""
    chosen = must
    for part in sorted(free, key=lambda one: -one.value_per_s):
        grown = chosen | {part.id}
        if whole(grown) and seconds(grown) <= target_s:
            chosen = grown
    found = [must, chosen]
    out = [part.id for part in free if part.id not in chosen]
    for left in out:
        for taken in [part.id for part in free if part.id in chosen]:
            swapped = (chosen - {taken}) | {left}
            if whole(swapped) and seconds(swapped) <= target_s:
                found.append(swapped)
    return found
