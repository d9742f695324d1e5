"""Outlines, grounds and fills that are worked out from other parts, held against shapely's distances and areas."""

from dataclasses import replace

import numpy as np
import pytest
import shapely
from lantern_face import demo_plan
from shapely import LineString

from pennello.design.chart_checks import odd_on
from pennello.design.computed import bare_share, place_of
from pennello.design.computing import LARGE, RIMS, Computed, Computing, LaidBy
from pennello.design.edits import with_stroke
from pennello.design.line_work import with_line_load
from pennello.design.marks import Reserved
from pennello.design.on_chart import (
    broken_apart,
    chart_of,
    laid_pieces,
    moved_group,
    pieces_on,
    placed_in,
    says_of,
    with_computed,
    with_new_motif,
)
from pennello.design.ordering import Ordering
from pennello.design.own import NothingChosenError, own_of, with_own
from pennello.design.part_edits import copied, mirrored_part, with_new_part
from pennello.design.touch import shape_of, swept, together, zone_shape
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.finding import Code
from pennello.lay.engine import kernel
from pennello.lay.families.shapes import arc
from pennello.motif.place import Place
from pennello.order.arrange import arrange, design_of
from pennello.path.cubic import CubicPath, length_mm, parameter_at, position


@pytest.fixture(scope="module")
def two():
    """A flower and two leaves of one part on the forehead, with loads for lines."""
    whole = demo_plan()
    plan = replace(whole, motifs=(), overlays=(), parts=(), reserved=(), ordering=Ordering())
    plan, flower = with_new_motif(plan, "shell-flower", "face", Place(0.0, -52.0))
    plan, leaves = with_new_motif(plan, "two-leaves", "face", Place(0.0, -52.0, 20.0))
    plan, part = with_new_part(plan, "Flower", [flower, leaves])
    plan, fine = with_line_load(plan, "#182030", 1.2)
    plan, broad = with_line_load(plan, "#205080", 5.0)
    return plan, part, fine, broad


def way(stroke, every_mm=0.2):
    far = np.linspace(0, length_mm(stroke.path), max(int(length_mm(stroke.path) / every_mm), 2))
    return LineString(position(stroke.path, parameter_at(stroke.path, far)))


def shape_of_part(plan, part):
    inside = {one.id for one in plan.motifs if one.part == part}
    return together([swept(plan, one) for one in pieces_on(plan, "face") if one.motif in inside])


def strokes_of(plan, name):
    return [one.stroke for one in pieces_on(plan, "face") if one.motif == name]


@pytest.mark.parametrize("off_mm", [0.0, 1.0, 3.5, -1.5])
def test_an_outline_hugs_the_contour_and_covers_all_of_it(two, off_mm):
    plan, part, fine, _ = two
    plan, name = with_computed(plan, Computed(Computing.OUTLINE, (part,), off_mm), {"stroke": fine}, "face", "edge")
    shape = shape_of_part(plan, part)
    wanted = shape.buffer(off_mm, quad_segs=32).boundary
    lines = [way(stroke) for stroke in strokes_of(plan, name)]
    worst = max(wanted.distance(shapely.Point(point)) for one in lines for point in one.coords)
    assert worst < 0.3
    near = shapely.union_all(lines).buffer(0.3)
    rest = wanted.difference(near)
    long_enough = [part for part in getattr(rest, "geoms", (rest,)) if part.length > 1.5]
    assert not long_enough, "no part of the contour is left out"
    assert len(plan.motifs) == 3


def test_an_outline_is_parted_by_how_long_a_load_lasts_and_says_what_it_takes(two):
    plan, part, fine, _ = two
    plan, name = with_computed(plan, Computed(Computing.OUTLINE, (part,)), {"stroke": fine}, "face", "edge")
    lengths = [length_mm(one.path) for one in strokes_of(plan, name)]
    assert max(lengths) <= 12 * 40 + 1e-6
    told = "; ".join(says_of(plan, placed_in(plan, name)))
    assert f"outline: {sum(lengths) / 10:.0f} cm in {len(lengths)} stroke" in told
    assert "loads" in told or "load" in told
    arranged = arrange(design_of(plan, "face", engine=kernel()), 0.0)
    jobs = [job for job in arranged.jobs if job.piece == name]
    assert sum(len(job.strokes) for job in jobs) == len(lengths)


def test_it_lives(two):
    plan, part, fine, _ = two
    made = Computed(Computing.OUTLINE, (part,))
    plan, name = with_computed(plan, made, {"stroke": fine}, "face", "edge", part)
    before = together([way(one).buffer(0.1) for one in strokes_of(plan, name)])
    moved = moved_group(plan, plan.motifs[0].id, Place(7.0, -3.0))
    after = together([way(one).buffer(0.1) for one in strokes_of(moved, name)])
    shifted = shapely.affinity.translate(before, 7.0, -3.0)
    assert after.symmetric_difference(shifted).area < 0.12 * after.area
    assert parse_plan(plan_bytes(moved), "x") == moved
    twice, copy = copied(plan, part, by=Place(0.0, 60.0))
    (outline,) = (one for one in twice.motifs if one.part == copy and one.computed is not None)
    assert outline.computed.of == (copy,), "the copy goes round the copies"
    apart = broken_apart(plan, name)
    assert all(one.computed is None for one in apart.motifs)
    assert len(apart.motifs) == 2 + len(strokes_of(plan, name))


