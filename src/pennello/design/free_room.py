"""Where on a chart there is room: bare skin clear of eyes, nostrils and lips, hair and paint, where one would paint.

A motif that nobody has put anywhere begins there. Common practice, no published source.
"""

from __future__ import annotations

from collections.abc import Iterable

import shapely
from shapely.geometry.base import BaseGeometry

from pennello.chart.chart import Bounds, Chart, Feature
from pennello.design.gaps import parts_laid
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan
from pennello.design.touch import layer_shape, reserved_shape, shape_of, skin_shape, zone_shape
from pennello.motif.place import Place

PAINTED_FIRST = (
    "forehead",
    "cheekbone",
    "cheekbone, wearer's left",
    "cheekbone, wearer's right",
    "shoulder",
    "calf",
    "instep",
    "middle",
    "temple",
    "temple, wearer's left",
    "temple, wearer's right",
    "wrist",
    "ankle",
    "collarbone",
    "upper arm",
    "chin",
)
"""Landmarks that a design begins at, the usual ones first (common practice)."""

WISHED_MM, NEAR_MM = 12.0, 25.0
"""Radius of the room that is wished for there, and how far from the landmark it is looked for, mm (defaults)."""

AIR_MM = 2.0
"""How far from what is kept clear room ends, mm (a default)."""

ENOUGH_MM = 6.0
"""Radius of the least room anywhere that is worth going to, mm (a default): else it is the middle."""

_GOOD_TO_MM = 0.5


def room_on(plan: Plan, key: str, within: Bounds | None = None) -> Place:
    """Return a bare place on a chart: at a landmark that designs begin at, else the largest that there is.

    Where there is hardly any it is the middle of the skin.

    Parameters
    ----------
    within
        Left, top, right and bottom of what is looked at, mm; the whole chart by default.

    Raises
    ------
    UnknownNameError
        If there is no such chart.
    """
    chart = chart_of(plan, key)
    seen = shapely.box(*(chart.bounds_mm if within is None else within))
    skin = skin_shape(chart).intersection(seen)
    bare = shapely.union_all(_areas(skin.difference(shapely.union_all([*_clear(chart), *_laid(plan, key)]))))
    landmarks = dict(chart.landmarks)
    for name in PAINTED_FIRST:
        at = shapely.Point(landmarks[name]) if name in landmarks else None
        if at is None or not seen.contains(at):
            continue
        if bare.contains(at) and bare.boundary.distance(at) >= WISHED_MM:
            return _place(at)
        middle, radius_mm = _disc(bare.intersection(at.buffer(NEAR_MM)))
        if radius_mm >= WISHED_MM:
            return _place(middle)
    middle, radius_mm = _disc(bare)
    if radius_mm >= ENOUGH_MM:
        return _place(middle)
    left, top, right, bottom = (seen if skin.is_empty else skin).bounds
    return _place(shapely.Point((left + right) / 2, (top + bottom) / 2))


def _place(at: shapely.Point) -> Place:
    return Place(round(at.x, 1) + 0.0, round(at.y, 1) + 0.0)


def _areas(shape: BaseGeometry) -> list[BaseGeometry]:
    ones = getattr(shape, "geoms", (shape,))
    return [one for one in ones if one.geom_type == "Polygon" and not one.is_empty]


def _disc(shape: BaseGeometry) -> tuple[shapely.Point, float]:
    """Return the middle and the radius of the largest disc in a shape, mm; a radius of 0 where there is none."""
    discs = [shapely.maximum_inscribed_circle(one, tolerance=_GOOD_TO_MM) for one in _areas(shape)]
    best = max(discs, key=lambda disc: float(disc.length), default=None)
    return (shapely.Point(), 0.0) if best is None else (shapely.Point(best.coords[0]), float(best.length))


def _clear(chart: Chart) -> Iterable[BaseGeometry]:
    """Yield what nothing is put on by itself: eyes, lids, nostrils and lips; hair and brows."""
    for zone in chart.zones:
        yield zone_shape(zone).buffer(AIR_MM)
    for area in chart.areas:
        if area.feature in (Feature.HAIR, Feature.BROW) and not area.behind:
            yield shape_of(area.outline).buffer(AIR_MM)


def _laid(plan: Plan, key: str) -> Iterable[BaseGeometry]:
    """Yield what lies there already, what is kept free, and glitter, stencils and gems; no base, ground or fill."""
    yield from parts_laid(plan, key)
    for layer in plan.overlays:
        if layer.chart == key:
            yield layer_shape(layer)
    for free in plan.reserved:
        if free.chart == key:
            yield reserved_shape(free)
