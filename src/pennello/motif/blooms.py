"""Flowers: rings of shells and of pressed petals, four roses, buds, tulips, daisies.

The recipes are those that were seen to work; all is common practice, no published source. Up is towards -y, mm.
"""

from __future__ import annotations

import math

from pennello.lay.families.family import Parameter
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.motif.grammar import (
    both,
    directions,
    dot,
    moved,
    outward,
    shells,
    shells_apart,
    step_deg,
    stroke,
    sweep_for,
    upright,
    whole_leaf,
)
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import HEART, LEAF, LINE, STEM, Check
from pennello.motif.spacing import round_spaced, spaced
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase, plural

PETALS = Parameter("petals", phrase("petals of the outer row"), 5, 3, 12, "×")
ROWS = Parameter("rows", phrase("rows"), 2, 1, 3, "×")
HEEL = Parameter("heel_mm", phrase("radius of the heels"), 7, 0, 40)
INSET = Parameter("inset_mm", phrase("rim of each further row inside the one before"), 13.5, 2, 40)
ARC = Parameter("arc_deg", phrase("how much of a circle"), 360, 60, 360, "°")
WAVES = Parameter("waves", phrase("waves of a rim"), 3, 0, 8, "×")
WAVE_MM = Parameter("wave_mm", phrase("height of a wave"), 2.2, 0, 8)
UNEVEN = Parameter("uneven", phrase("how unevenly turned and sized"), 0.0, 0, 1, "")
SEED = Parameter("seed", phrase("another number, other turns"), 1, 1, 99, "×")
TWINS = Parameter("twins", phrase("a narrower petal on each (1) or not (0)"), 0, 0, 1, "")
SIZE = Parameter("size", phrase("size of the way, not of the brush"), 1, 0.5, 3, "×")
TIP_IN = Parameter("tip_in", phrase("tips to the middle (1) or not (0)"), 1, 0, 1, "")
CENTRE = Parameter("heart_mm", phrase("from the middle to the petals' near ends"), 3.5, 0, 40)
STEM_MM = Parameter("stem_mm", phrase("length of the stem, 0 for none"), 26, 0, 150)


def _flower(values: Values, prints: Prints) -> Made:
    """Shells round their heels; the rim of each further row falls so far inside the one before."""
    count, rows, arc = round(values["petals"]), round(values["rows"]), values["arc_deg"]
    pieces, spacings, says = [], [], []
    rim = values["heel_mm"] + prints["petal"]
    for row in range(rows):
        part = "petal" if row == 0 else "inner"
        heel = max(rim - row * values["inset_mm"] - prints[part], 0.0)
        half_step = step_deg(count, arc) / 2 if row % 2 and arc >= 360 else 0.0
        turns = directions(count, arc, half_step)
        sweep = sweep_for(count, arc)
        pieces += shells(part, turns, heel, sweep, {**values, "seed": values["seed"] + row}, row)
        if values["twins"] >= 0.5:
            pieces += shells(part, turns, max(heel - 3, 0), sweep * 0.6, values, row)
        space = shells_apart(part, count, heel, prints[part], row, arc)
        spacings.append(space)
        says.append(
            plural(
                count,
                "{count} petal, {step_deg:.0f} degrees apart, {space}",
                "{count} petals, {step_deg:.0f} degrees apart, {space}",
                step_deg=step_deg(count, arc),
                space=space.words,
            )
        )
    asked = rim - (rows - 1) * values["inset_mm"]
    if rows > 1 and asked < prints["inner"] - 1e-6:
        says.append(
            phrase(
                "the innermost rim falls at {prints:.0f} mm, not {asked:.0f} mm: the brush is as wide",
                prints=prints["inner"],
                asked=asked,
            )
        )
    return Made(tuple(pieces), tuple(says), tuple(spacings))


