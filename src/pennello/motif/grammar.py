"""What motifs are built of: strokes of families turned and set, mirrored pairs, whole leaves, rings. Up is -y, mm."""

from __future__ import annotations

import math
from random import Random

from pennello.lay.families.catalogue import family
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.motif.motif import Piece, Values, at
from pennello.motif.spacing import Spacing, round_spaced
from pennello.path.cubic import CubicPath, Point
from pennello.phrases import plural

MOST_SWEEP = 170.0
WIDER = 1.45
"""A shell swings so much further than its share of the ring, so that neighbours overlap."""


def stroke(key: str, **values: float) -> Stroke:
    """Return a stroke of a family, each number drawn into its range."""
    kind = family(key)
    known = {one.key: one for one in kind.parameters}
    return kind.stroke(**{name: min(max(value, known[name].low), known[name].high) for name, value in values.items()})


def both(part: str, one: Stroke, row: int = 0) -> list[Piece]:
    """Return a stroke and its mirror image across the motif's own midline."""
    return [Piece(part, one, row), Piece(part, at(one, mirrored=True), row)]


def outward(part: str, one: Stroke, from_mm: float, turn_deg: float, row: int = 0) -> Piece:
    """Return a stroke that begins so far from the middle and runs outwards; 0 is to the right, -90 up."""
    return Piece(part, at(at(one, from_mm, 0.0), turn_deg=turn_deg), row)


def upright(points: tuple[Point, ...], chisel_deg: float, press: float = 0.5) -> Stroke:
    """Return a stroke whose chisel keeps its direction: thin where the way runs along it."""
    pressures = (Key(0, 0.12), Key(0.25, press), Key(0.75, press), Key(1, 0.12))
    return Stroke(CubicPath(points), Nib(NibMode.FIXED, chisel_deg), pressures=pressures)


def directions(count: int, arc_deg: float, turn_deg: float = 0.0) -> list[float]:
    """Return where so many stand round a circle or over an arc about straight up, degrees from straight up."""
    if arc_deg >= 360 or count == 1:
        return [turn_deg + n * 360 / count for n in range(count)]
    return [turn_deg + (n / (count - 1) - 0.5) * arc_deg for n in range(count)]


def step_deg(count: int, arc_deg: float) -> float:
    """Return the angle from one to the next, degrees."""
    return 360 / count if arc_deg >= 360 or count == 1 else arc_deg / (count - 1)


def unevenly(values: Values, count: int) -> list[tuple[float, float]]:
    """Return for each of so many a share of turn and of size, -1 to 1 times the unevenness; the same for a seed."""
    by_chance = Random(round(values.get("seed", 1)))
    much = values.get("uneven", 0.0)
    return [(much * by_chance.uniform(-1, 1), much * by_chance.uniform(-1, 1)) for _ in range(count)]


def shells(
    part: str, turns: list[float], heel_mm: float, sweep_deg: float, values: Values, row: int = 0, y_mm: float = 0.0
) -> list[Piece]:
    """Return shells round a middle, pointing to these directions from straight up."""
    pieces = []
    apart = sweep_deg / WIDER
    for turn, (turned, sized) in zip(turns, unevenly(values, len(turns)), strict=True):
        petal = stroke(
            "shell",
            heel_mm=heel_mm * (1 + 0.25 * sized),
            sweep_deg=sweep_deg,
            waves=values.get("waves", 3),
            wave_mm=values.get("wave_mm", 2.2) * (1 + 0.5 * sized),
        )
        pieces.append(Piece(part, at(petal, 0.0, y_mm, turn + 0.3 * apart * turned), row))
    return pieces


def sweep_for(count: int, arc_deg: float = 360.0) -> float:
    """Return how far a shell of a ring swings, degrees."""
    return min(max(step_deg(count, arc_deg) * WIDER, 20.0), MOST_SWEEP)


def shells_apart(part: str, count: int, heel_mm: float, print_mm: float, row: int, arc_deg: float = 360.0) -> Spacing:
    """Return how the rims of shells stand: chords of the circle of the rims."""
    rim = heel_mm + print_mm
    allows = 2 * rim * math.sin(math.radians(sweep_for(count, arc_deg)) / 2)
    return round_spaced(part, count, rim, allows, row, arc_deg)


def whole_leaf(length_mm: float, values: Values, row: int = 0, part: str = "leaf") -> list[Piece]:
    """Return two halves that meet on the midrib, the same corner out on both; from the origin to the right."""
    half = stroke("leaf-half", length_mm=length_mm, waves=values.get("waves", 3), wave_mm=values.get("wave_mm", 1.9))
    return [Piece(part, half, row), Piece(part, at(half, turn_deg=180.0, mirrored=True), row)]


def moved(pieces: list[Piece], x_mm: float = 0.0, y_mm: float = 0.0, turn_deg: float = 0.0) -> list[Piece]:
    """Return pieces turned about the origin, then moved."""
    return [Piece(one.part, at(one.stroke, x_mm, y_mm, turn_deg), one.row) for one in pieces]


def dot(press: float, x_mm: float = 0.0, y_mm: float = 0.0) -> Stroke:
    """Return a dot."""
    return at(stroke("dot", press=press), x_mm, y_mm)


def in_triangle(count: int, step_mm: float) -> list[Point]:
    """Return so many places in rows of one, two, three and so on, evenly apart."""
    places: list[Point] = []
    row = 1
    while len(places) < count:
        places += [((n - (row - 1) / 2) * step_mm, (row - 1) * step_mm * math.sqrt(3) / 2) for n in range(row)]
        row += 1
    return places[:count]


def graded(places: list[Point], first: float, last: float) -> list[Piece]:
    """Return dots at places, pressed from the first pressure to the last."""
    steps = max(len(places) - 1, 1)
    presses = [first + n / steps * (last - first) for n in range(len(places))]
    return [Piece("dot", dot(min(max(press, 0.1), 1.0), *at)) for press, at in zip(presses, places, strict=True)]


def dots_words(count: int, step_mm: float) -> str:
    """Return what a row of graded dots comes to."""
    return plural(
        count,
        "{count} dot, {step:.0f} mm apart, from large to small",
        "{count} dots, {step:.0f} mm apart, from large to small",
        step=step_mm,
    )


def swirl_words(turns: float, drops: int) -> str:
    """Return what a swirl with teardrops along it comes to."""
    return plural(
        drops,
        "one swirl of {turns:.1f} turns, {count} teardrop along it",
        "one swirl of {turns:.1f} turns, {count} teardrops along it",
        turns=turns,
    )
