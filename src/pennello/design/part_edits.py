"""Edits of the parts of a design: made, moved in the order, mirrored, copied, recoloured, left out."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

from pennello.design.edits import free_id, new_name, slug
from pennello.design.holds import with_hold
from pennello.design.on_chart import chart_of, placed_in, without_pieces
from pennello.design.part import PlanPart
from pennello.design.parts import line_of, listed, pieces_in
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.plan import Plan
from pennello.errors import PennelloError, UnknownNameError
from pennello.lay.families.hold import Hold
from pennello.limits import fitted
from pennello.motif.place import HERE, Place
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase


class PartProblemError(PennelloError):
    """Something cannot be done with a part."""


def part_in(plan: Plan, name: str) -> PlanPart:
    """Return a part by id; raises UnknownNameError."""
    for one in plan.parts:
        if one.id == name:
            return one
    raise UnknownNameError(phrase("part"), name, [one.id for one in plan.parts])


def with_part(plan: Plan, part: PlanPart) -> Plan:
    """Return the plan with a part replaced, or with a new one.

    Raises
    ------
    PartProblemError
        If it would lie within itself.
    """
    known = any(one.id == part.id for one in plan.parts)
    kept = tuple(part if one.id == part.id else one for one in plan.parts)
    changed = replace(plan, parts=kept if known else (*kept, part))
    if part.within and (part.within == part.id or part.id in [one.id for one in line_of(changed, part.within)]):
        raise PartProblemError(phrase("{part} cannot lie within itself; choose another part.", part=part.name))
    if part.within:
        part_in(plan, part.within)
    return changed


def with_new_part(plan: Plan, name: str, members: Collection[str] = (), within: str = "") -> tuple[Plan, str]:
    """Return the plan with a new part of these pieces and parts, painted where the first of them is; its id."""
    taken = plan.ids_in_design
    new_id = free_id(slug(name), taken)
    plan = with_part(plan, PlanPart(new_id, fitted(name.strip()) or new_id, within))
    return put_in(plan, members, new_id), new_id


def put_in(plan: Plan, members: Collection[str], part: str) -> Plan:
    """Return the plan with pieces and parts in a part ("" for none), painted together where its first piece is.

    Raises
    ------
    UnknownNameError
        If there is no such part or piece.
    PartProblemError
        If a part would lie within itself.
    """
    if part:
        part_in(plan, part)
    for name in members:
        block_of(plan, name)
    for one in plan.parts:
        if one.id in members:
            plan = with_part(plan, replace(one, within=part))
    changed = replace(plan, motifs=tuple(replace(one, part=part) if one.id in members else one for one in plan.motifs))
    return _gathered(changed, part) if part else changed


def _gathered(plan: Plan, part: str) -> Plan:
    block = [one.id for one in pieces_in(plan, part)]
    if not block:
        return plan
    first = next(number for number, one in enumerate(plan.motifs) if one.id in block)
    before = [one for one in plan.motifs[:first] if one.id not in block]
    after = [one for one in plan.motifs[first:] if one.id not in block]
    return replace(plan, motifs=(*before, *pieces_in(plan, part), *after))


def without_part(plan: Plan, name: str, *, pieces: bool = False) -> Plan:
    """Return the plan without a part: what it holds goes to the part about it, or away with it (`pieces`)."""
    part = part_in(plan, name)
    if pieces:
        gone = {one.id for one in pieces_in(plan, name)}
        inner = {one.id for one in plan.parts if any(outer.id == name for outer in line_of(plan, one.id))}
        kept = tuple(one for one in plan.parts if one.id not in inner)
        return replace(without_pieces(plan, gone), parts=kept)
    parts = (replace(one, within=part.within) if one.within == name else one for one in plan.parts if one.id != name)
    motifs = (replace(one, part=part.within) if one.part == name else one for one in plan.motifs)
    return replace(plan, parts=tuple(parts), motifs=tuple(motifs))


def block_of(plan: Plan, name: str) -> tuple[PlacedMotif, ...]:
    """Return the pieces that a part or a piece is; raises UnknownNameError."""
    if any(one.id == name for one in plan.parts):
        return pieces_in(plan, name)
    return (placed_in(plan, name),)


def painted_before(plan: Plan, name: str, other: str) -> Plan:
    """Return the plan with a part or piece painted just before another one, "" for last of all.

    What it is a part of stays as it is; `placed_before` changes that too.
    """
    block = block_of(plan, name)
    ids = {one.id for one in block}
    rest = [one for one in plan.motifs if one.id not in ids]
    if not other:
        return replace(plan, motifs=(*rest, *block))
    target = [one.id for one in block_of(plan, other) if one.id not in ids]
    if not target:
        return plan
    at = next(number for number, one in enumerate(rest) if one.id in target)
    return replace(plan, motifs=(*rest[:at], *block, *rest[at:]))


def placed_before(plan: Plan, name: str, other: str, part: str) -> Plan:
    """Return the plan with a part or piece as one of a part ("" for none), painted just before another one.

    Parameters
    ----------
    other
        The part or piece that it comes before; "" for the last of `part`, or of the whole plan without one.

    Raises
    ------
    PartProblemError
        If a part would lie within itself.
    """
    if any(one.id == name for one in plan.parts):
        plan = with_part(plan, replace(part_in(plan, name), within=part))
    else:
        plan = replace(plan, motifs=tuple(replace(one, part=part) if one.id == name else one for one in plan.motifs))
    plan = painted_before(plan, name, other)
    for one in line_of(plan, part):
        plan = _gathered(plan, one.id)
    return plan


def all_placed_before(plan: Plan, names: Sequence[str], other: str, part: str) -> Plan:
    """Return the plan with parts and pieces as some of a part, one after another, just before another one.

    Where that is one of them, before what follows them; else as `placed_before`.
    """
    if other in names:
        siblings = [one.id for depth, one in listed(plan, part) if depth == 0]
        after = siblings[siblings.index(other) :] if other in siblings else []
        other = next((one for one in after if one not in names), "")
    for name in names:
        plan = placed_before(plan, name, other, part)
    return plan


def twinned(plan: Plan, name: str, *, on: bool) -> Plan:
    """Return the plan with the mirror image of all pieces of a part painted with them, or no longer."""
    ids = {one.id for one in block_of(plan, name)}
    return replace(plan, motifs=tuple(replace(one, twin=on) if one.id in ids else one for one in plan.motifs))


def mirrored_part(plan: Plan, name: str) -> Plan:
    """Return the plan with a part laid as its mirror image across the midline.

    Raises
    ------
    PartProblemError
        If a chart of it has no midline.
    """
    mirrored = {}
    for one in block_of(plan, name):
        midline = chart_of(plan, one.chart).midline_mm
        if midline is None:
            raise PartProblemError(
                phrase("This chart has no midline to mirror across; use one of the face or of both sides.")
            )
        mirrored[one.id] = one.mirrored(midline)
    return replace(plan, motifs=tuple(mirrored.get(one.id, one) for one in plan.motifs))


def copied(plan: Plan, name: str, chart: str = "", by: Place | None = None) -> tuple[Plan, str]:
    """Return the plan with a copy of a part or piece, on another chart or moved by a place; the copy's id."""
    if chart:
        chart_of(plan, chart)
    block = block_of(plan, name)
    inner = [one for one in plan.parts if any(part.id == name for part in line_of(plan, one.id))]
    outer = next((one.within for one in inner if one.id == name), None)
    ids = _new_ids(plan, [*(one.id for one in inner), *(one.id for one in block)])
    parts = [replace(one, id=ids[one.id], within=one.within if one.id == name else ids[one.within]) for one in inner]
    pieces = [
        replace(
            one.moved(by or HERE).renamed(ids),
            part=one.part if outer is None else ids[one.part],
            chart=chart or one.chart,
        )
        for one in block
    ]
    return replace(plan, parts=(*plan.parts, *parts), motifs=(*plan.motifs, *pieces)), ids[name]


