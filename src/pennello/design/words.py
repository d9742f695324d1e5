"""A load and a stroke in the painter's words."""

from __future__ import annotations

from pennello.aim.attempt import Side
from pennello.design.plan import Plan, PlanStroke
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Cake
from pennello.load.edge import LoadedEdge, load
from pennello.load.recipe import Before, PickUp, Way
from pennello.path.cubic import length_mm
from pennello.units import LengthUnit, brush_size_text, length_text


def load_words(plan: Plan, stroke: PlanStroke, unit: LengthUnit = LengthUnit.MM) -> list[str]:
    """Return the load as sentences, one visit to a cake after another, then which colour goes outside."""
    brush = plan.brush(stroke.brush)
    lines = [f"{brush.name} ({brush_size_text(brush.width_mm)} wide)."]
    if stroke.recipe.after:
        lines.append(f"Go on with what {plan.stroke(stroke.recipe.after).name} left in the brush.")
    lines += [pickup_words(plan, stroke, pickup, unit) for pickup in stroke.recipe.pickups]
    rim, heel = side_paints(plan, stroke)
    if plan.axis(stroke.id) is GradientAxis.ALONG:
        tip, belly = (rim, heel) if stroke.rim is Side.A else (heel, rim)
        lines.append(f"Lay it down tip first: {tip} at the tip, {belly} at the belly.")
    else:
        lines.append(f"Corner {stroke.rim.value} is the rim: {rim} outside, {heel} at the heel.")
    if stroke.stroke.reload_mm:
        places = ", ".join(length_text(at, unit) for at in stroke.stroke.reload_mm)
        lines.append(f"Lift and reload at {places} of {length_text(length_mm(stroke.stroke.path), unit)}.")
    return lines


def pickup_words(plan: Plan, stroke: PlanStroke, pickup: PickUp, unit: LengthUnit = LengthUnit.MM) -> str:
    """Return one pick-up as a sentence or two."""
    brush = plan.brush(stroke.brush)
    text = _BEFORE[pickup.before]
    if brush.kind.two_faced and pickup.face is not stroke.recipe.lays:
        text += "Turn the sponge over: "
    part = part_words(pickup, stroke.recipe.axis(brush), brush.edge_mm(stroke.recipe.axis(brush)), unit)
    text += f"{part}{source_words(plan, pickup)}"
    if pickup.cake:
        left = "B" if pickup.flip else "A"
        text += f": corner {left} {_from_wall(pickup.offset_mm, unit)}"
        names = " / ".join(
            plan.paint(name).name for name in _under(plan.cake(pickup.cake), pickup.offset_mm, brush.width_mm)
        )
        text += f", over {names}" if names else ", over nothing"
        if pickup.skew_deg:
            text += f", turned {pickup.skew_deg:g}°"
    text += f". {pickup.passes:g} {passes_words(pickup.way, pickup.passes)}, {pickup.wetness.value}"
    return text + (f", drifting {length_text(pickup.drift_mm, unit)}." if pickup.cake else ".")


_BEFORE = {
    Before.KEEP: "",
    Before.BLOT: "Blot it there. ",
    Before.WIPE: "Wipe the brush. ",
    Before.RINSE: "Rinse the brush. ",
    Before.RINSE_TWICE: "Rinse the brush twice and swab it. ",
}
_PASSES = {
    Way.SWEEP: ("sweep", "sweeps"),
    Way.PRESS: ("press", "presses"),
    Way.DIP: ("dip", "dips"),
    Way.SIDE: ("stroke on its side", "strokes on its side"),
    Way.ROLL: ("turn", "turns"),
}


def passes_words(way: Way, passes: float) -> str:
    """Return what a pick-up's passes are called."""
    return _PASSES[way][passes != 1]


def source_words(plan: Plan, pickup: PickUp) -> str:
    """Return what a pick-up is taken from."""
    if pickup.cake:
        return plan.cake(pickup.cake).name
    if len(pickup.pan) == 1:
        return f"a pan of {plan.paint(pickup.pan[0].paint).name}"
    mixed = ", ".join(f"{portion.amount:g} {plan.paint(portion.paint).name}" for portion in pickup.pan)
    return f"mixed by parts: {mixed}"


def part_words(pickup: PickUp, axis: GradientAxis, edge_mm: float, unit: LengthUnit = LengthUnit.MM) -> str:
    """Return which part of the edge a pick-up loads, in words that begin a sentence; nothing for all of it."""
    low, high = pickup.part
    if pickup.whole:
        return ""
    size = length_text((high - low) * edge_mm, unit)
    if axis is GradientAxis.ALONG:
        return f"The tip, {size}, into " if low == 0 else f"From {length_text(low * edge_mm, unit)} behind the tip, "
    if low == 0 or high == 1:
        return f"Corner {'A' if low == 0 else 'B'} only, {size}, on "
    return f"{size} in the middle only, on "


def _from_wall(offset_mm: float, unit: LengthUnit) -> str:
    if abs(offset_mm) < 0.05:
        return "at the left wall"
    side = "from" if offset_mm > 0 else "beyond"
    return f"{length_text(abs(offset_mm), unit)} {side} the left wall"


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
        names.append(plan.paint(edge.paints[int(held.argmax())]).name if held.any() else "nothing")
    return (names[0], names[1]) if stroke.rim is Side.A else (names[1], names[0])
