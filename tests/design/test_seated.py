"""A stripe stays on its landmark and a line at its angle, whatever else changes; signs are asked about."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from lantern_face import demo_plan

from pennello.chart.measures import Age, usual
from pennello.design.bound import Sign, StripeOn
from pennello.design.edits import with_stroke
from pennello.design.findings import findings_by_chart
from pennello.design.on_chart import chart_of, laid_pieces, painted_plan, prints_of, seat, with_motif
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.seated import chord_deg, places_for_stripes, stripe_line, stripe_u
from pennello.errors import OutOfRangeError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.finding import Code, Level
from pennello.lay.families.catalogue import family
from pennello.lay.families.shapes import smooth
from pennello.lay.laying import pull
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.motif.place import Place
from pennello.order.arrange import arrange, design_of
from pennello.order.stages import stages

BAND = Stroke(smooth([(-40.0, 4.0), (0.0, -4.0), (40.0, 4.0)]), Nib(NibMode.FOLLOWING, 90.0), 0.6)
LOAD = "poppy-petal"


def with_piece(**keeps):
    """The plan with a band of four stripes over the face, and the band."""
    placed = PlacedMotif("band", "Band", FREE, ((SINGLE, LOAD),), place=Place(3.0, -20.0, 8.0), way=BAND, **keeps)
    plan = replace(demo_plan(), motifs=(), parts=(), overlays=())
    return with_motif(plan, placed), placed


def off_mm(plan, paint="poppy-red", name="pupil, wearer's left"):
    """How far the stripe of a paint lies from a landmark, by the kinematics of the stroke as it is laid."""
    (piece,) = laid_pieces(plan, plan.motifs[0], None)
    brush = plan.brush(plan.stroke(piece.load).brush)
    edge = plan.edge(piece.load)
    share = edge.share[:, edge.paints.index(paint)]
    u = float((share * (np.arange(len(share)) + 0.5)).sum() / share.sum() / len(share))
    track = pull(piece.stroke, brush, plan.axis(piece.load)).track
    line = shapely.LineString(track.points(np.arange(len(track.s_mm)), np.array([u]))[:, 0])
    return line.distance(shapely.Point(chart_of(plan, "face").landmark(name)))


KEPT = StripeOn("poppy-red", "pupil, wearer's left")


def changed_window(plan):
    stroke = plan.stroke(LOAD)
    pick = replace(stroke.recipe.pickups[0], offset_mm=0.4, flip=True)
    return with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, pickups=(pick,))))


def changed_brush(plan):
    return with_stroke(plan, replace(plan.stroke(LOAD), brush="flat-3-4"))


def changed_face(plan):
    return replace(plan, measures=usual(Age.SMALL_CHILD))


def turned(plan):
    return with_motif(plan, replace(plan.motifs[0], place=Place(-12.0, 30.0, -25.0)))


@pytest.mark.parametrize("change", [lambda plan: plan, changed_window, changed_brush, changed_face, turned])
def test_a_stripe_stays_on_its_landmark_after_any_edit(change):
    """Within 0.2 mm, as it is laid."""
    plan, _ = with_piece(stripe=KEPT)
    assert off_mm(change(plan)) < 0.2
    free = change(with_piece()[0])
    assert off_mm(free) > 1.0


def test_it_is_moved_the_shortest_way():
    plan, placed = with_piece(stripe=KEPT)
    lies = seat(plan, placed).place
    assert math.hypot(lies.x_mm - 3, lies.y_mm + 20) == pytest.approx(off_mm(with_piece()[0]), abs=0.2)
    assert seat(plan, seat(plan, placed)).place.y_mm == pytest.approx(lies.y_mm, abs=0.05)


@pytest.mark.parametrize(("name", "axis", "at"), [("midline", 0, 0.0), ("pupil line", 1, None)])
def test_lines_of_the_face_take_the_middle_of_a_stripe(name, axis, at):
    plan, _ = with_piece(stripe=StripeOn("foam-white", name))
    (piece,) = laid_pieces(plan, plan.motifs[0], None)
    u = stripe_u(plan.edge(LOAD), "foam-white")
    line = stripe_line(piece.stroke, plan.brush("flat-1"), plan.axis(LOAD), u)
    wanted = chart_of(plan, "face").landmark("pupil, wearer's left")[1] if at is None else at
    assert line[len(line) // 2][axis] == pytest.approx(wanted, abs=0.2)


def test_a_twin_keeps_it_on_its_own_side():
    plan, placed = with_piece(stripe=KEPT, twin=True)
    own, image = laid_pieces(plan, placed, 0.0)
    assert np.array(image.stroke.path.points_mm) * [-1, 1] == pytest.approx(np.array(own.stroke.path.points_mm))


@pytest.mark.parametrize("level", [-40.0, 0.0, 12.5, 140.0])
@pytest.mark.parametrize("mirrored", [False, True])
def test_an_angle_to_the_level_is_kept(level, mirrored):
    """The angle by atan2 of the stroke's ends as it is laid, up to the right above 0."""
    place = Place(3.0, -20.0, 33.0, 1.2, mirrored)
    plan, placed = with_piece(level_deg=level)
    placed = replace(placed, place=place)
    plan = with_motif(plan, placed)
    (piece,) = laid_pieces(plan, placed, None)
    (x0, y0), *_, (x1, y1) = piece.stroke.path.points_mm
    assert math.degrees(math.atan2(y0 - y1, x1 - x0)) == pytest.approx(level, abs=1e-6)
    assert seat(plan, placed).place.x_mm == 3.0  # about its own place


