"""Echo: each copy lies to the line as the part lay to its start; checked against plain geometry."""

import math
from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan

from pennello.design.echo import NoGuideError, echoed, guide_of
from pennello.design.on_chart import placed_in
from pennello.design.pulled import points_of, with_pulled
from pennello.errors import OutOfRangeError
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.path.cubic import line

STROKE = Stroke(line((2.0, 3.0), (8.0, 9.0)), Nib(NibMode.FOLLOWING, 90.0), 0.6)
QUARTER = 0.5522847498
ARC = replace(
    line((0, 0), (1, 0)),
    points_mm=((0.0, 0.0), (30 * QUARTER, 0.0), (30.0, 30 - 30 * QUARTER), (30.0, 30.0)),
)
"""A quarter of a circle of 30 mm, from +x to +y, as four Bezier points have it (handbook value)."""


@pytest.fixture
def plan_and_leaf():
    return with_pulled(replace(demo_plan(), motifs=()), "dahlia-petal", STROKE, "face", name="Leaf")


def points(plan, name):
    return np.array(points_of(placed_in(plan, name)))[[0, -1]]


def test_copies_go_along_a_straight_line_and_change_sides(plan_and_leaf):
    plan, leaf = plan_and_leaf
    plan, made = echoed(plan, leaf, line((0.0, 0.0), (30.0, 0.0)), 3, 0.5)
    foot, tip = points(plan, leaf)
    for number, name in enumerate(made, 1):
        side = np.array([1.0, -1.0 if number % 2 else 1.0])
        expected = np.array([foot, tip]) * side * 0.5**number + [10.0 * number, 0.0]
        assert points(plan, name) == pytest.approx(expected, abs=1e-4)


def test_copies_turn_with_the_line_and_stay_on_one_side(plan_and_leaf):
    plan, leaf = plan_and_leaf
    foot, tip = points(plan, leaf)
    plan, made = echoed(plan, leaf, ARC, 1, 1.0, by_turns=False)
    quarter = np.array([[0.0, 1.0], [-1.0, 0.0]])  # +x goes to +y
    expected = np.array([foot, tip]) @ quarter + [30.0, 30.0]
    assert points(plan, made[0]) == pytest.approx(expected, abs=1e-3)
    assert math.dist(*points(plan, made[0])) == pytest.approx(math.dist(foot, tip))


def test_a_guide_is_one_line_and_counts_are_kept(plan_and_leaf):
    plan, leaf = plan_and_leaf
    assert guide_of(placed_in(plan, leaf)).points_mm[0] == pytest.approx(STROKE.path.points_mm[0], abs=1e-3)
    with pytest.raises(NoGuideError, match="no single line"):
        guide_of(demo_plan().motifs[0])
    with pytest.raises(OutOfRangeError, match="size of each"):
        echoed(plan, leaf, ARC, 2, 3.0)
    with pytest.raises(NoGuideError, match="shorter"):
        echoed(plan, leaf, line((0.0, 0.0), (0.2, 0.0)))
