"""A load and a stroke in the painter's words."""

from __future__ import annotations

import math

from pennello.aim.attempt import Side
from pennello.design.plan import Plan, PlanStroke
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Cake
from pennello.load.edge import LoadedEdge, load
from pennello.load.recipe import Before, PickUp, Way
from pennello.path.cubic import length_mm
from pennello.phrases import named, phrase, plural
from pennello.units import LengthUnit, brush_size_text, length_text


def load_words(plan: Plan, stroke: PlanStroke, unit: LengthUnit = LengthUnit.MM) -> list[str]:
    """Return the load as sentences, one visit to a cake after another, then which colour goes outside."""
    brush = plan.brush(stroke.brush)
    lines = [phrase("{brush} ({width_mm} wide).", brush=brush.name, width_mm=brush_size_text(brush.width_mm))]
    if stroke.recipe.after:
        lines.append(
            phrase("Go on with what {stroke} left in the brush.", stroke=plan.stroke(stroke.recipe.after).name)
        )
    lines += [pickup_words(plan, stroke, pickup, unit) for pickup in stroke.recipe.pickups]
    rim, heel = side_paints(plan, stroke)
    if plan.axis(stroke.id) is GradientAxis.ALONG:
        tip, belly = (rim, heel) if stroke.rim is Side.A else (heel, rim)
        lines.append(phrase("Lay it down tip first: {tip} at the tip, {belly} at the belly.", tip=tip, belly=belly))
    else:
        lines.append(
            phrase(
                "Corner {rim} is the rim: {rim_2} outside, {heel} at the heel.",
                rim=named(stroke.rim),
                rim_2=rim,
                heel=heel,
            )
        )
    if stroke.stroke.reload_mm:
        places = ", ".join(length_text(at, unit) for at in stroke.stroke.reload_mm)
        lines.append(
            phrase(
                "Lift and reload at {places} of {length_mm}.",
                places=places,
                length_mm=length_text(length_mm(stroke.stroke.path), unit),
            )
        )
    return lines


def pickup_words(plan: Plan, stroke: PlanStroke, pickup: PickUp, unit: LengthUnit = LengthUnit.MM) -> str:
    """Return one pick-up as a sentence or two."""
    brush = plan.brush(stroke.brush)
    axis = stroke.recipe.axis(brush)
    where = part_words(pickup, source_words(plan, pickup), axis, brush.edge_mm(axis), unit)
    passes, wetness = passes_text(pickup.way, pickup.passes), named(pickup.wetness)
    how = phrase("{passes}, {wetness}.", passes=passes, wetness=wetness)
    if pickup.cake:
        where = _on_cake(plan, pickup, where, brush.width_mm, unit)
        drift = length_text(pickup.drift_mm, unit)
        how = phrase("{passes}, {wetness}, drifting {drift}.", passes=passes, wetness=wetness, drift=drift)
    if brush.kind.two_faced and pickup.face is not stroke.recipe.lays:
        where = phrase("Turn the sponge over: {where}", where=where)
    return " ".join(one for one in (_BEFORE[pickup.before], f"{where}.", how) if one)


def _on_cake(plan: Plan, pickup: PickUp, cake: str, width_mm: float, unit: LengthUnit) -> str:
    """Return where a brush lies on a cake."""
    under = _under(plan.cake(pickup.cake), pickup.offset_mm, width_mm)
    told = {
        "cake": cake,
        "left": "B" if pickup.flip else "A",
        "from_wall": _from_wall(pickup.offset_mm, unit),
        "names": " / ".join(plan.paint(name).name for name in under) or phrase("nothing"),
    }
    if not pickup.skew_deg:
        return phrase("{cake}: corner {left} {from_wall}, over {names}", **told)
    turned = pickup.skew_deg
    return phrase("{cake}: corner {left} {from_wall}, over {names}, turned {turned:g}°", turned=turned, **told)


