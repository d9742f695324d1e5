"""Hearts, stars, snow, bubbles, waves, lips, frames and masks, swirls and dots. Common practice. Up is -y, mm."""

from __future__ import annotations

import math
from random import Random

import numpy as np

from pennello.lay.families.family import Parameter
from pennello.lay.families.shapes import arc, straight
from pennello.lay.stroke import Key, Nib, NibMode, PartKey, Stroke
from pennello.motif.grammar import (
    both,
    directions,
    dot,
    dots_words,
    graded,
    in_triangle,
    outward,
    stroke,
    swirl_words,
    upright,
)
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import HEART, LINE, LIP, SEA, Check
from pennello.motif.spacing import spaced
from pennello.path.cubic import CubicPath, Point
from pennello.phrases import phrase, plural

ARMS = Parameter("arms", phrase("long arms"), 6, 3, 12, "×")
LONG = Parameter("long_mm", phrase("length of a long arm"), 34, 8, 150)
SHORT = Parameter("short", phrase("short arms between, against long ones, 0 for none"), 0.5, 0, 0.9, phrase("of long"))
BARBS = Parameter("barbs", phrase("pairs of barbs on a long arm"), 2, 0, 4, "×")
BARB_AT = Parameter("barb_at", phrase("where the first barb stands on its arm"), 0.45, 0.15, 0.85, phrase("of the arm"))
BARB = Parameter("barb", phrase("length of a barb"), 0.27, 0.05, 0.6, phrase("of the arm"))
PRESS = Parameter("press", phrase("thickness of the lines: pressure"), 0.45, 0.06, 1, phrase("of full"))
TO_POINT = Parameter("height_mm", phrase("from the lobes to the point"), 24, 6, 120)
SIZE = Parameter("size", phrase("size of the way, not of the brush"), 1, 0.5, 3, "×")
STARS = Parameter("stars", phrase("stars"), 5, 0, 20, "×")
SEED = Parameter("seed", phrase("another number, other places"), 1, 1, 99, "×")
BUBBLES = Parameter("bubbles", phrase("bubbles"), 6, 1, 30, "×")
RADIUS = Parameter("radius_mm", phrase("radius"), 14, 3, 80)
TURNS = Parameter("turns", phrase("turns"), 1.5, 0.3, 4, "×")
DROPS = Parameter("drops", phrase("teardrops along it"), 5, 0, 20, "×")
DOTS = Parameter("dots", phrase("dots"), 7, 1, 40, "×")
STEP = Parameter("step_mm", phrase("from dot to dot"), 6, 1, 60)
FIRST = Parameter("first", phrase("pressure of the first dot"), 0.9, 0.1, 1, phrase("of full"))
LAST = Parameter("last", phrase("pressure of the last dot"), 0.2, 0.1, 1, phrase("of full"))
EYES = Parameter("apart_mm", phrase("from pupil to pupil"), 62, 40, 80)
HOLE = Parameter("hole_mm", phrase("height of the open eye with its lids"), 24, 10, 50)


def _heart(values: Values, prints: Prints) -> Made:
    half = stroke("heart-lobe", brush_mm=prints["half"], height_mm=values["height_mm"])
    return Made(
        (Piece("half", half), Piece("half", at(half, mirrored=True), 1)), (phrase("two halves that meet at the point"),)
    )


def _snow(values: Values, _: Prints) -> Made:
    count, long, press = round(values["arms"]), values["long_mm"], values["press"]
    arm = _arm(long, round(values["barbs"]), values["barb_at"], values["barb"], press)
    pieces = [Piece("arm", at(arm, turn_deg=-90 + n * 360 / count)) for n in range(count)]
    if values["short"] > 0:
        short = _arm(max(long * values["short"], 4), 1, 0.6, values["barb"] * 0.8, press)
        pieces += [Piece("arm", at(short, turn_deg=-90 + (n + 0.5) * 360 / count), 1) for n in range(count)]
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "{count} arm of {long:.0f} mm, short ones between",
                "{count} arms of {long:.0f} mm, short ones between",
                long=long,
            ),
        ),
    )


