"""Designs on arms, hands, legs and the shoulder."""

from __future__ import annotations

import math

from designs.figures import circle, leaves, put
from designs.studio import NICE, SKIP, Points, Studio, Swaps, laid, patted
from pennello.design.line_work import Taper
from pennello.design.plan import Plan
from pennello.motif.place import Place


def kelp_sleeve(title: str, swaps: Swaps) -> Plan:
    """Kelp up the arm, foam at the wrist."""
    d = Studio(title, "forearm", 16.0, swaps)
    frond = d.cake("Frond", "kelp-swoosh", "flat-3-4", 4.0, per=2)
    blade = d.cake("Blade", "kelp-swoosh", "flat-1-2", 8.0, per=3)
    stem = d.pan("Stem", "round-4", "bladderwrack")
    star = d.cake("Sea star", "poppy-brow", "flat-1-2", 5.0, per=3)
    light = d.pan("Foam", "round-3", "foam-white")
    fine = d.pan("Bubble", "liner-1", "foam-white")
    _fronds(d, frond, blade, stem)
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
    d.lines("Bubbles", fine, [circle(x, y, size) for x, y, size in _BUBBLES], 0.8, Taper.EVEN)
    d.dots("Bubble lights", light, [(x - size * 0.4, y - size * 0.4, 1.2) for x, y, size in _BUBBLES])
    return d.done()


def _fronds(d: Studio, frond: str, blade: str, stem: str) -> None:
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
    bird = _heron(d, wing, neck, beak, ink)
    d.part("Ground", NICE)
    d.ground(
        "Dusk",
        small,
        large,
        [bird, "moon"],
        [(76 + 54 * math.cos(a), 62 + 60 * math.sin(a)) for a in (i * math.pi / 6 for i in range(12))],
    )
    _heron_reeds(d, reed, green)
    return d.done()


def _heron(d: Studio, wing: str, neck: str, beak: str, ink: str) -> str:
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
    return bird


def _heron_reeds(d: Studio, reed: str, green: str) -> None:
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


def lantern_butterfly(title: str, swaps: Swaps) -> Plan:
    """A butterfly of lantern light on the back of a hand."""
    d = Studio(title, "hand", 8.0, swaps)
    upper = d.cake("Upper wing", "lantern-glow", "flat-1", 10.0, flip=True)
    lower = d.cake("Lower wing", "lantern-glow", "flat-3-4", 14.0, flip=True)
    ink = d.pan("Ink", "round-3", "peat-black")
    edge = d.pan("Edge", "round-2", "peat-black")
    fine = d.pan("Fine white", "liner-1", "foam-white")
    white = d.pan("White", "round-2", "foam-white")
    body = Place(*_BODY)
    wings = d.part("Wings", one_sided=True)
    for name, load, one in (
        ("Lower wings", lower, laid("wing-lobe", 2.2, 4.0, 143, heel_mm=2, sweep_deg=74, waves=2, wave_mm=2.4)),
        ("Upper wings", upper, laid("wing-lobe", 2.4, -1.5, 68, heel_mm=2, sweep_deg=84, waves=2, wave_mm=2.4)),
    ):
        d.strokes(name, load, [body.stroke(one), body.stroke(Place(mirrored=True).stroke(one))])
    d.part("Edges", NICE, one_sided=True)
    d.outline("Edge", edge, [wings], 0.2)
    d.part("Body", one_sided=True)
    d.lines("Body", ink, [put(_TRUNK, *_BODY)], 3.6)
    d.lines("Feelers", edge, _on_both_sides(_FEELER), 1.3, Taper.TO_TIP)
    d.part("Lights", NICE, one_sided=True)
    d.lines("Veins", fine, _on_both_sides(*_VEINS), 1.0, Taper.TO_TIP)
    d.dots("Rim dots", white, [(*put([(side * x, y)], *_BODY)[0], mm) for side in (1, -1) for x, y, mm in _rim_dots()])
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


_BODY = (-2.0, 24.0, -8.0)
"""Where the butterfly's body lies, mm, and how far it is turned, degrees."""

_TRUNK = [(0.0, -9.0), (0.2, 2.0), (0.0, 19.0)]
_FEELER = [(0.5, -9.0), (2.4, -16.0), (6.4, -21.0)]
_VEINS = (
    [(4.2, -5.0), (8.0, -10.5), (10.5, -17.5)],
    [(5.0, -3.0), (11.0, -5.2), (17.0, -8.5)],
    [(4.5, 7.5), (8.2, 11.0), (10.4, 16.0)],
)


def _on_both_sides(*lines: Points) -> list[Points]:
    """Return lines of the butterfly and their mirror images, on the hand."""
    return [put([(side * x, y) for x, y in one], *_BODY) for one in lines for side in (1, -1)]


def _rim_dots() -> list[tuple[float, float, float]]:
    """Return the lights in the rims of the wings of one side: x, y and how wide, mm."""
    upper = ((23.6, -52, 1.2), (23.2, -38, 1.6), (23.0, -24, 2.0), (23.2, -10, 1.6), (23.6, 3, 1.2))
    lower = ((17.6, 26, 1.2), (17.4, 40, 1.6), (17.4, 55, 1.6), (17.6, 70, 1.2))
    return [
        (x + away * math.cos(math.radians(turn)), y + away * math.sin(math.radians(turn)), mm)
        for x, y, dots in ((2.4, -1.5, upper), (2.2, 4.0, lower))
        for away, turn, mm in dots
    ]


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
    _vine(d, leaf, white)
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


def _vine(d: Studio, leaf: str, white: str) -> None:
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
    for side, name in ((-1, "Left feather"), (1, "Right feather")):
        d.motif(
            "barbed-feather",
            16 * side,
            176,
            {"barb": small, "shaft": shaft},
            turn=15 * side,
            length_mm=104,
            wide_mm=34,
            barbs=10,
            name=name,
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
