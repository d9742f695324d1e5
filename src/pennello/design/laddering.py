"""The tone ladder of a cake within a plan: which brush, which load."""

from __future__ import annotations

from pennello.aim.ladder import Ladder, tone_ladder
from pennello.design.plan import Plan, skin_spectrum
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.load.recipe import PickUp
from pennello.phrases import phrase


def plan_ladder(plan: Plan, cake: str, steps: int, brush: str | None = None) -> tuple[Ladder, Applicator]:
    """Return the ladder of a plan's cake on the plan's skin, and the brush that it is for.

    Raises
    ------
    UnknownNameError, OutOfRangeError, NoLadderError
        If there is no such cake or brush, or no ladder.
    """
    pan = plan.cake(cake)
    chosen = plan.brush(brush) if brush else _fitting(plan, cake)
    paints = plan.paints_by_id
    ladder = tone_ladder(pan, chosen, paints, skin_spectrum(plan.skin), steps, _like(plan, cake, chosen))
    return ladder, chosen


def _uses(plan: Plan, cake: str) -> list[tuple[Applicator, PickUp]]:
    """Return the brushes and pick-ups that load a window of a cake across the brush, in the order of the strokes."""
    return [
        (plan.brush(stroke.brush), pickup)
        for stroke in plan.strokes
        for pickup in stroke.recipe.pickups
        if pickup.cake == cake and stroke.recipe.axis(plan.brush(stroke.brush)) is GradientAxis.ACROSS
    ]


def _like(plan: Plan, cake: str, brush: Applicator) -> PickUp | None:
    return next((pickup for used, pickup in _uses(plan, cake) if used.id == brush.id and pickup.whole), None)


def _fitting(plan: Plan, cake: str) -> Applicator:
    width = plan.cake(cake).width_mm
    brushes = [brush for brush, _ in _uses(plan, cake) if brush.width_mm < width - 1]
    if brushes:
        return brushes[0]
    others = sorted(plan.brushes, key=lambda one: abs(one.width_mm - width / 2))
    return (
        others[0]
        if others
        else Applicator("half", phrase("a brush of {width:.1f} mm", width=width / 2), max(width / 2, 0.5))
    )
