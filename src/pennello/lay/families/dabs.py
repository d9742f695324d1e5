"""Leaves, sponges, dabs and small marks."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise

from pennello.lay.families.family import LENGTH, PRESS, SPREAD, WIGGLE_MM, WIGGLES, Family, Parameter, Values
from pennello.lay.families.hold import Hold
from pennello.lay.families.shapes import straight, swell
from pennello.lay.stroke import Exit, Key, Nib, NibMode, Over, PartKey, Pats, Stroke, Wiggle
from pennello.path.cubic import CubicPath, Point, line
from pennello.phrases import phrase

_STILL = CubicPath(((0.0, 0.0),) * 4)
TURN = Parameter("turn_deg", phrase("turn"), 60, 0, 360, "°")
ROWS = Parameter("rows", phrase("rows"), 3, 1, 12, "×")
ARMS = Parameter("arms", phrase("arms"), 5, 3, 12, "×")
RADIUS = Parameter("radius_mm", phrase("radius"), 6, 1, 80)


def _chisel_leaf(values: Values) -> Stroke:
    """Chisel, push, chisel: the edge runs along its way, turns broad, and runs along it again."""
    long, bow = values["length_mm"], values["spread_mm"] / 6
    path = CubicPath(((0.0, 0.0), (long * 0.3, -bow), (long * 0.7, -bow), (long, 0.0)))
    keys = (Key(0.0, 8.0), Key(0.45, 90.0), Key(1.0, 8.0))
    return Stroke(path, Nib(NibMode.KEYED, keys=keys), pressures=swell(0.3, values["press"]))


def _wiggle_leaf(values: Values) -> Stroke:
    """About three wiggles out, a flick, two or three back: here one side of it, wide first."""
    wiggle = Wiggle(values["wiggles"], values["wiggle_mm"])
    nib = Nib(NibMode.KEYED, keys=(Key(0.0, 80.0), Key(0.7, 60.0), Key(1.0, 8.0)))
    lift = values["length_mm"] * 0.25
    return Stroke(line((0, 0), (values["length_mm"], 0)), nib, values["press"], wiggle, lift_mm=lift, exit=Exit.A)


def _sponge_sweep(values: Values) -> Stroke:
    return Stroke(line((0, 0), (values["length_mm"], 0)), Nib(NibMode.FOLLOWING, 90.0), values["press"])


def _sponge_press(values: Values) -> Stroke:
    return Stroke(_STILL, Nib(NibMode.FIXED, 0.0), values["press"])


def _sponge_roll(values: Values) -> Stroke:
    """Rolled over from corner A to corner B where it stands: the far stripe shows only after the roll."""
    parts = (PartKey(0.0, 0.0, 0.3), PartKey(0.5, 0.3, 0.7), PartKey(1.0, 0.7, 1.0))
    return Stroke(_STILL, Nib(NibMode.FIXED, 0.0), values["press"], parts=parts)


def _sponge_pinch(values: Values) -> Stroke:
    """Broad, pinched to a part of its width on the way, and let open again."""
    pinched = min(max(values["pinched"], 0.05), 1.0)
    low, high = 0.5 - pinched / 2, 0.5 + pinched / 2
    parts = (PartKey(0.0, 0.0, 1.0), PartKey(0.4, low, high), PartKey(0.6, low, high), PartKey(1.0, 0.0, 1.0))
    return Stroke(line((0, 0), (values["length_mm"], 0)), Nib(NibMode.FOLLOWING, 90.0), values["press"], parts=parts)


def _pats(values: Values) -> Stroke:
    """Set down side by side along a way."""
    pats = Pats(values["overlap"], values["turn_deg"])
    bow = values["spread_mm"]
    path = CubicPath(
        ((0.0, 0.0), (values["length_mm"] / 3, -bow), (values["length_mm"] * 2 / 3, -bow), (values["length_mm"], 0.0))
    )
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), values["press"], pats=pats)


def _field(values: Values) -> Stroke:
    """Set down over a place until it is covered: round, as wide and as tall as wanted."""
    half, tall = values["length_mm"] / 2, values["spread_mm"] / 2
    round_, k = [], 0.5523
    for (ax, ay), (bx, by) in pairwise([(1, 0), (0, 1), (-1, 0), (0, -1), (1, 0)]):
        round_ += [(ax + k * bx, ay + k * by), (bx + k * ax, by + k * ay), (bx, by)]
    points: list[Point] = [(half * x, tall * y) for x, y in [(1, 0), *round_]]
    pats = Pats(values["overlap"], values["turn_deg"], Over.PLACE)
    return Stroke(CubicPath(tuple(points)), Nib(NibMode.FIXED, 0.0), values["press"], pats=pats)


def _sponge_pivot(values: Values) -> Stroke:
    return Stroke(_STILL, Nib(NibMode.PIVOTING, 0.0, values["turn_deg"], 0.0), values["press"])


def _fur(values: Values) -> Stroke:
    """The edge set down lightly a few times, each turned a little, with skin between: a tuft."""
    press = min(max(0.5 * values["press"], 0.08), 0.5)
    return Stroke(line((0, 0), (values["length_mm"], 0)), Nib(NibMode.FOLLOWING, 83.0), press, pats=Pats(0.0, 6.0))


def _fill(values: Values) -> Stroke:
    """Back and forth, row beside row."""
    long, apart = values["length_mm"], values["step_mm"]
    points: list[Point] = []
    for row in range(round(values["rows"])):
        ends = (0.0, long) if row % 2 == 0 else (long, 0.0)
        points += [(ends[0], row * apart), (ends[1], row * apart)]
    return Stroke(straight(points), Nib(NibMode.FIXED, 90.0), values["press"])


def _dot(values: Values) -> Stroke:
    return Stroke(_STILL, Nib(NibMode.PIVOTING, 0.0, 180.0, 0.5), values["press"])


def _star(values: Values) -> Stroke:
    """Out and in along each arm without leaving the skin."""

    arms, radius = round(values["arms"]), values["radius_mm"]
    points: list[Point] = [(0.0, 0.0)]
    for arm in range(arms):
        angle = 2 * math.pi * arm / arms - math.pi / 2
        points += [(radius * math.cos(angle), radius * math.sin(angle)), (0.0, 0.0)]
    keys = tuple(Key(k / (2 * arms), values["press"] if k % 2 == 0 else 0.06) for k in range(2 * arms + 1))
    return Stroke(straight(points), Nib(NibMode.FOLLOWING, 90.0), pressures=keys)


STEP = Parameter("step_mm", phrase("from row to row"), 14, 0.5, 80)
PINCHED = Parameter("pinched", phrase("part of it that touches"), 0.4, 0.05, 1.0, phrase("of its width"))
OVERLAP = Parameter("overlap", phrase("overlap"), 0.35, 0.0, 0.6, phrase("of its size"))
PAT_TURN = Parameter("turn_deg", phrase("turned to and fro by"), 20, 0, 180, "°")
DAB = Parameter("length_mm", phrase("length"), 7, 1, 60)
DABS = (
    Family(
        "chisel-leaf",
        phrase("Chisel leaf"),
        phrase("chisel, push, chisel"),
        "leaves",
        "flat-1-2",
        (LENGTH, SPREAD, PRESS),
        _chisel_leaf,
    ),
    Family(
        "wiggle-leaf",
        phrase("Wiggle leaf"),
        phrase("wiggles out, then a flick"),
        "leaves",
        "flat-3-4",
        (LENGTH, WIGGLES, WIGGLE_MM, PRESS),
        _wiggle_leaf,
    ),
    Family(
        "sponge-sweep",
        phrase("Sponge sweep"),
        phrase("one broad sweep"),
        "fields",
        "sponge-block",
        (LENGTH, PRESS),
        _sponge_sweep,
        hold=Hold.SQUARE,
    ),
    Family(
        "sponge-press",
        phrase("Sponge press"),
        phrase("set down and lifted"),
        "fields",
        "sponge-petal",
        (PRESS,),
        _sponge_press,
    ),
    Family(
        "sponge-pats",
        phrase("Sponge pats"),
        phrase("set down side by side along a way"),
        "fields",
        "sponge-petal",
        (replace(LENGTH, default=70), SPREAD, OVERLAP, PAT_TURN, PRESS),
        _pats,
    ),
    Family(
        "sponge-field",
        phrase("Patted field"),
        phrase("set down until a place is covered"),
        "fields",
        "sponge-petal",
        (replace(LENGTH, default=80), replace(SPREAD, default=60), OVERLAP, PAT_TURN, PRESS),
        _field,
    ),
    Family(
        "sponge-roll",
        phrase("Sponge roll"),
        phrase("from edge to edge"),
        "fields",
        "sponge-block",
        (PRESS,),
        _sponge_roll,
    ),
    Family(
        "sponge-pinch",
        phrase("Sponge pinch"),
        phrase("pinched on the way, and let open again"),
        "fields",
        "sponge-block",
        (LENGTH, PINCHED, PRESS),
        _sponge_pinch,
        hold=Hold.SQUARE,
    ),
    Family(
        "sponge-pivot",
        phrase("Sponge pivot"),
        phrase("turned on a corner"),
        "fields",
        "sponge-petal",
        (TURN, PRESS),
        _sponge_pivot,
    ),
    Family(
        "dauber-disc",
        phrase("Dauber disc"),
        phrase("a disc, set down and lifted"),
        "dabs",
        "dauber-medium",
        (PRESS,),
        _sponge_press,
    ),
    Family(
        "fur-dab",
        phrase("Fur dab"),
        phrase("a tuft: the edge set down lightly a few times"),
        "dabs",
        "flat-1-2",
        (DAB, PRESS),
        _fur,
    ),
    Family(
        "fill",
        phrase("Fill strokes"),
        phrase("back and forth, row beside row"),
        "fields",
        "flat-3-4",
        (LENGTH, ROWS, STEP, PRESS),
        _fill,
        hold=Hold.SQUARE,
    ),
    Family("dot", phrase("Dot"), phrase("the tip, turned in place"), "dabs", "round-3", (PRESS,), _dot),
    Family(
        "star", phrase("Star"), phrase("out and in along each arm"), "dabs", "liner-1", (RADIUS, ARMS, PRESS), _star
    ),
    Family(
        "starburst",
        phrase("Starburst"),
        phrase("many thin arms; thick in the middle, where all of them meet"),
        "dabs",
        "round-2",
        (RADIUS, Parameter("arms", phrase("arms"), 9, 5, 24, "×"), PRESS),
        _star,
    ),
)
