"""The designs: each a whole work on its chart."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from designs.studio import NICE, SKIP, Points, Studio, laid, patted
from pennello.design.line_work import Taper
from pennello.design.plan import Plan
from pennello.lay.stroke import Stroke

Swaps = Mapping[str, str]


def leaves(*where: tuple[float, float, float, float], bow: float = 5.0) -> list[Stroke]:
    """Return leaves of one stroke: x and y of their feet, where they point, degrees, and how long."""
    return [laid("one-stroke-leaf", x, y, turn, length_mm=long, bow_mm=bow) for x, y, turn, long in where]


def ring(x: float, y: float, radius: float, count: int, mm: float) -> list[tuple[float, float, float]]:
    """Return dots in a ring."""
    turns = (2 * math.pi * at / count for at in range(count))
    return [(x + radius * math.cos(turn), y + radius * math.sin(turn), mm) for turn in turns]


def dahlia_crown(title: str, swaps: Swaps) -> Plan:
    """A crown of dahlias over the brows."""
    d = Studio(title, "face", 40.0, swaps)
    outer = d.cake("Dahlia, outer", "dahlia-wrist", "flat-3-4", 1.5)
    inner = d.cake("Dahlia, inner", "dahlia-wrist", "flat-1-2", 3.0)
    dusk = d.cake("Dusk petal", "lavender-dusk", "flat-1-2", 1.0)
    leaf = d.cake("Leaf", "kelp-swoosh", "flat-1-2", 3.0, per=3)
    press = d.dip("Pressed petal", "petal-brush", "sea-lavender", "dusk-violet")
    white = d.pan("White", "round-2", "foam-white")
    gold = d.pan("Gold", "round-4", "lantern-yellow")
    d.part("Leaves")
    d.strokes(
        "Leaf",
        leaf,
        leaves((20, -50, -62, 15), (16, -20, 168, 18), (45, -44, -50, 13), (61, -6, 84, 26), (50, -14, 150, 20)),
        twin=True,
    )
    d.part("Side flowers")
    d.motif(
        "shell-flower",
        34,
        -36,
        {"petal": dusk, "inner": dusk},
        twin=True,
        petals=5,
        rows=2,
        heel_mm=3,
        inset_mm=8,
        name="Dusk flower",
    )
    d.part("Pressed flowers", NICE)
    d.motif("dip-flower", 57, -10, {"petal": press, "line": white, "centre": gold}, twin=True, scale=0.8, petals=5)
    d.part("Dahlia")
    d.motif(
        "shell-flower", 0, -39, {"petal": outer, "inner": inner}, petals=6, rows=2, heel_mm=5, waves=2, name="Dahlia"
    )
    d.dots("Heart", gold, [(0, -39, 3.4), *ring(0, -39, 4.6, 6, 2.0)])
    d.part("Dots and drops", SKIP)
    d.dots(
        "Dots",
        white,
        [
            (9, -9, 1.6),
            (13.5, -10.5, 1.2),
            (50, -27, 1.8),
            (54, -24, 1.3),
            (64, 24, 2.0),
            (63, 30, 1.5),
            (61.5, 35, 1.1),
        ],
        twin=True,
    )
    d.lines("Drop", gold, [[(0, -12), (0, -3)]], 2.6, Taper.FROM_TIP)
    return d.done()


def poppy_brow(title: str, swaps: Swaps) -> Plan:
    """Poppies in a C round one eye."""
    d = Studio(title, "face", 55.0, swaps)
    petal = d.cake("Poppy petal", "poppy-brow", "flat-3-4", 3.0)
    small = d.cake("Small petal", "poppy-brow", "flat-1-2", 5.0)
    leaf = d.cake("Leaf", "kelp-swoosh", "flat-1-2", 3.0, per=3)
    stem = d.pan("Stem", "round-2", "kelp-green")
    ink = d.pan("Ink", "round-3", "peat-black")
    white = d.pan("White", "round-2", "foam-white")
    d.part("Stems and leaves", one_sided=True)
    d.lines(
        "Stem",
        stem,
        [
            [(14, -28), (24, -40), (38, -38), (52, -22), (59, 4), (54, 26), (44, 40), (30, 44)],
            [(58, 10), (62, 26), (58, 42)],
            [(46, 34), (47, 48), (42, 60)],
        ],
        1.6,
        Taper.EVEN,
    )
    d.strokes(
        "Leaf",
        leaf,
        leaves(
            (16, -34, 190, 20),
            (22, -46, 235, 20),
            (60, -2, 60, 22),
            (44, 40, 140, 18),
            (54, 30, 62, 24),
            (47, 46, 95, 16),
        ),
    )
    d.part("Poppies", one_sided=True)
    d.motif(
        "shell-flower", 39, -36, {"petal": petal, "inner": small}, petals=4, rows=1, heel_mm=2.5, waves=3, name="Poppy"
    )
    d.motif(
        "shell-flower",
        55,
        22,
        {"petal": small, "inner": small},
        petals=4,
        rows=1,
        heel_mm=2,
        waves=3,
        turn=30,
        name="Small poppy",
    )
    d.dots("Poppy heart", ink, [(39, -36, 4.2), (55, 22, 3.4)])
    d.dots(
        "Stamens",
        d.pan("Fine ink", "round-2", "peat-black"),
        [*ring(39, -36, 6.4, 11, 1.2), *ring(55, 22, 4.8, 8, 1.0)],
    )
    d.part("Buds", NICE, one_sided=True)
    bud = d.dip("Bud", "petal-brush", "poppy-red", "dulse-crimson")
    d.strokes(
        "Bud",
        bud,
        [
            laid("press-petal", 13, -27, 160, length_mm=3, press=0.55),
            laid("press-petal", 31, 45, 165, length_mm=3, press=0.5),
            laid("press-petal", 42, 59, 110, length_mm=3, press=0.45),
        ],
    )
    d.part("Dots", SKIP, one_sided=True)
    d.dots(
        "Dots",
        white,
        [
            (39, -36, 1.2),
            (55, 22, 1.0),
            (10, -20, 1.6),
            (7, -15, 1.3),
            (5, -10.5, 1.0),
            (20, 52, 1.6),
            (17, 56, 1.2),
            (36, 76, 1.5),
            (33, 81, 1.1),
        ],
    )
    return d.done()


def moth_mask(title: str, swaps: Swaps) -> Plan:
    """A moth spread over both eyes."""
    d = Studio(title, "face", 32.0, swaps)
    sweep = d.cake("Wing", "moth-mask", "flat-3-4", 1.0)
    fore = d.cake("Wing edge", "moth-mask", "flat-1-2", 1.0)
    ink = d.pan("Ink", "round-4", "peat-black")
    white = d.pan("White", "round-3", "foam-white")
    fine = d.pan("Fine white", "liner-1", "foam-white")
    d.part("Wings")
    d.motif("eye-mask", 0, 2, {"sweep": sweep, "peak": fore, "dot": white}, apart_mm=62, hole_mm=26, name="Wings")
    d.part("Body")
    d.lines("Body", ink, [[(0, -26), (0, -8), (0, 14)], [(0, -22), (0, -4)]], 6.0, Taper.MIDDLE)
    d.lines("Feelers", ink, [[(1.5, -25), (8, -40), (22, -52)]], 1.6, Taper.TO_TIP, twin=True)
    d.part("Feathers of the feelers", NICE)
    barbs = []
    for at in range(6):
        x, y = 5.2 + 2.8 * at, -34 - 3.2 * at
        barbs += [[(x, y), (x - 3.2, y - 4.0)], [(x, y), (x + 4.6, y + 0.4)]]
    d.lines("Barb", fine, barbs, 0.8, Taper.TO_TIP, twin=True)
    d.part("Dots", SKIP)
    d.dots("Dots", white, [(0, -20, 1.6), (0, -14, 1.8), (0, -8, 1.8), (0, -2, 1.6), (0, 4, 1.4)])
    d.dots("Dots", white, [(66, 8, 2.4), (64, 15, 1.9), (61, 21, 1.5)], twin=True)
    return d.done()


def beetle_shell(title: str, swaps: Swaps) -> Plan:
    """A beetle on the cheek, and scales of its shell down the jaw."""
    d = Studio(title, "cheek-left", 24.0, swaps)
    scale = d.cake("Scale", "beetle-shell", "flat-1-2", 1.0, per=3)
    shell = d.cake("Wing case", "beetle-shell", "flat-1", 0.3)
    ink = d.pan("Ink", "round-3", "peat-black")
    dark = d.pan("Dark", "round-5", "deep-channel")
    white = d.pan("White", "round-2", "foam-white")
    d.part("Scales", one_sided=True)
    d.motif(
        "scale-rows",
        4,
        71,
        scale,
        turn=-36,
        scales=6,
        rows=4,
        spread_mm=12,
        height_mm=8,
        arc_deg=50,
        name="Scales",
        short={"rows": 2.0},
    )
    d.part("Beetle", one_sided=True)
    at = (-14.0, 27.0, 22.0)
    legs = [[(6, -10), (14, -18), (15, -26)], [(8, 0), (19, -2), (24, -9)], [(7, 9), (16, 15), (18, 24)]]
    d.lines("Legs", ink, [_put(leg, *at, side) for side in (1, -1) for leg in legs], 1.8, Taper.TO_TIP)
    d.strokes("Wing cases", shell, _pair("leaf-plain", *_put([(0, -15)], *at)[0], 90 + at[2], length_mm=34))
    d.dots("Head", dark, [(*_put([(0, -16)], *at)[0], 8.0)])
    d.lines("Feelers", ink, [_put([(1, -19), (5, -26), (11, -28)], *at, side) for side in (1, -1)], 1.0, Taper.TO_TIP)
    d.part("Lights", NICE, one_sided=True)
    d.lines("Light", white, [_put([(5, -6), (7, 2), (5, 10)], *at)], 1.2)
    d.part("Dots", SKIP, one_sided=True)
    d.dots("Dots", white, [(5.0 + 4 * n, -2.0 - 5 * n, 2.4 - 0.35 * n) for n in range(4)])
    return d.done()


def _put(points: Points, x: float, y: float, turn: float, side: int = 1) -> Points:
    """Return points moved and turned, on the other side where `side` is -1."""
    cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return [(x + side * a * cos - b * sin, y + side * a * sin + b * cos) for a, b in points]


def _pair(key: str, x: float, y: float, turn: float, length_mm: float) -> tuple[Stroke, Stroke]:
    """Return a stroke and its mirror image about the line that it points along."""
    one = laid(key, x, y, turn, length_mm=length_mm)
    return one, laid(key, x, y, turn - 180, mirrored=True, length_mm=length_mm)


def peacock_eye(title: str, swaps: Swaps) -> Plan:
    """Plumes that spread from the corner of one eye."""
    d = Studio(title, "face", -8.0, swaps)
    petal = d.cake("Plume petal", "peacock-plume", "flat-1-2", 12.0, per=2)
    eye = d.dip("Plume head", "petal-brush", "samphire", "reed-gold", per=3)
    deep = d.pan("Deep", "round-5", "deep-channel")
    sky = d.pan("Sky", "round-3", "skylark-blue")
    gold = d.pan("Gold", "round-4", "reed-gold")
    d.part("Eye frame", one_sided=True)
    d.motif(
        "eye-frame",
        31,
        6,
        {"petal": petal, "dot": gold},
        petals=11,
        length_mm=17,
        wide_mm=40,
        hole_mm=30,
        name="Eye frame",
    )
    d.part("Plumes", one_sided=True)
    heads = [(31 + far * math.cos(turn), 5 + far * math.sin(turn), turn) for turn, far in _PLUMES]
    d.strokes(
        "Plume heads",
        eye,
        [laid("press-petal", x, y, math.degrees(turn) + 180, length_mm=4, press=0.85) for x, y, turn in heads],
    )
    inner = [(x - 7 * math.cos(turn), y - 7 * math.sin(turn)) for x, y, turn in heads]
    d.dots("Plume eyes", deep, [(x, y, 5.6) for x, y in inner])
    d.part("Lights", NICE, one_sided=True)
    d.dots("Lights", sky, [(x - 0.6, y - 0.8, 2.4) for x, y in inner])
    d.part("Dots", SKIP, one_sided=True)
    d.dots("Dots", gold, [(9, -10, 2.2), (4, -13, 1.8), (0, -15, 1.4), (11, 16, 1.8), (9, 22, 1.5), (8, 28, 1.2)])
    return d.done()


_PLUMES = tuple(
    (math.radians(turn), far) for turn, far in ((-130, 45), (-106, 49), (-82, 50), (-59, 46), (-38, 38), (52, 38))
)
"""Where each plume's head lies about the eye."""


