"""XYZ, L*a*b* and sRGB against colour-science, which carries the CIE tables (CIE 015) and IEC 61966-2-1."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

import colour
from pennello.colour.basis import FULL, small_basis
from pennello.colour.lab import hex_to_lab, lab_to_hex, lab_to_xyz, xyz_to_lab
from pennello.colour.observer import RGB_TO_XYZ, WAVELENGTH_NM, WHITE_XYZ, rgb_to_xyz, xyz_to_rgb
from pennello.colour.srgb import ColourTextError, decode, encode, format_hex, parse_hex


def test_white_is_exactly_white():
    assert FULL.xyz(np.ones(36)) == pytest.approx(WHITE_XYZ, abs=1e-15)
    assert FULL.srgb(np.ones(36)) == pytest.approx([1, 1, 1], abs=1e-12)
    assert FULL.lab(np.ones(36)) == pytest.approx([100, 0, 0], abs=1e-9)


def test_white_and_matrix_are_those_of_the_standard():
    # IEC 61966-2-1: D65 white x = 0.3127, y = 0.3290; 10 nm sums move it a little
    assert pytest.approx([0.9505, 1.0, 1.0890], abs=1e-3) == WHITE_XYZ
    assert pytest.approx(colour.RGB_COLOURSPACES["sRGB"].matrix_RGB_to_XYZ, abs=1e-3) == RGB_TO_XYZ


def test_tables_are_the_cie_tables():
    # CIE 018 / CIE 015: y-bar is 0.995 at 550 and 560 nm, 1.0 between; weights come from them and D65
    shape = colour.SpectralShape(380, 730, 10)
    cmfs = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(shape)
    light = colour.SDS_ILLUMINANTS["D65"].copy().align(shape)
    sample = colour.SDS_COLOURCHECKERS["BabelColor Average"]["dark skin"].copy().align(shape)
    ours = FULL.xyz(sample.values)
    theirs = colour.sd_to_XYZ(sample, cmfs, light, method="Integration") / 100
    assert ours == pytest.approx(theirs, abs=2e-4)
    assert shape.wavelengths.tolist() == WAVELENGTH_NM.tolist()


def test_lab_agrees_with_colour_science():
    xyz = np.random.default_rng(1).random((500, 3))
    white = colour.XYZ_to_xy(WHITE_XYZ)
    assert xyz_to_lab(xyz) == pytest.approx(colour.XYZ_to_Lab(xyz, white), abs=1e-9)


@pytest.mark.parametrize("code", ["#808080", "#c8102e", "#0050ff", "#f7c81e"])
def test_lab_of_hex_agrees_with_the_standard_matrix(code):
    theirs = colour.XYZ_to_Lab(
        colour.sRGB_to_XYZ(parse_hex(code)), colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
    )
    assert float(colour.delta_E(hex_to_lab(code), theirs, method="CIE 2000")) < 0.05


def test_display_curve_agrees_with_colour_science():
    values = np.linspace(0, 1, 1001)
    assert encode(values) == pytest.approx(colour.models.eotf_inverse_sRGB(values), abs=1e-9)
    assert decode(values) == pytest.approx(colour.models.eotf_sRGB(values), abs=1e-9)
    assert encode(np.float32([0.5])).dtype == np.float32
    assert encode([-1, 2]).tolist() == pytest.approx([0, 1])


@given(st.lists(st.floats(0, 1), min_size=3, max_size=3))
def test_ways_there_and_back(rgb):
    assert decode(encode(rgb)) == pytest.approx(rgb, abs=1e-6)
    xyz = rgb_to_xyz(np.array(rgb))
    assert xyz_to_rgb(xyz) == pytest.approx(rgb, abs=1e-12)
    assert lab_to_xyz(xyz_to_lab(xyz)) == pytest.approx(xyz, abs=1e-12)


@given(st.integers(0, 0xFFFFFF))
def test_hex_there_and_back(number):
    code = f"#{number:06x}"
    assert format_hex(parse_hex(code)) == code
    assert lab_to_hex(hex_to_lab(code)) == code


@pytest.mark.parametrize("text", ["", "#12", "#gggggg", "#1234567", "red", "##12345", "#12345\n"])
def test_bad_hex_is_one_sentence(text):
    with pytest.raises(ColourTextError, match="six hexadecimal digits"):
        parse_hex(text)


@pytest.mark.parametrize("bands", [8, 10])
def test_small_sets_hold_the_white(bands):
    basis = small_basis(bands)
    assert len(basis.index) == bands
    assert basis.weights.sum(axis=0) == pytest.approx(WHITE_XYZ, abs=1e-10)
