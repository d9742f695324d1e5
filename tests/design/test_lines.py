"""Line work and dots as strokes of a round or liner: how they are drawn, kept, ordered, and what is odd about them."""

import math
from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan
from shapely import LineString, Point

from pennello.chart.face import face as face_chart
from pennello.design.chart_checks import odd_on
from pennello.design.clock import LINERS
from pennello.design.layers import free_name
from pennello.design.line_work import (
    SWIRL_EYE,
    SWIRL_TURNS,
    NoLineError,
    Taper,
    hand_drawn,
    is_dot,
    is_line_work,
    line_stroke,
    look_of,
    places_to_snap,
    press_for,
    swirl,
    with_line_load,
    with_line_work,
    with_lines_on,
    with_snapped_ends,
    with_usual_line_load,
)
from pennello.design.marks import Glitter
from pennello.design.on_chart import pieces_on, placed_in, with_motif, with_new_motif
from pennello.design.ordering import Ordering, Priority, Rule, RuleKind
from pennello.design.pace import Pace, StepKind
from pennello.design.touch import swept
from pennello.errors import OutOfRangeError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.kit import catalogue
from pennello.kit.contact import contact_width_mm
from pennello.lay import engine
from pennello.lay.laying import pull
from pennello.motif.place import Place
from pennello.order.arrange import arrange, design_of
from pennello.order.job import Why
from pennello.order.laid import laid_out
from pennello.path.cubic import length_mm, line, parameter_at, position
from pennello.session.order_pictures import painted_at

ARCH = [(-40.0, -62.0), (-20.0, -74.0), (0.0, -78.0), (20.0, -74.0), (40.0, -62.0)]
WHITE = "#f6f5f0"


@pytest.fixture(scope="module")
def bare():
    whole = demo_plan()
    return replace(whole, motifs=(), overlays=(), parts=(), ordering=Ordering())


def drawn(plan, *lines, line_mm=2.0, srgb=WHITE, name="white edge", **more):
    plan, load = with_line_load(plan, srgb, line_mm)
    press = press_for(plan.brush(plan.stroke(load).brush), line_mm)
    return with_line_work(plan, load, lines, "face", name, press=press, **more)


@pytest.fixture(scope="module")
def edged(bare):
    return drawn(bare, hand_drawn(ARCH), hand_drawn([(0.0, -60.0)]))


def test_a_hands_line_goes_through_where_it_was_and_a_tap_is_a_dot():
    path = hand_drawn(ARCH)
    assert path.points_mm[0] == ARCH[0]
    assert path.points_mm[-1] == ARCH[-1]
    assert path.curves == 4
    assert is_dot(hand_drawn([(3.0, 4.0), (3.2, 4.1)]))
    trembling = [(x / 10, 0.02 * (-1) ** x) for x in range(400)]
    assert hand_drawn(trembling).curves <= 21
    assert length_mm(hand_drawn(trembling)) == pytest.approx(39.9, rel=0.01)


def ways_on(plan, name):
    return [piece.stroke.path.points_mm for piece in pieces_on(plan, "face") if piece.motif == name]


def test_lines_lie_where_they_were_drawn_whatever_is_added(edged):
    plan, name = edged
    there = ways_on(plan, name)
    assert np.array(there[0]) == pytest.approx(np.array(hand_drawn(ARCH).points_mm), abs=1e-3)
    moved = with_motif(plan, replace(placed_in(plan, name), place=Place(30.0, 12.0, 40.0, 0.8)))
    before = ways_on(moved, name)
    more = with_lines_on(moved, name, (line((60.0, 40.0), (70.0, 50.0)),))
    after = ways_on(more, name)
    assert len(after) == 3
    for one, other in zip(before, after, strict=False):
        assert np.array(other) == pytest.approx(np.array(one), abs=1e-3)
    assert np.array(after[2][0]) == pytest.approx((60, 40), abs=1e-3)
    assert is_line_work(more, placed_in(more, name))
    assert parse_plan(plan_bytes(more), "x") == more
    assert free_name(plan, "dust") == "dust 1"