_BEFORE = {
    Before.KEEP: "",
    Before.BLOT: phrase("Blot it there."),
    Before.WIPE: phrase("Wipe the brush."),
    Before.RINSE: phrase("Rinse the brush."),
    Before.RINSE_TWICE: phrase("Rinse the brush twice and swab it."),
}
PASSES = {
    Way.SWEEP: phrase("sweep"),
    Way.PRESS: phrase("press"),
    Way.DIP: phrase("dip"),
    Way.SIDE: phrase("stroke on its side"),
    Way.ROLL: phrase("turn"),
}
"""What one pass of a pick-up is called."""


def passes_text(way: Way, passes: float) -> str:
    """Return how often a pick-up passes.

    >>> passes_text(Way.SWEEP, 1), passes_text(Way.DIP, 1.5)
    ('1 sweep', '1.5 dips')
    """
    count = math.ceil(passes) if passes > 0 else 0
    return {
        Way.SWEEP: plural(count, "{passes:g} sweep", "{passes:g} sweeps", passes=passes),
        Way.PRESS: plural(count, "{passes:g} press", "{passes:g} presses", passes=passes),
        Way.DIP: plural(count, "{passes:g} dip", "{passes:g} dips", passes=passes),
        Way.SIDE: plural(count, "{passes:g} stroke on its side", "{passes:g} strokes on its side", passes=passes),
        Way.ROLL: plural(count, "{passes:g} turn", "{passes:g} turns", passes=passes),
    }[way]


def source_words(plan: Plan, pickup: PickUp) -> str:
    """Return what a pick-up is taken from."""
    if pickup.cake:
        return plan.cake(pickup.cake).name
    if len(pickup.pan) == 1:
        return phrase("a pan of {paint}", paint=plan.paint(pickup.pan[0].paint).name)
    mixed = ", ".join(f"{portion.amount:g} {plan.paint(portion.paint).name}" for portion in pickup.pan)
    return phrase("mixed by parts: {mixed}", mixed=mixed)


def part_words(
    pickup: PickUp, source: str, axis: GradientAxis, edge_mm: float, unit: LengthUnit = LengthUnit.MM
) -> str:
    """Return what a pick-up is taken from, and by which part of the edge, in words that begin a sentence."""
    low, high = pickup.part
    if pickup.whole:
        return source
    size = length_text((high - low) * edge_mm, unit)
    if axis is GradientAxis.ALONG:
        if low == 0:
            return phrase("The tip, {size}, into {source}", size=size, source=source)
        return phrase("From {low} behind the tip, {source}", low=length_text(low * edge_mm, unit), source=source)
    if low == 0:
        return phrase("Corner A only, {size}, on {source}", size=size, source=source)
    if high == 1:
        return phrase("Corner B only, {size}, on {source}", size=size, source=source)
    return phrase("{size} in the middle only, on {source}", size=size, source=source)


def _from_wall(offset_mm: float, unit: LengthUnit) -> str:
    if abs(offset_mm) < 0.05:
        return phrase("at the left wall")
    far = length_text(abs(offset_mm), unit)
    if offset_mm > 0:
        return phrase("{far} from the left wall", far=far)
    return phrase("{far} beyond the left wall", far=far)


def _under(cake: Cake, offset_mm: float, width_mm: float) -> list[str]:
    edges = cake.edges_mm
    return [
        stripe.paint
        for stripe, low, high in zip(cake.stripes, edges, edges[1:], strict=False)
        if min(high, offset_mm + width_mm) - max(low, offset_mm) > 0.3
    ]


def _edge_of(plan: Plan, stroke: PlanStroke) -> LoadedEdge:
    return load(stroke.recipe, plan.cakes_by_id, plan.brush(stroke.brush))


def side_paints(plan: Plan, stroke: PlanStroke) -> tuple[str, str]:
    """Return the names of the paints that lead at the rim and at the heel ("nothing" on a bare corner)."""
    edge = plan.edge(stroke.id) if stroke in plan.strokes else _edge_of(plan, stroke)
    names = []
    for at in (slice(0, 4), slice(-4, None)):
        held = edge.solids[:, at].sum(axis=1)
        names.append(plan.paint(edge.paints[int(held.argmax())]).name if held.any() else phrase("nothing"))
    return (names[0], names[1]) if stroke.rim is Side.A else (names[1], names[0])
