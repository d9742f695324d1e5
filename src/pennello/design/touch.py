"""What really touches the skin: the area that a stroke's contact sweeps, as a shape to be measured against others.

The contact is taken from the same kinematics that the film is laid by: the part of the edge that touches, the pressure,
the lift, the flips. Shapes are shapely's (GEOS), good to 0.05 mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import MultiPolygon, Polygon
from shapely.geometry.base import BaseGeometry

from pennello.breath import breathe
from pennello.chart.chart import Chart, Zone, drawn
from pennello.design.marks import Glitter, Mark, Reserved, paths_of
from pennello.design.placed import LaidPiece
from pennello.design.plan import Plan
from pennello.kept import kept_small, other_weight
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.lay.coverage import hulls
from pennello.lay.frame import own_frame
from pennello.lay.laying import pull
from pennello.lay.stroke import Stroke
from pennello.lay.track import Track
from pennello.path.cubic import CubicPath

Array = NDArray[np.floating[Any]]

LEAST_MM2 = 0.5
"""A smaller overlap is not worth a word (a default)."""

ALIKE = 0.5
"""Share of the larger of two shapes that both must cover to count as mirror images (a default)."""

_PX_PER_MM = 1.0
_GOOD_TO_MM = 0.05


@other_weight.register
def _of_shape(shape: BaseGeometry) -> int:
    return 200 + 16 * int(shapely.get_num_coordinates(shape))


def swept(plan: Plan, piece: LaidPiece) -> BaseGeometry:
    """Return the area that a stroke touches on its chart, mm; empty where nothing does."""
    breathe()
    source = plan.stroke(piece.load)
    brush = plan.brush(source.brush)
    return swept_by(piece.stroke, brush, plan.axis(source.id))


@kept_small
def swept_by(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> BaseGeometry:
    """Return the area that a brush touches on a stroke, mm: that of its own frame, laid down where it lies."""
    own = own_frame(stroke)
    if own is None:
        return touched(pull(stroke, brush, axis).track)
    return shapely.affinity.affine_transform(_swept_in_frame(own[0], brush, axis), own[1].affine)


@kept_small
def _swept_in_frame(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> BaseGeometry:
    return touched(pull(stroke, brush, axis).track)


def touched(track: Track) -> BaseGeometry:
    """Return the area that a nib touches on its way, mm; empty where nothing does."""
    sets = hulls(track, _PX_PER_MM)
    sets = sets[np.isfinite(sets).all(axis=(1, 2))]
    if not len(sets):
        return Polygon()
    shapes = shapely.convex_hull(shapely.multipoints(sets))  # a bow-tie sweeps its hull, as the film has it
    union: BaseGeometry = shapely.union_all(shapely.buffer(shapes, _GOOD_TO_MM / 2, quad_segs=1))
    return union.simplify(_GOOD_TO_MM)


@kept_small
def shape_of(path: CubicPath) -> BaseGeometry:
    """Return what a closed outline encloses, mm."""
    return _sound(Polygon(drawn(path)))


def zone_shape(zone: Zone) -> BaseGeometry:
    """Return a zone of a chart as a shape, mm."""
    return shape_of(zone.outline)


def skin_shape(chart: Chart) -> BaseGeometry:
    """Return all that can be painted on a chart, filled parts such as ears with it, mm."""
    return _skin(chart.skin, tuple(line.path for line in chart.lines if line.filled))


@kept_small
def _skin(skin: CubicPath, filled: tuple[CubicPath, ...]) -> BaseGeometry:
    union: BaseGeometry = shapely.union_all([shape_of(path) for path in (skin, *filled)])
    return union


def reserved_shape(kept: Reserved, air_mm: float = 0.0) -> BaseGeometry:
    """Return a place that is kept free, with so much air round it, mm."""
    disc: BaseGeometry = shapely.Point(kept.x_mm, kept.y_mm).buffer(kept.radius_mm + air_mm)
    return disc


@kept_small
def layer_shape(layer: Mark) -> BaseGeometry:
    """Return the area that glitter, a stencil or a gem covers, mm."""
    if isinstance(layer, Glitter):
        disc = shapely.Point(0, 0).buffer(1, quad_segs=24)
        sized = shapely.affinity.scale(disc, layer.width_mm / 2, layer.height_mm / 2, origin=(0, 0))
        return shapely.affinity.translate(sized, layer.x_mm, layer.y_mm)
    union: BaseGeometry = shapely.union_all([shape_of(path) for path in paths_of(layer)])
    return union


def _sound(shape: BaseGeometry) -> BaseGeometry:
    return shape if shape.is_valid else shapely.make_valid(shape)


def overlap(one: BaseGeometry, other: BaseGeometry) -> BaseGeometry | None:
    """Return what two shapes share, or None where it is not worth a word."""
    if not one.intersects(other):
        return None
    shared = one.intersection(other)
    return shared if shared.area >= LEAST_MM2 else None


def together(shapes: Sequence[BaseGeometry]) -> BaseGeometry:
    """Return what shapes cover together."""
    union: BaseGeometry = shapely.union_all(list(shapes))
    return union


def mirrored(shape: BaseGeometry, midline_mm: float) -> BaseGeometry:
    """Return a shape mirrored across an upright midline at x."""
    image: BaseGeometry = shapely.affinity.scale(shape, -1.0, 1.0, origin=(midline_mm, 0.0))
    return image


def alike(one: BaseGeometry, other: BaseGeometry) -> bool:
    """Return whether two shapes are as good as the same: most of the larger one is shared (half, a default)."""
    larger = max(one.area, other.area)
    if larger <= 0 or min(one.area, other.area) < ALIKE * larger or not shapely.intersects(one, other):
        return False
    return bool(one.intersection(other).area >= ALIKE * larger)


def beyond(shape: BaseGeometry, ground: BaseGeometry, share: float) -> BaseGeometry | None:
    """Return what of a shape lies beyond a ground, where it is more than a share of it; else None."""
    if ground.contains(shape):
        return None
    out = shape.difference(ground)
    return out if out.area > max(share * shape.area, LEAST_MM2) else None


def middle(shape: BaseGeometry) -> tuple[float, float]:
    """Return a point within the largest part of a shape, mm."""
    parts = shape.geoms if isinstance(shape, MultiPolygon) else [shape]
    at = max(parts, key=lambda part: float(part.area)).representative_point()
    return float(at.x), float(at.y)


def nearest(shape: BaseGeometry, zone: BaseGeometry) -> tuple[float, float, float]:
    """Return the point of a shape that lies nearest to a zone, mm, and how far apart they are, mm."""
    on_shape, _ = shapely.shortest_line(shape, zone).coords
    return float(on_shape[0]), float(on_shape[1]), float(shape.distance(zone))


def hidden_share(edge: Array, covers: BaseGeometry) -> float:
    """Return which share of a line, shape (n, 2), mm, lies under a shape."""
    line = shapely.LineString(edge)
    return round(float(line.intersection(covers).length / line.length), 9) if line.length > 0 else 0.0
