"""A stroke as a hand pulled it over a chart: its way as few curves, the chisel, pressure and lean as they were."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray
from shapely import LineString

from pennello.design.edits import free_id, new_name, slug
from pennello.design.holds import FIVE, hold_of, with_hold
from pennello.design.line_work import about_middle
from pennello.design.on_chart import chart_of, placed_in, with_motif, without_motif
from pennello.design.part_edits import put_in
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.plan import Plan
from pennello.design.touch import shape_of
from pennello.errors import OutOfRangeError
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import MOST_KEYS, PRESSURE, Key, Nib, NibMode, Stroke
from pennello.limits import fitted
from pennello.path.cubic import CubicPath, length_mm, travelled_mm
from pennello.path.fit import GrowingFit, fitted_path
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

OFF_MM = 0.3
"""No point of a hand lies farther than this from the way that is made of it (a default)."""

MOST_LEAN_DEG = 70.0
_SAME_DEG, _SAME_PRESS, _SAME_LEAN = 1.0, 0.02, 2.0


@dataclass(frozen=True, slots=True)
class Sample:
    """Where the hand was, and how it held the brush there.

    Attributes
    ----------
    x_mm, y_mm
        On the chart.
    pressure
        0.05 to 1; None as the load's trial stroke has it.
    turn_deg
        How far the chisel was turned from how the hold has it, towards +y.
    lean_deg
        How far the brush was laid over, 0 to 70.
    flipped
        Whether A and B had changed sides.
    """

    x_mm: float
    y_mm: float
    pressure: float | None = None
    turn_deg: float = 0.0
    lean_deg: float = 0.0
    flipped: bool = False


def pulled_stroke(
    source: Stroke,
    samples: Sequence[Sample],
    hold: Hold | None = None,
    upright_deg: float | None = None,
    growing: GrowingFit | None = None,
) -> Stroke:
    """Return the stroke of a hand.

    Parameters
    ----------
    source
        The load's trial stroke: what the hand does not say is as there.
    samples
        1 or more, in their order.
    hold
        One of the five holds; as the trial stroke has it without one.
    upright_deg
        The chisel keeps this direction on the skin, whatever the hold.
    growing
        What fits the way while the hand still goes on; without it the way is fitted as a whole.
    """
    points = _steadied(samples)
    path = fitted_path(points, OFF_MM) if growing is None else growing.path(points)
    stroke = replace(source, path=path, flips_mm=(), reload_mm=())
    if upright_deg is not None:
        stroke = replace(stroke, nib=Nib(NibMode.FIXED, upright_deg), pats=None)
    elif hold in FIVE and hold is not hold_of(source):
        stroke = with_hold(stroke, hold)
    return stroke if all(map(_is_plain, samples)) else _as_led(stroke, samples)


def _is_plain(one: Sample) -> bool:
    """Return whether the hand only goes along there, as with a mouse."""
    return one.pressure is None and not (one.turn_deg or one.lean_deg or one.flipped)


def _as_led(stroke: Stroke, samples: Sequence[Sample]) -> Stroke:
    """Return a stroke turned, pressed, leant and flipped as the hand did on the way."""
    at = _places(samples)
    begins = 180.0 if samples[0].flipped else 0.0
    stroke = replace(stroke, nib=turned_nib(stroke.nib, at, np.array([one.turn_deg + begins for one in samples])))
    pressures = [one.pressure for one in samples]
    if all(one is not None for one in pressures):
        stroke = _pressed(stroke, at, np.clip(np.array(pressures, np.float64), *PRESSURE))
    leans = np.clip([one.lean_deg for one in samples], 0.0, MOST_LEAN_DEG)
    if float(leans.max()) > _SAME_LEAN:
        stroke = replace(stroke, leans=_keys(at, leans, _SAME_LEAN))
    turns = [place for place, (one, other) in enumerate(pairwise(samples), 1) if one.flipped is not other.flipped]
    if turns:
        total = length_mm(stroke.path)
        stroke = replace(stroke, flips_mm=tuple(round(float(at[place]) * total, 2) for place in turns))
    return stroke


def _steadied(samples: Sequence[Sample]) -> list[tuple[float, float]]:
    """Return where the hand was without the steps of a screen's pixels: each point nearer to its neighbours."""
    points = np.array([(one.x_mm, one.y_mm) for one in samples])
    if len(points) > 4:
        for _ in range(2):
            points[1:-1] = (points[:-2] + 2 * points[1:-1] + points[2:]) / 4
    return [(x, y) for x, y in points.tolist()]


