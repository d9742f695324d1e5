"""Families of loaded strokes by the five holds: petals, leaves, peaks, curls, ribbons.

All is common practice, no published source; numbers are those that were seen to work. Up is towards -y. Petals point up
from their heel at the origin; corner A is the rim.
"""

from __future__ import annotations

import math

import numpy as np

from pennello.lay.families.family import LENGTH, Family, Parameter, Values
from pennello.lay.families.hold import Hold
from pennello.lay.families.shapes import arc, smooth
from pennello.lay.stroke import Exit, Key, Nib, NibMode, PartKey, Stroke, Wiggle
from pennello.path.cubic import CubicPath, Point
from pennello.phrases import phrase

_UP = -90.0

HEEL = Parameter("heel_mm", phrase("radius of the heel's way"), 6, 0, 40)
SWEEP = Parameter("sweep_deg", phrase("how far the rim swings round"), 104, 10, 200, "°")
WAVES = Parameter("waves", phrase("waves of the rim"), 3, 0, 12, "×")
WAVE_MM = Parameter("wave_mm", phrase("height of a wave"), 2.2, 0, 12)
WIDE = Parameter("spread_mm", phrase("from foot to foot"), 22, 2, 200)
TALL = Parameter("height_mm", phrase("height"), 22, 2, 200)
BRUSH = Parameter("brush_mm", phrase("width of the brush"), 19.05, 3, 60)
BOW = Parameter("bow_mm", phrase("bow"), 10, 0, 120)
BROAD = Parameter("broad_deg", phrase("how broad the middle is turned"), 60, 10, 90, "°")
HALF = Parameter("half_mm", phrase("half of its width at the foot"), 9.5, 1, 100)
MIDRIB = Parameter("length_mm", phrase("length of the midrib"), 24, 4, 120)
CURL = Parameter("curl_mm", phrase("size of the curl"), 14, 2, 100)
_FEET = (Key(0.0, 0.06), Key(0.22, 0.5), Key(0.78, 0.5), Key(1.0, 0.06))
PRESSED = (Key(0.0, 0.15), Key(0.3, 0.6), Key(0.7, 0.6), Key(1.0, 0.15))


def _heel(values: Values, waves: float, wave_mm: float) -> Stroke:
    """Corner B on a small arc, corner A swung round it, in and out."""
    half, creep = values["sweep_deg"] / 2, min(values["sweep_deg"] / 2 * 0.77, 80.0)
    radius = values["heel_mm"]
    path = arc(radius, _UP - creep, _UP + creep) if radius > 0 else CubicPath(((0.0, 0.0),) * 4)
    nib = Nib(NibMode.PIVOTING, _UP - half + 180, _UP + half + 180, 1.0)
    return Stroke(path, nib, wiggle=Wiggle(waves, wave_mm, 0.125), pressures=PRESSED)


def _shell(values: Values) -> Stroke:
    return _heel(values, values["waves"], values["wave_mm"])


def _fan(values: Values) -> Stroke:
    return _heel(values, 0.0, 0.0)


def _turned(start: float, broad: float, end: float, middle: float = 0.5) -> tuple[Key, ...]:
    """Return angles of the chisel that swing smoothly from the edge to broad and back onto the edge."""
    keys = []
    for at in np.linspace(0, 1, 13).tolist():
        part, low = (at / middle, start) if at < middle else ((1 - at) / (1 - middle), end)
        keys.append(Key(round(at, 4), round(low + (broad - low) * part * part * (3 - 2 * part), 2)))
    return tuple(keys)


def _arch(wide: float, tall: float) -> CubicPath:
    """Return half an oval from (-wide / 2, 0) up and over to (wide / 2, 0): upright at both feet."""
    half, k = wide / 2, 0.5523
    return CubicPath(
        (
            (-half, 0.0),
            (-half, -tall * k),
            (-half * k, -tall),
            (0.0, -tall),
            (half * k, -tall),
            (half, -tall * k),
            (half, 0.0),
        )
    )


def _fingernail(values: Values) -> Stroke:
    return Stroke(_arch(values["spread_mm"], values["height_mm"]), Nib(NibMode.FIXED, 90.0), pressures=_FEET)


def _cup(values: Values) -> Stroke:
    return Stroke(_arch(values["spread_mm"], -values["height_mm"]), Nib(NibMode.FIXED, 90.0), pressures=_FEET)