def _arm(long: float, pairs: int, first: float, barb: float, press: float) -> Stroke:
    """An arm drawn in one go: out, and aside at each barb."""
    points: list[Point] = [(0.0, 0.0)]
    for number in range(pairs):
        x = long * (first + (0.88 - first) * number / max(pairs - 1, 1)) if pairs > 1 else long * first
        size = long * barb * (1 - 0.3 * number / max(pairs, 1))
        reach = (x + size * 0.6, size * 0.8)
        points += [(x, 0.0), (reach[0], -reach[1]), (x, 0.0), reach, (x, 0.0)]
    points.append((long, 0.0))
    return Stroke(straight(points), Nib(NibMode.FOLLOWING, 90.0), press)


def _radial(values: Values, prints: Prints) -> Made:
    """Drops drawn in to the middle, smaller ones between, arcs of dots round their heads."""
    count, long = round(values["arms"]), values["long_mm"]
    drop = stroke("press-drop", length_mm=long * 0.62, press=1.0)
    small = stroke("press-drop", length_mm=long * 0.42, press=0.7)
    pieces = [
        outward("arm", at(drop, long * 0.62, turn_deg=180.0), long * 0.16, turn - 90) for turn in directions(count, 360)
    ]
    half = directions(count, 360, 180 / count)
    pieces += [outward("arm", at(small, long * 0.42, turn_deg=180.0), long * 0.3, turn - 90, 1) for turn in half]
    for turn in directions(count, 360):
        for away, press in ((0.0, 0.8), (-9.0, 0.45), (9.0, 0.45)):
            pieces.append(outward("dot", dot(press), long * (0.96 if away == 0 else 0.9), turn - 90 + away, 2))
    pieces += [outward("dot", dot(0.35), long * 0.84, turn - 90, 2) for turn in half]
    pieces.append(Piece("dot", dot(1.0), 2))
    space = spaced("arm", count, 2 * math.pi * long * 0.7 / count, prints["arm"] * 1.35)
    return Made(
        tuple(pieces),
        (
            plural(
                2 * count,
                "{count} drop drawn in to the middle, {count_2} dots round them",
                "{count} drops drawn in to the middle, {count_2} dots round them",
                count_2=4 * count,
            ),
        ),
        (space,),
    )


def _moon(values: Values, _: Prints) -> Made:
    """A moon of one upright crescent, stars of five points and dots about it."""
    size, count = values["size"], round(values["stars"])
    moon = at(stroke("crescent", spread_mm=34 * size, height_mm=17 * size), 0.0, -4.0 * size, 72.0)
    pieces = [Piece("moon", moon)]
    by_chance = Random(round(values["seed"]))
    for n in range(count):
        turn = -75.0 + 150.0 * (n + 0.5) / max(count, 1) + by_chance.uniform(-8, 8)
        away = (26.0 if n % 2 else 15.0) * size + by_chance.uniform(-2, 2) * size
        star = stroke("pointed-star", radius_mm=(5.5 if n % 2 else 4.0) * size, points=5, press=0.5)
        x, y = 8 * size + away * math.cos(math.radians(turn)), away * math.sin(math.radians(turn))
        pieces.append(Piece("star", at(star, x, y, by_chance.uniform(-20, 20)), 1))
        far = away + 9 * size
        x, y = 8 * size + far * math.cos(math.radians(turn + 14)), far * math.sin(math.radians(turn + 14))
        pieces.append(Piece("star", dot(0.3 + 0.3 * (n % 2), x, y), 1))
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "a moon, {count} star of five points, as many dots",
                "a moon, {count} stars of five points, as many dots",
            ),
        ),
    )


def _bubbles(values: Values, _: Prints) -> Made:
    """Rings of a dauber's edge, small ones of a round, in each a light at the upper left and a dot across it."""
    count, size = round(values["bubbles"]), values["size"]
    by_chance = Random(round(values["seed"]))
    pieces: list[Piece] = []
    placed: list[tuple[float, float, float]] = []
    for n in range(count):
        radius = max((11.0 if n == 0 else by_chance.uniform(4.0, 8.5)) * size, 1.5)
        x, y = _free(by_chance, placed, radius, size)
        placed.append((x, y, radius))
        ring = stroke("dauber-ring", radius_mm=radius, press=1.0)
        pieces.append(Piece("ring", at(ring, x, y)))
        outline = CubicPath(tuple((x + a, y + b) for a, b in arc(radius, -90.0, 270.0).points_mm))
        thin = Stroke(outline, Nib(NibMode.FOLLOWING, 90.0), pressures=(Key(0, 0.5), Key(0.5, 0.2), Key(1, 0.5)))
        pieces.append(Piece("light", thin, 1))
        light = stroke("thin-thick-thin", length_mm=radius * 0.95, bow_mm=radius * 0.26, press=0.7)
        pieces.append(Piece("light", at(at(light, -radius * 0.47, -radius * 0.5), x, y, -45.0), 1))
        pieces.append(Piece("light", dot(0.4, x + radius * 0.45, y + radius * 0.45), 1))
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "{count} bubble, each a ring, a light and a dot",
                "{count} bubbles, each a ring, a light and a dot",
            ),
        ),
    )