def kelp_sleeve(title: str, swaps: Swaps) -> Plan:
    """Kelp up the arm, foam at the wrist."""
    d = Studio(title, "forearm", 16.0, swaps)
    frond = d.cake("Frond", "kelp-swoosh", "flat-3-4", 4.0, per=2)
    blade = d.cake("Blade", "kelp-swoosh", "flat-1-2", 8.0, per=3)
    stem = d.pan("Stem", "round-4", "bladderwrack")
    star = d.cake("Sea star", "poppy-brow", "flat-1-2", 5.0, per=3)
    light = d.pan("Foam", "round-3", "foam-white")
    fine = d.pan("Bubble", "liner-1", "foam-white")
    d.part("Fronds", one_sided=True)
    stems = [
        [(36, 18), (70, 4), (105, 12), (140, -2), (180, 6), (214, -2)],
        [(60, -22), (90, -12), (120, -18), (150, -12)],
    ]
    d.lines("Stems", stem, stems, 3.0, Taper.TO_TIP)
    d.strokes(
        "Frond",
        frond,
        leaves(
            (60, 8, -48, 34),
            (78, 6, 42, 34),
            (100, 10, -50, 32),
            (118, 8, 46, 30),
            (140, 0, -44, 28),
            (158, 2, 40, 26),
            bow=7,
        ),
    )
    d.strokes(
        "Blade",
        blade,
        leaves(
            (176, 6, -40, 22),
            (190, 4, 36, 20),
            (204, 0, -30, 18),
            (90, -12, -40, 20),
            (112, -17, -36, 18),
            (132, -15, -30, 16),
            bow=4,
        ),
    )
    d.part("Sea star", NICE, one_sided=True)
    d.strokes("Sea star", star, leaves(*((40, 2, math.degrees(turn), 24) for turn in _FIVE), bow=1.5))
    d.dots(
        "Sea star dots",
        light,
        [
            (40 + far * math.cos(turn), 2 + far * math.sin(turn), 2.6 - far / 10)
            for turn in _FIVE
            for far in (5.0, 10.0, 15.0)
        ],
    )
    d.part("Foam", NICE, one_sided=True)
    foam = [
        [(226, 12), (212, 20), (196, 16), (192, 6), (200, 1), (205, 7)],
        [(230, -12), (220, -18), (210, -14), (212, -7)],
        [(232, 2), (222, 4), (216, 0)],
    ]
    d.lines("Foam", light, foam, 2.2, Taper.TO_TIP)
    d.part("Bubbles", SKIP, one_sided=True)
    d.lines("Bubbles", fine, [_circle(x, y, size) for x, y, size in _BUBBLES], 0.8, Taper.EVEN)
    d.dots("Bubble lights", light, [(x - size * 0.4, y - size * 0.4, 1.2) for x, y, size in _BUBBLES])
    return d.done()


