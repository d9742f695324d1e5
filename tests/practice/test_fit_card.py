"""A painted card is fitted: simulated painters of a wider law are predicted far better afterwards."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.practice.kit import BRUSH, CAKE, PAINTS, painter, recipe

from pennello.colour.basis import FULL
from pennello.colour.kubelka_munk import hiding_reflectance
from pennello.colour.observer import xyz_to_rgb
from pennello.files.demo import demo_plan
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.contact import BINS
from pennello.kit.paint import optics
from pennello.load.edge import load
from pennello.practice.card import CardFitError, FieldKind, card_for
from pennello.practice.fit_card import PLACES, FitProblemError, SeenStroke, fit_card, paired
from pennello.practice.own_paint import Bend, bent_optics, bent_paint
from pennello.practice.read_card import read_card, stations_of, with_passes
from pennello.practice.simulated import HandSlips
from pennello.practice.strip import seen, strip_um
from truth import case_of, missed

CARD = card_for(BRUSH, PAINTS)
CAKES = {"cake": CAKE}


def strokes_of(brush, paints):
    """What the program's own law shows of a card, without a hand and without a camera."""
    made = optics(paints)
    for field in CARD.of(FieldKind.STROKE):
        s_mm = stations_of(field)
        own = with_passes(recipe(), field.passes)
        own = replace(own, pickups=tuple(replace(one, drift_mm=brush.drift_mm) for one in own.pickups))
        um = paired(strip_um(load(own, CAKES, brush), brush, s_mm, field.pressure))
        ground = CARD.ground(field.x + s_mm, np.full(len(s_mm), field.y + 1))
        shown = seen(um, made.k, made.s, np.repeat(ground[:, None], 36, axis=1))
        yield SeenStroke(with_passes(recipe(), field.passes), field.pressure, s_mm, xyz_to_rgb(FULL.xyz(shown)), ground)


def test_own_constants_come_back():
    """Closed loop: with the law itself and no noise the fit finds what was put in, and says that it did."""
    true = replace(BRUSH, release_mm=105.0, drift_mm=1.3)
    fit = fit_card(BRUSH, CAKES, PAINTS, tuple(strokes_of(true, PAINTS)))
    assert fit.brush.release_mm == pytest.approx(105, rel=0.08)
    assert fit.brush.drift_mm == pytest.approx(1.3, rel=0.08)
    assert {"release_mm", "drift_mm"} <= set(fit.brush.own)
    assert fit.after_de00 < 0.4 < fit.before_de00


def test_nothing_new_is_nothing_learnt():
    fit = fit_card(BRUSH, CAKES, PAINTS, tuple(strokes_of(BRUSH, PAINTS)))
    assert fit.after_de00 == pytest.approx(fit.before_de00, abs=0.02)
    for one in fit.learnt:
        assert one.value == pytest.approx(one.before, rel=0.02, abs=0.02)


@pytest.mark.slow
@pytest.mark.parametrize("seed", [4])
def test_painters_of_a_wider_law_are_predicted(seed):
    """Asked on average of 30: defaults miss by 5.0 to 6.8 dE00, one card brings 2.2; `make truth` has them all."""
    found = missed(case_of(demo_plan(), seed))
    assert found.defaults > 3.0
    assert found.card <= 2.2
    assert found.card < 0.5 * found.defaults
    assert found.tries <= 2.0


@pytest.mark.slow
def test_a_field_left_empty_is_left_out_and_an_empty_card_is_said():
    one = painter(3)
    bare = replace(CARD, fields=CARD.fields[:2])
    picture, marks = one.card_photo(bare, recipe())
    strokes, dabs = read_card(picture, marks, CARD, BRUSH, recipe(), PAINTS)
    assert len(strokes) == 2
    assert [dab.parts[0][0] for dab in dabs] == ["white"], "unpainted paper is as good as white"
    picture, marks = one.card_photo(replace(CARD, fields=()), recipe())
    with pytest.raises(FitProblemError, match="No stroke"):
        read_card(picture, marks, CARD, BRUSH, recipe(), PAINTS)
    with pytest.raises(FitProblemError):
        fit_card(BRUSH, CAKES, PAINTS, ())


def test_what_fits_no_card_is_said():
    with pytest.raises(CardFitError, match="flat"):
        card_for(replace(BRUSH, kind=ApplicatorKind.FILBERT), PAINTS)
    with pytest.raises(CardFitError, match="25"):
        card_for(Applicator("wide", "Wide", 38.1), PAINTS)
    with pytest.raises(CardFitError, match="1 to 7"):
        card_for(BRUSH, ())


def test_fields_lie_apart_and_within_the_card():
    boxes = [(one.x, one.y, one.x + one.width, one.y + one.height) for one in card_for(BRUSH, PAINTS).fields]
    for number, (left, top, right, bottom) in enumerate(boxes):
        assert left >= 0
        assert top >= 0
        assert right <= 148
        assert bottom <= 105
        for other in boxes[number + 1 :]:
            apart = right <= other[0] or other[2] <= left or bottom <= other[1] + 1e-9 or other[3] <= top + 1e-9
            assert apart, (boxes[number], other)


@settings(max_examples=25, deadline=None)
@given(
    st.sampled_from(PAINTS),
    st.floats(-1, 1),
    st.floats(-0.3, 0.6),
    st.lists(st.floats(-0.4, 0.4), min_size=5, max_size=5),
)
def test_a_bent_paint_has_the_optics_that_were_meant(paint, tint, slope, lobes):
    """All of it is said in a paint's own fields, as far as their ranges reach."""
    bend = Bend(tint, slope if paint.scatter_exponent + slope >= 0 else 0.0, tuple(lobes))
    made = optics((paint,))
    k, s = bent_optics(made.k[0], made.s[0], bend)
    found = optics((bent_paint(paint, bend),))
    assert found.s[0] == pytest.approx(s, rel=0.02)
    inside = (hiding_reflectance(k, s) > 0.003) & (hiding_reflectance(k, s) < 0.98)
    assert found.k[0][inside] == pytest.approx(k[inside], rel=0.03)


def test_a_painter_of_a_seed_is_the_same_painter():
    one, other, third = painter(5), painter(5), painter(6)
    assert one.world.brush == other.world.brush != third.world.brush
    assert HandSlips().offset_mm > 0
    ground = np.full(36, 0.8)
    shown = one.strip(recipe(), np.array([5.0, 30.0]), 0.5, ground, slips=False)
    assert shown.shape == (2, BINS, 36)
    assert PLACES * 2 == BINS
