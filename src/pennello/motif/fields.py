"""Scales, waves, fins, crowns, stripes that converge, and what fills behind: strokes over a field."""

from __future__ import annotations

import math

from pennello.lay.families.catalogue import family
from pennello.lay.families.family import Parameter
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import BASE, LINE, Wet
from pennello.motif.spacing import spaced
from pennello.path.cubic import CubicPath, line
from pennello.phrases import phrase, plural

COLUMNS = Parameter("columns", phrase("scales of the first row"), 5, 1, 40, "×")
ROWS = Parameter("rows", phrase("rows"), 4, 1, 30, "×")
SPREAD = Parameter("spread_mm", phrase("spread of a scale"), 10, 2, 100)
HEIGHT = Parameter("height_mm", phrase("height of a scale"), 8, 2, 100)
OVERLAP = Parameter("overlap_mm", phrase("overlap of neighbours"), 3, -20, 60)
GROW = Parameter("grow", phrase("each row against the one before"), 1.0, 0.6, 1.5, "")
BOW = Parameter("bow_mm", phrase("how far rows sag in the middle"), 0, -60, 60)
WAVES = Parameter("waves", phrase("waves"), 3, 1, 20, "×")
LONG = Parameter("long_mm", phrase("length of a wave"), 26, 6, 200)
TALL = Parameter("tall_mm", phrase("height of a wave"), 10, 1, 100)
PULLS = Parameter("pulls", phrase("whites pulled through each wave"), 2, 0, 10, "×")
LENGTH = Parameter("length_mm", phrase("length"), 50, 6, 300)
DEPTH = Parameter("depth_mm", phrase("depth"), 24, 2, 150)
RAYS = Parameter("rays", phrase("rays"), 5, 0, 20, "×")
PEAKS = Parameter("peaks", phrase("peaks"), 5, 1, 30, "×")
ARC = Parameter("arc_deg", phrase("how far the crown bends round"), 60, 0, 180, "°")
STRIPES = Parameter("stripes", phrase("stripes"), 6, 2, 30, "×")
FAN = Parameter("fan_deg", phrase("how wide they fan out"), 110, 5, 360, "°")
STOP = Parameter("stop_mm", phrase("how far from the point they end"), 8, 0, 100)
PASSES = Parameter("passes", phrase("passes for even cover"), 2, 1, 12, "×")
ANCHOR = Parameter("anchor", phrase("what lies on the middle: 0 is edge A, 1 is edge B"), 0.5, 0, 1, "")
SAG = Parameter("bow_mm", phrase("how far it sags"), 0, -80, 80)
WIDE = Parameter("wide_mm", phrase("width"), 60, 5, 300)
HIGH = Parameter("high_mm", phrase("height"), 40, 5, 300)


def scale_step_mm(spread_mm: float, overlap_mm: float, print_mm: float) -> float:
    """Return the step from scale to scale, mm: the print, a spread and one brush wide, less the overlap."""
    return max(spread_mm + print_mm - overlap_mm, 1.0)


def _scales(values: Values, prints: Prints) -> Made:
    columns, rows = round(values["columns"]), round(values["rows"])
    pieces, y, size = [], 0.0, 1.0
    widest = 0.0
    for row in range(rows):
        spread, height = max(values["spread_mm"] * size, 2), max(values["height_mm"] * size, 2)
        step = scale_step_mm(spread, values["overlap_mm"], prints["scale"])
        scale = family("inverted-u").stroke(spread_mm=min(spread, 200), height_mm=min(height, 150))
        count = columns + (row % 2)
        for number in range(count):
            x = (number - (count - 1) / 2) * step
            sag = values["bow_mm"] * (1 - (2 * x / max(columns * step, 1)) ** 2)
            pieces.append(Piece("scale", at(scale, x - spread / 2, y + sag), row))
        widest = max(widest, count * step)
        y -= row_step_mm(height, prints["scale"])
        size *= values["grow"]
    first = scale_step_mm(values["spread_mm"], values["overlap_mm"], prints["scale"])
    space = spaced("scale", columns, first, values["spread_mm"] + prints["scale"])
    says = (
        phrase(
            "{counted} in {counted_2}, each row half a step over the one before",
            counted=plural(len(pieces), "{count} scale", "{count} scales"),
            counted_2=plural(rows, "{count} row", "{count} rows"),
        ),
        plural(
            space.fit,
            "{space}; {count} scale would close the first row",
            "{space}; {count} scales would close the first row",
            space=space.words,
        ),
        phrase("{widest:.0f} mm wide, {y:.0f} mm high", widest=widest, y=-y),
    )
    return Made(tuple(pieces), says, (space,))