def _rose_open(values: Values, prints: Prints) -> Made:
    size, heel, count = values["size"], values["heel_mm"], round(values["petals"])
    within = max(count - 1, 3)
    pieces = shells("petal", directions(count, 360), heel, sweep_for(count), values)
    pieces += shells("petal", directions(within, 360, 45), heel * 0.3, sweep_for(within), values, 1, 3.0)
    pieces += _closed(0.62 * size, 2, -1.0)
    space = shells_apart("petal", count, heel, prints["petal"], 0)
    says = (
        plural(
            count,
            "{count} petal outside, {within} within, then bud, cup and three that hug it",
            "{count} petals outside, {within} within, then bud, cup and three that hug it",
            within=within,
        ),
    )
    return Made(tuple(pieces), says, (space,))


def _bowl(size: float) -> Stroke:
    """A bucket whose chisel turns over it: thin at both feet, broad below."""
    way = ((-12.0, -6.5), (-10.0, 5.0), (10.0, 5.0), (12.0, -6.5))
    keys = (Key(0, 6.0), Key(0.25, 62.0), Key(0.5, 90.0), Key(0.75, 118.0), Key(1, 174.0))
    pressures = (Key(0, 0.12), Key(0.5, 0.6), Key(1, 0.12))
    return Stroke(
        CubicPath(tuple((x * size, y * size) for x, y in way)), Nib(NibMode.KEYED, keys=keys), pressures=pressures
    )


def _closed(size: float, row: int, y_mm: float) -> list[Piece]:
    """A closed bud from the front: a fan, a bowl over it, two curls a side, one that joins them below."""
    pieces = [
        Piece("bud", at(stroke("fan", heel_mm=0, sweep_deg=92), 0.0, y_mm + 4.0 * size), row),
        Piece("cup", at(_bowl(size), 0.0, y_mm), row),
    ]
    for number, (x, y, turn) in enumerate(((0.0, -1.5, 2.0), (-1.0, 3.0, 34.0)), 1):
        curve = stroke("c-curve", curl_mm=17 * size, broad_deg=66)
        pieces += both("side", at(curve, -x * size, y_mm + y * size, -turn), row + number)
    join = stroke("c-curve", curl_mm=16 * size, broad_deg=66)
    return [*pieces, Piece("side", at(join, 0.0, y_mm + 5.0 * size, -75.0), row + 3)]


def _rose_closed(values: Values, _: Prints) -> Made:
    pieces = _closed(values["size"], 0, 0.0)
    return Made(tuple(pieces), (phrase("fingernail and bowl, two curls a side, one that joins below"),))


def _tea_rose(values: Values, prints: Prints) -> Made:
    """Plain shells from the outside in, a bud in the middle, and a touch of a third colour in its throat."""
    size, heel, count = values["size"], values["heel_mm"], round(values["petals"])
    plain = {**values, "waves": 1, "wave_mm": 1.2}
    pieces = shells("petal", directions(count, 360), heel, sweep_for(count), plain)
    pieces += shells("inner", directions(count, 360, 180 / count), heel * 0.9, sweep_for(count), plain, 1)
    pieces += shells("inner", directions(3, 360, 30), 0.0, 150.0, plain, 2)
    pieces += [
        Piece("inner", at(stroke("wing-curl", curl_mm=8.5 * size, broad_deg=56), 0.0, 0.5 * size, 20.0), 3),
    ]
    touch = stroke("thin-thick-thin", length_mm=6 * size, bow_mm=1.2 * size, press=0.7)
    pieces += [
        Piece("touch", at(at(touch, -3.0 * size, -2.4 * size), 0.0, -1.0 * size, turn), 6)
        for turn in (-50.0, 0.0, 50.0)
    ]
    space = shells_apart("petal", count, heel, prints["petal"], 0)
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "two rows of {count} petal, a bud, a touch in its throat",
                "two rows of {count} petals, a bud, a touch in its throat",
            ),
        ),
        (space,),
    )


