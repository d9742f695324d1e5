"""Points of a hand as few cubic curves: Schneider, An Algorithm for Automatically Fitting Digitized Curves, 1990.

Each run of points gets one cubic with the tangents at its ends, by least squares; its parameters are bettered by
Newton's method; where it still lies too far off, it is parted at the worst point.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from pennello.path.cubic import CubicPath, Point, bernstein, far_mm, travelled_mm

Array = NDArray[np.floating[Any]]

NEWTON_ROUNDS = 12
_WORTH_MM = 6.0
"""A run that lies farther off than so many times the tolerance is parted at once."""

_SAME_MM = 1e-6
_ALIKE = 1e-12
_LOOK = 6
_SETS_OUT_MM, _SETS_OUT = 6.0, 1 / 6
"""The way at an end is looked for over so much of it, mm and as a share; at least over the next few points."""
_GROWING_ROUNDS = 4
_SETTLED = _LOOK + 4
"""A joint of a growing way stays where so many points lie behind it: its tangent and its place move no more."""


class _Run(NamedTuple):
    """A curve, shape (4, 2), and how many steps from point to point it goes through."""

    steps: int
    curve: Array


def fitted_path(points: Sequence[Point], off_mm: float = 0.2) -> CubicPath:
    """Return a smooth chain of cubics from the first to the last point that no point is farther from than `off_mm`.

    Parameters
    ----------
    points
        Where the hand was, mm; 1 or more. Points on one spot give a path of no length.
    off_mm
        Above 0, mm.
    """
    kept = _apart(points)
    if len(kept) == 1:
        return _chained([np.repeat(kept, 4, axis=0)])
    runs = _fit(kept, _tangent(kept), _tangent(kept[::-1]), off_mm)
    return _chained([run.curve for run in _fewer(kept, runs, off_mm)])


class GrowingFit:
    """The same for a way that grows at its end: a curve that ends well behind it stays as it was.

    So each step costs what the last curve costs, and what was shown does not move again.

    Parameters
    ----------
    off_mm
        As for `fitted_path`, mm.
    """

    def __init__(self, off_mm: float = 0.2) -> None:
        self._off_mm = off_mm
        self._begin_anew()

    def _begin_anew(self) -> None:
        self._done: list[Array] = []
        self._begin = 0
        self._joint: Array = np.zeros(2)
        self._start: Array = np.zeros(2)

    def path(self, points: Sequence[Point]) -> CubicPath:
        """Return the path through points; where they do not go on with the earlier ones, it is fitted anew."""
        kept = _apart(points)
        if len(kept) == 1:
            return _chained([np.repeat(kept, 4, axis=0)])
        if self._done and (len(kept) < self._begin + 2 or not np.array_equal(kept[self._begin], self._joint)):
            self._begin_anew()
        rest = kept[self._begin :]
        start = self._start if self._done else _tangent(rest)
        runs = _fit(rest, start, _tangent(rest[::-1]), self._off_mm, _GROWING_ROUNDS)
        if len(runs) > 1:
            runs = self._parted(rest, start) or runs
        path = _chained([*self._done, *(run.curve for run in runs)])
        for run in runs[:-1]:
            if self._begin + run.steps + _SETTLED > len(kept):
                break
            self._begin += run.steps
            self._done.append(run.curve)
            self._joint, self._start = kept[self._begin].copy(), _unit(run.curve[3] - run.curve[2])
        return path

    def _parted(self, rest: Array, start: Array) -> list[_Run]:
        """Return a curve that goes as far as one does, and what is left of the way; none where not even that does."""
        joint = len(rest) - _SETTLED
        if joint < _LOOK:
            return []
        middle = _unit(rest[joint - 1] - rest[joint + 1])
        head = _fit(rest[: joint + 1], start, middle, self._off_mm, _GROWING_ROUNDS)
        if len(head) > 1:
            return []
        return [*head, *_fit(rest[joint:], -middle, _tangent(rest[::-1]), self._off_mm, _GROWING_ROUNDS)]


def _apart(points: Sequence[Point]) -> Array:
    """Return points without those that lie on the one before, shape (n, 2)."""
    given = np.asarray(points, np.float64).reshape(-1, 2)
    apart = np.ones(len(given), bool)
    np.greater(far_mm(given[1:] - given[:-1]), _SAME_MM, out=apart[1:])
    return np.asarray(given[apart])


def _chained(curves: Sequence[Array]) -> CubicPath:
    chain = [curves[0][0]] + [point for curve in curves for point in curve[1:]]
    return CubicPath(tuple((round(float(x), 4), round(float(y), 4)) for x, y in chain))


def _tangent(points: Array) -> Array:
    """Return the way in which points set out from the first of them: that of a parabola through it and the next few.

    A hand begins and ends slowly: a few points are a millimetre there, and tell of the screen's pixels.
    """
    far = np.cumsum(far_mm(points[1:] - points[:-1]))
    count = max(int(np.searchsorted(far, min(_SETS_OUT_MM, _SETS_OUT * float(far[-1])))), _LOOK)
    near, far = points[: count + 1] - points[0], far[:count]
    if len(near) < 4:
        return _unit(near[1])
    square = far * far
    one, both, two = float(far @ far), float(far @ square), float(square @ square)
    way = (two * (far @ near[1:]) - both * (square @ near[1:])) / (one * two - both * both)  # least squares, of two
    return _unit(way)


def _unit(way: Array) -> Array:
    size = float(np.hypot(*way))
    return way / size if size > 0 else np.array([1.0, 0.0])


def _fit(points: Array, start: Array, end: Array, off_mm: float, rounds: int = NEWTON_ROUNDS) -> list[_Run]:
    """Return the curves through points with given tangents at both ends."""
    steps = len(points) - 1
    if steps == 1:
        third = float(np.hypot(*(points[1] - points[0]))) / 3
        return [_Run(steps, np.array([points[0], points[0] + start * third, points[1] + end * third, points[1]]))]
    curve, worst, where = _nearest(points, start, end, off_mm, rounds)
    if worst < off_mm:
        return [_Run(steps, curve)]
    middle = _unit(points[where - 1] - points[where + 1])
    return [
        *_fit(points[: where + 1], start, middle, off_mm, rounds),
        *_fit(points[where:], -middle, end, off_mm, rounds),
    ]


def _fewer(points: Array, runs: list[_Run], off_mm: float) -> list[_Run]:
    """Return curves of which no two that follow each other could be one, along the tangents that they have.

    A run is parted at its worst point, which a slip of the hand may be: then one part often takes more than was left.
    """
    runs, begins = list(runs), [0, *np.cumsum([run.steps for run in runs]).tolist()]

    def joined(number: int) -> tuple[float, Array]:
        """Return how far one curve in the place of a run and the next lies off, and the curve."""
        among = points[begins[number] : begins[number + 2] + 1]
        one, other = runs[number].curve, runs[number + 1].curve
        start, end = _unit(one[1] - one[0]), _unit(other[2] - other[3])
        curve, off, _ = _nearest(among, start, end, off_mm, NEWTON_ROUNDS)
        return off, curve

    pairs = [joined(number) for number in range(len(runs) - 1)]
    while pairs:
        best = min(range(len(pairs)), key=lambda number: pairs[number][0])
        off, curve = pairs[best]
        if off >= off_mm:
            break
        runs[best : best + 2] = [_Run(runs[best].steps + runs[best + 1].steps, curve)]
        del begins[best + 1], pairs[best]
        for number in (best - 1, best):
            if 0 <= number < len(pairs):
                pairs[number] = joined(number)
    return runs


def _nearest(points: Array, start: Array, end: Array, off_mm: float, rounds: int) -> tuple[Array, float, int]:
    """Return the cubic along both tangents, bettered until it is near enough, how far off it is at worst, and where."""
    at = _chords(points)
    curve = _least_squares(points, at, start, end)
    worst, where = _worst(points, curve, at)
    for _ in range(rounds if worst < off_mm * _WORTH_MM else 0):
        if worst < off_mm:
            break
        at = _nearer(curve, points, at)
        curve = _least_squares(points, at, start, end)
        worst, where = _worst(points, curve, at)
    return curve, worst, where


def _chords(points: Array) -> Array:
    """Return a parameter for each point by the length of the way to it, from 0 to 1."""
    far = travelled_mm(points)
    return np.asarray(far / far[-1])


def _least_squares(points: Array, at: Array, start: Array, end: Array) -> Array:
    """Return the cubic between the first and last point, along both tangents, that comes nearest to all."""
    weights = bernstein(at)
    one, two = weights[:, 1], weights[:, 2]
    ends = (weights[:, 0] + one)[:, None] * points[0] + (two + weights[:, 3])[:, None] * points[-1]
    rest = points - ends
    between = float(one @ two) * float(start @ end)
    mine, other = float(one @ one) * float(start @ start), float(two @ two) * float(end @ end)
    right, right_end = float(one @ (rest @ start)), float(two @ (rest @ end))
    size = float(np.hypot(*(points[-1] - points[0])))
    alike = mine * other - between**2
    first = last = 0.0
    if alike > _ALIKE * mine * other:  # normal equations of two unknowns, by Cramer's rule
        first, last = (right * other - right_end * between) / alike, (right_end * mine - right * between) / alike
    far = float(travelled_mm(points)[-1])
    if min(first, last) < 1e-6 * size or max(first, last) > far:  # Wu and Barsky's choice, where the best turns back
        first = last = max(size / 3, _SAME_MM)
    return np.array([points[0], points[0] + start * first, points[-1] + end * last, points[-1]])


def _worst(points: Array, curve: Array, at: Array) -> tuple[float, int]:
    """Return how far the farthest point within lies from its place on the curve, and its number."""
    away = far_mm(bernstein(at) @ curve - points)
    where = int(away[1:-1].argmax()) + 1
    return float(away[where]), where


def _nearer(curve: Array, points: Array, at: Array) -> Array:
    """Return parameters one step of Newton nearer to where each point lies nearest, rising."""
    first = 3 * (curve[1:] - curve[:-1])
    second = 2 * (first[1:] - first[:-1])
    off = bernstein(at) @ curve - points
    left = 1 - at
    speed = np.array([left**2, 2 * at * left, at**2]).T @ first
    bend = np.array([left, at]).T @ second
    down = (speed**2).sum(axis=1) + (off * bend).sum(axis=1)
    step = np.divide((off * speed).sum(axis=1), down, out=np.zeros_like(at), where=np.abs(down) > 1e-12)
    return np.maximum.accumulate(np.minimum(np.maximum(at - step, 0.0), 1.0))
