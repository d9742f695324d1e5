"""Fewer loads for a whole plan: which strokes can share one, and in which order, at a quality that is good enough.

Each stroke's own load and the best found for it are tried on every other stroke with the same brush (turned over where
that helps); a stroke may take each that comes near enough. Then as few loads as possible serve them all: greedily at
once, and by OR-Tools CP-SAT where it is there in time. A load lasts for so many strokes as its paint does.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from pennello.aim.comparison import compare
from pennello.aim.quick import Forecast
from pennello.colour.basis import small_basis
from pennello.design.edits import with_cake, with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.design.visits import MOST_FROM_ONE_LOAD, from_one_load
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kept import kept
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.load.recipe import PickUp, Recipe
from pennello.phrases import phrase
from pennello.solve.find_load import find_load
from pennello.solve.finds import Filters, NoLoadError
from pennello.solve.kit import AtHand, NothingAtHandError

Array = NDArray[np.floating[Any]]
Report = Callable[[float, str], None]

QUALITY_DE00 = 6.0
"""How far a stroke may be from its wish for the sake of fewer loads, mean dE00 (a default)."""

SECONDS = 5.0
_OF_EACH = 3
_RINSE, _BRUSH = 0.3, 0.6
"""What a rinse and a change of brush count against a load (defaults)."""


@dataclass(frozen=True, slots=True)
class Load:
    """A load that strokes may share: its brush, its pick-ups, the cakes they need."""

    brush: str
    recipe: Recipe
    cakes: tuple[Cake, ...]
    of: str

    @property
    def pickups(self) -> tuple[PickUp, ...]:
        """Its pick-ups."""
        return self.recipe.pickups


@dataclass(frozen=True, slots=True)
class Share:
    """A stroke laid from a load: whether the brush is turned over for it, and how far it is from its wish.

    `own` says that it is the stroke's own load, as it stands.
    """

    stroke: str
    turned: bool
    mean_de00: float
    own: bool = False


@dataclass(frozen=True, slots=True)
class Served:
    """A load with the strokes that it serves in order, and how many visits to the cake they take."""

    load: Load
    shares: tuple[Share, ...]
    visits: int


@dataclass(frozen=True, slots=True)
class Advice:
    """Loads for a whole plan, in the order in which to load them.

    Attributes
    ----------
    served
        Loads and their strokes.
    loads, before
        Visits to the cakes with this advice, and as the plan stands.
    rinses, brush_changes
        On the way from load to load; `rinses_before`, `brush_changes_before` as the plan stands.
    by
        Who found it: "greedy" or "CP-SAT".
    left_out
        Strokes that keep a load of their own: nothing near enough can be shared, or leftovers tie them.
    """

    served: tuple[Served, ...]
    loads: int
    before: int
    rinses: int
    rinses_before: int
    brush_changes: int
    brush_changes_before: int
    by: str
    left_out: tuple[str, ...] = ()

    @property
    def worst(self) -> Share | None:
        """The stroke that comes out farthest from its wish by another load than its own; None if none changes."""
        shares = [share for one in self.served for share in one.shares if not share.own]
        return max(shares, key=lambda share: share.mean_de00, default=None)


class NoStrokesError(PennelloError):
    """There is nothing to share loads among."""


@dataclass(frozen=True, slots=True, eq=False)
class _Table:
    """Loads against strokes: difference, whether turned over, and how many such strokes a load lasts for.

    `own` is the row of each stroke's present load, -1 where it has none.
    """

    loads: tuple[Load, ...]
    strokes: tuple[str, ...]
    de00: Array
    turned: NDArray[np.bool_]
    lasts: NDArray[np.intp]
    own: tuple[int, ...]


def advise(
    plan: Plan,
    hand_kit: AtHand,
    quality_de00: float = QUALITY_DE00,
    seconds: float = SECONDS,
    report: Report = lambda _, __: None,
    *,
    exact: bool = True,
) -> Advice:
    """Return the fewest loads for the strokes of a plan.

    Parameters
    ----------
    quality_de00
        How far each stroke may be from its wish, 0.5 to 40; one that is farther off as it stands may stay so.
    seconds
        How long CP-SAT may think.
    exact
        Whether to ask CP-SAT at all.

    Raises
    ------
    NoStrokesError
        If the plan has no stroke.
    """
    if not plan.strokes or len(tied_by_leftovers(plan)) == len(plan.strokes):
        raise NoStrokesError(phrase("There is no stroke here that could share a load; add one on the Bench first."))
    if not 0.5 <= quality_de00 <= 40:
        raise OutOfRangeError("quality", quality_de00, "0.5 to 40 dE00")
    table = _table(plan, hand_kit, report)
    allowed = _allowed(table, quality_de00)
    chosen, by = _greedy(table, allowed), "greedy"
    if exact:
        report(0.9, phrase("looking for fewer still"))
        better = _covered(table, allowed, chosen, seconds)
        if better is not None and _cost(table, better) < _cost(table, chosen) - 1e-9:
            chosen, by = better, "CP-SAT"
        elif better is not None:
            by = "CP-SAT"
    return _advice(plan, table, chosen, by)


def with_advice(plan: Plan, advice: Advice, paints: dict[str, Paint]) -> Plan:
    """Return the plan with the advised loads taken; a stroke that the same load still serves goes on with it."""
    for served in advice.served:
        for cake in served.load.cakes:
            plan = with_cake(plan, cake, tuple(paints[name] for name in cake.paints))
        for share in served.shares:
            stroke = plan.stroke(share.stroke)
            recipe = turned_over(served.load.recipe) if share.turned else served.load.recipe
            plan = with_stroke(plan, replace(stroke, brush=served.load.brush, recipe=recipe))
    return plan


def turned_over(recipe: Recipe) -> Recipe:
    """Return the load as it lies in a brush turned half round: every part and every flip the other way."""
    pickups = tuple(replace(one, flip=not one.flip, part=(1 - one.part[1], 1 - one.part[0])) for one in recipe.pickups)
    return replace(recipe, pickups=pickups)


# --- the table ---


def _table(plan: Plan, hand_kit: AtHand, report: Report) -> _Table:
    loads: dict[tuple[str, tuple[PickUp, ...]], Load] = {}
    for number, stroke in enumerate(plan.strokes):
        report(0.6 * number / len(plan.strokes), phrase("finding loads for {stroke}", stroke=stroke.name))
        for load in _loads_for(plan, stroke.id, hand_kit):
            loads.setdefault((load.brush, load.pickups), load)
    return _filled(plan, tuple(loads.values()), tied_by_leftovers(plan), hand_kit, report)


def tied_by_leftovers(plan: Plan) -> frozenset[str]:
    """Return the strokes that go on with a leftover, and those whose leftover is gone on with: their loads stay."""
    after = {stroke.id: stroke.recipe.after for stroke in plan.strokes if stroke.recipe.after}
    return frozenset({*after, *after.values()})


def _loads_for(plan: Plan, name: str, hand_kit: AtHand) -> list[Load]:
    """Return a stroke's own load and the best that are found for it with its own brush."""
    stroke = plan.stroke(name)
    found: list[Load] = []
    if stroke.recipe.pickups:
        own = replace(stroke.recipe, after="")
        found.append(Load(stroke.brush, own, tuple(plan.cake(cake) for cake in own.cakes), name))
    try:
        board = find_load(
            plan, name, hand_kit, Filters(one_visit=True, keep_brush=True, near=stroke.near), _OF_EACH, tries=0
        )
    except (NoLoadError, NothingAtHandError):
        return found
    return [*found, *(Load(stroke.brush, find.recipe, find.cakes, name) for find in board.finds)]