def row_step_mm(height_mm: float, print_mm: float) -> float:
    """Return the step from row to row, mm: what leaves no skin between the legs of a scale and the row above."""
    return 0.5 * height_mm + 0.45 * print_mm


def _wave(values: Values, _: Prints) -> Made:
    waves, long, tall = round(values["waves"]), values["long_mm"], values["tall_mm"]
    length = waves * long
    squiggle = Stroke(line((0.0, 0.0), (length, 0.0)), Nib(NibMode.FIXED, 90.0))
    base = family("s-base").stroke(length_mm=min(length, 300), bow_mm=min(tall, 60))
    pieces = [Piece("wave", base if length <= 300 else squiggle)]
    pull = family("flick").stroke(length_mm=min(max(tall * 1.4, 4), 300))
    for wave in range(waves):
        for number in range(round(values["pulls"])):
            x = (wave + (number + 0.5) / max(round(values["pulls"]), 1)) * long
            pieces.append(Piece("white", at(pull, x, tall * 0.5, -65.0), 1))
    return Made(
        tuple(pieces),
        (
            plural(
                waves,
                "{count} wave of {long:.0f} mm, then the white is pulled while it is wet",
                "{count} waves of {long:.0f} mm, then the white is pulled while it is wet",
                long=long,
            ),
        ),
    )


def _fin(values: Values, _: Prints) -> Made:
    fin = family("fin").stroke(length_mm=values["length_mm"], spread_mm=values["depth_mm"])
    pieces = [Piece("fin", fin)]
    rays = round(values["rays"])
    for number in range(rays):
        x = values["length_mm"] * (number + 0.5) / rays
        ray = family("flick").stroke(length_mm=min(max(values["depth_mm"] * 0.8, 4), 300))
        pieces.append(Piece("ray", at(ray, x, 0.0, -80.0 + 20.0 * number / rays), 1))
    return Made(tuple(pieces), (plural(rays, "out, in, out, in, {count} ray", "out, in, out, in, {count} rays"),))


def _crown(values: Values, prints: Prints) -> Made:
    peaks, arc = round(values["peaks"]), math.radians(values["arc_deg"])
    step = prints["peak"] * 0.85 + values["depth_mm"] * 0.25
    radius = peaks * step / arc if arc > 0.01 else math.inf
    pieces = []
    for number in range(peaks):
        place = number - (peaks - 1) / 2
        tall = values["depth_mm"] * (1 - 0.35 * abs(2 * place / max(peaks - 1, 1)))
        peak = family("peak").stroke(spread_mm=max(min(step * 0.6, 200), 2), height_mm=max(tall, 2))
        angle = 0.0 if math.isinf(radius) else place * step / radius
        x = place * step if math.isinf(radius) else radius * math.sin(angle)
        y = 0.0 if math.isinf(radius) else radius * (1 - math.cos(angle))
        pieces.append(Piece("peak", at(at(peak, -step * 0.3, 0.0), x, y, math.degrees(angle))))
    space = spaced("peak", peaks, step, max(min(step * 0.6, 200), 2) + prints["peak"])
    return Made(
        tuple(pieces),
        (
            plural(peaks, "{count} peak, the tallest in the middle", "{count} peaks, the tallest in the middle"),
            space.words,
        ),
        (space,),
    )


def _converging(values: Values, prints: Prints) -> Made:
    count, fan = round(values["stripes"]), values["fan_deg"]
    stripe = family("teardrop").stroke(length_mm=min(values["length_mm"], 300), heavy=1)
    pieces = []
    for number in range(count):
        turn = -90 - fan / 2 + (fan * number / (count - 1) if fan < 360 else 360 * number / count)
        out = values["stop_mm"] + values["length_mm"]
        x, y = out * math.cos(math.radians(turn)), out * math.sin(math.radians(turn))
        pieces.append(Piece("stripe", at(stripe, x, y, turn + 180)))
    apart = 2 * values["stop_mm"] * math.sin(math.radians(fan / max(count - 1, 1)) / 2)
    says = plural(
        count,
        "{count} stripe that aim at one point and end {apart:.0f} mm before it",
        "{count} stripes that aim at one point and end {apart:.0f} mm before it",
        apart=values["stop_mm"],
    )
    wide = (values["stop_mm"] + values["length_mm"]) * math.radians(fan) / max(count - (fan < 360), 1)
    space = spaced("stripe", count, wide, prints["stripe"])
    return Made(
        tuple(pieces),
        (
            says,
            phrase("at their wide ends {space}", space=space.words),
            phrase("tips {apart:.1f} mm apart", apart=apart),
        ),
        (space,),
    )


