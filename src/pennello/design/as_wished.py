"""A plan as it is wished: every stroke laid with a made-up load that hides and has just the wanted colours."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from pennello.aim.wish import Wanted, stop_labs
from pennello.colour.lab import lab_to_xyz
from pennello.colour.observer import xyz_to_rgb
from pennello.colour.srgb import encode
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.kept import remembered
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import STRIPE_MM, STRIPES, Cake, Stripe
from pennello.kit.paint import Paint
from pennello.load.gaussian import WIDTH_10_90
from pennello.load.recipe import PickUp, Recipe, Way
from pennello.phrases import phrase

HIDES = 0.995
"""Contrast ratio of a made-up paint: what lies under it does not show."""

_DRIFT_MM = 0.3
_PASSES = 40.0


@remembered(8)
def as_wished(plan: Plan) -> Plan:
    """Return the plan with every load that lays across the stroke in the place of a wish come true.

    A stroke of a dipped brush, whose wish runs along the print, keeps its load; a wish that changes along the stroke
    is shown as at its start.
    """
    known = plan.paints_by_id
    paints, cakes, strokes = list(plan.paints), list(plan.cakes), []
    axes = plan.axes
    for stroke in plan.strokes:
        brush = plan.brush(stroke.brush)
        if axes[stroke.id] is GradientAxis.ALONG:
            strokes.append(stroke)
            continue
        pans, cake = _wished_cake(stroke.id, stroke.wanted, brush, known, skin_spectrum(plan.skin))
        paints += pans
        cakes.append(cake)
        strokes.append(_loaded(stroke, cake, brush))
    return replace(plan, paints=tuple(paints), cakes=tuple(cakes), strokes=tuple(strokes))


def _wished_cake(
    name: str, wanted: Wanted, brush: Applicator, paints: dict[str, Paint], skin: np.ndarray
) -> tuple[list[Paint], Cake]:
    """Return paints that hide in the wanted colours, and a cake as wide as the brush with them."""
    labs = stop_labs(wanted, paints, skin)
    colours = np.rint(np.clip(encode(xyz_to_rgb(lab_to_xyz(labs))), 0, 1) * 255).astype(int)
    pans = [
        Paint(
            phrase("wish {name} {number}", name=name, number=number),
            phrase("wish {number}", number=number),
            "#{:02x}{:02x}{:02x}".format(*rgb),
            contrast=HIDES,
        )
        for number, rgb in enumerate(colours.tolist(), 1)
    ]
    ends = [0.0, *(stop.to_u for stop in wanted.stops)]
    stripes = [
        Stripe(pan.id, max((high - low) * brush.width_mm, STRIPE_MM[0]))
        for pan, low, high in zip(pans, ends[:-1], ends[1:], strict=True)
    ]
    if len(stripes) < STRIPES[0]:
        stripes = [replace(stripes[0], width_mm=max(brush.width_mm / 2, STRIPE_MM[0]))] * 2
    blends = [stop.blend_mm / WIDTH_10_90 for stop in wanted.stops[:-1]]
    soft = math.sqrt(max(float(np.mean(blends)) ** 2 - _DRIFT_MM**2, 0.0)) if blends else 0.0
    return pans, Cake(
        phrase("wish {name}", name=name),
        phrase("Wish for {name}", name=name),
        tuple(stripes[: STRIPES[1]]),
        min(soft, 10.0),
    )


def _loaded(stroke: PlanStroke, cake: Cake, brush: Applicator) -> PlanStroke:
    """Return the stroke with all of its edge on a made-up cake."""
    way = Way.PRESS if any(one.way is Way.PRESS for one in stroke.recipe.pickups) else Way.SWEEP
    offset = (cake.width_mm - brush.width_mm) / 2
    pickup = PickUp(cake.id, offset, passes=_PASSES, drift_mm=_DRIFT_MM, way=way)
    return replace(stroke, recipe=Recipe((pickup,)), stroke=replace(stroke.stroke))