def _filled(plan: Plan, loads: tuple[Load, ...], tied: frozenset[str], hand_kit: AtHand, report: Report) -> _Table:
    names = tuple(stroke.id for stroke in plan.strokes if stroke.id not in tied)
    de00 = np.full((len(loads), len(names)), math.inf)
    turned = np.zeros(de00.shape, bool)
    lasts = np.ones(len(names), np.intp)
    paints = {**hand_kit.by_name, **plan.paints_by_id}
    cakes = {cake.id: cake for load in loads for cake in load.cakes}
    for column, name in enumerate(names):
        report(0.6 + 0.3 * column / len(names), phrase("trying each load on each stroke"))
        stroke = plan.stroke(name)
        attempt = replace(plan.attempt(name), paints=paints, residue=None)
        if stroke.recipe.pickups:
            attempt = replace(attempt, recipe=replace(stroke.recipe, after=""))
        laid = attempt.lay(1.0, small_basis(8))
        forecast = Forecast(attempt, laid.edge, compare(laid, attempt))
        forecast.widen(cakes)
        lasts[column] = max(_lasting(plan, name), 1)
        for row, load in enumerate(loads):
            if not _fits(plan, load, name, paints):
                continue
            if load.pickups == attempt.recipe.pickups:
                de00[row, column] = forecast.mean_de00(load.recipe)
                continue
            ways = [load.recipe]
            if attempt.recipe.axis(attempt.brush) is GradientAxis.ACROSS:  # a dip has no other side
                ways.append(turned_over(load.recipe))
            rated = [forecast.mean_de00(one) for one in ways]
            turned[row, column] = rated[-1] < rated[0] - 1e-6
            de00[row, column] = min(rated)
    rows = {(load.brush, load.pickups): row for row, load in enumerate(loads)}
    mine = [(stroke.brush, stroke.recipe.pickups) for stroke in map(plan.stroke, names)]
    return _Table(loads, names, de00, turned, lasts, tuple(rows.get(one, -1) for one in mine))


