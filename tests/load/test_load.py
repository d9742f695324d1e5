"""The loaded edge against the error function, the exchange law and conservation."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.special import erf
from scipy.stats import norm

from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Stripe
from pennello.kit.contact import BINS
from pennello.load.edge import LoadedEdge, boundaries, clean_edge, load
from pennello.load.gaussian import WIDTH_10_90, phi_integral, probit
from pennello.load.pickup import bin_centres, blur_mm, met_shares
from pennello.load.recipe import Before, PickUp, Recipe, Wetness

WIDTH = 19.05
BRUSH = Applicator("flat", "Flat", WIDTH)
WIDE = Cake("two", "Two", (Stripe("a", 30.0), Stripe("b", 30.0)), softness_mm=0.0)
THREE = Cake("three", "Three", (Stripe("a", 6.0), Stripe("b", 7.0), Stripe("c", 9.0)), softness_mm=0.4)
CAKES = {"two": WIDE, "three": THREE}
CENTRED = 30 - WIDTH / 2

pickups = st.builds(
    PickUp,
    cake=st.sampled_from(["two", "three"]),
    offset_mm=st.floats(-15, 50),
    flip=st.booleans(),
    skew_deg=st.floats(-45, 45),
    passes=st.floats(0, 30),
    drift_mm=st.floats(0, 6),
    wetness=st.sampled_from(Wetness),
    before=st.sampled_from(Before),
)


def edge_of(*recipe: PickUp) -> LoadedEdge:
    return load(Recipe(recipe), CAKES, BRUSH)


@pytest.mark.parametrize("x", [0.0, 0.1, 0.5, 1.0, 1.5, 2.0])
def test_erf_is_that_of_the_handbook(x):
    # Abramowitz & Stegun, table 7.1, through F'(x) = Phi(x)
    table = {0.0: 0.0, 0.1: 0.1124629160, 0.5: 0.5204998778, 1.0: 0.8427007929, 1.5: 0.9661051465, 2.0: 0.9953222650}
    z, step = x * math.sqrt(2), 1e-5
    slope = (phi_integral(np.array(z + step), 1.0) - phi_integral(np.array(z - step), 1.0)) / (2 * step)
    assert 2 * slope - 1 == pytest.approx(table[x], abs=1e-8)
    assert probit(np.array([float(norm.cdf(z))]))[0] == pytest.approx(z)


@pytest.mark.parametrize("drift", [0.0, 0.2, 0.5, 0.8, 1.5, 3.0])
def test_boundary_is_an_error_function(drift):
    share = edge_of(PickUp("two", CENTRED, drift_mm=drift)).share[1]
    edges = np.linspace(0, WIDTH, BINS + 1)
    if drift:  # mean of Phi over each bin, by fine quadrature as a second opinion
        fine = edges[:-1, None] + (np.arange(400) + 0.5) / 400 * WIDTH / BINS
        expected = (0.5 * (1 + erf((fine - WIDTH / 2) / (drift * math.sqrt(2))))).mean(axis=1)
    else:
        expected = (np.arange(BINS) >= BINS / 2).astype(float)
    assert share == pytest.approx(expected, abs=1e-6)


@pytest.mark.parametrize("drift", [0.3, 0.8, 1.5, WIDTH / 6])
@pytest.mark.parametrize("softness", [0.0, 0.7])
def test_10_90_width(drift, softness):
    cake = Cake("two", "Two", WIDE.stripes, softness_mm=softness)
    edge = load(Recipe((PickUp("two", CENTRED, drift_mm=drift),)), {"two": cake}, BRUSH)
    (one,) = boundaries(edge)
    sd = math.hypot(drift, softness)
    assert (one.from_paint, one.to_paint) == ("a", "b")
    assert one.at_mm == pytest.approx(WIDTH / 2, abs=1e-6)
    assert one.width_10_90_mm == pytest.approx(2.563 * sd, rel=2e-3)
    assert pytest.approx(2.563, abs=1e-3) == WIDTH_10_90


@pytest.mark.parametrize("offset", [0.0, 1.5, 2.9])
@pytest.mark.parametrize("flip", [False, True])
def test_boundaries_lie_where_the_cake_has_them(offset, flip):
    found = boundaries(edge_of(PickUp("three", offset, flip, drift_mm=0.5)))
    expected = [6 - offset, 13 - offset]
    expected = [WIDTH - at for at in reversed(expected)] if flip else expected
    assert [one.at_mm for one in found] == pytest.approx(expected, abs=0.02)


@given(st.lists(pickups, min_size=1, max_size=4))
def test_shares_sum_to_one_wherever_anything_is_loaded(recipe):
    edge = edge_of(*recipe)
    loaded = edge.volume_mm3_per_mm > 0
    assert edge.share.sum(axis=0)[loaded] == pytest.approx(1, abs=1e-12)
    assert (edge.solids >= 0).all()
    assert edge.volume_mm3_per_mm.max() <= BRUSH.capacity_mm3_per_mm + 1e-12
    for one in boundaries(edge):
        assert math.isfinite(one.at_mm)
        assert one.width_10_90_mm >= 0


@given(pickups)
def test_flip_exchanges_a_and_b_and_flip_twice_is_nothing(pickup):
    flipped = replace(pickup, flip=not pickup.flip)
    assert edge_of(flipped).solids == pytest.approx(edge_of(pickup).solids[:, ::-1])
    assert replace(flipped, flip=not flipped.flip) == pickup


@given(st.floats(0, 12))
def test_reflection_keeps_every_stripe_whole(sd):
    """A brush as wide as the cake takes as much of each stripe as there is, whatever the blur."""
    wide = Applicator("wide", "Wide", THREE.width_mm)
    shares, over = met_shares(PickUp("three", 0.0, drift_mm=sd), Cake("three", "T", THREE.stripes, 0.0), wide)
    assert shares.mean(axis=1) * THREE.width_mm == pytest.approx([6, 7, 9], abs=1e-9)
    assert over.min() == 1


def test_skew_narrows_the_window_and_blurs_it():
    flat, turned = (PickUp("two", CENTRED, drift_mm=0.5, skew_deg=angle) for angle in (0, 60))
    assert boundaries(edge_of(turned))[0].at_mm == pytest.approx(WIDTH / 2, abs=1e-6)
    sd = math.sqrt(0.25 + (BRUSH.thickness_mm * math.sin(math.radians(60))) ** 2 / 12)
    assert blur_mm(turned, WIDE, BRUSH) == pytest.approx(sd)
    # along the edge, a blur across the stripes is stretched by 1 / cos
    assert boundaries(edge_of(turned))[0].width_10_90_mm == pytest.approx(2.563 * sd / 0.5, rel=5e-3)
    assert blur_mm(flat, WIDE, BRUSH) == 0.5


def test_brush_over_the_wall_takes_nothing_there():
    edge = edge_of(PickUp("three", -WIDTH / 2, drift_mm=0.5))
    half = edge.volume_mm3_per_mm.reshape(2, -1).sum(axis=1)
    assert half[0] == 0
    assert half[1] > 0
    assert edge_of(PickUp("three", -100, drift_mm=0.5)).total_mm3 == 0
    assert boundaries(clean_edge(BRUSH)) == ()


@pytest.mark.parametrize("passes", [0, 1, 4, 12])
def test_exchange_law_on_a_clean_brush(passes):
    full = BRUSH.capacity_mm3_per_mm * WIDTH
    expected = full * (1 - math.exp(-passes / BRUSH.fill_passes))
    assert edge_of(PickUp("two", CENTRED, passes=passes)).total_mm3 == pytest.approx(expected)


@pytest.mark.parametrize(("before", "kept"), [(Before.KEEP, 1.0), (Before.WIPE, 0.25), (Before.RINSE, 0.0)])
def test_residue_fades_by_the_law(before, kept):
    """Red loaded full, then n sweeps over green: the red left is kept e^(-n / n0)."""
    red, green = PickUp("two", 0.0, passes=200, drift_mm=0), PickUp("two", 40, passes=2, drift_mm=0, before=before)
    edge = edge_of(red, green)
    left = kept * math.exp(-2 / BRUSH.fill_passes)
    volume = BRUSH.capacity_mm3_per_mm
    assert edge.solids[0] == pytest.approx(np.full(BINS, volume * left))
    assert edge.solids[1] == pytest.approx(np.full(BINS, volume * (1 - math.exp(-2 / BRUSH.fill_passes))))


def test_residue_of_other_paints_joins_in():
    residue = LoadedEdge(("z",), np.ones((1, BINS)), np.zeros(BINS), WIDTH)
    edge = load(Recipe((PickUp("two", CENTRED, passes=4),)), CAKES, BRUSH, residue)
    assert edge.paints == ("z", "a", "b")
    assert edge.solids[0] == pytest.approx(np.full(BINS, math.exp(-1)))


def test_wetness_orders_capacity_and_blur():
    amounts = [edge_of(PickUp("two", CENTRED, wetness=wetness)).total_mm3 for wetness in Wetness]
    assert max(amounts) == amounts[list(Wetness).index(Wetness.CREAMY)]
    blurs = [blur_mm(PickUp("two", wetness=wetness), WIDE, BRUSH) for wetness in Wetness]
    assert blurs == sorted(blurs)


@pytest.mark.parametrize(
    "bad",
    [{"offset_mm": np.nan}, {"passes": -1}, {"drift_mm": 99}, {"skew_deg": 90}, {"passes": np.inf}],
)
def test_impossible_pickups_are_refused(bad):
    with pytest.raises(OutOfRangeError):
        PickUp("two", **bad)


def test_unknown_cake_and_empty_recipe():
    with pytest.raises(UnknownNameError, match="no cake 'nope'"):
        edge_of(PickUp("nope"))
    with pytest.raises(OutOfRangeError):
        Recipe(())


def test_bins_run_from_a_to_b():
    u = bin_centres()
    assert u[0] == 0.5 / BINS
    assert u[-1] == 1 - 0.5 / BINS
