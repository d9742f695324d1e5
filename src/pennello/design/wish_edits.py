"""Ways to come to a wish: a motif's usual, another stroke's, a picture's; stops more and fewer; rules for the rim."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from pennello.aim.attempt import Side
from pennello.aim.wish import Stop, Wanted, stop_labs
from pennello.design.edits import with_stroke
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.wishing import LEAST_PART_U, turned_stops
from pennello.errors import OutOfRangeError, PennelloError
from pennello.phrases import phrase

RIM_MM = 2.0
"""How wide a light rim has to be to read at arm's length, mm (a default)."""

_USUAL_BLEND_MM = 3.0
MOST_STOPS = 9


class NoUsualError(PennelloError):
    """There are no two tones to order from light to dark."""


def usual_wish(plan: Plan, name: str) -> Wanted:
    """Return a motif's usual: the paints of the stroke's cakes from light at the rim to dark at the heel.

    Common practice, no published source. The lightest is a rim of a fifth, the others share the rest.
    """
    stroke = plan.stroke(name)
    known = plan.paints_by_id
    cakes = [plan.cake(cake) for cake in stroke.recipe.cakes]
    names = list(dict.fromkeys(stripe.paint for cake in cakes for stripe in cake.stripes)) or list(known)
    if len(names) < 2:
        raise NoUsualError(phrase("A light rim and a dark heel need two paints; load the stroke from a cake first."))
    names = names[:MOST_STOPS]
    lone = Wanted(tuple(Stop(paint=one, to_u=(at + 1) / len(names)) for at, one in enumerate(names)))
    light = stop_labs(lone, known, skin_spectrum(plan.skin))[:, 0]
    order = [names[int(at)] for at in np.argsort(-light, kind="stable")]
    ends = [0.2, *(0.2 + 0.8 * (at + 1) / (len(order) - 1) for at in range(len(order) - 1))]
    stops = tuple(
        Stop(paint=one, to_u=1.0 if number == len(order) - 1 else round(end, 4), blend_mm=_USUAL_BLEND_MM)
        for number, (one, end) in enumerate(zip(order, ends, strict=True))
    )
    return replace(stroke.wanted, stops=stops if stroke.rim is Side.A else turned_stops(stops), end=())


def wish_of(plan: Plan, name: str, other: str) -> Wanted:
    """Return another stroke's wish, turned round where its rim is the other corner."""
    here, there = plan.stroke(name), plan.stroke(other)
    same = here.rim is there.rim
    stops, end = (there.wanted.stops, there.wanted.end)
    return replace(
        here.wanted,
        stops=stops if same else turned_stops(stops),
        end=end if same else turned_stops(end),
    )


def with_rim_at_least(wanted: Wanted, rim: Side, edge_mm: float, least_mm: float = RIM_MM) -> Wanted:
    """Return the wish with the rim's colour at least so wide, mm; one that is wide enough stays as it is.

    Raises
    ------
    OutOfRangeError
        If the rim would take more than half of the edge.
    """
    if not 0 < least_mm <= edge_mm / 2:
        raise OutOfRangeError(
            phrase("width of the rim"),
            least_mm,
            phrase("above 0, up to {edge_mm:.1f} mm, half of the edge", edge_mm=edge_mm / 2),
        )
    return replace(
        wanted,
        stops=_rimmed(wanted.stops, rim, least_mm / edge_mm),
        end=_rimmed(wanted.end, rim, least_mm / edge_mm),
    )


def _rimmed(stops: tuple[Stop, ...], rim: Side, least_u: float) -> tuple[Stop, ...]:
    if rim is Side.B:
        return turned_stops(_rimmed(turned_stops(stops), Side.A, least_u))
    if len(stops) < 2 or stops[0].to_u >= least_u:
        return stops
    kept = [replace(stops[0], to_u=round(least_u, 4))]
    for stop in stops[1:]:
        low = kept[-1].to_u + LEAST_PART_U
        kept.append(stop if stop.to_u >= low else replace(stop, to_u=round(low, 4)))
    return (*kept[:-1], replace(kept[-1], to_u=1.0))


def with_stop_added(stops: tuple[Stop, ...], after: int, stop: Stop) -> tuple[Stop, ...]:
    """Return stops with one more behind another, which gives it half of its room.

    Raises
    ------
    OutOfRangeError
        If there are nine, or no room.
    """
    low = stops[after - 1].to_u if after else 0.0
    high = stops[after].to_u
    if len(stops) >= MOST_STOPS or high - low < 2 * LEAST_PART_U:
        raise OutOfRangeError(phrase("number of wanted colours"), len(stops) + 1, phrase("at most 9, each with room"))
    first = replace(stops[after], to_u=round((low + high) / 2, 4), blend_mm=min(stops[after].blend_mm or 2.5, 2.5))
    second = replace(stop, to_u=high, blend_mm=stops[after].blend_mm)
    return (*stops[:after], first, second, *stops[after + 1 :])


def without_stop(stops: tuple[Stop, ...], at: int) -> tuple[Stop, ...]:
    """Return stops without one; its room goes to the one before, or to the one after. The last one stays."""
    if len(stops) == 1:
        return stops
    kept = [*stops[:at], *stops[at + 1 :]]
    if at > 0:
        kept[at - 1] = replace(kept[at - 1], to_u=stops[at].to_u)
    return (*kept[:-1], replace(kept[-1], to_u=1.0))


def with_stop_coloured(stops: tuple[Stop, ...], at: int, paint: str | None, srgb: str | None) -> tuple[Stop, ...]:
    """Return stops with one wished for as a paint, or as a colour."""
    changed = Stop(paint=paint, srgb=srgb, to_u=stops[at].to_u, blend_mm=stops[at].blend_mm)
    return (*stops[:at], changed, *stops[at + 1 :])


def wish_paints_kept(plan: Plan, stroke: PlanStroke) -> Plan:
    """Return the plan with a stroke replaced; raises UnknownNameError if its wish names a paint that is not there."""
    for stop in (*stroke.wanted.stops, *stroke.wanted.end):
        if stop.paint is not None:
            plan.paint(stop.paint)
    return with_stroke(plan, stroke)