def _heart(values: Values) -> Stroke:
    """The left half: the lobe round the heel, out over the top and down, then the chisel to nothing at the point."""
    width, tall = values["brush_mm"], values["height_mm"]
    heel = (-0.49 * width, 0.0)
    lobe = [(x + heel[0], y + heel[1]) for x, y in arc(width * 0.48, 58.0, -210.0).points_mm]
    (bx, by), (ax, ay) = lobe[-2], lobe[-1]
    reach = tall * 0.36 / max(math.hypot(ax - bx, ay - by), 1e-6)
    low = tall - width / 2  # at the end the chisel lies along the way: its corner reaches the point
    closing = 0.3 - 0.25 * min(max(tall / width - 1.85, 0.0), 1.0)  # a long half leans on the midline sooner
    tail = ((ax + (ax - bx) * reach, ay + (ay - by) * reach), (-width * closing, low * 0.7), (-width * 0.15, low))
    return _round_then_out(lobe, tail, math.radians(268) * width * 0.48, math.hypot(ax, ay - low) * 1.06, -1.0)


def _round_then_out(head: list[Point], tail: tuple[Point, ...], round_mm: float, out_mm: float, side: float) -> Stroke:
    """Return a stroke round the heel that then runs out along the chisel; side is 1 where it turns right."""
    turned = round_mm / (round_mm + out_mm)
    left = 1 - turned
    angles = (
        (0.0, 90),
        (turned * 0.85, 90),
        (turned, 80),
        (turned + left * 0.35, 56),
        (turned + left * 0.7, 24),
        (1, 2),
    )
    keys = tuple(Key(at, side * angle) for at, angle in angles)
    pressures = (Key(0, 0.15), Key(turned * 0.3, 0.55), Key(turned + left * 0.3, 0.5), Key(1, 0.1))
    return Stroke(CubicPath((*head, *tail)), Nib(NibMode.KEYED, keys=keys), pressures=pressures)


def _drop(values: Values) -> Stroke:
    """A head round the heel, then the chisel to nothing: one and a half widths of tail."""
    width, tail = values["brush_mm"], values["brush_mm"] * 1.5
    head = list(arc(width * 0.48, 100.0, 385.0).points_mm)
    x, y = head[-1]
    out = ((x * 0.95, y + tail * 0.3), (width * 0.06, tail * 0.75), (0.0, y + tail))
    return _round_then_out(head, out, math.radians(285) * width * 0.48, tail * 1.06, 1.0)


def _flank(values: Values) -> Stroke:
    """From the foot to the tip, A on the outline: dark flank, light dragged up the middle."""
    half, tall = values["half_mm"], values["height_mm"]
    path = CubicPath(((-half, 0.0), (-half * 0.95, -tall * 0.4), (-half * 0.35, -tall * 0.8), (0.0, -tall)))
    return Stroke(path, Nib(NibMode.PIVOTING, 4.0, 84.0, 0.0), pressures=(Key(0, 0.5), Key(0.8, 0.45), Key(1, 0.12)))


def _flame(values: Values) -> Stroke:
    half, tall = values["half_mm"], values["height_mm"]
    path = CubicPath(((0.0, 0.0), (-half * 1.6, -tall * 0.3), (half * 0.9, -tall * 0.55), (half * 0.2, -tall)))
    return Stroke(
        path,
        Nib(NibMode.PIVOTING, 12.0, 72.0, 0.0),
        pressures=(Key(0, 0.1), Key(0.3, 0.55), Key(1, 0.1)),
        lift_mm=tall * 0.3,
        exit=Exit.A,
    )


def _horn(values: Values) -> Stroke:
    half, tall = values["half_mm"], values["height_mm"]
    path = CubicPath(((0.0, 0.0), (-half * 0.6, -tall * 0.4), (half * 0.2, -tall * 0.85), (half * 1.8, -tall)))
    return Stroke(
        path,
        Nib(NibMode.PIVOTING, 4.0, 118.0, 0.0),
        pressures=(Key(0, 0.55), Key(0.7, 0.4), Key(1, 0.08)),
        lift_mm=tall * 0.4,
        exit=Exit.A,
    )


def _barb(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.3, -bow * 0.2), (long * 0.75, -bow * 0.8), (long, -bow * 1.6)))
    nib = Nib(NibMode.KEYED, keys=_turned(4.0, 42.0, 4.0, 0.4))
    return Stroke(path, nib, pressures=(Key(0, 0.2), Key(0.35, 0.5), Key(1, 0.1)))


