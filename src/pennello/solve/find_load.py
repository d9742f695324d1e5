"""Which of the loads at hand lays what a stroke should look like: every visit, then touches, then laid for real."""

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
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.paint import Near
from pennello.lay.laying import Laid, pull
from pennello.load.recipe import LEAST_HAND_DRIFT_MM, Before, PickUp, Recipe, Way
from pennello.solve.candidates import BLENDS_MM, Candidate, Tried, search
from pennello.solve.coats import goal_for, laid_um
from pennello.solve.forgiveness import Forgiveness, forgive
from pennello.solve.kit import AtHand, NothingAtHandError

Report = Callable[[float, str], None]
Show = Callable[[tuple["Find", ...]], None]

TOP = 8
_LAID_PX_PER_MM = 2.0
_TOUCHED = 3
_TOUCH_PARTS = (0.15, 0.25, 0.4)
_TOUCH_PASSES = 2.0
_SLIDES_MM, _BROADER = (-0.4, -0.3, -0.2, -0.1, 0.0, 0.1, 0.2, 0.3, 0.4), (0.8, 1.25)
_SIZES = (0.7, 1.4)
"""Share of the present brush's width that another one may have."""


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
    holds_share
        Share of tries that hold, or NaN before they are made.
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

    @property
    def mean_de00(self) -> float:
        """Mean difference of the laid stroke from the wish."""
        return self.seen.mean_de00

    @property
    def holds_share(self) -> float:
        """Share of tries that hold, or NaN before they are made."""
        return self.forgiveness.share if self.forgiveness else math.nan


@dataclass(frozen=True, slots=True, eq=False)
class Board:
    """What a search found, best first."""

    finds: tuple[Find, ...]
    searched: int
    left_out: tuple[str, ...] = ()


class NoLoadError(PennelloError):
    """No load can be found, with the reason and the remedy."""


def find_load(
    plan: Plan,
    name: str,
    hand_kit: AtHand,
    filters: Filters | None = None,
    top: int = TOP,
    report: Report = lambda _, __: None,
    show: Show = lambda _: None,
    tries: int = 120,
) -> Board:
    """Return the best loads for a stroke.

    Parameters
    ----------
    hand_kit
        What may be used.
    top
        How many to lay and return at most.
    report, show
        Are told how far it is and what is best so far; both may raise to stop.
    tries
        Tries of the forgiveness of each, 0 to leave it out.

    Raises
    ------
    NoLoadError
        If nothing at hand can load this stroke.
    """
    rules, stroke = filters or Filters(), plan.stroke(name)
    cakes = _cakes(hand_kit, rules)
    here = plan.brush(stroke.brush)
    if plan.axis(stroke.id) is GradientAxis.ALONG:
        raise NoLoadError(
            f"{stroke.name} is laid with a dip, whose gradient runs along the print; change its load to a sweep first."
        )
    brushes = _brushes(stroke, here, hand_kit, rules)
    paints = {**hand_kit.by_name, **{paint.id: paint for paint in plan.paints}}
    skin, wetness = skin_spectrum(plan.skin), _main(stroke).wetness
    mixing = math.sqrt(wetness.mixing_mm**2 * _main(stroke).passes)
    tried = [
        Tried(
            brush,
            goal_for(stroke.wanted, brush.width_mm, paints, skin),
            laid_um(stroke.stroke, brush, GradientAxis.ACROSS, wetness.solids),
            BLENDS_MM,
            mixing,
        )
        for brush in brushes
    ]
    found = search(cakes, tried, paints, skin, lambda part: report(0.4 * part, "looking through the cakes"))
    if not found.found:
        wide = min(brush.width_mm for brush in brushes)
        raise NoLoadError(f"No cake here is as wide as the brush ({wide:.1f} mm); take a narrower brush.")
    builder = _Builder(plan, stroke, hand_kit, rules)
    finds: list[Find] = []
    for number, leader in enumerate(_varied(found.found, max(top, 1))):
        report(0.4 + 0.3 * number / top, "laying the best for real")
        finds.append(builder.polished(builder.find(leader, builder.recipe(leader))))
        show(ranked(finds))
    if not rules.one_visit:
        for number, one in enumerate(ranked(finds)[:_TOUCHED]):
            report(0.7 + 0.1 * number / _TOUCHED, "trying touches with a corner")
            finds += builder.touched(one, cakes)
            show(ranked(finds))
    best = list(ranked(finds)[:top])
    for number, one in enumerate(best if tries else ()):
        report(0.8 + 0.2 * number / len(best), "trying each with a hand's slips")
        best[number] = with_tries(one, plan.hand, tries)
        show(tuple(best))
    return Board(tuple(best), found.searched, hand_kit.left_out)


