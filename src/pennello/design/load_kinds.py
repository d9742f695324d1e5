"""The kinds of load that painters name, each as an edit of a stroke's recipe; freely editable afterwards."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise

from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.design.edits import with_new_pickup, with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.design.wishing import with_load_wished
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.cake import Cake, Portion
from pennello.lay.stroke import Nib, NibMode, Wiggle
from pennello.load.recipe import Before, Face, PickUp, Way, Wetness
from pennello.path.cubic import line
from pennello.phrases import phrase

CORNER_PART = 0.25
TIP_PART = 0.3
PRESS_WIGGLE = Wiggle(2.0, 1.5)


@dataclass(frozen=True, slots=True)
class LoadKind:
    """A kind of load: its key, its name, what it is in a sentence, which applicators take it, and the edit."""

    key: str
    name: str
    words: str
    fits: Callable[[Applicator], bool]
    edit: Callable[[Plan, PlanStroke], Plan]


def main_way(brush: Applicator) -> Way:
    """Return how an applicator is loaded as a rule."""
    return Way.PRESS if brush.kind.pressed else Way.SWEEP


def _first_cake(plan: Plan, stroke: PlanStroke) -> str:
    return stroke.recipe.cakes[-1] if stroke.recipe.cakes else plan.cakes[0].id if plan.cakes else ""


def _another_cake(plan: Plan, stroke: PlanStroke) -> str:
    used = _first_cake(plan, stroke)
    return next((cake.id for cake in plan.cakes if cake.id != used), used)


def _paints(plan: Plan, stroke: PlanStroke) -> tuple[str, str]:
    """Return two paints: those at the ends of what is on the brush now, A and B, or of the tip and the belly.

    A brush that holds one paint keeps it, second; the first is then the one of its cake, or of the plan, that stands
    out most from it. Without a load they are the outer two of a cake, or the first two of the plan.
    """
    held = _held(plan, stroke)
    if held is None:
        name = _first_cake(plan, stroke)
        others = [stripe.paint for stripe in plan.cake(name).stripes] if name else [one.id for one in plan.paints]
        return others[0], others[-1]
    if held[0] != held[1]:
        return held
    cakes = [stripe.paint for name in stroke.recipe.cakes for stripe in plan.cake(name).stripes]
    others = [name for name in (cakes or [one.id for one in plan.paints]) if name != held[1]]
    own = hex_to_lab(plan.paint(held[1]).srgb)
    apart = {name: float(ciede2000(hex_to_lab(plan.paint(name).srgb), own)) for name in others}
    return max(apart, key=lambda name: apart[name], default=held[1]), held[1]


def _held(plan: Plan, stroke: PlanStroke) -> tuple[str, str] | None:
    """Return the paints that prevail at both ends of the edge as it is loaded, or None where there is none."""
    if not stroke.recipe.pickups:
        return None
    edge = plan.edge(stroke.id)
    if edge.total_mm3 <= 0:
        return None
    share, reach = edge.share, max(1, edge.share.shape[1] // 6)
    first, last = share[:, :reach].sum(axis=1), share[:, -reach:].sum(axis=1)
    return edge.paints[int(first.argmax())], edge.paints[int(last.argmax())]


def _onto(plan: Plan, stroke: PlanStroke, *pickups: PickUp) -> Plan:
    for pickup in pickups:
        stroke = with_new_pickup(stroke, len(stroke.recipe.pickups), pickup)
    return with_stroke(plan, stroke)


def _instead(plan: Plan, stroke: PlanStroke, *pickups: PickUp) -> Plan:
    """Load only this, and wish for what it lays."""
    return with_load_wished(
        with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, pickups=pickups))), stroke.id
    )


def _pan(paint: str) -> tuple[Portion, ...]:
    return (Portion(paint, 1.0),)


def _fill(brush: Applicator) -> float:
    return float(round(3 * brush.fill_passes))


def _window(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    cake = plan.cake(_first_cake(plan, stroke))
    offset = round(max(0.0, (cake.width_mm - brush.width_mm) / 2), 1)
    return _instead(
        plan, stroke, PickUp(cake.id, offset, passes=_fill(brush), drift_mm=brush.drift_mm, way=main_way(brush))
    )


def _third(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    name = _first_cake(plan, stroke)
    cake = plan.cake(name)
    at = _furthest_stripe(stroke, cake, brush)
    # corner A over the middle of that stripe
    middle = (cake.edges_mm[at] + cake.edges_mm[at + 1]) / 2 - CORNER_PART / 2 * brush.width_mm
    touch = PickUp(
        name, round(middle, 1), passes=2, drift_mm=brush.drift_mm, way=main_way(brush), part=(0.0, CORNER_PART)
    )
    return _onto(plan, stroke, touch)


def _furthest_stripe(stroke: PlanStroke, cake: Cake, brush: Applicator) -> int:
    """Return the stripe of a cake that lies furthest from where the brush has been."""
    been = [one.offset_mm + brush.width_mm / 2 for one in stroke.recipe.pickups if one.cake == cake.id]
    middles = [(low + high) / 2 for low, high in pairwise(cake.edges_mm)]
    return max(range(len(middles)), key=lambda at: min((abs(middles[at] - one) for one in been), default=middles[at]))


def _second_cake(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    return _onto(
        plan,
        stroke,
        PickUp(_another_cake(plan, stroke), 0.0, passes=3, drift_mm=brush.drift_mm, way=main_way(brush)),
    )


def _single(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    held = _held(plan, stroke)
    rim = held[0] if held is not None else _paints(plan, stroke)[0]
    return _instead(plan, stroke, PickUp(pan=_pan(rim), passes=_fill(brush), way=main_way(brush)))


def _halves(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    one, other = _paints(plan, stroke)
    make = PickUp(pan=_pan(one), passes=_fill(brush), way=main_way(brush), part=(0.0, 0.5))
    return _instead(plan, stroke, make, replace(make, pan=_pan(other), part=(0.5, 1.0)))


def _mixed(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    one, other = _paints(plan, stroke)
    pan = (Portion(one, 1.0), Portion(other, 1.0))
    return _instead(plan, stroke, PickUp(pan=pan, passes=_fill(brush), way=main_way(brush)))


def _tip_dip(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    tip, belly = _paints(plan, stroke)
    dipped = _instead(
        plan,
        stroke,
        PickUp(pan=_pan(belly), passes=_fill(brush), way=Way.DIP),
        PickUp(
            pan=_pan(tip),
            passes=_fill(brush),
            way=Way.DIP,
            part=(0.0, TIP_PART),
            before=Before.BLOT,
            wetness=Wetness.WET,
        ),
    )
    return _pressed(dipped, stroke.id)


def _pressed(plan: Plan, name: str) -> Plan:
    """Make the stroke a press: the tip lands first, the print lies along the path, a small wiggle widens it."""
    stroke = plan.stroke(name)
    brush = plan.brush(stroke.brush)
    x, y = stroke.stroke.path.points_mm[0]
    way = replace(
        stroke.stroke,
        path=line((x, y), (x + round(brush.print_mm * 0.15, 1), y)),
        nib=Nib(NibMode.FOLLOWING, 0.0),
        pressure=0.6,
        wiggle=PRESS_WIGGLE,
        reload_mm=(),
    )
    return with_stroke(plan, replace(stroke, stroke=way))


def _side(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    one, other = _paints(plan, stroke)
    body = PickUp(pan=_pan(other), passes=_fill(brush), way=Way.ROLL)
    side = PickUp(pan=_pan(one), passes=brush.fill_passes, way=Way.SIDE, part=(0.0, 0.6))
    return _instead(plan, stroke, body, side)


def _roll(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    name = _first_cake(plan, stroke)
    return _onto(plan, stroke, PickUp(name, 0.0, passes=_fill(brush), way=Way.ROLL))


def _two_sided(plan: Plan, stroke: PlanStroke) -> Plan:
    brush = plan.brush(stroke.brush)
    white = max(plan.paints, key=lambda paint: int(paint.srgb[1:3], 16) + int(paint.srgb[3:5], 16)).id
    back = PickUp(pan=_pan(white), passes=_fill(brush), way=Way.PRESS, face=Face.BACK)
    return _onto(plan, stroke, back)


def _any(_: Applicator) -> bool:
    return True


def _dips(brush: Applicator) -> bool:
    return brush.kind.dips


def _across(brush: Applicator) -> bool:
    return brush.kind not in {ApplicatorKind.LINER}


def _two_faced(brush: Applicator) -> bool:
    return brush.kind.two_faced


LOAD_KINDS = (
    LoadKind(
        "window",
        phrase("Straddle a window"),
        phrase("all of the edge over neighbouring stripes of a cake"),
        _across,
        _window,
    ),
    LoadKind(
        "third",
        phrase("Touch a third colour"),
        phrase("the last sweeps with one corner over another stripe"),
        _across,
        _third,
    ),
    LoadKind(
        "second", phrase("A second cake over it"), phrase("a few sweeps over another cake"), _across, _second_cake
    ),
    LoadKind("single", phrase("One colour from a pan"), phrase("all of the edge in one paint"), _any, _single),
    LoadKind("halves", phrase("Half and half from two pans"), phrase("one half of the edge in each"), _across, _halves),
    LoadKind("mixed", phrase("Two paints mixed"), phrase("mixed in the pan, by parts"), _any, _mixed),
    LoadKind("tip", phrase("Tip dip"), phrase("belly in one colour, blot the tip, tip in the other"), _dips, _tip_dip),
    LoadKind("side", phrase("Side load"), phrase("rolled in one colour, one side laid into another"), _dips, _side),
    LoadKind(
        "roll", phrase("Roll over stripes"), phrase("turned over in what lies under it, which mixes it"), _dips, _roll
    ),
    LoadKind(
        "faces",
        phrase("The other face of the sponge"),
        phrase("stripes on one face, white on the other"),
        _two_faced,
        _two_sided,
    ),
)


def kinds_for(brush: Applicator) -> tuple[LoadKind, ...]:
    """Return the kinds of load that an applicator takes."""
    return tuple(kind for kind in LOAD_KINDS if kind.fits(brush))


def goes_on_with(plan: Plan, stroke: PlanStroke) -> tuple[str, ...]:
    """Return the ids of earlier strokes whose leftover can be in this stroke's brush."""
    at = [one.id for one in plan.strokes].index(stroke.id)
    return tuple(one.id for one in plan.strokes[:at] if one.brush == stroke.brush)


def axis_words(axis: GradientAxis) -> tuple[str, str]:
    """Return what the two ends of an edge are called."""
    return (phrase("tip"), phrase("belly")) if axis is GradientAxis.ALONG else ("A", "B")
