"""When each stroke is laid: loads, waits and the hand's speed; the speeds are defaults."""

from __future__ import annotations

from dataclasses import dataclass

from pennello.design.plan import Plan, PlanStroke
from pennello.path.cubic import length_mm

HAND_MM_S = 60.0
"""How fast a loaded stroke is pulled, mm/s (a default)."""

PICK_UP_S = 5.0
"""How long one visit to a cake or pan takes, s (a default)."""


@dataclass(frozen=True, slots=True)
class Turn:
    """When a stroke is laid: its id, start and end, s from the first load."""

    stroke: str
    start_s: float
    end_s: float


def seconds(stroke: PlanStroke) -> tuple[float, float]:
    """Return how long a stroke's loads take, waiting included, and how long its pull takes, s."""
    visits = len(stroke.recipe.laid) * (1 + len(stroke.stroke.reload_mm))
    return stroke.wait_s + visits * PICK_UP_S, max(length_mm(stroke.stroke.path) / HAND_MM_S, 0.3)


def turns(plan: Plan) -> tuple[Turn, ...]:
    """Return when the strokes are laid, one after another in the plan's order."""
    result, now = [], 0.0
    for stroke in plan.strokes:
        before, pull = seconds(stroke)
        result.append(Turn(stroke.id, now + before, now + before + pull))
        now += before + pull
    return tuple(result)
