"""New plans and new strokes: a sensible start that holds from the first moment."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from pennello.aim.wish import Stop, Wanted
from pennello.design.edits import free_id, shipped_cake, with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.load.recipe import PickUp, Recipe
from pennello.path.cubic import CubicPath

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
        name=f"Petal {len(taken) + 1}",
        brush=brush.id,
        recipe=Recipe((pickup,)),
        stroke=Stroke(PETAL_PATH, Nib(NibMode.FOLLOWING, 90.0)),
        wanted=window_wish(cake, pickup, brush),
    )
    return with_stroke(plan, stroke), stroke.id


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
