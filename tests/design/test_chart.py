"""Motifs on a chart: what they come to, edits, checks with their places, and files."""

from dataclasses import replace

import numpy as np
import pytest
from lantern_face import demo_plan

from pennello.aim.contrast import contrast_ratio
from pennello.aim.wish import edge_lab, wanted_lab
from pennello.chart.chart import drawn
from pennello.colour.difference import ciede2000
from pennello.design.as_wished import as_wished
from pennello.design.chart_checks import odd_on
from pennello.design.clock import turns
from pennello.design.edits import StillNeededError, with_paint, without_stroke
from pennello.design.fresh import fresh_plan
from pennello.design.layers import (
    EmptyStencilError,
    half_mm,
    layer_named,
    layers_on,
    moved_layer,
    sized_layer,
    stencil_of,
    with_layer,
    without_layer,
)
from pennello.design.load_edits import reloading
from pennello.design.marks import Glitter, Reserved, Stencil, grains
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
from pennello.design.own import NothingChosenError, own_of, with_own
from pennello.design.part_edits import put_in, with_new_part, with_part
from pennello.design.placed import PlacedMotif
from pennello.design.reach import hidden_edges
from pennello.design.reading import on_skin, readings
from pennello.errors import FileProblemError, OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.motif_file import read_own
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.kit.applicator import GradientAxis
from pennello.lay.engine import REFERENCE
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.motif.place import Place
from pennello.path.cubic import line
from pennello.session.chart_scene import ChartScene, chart_picture
from pennello.session.motif_library import KeptAlreadyError, keep, own_motifs

SMALL = (("radius_mm", 8.0), ("spread_mm", 6.0), ("height_mm", 9.0))


def with_ring(plan, x=40.0, y=40.0, **more):
    plan, name = with_new_motif(plan, "petal-ring", "face", Place(x, y), "beetle-scale")
    placed = replace(plan.motifs[-1], values=SMALL, **more)
    return with_motif(plan, placed), name


def codes(plan, key="face"):
    return {odd.code for odd in odd_on(plan, key)}


def test_a_motif_becomes_strokes_with_their_loads(demo):
    plan, _ = with_ring(reloading(demo, {"beetle-scale"}, 2))
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
    assert {one.part for one in apart.motifs} == {apart.parts[0].id}
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
    plan, name = with_ring(reloading(demo, {"beetle-scale"}, 3), twin=True)
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


def test_a_part_without_its_mirror_image_is_said_once_and_may_be_so_on_purpose(demo):
    plan, _ = with_ring(demo, 40, 45, twin=True)
    for y_mm in (-60, -50, -40):
        plan, last = with_ring(plan, 30, y_mm)
    plan, flower = with_new_part(plan, "Moon flower", [one.id for one in plan.motifs[1:]])
    missing = [one for one in odd_on(plan, "face") if one.code == "missing_mirror"]
    assert [(one.piece, one.text.split(" has")[0]) for one in missing] == [(plan.motifs[1].id, "Moon flower")]
    one_twin = replace(plan, motifs=(*plan.motifs[:3], replace(plan.motifs[3], twin=True)))
    assert len([one for one in odd_on(one_twin, "face") if one.code == "missing_mirror"]) == 2, "each for itself"
    part = plan.parts_by_id[flower]
    assert "missing_mirror" not in codes(with_part(plan, replace(part, one_sided=True)))
    outer, about = with_new_part(plan, "Crown", [flower])
    assert "missing_mirror" not in codes(with_part(outer, replace(outer.parts_by_id[about], one_sided=True)))
    assert last in {one.id for one in plan.motifs}


def free(name, y_mm, from_x, to_x):
    """A stroke drawn free: its way lies where it lies, its place is nowhere."""
    way = Stroke(line((from_x, y_mm), (to_x, y_mm)), Nib(NibMode.FOLLOWING, 90.0))
    return PlacedMotif(name, name, "", (("stroke", "dahlia-petal"),), chart="face", way=way)


def test_free_strokes_are_mirror_images_if_they_look_so(demo):
    """Places of 0, 0 say nothing: what is laid is compared."""
    ring, _ = with_ring(demo, -40, 40)
    same_side = replace(ring, motifs=(*ring.motifs, free("a", -40, -30, -10), free("b", 20, -30, -10)))
    assert "missing_mirror" not in codes(same_side), "nothing here is mirrored"
    both_sides = replace(ring, motifs=(*ring.motifs, free("a", -40, -30, -10), free("b", -40, 10, 30)))
    (odd,) = [one for one in odd_on(both_sides, "face") if one.code == "missing_mirror"]
    assert odd.piece == ring.motifs[0].id, "the two free strokes are a pair, the ring is alone"
    across = replace(ring, motifs=(*both_sides.motifs[1:], free("mid", 60, -15, 15)))
    assert "missing_mirror" not in codes(across), "what lies across the midline is its own mirror image"


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