_FIVE = tuple(math.radians(-90 + 72 * at) for at in range(5))
_BUBBLES = (
    (66, -24, 5.0),
    (78, -31, 3.0),
    (58, -35, 3.4),
    (52, 30, 3.6),
    (64, 34, 2.4),
    (204, -22, 2.6),
    (196, 22, 0.9),
)


def _circle(x: float, y: float, radius: float) -> Points:
    turns = (math.pi * at / 8 for at in range(17))
    return [(x + radius * math.cos(turn), y + radius * math.sin(turn)) for turn in turns]


def marsh_fox(title: str, swaps: Swaps) -> Plan:
    """A fox, all of fur."""
    d = Studio(title, "face", 48.0, swaps)
    base = d.pan("Orange base", "dauber-small", "ember-orange", "reed-gold", per=30)
    coat = d.cake("Coat", "lantern-glow", "flat-1-2", 12.0, per=6)
    pale = d.pan("Pale fur", "filbert-1-2", "foam-white", per=5)
    ink = d.pan("Ink", "round-4", "peat-black")
    fine = d.pan("Whisker", "liner-1", "peat-black")
    d.part("Base")
    for name, place in _FOX_BASE:
        d.strokes(name, base, [patted(place)], twin=True)
    d.part("Ears")
    d.strokes(
        "Ears",
        coat,
        [
            laid("peak-flank", 36, -32, 22, half_mm=9, height_mm=27),
            laid("peak-flank", 36, -32, 22, mirrored=True, half_mm=9, height_mm=27),
        ],
        twin=True,
    )
    d.part("Fur")
    d.strokes("Cheek fur", coat, tufts(_FOX_CHEEK, 17), twin=True)
    d.strokes(
        "Brow fur",
        coat,
        [laid("feather-barb", x, y, -90 + 1.3 * x, length_mm=15, bow_mm=3) for x, y in _FOX_BROW],
        twin=True,
    )
    d.part("Muzzle")
    d.strokes("Muzzle", pale, tufts(_FOX_MUZZLE, 17), twin=True)
    d.strokes("Pale brows", pale, [laid("one-stroke-leaf", 7, -6, -38, length_mm=24, bow_mm=4)], twin=True)
    d.part("Nose and lines")
    d.lines(
        "Nose", ink, [[(-8, 42), (0, 40), (8, 42)], [(-6, 45), (0, 46), (6, 45)], [(0, 44), (0, 54)]], 5.0, Taper.MIDDLE
    )
    d.lines(
        "Eye lines",
        ink,
        [[(15, 6), (11, 14), (8, 26)], [(46, 3), (54, -4), (60, -14)], [(18, -6), (30, -9), (44, -4), (50, -2)]],
        2.6,
        Taper.MIDDLE,
        twin=True,
    )
    d.part("Whiskers", NICE)
    d.lines(
        "Whiskers",
        fine,
        [[(22, 56), (44, 52), (62, 56)], [(22, 60), (42, 62), (56, 70)], [(21, 53), (44, 44), (62, 42)]],
        0.9,
        Taper.TO_TIP,
        twin=True,
    )
    d.part("Whisker dots", SKIP)
    d.dots("Whisker dots", ink, [(19, 55, 1.6), (17, 60, 1.6), (21, 51, 1.4)], twin=True)
    return d.done()


