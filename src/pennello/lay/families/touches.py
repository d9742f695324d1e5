"""Families that are set down, pressed, patted, or drawn with the tip, by the side of the older ones."""

from __future__ import annotations

import math

from pennello.lay.families.family import LENGTH, PRESS, Family, Parameter, Values
from pennello.lay.families.hold import Hold
from pennello.lay.families.shapes import arc, ramp, smooth, straight
from pennello.lay.stroke import Key, Nib, NibMode, Pats, Stroke
from pennello.path.cubic import CubicPath, Point, line
from pennello.phrases import phrase

BOW = Parameter("bow_mm", phrase("bow"), 8, 0, 100)
RING = Parameter("radius_mm", phrase("radius"), 9, 1, 100)
GROW = Parameter("to_press", phrase("pressure at the end"), 0.9, 0.06, 1.0, phrase("of full"))
POINTS = Parameter("points", phrase("points"), 5, 4, 8, "×")
BARBS = Parameter("barbs", phrase("pairs of barbs"), 2, 0, 6, "×")
BARB = Parameter("barb_mm", phrase("length of a barb"), 9, 1, 60)


def _bowed(values: Values) -> CubicPath:
    long, bow = values["length_mm"], values["bow_mm"]
    return CubicPath(((0.0, 0.0), (long / 3, -bow), (2 * long / 3, -bow), (long, 0.0)))


def _fur_along(values: Values) -> Stroke:
    """Many short, upright dabs along a way, each turned by a few degrees, with gaps."""
    pats = Pats(0.0, values["turn_deg"])
    return Stroke(
        _bowed(values), Nib(NibMode.FOLLOWING, 90.0), values["press"], pats=pats, leans=(Key(0, 24), Key(1, 24))
    )


def _ring(values: Values) -> Stroke:
    """The edge of a dauber alone, led round once."""
    path = arc(values["radius_mm"], -90.0, 270.0)
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), values["press"], part=(0.0, 0.16), on_part=True)


def _drop(values: Values) -> Stroke:
    """Pressed down to the belly, then drawn off to a point."""
    pressures = (Key(0, 0.35), Key(0.12, values["press"]), Key(0.35, max(values["press"] * 0.8, 0.05)), Key(1, 0.05))
    return Stroke(line((0, 0), (values["length_mm"], 0)), Nib(NibMode.FOLLOWING, 90.0), pressures=pressures)


def _tapering(values: Values) -> Stroke:
    return Stroke(_bowed(values), Nib(NibMode.FOLLOWING, 90.0), pressures=ramp(values["press"], 0.05))


def _graded(values: Values) -> Stroke:
    """Dots along a way, each a little larger than the one before, from one load."""
    pressures = (Key(0, values["press"]), Key(1, values["to_press"]))
    return Stroke(_bowed(values), Nib(NibMode.FOLLOWING, 90.0), pressures=pressures, pats=Pats(0.0, 0.0))


def _star(values: Values) -> Stroke:
    """Points that are drawn out from the middle, thick inside, thin at their ends."""
    count, radius = round(values["points"]), values["radius_mm"]
    points: list[Point] = [(0.0, 0.0)]
    keys = [Key(0.0, values["press"])]
    for arm in range(count):
        angle = 2 * math.pi * arm / count - math.pi / 2
        points += [(radius * math.cos(angle), radius * math.sin(angle)), (0.0, 0.0)]
        keys += [Key((2 * arm + 1) / (2 * count), 0.05), Key((2 * arm + 2) / (2 * count), values["press"])]
    return Stroke(straight(points), Nib(NibMode.FOLLOWING, 90.0), pressures=tuple(keys))


