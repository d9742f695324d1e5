"""When each stroke is laid: loads, waits and the hand's speed; the speeds are defaults of the pace."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from pennello.design.pace import Pace, StepKind
from pennello.design.plan import Plan, PlanStroke
from pennello.kept import kept, kept_small
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.lay.laying import pull
from pennello.lay.stroke import Stroke
from pennello.load.recipe import Before, PickUp, Recipe, Way
from pennello.path.cubic import length_mm

LINERS = (ApplicatorKind.ROUND, ApplicatorKind.LINER)
"""What line work is drawn with."""

DOT_MM = 1.5
"""A stroke of a liner that is shorter is a dot (a default)."""

PRESS_MM = 5.0
"""A loaded stroke whose corners both go less is pressed, not pulled (a default)."""


@dataclass(frozen=True, slots=True)
class Turn:
    """When a stroke is laid: its id, start and end, s from the first load."""

    stroke: str
    start_s: float
    end_s: float


def step_kind(brush: Applicator, stroke: Stroke) -> StepKind:
    """Return whether a stroke is loaded, a line or a dot."""
    if brush.kind not in LINERS:
        return StepKind.STROKES
    return StepKind.DOTS if stroke.pats is not None or length_mm(stroke.path) < DOT_MM else StepKind.LINE


@kept
def ways(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> tuple[float, int]:
    """Return how far the faster corner goes, mm, and in how many pats (0 for a stroke that is pulled)."""
    track = pull(stroke, brush, axis).track
    if stroke.pats is not None:
        return 0.0, len(track.s_mm)
    corners = track.points(np.arange(len(track.s_mm)), np.array([0.0, 1.0]))
    return float(np.linalg.norm(np.diff(corners, axis=0), axis=2).sum(axis=0).max()), 0


def pull_s(stroke: PlanStroke, brush: Applicator, kind: StepKind, pace: Pace) -> float:
    """Return how long a stroke takes from its touch, s, loads within it left out."""
    if kind is StepKind.DOTS:
        many = ways(stroke.stroke, brush, stroke.recipe.axis(brush))[1] if stroke.stroke.pats is not None else 1
        return pace.seconds(kind, pace.dot_s * max(many, 1))
    if kind is StepKind.LINE:
        return pace.seconds(kind, pace.touch_s + length_mm(stroke.stroke.path) / pace.line_mm_s)
    far, pats = ways(stroke.stroke, brush, stroke.recipe.axis(brush))
    if pats:
        return pace.seconds(kind, pace.pat_s * pats)
    return pace.seconds(kind, pace.press_s if far < PRESS_MM else pace.touch_s + far / pace.stroke_mm_s)


def load_s(recipe: Recipe, brush: Applicator, pace: Pace, *, again: bool = False) -> float:
    """Return how long a load takes, s: the first of a brush, or `again` with the same one.

    A round or liner that takes one colour from a pan is dipped, wetted first; what meets stripes is worked into them.
    """
    fine = brush.kind in LINERS
    seconds = sum(_visit_s(number, pickup, pace, again, fine) for number, pickup in enumerate(recipe.pickups))
    return pace.seconds(StepKind.LOAD, seconds) if recipe.pickups else 0.0


def _visit_s(number: int, pickup: PickUp, pace: Pace, again: bool, fine: bool) -> float:  # noqa: FBT001 - of the question
    before = _before_s(pickup.before, pace, first=not number, again=again)
    if pickup.way is Way.DIP:
        return before + (pace.tip_dip_s if number else pace.dip_s)
    if fine and pickup.pan:
        return before + (pace.dip_s if number or again else pace.tip_dip_s)
    return before + (pace.again_s if number or again else pace.first_load_s)


def _before_s(before: Before, pace: Pace, *, first: bool, again: bool) -> float:
    """Return how long wiping, blotting or rinsing takes before a pick-up; the first rinse is a step of its own."""
    if first and not again:
        return 0.0
    if before in (Before.WIPE, Before.BLOT):
        return pace.wipe_s if before is Before.WIPE else pace.blot_s
    return 0.0 if first else before.rinses * pace.rinse_s


def seconds(
    stroke: PlanStroke, brush: Applicator, pace: Pace | None = None, *, again: bool = False
) -> tuple[float, float]:
    """Return how long a stroke's loads take, waiting included, and how long its pull takes, s."""
    given = pace or Pace()
    kind = step_kind(brush, stroke.stroke)
    within = len(stroke.stroke.reload_mm) * load_s(stroke.recipe, brush, given, again=True)
    return stroke.wait_s + load_s(stroke.recipe, brush, given, again=again) + within, pull_s(stroke, brush, kind, given)


def turns(plan: Plan, pace: Pace | None = None) -> tuple[Turn, ...]:
    """Return when the strokes are laid, one after another in the plan's order."""
    result, now = [], 0.0
    brushes = plan.brushes_by_id
    held: tuple[str, Recipe | None] = ("", None)
    for stroke in plan.strokes:
        loaded = _whatever_was_left(stroke.recipe) if stroke.recipe.pickups else None
        before, way = seconds(stroke, brushes[stroke.brush], pace, again=held == (stroke.brush, loaded))
        result.append(Turn(stroke.id, now + before, now + before + way))
        now += before + way
        if stroke.recipe.pickups:
            held = (stroke.brush, loaded)
        elif held[0] != stroke.brush:
            held = (stroke.brush, None)
    return tuple(result)


@kept_small
def _whatever_was_left(recipe: Recipe) -> Recipe:
    """Return a load as it is with whatever was in the brush before."""
    return replace(recipe, after="")