# --- the demo, overlays, own motifs, other skins ---


def test_the_demo_has_four_designs_with_nothing_odd():
    plan = demo_plan()
    charts = {placed.chart for placed in plan.motifs}
    assert charts == {"face", "cheek-left", "forearm", "hand"}
    for key in charts:
        assert odd_on(plan, key) == ()
    assert {"shell-scale", "lantern-peak"} <= {stroke.id for stroke in plan.strokes}
    assert plan.overlays


def test_reserved_places_are_kept_and_swirls_lead_somewhere(demo):
    plan, name = with_ring(demo, 0, -60)
    kept = Reserved("horn", 0, -60, 14.0)
    assert "reserved" in codes(replace(plan, reserved=(kept,)))
    assert "reserved" not in codes(replace(plan, reserved=(replace(kept, for_motif=name),)))
    lonely, _ = with_new_motif(demo, "swirl-drops", "forearm", Place(60, 300), "kelp-leaf")
    assert "leads_nowhere" in codes(lonely, "forearm")
    with pytest.raises(OutOfRangeError):
        Reserved("x", 0, 0, 0.1)


def test_parts_move_together(demo):
    plan, one = with_ring(demo, 0, -60)
    plan, two = with_ring(plan, 30, -60)
    joined, part = with_new_part(plan, "Two flowers", [one, two])
    moved = moved_group(joined, one, Place(0, 5))
    assert [placed.place.y_mm for placed in moved.motifs] == [-55, -55]
    freed = moved_group(put_in(joined, [one], ""), one, Place(0, 5))
    assert [placed.place.y_mm for placed in freed.motifs] == [-55, -60]
    assert part == "two-flowers"


def test_overlays_are_kept_seeded_and_drawn(demo):
    glitter = Glitter("dust", 0, -40, 40, 30, "#ff0000", grains_cm2=100.0)
    outline = line((-5, -5), (5, 5))
    stencil = Stencil("bar", 0, 30, 20, 20, "#00ff00", cover=0.5, outlines=(outline,))
    plan = replace(demo, overlays=(glitter, stencil), reserved=(Reserved("horn", 1, 2),))
    assert parse_plan(plan_bytes(plan), "plan") == plan
    strewn = grains(glitter)
    assert len(strewn) == round(100 * np.pi / 4 * 40 * 30 / 100)
    assert (((strewn[:, 0] / 20) ** 2 + ((strewn[:, 1] + 40) / 15) ** 2) <= 1 + 1e-9).all()
    assert (grains(replace(glitter, seed=2)) != strewn).any()
    face = chart_of(demo, "face")
    painted = ChartScene(2.0).paint(plan, "face", REFERENCE)
    plain, over = (chart_picture(face, one, (180, 140, 110), 2.0) for one in (None, painted))
    red = [int((picture[..., 0].astype(int) - picture[..., 1] > 120).sum()) for picture in (plain, over)]
    assert red[1] > red[0]
    for bad in ({"grains_cm2": 900.0}, {"seed": -1}, {"width_mm": 0.0}, {"srgb": "red"}):
        with pytest.raises(PennelloError):
            replace(glitter, **bad)


def test_own_motifs_are_kept_and_read_defensively(demo, tmp_path):
    plan, name = with_ring(demo, twin=True)
    path = keep(own_of(plan, [name], "My flower / 5"), b"", tmp_path)
    own = own_motifs(tmp_path).kept[0].own
    kept = own.parts.motifs[0]
    assert (own.name, kept.motif, kept.twin) == ("My flower / 5", "petal-ring", True)
    assert dict(kept.values) == dict(SMALL)
    with pytest.raises(FileProblemError, match="there is a file of this name"):
        keep(own, b"", path)
    with pytest.raises(NothingChosenError, match="in the hand first"):
        own_of(plan, ["nothing-of-the-kind"], "x")
    for text, told in (
        ("{}", "not a motif"),
        (path.read_text().replace("petal-ring", "petal-wrong"), "motif"),
        (path.read_text().replace('"motifs": [', '"motifs": [], "old": ['), "unknown field"),
        (path.read_text().replace('"picture": ""', '"picture": "%%"'), "not a motif"),
    ):
        bad = tmp_path / "bad.pennello-motif"
        bad.write_text(text)
        with pytest.raises(FileProblemError, match=told):
            read_own(bad)
    there = own_motifs(tmp_path)
    assert len(there.kept) == 1
    assert [bad.name in words for words in there.unread] == [True]
    bad.write_bytes(b"\xef\xbb\xbf" + path.read_bytes())
    assert read_own(bad) == own, "a byte-order mark is read past"
    bad.write_text(path.read_text().replace('"schema": 2,', '"schema": 2, "schema": 2,', 1))
    with pytest.raises(FileProblemError, match="stands twice"):
        read_own(bad)


