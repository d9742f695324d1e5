"""What a plan's reader should know that is no colour difference: places and sentences."""

from __future__ import annotations

from collections.abc import Iterator

from pennello.design.plan import Plan, PlanStroke
from pennello.errors import clipped
from pennello.finding import Code, Finding
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.paint import Near, Paint
from pennello.lay.stroke import NibMode
from pennello.load.pickup import met_shares, part_met
from pennello.load.recipe import Face, PickUp, Way, Wetness
from pennello.load.wear import dirt_share, worn_out
from pennello.path.cubic import length_mm
from pennello.phrases import phrase
from pennello.units import length_text

DIRTY_SHARE = 0.3
"""A stripe whose top is this much other paint is called dirty (a default)."""


def problems(plan: Plan) -> tuple[Finding, ...]:
    """Return what is odd about a plan, in the order of its strokes, then of its order of painting."""
    strokes = [problem for stroke in plan.strokes for problem in _of_stroke(plan, stroke)]
    return (*strokes, *problems_of_order(plan))


def problems_of_order(plan: Plan) -> tuple[Finding, ...]:
    """Return what the order of painting says about parts that are not there."""
    parts = {one.id for one in plan.motifs} | {one.name for one in plan.overlays} | {one.id for one in plan.strokes}
    ordering = plan.ordering
    found = [
        Finding(
            Code.NO_SUCH_PART_IN_ORDER,
            phrase("There is no part '{name}', so this rule does nothing; take it away.", name=clipped(name)),
            place=f"ordering.rules[{i}]",
        )
        for i, rule in enumerate(ordering.rules)
        for name in dict.fromkeys((rule.earlier, rule.later))
        if name not in parts
    ]
    for key, pairs in (("priorities", ordering.priorities), ("worth", ordering.worth)):
        words = (
            phrase("so what may be left out does nothing; take it away.")
            if key == "priorities"
            else phrase("so what it is worth does nothing; take it away.")
        )
        found += [
            Finding(
                Code.NO_SUCH_PART_IN_ORDER,
                phrase("There is no part '{name}', {words}", name=clipped(name), words=words),
                place=f"ordering.{key}.{clipped(name)}",
            )
            for name, _ in pairs
            if name not in parts
        ]
    return tuple(found)


def problems_of(plan: Plan, stroke: str) -> tuple[Finding, ...]:
    """Return what is odd about one stroke; raises UnknownNameError."""
    return tuple(_of_stroke(plan, plan.stroke(stroke)))


def _of_stroke(plan: Plan, stroke: PlanStroke) -> Iterator[Finding]:
    where = f"strokes.{stroke.id}"
    brush = plan.brush(stroke.brush)
    axis = plan.axis(stroke.id)
    for index, pickup in enumerate(stroke.recipe.pickups):
        place = f"{where}.load.pickups[{index}]"
        if pickup.cake:
            yield from _of_cake(plan, place, pickup, brush, axis)
        if pickup.way is Way.DIP and not brush.kind.dips:
            yield _found(
                Code.WRONG_DIP,
                place,
                phrase("{brush} takes its colours across: a dip only loads all of its edge alike.", brush=brush.name),
            )
        if pickup.face is Face.BACK and not brush.kind.two_faced:
            yield _found(Code.NO_SECOND_FACE, place, phrase("{brush} has no second face.", brush=brush.name))
        if pickup.wetness is Wetness.TOO_WET:
            yield _found(
                Code.TOO_WET,
                place,
                phrase("Too wet: {sign}; {mend}.", sign=pickup.wetness.sign, mend=pickup.wetness.mend),
            )
    yield from _of_way(stroke, brush, where)
    for name in plan.edge(stroke.id).paints:
        yield from _of_paint(plan.paint(name), stroke.near, f"{where}.load")


def _of_way(stroke: PlanStroke, brush: Applicator, where: str) -> Iterator[Finding]:
    length = length_mm(stroke.stroke.path)
    if any(at >= length for at in stroke.stroke.reload_mm) and length > 0:
        yield _found(
            Code.RELOAD_BEYOND,
            f"{where}.reload_mm",
            phrase("A reload lies beyond the end of the stroke, {length}.", length=length_text(length)),
        )
    touches = brush.kind.dips or brush.kind.pressed or stroke.stroke.nib.mode is NibMode.PIVOTING
    if length == 0 and not touches:
        yield _found(
            Code.NO_LENGTH,
            f"{where}.path",
            phrase("The path has no length: the brush only touches down or turns on the spot."),
        )


def _of_paint(paint: Paint, near: Near, where: str) -> Iterator[Finding]:
    if paint.finish.note:
        yield _found(Code.FINISH, where, phrase("{paint} is {note}.", paint=paint.name, note=paint.finish.note))
    if not paint.skin:
        yield _found(
            Code.NOT_FOR_SKIN,
            where,
            phrase("{paint} is not marked as made for skin; its label decides.", paint=paint.name),
        )
    elif not paint.allowed(near):
        place = {Near.EYE: phrase("the eye area"), Near.LIPS: "lips"}.get(near, "skin")
        yield _found(
            Code.LABEL,
            where,
            phrase(
                "{paint} is not marked for {place}; take another, its label decides.", paint=paint.name, place=place
            ),
        )


def _of_cake(plan: Plan, place: str, pickup: PickUp, brush: Applicator, axis: GradientAxis) -> Iterator[Finding]:
    cake = plan.cake(pickup.cake)
    _, over = met_shares(pickup, cake, brush, axis)
    part = part_met(pickup, brush, axis) > 0
    bare_mm = float((1 - over)[part].sum()) * brush.edge_mm(axis) / len(over)
    if bare_mm > 0.2:
        text = phrase(
            "{bare_mm} of {brush} hangs over the edge of {cake} and picks up nothing.",
            bare_mm=length_text(bare_mm),
            brush=brush.name,
            cake=cake.name,
        )
        yield _found(Code.HANGS_OVER, place, text)
    shares, _ = met_shares(pickup, cake, brush, axis)
    for stripe in worn_out(cake):
        if shares[stripe].max() > 0.05:
            name = plan.paint(cake.stripes[stripe].paint).name
            yield _found(
                Code.WORN_OUT,
                place,
                phrase("{name} on {cake} is worn out: it drops out of the load. Refill it.", name=name, cake=cake.name),
            )
    for stripe, share in enumerate(dirt_share(cake).tolist()):
        if share > DIRTY_SHARE and shares[stripe].max() > 0.05:
            name = plan.paint(cake.stripes[stripe].paint).name
            yield _found(
                Code.DIRTY,
                place,
                phrase(
                    "{name} on {cake} is dirty, {share:.0%} of its top; clean the top.",
                    name=name,
                    cake=cake.name,
                    share=share,
                ),
            )


def _found(code: Code, place: str, text: str) -> Finding:
    return Finding(code, text, place=place)
