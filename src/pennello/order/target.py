"""Which parts of a design fit into a time: all that must be there, and the best-looking rest.

Choosing by value against seconds is the knapsack problem (Dantzig 1957); since loads and waits depend on what else is
painted, every choice is timed as it would be painted. Up to ten free parts all choices are tried.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import combinations

from pennello.design.ordering import Priority
from pennello.design.pace import StepKind
from pennello.order.job import PaintJob
from pennello.phrases import phrase

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

        told = [] if self.fits else [phrase("What must be there takes longer than your time.")]
        if self.left_out:
            told.append(phrase("Left out for the time: {listed}.", listed=listed(self.left_out)))
        if self.instead:
            spared = [name for name in self.parts if name not in self.instead]
            told.append(phrase("It fits without {listed}: mark that as nice.", listed=listed(spared)))
        elif not self.fits:
            told.append(phrase("No part of it fits."))
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
    search = _Search({part.id: part for part in parts}, target_s, timed, needs)
    must = frozenset(part.id for part in parts if part.priority is Priority.MUST)
    free = [part for part in parts if part.id not in must]
    fits = search.fits(must)
    best = search.best_of(must, free) if fits else must
    instead = frozenset[str]() if fits else search.best_of(frozenset(), parts)
    return Choice(
        tuple(part.id for part in parts if part.id in best),
        tuple(part.id for part in parts if part.id not in best),
        search.seconds(best),
        round(search.value(best), 3),
        fits,
        tuple(part.id for part in parts if part.id in instead),
    )


class _Search:
    """The choices of parts within a time; each set of them is timed once."""

    def __init__(
        self,
        parts: Mapping[str, TargetPart],
        target_s: float,
        timed: Callable[[frozenset[str]], float],
        needs: Sequence[tuple[str, str]],
    ) -> None:
        self._parts, self._target_s, self._needs = parts, target_s, needs
        self.seconds = cache(timed)

    def value(self, chosen: frozenset[str]) -> float:
        """Return what a choice adds to the look."""
        return sum(self._parts[name].value for name in chosen)

    def fits(self, chosen: frozenset[str]) -> bool:
        """Return whether a choice is painted in time."""
        return self.seconds(chosen) <= self._target_s

    def best_of(self, kept: frozenset[str], rest: Sequence[TargetPart]) -> frozenset[str]:
        """Return the choice of most value that is painted in time and has what it needs, or what is kept."""
        tried = _all(kept, rest) if len(rest) <= MOST_TRIED else self._greedy(kept, rest)
        by_value = sorted(filter(self._whole, tried), key=lambda chosen: -self.value(chosen))
        quick = (one for one in by_value if sum(self._parts[name].least_s for name in one) <= self._target_s)
        return next(filter(self.fits, quick), kept)

    def _whole(self, chosen: frozenset[str]) -> bool:
        return all(need in chosen for part, need in self._needs if part in chosen)

    def _greedy(self, must: frozenset[str], free: Sequence[TargetPart]) -> list[frozenset[str]]:
        """Return choices that grow by value a second, and the same with one swapped for another."""
        chosen = must
        for part in sorted(free, key=lambda one: -one.value_per_s):
            grown = chosen | {part.id}
            if self._whole(grown) and self.fits(grown):
                chosen = grown
        found = [must, chosen]
        out = [part.id for part in free if part.id not in chosen]
        for left in out:
            for taken in [part.id for part in free if part.id in chosen]:
                swapped = (chosen - {taken}) | {left}
                if self._whole(swapped) and self.fits(swapped):
                    found.append(swapped)
        return found


def _all(must: frozenset[str], free: Sequence[TargetPart]) -> list[frozenset[str]]:
    names = [part.id for part in free]
    return [must | set(group) for size in range(len(names) + 1) for group in combinations(names, size)]
