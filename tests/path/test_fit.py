"""Curves fitted to a hand's points, held against shapely's distances and curves that are known."""

import math
import random

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import LineString, distance
from shapely import points as to_points

from pennello.path.cubic import CubicPath, direction, length_mm, parameter_at, position
from pennello.path.fit import GrowingFit, fitted_path


def sampled(path, every_mm=0.5):
    far = np.linspace(0, length_mm(path), max(int(length_mm(path) / every_mm), 2))
    return position(path, parameter_at(path, far))


KNOWN = CubicPath(((0.0, 0.0), (4.0, -30.0), (44.0, -28.0), (40.0, 0.0)))


def test_a_single_curve_comes_back():
    found = fitted_path(sampled(KNOWN).tolist())
    assert found.curves <= 2
    apart = LineString(sampled(found, 0.1)).hausdorff_distance(LineString(sampled(KNOWN, 0.1)))
    assert apart < 0.25


@given(st.integers(0, 5000), st.sampled_from([0.1, 0.2, 0.4]))
@settings(max_examples=15, deadline=None)
def test_no_point_of_a_hand_lies_farther_off_than_is_told(seed, off_mm):
    """Wandering hands of all sorts: shapely measures how far each point lies from the path."""
    rng = random.Random(seed)
    turn, x, y, points = rng.uniform(0, 6.3), 0.0, 0.0, []
    for _ in range(rng.randrange(3, 120)):
        turn += rng.gauss(0, 0.25)
        x, y = x + rng.uniform(0.2, 3) * math.cos(turn), y + rng.uniform(0.2, 3) * math.sin(turn)
        points.append((x, y))
    path = fitted_path(points, off_mm)
    line = LineString(sampled(path, 0.05))
    assert distance(line, to_points(points)).max() < off_mm + 0.03
    assert path.points_mm[0] == pytest.approx(points[0], abs=1e-3)
    assert path.points_mm[-1] == pytest.approx(points[-1], abs=1e-3)
    assert path.curves <= len(points) - 1
    joints = np.arange(1, path.curves)
    before, after = direction(path, joints - 1e-4), direction(path, joints + 1e-4)
    assert (np.sum(before * after, axis=-1) > 0.97).all(), "no corner where two curves meet"


def test_a_swirl_takes_few_curves():
    points = [(20 * (1 - t / 60) * math.cos(t / 7), 20 * (1 - t / 60) * math.sin(t / 7)) for t in range(50)]
    assert fitted_path(points, 0.2).curves <= 6


@pytest.mark.parametrize(("wide_deg", "most"), [(30, 1), (60, 1), (80, 1), (170, 2)])
def test_a_bend_that_begins_and_ends_slowly_takes_few_curves(wide_deg, most):
    """One cubic is an eighth of a circle to 1e-5 of its radius, a quarter to 3e-4 (common knowledge of curves)."""
    eased = (1 - np.cos(np.linspace(0, np.pi, 90))) / 2 * math.radians(wide_deg)
    places = np.stack([60 * np.cos(eased), 60 * np.sin(eased)], axis=1)
    assert fitted_path((np.round(places * 8) / 8).tolist(), 0.3).curves <= most


def test_curves_that_could_be_one_are_one():
    """A slip of the hand in the middle parts the way twice; no two that follow each other are left to be joined."""
    ways = [(float(x), 0.9 * math.exp(-((x - 40) ** 2) / 4)) for x in range(81)]
    found = fitted_path(ways, 0.3)
    line = LineString(sampled(found, 0.1))
    assert distance(line, to_points(ways)).max() < 0.33
    assert found.curves <= 5


def test_a_tap_and_a_straight_pull_are_what_they_are():
    assert fitted_path([(3.0, 4.0)]).points_mm == ((3.0, 4.0),) * 4
    assert fitted_path([(3.0, 4.0)] * 5).points_mm == ((3.0, 4.0),) * 4
    straight = fitted_path([(float(x), 2.0 * x) for x in range(30)])
    assert straight.curves == 1
    assert length_mm(straight) == pytest.approx(29 * math.sqrt(5), rel=1e-6)
    back = fitted_path([(float(x), 0.0) for x in (*range(20), *range(20, -1, -1))])
    assert back.points_mm[-1] == (0.0, 0.0)


def spiral(count):
    turns = [0.12 * number for number in range(count)]
    return [((4 + 3 * turn) * math.cos(turn), (4 + 3 * turn) * math.sin(turn)) for turn in turns]


def test_a_way_that_grows_is_fitted_as_it_grows_and_moves_no_more_behind_the_hand():
    """Shapely measures how far each point lies off; curves that ended well behind the hand are the same ever after."""
    fit, points = GrowingFit(0.3), spiral(160)
    before: tuple[tuple[float, float], ...] = ()
    for count in range(2, len(points) + 1):
        path = fit.path(points[:count])
        line = LineString(sampled(path, 0.1))
        assert distance(line, to_points(points[:count])).max() < 0.35
        settled = before[: max(3 * (len(before) // 3 - 2), 0)]
        assert path.points_mm[: len(settled)] == settled
        before = path.points_mm
    assert 4 <= path.curves <= 2 * fitted_path(points, 0.3).curves


def test_a_growing_way_that_is_another_one_is_fitted_anew():
    fit = GrowingFit(0.3)
    fit.path(spiral(160))
    other = [(x + 5, y) for x, y in spiral(90)]
    assert fit.path(other) == GrowingFit(0.3).path(other)
    assert fit.path([(1.0, 1.0)]).points_mm == ((1.0, 1.0),) * 4
