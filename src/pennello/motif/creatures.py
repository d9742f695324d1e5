"""Wings, feathers, fins, scales, peaks, horns, stripes and fur. Common practice, no published source. Up is -y, mm."""

from __future__ import annotations

import math

import numpy as np

from pennello.lay.families.family import Parameter
from pennello.lay.families.shapes import arc
from pennello.lay.stroke import Key, Nib, NibMode, Pats, Stroke
from pennello.motif.grammar import both, directions, dot, outward, stroke
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import FLAME, FUR, INK, LINE, SCALE, WING, Check
from pennello.motif.spacing import spaced
from pennello.path.cubic import CubicPath, direction, position
from pennello.phrases import phrase, plural

PEAKS = Parameter("peaks", phrase("peaks"), 5, 1, 15, "×")
TALL = Parameter("height_mm", phrase("height of the middle one"), 40, 8, 200)
FALL = Parameter("fall", phrase("each further out against the one before"), 0.82, 0.4, 1, "")
BOW = Parameter("bow_mm", phrase("how far the row bows"), 0, 0, 60)
SCALES = Parameter("scales", phrase("scales of a row"), 5, 1, 30, "×")
ROWS = Parameter("rows", phrase("rows"), 4, 1, 20, "×")
STEP = Parameter("spread_mm", phrase("from foot to foot"), 14, 4, 60)
SCALE_TALL = Parameter("height_mm", phrase("from row to row"), 9, 2, 60)
ROUND = Parameter("arc_deg", phrase("how far the rows bend round a cheek"), 0, 0, 150, "°")
STRIPES = Parameter("stripes", phrase("stripes on each side"), 3, 1, 8, "×")
STRIPE = Parameter("length_mm", phrase("length of the lowest stripe"), 34, 6, 120)
FLAMES = Parameter("flames", phrase("flames"), 7, 1, 30, "×")
TILT = Parameter("turn_deg", phrase("how far the upper wing is raised"), 58, 10, 90, "°")
SIZE = Parameter("size", phrase("size of the way, not of the brush"), 1, 0.5, 3, "×")
BARBS = Parameter("barbs", phrase("barbs on each side"), 9, 2, 30, "×")
SHAFT = Parameter("length_mm", phrase("length of the shaft"), 70, 12, 250)
WIDE = Parameter("wide_mm", phrase("width at the widest"), 34, 6, 150)
RAYS = Parameter("rays", phrase("rays"), 5, 0, 12, "×")


def _feelers(size: float, long: float, bow: float, row: int) -> list[Piece]:
    feeler = stroke("tapering-line", length_mm=long * size, bow_mm=bow * size, press=0.3)
    return both("body", at(feeler, 0.8, -13.0 * size, -62.0), row)


def _butterfly(values: Values, _: Prints) -> Made:
    """Lower lobes, upper lobes over them, a flipped line inside, body and feelers."""
    size, raised = values["size"], values["turn_deg"]
    upper = stroke("wing-lobe", heel_mm=1.5 * size, sweep_deg=104)
    lower = stroke("shell", heel_mm=2.5 * size, sweep_deg=96, waves=2, wave_mm=2.4)
    pieces = both("lower", at(lower, 0.5 * size, 2.0 * size, 128.0))
    pieces += both("upper", at(upper, 0.5 * size, -1.0 * size, 120.0 - raised), 1)
    inside = stroke("thin-thick-thin", length_mm=17 * size, bow_mm=3 * size, press=0.55)
    for turn, y in ((30.0 - raised, -4.0), (38.0, 8.0)):
        pieces += both("line", at(at(inside, 4.0 * size, 0.0, turn), 0.0, y * size), 2)
    body = stroke("thin-thick-thin", length_mm=30 * size, bow_mm=0, press=0.9)
    pieces.append(Piece("body", at(body, 0.0, -14.0 * size, 90.0), 3))
    pieces += _feelers(size, 16, 4, 3)
    return Made(tuple(pieces), (phrase("lower lobes, upper lobes over them, lines inside, body and feelers"),))


