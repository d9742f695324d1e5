"""A load and a stroke in the painter's words."""

from __future__ import annotations

from pennello.aim.attempt import Side
from pennello.design.plan import Plan, PlanStroke
from pennello.kit.cake import Cake
from pennello.load.edge import load
from pennello.load.recipe import Before, PickUp
from pennello.path.cubic import length_mm
from pennello.units import LengthUnit, brush_size_text, length_text


def load_words(plan: Plan, stroke: PlanStroke, unit: LengthUnit = LengthUnit.MM) -> list[str]:
    """Return the load as sentences, one visit to a cake after another, then which colour goes outside."""
    brush = plan.brush(stroke.brush)
    lines = [f"{brush.name} ({brush_size_text(brush.width_mm)} wide)."]
    lines += [
        _pickup_words(plan, pickup, plan.cake(pickup.cake), brush.width_mm, unit) for pickup in stroke.recipe.pickups
    ]
    rim, heel = side_paints(plan, stroke)
    lines.append(f"Corner {stroke.rim.value} is the rim: {rim} outside, {heel} at the heel.")
    if stroke.stroke.reload_mm:
        places = ", ".join(length_text(at, unit) for at in stroke.stroke.reload_mm)
        lines.append(f"Lift and reload at {places} of {length_text(length_mm(stroke.stroke.path), unit)}.")
    return lines


def _pickup_words(plan: Plan, pickup: PickUp, cake: Cake, width_mm: float, unit: LengthUnit) -> str:
    before = {Before.KEEP: "", Before.WIPE: "Wipe the brush. ", Before.RINSE: "Rinse the brush. "}[pickup.before]
    left = "B" if pickup.flip else "A"
    names = " / ".join(plan.paint(name).name for name in _under(cake, pickup.offset_mm, width_mm))
    text = f"{before}{cake.name}: corner {left} {_from_wall(pickup.offset_mm, unit)}"
    text += f", over {names}" if names else ", over nothing"
    if pickup.skew_deg:
        text += f", turned {pickup.skew_deg:g}°"
    return f"{text}. {pickup.passes:g} sweeps, {pickup.wetness.value}, drifting {length_text(pickup.drift_mm, unit)}."


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


def side_paints(plan: Plan, stroke: PlanStroke) -> tuple[str, str]:
    """Return the names of the paints that lead at the rim and at the heel ("nothing" on a bare corner)."""
    edge = load(stroke.recipe, {cake.id: cake for cake in plan.cakes}, plan.brush(stroke.brush))
    names = []
    for at in (slice(0, 4), slice(-4, None)):
        held = edge.solids[:, at].sum(axis=1)
        names.append(plan.paint(edge.paints[int(held.argmax())]).name if held.any() else "nothing")
    return (names[0], names[1]) if stroke.rim is Side.A else (names[1], names[0])
