"""Searches asked of a plan, and what is found put into it."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import Comparison, compare
from pennello.colour.basis import FULL
from pennello.design.edits import free_id, with_brush, with_cake, with_paints, with_stroke
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.errors import PennelloError
from pennello.kit.applicator import GradientAxis
from pennello.kit.paint import Paint
from pennello.load.recipe import Before, PickUp, Recipe, Way
from pennello.phrases import phrase
from pennello.solve.cake_space import Look
from pennello.solve.coats import goal_for, laid_um
from pennello.solve.design_cake import DesignedCake
from pennello.solve.finds import Find

SOFTNESS_MM = 0.3
"""Softness of the boundaries of a cake that is made by hand, mm (the default of a cake)."""


class CannotSearchError(PennelloError):
    """A stroke that a search cannot serve."""


def with_find(plan: Plan, name: str, find: Find, paints: Mapping[str, Paint]) -> Plan:
    """Return the plan with a found load taken for a stroke, with the brush, cakes and paints that it needs."""
    for cake in find.cakes:
        plan = with_cake(plan, cake, tuple(paints[paint] for paint in cake.paints))
    if all(brush.id != find.brush.id for brush in plan.brushes):
        plan = with_brush(plan, find.brush)
    changed = replace(plan.stroke(name), brush=find.brush.id, recipe=find.recipe)
    return _without_lost_leftovers(with_stroke(plan, changed), name, find.brush.id)


def _without_lost_leftovers(plan: Plan, name: str, brush: str) -> Plan:
    """Return the plan in which loads that went on with a stroke's leftover in another brush begin with a clean one."""
    for stroke in plan.strokes:
        if stroke.recipe.after == name and stroke.brush != brush and stroke.recipe.pickups:
            plan = with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, after="")))
    return plan


def look_of(plan: Plan, stroke: PlanStroke, paints: Mapping[str, Paint], weight: float = 1.0) -> Look:
    """Return how a stroke would look at a cake made for it.

    Raises
    ------
    CannotSearchError
        If its gradient runs along the print.
    """
    brush = plan.brush(stroke.brush)
    if plan.axis(stroke.id) is GradientAxis.ALONG:
        raise CannotSearchError(
            phrase("{stroke} is laid with a dip; change its load to a sweep to make a cake for it.", stroke=stroke.name)
        )
    main = stroke.recipe.pickups[stroke.recipe.main] if stroke.recipe.pickups else PickUp(cake="-")
    blur = math.sqrt(main.drift_mm**2 + SOFTNESS_MM**2 + main.wetness.mixing_mm**2 * main.passes)
    coat = laid_um(stroke.stroke, brush, GradientAxis.ACROSS, main.wetness.solids)
    goal = goal_for(stroke.wanted, brush.width_mm, paints, skin_spectrum(plan.skin))
    return Look(brush.width_mm, goal, coat, blur, weight)


@dataclass(frozen=True, slots=True, eq=False)
class Trial:
    """A designed cake tried for real on one stroke."""

    stroke: str
    attempt: Attempt
    seen: Comparison


def with_design(
    plan: Plan, names: Sequence[str], design: DesignedCake, id_: str = "", name: str = ""
) -> tuple[Plan, str]:
    """Return the plan with a designed cake and the strokes loaded from it, and the cake's id."""
    first = plan.stroke(names[0])
    new_id = free_id(id_ or f"{first.id[:50]}-cake", [cake.id for cake in plan.cakes])
    cake = design.cake(name or phrase("{first} cake", first=first.name), new_id)
    plan = with_cake(with_paints(plan, design.paints), cake)
    for number, one in enumerate(names):
        stroke = plan.stroke(one)
        plan = with_stroke(plan, replace(stroke, recipe=_recipe(stroke, new_id, design, number)))
    return plan, new_id


def _recipe(stroke: PlanStroke, cake: str, design: DesignedCake, number: int) -> Recipe:
    main = stroke.recipe.pickups[stroke.recipe.main] if stroke.recipe.pickups else PickUp(cake=cake)
    pickup = replace(
        main,
        cake=cake,
        pan=(),
        offset_mm=design.offsets_mm[number],
        flip=design.flips[number],
        skew_deg=0.0,
        part=(0.0, 1.0),
        before=Before.KEEP,
        way=main.way if main.way in (Way.SWEEP, Way.PRESS) else Way.SWEEP,
        face=stroke.recipe.lays,
    )
    return Recipe((pickup,), lays=stroke.recipe.lays)


def tried_for_real(plan: Plan, names: Iterable[str], px_per_mm: float = 2.0) -> tuple[Trial, ...]:
    """Return strokes of a plan laid and compared."""
    found = []
    for name in names:
        attempt = plan.attempt(name)
        found.append(Trial(name, attempt, compare(attempt.lay(px_per_mm, FULL), attempt)))
    return tuple(found)
