"""Forgiveness: seeded tries with a hand's slips."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import binomtest

from pennello.aim.hand import SLIPS, Hand, Steadiness
from pennello.errors import OutOfRangeError
from pennello.solve.forgiveness import forgive, slipped_recipe, slipped_stroke
from pennello.solve.wilson import wilson

STILL = Hand(Steadiness.NORMAL, 0, 0, 0, 0, 0)


@given(tries=st.integers(1, 2000), share=st.floats(0, 1), confidence=st.sampled_from([0.8, 0.95, 0.99]))
def test_wilson_interval_is_scipys(tries, share, confidence):
    held = round(share * tries)
    theirs = binomtest(held, tries).proportion_ci(confidence, method="wilson")
    assert wilson(held, tries, confidence) == pytest.approx((theirs.low, theirs.high), abs=1e-9)


@pytest.mark.parametrize(("held", "tries", "confidence"), [(1, 0, 0.95), (3, 2, 0.95), (-1, 5, 0.95), (1, 2, 1.0)])
def test_wilson_refuses_nonsense(held, tries, confidence):
    with pytest.raises(OutOfRangeError):
        wilson(held, tries, confidence)


def test_still_hand_does_the_same_every_time(demo):
    found = forgive(demo.attempt("dahlia-petal"), STILL, 20)
    assert (found.holds, found.share) == (20, 1.0)
    assert found.worst.mean_de00 == pytest.approx(found.nominal)
    assert all(value == pytest.approx(0) for value in found.minds.values())


def test_same_seed_same_answer_and_steadier_is_better(demo):
    attempt = demo.attempt("dahlia-petal")
    one, two, other = (forgive(attempt, demo.hand, 200, seed) for seed in (4, 4, 5))
    assert (one.holds, one.worst, one.minds) == (two.holds, two.worst, two.minds)
    assert other.worst != one.worst
    steady, bumpy = (forgive(attempt, demo.hand.at(how), 200) for how in (Steadiness.STEADY, Steadiness.BUMPY))
    assert steady.share > one.share > bumpy.share
    assert one.low < one.share < one.high
    assert one.holds <= one.close
    assert one.ribbon.shape == (64, 3)


def test_forecast_tries_agree_with_laid_ones(demo):
    attempt = demo.attempt("plume-eye")
    quick, laid = (forgive(attempt, demo.hand, 60, every_laid=every) for every in (False, True))
    assert abs(quick.share - laid.share) <= 0.15
    assert laid.laid
    assert quick.minds_most == laid.minds_most == "offset_mm"


def test_slips_stay_in_range_and_do_what_they_say(demo):
    recipe, stroke = demo.stroke("dahlia-petal").recipe, demo.stroke("dahlia-petal").stroke
    slip = np.array([1.5, 200.0, 10.0, 9.0, -500.0])
    pickup = slipped_recipe(recipe, slip).pickups[0]
    assert pickup.offset_mm == pytest.approx(recipe.pickups[0].offset_mm + 1.5)
    assert (pickup.skew_deg, pickup.drift_mm, pickup.passes) == (60.0, 20.0, 1.0)
    assert slipped_stroke(stroke, 10.0).nib.angle_deg == stroke.nib.angle_deg + 10.0
    assert len(SLIPS) == len(Hand().sizes)


def test_offset_slip_alone_is_a_known_share(two_tone_plan):
    """Two tones, one boundary: the tries that hold are those within a distance, so their share is the normal's."""
    from statistics import NormalDist

    stroke = two_tone_plan.strokes[0]
    pickup = replace(stroke.recipe.pickups[0], offset_mm=25 - 0.3 * 19.05)
    plan = replace(two_tone_plan, strokes=(replace(stroke, recipe=replace(stroke.recipe, pickups=(pickup,))),))
    hand = replace(STILL, offset_mm=1.2)
    found = forgive(plan.attempt("two"), hand, 2000)
    drawn = np.random.default_rng(1).standard_normal((2000, 5))[:, 0] * 1.2
    far = np.sort(np.abs(drawn))[found.holds - 1]
    expected = 2 * NormalDist().cdf(far / 1.2) - 1
    assert found.low - 0.01 <= expected <= found.high + 0.01


@pytest.mark.parametrize("tries", [0, 9, 10**9])
def test_number_of_tries_is_bounded(demo, tries):
    with pytest.raises(OutOfRangeError, match="number of tries"):
        forgive(demo.attempt("dahlia-petal"), tries=tries)


def test_hand_is_checked():
    with pytest.raises(OutOfRangeError, match="offset_mm of the hand"):
        Hand(offset_mm=-1)