@pytest.mark.parametrize("name", ["x" * 200, "\u00fc" * 81, "\u82b1", " "])
def test_what_is_kept_as_a_motif_of_ones_own_can_be_read_again(demo, tmp_path, name):
    """Names of 81 to 200 signs were written and never read; the list left them out without a word."""
    plan, one = with_ring(demo)
    own = own_of(plan, [one], name)
    assert read_own(keep(own, b"", tmp_path)) == own
    assert [kept.own.name for kept in own_motifs(tmp_path).kept] == [name.strip() or own.name]


def test_no_own_motif_takes_the_place_of_another_unasked(demo, tmp_path):
    """Names of other scripts all had one file, and so had those that begin with the same 60 signs."""
    plan, ring = with_ring(demo)
    names = ("\u82b1", "\u9ce5", "Rose?", "rose!", "x" * 60, "x" * 61)
    for name in (*names, names[0]):
        keep(own_of(plan, [ring], name), b"", tmp_path)
    assert sorted(kept.own.name for kept in own_motifs(tmp_path).kept) == sorted(names)
    other = own_of(with_ring(demo, 5, 5)[0], [ring], "Rose?")
    other = replace(other, parts=replace(other.parts, title="another one"))
    with pytest.raises(KeptAlreadyError, match="another motif as 'Rose\\?' already"):
        keep(other, b"", tmp_path)
    path = keep(other, b"", tmp_path, over=True)
    assert read_own(path) == other
    assert len(own_motifs(tmp_path).kept) == len(names)


def test_own_motifs_of_version_1_open_for_ever(tmp_path):
    """A file as 0.8 wrote it: one motif and its numbers, no loads."""
    old = tmp_path / "old.pennello-motif"
    old.write_text(
        '{"format":"pennello-motif","schema":1,"name":"Old ring",'
        '"motif":"petal-ring","set":{"petals":6.0},"per_load":3}'
    )
    own = read_own(old)
    assert own.name == "Old ring"
    assert dict(own.parts.motifs[0].values) == {"petals": 6.0}


def test_an_own_motif_of_free_strokes_comes_back_with_its_loads_or_in_other_colours(demo, tmp_path):
    """Anything chosen on a chart: strokes broken off a motif lie as they lay, about the place where they are put."""
    plan, name = with_ring(demo)
    apart = broken_apart(plan, name)
    free = [one.id for one in apart.motifs if one.part == apart.parts[-1].id][:3]
    own = own_of(apart, free, "Three petals")
    other = fresh_plan()
    made, ids = with_own(other, own, "forearm", Place(10.0, 20.0))
    assert len(ids) == 3
    assert [one.name for one in made.parts] == ["Three petals"]
    assert len(made.strokes) == 1, "one load came along for all three"
    before = [
        np.add(one.way.path.points_mm, (one.place.x_mm, one.place.y_mm)) for one in apart.motifs if one.id in free
    ]
    after = [np.add(one.way.path.points_mm, (one.place.x_mm, one.place.y_mm)) for one in made.motifs]
    moved = after[0] - before[0]
    assert moved == pytest.approx(np.broadcast_to(moved[0], moved.shape), abs=1e-6)
    assert after[2] - before[2] == pytest.approx(np.broadcast_to(moved[0], moved.shape), abs=1e-6)
    again, _ = with_own(made, own, "forearm", Place(60.0, 20.0))
    assert len(again.strokes) == 1, "the same load is not brought twice"
    theirs, _ = with_own(demo, own, "face", Place(), own_colours=False)
    assert len(theirs.strokes) == len(demo.strokes), "laid with a load that the plan has"
    path = keep(own, b"", tmp_path)
    assert read_own(path) == own


