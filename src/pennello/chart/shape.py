"""Smooth closed outlines, and drawings that are the same on both sides."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from pennello.chart.chart import Line, Point, mirrored_path
from pennello.lay.families.shapes import smooth
from pennello.path.cubic import CubicPath


def closed(points: Sequence[Point]) -> CubicPath:
    """Return a smooth closed path through points (Catmull-Rom as cubic Beziers)."""
    at = np.array(points, float)
    tangents = (np.roll(at, -1, axis=0) - np.roll(at, 1, axis=0)) / 2
    result: list[Point] = [_pair(at[0])]
    for i in range(len(at)):
        j = (i + 1) % len(at)
        result += [_pair(at[i] + tangents[i] / 3), _pair(at[j] - tangents[j] / 3), _pair(at[j])]
    return CubicPath(tuple(result))


def symmetric(half: Sequence[Point]) -> CubicPath:
    """Return a closed path from a half on the right, top to bottom, whose ends lie on the line x = 0."""
    mirrored = [(-x, y) for x, y in reversed(half[1:-1])]
    return closed([*half, *mirrored])


def both(points: Sequence[Point], weight: float) -> tuple[Line, Line]:
    """Return a smooth line and its mirror image."""
    path = smooth(points)
    return Line(path, weight), Line(mirrored_path(path), weight)


def _pair(point: np.ndarray) -> Point:
    return (round(float(point[0]), 3), round(float(point[1]), 3))
