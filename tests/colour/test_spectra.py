"""Recovery, films and mixtures against closed forms, measured chart colours and a second solver."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays
from scipy.integrate import solve_ivp

import colour
from pennello.colour import kubelka_munk as km
from pennello.colour.basis import FULL, small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.lab import xyz_to_lab
from pennello.colour.observer import WEIGHTS, rgb_to_xyz, xyz_to_rgb
from pennello.colour.recover import LINEAR_RANGE, RecoveryError, reflectance_from_srgb
from pennello.colour.skin import ITA_STEPS, ita_class, ita_deg, skin_lab, skin_reflectance
from pennello.colour.srgb import decode, parse_hex
from pennello.errors import OutOfRangeError

depth = st.floats(0, 40)
share = st.floats(0, 1)


def grid(steps):
    axis = np.linspace(0, 1, steps)
    return np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), axis=-1).reshape(-1, 3)


# --- recovery: Burns 2020 ---


def test_round_trip_on_the_whole_grid():
    display = grid(12)
    found = reflectance_from_srgb(display)
    wanted = xyz_to_lab(rgb_to_xyz(np.clip(decode(display), *LINEAR_RANGE)))
    assert ciede2000(FULL.lab(found), wanted).max() < 1e-6
    assert found.min() > 0
    assert found.max() < 1


def test_grey_is_flat_and_nothing_is_smoother():
    assert np.ptp(reflectance_from_srgb([0.5, 0.5, 0.5])) < 1e-9
    found = np.arctanh(2 * reflectance_from_srgb(parse_hex("#c8702e")) - 1)
    rng = np.random.default_rng(3)
    response = WEIGHTS * (1 - np.tanh(found) ** 2)[:, None]  # first-order effect of a change of z on XYZ
    for _ in range(50):
        change = rng.normal(size=36)
        change -= response @ np.linalg.lstsq(response, change, rcond=None)[0]
        for step in (1e-3, -1e-3):
            assert (np.diff(found + step * change) ** 2).sum() >= (np.diff(found) ** 2).sum() - 1e-9


def test_measured_chart_colours_are_met_within_what_the_model_claims():
    # BabelColor averages of the 24-patch chart, shipped with colour-science
    shape = colour.SpectralShape(380, 730, 10)
    chart = colour.SDS_COLOURCHECKERS["BabelColor Average"]
    measured = np.array([sd.copy().align(shape).values for sd in chart.values()])
    rgb = xyz_to_rgb(measured @ WEIGHTS)
    inside = (rgb > 0.003).all(axis=1) & (rgb < 0.98).all(axis=1)
    display = FULL.srgb(measured)[inside]
    assert inside.sum() >= 20
    found = reflectance_from_srgb(display)
    assert ciede2000(FULL.lab(found), FULL.lab(measured[inside])).max() < 1e-5
    flat = np.repeat((measured[inside] @ WEIGHTS[:, 1])[:, None], 36, axis=1)
    error, guess = (np.sqrt(((one - measured[inside]) ** 2).mean()) for one in (found, flat))
    assert error < 0.5 * guess  # smooth, yet much nearer to real spectra than a grey of the same lightness


def test_shapes_and_failure():
    assert reflectance_from_srgb(np.zeros((2, 4, 3))).shape == (2, 4, 36)
    assert reflectance_from_srgb(np.zeros((0, 3))).shape == (0, 36)
    assert "linear RGB" in str(RecoveryError(np.array([0.1, 0.2, 0.3])))


# --- films: Kubelka & Munk 1931, Kubelka 1948 ---


@given(depth, share)
def test_no_scattering_is_beer(kx, below):
    assert km.film(np.float64(kx), np.float64(0), np.float64(below)) == pytest.approx(
        below * np.exp(-2 * kx), abs=1e-12
    )


@given(depth, share)
def test_no_absorption_is_the_stokes_film(sx, below):
    # Kubelka 1948 with K = 0: R = [Rg + SX (1 - Rg)] / [1 + SX (1 - Rg)]
    expected = (below + sx * (1 - below)) / (1 + sx * (1 - below))
    assert km.film(np.float64(0), np.float64(sx), np.float64(below)) == pytest.approx(expected, abs=1e-12)


@given(st.floats(0.001, 30), st.floats(0.05, 30), share)
def test_thick_film_hides(k, s, below):
    thick = 400 / np.sqrt(k * (k + 2 * s))
    closed = 1 + k / s - np.sqrt((k / s) ** 2 + 2 * k / s)
    assert km.film(np.float64(k * thick), np.float64(s * thick), np.float64(below)) == pytest.approx(closed, abs=1e-9)
    assert km.hiding_reflectance(k, s) == pytest.approx(closed, abs=1e-9)


@given(depth, depth, share, share)
def test_two_part_films_are_one(kx, sx, below, part):
    values = [np.float64(v) for v in (kx, sx, below)]
    under = km.film(part * values[0], part * values[1], values[2])
    both = km.film((1 - part) * values[0], (1 - part) * values[1], under)
    assert both == pytest.approx(float(km.film(*values)), abs=1e-12)


@pytest.mark.parametrize(("k", "s", "below"), [(0.4, 1.3, 0.2), (2.0, 0.1, 0.9), (0.01, 3.0, 0.05)])
def test_film_solves_the_differential_equation(k, s, below):
    """dR/dx = S - 2 (K + S) R + S R^2 from the substrate up (Kubelka & Munk 1931), by SciPy's integrator."""
    found = solve_ivp(lambda _, r: s - 2 * (k + s) * r + s * r * r, (0, 1.7), [below], rtol=1e-11, atol=1e-13)
    assert km.film(np.float64(1.7 * k), np.float64(1.7 * s), np.float64(below)) == pytest.approx(
        found.y[0, -1], abs=1e-9
    )


