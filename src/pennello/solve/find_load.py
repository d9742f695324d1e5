"""Which of the loads at hand lays what a stroke should look like: every visit, then touches, then laid for real."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from pennello.aim.quick import Forecast
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.cake import Cake
from pennello.lay.laying import pull
from pennello.load.recipe import LEAST_HAND_DRIFT_MM, Before, PickUp, Recipe, Way
from pennello.phrases import phrase
from pennello.solve.candidates import BLENDS_MM, Candidate, Tried, search
from pennello.solve.coats import goal_for, laid_um
from pennello.solve.find_dips import laid_dips, rated_dips
from pennello.solve.finds import (
    Asked,
    Filters,
    Find,
    FoundLoads,
    Layer,
    NoLoadError,
    Report,
    Show,
    ranked,
    with_tries,
)
from pennello.solve.kit import AtHand, NothingAtHandError

TOP = 8
_TOUCHED = 3
_TOUCH_PARTS = (0.15, 0.25, 0.4)
_TOUCH_PASSES = 2.0
_SLIDES_MM, _BROADER = (-0.4, -0.3, -0.2, -0.1, 0.0, 0.1, 0.2, 0.3, 0.4), (0.8, 1.25)
_SIZES = (0.7, 1.4)
"""Share of the present brush's width that another one may have."""


def find_load(
    plan: Plan,
    name: str,
    hand_kit: AtHand,
    filters: Filters | None = None,
    top: int = TOP,
    report: Report = lambda _, __: None,
    show: Show = lambda _: None,
    tries: int = 120,
) -> FoundLoads:
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
    brushes = _brushes(stroke, plan.brush(stroke.brush), hand_kit, rules)
    asked = Asked(plan, stroke, tuple(brushes), hand_kit, rules, max(top, 1), report, show)
    sided = any(pickup.way is Way.SIDE for pickup in stroke.recipe.laid)
    dipped = plan.axis(stroke.id) is GradientAxis.ALONG
    finds, searched = _from_dips(asked) if sided or dipped else _from_sweeps(asked)
    best = list(ranked(finds)[:top])
    for number, one in enumerate(best if tries else ()):
        report(0.8 + 0.2 * number / len(best), phrase("trying each with a hand's slips"))
        best[number] = with_tries(one, plan.hand, tries)
        show(tuple(best))
    return FoundLoads(tuple(best), searched, hand_kit.left_out)


def _from_dips(asked: Asked) -> tuple[list[Find], int]:
    """Return loads of dips or of a side, and how many were looked at."""
    finds: list[Find] = []
    asked.report(0.1, phrase("trying the paints"))
    tried = rated_dips(asked)
    for number, find in enumerate(laid_dips(asked, tried), 1):
        finds.append(find)
        asked.report(0.4 + 0.4 * number / asked.top, phrase("laying the best for real"))
        asked.show(ranked(finds))
    return finds, len(tried)


def _from_sweeps(asked: Asked) -> tuple[list[Find], int]:
    """Return loads swept from the cakes, and how many places were looked at."""
    plan, stroke, hand_kit = asked.plan, asked.stroke, asked.hand_kit
    cakes = _cakes(hand_kit, asked.rules)
    paints = {**hand_kit.by_name, **plan.paints_by_id}
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
        for brush in asked.brushes
    ]
    found = search(
        cakes, tried, paints, skin, lambda part: asked.report(0.4 * part, phrase("looking through the cakes"))
    )
    if not found.found:
        wide = min(brush.width_mm for brush in asked.brushes)
        raise NoLoadError(
            phrase("No cake here is as wide as the brush ({wide:.1f} mm); take a narrower brush.", wide=wide)
        )
    builder = _Builder(plan, stroke, hand_kit)
    finds: list[Find] = []
    for number, leader in enumerate(_varied(found.found, asked.top)):
        asked.report(0.4 + 0.3 * number / asked.top, phrase("laying the best for real"))
        finds.append(builder.polished(builder.find(leader, builder.recipe(leader))))
        asked.show(ranked(finds))
    for number, one in enumerate(() if asked.rules.one_visit else ranked(finds)[:_TOUCHED]):
        asked.report(0.7 + 0.1 * number / _TOUCHED, phrase("trying touches with a corner"))
        finds += builder.touched(one, cakes)
        asked.show(ranked(finds))
    return finds, found.searched


def _cakes(hand_kit: AtHand, rules: Filters) -> tuple[Cake, ...]:
    cakes = tuple(cake for cake in hand_kit.cakes if rules.only_cake in ("", cake.id))
    if cakes:
        return cakes
    if rules.only_cake:
        raise NoLoadError(
            phrase(
                "The cake '{only_cake}' is not at hand or may not be used here; choose another one.",
                only_cake=rules.only_cake,
            )
        )
    why = f" ({hand_kit.left_out[0]})" if hand_kit.left_out else ""
    raise NothingAtHandError(phrase("There is no cake that may be used here{why}; add a cake at the Tray.", why=why))


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


class _Builder(Layer):
    """Makes loads of candidates and lays them."""

    def recipe(self, one: Candidate) -> Recipe:
        """Return the load of one visit; a brush that went on with a leftover is rinsed of it."""
        main = _main(self.stroke)
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
            passes=max(main.passes, 3 * self.brushes[one.brush].fill_passes),
            face=self.stroke.recipe.lays,
        )
        return Recipe((pickup,), lays=self.stroke.recipe.lays)

    def polished(self, find: Find) -> Find:
        """Return the find with the brush slid by tenths of a mm and swept a little straighter or broader, if nearer."""
        forecast, main = Forecast(find.attempt, find.laid.edge, find.seen), find.recipe.pickups[-1]
        recipes = [
            find.recipe
            if by == 0 and drift == main.drift_mm  # as it is: its own place need not be whole tenths of a mm
            else replace(find.recipe, pickups=(replace(main, offset_mm=round(main.offset_mm + by, 2), drift_mm=drift),))
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

    def touched(self, base: Find, cakes: Sequence[Cake]) -> list[Find]:
        """Return the best load with one corner touched to another stripe afterwards, if that comes nearer."""
        forecast = Forecast(base.attempt, base.laid.edge, base.seen)
        recipes = list(_touches(base.recipe, base.brush, cakes))
        if not recipes:
            return []
        names = {name for recipe in recipes for name in recipe.cakes}
        forecast.widen({name: self.cakes[name] for name in names})
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
