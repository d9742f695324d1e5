"""Ribs lie where the track has the chisel; one is turned and the others stay."""

import math
from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan

from pennello.design.holds import with_hold
from pennello.design.line_work import with_line_load, with_line_work
from pennello.design.on_chart import placed_in
from pennello.design.pulled import with_pulled
from pennello.design.ribs import rib_places, ribs_of, with_rib_turned
from pennello.errors import OutOfRangeError
from pennello.lay.families.hold import Hold
from pennello.lay.families.shapes import smooth
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.lay.track import chisel_angles
from pennello.motif.place import Place
from pennello.path.cubic import line

WAY = smooth([(0.0, 0.0), (14.0, -5.0), (30.0, 4.0), (44.0, 0.0)])


def pulled(stroke, place=None):
    plan, name = with_pulled(replace(demo_plan(), motifs=()), "dahlia-petal", stroke, "face")
    return plan, (placed_in(plan, name) if place is None else placed_in(plan, name).moved(place))


def turns(plan, placed):
    """Return how each rib lies, from A to B, degrees from +x towards +y."""
    return np.array([math.degrees(math.atan2(by - ay, bx - ax)) for (ax, ay), (bx, by) in ribs_of(plan, placed)])


def apart(one, other):
    return (one - other + 180) % 360 - 180


def test_ribs_lie_along_the_chisel_at_start_joints_and_end():
    stroke = Stroke(WAY, Nib(NibMode.FOLLOWING, 70.0), 0.6)
    plan, placed = pulled(stroke)
    places = rib_places(placed.way)
    assert places[0] == 0
    assert places[-1] == 1
    assert len(places) == (len(placed.way.path.points_mm) - 1) // 3 + 1
    expected = np.degrees(chisel_angles(placed.place.stroke(placed.way), np.array(places)))
    assert apart(turns(plan, placed), expected) == pytest.approx(0, abs=3)  # the track is sampled, ends are short


@pytest.mark.parametrize("place", [Place(), Place(5.0, 3.0, 40.0, 1.5), Place(0.0, 0.0, -30.0, 0.8, mirrored=True)])
def test_one_rib_is_turned_on_the_chart_and_the_others_stay(place):
    plan, placed = pulled(Stroke(WAY, Nib(NibMode.FOLLOWING, 70.0), 0.6), place)
    before, middle = turns(plan, placed), 1
    after = turns(plan, with_rib_turned(placed, middle, 25.0))
    expected = np.zeros(len(before))
    expected[middle] = 25.0
    assert apart(after, before) == pytest.approx(expected, abs=3)


def test_a_chisel_that_keeps_its_direction_turns_evenly_from_then_on():
    _, placed = pulled(Stroke(line((0, 0), (40, 0)), Nib(NibMode.FIXED, 60.0), 0.6))
    assert rib_places(placed.way) == (0.0, 1.0)
    turned = with_rib_turned(placed, 1, 30.0).way.nib
    assert (turned.mode, turned.angle_deg, turned.angle_end_deg) == (NibMode.PIVOTING, 60.0, 90.0)
    again = with_rib_turned(with_rib_turned(placed, 1, 30.0), 0, -10.0).way.nib
    assert (again.angle_deg, again.angle_end_deg) == (50.0, 90.0)


def test_a_key_is_turned_alone():
    keys = (Key(0.0, 20.0), Key(0.3, 40.0), Key(1.0, 90.0))
    _, placed = pulled(Stroke(WAY, Nib(NibMode.KEYED, keys=keys), 0.6))
    turned = with_rib_turned(placed, 1, -15.0).way.nib.keys
    assert [(key.at, key.value) for key in turned] == [(0.0, 20.0), (0.3, 25.0), (1.0, 90.0)]


def test_what_has_no_ribs_has_none():
    plan, placed = pulled(Stroke(WAY, Nib(NibMode.FOLLOWING, 70.0), 0.6))
    with pytest.raises(OutOfRangeError, match="0 to"):
        with_rib_turned(placed, 40, 10.0)
    patted = replace(placed, way=with_hold(placed.way, Hold.PUSH))
    if patted.way.pats is not None:
        assert ribs_of(plan, patted) == ()
    plan, load = with_line_load(plan, "#101010", 1.5)
    plan, name = with_line_work(plan, load, [WAY], "face", "Line")
    assert ribs_of(plan, placed_in(plan, name)) == ()
    motif = demo_plan().motifs[0]
    assert ribs_of(demo_plan(), motif) == ()
    with pytest.raises(OutOfRangeError, match="none"):
        with_rib_turned(motif, 0, 10.0)