def _moth(values: Values, _: Prints) -> Made:
    """Broad plain upper wings that hang over small lower ones, a thick body, feathered feelers, an eye on each wing."""
    size = values["size"]
    upper = stroke("fan", heel_mm=2 * size, sweep_deg=92)
    lower = stroke("fan", heel_mm=2 * size, sweep_deg=88)
    pieces = both("lower", at(lower, 0.5 * size, 1.5 * size, 138.0))
    pieces += both("upper", at(upper, 0.5 * size, -1.0 * size, 82.0), 1)
    for press, row in ((1.0, 2), (0.5, 3)):
        spot = dot(press, 21.0 * size, -1.0 * size)
        pieces += both("body" if row == 2 else "spot", spot, row)
    body = stroke("thin-thick-thin", length_mm=30 * size, bow_mm=0, press=1.0)
    pieces += [
        Piece("body", at(body, 0.0, -10.0 * size, 90.0), 2),
        Piece("body", at(body, 0.0, -7.0 * size, 90.0), 2),
    ]
    feeler = stroke("tapering-line", length_mm=15 * size, bow_mm=3 * size, press=0.3)
    barb = stroke("whisker", length_mm=4.5 * size, bow_mm=0.3, press=0.3)
    pieces += both("line", at(feeler, 0.8, -10.0 * size, -58.0), 4)
    for n in range(5):
        away = (4 + 2.2 * n) * size
        x, y = 0.8 + away * math.cos(math.radians(-64)), -10.0 * size + away * math.sin(math.radians(-64))
        for turn in (-100.0, -18.0):
            pieces += both("line", at(barb, x, y, turn), 4)
    return Made(
        tuple(pieces), (phrase("lower wings, broad upper ones over them, body, feathered feelers, a spot on each"),)
    )


def _feather(values: Values, prints: Prints) -> Made:
    """Barbs from the tip down, each over the foot of the one above, both sides, then the shaft."""
    barbs, long, wide = round(values["barbs"]), values["length_mm"], values["wide_mm"]
    pieces = []
    for n in range(barbs):
        along = 0.97 - 0.72 * n / max(barbs - 1, 1)
        half = wide / 2 * (0.42 + 0.58 * math.sin(math.pi * (0.25 + 0.6 * n / max(barbs - 1, 1))))
        barb = stroke("feather-barb", length_mm=half * 1.45, bow_mm=half * 0.3)
        lean = -72.0 + 40.0 * min(2.2 * n / max(barbs - 1, 1), 1.0)
        pieces += both("barb", at(at(barb, turn_deg=lean), 0.0, -long * along))
    shaft = stroke("tapering-line", length_mm=long, bow_mm=long * 0.03, press=0.4)
    pieces.append(Piece("shaft", at(shaft, turn_deg=-90.0), 1))
    space = spaced("barb", barbs, 0.72 * long / max(barbs - 1, 1), prints["barb"] * 0.67)
    return Made(
        tuple(pieces),
        (
            plural(
                2 * barbs,
                "{count} barb from the tip down; {space}",
                "{count} barbs from the tip down; {space}",
                space=space.words,
            ),
        ),
        (space,),
    )


def _plume(values: Values, prints: Prints) -> Made:
    """Fine hairs along a bowed shaft, an eye of two colours at its head."""
    barbs, long, wide = round(values["barbs"]), values["length_mm"], values["wide_mm"]
    pieces = []
    for n in range(barbs):
        along = 0.2 + 0.72 * n / max(barbs - 1, 1)
        half = wide / 2 * (0.55 + 0.45 * math.sin(math.pi * along))
        hair = stroke("tapering-line", length_mm=half * 1.3, bow_mm=half * 0.22, press=0.55)
        lean = -22.0 - 34.0 * along
        pieces += both("hair", at(at(hair, turn_deg=lean), 0.0, -long * along))
    shaft = stroke("tapering-line", length_mm=long * 0.96, bow_mm=0, press=0.5)
    pieces.append(Piece("hair", at(shaft, turn_deg=-90.0), 1))
    eye = stroke("square-drop", brush_mm=prints["eye"])
    pieces.append(Piece("eye", at(eye, 0.0, -long * 0.93), 2))
    space = spaced("hair", barbs, 0.72 * long / max(barbs - 1, 1), prints["hair"])
    return Made(
        tuple(pieces),
        (
            plural(
                2 * barbs,
                "{count} hair along a shaft, an eye at its head",
                "{count} hairs along a shaft, an eye at its head",
            ),
        ),
        (space,),
    )


