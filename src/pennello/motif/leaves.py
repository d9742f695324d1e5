"""Leaves in pairs and sprays, feathers and wings: strokes along a spine."""

from __future__ import annotations

import math

from pennello.lay.families.catalogue import family
from pennello.lay.families.family import Parameter
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import LEAF, LINE, STEM, Check
from pennello.motif.spacing import spaced
from pennello.phrases import phrase, plural

LEAF_MM = Parameter("leaf_mm", phrase("length of a leaf"), 28, 4, 200)
OPEN = Parameter("open_deg", phrase("angle between the leaf and its stem"), 50, 0, 120, "°")
FOOT = Parameter("foot_mm", phrase("from the centre to the leaf's foot"), 12, 0, 120)
PAIRS = Parameter("pairs", phrase("pairs of leaves"), 3, 1, 20, "×")
STEM_MM = Parameter("stem_mm", phrase("length of the stem"), 60, 5, 300)
SHRINK = Parameter("shrink", phrase("each pair against the one before"), 0.85, 0.4, 1.2, "")
BARBS = Parameter("barbs", phrase("barbs on each side"), 6, 1, 40, "×")
WIDE = Parameter("wide_mm", phrase("width at the widest"), 40, 4, 200)
EYE = Parameter("eye_mm", phrase("width of the eye, 0 for none"), 12, 0, 80)
SCOOPS = Parameter("scoops", phrase("scoops along the wing"), 4, 1, 20, "×")
SPAN = Parameter("span_mm", phrase("length of the long line"), 70, 10, 300)
RISE = Parameter("rise_deg", phrase("how steeply it rises"), 28, 0, 85, "°")


def _pair(values: Values, _: Prints) -> Made:
    leaf = family("wiggle-leaf").stroke(length_mm=values["leaf_mm"])
    pieces = [
        Piece("leaf", at(at(leaf, values["foot_mm"], 0.0), turn_deg=turn))
        for turn in (values["open_deg"] - 90, -90 - values["open_deg"])
    ]
    return Made(tuple(pieces), (phrase("two leaves opposite each other, hugging the flower"),))


def _spray(values: Values, prints: Prints) -> Made:
    pairs, stem = round(values["pairs"]), values["stem_mm"]
    line = family("vine").stroke(length_mm=stem, wiggles=1, wiggle_mm=2)
    pieces = [Piece("stem", at(line, turn_deg=-90))]
    size, last = values["leaf_mm"], 0.0
    for number in range(pairs):
        foot = stem * (0.3 + 0.7 * number / pairs)
        leaf = family("chisel-leaf").stroke(length_mm=max(size, 4), spread_mm=max(min(size * 0.4, 200), 2))
        pieces += [
            Piece("leaf", at(at(leaf, turn_deg=-90 + side * values["open_deg"]), 0.0, -foot), 1) for side in (-1, 1)
        ]
        size, last = size * values["shrink"], size
    tip = family("chisel-leaf").stroke(length_mm=max(last, 4), spread_mm=max(last * 0.4, 2))
    pieces.append(Piece("leaf", at(at(tip, turn_deg=-90), 0.0, -stem), 1))
    space = spaced("leaf", pairs, 0.7 * stem / pairs, prints["leaf"], 1)
    leaves = plural(2 * pairs + 1, "{count} leaf", "{count} leaves")
    return Made(
        tuple(pieces),
        (phrase("{leaves} on one stem", leaves=leaves), phrase("pairs: {space}", space=space.words)),
        (space,),
    )


def _feather(values: Values, prints: Prints) -> Made:
    barbs, stem, wide = round(values["barbs"]), values["stem_mm"], values["wide_mm"]
    pieces = []
    for number in range(barbs):
        along = (number + 0.5) / barbs
        half = wide / 2 * math.sin(math.pi * (0.12 + 0.82 * along))
        barb = family("comma").stroke(length_mm=max(half * 1.25, 4), bow_mm=max(half * 0.2, 0))
        for side in (-1, 1):
            turned = at(barb, mirrored=side < 0)
            pieces.append(Piece("barb", at(at(turned, turn_deg=side * -38), 0.0, -stem * along)))
    shaft = family("thin-thick-thin").stroke(length_mm=stem, bow_mm=min(stem * 0.04, 60))
    pieces.append(Piece("shaft", at(shaft, turn_deg=-90), 1))
    if values["eye_mm"] > 0:
        eye = family("wedge").stroke(turn_deg=300)
        pieces.append(Piece("eye", at(eye, 0.0, -stem * 0.86), 2))
    space = spaced("barb", barbs, stem / barbs, prints["barb"])
    says = (
        plural(2 * barbs, "{count} barb; on a side {space}", "{count} barbs; on a side {space}", space=space.words),
        phrase("{fit} a side would close it", fit=space.fit),
    )
    return Made(tuple(pieces), says, (space,))


def _wing(values: Values, prints: Prints) -> Made:
    span, rise, scoops = values["span_mm"], values["rise_deg"], round(values["scoops"])
    line = family("swoosh").stroke(length_mm=span, bow_mm=min(span * 0.12, 60))
    pieces = [Piece("line", at(line, turn_deg=-rise))]
    for number in range(scoops):
        along = 0.95 - 0.8 * number / scoops
        size = max(span * (0.16 + 0.05 * (scoops - number)), 4)
        scoop = family("wing-scoop").stroke(spread_mm=min(size, 200), height_mm=min(max(size * 0.7, 2), 150))
        foot = span * along
        x, y = foot * math.cos(math.radians(rise)), -foot * math.sin(math.radians(rise))
        pieces.append(Piece("scoop", at(at(scoop, mirrored=True), x, y, 150.0 - rise), 1))
    space = spaced("scoop", scoops, 0.8 * span / scoops, prints["scoop"], 1)
    return Made(
        tuple(pieces),
        (plural(scoops, "one long line, {count} scoop", "one long line, {count} scoops"), space.words),
        (space,),
    )


LEAF_PART = Part("leaf", phrase("leaf"), "leaf-brush", LEAF)

LEAVES = (
    Motif(
        "leaf-pair",
        phrase("Leaf pair"),
        phrase("two leaves opposite each other"),
        "leaves",
        (LEAF_PART,),
        (LEAF_MM, OPEN, FOOT),
        _pair,
    ),
    Motif(
        "leaf-spray",
        phrase("Leaf spray"),
        phrase("pairs of leaves along a stem, and one at its tip"),
        "leaves",
        (Part("stem", phrase("stem"), "round-3", STEM), LEAF_PART),
        (PAIRS, STEM_MM, LEAF_MM, OPEN, SHRINK),
        _spray,
    ),
    Motif(
        "feather",
        phrase("Feather, plume"),
        phrase("barbs along a shaft, an eye near its tip"),
        "wings",
        (
            Part("barb", phrase("barb"), "round-5"),
            Part("shaft", phrase("shaft"), "round-3", LINE),
            Part("eye", phrase("eye"), "flat-1-2"),
        ),
        (BARBS, STEM_MM, WIDE, EYE),
        _feather,
    ),
    Motif(
        "wing",
        phrase("Wing"),
        phrase("a long angled line, scoops that grow towards it"),
        "wings",
        (Part("line", phrase("long line"), "flat-3-4"), Part("scoop", phrase("scoop"), "flat-3-4")),
        (SPAN, RISE, SCOOPS),
        _wing,
        checks=(Check.LEADS,),
    ),
)