def test_what_cannot_be_drawn_is_refused(bare, edged):
    plan, name = edged
    with pytest.raises(NoLineError, match="no line"):
        with_line_work(plan, plan.strokes[0].id, (), "face", "nothing")
    many = [line((x, 0.0), (x + 1.0, 0.0)) for x in range(201)]
    for refused in (
        lambda: drawn(bare, *many),
        lambda: with_line_load(bare, WHITE, 40.0),
        lambda: with_lines_on(*with_new_motif(plan, "dots", "face", Place()), many[:1]),
        lambda: replace(placed_in(*edged), way=None),
    ):
        with pytest.raises(OutOfRangeError):
            refused()
    assert name == "white-edge"


def test_a_load_for_lines_is_made_once_and_draws_as_wide_as_asked(bare):
    plan, load = with_line_load(bare, WHITE, 2.0)
    again, same = with_line_load(plan, "#f6f5f1", 2.0)
    assert (same, again) == (load, plan)
    assert look_of(plan, load)[0] == WHITE
    other, red = with_line_load(plan, "#b01722", 1.1)
    assert other.paint(other.stroke(red).recipe.pan_paints[0]).srgb == "#b01722"
    assert other.brush(other.stroke(red).brush).id == "liner-1"
    assert look_of(other, red)[1] == pytest.approx(1.1, abs=0.02)
    assert with_usual_line_load(other, red) == (other, red)
    nothing, made = with_usual_line_load(replace(bare, strokes=()))
    assert nothing.brush(nothing.stroke(made).brush).kind in LINERS


@pytest.mark.parametrize("brush", [one for one in catalogue.brushes().values() if one.kind in LINERS])
@pytest.mark.parametrize("press", [0.1, 0.3, 0.5, 0.9])
def test_the_pressure_for_a_width_is_the_one_that_lays_it(brush, press):
    assert press_for(brush, float(contact_width_mm(brush, press))) == pytest.approx(press, abs=0.01)


