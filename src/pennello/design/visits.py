"""Visits to the paint: strokes that follow each other with one load share it until its habit says reload.

How long a load lasts comes from the film: a stroke of which n come from a load before one runs pale takes 1 / n of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import runs_pale
from pennello.breath import breathe
from pennello.colour.basis import small_basis
from pennello.design.plan import Plan, PlanStroke, Reload, Skin, skin_spectrum
from pennello.kept import kept_small, shelf_for, weight_of
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.lay.frame import own_frame
from pennello.lay.laying import runs_of
from pennello.lay.reservoir import LoadRun
from pennello.lay.stroke import Stroke
from pennello.load.edge import LoadedEdge
from pennello.load.recipe import Face, Recipe

MOST_FROM_ONE_LOAD = 12
"""So many strokes from one load are looked at; one that gives as many counts as giving just these."""

_BANDS = 8
_SLACK = 1e-9


def from_one_load(plan: Plan, name: str, most: int = MOST_FROM_ONE_LOAD) -> int:
    """Return how many trial strokes one load gives before one runs pale, at most `most`; 0 if the first does."""
    return _lasts(plan.attempt(name), name, most)


def lasting(plan: Plan, load: str, stroke: Stroke) -> int:
    """Return how many such strokes one load of the plan gives before one runs pale, 1 to 12.

    A stroke that one load does not bring to its end counts as one: it is loaded anew within it, or runs pale.
    """
    breathe()
    held = plan.stroke(load)
    source = held if held.recipe.pickups else replace(held, recipe=whole_load(plan, load).recipe)
    framed = own_frame(stroke)
    own, brush = framed[0] if framed else stroke, plan.brush(source.brush)
    used = source.recipe.cakes
    cakes = tuple(one for one in plan.cakes if one.id in used)
    rests_on = (held, brush, *cakes, plan.paints, plan.skin)
    key = (tuple(map(id, rests_on)), own)

    def counted() -> tuple[object, int]:
        wished = {stop.paint for stop in (*source.wanted.stops, *(source.wanted.end or ())) if stop.paint}
        paints_used = wished | paints_of(plan, source.recipe)
        paints = tuple(one for one in plan.paints if one.id in paints_used)
        bare = replace(source, id="", name="", recipe=replace(source.recipe, after=""), stroke=own)
        return rests_on, _lasting(bare, brush, cakes, paints, plan.skin)

    count: int = _known.again(key, counted)[1]
    return count


_known = shelf_for(6_000_000, lambda key, _: weight_of(key))
"""What was asked before, by the very objects that it rests on: hashing a plan's cakes takes a millisecond.