def test_a_ground_leaves_nothing_bare_and_touches_no_part(two):
    plan, part, fine, broad = two
    made = Computed(Computing.GROUND, (part,), margin_mm=9.0)
    plan, name = with_computed(plan, made, {"stroke": fine, LARGE: broad}, "face", "ground")
    placed = placed_in(plan, name)
    around = tuple(one for one in pieces_on(plan, "face") if one.motif != name)
    assert bare_share(plan, placed, around) < 0.005
    mine = laid_pieces(plan, placed, None)
    assert {one.part for one in mine} == {"stroke", LARGE}
    laid = together([swept(plan, one) for one in mine])
    assert laid.intersection(shape_of_part(plan, part)).area < 0.0005 * laid.area


def test_a_fill_covers_its_place_and_nothing_that_stays_clear(two):
    plan, _, fine, broad = two
    chart = chart_of(plan, "face")
    eye = next(zone for zone in chart.zones if zone.kind == "eye")
    x, y = eye.polygon.mean(axis=0)
    ring = CubicPath(tuple((float(a + x), float(b + y)) for a, b in arc(24.0, 0.0, 360.0).points_mm))
    plan = replace(plan, reserved=(Reserved("horn", float(x), float(y) - 20, 4.0),))
    plan, name = with_computed(plan, Computed(Computing.FILL, border=ring), {"stroke": fine, LARGE: broad}, "face", "f")
    placed = placed_in(plan, name)
    assert bare_share(plan, placed, ()) < 0.02
    laid = together([swept(plan, one) for one in laid_pieces(plan, placed, None)])
    assert laid.intersection(zone_shape(eye)).area == 0.0
    assert laid.intersection(shapely.Point(x, y - 20).buffer(3.9)).area == 0.0
    place = place_of(placed.computed, shapely.Polygon(), "face", plan.measures, plan.reserved)
    assert laid.difference(place.buffer(0.2)).area < 0.5


def test_a_fill_goes_where_its_part_goes(two):
    plan, part, fine, broad = two
    ring = arc(14.0, 0.0, 360.0)
    made = Computed(Computing.FILL, border=CubicPath(tuple((x + 40.0, y - 20.0) for x, y in ring.points_mm)))
    plan, name = with_computed(plan, made, {"stroke": fine, LARGE: broad}, "face", "cheek", part)

    def middle(changed, piece):
        return shape_of(placed_in(changed, piece).computed.border).centroid.coords[0]

    assert middle(moved_group(plan, plan.motifs[0].id, Place(7.0, -3.0)), name) == pytest.approx((47, -23), abs=0.01)
    assert middle(mirrored_part(plan, part), name) == pytest.approx((-40, -20), abs=0.01)
    twice, copy = copied(plan, part, by=Place(0.0, 60.0))
    (fill,) = (one.id for one in twice.motifs if one.part == copy and one.computed is not None)
    assert middle(twice, fill) == pytest.approx((40, 40), abs=0.01)


def test_what_is_worked_out_is_kept_with_what_it_goes_round(two):
    plan, part, fine, _ = two
    plan, name = with_computed(plan, Computed(Computing.OUTLINE, (part,)), {"stroke": fine}, "face", "edge", part)
    own = own_of(plan, [part], "Framed")
    other, ids = with_own(plan, own, "face", Place(0.0, 60.0))
    (outline,) = (placed_in(other, one) for one in ids if placed_in(other, one).computed is not None)
    assert set(outline.computed.of) == set(ids) - {outline.id}, "what was put there with it"
    assert strokes_of(other, outline.id)
    with pytest.raises(NothingChosenError):
        own_of(plan, [name], "Edge alone")


def test_what_cannot_be_worked_out_is_refused_or_told(two):
    plan, part, fine, _ = two
    for bad in (
        {"kind": Computing.FILL},
        {"kind": Computing.OUTLINE},
        {"kind": Computing.OUTLINE, "of": (part,), "off_mm": 9.0},
    ):
        with pytest.raises(OutOfRangeError):
            Computed(**bad)
    for of, load, chart in ((("nobody",), fine, "face"), ((part,), "nobody", "face"), ((part,), fine, "tail")):
        with pytest.raises(UnknownNameError):
            with_computed(plan, Computed(Computing.OUTLINE, of), {"stroke": load}, chart, "edge")
    lost, name = with_computed(plan, Computed(Computing.OUTLINE, (part,)), {"stroke": fine}, "face", "edge")
    lost = replace(lost, motifs=tuple(one for one in lost.motifs if one.id == name), parts=())
    assert any("comes to nothing" in one.text for one in odd_on(lost, "face"))
    with pytest.raises(OutOfRangeError):
        replace(placed_in(lost, name), way=plan.strokes[0].stroke)