def test_film_never_overflows_and_keeps_precision():
    values = np.array([0, 1e-30, 1e-8, 1e3, 1e12])
    kx, sx, below = np.meshgrid(values, values, np.array([0, 0.5, 1]), indexing="ij")
    result = km.film(kx, sx, below)
    assert np.isfinite(result).all()
    assert result.min() >= 0
    assert result.max() <= 1
    assert km.film(*(np.float32([0.5]),) * 3).dtype == np.float32


def test_half_a_half_mixture_and_its_closed_form():
    k, s = np.array([[1.0, 4.0], [3.0, 0.0]]), np.array([[2.0, 2.0], [1.0, 0.5]])
    mixed = km.mix([1, 1], k, s)
    assert mixed[0].tolist() == [2, 2]
    assert mixed[1].tolist() == [1.5, 1.25]
    assert km.mix([3, 1], k, s)[0] == pytest.approx([1.5, 3])
    assert km.mix([0, 0], k, s)[0].tolist() == [0, 0]


@given(arrays(float, 3, elements=st.floats(0, 10)), st.floats(0.1, 9))
def test_mixing_knows_only_ratios(parts, factor):
    k = np.arange(6.0).reshape(3, 2)
    once, scaled = km.mix(parts, k, k), km.mix(parts * factor, k, k)
    assert scaled[0] == pytest.approx(once[0])


# --- contrast ratio: ISO 6504-3 with the convention written down in kubelka_munk ---


@pytest.mark.parametrize("code", ["#f6f5f0", "#c8161d", "#f7c81e", "#3f7d2c", "#1f4fa3"])
@pytest.mark.parametrize("ratio", [0.3, 0.7, 0.95])
def test_scattering_gives_the_contrast_back(code, ratio):
    hiding = reflectance_from_srgb(parse_hex(code))
    s = km.scattering(hiding, ratio, 18.0)
    if s > km.SCATTERING_FLOOR:
        assert km.contrast_ratio(s * km.k_over_s(hiding), s, 18.0) == pytest.approx(ratio, abs=1e-6)
    else:  # a floor never lowers the opacity
        assert km.contrast_ratio(s * km.k_over_s(hiding), s, 18.0) >= ratio


def test_contrast_of_a_film_by_hand():
    """A white that does not absorb: R over black is X / (1 + X), over 0.80 it is (0.8 + 0.2 X) / (1 + 0.2 X)."""
    x = 3.0
    by_hand = (x / (1 + x)) / ((0.8 + 0.2 * x) / (1 + 0.2 * x))
    assert km.contrast_ratio(np.zeros(36), np.full(1, x / 20), 20.0) == pytest.approx(by_hand, abs=1e-9)


