"""New plans and new strokes: a sensible start that holds from the first moment."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from pennello.aim.wish import Stop, Wanted
from pennello.design.edits import free_id, shipped_cake, with_brush, with_stroke
from pennello.design.load_kinds import LOAD_KINDS, main_way
from pennello.design.plan import Plan, PlanStroke
from pennello.design.wishing import with_load_wished
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.lay.families.catalogue import family
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.load.recipe import PickUp, Recipe
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase

PETAL_PATH = CubicPath(((0.0, 0.0), (-2.0, -30.0), (42.0, -30.0), (40.0, 0.0)))
_FIRST_CAKE = "dahlia-wrist"


def fresh_plan() -> Plan:
    """Return an empty plan with the shipped brushes and cakes at hand and no stroke yet."""
    plan = Plan(brushes=tuple(catalogue.brushes().values()))
    for name in catalogue.cakes():
        plan = shipped_cake(plan, name)
    return plan


def with_fresh_stroke(plan: Plan) -> tuple[Plan, str]:
    """Return the plan with a new petal at its end, wished for as its cake lays it, and the petal's id."""
    if not plan.brushes:
        plan = replace(plan, brushes=tuple(catalogue.brushes().values()))
    if not plan.cakes:
        plan = shipped_cake(plan, _FIRST_CAKE)
    cake = next((one for one in plan.cakes if one.id == _FIRST_CAKE), plan.cakes[0])
    brush = min(plan.brushes, key=lambda one: abs(one.width_mm - 19.05))
    pickup = PickUp(cake.id, offset_mm=round(max(0.0, (cake.width_mm - brush.width_mm) / 4), 1))
    taken = [stroke.id for stroke in plan.strokes]
    stroke = PlanStroke(
        id=free_id("petal", taken),
        name=phrase("Petal {count}", count=len(taken) + 1),
        brush=brush.id,
        recipe=Recipe((pickup,)),
        stroke=Stroke(PETAL_PATH, Nib(NibMode.FOLLOWING, 90.0)),
        wanted=window_wish(cake, pickup, brush),
    )
    return with_stroke(plan, stroke), stroke.id


def with_family_stroke(plan: Plan, key: str, values: Mapping[str, float] | None = None) -> tuple[Plan, str]:
    """Return the plan with a stroke of a family at its end, wished for as its load lays it, and its id.

    It is pulled with the family's usual applicator, loaded as that is as a rule, beside what is there already.

    Raises
    ------
    UnknownNameError, OutOfRangeError
        If there is no such family or parameter, or a value is outside its range.
    """
    chosen = family(key)
    way = chosen.stroke(**(values or {}))
    tool = catalogue.brushes()[chosen.tool]
    if not any(brush.id == tool.id for brush in plan.brushes):
        plan = with_brush(plan, tool)
    plan, new = with_fresh_stroke(plan)
    stroke = plan.stroke(new)
    brush = plan.brush(tool.id)
    pickups = tuple(
        replace(
            pickup,
            cake=_wide_enough(plan, pickup.cake, brush),
            way=main_way(brush),
            drift_mm=brush.drift_mm,
            offset_mm=_middle(plan, _wide_enough(plan, pickup.cake, brush), brush),
        )
        for pickup in stroke.recipe.pickups
    )
    taken = [one.id for one in plan.strokes if one.id != new]
    named = replace(stroke, id=free_id(chosen.key, taken), name=chosen.name, brush=brush.id, stroke=_beside(plan, way))
    named = replace(named, recipe=replace(stroke.recipe, pickups=pickups))
    plan = replace(plan, strokes=tuple(named if one.id == new else one for one in plan.strokes))
    if key == "press-petal":
        kind = next(kind for kind in LOAD_KINDS if kind.key == "tip")
        loaded = kind.edit(plan, named)
        pulled = replace(loaded.stroke(named.id), stroke=named.stroke)
        return with_load_wished(with_stroke(loaded, pulled), named.id), named.id
    return with_load_wished(plan, named.id), named.id


def _wide_enough(plan: Plan, cake: str, brush: Applicator) -> str:
    """Return a cake if it is as wide as the brush, else the narrowest that is, else the widest, by id."""
    if plan.cake(cake).width_mm >= brush.width_mm:
        return cake
    by_width = sorted(plan.cakes, key=lambda one: one.width_mm)
    return next((one for one in by_width if one.width_mm >= brush.width_mm), by_width[-1]).id


def _middle(plan: Plan, cake: str, brush: Applicator) -> float:
    return round((plan.cake(cake).width_mm - brush.width_mm) / 2, 1)


def _beside(plan: Plan, way: Stroke) -> Stroke:
    """Return the stroke moved to the right of all that the plan has."""
    points = [point for stroke in plan.strokes for point in stroke.stroke.path.points_mm]
    if len(plan.strokes) < 2:
        return way
    right = max(x for x, _ in points) + 30.0
    shift = right - min(x for x, _ in way.path.points_mm)
    return replace(way, path=CubicPath(tuple((x + shift, y) for x, y in way.path.points_mm)))


def window_wish(cake: Cake, pickup: PickUp, brush: Applicator) -> Wanted:
    """Return the wish for just what lies under the brush: its stripes from A to B with blends of 2.5 mm."""
    edges = np.clip((np.array(cake.edges_mm) - pickup.offset_mm) / brush.width_mm, 0, 1)
    inside = [
        (stripe.paint, low, high)
        for stripe, low, high in zip(cake.stripes, edges[:-1], edges[1:], strict=True)
        if high - low > 0.02
    ] or [(cake.stripes[0].paint, 0.0, 1.0)]
    if pickup.flip:
        inside = [(paint, 1 - high, 1 - low) for paint, low, high in reversed(inside)]
    ends = [*(round(float(high), 4) for _, _, high in inside[:-1]), 1.0]
    return Wanted(tuple(Stop(paint, to_u=end) for (paint, _, _), end in zip(inside, ends, strict=True)))