def _fits(plan: Plan, load: Load, name: str, paints: dict[str, Paint]) -> bool:
    """Return whether a stroke may be laid from a load at all: its brush, its way of loading, its place."""
    stroke = plan.stroke(name)
    brush = plan.brush(stroke.brush)
    own = load.of == name
    used = [paints[paint] for cake in load.cakes for paint in cake.paints]
    used += [paints[paint] for paint in load.recipe.pan_paints]
    return (
        load.brush == stroke.brush
        and (own or load.recipe.axis(brush) is stroke.recipe.axis(brush))
        and (own or load.recipe.lays is stroke.recipe.lays)
        and (own or all(paint.allowed(stroke.near) for paint in used))
    )


@kept
def _lasting(plan: Plan, name: str) -> int:
    return from_one_load(plan, name, MOST_FROM_ONE_LOAD)


# --- cover ---


def _allowed(table: _Table, quality_de00: float) -> NDArray[np.bool_]:
    """Return which loads may serve which strokes: those that are near enough, and its own as it stands.

    A stroke without a load of its own that none serves well takes the nearest.
    """
    allowed = table.de00 <= quality_de00
    for column, row in enumerate(table.own):
        allowed[table.de00[:, column].argmin() if row < 0 else row, column] |= row >= 0 or not allowed[:, column].any()
    return np.asarray(allowed)


_Chosen = dict[int, tuple[int, ...]]
"""Strokes by the load that serves them."""


def _cost(table: _Table, chosen: _Chosen) -> float:
    """Return visits, with what rinses and brush changes count, and a little for the difference."""
    visits = sum(_visits(table, strokes) for strokes in chosen.values())
    brushes = len({table.loads[row].brush for row in chosen})
    de00 = sum(float(table.de00[row, column]) for row, strokes in chosen.items() for column in strokes)
    return visits + _RINSE * (len(chosen) - brushes) + _BRUSH * (brushes - 1) + 1e-3 * de00


