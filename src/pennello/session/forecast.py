"""What a stroke of the plan will look like: coarse at once while a hand drags, fine and judged once it rests."""

from __future__ import annotations

from dataclasses import dataclass

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import Comparison, compare
from pennello.aim.verdict import State, Verdict, judge, state_of
from pennello.colour.basis import small_basis
from pennello.design.plan import Plan
from pennello.kit import catalogue
from pennello.kit.paint import optics
from pennello.lay.laying import Laid
from pennello.lay.render import Picture, render
from pennello.session.jobs import Job
from pennello.units import LengthUnit

DRAG_PX_PER_MM = 2.0
REST_PX_PER_MM = 5.0
_DRAG_BANDS = 8
_MOST_REST_PIXELS = 6_000_000


@dataclass(frozen=True, slots=True, eq=False)
class Outcome:
    """A stroke as predicted, with its picture as sRGB bytes; `verdict` is None while the hand still moves."""

    plan: Plan
    stroke: str
    attempt: Attempt
    laid: Laid
    seen: Comparison
    picture: Picture
    state: State
    verdict: Verdict | None = None


def coarse(plan: Plan, stroke: str) -> Outcome:
    """Return the stroke at 2 px/mm with 8 bands, without causes."""
    return _outcome(plan, stroke, DRAG_PX_PER_MM)


def fine(plan: Plan, stroke: str, unit: LengthUnit, job: Job[Outcome] | None = None) -> Outcome:
    """Return the stroke at 5 px/mm (less for a very large one) with the verdict."""
    first = _outcome(plan, stroke, _rest_resolution(plan, stroke))
    if job:
        job.report(0.5, "looking for what would mend it")
    verdict = judge(first.attempt, first.laid, first.seen, tuple(catalogue.paints().values()), unit)
    return Outcome(plan, stroke, first.attempt, first.laid, first.seen, first.picture, verdict.state, verdict)


def _outcome(plan: Plan, stroke: str, px_per_mm: float) -> Outcome:
    optics(plan.paints)  # all of them together, once
    attempt = plan.attempt(stroke)
    laid = attempt.lay(px_per_mm, small_basis(_DRAG_BANDS))
    seen = compare(laid, attempt)
    picture = render(laid.film, attempt.skin)
    return Outcome(plan, stroke, attempt, laid, seen, picture, state_of(seen, attempt.wanted))


def _rest_resolution(plan: Plan, stroke: str) -> float:
    points = plan.stroke(stroke).stroke.path.points_mm
    spans = [max(values) - min(values) + 60 for values in zip(*points, strict=True)]
    return float(min(REST_PX_PER_MM, max(1.0, (_MOST_REST_PIXELS / (spans[0] * spans[1])) ** 0.5)))
