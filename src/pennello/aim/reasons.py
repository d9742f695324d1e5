"""In one line: what a laid stroke has otherwise than wished."""

from __future__ import annotations

from pennello.aim.attempt import Attempt, Side
from pennello.aim.comparison import BoundaryCheck, Comparison
from pennello.aim.state import State, state_of
from pennello.lay.laying import Laid
from pennello.phrases import phrase
from pennello.units import LengthUnit, length_text

_LEAST_SHIFT_MM = 0.4
_LEAST_SOFTER = 1.5


def reason_of(seen: Comparison, attempt: Attempt, laid: Laid, unit: LengthUnit = LengthUnit.MM) -> str:
    """Return the greatest departure from the wish in the trade's words, or that there is none.

    A wanted paint that is missing comes first, then a side that is too wide or narrow, then a pale end, then blends.
    """
    missing = _missing(attempt, laid)
    if missing:
        return phrase("no {missing} in it", missing=missing)
    shifted = [check for check in seen.boundaries if abs(check.shift_mm or 0.0) > _LEAST_SHIFT_MM]
    worst = max(shifted, key=lambda check: abs(check.shift_mm or 0.0), default=None)
    if worst is not None and worst.laid is not None:
        return _side(worst, seen, attempt, unit)
    if seen.pale_from_mm is not None:
        return phrase("runs pale from {pale_from_mm}", pale_from_mm=length_text(seen.pale_from_mm, unit))
    for check in seen.boundaries:
        if check.laid is not None and check.laid.width_10_90_mm > _LEAST_SOFTER * check.wanted_width_mm + 0.5:
            soft, asked = check.laid.width_10_90_mm, check.wanted_width_mm
            return phrase(
                "a blend is {soft} soft, you asked for {asked}",
                soft=length_text(soft, unit),
                asked=length_text(asked, unit),
            )
    if state_of(seen, attempt.wanted) is State.HOLDS:
        return phrase("as wished")
    at = int(seen.de00.mean(axis=0).argmax()) / seen.de00.shape[1] * attempt.edge_mm
    return phrase("another colour {at} from A", at=length_text(at, unit))


def _missing(attempt: Attempt, laid: Laid) -> str:
    edge = laid.edge
    for stop in attempt.wanted.stops:
        if stop.paint is None:
            continue
        held = edge.share[edge.paints.index(stop.paint)].max() if stop.paint in edge.paints else 0.0
        alike = stop.paint in attempt.paints and any(
            attempt.paints[name].srgb == attempt.paints[stop.paint].srgb and edge.share[row].max() > 0.3
            for row, name in enumerate(edge.paints)
        )
        if held < 0.3 and not alike:
            return attempt.paints[stop.paint].name
    return ""


def _side(check: BoundaryCheck, seen: Comparison, attempt: Attempt, unit: LengthUnit) -> str:
    """Say how wide the nearer side has come out: the rim, the heel, or a paint between."""
    assert check.laid is not None
    first, last = check is seen.boundaries[0], check is seen.boundaries[-1]
    if last and not first:
        laid, asked, side = attempt.edge_mm - check.laid.at_mm, attempt.edge_mm - check.wanted_at_mm, Side.B
        name = check.laid.to_paint
    else:
        laid, asked, side, name = check.laid.at_mm, check.wanted_at_mm, Side.A, check.laid.from_paint
    where = phrase("rim") if side is attempt.rim else phrase("heel")
    outer = first or last
    paint = attempt.paints[name].name
    told = phrase("the {paint} {where}", paint=paint, where=where) if outer else phrase("the {paint} side", paint=paint)
    return phrase(
        "{told} is {laid}, you asked for {asked}",
        told=told,
        laid=length_text(laid, unit),
        asked=length_text(asked, unit),
    )