def _visits(table: _Table, strokes: Sequence[int]) -> int:
    """Return how often one load has to be taken for strokes: each uses up its share of it."""
    return max(1, math.ceil(sum(1 / float(table.lasts[column]) for column in strokes) - 1e-9))


def _greedy(table: _Table, allowed: NDArray[np.bool_]) -> _Chosen:
    """Return a cover: always the load that serves most of what is left, the nearest of those."""
    left, chosen = set(range(len(table.strokes))), dict[int, tuple[int, ...]]()
    while left:
        served = [[column for column in left if allowed[row, column]] for row in range(len(table.loads))]

        def worth(row: int, served: list[list[int]] = served) -> tuple[float, float]:
            here = served[row]
            if not here:
                return -math.inf, 0.0
            return len(here) / _visits(table, here), -float(table.de00[row, here].mean())

        best = max(range(len(table.loads)), key=worth)
        chosen[best] = tuple(sorted(served[best]))
        left -= set(served[best])
    return _nearest(table, allowed, chosen)


def _nearest(table: _Table, allowed: NDArray[np.bool_], chosen: _Chosen) -> _Chosen:
    """Return the same loads with every stroke at the nearest of them, unless that takes more visits."""
    rows = list(chosen)
    moved: dict[int, list[int]] = {row: [] for row in rows}
    for column in range(len(table.strokes)):
        able = [row for row in rows if allowed[row, column]]
        moved[min(able, key=lambda row: table.de00[row, column])].append(column)
    found = {row: tuple(strokes) for row, strokes in moved.items() if strokes}
    return found if _cost(table, found) <= _cost(table, chosen) else chosen


def _covered(table: _Table, allowed: NDArray[np.bool_], hint: _Chosen, seconds: float) -> _Chosen | None:
    """Return the cheapest cover by CP-SAT, or None if it is not there or found none in time."""
    try:
        from ortools.sat.python import cp_model  # noqa: PLC0415 - OR-Tools takes a second to import
    except ImportError:
        return None
    model, takes = _cover_model(cp_model, table, allowed)
    for (r, c), var in takes.items():
        model.add_hint(var, int(c in hint.get(r, ())))
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = 2
    solver.parameters.random_seed = 1
    if solver.solve(model) not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return None
    chosen: dict[int, list[int]] = {}
    for (r, c), var in takes.items():
        if solver.value(var):
            chosen.setdefault(r, []).append(c)
    return {row: tuple(sorted(strokes)) for row, strokes in chosen.items()}


def _cover_model(cp_model: Any, table: _Table, allowed: NDArray[np.bool_]) -> tuple[Any, dict[tuple[int, int], Any]]:
    """Return the model of the cheapest cover, and which load takes which stroke as its variables."""
    model = cp_model.CpModel()
    rows, columns = range(len(table.loads)), range(len(table.strokes))
    takes = {(r, c): model.new_bool_var(f"t{r},{c}") for r in rows for c in columns if allowed[r, c]}
    visits = [model.new_int_var(0, len(columns), f"v{r}") for r in rows]
    used = [model.new_bool_var(f"u{r}") for r in rows]
    brushes = sorted({load.brush for load in table.loads})
    held = {brush: model.new_bool_var(f"b{brush}") for brush in brushes}
    for c in columns:
        model.add_exactly_one(takes[r, c] for r in rows if allowed[r, c])
    for (r, _), var in takes.items():
        model.add_implication(var, used[r])
    for r in rows:
        parts = [takes[r, c] * round(_UNIT / int(table.lasts[c])) for c in columns if allowed[r, c]]
        model.add(sum(parts) <= _UNIT * visits[r])
        model.add(visits[r] >= used[r])
        model.add_implication(used[r], held[table.loads[r].brush])
    whole = sum(visits) * _SCALE + sum(used) * round(_RINSE * _SCALE)
    model.minimize(whole + sum(held.values()) * round((_BRUSH - _RINSE) * _SCALE) + _nearness(table, takes))
    return model, takes


