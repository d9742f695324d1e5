"""Lines and swooshes: pressure and the angle of the chisel make them thin and thick."""

from __future__ import annotations

import math

import numpy as np

from pennello.lay.families.family import HEAVY, LENGTH, PRESS, WIGGLE_MM, WIGGLES, Family, Parameter, Values
from pennello.lay.families.hold import Hold
from pennello.lay.families.petals import LIFT
from pennello.lay.families.shapes import ramp, smooth, swell
from pennello.lay.stroke import Exit, Key, Nib, NibMode, Stroke, Wiggle
from pennello.path.cubic import CubicPath, line
from pennello.phrases import phrase

ANGLE = Parameter("angle_deg", phrase("angle of the chisel"), 68, 0, 180, "°")
TURNS = Parameter("turns", phrase("turns"), 1.6, 0.3, 4, "×")
RADIUS = Parameter("radius_mm", phrase("radius"), 14, 2, 100)


def _habit(values: Values, light: float = 0.08) -> tuple[Key, ...]:
    """Return pressure from thin to thick, or from thick to the tip."""
    return ramp(values["press"], light) if values["heavy"] >= 0.5 else ramp(light, values["press"])


def _comma(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.2, -bow), (long * 0.7, -bow), (long, 0.0)))
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), pressures=_habit(values))


def _s(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.35, -2 * bow), (long * 0.65, 2 * bow), (long, 0.0)))
    return Stroke(path, Nib(NibMode.FIXED, values["angle_deg"]), pressures=swell(0.12, values["press"]))


def _swoosh(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.3, -bow * 2.2), (long * 0.55, bow * 1.6), (long, -bow * 0.6)))
    nib = Nib(NibMode.FIXED, values["angle_deg"])
    return Stroke(path, nib, 0.6, lift_mm=values["lift_mm"], exit=Exit.A)


def _s_base(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = smooth(((0, 0), (long * 0.25, -bow), (long * 0.5, 0), (long * 0.75, bow), (long, 0)))
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), 0.6)


def _teardrop(values: Values) -> Stroke:
    return Stroke(line((0, 0), (values["length_mm"], 0)), Nib(NibMode.FOLLOWING, 90.0), pressures=_habit(values, 0.05))


def _thin_thick(values: Values) -> Stroke:
    pressures = swell(0.06, values["press"])
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long / 3, -bow), (2 * long / 3, -bow), (long, 0.0)))
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), pressures=pressures)


def _swirl(values: Values) -> Stroke:
    angles = np.linspace(0, 2 * math.pi * values["turns"], max(6, round(8 * values["turns"])))
    radius = values["radius_mm"] * (1 - angles / angles[-1] * 0.88)
    points = [
        (float(r * math.cos(a)) - values["radius_mm"], float(r * math.sin(a)))
        for r, a in zip(radius, angles, strict=True)
    ]
    return Stroke(smooth(points), Nib(NibMode.FOLLOWING, 90.0), pressures=_habit(values))


def _flick(values: Values) -> Stroke:
    long = values["length_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.3, 0.0), (long * 0.7, -long * 0.12), (long, -long * 0.3)))
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), values["press"], lift_mm=min(0.7 * long, 200), exit=Exit.EDGE)


def _vine(values: Values) -> Stroke:
    wiggle = Wiggle(values["wiggles"], values["wiggle_mm"])
    path = line((0, 0), (values["length_mm"], 0))
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), pressures=ramp(values["press"], 0.06), wiggle=wiggle)


def _whisker(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.3, -bow), (long * 0.7, -bow), (long, bow * 0.4)))
    return Stroke(path, Nib(NibMode.FOLLOWING, 90.0), pressures=ramp(values["press"], 0.05))


BOW = Parameter("bow_mm", phrase("bow"), 8, 0, 100)
THIN = Parameter("press", phrase("greatest pressure"), 0.5, 0.06, 1.0, phrase("of full"))
LINES = (
    Family(
        "comma",
        phrase("Comma"),
        phrase("a short curve, thick at one end"),
        "lines",
        "round-5",
        (LENGTH, BOW, PRESS, HEAVY),
        _comma,
    ),
    Family(
        "s-stroke",
        phrase("S stroke"),
        phrase("hairline, broad, hairline"),
        "lines",
        "flat-1-2",
        (LENGTH, BOW, ANGLE, PRESS),
        _s,
    ),
    Family(
        "swoosh",
        phrase("Swoosh"),
        phrase("long, the chisel held, a flick at the end"),
        "lines",
        "flat-1",
        (LENGTH, BOW, ANGLE, LIFT),
        _swoosh,
    ),
    Family(
        "s-base",
        phrase("S base"),
        phrase("a broad S to build on"),
        "fields",
        "sponge-block",
        (LENGTH, BOW),
        _s_base,
        hold=Hold.SQUARE,
    ),
    Family(
        "teardrop",
        phrase("Teardrop"),
        phrase("heavy to point, or point to heavy"),
        "lines",
        "round-4",
        (LENGTH, PRESS, HEAVY),
        _teardrop,
    ),
    Family(
        "thin-thick-thin",
        phrase("Thin-thick-thin line"),
        phrase("tip, belly, tip"),
        "lines",
        "round-3",
        (LENGTH, BOW, PRESS),
        _thin_thick,
    ),
    Family(
        "swirl",
        phrase("Swirl"),
        phrase("a line that winds in"),
        "lines",
        "round-3",
        (RADIUS, TURNS, PRESS, HEAVY),
        _swirl,
    ),
    Family(
        "flick", phrase("Flick"), phrase("off the skin while it moves"), "lines", "round-3", (LENGTH, PRESS), _flick
    ),
    Family(
        "vine",
        phrase("Vine"),
        phrase("a wavy line that thins"),
        "lines",
        "liner-1",
        (LENGTH, WIGGLES, WIGGLE_MM, THIN),
        _vine,
    ),
    Family("whisker", phrase("Whisker"), phrase("a bowed hair"), "lines", "liner-1", (LENGTH, BOW, THIN), _whisker),
)
