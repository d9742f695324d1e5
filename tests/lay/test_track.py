"""Kinematics: ribbons, own travel, swept areas against shapely and Pappus's theorem."""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, MultiPoint
from shapely.ops import unary_union

from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.lay.canvas import CanvasTooLargeError, canvas_for
from pennello.lay.coverage import swept_coverage
from pennello.lay.stroke import Nib, NibMode, Stroke, Wiggle
from pennello.lay.track import follow
from pennello.path.cubic import CubicPath, length_mm, line

BRUSH = Applicator("flat", "Flat", 20.0, thickness_mm=2.0)
SPOT = CubicPath(((5.0, 5.0),) * 4)
ARC = CubicPath(((0, 0), (-2, -45), (62, -45), (60, 0)))


def swept_mm2(stroke, px_per_mm=8.0, brush=BRUSH):
    track = follow(stroke, brush, GradientAxis.ACROSS, 0.25)
    canvas = canvas_for(track, px_per_mm)
    return float(swept_coverage(track, canvas).sum()) / px_per_mm**2, track


def union_of_footprints(track):
    """The swept area as shapely sees it: the union of the hulls of neighbouring footprints."""
    half = track.across * track.thickness_mm / 2
    corners = []
    for u in (-0.5, 0.5):
        end = track.centre + u * track.width_mm * track.edge
        corners += [end - half, end + half]
    boxes = np.stack(corners, axis=1)
    hulls = [MultiPoint(np.concatenate([a, b])).convex_hull for a, b in pairwise(boxes)]
    return unary_union(hulls)


TURNS = [mode for mode in NibMode if mode is not NibMode.KEYED]  # which needs its keys


@pytest.mark.parametrize("phi", [90, 60, 30, 10, 0])
def test_ribbon_is_as_wide_as_the_footprint_is_across(phi):
    _, track = swept_mm2(Stroke(line((0, 0), (60, 0)), Nib(NibMode.FOLLOWING, phi)))
    expected = 20 * math.sin(math.radians(phi)) + 2 * math.cos(math.radians(phi))
    assert track.ribbon_mm == pytest.approx(np.full(len(track.s_mm), expected), abs=1e-6)


@pytest.mark.parametrize("phi", [90, 60, 30, 10, 0, -45])
def test_straight_and_slanted_ribbons_against_closed_form_and_shapely(phi):
    area, track = swept_mm2(Stroke(line((0, 0), (60, 0)), Nib(NibMode.FIXED, phi)))
    across = 20 * abs(math.sin(math.radians(phi))) + 2 * abs(math.cos(math.radians(phi)))
    assert area == pytest.approx(60 * across + 20 * 2, rel=2e-3)  # ribbon, and one footprint for the ends
    assert area == pytest.approx(union_of_footprints(track).area, rel=2e-3)


def test_curved_ribbon_against_pappus_and_shapely():
    """Pappus: a chisel square to the path of its middle sweeps width times length."""
    area, track = swept_mm2(Stroke(ARC, Nib(NibMode.FOLLOWING, 90)))
    assert area == pytest.approx(20 * length_mm(ARC) + 20 * 2, rel=2e-3)
    assert area == pytest.approx(union_of_footprints(track).area, rel=2e-3)


@pytest.mark.parametrize("turn", [30, 90, 170])
def test_pivot_on_a_corner_against_pappus_and_shapely(turn):
    """Pappus: a chisel turning on corner A sweeps its width times the way of its middle, W / 2 times the angle."""
    area, track = swept_mm2(Stroke(SPOT, Nib(NibMode.PIVOTING, 0, turn, 0.0)))
    way = 10 * math.radians(turn)
    assert track.length_mm == pytest.approx(way, rel=1e-4)
    assert area == pytest.approx(union_of_footprints(track).area, rel=3e-3)
    assert area == pytest.approx(20 * way + 20 * 2, rel=0.01)  # but for the corners round the pivot
    assert track.travel_mm[-1, -1] == pytest.approx(20 * (1 - 0.5 / 64) * math.radians(turn), rel=1e-4)
    assert track.travel_mm[-1, 0] < 0.5  # the heel hardly moves


def test_wiggle_waves_and_keeps_the_length_of_the_guide():
    stroke = Stroke(line((0, 0), (60, 0)), Nib(NibMode.FOLLOWING, 90), wiggle=Wiggle(3, 4.0))
    _, track = swept_mm2(stroke)
    assert track.length_mm == pytest.approx(60)
    assert np.ptp(track.centre[:, 1]) == pytest.approx(4.0, rel=1e-3)
    crossings = np.count_nonzero(np.diff(np.sign(track.centre[1:-1, 1])))
    assert crossings == 5  # three waves, without both ends


def test_own_travel_is_the_length_of_each_bins_line():
    _, track = swept_mm2(Stroke(ARC, Nib(NibMode.FOLLOWING, 90)))
    for u, travelled in ((0, track.travel_mm[-1, 0]), (63, track.travel_mm[-1, 63])):
        way = track.points(np.arange(len(track.s_mm)), np.array([(u + 0.5) / 64]))[:, 0]
        assert LineString(way).length == pytest.approx(travelled, rel=1e-9)
    assert track.travel_mm[-1, 0] > track.travel_mm[-1, 63]  # A runs outside on this arc


@settings(max_examples=25)
@given(
    st.lists(st.tuples(st.floats(-60, 60), st.floats(-60, 60)), min_size=4, max_size=4),
    st.sampled_from(TURNS),
    st.floats(-180, 180),
)
def test_any_path_sweeps_what_shapely_says(points, mode, angle):
    area, track = swept_mm2(Stroke(CubicPath(tuple(points)), Nib(mode, angle, angle + 70, 0.3)), 4.0)
    assert area == pytest.approx(union_of_footprints(track).area, rel=0.02, abs=2.0)


def test_step_bounds_every_bin():
    track = follow(Stroke(ARC, Nib(NibMode.FOLLOWING, 90)), BRUSH, GradientAxis.ACROSS, 0.5)
    assert np.diff(track.travel_mm, axis=0).max() < 0.55


def test_huge_pictures_are_refused():
    track = follow(Stroke(line((0, 0), (4000, 3000))), BRUSH, GradientAxis.ACROSS, 0.5)
    with pytest.raises(CanvasTooLargeError, match="fewer pixels per mm"):
        canvas_for(track, 20.0)


@pytest.mark.parametrize(
    "make",
    [
        lambda: Nib(angle_deg=float("nan")),
        lambda: Nib(pivot_u=1.5),
        lambda: Wiggle(-1, 2),
        lambda: Stroke(ARC, pressure=0),
        lambda: Stroke(ARC, reload_mm=(20.0, 10.0)),
    ],
)
def test_impossible_strokes_are_refused(make):
    with pytest.raises(OutOfRangeError):
        make()