def test_what_lines_touch_is_what_shapely_buffers(edged):
    """The area within half a width of the line and of the dot, by shapely."""
    plan, name = edged
    one, dot = (swept(plan, piece) for piece in pieces_on(plan, "face") if piece.motif == name)
    t = np.linspace(0, 1, 60)[:, None]
    points = np.array(hand_drawn(ARCH).points_mm)
    along = [
        (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t**2 * c + t**3 * d
        for a, b, c, d in (points[n : n + 4] for n in range(0, len(points) - 1, 3))
    ]
    assert one.area == pytest.approx(LineString(np.concatenate(along)).buffer(1.0).area, rel=0.06)
    assert dot.area == pytest.approx(Point(0, -60).buffer(1.05).area, rel=0.15)


@pytest.mark.parametrize(
    ("taper", "thick", "thin"),
    [(Taper.TO_TIP, (0,), (1,)), (Taper.FROM_TIP, (1,), (0,)), (Taper.MIDDLE, (0.5,), (0, 1)), (Taper.EVEN, (), ())],
)
def test_lines_are_thick_where_they_are_told_to_be(bare, taper, thick, thin):
    plan, name = drawn(bare, line((0.0, 0.0), (40.0, 0.0)), taper=taper, line_mm=3.0)
    (piece,) = (one for one in pieces_on(plan, "face") if one.motif == name)
    shape = swept(plan, piece)

    def wide(at):
        low, high = max(40 * at - 1.5, 0.5), min(40 * at + 1.5, 39.5)
        return shape.intersection(LineString([(low, -9), (low, 9), (high, 9), (high, -9)]).envelope).area / (high - low)

    assert all(wide(at) > 2.3 for at in thick)
    assert all(wide(at) < 1.6 for at in thin)
    if taper is Taper.EVEN:
        assert wide(0.1) == pytest.approx(wide(0.9), rel=0.05)
    assert line_stroke(hand_drawn([(1.0, 2.0)]), taper).path.points_mm[0] == (1.0, 2.0)


def test_a_row_of_dots_grows_along_its_line(bare):
    plan, name = drawn(bare, line((0.0, 0.0), (40.0, 0.0)), taper=Taper.DOTS, line_mm=3.0)
    (piece,) = (one for one in pieces_on(plan, "face") if one.motif == name)
    shape = swept(plan, piece)
    dots = sorted(getattr(shape, "geoms", (shape,)), key=lambda one: one.centroid.x)
    assert shape.bounds[2] - shape.bounds[0] > 36
    assert piece.stroke.pats is not None
    assert shape.area < 0.9 * 40 * 3.0
    assert dots[-1].area >= dots[0].area
    job = design_of(plan, "face", engine=engine.kernel()).work.job(f"{name}/stroke1")
    assert job.kind is StepKind.DOTS
    count = len(pull(piece.stroke, plan.brush(plan.stroke(piece.load).brush), plan.axis(piece.load)).track.s_mm)
    assert job.pull_s == pytest.approx(count * Pace().dot_s, abs=0.06)


@pytest.mark.parametrize("bow", [-4.0, 4.0])
def test_a_swirl_is_pulled_out_by_its_radius(bare, bow):
    radius, eye = 12.0, SWIRL_EYE * 12.0
    pulled_out = hand_drawn([(5.0, -3.0), (11.0, -3.0 + bow), (17.0, -3.0)])
    plan, name = drawn(bare, pulled_out, taper=Taper.SWIRL, line_mm=2.0)
    (piece,) = (one for one in pieces_on(plan, "face") if one.motif == name)
    path = piece.stroke.path
    assert path.points_mm[0] == pytest.approx((17.0, -3.0), abs=0.01)
    assert math.dist(path.points_mm[-1], (5.0, -3.0)) == pytest.approx(eye, abs=0.01)
    # length of an Archimedean spiral r = a t: a/2 (t sqrt(1 + t^2) + asinh t), handbook formula, between its ends
    per_turn = (radius - eye) / (2 * math.pi * SWIRL_TURNS)
    ends = [per_turn / 2 * (t * math.hypot(1, t) + math.asinh(t)) for t in (eye / per_turn, radius / per_turn)]
    assert length_mm(path) == pytest.approx(ends[1] - ends[0], rel=0.01)
    away = position(path, parameter_at(path, np.linspace(0, length_mm(path), 50))) - (5.0, -3.0)
    turned = np.unwrap(np.arctan2(away[:, 1], away[:, 0]))
    assert turned[-1] - turned[0] == pytest.approx(math.copysign(2 * math.pi * SWIRL_TURNS, bow), abs=0.05)
    assert piece.stroke.pressures[0].value > piece.stroke.pressures[-1].value
    short = hand_drawn([(0.0, 0.0), (1.5, 0.0)], 0.5)
    assert swirl(short) == short


def test_a_line_begins_and_ends_on_what_is_near(bare):
    plan, _ = drawn(bare, line((-20.0, -50.0), (10.0, -50.0)))
    places = places_to_snap(plan, "face")
    assert any(np.allclose(place, (10.0, -50.0), atol=0.02) for place in places)
    points = [(11.0, -49.5), (20.0, -40.0), (33.0, -41.0)]
    snapped = with_snapped_ends(points, [(10.0, -50.0), (60.0, 0.0)], 2.0)
    assert snapped == [(10.0, -50.0), (20.0, -40.0), (33.0, -41.0)]
    assert with_snapped_ends([(1.0, 2.0)], [(1.5, 2.0)], 1.0) == [(1.5, 2.0)]
    assert with_snapped_ends(points, [], 2.0) == points


def test_line_work_waits_for_what_it_goes_over_and_takes_its_time():
    whole, name = drawn(demo_plan(), hand_drawn(ARCH), hand_drawn([(0.0, -60.0)]))
    design = design_of(whole, "face", engine=engine.kernel())
    job = design.work.job(f"{name}/stroke1")
    pace = Pace()
    assert (job.kind, job.priority) == (StepKind.LINE, Priority.NICE)
    lines = pace.touch_s + length_mm(hand_drawn(ARCH)) / pace.line_mm_s
    assert job.pulls_s == pytest.approx((lines, pace.dot_s), abs=0.06)
    assert job.pull_s == pytest.approx(sum(job.pulls_s) + pace.dip_s * len(job.reloads_s), abs=0.11)
    (lag,) = [lag for lag in design.lags if lag.after == job.id and lag.before == "peak-crown/peak1"]
    assert lag.why is Why.DRY
    assert lag.least_s > 10
    arranged = arrange(design, 0.2)
    assert arranged.step(job.id).start_s >= arranged.step(lag.before).end_s + lag.least_s - 0.11
    assert any(step.id == f"load:{job.id}" for step in arranged.steps)
    assert design.films.lightness(job.id) > 90


def test_many_lines_are_loaded_again_when_they_run_pale(bare):
    lines = [line((-50.0, y), (50.0, y + 1.0)) for y in range(-40, 20, 6)]
    plan, name = drawn(bare, *lines, line_mm=1.2)
    arranged = arrange(design_of(plan, "face", engine=engine.kernel()), 0.0)
    job = arranged.job(f"{name}/stroke1")
    assert job.loads > 1
    assert len(job.reloads_s) == job.loads - 1
    out = laid_out(arranged, "face")
    assert sum(bool(stroke.recipe.pickups) for stroke in out.plan.strokes) == job.loads


def test_what_comes_later_covers_a_line(bare):
    """A line that is painted first is under a petal; one that is painted last is over it."""
    plan, ring = with_new_motif(bare, "shell-flower", "face", Place(0.0, -50.0))
    plan, name = drawn(plan, line((-30.0, -50.0), (30.0, -50.0)), line_mm=2.6)
    looks = {}
    for earlier, later in ((ring, name), (name, ring)):
        said = replace(plan, ordering=Ordering(rules=(Rule(earlier, later, RuleKind.DRY),)))
        arranged = arrange(design_of(said, "face", engine=engine.kernel()), 0.0)
        painted = painted_at(arranged, "face", 4.0, engine=engine.kernel())
        looks[earlier] = white_px(painted)
    assert looks[ring] > 1.5 * looks[name]


def white_px(painted):
    canvas = painted.canvas
    row = round((-50.0 - canvas.top_mm) * canvas.px_per_mm)
    return int((painted.rgba[row, :, :3].min(axis=1) > 215).sum())


@pytest.mark.parametrize(("eye_area", "told"), [(True, False), (False, True)])
def test_line_work_goes_by_the_label_of_its_paint(bare, eye_area, told):
    paint = replace(bare.paints[0], srgb="#123456", eye_area=eye_area)
    plan = replace(bare, paints=(paint, *bare.paints[1:]))
    outer = face_chart(bare.measures).landmark("outer eye corner, wearer's left")
    plan, _ = drawn(plan, line((outer[0] + 4, outer[1]), (outer[0] + 14, outer[1] - 6)), srgb="#123456")
    found = [one.text for one in odd_on(plan, "face") if one.code == "label"]
    assert bool(found) is told
    assert all(paint.name in text and "the eye area" in text for text in found)


def test_odd_lines_are_told(bare):
    chart = face_chart(bare.measures)
    eye = next(zone for zone in chart.zones if zone.kind == "eye").polygon.mean(axis=0)
    plan, across = drawn(bare, line((eye[0] - 8, eye[1]), (eye[0] + 8, eye[1])), name="lash")
    plan, away = drawn(plan, line((0.0, -60.0), (300.0, -60.0)), name="stray")
    dust = Glitter("dust", float(eye[0]), float(eye[1]), 30.0, 20.0)
    over = (dust, Glitter("gone", 0.0, chart.bounds_mm[3], 40.0, 30.0))
    found = {(one.code, one.piece) for one in odd_on(replace(plan, overlays=over), "face")}
    assert ("off_skin", "gone") in found
    assert {("keep_clear", across), ("beyond", away), ("glitter_on_lines", "dust"), ("keep_clear", "dust")} <= found
    at = next(one for one in odd_on(plan, "face") if one.code == "keep_clear")
    assert math.hypot(at.x_mm - eye[0], at.y_mm - eye[1]) < 8


def test_ends_of_a_line_lie_on_the_contour_of_what_is_painted_where_no_place_is_near():
    """On the circle of a disc, whatever side it comes from; the union's contour, not one that lies under paint."""
    discs = [Point(0, 0).buffer(10, quad_segs=64), Point(8, 0).buffer(10, quad_segs=64)]
    start, *_, end = with_snapped_ends([(0.0, 11.2), (3.0, 30.0), (17.0, 0.5)], [], 2.0, discs)
    assert math.hypot(*start) == pytest.approx(10, abs=0.01)
    assert math.dist(end, (8, 0)) == pytest.approx(10, abs=0.01)
    inside = with_snapped_ends([(4.0, 0.0), (40.0, 0.0)], [], 2.0, discs)
    assert inside == [(4.0, 0.0), (40.0, 0.0)]
    (near, _) = with_snapped_ends([(0.0, 11.0), (3.0, 30.0)], [(0.5, 11.5)], 2.0, discs)
    assert near == (0.5, 11.5)
