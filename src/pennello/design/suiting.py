"""Loads that suit a motif's parts: found in the plan, or made of the shipped kit where the plan has none."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial

from pennello.aim.wish import Stop, Wanted, edge_lab
from pennello.design.edits import free_id, shipped_cake, with_brush, with_stroke
from pennello.design.load_kinds import main_way
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.wishing import with_load_wished
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.cake import Portion
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.load.recipe import PickUp, Recipe
from pennello.motif.motif import LEAF, Motif, Part
from pennello.path.cubic import line

_COLOURED, _GREEN_DEG = 12.0, (95.0, 185.0)
_LEAF_CAKE, _LEAF_PAINT, _LINE_PAINT = "kelp-swoosh", "kelp-green", "foam-white"
_ONE_COLOUR = (ApplicatorKind.ROUND, ApplicatorKind.LINER)
_FAR = 2.0
"""A brush more than so many times wider or narrower than the usual one does not suit."""


def with_suiting_loads(plan: Plan, kind: Motif) -> tuple[Plan, tuple[tuple[str, str], ...]]:
    """Return the plan, with new loads where it has none that suit, and for each part of a motif its load.

    What suits is such a brush, green for leaves and for nothing else, from one cake wherever one can, and of about the
    usual width. Only parts that say what they are by nature, and lines, have loads made for them.
    """
    chosen: list[tuple[str, str]] = []
    cakes: dict[str, tuple[str, ...]] = {}
    for part in kind.parts:
        unlike = partial(_unlike, plan, part, cakes)
        best = min(plan.strokes, key=unlike)
        if not _suits(plan, best, part):
            plan, best = _with_load_for(plan, part)
        cakes.setdefault(part.role, best.recipe.cakes)
        chosen.append((part.key, best.id))
    return plan, tuple(chosen)


def _unlike(
    plan: Plan, part: Part, cakes: dict[str, tuple[str, ...]], stroke: PlanStroke
) -> tuple[bool, bool, bool, float]:
    usual, brush = catalogue.brushes()[part.tool], plan.brush(stroke.brush)
    other_cake = part.role in cakes and stroke.recipe.cakes != cakes[part.role]
    wrong_colour = is_green(plan, stroke) is not (part.role == LEAF)
    return brush.kind is not usual.kind, wrong_colour, other_cake, abs(brush.width_mm - usual.width_mm)


def _suits(plan: Plan, stroke: PlanStroke, part: Part) -> bool:
    if not part.made:
        return True
    usual, brush = catalogue.brushes()[part.tool], plan.brush(stroke.brush)
    ratio = brush.width_mm / usual.width_mm
    like = brush.kind is usual.kind and 1 / _FAR <= ratio <= _FAR
    return like and is_green(plan, stroke) is (part.role == LEAF)


def is_green(plan: Plan, stroke: PlanStroke) -> bool:
    """Return whether a load is green on the whole."""
    paints = {paint.id: paint for paint in plan.paints}
    _, a, b = edge_lab(plan.edge(stroke.id), paints, skin_spectrum(plan.skin)).mean(axis=0)
    return math.hypot(a, b) > _COLOURED and _GREEN_DEG[0] <= math.degrees(math.atan2(b, a)) % 360 <= _GREEN_DEG[1]


def _with_load_for(plan: Plan, part: Part) -> tuple[Plan, PlanStroke]:
    """Return the plan with a load of the shipped kit for a part, on a trial stroke of its own."""
    tool = catalogue.brushes()[part.tool]
    if not any(brush.id == tool.id for brush in plan.brushes):
        plan = with_brush(plan, tool)
    plan, pickup = _picked_up(plan, plan.brush(tool.id), part)
    new = PlanStroke(
        free_id(part.key, [stroke.id for stroke in plan.strokes]),
        f"{part.name[0].upper()}{part.name[1:]}",
        tool.id,
        Recipe((pickup,)),
        Stroke(line((0.0, -60.0), (40.0, -60.0)), Nib(NibMode.FOLLOWING, 90.0)),
        Wanted((Stop(plan.paints[0].id),)),
    )
    plan = with_load_wished(with_stroke(plan, new), new.id)
    return plan, plan.stroke(new.id)


def _picked_up(plan: Plan, tool: Applicator, part: Part) -> tuple[Plan, PickUp]:
    """Return one paint for a tip, a window of a cake for a flat."""
    if tool.kind in _ONE_COLOUR:
        name = _LEAF_PAINT if part.role == LEAF else _LINE_PAINT
        if not any(paint.id == name for paint in plan.paints):
            plan = replace(plan, paints=(*plan.paints, catalogue.paints()[name]))
        return plan, PickUp(pan=(Portion(name, 1.0),), passes=12, way=main_way(tool), drift_mm=tool.drift_mm)
    cake_name = _LEAF_CAKE if part.role == LEAF else plan.cakes[0].id if plan.cakes else "dahlia-wrist"
    plan = shipped_cake(plan, cake_name) if cake_name in catalogue.cakes() else plan
    cake = plan.cake(cake_name)
    offset = round((cake.width_mm - tool.width_mm) / 2, 1)
    return plan, PickUp(cake.id, offset_mm=offset, passes=12, way=main_way(tool), drift_mm=tool.drift_mm)
