"""Motifs of strokes that are held as painters hold them: shells round a heel, upright arches, halves that meet.

The recipes are those that were seen to work; all is common practice, no published source. Up is towards -y, mm.
"""

from __future__ import annotations

import math

from pennello.lay.families.catalogue import family
from pennello.lay.families.family import Parameter
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.motif.motif import LEAF, Made, Motif, Part, Piece, Prints, Values, at, counted
from pennello.motif.spacing import Spacing, spaced
from pennello.path.cubic import CubicPath, Point

PETALS = Parameter("petals", "petals of the outer row", 5, 3, 12, "×")
ROWS = Parameter("rows", "rows", 2, 1, 3, "×")
HEEL = Parameter("heel_mm", "radius of the heels", 7, 0, 40)
WAVES = Parameter("waves", "waves of a rim", 3, 0, 8, "×")
WAVE_MM = Parameter("wave_mm", "height of a wave", 2.2, 0, 8)
SIZE = Parameter("size", "size of the way, not of the brush", 1, 0.5, 3, "×")
MIDRIB = Parameter("length_mm", "length of the midrib", 24, 6, 120)
OPEN = Parameter("open_deg", "angle between the leaves", 130, 20, 340, "°")
FOOT = Parameter("foot_mm", "from the centre to the leaf's foot", 14, 0, 120)
PEAKS = Parameter("peaks", "peaks", 5, 1, 15, "×")
TALL = Parameter("height_mm", "height of the middle one", 40, 8, 200)
FALL = Parameter("fall", "each further out against the one before", 0.82, 0.4, 1, "")
BOW = Parameter("bow_mm", "how far the row bows", 0, 0, 60)
SCALES = Parameter("scales", "scales of a row", 4, 1, 30, "×")
SCALE_ROWS = Parameter("rows", "rows", 3, 1, 20, "×")
STEP = Parameter("spread_mm", "from foot to foot", 14, 4, 60)
SCALE_TALL = Parameter("height_mm", "height of a scale", 9, 2, 60)
ARMS = Parameter("arms", "long arms", 6, 3, 12, "×")
LONG = Parameter("long_mm", "length of a long arm", 34, 8, 150)
SHORT = Parameter("short", "short arms between, against long ones, 0 for none", 0.5, 0, 0.9, "of long")
BARBS = Parameter("barbs", "pairs of barbs", 2, 0, 4, "×")
STRIPES = Parameter("stripes", "stripes on each side", 3, 1, 8, "×")
STRIPE = Parameter("length_mm", "length of the lowest stripe", 34, 6, 120)
FLAMES = Parameter("flames", "flames", 7, 1, 30, "×")
TILT = Parameter("turn_deg", "how far the upper wing is raised", 58, 10, 90, "°")

MOST_SWEEP = 170.0


def _ring_of_shells(
    part: str, count: int, heel_mm: float, values: Values, *, turn_deg: float = 0.0, row: int = 0, y_mm: float = 0.0
) -> list[Piece]:
    sweep = min(max(360 / count * 1.45, 20.0), MOST_SWEEP)
    petal = family("shell").stroke(
        heel_mm=heel_mm, sweep_deg=sweep, waves=values.get("waves", 3), wave_mm=values.get("wave_mm", 2.2)
    )
    return [Piece(part, at(petal, 0.0, y_mm, turn_deg + n * 360 / count), row) for n in range(count)]


def _shells_apart(part: str, count: int, heel_mm: float, print_mm: float, row: int) -> Spacing:
    """Return how the rims of shells stand: chords of the circle of the rims."""
    rim = heel_mm + print_mm
    allows = 2 * rim * math.sin(math.radians(min(360 / count * 1.45, MOST_SWEEP)) / 2)
    return spaced(part, count, 2 * rim * math.sin(math.pi / count), allows, row)


