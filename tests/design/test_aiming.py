"""Points of stripes aim between the brows, swirls lead somewhere: common practice, no published source."""

import math
from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan

from pennello.design.aiming import foot_of_swirl
from pennello.design.chart_checks import odd_on
from pennello.design.line_work import with_line_load, with_line_work
from pennello.design.part_edits import with_new_part
from pennello.design.pulled import with_pulled
from pennello.finding import Code
from pennello.lay.families.shapes import ramp, smooth
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.path.cubic import line

BETWEEN_BROWS = (0.0, -13.68)
"""Where the landmark lies on the usual face, mm."""


def stripe(angle_deg, off_deg=0.0):
    """Return a stripe on a circle about the brows that points inwards, turned off by an angle about its point."""
    around, way = math.radians(angle_deg), math.radians(angle_deg + off_deg)
    tip = np.array(BETWEEN_BROWS) + 22 * np.array([math.cos(around), math.sin(around)])
    root = tip + 16 * np.array([math.cos(way), math.sin(way)])
    path = line(tuple(map(float, root)), tuple(map(float, tip)))
    return Stroke(path, Nib(NibMode.FOLLOWING, 60.0), 0.5, pressures=ramp(0.6, 0.1))


def stripes(offs, part="Stripes"):
    plan, names = replace(demo_plan(), motifs=(), parts=(), overlays=()), []
    for number, off in enumerate(offs):
        plan, name = with_pulled(plan, "beetle-scale", stripe(-160 + 35 * number, off), "face", name=f"Stripe {number}")
        names.append(name)
    return with_new_part(plan, part, names)[0]


def found(plan, code):
    return [one for one in odd_on(plan, "face") if one.code is code]


def test_a_stripe_that_aims_elsewhere_is_found_where_it_points():
    assert found(stripes([0, 3, -4, 5, 0]), Code.AIMS_ELSEWHERE) == []
    (odd,) = found(stripes([0, 3, 70, 5, 0]), Code.AIMS_ELSEWHERE)
    assert "Stripe 2 does not aim between the brows" in odd.text
    assert "70°" in odd.text
    tip = np.array(BETWEEN_BROWS) + 22 * np.array([math.cos(math.radians(-90)), math.sin(math.radians(-90))])
    assert (odd.x_mm, odd.y_mm) == pytest.approx(tuple(tip), abs=0.01)


def test_one_that_points_away_misses_though_its_line_passes():
    (odd,) = found(stripes([0, 0, 180, 0, 0]), Code.AIMS_ELSEWHERE)
    assert "180°" in odd.text


@pytest.mark.parametrize("offs", [[0, 0, 70], [0, 70, 80, 0], [70, 70, 70, 70]])
def test_few_stripes_or_a_set_that_aims_elsewhere_on_purpose_are_no_set(offs):
    assert found(stripes(offs), Code.AIMS_ELSEWHERE) == []


def test_strokes_without_one_pointed_end_do_not_aim():
    plan = stripes([0, 3, 70, 5, 0])
    blunt = tuple(replace(one, way=replace(one.way, pressures=())) for one in plan.motifs if one.way is not None)
    assert found(replace(plan, motifs=blunt), Code.AIMS_ELSEWHERE) == []


# --- swirls ---

SPIRAL = [(0.0, 0.0), (10.0, -3.0), (16.0, -10.0), (13.0, -16.0), (8.0, -14.0), (8.0, -10.0), (11.0, -10.0)]
"""A line that curls away from 0, 0."""


def drawn(points, x, y):
    plan, load = with_line_load(replace(demo_plan(), motifs=(), parts=(), overlays=()), "#101010", 1.5)
    way = smooth([(a + x, b + y) for a, b in points])
    return with_line_work(plan, load, [way], "face", "Swirl")[0]


def test_a_drawn_swirl_begins_at_its_straighter_end():
    for points in (SPIRAL, SPIRAL[::-1]):
        assert foot_of_swirl(Stroke(smooth(points))) == pytest.approx((0.0, 0.0), abs=1e-6)
    assert foot_of_swirl(Stroke(smooth(SPIRAL[:3]))) is None


def test_a_drawn_swirl_that_begins_at_nothing_is_found():
    """The nearest landmark to 40, -55 mm on the usual face is the peak of a brow, 35 mm off."""
    assert found(drawn(SPIRAL, -49.3, 30.78), Code.LEADS_NOWHERE) == []  # at the cheekbone itself
    (odd,) = found(drawn(SPIRAL, 40.0, -55.0), Code.LEADS_NOWHERE)
    assert (odd.x_mm, odd.y_mm) == pytest.approx((40.0, -55.0), abs=0.05)
    assert found(drawn([(0.0, 0.0), (12.0, -3.0)], 40.0, -55.0), Code.LEADS_NOWHERE) == []
