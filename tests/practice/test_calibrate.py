"""Fits against the closed forms that they invert."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator
from pennello.lay.deposit import LEVELLING_MM
from pennello.load.gaussian import WIDTH_10_90
from pennello.practice.calibrate import (
    FULL_SHARE,
    PALE_SHARE,
    Blend,
    Filled,
    NothingSeenError,
    Petals,
    calibrated,
    fit_drift,
    fit_fill,
    fit_release,
)

BRUSH = Applicator("b", "B", 19.05)


@given(st.floats(1.0, 40))
def test_one_thing_seen_is_met_exactly(sweeps):
    """share = 1 - e^(-n / n0), solved for n0."""
    (fit,) = fit_fill(BRUSH, [Filled(sweeps)])
    assert fit.value == pytest.approx(-sweeps / math.log(1 - FULL_SHARE), rel=1e-5)
    assert fit.error == 0
    assert fit.before == BRUSH.fill_passes


@given(st.floats(1, 20), st.floats(10, 150))
def test_petals_give_release_and_capacity(count, length):
    release, capacity = fit_release(BRUSH, [Petals(count, length)])
    expected = min(max(-count * length / math.log(PALE_SHARE), 5), 10000)
    assert release.value == pytest.approx(expected, rel=1e-4)
    assert capacity.value / release.value == pytest.approx(BRUSH.capacity_mm3_per_mm / BRUSH.release_mm, rel=1e-6)


@pytest.mark.parametrize("drift", [0.4, 0.8, 1.7])
def test_blends_give_the_drift(drift):
    width = WIDTH_10_90 * math.sqrt(drift**2 + 0.5**2 + LEVELLING_MM**2)
    fit = fit_drift(BRUSH, [Blend(width, 0.5)])[0]
    assert fit.value == pytest.approx(drift, rel=1e-4)
    fits = fit_drift(BRUSH, [Blend(width * by, 0.5) for by in (0.95, 1.0, 1.05)])
    assert fits[0].value == pytest.approx(drift, rel=0.05)
    assert fits[0].error > 0


def test_what_is_fitted_is_marked_as_the_painters_own():
    brush = calibrated(BRUSH, [*fit_fill(BRUSH, [Filled(9)]), *fit_release(BRUSH, [Petals(3, 60)])])
    assert brush.own == ("fill_passes", "release_mm")  # petals of a load do not tell the capacity
    assert brush.fill_passes == pytest.approx(9 / math.log(20), rel=1e-3)


def test_nothing_seen_and_impossible_things():
    for fit in (fit_fill, fit_release, fit_drift):
        with pytest.raises(NothingSeenError):
            fit(BRUSH, [])
    for bad in (lambda: Filled(0), lambda: Petals(1, 1), lambda: Blend(math.nan)):
        with pytest.raises(OutOfRangeError):
            bad()