_FOX_BASE: tuple[tuple[str, Points], ...] = (
    ("Brow base", ((0, -26), (0, -12), (14, -11), (32, -17), (50, -13), (58, -2), (62, -22), (46, -38), (24, -30))),
    ("Cheek base", ((9, 23), (20, 21), (38, 20), (58, 10), (62, 22), (56, 38), (44, 40), (30, 32), (14, 32))),
    ("Nose base", ((0, -14), (6, -12), (8, 4), (9, 30), (4, 38), (0, 38))),
)
_FOX_CHEEK: Points = ((46, 36), (50, 27), (51, 17), (51, 7), (42, 46), (36, 42), (42, 32), (44, 22))
_FOX_BROW: Points = ((3, -34), (11, -33), (20, -36), (3, -24), (12, -23), (50, -26), (46, -18), (54, -14))
_FOX_MUZZLE: Points = ((20, 44), (26, 52), (30, 60), (22, 54), (30, 47), (36, 56), (24, 62))


def tufts(feet: Points, long: float) -> list[Stroke]:
    """Return tufts of fur that lie away from the middle of the face."""
    return [laid("feather-barb", x, y, math.degrees(math.atan2(y - 22, x)), length_mm=long, bow_mm=3) for x, y in feet]


def heron_shoulder(title: str, swaps: Swaps) -> Plan:
    """A heron in the reeds before the moon."""
    d = Studio(title, "shoulder", 62.0, swaps)
    wing = d.cake("Wing", "heron-fur", "flat-1-2", 4.0, per=3)
    neck = d.cake("Neck", "heron-fur", "flat-1-2", 0.0)
    reed = d.pan("Reed", "round-4", "bladderwrack")
    green = d.pan("Reed, light", "round-3", "kelp-green")
    beak = d.pan("Beak", "round-4", "lantern-yellow")
    ink = d.pan("Ink", "round-2", "peat-black")
    small = d.pan("Ground, edge", "round-3", "mussel-blue")
    large = d.pan("Ground", "flat-3-4", "mussel-blue")
    moon = d.pan("Moon", "dauber-medium", "cockle-cream", per=4)
    d.part("Moon")
    d.strokes(
        "Moon",
        moon,
        [patted([(94 + 15 * math.cos(a), 22 + 15 * math.sin(a)) for a in (i * math.pi / 4 for i in range(8))])],
    )
    bird = d.part("Heron")
    d.lines(
        "Legs",
        ink,
        [[(72, 92), (70, 106), (73, 120), (68, 124)], [(82, 92), (84, 106), (80, 122), (86, 125)]],
        1.8,
        Taper.EVEN,
    )
    d.strokes("Wing", wing, leaves((58, 62, 62, 40), (64, 58, 56, 42), (70, 56, 50, 42), (78, 56, 44, 38), bow=6))
    d.strokes("Neck", neck, [laid("s-curve", 62, 66, -82, length_mm=46, bow_mm=11, broad_deg=46)])
    d.strokes("Head", neck, [laid("one-stroke-leaf", 76, 18, 188, length_mm=18, bow_mm=3, broad_deg=50)])
    d.lines("Beak", beak, [[(59, 20), (50, 22), (38, 26)]], 3.2, Taper.TO_TIP)
    d.dots("Eye", ink, [(63, 18, 1.6)])
    d.lines("Crest", ink, [[(68, 14), (80, 12), (90, 16)], [(68, 15), (80, 16), (88, 21)]], 1.4, Taper.TO_TIP)
    d.part("Ground", NICE)
    d.ground(
        "Dusk",
        small,
        large,
        [bird, "moon"],
        [(76 + 54 * math.cos(a), 62 + 60 * math.sin(a)) for a in (i * math.pi / 6 for i in range(12))],
    )
    d.part("Reeds", SKIP)
    d.lines(
        "Reeds",
        reed,
        [
            [(34, 126), (30, 96), (24, 70)],
            [(40, 126), (42, 98), (38, 78)],
            [(112, 126), (116, 96), (122, 66)],
            [(120, 126), (124, 104), (134, 84)],
            [(104, 126), (104, 106), (100, 90)],
        ],
        2.6,
        Taper.TO_TIP,
    )
    d.lines(
        "Reeds, light",
        green,
        [[(37, 126), (34, 104), (36, 86)], [(116, 126), (118, 104), (112, 82)], [(28, 126), (22, 106), (12, 92)]],
        2.0,
        Taper.TO_TIP,
    )
    return d.done()


