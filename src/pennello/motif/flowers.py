"""Petal rings, both roses, the bud, the radial figure: strokes round a centre.

Petals point outwards: an arch begins and ends at the inset radius and its top lies a height further out.
"""

from __future__ import annotations

import math

from pennello.lay.families.catalogue import family
from pennello.lay.families.family import Parameter
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import LINE, Check
from pennello.motif.spacing import Spacing
from pennello.phrases import phrase, plural

PETALS = Parameter("petals", phrase("petals of the outer row"), 5, 2, 40, "×")
ROWS = Parameter("rows", phrase("rows"), 1, 1, 6, "×")
INSET = Parameter("inset_mm", phrase("inset of each further row"), 12.7, 0, 60)
RADIUS = Parameter("radius_mm", phrase("from the centre to the feet of petals"), 14, 0, 120)
SPREAD = Parameter("spread_mm", phrase("spread of a petal"), 12, 2, 150)
HEIGHT = Parameter("height_mm", phrase("height of a petal"), 16, 2, 150)
STAGGER = Parameter("stagger", phrase("each row half a step on (1) or not (0)"), 1, 0, 1, "")
TWINS = Parameter("twins", phrase("the last gap closed by a twin (1) or not (0)"), 0, 0, 1, "")
SIDES = Parameter("sides", phrase("side petals on each side"), 2, 0, 6, "×")
ARMS = Parameter("arms", phrase("long arms"), 4, 2, 12, "×")
LONG = Parameter("long_mm", phrase("length of a long arm"), 34, 5, 200)
SHORT = Parameter("short", phrase("short arms against long ones"), 0.55, 0, 1, phrase("of long"))
BARBS = Parameter("barbs", phrase("pairs of barbs on a long arm"), 2, 0, 6, "×")
BARB = Parameter("barb", phrase("length of a barb against its arm"), 0.28, 0, 0.6, phrase("of the arm"))

_SHRINK = 0.8
"""How much shorter each inner row is (a default)."""


def petal_overlap_mm(petals: int, radius_mm: float, spread_mm: float, height_mm: float, print_mm: float) -> float:
    """Return by how much neighbours overlap half way up a petal, mm; below 0 it is a gap.

    The middle of the edge follows the arch, so that a print is the spread and one brush wide; the step between
    neighbours is the chord 2 r sin(pi / n) at r = radius + height / 2.
    """
    radius = radius_mm + height_mm / 2
    return spread_mm + print_mm - 2 * radius * math.sin(math.pi / petals)


def petals_that_fit(radius_mm: float, spread_mm: float, height_mm: float, print_mm: float) -> int:
    """Return how many petals close a ring without a gap: the fewest whose step is no wider than the print."""
    half = (spread_mm + print_mm) / (2 * (radius_mm + height_mm / 2))
    return 2 if half >= 1 else math.ceil(math.pi / math.asin(half) - 1e-9)


def _ring(values: Values, prints: Prints) -> Made:
    count, rows = round(values["petals"]), round(values["rows"])
    pieces, spacings, says, number = [], [], [], count
    for row in range(rows):
        radius = max(values["radius_mm"] - row * values["inset_mm"] * 0.35, 0.0)
        size = _SHRINK**row
        spread, height = values["spread_mm"] * size, values["height_mm"] * size
        number = count if row == 0 else max(3, number - 1)
        petal = family("inverted-u").stroke(spread_mm=max(spread, 2), height_mm=max(height, 2))
        step, start = 360 / number, (180 / number if row % 2 and values["stagger"] >= 0.5 else 0.0)
        part = "petal" if row == 0 else "inner"
        pieces += [
            Piece(part, at(at(petal, -spread / 2, -radius), turn_deg=start + n * step), row) for n in range(number)
        ]
        space = _petals_apart(part, row, number, (radius, spread, height), prints[part])
        twin = row == 0 and space.overlap_mm < 0 and values["twins"] >= 0.5
        if twin:
            pieces.append(Piece(part, at(at(petal, -spread / 2, -radius), turn_deg=start - step / 2), row))
        spacings.append(space)
        says.append(_row_says(space, step, twin=twin))
    says.append(
        plural(
            spacings[0].fit,
            "{count} petal of this print close the outer row",
            "{count} petals of this print close the outer row",
        )
    )
    return Made(tuple(pieces), tuple(says), tuple(spacings))


def _petals_apart(part: str, row: int, petals: int, size: tuple[float, float, float], print_mm: float) -> Spacing:
    """Return how petals of a row stand; size is its radius and a petal's spread and height, mm."""
    radius, spread, height = size
    allows = spread + print_mm
    step = allows - petal_overlap_mm(petals, radius, spread, height, print_mm)
    return Spacing(part, petals, step, allows, petals_that_fit(radius, spread, height, print_mm), row, closed=True)


def _row_says(space: Spacing, step_deg: float, *, twin: bool) -> str:
    told = plural(
        space.count,
        "{count} petal, {step_deg:.0f} degrees apart, {space}",
        "{count} petals, {step_deg:.0f} degrees apart, {space}",
        step_deg=step_deg,
        space=space.words,
    )
    if twin:
        told = phrase("{petals}, one closed by a twin", petals=told)
    return phrase("row {row}: {petals}", row=space.row + 1, petals=told) if space.row else told


def _bud_pieces(spread: float, height: float) -> list[Piece]:
    top = family("inverted-u").stroke(spread_mm=spread, height_mm=height)
    cup = family("bucket").stroke(spread_mm=spread, height_mm=height)
    return [Piece("bud", at(top, -spread / 2, 0)), Piece("cup", at(cup, -spread / 2, height * 0.1))]


