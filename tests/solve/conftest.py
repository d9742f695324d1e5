"""Kits and wishes for searches; all invented."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.aim.wish import Stop, Wanted
from pennello.colour.skin import skin_reflectance
from pennello.kit import catalogue
from pennello.kit.cake import Cake, Stripe
from pennello.solve.candidates import Tried
from pennello.solve.coats import goal_for

PAINTS = catalogue.paints()
NAMES = sorted(PAINTS)
SKIN = skin_reflectance(40)
FLAT = catalogue.brushes()["flat-3-4"]


def random_cake(rng, name="c", least=22.0):
    count = int(rng.integers(2, 6))
    widths = rng.uniform(3, 9, count)
    widths *= max(1.0, least / widths.sum())
    picked = rng.choice(len(NAMES), count, replace=False)
    return Cake(
        name, name, tuple(Stripe(NAMES[int(p)], round(float(w), 2)) for p, w in zip(picked, widths, strict=True))
    )


def random_wish(rng):
    count = int(rng.integers(1, 5))
    ends = [*np.round(np.sort(rng.uniform(0.12, 0.9, count - 1)), 3).tolist(), 1.0]
    picked = rng.choice(len(NAMES), count, replace=False)
    stops = (
        Stop(paint=NAMES[int(p)], to_u=end, blend_mm=float(rng.uniform(0.5, 4)))
        for p, end in zip(picked, ends, strict=True)
    )
    return Wanted(tuple(stops))


def tried(wanted, *widths, drifts=(0.5, 1.2, 2.5)):
    brushes = [replace(FLAT, id=f"b{width}", width_mm=width) for width in widths or (FLAT.width_mm,)]
    return [Tried(brush, goal_for(wanted, brush.width_mm, PAINTS, SKIN), 15.0, drifts) for brush in brushes]


@pytest.fixture
def two_tone_plan(demo):
    """The demo's petal, wished for as two paints of a wide cake with one boundary."""
    cake = Cake("wide", "Wide", (Stripe("foam-white", 25.0), Stripe("poppy-red", 25.0)))
    base = demo.stroke("dahlia-petal")
    wanted = Wanted((Stop(paint="foam-white", to_u=0.3, blend_mm=2.19), Stop(paint="poppy-red")))
    pickup = replace(base.recipe.pickups[0], cake="wide", offset_mm=5.0, drift_mm=0.8)
    stroke = replace(base, id="two", recipe=replace(base.recipe, pickups=(pickup,)), wanted=wanted)
    return replace(demo, cakes=(cake,), strokes=(stroke,), paints=tuple(PAINTS.values()))