def _leaf(values: Values, waves: float, wave_mm: float) -> Stroke:
    """One half: B on the midrib, A ahead of it, swung from far out to almost along it; its mirror image is the rest."""
    long = values["length_mm"]
    path = CubicPath(((0.0, 0.0), (long / 3, 0.0), (2 * long / 3, 0.0), (long, 0.0)))
    nib = Nib(NibMode.PIVOTING, 147.0, 180.0, 1.0)
    pressures = (Key(0, 0.15), Key(0.25, 0.5), Key(0.75, 0.45), Key(1, 0.1))
    return Stroke(path, nib, wiggle=Wiggle(waves, wave_mm, 0.125), pressures=pressures, lift_mm=3.0, exit=Exit.A)


def _leaf_half(values: Values) -> Stroke:
    return _leaf(values, values["waves"], values["wave_mm"])


def _leaf_plain(values: Values) -> Stroke:
    return _leaf(values, 0.0, 0.0)


def _pushed(path: CubicPath, values: Values, start: float = 4.0, end: float = 4.0, middle: float = 0.5) -> Stroke:
    keys = _turned(start, values["broad_deg"], end, middle)
    return Stroke(path, Nib(NibMode.KEYED, keys=keys), pressures=(Key(0, 0.2), Key(middle, 0.6), Key(1, 0.15)))


def _bowed(long: float, bow: float) -> CubicPath:
    return CubicPath(((0.0, 0.0), (long * 0.3, -bow), (long * 0.7, -bow), (long, 0.0)))


def _one_stroke_leaf(values: Values) -> Stroke:
    return _pushed(_bowed(values["length_mm"], values["bow_mm"] * 0.6), values)


def _c(values: Values) -> Stroke:
    """A backwards C: on corner A, pushed broad, back onto A; the light outside."""
    nib = Nib(NibMode.FOLLOWING, -90.0)
    path = arc(values["curl_mm"], 250.0, 80.0)
    return Stroke(path, nib, parts=_onto_a(values["broad_deg"] / 62.0), on_part=True, pressures=PRESSED)


def _onto_a(broad: float) -> tuple[PartKey, ...]:
    """Return how the edge comes down from corner A and goes back onto it; broad is the greatest part, about 1."""
    shares = ((0, 0.06), (0.15, 0.32), (0.35, 0.8), (0.5, 1.0), (0.65, 0.8), (0.85, 0.32), (1, 0.06))
    return tuple(PartKey(at, 0.0, round(min(max(share * broad, 0.04), 1.0), 3)) for at, share in shares)


def _comma(values: Values) -> Stroke:
    """Starts broad and runs out to nothing."""
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.35, -bow * 0.9), (long * 0.85, -bow * 0.4), (long, bow)))
    keys = _turned(4.0, 66.0, 3.0, 0.3)
    return Stroke(path, Nib(NibMode.KEYED, keys=keys), pressures=(Key(0, 0.2), Key(0.3, 0.6), Key(1, 0.12)))


def _curl(values: Values) -> Stroke:
    """A curl of a wing or a wave: out, over and in upon itself."""
    size = values["curl_mm"]
    angles = np.linspace(math.radians(150), math.radians(150 + 300), 9)
    radius = np.linspace(1.0, 0.42, 9) * size
    points: list[Point] = [
        (float(r * math.cos(a)), float(r * math.sin(a))) for r, a in zip(radius, angles, strict=True)
    ]
    wide = values["broad_deg"] / 90.0
    parts = tuple(
        PartKey(at, 0.0, round(min(max(part * wide, 0.04), 1.0), 3))
        for at, part in ((0.0, 0.06), (0.2, 0.7), (0.4, 1.05), (0.6, 0.75), (0.85, 0.3), (1.0, 0.05))
    )
    nib = Nib(NibMode.PIVOTING, 150.0 + 180.0 - 14.0, 450.0 + 180.0 - 14.0, 0.0)
    pressures = (Key(0, 0.2), Key(0.4, 0.55), Key(1, 0.15))
    return Stroke(smooth(points), nib, parts=parts, pressures=pressures)


def _s(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.35, -1.6 * bow), (long * 0.65, 1.6 * bow), (long, 0.0)))
    return _pushed(path, values)


def _swoosh(values: Values) -> Stroke:
    long, bow = values["length_mm"], values["bow_mm"]
    path = CubicPath(((0.0, 0.0), (long * 0.25, bow * 0.9), (long * 0.6, -bow * 1.4), (long, -bow * 0.6)))
    return _pushed(path, values, 3.0, 3.0, 0.45)


