"""What a stroke of the plan will look like: coarse at once while a hand drags, fine and judged once it rests."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import Comparison, compare
from pennello.aim.state import State, state_of
from pennello.colour.basis import small_basis
from pennello.design.plan import Plan
from pennello.kit.paint import optics
from pennello.lay.laying import PX_PER_MM, Laid
from pennello.lay.render import Picture, render
from pennello.phrases import phrase
from pennello.session.jobs import Job
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.aim.verdict import Verdict
    from pennello.finding import Finding
    from pennello.load.scatter import Band

DRAG_PX_PER_MM = 2.0
REST_PX_PER_MM = 5.0
_DRAG_BANDS = 8
_DRAG_PIXELS, _MOST_PIXELS = 80_000, 1_500_000
"""What is laid while a hand drags, and once it rests (defaults): 1,000 pixels take 0.3 ms (measured)."""


@dataclass(frozen=True, slots=True, eq=False)
class Outcome:
    """A stroke as predicted, with its picture as sRGB bytes.

    `verdict`, `band`, where real loads scatter, `faults` of the way, and `from_one_load`, how many such strokes a load
    gives, are there once the hand rests.
    """

    plan: Plan
    stroke: str
    attempt: Attempt
    laid: Laid
    seen: Comparison
    picture: Picture
    state: State
    verdict: Verdict | None = None
    band: Band | None = None
    faults: tuple[Finding, ...] = ()
    from_one_load: int | None = None


def coarse(plan: Plan, stroke: str) -> Outcome:
    """Return the stroke at 2 px/mm (less for a large one) with 8 bands, without causes."""
    return _outcome(plan, stroke, _resolution(plan, stroke, DRAG_PX_PER_MM, _DRAG_PIXELS))


def roughly_judged(plan: Plan, stroke: str) -> State:
    """Return how a stroke holds at 2 px/mm (less for a huge one): for its mark, off the interface thread."""
    return _outcome(plan, stroke, _resolution(plan, stroke, DRAG_PX_PER_MM)).state


def fine(plan: Plan, stroke: str, unit: LengthUnit, job: Job[Outcome] | None = None) -> Outcome:
    """Return the stroke at 5 px/mm (less for a huge one) with the verdict."""
    from pennello.aim.faults import find_faults, with_sound_mends  # noqa: PLC0415
    from pennello.aim.verdict import judge  # noqa: PLC0415 - not needed before the first window is there
    from pennello.design.visits import from_one_load  # noqa: PLC0415
    from pennello.kit import catalogue  # noqa: PLC0415
    from pennello.load.scatter import scatter_band  # noqa: PLC0415

    first = _outcome(plan, stroke, _resolution(plan, stroke, REST_PX_PER_MM))
    if job:
        job.report(0.5, phrase("looking for what would mend it"))
    verdict = judge(first.attempt, first.laid, first.seen, tuple(catalogue.paints().values()), unit)
    attempt = first.attempt
    band = scatter_band(attempt.recipe, attempt.cakes, attempt.brush, attempt.residue, slips=plan.hand.slips)
    faults = find_faults(first.laid, attempt, first.seen, unit)
    faults = with_sound_mends(faults, attempt, _resolution(plan, stroke, DRAG_PX_PER_MM))
    lasts = from_one_load(plan, stroke)
    return replace(first, state=verdict.state, verdict=verdict, band=band, faults=faults, from_one_load=lasts)


def _outcome(plan: Plan, stroke: str, px_per_mm: float) -> Outcome:
    optics(plan.paints)  # all of them together, once
    attempt = plan.attempt(stroke)
    laid = attempt.lay(px_per_mm, small_basis(_DRAG_BANDS))
    seen = compare(laid, attempt)
    picture = render(laid.film, attempt.skin)
    return Outcome(plan, stroke, attempt, laid, seen, picture, state_of(seen, attempt.wanted))


def _resolution(plan: Plan, stroke: str, wanted: float, most_pixels: int = _MOST_PIXELS) -> float:
    """Return the resolution wanted, or what keeps the picture of a huge stroke within so many pixels."""
    here = plan.stroke(stroke)
    brush = plan.brush(here.brush)
    margin = 2 * max(brush.edge_mm(plan.axis(stroke)), brush.width_mm) + here.stroke.wiggle.width_mm
    wide, high = (max(v) - min(v) + margin for v in zip(*here.stroke.path.points_mm, strict=True))
    return float(min(wanted, max(PX_PER_MM[0], (most_pixels / (wide * high)) ** 0.5)))