Those are not weighed: the strokes of a plan share them.
"""


def whole_load(plan: Plan, name: str) -> PlanStroke:
    """Return a load itself, or for one that goes on with a leftover the load that left it."""
    stroke = plan.stroke(name)
    while not stroke.recipe.pickups and stroke.recipe.after:
        stroke = plan.stroke(stroke.recipe.after)
    return stroke


def paints_of(plan: Plan, recipe: Recipe) -> set[str]:
    """Return the ids of all paints that a recipe can reach: of its pans, and of its cakes with what lies on them."""
    found = set(recipe.pan_paints)
    for name in recipe.cakes:
        for stripe in plan.cake(name).stripes:
            found |= {stripe.paint, *(portion.paint for portion in stripe.dirt)}
    return found


@kept_small
def _lasting(
    source: PlanStroke, brush: Applicator, cakes: tuple[Cake, ...], paints: tuple[Paint, ...], skin: Skin
) -> int:
    attempt = Attempt(
        source.recipe,
        source.stroke,
        brush,
        {one.id: one for one in cakes},
        {one.id: one for one in paints},
        source.wanted,
        skin_spectrum(skin),
        source.rim,
        None,
    )
    return max(_lasts(attempt, "load", MOST_FROM_ONE_LOAD), 1)


def _lasts(attempt: Attempt, name: str, most: int) -> int:
    """Return how many strokes come before one runs pale; what each finds in the brush is cheap, a look is not."""
    going_on = replace(attempt, recipe=Recipe((), after=name, lays=attempt.recipe.lays))
    found: list[LoadedEdge | None] = [None]

    def pale(number: int) -> bool:
        breathe()
        while len(found) < number:
            before = attempt if len(found) == 1 else replace(going_on, residue=found[-1])
            found.append(_runs(before)[-1].left_edge)
        tried = attempt if number == 1 else replace(going_on, residue=found[number - 1])
        return runs_pale(tried.lay(1.0, small_basis(_BANDS)), tried)

    if pale(1):
        return 0
    good, bad = 1, most + 1
    while bad - good > 1:
        middle = (good + bad) // 2
        good, bad = (good, middle) if pale(middle) else (middle, bad)
    return good


def _runs(attempt: Attempt) -> tuple[LoadRun, ...]:
    return runs_of(attempt.recipe, attempt.stroke, attempt.brush, attempt.cakes, attempt.residue)


# --- one after another ---


@dataclass(frozen=True, slots=True)
class ToLay:
    """A stroke that is to be laid.

    Attributes
    ----------
    load
        The load of the plan that it is laid with.
    share
        How much of one load it takes, 0 to 1; None to be worked out.
    """

    id: str
    load: str
    stroke: Stroke
    share: float | None = None


@dataclass(slots=True)
class _InHand:
    """What a face of the brush in the hand holds: of which load, after how many strokes, how much of it is spent."""

    load: str
    count: int = 0
    spent: float = 0.0


class Filling:
    """Goes along strokes in the order of painting and says what each is loaded with, or that it goes on.

    A brush that is put down goes into the rinse pot and comes back clean; one that stays in the hand goes on from one
    chart to the next. A sponge that is turned over keeps both faces. A load that goes on with the leftover of another
    one finds it where that was laid last with this brush; else it is loaded as that one is.
    """

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._brush, self._last = "", ""
        self._faces: dict[Face, _InHand] = {}

    def next(self, asked: ToLay) -> Recipe:
        """Return the recipe of the stroke that comes next; `after` in it names a stroke that was asked before."""
        load = self._plan.stroke(asked.load)
        if load.brush != self._brush:
            self._brush, self._last = load.brush, ""
            self._faces = {}
        held, share = self._faces.get(load.recipe.lays), self._share(load, asked)
        recipe = self._goes_on(load, held, share) if self._last else None
        if recipe is None:
            recipe = replace(whole_load(self._plan, load.id).recipe, after="", lays=load.recipe.lays)
            recipe = replace(recipe, after=self._kept(load))
        if recipe.pickups:
            self._faces[load.recipe.lays] = _InHand(load.id)
        held = self._faces.setdefault(load.recipe.lays, _InHand(load.id))
        held.load = load.id
        held.count += 1
        held.spent += share
        self._last = asked.id
        return recipe

    def _kept(self, load: PlanStroke) -> str:
        """Return the stroke whose leftover stays on the other face of a sponge while this one is loaded."""
        others = [face for face in self._faces if face is not load.recipe.lays]
        return self._last if others else ""

    def _goes_on(self, load: PlanStroke, held: _InHand | None, share: float) -> Recipe | None:
        if held is None:
            return None
        own, lays = load.recipe, load.recipe.lays
        if held.load != load.id:
            if own.after != held.load:
                return None
            return Recipe(own.pickups, after=self._last, lays=lays)  # it was made to follow that one
        if not self._lasts(load, held, share):
            return None
        return Recipe((), after=self._last, lays=lays)

    def _lasts(self, load: PlanStroke, held: _InHand, share: float) -> bool:
        match load.reload:
            case Reload.EACH:
                return False
            case Reload.NEVER:
                return True
            case Reload.COUNT:
                return held.count < load.reload_after
        return held.spent + share <= 1 + _SLACK

    def _share(self, load: PlanStroke, asked: ToLay) -> float:
        return share_of(self._plan, load, asked.stroke) if asked.share is None else asked.share


def share_of(plan: Plan, load: PlanStroke, stroke: Stroke) -> float:
    """Return how much of one load a stroke takes, 0 to 1; nothing where nobody asks, since its habit goes by counts."""
    return 1 / lasting(plan, load.id, stroke) if load.reload is Reload.PALE else 0.0


def filled(plan: Plan, asked: Iterable[ToLay]) -> Iterator[Recipe]:
    """Yield what each stroke is loaded with, in their order."""
    filling = Filling(plan)
    for one in asked:
        yield filling.next(one)