def lantern_butterfly(title: str, swaps: Swaps) -> Plan:
    """A butterfly of lantern light on the back of a hand."""
    d = Studio(title, "hand", 8.0, swaps)
    upper = d.cake("Upper wing", "lantern-glow", "flat-1", 10.0, flip=True)
    lower = d.cake("Lower wing", "lantern-glow", "flat-3-4", 14.0, flip=True)
    ink = d.pan("Ink", "round-3", "peat-black")
    fine = d.pan("Fine white", "liner-1", "foam-white")
    white = d.pan("White", "round-2", "foam-white")
    whole = d.part("Butterfly", one_sided=True)
    d.motif("butterfly", -2, 24, {"upper": upper, "lower": lower, "line": fine, "body": ink}, name="Butterfly", turn=-8)
    d.part("Edges", NICE, one_sided=True)
    d.outline("Edge", d.pan("Edge", "round-2", "peat-black"), [whole], 0.4)
    d.dots(
        "Edge dots",
        white,
        [_put([(side * a, b)], -2, 24, -8)[0] + (mm,) for side in (1, -1) for a, b, mm in _WING_DOTS],
    )
    d.part("Trail", SKIP)
    d.dots(
        "Trail",
        white,
        [
            (-4, -36, 2.4),
            (-6, -46, 2.0),
            (-7, -55, 1.6),
            (-8, -63, 1.3),
            (14, -34, 1.8),
            (17, -43, 1.5),
            (20, -51, 1.2),
        ],
    )
    d.lines(
        "Swirl",
        white,
        [[(-20, 60), (-6, 66), (8, 62), (12, 54), (5, 50), (1, 55)], [(22, 64), (14, 70), (2, 72)]],
        1.6,
        Taper.TO_TIP,
    )
    return d.done()


