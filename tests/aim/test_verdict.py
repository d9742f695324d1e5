"""Wishes, comparison and verdict: every cause is made on purpose, found, and mended by its own mend."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.aim.attempt import Attempt, Side
from pennello.aim.comparison import compare
from pennello.aim.quick import Forecast, levelling_matrix
from pennello.aim.state import State
from pennello.aim.verdict import judge
from pennello.aim.wish import Stop, Wanted, stop_labs, wanted_lab, wanted_shares
from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.colour.skin import skin_reflectance
from pennello.design.wishing import turned_round, wish_for_edge, with_wish_boundary
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit import catalogue
from pennello.kit.paint import Paint
from pennello.lay.stroke import Nib, Stroke
from pennello.load.edge import load
from pennello.load.gaussian import WIDTH_10_90
from pennello.load.recipe import PickUp, Recipe, Wetness
from pennello.path.cubic import CubicPath, line
from pennello.units import LengthUnit

PAINTS, CAKES, BRUSH = catalogue.paints(), catalogue.cakes(), catalogue.brushes()["flat-3-4"]
SKIN = skin_reflectance(40)
STOCK = tuple(PAINTS.values())
ARC = Stroke(CubicPath(((0, 0), (-1, -27), (43, -27), (42, 0))))
GOOD = PickUp("poppy-brow", 3.0, drift_mm=0.8)
WISH = Wanted(
    (
        Stop("foam-white", to_u=2 / 19.05),
        Stop("shrimp-coral", to_u=8 / 19.05),
        Stop("poppy-red", to_u=16 / 19.05),
        Stop("dulse-crimson"),
    )
)


def attempt(pickup=GOOD, stroke=ARC, wanted=WISH, **others):
    return Attempt(Recipe((pickup,)), stroke, BRUSH, CAKES, PAINTS, wanted, SKIN, **others)


def verdict_on(tried, unit=LengthUnit.MM):
    laid = tried.lay()
    return judge(tried, laid, compare(laid, tried), STOCK, unit)


def cause(verdict, code):
    found = [one for one in verdict.causes if one.code == code]
    assert found, f"{code} not among {[one.code for one in verdict.causes]}"
    return found[0]


# --- wishes ---


def test_wanted_shares_blend_by_the_error_function():
    wanted = Wanted((Stop("foam-white", to_u=0.5, blend_mm=4.0), Stop("poppy-red")))
    shares = wanted_shares(wanted, 400, 20.0)
    x = (np.arange(400) + 0.5) / 400 * 20
    sd = 4.0 / WIDTH_10_90
    expected = np.array([0.5 * math.erfc((at - 10) / sd / math.sqrt(2)) for at in x])
    assert shares[0] == pytest.approx(expected, abs=1e-4)
    assert np.interp([0.9, 0.1], shares[0][::-1], x[::-1]) @ [-1, 1] == pytest.approx(4.0, abs=0.02)


ends = st.lists(st.floats(0.02, 0.98), min_size=0, max_size=5, unique=True).map(sorted)


@given(ends, st.floats(0, 20))
def test_wanted_shares_sum_to_one(where, blend):
    stops = [Stop("foam-white", to_u=end, blend_mm=blend) for end in where]
    shares = wanted_shares(Wanted((*stops, Stop("poppy-red"))), 64, 19.05)
    assert shares.sum(axis=0) == pytest.approx(np.ones(64))
    assert shares.min() >= 0


def test_a_wish_for_a_colour_means_that_colour_and_for_a_paint_a_coat_of_it():
    wanted = Wanted((Stop(srgb="#3f7d2c", to_u=0.5, blend_mm=0.1), Stop("oyster-pearl")))
    colour, coat = stop_labs(wanted, PAINTS, SKIN)
    assert float(ciede2000(colour, hex_to_lab("#3f7d2c"))) < 0.01
    bare = float(ciede2000(coat, hex_to_lab("#e3dcd8")))
    assert bare > 2  # a pearl of contrast 0.62 lets the skin through
    assert wanted_lab(wanted, 64, 19.05, PAINTS, SKIN).shape == (64, 3)


@pytest.mark.parametrize(
    "make",
    [
        Stop,
        lambda: Stop("a", "#112233"),
        lambda: Stop("a", to_u=0),
        lambda: Stop("a", blend_mm=-1),
        lambda: Wanted(()),
        lambda: Wanted((Stop("a", to_u=0.5),)),
        lambda: Wanted((Stop("a", to_u=0.5), Stop("b", to_u=0.4), Stop("c"))),
        lambda: Wanted((Stop("a"),), coat_um=0),
    ],
)
def test_impossible_wishes_are_refused(make):
    with pytest.raises(OutOfRangeError):
        make()


def test_a_wish_for_an_unknown_paint_says_so():
    with pytest.raises(UnknownNameError, match="wanted gradient"):
        stop_labs(Wanted((Stop("nope"),)), PAINTS, SKIN)


@given(ends)
def test_a_wish_turned_round_twice_is_itself(where):
    names = ["foam-white", "poppy-red", "kelp-green", "peat-black", "heron-grey", "sea-plum"]
    stops = [Stop(name, to_u=end) for name, end in zip(names, where, strict=False)]
    wanted = Wanted((*stops, Stop("reed-ochre", blend_mm=0.5)))
    twice = turned_round(turned_round(wanted))
    assert [stop.paint for stop in twice.stops] == [stop.paint for stop in wanted.stops]
    assert [stop.to_u for stop in twice.stops] == pytest.approx([stop.to_u for stop in wanted.stops])
    assert twice.stops[-1].blend_mm == 0.5


def test_wishing_for_what_is_loaded_makes_it_hold():
    wanted = wish_for_edge(load(Recipe((GOOD,)), CAKES, BRUSH), Wanted((Stop("peat-black"),)))
    assert [stop.paint for stop in wanted.stops] == ["foam-white", "shrimp-coral", "poppy-red", "dulse-crimson"]
    assert verdict_on(attempt(wanted=wanted)).state is State.HOLDS
    moved = with_wish_boundary(wanted, 1, 2.0, 3.0)
    assert moved.stops[1].to_u < moved.stops[2].to_u
    assert moved.stops[1].blend_mm == 3.0


# --- comparison ---


def test_comparison_reads_the_right_places():
    tried = attempt(stroke=Stroke(line((0, 0), (60, 0)), Nib(angle_deg=60)))
    laid = tried.lay()
    seen = compare(laid, tried)
    assert seen.s_mm == pytest.approx(60 * (np.arange(12) + 0.5) / 12, abs=0.3)
    assert seen.ribbon_mm == pytest.approx(np.full(12, 19.05 * math.sin(math.pi / 3) + 1.0), abs=1e-6)
    assert seen.lab.shape == (12, 64, 3)
    assert seen.de00 == pytest.approx(ciede2000(seen.lab, seen.wanted_lab))
    assert np.all(np.diff(seen.film_um.mean(axis=1)) < 0)


def test_boundaries_are_measured_in_mm_and_levelling_softens_them():
    seen = compare(attempt(replace(GOOD, offset_mm=4.0)).lay(), attempt())
    assert [check.shift_mm for check in seen.boundaries] == pytest.approx([-1, -1, -1], abs=0.02)
    width = seen.boundaries[1].laid.width_10_90_mm
    assert width == pytest.approx(2.563 * math.sqrt(0.8**2 + 0.4**2 + 0.3**2), rel=0.01)


def test_rim_and_heel_follow_the_side():
    flipped = attempt(replace(GOOD, flip=True))
    on_a, on_b = (compare(flipped.lay(), replace(flipped, rim=side)) for side in Side)
    assert (on_a.rim_share, on_a.heel_share) == (on_b.heel_share, on_b.rim_share)
    good = compare(attempt().lay(), attempt())
    assert good.rim_share == good.heel_share == 1
    assert on_a.rim_share == 0


def test_forecast_agrees_with_laying():
    tried = attempt()
    laid = tried.lay()
    forecast = Forecast(tried, laid.edge, compare(laid, tried))
    for pickup in (GOOD, replace(GOOD, offset_mm=5.0), replace(GOOD, flip=True), replace(GOOD, drift_mm=2.0)):
        other = attempt(pickup)
        expected = compare(other.lay(), other).mean_de00
        assert forecast.mean_de00(other.recipe) == pytest.approx(expected, rel=0.06, abs=0.25)
    assert levelling_matrix(19.05).sum(axis=0) == pytest.approx(np.ones(64))


# --- verdict ---


def test_a_good_stroke_holds_without_a_cause():
    verdict = verdict_on(attempt())
    assert verdict.state is State.HOLDS
    assert verdict.causes == ()
    assert verdict.headline.startswith("Holds")


@pytest.mark.parametrize("slip", [-1.5, 1.5, 3.0])
def test_slid_off_the_window(slip):
    tried = attempt(replace(GOOD, offset_mm=3.0 + slip))
    verdict = verdict_on(tried)
    found = cause(verdict, "slid")
    mend = found.mends[0].mend
    assert verdict.causes[0] is found
    assert verdict.state is not State.HOLDS
    assert mend.pickup.offset_mm == pytest.approx(3.0, abs=0.3)
    assert ("Dulse Crimson" if slip < 0 else "Foam White") in mend.words
    assert verdict_on(mend.mended(tried)).state is State.HOLDS


def test_the_rim_is_measured_in_words_and_in_the_unit_shown():
    tried = attempt(replace(GOOD, offset_mm=4.0))
    assert "rim is 1 mm, you asked for 2 mm" in cause(verdict_on(tried), "slid").text
    assert "0.079 in" in cause(verdict_on(tried, LengthUnit.INCH), "slid").text


def test_wrong_way_round():
    tried = attempt(replace(GOOD, flip=True), wanted=turned_round(turned_round(WISH)))
    verdict = verdict_on(tried)
    assert verdict.state is State.MISSES
    found = cause(verdict, "wrong_way")
    assert verdict.causes[0] is found
    assert verdict_on(found.mends[0].mend.mended(tried)).state is State.HOLDS


@pytest.mark.parametrize(("drift", "code"), [(2.5, "too_soft"), (0.0, "too_hard")])
def test_boundary_too_soft_or_too_hard(drift, code):
    hard = replace(WISH, stops=tuple(replace(stop, blend_mm=4.5) for stop in WISH.stops)) if drift == 0 else WISH
    tried = attempt(replace(GOOD, drift_mm=drift), wanted=hard)
    found = cause(verdict_on(tried), code)
    mended = found.mends[0].mend.mended(tried)
    assert found.mends[0].mean_de00 < compare(tried.lay(), tried).mean_de00
    assert cause_codes(mended).isdisjoint({"too_soft", "too_hard"})


def cause_codes(tried):
    return {one.code for one in verdict_on(tried).causes}


def test_too_wet_is_blotted():
    tried = attempt(replace(GOOD, wetness=Wetness.TOO_WET, passes=20))
    mend = cause(verdict_on(tried), "too_soft").mends[0].mend
    assert mend.pickup.wetness is Wetness.CREAMY
    assert "blot" in mend.words


LONG = Stroke(CubicPath(((0, 0), (120, -120), (240, 120), (420, 0))))


def test_runs_pale_and_where():
    tried = attempt(stroke=LONG)
    verdict = verdict_on(tried)
    found = cause(verdict, "pale")
    assert 100 < found.at_mm < 400
    kinds = {rated.mend.kind: rated.mend for rated in found.mends}
    assert set(kinds) == {"reload", "shorten"}
    for mend in kinds.values():
        assert "pale" not in cause_codes(mend.mended(tried))
    assert kinds["reload"].mended(tried).stroke.reload_mm
    assert f"{found.at_mm:.0f}" in found.text.replace(".", " ")


def test_a_thin_load_is_swept_on():
    tried = attempt(replace(GOOD, passes=1.0))
    mend = cause(verdict_on(tried), "thin_load").mends[0].mend
    assert mend.pickup.passes == 12
    assert verdict_on(mend.mended(tried)).state is State.HOLDS


def test_hanging_over_the_wall():
    found = cause(verdict_on(attempt(replace(GOOD, offset_mm=-6.0))), "hangs_over")
    assert found.text.startswith("6 mm of the brush")
    assert found.mends[0].mend.pickup.offset_mm == pytest.approx(3.0, abs=0.3)


def test_colour_not_on_this_cake():
    wanted = replace(WISH, stops=(*WISH.stops[:-1], Stop(srgb="#1f4fa3")))
    verdict = verdict_on(attempt(wanted=wanted))
    found = cause(verdict, "missing_colour")
    mend = found.mends[0].mend
    assert mend.paint.id == "mussel-blue"
    assert CAKES["poppy-brow"].stripes[mend.stripe].paint == "dulse-crimson"
    assert found.mends[0].mean_de00 < verdict.mean_de00
    nothing = judge(*_laid(attempt(wanted=wanted)), stock=())  # type: ignore[misc]
    assert cause(nothing, "missing_colour").text.startswith("The wanted #1f4fa3 is not on Poppy Brow")


def _laid(tried):
    laid = tried.lay()
    return tried, laid, compare(laid, tried)


def test_all_paints_alike_gives_a_sentence():
    grey = Paint("grey", "Grey", "#808080")
    cake = replace(CAKES["poppy-brow"], stripes=tuple(replace(s, paint="grey") for s in CAKES["poppy-brow"].stripes))
    tried = replace(attempt(), cakes={"poppy-brow": cake}, paints={**PAINTS, "grey": grey})
    verdict = judge(*_laid(tried), stock=())  # type: ignore[misc]
    assert verdict.state is State.MISSES
    assert all(one.text.endswith(".") for one in verdict.causes)


@pytest.mark.parametrize("path", [line((0, 0), (0.01, 0)), CubicPath(((1.0, 1.0),) * 4)])
def test_a_mere_touch_still_gets_a_verdict(path):
    assert verdict_on(attempt(stroke=Stroke(path))).headline


def test_an_empty_brush_still_gets_a_verdict():
    verdict = verdict_on(attempt(replace(GOOD, passes=0.0)))
    assert verdict.state is State.MISSES
    assert cause(verdict, "thin_load").mends
