"""A drawn outline to one stroke: which load, way, chisel and pressure fill it best, with the rim on the side told.

The corners of a chisel that is led along a cubic trace both sides of what it lays. They are brought onto the outline by
least squares over its signed distance (scipy), from several ways of holding the chisel; the best are polished by the
overlap itself: shared area against the area of both together.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from pennello.aim.attempt import Side
from pennello.design.plan import Plan
from pennello.design.touch import swept_by
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.contact import contact, contact_width_mm
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.path.cubic import CubicPath, bernstein, travelled_mm
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]
Report = Callable[[float, str], None]

PRESS = (0.2, 0.95)
"""Pressures that are looked at."""

ENOUGH = 0.8
"""A stroke that overlaps less than so much is no answer: two are needed (a default)."""

MOST_TOLD = 3
LEAST_MM, MOST_MM = 3.0, 600.0
"""An outline smaller or larger across is none that a stroke could fill (defaults)."""

_STATIONS, _CELLS, _STARTS, _POLISHED, _LOOKS = 25, 110, 5, 2, 200
_HOLDS = ((90, 90), (60, 60), (120, 120), (50, 130), (130, 50), (20, 160), (160, 20), (90, 160), (20, 90))
"""Chisel angles to the main axis at the start and end of a try, degrees."""


class NoOutlineError(PennelloError):
    """What was drawn encloses no place that a stroke could fill."""


@dataclass(frozen=True, slots=True)
class OneStroke:
    """A stroke that fills an outline: with which load, how, how much of both areas is shared, and how to pull it."""

    load: str
    stroke: Stroke
    overlap: float
    words: str


def fill_outline(
    plan: Plan,
    outline: Sequence[tuple[float, float]],
    loads: Sequence[str],
    rim_at: tuple[float, float] | None = None,
    report: Report = lambda *_: None,
    found_so_far: Callable[[tuple[OneStroke, ...]], object] = lambda _: None,
) -> tuple[OneStroke, ...]:
    """Return up to three strokes that fill an outline, the best first.

    Parameters
    ----------
    outline
        Its points on the chart, mm; it is closed.
    loads
        Ids of the loads that are tried; those of flat and angle brushes lay what is meant.
    rim_at
        A point near the side that the rim shall lie on; None where it does not matter.
    found_so_far
        Given the best after each load.

    Raises
    ------
    NoOutlineError
        If it encloses nothing, or is less than 3 mm or more than 600 mm across.
    UnknownNameError
        If there is no such load.
    """
    target = _target(outline)
    found: list[OneStroke] = []
    for number, name in enumerate(loads):
        report(number / len(loads), phrase("trying {stroke}", stroke=plan.stroke(name).name))
        source = plan.stroke(name)
        brush = plan.brush(source.brush)
        for one in _tried(target, _tool(brush, plan.axis(name))):
            stroke = _as_stroke(source.stroke, one)
            stroke = stroke if rim_at is None else _rim_towards(stroke, source.rim, rim_at)
            laid = swept_by(stroke, brush, plan.axis(name))
            shared = target.shape.intersection(laid).area / target.shape.union(laid).area
            found.append(OneStroke(name, stroke, float(shared), _words(stroke)))
        found = _apart(sorted(found, key=lambda one: -one.overlap))
        found_so_far(tuple(found[:MOST_TOLD]))
    return tuple(found[:MOST_TOLD])


def needs_two(found: Sequence[OneStroke]) -> bool:
    """Return whether no single stroke fills the outline well enough."""
    return not found or found[0].overlap < ENOUGH


def _apart(best: Sequence[OneStroke]) -> list[OneStroke]:
    """Return strokes that differ: one for each load and way to hold it."""
    seen: set[object] = set()
    kept = []
    for one in best:
        key = (one.load, one.stroke.nib.mode)
        if key not in seen:
            seen.add(key)
            kept.append(one)
    return kept


# --- the outline ---


@dataclass(frozen=True, slots=True, eq=False)
class _Target:
    """A shape, its signed distance on a grid (above 0 outside, mm), where that begins and its step, and its edge."""

    shape: BaseGeometry
    field: Array
    corner: Array
    step: float
    edge: Array

    def off(self, points: Array) -> Array:
        """Return how far points lie from the edge, mm, above 0 outside."""
        from scipy.ndimage import map_coordinates  # noqa: PLC0415 - SciPy only where a search runs

        at = ((points - self.corner) / self.step).T
        return np.asarray(map_coordinates(self.field, at, order=1, mode="nearest"))


def _target(outline: Sequence[tuple[float, float]]) -> _Target:
    from scipy.ndimage import distance_transform_edt  # noqa: PLC0415 - SciPy only where a search runs

    if len(outline) < 3:
        raise NoOutlineError(
            phrase("Draw an outline of three points at least: it has to enclose what the stroke shall fill.")
        )
    shape = shapely.Polygon(outline).buffer(0)
    shape = max(getattr(shape, "geoms", (shape,)), key=lambda part: float(part.area))
    if shape.is_empty or shape.area < LEAST_MM**2:
        raise NoOutlineError(phrase("The outline encloses hardly anything; draw it larger, and close it."))
    left, top, right, bottom = shape.bounds
    size = max(right - left, bottom - top)
    if size > MOST_MM:
        raise NoOutlineError(
            phrase("The outline is {size:.0f} mm across, more than any stroke covers; draw it smaller.", size=size)
        )
    step, margin = 2 * size / _CELLS, size / 2
    corner = np.array([left - margin, top - margin])
    counts = [int((high - low + 2 * margin) / step) + 2 for low, high in ((left, right), (top, bottom))]
    x, y = (corner[n] + np.arange(counts[n]) * step for n in (0, 1))
    inside = shapely.contains_xy(shape, *(grid.ravel() for grid in np.meshgrid(x, y, indexing="ij"))).reshape(counts)
    field = (distance_transform_edt(~inside) - distance_transform_edt(inside)) * step
    edge = np.array(shapely.segmentize(shape.exterior, shape.length / 60).coords)
    return _Target(shape, field, corner, step, edge)


def _axis(target: _Target) -> tuple[Array, float]:
    """Return points along the middle of a shape, shape (4, 2), as a cubic's own, and the direction of its main axis."""
    box = np.array(target.shape.minimum_rotated_rectangle.exterior.coords)[:4]
    first = 0 if np.hypot(*(box[1] - box[0])) >= np.hypot(*(box[2] - box[1])) else 1
    start = (box[first] + box[(first + 3) % 4]) / 2
    end = (box[first + 1] + box[(first + 2) % 4]) / 2
    way = (end - start) / max(float(np.hypot(*(end - start))), 1e-9)
    across = np.array([-way[1], way[0]])
    reach = float(np.hypot(*(end - start)))
    middles = []
    for share in np.linspace(0.06, 0.94, 9):
        at = start + share * (end - start)
        cut = shapely.LineString([at - across * reach, at + across * reach]).intersection(target.shape)
        middles.append((share, np.array(cut.centroid.coords[0]) if not cut.is_empty else at))
    t = np.array([share for share, _ in middles])
    cubic, *_ = np.linalg.lstsq(bernstein(t), np.array([point for _, point in middles]), rcond=None)
    return cubic, math.atan2(way[1], way[0])


