"""Chains of cubic Bezier curves: points, directions, arc length."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from pennello.errors import OutOfRangeError, PennelloError
from pennello.kept import kept_small
from pennello.phrases import phrase
from pennello.record import Told

Array = NDArray[np.floating[Any]]
Point = tuple[float, float]

COORDINATE_LIMIT_MM = 5000.0
MOST_SEGMENTS = 4000
_PIECES = 32  # per curve, in the arc-length table
_STILL = 1e-9


def _gauss_legendre(count: int) -> tuple[Array, Array]:
    """Return nodes and weights on [-1, 1] (Golub & Welsch 1969); numpy.polynomial would cost 30 ms at start."""
    k = np.arange(1.0, count)
    beside = k / np.sqrt(4 * k * k - 1)
    nodes, vectors = np.linalg.eigh(np.diag(beside, 1) + np.diag(beside, -1))
    return nodes, 2 * vectors[0] ** 2


_NODES, _NODE_WEIGHTS = _gauss_legendre(8)


class PathShapeError(PennelloError):
    """A list of points is not a chain of cubic curves."""

    def __init__(self, count: int) -> None:
        super().__init__(
            phrase(
                "a path has {count} points; a chain of cubic curves has 4, 7, 10 ... (start, then two handles "
                "and an end for each curve), at most {most_segments}.",
                count=count,
                most_segments=3 * MOST_SEGMENTS + 1,
            )
        )
        self.count = count


@dataclass(frozen=True, slots=True)
class CubicPath:
    """A chain of cubic Bezier curves.

    Attributes
    ----------
    points_mm
        The start, then for each curve its two handles and its end; 3 n + 1 points, mm.
    """

    points_mm: Annotated[
        tuple[Point, ...],
        Told(
            "a start, then two handles and an end for each cubic curve: 4, 7, 10 ... points. A straight line: "
            "`[[0,0],[20,0],[40,0],[60,0]]`",
            count=(4, 3 * MOST_SEGMENTS + 1),
            default="within 5000 mm",
        ),
    ]

    def __post_init__(self) -> None:
        count = len(self.points_mm)
        if count < 4 or count % 3 != 1 or count > 3 * MOST_SEGMENTS + 1:
            raise PathShapeError(count)
        for point in self.points_mm:
            if not all(abs(value) <= COORDINATE_LIMIT_MM for value in point):
                raise OutOfRangeError(
                    phrase("a path point"),
                    point,
                    phrase(
                        "within {coordinate_limit_mm:.0f} mm of the origin", coordinate_limit_mm=COORDINATE_LIMIT_MM
                    ),
                )

    @property
    def curves(self) -> int:
        """How many cubic curves there are."""
        return len(self.points_mm) // 3


def line(start: Point, end: Point) -> CubicPath:
    """Return the straight path between two points.

    >>> round(length_mm(line((0, 0), (30, 40))), 9)
    50.0
    """
    (x0, y0), (x1, y1) = start, end
    third = ((x1 - x0) / 3, (y1 - y0) / 3)
    return CubicPath((start, (x0 + third[0], y0 + third[1]), (x1 - third[0], y1 - third[1]), end))


def bernstein(at: Array) -> Array:
    """Return the weights of a cubic's four points at parameters in [0, 1], shape (n, 4) for (n,)."""
    left = 1 - at
    return np.array([left**3, 3 * at * left**2, 3 * at**2 * left, at**3]).T


def travelled_mm(points: Array) -> Array:
    """Return how far it is along points, shape (n, 2), from the first of them to each, mm, shape (n,)."""
    return _summed(far_mm(points[1:] - points[:-1]))


def far_mm(ways: Array) -> Array:
    """Return how long ways are, shape (...) for (..., 2)."""
    x, y = ways[..., 0], ways[..., 1]
    return np.asarray(np.sqrt(x * x + y * y))


def _summed(steps: Array) -> Array:
    """Return how far it is after none of the steps, after the first, ..., after all of them, shape (n + 1,)."""
    result = np.zeros(len(steps) + 1)
    np.cumsum(steps, out=result[1:])
    return result


@kept_small
def _controls(path: CubicPath) -> Array:
    points = np.array(path.points_mm, dtype=np.float64)
    return np.asarray(points[3 * np.arange(path.curves)[:, None] + np.arange(4)])


def _position(controls: Array, t: Array) -> Array:
    p0, p1, p2, p3 = (controls[..., i, :] for i in range(4))
    t_, r = t[..., None], 1 - t[..., None]
    return r**3 * p0 + 3 * r**2 * t_ * p1 + 3 * r * t_**2 * p2 + t_**3 * p3


@kept_small
def _slopes(path: CubicPath) -> Array:
    """Return a, b, c of each curve's velocity a + t (b + t c), along x and y, shape (3, 2, curves)."""
    steps = 3 * np.diff(_controls(path), axis=1)
    first, second, third = (steps[:, number].T for number in range(3))
    return np.stack([first, 2 * (second - first), first - 2 * second + third])


def _velocity(slopes: Array, t: Array) -> tuple[Array, Array]:
    """Return the velocity along x and y at parameters of a curve, shapes that broadcast with (3, 2, ...)."""
    a, b, c = slopes
    x, y = a + t * (b + t * c)
    return x, y


def _speed(slopes: Array, t: Array) -> Array:
    x, y = _velocity(slopes, t)
    return np.asarray(np.sqrt(x * x + y * y))


