"""A stroke as a hand pulled it: its way, chisel, pressure, flips and lean, against what the hand did."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import LineString, Point

from pennello.design.holds import FIVE, hold_of
from pennello.design.on_chart import pieces_on, placed_in, with_new_motif
from pennello.design.part_edits import with_new_part
from pennello.design.pulled import Sample, pulled_stroke, with_pulled
from pennello.errors import UnknownNameError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Key, Nib, NibMode, Stroke, keyed
from pennello.lay.track import chisel_angles
from pennello.limits import MOST_NAME
from pennello.motif.place import Place
from pennello.path.cubic import length_mm, line, parameter_at, position

PLAIN = Stroke(line((0.0, 0.0), (40.0, 0.0)), Nib(NibMode.FOLLOWING, 90.0), 0.5)


def arch(count=50, **more):
    return [Sample(-30 + 60 * n / (count - 1), -14 * math.sin(math.pi * n / (count - 1)), **more) for n in range(count)]


@given(st.integers(4, 120), st.sampled_from(FIVE), st.floats(-40, 40))
@settings(max_examples=40, deadline=None)
def test_the_drawn_way_is_the_laid_way(count, hold, tall):
    """Within 0.4 mm, by shapely."""
    samples = [Sample(0.9 * n, tall * math.sin(n / 25)) for n in range(count)]
    stroke = pulled_stroke(PLAIN, samples, hold)
    far = np.linspace(0, length_mm(stroke.path), 400)
    laid = LineString(position(stroke.path, parameter_at(stroke.path, far)))
    assert max(laid.distance(Point(one.x_mm, one.y_mm)) for one in samples) < 0.4
    assert hold_of(stroke) is hold


@pytest.mark.parametrize("hold", FIVE)
def test_a_turn_of_the_chisel_is_kept(hold):
    """The chisel at both ends is turned by what the hand turned it, whatever the hold."""
    usual = pulled_stroke(PLAIN, arch(), hold)
    turned = pulled_stroke(PLAIN, arch(turn_deg=20.0), hold)
    ends = np.array([0.0, 1.0])
    off = np.degrees(chisel_angles(turned, ends) - chisel_angles(usual, ends))
    assert (off + 180) % 360 - 180 == pytest.approx([20, 20], abs=0.3)
    led = [replace(one, turn_deg=30.0 * n / 49) for n, one in enumerate(arch())]
    on_the_way = pulled_stroke(PLAIN, led, hold)
    off = np.degrees(chisel_angles(on_the_way, ends) - chisel_angles(usual, ends))
    assert (off + 180) % 360 - 180 == pytest.approx([0, 30], abs=1.5)


def test_upright_keeps_the_chisel_where_it_was():
    stroke = pulled_stroke(PLAIN, arch(), Hold.HEEL, upright_deg=60.0)
    assert np.degrees(chisel_angles(stroke, np.array([0.0, 0.4, 1.0]))) == pytest.approx([60, 60, 60])


def test_pressure_and_lean_follow_the_hand_in_few_keys():
    pressed = [replace(one, pressure=0.2 + 0.7 * n / 49, lean_deg=40.0 * n / 49) for n, one in enumerate(arch())]
    stroke = pulled_stroke(PLAIN, pressed)
    assert len(stroke.pressures) <= 6
    at = np.array([0.0, 0.5, 1.0])
    assert keyed(stroke.pressures, at) == pytest.approx([0.2, 0.55, 0.9], abs=0.03)
    assert keyed(stroke.leans, at) == pytest.approx([0, 20, 40], abs=3)
    steady = pulled_stroke(PLAIN, arch(pressure=0.7))
    assert (steady.pressure, steady.pressures, steady.leans) == (0.7, (), ())
    ramp = replace(PLAIN, pressures=(Key(0.0, 0.1), Key(1.0, 0.9)))
    assert pulled_stroke(ramp, arch()).pressures == ramp.pressures, "what the hand does not say is as in the trial"


def test_flips_lie_where_the_hand_flipped():
    flipped = [replace(one, flipped=n >= 25) for n, one in enumerate(arch())]
    stroke = pulled_stroke(PLAIN, flipped)
    assert stroke.flips_mm == pytest.approx([length_mm(stroke.path) / 2], abs=1.2)
    whole = pulled_stroke(PLAIN, arch(flipped=True), Hold.SQUARE)
    assert whole.flips_mm == ()
    assert whole.nib.angle_deg == 270.0


def test_a_tap_is_set_down_where_it_is():
    stroke = pulled_stroke(PLAIN, [Sample(3.0, 4.0), Sample(3.0, 4.0)])
    assert stroke.path.points_mm == ((3.0, 4.0),) * 4


def test_a_pulled_stroke_is_a_piece_of_its_part_taken_by_its_middle(demo):
    plan, part = with_new_part(demo, "Brow", [])
    stroke = pulled_stroke(PLAIN, arch())
    plan, name = with_pulled(plan, "dahlia-petal", stroke, "face", part)
    placed = placed_in(plan, name)
    assert (placed.part, placed.chart, placed.load_of) == (part, "face", {"stroke": "dahlia-petal"})
    assert placed.place.x_mm == pytest.approx(0, abs=0.1)
    (piece,) = (one for one in pieces_on(plan, "face") if one.motif == name)
    assert np.array(piece.stroke.path.points_mm) == pytest.approx(np.array(stroke.path.points_mm), abs=0.02)
    assert parse_plan(plan_bytes(plan), "x") == plan
    for wrong in ({"load": "nobody"}, {"chart": "tail"}):
        given_ = {"load": "dahlia-petal", "chart": "face"} | wrong
        with pytest.raises(UnknownNameError):
            with_pulled(plan, given_["load"], stroke, given_["chart"])


def test_pieces_of_one_load_are_told_apart_by_their_names(demo):
    """What is found about a piece names it; a name that somebody chose stays as it is."""
    stroke, load = demo.strokes[0].stroke, demo.strokes[0]
    plan = demo
    for _ in range(3):
        plan, _ = with_pulled(plan, load.id, stroke, "face")
    plan, _ = with_pulled(plan, load.id, stroke, "face", name=load.name)
    assert [one.name for one in plan.motifs] == [load.name, f"{load.name} (2)", f"{load.name} (3)", load.name]
    for _ in range(2):
        plan, _ = with_new_motif(plan, "dot-set", "face", Place())
    assert [one.name for one in plan.motifs][-2:] == ["Dots", "Dots (2)"]
    longest = replace(load, name="n" * MOST_NAME)
    plan = replace(demo, strokes=(longest, *demo.strokes[1:]))
    for _ in range(2):
        plan, _ = with_pulled(plan, longest.id, stroke, "face")
    assert plan.motifs[1].name == "n" * (MOST_NAME - 4) + " (2)"
