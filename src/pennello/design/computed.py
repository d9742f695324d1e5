"""Computed pieces, living: an outline that hugs parts, the ground round them, the fill of a place, an echo of them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from pennello.chart.catalogue import chart
from pennello.chart.chart import Chart
from pennello.chart.measures import Measures
from pennello.design.computing import LARGE, RIMS, Computed, Computing, LaidBy
from pennello.design.contours import contour, ground_lines, parted, turned_to
from pennello.design.marks import Reserved
from pennello.design.parts import line_of
from pennello.design.placed import SINGLE, LaidPiece, PlacedMotif, twin_place
from pennello.design.plan import Plan
from pennello.design.repeats import LEAST_GUIDE_MM, places_along
from pennello.design.touch import reserved_shape, shape_of, skin_shape, swept, swept_by, zone_shape
from pennello.design.visits import lasting
from pennello.kept import kept_small, remembered
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.contact import contact_width_mm
from pennello.lay.families.shapes import smooth, swell
from pennello.lay.stroke import Key, Nib, NibMode, Pats, Stroke
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath, length_mm, line

Array = NDArray[np.floating[Any]]

CLEAR_MM, ZONE_MM = 0.05, 0.3
"""A ground stays so far from the parts that it goes round, and from what stays clear (defaults)."""

_TIP, _FUR_PRESS, _FUR_LEAN_DEG = 0.08, 0.22, 24.0
"""Pressure at the ends of a shadow or light, and of fur, and how far a brush is laid over for fur (defaults)."""

_SIMPLE_MM = 0.02
_TRIED_MM = 40.0
_CLEAR_ZONES = ("eye", "nostril", "lips")


def goes_round(plan: Plan, placed: PlacedMotif, other: PlacedMotif) -> bool:
    """Return whether a computed piece goes round another one: it is named, or a part that it lies in; on its chart."""
    of = placed.computed.of if placed.computed is not None else ()
    named = {other.id, *(part.id for part in line_of(plan, other.part))} & set(of)
    return bool(named) and other.chart == placed.chart and other.computed is None and other.id != placed.id


def rests_on(plan: Plan, placed: PlacedMotif, other: PlacedMotif) -> bool:
    """Return whether another piece has to be there for a computed one: it goes round it, or along its line."""
    along = placed.computed.along if placed.computed is not None else ""
    return goes_round(plan, placed, other) or (bool(along) and other.id == along and other.chart == placed.chart)


Ways = tuple[tuple[Stroke, Applicator, GradientAxis], ...]


@dataclass(frozen=True, slots=True)
class _Drawn:
    """How a load draws: its role and id, width of its lines, pressure, and how far one load lasts, mm."""

    role: str
    load: str
    width_mm: float
    press: float
    most_mm: float


def computed_pieces(
    plan: Plan, placed: PlacedMotif, around: tuple[LaidPiece, ...], guide: CubicPath | None = None
) -> tuple[LaidPiece, ...]:
    """Return the strokes of a computed piece.

    Parameters
    ----------
    around
        The strokes of what it goes round, or lays again.
    guide
        The line of an echo where it lies; None where it has none.
    """
    if placed.computed is not None and placed.computed.kind is Computing.ECHO:
        return _echo(placed, around, guide, chart(placed.chart, plan.measures).midline_mm)
    loads = tuple(_drawn(plan, role, load) for role, load in placed.loads if role in (SINGLE, LARGE))
    assert placed.computed is not None
    found = _lines(placed.computed, _ways(plan, around), loads, placed.chart, plan.measures, plan.reserved)
    return tuple(LaidPiece(placed.id, one.role, 0, one.load, stroke, twin=False) for one, stroke in found)


def _echo(
    placed: PlacedMotif, around: tuple[LaidPiece, ...], guide: CubicPath | None, midline_mm: float | None
) -> tuple[LaidPiece, ...]:
    """Return what is laid again, one after another; the mirror image of a piece goes along that of the line."""
    made = placed.computed
    assert made is not None
    if guide is None or length_mm(guide) < LEAST_GUIDE_MM:
        return ()
    rows = {key: number for number, key in enumerate(dict.fromkeys((one.motif, one.row) for one in around))}
    found = []
    for number, there in enumerate(places_along(guide, made.times, made.smaller, by_turns=made.by_turns)):
        over = there if midline_mm is None else _beyond_midline(there, midline_mm)
        for one in around:
            stroke = (over if one.twin else there).stroke(one.stroke)
            row = number * len(rows) + rows[one.motif, one.row]
            found.append(replace(one, motif=placed.id, row=row, stroke=stroke))
    return tuple(found)


def _beyond_midline(there: Place, midline_mm: float) -> Place:
    """Return the place that does to a mirror image what this one does to what it is the image of."""
    across = twin_place(Place(), midline_mm)
    return across.then(there).then(across)


def _ways(plan: Plan, around: tuple[LaidPiece, ...]) -> Ways:
    return tuple((one.stroke, plan.brush(plan.stroke(one.load).brush), plan.axis(one.load)) for one in around)


@remembered(12)
def _lines(
    made: Computed,
    around: Ways,
    loads: tuple[_Drawn, ...],
    key: str,
    measures: Measures,
    reserved: tuple[Reserved, ...],
) -> tuple[tuple[_Drawn, Stroke], ...]:
    """Return the strokes of a computed piece, each with its load."""
    by_role = {one.role: one for one in loads}
    shape = _together(around)
    if SINGLE not in by_role or (made.kind is not Computing.FILL and shape.is_empty):
        return ()
    small, large = by_role[SINGLE], by_role.get(LARGE)
    if made.kind is Computing.OUTLINE:
        return tuple((small, one) for one in _strokes(small, contour(shape, made.off_mm)))
    if made.kind in RIMS:
        light = made.light_deg + (180.0 if made.kind is Computing.SHADOW else 0.0)
        rims = turned_to(contour(shape, made.off_mm), light)
        return tuple((small, replace(one, pressures=swell(_TIP, small.press))) for one in _strokes(small, rims))
    place = place_of(made, shape, key, measures, reserved)
    fine, broad, _ = ground_lines(place, small.width_mm, large.width_mm if large is not None else None)
    found = [(small, one) for one in _strokes(small, fine)]
    if large is not None:
        found += [(large, one) for one in _strokes(large, broad)]
    return tuple((one, _touched(stroke, made.by)) for one, stroke in found)


def _touched(stroke: Stroke, by: LaidBy) -> Stroke:
    """Return a stroke pulled, or set down again and again along its way."""
    match by:
        case LaidBy.PULLED:
            return stroke
        case LaidBy.PATTED:
            return replace(stroke, pats=Pats(0.45, 20.0))
        case LaidBy.DABBED:
            return replace(stroke, pats=Pats(0.1, 60.0))
        case LaidBy.FUR:
            lean = (Key(0, _FUR_LEAN_DEG), Key(1, _FUR_LEAN_DEG))
            return replace(stroke, pressure=_FUR_PRESS, pats=Pats(0.0, 14.0), leans=lean)


def _together(around: Ways) -> BaseGeometry:
    shape: BaseGeometry = shapely.union_all([swept_by(*one) for one in around]) if around else shapely.Polygon()
    return shape


def place_of(
    made: Computed, shape: BaseGeometry, key: str, measures: Measures, reserved: tuple[Reserved, ...]
) -> BaseGeometry:
    """Return what a ground or fill goes over: its border less the parts, what stays clear and what is reserved."""
    here = chart(key, measures)
    border = _border(made, shape, here)
    clear = [
        zone_shape(zone).buffer(ZONE_MM)
        for zone in here.zones
        if zone.kind in _CLEAR_ZONES and not (zone.name == made.zone and zone.kind == "lips")
    ]
    kept = [reserved_shape(one, ZONE_MM) for one in reserved if one.chart == key]
    away = [] if shape.is_empty else [shape.buffer(CLEAR_MM, quad_segs=12)]
    place = border.intersection(skin_shape(here)).difference(shapely.union_all([*clear, *kept, *away]))
    simple: BaseGeometry = place.simplify(_SIMPLE_MM)
    return simple


def places_to_fill(here: Chart) -> tuple[str, ...]:
    """Return names of the zones and closed frames of a chart that a fill may cover: no open eye, no nostril."""
    zones = [zone.name for zone in here.zones if zone.kind not in ("eye", "nostril")]
    return (*zones, *(name for name, path in here.frames if path.points_mm[0] == path.points_mm[-1]))


def _border(made: Computed, shape: BaseGeometry, here: Chart) -> BaseGeometry:
    if made.border is not None:
        return shape_of(made.border)
    if made.zone:
        found = {zone.name: zone.outline for zone in here.zones} | dict(here.frames)
        return shape_of(found[made.zone]) if made.zone in found else shapely.Polygon()
    border: BaseGeometry = shape.buffer(made.margin_mm, quad_segs=12)
    return border


def bare_share(plan: Plan, placed: PlacedMotif, around: tuple[LaidPiece, ...]) -> float:
    """Return which share of the place of a ground or fill its strokes leave bare, by what they touch."""
    assert placed.computed is not None
    shape = _together(_ways(plan, around))
    place = place_of(placed.computed, shape, placed.chart, plan.measures, plan.reserved)
    laid = shapely.union_all([swept(plan, piece) for piece in computed_pieces(plan, placed, around)])
    return float(place.difference(laid).area / place.area) if place.area > 0 else 0.0


def _drawn(plan: Plan, role: str, load: str) -> _Drawn:
    source = plan.stroke(load)
    way = source.stroke
    press = max(key.value for key in way.pressures) if way.pressures else way.pressure
    lasts = lasting(plan, load, Stroke(line((0.0, 0.0), (_TRIED_MM, 0.0)), _ACROSS, press))
    width = float(contact_width_mm(plan.brush(source.brush), press))
    return _Drawn(role, load, width, press, _TRIED_MM * lasts)


def _strokes(drawn: _Drawn, lines: list[Array]) -> list[Stroke]:
    """Return lines as strokes of a load across its way, none longer than one load lasts."""
    parts = (part for one in lines for part in parted(one, drawn.most_mm))
    return [_stroke(tuple(map(tuple, part.round(4).tolist())), drawn.press) for part in parts]


_ACROSS = Nib(NibMode.FOLLOWING, 90.0)


@kept_small
def _stroke(points: tuple[tuple[float, float], ...], press: float) -> Stroke:
    return Stroke(smooth(points), _ACROSS, press)  # points lie evenly, and so near that a fit would save no curve


def new_computed(
    plan: Plan, name: str, new_id: str, made: Computed, loads: dict[str, str], chart_key: str
) -> PlacedMotif:
    """Return a computed piece; raises UnknownNameError where there is no such load."""
    for load in loads.values():
        plan.stroke(load)
    return PlacedMotif(new_id, name, "", tuple(loads.items()), chart=chart_key, computed=made)
