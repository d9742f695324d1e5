"""Butterfly and moth, wings apart. Common practice, no published source. Up is -y, mm."""

from __future__ import annotations

import math

from pennello.lay.families.family import Parameter
from pennello.lay.stroke import Stroke
from pennello.motif.grammar import both, dot, stroke
from pennello.motif.motif import Made, Motif, Part, Piece, Prints, Values, at
from pennello.motif.roles import INK, LINE, WING
from pennello.phrases import phrase

RAISED = Parameter("turn_deg", phrase("how far the upper wing is raised"), 22, 0, 45, "°")
SIZE = Parameter("size", phrase("size of the way, not of the brush"), 1, 0.5, 3, "×")
LIGHTS = Parameter("lights", phrase("lights in the rim of each upper wing"), 5, 0, 9, "×")

_FORE_ROOT, _HIND_ROOT = (2.4, -1.5), (2.2, 4.0)
"""Where the upper and the lower wing of a butterfly turn about, on the right, mm."""

_MOTH_ROOT = (1.2, -4.0)
"""Where the upper wing of a moth turns about, on the right, mm."""


def _feelers(part: str, size: float, y_mm: float, turn_deg: float, row: int) -> list[Piece]:
    """Return two lines from the head outwards, each with a dot at its end."""
    feeler = stroke("tapering-line", length_mm=15 * size, bow_mm=-3.4 * size, press=0.22)
    end = 15 * size
    x, y = 0.7 + end * math.cos(math.radians(turn_deg)), y_mm + end * math.sin(math.radians(turn_deg))
    return [*both(part, at(feeler, 0.7, y_mm, turn_deg), row), *both(part, dot(0.3, x, y), row)]


def _around(root: tuple[float, float], size: float, away_mm: float, turn_deg: float) -> tuple[float, float]:
    """Return what lies so far from a wing's root; 0 is to the right, -90 up."""
    along = math.radians(turn_deg)
    return root[0] * size + away_mm * math.cos(along), root[1] * size + away_mm * math.sin(along)


def _vein(root: tuple[float, float], size: float, turn_deg: float, long_mm: float) -> Stroke:
    line = stroke("thin-thick-thin", length_mm=long_mm * size, bow_mm=0.8 * size, press=0.4)
    return at(line, *_around(root, size, 4.5 * size, turn_deg), turn_deg)


def _butterfly(values: Values, prints: Prints) -> Made:
    """Lower wings, upper wings apart from them, veins, lights in the rims, body, head and feelers."""
    size, raised = values["size"], values["turn_deg"]
    upper = stroke("wing-lobe", heel_mm=2 * size, sweep_deg=86, waves=2, wave_mm=2.4)
    lower = stroke("wing-lobe", heel_mm=2 * size, sweep_deg=72, waves=2, wave_mm=2.2)
    root_x, root_y = (one * size for one in _HIND_ROOT)
    pieces = both("lower", at(lower, root_x, root_y, 139.0))
    root_x, root_y = (one * size for one in _FORE_ROOT)
    pieces += both("upper", at(upper, root_x, root_y, 90.0 - raised), 1)
    for away, long in ((-22.0, 13.0), (2.0, 14.0)):
        pieces += both("line", _vein(_FORE_ROOT, size, away - raised, long), 2)
    pieces += both("line", _vein(_HIND_ROOT, size, 54.0, 10.0), 2)
    count, rim = round(values["lights"]), prints["upper"] + 0.5 * size
    for n in range(count):
        share = n / max(count - 1, 1) - 0.5 if count > 1 else 0.0
        press = 0.5 - 0.3 * abs(2 * share)
        at_x, at_y = _around(_FORE_ROOT, size, rim, 58.0 * share - raised)
        pieces += both("line", dot(press, at_x, at_y), 3)
    body = stroke("thin-thick-thin", length_mm=27 * size, bow_mm=0, press=0.85)
    pieces += [Piece("body", at(body, 0.0, -9.5 * size, 90.0), 4), Piece("body", dot(0.7, 0.0, -10.0 * size), 4)]
    pieces += _feelers("body", size, -11.0 * size, -66.0, 4)
    return Made(
        tuple(pieces),
        (phrase("lower wings, upper wings apart from them, veins, lights in the rims, body and feelers"),),
    )


def _moth(values: Values, prints: Prints) -> Made:
    """Small lower wings, broad ones that hang over them, an eye on each, a thick body, feathered feelers."""
    size = values["size"]
    upper = stroke("wing-lobe", heel_mm=1.5 * size, sweep_deg=82, waves=1, wave_mm=2.0)
    lower = stroke("fan", heel_mm=1.5 * size, sweep_deg=64)
    pieces = both("lower", at(lower, 1.2 * size, 4.5 * size, 147.0))
    root_x, root_y = (one * size for one in _MOTH_ROOT)
    pieces += both("upper", at(upper, root_x, root_y, 86.0), 1)
    away = 1.5 * size + 0.6 * prints["upper"]
    for part, press, row in (("body", 1.0, 2), ("spot", 0.5, 3)):
        pieces += both(part, dot(press, *_around(_MOTH_ROOT, size, away, -5.0)), row)
    body = stroke("thin-thick-thin", length_mm=30 * size, bow_mm=0, press=1.0)
    pieces += [
        Piece("body", at(body, 0.0, -9.0 * size, 90.0), 2),
        Piece("body", at(body, 0.0, -6.0 * size, 90.0), 2),
        Piece("body", dot(0.9, 0.0, -9.0 * size), 2),
    ]
    turn, head_y, long = -50.0, -10.0 * size, 15.0 * size
    feeler = stroke("tapering-line", length_mm=long, bow_mm=0.0, press=0.22)
    barb = stroke("whisker", length_mm=4.2 * size, bow_mm=0.3, press=0.25)
    pieces += both("line", at(feeler, 0.8, head_y, turn), 4)
    for n in range(6):
        step = (4.0 + 1.9 * n) * size
        x, y = 0.8 + step * math.cos(math.radians(turn)), head_y + step * math.sin(math.radians(turn))
        for lean in (-42.0, 42.0):
            pieces += both("line", at(barb, x, y, turn + lean), 4)
    return Made(
        tuple(pieces),
        (phrase("small lower wings, broad ones that hang over them, an eye on each, body, feathered feelers"),),
    )


UPPER = Part("upper", phrase("upper wing"), "flat-1", WING)
LOWER = Part("lower", phrase("lower wing"), "flat-3-4", WING)

INSECTS = (
    Motif(
        "lobed-butterfly",
        phrase("Butterfly"),
        phrase("four wings apart, veins, lights in the rims, body and feelers"),
        "wings",
        (
            UPPER,
            LOWER,
            Part("line", phrase("veins and lights"), "liner-1", LINE, reload=6),
            Part("body", phrase("body and feelers"), "round-3", INK, reload=6),
        ),
        (RAISED, LIGHTS, SIZE),
        _butterfly,
    ),
    Motif(
        "hanging-moth",
        phrase("Moth"),
        phrase("broad plain wings over small ones, an eye on each, feathered feelers"),
        "wings",
        (
            UPPER,
            LOWER,
            Part("body", phrase("body and round of the eye"), "round-5", INK, reload=6),
            Part("spot", phrase("light in the eye"), "round-3", LINE, reload=2),
            Part("line", phrase("feeler"), "liner-1", INK, reload=14),
        ),
        (SIZE,),
        _moth,
    ),
)