def _flower(values: Values, prints: Prints) -> Made:
    count, rows = round(values["petals"]), round(values["rows"])
    pieces, spacings, says = [], [], []
    for row in range(rows):
        part = "petal" if row == 0 else "inner"
        heel = values["heel_mm"] if row == 0 else max(values["heel_mm"] * 0.22 / row, 0.0)
        turn = 180 / count if row % 2 else 0.0
        pieces += _ring_of_shells(part, count, heel, values, turn_deg=turn, row=row)
        space = _shells_apart(part, count, heel, prints[part], row)
        spacings.append(space)
        says.append(f"{counted(count, 'petal')}, {360 / count:.0f} degrees apart, {space.words}")
    return Made(tuple(pieces), tuple(says), tuple(spacings))


def _upright(points: tuple[Point, ...], chisel_deg: float) -> Stroke:
    pressures = (Key(0, 0.15), Key(0.25, 0.5), Key(0.75, 0.5), Key(1, 0.15))
    return Stroke(CubicPath(points), Nib(NibMode.FIXED, chisel_deg), pressures=pressures)


def _bud_pieces(size: float, row: int, y_mm: float = 0.0) -> list[Piece]:
    """The arc with the light on top, and the cup beneath from the same feet."""
    wide, tall = 15.0 * size, 10.0 * size
    return [
        Piece("bud", at(family("fingernail").stroke(spread_mm=wide, height_mm=tall), 0.0, y_mm), row),
        Piece("cup", at(family("cup").stroke(spread_mm=wide, height_mm=tall * 0.9), 0.0, y_mm - 3.0 * size), row),
    ]


def _sides(size: float, row: int, y_mm: float) -> list[Piece]:
    """Two strokes that start beside the bud's feet and cross under it, and one that joins them below."""

    def crossing(side: float) -> Stroke:
        points = ((-15.0, -9.0), (-15.0, 4.0), (-6.0, 12.0), (9.0, 11.0))
        return _upright(tuple((side * x * size, y * size + y_mm) for x, y in points), 90 - side * 15)

    wide = 20.0 * size
    join = family("crescent").stroke(spread_mm=max(wide, 4), height_mm=8.0 * size)
    return [
        Piece("side", crossing(1.0), row),
        Piece("side", crossing(-1.0), row),
        Piece("side", at(join, 0, y_mm + 8 * size), row),
    ]


def _rose_outside(values: Values, prints: Prints) -> Made:
    size, heel = values["size"], values["heel_mm"]
    count = round(values["petals"])
    pieces = _ring_of_shells("petal", count, heel, values)
    pieces += _ring_of_shells("petal", max(count - 1, 3), heel * 0.3, values, turn_deg=45.0, row=1, y_mm=3.0)
    pieces += _bud_pieces(size, 2, -1.0) + _sides(size, 3, 0.0)
    space = _shells_apart("petal", count, heel, prints["petal"], 0)
    says = (f"{counted(count, 'petal')} outside, {max(count - 1, 3)} within, then bud, cup and three that hug it",)
    return Made(tuple(pieces), says, (space,))


def _rose_inside(values: Values, _: Prints) -> Made:
    size = values["size"]
    fan = family("fan").stroke(heel_mm=0, sweep_deg=92)
    bowl = Stroke(
        CubicPath(
            (
                (-13.0 * size, -9.0 * size),
                (-10.0 * size, 5.0 * size),
                (10.0 * size, 5.0 * size),
                (13.0 * size, -9.0 * size),
            )
        ),
        Nib(NibMode.KEYED, keys=(Key(0, 6.0), Key(0.25, 62.0), Key(0.5, 90.0), Key(0.75, 118.0), Key(1, 174.0))),
        pressures=(Key(0, 0.2), Key(0.5, 0.6), Key(1, 0.2)),
    )
    pieces = [Piece("bud", at(fan, 0.0, 4.0 * size)), Piece("cup", bowl)]
    for row, (x, y, turn, curl) in enumerate(((6.0, 0.0, 12.0, 17.0), (4.0, 6.0, 48.0, 17.0)), 1):
        curve = family("c-curve").stroke(curl_mm=curl * size)
        left = at(curve, -x * size, y * size, -turn)
        pieces += [Piece("side", left, row), Piece("side", at(left, mirrored=True), row)]
    join = family("crescent").stroke(spread_mm=34 * size, height_mm=13 * size)
    pieces.append(Piece("side", at(join, 0.0, 8.0 * size), 3))
    return Made(tuple(pieces), ("fingernail and bowl, two curls a side, one that joins below",))


