"""Holes between the parts of a design that a dot or a drop would fill, on what is really laid. Common practice."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from pennello.design.computing import Computing
from pennello.design.contours import along
from pennello.design.edits import free_id, new_name
from pennello.design.line_work import Taper, about_middle, line_stroke, press_for
from pennello.design.on_chart import chart_of, pieces_on, with_motif
from pennello.design.parts import unit_of
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.plan import Plan
from pennello.design.reach import BASE
from pennello.design.touch import skin_shape, swept, zone_shape
from pennello.kit.applicator import Applicator
from pennello.lay.stroke import Stroke
from pennello.path.cubic import CubicPath, line
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

CLOSES_MM, REACH_MM = 5.0, 2.0
"""Holes no wider than twice the first, and parts no farther from a hole than the second, count (defaults)."""

LEAST_MM, MOST_MM = 0.9, 5.0
"""Radius of the largest disc in a hole that is worth a dot, and in one that is left open on purpose (defaults)."""

_AIR_MM, _ZONE_MM = 0.4, 2.0
"""How far paint stays clear of other parts, and of eyes, nostrils and lips, mm (defaults)."""

_DROP, _THREE = 3.2, 1.6
"""From how many times as long as its disc is wide a hole takes a drop, and three dots, not one (defaults)."""

_DOT, _BESIDE = 0.7, 0.36
"""How wide the dot in the middle is, and one beside it, against the disc (defaults)."""
_CLEAR = ("eye", "lid", "nostril", "lips")


@dataclass(frozen=True, slots=True)
class Gap:
    """A hole: the middle and radius of the largest disc in it, and its longest line, mm."""

    x_mm: float
    y_mm: float
    radius_mm: float
    along: tuple[tuple[float, float], tuple[float, float]]

    @property
    def is_long(self) -> bool:
        """Whether a drop fills it better than dots."""
        return math.dist(*self.along) > _DROP * 2 * self.radius_mm


def gaps_on(plan: Plan, key: str) -> tuple[Gap, ...]:
    """Return the holes between parts on a chart, the largest first; bases, grounds and fills do not count."""
    chart, shapes = chart_of(plan, key), parts_laid(plan, key)
    if len(shapes) < 2:
        return ()
    laid = shapely.union_all(shapes)
    closed = laid.buffer(CLOSES_MM).buffer(-CLOSES_MM)
    clear = [zone_shape(zone).buffer(_ZONE_MM) for zone in chart.zones if zone.kind in _CLEAR]
    holes = closed.difference(laid.buffer(_AIR_MM)).intersection(skin_shape(chart)).difference(shapely.union_all(clear))
    found = [_gap(hole) for hole in getattr(holes, "geoms", (holes,)) if hole.geom_type == "Polygon"]
    kept = [
        gap
        for gap in found
        if LEAST_MM <= gap.radius_mm <= MOST_MM and _between(gap, shapes) and not _reserved(plan, key, gap)
    ]
    return tuple(sorted(kept, key=lambda gap: -gap.radius_mm))


def parts_laid(plan: Plan, key: str) -> list[BaseGeometry]:
    """Return what each part covers on a chart, each side for itself; no base, ground or fill."""
    of = {placed.id: placed for placed in plan.motifs}
    units: dict[str, list[BaseGeometry]] = {}
    for piece in pieces_on(plan, key):
        placed = of[piece.motif]
        behind = placed.computed is not None and placed.computed.kind in (Computing.GROUND, Computing.FILL)
        if piece.part != BASE and not behind:
            units.setdefault(f"{unit_of(plan, placed)} {piece.twin}", []).append(swept(plan, piece))
    return [shapely.union_all(mine) for mine in units.values()]


def _gap(hole: BaseGeometry) -> Gap:
    """Return the largest disc in a hole, and the longer middle line of the box round it."""
    if hole.is_empty:
        return Gap(0.0, 0.0, 0.0, ((0.0, 0.0), (0.0, 0.0)))
    disc = shapely.maximum_inscribed_circle(hole, tolerance=0.05)
    (x, y), *_ = disc.coords
    one, other = along(hole)
    ends = ((float(one[0]), float(one[1])), (float(other[0]), float(other[1])))
    return Gap(round(x, 2), round(y, 2), round(float(disc.length), 2), ends)


def _between(gap: Gap, shapes: Sequence[BaseGeometry]) -> bool:
    """Return whether a hole lies between two parts at least: what one part leaves open in itself is meant."""
    reach = shapely.Point(gap.x_mm, gap.y_mm).buffer(gap.radius_mm + REACH_MM)
    return sum(bool(shape.intersects(reach)) for shape in shapes) >= 2


def _reserved(plan: Plan, key: str, gap: Gap) -> bool:
    return any(
        one.chart == key and math.dist((one.x_mm, one.y_mm), (gap.x_mm, gap.y_mm)) < one.radius_mm + gap.radius_mm
        for one in plan.reserved
    )


def with_gaps_filled(plan: Plan, key: str, load: str, name: str = phrase("Gaps")) -> tuple[Plan, str]:
    """Return the plan with dots and drops in all holes of a chart, as one piece of a load for lines, last; its id.

    The id is "" where there is no hole.
    """
    found = gaps_on(plan, key)
    if not found:
        return plan, ""
    brush = plan.brush(plan.stroke(load).brush)
    strokes = [stroke for gap in found for stroke in (_drop(gap, brush) if gap.is_long else _dots(gap, brush))]
    new_id = free_id("gaps", plan.ids_in_design)
    placed = PlacedMotif(new_id, new_name(plan, name), FREE, ((SINGLE, load),), chart=key, way=strokes[0])
    return with_motif(plan, about_middle(placed, strokes)), new_id


def _dots(gap: Gap, brush: Applicator) -> list[Stroke]:
    """Return a dot in the middle of a hole, and two smaller ones beside it where it is longer."""
    dots = [((gap.x_mm, gap.y_mm), 2 * _DOT * gap.radius_mm)]
    length = math.dist(*gap.along)
    if length > _THREE * 2 * gap.radius_mm:
        for end in gap.along:
            way = np.array(end) - (gap.x_mm, gap.y_mm)
            size = float(np.hypot(*way))
            at = np.array([gap.x_mm, gap.y_mm]) + way / max(size, 1e-9) * min(1.35 * gap.radius_mm, size)
            dots.append(((float(at[0]), float(at[1])), 2 * _BESIDE * gap.radius_mm))
    return [line_stroke(CubicPath((at,) * 4), press=press_for(brush, mm)) for at, mm in dots]


def _drop(gap: Gap, brush: Applicator) -> list[Stroke]:
    """Return a drop through the middle of a hole, along its longer line, thick to tip."""
    one, other = np.array(gap.along)
    middle, way = (one + other) / 2, (other - one) * 0.38
    shift = np.array([gap.x_mm, gap.y_mm]) - middle
    ends = [tuple(float(value) for value in middle + shift * 0.5 + side * way) for side in (-1, 1)]
    path = line((ends[0][0], ends[0][1]), (ends[1][0], ends[1][1]))
    return [line_stroke(path, Taper.TO_TIP, press_for(brush, 2 * _DOT * gap.radius_mm))]
