"""Arc lengths and points against SciPy's quadrature and closed forms."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from pennello.errors import OutOfRangeError
from pennello.path.cubic import (
    CubicPath,
    PathShapeError,
    direction,
    length_mm,
    line,
    parameter_at,
    position,
    rough_parameter_at,
    trimmed,
)

coordinate = st.floats(-100, 100)
points = st.tuples(coordinate, coordinate)
paths = st.lists(points, min_size=4, max_size=4).map(lambda four: CubicPath(tuple(four)))


def speed(path, t):
    p = np.array(path.points_mm)
    v = 3 * ((1 - t) ** 2 * (p[1] - p[0]) + 2 * (1 - t) * t * (p[2] - p[1]) + t**2 * (p[3] - p[2]))
    return float(np.hypot(*v))


@given(paths)
def test_length_agrees_with_quadrature(path):
    expected = quad(lambda t: speed(path, t), 0, 1, limit=200)[0]
    assert length_mm(path) == pytest.approx(expected, rel=2e-4, abs=1e-3)  # cusps are the worst


@pytest.mark.parametrize("control", [((0, 0), (-2, -30), (42, -30), (40, 0)), ((0, 0), (35, -62), (75, 40), (120, -8))])
def test_length_of_strokes_agrees_closely(control):
    path = CubicPath(control)
    assert length_mm(path) == pytest.approx(quad(lambda t: speed(path, t), 0, 1)[0], abs=1e-9)


def test_quarter_circle():
    # the usual cubic quarter circle is within 0.03 % of pi / 2 r
    k = 0.5522847498 * 10
    path = CubicPath(((10, 0), (10, k), (k, 10), (0, 10)))
    assert length_mm(path) == pytest.approx(np.pi / 2 * 10, rel=3e-4)


@given(paths, st.floats(0, 1))
def test_place_at_a_length_has_that_length_behind_it(path, share):
    s = share * length_mm(path)
    assert length_mm(trimmed(path, s)) == pytest.approx(s, abs=2e-2 + 2e-3 * s)


def test_even_steps_are_even():
    path = CubicPath(((0, 0), (0, -40), (60, -40), (60, 0), (60, 40), (120, 40), (120, 0)))
    s = np.linspace(0, length_mm(path), 301)
    at = position(path, parameter_at(path, s))
    steps = np.linalg.norm(np.diff(at, axis=0), axis=1)
    assert steps == pytest.approx(np.full(300, s[1]), rel=2e-3)


def test_ends_line_and_direction():
    path = line((1, 2), (4, 6))
    assert length_mm(path) == pytest.approx(5)
    assert position(path, np.array([0.0, 1.0])).tolist() == [[1, 2], [4, 6]]
    assert direction(path, np.array([0.5]))[0] == pytest.approx([0.6, 0.8])


def test_standing_still_points_on():
    path = CubicPath(((0, 0), (0, 0), (10, 10), (10, 10)))
    assert direction(path, np.array([0.0, 1.0])) == pytest.approx(np.full((2, 2), np.sqrt(0.5)), abs=1e-3)
    spot = CubicPath(((3, 3),) * 4)
    assert length_mm(spot) == 0
    assert direction(spot, np.array([0.5])).tolist() == [[1, 0]]
    assert np.isfinite(position(spot, parameter_at(spot, np.array([0.0, 5.0])))).all()


@pytest.mark.parametrize("count", [0, 1, 3, 5, 6])
def test_wrong_number_of_points(count):
    with pytest.raises(PathShapeError, match="4, 7, 10"):
        CubicPath(((0.0, 0.0),) * count)


@pytest.mark.parametrize("bad", [float("nan"), float("inf"), 1e6])
def test_far_away_points_are_refused(bad):
    with pytest.raises(OutOfRangeError):
        line((0, 0), (bad, 0))


@given(paths, st.floats(0, 1))
def test_a_rough_place_is_within_one_of_32_pieces(path, part):
    s_mm = np.array([part * length_mm(path)])
    assert abs(rough_parameter_at(path, s_mm) - parameter_at(path, s_mm)) <= 1 / 32 + 1e-9