def _free(
    by_chance: Random, placed: list[tuple[float, float, float]], radius: float, size: float
) -> tuple[float, float]:
    """Return a place that touches no other, higher up the more there are: bubbles rise."""
    if not placed:
        return 0.0, 0.0
    for number in range(200):
        reach = (10.0 + 0.2 * number) * size
        x, y = by_chance.uniform(-reach, reach), -by_chance.uniform(-0.3, 2.2) * reach
        if all(math.hypot(x - a, y - b) > radius + other + 3.0 * size for a, b, other in placed):
            return x, y
    return 0.0, -len(placed) * 25.0 * size


def _burst(values: Values, _: Prints) -> Made:
    """A large burst, two small ones and dots: a glint."""
    radius, arms = values["radius_mm"], round(values["arms"])
    pieces = [Piece("burst", stroke("starburst", radius_mm=radius, arms=arms, press=0.6))]
    for x, y, part in ((1.25, -0.75, 0.42), (-1.1, 0.8, 0.34)):
        small = stroke("starburst", radius_mm=max(radius * part, 1), arms=max(arms - 3, 3), press=0.5)
        pieces.append(Piece("burst", at(small, radius * x, radius * y)))
    for x, y, press in ((1.1, 0.6, 0.6), (-0.9, -0.9, 0.5), (0.2, 1.35, 0.35), (-1.5, 0.1, 0.3)):
        pieces.append(Piece("burst", dot(press, radius * x, radius * y)))
    return Made(
        tuple(pieces),
        (
            plural(
                arms,
                "a burst of {arms} arm, two small ones, four dots",
                "a burst of {arms} arms, two small ones, four dots",
                arms=arms,
            ),
        ),
    )


def _swirl(values: Values, _: Prints) -> Made:
    """A line that winds in; drops stand off its back, each smaller than the one before, their points along it."""
    radius, drops = values["radius_mm"], round(values["drops"])
    swirl = stroke("swirl-in", radius_mm=radius, turns=values["turns"])
    pieces = [Piece("swirl", swirl)]
    for n in range(drops):
        back = 24.0 + 34.0 * n
        out = radius * (1.34 - 0.03 * n)
        x, y = radius - out * math.cos(math.radians(back)), -out * math.sin(math.radians(back))
        drop = stroke("press-drop", length_mm=max(radius * (0.72 - 0.08 * n), 3), press=0.95 - 0.1 * min(n, 6))
        pieces.append(Piece("drop", at(drop, x, y, back + 118.0), 1))
    return Made(
        tuple(pieces),
        (swirl_words(values["turns"], drops),),
    )


def _dots(values: Values, _: Prints) -> Made:
    """Dots that grow smaller: a row, a bow, or a triangle."""
    count, step = round(values["dots"]), values["step_mm"]
    middle, sag = (count - 1) / 2, values["bow_mm"]
    bow = [((n - middle) * step, sag * (((n - middle) / max(middle, 1)) ** 2 - 1)) for n in range(count)]
    pieces = graded(in_triangle(count, step) if values["triangle"] >= 0.5 else bow, values["first"], values["last"])
    return Made(
        tuple(pieces),
        (dots_words(count, step),),
    )


