"""Designs on the face and the cheek."""

from __future__ import annotations

import math

from designs.figures import leaves, pair, put, ring, tufts
from designs.studio import NICE, SKIP, Points, Studio, Swaps, laid, patted
from pennello.design.line_work import Taper
from pennello.design.plan import Plan


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
    d.dots("Dots", white, _DAHLIA_DOTS, twin=True)
    d.lines("Drop", gold, [[(0, -12), (0, -3)]], 2.6, Taper.FROM_TIP)
    return d.done()


_DAHLIA_DOTS = (
    *((9, -9, 1.6), (13.5, -10.5, 1.2), (50, -27, 1.8), (54, -24, 1.3)),
    *((64, 24, 2.0), (63, 30, 1.5), (61.5, 35, 1.1)),
)


def poppy_brow(title: str, swaps: Swaps) -> Plan:
    """Poppies in a C round one eye."""
    d = Studio(title, "face", 55.0, swaps)
    petal = d.cake("Poppy petal", "poppy-brow", "flat-3-4", 3.0)
    small = d.cake("Small petal", "poppy-brow", "flat-1-2", 5.0)
    leaf = d.cake("Leaf", "kelp-swoosh", "flat-1-2", 3.0, per=3)
    stem = d.pan("Stem", "round-2", "kelp-green")
    ink = d.pan("Ink", "round-3", "peat-black")
    white = d.pan("White", "round-2", "foam-white")
    _poppy_stems(d, stem, leaf)
    _poppies(d, petal, small, ink)
    d.part("Buds", NICE, one_sided=True)
    bud = d.dip("Bud", "petal-brush", "poppy-red", "dulse-crimson")
    buds = ((13, -27, 160, 0.55), (31, 45, 165, 0.5), (42, 59, 110, 0.45))
    d.strokes("Bud", bud, [laid("press-petal", x, y, turn, length_mm=3, press=press) for x, y, turn, press in buds])
    d.part("Dots", SKIP, one_sided=True)
    d.dots("Dots", white, _POPPY_DOTS)
    return d.done()


_POPPY_DOTS = (
    *((39, -36, 1.2), (55, 22, 1.0), (10, -20, 1.6), (7, -15, 1.3), (5, -10.5, 1.0)),
    *((20, 52, 1.6), (17, 56, 1.2), (36, 76, 1.5), (33, 81, 1.1)),
)


def _poppy_stems(d: Studio, stem: str, leaf: str) -> None:
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


def _poppies(d: Studio, petal: str, small: str, ink: str) -> None:
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
    d.lines("Legs", ink, [put(leg, *at, side) for side in (1, -1) for leg in legs], 1.8, Taper.TO_TIP)
    d.strokes("Wing cases", shell, pair("leaf-plain", *put([(0, -15)], *at)[0], 90 + at[2], length_mm=34))
    d.dots("Head", dark, [(*put([(0, -16)], *at)[0], 8.0)])
    d.lines("Feelers", ink, [put([(1, -19), (5, -26), (11, -28)], *at, side) for side in (1, -1)], 1.0, Taper.TO_TIP)
    d.part("Lights", NICE, one_sided=True)
    d.lines("Light", white, [put([(5, -6), (7, 2), (5, 10)], *at)], 1.2)
    d.part("Dots", SKIP, one_sided=True)
    d.dots("Dots", white, [(5.0 + 4 * n, -2.0 - 5 * n, 2.4 - 0.35 * n) for n in range(4)])
    return d.done()


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
    _fox_lines(d, ink)
    _fox_whiskers(d, ink, fine)
    return d.done()


def _fox_lines(d: Studio, ink: str) -> None:
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


def _fox_whiskers(d: Studio, ink: str, fine: str) -> None:
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


_FOX_BASE: tuple[tuple[str, Points], ...] = (
    ("Brow base", ((0, -26), (0, -12), (14, -11), (32, -17), (50, -13), (58, -2), (62, -22), (46, -38), (24, -30))),
    ("Cheek base", ((9, 23), (20, 21), (38, 20), (58, 10), (62, 22), (56, 38), (44, 40), (30, 32), (14, 32))),
    ("Nose base", ((0, -14), (6, -12), (8, 4), (9, 30), (4, 38), (0, 38))),
)

_FOX_CHEEK: Points = ((46, 36), (50, 27), (51, 17), (51, 7), (42, 46), (36, 42), (42, 32), (44, 22))

_FOX_BROW: Points = ((3, -34), (11, -33), (20, -36), (3, -24), (12, -23), (50, -26), (46, -18), (54, -14))

_FOX_MUZZLE: Points = ((20, 44), (26, 52), (30, 60), (22, 54), (30, 47), (36, 56), (24, 62))