# --- tries ---


_T = np.linspace(0, 1, _STATIONS)
_WEIGHTS = bernstein(_T)


@dataclass(frozen=True, slots=True, eq=False)
class _Tool:
    """A brush as wide and as thick as it is under the pressures that are looked at, mm."""

    press: Array
    wide: Array
    thick: Array

    def at(self, press: float) -> tuple[float, float]:
        """Return its width and thickness under a pressure, mm."""
        return float(np.interp(press, self.press, self.wide)), float(np.interp(press, self.press, self.thick))


def _tool(brush: Applicator, axis: GradientAxis) -> _Tool:
    press = np.linspace(*PRESS, 60)
    return _Tool(press, contact_width_mm(brush, press), contact(brush, axis, press).thickness_mm)


def _moments(values: Array, tool: _Tool) -> tuple[Array, Array, Array]:
    """Return the middle of the edge along a try, its half edge and its half thickness as vectors, each (n, 2), mm.

    A try is the eight numbers of its cubic, the angle of the chisel at both ends, and its pressure.
    """
    centre = _WEIGHTS @ values[:8].reshape(4, 2)
    far = travelled_mm(centre)
    share = far / far[-1] if far[-1] > 1e-9 else _T
    angle = values[8] + share * (values[9] - values[8])
    wide, thick = tool.at(float(values[10]))
    edge = np.stack([np.cos(angle), np.sin(angle)], axis=1)
    return centre, edge * wide / 2, np.stack([-edge[:, 1], edge[:, 0]], axis=1) * thick / 2


