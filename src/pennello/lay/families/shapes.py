"""Paths that several families share."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

import numpy as np

from pennello.lay.stroke import Key
from pennello.path.cubic import CubicPath, Point


def smooth(points: Sequence[Point]) -> CubicPath:
    """Return a smooth path through points (Catmull-Rom as cubic Beziers); two points make a straight one."""
    at = np.array(points, float)
    tangents = np.gradient(at, axis=0) if len(at) > 2 else np.repeat((at[1:] - at[:1]), 2, axis=0)
    result = np.empty((3 * len(at) - 2, 2))
    result[::3] = at
    result[1::3], result[2::3] = at[:-1] + tangents[:-1] / 3, at[1:] - tangents[1:] / 3
    return CubicPath(tuple((x, y) for x, y in result.round(_DIGITS).tolist()))


def arch(spread_mm: float, height_mm: float) -> CubicPath:
    """Return an inverted U from (0, 0) to (spread, 0), rising by a height."""
    rise = -height_mm * 4 / 3
    return CubicPath(((0.0, 0.0), (0.0, rise), (spread_mm, rise), (spread_mm, 0.0)))


def arc(radius_mm: float, from_deg: float, to_deg: float) -> CubicPath:
    """Return an arc of a circle round the origin; angles from +x towards +y (down)."""
    count = max(1, math.ceil(abs(to_deg - from_deg) / 60))
    angles = np.radians(np.linspace(from_deg, to_deg, count + 1))
    handle = 4 / 3 * math.tan((angles[1] - angles[0]) / 4) * radius_mm
    points: list[Point] = []
    for number, angle in enumerate(angles.tolist()):
        place = radius_mm * np.array([math.cos(angle), math.sin(angle)])
        along = handle * np.array([-math.sin(angle), math.cos(angle)])
        if number:
            points.append(_pair(place - along))
        points.append(_pair(place))
        if number < count:
            points.append(_pair(place + along))
    return CubicPath(tuple(points))


def moved(path: CubicPath, x_mm: float, y_mm: float) -> CubicPath:
    """Return the path moved so that it begins at a point."""
    x0, y0 = path.points_mm[0]
    return CubicPath(tuple((x - x0 + x_mm, y - y0 + y_mm) for x, y in path.points_mm))


def swell(least: float, most: float, middle: float = 0.5) -> tuple[Key, ...]:
    """Return pressure that grows from both ends to a middle: thin, thick, thin."""
    return (Key(0.0, least), Key(middle, most), Key(1.0, least))


def ramp(start: float, end: float) -> tuple[Key, ...]:
    """Return pressure that changes evenly."""
    return (Key(0.0, start), Key(1.0, end))


_DIGITS = 4


def _pair(point: np.ndarray) -> Point:
    return (round(float(point[0]), _DIGITS), round(float(point[1]), _DIGITS))


def straight(points: Sequence[Point]) -> CubicPath:
    """Return a path of straight pieces through points."""
    path: list[Point] = [points[0]]
    for (ax, ay), (bx, by) in pairwise(points):
        path += [(ax + (bx - ax) / 3, ay + (by - ay) / 3), (ax + 2 * (bx - ax) / 3, ay + 2 * (by - ay) / 3), (bx, by)]
    return CubicPath(tuple(path))