@pytest.mark.parametrize("kind", RIMS)
@pytest.mark.parametrize("light_deg", [-90.0, 30.0])
def test_a_shadow_lies_on_the_side_away_from_the_light_and_a_light_towards_it(two, kind, light_deg):
    """Every point of the line is where the contour's outward normal looks that way: by shapely's nearest points."""
    plan, part, fine, _ = two
    made = Computed(kind, (part,), -1.2, light_deg=light_deg)
    plan, name = with_computed(plan, made, {"stroke": fine}, "face", "rim")
    shape = shape_of_part(plan, part)
    lines = [way(stroke, 1.0) for stroke in strokes_of(plan, name)]
    assert lines
    towards = np.array([np.cos(np.radians(light_deg)), np.sin(np.radians(light_deg))])
    cosines = []
    for one in lines:
        for point in one.coords[1:-1]:
            assert shape.boundary.distance(shapely.Point(point)) == pytest.approx(1.2, abs=0.35)
            out = np.array(shapely.shortest_line(shapely.Point(point), shape.boundary).coords)
            cosines.append((out[1] - out[0]) @ towards / np.linalg.norm(out[1] - out[0]))
    right = np.array(cosines) * (1 if kind is Computing.LIGHT else -1)
    assert (right > 0.05).mean() > 0.97
    for stroke in strokes_of(plan, name):
        assert stroke.pressures[0].value < stroke.pressures[1].value  # thin at its ends


def test_a_shadow_has_no_other_side_to_miss(two):
    """It falls on one side of a flower and of its mirror image alike; of leaves that are turned it is told."""
    plan, _, fine, _ = two
    plan, side = with_new_motif(plan, "shell-flower", "face", Place(48.0, 20.0))
    plan = replace(plan, motifs=tuple(replace(one, twin=True) if one.id == side else one for one in plan.motifs))
    plan, shade = with_computed(plan, Computed(Computing.SHADOW, (side,), -1.2), {"stroke": fine}, "face", "shade")
    missed = {one.piece for one in odd_on(plan, "face") if one.code is Code.MISSING_MIRROR}
    assert missed == {one.id for one in plan.motifs if one.motif == "two-leaves"}
    assert shade not in missed


def test_shadow_and_light_of_a_disc_are_what_their_cosine_says():
    """Of a circle the lit arc is 2 arccos(0.25) wide, about 151 degrees."""
    from pennello.design.contours import contour, turned_to

    (line,) = turned_to(contour(shapely.Point(0, 0).buffer(20, quad_segs=64), 0.0), -90.0)
    angles = np.degrees(np.arctan2(line[:, 1], line[:, 0]))
    assert np.ptp(angles) == pytest.approx(2 * np.degrees(np.arccos(0.25)), abs=6)
    assert angles.mean() == pytest.approx(-90, abs=2)


@pytest.mark.parametrize(("by", "most"), [(LaidBy.PULLED, 0.02), (LaidBy.PATTED, 0.02)])
def test_a_frame_is_filled_by_a_dauber_less_what_stays_clear(two, by, most):
    plan, _, _, small = two
    load = replace(plan.stroke("lantern-cheek"), brush="dauber-small")
    plan = with_stroke(plan, load)
    made = Computed(Computing.FILL, zone="mask", by=by)
    plan, name = with_computed(plan, made, {"stroke": small, LARGE: load.id}, "face", "Mask")
    placed = placed_in(plan, name)
    laid = together([swept(plan, one) for one in laid_pieces(plan, placed, 0.0)])
    place = place_of(made, shapely.Polygon(), "face", plan.measures, plan.reserved)
    assert place.difference(laid).area < most * place.area
    for zone in chart_of(plan, "face").zones:
        if zone.kind == "eye":
            assert laid.intersection(zone_shape(zone)).area < 0.5
    assert place.area > 2000


def test_fur_and_dabs_are_set_down_along_the_same_lines(two):
    plan, _, fine, _ = two
    found = {}
    for by in LaidBy:
        made = Computed(Computing.FILL, zone="heart", by=by)
        changed, name = with_computed(plan, made, {"stroke": fine}, "face", "Heart")
        found[by] = strokes_of(changed, name)
        assert parse_plan(plan_bytes(changed), "x") == changed
    assert len({tuple(one.path.points_mm for one in strokes) for strokes in found.values()}) == 1
    assert found[LaidBy.PULLED][0].pats is None
    assert all(found[by][0].pats is not None for by in LaidBy if by is not LaidBy.PULLED)
    assert found[LaidBy.FUR][0].pressure < found[LaidBy.PATTED][0].pressure
