"""Dots, bursts, and swirls with teardrops: small marks that lead or fill."""

from __future__ import annotations

import math

from pennello.lay.families.catalogue import family
from pennello.lay.families.family import Parameter
from pennello.motif.grammar import dots_words, graded, in_triangle, swirl_words
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import LINE, Check
from pennello.phrases import phrase

DOTS = Parameter("dots", phrase("dots"), 5, 1, 40, "×")
FIRST = Parameter("first", phrase("pressure of the first dot"), 0.9, 0.1, 1, phrase("of full"))
LAST = Parameter("last", phrase("pressure of the last dot"), 0.25, 0.1, 1, phrase("of full"))
STEP = Parameter("step_mm", phrase("from dot to dot"), 6, 1, 60)
TRIANGLE = Parameter("triangle", phrase("rows as in a triangle (1) or one line (0)"), 0, 0, 1, "")
RADIUS = Parameter("radius_mm", phrase("radius"), 14, 3, 80)
TURNS = Parameter("turns", phrase("turns"), 1.4, 0.3, 4, "×")
DROPS = Parameter("drops", phrase("teardrops along it"), 4, 0, 20, "×")
DROP_MM = Parameter("drop_mm", phrase("length of a teardrop"), 12, 4, 80)
ARMS = Parameter("arms", phrase("arms"), 9, 5, 24, "×")


def _dots(values: Values, _: Prints) -> Made:
    count, step = round(values["dots"]), values["step_mm"]
    row = [(n * step, 0.0) for n in range(count)]
    pieces = graded(in_triangle(count, step) if values["triangle"] >= 0.5 else row, values["first"], values["last"])
    return Made(
        tuple(pieces),
        (dots_words(count, step),),
    )


def _swirl(values: Values, _: Prints) -> Made:
    radius, drops = values["radius_mm"], round(values["drops"])
    swirl = family("swirl").stroke(radius_mm=radius, turns=values["turns"])
    pieces = [Piece("swirl", swirl)]
    drop = family("teardrop").stroke(length_mm=values["drop_mm"], heavy=1)
    for number in range(drops):
        angle = -150.0 + 50.0 * number
        x = radius * 1.25 * math.cos(math.radians(angle)) - radius
        y = radius * 1.25 * math.sin(math.radians(angle))
        pieces.append(Piece("drop", at(drop, x, y, angle + 100), 1))
    return Made(
        tuple(pieces),
        (swirl_words(values["turns"], drops),),
    )


def _burst(values: Values, _: Prints) -> Made:
    burst = family("starburst").stroke(radius_mm=values["radius_mm"], arms=round(values["arms"]))
    return Made(
        (Piece("burst", burst),),
        (phrase("{arms} thin arms of {long:.0f} mm", arms=round(values["arms"]), long=values["radius_mm"]),),
    )


MARKS = (
    Motif(
        "dots",
        phrase("Dot cluster"),
        phrase("graded dots in a line or a triangle"),
        "lines",
        (Part("dot", phrase("dot"), "round-3", LINE, checks=(Check.LINE_WORK,)),),
        (DOTS, FIRST, LAST, STEP, TRIANGLE),
        _dots,
    ),
    Motif(
        "swirl-drops",
        phrase("Swirl with teardrops"),
        phrase("a line that winds in, drops along it"),
        "lines",
        (
            Part("swirl", phrase("swirl"), "round-3", LINE, checks=(Check.LINE_WORK,)),
            Part("drop", phrase("teardrop"), "round-3", LINE, checks=(Check.LINE_WORK,)),
        ),
        (RADIUS, TURNS, DROPS, DROP_MM),
        _swirl,
        checks=(Check.LEADS,),
    ),
    Motif(
        "starburst",
        phrase("Starburst"),
        phrase("many thin arms from a point"),
        "lines",
        (Part("burst", phrase("burst"), "round-2", LINE, checks=(Check.LINE_WORK,)),),
        (RADIUS, ARMS),
        _burst,
    ),
)