def _nearness(table: _Table, takes: dict[tuple[int, int], Any]) -> Any:
    """Return what decides between covers that cost the same: how far off the loads are."""
    return sum(var * round(1e-3 * _SCALE * min(float(table.de00[at]), 100.0)) for at, var in takes.items())


_UNIT, _SCALE = 27_720, 1000
"""A load in parts that every number up to 12 divides, and a cost in whole numbers."""


# --- the answer ---


class _Visited(NamedTuple):
    begin: float
    brush: str
    pickups: tuple[PickUp, ...]


def _by_brush(visited: list[_Visited], begins: Mapping[str, float]) -> list[tuple[str, tuple[PickUp, ...]]]:
    """Return brushes and what they pick up, each brush kept together from where it first begins."""
    first: dict[str, float] = dict(begins)
    for one in visited:
        first[one.brush] = min(one.begin, first.get(one.brush, one.begin))
    in_turn = sorted(visited, key=lambda one: (first[one.brush], one.begin))
    return [(one.brush, one.pickups) for one in in_turn]


def _advice(plan: Plan, table: _Table, chosen: _Chosen, by: str) -> Advice:
    order = {stroke.id: number for number, stroke in enumerate(plan.strokes)}
    served, brush_begins = _in_turn(table, chosen, order)
    begins = {id(one): _begin(one, order) for one in served}
    loaded = [stroke for stroke in plan.strokes if stroke.recipe.pickups]
    tied = [stroke for stroke in loaded if stroke.id not in table.strokes]
    visited = [_Visited(begins[id(one)], one.load.brush, one.load.pickups) for one in served]
    visited += [_Visited(order[stroke.id], stroke.brush, stroke.recipe.pickups) for stroke in tied]
    rinses, changes = _changes(_by_brush(visited, brush_begins))
    rinses_now, changes_now = _changes([(stroke.brush, stroke.recipe.pickups) for stroke in loaded])
    alone = tuple(one.shares[0].stroke for one in served if len(one.shares) == 1)
    alone += tuple(stroke.id for stroke in plan.strokes if stroke.id not in table.strokes)
    visits = sum(one.visits for one in served) + _visits_of(tied)
    return Advice(tuple(served), visits, _visits_of(loaded), rinses, rinses_now, changes, changes_now, by, alone)


def _visits_of(strokes: Sequence[PlanStroke]) -> int:
    return sum(1 + len(stroke.stroke.reload_mm) for stroke in strokes)


def _begin(one: Served, order: Mapping[str, int]) -> int:
    """Return the number of the first stroke that a load serves."""
    return min(order[share.stroke] for share in one.shares)


def _in_turn(table: _Table, chosen: _Chosen, order: Mapping[str, int]) -> tuple[list[Served], dict[str, int]]:
    """Return what each load serves, brush by brush as they come first, and when each brush comes first."""
    served = []
    for row, strokes in chosen.items():
        shares = tuple(
            Share(table.strokes[c], bool(table.turned[row, c]), float(table.de00[row, c]), table.own[c] == row)
            for c in strokes
        )
        served.append(Served(table.loads[row], shares, _visits(table, strokes)))
    brush_begins: dict[str, int] = {}
    for one in sorted(served, key=lambda one: _begin(one, order)):
        brush_begins.setdefault(one.load.brush, _begin(one, order))
    served.sort(key=lambda one: (brush_begins[one.load.brush], _begin(one, order)))
    return served, brush_begins


def _changes(loads: Sequence[tuple[str, tuple[PickUp, ...]]]) -> tuple[int, int]:
    """Return rinses and changes of brush on the way through loads: another load in a used brush means a rinse."""
    rinses = changes = 0
    last: dict[str, tuple[PickUp, ...]] = {}
    brush = ""
    for name, pickups in loads:
        changes += bool(brush) and name != brush
        rinses += name in last and last[name] != pickups
        last[name], brush = pickups, name
    return rinses, changes
