"""Motifs of one's own: what was chosen on a chart, with the loads that it is laid with, to be put on other plans."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from pennello.design.computed import goes_round
from pennello.design.computing import Computed, Computing
from pennello.design.edits import free_id, loaded_itself, with_brush, with_cake, with_paints, with_stroke
from pennello.design.on_chart import MOST_STROKES, chart_of, laid_pieces, way_along
from pennello.design.part_edits import with_new_part
from pennello.design.parts import line_of
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan, PlanStroke
from pennello.design.suiting import edge_of, like_brush
from pennello.errors import OutOfRangeError, PennelloError
from pennello.limits import check_name
from pennello.motif.place import Place
from pennello.phrases import phrase

MOST_THINGS = 200


class NothingChosenError(PennelloError):
    """Nothing was chosen to keep."""


@dataclass(frozen=True, slots=True)
class Own:
    """A motif of one's own.

    Attributes
    ----------
    name
        What its painter calls it.
    parts
        A plan of just what it takes: motifs and free strokes about their common middle, and their loads.
    """

    name: str
    parts: Plan


def own_of(plan: Plan, names: Sequence[str], name: str) -> Own:
    """Return pieces of a plan, and all of the parts that are named, about their common middle, as one's own motif.

    Raises
    ------
    NothingChosenError
        If there are none of these names.
    OutOfRangeError
        If there are more than 200, or the name is too long.
    """
    wanted = set(names)
    chosen = [one for one in plan.motifs if one.id in wanted or wanted & {part.id for part in line_of(plan, one.part)}]
    if not chosen:
        raise NothingChosenError(phrase("Nothing on the chart is chosen; take a motif or a stroke in the hand first."))
    chosen = _round_these(plan, chosen)
    if not chosen:
        raise NothingChosenError(
            phrase("What is worked out is kept with what it goes round; choose that, or all of its part.")
        )
    if len(chosen) > MOST_THINGS:
        raise OutOfRangeError(
            phrase("number of things in {name}", name=name),
            len(chosen),
            phrase("1 to {most_things}", most_things=MOST_THINGS),
        )
    check_name(phrase("the name of your own motif"), name.strip())
    return Own(name.strip() or chosen[0].name.strip() or chosen[0].id, _with_paints_used(_only(plan, chosen, name)))


def _only(plan: Plan, chosen: list[PlacedMotif], title: str) -> Plan:
    """Return a plan of these alone, about their common middle, with what they are laid with."""
    x, y = _middle(plan, chosen)
    away = Place(-x, -y)
    loads = {load for one in chosen for _, load in one.loads}
    strokes = tuple(loaded_itself(plan, one) for one in plan.strokes if one.id in loads)
    cakes = {cake for one in strokes for cake in one.recipe.cakes}
    return replace(
        Plan(title=title),
        skin=plan.skin,
        brushes=tuple(one for one in plan.brushes if one.id in {stroke.brush for stroke in strokes}),
        cakes=tuple(one for one in plan.cakes if one.id in cakes),
        paints=plan.paints,
        strokes=strokes,
        motifs=tuple(replace(one.moved(away), part="") for one in chosen),
    )


def _round_these(plan: Plan, chosen: Sequence[PlacedMotif]) -> list[PlacedMotif]:
    """Return pieces with what is worked out going round these alone; what goes round none of them is left out."""
    found = []
    for one in chosen:
        if one.computed is None:
            found.append(one)
            continue
        names = tuple(other.id for other in chosen if goes_round(plan, one, other))
        if names or one.computed.kind is Computing.FILL:
            found.append(replace(one, computed=replace(_with_its_line(plan, one, chosen), of=names)))
    return found


def _with_its_line(plan: Plan, placed: PlacedMotif, chosen: Sequence[PlacedMotif]) -> Computed:
    """Return what a piece is worked out from, with the line that it goes along if that is not chosen too."""
    made = placed.computed
    assert made is not None
    way = way_along(plan, placed) if made.along not in {one.id for one in chosen} else None
    return made.along_way(way) if made.along and way is not None else made


def _middle(plan: Plan, chosen: Sequence[PlacedMotif]) -> tuple[float, float]:
    paths = [piece.stroke.path for one in chosen for piece in laid_pieces(plan, replace(one, twin=False), None)]
    points = np.concatenate([np.array(path.points_mm) for path in paths])
    x, y = (points.min(axis=0) + points.max(axis=0)) / 2
    return float(x), float(y)


def _with_paints_used(plan: Plan) -> Plan:
    used = {paint for cake in plan.cakes for paint in cake.paints}
    for stroke in plan.strokes:
        used |= {portion.paint for pickup in stroke.recipe.pickups for portion in pickup.pan}
        used |= {stop.paint for stop in (*stroke.wanted.stops, *stroke.wanted.end) if stop.paint}
    return replace(plan, paints=tuple(one for one in plan.paints if one.id in used))


def with_own(
    plan: Plan, own: Own, chart: str, place: Place, *, own_colours: bool = True, twin: bool | None = None
) -> tuple[Plan, tuple[str, ...]]:
    """Return the plan with a motif of one's own put on a chart as a part, and the ids of what it is made of.

    Parameters
    ----------
    own_colours
        Whether its loads come along; else those of the plan are taken that are most like them: such a brush, and as
        light and dark over the edge. One comes along where the plan has none with such a brush.
    twin
        Whether all of it has its mirror image, or as it was kept.

    Raises
    ------
    OutOfRangeError
        If there would be more than 2000 things.
    """
    chart_of(plan, chart)
    if len(plan.motifs) + len(own.parts.motifs) > MOST_STROKES:
        raise OutOfRangeError(
            phrase("number of motifs"),
            len(plan.motifs) + len(own.parts.motifs),
            phrase("at most {most_strokes}", most_strokes=MOST_STROKES),
        )
    loads: dict[str, str] = {}
    for load in own.parts.strokes:
        like = None if own_colours else _most_like(plan, own.parts, load)
        if like is None:
            plan, like = _brought(plan, own.parts, load)
        loads[load.id] = like
    ids: dict[str, str] = {}
    for one in own.parts.motifs:
        ids[one.id] = free_id(one.id, [*plan.ids_in_design, *ids.values()])
    new = []
    for one in own.parts.motifs:
        placed = replace(
            one.moved(place).renamed(ids),
            loads=tuple((part, loads[name]) for part, name in one.loads),
            chart=chart,
            twin=one.twin if twin is None else twin,
        )
        new.append(placed if len(own.parts.motifs) > 1 else replace(placed, name=own.name))
    plan = replace(plan, motifs=(*plan.motifs, *new))
    names = tuple(ids.values())
    return (with_new_part(plan, own.name, names)[0] if len(names) > 1 else plan), names


def _most_like(plan: Plan, parts: Plan, load: PlanStroke) -> str | None:
    """Return the load of a plan that is as light and dark over its edge as a kept one, with such a brush; or none."""
    wished, brush = edge_of(parts, load)[:, 0], parts.brush(load.brush)
    found = [one for one in plan.strokes if like_brush(plan.brush(one.brush), brush)]
    if not found:
        return None
    return min(found, key=lambda one: float(np.abs(edge_of(plan, one)[:, 0] - wished).mean())).id


def _brought(plan: Plan, parts: Plan, load: PlanStroke) -> tuple[Plan, str]:
    """Return the plan with a kept load, its brush, cake and paints; the one that it brought before, if it did."""
    same = next((one for one in plan.strokes if replace(one, id=load.id) == load), None)
    if same is not None:
        return plan, same.id
    brush = parts.brush(load.brush)
    if not any(one.id == brush.id for one in plan.brushes):
        plan = with_brush(plan, brush)
    plan = with_paints(plan, parts.paints)
    for name in load.recipe.cakes:
        if not any(cake.id == name for cake in plan.cakes):
            plan = with_cake(plan, next(cake for cake in parts.cakes if cake.id == name))
    new = replace(load, id=free_id(load.id, [one.id for one in plan.strokes]))
    return with_stroke(plan, new), new.id