def _fill(values: Values, prints: Prints) -> Made:
    step = max(prints["fill"] * 0.85, 1.0)
    rows = max(1, math.ceil((values["high_mm"] - prints["fill"]) / step) + 1)
    first = -values["high_mm"] / 2 + prints["fill"] / 2
    last = values["high_mm"] / 2 - prints["fill"] / 2
    pieces = []
    for row in range(rows):
        y = 0.0 if rows == 1 else first + (last - first) * row / (rows - 1)
        half = values["wide_mm"] / 2
        way = line((-half, y), (half, y)) if row % 2 == 0 else line((half, y), (-half, y))
        pieces.append(Piece("fill", Stroke(way, Nib(NibMode.FIXED, 90.0), 0.6), row))
    area = values["wide_mm"] * values["high_mm"] / 100
    space = spaced("fill", rows, (last - first) / (rows - 1) if rows > 1 else values["high_mm"], prints["fill"])
    return Made(
        tuple(pieces),
        (
            plural(
                rows,
                "{count} stroke side by side cover {area:.0f} cm²",
                "{count} strokes side by side cover {area:.0f} cm²",
                area=area,
            ),
            space.words,
        ),
        (space,),
    )


def _base(values: Values, prints: Prints) -> Made:
    """A band of a sponge whose edge stands upright: its gradient runs down, one place of it on the anchor."""
    wide, passes, print_mm = values["wide_mm"], round(values["passes"]), prints["base"]
    y = (0.5 - values["anchor"]) * print_mm
    bow = values["bow_mm"]
    way = CubicPath(((-wide / 2, y), (-wide / 6, y + bow), (wide / 6, y + bow), (wide / 2, y)))
    back = CubicPath(tuple(reversed(way.points_mm)))
    pieces = []
    for number in range(passes):
        path, angle = (way, 90.0) if number % 2 == 0 else (back, -90.0)
        pieces.append(Piece("base", Stroke(path, Nib(NibMode.FOLLOWING, angle), 0.6), number))
    area = wide * print_mm / 100
    says = (
        (
            phrase("{area:.1f} cm² in {passes} pass", area=area, passes=passes)
            if passes == 1
            else phrase("{area:.1f} cm² in {passes} passes", area=area, passes=passes)
        ),
        phrase("the place {share:.0%} down the sponge lies on its middle", share=values["anchor"]),
        phrase("the lower edge shows unless something lies over it")
        if values["anchor"] < 0.5
        else phrase("the upper edge shows"),
    )
    return Made(tuple(pieces), says)


FIELDS = (
    Motif(
        "base",
        phrase("Sponge base"),
        phrase("a band of a striped sponge, one stripe of it on a landmark"),
        "fields",
        (Part("base", phrase("base"), "sponge-block", BASE),),
        (WIDE, PASSES, ANCHOR, SAG),
        _base,
    ),
    Motif(
        "scale-field",
        phrase("Scale field"),
        phrase("rows of inverted Us, each row half a step over"),
        "fields",
        (Part("scale", phrase("scale"), "flat-1-2"),),
        (COLUMNS, ROWS, SPREAD, HEIGHT, OVERLAP, GROW, BOW),
        _scales,
    ),
    Motif(
        "wave",
        phrase("Wave"),
        phrase("a squiggle, then the white pulled through it"),
        "fields",
        (Part("wave", phrase("wave")), Part("white", phrase("pulled white"), "round-3", LINE, wet=Wet.PULLED)),
        (WAVES, LONG, TALL, PULLS),
        _wave,
    ),
    Motif(
        "fin",
        phrase("Fin"),
        phrase("out, in, out, in, and rays"),
        "wings",
        (Part("fin", phrase("fin")), Part("ray", phrase("ray"), "round-3", LINE)),
        (LENGTH, DEPTH, RAYS),
        _fin,
    ),
    Motif(
        "peak-crown",
        phrase("Peak crown"),
        phrase("peaks pulled up side by side"),
        "fields",
        (Part("peak", phrase("peak"), "flat-1-2"),),
        (PEAKS, DEPTH, ARC),
        _crown,
    ),
    Motif(
        "converging",
        phrase("Converging stripes"),
        phrase("stripes that all aim at one point"),
        "fields",
        (Part("stripe", phrase("stripe")),),
        (STRIPES, FAN, LENGTH, STOP),
        _converging,
    ),
    Motif(
        "fill",
        phrase("Fill behind"),
        phrase("rows of a sponge or a broad brush"),
        "fields",
        (Part("fill", phrase("fill"), "sponge-block", BASE),),
        (WIDE, HIGH),
        _fill,
    ),
)