def test_angle_and_stripe_are_kept_together():
    plan, placed = with_piece(level_deg=20.0, stripe=KEPT)
    assert off_mm(plan) < 0.2
    assert chord_deg(seat(plan, placed), prints_of(plan, placed)) == pytest.approx(20)


def test_a_dot_has_no_angle_and_stays():
    plan, placed = with_piece()
    dot = replace(placed, way=family("dot").stroke(), level_deg=30.0)
    assert chord_deg(dot, ()) is None
    assert seat(plan, dot) == dot


def test_what_is_worked_out_keeps_nothing():
    from pennello.design.computing import Computed, Computing

    with pytest.raises(OutOfRangeError, match="worked out"):
        PlacedMotif("x", "X", FREE, (), computed=Computed(Computing.OUTLINE, ("a",)), level_deg=3.0)
    with pytest.raises(OutOfRangeError, match="angle of Band to the level"):
        with_piece(level_deg=400.0)


@pytest.mark.parametrize(
    ("stripe", "word"), [(StripeOn("peat-black", "midline"), "no Peat Black"), (StripeOn("poppy-red", "horn"), "horn")]
)
def test_a_stripe_that_cannot_be_kept_is_found_and_nothing_moves(stripe, word):
    plan, placed = with_piece(stripe=stripe)
    (found,) = (one for one in findings_by_chart(plan)["face"] if one.code is Code.STRIPE_OFF)
    assert word in found.text
    assert seat(plan, placed) == placed


def test_a_sign_is_asked_about_until_somebody_has_read_it_and_the_chair_is_told():
    plan, placed = with_piece(sign=Sign("FOX"))
    (found,) = (one for one in findings_by_chart(plan)["face"] if one.code is Code.SIGN_UNREAD)
    assert found.level is Level.ASK
    assert "FOX" in found.text
    read = with_motif(plan, replace(placed, sign=Sign("FOX", checked=True)))
    assert not [one for one in findings_by_chart(read)["face"] if one.code is Code.SIGN_UNREAD]
    for shown, words in ((plan, "nobody who reads it"), (read, "checked by somebody who reads it")):
        order = arrange(design_of(shown, "face"), 0.0)
        assert [step.words for step in order.steps if words in step.words]
        assert any(words in line for stage in stages(order) for line in stage.words)


def test_strokes_of_a_sign_keep_their_order():
    ways = tuple(Stroke(smooth([(x, 0.0), (x, 9.0)]), Nib(), 0.5) for x in (30.0, 0.0, 15.0, -20.0))
    plan, placed = with_piece(sign=Sign("I I"))
    plan = with_motif(plan, replace(placed, way=ways[0], more=ways[1:], loads=((SINGLE, "line-foam-white"),)))
    found = arrange(design_of(plan, "face"), 0.0)
    (job,) = found.jobs
    painted = painted_plan(plan, "face")
    at = [painted.stroke(name).stroke.path.points_mm[0][0] for name in job.strokes]
    assert np.argsort(at).tolist() == np.argsort([30.0, 0.0, 15.0, -20.0]).tolist()


def test_what_is_kept_is_in_the_file():
    plan, _ = with_piece(stripe=KEPT, level_deg=12.0, sign=Sign("7", checked=True))
    assert parse_plan(plan_bytes(plan), "x") == plan


def test_places_for_stripes_are_the_charts_own():
    plan, _ = with_piece()
    face, arm = (places_for_stripes(chart_of(plan, key)) for key in ("face", "forearm"))
    assert face[:2] == ("midline", "pupil line")
    assert {"heart", "nose bridge", "brow peak, wearer's left"} <= set(face)
    assert "midline" not in arm
    assert "wrist" in arm