_WING_DOTS = ((22.5, -12, 1.8), (24.5, -6, 1.5), (23.5, 0, 1.3), (18, 16, 1.6), (14, 20, 1.3), (9.5, 22, 1.1))


def tide_rainbow(title: str, swaps: Swaps) -> Plan:
    """A rainbow base with flowers of a dip over it."""
    d = Studio(title, "forearm-outside", 44.0, swaps)
    base = d.cake("Rainbow", "tide-rainbow", "sponge-petal", 1.5)
    press = d.dip("Petal", "petal-brush", "foam-white", "skylark-blue", per=5)
    violet = d.dip("Violet petal", "petal-brush", "foam-white", "dusk-violet", per=5)
    leaf = d.dip("Leaf", "petal-brush", "kelp-green", "samphire", per=4)
    fine = d.pan("Fine line", "liner-1", "dusk-violet")
    gold = d.pan("Heart", "round-3", "lantern-yellow")
    white = d.pan("White", "round-3", "foam-white")
    d.part("Base")
    d.strokes("Rainbow", base, [laid("sponge-sweep", 40, 4, -2, length_mm=160, press=0.7)])
    d.part("Flowers")
    for x, y, size, load in ((88, 2, 1.3, press), (130, -10, 1.1, violet), (128, 18, 0.9, press), (166, 4, 0.9, press)):
        d.motif("dip-flower", x, y, {"petal": load, "line": fine, "centre": gold}, scale=size, turn=x, name="Flower")
    d.part("Vine", NICE)
    d.strokes(
        "Leaf",
        leaf,
        [
            laid("press-petal", x, y, turn + 180, length_mm=3, press=0.4)
            for x, y, turn in (
                (64, 8, 200),
                (74, 14, 30),
                (106, 18, 150),
                (156, -9, 40),
                (172, -10, 200),
                (94, -22, 160),
                (66, -11, 110),
            )
        ],
    )
    d.lines(
        "Vine",
        white,
        [
            [(46, 14), (62, 8), (74, 16), (92, 22), (110, 16)],
            [(146, 2), (160, -12), (178, -10), (192, -2)],
            [(108, -20), (92, -23), (74, -16), (58, -6)],
        ],
        1.4,
        Taper.TO_TIP,
    )
    d.part("Dots", SKIP)
    d.dots(
        "Dots",
        white,
        [
            (40, 18, 2.4),
            (35, 21, 1.9),
            (31, 23, 1.4),
            (198, 2, 2.4),
            (204, 4, 1.9),
            (209, 5, 1.4),
            (106, 0, 1.8),
            (146, 22, 1.8),
            (152, 25, 1.4),
        ],
    )
    return d.done()