def _crest(values: Values) -> Stroke:
    """A wave: its back rises along the rim, folds over and runs out to a thin curl; the heel hangs inside."""
    long, tall = values["length_mm"], values["height_mm"]
    way = (
        (0.0, 0.0),
        (0.3, -0.04),
        (0.5, -0.42),
        (0.66, -0.78),
        (0.86, -1.0),
        (1.04, -0.8),
        (1.0, -0.54),
        (0.86, -0.42),
    )
    points: list[Point] = [(x * long, y * tall) for x, y in way]
    parts = tuple(
        PartKey(at, 0.0, part) for at, part in ((0, 0.05), (0.2, 0.4), (0.5, 0.95), (0.7, 0.7), (0.88, 0.25), (1, 0.05))
    )
    pressures = (Key(0, 0.1), Key(0.3, 0.55), Key(0.75, 0.5), Key(1, 0.08))
    nib = Nib(NibMode.FOLLOWING, 90.0)
    return Stroke(smooth(points), nib, parts=parts, on_part=True, pressures=pressures)


def _ribbon(values: Values) -> Stroke:
    """The chisel keeps its direction over waves: broad, thin, and turned over."""
    long, bow = values["length_mm"], values["bow_mm"]
    x = np.linspace(0, 1, 17)
    points: list[Point] = [(float(a * long), float(bow * math.sin(a * 4 * math.pi))) for a in x]
    steep = math.degrees(math.atan2(4 * math.pi * bow, long))  # along the way at both ends, so that they are thin
    pressures = (Key(0, 0.12), Key(0.2, 0.5), Key(0.8, 0.5), Key(1, 0.12))
    return Stroke(smooth(points), Nib(NibMode.FIXED, steep), pressures=pressures)


_FLOWER = (HEEL, SWEEP)
_SMALL_ARCH = (
    Parameter("spread_mm", phrase("from foot to foot"), 11, 2, 200),
    Parameter("height_mm", phrase("height"), 9, 2, 200),
)
_LONG = Parameter("length_mm", phrase("length"), 70, 4, 300)

