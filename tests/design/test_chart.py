"""Motifs on a chart: what they come to, edits, checks with their places, and files."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.chart.chart import drawn
from pennello.design.chart_checks import odd_on
from pennello.design.edits import StillNeededError, with_paint, without_stroke
from pennello.design.on_chart import (
    aimed,
    broken_apart,
    chart_of,
    mirrored_twin,
    moved_group,
    moved_in_order,
    painted_plan,
    pieces_on,
    repeated,
    says_of,
    scaled,
    snapped,
    with_motif,
    with_new_motif,
)
from pennello.design.placed import PlacedMotif
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.lay.engine import REFERENCE
from pennello.motif.place import Place
from pennello.session.chart_scene import ChartScene, chart_picture

SMALL = (("radius_mm", 8.0), ("spread_mm", 6.0), ("height_mm", 9.0))


def with_ring(plan, x=40.0, y=40.0, **more):
    plan, name = with_new_motif(plan, "petal-ring", "face", Place(x, y), "beetle-scale")
    placed = replace(plan.motifs[-1], values=SMALL, **more)
    return with_motif(plan, placed), name


def codes(plan, key="face"):
    return {odd.code for odd in odd_on(plan, key)}


def test_a_motif_becomes_strokes_with_their_loads(demo):
    plan, _ = with_ring(demo, per_load=2)
    laid = painted_plan(plan, "face")
    assert len(laid.strokes) == 5
    source = demo.stroke("beetle-scale")
    assert {stroke.brush for stroke in laid.strokes} == {source.brush}
    assert [bool(stroke.recipe.after) for stroke in laid.strokes] == [False, True, False, True, False]
    assert laid.strokes[0].recipe.pickups == source.recipe.pickups
    assert "5 strokes, 3 loads" in says_of(plan, plan.motifs[0])[-1]
    assert painted_plan(demo, "face").strokes == ()


def test_live_mirror_image_is_the_reflection(demo):
    plan, _ = with_ring(demo, twin=True)
    pieces = pieces_on(plan, "face")
    assert len(pieces) == 10
    one = [piece.stroke.path.points_mm for piece in pieces if not piece.twin]
    two = [piece.stroke.path.points_mm for piece in pieces if piece.twin]
    for here, there in zip(one, two, strict=True):
        assert np.array(there) == pytest.approx(np.array(here) * (-1, 1), abs=0.01)
    plan, other = mirrored_twin(with_ring(demo)[0], "petal-ring")
    assert np.array([p.stroke.path.points_mm for p in pieces_on(plan, "face") if p.motif == other]) == pytest.approx(
        np.array(two), abs=0.01
    )
    with pytest.raises(PennelloError, match="no midline"):
        mirrored_twin(with_new_motif(demo, "bud", "forearm", Place(80, 0))[0], "bud")


def test_breaking_apart_moves_nothing(demo):
    plan, name = with_ring(demo, twin=True)
    apart = broken_apart(plan, name)
    assert len(apart.motifs) == 10
    assert [piece.stroke for piece in pieces_on(apart, "face")] == [
        Place().stroke(piece.stroke) for piece in pieces_on(plan, "face")
    ]
    assert len({one.group for one in apart.motifs}) == 1
    moved = moved_group(apart, apart.motifs[3].id, Place(5, 0))
    before, after = (np.array([p.stroke.path.points_mm for p in pieces_on(one, "face")]) for one in (apart, moved))
    assert after - before == pytest.approx(np.broadcast_to([5.0, 0.0], before.shape))


def test_along_a_guide_evenly_and_turned(demo):
    plan, name = with_ring(demo)
    face = chart_of(plan, "face")
    line = repeated(plan, name, face.frame("crown"), 5)
    places = np.array([(one.place.x_mm, one.place.y_mm) for one in line.motifs])
    guide = drawn(face.frame("crown"))
    assert len(places) == 5
    assert all(np.linalg.norm(guide - point, axis=1).min() < 1.5 for point in places)
    steps = np.linalg.norm(np.diff(places, axis=0), axis=1)
    assert steps == pytest.approx(np.full(4, steps.mean()), rel=0.05)
    ring = repeated(plan, name, face.frame("heart"), 6)
    assert len({(round(one.place.x_mm), round(one.place.y_mm)) for one in ring.motifs}) == 6
    with pytest.raises(OutOfRangeError):
        repeated(plan, name, face.frame("crown"), 1)


def test_aim_snap_size_and_order(demo):
    plan, name = with_ring(demo, 30, 10)
    placed = plan.motifs[0]
    up = aimed(placed, (30.0, -90.0))
    assert up.place.turn_deg == pytest.approx(0)
    assert aimed(placed, (130.0, 10.0)).place.turn_deg == pytest.approx(90)
    assert aimed(placed, (30.0, 10.0)) == placed
    assert snapped(placed, (1.0, 2.0)).place.x_mm == 1.0
    assert scaled(placed, 1e9).place.scale == 10.0
    plan, other = with_ring(plan, -30, 10)
    assert [one.id for one in moved_in_order(plan, other, 0).motifs] == [other, name]


def test_file_keeps_motifs_measures_and_broken_ones(demo):
    plan, name = with_ring(demo, twin=True, per_load=3)
    plan, _ = with_new_motif(plan, "wing", "forearm", Place(80, 0, 10, 0.7, mirrored=True))
    plan = broken_apart(plan, name)
    plan = replace(plan, measures=replace(plan.measures, head_breadth_mm=150))
    assert parse_plan(plan_bytes(plan), "plan") == plan
    text = plan_bytes(plan).decode()
    for old, new, told in (
        ('"motif": "wing"', '"motif": "wink"', "motif"),
        ('"chart": "forearm"', '"chart": "tail"', "chart"),
        ('"head_breadth_mm": 150', '"head_breadth_mm": 15', "head breadth"),
        ('"scoop": "', '"scoop": "no-', "stroke"),
    ):
        assert old in text
        with pytest.raises(PennelloError, match=told):
            parse_plan(text.replace(old, new).encode(), "plan")


def test_strokes_that_motifs_need_stay(demo):
    plan, _ = with_ring(demo)
    with pytest.raises(StillNeededError, match="on the chart"):
        without_stroke(plan, "beetle-scale")
    with pytest.raises(PennelloError, match="make one on the Bench"):
        with_new_motif(replace(demo, strokes=()), "bud", "face", Place())


def test_motifs_are_checked():
    with pytest.raises(OutOfRangeError):
        PlacedMotif("a", "A", "bud", (), per_load=0)
    with pytest.raises(OutOfRangeError):
        PlacedMotif("a", "A", "", ())
    with pytest.raises(UnknownNameError, match="part"):
        PlacedMotif("a", "A", "bud", (("petal", "x"),))


# --- checks ---


def test_good_place_has_nothing_odd(demo):
    assert codes(with_ring(demo, 0, -60)[0]) == set()


def test_gap_between_petals(demo):
    plan, _ = with_ring(demo, 0, -60)
    wide = replace(plan.motifs[0], values=(("petals", 4.0), ("radius_mm", 14.0), ("spread_mm", 3.0)))
    odd = [one for one in odd_on(with_motif(plan, wide), "face") if one.code == "petal_gap"]
    assert odd[0].text.startswith("Petal ring has gaps of")
    assert (odd[0].x_mm, odd[0].y_mm) == (0, -60)


def test_missing_mirror_piece(demo):
    plan, _ = with_ring(demo, 40, 45, twin=True)
    plan, _ = with_ring(plan, 40, -50)
    assert "missing_mirror" in codes(plan)
    plan, _ = mirrored_twin(plan, plan.motifs[1].id)
    assert "missing_mirror" not in codes(plan)


def test_keep_clear_labels_and_beyond(demo):
    plan, _ = with_ring(demo, 31, 5)
    odd = next(one for one in odd_on(plan, "face") if one.code == "keep_clear")
    assert "eye opening, wearer's left" in odd.text
    assert odd.x_mm == pytest.approx(31, abs=12)
    paint = demo.paint("tidepool-teal")
    loud = with_paint(plan, replace(paint, eye_area=False))
    assert "label" in codes(loud)
    assert "label" not in codes(plan)
    assert "beyond" in codes(with_ring(demo, 70, 10)[0])


def test_too_small_and_line_work_too_wide(demo):
    plan, _ = with_ring(demo, 0, -60)
    assert "too_small" in codes(with_motif(plan, scaled(plan.motifs[0], 0.3)))
    plan, _ = with_new_motif(demo, "swirl-drops", "face", Place(0, -60), "kelp-swoosh")
    assert "line_too_wide" in codes(plan)


# --- the picture ---


def test_chart_is_painted_where_motifs_lie(demo):
    plan, _ = with_ring(demo, 0, -60)
    painted = ChartScene(1.5).paint(plan, "face", REFERENCE)
    assert painted.strokes == 5
    rows, columns = np.nonzero(painted.rgba[..., 3] > 200)
    x = painted.canvas.left_mm + columns.mean() / 1.5
    y = painted.canvas.top_mm + rows.mean() / 1.5
    assert (x, y) == pytest.approx((0, -60), abs=1.5)
    face = chart_of(plan, "face")
    picture = chart_picture(face, painted, (180, 140, 110), 1.5)
    mirrored = chart_picture(face, painted, (180, 140, 110), 1.5, mirrored=True)
    assert (mirrored == picture[:, ::-1]).all()
    bare = chart_picture(face, None, (180, 140, 110), 1.5)
    assert bare.shape == picture.shape
    assert (bare != picture).any()
    assert ChartScene(1.5).paint(demo, "face", REFERENCE) is None
