"""Every family: it can be made over its whole range, lays paint, and has the shape that its name says."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import LineString, Point, convex_hull, multipoints, union_all
from shapely.affinity import scale
from shapely.geometry import Polygon

from pennello.colour.basis import small_basis
from pennello.design.fresh import fresh_plan, with_family_stroke
from pennello.design.rims import bends, mirrored, reversed_way, rim_kept, with_way_of
from pennello.design.visits import from_one_load
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.lay.coverage import footprints, swept_coverage
from pennello.lay.families.catalogue import FAMILIES, GROUPS, OLD, family
from pennello.lay.families.hold import Hold
from pennello.lay.families.shapes import arc, smooth
from pennello.lay.laying import pull
from pennello.lay.stroke import Wiggle
from pennello.path.cubic import length_mm, position

WANTED = """
shell fan fingernail cup crescent scale-arch heart-lobe c-curve comma-stroke square-drop wing-lobe wing-curl peak-flank
flame horn feather-barb leaf-half leaf-plain one-stroke-leaf s-curve long-swoosh ribbon wave-crest
press-petal sponge-sweep sponge-press sponge-pats sponge-field sponge-roll sponge-pinch sponge-pivot s-base fill
dauber-disc dauber-ring fur-dab fur-along press-drop dot graded-dots pointed-star starburst
tapering-line thin-thick-thin swirl-in vine whisker snow-arm
"""  # the families that painters name: common practice, no published source


def test_all_families_are_there():
    assert set(WANTED.split()) == set(FAMILIES)
    assert {one.group for one in FAMILIES.values()} <= set(GROUPS)
    assert all(one.tool in catalogue.brushes() for one in FAMILIES.values())
    with pytest.raises(UnknownNameError):
        family("zigzag")
    assert {one.hold for one in FAMILIES.values()} == set(Hold)
    assert all(family(key).stroke() for key in OLD), "older keys stay readable"


FROM_A_CORNER = ("c-curve", "wave-crest", "wing-curl")


@pytest.mark.parametrize(
    "key",
    [one.key for one in FAMILIES.values() if one.hold in (Hold.UPRIGHT, Hold.PUSH) or one.key in FROM_A_CORNER],
)
def test_no_blunt_foot(key):
    """They begin and end on the chisel or a corner: under 35 % of their greatest width (common practice)."""
    track = pull(FAMILIES[key].stroke(), catalogue.brushes()[FAMILIES[key].tool], GradientAxis.ACROSS).track
    ribbon = track.touch_mm * np.sin(track.phi) + track.thicknesses_mm * np.cos(track.phi)
    assert max(ribbon[0], ribbon[-1]) < 0.35 * ribbon.max()


def swept_shape(stroke, tool):
    quads = footprints(pull(stroke, catalogue.brushes()[tool], GradientAxis.ACROSS).track, 4.0)
    return union_all(convex_hull(multipoints(quads)))


@pytest.mark.parametrize("key", ["heart-lobe", "peak-flank"])
def test_two_mirrored_halves_close(key):
    """Two halves close at the point within 0.5 mm; a heart may leave a hole as large as a grain of rice."""
    half = swept_shape(FAMILIES[key].stroke(), FAMILIES[key].tool)
    both = union_all([half, scale(half, -1, 1, origin=(0, 0))])
    assert both.geom_type == "Polygon"
    assert sum(Polygon(ring).area for ring in both.interiors) < 4
    point = Point(0, FAMILIES[key].stroke().path.points_mm[-1][1])
    assert both.distance(point) < 0.5


def test_leaf_halves_meet_on_the_midrib():
    half = swept_shape(FAMILIES["leaf-plain"].stroke(), "flat-3-4")
    other = scale(half, 1, -1, origin=(0, 0))
    assert half.distance(other) < 0.5
    middle = LineString([(2, 0), (20, 0)])
    assert middle.difference(union_all([half, other]).buffer(0.5)).length < 0.5


def test_waves_die_out_at_both_ends():
    wiggle = FAMILIES["shell"].stroke().wiggle
    assert wiggle.envelope(np.array([0.0, 0.0625, 0.125, 0.5, 1.0])).tolist() == [0, 0.5, 1, 1, 0]
    assert Wiggle(3, 2).envelope(np.array([0.0, 0.5])).tolist() == [1, 1]
    with pytest.raises(OutOfRangeError):
        Wiggle(3, 2, 0.8)


@pytest.mark.parametrize("key", FAMILIES)
@pytest.mark.parametrize("end", ["low", "default", "high"])
def test_every_family_over_its_range(key, end):
    one = FAMILIES[key]
    stroke = one.stroke(**{p.key: getattr(p, end) for p in one.parameters})
    track = pull(stroke, catalogue.brushes()[one.tool], GradientAxis.ACROSS).track
    assert np.isfinite(track.centre).all()
    assert np.isfinite(track.touch).all()
    assert (track.widths_mm > 0).all()
    for p in one.parameters:
        with pytest.raises(OutOfRangeError):
            one.stroke(**{p.key: p.high + 1})
    with pytest.raises(UnknownNameError):
        one.stroke(nonsense=1)


@pytest.mark.parametrize("key", FAMILIES)
def test_every_family_lays_paint_in_a_plan(key):
    plan, name = with_family_stroke(fresh_plan(), key)
    laid = plan.attempt(name).lay(2.0, small_basis(8))
    assert laid.volumes.laid_mm3 > 0
    assert laid.volumes.laid_mm3 + laid.volumes.left_mm3 == pytest.approx(laid.volumes.loaded_mm3, rel=1e-6)


def test_shapes_are_what_their_names_say():
    arch = family("inverted-u").stroke(spread_mm=30, height_mm=20).path
    ys = position(arch, np.linspace(0, 1, 50))[:, 1]
    assert ys.min() == pytest.approx(-20, abs=0.01)
    cup = family("bucket").stroke(spread_mm=30, height_mm=20).path
    assert position(cup, np.linspace(0, 1, 50))[:, 1].max() == pytest.approx(20, abs=0.01)
    for turn in (30.0, 200.0):  # arc length r theta
        path = family("c-stroke").stroke(radius_mm=14, turn_deg=turn).path
        assert length_mm(path) == pytest.approx(14 * math.radians(turn), rel=2e-3)
    assert length_mm(arc(10, 0, 360)) == pytest.approx(2 * math.pi * 10, rel=1e-3)
    assert family("fill").stroke(rows=4, length_mm=40, step_mm=10).path.points_mm[-1] == (0.0, 30.0)
    heavy, light = (family("teardrop").stroke(heavy=flag).pressures for flag in (1, 0))
    assert heavy[0].value == light[1].value > heavy[1].value == light[0].value


def test_a_dauber_is_a_disc_less_its_pores():
    """Area of what is swept against pi r^2, by shapely; a stippled rim and pores take some of it."""
    plan, name = with_family_stroke(fresh_plan(), "dauber-disc", {"press": 0.5})
    film = plan.attempt(name).lay(4.0, small_basis(8)).film
    radius = catalogue.brushes()["dauber-medium"].width_mm / 2
    disc = Polygon([(radius * math.cos(a), radius * math.sin(a)) for a in np.linspace(0, 2 * math.pi, 200)])
    one = plan.attempt(name)
    track = pull(one.stroke, one.brush, one.axis).track
    swept = swept_coverage(track, film.canvas).sum() / 16
    assert swept == pytest.approx(disc.area, rel=0.04)
    assert 0.6 * swept < film.coverage.sum() / 16 < 0.95 * swept


@given(st.sampled_from(sorted(FAMILIES)))
def test_mirror_and_reverse_twice_are_nothing(key):
    stroke = FAMILIES[key].stroke()
    for change in (mirrored, reversed_way):
        twice = change(change(stroke))
        assert np.array(twice.path.points_mm) == pytest.approx(np.array(stroke.path.points_mm), abs=1e-5)
        assert twice.nib.angle_deg % 360 == pytest.approx(stroke.nib.angle_deg % 360)
        assert [key.value for key in twice.pressures] == pytest.approx([key.value for key in stroke.pressures])


def test_a_mirrored_stroke_is_the_mirrored_picture():
    plan, name = with_family_stroke(fresh_plan(), "inverted-u")
    from dataclasses import replace

    from pennello.design.edits import with_stroke

    stroke = plan.stroke(name)
    other = with_stroke(plan, replace(stroke, stroke=mirrored(stroke.stroke)))
    one, two = (p.attempt(name).lay(4.0, small_basis(8)).film.thickness_um for p in (plan, other))
    assert one.shape == two.shape
    assert np.abs(one[:, ::-1] - two).max() < 0.08 * one.max()


def test_the_rim_is_kept_by_a_flip_at_each_bend():
    swoosh = family("s-base").stroke()
    assert len(bends(swoosh.path)) >= 1
    assert rim_kept(swoosh).flips_mm == bends(swoosh.path)
    assert bends(family("inverted-u").stroke().path) == ()
    assert bends(smooth([(0, 0), (20, 0.1), (40, 0)])) == ()
    assert with_way_of(swoosh, family("teardrop").stroke()).path == swoosh.path


def test_one_load_lasts_for_fewer_long_strokes(demo):
    assert from_one_load(demo, "beetle-scale") > from_one_load(demo, "dahlia-petal") > 0
    assert from_one_load(demo, "kelp-swoosh") == 0