def _bud(values: Values, _: Prints) -> Made:
    size = values["size"]
    heart = family("shell").stroke(heel_mm=2, sweep_deg=46, waves=2, wave_mm=1.2)
    hug = ((-9.0, -17.0), (-10.0, -6.0), (-4.0, 0.0), (4.0, 3.0))
    cups = [_upright(tuple((side * x * size, y * size) for x, y in hug), 90 - side * 12) for side in (1.0, -1.0)]
    sepal = family("thin-thick-thin").stroke(length_mm=15 * size, bow_mm=3 * size)
    sepals = [at(sepal, 0.0, 4.0 * size, turn) for turn in (-62.0, -90.0, -118.0)]
    pieces = [Piece("bud", heart), *(Piece("cup", cup, 1) for cup in cups), *(Piece("sepal", one, 2) for one in sepals)]
    return Made(tuple(pieces), ("a narrow shell, two cups that cross at its foot, three sepals",))


def _whole_leaf(length_mm: float, values: Values, row: int = 0) -> list[Piece]:
    half = family("leaf-half").stroke(
        length_mm=length_mm, waves=values.get("waves", 3), wave_mm=values.get("wave_mm", 1.9)
    )
    return [Piece("leaf", half, row), Piece("leaf", at(half, turn_deg=180.0, mirrored=True), row)]


def _leaf(values: Values, _: Prints) -> Made:
    long = values["length_mm"]
    rib = family("tapering-line").stroke(length_mm=max(long * 1.35, 4), bow_mm=0, press=0.3)
    pieces = [*_whole_leaf(long, values), Piece("midrib", rib, 1)]
    return Made(tuple(pieces), ("two halves that meet on the midrib, the same corner out on both",))


def _leaves(values: Values, _: Prints) -> Made:
    leaf = [at(piece.stroke, values["foot_mm"], 0.0) for piece in _whole_leaf(values["length_mm"], values)]
    turns = [-90.0 + side * values["open_deg"] for side in (-0.5, 0.5)]
    pieces = [Piece("leaf", at(half, turn_deg=turn)) for turn in turns for half in leaf]
    return Made(tuple(pieces), (f"two leaves, {values['open_deg']:.0f} degrees apart",))


def _heart(values: Values, _: Prints) -> Made:
    half = family("heart-lobe").stroke(brush_mm=values["brush_mm"], height_mm=values["height_mm"])
    return Made(
        (Piece("half", half), Piece("half", at(half, mirrored=True), 1)), ("two halves that meet at the point",)
    )


def _crown(values: Values, _: Prints) -> Made:
    """Peaks of two flanks, the middle one last and in front."""
    count, tall = round(values["peaks"]), values["height_mm"]
    middle, half = (count - 1) / 2, 9.5
    order = sorted(range(count), key=lambda n: -abs(n - middle))
    pieces = []
    for number, n in enumerate(order):
        away = n - middle
        flank = family("peak-flank").stroke(half_mm=half, height_mm=max(tall * values["fall"] ** abs(away), 4))
        x, y = away * half * 1.75, values["bow_mm"] * (away / max(middle, 1)) ** 2
        turn = away * values["bow_mm"] * 0.4
        pieces += [
            Piece("peak", at(flank, x, y, turn), number),
            Piece("peak", at(at(flank, mirrored=True), x, y, turn), number),
        ]
    return Made(tuple(pieces), (f"{counted(count, 'peak')}, each of two flanks with the light up the middle",))


def _scales(values: Values, prints: Prints) -> Made:
    count, rows, step, tall = round(values["scales"]), round(values["rows"]), values["spread_mm"], values["height_mm"]
    scale = family("scale-arch").stroke(spread_mm=step, height_mm=tall)
    pieces = []
    for row in range(rows):
        more = max(count - row % 2, 1)
        pieces += [Piece("scale", at(scale, (n - (more - 1) / 2) * step, row * tall), row) for n in range(more)]
    space = spaced("scale", count, step, step + prints["scale"] * 0.12, 0)
    says = (f"{counted(rows, 'row')} from the top down, each half a step on", space.words)
    return Made(tuple(pieces), says, (space,))