def _fin(values: Values, _: Prints) -> Made:
    """A wide shell of many waves, rays drawn out from its root."""
    size, rays = values["size"], round(values["rays"])
    lobe = stroke("shell", heel_mm=9 * size, sweep_deg=118, waves=5, wave_mm=2.6)
    ray = stroke("tapering-line", length_mm=24 * size, bow_mm=1.2 * size, press=0.4)
    turns = directions(rays, 84.0) if rays else []
    pieces = [Piece("fin", lobe), *(outward("ray", ray, 7.0 * size, turn - 90, 1) for turn in turns)]
    return Made(
        tuple(pieces),
        (
            plural(
                rays,
                "out and in along the rim, {count} ray from its root",
                "out and in along the rim, {count} rays from its root",
            ),
        ),
    )


def _tail(values: Values, _: Prints) -> Made:
    """Two lobes that part, each wide and waved, and a fan between; rays from the root."""
    size, rays = values["size"], round(values["rays"])
    lobe = stroke("wing-lobe", heel_mm=11 * size, sweep_deg=54, waves=2, wave_mm=2)
    middle = stroke("fan", heel_mm=3 * size, sweep_deg=110)
    pieces = [Piece("fin", middle), *both("lobe", at(lobe, 0.0, 3.0 * size, 52.0), 1)]
    ray = stroke("tapering-line", length_mm=21 * size, bow_mm=1.6 * size, press=0.4)
    for turn in (34.0 + 36.0 * n / max(rays - 1, 1) for n in range(rays)):
        pieces += both("ray", at(at(ray, 9.0 * size, 0.0), turn_deg=turn - 90), 2)
    return Made(
        tuple(pieces),
        (
            plural(
                2 * rays,
                "a fan, two lobes that part over it, {count} ray",
                "a fan, two lobes that part over it, {count} rays",
            ),
        ),
    )


def _crown(values: Values, _: Prints) -> Made:
    """Peaks of two flanks, the outer first, the middle one last and in front."""
    count, tall = round(values["peaks"]), values["height_mm"]
    middle, half = (count - 1) / 2, 9.5
    order = sorted(range(count), key=lambda n: -abs(n - middle))
    pieces = []
    for number, n in enumerate(order):
        away = n - middle
        flank = stroke("peak-flank", half_mm=half, height_mm=tall * values["fall"] ** abs(away))
        x, y = away * half * 1.75, values["bow_mm"] * (away / max(middle, 1)) ** 2
        turn = away * values["bow_mm"] * 0.4
        pieces += [
            Piece("peak", at(flank, x, y, turn), number),
            Piece("peak", at(at(flank, mirrored=True), x, y, turn), number),
        ]
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "{count} peak, each of two flanks with the light up the middle",
                "{count} peaks, each of two flanks with the light up the middle",
            ),
        ),
    )


def _scales(values: Values, prints: Prints) -> Made:
    """From the top row down, each row half a step on and over the feet of the one above; bent round if so wished."""
    count, rows, step, tall = round(values["scales"]), round(values["rows"]), values["spread_mm"], values["height_mm"]
    scale = stroke("scale-arch", spread_mm=step, height_mm=tall)
    bend = math.radians(values["arc_deg"])
    radius = count * step / bend if bend > 0.01 else math.inf
    pieces = []
    for row in range(rows):
        more = count + row % 2
        for n in range(more):
            x, y = (n - (more - 1) / 2) * step, row * tall
            if math.isinf(radius):
                pieces.append(Piece("scale", at(scale, x, y), row))
            else:  # rows are circles about a point below, so that scales turn with the cheek
                turn = x / radius
                out = max(radius - y, step)
                place = (out * math.sin(turn), radius - out * math.cos(turn))
                pieces.append(Piece("scale", at(scale, *place, math.degrees(turn)), row))
    space = spaced("scale", count, step, step + prints["scale"] * 0.12, 0)
    says = (
        plural(
            rows,
            "{count} row from the top down, each half a step on",
            "{count} rows from the top down, each half a step on",
        ),
        space.words,
    )
    return Made(tuple(pieces), says, (space,))