def ranked(finds: Sequence[Find]) -> tuple[Find, ...]:
    """Return finds nearest first; of those alike, the one that takes less."""
    return tuple(sorted(finds, key=lambda one: (one.mean_de00 + 0.15 * len(one.costs), one.first.cake)))


def with_tries(find: Find, hand: Hand, tries: int) -> Find:
    """Return the find with its forgiveness."""
    forecast = Forecast(find.attempt, find.laid.edge, find.seen)
    return replace(find, forgiveness=forgive(find.attempt, hand, max(tries, 10), start=(find.laid, forecast)))


def _cakes(hand_kit: AtHand, rules: Filters) -> tuple[Cake, ...]:
    cakes = tuple(cake for cake in hand_kit.cakes if rules.only_cake in ("", cake.id))
    if cakes:
        return cakes
    if rules.only_cake:
        raise NoLoadError(f"The cake '{rules.only_cake}' is not at hand or may not be used here; choose another one.")
    why = f" ({hand_kit.left_out[0]})" if hand_kit.left_out else ""
    raise NothingAtHandError(f"There is no cake that may be used here{why}; add a cake at the Tray.")


def _main(stroke: PlanStroke) -> PickUp:
    return stroke.recipe.pickups[stroke.recipe.main] if stroke.recipe.pickups else PickUp(cake="-")


_SWEPT = {ApplicatorKind.FLAT, ApplicatorKind.ANGLE}


def _brushes(stroke: PlanStroke, here: Applicator, hand_kit: AtHand, rules: Filters) -> list[Applicator]:
    """Return the present brush and those of its kind whose size the stroke allows."""
    if rules.keep_brush:
        return [here]
    alike = _SWEPT if here.kind in _SWEPT else {here.kind}
    low, high = (share * here.width_mm for share in _SIZES)
    most = 2 * _tightest_mm(stroke) if not stroke.stroke.wiggle.count else math.inf
    others = [
        brush
        for brush in hand_kit.brushes
        if brush.id != here.id and brush.kind in alike and low <= brush.width_mm <= min(high, max(most, here.width_mm))
    ]
    return [here, *others]


def _tightest_mm(stroke: PlanStroke) -> float:
    """Return the smallest radius that the middle of the edge turns by, mm; a pivoting stroke turns by none."""
    track = pull(stroke.stroke, Applicator("-", "-", 10.0), GradientAxis.ACROSS).track
    ahead = np.diff(track.centre, axis=0)
    steps = np.hypot(*ahead.T)
    turn = np.abs(np.diff(np.unwrap(np.arctan2(ahead[:, 1], ahead[:, 0]))))
    bent = np.divide(steps[1:], turn, out=np.full(len(turn), math.inf), where=turn > 1e-6)
    return float(np.quantile(np.minimum(bent, 1e6), 0.05)) if len(bent) else math.inf


def _varied(found: Sequence[Candidate], most: int) -> list[Candidate]:
    """Return the leaders with no more than two of a cake, and those not nearly the same place."""
    taken: list[Candidate] = []
    for one in found:
        same = [other for other in taken if other.cake == one.cake]
        near = any(
            other.brush == one.brush and other.flip is one.flip and abs(other.offset_mm - one.offset_mm) < 2
            for other in same
        )
        if len(same) < 2 and not near:
            taken.append(one)
        if len(taken) == most:
            break
    return taken