def _new_ids(plan: Plan, names: Sequence[str]) -> dict[str, str]:
    """Return free ids for copies of what has these."""
    taken = plan.ids_in_design
    found = {}
    for name in names:
        found[name] = free_id(name, taken)
        taken.append(found[name])
    return found


def recoloured(plan: Plan, name: str, loads: Mapping[str, str]) -> Plan:
    """Return the plan with pieces of a part laid with other loads, by id of the old one; raises UnknownNameError."""
    for load in loads.values():
        plan.stroke(load)
    ids = {one.id for one in block_of(plan, name)}
    return replace(
        plan,
        motifs=tuple(
            replace(one, loads=tuple((role, loads.get(load, load)) for role, load in one.loads))
            if one.id in ids
            else one
            for one in plan.motifs
        ),
    )


def without_seen(plan: Plan, hidden: Collection[str]) -> Plan:
    """Return the plan without the pieces of these parts, and without these pieces: what a look at the rest shows."""
    if not hidden:
        return plan
    gone = {
        one.id for one in plan.motifs if one.id in hidden or any(part.id in hidden for part in line_of(plan, one.part))
    }
    return replace(plan, motifs=tuple(one for one in plan.motifs if one.id not in gone))


def short_form(plan: Plan) -> Plan:
    """Return the plan as it is when the queue is long: without some parts, with fewer petals and the like."""
    left = without_seen(plan, {one.id for one in plan.parts if one.long_only})
    return replace(left, motifs=tuple(one.in_short for one in left.motifs))


def with_new_piece(
    plan: Plan, load: str, way: CubicPath, chart: str = "face", hold: Hold | None = None, name: str = ""
) -> tuple[Plan, str]:
    """Return the plan with one stroke more on a chart, last of all, laid with a load of the plan, and its id.

    Parameters
    ----------
    way
        Where its path goes, mm on the chart; all else is as the load's trial stroke has it.
    hold
        One of the five ways to hold the brush; that of the trial stroke without it.
    """
    source = plan.stroke(load)
    chart_of(plan, chart)
    stroke = replace(source.stroke, path=way, flips_mm=(), reload_mm=())
    if hold is not None:
        stroke = with_hold(stroke, hold)
    called = name or new_name(plan, source.name)
    new_id = free_id(slug(name or source.name), plan.ids_in_design)
    placed = PlacedMotif(new_id, fitted(called), FREE, ((SINGLE, load),), chart=chart, way=stroke)
    return replace(plan, motifs=(*plan.motifs, placed)), new_id