def _sepals(size: float, y_mm: float, row: int) -> list[Piece]:
    """Three small leaves that hug a bud from below."""
    side = stroke("thin-thick-thin", length_mm=13 * size, bow_mm=3.4 * size, press=0.9)
    middle = stroke("thin-thick-thin", length_mm=9 * size, bow_mm=0, press=0.9)
    return [
        *both("sepal", at(side, -0.6 * size, y_mm, -128.0), row),
        Piece("sepal", at(middle, 0.0, y_mm, -90.0), row),
    ]


def _stem(length_mm: float, y_mm: float, row: int, part: str = "sepal") -> list[Piece]:
    if length_mm < 4:
        return []
    line = stroke("tapering-line", length_mm=length_mm, bow_mm=length_mm * 0.08, press=0.55)
    return [Piece(part, at(line, 0.0, y_mm, 90.0), row)]


def _rose_half(values: Values, _: Prints) -> Made:
    """Seen from the side: a fan behind, a goblet of cups that cross, sepals and stem."""
    size = values["size"]
    pieces = [
        Piece("petal", at(stroke("shell", heel_mm=2, sweep_deg=100, waves=2, wave_mm=1.6), 0.0, 4.0 * size)),
        Piece("cup", at(stroke("fingernail", spread_mm=12 * size, height_mm=8 * size), 0.0, -3.0 * size), 1),
        Piece("cup", at(stroke("cup", spread_mm=12 * size, height_mm=6 * size), 0.0, -5.0 * size), 1),
    ]
    for row, (x, y, turn, curl) in enumerate(((1.5, 1.0, 12.0, 13.0), (0.5, 4.5, -18.0, 12.0)), 2):
        hug = stroke("c-curve", curl_mm=curl * size, broad_deg=56)
        pieces += both("cup", at(hug, x * size, y * size, turn), row)
    pieces += [
        *_sepals(size * 1.15, 20.0 * size, 5),
        *_stem(values["stem_mm"], 20.0 * size, 5),
    ]
    return Made(tuple(pieces), (phrase("a fan behind, cups that cross before it, sepals and stem"),))


def _bud(values: Values, _: Prints) -> Made:
    """Closed, its top to where it is aimed: arch and cup, a hug from each side, sepals and stem."""
    size = values["size"]
    hug = ((-6.2, -14.5), (-8.5, -5.0), (-5.5, 3.0), (3.0, 6.0))
    cup = upright(tuple((x * size, y * size) for x, y in hug), 68.0, 0.5)
    pieces = [
        Piece("bud", at(stroke("fingernail", spread_mm=10 * size, height_mm=8 * size), 0.0, -8.0 * size)),
        Piece("cup", at(stroke("cup", spread_mm=10 * size, height_mm=6 * size), 0.0, -10.0 * size)),
        *both("cup", cup, 1),
        *_sepals(size, 13.0 * size, 2),
        *_stem(values["stem_mm"], 13.0 * size, 2),
    ]
    return Made(tuple(pieces), (phrase("arch and cup, a hug from each side, three sepals and a stem"),))


def _press_ring(values: Values, prints: Prints) -> Made:
    """Petals of one press each, their tips to the middle or out."""
    count, rows = round(values["petals"]), round(values["rows"])
    pieces, spacings = [], []
    for row in range(rows):
        wide = prints["petal"]
        petal = stroke("press-petal", length_mm=3, press=0.9 - 0.25 * row, wiggle_mm=0)
        reach = values["heart_mm"] + wide * 1.05 * (rows - 1 - row)
        half_step = step_deg(count, values["arc_deg"]) / 2 if row % 2 else 0.0
        for turn in directions(count, values["arc_deg"], half_step):
            turned = at(petal, 0.0, 0.0) if values["tip_in"] >= 0.5 else at(at(petal, turn_deg=180.0), wide * 1.9)
            pieces.append(outward("petal", turned, reach, turn - 90.0, row))
        belly = reach + wide * 1.2
        spacings.append(round_spaced("petal", count, belly, wide * 1.05, row, values["arc_deg"]))
    pieces += _centre(values["heart_mm"], rows)
    says = (
        plural(
            count,
            "{count} petal of one press each, {spacings}",
            "{count} petals of one press each, {spacings}",
            spacings=spacings[0].words,
        ),
    )
    return Made(tuple(pieces), says, tuple(spacings))


