"""Where a piece comes to lie that keeps a stripe of its load on a landmark, or its angle to the level.

The angle comes first, then the stripe: a piece is turned about its place, then moved the shortest way.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from pennello.chart.chart import Chart, drawn
from pennello.design.placed import LaidPiece, PlacedMotif, pieces_of
from pennello.design.plan import Plan
from pennello.kept import remembered
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.lay.laying import pull
from pennello.lay.stroke import Stroke
from pennello.load.edge import LoadedEdge
from pennello.phrases import mark, phrase

Array = NDArray[np.floating[Any]]

MIDLINE, PUPIL_LINE = mark("midline"), mark("pupil line")
_FAR_MM = 1000.0
_STATIONS = 80
_LEAST_CHORD_MM = 1.0


def places_for_stripes(chart: Chart) -> tuple[str, ...]:
    """Return what a stripe can be kept on: lines of the chart first, then its landmarks and frames."""
    lines = [MIDLINE] * (chart.midline_mm is not None) + [PUPIL_LINE] * bool(_pupils(chart))
    return (*lines, *(name for name, _ in chart.landmarks), *(name for name, _ in chart.frames))


def seated(plan: Plan, placed: PlacedMotif, chart: Chart, prints: tuple[tuple[str, float], ...]) -> PlacedMotif:
    """Return a piece where it comes to lie on its chart; as it is where it keeps nothing, or cannot keep it."""
    if placed.level_deg is not None:
        chord = chord_deg(placed, prints)
        if chord is not None:
            turn = placed.place.turn_deg + chord - placed.level_deg
            placed = replace(placed, place=replace(placed.place, turn_deg=(turn + 180) % 360 - 180))
    by = _shift(plan, placed, chart, prints)
    if by is None:
        return placed
    place = placed.place
    return replace(placed, place=replace(place, x_mm=place.x_mm + by[0], y_mm=place.y_mm + by[1]))


def chord_deg(placed: PlacedMotif, prints: tuple[tuple[str, float], ...]) -> float | None:
    """Return how steeply a piece's first stroke rises from its start to its end, degrees, up to the right above 0.

    None where it ends where it starts.
    """
    pieces = _own(placed, prints)
    if not pieces:
        return None
    points = pieces[0].stroke.path.points_mm
    dx, dy = points[-1][0] - points[0][0], points[-1][1] - points[0][1]
    return None if math.hypot(dx, dy) < _LEAST_CHORD_MM else math.degrees(math.atan2(-dy, dx))


def stripe_u(edge: LoadedEdge, paint: str) -> float | None:
    """Return the middle of a paint's stripe on a loaded edge, u in [0, 1]; None where the load has none of it."""
    if paint not in edge.paints:
        return None
    share = edge.share[:, edge.paints.index(paint)]
    if float(share.sum()) <= 0:
        return None
    middles = (np.arange(len(share)) + 0.5) / len(share)
    return float((share * middles).sum() / share.sum())


def _own(placed: PlacedMotif, prints: tuple[tuple[str, float], ...]) -> tuple[LaidPiece, ...]:
    return tuple(one for one in pieces_of(placed, prints, None) if not one.twin)


def _shift(
    plan: Plan, placed: PlacedMotif, chart: Chart, prints: tuple[tuple[str, float], ...]
) -> tuple[float, float] | None:
    """Return the shortest way that brings a stripe onto its landmark, mm; None where there is nothing to keep."""
    if placed.stripe is None:
        return None
    for piece in _own(placed, prints):
        u = stripe_u(plan.edge(piece.load), placed.stripe.paint)
        if u is not None:
            brush = plan.brush(plan.stroke(piece.load).brush)
            return _onto(stripe_line(piece.stroke, brush, plan.axis(piece.load), u), placed.stripe.on, chart)
    return None


@remembered(32)
def _track(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> Any:
    return pull(stroke, brush, axis).track


def stripe_line(stroke: Stroke, brush: Applicator, axis: GradientAxis, u: float) -> Array:
    """Return where a place of the edge goes along a stroke, shape (n, 2), mm."""
    track = _track(stroke, brush, axis)
    every = max(1, len(track.s_mm) // _STATIONS)
    return np.asarray(track.points(np.arange(0, len(track.s_mm), every), np.array([u]))[:, 0])


def _onto(line: Array, name: str, chart: Chart) -> tuple[float, float] | None:
    """Return the shortest way that brings a line onto a landmark; its middle onto a line or frame of the chart."""
    point = dict(chart.landmarks).get(name)
    if point is not None:
        way = shapely.shortest_line(_shape(line), shapely.Point(point))
    else:
        target = _line_of(name, chart)
        if target is None:
            return None
        way = shapely.shortest_line(shapely.Point(line[len(line) // 2]), target)
    (x, y), (to_x, to_y) = way.coords
    return to_x - x, to_y - y


def _shape(line: Array) -> Any:
    return shapely.LineString(line) if len(line) > 1 else shapely.Point(line[0])


def _line_of(name: str, chart: Chart) -> Any:
    """Return a line of a chart by its name, None where it has none."""
    if name == MIDLINE and chart.midline_mm is not None:
        return shapely.LineString([(chart.midline_mm, -_FAR_MM), (chart.midline_mm, _FAR_MM)])
    if name == PUPIL_LINE and (pupils := _pupils(chart)):
        (y,) = {y for _, y in pupils}
        return shapely.LineString([(-_FAR_MM, y), (_FAR_MM, y)])
    frame = dict(chart.frames).get(name)
    return None if frame is None else shapely.LineString(drawn(frame))


def _pupils(chart: Chart) -> tuple[tuple[float, float], ...]:
    return tuple(point for name, point in chart.landmarks if name.startswith("pupil"))


def keeps_its_stripe(plan: Plan, placed: PlacedMotif, chart: Chart) -> str:
    """Return why a piece cannot keep its stripe on its landmark, in words; "" where it can, or has none to keep."""
    stripe = placed.stripe
    if stripe is None:
        return ""
    if stripe.on not in places_for_stripes(chart):
        return phrase("there is no '{on}' on this chart", on=stripe.on)
    loads = dict.fromkeys(load for _, load in placed.loads)
    if all(stripe_u(plan.edge(load), stripe.paint) is None for load in loads):
        known = plan.paints_by_id.get(stripe.paint)
        return phrase("its load has no {known} any more", known=known.name if known else stripe.paint)
    return ""
