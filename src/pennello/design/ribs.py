"""Ribs of a pulled stroke: where the chisel lies across its way, each to be turned by hand."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.design.clock import LINERS
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.design.pulled import points_of, turned_nib
from pennello.errors import OutOfRangeError
from pennello.kit.contact import contact_width_mm
from pennello.lay.laying import pull
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.path.cubic import length_mm, travelled_mm
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]
Rib = tuple[tuple[float, float], tuple[float, float]]

MOST_RIBS = 24
"""A way of more is turned as a whole."""

_LEAST_WIDE_MM = 1.0


def rib_places(stroke: Stroke) -> tuple[float, ...]:
    """Return where along the way the chisel can be turned, 0 to 1 of its length, rising.

    At its keys, if it turns by keys; at start and end if it keeps a direction on the skin or turns evenly; else at the
    start, the joints of its curves, and the end.
    """
    if length_mm(stroke.path) <= 0 or stroke.pats is not None:
        return ()
    if stroke.nib.mode is NibMode.KEYED:
        places = tuple(dict.fromkeys(key.at for key in stroke.nib.keys))
    elif stroke.nib.mode is NibMode.FOLLOWING:
        places = _joints(stroke)
    else:
        places = (0.0, 1.0)
    return places if len(places) <= MOST_RIBS else ()


def _joints(stroke: Stroke) -> tuple[float, ...]:
    """Return where the curves of a way join, its start and end with them, 0 to 1 of its length."""
    each, curves = 64, (len(stroke.path.points_mm) - 1) // 3
    at = np.linspace(0.0, 1.0, each + 1)[:, None]
    points = np.array(stroke.path.points_mm)
    ways = []
    for number in range(curves):
        a, b, c, d = points[3 * number : 3 * number + 4]
        ways.append((1 - at) ** 3 * a + 3 * at * (1 - at) ** 2 * b + 3 * at**2 * (1 - at) * c + at**3 * d)
    far = travelled_mm(np.concatenate([ways[0], *(way[1:] for way in ways[1:])]))
    return tuple(round(float(value), 4) for value in far[::each] / far[-1])


def ribs_of(plan: Plan, placed: PlacedMotif) -> tuple[Rib, ...]:
    """Return the ribs of a single free stroke where they lie on the chart, mm, each from corner A to corner B.

    None for any other piece, and for a brush without a chisel.
    """
    if placed.way is None or placed.more or not points_of(placed):
        return ()
    load = next(iter(placed.load_of.values()), "")
    brush = plan.brush(plan.stroke(load).brush)
    if brush.kind in LINERS or float(contact_width_mm(brush, 1.0)) < _LEAST_WIDE_MM:
        return ()
    places = rib_places(placed.way)
    if not places:
        return ()
    track = pull(placed.place.stroke(placed.way), brush, plan.axis(load)).track
    found = []
    for at in places:
        moment = track.at(np.array([at * track.length_mm]))
        (ax, ay), (bx, by) = (track.points(moment, np.array([u]))[0, 0] for u in (0.0, 1.0))
        found.append(((float(ax), float(ay)), (float(bx), float(by))))
    return tuple(found)


def with_rib_turned(placed: PlacedMotif, number: int, by_deg: float) -> PlacedMotif:
    """Return a free stroke with its chisel turned at one rib, from +x towards +y on the chart; the others stay.

    In between it turns evenly. One that kept its direction on the skin then turns evenly from start to end; one that
    followed the way then does so by keys.

    Raises
    ------
    OutOfRangeError
        If it has no such rib.
    """
    way = placed.way
    places = rib_places(way) if way is not None and not placed.more else ()
    if way is None or not 0 <= number < len(places):
        wanted = (
            phrase("0 to {count}", count=len(places) - 1)
            if places
            else phrase("none: its chisel is not turned by ribs")
        )
        raise OutOfRangeError(phrase("rib of {placed}", placed=placed.name), number, wanted)
    turns = np.zeros(len(places))
    turns[number] = -by_deg if placed.place.mirrored else by_deg
    nib = way.nib
    if nib.mode is NibMode.FOLLOWING:  # every rib keeps a key of its own, to be turned again
        nib = Nib(NibMode.KEYED, keys=tuple(Key(at, nib.angle_deg) for at in places))
    return replace(placed, way=replace(way, nib=turned_nib(nib, np.array(places), turns)))