def _centre(radius_mm: float, row: int) -> list[Piece]:
    """Dots that fill the middle: one, and a ring of them where there is room."""
    around = 0 if radius_mm < 2.5 else round(radius_mm * 2)
    pieces = [Piece("centre", dot(0.9), row)]
    turns = directions(around, 360) if around else []
    return [*pieces, *(outward("centre", dot(0.45), radius_mm * 0.62, turn, row) for turn in turns)]


def _daisy(values: Values, prints: Prints) -> Made:
    count, long, inner = round(values["petals"]), values["length_mm"], values["heart_mm"]
    petal = at(stroke("press-drop", length_mm=long), long, 0.0, 180.0)
    pieces = [outward("petal", petal, inner, turn) for turn in directions(count, 360)]
    pieces += _centre(inner, 1)
    space = round_spaced("petal", count, inner + long, prints["petal"] * 1.35)
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "{count} petal, pressed outside and drawn in; {space}",
                "{count} petals, pressed outside and drawn in; {space}",
                space=space.words,
            ),
        ),
        (space,),
    )


def _dip_flower(values: Values, prints: Prints) -> Made:
    """Five petals of a dipped brush, tips in, three fine lines and a dot in the middle."""
    ring = _press_ring({**values, "rows": 1, "tip_in": 1, "arc_deg": 360}, prints)
    count = round(values["petals"])
    fine = stroke("whisker", length_mm=max(prints["petal"] * 1.1, 4), bow_mm=0.4, press=0.25)
    pieces = [piece for piece in ring.pieces if piece.part == "petal"]
    for turn in directions(count, 360):
        pieces += [outward("line", fine, values["heart_mm"] * 0.6, turn - 90 + aside, 1) for aside in (-9.0, 9.0)]
    return Made((*pieces, *_centre(values["heart_mm"], 2)), ring.says, ring.spacings)


def _many(values: Values, prints: Prints) -> Made:
    """Rows of narrow petals, the outer longest, each a push between two chisels; the heart closes over itself."""
    rows, count, long = round(values["rows"]), round(values["petals"]), values["length_mm"]
    pieces, number = [], count
    for row in range(rows):
        size = long * (1 - 0.27 * row)
        inner = max(values["heart_mm"] * (1 - 0.34 * row), 0.5)
        petal = stroke("one-stroke-leaf", length_mm=size, bow_mm=size * 0.2, broad_deg=44)
        half_step = 180 / number if row % 2 else 0.0
        pieces += [outward("petal", petal, inner, turn, row) for turn in directions(number, 360, half_step)]
        number = max(round(number * 0.8), 6)
    curl = stroke("comma-stroke", length_mm=max(long * 0.34, 4), bow_mm=long * 0.12)
    for turn in directions(5, 360):
        pieces.append(outward("petal", at(curl, turn_deg=-20), 1.0, turn, rows))
    space = spaced("petal", count, 2 * math.pi * (values["heart_mm"] + long / 2) / count, prints["petal"] * 0.56)
    return Made(
        tuple(pieces),
        (
            plural(
                rows,
                "{count} row of narrow petals, {space}",
                "{count} rows of narrow petals, {space}",
                space=space.words,
            ),
        ),
        (space,),
    )


def _tulip(values: Values, _: Prints) -> Made:
    """Two petals that lean out behind, two that close before them, stem and two long leaves."""
    size = values["size"]
    back = stroke("one-stroke-leaf", length_mm=34 * size, bow_mm=9 * size, broad_deg=60)
    front = stroke("one-stroke-leaf", length_mm=32 * size, bow_mm=16 * size, broad_deg=72)
    middle = stroke("one-stroke-leaf", length_mm=28 * size, bow_mm=3 * size, broad_deg=70)
    leaf = stroke("one-stroke-leaf", length_mm=46 * size, bow_mm=13 * size, broad_deg=50)
    stem = max(values["stem_mm"], 4)
    pieces = [
        Piece("petal", at(middle, 0.0, 0.0, -90.0)),
        *both("petal", at(back, -1.0 * size, 0.0, -104.0), 1),
        *both("petal", at(front, 1.5 * size, 0.5 * size, -97.0), 2),
        *_stem(values["stem_mm"], 0.0, 3, "stem"),
    ]
    if values["stem_mm"] >= 4:
        pieces += both("leaf", at(leaf, -0.5 * size, stem, -112.0), 4)
    return Made(tuple(pieces), (phrase("one behind, two that lean out, two that close before them"),))