def _bud(values: Values, prints: Prints) -> Made:
    spread, height = values["spread_mm"], values["height_mm"]
    wide = spread + prints["bud"]
    return Made(
        tuple(_bud_pieces(spread, height)),
        (phrase("arc with the light on top, U beneath; {wide:.0f} mm wide", wide=wide),),
    )


def _sides(values: Values, spread: float, height: float) -> list[Piece]:
    """Return backwards Cs about the cup, so many a side, and one that joins them below."""
    curl = family("c-stroke").stroke(radius_mm=min(max(height * 0.9, 2), 120), turn_deg=120)
    pieces = []
    for number in range(round(values["sides"])):
        away = spread * (0.35 + 0.3 * number)
        turn = -25.0 - 22.0 * number
        pieces.append(Piece("side", at(curl, -away, height * 0.9, turn), 1))
        pieces.append(Piece("side", at(at(curl, mirrored=True), away, height * 0.9, -turn), 1))
    join = family("bucket").stroke(spread_mm=spread, height_mm=max(height * 0.6, 2))
    return [*pieces, Piece("side", at(join, -spread / 2, height * 1.2), 2)]


def _rose_in(values: Values, prints: Prints) -> Made:
    """Outside in: outer petals, then the bud and its cup, then side petals."""
    ring = _ring({**values, "rows": 1, "twins": 0}, {"petal": prints["petal"], "inner": prints["petal"]})
    spread, height = max(values["spread_mm"] * 0.75, 2), max(values["height_mm"] * 0.7, 2)
    pieces = (*ring.pieces, *_bud_pieces(spread, height), *_sides(values, spread, height))
    says = (*ring.says, phrase("outer petals first, then the bud and its cup, then side petals"))
    return Made(pieces, says, ring.spacings)


def _rose_out(values: Values, _: Prints) -> Made:
    """Inside out: fingernail and bucket first, then backwards Cs and one that joins."""
    spread, height = values["spread_mm"], values["height_mm"]
    pieces = (*_bud_pieces(spread, height), *_sides(values, spread, height))
    sides = plural(2 * round(values["sides"]), "{count} backwards C", "{count} backwards Cs")
    return Made(pieces, (phrase("fingernail and bucket first, then {sides} and one that joins", sides=sides),))


def _radial(values: Values, _: Prints) -> Made:
    arms, long = round(values["arms"]), values["long_mm"]
    arm = family("teardrop").stroke(length_mm=max(long, 4), heavy=1)
    short = long * values["short"]
    pieces = [Piece("arm", at(arm, turn_deg=n * 360 / arms)) for n in range(arms)]
    if short >= 4:
        little = family("teardrop").stroke(length_mm=short, heavy=1)
        pieces += [Piece("arm", at(little, turn_deg=(n + 0.5) * 360 / arms), 1) for n in range(arms)]
    barbs, size = round(values["barbs"]), long * values["barb"]
    if size >= 4:
        barb = family("flick").stroke(length_mm=size)
        for n in range(arms):
            for number in range(barbs):
                foot = long * (0.45 + 0.4 * number / max(barbs, 1))
                for side in (-50.0, 50.0):
                    branch = at(at(barb, foot, 0.0, side), turn_deg=n * 360 / arms)
                    pieces.append(Piece("barb", branch, 2))
    return Made(
        tuple(pieces),
        (
            phrase(
                "{arms} long arms of {long:.0f} mm, short ones of {short:.0f} mm between",
                arms=arms,
                long=long,
                short=short,
            ),
        ),
    )


PETAL, INNER = Part("petal", phrase("petal")), Part("inner", phrase("inner petal"), "flat-1-2")
BUD, CUP, SIDE = (
    Part("bud", phrase("bud"), "flat-1-2"),
    Part("cup", phrase("cup"), "flat-1-2"),
    Part("side", phrase("side petal"), "flat-1-2"),
)

FLOWERS = (
    Motif(
        "petal-ring",
        phrase("Petal ring"),
        phrase("petals round a centre, rows inside it, closed or staggered"),
        "flowers",
        (PETAL, INNER),
        (PETALS, ROWS, INSET, RADIUS, SPREAD, HEIGHT, STAGGER, TWINS),
        _ring,
        checks=(Check.CLOSED_RING,),
    ),
    Motif(
        "rose-outside-in",
        phrase("Rose, outside in"),
        phrase("outer petals, then bud and cup, then side petals"),
        "flowers",
        (PETAL, BUD, CUP, SIDE),
        (PETALS, RADIUS, SPREAD, HEIGHT, STAGGER, INSET, SIDES),
        _rose_in,
        in_one_go=True,
        checks=(Check.CLOSED_RING,),
    ),
    Motif(
        "rose-inside-out",
        phrase("Rose, inside out"),
        phrase("fingernail and bucket, then backwards Cs round them"),
        "flowers",
        (BUD, CUP, SIDE),
        (SPREAD, HEIGHT, SIDES),
        _rose_out,
        in_one_go=True,
    ),
    Motif(
        "bud",
        phrase("Bud"),
        phrase("an arc with the light on top, a U beneath"),
        "flowers",
        (BUD, CUP),
        (SPREAD, HEIGHT),
        _bud,
        in_one_go=True,
    ),
    Motif(
        "radial",
        phrase("Radial figure"),
        phrase("long arms, short ones between, barbs: a snowflake"),
        "flowers",
        (Part("arm", phrase("arm"), "round-3", LINE), Part("barb", phrase("barb"), "round-2", LINE)),
        (ARMS, LONG, SHORT, BARBS, BARB),
        _radial,
    ),
)