def _snow_arm(values: Values) -> Stroke:
    """An arm with pairs of barbs, drawn in one go: out, and aside at each barb."""
    long, barb, pairs = values["length_mm"], values["barb_mm"], round(values["barbs"])
    points: list[Point] = [(0.0, 0.0)]
    for number in range(pairs):
        x = long * (0.45 + 0.35 * number / max(pairs - 1, 1)) if pairs > 1 else long * 0.6
        size = barb * (1 - 0.3 * number / max(pairs, 1))
        reach = (x + size * 0.6, size * 0.8)
        points += [(x, 0.0), (reach[0], -reach[1]), (x, 0.0), reach, (x, 0.0)]
    points.append((long, 0.0))
    return Stroke(straight(points), Nib(NibMode.FOLLOWING, 90.0), values["press"])


def _swirl(values: Values) -> Stroke:
    """Begins at the origin, where it is told to, and winds in."""
    turns, radius = values["turns"], values["radius_mm"]
    count = max(8, round(10 * turns))
    points: list[Point] = []
    for number in range(count + 1):
        angle = 2 * math.pi * turns * number / count
        size = radius * (1 - 0.9 * number / count)
        points.append((radius - size * math.cos(angle), -size * math.sin(angle)))
    return Stroke(smooth(points), Nib(NibMode.FOLLOWING, 90.0), pressures=ramp(values["press"], 0.05))


_WAY = Parameter("length_mm", phrase("length"), 50, 4, 300)
TOUCHES = (
    Family(
        "fur-along",
        phrase("Fur along a way"),
        phrase("many short upright dabs, each a little turned, with gaps"),
        "dabs",
        "flat-1-2",
        (
            _WAY,
            BOW,
            Parameter("turn_deg", phrase("turned to and fro by"), 14, 0, 90, "°"),
            Parameter("press", phrase("pressure"), 0.22, 0.06, 1.0, phrase("of full")),
        ),
        _fur_along,
        Hold.TOUCH,
    ),
    Family(
        "dauber-ring",
        phrase("Dauber ring"),
        phrase("the edge of a dauber alone, led round"),
        "dabs",
        "dauber-medium",
        (RING, PRESS),
        _ring,
        Hold.TOUCH,
    ),
    Family(
        "press-drop",
        phrase("Pressed drop"),
        phrase("down to the belly, then off to a point"),
        "dabs",
        "round-5",
        (
            Parameter("length_mm", phrase("length"), 16, 2, 100),
            Parameter("press", phrase("greatest pressure"), 0.95, 0.06, 1.0, phrase("of full")),
        ),
        _drop,
        Hold.TOUCH,
    ),
    Family(
        "tapering-line",
        phrase("Tapering line"),
        phrase("from the belly to the tip"),
        "lines",
        "round-3",
        (LENGTH, BOW, PRESS),
        _tapering,
        Hold.TOUCH,
    ),
    Family(
        "graded-dots",
        phrase("Graded dots"),
        phrase("one after another, each a little larger, from one load"),
        "dabs",
        "round-4",
        (_WAY, BOW, Parameter("press", phrase("pressure at the start"), 0.1, 0.06, 1.0, phrase("of full")), GROW),
        _graded,
        Hold.TOUCH,
    ),
    Family(
        "pointed-star",
        phrase("Star of points"),
        phrase("drawn out from the middle"),
        "dabs",
        "round-2",
        (RING, POINTS, PRESS),
        _star,
        Hold.TOUCH,
    ),
    Family(
        "snow-arm",
        phrase("Snow arm"),
        phrase("an arm with pairs of barbs"),
        "lines",
        "liner-1",
        (
            Parameter("length_mm", phrase("length"), 34, 4, 200),
            BARBS,
            BARB,
            Parameter("press", phrase("pressure"), 0.45, 0.06, 1.0, phrase("of full")),
        ),
        _snow_arm,
        Hold.TOUCH,
    ),
    Family(
        "swirl-in",
        phrase("Swirl"),
        phrase("begins where it is told to, and winds in"),
        "lines",
        "round-3",
        (
            Parameter("radius_mm", phrase("radius"), 14, 2, 100),
            Parameter("turns", phrase("turns"), 1.6, 0.3, 4, "×"),
            PRESS,
        ),
        _swirl,
        Hold.TOUCH,
    ),
)
