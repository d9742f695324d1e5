"""Colours in the light of a place, against colour-science 0.4 (CIE 015:2018, CIE 248:2022, Zhai and Luo 2018)."""

import numpy as np
import pytest
from colour.adaptation import chromatic_adaptation_Zhai2018

import colour
from make_bands import training_films
from pennello.colour.basis import FULL, full_basis, small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.lights import (
    CAT16,
    Light,
    adaptation,
    daylight_phase,
    power,
    seen_bytes,
    seen_weights,
)
from pennello.colour.observer import MATCHING, WAVELENGTH_NM, WEIGHTS, WHITE_XYZ, XYZ_TO_RGB

SHAPE = colour.SpectralShape(380, 730, 10)
OTHERS = [one for one in Light if one is not Light.DAYLIGHT]


def spectra():
    """Return the 24 patches of the ColorChecker N Ohta (1997) as colour-science carries them, shape (24, 36)."""
    patches = colour.SDS_COLOURCHECKERS["ColorChecker N Ohta"].values()
    return np.array([one.copy().align(SHAPE).values for one in patches])


def light_of(light):
    """Return the light as colour-science has it."""
    if light is Light.DUSK:
        xy = colour.temperature.CCT_to_xy_CIE_D(10_000)
        return colour.sd_CIE_illuminant_D_series(xy, M1_M2_rounding=False).align(SHAPE)
    return colour.SDS_ILLUMINANTS["A" if light is Light.LANTERN else "LED-B1"].copy().align(SHAPE)


@pytest.mark.parametrize("light", OTHERS)
def test_lights_are_those_of_the_cie(light):
    ours, theirs = power(light), light_of(light).values
    assert ours / ours.max() == pytest.approx(theirs / theirs.max(), abs=2e-4)


def test_a_phase_of_daylight_near_noon_too():
    theirs = colour.sd_CIE_illuminant_D_series(colour.temperature.CCT_to_xy_CIE_D(5500), M1_M2_rounding=False)
    ours = daylight_phase(5500)
    assert ours / ours[18] == pytest.approx(theirs.align(SHAPE).values / theirs[560], abs=2e-4)


def test_the_matrix_is_that_of_ciecam16():
    assert pytest.approx(colour.CHROMATIC_ADAPTATION_TRANSFORMS["CAT16"], abs=1e-6) == CAT16


@pytest.mark.parametrize(("luminance", "surround"), [(4.0, 0.9), (1.5, 0.9), (15.0, 1.0), (318.31, 1.0)])
def test_the_degree_of_adaptation_is_that_of_ciecam16(luminance, surround):
    from colour.appearance.ciecam02 import degree_of_adaptation

    assert adaptation(luminance, surround) == pytest.approx(float(degree_of_adaptation(surround, luminance)), abs=1e-9)


@pytest.mark.parametrize("light", OTHERS)
def test_patches_are_seen_as_zhai_and_luo_have_it(light):
    """One step from the light of the place to daylight, with the degree of adaptation that the light brings."""
    from pennello.colour.lights import _ADAPTING

    found = spectra() @ seen_weights(light)
    cmfs = MATCHING * power(light)[:, None] / (MATCHING[:, 1] @ power(light))
    xyz, white = spectra() @ cmfs, cmfs.sum(axis=0)
    degree = adaptation(*_ADAPTING[light])
    theirs = chromatic_adaptation_Zhai2018(
        xyz * 100, white * 100, WHITE_XYZ * 100, D_b=degree, D_d=1.0, XYZ_wo=WHITE_XYZ * 100, transform="CAT16"
    )
    brighter = np.sum(found[:, 1]) / np.sum(theirs[:, 1] / 100)
    assert found == pytest.approx(theirs / 100 * brighter, rel=1e-6)


@pytest.mark.parametrize("light", OTHERS)
def test_xyz_in_a_light_is_that_of_colour_science(light):
    weights = MATCHING * power(light)[:, None]
    ours = spectra() @ (weights / weights[:, 1].sum())
    cmfs = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(SHAPE)
    theirs = [
        colour.colorimetry.sd_to_XYZ_integration(
            colour.SpectralDistribution(dict(zip(WAVELENGTH_NM, one, strict=True))), cmfs, light_of(light), shape=SHAPE
        )
        for one in spectra()
    ]
    assert ours * 100 == pytest.approx(np.array(theirs), abs=0.02)


def test_by_daylight_nothing_changes():
    assert seen_weights(Light.DAYLIGHT) is WEIGHTS
    assert full_basis(Light.DAYLIGHT) is FULL
    assert seen_bytes(12, 200, 90, Light.DAYLIGHT) == (12, 200, 90)
    d65 = colour.SDS_ILLUMINANTS["D65"].copy().align(SHAPE).values
    assert power(Light.DAYLIGHT) / power(Light.DAYLIGHT)[18] == pytest.approx(d65 / d65[18], rel=1e-6)


@pytest.mark.parametrize("light", OTHERS)
def test_white_is_as_bright_as_a_screen_shows_it_and_has_the_cast_of_the_light(light):
    red, green, blue = seen_weights(light).sum(axis=0) @ XYZ_TO_RGB.T
    assert max(red, green, blue) == pytest.approx(1.0)
    assert (blue > red) if light is Light.DUSK else (red > green > blue)
    assert min(red, green, blue) > 0.6, "an eye gets used to most of it"
    shown = seen_bytes(255, 255, 255, light)
    assert shown == pytest.approx(full_basis(light).srgb(np.ones(36)) * 255, abs=3)


@pytest.mark.parametrize("light", OTHERS)
def test_eight_bands_are_enough_in_any_light(light):
    """Films of paint over skin that the bands were not fitted to: a third of what can be told side by side."""
    films = training_films(600, seed=5)
    small = small_basis(8, light)
    assert (small.index == small_basis(8).index).all(), "what is laid once is seen in every light"
    assert small.weights.sum(axis=0) == pytest.approx(seen_weights(light).sum(axis=0))
    error = ciede2000(full_basis(light).lab(films), small.lab(small.pick(films)))
    assert float(np.percentile(error, 95)) < 0.35
    assert float(error.mean()) < 0.1


def test_two_reds_that_are_one_by_daylight_part_by_lantern():
    """Metamers: spectra that differ by what daylight does not tell are told apart in another light."""
    one, lantern = spectra()[14], full_basis(Light.LANTERN)
    blind = np.linalg.svd(WEIGHTS.T)[2][3:]  # changes that daylight does not show
    change = blind.T @ (blind @ lantern.weights[:, 0])
    other = one + 0.2 * change / np.abs(change).max()
    assert ciede2000(FULL.lab(one[None]), FULL.lab(other[None]))[0] < 1e-6
    assert ciede2000(lantern.lab(one[None]), lantern.lab(other[None]))[0] > 3