class _Builder:
    """Makes loads of candidates and lays them."""

    def __init__(self, plan: Plan, stroke: PlanStroke, hand_kit: AtHand, rules: Filters) -> None:
        self._plan, self._stroke, self._rules = plan, stroke, rules
        self._cakes = {**{cake.id: cake for cake in plan.cakes}, **{cake.id: cake for cake in hand_kit.cakes}}
        self._brushes = {**{brush.id: brush for brush in hand_kit.brushes}, stroke.brush: plan.brush(stroke.brush)}
        self._paints = {**hand_kit.by_name, **{paint.id: paint for paint in plan.paints}}

    def recipe(self, one: Candidate) -> Recipe:
        """Return the load of one visit; a brush that went on with a leftover is rinsed of it."""
        main = _main(self._stroke)
        pickup = replace(
            main,
            cake=one.cake,
            pan=(),
            offset_mm=one.offset_mm,
            flip=one.flip,
            drift_mm=one.drift_mm,
            skew_deg=0.0,
            part=(0.0, 1.0),
            before=Before.KEEP,
            way=main.way if main.way in (Way.SWEEP, Way.PRESS) else Way.SWEEP,
            passes=max(main.passes, 3 * self._brushes[one.brush].fill_passes),
            face=self._stroke.recipe.lays,
        )
        return Recipe((pickup,), lays=self._stroke.recipe.lays)

    def find(self, one: Candidate, recipe: Recipe, px_per_mm: float = _LAID_PX_PER_MM) -> Find:
        """Return the candidate laid for real."""
        stroke = self._stroke
        cakes = tuple(self._cakes[name] for name in recipe.cakes)
        attempt = Attempt(
            recipe,
            stroke.stroke,
            self._brushes[one.brush],
            {cake.id: cake for cake in cakes},
            self._paints,
            stroke.wanted,
            skin_spectrum(self._plan.skin),
            stroke.rim,
        )
        laid = attempt.lay(px_per_mm, FULL)
        seen = compare(laid, attempt)
        costs = tuple(self._costs(recipe, one))
        return Find(one, recipe, attempt.brush, cakes, attempt, laid, seen, state_of(seen, stroke.wanted), costs)

    def polished(self, find: Find) -> Find:
        """Return the find with the brush slid by tenths of a mm and swept a little straighter or broader, if nearer."""
        forecast, main = Forecast(find.attempt, find.laid.edge, find.seen), find.recipe.pickups[-1]
        recipes = [
            replace(find.recipe, pickups=(replace(main, offset_mm=round(main.offset_mm + by, 2), drift_mm=drift),))
            for by in _SLIDES_MM
            for drift in dict.fromkeys(
                (main.drift_mm, *(max(round(main.drift_mm * part, 2), LEAST_HAND_DRIFT_MM) for part in _BROADER))
            )
        ]
        rated = forecast.differences(recipes).mean(axis=(1, 2))
        at = int(rated.argmin())
        if rated[at] > rated[recipes.index(find.recipe)] - 0.03:
            return find
        nearer = self.find(find.first, recipes[at])
        return nearer if nearer.mean_de00 < find.mean_de00 else find

    def _costs(self, recipe: Recipe, one: Candidate) -> Iterator[str]:
        stroke = self._stroke
        if one.brush != stroke.brush:
            yield f"the {self._brushes[one.brush].name} instead"
        new = [name for name in recipe.cakes if name not in {cake.id for cake in self._plan.cakes}]
        if new:
            yield f"{self._cakes[new[0]].name} from the kit"
        if len(recipe.pickups) > 1:
            yield "a second visit"
        if len(recipe.cakes) > 1:
            yield "a second cake"
        if stroke.recipe.after:
            yield "a rinse first"

    def touched(self, base: Find, cakes: Sequence[Cake]) -> list[Find]:
        """Return the best load with one corner touched to another stripe afterwards, if that comes nearer."""
        forecast = Forecast(base.attempt, base.laid.edge, base.seen)
        recipes = list(_touches(base.recipe, base.brush, cakes))
        if not recipes:
            return []
        names = {name for recipe in recipes for name in recipe.cakes}
        forecast.widen({name: self._cakes[name] for name in names})
        rated = [forecast.mean_de00(recipe) for recipe in recipes]
        at = int(np.argmin(rated))
        if rated[at] > base.mean_de00 - 0.2:
            return []
        find = self.find(base.first, recipes[at])
        return [find] if find.mean_de00 < base.mean_de00 - 0.2 else []


def _touches(recipe: Recipe, brush: Applicator, cakes: Sequence[Cake]) -> Iterator[Recipe]:
    """Give loads with a last sweep or two of one corner over each paint at hand, from the present cake if it has it."""
    main = recipe.pickups[-1]
    here = [cake for cake in cakes if cake.id == main.cake]
    seen: set[str] = set()
    for cake in [*here, *cakes]:
        for stripe, middle in zip(cake.stripes, cake.middles_mm, strict=True):
            if stripe.paint in seen or stripe.hollow_mm >= cake.depth_mm or stripe.width_mm < 2:
                continue
            seen.add(stripe.paint)
            for part in _TOUCH_PARTS:
                for span in ((0.0, part), (1 - part, 1.0)):
                    centre = (span[0] + span[1]) / 2 * brush.width_mm
                    touch = replace(
                        main,
                        cake=cake.id,
                        offset_mm=round(middle - centre, 2),
                        flip=False,
                        passes=_TOUCH_PASSES,
                        part=span,
                        drift_mm=min(main.drift_mm, 0.5),
                    )
                    yield replace(recipe, pickups=(*recipe.pickups, touch))