def _lips(values: Values, _: Prints) -> Made:
    """The bow first, then the lower lip; light or dark outside, the centre left bare if so wished."""
    wide, tall = values["wide_mm"] / 2, values["tall_mm"]
    side = 1.0 if values["dark_outside"] < 0.5 else -1.0
    gap = values["bare_mm"] / 2
    end = wide - 0.5
    upper = ((-gap, -tall * 0.46), (-wide * 0.2, -tall * 0.66), (-wide * 0.66, -tall * 0.3), (-end, -0.4))
    lower = ((-gap, tall * 0.56), (-wide * 0.35, tall * 0.56), (-wide * 0.7, tall * 0.26), (-end, 0.4))
    pieces = []
    for points, turn, first, row in ((upper, 1.0, 82.0, 0), (lower, -1.0, 90.0, 1)):
        keys = (Key(0, first), Key(0.4, 72.0), Key(0.8, 30.0), Key(1, 2.0))
        nib = Nib(NibMode.KEYED, keys=tuple(Key(key.at, -turn * side * key.value) for key in keys))
        pressures = (Key(0, 0.5), Key(0.5, 0.5), Key(1, 0.06))
        parts = (PartKey(0, 0.0, 1.0), PartKey(0.6, 0.0, 1.0), PartKey(1, 0.42, 0.58))
        pieces += both("lip", Stroke(CubicPath(points), nib, pressures=pressures, parts=parts), row)
    return Made(
        tuple(pieces),
        (phrase("the bow first, then the lower lip, {wide:.0f} mm from corner to corner", wide=2 * wide),),
    )


def _eye_frame(values: Values, prints: Prints) -> Made:
    """Petals that radiate from an eye, the longest at the temple, a dot before each."""
    count, wide, tall = round(values["petals"]), values["wide_mm"] / 2, values["hole_mm"] / 2
    pieces = []
    for n, angle in enumerate(np.linspace(-172.0, 56.0, count)):
        a = math.radians(float(angle))
        x, y = (wide + 2.0) * math.cos(a), (tall + 3.0) * math.sin(a)
        out = math.degrees(math.atan2(y / (tall + 3.0) ** 2, x / (wide + 2.0) ** 2))
        much = 0.62 + 0.38 * math.cos(math.radians(float(angle) + 30.0))
        long = values["length_mm"] * max(much, 0.4)
        petal = stroke("one-stroke-leaf", length_mm=long, bow_mm=long * 0.2, broad_deg=44)
        pieces.append(Piece("petal", at(petal, x, y, out), n % 2))
        far = long + 4.0
        place = (x + far * math.cos(math.radians(out)), y + far * math.sin(math.radians(out)))
        pieces.append(Piece("dot", dot(0.25 + 0.45 * max(much, 0.0), *place), 2))
    around = math.pi * (wide + tall) * 225 / 360
    space = spaced("petal", count, around / max(count - 1, 1), prints["petal"] * 0.7)
    return Made(
        tuple(pieces),
        (
            plural(
                count, "{count} petal round an eye, {space}", "{count} petals round an eye, {space}", space=space.words
            ),
        ),
        (space,),
    )


def _mask(values: Values, prints: Prints) -> Made:
    """Across both eyes: sweeps over and under each to a point at the temple, peaks on the brow, a fan on the bridge."""
    half, tall = values["apart_mm"] / 2, values["hole_mm"] / 2
    wide, size = prints["sweep"], values["size"]
    over = _sweep(half, -(tall + wide * 0.42), -20.0 * size, 1.0)
    under = _sweep(half, tall + wide * 0.30, 9.0 * size, -1.0)
    pieces = both("sweep", under) + both("sweep", over, 1)
    for n, (x, turn, height) in enumerate(((half * 1.25, 30.0, 22.0), (half * 0.62, 14.0, 30.0))):
        flame = at(stroke("flame", half_mm=8, height_mm=height * size), mirrored=True)
        pieces += both("peak", at(flame, x, -(tall + wide * 0.62), turn), 2 + n)
    fan = stroke("fan", heel_mm=1, sweep_deg=70)
    pieces.append(Piece("peak", at(fan, 0.0, -tall * 0.4), 4))
    for n in range(3):
        pieces += both(
            "dot", dot(0.9 - 0.25 * n, half * 1.05 + 6.5 * n, tall + wide * 0.75 + 1.5 * n - 2.5 * n * n * 0.4), 5
        )
    return Made(
        tuple(pieces),
        (phrase("sweeps over and under two eyes {half:.0f} mm apart, four peaks, a fan between", half=2 * half),),
    )


