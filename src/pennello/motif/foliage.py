"""Leaves of two halves, pairs, sprays and vines. Common practice, no published source. Up is towards -y, mm."""

from __future__ import annotations

import math

from pennello.lay.families.family import Parameter
from pennello.lay.stroke import Stroke
from pennello.motif.grammar import both, dot, moved, stroke, whole_leaf
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import LEAF, LINE, STEM
from pennello.motif.spacing import spaced
from pennello.phrases import phrase, plural

MIDRIB = Parameter("length_mm", phrase("length of the midrib"), 24, 6, 120)
WAVES = Parameter("waves", phrase("waves of a rim"), 3, 0, 8, "×")
WAVE_MM = Parameter("wave_mm", phrase("height of a wave"), 1.9, 0, 8)
OPEN = Parameter("open_deg", phrase("angle between the leaves"), 130, 20, 340, "°")
FOOT = Parameter("foot_mm", phrase("from the centre to the leaf's foot"), 14, 0, 120)
PAIRS = Parameter("pairs", phrase("pairs of leaves"), 3, 1, 12, "×")
STEM_MM = Parameter("stem_mm", phrase("length of the stem"), 72, 10, 250)
LEAF_MM = Parameter("leaf_mm", phrase("length of the lowest leaf"), 38, 6, 120)
SHRINK = Parameter("shrink", phrase("each pair against the one below"), 0.86, 0.5, 1.1, "")
LEAN = Parameter("lean_deg", phrase("angle between leaf and stem"), 48, 15, 85, "°")
CURLS = Parameter("curls", phrase("curls of the vine"), 3, 1, 12, "×")
VINE_MM = Parameter("length_mm", phrase("length of the vine"), 80, 20, 300)


def _leaf(values: Values, _: Prints) -> Made:
    long = values["length_mm"]
    rib = stroke("tapering-line", length_mm=long * 1.35, bow_mm=0, press=0.3)
    pieces = [*whole_leaf(long, values), Piece("midrib", rib, 1)]
    return Made(tuple(pieces), (phrase("two halves that meet on the midrib, the same corner out on both"),))


def _leaves(values: Values, _: Prints) -> Made:
    leaf = moved(whole_leaf(values["length_mm"], values), values["foot_mm"])
    turns = [-90.0 + side * values["open_deg"] for side in (-0.5, 0.5)]
    pieces = [piece for turn in turns for piece in moved(leaf, turn_deg=turn)]
    return Made(tuple(pieces), (phrase("two leaves, {turned:.0f} degrees apart", turned=values["open_deg"]),))


def _push_leaf(long_mm: float) -> Stroke:
    return stroke("one-stroke-leaf", length_mm=long_mm, bow_mm=long_mm * 0.24, broad_deg=48)


def _spray(values: Values, prints: Prints) -> Made:
    """Pairs of one-stroke leaves up a stem, smaller towards the tip, one at the tip."""
    pairs, stem = round(values["pairs"]), values["stem_mm"]
    line = stroke("tapering-line", length_mm=stem, bow_mm=0, press=0.45)
    pieces = [Piece("stem", at(line, turn_deg=-90.0))]
    size = values["leaf_mm"]
    for number in range(pairs):
        foot = -stem * (0.16 + 0.84 * number / pairs)
        right = at(at(_push_leaf(size), turn_deg=-90 + values["lean_deg"]), 0.0, foot)
        pieces += both("leaf", right, 1)
        size *= values["shrink"]
    pieces.append(Piece("leaf", at(_push_leaf(size), 0.0, -stem * 0.94, -90.0), 1))
    space = spaced("leaf", pairs, 0.84 * stem / pairs, prints["leaf"] * 0.7, 1)
    return Made(
        tuple(pieces),
        (phrase("{pairs} leaves on one stem, pairs {space}", pairs=2 * pairs + 1, space=space.words),),
        (space,),
    )


