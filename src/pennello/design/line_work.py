"""Line work and dots: lines as a hand drew them, as the strokes of one piece with the load of a round or a liner."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from enum import Enum

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from pennello.aim.wish import Stop, Wanted
from pennello.chart.chart import Point
from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.design.clock import LINERS
from pennello.design.edits import free_id, slug, with_brush, with_stroke
from pennello.design.on_chart import chart_of, pieces_on, placed_in, with_motif
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.plan import Plan, PlanStroke
from pennello.design.touch import swept
from pennello.design.wishing import with_load_wished
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Portion
from pennello.kit.contact import contact_width_mm
from pennello.kit.paint import Paint
from pennello.lay.families.shapes import ramp, smooth, swell
from pennello.lay.stroke import PRESSURE, Nib, NibMode, Pats, Stroke
from pennello.limits import MOST_OUTLINES, fitted
from pennello.load.recipe import PickUp, Recipe
from pennello.motif.grammar import dot
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath, line
from pennello.phrases import phrase

LINE_MM = (0.3, 8.0)
"""How wide a line of a round or a liner may be asked for, mm."""

USUAL_PRESS = 0.5
DOT_MM = 0.5
"""A line that is no longer across is a dot."""

LEAST_STEP_MM = 2.0
"""Points of a drawn line that lie nearer are left out (a default)."""

MOST_POINTS = 600
_ALIKE_DE = 2.0
_TIP, _FIRST_DOT = 0.05, 0.12
SWIRL_TURNS, SWIRL_EYE = 1.5, 0.12
"""How often a swirl goes round, and how far from its middle it ends as a share of its radius (defaults)."""

_A_TURN = 12
_RING_MM = 2.6
"""How far apart the rings of a cluster of dots lie (a default)."""

_TRIED = np.linspace(PRESSURE[0], PRESSURE[1], 200)


class Taper(Enum):
    """Where a line is thick: nowhere more than elsewhere, at its start, at its end, in its middle; or what a pull sets.

    That is dots in a row, or a swirl or a cluster of dots about its start whose radius it pulls out.
    """

    EVEN = "even"
    TO_TIP = "thick to tip"
    FROM_TIP = "tip to thick"
    MIDDLE = "thick in the middle"
    DOTS = "a row of dots, growing"
    SWIRL = "a swirl"
    CLUSTER = "a cluster of dots"


class NoLineError(PennelloError):
    """Line work without a line."""


def is_dot(path: CubicPath) -> bool:
    """Return whether a line is a dot: no longer than half a millimetre across.

    >>> is_dot(line((3.0, 4.0), (3.2, 4.1)))
    True
    """
    return bool(np.ptp(np.array(path.points_mm), axis=0).max() < DOT_MM)


def hand_drawn(points: Sequence[Point], least_mm: float = LEAST_STEP_MM) -> CubicPath:
    """Return a smooth line through points of a hand, those too near to the one before left out; one point is a dot.

    Parameters
    ----------
    points
        Where the hand was, mm; 1 or more.
    """
    kept = [points[0]]
    for point in points[1:]:
        if math.dist(point, kept[-1]) >= least_mm:
            kept.append(point)
    if len(kept) > 1 and points[-1] != kept[-1] and math.dist(points[-1], kept[-1]) > least_mm / 4:
        kept.append(points[-1])
    if len(kept) == 1:
        return CubicPath((kept[0],) * 4)
    return smooth([(round(x, 2), round(y, 2)) for x, y in kept[:MOST_POINTS]])


def swirl(path: CubicPath) -> CubicPath:
    """Return an Archimedean spiral about the start of a pull, from its end inwards, to the side that the pull bows to.

    A pull shorter than 2 mm stays as it is.
    """
    points = np.array(path.points_mm)
    centre, out = points[0], points[-1] - points[0]
    radius = float(np.hypot(*out))
    if radius < LEAST_STEP_MM:
        return path
    bow = (points - centre) @ np.array([-out[1], out[0]])
    side = -1.0 if float(bow.sum()) < 0 else 1.0
    share = np.linspace(1.0, SWIRL_EYE, round(_A_TURN * SWIRL_TURNS) + 1)
    turned = math.atan2(out[1], out[0]) + side * 2 * math.pi * SWIRL_TURNS * (1 - share) / (1 - SWIRL_EYE)
    spiral = centre + radius * share[:, None] * np.stack([np.cos(turned), np.sin(turned)], axis=1)
    return smooth([(round(float(x), 3), round(float(y), 3)) for x, y in spiral])


def cluster(path: CubicPath, press: float) -> CubicPath:
    """Return a way from the start of a pull outwards to its radius, round and round, for dots set down side by side.

    Parameters
    ----------
    press
        Pressure of the dot in the middle, 0.05 to 1: rings lie as far apart as such dots are wide as a rule.
    """
    points = np.array(path.points_mm)
    centre, radius = points[0], float(np.hypot(*(points[-1] - points[0])))
    if radius < LEAST_STEP_MM:
        return path
    turns = max(radius / (_RING_MM * (0.5 + press)), 1.0)
    share = np.linspace(0.0, 1.0, round(_A_TURN * turns) + 1)
    turned = 2 * math.pi * turns * np.sqrt(share)
    way = centre + radius * np.sqrt(share)[:, None] * np.stack([np.cos(turned), np.sin(turned)], axis=1)
    return smooth([(round(float(x), 3), round(float(y), 3)) for x, y in way])


def line_stroke(path: CubicPath, taper: Taper = Taper.EVEN, press: float = USUAL_PRESS) -> Stroke:
    """Return the stroke that a line is drawn with, or the one that sets down a dot.

    Parameters
    ----------
    press
        Pressure where the line is thickest, 0.05 to 1.
    """
    if is_dot(path):
        middle = np.array(path.points_mm).mean(axis=0)
        return dot(max(press, 0.1), float(middle[0]), float(middle[1]))
    nib = Nib(NibMode.FOLLOWING, 90.0)
    if taper not in (Taper.SWIRL, Taper.CLUSTER) and (taper is Taper.EVEN or press <= _TIP):
        return Stroke(path, nib, press)
    if taper is Taper.DOTS:
        return Stroke(path, nib, pressures=ramp(_FIRST_DOT, press), pats=Pats(0.0, 0.0))
    if taper is Taper.CLUSTER:
        return Stroke(cluster(path, press), nib, pressures=ramp(press, _FIRST_DOT), pats=Pats(0.0, 0.0))
    if taper is Taper.SWIRL:
        return Stroke(swirl(path), nib, pressures=ramp(press, _TIP))
    keys = {
        Taper.TO_TIP: ramp(press, _TIP),
        Taper.FROM_TIP: ramp(_TIP, press),
        Taper.MIDDLE: swell(_TIP, press),
    }
    return Stroke(path, nib, pressures=keys[taper])


def press_for(brush: Applicator, line_mm: float) -> float:
    """Return the pressure under which a brush draws a line so wide, mm, as near as it can, 0.05 to 1."""
    widths = contact_width_mm(brush, _TRIED)
    return round(float(np.interp(line_mm, widths, _TRIED)), 3)


def with_snapped_ends(
    points: Sequence[Point], places: Sequence[Point], within_mm: float, shapes: Sequence[BaseGeometry] = ()
) -> list[Point]:
    """Return a line whose start and end lie on the nearest of some places, where one is near enough, mm.

    Parameters
    ----------
    shapes
        What is painted: an end that is near no place lies on the contour of all of it, where that is near enough.
    """
    snapped = list(points)
    for end in {0, len(snapped) - 1}:
        near = min(places, key=lambda place: math.dist(place, points[end]), default=None)
        if near is not None and math.dist(near, points[end]) <= within_mm:
            snapped[end] = near
        else:
            snapped[end] = _on_contour(points[end], within_mm, shapes)
    return snapped


def _on_contour(point: Point, within_mm: float, shapes: Sequence[BaseGeometry]) -> Point:
    """Return the nearest place of the contour round shapes, or the point where none is near enough."""
    here = shapely.Point(point)
    close = [shape for shape in shapes if shape.distance(here) <= within_mm]
    contour = shapely.union_all(close).boundary if close else shapely.Point()
    if contour.is_empty or contour.distance(here) > within_mm:
        return point
    (_, (x, y)) = shapely.shortest_line(here, contour).coords
    return x, y


def shapes_to_snap(plan: Plan, key: str) -> tuple[BaseGeometry, ...]:
    """Return what each stroke on a chart touches, mm: lines may begin and end on the contour of it."""
    return tuple(swept(plan, piece) for piece in pieces_on(plan, key))


def places_to_snap(plan: Plan, key: str) -> tuple[Point, ...]:
    """Return where lines may begin and end on a chart: landmarks, and the ends of all that is painted there."""
    ends = [piece.stroke.path.points_mm for piece in pieces_on(plan, key)]
    landmarks = [point for _, point in chart_of(plan, key).landmarks]
    return tuple(dict.fromkeys([*landmarks, *(points[at] for points in ends for at in (0, -1))]))


# --- loads ---


def line_loads(plan: Plan) -> tuple[PlanStroke, ...]:
    """Return the loads of a plan that line work can be drawn with: those of rounds and liners."""
    return tuple(one for one in plan.strokes if plan.brush(one.brush).kind in LINERS)


def with_line_load(plan: Plan, srgb: str, line_mm: float) -> tuple[Plan, str]:
    """Return the plan with a load of one paint that draws lines so wide, and its id: one that is there, or a new one.

    The paint is the plan's own of that colour, or a new one; the brush is the round or liner that comes nearest to the
    width under medium pressure.

    Raises
    ------
    OutOfRangeError
        If lines are not 0.3 to 8 mm wide.
    """
    if not LINE_MM[0] <= line_mm <= LINE_MM[1]:
        raise OutOfRangeError(
            phrase("width of lines"),
            line_mm,
            phrase("{line_mm:g} to {line_mm_2:g} mm", line_mm=LINE_MM[0], line_mm_2=LINE_MM[1]),
        )
    plan, paint = _with_paint(plan, srgb)
    plan, brush = _with_liner(plan, line_mm)
    for one in line_loads(plan):
        if one.brush == brush.id and one.recipe.pan_paints == (paint.id,) and not one.recipe.cakes:
            return plan, one.id
    taken = [one.id for one in plan.strokes]
    pickup = PickUp(pan=(Portion(paint.id, 1.0),), drift_mm=brush.drift_mm)
    new = PlanStroke(
        free_id(slug(phrase("line {paint}", paint=paint.name)), taken),
        fitted(phrase("Line, {paint}", paint=paint.name)),
        brush.id,
        Recipe((pickup,)),
        line_stroke(line((0.0, -60.0), (40.0, -60.0)), press=press_for(brush, line_mm)),
        Wanted((Stop(paint.id),)),
    )
    return with_load_wished(with_stroke(plan, new), new.id), new.id


USUAL_SRGB, USUAL_LINE_MM = "#f6f5f0", 1.8
"""What line work is drawn in where the plan has no load for it: a light (defaults)."""


def with_usual_line_load(plan: Plan, load: str = "") -> tuple[Plan, str]:
    """Return the plan and a load for line work: this one, that of the line work made last, or one in a light paint."""
    known = [one.id for one in line_loads(plan)]
    if load in known:
        return plan, load
    used = [placed.load_of[SINGLE] for placed in plan.motifs if is_line_work(plan, placed)]
    return (plan, used[-1]) if used else with_line_load(plan, USUAL_SRGB, USUAL_LINE_MM)


def look_of(plan: Plan, load: str) -> tuple[str, float]:
    """Return what colour a load has for the most part, sRGB, and how wide a line it draws, mm."""
    source = plan.stroke(load)
    edge = plan.edge(load)
    paint = edge.paints[int(edge.share.sum(axis=1).argmax())]
    return plan.paint(paint).srgb, float(contact_width_mm(plan.brush(source.brush), _press(source, None)))


def _with_paint(plan: Plan, srgb: str) -> tuple[Plan, Paint]:
    wanted = hex_to_lab(srgb)
    for paint in plan.paints:
        if float(ciede2000(hex_to_lab(paint.srgb), wanted)) < _ALIKE_DE:
            return plan, paint
    new = Paint(free_id(f"paint-{srgb.lstrip('#').lower()}", [one.id for one in plan.paints]), srgb, srgb)
    return replace(plan, paints=(*plan.paints, new)), new


def _with_liner(plan: Plan, line_mm: float) -> tuple[Plan, Applicator]:
    """Return the round or liner that is nearest to a width, in the plan or in the shop."""

    def off(brush: Applicator) -> float:
        return abs(float(contact_width_mm(brush, USUAL_PRESS)) - line_mm)

    known = {**{one.id: one for one in catalogue.brushes().values()}, **plan.brushes_by_id}
    best = min((one for one in known.values() if one.kind in LINERS), key=off)
    return (plan if best.id in plan.brushes_by_id else with_brush(plan, best)), best


# --- pieces ---


def with_line_work(
    plan: Plan,
    load: str,
    lines: Sequence[CubicPath],
    chart: str,
    name: str,
    taper: Taper = Taper.EVEN,
    press: float | None = None,
) -> tuple[Plan, str]:
    """Return the plan with lines and dots as one piece, last of all, where they lie on a chart, and its id.

    Parameters
    ----------
    press
        Pressure where a line is thickest; that of the load's trial stroke without it.

    Raises
    ------
    NoLineError
        If there is no line.
    OutOfRangeError
        If there are more than 200.
    """
    if not lines:
        raise NoLineError(phrase("{name} has no line; draw one and save it as a path.", name=name))
    source = plan.stroke(load)
    chart_of(plan, chart)
    strokes = [line_stroke(one, taper, _press(source, press)) for one in lines]
    new_id = free_id(slug(name), plan.ids_in_design)
    placed = PlacedMotif(new_id, fitted(name), FREE, ((SINGLE, load),), chart=chart, way=strokes[0])
    return with_motif(plan, about_middle(placed, strokes)), new_id


def with_lines_on(
    plan: Plan, name: str, lines: Sequence[CubicPath], taper: Taper = Taper.EVEN, press: float | None = None
) -> Plan:
    """Return the plan with lines more in a piece of line work, given where they lie on its chart.

    Raises
    ------
    UnknownNameError
        If there is no such piece.
    OutOfRangeError
        If it is a motif, or would have more than 200 lines.
    """
    placed = placed_in(plan, name)
    if placed.way is None:
        raise OutOfRangeError(
            phrase("lines on {placed}", placed=placed.name),
            len(lines),
            phrase("none: it is a motif; break it apart first"),
        )
    source = plan.stroke(placed.load_of[SINGLE])
    there = [placed.place.stroke(way) for way in placed.ways]
    drawn = [line_stroke(one, taper, _press(source, press)) for one in lines]
    return with_motif(plan, about_middle(replace(placed, place=Place()), [*there, *drawn]))


def _press(source: PlanStroke, press: float | None) -> float:
    if press is not None:
        return press
    way = source.stroke
    return max(key.value for key in way.pressures) if way.pressures else way.pressure


def about_middle(placed: PlacedMotif, strokes: Sequence[Stroke]) -> PlacedMotif:
    """Return a piece of these strokes with its place in their middle, where the hand takes it."""
    if len(strokes) > MOST_OUTLINES:
        raise OutOfRangeError(
            phrase("number of lines of {placed}", placed=placed.name),
            len(strokes),
            phrase("at most {most_outlines}", most_outlines=MOST_OUTLINES),
        )
    points = np.concatenate([np.array(one.path.points_mm) for one in strokes])
    x, y = (round(float(value), 2) for value in (points.min(axis=0) + points.max(axis=0)) / 2)
    ways = [replace(one, path=_moved(one.path, -x, -y)) for one in strokes]
    return replace(placed, place=Place(x, y), way=ways[0], more=tuple(ways[1:]))


def _moved(path: CubicPath, x: float, y: float) -> CubicPath:
    return CubicPath(tuple((round(a + x, 4), round(b + y, 4)) for a, b in path.points_mm))


def is_line_work(plan: Plan, placed: PlacedMotif) -> bool:
    """Return whether a piece is lines and dots of a round or a liner."""
    load = placed.load_of.get(SINGLE)
    own = placed.way is not None or placed.computed is not None
    return own and load is not None and plan.brush(plan.stroke(load).brush).kind in LINERS