def _spray(values: Values, prints: Prints) -> Made:
    """A corner piece: a flower, two buds that look away from it, leaves between."""
    count = round(values["petals"])
    flower = shells("petal", directions(count, 360), 5.0, sweep_for(count), values, 1)
    flower += shells("petal", directions(count, 360, 180 / count), 0.5, sweep_for(count), {**values, "waves": 2}, 2)
    away = values["away_mm"]
    leaves = moved(whole_leaf(20, {"waves": 3, "wave_mm": 1.7}), 17.0, 0.0)
    pieces = [piece for turn in (-150.0, -30.0, 30.0, 150.0) for piece in moved(leaves, turn_deg=turn)]
    hug = upright(((-5.0, -9.0), (-7.0, -2.0), (-4.0, 4.0), (3.0, 6.0)), 70.0, 0.45)
    bud = [Piece("petal", stroke("shell", heel_mm=0.5, sweep_deg=66, waves=1, wave_mm=1)), *both("petal", hug, 0)]
    for side in (-90.0, 90.0):
        pieces += moved([Piece(one.part, one.stroke, 1) for one in moved(bud, 0.0, -away)], turn_deg=side)
    space = shells_apart("petal", count, 5.0, prints["petal"], 0)
    return Made((*pieces, *flower), (phrase("one flower of {count}, two buds, four leaves", count=count),), (space,))


PETAL = Part("petal", phrase("petal"))
INNER = Part("inner", phrase("inner petal"), "flat-1-2")
BUD, CUP, SIDE = (
    Part("bud", phrase("bud"), "flat-1-2"),
    Part("cup", phrase("cup"), "flat-1-2"),
    Part("side", phrase("side petal"), "flat-1-2"),
)
SEPAL = Part("sepal", phrase("sepal and stem"), "round-3", STEM, reload=2)
PRESSED = Part("petal", phrase("petal"), "petal-brush")
MIDDLE = Part("centre", phrase("heart"), "round-3", HEART, reload=6)
_LONG = Parameter("length_mm", phrase("length of a petal"), 19, 4, 100)