def _butterfly(values: Values, _: Prints) -> Made:
    size, raised = values["size"], values["turn_deg"]
    upper = family("wing-lobe").stroke(heel_mm=5 * size, sweep_deg=88)
    lower = family("shell").stroke(heel_mm=4 * size, sweep_deg=76, waves=2, wave_mm=2.4)
    pieces = []
    for stroke, part, turn, y, row in (
        (lower, "lower", 132.0, 5.0, 0),
        (upper, "upper", 90.0 - (raised - 30), -2.0, 1),
    ):
        right = at(stroke, 1.0 * size, y * size, turn)
        pieces += [Piece(part, right, row), Piece(part, at(right, mirrored=True), row)]
    body = family("thin-thick-thin").stroke(length_mm=30 * size, bow_mm=0, press=0.8)
    pieces.append(Piece("body", at(body, 0.0, -14.0 * size, 90.0), 2))
    feeler = family("tapering-line").stroke(length_mm=16 * size, bow_mm=4 * size, press=0.3)
    right = at(feeler, 0.8, -13.0 * size, -62.0)
    pieces += [Piece("body", right, 2), Piece("body", at(right, mirrored=True), 2)]
    return Made(tuple(pieces), ("lower lobes, upper lobes over them, body and feelers",))


def _snow(values: Values, _: Prints) -> Made:
    count, long = round(values["arms"]), values["long_mm"]
    arm = family("snow-arm").stroke(length_mm=long, barbs=values["barbs"], barb_mm=max(long * 0.27, 1))
    pieces = [Piece("arm", at(arm, turn_deg=-90 + n * 360 / count)) for n in range(count)]
    if values["short"] > 0:
        short = family("snow-arm").stroke(
            length_mm=max(long * values["short"], 4), barbs=1, barb_mm=max(long * 0.12, 1)
        )
        pieces += [Piece("arm", at(short, turn_deg=-90 + (n + 0.5) * 360 / count), 1) for n in range(count)]
    return Made(tuple(pieces), (f"{counted(count, 'arm')} of {long:.0f} mm, short ones between",))


def _stripes(values: Values, _: Prints) -> Made:
    """Thin-thick-thin, all aiming between the eyes, mirrored."""
    count, pieces = round(values["stripes"]), []
    for n in range(count):
        long = max(values["length_mm"] * (0.72 + 0.28 * (count - n) / count), 4)
        stripe = family("thin-thick-thin").stroke(length_mm=long, bow_mm=long * 0.16, press=0.7)
        turn = -12.0 - 62.0 * n / max(count - 1, 1)
        right = at(at(stripe, 13.0 + 3.0 * n, 0.0), turn_deg=turn)
        pieces += [Piece("stripe", right, 0), Piece("stripe", at(right, mirrored=True), 0)]
    return Made(tuple(pieces), (f"{counted(count, 'stripe')} a side, all aimed at one point",))


def _flames(values: Values, _: Prints) -> Made:
    count, pieces = round(values["flames"]), []
    middle = (count - 1) / 2
    for n in range(count):
        tall = values["height_mm"] * (1.0 if n % 2 == 0 else 0.72)
        flame = family("flame").stroke(half_mm=8, height_mm=max(tall, 4))
        side = at(flame, mirrored=n > middle)
        pieces.append(Piece("flame", at(side, (n - middle) * 12.0, 0.0), n % 2))
    return Made(tuple(pieces), (f"{counted(count, 'flame')}, long and short, leaning outwards",))


_BRUSH = Parameter("brush_mm", "width of the brush", 12.7, 3, 60)
_TO_POINT = Parameter("height_mm", "from the lobes to the point", 24, 6, 120)
_FLAME_TALL = Parameter("height_mm", "height of a long flame", 34, 6, 150)

