"""Pure edits of a wish."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import COAT_UM, SPONGE_COAT_UM, Stop, Wanted, edge_lab, usual_coat_um
from pennello.colour.lab import lab_to_hex
from pennello.design.edits import with_stroke
from pennello.design.plan import Plan, skin_spectrum
from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator
from pennello.kit.contact import BINS, bin_places
from pennello.load.edge import LoadedEdge, boundaries
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

LEAST_PART_U = 0.02


PURE_SHARE = 0.85
"""A stop is wished for as a paint where that paint is at least this share of it, else as a colour."""


def wish_for_edge(edge: LoadedEdge, like: Wanted, looks: Array | None = None) -> Wanted:
    """Return the wish for just what an edge holds, with the coat and tolerance of another wish.

    Parameters
    ----------
    looks
        A coat of what each bin holds as L*, a*, b*, shape (64, 3): what mixtures are wished for as. Without it the
        paint that leads stands for the mixture.
    """
    found = boundaries(edge)
    volume = edge.solids.sum(axis=1)
    if not volume.any():
        return like
    first = found[0].from_paint if found else edge.paints[int(volume.argmax())]
    names = [first, *(one.to_paint for one in found)]
    ends = [min(max(one.at_mm / edge.width_mm, LEAST_PART_U), 1 - LEAST_PART_U) for one in found]
    stops: list[Stop] = []
    for name, end, one in zip(names, [*ends, 1.0], [*found, None], strict=True):
        low = stops[-1].to_u if stops else 0.0
        if stops and end - low < LEAST_PART_U:
            continue
        blend = round(one.width_10_90_mm, 2) if one else 0.0
        stops.append(_stop(edge, name, (low, round(end, 4)), blend, looks))
    return replace(like, stops=(*stops[:-1], replace(stops[-1], to_u=1.0)))


def _stop(edge: LoadedEdge, name: str, part: tuple[float, float], blend_mm: float, looks: Array | None) -> Stop:
    """Return the stop for a part of the edge: its leading paint, or its colour where that is a mixture."""
    middle, half = (part[0] + part[1]) / 2, max((part[1] - part[0]) / 4, 0.5 / BINS)
    inside = np.abs(bin_places() - middle) <= half
    purity = edge.share[edge.paints.index(name), inside].mean() if inside.any() else 1.0
    if looks is None or purity >= PURE_SHARE:
        return Stop(paint=name, to_u=part[1], blend_mm=blend_mm)
    return Stop(srgb=lab_to_hex(looks[inside].mean(axis=0)), to_u=part[1], blend_mm=min(blend_mm, 4.0))


def turned_round(wanted: Wanted) -> Wanted:
    """Return the wish with A and B exchanged; turned twice it is the same."""
    return replace(wanted, stops=turned_stops(wanted.stops), end=turned_stops(wanted.end))


def turned_stops(stops: tuple[Stop, ...]) -> tuple[Stop, ...]:
    """Return stops in the other order, ends and blends with them."""
    if not stops:
        return ()
    starts = [0.0, *(stop.to_u for stop in stops[:-1])]
    blends = [stops[-1].blend_mm, *(stop.blend_mm for stop in stops[:-1])]
    turned = [
        replace(stop, to_u=1.0 - start, blend_mm=blend)
        for stop, start, blend in zip(stops, starts, blends, strict=True)
    ]
    return tuple(reversed(turned))


def with_wish_boundary(wanted: Wanted, index: int, to_u: float, blend_mm: float | None = None) -> Wanted:
    """Return the wish with the end of one colour moved, clipped between its neighbours, and its blend if given.

    Raises OutOfRangeError if there is no boundary of that number.
    """
    stops = list(wanted.stops)
    if not 0 <= index < len(stops) - 1:
        raise OutOfRangeError(phrase("the boundary's number"), index, phrase("0 to {count}", count=len(stops) - 2))
    low = stops[index - 1].to_u if index else 0.0
    at = min(max(to_u, low + LEAST_PART_U), stops[index + 1].to_u - LEAST_PART_U)
    blend = stops[index].blend_mm if blend_mm is None else min(max(blend_mm, 0.0), 60.0)
    stops[index] = replace(stops[index], to_u=at, blend_mm=blend)
    return replace(wanted, stops=tuple(stops))


def with_wish_blend(wanted: Wanted, index: int, blend_mm: float) -> Wanted:
    """Return the wish with one colour handing over that softly, mm; raises OutOfRangeError without such a colour."""
    stops = list(wanted.stops)
    if not 0 <= index < len(stops):
        raise OutOfRangeError(phrase("the colour's number"), index, phrase("0 to {count}", count=len(stops) - 1))
    stops[index] = replace(stops[index], blend_mm=blend_mm)
    return replace(wanted, stops=tuple(stops))


def with_load_wished(plan: Plan, name: str) -> Plan:
    """Return the plan with a stroke wished for as its load lays it."""
    stroke, edge = plan.stroke(name), plan.edge(name)
    paints = plan.paints_by_id
    like = coat_for(stroke.wanted, plan.brush(stroke.brush))
    looks = edge_lab(edge, paints, skin_spectrum(plan.skin), like.coat_um)
    return with_stroke(plan, replace(stroke, wanted=wish_for_edge(edge, like, looks)))


def coat_for(wanted: Wanted, brush: Applicator) -> Wanted:
    """Return a wish with the coat that such a tool usually lays, unless its painter wants another."""
    if wanted.coat_um not in (COAT_UM, SPONGE_COAT_UM):
        return wanted
    return replace(wanted, coat_um=usual_coat_um(brush))
