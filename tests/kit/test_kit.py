"""Units, paints, cakes, brushes and the shipped catalogue."""

import itertools
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.colour.basis import small_basis
from pennello.colour.kubelka_munk import film, hiding_reflectance, mix
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.cake import Cake, Stripe
from pennello.kit.contact import contact, contact_width_mm
from pennello.kit.paint import Finish, Paint, masstones, optics
from pennello.kit.stripes import with_boundary
from pennello.lay.channels import fall, scattering_parts
from pennello.units import MM_PER_INCH, LengthUnit, brush_size_text, from_mm, length_text, to_mm


def test_an_inch_is_exactly_25_4_mm():
    # international yard and pound agreement, 1959
    assert MM_PER_INCH == 25.4
    assert to_mm(0.75, LengthUnit.INCH) == pytest.approx(19.05, abs=1e-12)


@given(st.floats(-1e4, 1e4), st.sampled_from(LengthUnit))
def test_units_there_and_back(length, unit):
    assert to_mm(from_mm(length, unit), unit) == pytest.approx(length, abs=1e-9)


@pytest.mark.parametrize(
    ("length", "unit", "words"),
    [(-0.01, "mm", "0 mm"), (12.25, "mm", "12.2 mm"), (12.7, "in", "0.5 in"), (100, "mm", "100 mm")],
)
def test_lengths_in_words(length, unit, words):
    assert length_text(length, LengthUnit(unit)) == words


@pytest.mark.parametrize(("mm", "words"), [(12.7, "1/2 in"), (25.4, "1 in"), (38.1, "1 1/2 in"), (0.5, "0.5 mm")])
def test_brush_sizes_in_words(mm, words):
    assert brush_size_text(mm) == words


def test_catalogue_is_as_large_as_promised():
    paints, cakes, brushes = catalogue.paints(), catalogue.cakes(), catalogue.brushes()
    assert len(paints) >= 24
    assert sum(paint.finish is Finish.METALLIC for paint in paints.values()) >= 2
    neons = [paint for paint in paints.values() if paint.finish is Finish.NEON]
    assert len(neons) >= 2
    assert not any(paint.eye_area or paint.lips for paint in neons)
    assert len(cakes) >= 10
    assert all(name in paints for cake in cakes.values() for name in cake.paints)
    kinds = {kind: sorted(b.width_mm for b in brushes.values() if b.kind is kind) for kind in ApplicatorKind}
    assert all(kinds.values())
    # common practice, no published source: 1/2, 3/4, 1 inch flats; 1/2, 5/8, 3/4 angles; rounds 2 to 5; three daubers
    assert kinds[ApplicatorKind.FLAT] == [12.7, 19.05, 25.4]
    assert kinds[ApplicatorKind.ANGLE] == [12.7, 15.875, 19.05]
    assert len(kinds[ApplicatorKind.ROUND]) == 4
    assert len(kinds[ApplicatorKind.DAUBER]) == 3
    leaf, petal = kinds[ApplicatorKind.PETAL_BRUSH]
    assert leaf < petal / 2 < 1.3 * leaf  # a leaf brush is a little under half of the petal brush's width
    assert all(20 <= cake.width_mm <= 60 for cake in cakes.values())  # common practice, no published source


def test_optics_give_the_masstone_back():
    paints = tuple(catalogue.paints().values())
    constants = optics(paints)
    assert hiding_reflectance(constants.k, constants.s) == pytest.approx(masstones(paints), abs=1e-9)
    assert (constants.s > 0).all()
    assert optics(paints) is constants  # worked out once


def test_a_finish_says_what_is_not_predicted():
    assert Finish.MATTE.note == ""
    assert "only the diffuse part" in Finish.METALLIC.note
    assert "glow" in Finish.NEON.note


@pytest.mark.parametrize("bad", [{"contrast": 1.2}, {"tint": 0}, {"srgb": "red"}, {"contrast_film_um": np.nan}])
def test_impossible_paints_are_refused(bad):
    with pytest.raises(PennelloError):
        Paint(**({"id": "x", "name": "X", "srgb": "#112233"} | bad))


