"""Echo: each copy lies to the line as the part lay to its start; checked against plain geometry."""

import math
from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan

from pennello.design.chart_checks import odd_on
from pennello.design.echo import echoed, guide_of, with_echo
from pennello.design.made_numbers import with_number
from pennello.design.on_chart import chart_of, moved_group, pieces_on, placed_in, without_motif
from pennello.design.own import own_of
from pennello.design.part_edits import copied, recoloured, twinned, with_new_part
from pennello.design.pulled import points_of, with_pulled
from pennello.design.repeats import NoGuideError
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.motif.place import Place
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


# --- living ---


@pytest.fixture
def plan_and_echo(plan_and_leaf):
    plan, leaf = plan_and_leaf
    plan, _ = with_pulled(plan, "dahlia-petal", Stroke(line((0.0, 0.0), (30.0, 0.0))), "face", name="Stem")
    return with_echo(plan, leaf, "stem", 3, 0.5)


def laid(plan, name):
    """Return where the strokes of a piece begin and end, shape (strokes, 2, 2), mm."""
    return np.array([[one.stroke.path.points_mm[at] for at in (0, -1)] for one in laid_of(plan, name)])


def laid_of(plan, name):
    return [one for one in pieces_on(plan, "face") if one.motif == name]


def test_what_is_laid_again_lies_where_copies_would(plan_and_leaf, plan_and_echo):
    plan, leaf = plan_and_leaf
    copies, names = echoed(plan, leaf, line((0.0, 0.0), (30.0, 0.0)), 3, 0.5)
    living, echo = plan_and_echo
    expected = np.concatenate([laid(copies, name) for name in names])
    assert laid(living, echo) == pytest.approx(expected, abs=1e-4)
    assert {one.load for one in laid_of(living, echo)} == {"dahlia-petal"}


def test_it_follows_the_part_and_the_line(plan_and_echo):
    plan, echo = plan_and_echo
    before = laid(plan, echo)
    sunk = moved_group(plan, "leaf", Place(0.0, -1.0))
    side = np.array([-1.0, 1.0, -1.0]) * 0.5 ** np.arange(1, 4)  # every second one is reflected, each half as large
    assert laid(sunk, echo)[:, 0, 1] - before[:, 0, 1] == pytest.approx(-side, abs=1e-4)
    line_moved = moved_group(plan, "stem", Place(0.0, 10.0))
    assert laid(line_moved, echo) != pytest.approx(before, abs=1e-3)
    recolour = recoloured(plan, "leaf", {"dahlia-petal": "shell-scale"})
    assert {one.load for one in laid_of(recolour, echo)} == {"shell-scale"}


def test_a_line_that_is_taken_away_is_kept_by_what_goes_along_it(plan_and_echo):
    plan, echo = plan_and_echo
    left = without_motif(plan, "stem")
    assert laid(left, echo) == pytest.approx(laid(plan, echo), abs=1e-6)
    assert placed_in(left, echo).computed.along == ""
    gone = without_motif(plan, "leaf")
    assert laid_of(gone, echo) == []
    assert any("comes to nothing" in one.text for one in odd_on(gone, "face"))


def test_copies_of_a_part_with_its_line_and_echo_stand_alone(plan_and_echo):
    plan, echo = plan_and_echo
    plan, part = with_new_part(plan, "Branch", ["leaf", "stem", echo])
    plan, other = copied(plan, part, by=Place(0.0, 40.0))
    made = next(one.computed for one in plan.motifs if one.part == other and one.computed is not None)
    assert made.along.startswith("stem-")
    assert made.of[0].startswith("leaf-")
    own = own_of(plan, ["leaf", echo], "Twig")  # without its line
    assert [one.computed.along for one in own.parts.motifs if one.computed is not None] == [""]


def test_the_other_side_of_the_face_goes_along_the_image_of_the_line(plan_and_echo):
    plan, echo = plan_and_echo
    both = twinned(plan, "leaf", on=True)
    middle = chart_of(plan, "face").midline_mm or 0.0
    ones = laid_of(both, echo)
    mine, theirs = ([one.stroke.path.points_mm[0] for one in ones if one.twin is side] for side in (False, True))
    assert np.array(theirs) == pytest.approx(np.array(mine) * [-1, 1] + np.array([2 * middle, 0]), abs=1e-4)


def test_what_cannot_be_laid_again_is_said(plan_and_leaf, plan_and_echo):
    plan, leaf = plan_and_leaf
    with pytest.raises(NoGuideError, match="is in what shall be laid again"):
        with_echo(plan, leaf, leaf)
    with pytest.raises(OutOfRangeError, match="size of the last one"):
        with_echo(plan, leaf, ARC, 24, 0.5)
    made = placed_in(*plan_and_echo).computed
    assert made is not None
    with pytest.raises(OutOfRangeError, match="one line"):
        replace(made, along="")
    assert with_number(made, "times", 2.0).times == 2
    with pytest.raises(OutOfRangeError, match="1 to 24"):
        with_number(made, "times", 40.0)
    with pytest.raises(UnknownNameError, match="margin"):
        with_number(made, "margin_mm", 4.0)


def test_it_is_written_and_read(plan_and_echo):
    plan, _ = plan_and_echo
    data = plan_bytes(plan)
    assert parse_plan(data, "x") == plan
    with pytest.raises(PennelloError, match="came with schema 12"):
        parse_plan(data.replace(b'"schema": 13', b'"schema": 11'), "x")
