"""Line work, highlights and dots as layers: how they are drawn, mirrored, kept, ordered, and what is odd about them."""

import math
from dataclasses import replace

import numpy as np
import pytest
from shapely import LineString, Point

from pennello.chart.face import face as face_chart
from pennello.chart.measures import Measures
from pennello.colour.basis import FULL
from pennello.colour.srgb import decode, parse_hex
from pennello.design.chart_checks import odd_on
from pennello.design.layers import (
    EmptyStencilError,
    free_name,
    hand_drawn,
    lines_of,
    mirrored_layer,
    sized_layer,
    with_layer,
    with_line,
)
from pennello.design.marks import Glitter, Lines, is_dot, paths_of
from pennello.design.pace import Pace, StepKind
from pennello.design.plan import Skin, skin_spectrum
from pennello.design.reading import readings
from pennello.errors import OutOfRangeError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.lay import engine
from pennello.lay.canvas import Canvas
from pennello.order.arrange import arrange, design_of
from pennello.order.films import overlay_mask
from pennello.order.job import Why
from pennello.path.cubic import CubicPath, length_mm, line
from pennello.session.chart_scene import chart_picture

ARCH = [(-40.0, -62.0), (-20.0, -74.0), (0.0, -78.0), (20.0, -74.0), (40.0, -62.0)]


@pytest.fixture
def edge():
    return lines_of("white edge", (hand_drawn(ARCH), hand_drawn([(0.0, -60.0)])), "face", line_mm=2.0)


def test_a_hands_line_goes_through_where_it_was_and_a_tap_is_a_dot():
    path = hand_drawn(ARCH)
    assert path.points_mm[0] == ARCH[0]
    assert path.points_mm[-1] == ARCH[-1]
    assert path.curves == 4
    assert is_dot(hand_drawn([(3.0, 4.0), (3.2, 4.1)]))
    trembling = [(x / 10, 0.02 * (-1) ** x) for x in range(400)]
    assert hand_drawn(trembling).curves <= 21
    assert length_mm(hand_drawn(trembling)) == pytest.approx(39.9, rel=0.01)


def test_lines_lie_where_they_were_drawn_whatever_is_added(edge):
    first = paths_of(edge)[0].points_mm
    assert first == pytest.approx(np.array(hand_drawn(ARCH).points_mm))
    more = with_line(edge, line((60.0, 40.0), (70.0, 50.0)))
    assert len(more.outlines) == 3
    assert np.array(paths_of(more)[0].points_mm) == pytest.approx(np.array(first), abs=0.011)
    assert (more.x_mm, more.y_mm) != (edge.x_mm, edge.y_mm)
    assert (more.line_mm, more.srgb, more.cover) == (edge.line_mm, edge.srgb, edge.cover)
    with pytest.raises(EmptyStencilError):
        lines_of("nothing", (), "face")


def test_a_mirror_image_is_the_reflection_and_a_larger_one_keeps_its_width(edge):
    left = lines_of("curl", (hand_drawn([(20.0, 0.0), (35.0, 10.0), (40.0, 30.0)]),), "face")
    right = mirrored_layer(left, 0.0, "curl 1")
    for one, other in zip(paths_of(left), paths_of(right), strict=True):
        assert np.array(other.points_mm) * (-1, 1) == pytest.approx(np.array(one.points_mm), abs=0.01)
    larger = sized_layer(edge, edge.width_mm)
    assert larger.width_mm == pytest.approx(2 * edge.width_mm)
    assert larger.line_mm == edge.line_mm


@pytest.mark.parametrize("changes", [{"line_mm": 0.1}, {"line_mm": 40.0}, {"cover": 2.0}, {"width_mm": 0.5}])
def test_what_cannot_be_is_refused(edge, changes):
    with pytest.raises(OutOfRangeError):
        replace(edge, **changes)


def test_lines_are_kept_in_the_file(demo, edge):
    plan = with_layer(demo, edge)
    assert parse_plan(plan_bytes(plan), "x") == plan
    assert free_name(plan, "lines") == "lines 1"
    assert free_name(with_layer(plan, replace(edge, name="lines 1")), "lines") == "lines 2"


def test_what_lines_cover_is_what_shapely_buffers(edge):
    """The area within half a width of the line and of the dot, by shapely."""
    canvas = Canvas(-60.0, -90.0, 120 * 4, 50 * 4, 4.0)
    covered = overlay_mask(edge, canvas).sum() / 16
    points = [path.points_mm for path in paths_of(edge)]
    along = np.concatenate([_sampled(CubicPath(tuple(path))) for path in points[:1]])
    area = LineString(along).buffer(1.0).area + Point(points[1][0]).buffer(1.0).area
    assert covered == pytest.approx(area, rel=0.03)


