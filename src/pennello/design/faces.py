"""How many more times a plan can be painted from its cakes."""

from __future__ import annotations

import math

from pennello.design.plan import Plan
from pennello.load.wear import cake_use, loads_left


def faces_left(plan: Plan, cake: str) -> tuple[float, ...]:
    """Return for each stripe of a cake how many more times the whole plan can be painted; infinite if it is not used.

    Every stroke is loaded once, and again at each of its reloads.
    """
    pan, cakes = plan.cake(cake), plan.cakes_by_id
    lasting = [0.0] * len(pan.stripes)
    for stroke in plan.strokes:
        if cake not in stroke.recipe.cakes:
            continue
        _, uses = cake_use(stroke.recipe, cakes, plan.brush(stroke.brush), plan.residue(stroke.id))
        if cake in uses:
            times = 1 + len(stroke.stroke.reload_mm)
            left = (max(loads, 1e-9) for loads in loads_left(pan, uses[cake]))
            lasting = [rate + times / loads for rate, loads in zip(lasting, left, strict=True)]
    return tuple(1 / rate if rate > 0 else math.inf for rate in lasting)