def _sweep(half: float, y: float, rise: float, side: float) -> Stroke:
    """From beside the bridge, over or under an eye, out to a point beyond it."""
    inner, outer = half * 0.22, half * 1.95
    way = ((inner, y * 0.45), (half * 0.6, y * 1.35), (half * 1.3, y * 1.2), (outer, rise * 0.8))
    keys = (Key(0, 14.0), Key(0.25, 62.0), Key(0.6, 70.0), Key(0.85, 30.0), Key(1, 3.0))
    nib = Nib(NibMode.KEYED, keys=tuple(Key(key.at, side * key.value) for key in keys))
    return Stroke(CubicPath(way), nib, pressures=(Key(0, 0.2), Key(0.3, 0.55), Key(0.8, 0.5), Key(1, 0.08)))


def _waves(values: Values, _: Prints) -> Made:
    """Waves that curl: a back that rises and folds over, foam at each crest, a trough that carries the next."""
    count, size = round(values["waves"]), values["size"]
    pieces = []
    for n in range(count):
        x = (n - (count - 1) / 2) * 34.0 * size
        crest = stroke("wave-crest", length_mm=40 * size, height_mm=27 * size)
        pieces.append(Piece("wave", at(crest, x - 20.0 * size, 0.0), n))
        swell = stroke("one-stroke-leaf", length_mm=52 * size, bow_mm=-9 * size, broad_deg=52)
        pieces.append(Piece("wave", at(swell, x - 22.0 * size, 4.0 * size), count))
        for dx, dy, press in (
            (23, -21, 0.8),
            (21, -28, 0.6),
            (27, -25, 0.5),
            (15, -33, 0.35),
            (30, -19, 0.3),
            (22, -34, 0.25),
        ):
            pieces.append(Piece("foam", dot(press, x + dx * size, dy * size), count + 1))
    return Made(
        tuple(pieces),
        (plural(count, "{count} wave that curl, foam at each crest", "{count} waves that curl, foam at each crest"),),
    )


def _bow(values: Values, _: Prints) -> Made:
    """Two loops and two tails of a ribbon, a knot over them."""
    size = values["size"]
    loop = upright(
        ((0.0, 0.0), (10.0 * size, -17.0 * size), (34.0 * size, -15.0 * size), (26.0 * size, 2.0 * size)), 62.0
    )
    back = upright(((26.0 * size, 2.0 * size), (20.0 * size, 10.0 * size), (8.0 * size, 5.0 * size), (0.0, 0.0)), 62.0)
    tail = stroke("s-curve", length_mm=30 * size, bow_mm=6 * size, broad_deg=56)
    knot = stroke("crescent", spread_mm=9 * size, height_mm=4 * size)
    pieces = [
        *both("ribbon", back),
        *both("ribbon", loop, 1),
        *both("ribbon", at(tail, 1.5 * size, 2.0 * size, 62.0), 0),
    ]
    pieces.append(Piece("ribbon", at(knot, 0.0, -3.0 * size), 2))
    return Made(tuple(pieces), (phrase("two loops, two tails, a knot over them"),))


