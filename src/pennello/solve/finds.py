"""What a search for a load may change, and the loads that it found, laid for real."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import Comparison, compare
from pennello.aim.hand import Hand
from pennello.aim.quick import Forecast
from pennello.aim.state import State, state_of
from pennello.colour.basis import FULL
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Near, Paint
from pennello.lay.laying import Laid
from pennello.load.recipe import Recipe
from pennello.phrases import phrase
from pennello.solve.candidates import Candidate
from pennello.solve.forgiveness import Forgiveness, forgive
from pennello.solve.kit import AtHand

Report = Callable[[float, str], None]
Show = Callable[[tuple["Find", ...]], None]

_LAID_PX_PER_MM = 2.0


@dataclass(frozen=True, slots=True)
class Filters:
    """What may be changed: all the kit, or only some of it."""

    only_cake: str = ""
    one_visit: bool = False
    keep_brush: bool = False
    near: Near = Near.SKIN


@dataclass(frozen=True, slots=True, eq=False)
class Find:
    """A load that was found, laid for real.

    Attributes
    ----------
    first
        The visit as it was searched for; its figures are those of an even coat.
    recipe, brush, cakes
        The load itself, and what it needs.
    costs
        What it takes beyond the present load, in words.
    forgiveness
        How many tries hold, or None before they are made.
    """

    first: Candidate
    recipe: Recipe
    brush: Applicator
    cakes: tuple[Cake, ...]
    attempt: Attempt
    laid: Laid
    seen: Comparison
    state: State
    costs: tuple[str, ...]
    forgiveness: Forgiveness | None = None

    def without_films(self) -> Find:
        """Return it for whoever offers it: it is told of and taken as before, without its films, which are large."""
        depths, flat = np.empty((0, 0, 0), np.float32), np.empty((0, 0), np.float32)
        bare = replace(self.laid.film, kx=depths, sx=depths, thickness_um=flat, coverage=flat)
        return replace(self, laid=replace(self.laid, film=bare, even=bare))

    @property
    def mean_de00(self) -> float:
        """Mean difference of the laid stroke from the wish."""
        return self.seen.mean_de00

    @property
    def holds_share(self) -> float:
        """Share of tries that hold, or NaN before they are made."""
        return self.forgiveness.share if self.forgiveness else math.nan


@dataclass(frozen=True, slots=True, eq=False)
class FoundLoads:
    """What a search found, best first."""

    finds: tuple[Find, ...]
    searched: int
    left_out: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class Asked:
    """What a search is asked for.

    Attributes
    ----------
    brushes
        Which are tried, the present one first.
    top
        How many loads are laid for real at most.
    report, show
        Are told how far it is and what is best so far; both may raise to stop.
    """

    plan: Plan
    stroke: PlanStroke
    brushes: tuple[Applicator, ...]
    hand_kit: AtHand
    rules: Filters
    top: int
    report: Report
    show: Show


class NoLoadError(PennelloError):
    """No load can be found, with the reason and the remedy."""


def ranked(finds: Sequence[Find]) -> tuple[Find, ...]:
    """Return finds nearest first; of those alike, the one that takes less."""
    return tuple(sorted(finds, key=lambda one: (one.mean_de00 + 0.15 * len(one.costs), one.first.cake)))


def with_tries(find: Find, hand: Hand, tries: int) -> Find:
    """Return the find with its forgiveness."""
    forecast = Forecast(find.attempt, find.laid.edge, find.seen)
    return replace(find, forgiveness=forgive(find.attempt, hand, max(tries, 10), start=(find.laid, forecast)))


class Layer:
    """Lays candidates for a stroke for real."""

    def __init__(self, plan: Plan, stroke: PlanStroke, hand_kit: AtHand) -> None:
        self._plan, self.stroke = plan, stroke
        self.cakes: dict[str, Cake] = {cake.id: cake for cake in (*plan.cakes, *hand_kit.cakes)}
        self.brushes: dict[str, Applicator] = {
            **{brush.id: brush for brush in hand_kit.brushes},
            stroke.brush: plan.brush(stroke.brush),
        }
        self.paints: dict[str, Paint] = {**hand_kit.by_name, **plan.paints_by_id}

    def find(self, one: Candidate, recipe: Recipe, px_per_mm: float = _LAID_PX_PER_MM) -> Find:
        """Return the candidate laid for real."""
        stroke = self.stroke
        cakes = tuple(self.cakes[name] for name in recipe.cakes)
        attempt = Attempt(
            recipe,
            stroke.stroke,
            self.brushes[one.brush],
            {cake.id: cake for cake in cakes},
            self.paints,
            stroke.wanted,
            skin_spectrum(self._plan.skin),
            stroke.rim,
        )
        laid = attempt.lay(px_per_mm, FULL)
        seen = compare(laid, attempt)
        costs = tuple(self._costs(recipe, one))
        return Find(one, recipe, attempt.brush, cakes, attempt, laid, seen, state_of(seen, stroke.wanted), costs)

    def _costs(self, recipe: Recipe, one: Candidate) -> Iterator[str]:
        stroke = self.stroke
        if one.brush != stroke.brush:
            yield phrase("the {brushes} instead", brushes=self.brushes[one.brush].name)
        new = [name for name in recipe.cakes if name not in {cake.id for cake in self._plan.cakes}]
        if new:
            yield phrase("{cakes} from the kit", cakes=self.cakes[new[0]].name)
        if len(recipe.pickups) > 1:
            yield phrase("a second visit")
        if len(recipe.cakes) > 1:
            yield phrase("a second cake")
        if stroke.recipe.after:
            yield phrase("a rinse first")