def _piece_lengths(slopes: Array, start: Array, end: Array) -> Array:
    """Return arc lengths between parameters start and end of each curve, by 8-point Gauss-Legendre."""
    half = (end - start) / 2
    t = start[..., None] + half[..., None] * (_NODES + 1)
    result: Array = half * (_speed(slopes[..., None], t) @ _NODE_WEIGHTS)
    return result


@kept_small
def _arc_table(path: CubicPath) -> tuple[Array, Array]:
    """Return (global parameters, arc lengths) at the ends of the pieces; a curve's share of the parameter is 1."""
    slopes = np.repeat(_slopes(path), _PIECES, axis=2)
    edges = np.arange(path.curves * _PIECES + 1) / _PIECES
    local = np.tile(np.arange(_PIECES) / _PIECES, path.curves)
    lengths = _piece_lengths(slopes, local, local + 1 / _PIECES)
    return edges, _summed(lengths)


def length_mm(path: CubicPath) -> float:
    """Return the arc length, mm (8-point Gauss-Legendre on 32 pieces a curve)."""
    return float(_arc_table(path)[1][-1])


def parameter_at(path: CubicPath, s_mm: ArrayLike) -> Array:
    """Return global parameters in [0, curves] at arc lengths in mm, any shape; clipped to the path's ends."""
    edges, arcs = _arc_table(path)
    s = np.minimum(np.maximum(np.asarray(s_mm, np.float64), 0), arcs[-1])
    piece = np.minimum(np.searchsorted(arcs, s, side="right") - 1, len(edges) - 2)
    span = arcs[piece + 1] - arcs[piece]
    part = np.divide(s - arcs[piece], span, out=np.zeros_like(s), where=span > 0)
    slopes = _slopes(path)[:, :, piece // _PIECES]
    start = (piece % _PIECES) / _PIECES
    for _ in range(2 if s.size < 64 else 1):  # Newton on the length from the piece's start
        t = start + part / _PIECES
        speed = _speed(slopes, t) / _PIECES
        excess = _piece_lengths(slopes, start, t) - (s - arcs[piece])
        part = part - np.divide(excess, speed, out=np.zeros_like(s), where=speed > 1e-9)
        part = np.minimum(np.maximum(part, 0), 1)
    return np.asarray(edges[piece] + part / _PIECES)


def rough_parameter_at(path: CubicPath, s_mm: Array) -> Array:
    """Return the same within 1/32 of a curve, evenly between the ends of the pieces: for places to look from."""
    edges, arcs = _arc_table(path)
    return np.asarray(np.interp(s_mm, arcs, edges))


def position(path: CubicPath, parameter: Array) -> Array:
    """Return points in mm, shape (..., 2), at global parameters in [0, curves], shape (...)."""
    curve, t = _split(path, parameter)
    return _position(_controls(path)[curve], t)


def direction(path: CubicPath, parameter: Array) -> Array:
    """Return unit directions of travel, shape (..., 2), at global parameters.

    Where a curve stands still (a handle on its end) the direction is that of the nearby chord; a path without
    length points along x.
    """
    return _direction(path, parameter, *_split(path, parameter))


def position_and_direction(path: CubicPath, parameter: Array) -> tuple[Array, Array]:
    """Return both at once."""
    curve, t = _split(path, parameter)
    return _position(_controls(path)[curve], t), _direction(path, parameter, curve, t)


def _direction(path: CubicPath, parameter: Array, curve: NDArray[np.intp], t: Array) -> Array:
    velocity = np.empty((*t.shape, 2))
    velocity[..., 0], velocity[..., 1] = _velocity(_slopes(path)[:, :, curve], t)
    speed = far_mm(velocity)
    if speed.min(initial=np.inf) >= _STILL:
        return np.asarray(velocity / speed[..., None])
    step = 1e-3
    ahead = position(path, np.clip(parameter + step, 0, path.curves))
    chord = ahead - position(path, np.clip(parameter - step, 0, path.curves))
    velocity = np.where((speed < _STILL)[..., None], chord, velocity)
    speed = far_mm(velocity)[..., None]
    along_x = np.broadcast_to(np.array([1.0, 0.0]), velocity.shape)
    return np.where(speed > 1e-12, velocity / np.maximum(speed, 1e-12), along_x)


def _split(path: CubicPath, parameter: Array) -> tuple[NDArray[np.intp], Array]:
    curve = np.minimum(np.maximum(np.floor(parameter).astype(np.intp), 0), path.curves - 1)
    return curve, parameter - curve


def trimmed(path: CubicPath, s_mm: float) -> CubicPath:
    """Return the path up to an arc length in mm (de Casteljau), or the path itself when it is shorter."""
    if s_mm >= length_mm(path):
        return path
    curve, t = _split(path, parameter_at(path, s_mm))
    kept = path.points_mm[: 3 * int(curve) + 1]
    p0, p1, p2, p3 = np.array(path.points_mm[3 * int(curve) : 3 * int(curve) + 4])
    a, b, c = p0 + t * (p1 - p0), p1 + t * (p2 - p1), p2 + t * (p3 - p2)
    d, e = a + t * (b - a), b + t * (c - b)
    tail = tuple((float(x), float(y)) for x, y in (a, d, d + t * (e - d)))
    return CubicPath(kept + tail)