BLOOMS = (
    Motif(
        "shell-flower",
        phrase("Shell flower"),
        phrase("shells round their heels, rows half a step on"),
        "flowers",
        (PETAL, INNER),
        (PETALS, ROWS, HEEL, INSET, ARC, WAVES, WAVE_MM, UNEVEN, SEED, TWINS),
        _flower,
    ),
    Motif(
        "rose-open",
        phrase("Open rose"),
        phrase("shells from the outside in, bud and cup, three that hug them"),
        "flowers",
        (PETAL, BUD, CUP, SIDE),
        (PETALS, Parameter("heel_mm", phrase("radius of the heels"), 9, 2, 40), WAVES, WAVE_MM, SIZE, UNEVEN, SEED),
        _rose_open,
    ),
    Motif(
        "rose-closed",
        phrase("Closed rose"),
        phrase("fingernail and bowl, curls round them, one that joins"),
        "flowers",
        (Part("bud", phrase("bud")), Part("cup", phrase("bowl")), Part("side", phrase("curl"))),
        (SIZE,),
        _rose_closed,
        in_one_go=True,
    ),
    Motif(
        "tea-rose",
        phrase("Tea rose"),
        phrase("two rows of plain shells, a bud, a touch of a third colour in its throat"),
        "flowers",
        (PETAL, INNER, Part("touch", phrase("touch"), "round-3", HEART, reload=3)),
        (PETALS, Parameter("heel_mm", phrase("radius of the heels"), 8, 2, 40), SIZE, UNEVEN, SEED),
        _tea_rose,
    ),
    Motif(
        "rose-half",
        phrase("Half-open rose"),
        phrase("from the side: a fan behind, a goblet of cups, sepals and stem"),
        "flowers",
        (PETAL, CUP, SEPAL),
        (SIZE, STEM_MM),
        _rose_half,
        in_one_go=True,
    ),
    Motif(
        "rosebud",
        phrase("Rosebud"),
        phrase("closed; aim its top at a point"),
        "flowers",
        (BUD, CUP, SEPAL),
        (SIZE, Parameter("stem_mm", phrase("length of the stem, 0 for none"), 16, 0, 150)),
        _bud,
        in_one_go=True,
    ),
    Motif(
        "press-ring",
        phrase("Pressed petals"),
        phrase("one press a petal, tips in or out"),
        "flowers",
        (PRESSED, MIDDLE),
        (
            Parameter("petals", phrase("petals of a row"), 8, 3, 24, "×"),
            Parameter("rows", phrase("rows"), 1, 1, 3, "×"),
            CENTRE,
            TIP_IN,
            ARC,
        ),
        _press_ring,
        checks=(Check.CLOSED_RING,),
    ),
    Motif(
        "dip-flower",
        phrase("Flower of a dip"),
        phrase("five pressed petals, fine lines, a dot"),
        "flowers",
        (PRESSED, Part("line", phrase("fine line"), "liner-1", LINE, reload=5), MIDDLE),
        (Parameter("petals", phrase("petals"), 5, 3, 12, "×"), Parameter("heart_mm", CENTRE.name, 2, 0, 40)),
        _dip_flower,
    ),
    Motif(
        "daisy",
        phrase("Daisy"),
        phrase("pressed outside and drawn in, dots in the middle"),
        "flowers",
        (Part("petal", phrase("petal"), "round-5", LINE, reload=3), MIDDLE),
        (Parameter("petals", phrase("petals"), 13, 5, 30, "×"), _LONG, Parameter("heart_mm", CENTRE.name, 5, 0, 40)),
        _daisy,
        in_one_go=True,
    ),
    Motif(
        "many-petals",
        phrase("Many petals"),
        phrase("rows of narrow petals, chisel, push, chisel"),
        "flowers",
        (Part("petal", phrase("petal"), "flat-1-2", reload=2),),
        (
            Parameter("petals", phrase("petals of the outer row"), 18, 8, 40, "×"),
            Parameter("rows", phrase("rows"), 3, 1, 4, "×"),
            Parameter("length_mm", phrase("length of an outer petal"), 26, 6, 120),
            Parameter("heart_mm", CENTRE.name, 8, 1, 60),
        ),
        _many,
    ),
    Motif(
        "tulip",
        phrase("Tulip"),
        phrase("two petals lean out, two close before them, two long leaves"),
        "flowers",
        (
            Part("petal", phrase("petal"), "flat-1-2"),
            Part("stem", phrase("stem"), "round-3", STEM, reload=2),
            Part("leaf", phrase("leaf"), "flat-1-2", LEAF),
        ),
        (SIZE, Parameter("stem_mm", phrase("length of the stem, 0 for none"), 44, 0, 200)),
        _tulip,
        in_one_go=True,
    ),
    Motif(
        "flower-spray",
        phrase("Spray of flowers"),
        phrase("a flower, two buds that look away, leaves between"),
        "flowers",
        (Part("petal", phrase("petal"), "flat-1-2"), Part("leaf", phrase("half of a leaf"), "flat-1-2", LEAF)),
        (
            PETALS,
            WAVES,
            Parameter("wave_mm", phrase("height of a wave"), 1.6, 0, 8),
            Parameter("away_mm", phrase("buds from the middle"), 26, 10, 120),
        ),
        _spray,
    ),
)