def _stripes(values: Values, _: Prints) -> Made:
    """Thin, thick, thin, all aiming at one point, mirrored."""
    count, pieces = round(values["stripes"]), []
    for n in range(count):
        long = max(values["length_mm"] * (0.72 + 0.28 * (count - n) / count), 4)
        stripe = stroke("thin-thick-thin", length_mm=long, bow_mm=long * 0.16, press=0.7)
        turn = -12.0 - 62.0 * n / max(count - 1, 1)
        pieces += both("stripe", at(at(stripe, 13.0 + 3.0 * n, 0.0), turn_deg=turn))
    return Made(
        tuple(pieces),
        (
            plural(
                count, "{count} stripe a side, all aimed at one point", "{count} stripes a side, all aimed at one point"
            ),
        ),
    )


def _flames(values: Values, _: Prints) -> Made:
    count, pieces = round(values["flames"]), []
    middle = (count - 1) / 2
    for n in range(count):
        tall = values["height_mm"] * (1.0 if n % 2 == 0 else 0.72)
        flame = stroke("flame", half_mm=8, height_mm=tall)
        pieces.append(Piece("flame", at(at(flame, mirrored=n > middle), (n - middle) * 12.0, 0.0), n % 2))
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "{count} flame, long and short, leaning outwards",
                "{count} flames, long and short, leaning outwards",
            ),
        ),
    )


def _horns(values: Values, prints: Prints) -> Made:
    """Two horns that curve apart, ringed by thin dark lines from the outside in."""
    apart, tall, rings = values["apart_mm"], values["height_mm"], round(values["rings"])
    horn = at(stroke("horn", half_mm=tall * 0.26, height_mm=tall), apart / 2, 0.0)
    pieces = both("horn", horn)
    along = np.linspace(0.08, 0.56, rings) if rings > 1 else np.array([0.2])[:rings]
    at_s = along * horn.path.curves
    for part, (x, y), (dx, dy) in zip(
        along.tolist(), position(horn.path, at_s).tolist(), direction(horn.path, at_s).tolist(), strict=True
    ):
        turn = math.degrees(math.atan2(dy, dx)) + 90.0
        ring = stroke("thin-thick-thin", length_mm=prints["horn"] * (0.92 - 0.25 * part), bow_mm=1.2, press=0.35)
        pieces += both("ring", at(ring, x, y, turn), 1)
    return Made(
        tuple(pieces),
        (
            plural(
                rings,
                "two horns of {tall:.0f} mm that curve apart, {count} ring on each",
                "two horns of {tall:.0f} mm that curve apart, {count} rings on each",
                tall=tall,
            ),
        ),
    )


def _coat(path: CubicPath, row: int, part: str = "fur") -> Piece:
    """Short upright dabs along a way, their light tips outside."""
    pats = Pats(0.15, 14.0)
    leans = (Key(0, 20), Key(1, 20))
    return Piece(part, Stroke(path, Nib(NibMode.FOLLOWING, -90.0), 0.3, pats=pats, leans=leans), row)


