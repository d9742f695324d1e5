"""The painted chart: motifs laid out as strokes of a plan, edits of them, and the arithmetic that they say."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Collection
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.breath import breathe
from pennello.chart.catalogue import CHARTS, OTHER_EYES, chart
from pennello.chart.chart import Chart, Point
from pennello.design.computed import computed_pieces, goes_round, new_computed, rests_on
from pennello.design.computing import Computed
from pennello.design.counts import Counts, counts
from pennello.design.edits import free_id, new_name, slug
from pennello.design.part import Habit, PlanPart
from pennello.design.parts import together_with
from pennello.design.placed import LaidPiece, PlacedMotif, made_of, pieces_of
from pennello.design.plan import Plan, PlanStroke
from pennello.design.seated import seated
from pennello.design.suiting import suiting_loads
from pennello.design.visits import ToLay, filled
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.kept import remembered
from pennello.limits import fitted, fitted_words
from pennello.load.recipe import Recipe
from pennello.motif.catalogue import motif
from pennello.motif.place import SCALE, Place
from pennello.path.cubic import CubicPath, direction, length_mm, parameter_at, position
from pennello.phrases import named, phrase, plural

Array = NDArray[np.floating[Any]]

MOST_STROKES = 2000
MOST_REPEATS = 60


class NothingToLoadError(PennelloError):
    """A motif needs a stroke whose load it can be laid with."""


def charts_used(plan: Plan) -> tuple[str, ...]:
    """Return the charts of a plan that something lies on, in the order of all charts."""
    used = {placed.chart for placed in plan.motifs} | {overlay.chart for overlay in plan.overlays}
    return tuple(key for key in CHARTS if key in used)


def chart_of(plan: Plan, key: str) -> Chart:
    """Return a chart drawn for the plan's person; raises UnknownNameError."""
    return chart(key, plan.measures)


def prints_of(plan: Plan, placed: PlacedMotif) -> tuple[tuple[str, float], ...]:
    """Return the widths of the brushes of a motif's parts, mm, against its own size."""
    return tuple(
        (part, plan.brush(plan.stroke(name).brush).width_mm / placed.place.scale) for part, name in placed.loads
    )


def pieces_on(plan: Plan, key: str) -> tuple[LaidPiece, ...]:
    """Return all strokes of the motifs on a chart, in the order of painting."""
    midline = chart_of(plan, key).midline_mm
    found: list[LaidPiece] = []
    for placed in plan.motifs:
        if placed.chart == key:
            found += laid_pieces(plan, placed, midline)
    return tuple(found)


def laid_pieces(plan: Plan, placed: PlacedMotif, midline_mm: float | None) -> tuple[LaidPiece, ...]:
    """Return the strokes of a piece where they lie; those of a computed one are worked out from what it goes round."""
    breathe()
    if placed.computed is None:
        return _where_it_lies(plan, placed, midline_mm)
    return computed_pieces(plan, placed, strokes_around(plan, placed), way_along(plan, placed))


def strokes_around(plan: Plan, placed: PlacedMotif) -> tuple[LaidPiece, ...]:
    """Return the strokes of what a computed piece goes round."""
    midline = chart_of(plan, placed.chart).midline_mm
    others = (one for one in plan.motifs if goes_round(plan, placed, one))
    return tuple(piece for one in others for piece in _where_it_lies(plan, one, midline))


def way_along(plan: Plan, placed: PlacedMotif) -> CubicPath | None:
    """Return the line that an echo goes along where it lies, its own or that of a piece; None where there is none."""
    made = placed.computed
    if made is None or not made.along:
        return made.border if made is not None else None
    lines = (one for one in plan.motifs if one.id == made.along and one.chart == placed.chart)
    line = next((seat(plan, one) for one in lines if one.way is not None and not one.more), None)
    return line.place.stroke(line.way).path if line is not None and line.way is not None else None


def _where_it_lies(plan: Plan, placed: PlacedMotif, midline_mm: float | None) -> tuple[LaidPiece, ...]:
    return pieces_of(seat(plan, placed), prints_of(plan, placed), midline_mm)


