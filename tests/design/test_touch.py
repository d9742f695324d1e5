"""What really touches: swept areas against hand reckoning, and what is odd by them on a chart."""

import math
from dataclasses import replace

import numpy as np
import pytest

from pennello.chart.catalogue import CHARTS, OTHER_EYES
from pennello.design.chart_checks import odd_on
from pennello.design.layers import with_layer
from pennello.design.marks import Gem, GemShape, Glitter, Reserved
from pennello.design.on_chart import chart_of, pieces_on, with_other_eyes
from pennello.design.placed import PlacedMotif
from pennello.design.problems import problems_of_order
from pennello.design.soundness import check_plan
from pennello.design.touch import beyond, layer_shape, overlap, skin_shape, swept, zone_shape
from pennello.errors import PennelloError, UnknownNameError
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.contact import CORNER_MM
from pennello.lay.stroke import Nib, NibMode, Stroke, Wiggle
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath, line

SPONGE = Applicator("sponge", "Sponge", 40.0, ApplicatorKind.BLOCK_SPONGE, 16.0)


def pressed(x, y, **more):
    """A sponge that is pressed on one place, its edge lying level."""
    return Stroke(CubicPath(((x, y),) * 4), Nib(NibMode.FIXED, 0.0), **more)


def with_way(plan, way, x=0.0, y=0.0, chart="face", load="beetle-scale", **more):
    source = replace(plan.stroke(load), brush="sponge", near=more.pop("near", plan.stroke(load).near))
    strokes = tuple(source if one.id == load else one for one in plan.strokes)
    plan = replace(plan, brushes=(*plan.brushes, SPONGE), strokes=strokes, motifs=(), overlays=(), reserved=())
    one = PlacedMotif("here", "here", "", (("stroke", load),), (), Place(x, y), chart, way=way, **more)
    return replace(plan, motifs=(one,))


def codes(plan, key="face"):
    return {odd.code for odd in odd_on(plan, key)}


def area(plan, key="face"):
    return swept(plan, pieces_on(plan, key)[0])


def eye_of(plan, key="face"):
    zone = next(zone for zone in chart_of(plan, key).zones if zone.kind in ("eye", "lid"))
    point = zone_shape(zone).representative_point()
    return point.x, point.y


# --- areas ---


def test_a_press_touches_what_lies_under_the_whole_sponge(demo):
    shape = area(with_way(demo, pressed(0, 0)))
    left, top, right, bottom = shape.bounds
    assert right - left == pytest.approx(40, abs=0.1)  # half pressure lays the nominal width
    assert bottom - top == pytest.approx(16, abs=0.1)  # and its thickness: an edge alone would have none
    corners = (4 - math.pi) * CORNER_MM**2
    assert shape.area == pytest.approx((right - left) * (bottom - top) - corners, rel=0.005)


def test_a_pull_touches_length_times_width(demo):
    pull = Stroke(line((0.0, 0.0), (60.0, 0.0)), Nib(NibMode.FOLLOWING, 90.0))
    whole = area(with_way(demo, pull)).area
    half = area(with_way(demo, replace(pull, part=(0.0, 0.5)))).area
    corners = (4 - math.pi) * CORNER_MM**2
    assert whole == pytest.approx((60 + 16) * 40 - corners, abs=0.05 * 2 * (76 + 40))  # 0.05 mm all round
    assert half == pytest.approx((whole - corners) / 2, rel=0.01)
    light = area(with_way(demo, replace(pull, pressure=0.1))).area
    assert light < whole


def test_the_part_that_touches_lies_on_its_own_side(demo):
    pull = Stroke(line((0.0, 0.0), (60.0, 0.0)), Nib(NibMode.FOLLOWING, 90.0))
    first, second = (area(with_way(demo, replace(pull, part=part))) for part in ((0.0, 0.4), (0.6, 1.0)))
    assert overlap(first, second) is None
    both = area(with_way(demo, pull))
    for one in (first, second):
        assert one.difference(both.buffer(0.3)).area < 0.5


def test_a_layer_covers_its_oval_or_its_outline():
    oval = Glitter("dust", 0.0, 0.0, 20.0, 10.0, "#ffffff", grains_cm2=5.0)
    assert layer_shape(oval).area == pytest.approx(math.pi * 10 * 5, rel=0.01)
    gem = Gem("shine", 3.0, -4.0, 8.0, 8.0)
    assert layer_shape(gem).area == pytest.approx(math.pi * 16, rel=0.01)
    star = layer_shape(replace(gem, shape=GemShape.STAR, turn_deg=20.0))
    assert star.area == pytest.approx(5 * 4 * 0.45 * 4 * math.sin(math.pi / 5), rel=0.01)  # ten triangles
    tip = (3.0 + 4 * math.sin(math.radians(20)), -4.0 - 4 * math.cos(math.radians(20)))
    assert math.dist(star.exterior.coords[0], tip) < 0.01
    drop = layer_shape(replace(gem, shape=GemShape.DROP))
    assert drop.bounds[1::2] == pytest.approx((-10.0, 0.0), abs=0.1)
    assert drop.bounds[2] + drop.bounds[0] == pytest.approx(6.0)


def test_beyond_is_what_is_more_than_a_share(demo):
    ground = skin_shape(chart_of(demo, "face"))
    inside = area(with_way(demo, pressed(0, 60)))
    left, _, right, _ = ground.bounds
    assert beyond(inside, ground, 0.05) is None
    out = beyond(area(with_way(demo, pressed(right + 5, 0))), ground, 0.05)
    assert out is not None
    assert out.bounds[0] > left