def _places(samples: Sequence[Sample]) -> Array:
    """Return where along the way each sample lies, 0 to 1, rising."""
    points = np.array([(one.x_mm, one.y_mm) for one in samples])
    far = travelled_mm(points)
    return far / far[-1] if far[-1] > 0 else np.linspace(0, 1, len(far))


def turned_nib(nib: Nib, at: Array, turns: Array) -> Nib:
    """Return a chisel that was turned on the way, at places 0 to 1 by so many degrees each.

    Evenly where it keeps a direction, by keys where it follows.
    """
    first, last = float(turns[0]), float(turns[-1])
    steady = float(np.abs(turns - first).max()) < _SAME_DEG
    if nib.mode is NibMode.PIVOTING:
        return replace(nib, angle_deg=_whole(nib.angle_deg, first), angle_end_deg=_whole(nib.angle_end_deg, last))
    if nib.mode is NibMode.KEYED:
        added = (replace(key, value=_whole(key.value, float(np.interp(key.at, at, turns)))) for key in nib.keys)
        return replace(nib, keys=tuple(added))
    if steady:
        return replace(nib, angle_deg=_whole(nib.angle_deg, first))
    if nib.mode is NibMode.FIXED:
        return Nib(NibMode.PIVOTING, _whole(nib.angle_deg, first), _whole(nib.angle_deg, last), 0.5)
    return Nib(NibMode.KEYED, keys=_keys(at, nib.angle_deg + turns, _SAME_DEG))


def _whole(angle_deg: float, turn_deg: float) -> float:
    """Return an angle turned, within what a stroke may say."""
    turned = angle_deg + turn_deg
    return round(turned if abs(turned) <= 720 else (turned + 180) % 360 - 180, 1)


def _pressed(stroke: Stroke, at: Array, pressures: Array) -> Stroke:
    if float(np.ptp(pressures)) < _SAME_PRESS:
        return replace(stroke, pressure=round(float(pressures.mean()), 3), pressures=())
    return replace(stroke, pressures=_keys(at, pressures, _SAME_PRESS))


def _keys(at: Array, values: Array, off: float) -> tuple[Key, ...]:
    """Return as few keys as say values along the way, none farther off than so much (Douglas and Peucker 1973)."""
    if len(at) == 1:
        return (Key(0.0, round(float(values[0]), 3)),)
    while True:
        line = LineString(np.stack([at, values / off], axis=1)).simplify(1.0)
        if len(line.coords) <= MOST_KEYS:
            return tuple(
                Key(round(min(max(place, 0.0), 1.0), 4), round(value * off, 3)) for place, value in line.coords
            )
        off *= 1.5


def with_pulled(plan: Plan, load: str, stroke: Stroke, chart: str, part: str = "", name: str = "") -> tuple[Plan, str]:
    """Return the plan with a stroke that was pulled on a chart as a piece, last of all, and its id.

    Parameters
    ----------
    stroke
        Where it lies on the chart.
    part
        The part that it belongs to, "" for none.

    Raises
    ------
    UnknownNameError
        If there is no such load, chart or part.
    """
    called = name or new_name(plan, plan.stroke(load).name)
    chart_of(plan, chart)
    new_id = free_id(slug(name or plan.stroke(load).name), plan.ids_in_design)
    placed = about_middle(
        PlacedMotif(new_id, fitted(called), FREE, ((SINGLE, load),), chart=chart, way=stroke), [stroke]
    )
    plan = with_motif(plan, placed)
    return (put_in(plan, [new_id], part) if part else plan), new_id