HELD = (
    Family(
        "shell",
        phrase("Shell petal"),
        phrase("round the heel, the rim in and out"),
        "petals",
        "flat-3-4",
        (*_FLOWER, WAVES, WAVE_MM),
        _shell,
        Hold.HEEL,
    ),
    Family(
        "fan", phrase("Fan"), phrase("round the heel, the rim plain"), "petals", "flat-3-4", _FLOWER, _fan, Hold.HEEL
    ),
    Family(
        "fingernail",
        phrase("Fingernail"),
        phrase("upright, up and over: both feet come to a point"),
        "petals",
        "flat-3-4",
        (WIDE, TALL),
        _fingernail,
        Hold.UPRIGHT,
    ),
    Family(
        "cup",
        phrase("Cup"),
        phrase("upright, down and up: a bucket, the light edge up"),
        "petals",
        "flat-3-4",
        (WIDE, Parameter("height_mm", phrase("depth"), 16, 2, 200)),
        _cup,
        Hold.UPRIGHT,
    ),
    Family(
        "crescent",
        phrase("Crescent"),
        phrase("upright and shallow: a moon on its back"),
        "petals",
        "flat-3-4",
        (
            Parameter("spread_mm", phrase("from tip to tip"), 40, 4, 250),
            Parameter("height_mm", phrase("depth"), 12, 1, 120),
        ),
        _cup,
        Hold.UPRIGHT,
    ),
    Family(
        "scale-arch",
        phrase("Scale"),
        phrase("a small upright arch"),
        "petals",
        "flat-1-2",
        _SMALL_ARCH,
        _fingernail,
        Hold.UPRIGHT,
    ),
    Family(
        "heart-lobe",
        phrase("Heart half"),
        phrase("from the cleft over the lobe to the point; the other half is its mirror image"),
        "petals",
        "flat-1-2",
        (
            Parameter("brush_mm", phrase("width of the brush"), 12.7, 3, 60),
            Parameter("height_mm", phrase("from the heel to the point"), 24, 4, 200),
        ),
        _heart,
        Hold.HEEL,
    ),
    Family(
        "c-curve",
        phrase("C stroke"),
        phrase("thin, broad, thin round a C, the light outside"),
        "petals",
        "flat-1-2",
        (CURL, BROAD),
        _c,
        Hold.RIM,
    ),
    Family(
        "comma-stroke",
        phrase("Comma"),
        phrase("broad, then out to nothing"),
        "petals",
        "flat-1-2",
        (Parameter("length_mm", phrase("length"), 32, 4, 200), BOW),
        _comma,
        Hold.PUSH,
    ),
    Family(
        "square-drop",
        phrase("Flat teardrop"),
        phrase("a head round the heel, then the chisel to nothing"),
        "petals",
        "flat-1-2",
        (Parameter("brush_mm", phrase("width of the brush"), 12.7, 3, 60),),
        _drop,
        Hold.HEEL,
    ),
    Family(
        "wing-lobe",
        phrase("Wing lobe"),
        phrase("a wide shell of three waves"),
        "wings",
        "flat-1",
        (
            HEEL,
            Parameter("sweep_deg", phrase("how far the rim swings round"), 100, 10, 200, "°"),
            WAVES,
            Parameter("wave_mm", phrase("height of a wave"), 3, 0, 12),
        ),
        _shell,
        Hold.HEEL,
    ),
    Family(
        "wing-curl",
        phrase("Curl"),
        phrase("out, over and in upon itself"),
        "wings",
        "flat-1-2",
        (CURL, BROAD),
        _curl,
        Hold.RIM,
    ),
    Family(
        "peak-flank",
        phrase("Peak flank"),
        phrase("from the foot to the tip; the other flank is its mirror image"),
        "peaks",
        "flat-3-4",
        (HALF, Parameter("height_mm", phrase("height"), 34, 4, 200)),
        _flank,
        Hold.RIM,
    ),
    Family(
        "flame",
        phrase("Flame"),
        phrase("on the rim, an S to the tip"),
        "peaks",
        "flat-1-2",
        (HALF, Parameter("height_mm", phrase("height"), 36, 4, 200)),
        _flame,
        Hold.RIM,
    ),
    Family(
        "horn",
        phrase("Horn"),
        phrase("on the rim, curved over"),
        "peaks",
        "flat-3-4",
        (HALF, Parameter("height_mm", phrase("height"), 40, 4, 200)),
        _horn,
        Hold.RIM,
    ),
    Family(
        "feather-barb",
        phrase("Feather barb"),
        phrase("a short push that flicks up"),
        "wings",
        "flat-1-2",
        (Parameter("length_mm", phrase("length"), 20, 4, 100), Parameter("bow_mm", phrase("bow"), 6, 0, 60)),
        _barb,
        Hold.PUSH,
    ),
    Family(
        "leaf-half",
        phrase("Wiggle leaf half"),
        phrase("B on the midrib, the rim in and out"),
        "leaves",
        "flat-3-4",
        (MIDRIB, WAVES, Parameter("wave_mm", phrase("height of a wave"), 1.9, 0, 12)),
        _leaf_half,
        Hold.HEEL,
    ),
    Family(
        "leaf-plain",
        phrase("Leaf half"),
        phrase("B on the midrib, the rim plain"),
        "leaves",
        "flat-3-4",
        (MIDRIB,),
        _leaf_plain,
        Hold.HEEL,
    ),
    Family(
        "one-stroke-leaf",
        phrase("One-stroke leaf"),
        phrase("chisel, push, chisel"),
        "leaves",
        "flat-1-2",
        (LENGTH, BOW, BROAD),
        _one_stroke_leaf,
        Hold.PUSH,
    ),
    Family(
        "s-curve",
        phrase("S stroke"),
        phrase("thin, broad, thin through an S"),
        "lines",
        "flat-1-2",
        (LENGTH, BOW, BROAD),
        _s,
        Hold.PUSH,
    ),
    Family(
        "long-swoosh",
        phrase("Swoosh"),
        phrase("long, thin at both ends"),
        "lines",
        "flat-1",
        (_LONG, BOW, BROAD),
        _swoosh,
        Hold.PUSH,
    ),
    Family(
        "wave-crest",
        phrase("Wave crest"),
        phrase("along the back, over, and out in a thin curl"),
        "fields",
        "flat-1",
        (Parameter("length_mm", phrase("length"), 44, 6, 200), Parameter("height_mm", phrase("height"), 26, 4, 150)),
        _crest,
        Hold.RIM,
    ),
    Family(
        "ribbon",
        phrase("Ribbon"),
        phrase("over waves with the chisel kept: it turns over"),
        "lines",
        "flat-1-2",
        (_LONG, Parameter("bow_mm", phrase("height of a wave"), 7, 1, 80)),
        _ribbon,
        Hold.UPRIGHT,
    ),
)