# --- eyes ---


def test_a_press_over_the_open_eye_is_seen_and_on_the_lid_of_a_closed_one_is_fine(demo):
    x, y = eye_of(demo)
    plan = with_way(demo, pressed(x, y), near="eye")
    assert "keep_clear" in codes(plan)
    closed = with_other_eyes(plan, "face")
    assert "keep_clear" not in codes(closed, "face-eyes-closed")
    assert with_other_eyes(closed, "face-eyes-closed").motifs == plan.motifs
    with pytest.raises(UnknownNameError, match="chart with an eye"):
        with_other_eyes(plan, "hand")


def test_only_the_part_that_touches_reaches_the_eye(demo):
    x, y = eye_of(demo)
    across = Stroke(line((x - 10, y - 19), (x + 10, y - 19)), Nib(NibMode.FOLLOWING, 90.0))
    reaching = {part: codes(with_way(demo, replace(across, part=part))) for part in ((0.0, 0.3), (0.7, 1.0))}
    assert sorted("keep_clear" in found for found in reaching.values()) == [False, True]


def test_what_the_label_forbids_near_eyes_is_said_on_the_lid_too(demo):
    x, y = eye_of(demo)
    plan = with_other_eyes(with_way(demo, pressed(x, y)), "face")
    banned = tuple(replace(paint, eye_area=False) for paint in plan.paints)
    assert "label" in codes(replace(plan, paints=banned), "face-eyes-closed")
    allowed = tuple(replace(paint, eye_area=True) for paint in plan.paints)
    assert "label" not in codes(replace(plan, paints=allowed), "face-eyes-closed")


def test_glitter_on_the_open_eye_is_seen(demo):
    x, y = eye_of(demo)
    bare = replace(demo, motifs=(), overlays=(), reserved=())
    plan = with_layer(bare, Glitter("dust", x, y, 12.0, 8.0, "#ffffff", grains_cm2=5.0))
    assert "keep_clear" in codes(plan)
    away = with_layer(bare, Glitter("dust", 0.0, 60.0, 6.0, 4.0, "#ffffff", grains_cm2=5.0))
    assert "keep_clear" not in codes(away)


@pytest.mark.parametrize("key", [key for key in OTHER_EYES if "closed" not in key])
def test_a_closed_eye_is_the_same_skin_with_a_lid(demo, key):
    opened, closed = chart_of(demo, key), chart_of(demo, OTHER_EYES[key])
    assert {"eye"} <= {zone.kind for zone in opened.zones}
    assert "eye" not in {zone.kind for zone in closed.zones}
    assert "lid" in {zone.kind for zone in closed.zones}
    assert opened.skin == closed.skin
    assert opened.landmarks == closed.landmarks
    assert OTHER_EYES[key] in CHARTS
    assert closed.eyes_closed
    assert not opened.eyes_closed


def test_reserved_places_go_by_the_area_too(demo):
    plan = replace(
        with_way(demo, pressed(0, 0)), reserved=(Reserved("gem", 0.0, 7.0, 2.0), Reserved("far", 0.0, 60.0, 2.0))
    )
    assert [odd.text for odd in odd_on(plan, "face") if odd.code == "reserved" and "gem" in odd.text]
    assert not [odd.text for odd in odd_on(plan, "face") if odd.code == "reserved" and "far" in odd.text]


# --- what names nothing ---


def test_a_part_that_is_none_says_so_with_what_there_is(demo):
    plan = with_way(demo, pressed(0, 0))
    wrong = replace(plan, motifs=(replace(plan.motifs[0], loads=(("brush", "beetle-scale"),)),))
    (odd,) = [one for one in odd_on(wrong, "face") if one.code == "no_such_part"]
    assert "'brush'" in odd.text
    assert "stroke" in odd.text
    assert "no_such_part" not in codes(plan)


def test_rules_priorities_and_worth_that_name_nothing_say_so(demo):
    ordering = replace(demo.ordering, priorities=(("nobody", "skip"),), worth=(("nothing", 2.0),))
    plan = replace(demo, ordering=ordering)
    found = [one.text for one in problems_of_order(plan)]
    assert any("nobody" in text for text in found)
    assert any("nothing" in text for text in found)
    assert not problems_of_order(demo)


# --- sound plans ---


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"title": "x" * 201}, "201"),
        ({"place": "\ud800"}, "half"),
    ],
)
def test_a_plan_beyond_its_limits_is_refused_with_the_place(demo, change, words):
    with pytest.raises(PennelloError) as caught:
        check_plan(replace(demo, **change))
    assert words in str(caught.value) or "written" in str(caught.value)


def test_two_of_one_id_are_refused(demo):
    with pytest.raises(PennelloError, match=demo.paints[0].id):
        check_plan(replace(demo, paints=(*demo.paints, demo.paints[0])))


def test_a_wiggle_widens_what_is_touched(demo):
    pull = Stroke(line((0.0, 0.0), (60.0, 0.0)), Nib(NibMode.FOLLOWING, 90.0))
    still, waved = (area(with_way(demo, one)) for one in (pull, replace(pull, wiggle=Wiggle(4, 10.0))))
    assert waved.bounds[3] - waved.bounds[1] == pytest.approx(still.bounds[3] - still.bounds[1] + 10, abs=3)
    assert np.isfinite(waved.area)
