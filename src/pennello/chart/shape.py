"""Smooth closed outlines, and drawings that are the same on both sides."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from pennello.chart.chart import Line, Point, mirrored_path
from pennello.lay.families.shapes import smooth
from pennello.path.cubic import CubicPath


def closed(points: Sequence[Point]) -> CubicPath:
    """Return a smooth closed path through points (Catmull-Rom as cubic Beziers); a point named twice is a corner."""
    at = np.array(points, float)
    tangents = (np.roll(at, -1, axis=0) - np.roll(at, 1, axis=0)) / 2
    result: list[Point] = [_pair(at[0])]
    for i in range(len(at)):
        j = (i + 1) % len(at)
        chord = float(np.hypot(*(at[j] - at[i])))
        out, into = (_handle(tangents[end], chord) for end in (i, j))
        result += [_pair(at[i] + out), _pair(at[j] - into), _pair(at[j])]
    return CubicPath(tuple(result))


def _handle(tangent: np.ndarray, chord: float) -> np.ndarray:
    """Return a third of a tangent, and never longer than half of the way to the next point: no loops."""
    length = float(np.hypot(*tangent)) / 3
    return tangent / 3 * min(1.0, chord / 2 / length) if length else tangent


def symmetric(half: Sequence[Point]) -> CubicPath:
    """Return a closed path from a half on the right, top to bottom, whose ends lie on the line x = 0."""
    mirrored = [(-x, y) for x, y in reversed(half[1:-1])]
    return closed([*half, *mirrored])


def both(points: Sequence[Point], weight: float) -> tuple[Line, Line]:
    """Return a smooth line and its mirror image."""
    path = smooth(points)
    return Line(path, weight), Line(mirrored_path(path), weight)


def part_of(outline: CubicPath, first: int, last: int) -> CubicPath:
    """Return the curves of a closed outline from one to another, round its end where that lies before."""
    points, count = outline.points_mm, (len(outline.points_mm) - 1) // 3
    begin, end = 3 * (first % count), 3 * (last % count)
    return CubicPath(points[begin : end + 1] if begin < end else (*points[begin:], *points[1 : end + 1]))


def _pair(point: np.ndarray) -> Point:
    return (round(float(point[0]), 3), round(float(point[1]), 3))