def seat(plan: Plan, placed: PlacedMotif) -> PlacedMotif:
    """Return a piece where it comes to lie: turned to the angle, and moved to the landmark, that it keeps."""
    if placed.stripe is None and placed.level_deg is None:
        return placed
    return seated(plan, placed, chart_of(plan, placed.chart), prints_of(plan, placed))


def with_computed(
    plan: Plan, made: Computed, loads: dict[str, str], chart_key: str, name: str, part: str = ""
) -> tuple[Plan, str]:
    """Return the plan with a computed piece, last of all, and its id.

    Raises
    ------
    UnknownNameError
        If there is no such load, chart, or none of what it goes round.
    """
    chart_of(plan, chart_key)
    known = plan.ids_in_design
    for wanted in made.of:
        if wanted not in known:
            raise UnknownNameError(phrase("part or piece"), wanted, known)
    new_id = free_id(slug(name), known)
    placed = replace(new_computed(plan, fitted(name), new_id, made, loads, chart_key), part=part)
    return with_motif(plan, placed), new_id


@remembered(16)
def painted_plan(plan: Plan, key: str) -> Plan:
    """Return a plan whose strokes are those of the motifs on a chart.

    Strokes that follow each other with one load share it until its habit says reload.

    Raises
    ------
    OutOfRangeError
        If there would be more than 2000 strokes.
    """
    pieces = pieces_on(plan, key)
    if len(pieces) > MOST_STROKES:
        raise OutOfRangeError(
            phrase("number of strokes on a chart"),
            len(pieces),
            phrase("at most {most_strokes}", most_strokes=MOST_STROKES),
        )
    counts: Counter[str] = Counter()
    asked = []
    for piece in pieces:  # counted within each motif, so that another order of painting changes no name
        asked.append(ToLay(f"{piece.motif}.{counts[piece.motif]}", piece.load, piece.stroke))
        counts[piece.motif] += 1
    strokes = [laid_stroke(plan, one, recipe) for one, recipe in zip(asked, filled(plan, asked), strict=True)]
    return replace(plan, strokes=tuple(strokes), motifs=())


def laid_stroke(plan: Plan, asked: ToLay, recipe: Recipe) -> PlanStroke:
    """Return a stroke of a chart as it is laid with a recipe."""
    return replace(plan.stroke(asked.load), id=asked.id, recipe=recipe, stroke=asked.stroke, wait_s=0.0)


def says_of(plan: Plan, placed: PlacedMotif) -> tuple[str, ...]:
    """Return a motif's arithmetic in words: its own, and how many strokes, loads and seconds it takes."""
    says = arithmetic_of(plan, placed) if placed.computed is None else _computed_says(plan, placed)
    return (*says, counts_of(plan, placed).words)


def arithmetic_of(plan: Plan, placed: PlacedMotif) -> tuple[str, ...]:
    """Return a motif's own arithmetic in words, which takes no time; none for what is worked out from others."""
    return made_of(placed, prints_of(plan, placed)).says if placed.computed is None else ()


def _computed_says(plan: Plan, placed: PlacedMotif) -> tuple[str, ...]:
    """Return how long the strokes of a computed piece are in all."""
    pieces = laid_pieces(plan, placed, chart_of(plan, placed.chart).midline_mm)
    far = sum(length_mm(piece.stroke.path) for piece in pieces)
    assert placed.computed is not None
    return (
        plural(
            len(pieces),
            "{kind}: {far:.0f} cm in {count} stroke, worked out anew each time",
            "{kind}: {far:.0f} cm in {count} strokes, worked out anew each time",
            kind=named(placed.computed.kind),
            far=far / 10,
        ),
    )


def counts_of(plan: Plan, placed: PlacedMotif) -> Counts:
    """Return how many strokes, loads and seconds a motif takes on its chart, its mirror image included."""
    around = tuple(one for one in plan.motifs if rests_on(plan, placed, one))
    alone = painted_plan(replace(plan, motifs=(*around, placed), overlays=(), reserved=()), placed.chart)
    mine = tuple(one for one in alone.strokes if one.id.rpartition(".")[0] == placed.id)
    alone = replace(alone, strokes=mine) if around else alone
    return counts(alone)


# --- edits ---