def points_of(placed: PlacedMotif) -> tuple[tuple[float, float], ...]:
    """Return the points of a single free stroke's way where they lie on the chart, mm; none for any other piece."""
    if placed.way is None or placed.more:
        return ()
    return placed.place.stroke(placed.way).path.points_mm


def outline_of(placed: PlacedMotif) -> tuple[tuple[float, float], ...]:
    """Return what a single free line encloses on the chart, mm, as points; none where it encloses nothing."""
    if placed.way is None or placed.more:
        return ()
    drawn = shape_of(placed.place.stroke(placed.way).path)
    if drawn.is_empty or not drawn.area:
        return ()
    largest = max(getattr(drawn, "geoms", (drawn,)), key=lambda part: float(part.area))
    return tuple((float(x), float(y)) for x, y in largest.exterior.coords)


def with_stroke_for(plan: Plan, drawn: str, load: str, stroke: Stroke) -> tuple[Plan, str]:
    """Return the plan with a stroke in the place of a drawn line, in its part and on its chart, and the stroke's id.

    Raises
    ------
    UnknownNameError
        If there is no such piece or load.
    """
    placed = placed_in(plan, drawn)
    plan, name = with_pulled(plan, load, stroke, placed.chart, placed.part)
    return without_motif(plan, drawn), name


def with_point_at(placed: PlacedMotif, number: int, x_mm: float, y_mm: float) -> PlacedMotif:
    """Return a free stroke with a point of its way elsewhere on the chart; its handles go with a point that it passes.

    Parameters
    ----------
    number
        0 for the start, then two handles and an end for each curve.

    Raises
    ------
    OutOfRangeError
        If it has no such point: it is a motif, has several strokes, or not so many.
    """
    points = list(points_of(placed))
    if placed.way is None or not 0 <= number < len(points):
        wanted = phrase("0 to {count}", count=len(points) - 1) if points else phrase("none: it is no single stroke")
        raise OutOfRangeError(phrase("point of the way of {placed}", placed=placed.name), number, wanted)
    by = (x_mm - points[number][0], y_mm - points[number][1])
    with_it = [at for at in (number - 1, number, number + 1) if 0 <= at < len(points)] if number % 3 == 0 else [number]
    for at in with_it:
        points[at] = (points[at][0] + by[0], points[at][1] + by[1])
    own = placed.place.inverse().points(np.array(points))
    path = CubicPath(tuple((round(float(x), 4), round(float(y), 4)) for x, y in own))
    return replace(placed, way=replace(placed.way, path=path))


def with_way(placed: PlacedMotif, change: Callable[[Stroke], Stroke]) -> PlacedMotif:
    """Return a free stroke held or pressed another way; any other piece as it is."""
    return placed if placed.way is None or placed.more else replace(placed, way=change(placed.way))


def with_press(stroke: Stroke, press: float) -> Stroke:
    """Return a stroke with its greatest pressure so, 0.05 to 1, all of it in proportion.

    Raises
    ------
    OutOfRangeError
        If it is outside its range.
    """
    if not PRESSURE[0] <= press <= PRESSURE[1]:
        raise OutOfRangeError(
            "pressure", press, phrase("{pressure:g} to {pressure_2:g}", pressure=PRESSURE[0], pressure_2=PRESSURE[1])
        )
    if not stroke.pressures:
        return replace(stroke, pressure=press)
    most = max(key.value for key in stroke.pressures)
    keys = (replace(key, value=max(round(key.value * press / most, 3), PRESSURE[0])) for key in stroke.pressures)
    return replace(stroke, pressures=tuple(keys))
