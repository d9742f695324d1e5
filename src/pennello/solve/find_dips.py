"""Loads of pans and single stripes, one after another: tip dips of rounds and petal brushes, and side loads.

A dip's gradient runs along the print: the whole brush goes into the paint of the belly, then less and less of it into
the others. A side load is rolled in one paint, and one side of it then lies on another. Which paints, how deep and
which side: all that the wish leaves in question are tried with the edge model, those that lead are laid for real.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from pennello.aim.quick import Forecast
from pennello.aim.wish import Stop
from pennello.design.plan import skin_spectrum
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Portion
from pennello.kit.paint import optics
from pennello.load.edge import load
from pennello.load.recipe import WHOLE_EDGE, Before, PickUp, Recipe, Way, Wetness
from pennello.phrases import phrase
from pennello.solve.candidates import Candidate
from pennello.solve.coats import SAMPLES, Goal, coat_lab, goal_for, laid_um
from pennello.solve.finds import Asked, Find, Layer
from pennello.solve.kit import AtHand, NothingAtHandError

_PAINTS_EACH = {1: 8, 2: 5, 3: 3}
_FEWEST_EACH = 2
_DEPTHS = (-0.1, 0.0, 0.1)
_SIDES = (0.3, 0.6, 1.0)
_POLISHED = (-0.15, -0.1, -0.05, -0.025, 0.025, 0.05, 0.1, 0.15)
_LEAST_PART = 0.05


@dataclass(frozen=True, slots=True)
class _Pot:
    """Where a paint is taken from: a pan, or a stripe of a cake that the brush fits into."""

    paint: str
    pickup: PickUp


Rated = tuple[Candidate, Recipe]
"""A load, and how far an even coat of it is from the wish."""


def rated_dips(asked: Asked) -> list[Rated]:
    """Return loads of dips, or of a side, for a stroke that is laid with one, nearest first.

    Raises
    ------
    NothingAtHandError
        If no paint at hand may be used.
    """
    layer = Layer(asked.plan, asked.stroke, asked.hand_kit)
    tried = [rated for brush in asked.brushes for rated in _Tries(asked, brush, layer).candidates()]
    return sorted(tried, key=lambda one: one[0].mean_de00)


def laid_dips(asked: Asked, tried: Sequence[Rated]) -> Iterator[Find]:
    """Give the loads that lead, laid for real and polished."""
    layer = Layer(asked.plan, asked.stroke, asked.hand_kit)
    for candidate, recipe in _varied(tried, asked.top):
        yield _polished(layer, layer.find(candidate, recipe))


def _varied(tried: Sequence[Rated], top: int) -> list[Rated]:
    """Return those that lead, each of other paints or another brush than those before."""
    taken: dict[tuple[str, tuple[str, ...]], Rated] = {}
    for candidate, recipe in tried:
        taken.setdefault((candidate.brush, (*recipe.pan_paints, *map(_place, recipe.pickups))), (candidate, recipe))
        if len(taken) == max(top, 1):
            break
    return list(taken.values())


def _place(pickup: PickUp) -> str:
    return f"{pickup.cake} {pickup.offset_mm}"


class _Tries:
    """Loads of one brush."""

    def __init__(self, asked: Asked, brush: Applicator, layer: Layer) -> None:
        plan, stroke = asked.plan, asked.stroke
        self._stroke, self._brush, self._layer, self._rules = stroke, brush, layer, asked.rules
        self._dips = plan.axis(stroke.id) is GradientAxis.ALONG
        self._axis = GradientAxis.ALONG if self._dips else GradientAxis.ACROSS
        self._skin = skin_spectrum(plan.skin)
        own = stroke.recipe.laid
        solids = (own[0].wetness if own else Wetness.CREAMY).solids
        self._coat = laid_um(stroke.stroke, brush, self._axis, solids)
        self._goal: Goal = goal_for(stroke.wanted, brush.edge_mm(self._axis), layer.paints, self._skin)
        self._body, self._touch = self._habits(own)
        self._pots = tuple(self._all_pots(asked.hand_kit))
        if not self._pots:
            raise NothingAtHandError(phrase("There is no paint at hand that may be used here; add paints at the Tray."))

    def candidates(self) -> list[Rated]:
        """Return all loads with how far an even coat of them is from the wish."""
        recipes = dict.fromkeys(self._dipped() if self._dips else self._sided())
        return [(self._rated(recipe), recipe) for recipe in recipes]

    def _habits(self, own: Sequence[PickUp]) -> tuple[PickUp, PickUp]:
        """Return how the painter takes the body and the touches: as in the present load, else as is usual."""
        fill = round(3 * self._brush.fill_passes)
        empty = (Portion("-", 1.0),)
        body = PickUp(pan=empty, passes=fill, way=Way.DIP if self._dips else Way.ROLL)
        touch = PickUp(pan=empty, passes=fill, way=Way.DIP, before=Before.BLOT, wetness=Wetness.WET)
        if not self._dips:
            touch = PickUp(pan=empty, passes=self._brush.fill_passes, way=Way.SIDE)
        mine = [one for one in own if one.way is body.way and one.whole]
        others = [one for one in own if one.way is touch.way and not one.whole]
        body = replace(body, passes=max(mine[0].passes, fill), wetness=mine[0].wetness) if mine else body
        if others:
            touch = replace(touch, passes=others[-1].passes, wetness=others[-1].wetness, before=others[-1].before)
        lays = self._stroke.recipe.lays
        return replace(body, face=lays), replace(touch, face=lays)

    def _all_pots(self, hand_kit: AtHand) -> Iterator[_Pot]:
        """Give each paint once: from the pan, or where only some cakes may be used from a stripe of theirs."""
        seen: set[str] = set()
        if hand_kit.pans and not self._rules.only_cake:
            for paint in hand_kit.stock:
                if paint.allowed(self._rules.near):
                    seen.add(paint.id)
                    yield _Pot(paint.id, PickUp(pan=(Portion(paint.id, 1.0),)))
        for cake in hand_kit.cakes:
            if self._rules.only_cake in ("", cake.id):
                for stripe, middle in zip(cake.stripes, cake.middles_mm, strict=True):
                    if stripe.paint not in seen and stripe.hollow_mm < cake.depth_mm:
                        seen.add(stripe.paint)
                        offset = round(middle - self._brush.width_mm / 2, 2)
                        yield _Pot(stripe.paint, PickUp(cake=cake.id, offset_mm=offset))

    def _nearest(self, at: slice, count: int) -> list[_Pot]:
        """Return the paints whose coats come nearest to what is wanted over places of the edge."""
        constants = optics(tuple(self._layer.paints[pot.paint] for pot in self._pots))
        coats = coat_lab(np.eye(len(self._pots)), constants, self._coat, self._skin)
        goals = np.repeat(coats[:, None], SAMPLES, axis=1)
        far = self._goal.difference(goals)[:, at].mean(axis=1)
        return [self._pots[n] for n in np.argsort(far, kind="stable")[:count]]

    def _dipped(self) -> Iterator[Recipe]:
        """Give the loads of one dip for each colour wanted, from the belly to the tip, and of one dip alone."""
        for pot in self._nearest(slice(None), _PAINTS_EACH[1]):
            yield self._recipe((pot,), ())
        stops = _merged(self._stroke.wanted.stops)
        if self._rules.one_visit or len(stops) < 2:
            return
        ends = [stop.to_u for stop in stops]
        zones = [
            slice(int(low * SAMPLES), max(int(high * SAMPLES), int(low * SAMPLES) + 1))
            for low, high in itertools.pairwise([0.0, *ends])
        ]
        each = _PAINTS_EACH.get(len(stops), _FEWEST_EACH)
        pots: list[Sequence[_Pot]] = [self._nearest(zone, each) for zone in zones]
        if len(stops) == 2:  # what lies over another paint mixes with it: it need not look as it comes out
            pots[0] = self._pots
        shifts = _DEPTHS if len(stops) < 4 else (0.0,)
        for chosen in itertools.product(*pots):
            for by in shifts:
                depths = [min(max(end + by, _LEAST_PART), 1.0) for end in ends[:-1]]
                yield self._recipe(chosen, depths)

    def _sided(self) -> Iterator[Recipe]:
        """Give the loads of a body and a side."""
        ends = slice(0, SAMPLES // 4), slice(-(SAMPLES // 4), None)
        for pot in self._nearest(slice(None), _PAINTS_EACH[1]):
            yield self._recipe((pot,), ())
        if self._rules.one_visit:
            return
        for on_b, body_at in enumerate(reversed(ends)):
            for body, side, part in itertools.product(self._nearest(body_at, _PAINTS_EACH[2]), self._pots, _SIDES):
                yield self._side(body, side, (1.0 - part, 1.0) if on_b else (0.0, part))

    def _recipe(self, pots: Sequence[_Pot], depths: Sequence[float]) -> Recipe:
        """Return dips: the last paint for all of the brush, then one after another less deep."""
        body = self._taken(self._body, pots[-1], WHOLE_EDGE)
        rest = [
            self._taken(self._touch, pot, (0.0, round(depth, 3)))
            for pot, depth in reversed(list(zip(pots[:-1], depths, strict=True)))
        ]
        return Recipe((body, *rest), lays=self._stroke.recipe.lays)

    def _side(self, body: _Pot, side: _Pot, part: tuple[float, float]) -> Recipe:
        pickups = (self._taken(self._body, body, WHOLE_EDGE), self._taken(self._touch, side, part))
        return Recipe(pickups, lays=self._stroke.recipe.lays)

    @staticmethod
    def _taken(habit: PickUp, pot: _Pot, part: tuple[float, float]) -> PickUp:
        place = pot.pickup
        return replace(habit, cake=place.cake, pan=place.pan, offset_mm=place.offset_mm, part=part)

    def _rated(self, recipe: Recipe) -> Candidate:
        edge = load(recipe, {name: self._layer.cakes[name] for name in recipe.cakes}, self._brush)
        shares = edge.share.reshape(len(edge.paints), SAMPLES, -1).mean(axis=2).T
        constants = optics(tuple(self._layer.paints[name] for name in edge.paints))
        far = self._goal.difference(coat_lab(shares, constants, self._coat, self._skin))
        first = recipe.pickups[0]
        mean, p95 = float(far.mean()), float(np.quantile(far, 0.95))
        return Candidate(first.cake, self._brush.id, first.offset_mm, first.flip, first.drift_mm, mean, p95)


def _merged(stops: Sequence[Stop]) -> list[Stop]:
    """Return stops with those of one colour that follow each other as one."""
    found: list[Stop] = []
    for stop in stops:
        if found and (found[-1].paint, found[-1].srgb) == (stop.paint, stop.srgb):
            found[-1] = stop
        else:
            found.append(stop)
    return found


def _polished(layer: Layer, find: Find) -> Find:
    """Return the find with the last dip a little deeper or less deep, the side a little wider or less, if nearer."""
    if len(find.recipe.pickups) < 2:
        return find
    *before, last = find.recipe.pickups
    moved: Callable[[float], tuple[float, float]] = lambda by: (  # noqa: E731
        (0.0, min(max(last.part[1] + by, _LEAST_PART), 1.0))
        if last.part[0] == 0
        else (min(max(last.part[0] - by, 0.0), 1 - _LEAST_PART), 1.0)
    )
    recipes = [
        find.recipe,
        *(replace(find.recipe, pickups=(*before, replace(last, part=moved(by)))) for by in _POLISHED),
    ]
    rated = Forecast(find.attempt, find.laid.edge, find.seen).differences(recipes).mean(axis=(1, 2))
    at = int(rated.argmin())
    if not at or rated[at] > rated[0] - 0.03:
        return find
    nearer = layer.find(find.first, recipes[at])
    return nearer if nearer.mean_de00 < find.mean_de00 else find
