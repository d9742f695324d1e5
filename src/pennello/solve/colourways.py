"""Other colours for the same design: whole mappings of its cakes and pans, named by what they lay."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import edge_lab
from pennello.colour.families import ColourFamily, families_of
from pennello.design.edits import with_cake, with_paints, with_stroke
from pennello.design.plan import Plan, skin_spectrum
from pennello.design.wishing import wish_for_edge
from pennello.errors import PennelloError
from pennello.kit.paint import Paint
from pennello.load.edge import LoadedEdge
from pennello.phrases import phrase
from pennello.solve.exchanges import COLOURFUL, Exchange, Exchanges
from pennello.solve.kit import AtHand

BEST = 3
_MORE_TRIES = 12
_AGAIN = 25.0
"""Fine for what was offered before (a default)."""

_NEVER, _TWICE, _TWICE_ASKED = 1e6, 15.0, 6.0
"""Price of what cannot be, and fines for one cake in the place of two, also where a colour is asked for (defaults)."""


@dataclass(frozen=True, slots=True)
class Colourway:
    """A whole mapping: for each cake and pan of the plan what takes its place, and how much it strains relations.

    Attributes
    ----------
    exchanged
        What comes from where now, by the id of the old cake or the paints of the old pan; the same name on both
        sides means that the brush moves on its own cake.
    staying
        What is loaded from as before.
    """

    name: str
    exchanged: tuple[tuple[str, Exchange], ...]
    strain: float
    staying: tuple[str, ...] = ()

    @property
    def ids(self) -> dict[str, str]:
        """New source by old source."""
        return {old: new.name for old, new in self.exchanged}


class NoColourwayError(PennelloError):
    """Nothing at hand could give other colours."""


def colourways(
    plan: Plan,
    hand_kit: AtHand,
    best: int = BEST,
    report: Callable[[float, str], None] = lambda _, __: None,
    *,
    colour: ColourFamily | None = None,
    strokes: Collection[str] = (),
) -> tuple[Colourway, ...]:
    """Return other colours for a plan, the ones that keep its relations best first, each named by what it lays.

    Parameters
    ----------
    best
        How many at most.
    colour
        What colour it should be; white, grey and black of the plan may stay.
    strokes
        Ids of the strokes whose loads may change; all when empty.

    Raises
    ------
    NoColourwayError
        If nothing is loaded from a cake or a pan, or nothing at hand could take the place of what is.
    UnknownNameError
        If a stroke is not in the plan.
    """
    search = Exchanges(plan, hand_kit, colour, tuple(map(plan.stroke, strokes)) or plan.strokes)
    sources = search.sources
    if not sources:
        raise NoColourwayError(phrase("Nothing here is loaded from a cake or a pan; load a stroke from one first."))
    ranked: dict[str, list[Exchange]] = {}
    for number, (name, here) in enumerate(sources.items()):
        report(
            number / len(sources), phrase("looking for what could take the place of {name}", name=search.words(name))
        )
        ranked[name] = search.ranked(here)
    ways = tuple(_ways(ranked, best, colour, _seen_often(plan)))
    if not ways:
        raise NoColourwayError(search.why_not(colour, sources))
    return ways


def with_colourway(plan: Plan, way: Colourway, paints: Mapping[str, Paint]) -> Plan:
    """Return the plan in other colours; each stroke that comes out otherwise then wishes for what its new load lays."""
    before = plan
    for _, new in way.exchanged:
        if new.cake is not None:
            plan = with_cake(plan, new.cake, tuple(paints[name] for name in new.cake.paints))
        else:
            plan = with_paints(plan, tuple(paints[name] for name in new.paints))
        for place in new.places:
            stroke = plan.stroke(place.stroke)
            pickups = list(stroke.recipe.pickups)
            pickups[place.number] = place.pickup
            plan = with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, pickups=tuple(pickups))))
    known = plan.paints_by_id
    for stroke in plan.strokes:
        edge = plan.edge(stroke.id)
        if not _alike(edge, before.edge(stroke.id)):
            looks = edge_lab(edge, known, skin_spectrum(plan.skin), stroke.wanted.coat_um)
            wanted = replace(wish_for_edge(edge, stroke.wanted, looks), end=())
            plan = with_stroke(plan, replace(stroke, wanted=wanted))
    return plan


def _seen_often(plan: Plan) -> dict[str, float]:
    """Return how much each stroke's load is to be seen: by how often it is put on the first chart, or all alike."""
    found: Counter[str] = Counter()
    for placed in plan.motifs:
        if placed.chart == plan.motifs[0].chart:  # the one that is shown
            for _, stroke in placed.loads:
                found[stroke] += 2 if placed.twin else 1
    return {stroke.id: math.sqrt(found[stroke.id]) if found else 1.0 for stroke in plan.strokes}