def with_other_eyes(plan: Plan, key: str) -> Plan:
    """Return the plan with all that lies on a chart moved to the same one with its eyes closed, or open again.

    Raises
    ------
    UnknownNameError
        If the chart has no eye.
    """
    if key not in OTHER_EYES:
        raise UnknownNameError(phrase("chart with an eye"), key, list(OTHER_EYES))
    other = OTHER_EYES[key]
    return replace(
        plan,
        motifs=tuple(replace(one, chart=other) if one.chart == key else one for one in plan.motifs),
        overlays=tuple(replace(one, chart=other) if one.chart == key else one for one in plan.overlays),
        reserved=tuple(replace(one, chart=other) if one.chart == key else one for one in plan.reserved),
    )


def with_motif(plan: Plan, placed: PlacedMotif) -> Plan:
    """Return the plan with a motif replaced, or with a new one at the end."""
    known = any(one.id == placed.id for one in plan.motifs)
    kept = tuple(placed if one.id == placed.id else one for one in plan.motifs)
    return replace(plan, motifs=kept if known else (*kept, placed))


def without_motif(plan: Plan, name: str) -> Plan:
    """Return the plan without a motif; what was laid again along its line keeps the line."""
    return without_pieces(plan, {name})


def without_pieces(plan: Plan, gone: Collection[str]) -> Plan:
    """Return the plan without some pieces; what was laid again along a line of theirs keeps the line."""
    kept = []
    for one in plan.motifs:
        made = one.computed
        if one.id in gone:
            continue
        if made is not None and made.along in gone and (way := way_along(plan, one)) is not None:
            one = replace(one, computed=made.along_way(way))  # noqa: PLW2901 - the same piece
        kept.append(one)
    return replace(plan, motifs=tuple(kept))


def with_new_motif(plan: Plan, key: str, chart_key: str, place: Place, load: str = "") -> tuple[Plan, str]:
    """Return the plan with a motif of a kind put on a chart, and its id.

    Parts are laid with the stroke given, or with the loads of the plan that suit them best, see `suiting`;
    `solve.suiting` makes what is lacking.

    Raises
    ------
    NothingToLoadError
        If the plan has no stroke.
    """
    if not plan.strokes:
        raise NothingToLoadError(phrase("A motif is laid with the load of a stroke; make one on the Bench first."))
    kind = motif(key)
    chart_of(plan, chart_key)
    if load:
        plan.stroke(load)
    new_id = free_id(key, plan.ids_in_design)
    loads = tuple((part.key, load) for part in kind.parts) if load else suiting_loads(plan, kind)
    placed = PlacedMotif(new_id, new_name(plan, kind.name), key, loads, place=place, chart=chart_key)
    return with_motif(plan, placed), new_id


def placed_in(plan: Plan, name: str) -> PlacedMotif:
    """Return what lies on a chart of a plan by its id.

    Raises
    ------
    UnknownNameError
        If nothing of that id does.
    """
    for one in plan.motifs:
        if one.id == name:
            return one
    raise UnknownNameError(phrase("motif"), name, [one.id for one in plan.motifs])


def moved_in_order(plan: Plan, name: str, to: int) -> Plan:
    """Return the plan with a motif painted at another time: its number in the order."""
    placed = placed_in(plan, name)
    motifs = [one for one in plan.motifs if one is not placed]
    motifs.insert(to, placed)
    return replace(plan, motifs=tuple(motifs))


def moved_group(plan: Plan, name: str, by: Place) -> Plan:
    """Return the plan with a piece, and all of its part, placed once more by a place."""
    placed_in(plan, name)
    together = together_with(plan, name)
    kept = tuple(one.moved(by) if one.id in together else one for one in plan.motifs)
    return replace(plan, motifs=kept)


def with_part_of(plan: Plan, placed: PlacedMotif) -> tuple[Plan, str]:
    """Return the plan with a part for what comes of a piece, and its id: the piece's own, or a new one of its name."""
    if placed.part:
        return plan, placed.part
    new_id = free_id(placed.id, plan.ids_in_design)
    habit = Habit.ONE_GO if placed.motif and motif(placed.motif).in_one_go else Habit.USUAL
    return replace(plan, parts=(*plan.parts, PlanPart(new_id, placed.name, habit=habit))), new_id


