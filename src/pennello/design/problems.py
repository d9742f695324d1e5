"""What a plan's reader should know that is no colour difference: places and sentences."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pennello.design.plan import Plan, PlanStroke
from pennello.load.pickup import met_shares
from pennello.path.cubic import length_mm
from pennello.units import length_text


@dataclass(frozen=True, slots=True)
class Problem:
    """A place in the plan's own words and one sentence."""

    where: str
    text: str


def problems(plan: Plan) -> tuple[Problem, ...]:
    """Return what is odd about a plan, in the order of its strokes."""
    return tuple(problem for stroke in plan.strokes for problem in _of_stroke(plan, stroke))


def _of_stroke(plan: Plan, stroke: PlanStroke) -> Iterator[Problem]:
    where = f"strokes.{stroke.id}"
    brush = plan.brush(stroke.brush)
    for index, pickup in enumerate(stroke.recipe.pickups):
        cake = plan.cake(pickup.cake)
        _, over = met_shares(pickup, cake, brush)
        bare_mm = float((1 - over).mean()) * brush.width_mm
        if bare_mm > 0.2:
            text = f"{length_text(bare_mm)} of {brush.name} hangs over the edge of {cake.name} and picks up nothing."
            yield Problem(f"{where}.load.pickups[{index}]", text)
    length = length_mm(stroke.stroke.path)
    if any(at >= length for at in stroke.stroke.reload_mm) and length > 0:
        yield Problem(f"{where}.reload_mm", f"A reload lies beyond the end of the stroke, {length_text(length)}.")
    if length == 0:
        yield Problem(f"{where}.path", "The path has no length: the brush only touches down or turns on the spot.")
    for name in dict.fromkeys(name for cake in stroke.recipe.cakes for name in plan.cake(cake).paints):
        note = plan.paint(name).finish.note
        if note:
            yield Problem(f"{where}.load", f"{plan.paint(name).name} is {note}.")