def test_only_what_is_laid_by_a_time(demo):
    plan, _ = with_ring(demo, 0, -60)
    laid = painted_plan(plan, "face")
    starts = [turn.start_s for turn in turns(laid)]
    at_s = (starts[1] + starts[2]) / 2
    painted = ChartScene(1.0).paint(plan, "face", REFERENCE, at_s)
    assert painted.strokes == 2
    assert painted.ends_s > at_s
    assert ChartScene(1.0).paint(plan, "face", REFERENCE, 0.0) is None
    assert painted.wetness.max() > 0.5


def test_contrast_is_the_wcag_ratio():
    """W3C WCAG 2.1: black on white 21, #777777 on white 4.48, #767676 on white 4.54."""
    for grey, ratio in ((0, 21.0), (0x77, 4.48), (0x76, 4.54), (255, 1.0)):
        assert contrast_ratio(np.full(3, grey / 255), np.ones(3)) == pytest.approx(ratio, abs=0.01)
        assert contrast_ratio(np.ones(3), np.full(3, grey / 255)) == pytest.approx(ratio, abs=0.01)


def test_a_white_rim_reads_on_dark_skin_more_than_on_light(demo):
    found = {one.ita_deg: one for one in readings(demo, (62.0, -40.0)) if one.stroke == "dahlia-petal"}
    assert found[-40.0].rim > found[62.0].rim
    assert found[-40.0].reads
    assert on_skin(demo, -40.0).skin.ita_deg == -40.0


def test_a_base_says_which_edges_later_strokes_hide(demo):
    plan, base = with_new_motif(demo, "base", "face", Place(0.0, -40.0), "moth-wing")
    placed = plan.motifs[-1]
    assert hidden_edges(plan, placed) == (0.0, 0.0)
    plan, _ = with_new_motif(plan, "fill", "face", Place(0.0, -40.0), "dahlia-petal")
    cover = plan.motifs[-1].with_value("wide_mm", 200.0).with_value("high_mm", 120.0)
    assert hidden_edges(with_motif(plan, cover), placed) == (1.0, 1.0)
    half = replace(cover, place=Place(-100.0, -40.0))
    assert hidden_edges(with_motif(plan, half), placed)[0] == pytest.approx(0.5, abs=0.05)  # type: ignore[index]
    assert hidden_edges(plan, cover) is None
    assert base == placed.id


def test_a_plan_as_wished_has_the_wanted_colours_and_hides(demo):
    wished = as_wished(demo)
    for stroke in demo.strokes:
        brush = demo.brush(stroke.brush)
        if stroke.recipe.axis(brush) is GradientAxis.ALONG:
            assert wished.stroke(stroke.id) == stroke
            continue
        attempt = demo.attempt(stroke.id)
        want = wanted_lab(stroke.wanted, 64, attempt.edge_mm, attempt.paints, attempt.skin)
        edge = wished.edge(stroke.id)
        got = edge_lab(edge, {paint.id: paint for paint in wished.paints}, attempt.skin, 60.0)
        assert np.percentile(ciede2000(want, got), 75) < 3.5, stroke.id


def test_layers_are_edited_as_values(demo):
    glitter, kept = Glitter("dust", 0.0, 0.0, 30.0, 20.0), Reserved("horn", 5.0, 5.0)
    plan = with_layer(with_layer(demo, glitter), kept)
    assert layers_on(plan, "face") == (glitter, kept)
    assert layers_on(plan, "hand") == ()
    assert sized_layer(glitter, 30.0).height_mm == 40.0
    assert sized_layer(kept, 900.0).radius_mm == 200.0
    assert half_mm(moved_layer(kept, 1.0, 2.0)) == half_mm(kept)
    plan = with_layer(plan, moved_layer(glitter, 9.0, 1.0), glitter)
    assert layer_named(plan, "dust").x_mm == 9.0
    assert without_layer(without_layer(plan, layer_named(plan, "dust")), kept) == demo
    with pytest.raises(UnknownNameError, match="layer"):
        layer_named(demo, "dust")
    with pytest.raises(EmptyStencilError):
        stencil_of("none", (), (0.0, 0.0), "face")


def test_what_has_gone_from_a_chart_is_named(demo):
    """A bead or a handle that is held while undo takes its motif away: a sentence, no StopIteration."""
    plan, name = with_new_motif(demo, "rosebud", "face", Place())
    for act in (
        lambda: moved_in_order(plan, "gone", 0),
        lambda: moved_group(plan, "gone", Place()),
        lambda: mirrored_twin(plan, "gone"),
        lambda: broken_apart(plan, "gone"),
    ):
        with pytest.raises(UnknownNameError, match=f"no motif 'gone'; there is: {name}"):
            act()
