"""Straight strokes without a canvas are held against strokes that are laid."""

from __future__ import annotations

import numpy as np
import pytest

from pennello.colour.basis import FULL
from pennello.colour.difference import ciede2000
from pennello.colour.skin import skin_reflectance
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Stripe
from pennello.kit.contact import bin_places
from pennello.kit.paint import Paint, optics
from pennello.lay.film import covered_reflectance, sample
from pennello.lay.laying import REFERENCE, lay
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.load.edge import load
from pennello.load.recipe import PickUp, Recipe
from pennello.path.cubic import line
from pennello.practice.strip import held_share, seen, strip_um

PAINTS = tuple(Paint(name, name, colour) for name, colour in (("w", "#f4f2ee"), ("p", "#d34f86"), ("d", "#4a1f5c")))
CAKE = Cake("c", "c", tuple(Stripe(name, 10.0) for name in ("w", "p", "d")))


@pytest.mark.parametrize(("pressure", "width_mm"), [(0.5, 19.05), (0.85, 25.4)])
def test_a_straight_stroke_is_the_one_that_is_laid(pressure, width_mm):
    brush = Applicator("b", "b", width_mm)
    recipe = Recipe((PickUp("c", offset_mm=3.0, passes=9),))
    stroke = Stroke(line((0, 0), (60, 0)), Nib(NibMode.FOLLOWING, 90.0), pressure=pressure)
    by_id = {one.id: one for one in PAINTS}
    laid = lay(recipe, stroke, brush, {"c": CAKE}, by_id, px_per_mm=6, basis=FULL, engine=REFERENCE)
    s_mm = np.array([6.0, 15.0, 30.0, 45.0, 54.0])
    read = sample(laid.even, laid.track.points(laid.track.at(s_mm), bin_places()))
    skin = skin_reflectance(40.0)
    true = FULL.lab(covered_reflectance(read.kx, read.sx, np.ones(read.coverage.shape), skin))
    edge = load(recipe, {"c": CAKE}, brush)
    um = strip_um(edge, brush, s_mm, pressure)
    inner = slice(3, -3)  # the rim's pixels are covered in part
    assert um.sum(axis=1)[:, inner] == pytest.approx(read.thickness_um[:, inner], rel=0.04)
    made = optics(tuple(by_id[name] for name in edge.paints))
    apart = ciede2000(FULL.lab(seen(um, made.k, made.s, skin)), true)[:, inner]
    assert apart.mean() < 0.25
    assert apart.max() < 1.0


def test_the_share_that_is_held_falls_as_the_law_says():
    # closed form: exp(-1) after one release length, whatever the bend
    assert held_share(np.array([0.0, 150.0]), 150.0).tolist() == pytest.approx([1.0, np.exp(-1)])
    assert held_share(np.array([150.0]), 150.0, 1.3)[0] == pytest.approx(np.exp(-1))