def _fur_head(values: Values, _: Prints) -> Made:
    """Ears, a coat in rows from the outside in, pale patches over the eyes and muzzle, nose and whiskers."""
    size = values["size"]
    pieces = []
    flank = stroke("peak-flank", half_mm=9.5 * size, height_mm=30 * size)
    ear = [flank, at(flank, mirrored=True)]
    for side in (-1, 1):
        pieces += [Piece("ear", at(one, side * 27 * size, -26 * size, side * 20.0)) for one in ear]
    for row, (rx, ry) in enumerate(((41, 38), (31, 29), (21, 20)), 1):
        around = arc(1.0, 88.0, 452.0)
        pieces.append(_coat(CubicPath(tuple((x * rx * size, y * ry * size) for x, y in around.points_mm)), row))
    muzzle = at(stroke("press-drop", length_mm=12 * size, press=1.0), 1.5 * size, 12 * size, 20.0)
    pieces += both("pale", muzzle, 4)
    pieces += both("pale", at(muzzle, 0.0, 3.5 * size), 4)
    brow = stroke("thin-thick-thin", length_mm=18 * size, bow_mm=6 * size, press=0.9)
    pieces += both("pale", at(brow, 8 * size, -9 * size, -14.0), 4)
    pieces += both(
        "ink",
        at(stroke("thin-thick-thin", length_mm=13 * size, bow_mm=4 * size, press=0.8), 10 * size, -3 * size, -8.0),
        5,
    )
    pieces += both(
        "ink",
        at(stroke("thin-thick-thin", length_mm=13 * size, bow_mm=-3 * size, press=0.5), 10 * size, -3 * size, -8.0),
        5,
    )
    nose = stroke("press-drop", length_mm=6 * size, press=0.8)
    pieces += [Piece("ink", at(nose, 0.0, 8 * size, 90.0), 5), *both("ink", at(nose, 2.4 * size, 8 * size, 115.0), 5)]
    mouth = stroke("tapering-line", length_mm=10 * size, bow_mm=-3 * size, press=0.35)
    pieces += both("ink", at(mouth, 0.0, 14 * size, 40.0), 5)
    whisker = stroke("whisker", length_mm=30 * size, bow_mm=3 * size, press=0.4)
    for turn in (-16.0, 0.0, 15.0):
        pieces += both("whisker", at(whisker, 8 * size, 15 * size, turn), 6)
    return Made(tuple(pieces), (phrase("ears, three rows of coat, pale patches, eyes and nose, whiskers"),))


def _lines(values: Values, _: Prints) -> Made:
    """Three whiskers a side, dots at their roots."""
    count, long = round(values["whiskers"]), values["length_mm"]
    pieces = []
    for n in range(count):
        turn = (n / max(count - 1, 1) - 0.5) * values["fan_deg"] + 4.0
        hair = stroke("whisker", length_mm=long, bow_mm=long * 0.1, press=0.45)
        pieces += both("whisker", at(at(hair, 9.0, 0.0), turn_deg=turn))
        root = at(dot(0.5), 7.0 + 2.0 * (n % 2), (n - (count - 1) / 2) * 3.2)
        pieces += both("dot", root, 1)
    return Made(
        tuple(pieces),
        (
            plural(
                count,
                "{count} whisker a side, from the root out, a dot at each root",
                "{count} whiskers a side, from the root out, a dot at each root",
            ),
        ),
    )


UPPER, LOWER = (
    Part("upper", phrase("upper lobe"), "flat-1", WING),
    Part("lower", phrase("lower lobe"), "flat-3-4", WING),
)
FINE = Part("line", phrase("inside line"), "liner-1", LINE, reload=4)