def _sampled(path):
    t = np.linspace(0, 1, 60)[:, None]
    pieces = []
    for n in range(path.curves):
        a, b, c, d = (np.array(point) for point in path.points_mm[3 * n : 3 * n + 4])
        pieces.append((1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t**2 * c + t**3 * d)
    return np.concatenate(pieces)


def test_lines_are_seen_in_the_picture_of_a_chart(edge):
    chart = face_chart(Measures())
    bare, drawn = (chart_picture(chart, None, (120, 80, 60), 3.0, over) for over in ((), (edge,)))
    skin, white = np.array((120, 80, 60)), np.array((244, 243, 238))
    share = (drawn.astype(float) - bare).sum(axis=-1) / (white - skin).sum()
    area = 2 * length_mm(hand_drawn(ARCH)) + math.pi + math.pi  # the line, its two round ends, the dot
    assert share.sum() / 9 == pytest.approx(area, rel=0.05)
    assert share.max() > 0.98


def test_line_work_waits_for_what_it_goes_over_and_takes_its_time(whole_demo_with_edge, edge):
    design = design_of(whole_demo_with_edge, "face", engine=engine.kernel())
    job = design.work.job("face/white edge")
    pace = Pace()
    assert job.kind is StepKind.LINE
    expected = pace.touch_s + length_mm(hand_drawn(ARCH)) / pace.line_mm_s + pace.dot_s
    assert job.pull_s == pytest.approx(expected, abs=0.11)
    (lag,) = [lag for lag in design.lags if lag.after == job.id and lag.before == "peak-crown/peak1"]
    assert lag.why is Why.DRY
    assert lag.least_s > 10
    arranged = arrange(design, 0.2)
    assert arranged.step(job.id).start_s >= arranged.step(lag.before).end_s + lag.least_s - 0.11
    assert any(step.id == f"load:{job.id}" for step in arranged.steps)
    assert design.films.lightness(job.id) > 90


@pytest.fixture(scope="module")
def whole_demo_with_edge():
    from pennello.files.demo import demo_plan

    lines = (hand_drawn(ARCH), hand_drawn([(0.0, -60.0)]))
    return with_layer(demo_plan(), lines_of("white edge", lines, "face", line_mm=2.0))


@pytest.mark.parametrize(("srgb", "amount"), [("#ffffff", 1.0), ("#ffffff", 0.5), ("#101010", 1.0)])
def test_line_work_reads_by_the_formula_of_wcag(demo, edge, srgb, amount):
    """WCAG 2.1: (L1 + 0.05) / (L2 + 0.05), relative luminance by the sRGB weights."""
    plan = replace(demo, strokes=(), motifs=(), overlays=(replace(edge, srgb=srgb, cover=amount),))
    for one in readings(plan, (62.0, -40.0)):
        bare = decode(FULL.srgb(skin_spectrum(Skin(one.ita_deg))))
        skin = float(bare @ (0.2126, 0.7152, 0.0722))
        ink = float(decode(parse_hex(srgb)) @ (0.2126, 0.7152, 0.0722))
        line_light = amount * ink + (1 - amount) * skin
        high, low = max(line_light, skin), min(line_light, skin)
        assert one.stroke == "white edge"
        assert one.rim == one.heel == pytest.approx((high + 0.05) / (low + 0.05), rel=1e-3)


@pytest.mark.parametrize(("eye_area", "told"), [(True, False), (False, True)])
def test_line_work_in_a_paint_of_the_plan_goes_by_its_label(demo, eye_area, told):
    paint = replace(demo.paints[0], srgb="#123456", eye_area=eye_area)
    outer = face_chart(demo.measures).landmark("outer eye corner, wearer's left")
    lash = lines_of("wing", (line((outer[0] + 4, outer[1]), (outer[0] + 14, outer[1] - 6)),), "face", "#123456")
    plan = replace(demo, paints=(paint, *demo.paints[1:]), motifs=(), overlays=(lash,))
    found = [one.text for one in odd_on(plan, "face") if one.code == "label"]
    assert bool(found) is told
    assert all(paint.name in text and "the eye area" in text for text in found)
    anything = replace(plan, overlays=(replace(lash, srgb="#654321"),))
    assert not [one for one in odd_on(anything, "face") if one.code == "label"]


def test_odd_lines_are_told(demo):
    chart = face_chart(demo.measures)
    eye = next(zone for zone in chart.zones if zone.kind == "eye").polygon.mean(axis=0)
    across = lines_of("lash", (line((eye[0] - 8, eye[1]), (eye[0] + 8, eye[1])),), "face")
    away = lines_of("stray", (line((0.0, -60.0), (300.0, -60.0)),), "face")
    dust = Glitter("dust", float(eye[0]), float(eye[1]), 30.0, 20.0)
    plan = replace(demo, motifs=(), overlays=(across, away, dust))
    found = {(one.code, one.piece) for one in odd_on(plan, "face")}
    odd = {("keep_clear", "lash"), ("off_skin", "stray"), ("glitter_on_lines", "dust"), ("keep_clear", "dust")}
    assert found == odd
    at = next(one for one in odd_on(plan, "face") if one.code == "keep_clear")
    assert math.hypot(at.x_mm - eye[0], at.y_mm - eye[1]) < 8


def test_a_line_below_full_cover_has_no_dark_ticks_where_it_meets_itself():
    """One coat: along a bent line and where two lines cross every pixel inside has the same colour."""
    bent = CubicPath(((-20.0, 0.0), (-20.0, -20.0), (20.0, -20.0), (20.0, 0.0)))
    over = Lines("half", 0, -60, 60, 60, "#000000", cover=0.5, outlines=(bent, line((0, -25), (0, 5))), line_mm=4)
    chart = face_chart(Measures())
    bare, drawn_on = (chart_picture(chart, None, (200, 180, 160), 4.0, layers).astype(int) for layers in ((), (over,)))
    changed = np.abs(drawn_on - bare).sum(axis=2)
    full = changed.max()
    usual = float(np.median(changed[changed > 0.5 * full]))
    assert full < 1.15 * usual  # a joint drawn twice would be half as dark again
    assert usual > 150