def aimed(placed: PlacedMotif, point: Point) -> PlacedMotif:
    """Return a motif turned so that its top points at a point."""
    dx, dy = point[0] - placed.place.x_mm, point[1] - placed.place.y_mm
    if math.hypot(dx, dy) < 1e-6:
        return placed
    turn = math.degrees(math.atan2(dy, dx)) + 90.0
    return replace(placed, place=replace(placed.place, turn_deg=round((turn + 180) % 360 - 180, 2)))


def snapped(placed: PlacedMotif, point: Point) -> PlacedMotif:
    """Return a motif with its anchor on a point."""
    return replace(placed, place=replace(placed.place, x_mm=point[0], y_mm=point[1]))


def mirrored_twin(plan: Plan, name: str) -> tuple[Plan, str]:
    """Return the plan with the mirror image of a motif as a motif of its own, and its id.

    Raises
    ------
    PennelloError
        If the chart has no midline.
    """
    placed = placed_in(plan, name)
    midline = chart_of(plan, placed.chart).midline_mm
    if midline is None:
        raise PennelloError(phrase("This chart has no midline to mirror across; use one of the face or of both sides."))
    new_id = free_id(name, plan.ids_in_design)
    other = replace(placed, id=new_id, name=_other_side(placed.name), twin=False)
    return with_motif(plan, other.mirrored(midline)), new_id


def broken_apart(plan: Plan, name: str) -> Plan:
    """Return the plan with a motif as single strokes of one part, in its place in the order."""
    placed = placed_in(plan, name)
    plan, part = with_part_of(plan, placed)
    midline = chart_of(plan, placed.chart).midline_mm
    taken = plan.ids_in_design
    ones = []
    for number, piece in enumerate(laid_pieces(plan, placed, midline), 1):
        new_id = free_id(f"{placed.id[:50]}-{number}", taken)
        taken.append(new_id)
        ones.append(
            PlacedMotif(
                new_id,
                fitted(placed.name, f" {number}"),
                "",
                (("stroke", piece.load),),
                chart=placed.chart,
                part=part,
                way=piece.stroke,
            )
        )
    at = plan.motifs.index(placed)
    return replace(plan, motifs=(*plan.motifs[:at], *ones, *plan.motifs[at + 1 :]))


def repeated(plan: Plan, name: str, guide: CubicPath, count: int) -> Plan:
    """Return the plan with copies of a motif along a guide, turned with it, evenly apart; the first is the motif.

    Raises
    ------
    OutOfRangeError
        If there would be fewer than 2 or more than 60.
    """
    if not 2 <= count <= MOST_REPEATS:
        raise OutOfRangeError(
            phrase("number along a guide"), count, phrase("2 to {most_repeats}", most_repeats=MOST_REPEATS)
        )
    placed = placed_in(plan, name)
    plan, part = with_part_of(plan, placed)
    total = length_mm(guide)
    ring = math.dist(guide.points_mm[0], guide.points_mm[-1]) < 1e-3
    places = np.arange(count) / (count if ring else count - 1) * total
    at = parameter_at(guide, places)
    points, ways = position(guide, at), direction(guide, at)
    taken = plan.ids_in_design
    ones = []
    for number, (point, way) in enumerate(zip(points, ways, strict=True)):
        new_id = name if number == 0 else free_id(name, taken)
        taken.append(new_id)
        turn = math.degrees(math.atan2(float(way[1]), float(way[0])))
        place = replace(placed.place, x_mm=float(point[0]), y_mm=float(point[1]), turn_deg=round(turn, 2))
        ones.append(replace(placed, id=new_id, place=place, part=part))
    index = plan.motifs.index(placed)
    return replace(plan, motifs=(*plan.motifs[:index], *ones, *plan.motifs[index + 1 :]))


def scaled(placed: PlacedMotif, factor: float) -> PlacedMotif:
    """Return a motif with another size, within 0.1 to 10."""
    size = min(max(placed.place.scale * factor, SCALE[0]), SCALE[1])
    return replace(placed, place=replace(placed.place, scale=round(size, 4)))


def _other_side(name: str) -> str:
    return fitted_words(name, lambda one: phrase("{name}, other side", name=one))