CREATURES = (
    Motif(
        "butterfly",
        phrase("Butterfly, wings in one"),
        phrase("lower lobes, upper lobes, lines inside, body and feelers"),
        "wings",
        (UPPER, LOWER, FINE, Part("body", phrase("body"), "round-3", INK, reload=3)),
        (TILT, SIZE),
        _butterfly,
    ),
    Motif(
        "moth",
        phrase("Moth, wings in one"),
        phrase("broad plain wings, a thick body, feathered feelers"),
        "wings",
        (
            UPPER,
            LOWER,
            Part("body", phrase("body"), "round-5", INK, reload=4),
            Part("spot", phrase("light in the spot"), "round-3", LINE, reload=2),
            Part("line", phrase("feeler"), "liner-1", INK, reload=8),
        ),
        (SIZE,),
        _moth,
    ),
    Motif(
        "barbed-feather",
        phrase("Feather"),
        phrase("barbs from the tip down, each over the foot of the one above"),
        "wings",
        (Part("barb", phrase("barb"), "flat-1-2", reload=3), Part("shaft", phrase("shaft"), "liner-1", LINE)),
        (BARBS, SHAFT, WIDE),
        _feather,
    ),
    Motif(
        "plume",
        phrase("Plume"),
        phrase("fine hairs along a shaft, an eye at its head"),
        "wings",
        (Part("hair", phrase("hair"), "round-2", LINE, reload=6), Part("eye", phrase("eye"), "flat-1-2")),
        (Parameter("barbs", phrase("hairs on each side"), 12, 3, 40, "×"), SHAFT, WIDE),
        _plume,
    ),
    Motif(
        "waved-fin",
        phrase("Fin"),
        phrase("a wide shell of many waves, rays from its root"),
        "wings",
        (Part("fin", phrase("fin"), "flat-1", SCALE), Part("ray", phrase("ray"), "round-2", LINE, reload=3)),
        (SIZE, RAYS),
        _fin,
    ),
    Motif(
        "fish-tail",
        phrase("Tail"),
        phrase("a fan and two lobes that part, rays from the root"),
        "wings",
        (
            Part("fin", phrase("fan"), "flat-1-2", SCALE),
            Part("lobe", phrase("lobe"), "flat-1", SCALE),
            Part("ray", phrase("ray"), "round-2", LINE, reload=3),
        ),
        (SIZE, Parameter("rays", phrase("rays of a lobe"), 3, 0, 8, "×")),
        _tail,
    ),
    Motif(
        "peaks",
        phrase("Crown of peaks"),
        phrase("each of two flanks, the light up the middle"),
        "fields",
        (Part("peak", phrase("flank")),),
        (PEAKS, TALL, FALL, BOW),
        _crown,
    ),
    Motif(
        "scale-rows",
        phrase("Scales"),
        phrase("from the top row down, each half a step on"),
        "fields",
        (Part("scale", phrase("scale"), "flat-1-2", SCALE, reload=2),),
        (SCALES, ROWS, STEP, SCALE_TALL, ROUND),
        _scales,
        in_one_go=True,
    ),
    Motif(
        "aimed-stripes",
        phrase("Aimed stripes"),
        phrase("thin, thick, thin, all aimed at one point"),
        "lines",
        (Part("stripe", phrase("stripe"), "round-4", INK, checks=(Check.LINE_WORK,)),),
        (STRIPES, STRIPE),
        _stripes,
        in_one_go=True,
    ),
    Motif(
        "flame-border",
        phrase("Flames"),
        phrase("long and short, leaning outwards"),
        "fields",
        (Part("flame", phrase("flame"), "flat-1-2", FLAME),),
        (FLAMES, Parameter("height_mm", phrase("height of a long flame"), 34, 6, 150)),
        _flames,
    ),
    Motif(
        "horns",
        phrase("Horns"),
        phrase("two that curve apart, ringed"),
        "fields",
        (Part("horn", phrase("horn")), Part("ring", phrase("ring"), "liner-1", INK, reload=5)),
        (
            Parameter("apart_mm", phrase("from foot to foot"), 30, 0, 120),
            Parameter("height_mm", phrase("height"), 44, 10, 160),
            Parameter("rings", phrase("rings of a horn"), 5, 0, 12, "×"),
        ),
        _horns,
    ),
    Motif(
        "fur-head",
        phrase("Furry head"),
        phrase("ears, a coat in rows, pale patches, nose and whiskers"),
        "fields",
        (
            Part("ear", phrase("ear"), "flat-3-4", FUR),
            Part("fur", phrase("coat"), "flat-1-2", FUR),
            Part("pale", phrase("pale patch"), "round-5", LINE, reload=2),
            Part("ink", phrase("eyes and nose"), "round-3", INK, reload=4),
            Part("whisker", phrase("whisker"), "liner-1", LINE, reload=3),
        ),
        (SIZE,),
        _fur_head,
    ),
    Motif(
        "whisker-set",
        phrase("Whiskers"),
        phrase("from the root out, a dot at each root"),
        "lines",
        (
            Part("whisker", phrase("whisker"), "liner-1", INK, reload=3, checks=(Check.LINE_WORK,)),
            Part("dot", phrase("dot"), "round-2", INK, reload=6, checks=(Check.LINE_WORK,)),
        ),
        (
            Parameter("whiskers", phrase("whiskers on each side"), 3, 1, 6, "×"),
            Parameter("length_mm", phrase("length"), 34, 6, 90),
            Parameter("fan_deg", phrase("how wide they fan out"), 34, 0, 90, "°"),
        ),
        _lines,
        in_one_go=True,
    ),
)