def _tried(target: _Target, tool: _Tool) -> list[Array]:
    """Return the best tries with a brush, each as `_moments` has it."""
    from scipy.optimize import least_squares  # noqa: PLC0415 - SciPy only where a search runs

    cubic, axis = _axis(target)
    starts = []
    for one, other in _HOLDS:
        for press in (0.4, 0.7):
            values = np.concatenate([cubic.ravel(), axis + np.radians([one, other]), [press]])
            starts.append((float((_misses(values, target, tool) ** 2).sum()), values))
    starts.sort(key=lambda one: one[0])
    bounds = (np.full(11, -np.inf), np.full(11, np.inf))
    bounds[0][10], bounds[1][10] = PRESS
    led = []
    for _, values in starts[:_STARTS]:
        found = least_squares(_misses, values, bounds=bounds, args=(target, tool), max_nfev=30, x_scale=_SCALE)
        led.append((_shared(found.x, target, tool), found.x))
    led.sort(key=lambda one: -one[0])
    return [_polished(values, target, tool) for _, values in led[:_POLISHED]]


_SCALE = np.array([5.0] * 8 + [0.3, 0.3, 0.2])


def _misses(values: Array, target: _Target, tool: _Tool) -> Array:
    """Return by how much both sides, both ends and the outline miss each other, mm."""
    from scipy.spatial import cKDTree  # noqa: PLC0415 - SciPy only where a search runs

    centre, edge, thick = _moments(values, tool)
    ways = np.gradient(centre, axis=0)
    ways = ways / np.maximum(np.linalg.norm(ways, axis=1), 1e-9)[:, None]
    across = np.stack([-ways[:, 1], ways[:, 0]], axis=1)
    out = np.abs((thick * across).sum(axis=1))[:, None] * across * np.sign((edge * across).sum(axis=1))[:, None]
    one, other = centre - edge - out, centre + edge + out
    ahead = np.abs((thick * ways).sum(axis=1))[:, None] * ways
    shares = np.linspace(-0.6, 0.6, 4)[:, None]
    ends = np.concatenate([centre[0] + shares * edge[0] - ahead[0], centre[-1] + shares * edge[-1] + ahead[-1]])
    sides = np.concatenate([one, other, ends])
    reached, _ = cKDTree(sides).query(target.edge)
    return np.concatenate([target.off(sides), 0.6 * reached])


def _region(values: Array, tool: _Tool) -> BaseGeometry:
    centre, edge, thick = _moments(values, tool)
    corners = np.stack([centre + s * edge + f * thick for s in (-1, 1) for f in (-1, 1)], axis=1)
    steps = np.concatenate([corners[:-1], corners[1:]], axis=1)
    shape: BaseGeometry = shapely.union_all(shapely.convex_hull(shapely.multipoints(steps)))
    return shape


def _shared(values: Array, target: _Target, tool: _Tool) -> float:
    laid = _region(values, tool)
    return float(target.shape.intersection(laid).area / max(target.shape.union(laid).area, 1e-9))


def _polished(values: Array, target: _Target, tool: _Tool) -> Array:
    """Return a try bettered by the overlap itself."""
    from scipy.optimize import minimize  # noqa: PLC0415 - SciPy only where a search runs

    def worse(tried: Array) -> float:
        held = tried * _SCALE
        beyond = max(PRESS[0] - float(held[10]), float(held[10]) - PRESS[1], 0.0)
        return 1 - _shared(held, target, tool) + beyond

    start = values / _SCALE
    simplex = np.vstack([start, *(start + 0.1 * np.eye(11))])
    options = {"maxfev": _LOOKS, "initial_simplex": simplex}
    return np.asarray(minimize(worse, start, method="Nelder-Mead", options=options).x * _SCALE)


# --- strokes ---


