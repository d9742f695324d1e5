"""Other colours for the same design: each cake of a plan goes over onto another one so that its relations stay.

What has to stay is how light each place is against the others (a light rim, a dark heel) and how far neighbours stand
apart; the colours themselves may change, and should. Common practice, no published source; the weights are defaults.
"""

from __future__ import annotations

import heapq
import itertools
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import edge_lab
from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.design.edits import with_cake, with_stroke
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.wishing import wish_for_edge
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint, optics
from pennello.load.pickup import met_shares
from pennello.load.recipe import PickUp
from pennello.solve.candidates import composition_of, offsets_of
from pennello.solve.coats import coat_lab
from pennello.solve.kit import AtHand

Array = NDArray[np.floating[Any]]

BEST = 3
_PLACES = 16
_OF_EACH = 8
_LIGHT, _APART, _ALIKE = 1.0, 0.5, 12.0
"""Weight of lightness and of neighbours' contrast, and how far colours should at least move, mean dE00 (defaults)."""


@dataclass(frozen=True, slots=True)
class Mapped:
    """A cake that takes another's place: where the brush goes for each stroke, and how well relations stay."""

    cake: Cake
    places: tuple[tuple[str, float, bool], ...]
    strain: float
    moved_de00: float


@dataclass(frozen=True, slots=True)
class Colourway:
    """A whole mapping: for each cake of the plan the one that takes its place, and how much it strains relations.

    `staying` are cakes that nothing can take the place of. `strain` is the
    mean departure of lightness steps and neighbours' contrasts, in dE-like units: 0 keeps all.
    """

    name: str
    cakes: tuple[tuple[str, Mapped], ...]
    strain: float
    staying: tuple[str, ...] = ()

    @property
    def ids(self) -> dict[str, str]:
        """New cake by old cake."""
        return {old: mapped.cake.id for old, mapped in self.cakes}


class NoColourwayError(PennelloError):
    """There are no other cakes to go over to."""


def colourways(
    plan: Plan,
    hand_kit: AtHand,
    best: int = BEST,
    report: Callable[[float, str], None] = lambda _, __: None,
) -> tuple[Colourway, ...]:
    """Return other colours for a plan, the ones that keep its relations best first, no cake used twice where it can be.

    Raises
    ------
    NoColourwayError
        If no cake at hand could take the place of one in use.
    """
    paints = {**hand_kit.by_name, **{paint.id: paint for paint in plan.paints}}
    optics(tuple(paints[name] for cake in hand_kit.cakes for name in cake.paints))
    used = [name for name in dict.fromkeys(_cake_of(stroke) for stroke in plan.strokes) if name]
    if not used:
        raise NoColourwayError("No stroke of this plan is loaded from a cake; load one from a cake first.")
    ranked: dict[str, list[Mapped]] = {}
    for number, name in enumerate(used):
        report(number / len(used), f"looking for cakes in the place of {plan.cake(name).name}")
        strokes = [stroke for stroke in plan.strokes if _cake_of(stroke) == name]
        found = [
            mapped
            for cake in hand_kit.cakes
            if cake.id not in used and (mapped := _mapped(plan, strokes, cake, paints)) is not None
        ]
        ranked[name] = sorted(found, key=_rank)[:_OF_EACH]
    staying = [name for name in used if not ranked[name]]
    if len(staying) == len(used):
        raise NoColourwayError(
            f"No other cake at hand can take the place of {plan.cake(staying[0]).name}: none is as wide as its brush "
            "and may be used there. Add cakes at the Tray."
        )
    for name in staying:
        del ranked[name]
    return tuple(_named(paints, way, number, tuple(staying)) for number, way in enumerate(_ways(ranked, best), 1))


def with_colourway(plan: Plan, way: Colourway, paints: Mapping[str, Paint]) -> Plan:
    """Return the plan in other colours; each stroke then wishes for what its new load lays."""
    for _, mapped in way.cakes:
        plan = with_cake(plan, mapped.cake, tuple(paints[name] for name in mapped.cake.paints))
        for name, offset, flip in mapped.places:
            stroke = plan.stroke(name)
            pickups = list(stroke.recipe.pickups)
            at = stroke.recipe.main
            pickups[at] = replace(pickups[at], cake=mapped.cake.id, offset_mm=offset, flip=flip)
            plan = with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, pickups=tuple(pickups))))
    known = {paint.id: paint for paint in plan.paints}
    for _, mapped in way.cakes:
        for name, *_ in mapped.places:
            stroke, edge = plan.stroke(name), plan.edge(name)
            looks = edge_lab(edge, known, skin_spectrum(plan.skin), stroke.wanted.coat_um)
            plan = with_stroke(plan, replace(stroke, wanted=replace(wish_for_edge(edge, stroke.wanted, looks), end=())))
    return plan


def _cake_of(stroke: PlanStroke) -> str:
    return stroke.recipe.pickups[stroke.recipe.main].cake if stroke.recipe.pickups else ""


def _rank(one: Mapped) -> float:
    """Return strain, with a fine for colours that hardly move."""
    return one.strain + max(0.0, _ALIKE - one.moved_de00)


