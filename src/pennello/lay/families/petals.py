"""Petals, scales and what opens like them: the chisel is led round a curve."""

from __future__ import annotations

from pennello.lay.families.family import LENGTH, OUTWARD, PRESS, SPREAD, WIGGLE_MM, WIGGLES, Family, Parameter, Values
from pennello.lay.families.shapes import arc, arch, moved, smooth, swell
from pennello.lay.stroke import Exit, Nib, NibMode, Stroke, Wiggle
from pennello.path.cubic import CubicPath, line
from pennello.phrases import phrase

HEIGHT = Parameter("height_mm", phrase("height"), 20, 2, 150)
LIFT = Parameter("lift_mm", phrase("lift at the end"), 8, 0, 100)


def _out(values: Values) -> Nib:
    """Return a chisel square to its way, with edge A outside on a path that turns right, or inside."""
    return Nib(NibMode.FOLLOWING, 90.0 if values["outward"] >= 0.5 else -90.0)


def _fingernail(values: Values) -> Stroke:
    return Stroke(arch(values["spread_mm"], values["height_mm"]), _out(values))


def _bucket(values: Values) -> Stroke:
    path = arch(values["spread_mm"], -values["height_mm"])
    return Stroke(path, Nib(NibMode.FOLLOWING, -90.0 if values["outward"] >= 0.5 else 90.0))


def _wiggle_petal(values: Values) -> Stroke:
    wiggle = Wiggle(values["wiggles"], values["wiggle_mm"])
    return Stroke(arch(values["spread_mm"], values["height_mm"]), _out(values), wiggle=wiggle)


def _c(values: Values) -> Stroke:
    half = values["turn_deg"] / 2
    path = moved(arc(values["radius_mm"], 90 + 90 - half, 90 + 90 + half), 0, 0)
    return Stroke(path, _out(values), pressures=swell(0.2, values["press"]), lift_mm=values["lift_mm"], exit=Exit.A)


def _scale(values: Values) -> Stroke:
    return Stroke(arch(values["spread_mm"], values["height_mm"]), _out(values), lift_mm=values["lift_mm"], exit=Exit.A)


def _press_petal(values: Values) -> Stroke:
    wiggle = Wiggle(2, values["wiggle_mm"])
    return Stroke(line((0, 0), (values["length_mm"], 0)), Nib(NibMode.FOLLOWING, 0.0), values["press"], wiggle)


def _wedge(values: Values) -> Stroke:
    nib = Nib(NibMode.PIVOTING, 90 - values["turn_deg"] / 2, 90 + values["turn_deg"] / 2, 1.0)
    return Stroke(CubicPath(((0.0, 0.0),) * 4), nib)


def _heart_half(values: Values) -> Stroke:
    wide, tall = values["spread_mm"], values["height_mm"]
    path = CubicPath(((0.0, 0.0), (0.0, -tall * 0.7), (wide, -tall * 0.8), (wide, -tall * 0.2), *_to_tip(wide, tall)))
    return Stroke(path, _out(values), lift_mm=values["lift_mm"], exit=Exit.A)


def _to_tip(wide: float, tall: float) -> tuple[tuple[float, float], ...]:
    return ((wide, tall * 0.2), (wide * 0.45, tall * 0.55), (0.0, tall * 0.9))


def _wing_scoop(values: Values) -> Stroke:
    wide, tall = values["spread_mm"], values["height_mm"]
    path = CubicPath(((0.0, 0.0), (wide * 0.2, -tall), (wide * 0.8, -tall * 1.1), (wide, -tall * 0.2)))
    return Stroke(path, _out(values), lift_mm=values["lift_mm"], exit=Exit.A)


def _peak(values: Values) -> Stroke:
    wide, tall = values["spread_mm"], values["height_mm"]
    path = smooth(((0, 0), (wide * 0.3, -tall * 0.55), (wide * 0.5, -tall), (wide * 0.7, -tall * 0.55), (wide, 0)))
    return Stroke(path, Nib(NibMode.FIXED, 0.0), pressures=swell(values["press"], 0.15))


def _fin(values: Values) -> Stroke:
    long, deep = values["length_mm"], values["spread_mm"] / 2
    path = smooth(((0, 0), (long * 0.25, -deep), (long * 0.5, 0), (long * 0.75, -deep * 0.8), (long, 0)))
    return Stroke(path, Nib(NibMode.FIXED, 70.0), lift_mm=values["lift_mm"], exit=Exit.A)


ARCHED = (SPREAD, HEIGHT, OUTWARD)
TURN = Parameter("turn_deg", phrase("turn"), 150, 10, 350, "°")
RADIUS = Parameter("radius_mm", phrase("radius"), 14, 2, 120)

PETALS = (
    Family(
        "inverted-u",
        phrase("Fingernail petal"),
        phrase("up, over and down: an inverted U"),
        "petals",
        "flat-3-4",
        ARCHED,
        _fingernail,
    ),
    Family("bucket", phrase("Bucket"), phrase("down, round and up: a U"), "petals", "flat-3-4", ARCHED, _bucket),
    Family(
        "wiggle-petal",
        phrase("Wiggle petal"),
        phrase("an arch with a wavy rim"),
        "petals",
        "flat-1",
        (*ARCHED, WIGGLES, WIGGLE_MM),
        _wiggle_petal,
    ),
    Family(
        "c-stroke",
        phrase("C stroke"),
        phrase("thin, thick, thin round a C"),
        "petals",
        "flat-1-2",
        (RADIUS, TURN, PRESS, OUTWARD, LIFT),
        _c,
    ),
    Family(
        "scale",
        phrase("Scale"),
        phrase("a small U that ends on a corner"),
        "petals",
        "flat-1-2",
        (*ARCHED, LIFT),
        _scale,
    ),
    Family(
        "press-petal",
        phrase("Press petal"),
        phrase("tip first, then the belly, a small wiggle for width"),
        "petals",
        "petal-brush",
        (Parameter("length_mm", phrase("length of the way"), 3, 0.5, 40), PRESS, WIGGLE_MM),
        _press_petal,
    ),
    Family("wedge", phrase("Wedge"), phrase("turned on its heel: a slice"), "petals", "flat-3-4", (TURN,), _wedge),
    Family(
        "wing-scoop",
        phrase("Wing scoop"),
        phrase("out, over and in, ending on a corner"),
        "petals",
        "flat-1",
        (*ARCHED, LIFT),
        _wing_scoop,
    ),
    Family(
        "heart-half",
        phrase("Heart half"),
        phrase("up and out, then down at an angle"),
        "petals",
        "flat-3-4",
        (*ARCHED, LIFT),
        _heart_half,
    ),
    Family(
        "peak",
        phrase("Peak"),
        phrase("pulled up to a point and down"),
        "petals",
        "flat-3-4",
        (SPREAD, HEIGHT, PRESS),
        _peak,
    ),
    Family("fin", phrase("Fin"), phrase("out, in, out, in"), "petals", "flat-3-4", (LENGTH, SPREAD, LIFT), _fin),
)