def _alike(one: LoadedEdge, other: LoadedEdge) -> bool:
    return one.paints == other.paints and np.allclose(one.solids, other.solids)


# --- whole ways ---


def _ways(
    ranked: Mapping[str, Sequence[Exchange]], best: int, colour: ColourFamily | None, weights: Mapping[str, float]
) -> Iterator[Colourway]:
    """Give whole mappings, least price first: no cake twice where it can be, each another one than those before.

    What was exchanged before costs more the next time, and colours that are called as before only come when no others
    are near.
    """
    twice = _TWICE if colour is None else _TWICE_ASKED
    fines: Counter[tuple[str, str]] = Counter()
    taken: set[tuple[str, str]] = set()
    called: list[str] = []
    spare: list[tuple[str, dict[str, Exchange]]] = []
    for _ in range(best + _MORE_TRIES):
        way = _assigned(ranked, fines, twice)
        changed = {(name, one.name) for name, one in way.items() if one.places}
        fines.update(changed)
        if not changed or changed <= taken:
            continue
        words = _called(way, weights, colour)
        if words in called:
            spare.append((words, way))
            continue
        taken |= changed
        called.append(words)
        yield _colourway(len(called), words, way)
        if len(called) == best:
            return
    for words, way in spare[: best - len(called)]:
        called.append(words)
        yield _colourway(len(called), words, way)


def _assigned(
    ranked: Mapping[str, Sequence[Exchange]], fines: Mapping[tuple[str, str], int], twice: float
) -> dict[str, Exchange]:
    """Return the cheapest exchange for every source; something changes, and what is taken again costs more each time.

    A linear assignment [Kuhn1955] of sources to cakes and pans, each of which stands there as often as it may be taken.
    """
    targets = list(dict.fromkeys(one.name for row in ranked.values() for one in row))
    cost = np.full((len(ranked), len(targets)), _NEVER)
    chosen: dict[tuple[int, int], Exchange] = {}
    for at, (name, row) in enumerate(ranked.items()):
        for one in row:
            column = targets.index(one.name)
            price = one.price + (_AGAIN * fines.get((name, one.name), 0) if one.places else 0.0)
            if price < cost[at, column]:
                cost[at, column], chosen[at, column] = price, one
    stays = {at: column for (at, column), one in chosen.items() if not one.places}
    best = _cheapest(cost, stays, twice)
    return {name: chosen[at, best[at]] for at, name in enumerate(ranked) if (at, best[at]) in chosen}


def _cheapest(cost: NDArray[np.float64], stays: dict[int, int], twice: float) -> dict[int, int]:
    """Return the cheapest column for each row, where at least one row does not stay as it is."""
    from scipy.optimize import linear_sum_assignment  # noqa: PLC0415 - SciPy only where a search runs

    tries = [cost]
    for at, column in stays.items():
        forced = cost.copy()
        forced[at, column] = _NEVER
        tries.append(forced)
    answers: list[tuple[float, dict[int, int]]] = []
    for prices in tries:
        tiled = np.hstack([prices + twice * copy for copy in range(len(cost))])
        rows, columns = linear_sum_assignment(tiled)
        way = {int(at): int(column) % cost.shape[1] for at, column in zip(rows, columns, strict=True)}
        if any(stays.get(at) != column for at, column in way.items()):
            answers.append((float(tiled[rows, columns].sum()), way))
    return min(answers, key=lambda one: one[0], default=(0.0, stays))[1]


def _called(way: Mapping[str, Exchange], weights: Mapping[str, float], colour: ColourFamily | None) -> str:
    """Return the colours that a way lays, in words, with the one that was asked for: "blue, green and white"."""
    found: Counter[ColourFamily] = Counter()
    for one in way.values():
        for stroke, labs in zip(one.strokes, one.labs, strict=True):
            for family in families_of(labs):
                found[family] += weights[stroke]  # type: ignore[assignment]
    if not any(found.values()):  # What changes is not on that chart.
        return _called(way, dict.fromkeys(weights, 1.0), colour)
    total = sum(found.values())
    seen = [family for family, count in found.most_common() if count >= COLOURFUL * total and family is not colour]
    seen[:0] = [] if colour is None else [colour]
    ordered = sorted(seen[:3] or [found.most_common(1)[0][0]], key=lambda family: family.neutral)
    words = [family.value for family in ordered]
    return " and ".join([", ".join(words[:-1]), words[-1]] if len(words) > 1 else words)


def _colourway(number: int, words: str, way: Mapping[str, Exchange]) -> Colourway:
    changed = tuple((name, one) for name, one in way.items() if one.places)
    staying = tuple(name for name, one in way.items() if not one.places)
    strain = float(np.mean([one.strain for one in way.values()]))
    return Colourway(f"{number} {words}", changed, strain, staying)