def _mapped(plan: Plan, strokes: Sequence[PlanStroke], cake: Cake, paints: Mapping[str, Paint]) -> Mapped | None:
    """Return a cake in the place of another for all strokes loaded from that, or None if it cannot be."""
    places, strains, moved = [], [], []
    skin = skin_spectrum(plan.skin)
    for stroke in strokes:
        brush = plan.brush(stroke.brush)
        pickup = stroke.recipe.pickups[stroke.recipe.main]
        if not all(paints[name].allowed(stroke.near) for name in cake.paints):
            return None
        offsets = offsets_of(cake, brush)
        if not len(offsets):
            return None
        eye = _Eye(brush, paints, skin, stroke.wanted.coat_um)
        old = eye.sees(pickup, plan.cake(pickup.cake))
        tried = [
            (float(offset), flip, eye.sees(replace(pickup, cake=cake.id, offset_mm=float(offset), flip=flip), cake))
            for offset in offsets[:: 1 if len(offsets) < 30 else 2]
            for flip in (False, True)
        ]
        strain = [_strain(old, new) for *_, new in tried]
        at = int(np.argmin(strain))
        places.append((stroke.id, tried[at][0], tried[at][1]))
        strains.append(strain[at])
        moved.append(float(ciede2000(old, tried[at][2]).mean()))
    return Mapped(cake, tuple(places), float(np.mean(strains)), float(np.mean(moved)))


@dataclass(frozen=True, slots=True, eq=False)
class _Eye:
    """Sees what a brush lays on a skin, whatever the cake."""

    brush: Applicator
    paints: Mapping[str, Paint]
    skin: Array
    coat_um: float

    def sees(self, pickup: PickUp, cake: Cake) -> Array:
        """Return a coat of what a pick-up meets as L*, a*, b*, shape (16, 3)."""
        shares, _ = met_shares(pickup, cake, self.brush)
        names, composition = composition_of(cake)
        thinned = shares.reshape(len(cake.stripes), _PLACES, -1).mean(axis=2).T
        constants = optics(tuple(self.paints[name] for name in names))
        return coat_lab(thinned @ composition, constants, self.coat_um, self.skin)


def _strain(old: Array, new: Array) -> float:
    """Return how much relations change: lightness against the mean, and contrast of neighbours a quarter apart."""
    light = np.abs((new[:, 0] - new[:, 0].mean()) - (old[:, 0] - old[:, 0].mean())).mean()
    step = _PLACES // 4
    apart = [ciede2000(lab[step:], lab[:-step]) for lab in (old, new)]
    contrast = np.abs(apart[0] - apart[1]).mean()
    return float(_LIGHT * light + _APART * contrast)


def _ways(ranked: Mapping[str, Sequence[Mapped]], best: int) -> Iterator[dict[str, Mapped]]:
    """Give whole mappings, least strain first, each with no cake twice and none for the same cake as one before."""
    names = list(ranked)
    combos = _in_order(names, ranked)
    taken: dict[str, set[str]] = {name: set() for name in names}
    spare: list[dict[str, Mapped]] = []
    given = 0
    for way in itertools.islice(combos, 4000):
        ids = [way[name].cake.id for name in names]
        if len(set(ids)) < min(len(ids), len({one.cake.id for row in ranked.values() for one in row})):
            continue
        if any(way[name].cake.id in taken[name] for name in names):
            spare.append(way)
            continue
        for name in names:
            taken[name].add(way[name].cake.id)
        yield way
        given += 1
        if given == best:
            return
    for way in spare[: best - given]:
        yield way


def _in_order(names: Sequence[str], ranked: Mapping[str, Sequence[Mapped]]) -> Iterator[dict[str, Mapped]]:
    """Give all combinations, cheapest first."""
    start = tuple(0 for _ in names)
    heap, seen = [(_price(names, ranked, start), start)], {start}
    while heap:
        _, at = heapq.heappop(heap)
        yield {name: ranked[name][index] for name, index in zip(names, at, strict=True)}
        for number in range(len(names)):
            if at[number] + 1 < len(ranked[names[number]]):
                after = (*at[:number], at[number] + 1, *at[number + 1 :])
                if after not in seen:
                    seen.add(after)
                    heapq.heappush(heap, (_price(names, ranked, after), after))


def _price(names: Sequence[str], ranked: Mapping[str, Sequence[Mapped]], at: Sequence[int]) -> float:
    return sum(_rank(ranked[name][index]) for name, index in zip(names, at, strict=True))


def _named(paints: Mapping[str, Paint], way: dict[str, Mapped], number: int, staying: tuple[str, ...]) -> Colourway:
    """Return the mapping with a name by its colours, by their chroma: warm, cool or mixed, dark or light, a number."""
    labs = np.array([hex_to_lab(paints[stripe.paint].srgb) for one in way.values() for stripe in one.cake.stripes])
    chroma, hue = np.hypot(labs[:, 1], labs[:, 2]), np.degrees(np.arctan2(labs[:, 2], labs[:, 1]))
    warm = float(chroma[(hue > -45) & (hue < 100)].sum() / max(float(chroma.sum()), 1e-9))
    light = float(labs[:, 0].mean())
    tone = "dark " if light < 35 else "light " if light > 68 else ""
    word = "grey" if chroma.mean() < 8 else "warm" if warm > 0.75 else "cool" if warm < 0.3 else "mixed"
    strain = float(np.mean([one.strain for one in way.values()]))
    return Colourway(f"{number} {tone}{word}", tuple(way.items()), strain, staying)