@pytest.mark.parametrize("stripes", [1, 8, 10_000])
def test_cakes_have_2_to_7_stripes(stripes):
    with pytest.raises(OutOfRangeError, match="2 to 7"):
        Cake("x", "X", (Stripe("a", 5.0),) * stripes)


@pytest.mark.parametrize("width", [-1, 0, np.nan, np.inf, 1e9])
def test_impossible_stripes_and_brushes_are_refused(width):
    with pytest.raises(OutOfRangeError):
        Stripe("a", width)
    with pytest.raises(OutOfRangeError):
        Applicator("x", "X", width)


@given(st.floats(-50, 80))
def test_a_boundary_moves_between_its_neighbours(at):
    cake = Cake("x", "X", (Stripe("a", 5.0), Stripe("b", 8.0), Stripe("c", 9.0)))
    moved = with_boundary(cake, 1, at)
    assert moved.width_mm == pytest.approx(cake.width_mm)
    assert min(stripe.width_mm for stripe in moved.stripes) >= 1.0 - 1e-9
    assert moved.edges_mm[2] == pytest.approx(13)
    if 1 <= at <= 12:
        assert moved.edges_mm[1] == pytest.approx(at)


def test_pressure_is_nominal_in_the_middle():
    for brush in catalogue.brushes().values():
        middle = contact(brush, GradientAxis.ACROSS, np.array([0.5]))
        assert middle.edge_mm == pytest.approx(brush.width_mm)
        assert middle.thickness_mm == pytest.approx(brush.thickness_mm)
        assert middle.release_rate == 1
        widths = [contact_width_mm(brush, pressure) for pressure in (0.05, 0.2, 0.5, 1)]
        assert widths == sorted(widths)
        assert widths[0] < widths[-1]


def test_unknown_names_list_what_there_is():
    with pytest.raises(UnknownNameError, match="there is: a, b"):
        raise UnknownNameError("paint", "z", ["a", "b"])
    with pytest.raises(UnknownNameError, match="there is: ear, left; ear, right; nose"):
        raise UnknownNameError("landmark", "z", ["ear, left", "ear, right", "nose"])


PAIRS = list(itertools.combinations(sorted(catalogue.paints()), 2))


@pytest.mark.parametrize("skin", [0.05, 0.45])
def test_two_wet_coats_are_one_mixed_coat_for_every_pair_of_shipped_paints(skin):
    """K and S add up by volume alone (Duncan 1940): whatever the parts, to 1e-9."""
    known = catalogue.paints()
    for one, other in PAIRS:
        constants = optics((known[one], known[other]))
        for first_um, second_um in ((15.0, 15.0), (5.0, 25.0)):
            depth_k = constants.k[0] * first_um + constants.k[1] * second_um
            depth_s = constants.s[0] * first_um + constants.s[1] * second_um
            k, s = mix([first_um, second_um], constants.k, constants.s)
            whole = film(k * (first_um + second_um), s * (first_um + second_um), np.full(36, skin))
            assert film(depth_k, depth_s, np.full(36, skin)) == pytest.approx(whole, abs=1e-9)


def test_tint_is_the_strength_in_a_let_down_and_leaves_the_masstone():
    plain = Paint("x", "X", "#1a1817")
    strong = replace(plain, tint=2.0)
    one, other = (optics((paint,)) for paint in (plain, strong))
    assert other.k == pytest.approx(2 * one.k)
    assert other.s == pytest.approx(2 * one.s)
    assert float(one.s[0, 0]) == pytest.approx(0.02)
    assert float(one.k.mean()) == pytest.approx(1.05, abs=0.1)  # of a black, per um


def test_scattering_falls_with_the_wavelength_where_a_paint_says_so():
    white = optics((catalogue.paints()["foam-white"],))
    assert white.s[0, 0] / white.s[0, -1] == pytest.approx(730 / 380)
    for exponent in (0.0, 0.5, 1.0, 2.0):
        basis = small_basis(8)
        s = optics((Paint("x", "X", "#808080", scatter_exponent=exponent),)).at(basis).s
        even, falling = scattering_parts(s, basis)[0]
        assert even + falling * fall(basis) == pytest.approx(s[0], rel=0.06 if exponent == 2 else 0.03)
    with pytest.raises(OutOfRangeError):
        Paint("x", "X", "#808080", scatter_exponent=3)