def _as_stroke(source: Stroke, values: Array) -> Stroke:
    path = CubicPath(tuple((round(float(x), 3), round(float(y), 3)) for x, y in values[:8].reshape(4, 2)))
    start, end = (round(math.degrees(float(angle)), 1) for angle in values[8:10])
    turns = round(start / 360) * 360
    start, end = start - turns, end - turns
    press = round(min(max(float(values[10]), PRESS[0]), PRESS[1]), 3)
    fixed = abs(end - start) < 2
    nib = Nib(NibMode.FIXED, (start + end) / 2) if fixed else Nib(NibMode.PIVOTING, start, end, 0.5)
    return Stroke(path, nib, press, lift_mm=0.0, exit=source.exit)


def _rim_towards(stroke: Stroke, rim: Side, rim_at: tuple[float, float]) -> Stroke:
    """Return a stroke with its rim on the side of a point: the chisel turned half round where it is not."""
    nib = stroke.nib
    end = nib.angle_end_deg if nib.mode is NibMode.PIVOTING else nib.angle_deg
    values = np.array([*np.ravel(stroke.path.points_mm), *np.radians([nib.angle_deg, end]), stroke.pressure])
    centre, edge, _ = _moments(values, _Tool(np.array(PRESS), np.ones(2), np.ones(2)))
    away = [float(np.linalg.norm(centre + side * edge - np.array(rim_at), axis=1).min()) for side in (-1, 1)]
    on_a = away[0] <= away[1]
    return stroke if on_a is (rim is Side.A) else _half_round(stroke)


def other_rim(filled: OneStroke) -> OneStroke:
    """Return a stroke with the rim on its other side: it covers the same, with the chisel turned half round."""
    return replace(filled, stroke=_half_round(filled.stroke))


def _half_round(stroke: Stroke) -> Stroke:
    nib = stroke.nib
    by = -180 if nib.angle_deg > 0 else 180
    turned = replace(nib, angle_deg=nib.angle_deg + by)
    if nib.mode is NibMode.PIVOTING:
        turned = replace(turned, angle_end_deg=nib.angle_end_deg + by)
    return replace(stroke, nib=turned)


def _words(stroke: Stroke) -> str:
    nib = stroke.nib
    if nib.mode is NibMode.FIXED:
        chisel = phrase("the chisel stays at {angle_deg:.0f}°", angle_deg=nib.angle_deg % 360)
    else:
        by = nib.angle_end_deg - nib.angle_deg
        chisel = (
            phrase("the chisel turns {by:.0f}° to the right on the way", by=abs(by))
            if by > 0
            else phrase("the chisel turns {by:.0f}° to the left on the way", by=abs(by))
        )
    if stroke.pressure < 0.35:
        return phrase("press lightly ({pressure:.0%}), {chisel}", pressure=stroke.pressure, chisel=chisel)
    if stroke.pressure > 0.7:
        return phrase("press hard ({pressure:.0%}), {chisel}", pressure=stroke.pressure, chisel=chisel)
    return phrase("press evenly ({pressure:.0%}), {chisel}", pressure=stroke.pressure, chisel=chisel)


def loads_to_try(plan: Plan, loads: Sequence[str] = (), first: str = "") -> tuple[str, ...]:
    """Return the loads that an outline is filled with: those given, or one of each flat or angle brush.

    Which load a brush holds changes nothing of what it covers, so one stands for all of its brush.

    Parameters
    ----------
    first
        A load that is tried before all others and stands for its brush, "" for none.

    Raises
    ------
    OutOfRangeError
        If there is none.
    UnknownNameError
        If one given is not there.
    """
    for name in loads:
        plan.stroke(name)
    found = tuple(loads) or _one_a_brush(plan, first)
    if not found:
        raise OutOfRangeError(
            phrase("loads that could fill an outline"), 0, phrase("one of a flat or angle brush at least")
        )
    return found


def _one_a_brush(plan: Plan, first: str) -> tuple[str, ...]:
    names = sorted((one.id for one in plan.strokes), key=lambda name: name != first)
    stands: dict[object, str] = {}
    for name in names:
        brush = plan.brush(plan.stroke(name).brush)
        if not brush.kind.dips and not brush.kind.pressed:
            stands.setdefault((brush, plan.axis(name)), name)
    return tuple(stands.values())