def frost_reeds(title: str, swaps: Swaps) -> Plan:
    """Frost on the reeds."""
    d = Studio(title, "leg", -30.0, swaps)
    reed = d.cake("Reed blade", "mackerel-back", "flat-1-2", 4.0, per=2)
    stem = d.pan("Stem", "round-4", "heron-grey")
    head = d.dip("Reed head", "petal-brush", "mudflat-brown", "sandpiper-tan", per=3)
    fine = d.pan("Frost", "liner-1", "foam-white")
    white = d.pan("White", "round-2", "foam-white")
    d.part("Reeds", one_sided=True)
    stems = [[(-18, 330), (-22, 250), (-14, 160)], [(2, 332), (4, 240), (12, 120)], [(14, 330), (22, 270), (34, 200)]]
    d.lines("Stems", stem, stems, 2.6, Taper.EVEN)
    d.strokes(
        "Blades", reed, leaves((-8, 330, -98, 104), (8, 332, -84, 120), (12, 330, -78, 88), (-2, 332, -92, 76), bow=8)
    )
    d.strokes(
        "Reed heads",
        head,
        [
            laid("press-petal", x, y, 90 + lean, length_mm=16, press=0.7, wiggle_mm=0)
            for x, y, lean in ((-14, 146, 6), (12, 104, 6), (35, 186, 14))
        ],
    )
    d.part("Snow", NICE, one_sided=True)
    for x, y, size in ((-10, 70, 0.72), (28, 40, 0.5), (-26, 200, 0.42), (26, 150, 0.36)):
        d.motif("snow-figure", x, y, fine, scale=size, turn=x, name="Frost")
    d.part("Dots", SKIP, one_sided=True)
    d.dots(
        "Dots",
        white,
        [
            (-30, 120, 1.8),
            (2, 30, 1.8),
            (40, 90, 2.2),
            (-34, 260, 1.6),
            (30, 240, 1.6),
            (-2, 200, 1.4),
            (18, 10, 1.4),
            (-22, 30, 1.4),
            (36, 130, 1.4),
        ],
    )
    return d.done()