SHELL = Part("petal", "petal")
INNER = Part("inner", "inner petal", "flat-1-2")
BUD, CUP, SIDE = Part("bud", "bud", "flat-1-2"), Part("cup", "cup", "flat-1-2"), Part("side", "side petal", "flat-1-2")

HELD = (
    Motif(
        "shell-flower",
        "Shell flower",
        "shells round their heels, rows half a step on",
        "flowers",
        (SHELL, INNER),
        (PETALS, ROWS, HEEL, WAVES, WAVE_MM),
        _flower,
    ),
    Motif(
        "rose-open",
        "Open rose",
        "shells from the outside in, bud and cup, three that hug them",
        "flowers",
        (SHELL, BUD, CUP, SIDE),
        (PETALS, Parameter("heel_mm", "radius of the heels", 9, 2, 40), WAVES, WAVE_MM, SIZE),
        _rose_outside,
    ),
    Motif(
        "rose-closed",
        "Closed rose",
        "fingernail and bowl, curls round them, one that joins",
        "flowers",
        (Part("bud", "bud"), Part("cup", "bowl"), Part("side", "curl")),
        (SIZE,),
        _rose_inside,
        in_one_go=True,
    ),
    Motif(
        "rosebud",
        "Rosebud",
        "a narrow shell, two cups that cross, sepals",
        "flowers",
        (BUD, CUP, Part("sepal", "sepal", "round-3", LEAF, made=True)),
        (SIZE,),
        _bud,
        in_one_go=True,
    ),
    Motif(
        "whole-leaf",
        "Leaf of two halves",
        "two wiggled halves that meet on the midrib",
        "leaves",
        (Part("leaf", "half of a leaf", role=LEAF, made=True), Part("midrib", "midrib", "liner-1", LEAF, made=True)),
        (MIDRIB, WAVES, Parameter("wave_mm", "height of a wave", 1.9, 0, 8)),
        _leaf,
        in_one_go=True,
    ),
    Motif(
        "two-leaves",
        "Two leaves",
        "opposite each other, hugging a flower",
        "leaves",
        (Part("leaf", "half of a leaf", role=LEAF, made=True),),
        (MIDRIB, OPEN, FOOT, WAVES),
        _leaves,
        in_one_go=True,
    ),
    Motif(
        "whole-heart",
        "Heart",
        "two lobes round their heels",
        "marks",
        (Part("half", "half", "flat-1-2"),),
        (_BRUSH, _TO_POINT),
        _heart,
    ),
    Motif(
        "peaks",
        "Crown of peaks",
        "each of two flanks, the light up the middle",
        "fields",
        (Part("peak", "flank"),),
        (PEAKS, TALL, FALL, BOW),
        _crown,
    ),
    Motif(
        "scale-rows",
        "Rows of scales",
        "from the top row down, each half a step on",
        "fields",
        (Part("scale", "scale", "flat-1-2"),),
        (SCALES, SCALE_ROWS, STEP, SCALE_TALL),
        _scales,
        in_one_go=True,
    ),
    Motif(
        "butterfly",
        "Butterfly",
        "lower lobes, upper lobes, body and feelers",
        "wings",
        (
            Part("upper", "upper lobe", "flat-1"),
            Part("lower", "lower lobe"),
            Part("body", "body", "round-3", made=True),
        ),
        (TILT, SIZE),
        _butterfly,
    ),
    Motif(
        "snow-figure",
        "Snow figure",
        "long arms with barbs, short ones between",
        "marks",
        (Part("arm", "arm", "liner-1", made=True),),
        (ARMS, LONG, SHORT, BARBS),
        _snow,
        in_one_go=True,
    ),
    Motif(
        "aimed-stripes",
        "Aimed stripes",
        "thin, thick, thin, all aimed at one point",
        "lines",
        (Part("stripe", "stripe", "round-4", made=True),),
        (STRIPES, STRIPE),
        _stripes,
        in_one_go=True,
    ),
    Motif(
        "flame-border",
        "Border of flames",
        "long and short, leaning outwards",
        "fields",
        (Part("flame", "flame", "flat-1-2"),),
        (FLAMES, _FLAME_TALL),
        _flames,
    ),
)
