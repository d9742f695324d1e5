"""Pure edits of a wish."""

from __future__ import annotations

from dataclasses import replace

from pennello.aim.wish import Stop, Wanted
from pennello.load.edge import LoadedEdge, boundaries

LEAST_PART_U = 0.02


def wish_for_edge(edge: LoadedEdge, like: Wanted) -> Wanted:
    """Return the wish for just what an edge holds, with the coat and tolerance of another wish."""
    found = boundaries(edge)
    volume = edge.solids.sum(axis=1)
    if not volume.any():
        return like
    first = found[0].from_paint if found else edge.paints[int(volume.argmax())]
    names = [first, *(one.to_paint for one in found)]
    ends = [min(max(one.at_mm / edge.width_mm, LEAST_PART_U), 1 - LEAST_PART_U) for one in found]
    stops: list[Stop] = []
    for name, end, one in zip(names, [*ends, 1.0], [*found, None], strict=True):
        if stops and end - stops[-1].to_u < LEAST_PART_U:
            continue
        stops.append(Stop(paint=name, to_u=round(end, 4), blend_mm=round(one.width_10_90_mm, 2) if one else 0.0))
    return replace(like, stops=(*stops[:-1], replace(stops[-1], to_u=1.0)))


def turned_round(wanted: Wanted) -> Wanted:
    """Return the wish with A and B exchanged; turned twice it is the same."""
    stops = wanted.stops
    starts = [0.0, *(stop.to_u for stop in stops[:-1])]
    blends = [stops[-1].blend_mm, *(stop.blend_mm for stop in stops[:-1])]
    turned = [
        replace(stop, to_u=1.0 - start, blend_mm=blend)
        for stop, start, blend in zip(stops, starts, blends, strict=True)
    ]
    return replace(wanted, stops=tuple(reversed(turned)))


def with_wish_boundary(wanted: Wanted, index: int, to_u: float, blend_mm: float | None = None) -> Wanted:
    """Return the wish with the end of one colour moved, clipped between its neighbours, and its blend if given."""
    stops = list(wanted.stops)
    low = stops[index - 1].to_u if index else 0.0
    at = min(max(to_u, low + LEAST_PART_U), stops[index + 1].to_u - LEAST_PART_U)
    blend = stops[index].blend_mm if blend_mm is None else min(max(blend_mm, 0.0), 60.0)
    stops[index] = replace(stops[index], to_u=at, blend_mm=blend)
    return replace(wanted, stops=tuple(stops))