def bittern(title: str, swaps: Swaps) -> Plan:
    """A bittern's feathers."""
    d = Studio(title, "upper-arm", 20.0, swaps)
    barb = d.cake("Barb", "moth-mask", "flat-3-4", 1.0, per=6)
    small = d.cake("Small barb", "moth-mask", "flat-1-2", 1.0, per=6)
    shaft = d.pan("Shaft", "liner-1", "peat-black")
    gold = d.pan("Gold", "round-3", "reed-gold")
    white = d.pan("White", "round-2", "foam-white")
    d.part("Side feathers", one_sided=True)
    d.motif(
        "barbed-feather",
        -16,
        176,
        {"barb": small, "shaft": shaft},
        turn=-15,
        length_mm=104,
        wide_mm=34,
        barbs=10,
        name="Left feather",
        one_sided=True,
    )
    d.motif(
        "barbed-feather",
        16,
        176,
        {"barb": small, "shaft": shaft},
        turn=15,
        length_mm=104,
        wide_mm=34,
        barbs=10,
        name="Right feather",
        one_sided=True,
    )
    d.part("Middle feather", one_sided=True)
    d.motif(
        "barbed-feather",
        0,
        196,
        {"barb": barb, "shaft": shaft},
        length_mm=150,
        wide_mm=50,
        barbs=12,
        name="Middle feather",
    )
    d.part("Dots", SKIP, one_sided=True)
    d.dots("Dots", white, [(0, 212, 3.0), (0, 221, 2.4), (0, 229, 1.9), (0, 236, 1.4), (-22, 214, 1.8), (22, 214, 1.8)])
    d.part("Band", NICE, one_sided=True)
    d.lines(
        "Bands",
        gold,
        [
            [(-44, 194), (-24, 206), (0, 205), (24, 206), (44, 194)],
            [(-30, 205), (-16, 213), (0, 206)],
            [(30, 205), (16, 213), (0, 206)],
        ],
        2.6,
        Taper.MIDDLE,
    )
    return d.done()


@dataclass(frozen=True)
class Work:
    """A design, and the other colours that it comes in: their name, and what takes the place of what."""

    title: str
    make: Callable[[str, Swaps], Plan]
    other: str
    swaps: Swaps

    @property
    def plans(self) -> tuple[Plan, Plan]:
        """The design, and its other colourway."""
        return self.make(self.title, {}), self.make(f"{self.title}, {self.other}", self.swaps)


WORKS = {
    "dahlia-crown": Work(
        "Dahlia crown",
        dahlia_crown,
        "blue",
        {
            "dahlia-wrist": "mackerel-back",
            "lavender-dusk": "dahlia-wrist",
            "sea-lavender": "thrift-pink",
            "dusk-violet": "sea-plum",
        },
    ),
    "poppy-brow": Work(
        "Poppy brow",
        poppy_brow,
        "violet",
        {"poppy-brow": "lavender-dusk", "poppy-red": "dusk-violet", "dulse-crimson": "sea-plum"},
    ),
    "moth-mask": Work("Moth mask", moth_mask, "dusk", {"moth-mask": "lavender-dusk"}),
    "beetle-shell": Work(
        "Beetle-shell cheek", beetle_shell, "violet", {"beetle-shell": "lavender-dusk", "deep-channel": "sea-plum"}
    ),
    "peacock-eye": Work(
        "Peacock plume eye",
        peacock_eye,
        "lavender",
        {
            "peacock-plume": "lavender-dusk",
            "samphire": "skylark-blue",
            "reed-gold": "mackerel-silver",
            "deep-channel": "sea-plum",
            "skylark-blue": "thrift-pink",
        },
    ),
    "kelp-sleeve": Work(
        "Kelp and foam sleeve",
        kelp_sleeve,
        "dulse",
        {"kelp-swoosh": "poppy-brow", "bladderwrack": "dulse-crimson", "poppy-brow": "lantern-glow"},
    ),
    "marsh-fox": Work(
        "Marsh fox",
        marsh_fox,
        "grey",
        {"lantern-glow": "heron-fur", "ember-orange": "heron-grey", "reed-gold": "mackerel-silver"},
    ),
    "bittern": Work("Bittern feathers", bittern, "blue", {"moth-mask": "mackerel-back", "reed-gold": "lantern-yellow"}),
    "heron-shoulder": Work("Heron shoulder", heron_shoulder, "violet dusk", {"mussel-blue": "dusk-violet"}),
    "lantern-butterfly": Work("Lantern butterfly", lantern_butterfly, "blue", {"lantern-glow": "mackerel-back"}),
    "tide-rainbow": Work(
        "Tide rainbow", tide_rainbow, "pink flowers", {"skylark-blue": "thrift-pink", "dusk-violet": "mallow-magenta"}
    ),
    "frost-reeds": Work("Frost on the reeds", frost_reeds, "violet", {"mackerel-back": "lavender-dusk"}),
}