STAR = Part("star", phrase("star and dot"), "round-2", LINE, reload=3)
SIGNS = (
    Motif(
        "whole-heart",
        phrase("Heart"),
        phrase("two lobes round their heels"),
        "marks",
        (Part("half", phrase("half"), "flat-1-2"),),
        (TO_POINT,),
        _heart,
        former=("brush_mm",),
    ),
    Motif(
        "ribbon-bow",
        phrase("Bow"),
        phrase("two loops, two tails, a knot"),
        "marks",
        (Part("ribbon", phrase("ribbon"), "flat-1-2"),),
        (SIZE,),
        _bow,
        in_one_go=True,
    ),
    Motif(
        "snow-figure",
        phrase("Snow figure"),
        phrase("long arms with barbs, short ones between"),
        "marks",
        (Part("arm", phrase("arm"), "liner-1", LINE, reload=2, checks=(Check.LINE_WORK,)),),
        (ARMS, LONG, SHORT, BARBS, BARB_AT, BARB, PRESS),
        _snow,
        in_one_go=True,
    ),
    Motif(
        "radial-figure",
        phrase("Radial figure"),
        phrase("drops drawn in to the middle, dots round them"),
        "marks",
        (
            Part("arm", phrase("drop"), "round-4", LINE, reload=3),
            Part("dot", phrase("dot"), "round-2", HEART, reload=8),
        ),
        (Parameter("arms", phrase("long drops"), 8, 3, 16, "×"), LONG),
        _radial,
    ),
    Motif(
        "moon-stars",
        phrase("Moon and stars"),
        phrase("a crescent, stars of five points, dots"),
        "marks",
        (Part("moon", phrase("moon"), "flat-1-2"), STAR),
        (SIZE, STARS, SEED),
        _moon,
        in_one_go=True,
    ),
    Motif(
        "bubbles",
        phrase("Bubbles"),
        phrase("a ring, a light and a dot each"),
        "marks",
        (
            Part("ring", phrase("ring"), "dauber-small", LINE, reload=4),
            Part("light", phrase("light"), "round-2", LINE, reload=4),
        ),
        (BUBBLES, SIZE, SEED),
        _bubbles,
        in_one_go=True,
    ),
    Motif(
        "glint",
        phrase("Glint"),
        phrase("a burst, two small ones, dots"),
        "lines",
        (Part("burst", phrase("burst"), "round-2", LINE, reload=3, checks=(Check.LINE_WORK,)),),
        (Parameter("radius_mm", phrase("radius"), 12, 3, 80), Parameter("arms", phrase("arms"), 8, 5, 24, "×")),
        _burst,
        in_one_go=True,
    ),
    Motif(
        "swirl-trail",
        phrase("Swirl with drops"),
        phrase("a line that winds in, drops off its back"),
        "lines",
        (
            Part("swirl", phrase("swirl"), "round-3", LINE, checks=(Check.LINE_WORK,)),
            Part("drop", phrase("teardrop"), "round-4", LINE, reload=4, checks=(Check.LINE_WORK,)),
        ),
        (RADIUS, TURNS, DROPS),
        _swirl,
        in_one_go=True,
        checks=(Check.LEADS,),
    ),
    Motif(
        "dot-set",
        phrase("Dots"),
        phrase("graded, in a row, a bow or a triangle"),
        "lines",
        (Part("dot", phrase("dot"), "round-3", LINE, reload=8, checks=(Check.LINE_WORK,)),),
        (
            DOTS,
            FIRST,
            LAST,
            STEP,
            Parameter("bow_mm", phrase("how far the row bows"), 6, 0, 60),
            Parameter("triangle", phrase("as a triangle (1) or not (0)"), 0, 0, 1, ""),
        ),
        _dots,
        in_one_go=True,
    ),
    Motif(
        "lips",
        phrase("Lips"),
        phrase("the bow first, two tones, the centre left bare"),
        "marks",
        (Part("lip", phrase("lip"), "flat-1-2", LIP),),
        (
            Parameter("wide_mm", phrase("from corner to corner"), 50, 25, 70),
            Parameter("tall_mm", phrase("height of a lip"), 13, 6, 25),
            Parameter("bare_mm", phrase("bare in the centre"), 3, 0, 20),
            Parameter("dark_outside", phrase("dark outside (1) or not (0)"), 0, 0, 1, ""),
        ),
        _lips,
        in_one_go=True,
    ),
    Motif(
        "eye-frame",
        phrase("Eye frame"),
        phrase("petals that radiate from an eye, a dot before each"),
        "frames",
        (Part("petal", phrase("petal"), "flat-1-2", reload=2), Part("dot", phrase("dot"), "round-3", LINE, reload=8)),
        (
            Parameter("petals", phrase("petals"), 11, 4, 24, "×"),
            Parameter("length_mm", phrase("length of the longest petal"), 26, 6, 80),
            Parameter("wide_mm", phrase("from corner to corner of the eye"), 34, 20, 50),
            HOLE,
        ),
        _eye_frame,
    ),
    Motif(
        "eye-mask",
        phrase("Mask"),
        phrase("sweeps over and under both eyes, peaks, a fan between"),
        "frames",
        (
            Part("sweep", phrase("sweep")),
            Part("peak", phrase("peak"), "flat-1-2"),
            Part("dot", phrase("dot"), "round-4", LINE, reload=6),
        ),
        (EYES, HOLE, SIZE),
        _mask,
    ),
    Motif(
        "curling-waves",
        phrase("Curling waves"),
        phrase("backs that rise and fold over, foam at each crest"),
        "fields",
        (Part("wave", phrase("wave"), "flat-1", SEA), Part("foam", phrase("foam"), "round-4", LINE, reload=6)),
        (Parameter("waves", phrase("waves"), 3, 1, 12, "×"), SIZE),
        _waves,
        in_one_go=True,
    ),
)