def test_default_scattering_follows_lightness_and_has_a_floor():
    bright, dark = reflectance_from_srgb(np.array([[0.9] * 3, [0.4] * 3]))
    y = [float(r @ WEIGHTS[:, 1]) for r in (bright, dark)]
    ratio = km.default_scattering(bright) / km.default_scattering(dark)
    assert ratio == pytest.approx((y[0] / y[1]) ** 0.7)
    assert km.default_scattering(np.full(36, 1e-4)) == km.SCATTERING_OF_BLACK
    assert km.least_scattering(np.full(36, 0.2)) == km.SCATTERING_FLOOR


def test_scattering_may_fall_with_the_wavelength():
    """1 / wavelength for titanium whites; the contrast ratio is still given back."""
    assert km.falling(0.0).tolist() == [1.0] * 36
    assert km.falling(1.0)[[7, 17]] == pytest.approx([550 / 450, 1.0])
    hiding = reflectance_from_srgb(parse_hex("#f6f5f0"))
    s = km.scattering(hiding, 0.92, 20.0, 1.0) * km.falling(1.0)
    assert km.contrast_ratio(s * km.k_over_s(hiding), s, 20.0) == pytest.approx(0.92, abs=1e-6)


@pytest.mark.parametrize(("ratio", "film"), [(0, 20), (1, 20), (np.nan, 20), (0.5, 0), (0.5, np.inf)])
def test_impossible_contrast_is_refused(ratio, film):
    with pytest.raises(OutOfRangeError):
        km.scattering(np.full(36, 0.5), ratio, film)


# --- small band sets ---


@pytest.mark.parametrize(("bands", "mean", "most"), [(8, 0.05, 0.15), (10, 0.03, 0.10)])
def test_small_sets_on_films_that_the_fit_has_not_seen(bands, mean, most):
    rng = np.random.default_rng(2026)
    paints = reflectance_from_srgb(rng.random((200, 3)))
    skins = np.array([skin_reflectance(ita) for ita in rng.uniform(-60, 70, 20)])
    s = rng.uniform(0.01, 0.25, (200, 1))
    chosen, parts = rng.integers(200, size=(3000, 2)), rng.random((3000, 1, 1))
    parts = np.concatenate([parts, 1 - parts], axis=1)
    thick = rng.uniform(1, 40, (3000, 1))
    kx = ((s * km.k_over_s(paints))[chosen] * parts).sum(axis=1) * thick
    sx = (s[chosen] * parts).sum(axis=1) * thick
    films = km.film(kx, sx, skins[rng.integers(20, size=3000)])
    small = small_basis(bands)
    error = ciede2000(FULL.lab(films), small.lab(small.pick(films)))
    assert error.mean() <= mean
    assert np.percentile(error, 95) <= most


def test_small_set_on_measured_chart_colours():
    shape = colour.SpectralShape(380, 730, 10)
    chart = colour.SDS_COLOURCHECKERS["BabelColor Average"]
    measured = np.array([sd.copy().align(shape).values for sd in chart.values()])
    small = small_basis(8)
    assert ciede2000(FULL.lab(measured), small.lab(small.pick(measured))).mean() < 0.5


# --- skin: Chardon, Cretois & Hourseau 1991 ---


@pytest.mark.parametrize("ita", [*ITA_STEPS, -60, 70])
def test_skins_have_the_angle_that_they_say(ita):
    lab = FULL.lab(skin_reflectance(ita))
    assert ita_deg(lab) == pytest.approx(ita, abs=0.01)


@pytest.mark.parametrize(
    ("ita", "name"),
    [(56, "very light"), (55, "light"), (42, "light"), (30, "intermediate"), (20, "tan"), (0, "brown"), (-31, "dark")],
)
def test_published_classes(ita, name):
    assert ita_class(ita) == name


def test_at_least_ten_skins_from_light_to_dark():
    lightness = [skin_lab(ita)[0] for ita in ITA_STEPS]
    assert len(ITA_STEPS) >= 10
    assert lightness == sorted(lightness, reverse=True)
    with pytest.raises(OutOfRangeError):
        skin_lab(80)