def _vine(values: Values, _: Prints) -> Made:
    """An S of a line with a curl, a leaf and a row of dots at each swing."""
    count, long = round(values["curls"]), values["length_mm"]
    step = long / count
    line = stroke("vine", length_mm=long, wiggles=count / 2, wiggle_mm=step * 0.5, press=0.6)
    pieces = [Piece("vine", line)]
    for n in range(count):
        x, side = (n + 0.5) * step, 1 if n % 2 == 0 else -1
        curl = stroke("swirl-in", radius_mm=step * 0.2, turns=1.1, press=0.5)
        out = at(at(curl, turn_deg=-70.0), x, 0.0)
        leaf = at(stroke("thin-thick-thin", length_mm=step * 0.55, bow_mm=1.6, press=1.0), x + step * 0.12, -1.0, -48.0)
        pieces += [
            Piece("vine", at(out, mirrored=False) if side > 0 else _upside(out), 0),
            Piece("leaf", _upside(leaf) if side > 0 else leaf, 1),
        ]
        for k, press in enumerate((0.7, 0.5, 0.3)):
            y = -side * step * (0.30 + 0.1 * k)
            pieces.append(Piece("dot", dot(press, x - step * 0.16 - k * step * 0.05, y), 2))
    return Made(
        tuple(pieces),
        (plural(count, "{count} curl, a leaf and three dots at each", "{count} curls, a leaf and three dots at each"),),
    )


def _upside(one: Stroke) -> Stroke:
    """Return a stroke mirrored across the horizontal."""
    return at(at(one, mirrored=True), turn_deg=180.0)


def _wreath(values: Values, _: Prints) -> Made:
    """Leaves round a circle, two and two, all the same way about."""
    count, radius = round(values["leaves"]), values["radius_mm"]
    pieces = []
    for n in range(count):
        angle = 360 * n / count
        for side in (-1, 1):
            leaf = _push_leaf(values["leaf_mm"])
            turned = at(leaf if side < 0 else _upside(leaf), turn_deg=90 + side * 30)
            pieces.append(Piece("leaf", at(at(turned, radius), turn_deg=angle + side * 4), n % 2))
    space = spaced("leaf", count, 2 * math.pi * radius / count, values["leaf_mm"] * 0.8)
    return Made(
        tuple(pieces),
        (
            phrase(
                "{count} leaves round a circle of {radius:.0f} mm, {space}",
                count=2 * count,
                radius=radius,
                space=space.words,
            ),
        ),
        (space,),
    )


HALF = Part("leaf", phrase("half of a leaf"), role=LEAF)
PUSHED = Part("leaf", phrase("leaf"), "flat-1-2", LEAF, reload=2)

FOLIAGE = (
    Motif(
        "whole-leaf",
        phrase("Leaf of two halves"),
        phrase("two wiggled halves that meet on the midrib"),
        "leaves",
        (HALF, Part("midrib", phrase("midrib"), "liner-1", STEM, reload=4)),
        (MIDRIB, WAVES, WAVE_MM),
        _leaf,
        in_one_go=True,
    ),
    Motif(
        "two-leaves",
        phrase("Two leaves"),
        phrase("opposite each other, hugging a flower"),
        "leaves",
        (HALF,),
        (MIDRIB, OPEN, FOOT, WAVES),
        _leaves,
        in_one_go=True,
    ),
    Motif(
        "leaf-sprig",
        phrase("Sprig"),
        phrase("pairs of leaves up a stem, one at its tip"),
        "leaves",
        (Part("stem", phrase("stem"), "round-3", STEM), PUSHED),
        (PAIRS, STEM_MM, LEAF_MM, SHRINK, LEAN),
        _spray,
        in_one_go=True,
    ),
    Motif(
        "vine-line",
        phrase("Vine"),
        phrase("a line in swings, with curls, leaves and dots"),
        "leaves",
        (
            Part("vine", phrase("vine"), "liner-1", STEM, reload=3),
            Part("leaf", phrase("leaf"), "round-5", STEM, reload=2),
            Part("dot", phrase("dot"), "round-2", LINE, reload=6),
        ),
        (CURLS, VINE_MM),
        _vine,
    ),
    Motif(
        "wreath",
        phrase("Wreath"),
        phrase("pairs of leaves round a circle"),
        "leaves",
        (PUSHED,),
        (
            Parameter("leaves", phrase("pairs of leaves"), 8, 4, 40, "×"),
            Parameter("radius_mm", phrase("radius"), 44, 10, 150),
            Parameter("leaf_mm", phrase("length of a leaf"), 38, 6, 100),
        ),
        _wreath,
        in_one_go=True,
    ),
)
