"""Designing a cake: hidden ones found again, limits kept, a second opinion by SciPy's differential evolution."""

import itertools
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.solve.conftest import FLAT, NAMES, PAINTS, SKIN, random_cake

from pennello.aim.wish import Stop, Wanted
from pennello.errors import OutOfRangeError
from pennello.kit.paint import optics
from pennello.load.pickup import blurred_stripes
from pennello.solve.cake_moves import Limits, changes, slides
from pennello.solve.cake_space import Look, MadeCake, Space
from pennello.solve.coats import Goal, coat_lab, goal_for
from pennello.solve.design_cake import NoCakeError, Terms, design_cake, why_not
from pennello.solve.for_plan import look_of, tried_for_real, with_design

SOONER = 600
"""So many looks at the clock are a second of an idle machine: a search takes the same steps on a busy one."""


def steady():
    """Return a clock that goes on by being looked at."""
    looked = itertools.count()
    return lambda: next(looked) / SOONER


STOCK = [PAINTS[name] for name in NAMES][:24]
BLUR = float(np.hypot(0.8, 0.3))


def look_at(cake, offset, width=19.05):
    shares = blurred_stripes(cake, offset + np.arange(33) / 32 * width, BLUR).T
    constants = optics(tuple(PAINTS[stripe.paint] for stripe in cake.stripes))
    return Look(width, Goal(coat_lab(shares, constants, 15.0, SKIN)[None]), 15.0, BLUR)


def hidden(seed):
    rng = np.random.default_rng(seed)
    cake = random_cake(rng)
    return cake, look_at(cake, float(rng.uniform(0, cake.width_mm - 19.05)))


@pytest.mark.parametrize("seed", [1, 4, 6])
def test_hidden_cake_is_found_again(seed):
    cake, look = hidden(seed)
    stock = [PAINTS[name] for name in {*(stripe.paint for stripe in cake.stripes), *NAMES[:12]}]
    found = design_cake(sorted(stock, key=lambda paint: paint.id), [look], SKIN, seconds=3.0, clock=steady())
    assert found[0].mean_de00 < 1.0
    assert min(found[0].widths_mm) >= 2.49
    assert sum(found[0].widths_mm) >= 19.04


def test_space_rates_as_the_load_does():
    cake, look = hidden(2)
    stock = [PAINTS[stripe.paint] for stripe in cake.stripes]
    offset = 1.3
    made = MadeCake(tuple(range(len(stock))), tuple(s.width_mm for s in cake.stripes), (offset,), (False,))
    shares = blurred_stripes(cake, offset + np.arange(33) / 32 * 19.05, BLUR).T
    exact = look.goal.difference(coat_lab(shares, optics(tuple(stock)), 15.0, SKIN)).mean()
    assert Space(stock, [look], SKIN).rate([made])[0, 0] == pytest.approx(exact, abs=0.12)
    flipped = replace(made, flips=(True,))
    turned = Look(look.width_mm, look.goal.flipped, look.coat_um, look.blur_mm)
    assert Space(stock, [turned], SKIN).rate([flipped]) == pytest.approx(Space(stock, [look], SKIN).rate([made]))


@pytest.mark.slow
def test_never_much_worse_than_differential_evolution():
    """Source: SciPy's differential_evolution, with the same stripes, limits and stock, and 2,500 cakes tried."""
    from scipy.optimize import differential_evolution

    _, look = hidden(9)
    stock = STOCK[:10]
    ours = design_cake(stock, [look], SKIN, Terms(3, exactly=True, pan_mm=22.0), 1.5, clock=steady())[0]
    space = Space(stock, [look], SKIN)

    def rated(x):
        parts = np.abs(x[3:6]) + 1e-6
        widths = 2.5 + parts / parts.sum() * (22.0 - 7.5)
        return float(space.rate([MadeCake(tuple(x[:3].astype(int)), tuple(widths), (x[6],), (x[7] > 0.5,))])[0, 0])

    bounds = [(0, len(stock) - 1e-6)] * 3 + [(0, 1)] * 3 + [(0, 22.0 - 19.05), (0, 1)]
    theirs = differential_evolution(rated, bounds, seed=1, polish=False, tol=0.0, maxiter=20)
    assert ours.mean_de00 <= theirs.fun + 0.05


def test_terms_are_kept():
    _, look = hidden(3)
    found = design_cake(
        STOCK[:8], [look], SKIN, Terms(4, exactly=True, pan_mm=26.0, keep=(STOCK[2].id,)), 1.0, clock=steady()
    )
    for one in found:
        assert len(one.paints) == 4
        assert sum(one.widths_mm) == pytest.approx(26.0, abs=0.05)
        assert STOCK[2] in one.paints
        assert all(a != b for a, b in zip(one.paints, one.paints[1:], strict=False))
        assert 0 <= one.offsets_mm[0] <= 26.0 - 19.05 + 0.01


def test_one_cake_for_two_strokes(demo):
    known = demo.paints_by_id
    names = ("dahlia-petal", "plume-eye")
    looks = [look_of(demo, demo.stroke(name), known) for name in names]
    shown = []
    found = design_cake(demo.paints, looks, np.asarray(SKIN), seconds=2.0, show=shown.append, clock=steady())
    assert len(found[0].each_de00) == 2
    assert shown[0][0].mean_de00 >= found[0].mean_de00 - 0.3  # a stripe less may be worth a little
    plan, cake = with_design(demo, names, found[0])
    assert {plan.stroke(name).recipe.cakes for name in names} == {(cake,)}
    for trial, each in zip(tried_for_real(plan, names), found[0].each_de00, strict=True):
        assert trial.seen.mean_de00 == pytest.approx(each, abs=3.0)


_made = st.builds(
    lambda seed: _random_made(np.random.default_rng(seed)),
    st.integers(0, 10_000),
)


def _random_made(rng):
    count = int(rng.integers(2, 8))
    widths = 2.5 + rng.uniform(0, 6, count)
    widths *= max(1.0, 20.0 / widths.sum())
    paints = [int(rng.integers(0, 5))]
    while len(paints) < count:
        paints.append(int((paints[-1] + rng.integers(1, 5)) % 5))
    return MadeCake(tuple(paints), tuple(widths), (float(rng.uniform(0, widths.sum() - 19.05)),), (False,))


@given(one=_made, step=st.sampled_from([0.1, 1.0, 2.0]))
def test_moves_keep_a_given_pan_where_the_limits_let_them(one, step):
    _, look = hidden(1)
    limits = Limits(one.width_mm, one.width_mm, (2, 7))
    assert limits.allows(one, [look])
    kept = [new for new in (*slides(one, step), *changes(one, 5)) if limits.allows(new, [look])]
    assert all(new.width_mm == pytest.approx(one.width_mm) for new in kept)
    assert all(len(new.paints) == len(new.widths_mm) for new in kept)


@pytest.mark.parametrize(
    ("stock", "terms", "words"),
    [
        (STOCK[:1], Terms(), "at least two paints"),
        (STOCK, Terms(pan_mm=10.0), "narrower than the brush"),
        (STOCK, Terms(keep=("nothing",)), "is to be kept but is not among"),
        (STOCK, Terms(2, keep=tuple(paint.id for paint in STOCK[:3])), "keep fewer"),
    ],
    ids=["one paint", "narrow pan", "unknown", "too many kept"],
)
def test_cakes_that_cannot_be_get_a_sentence(stock, terms, words):
    with pytest.raises(NoCakeError, match=words):
        design_cake(stock, [hidden(1)[1]], SKIN, terms, 0.5)
    with pytest.raises(OutOfRangeError):
        Terms(stripes=1)


def test_why_no_cake_can():
    dark = [PAINTS[name] for name in ("peat-black", "deep-channel")]
    wanted = Wanted((Stop(paint="foam-white"),))
    look = Look(19.05, goal_for(wanted, FLAT.width_mm, PAINTS, SKIN), 15.0, BLUR)
    assert "add a lighter paint" in why_not(dark, look, SKIN, 3.0)
    assert why_not([*dark, PAINTS["foam-white"]], look, SKIN, 3.0) == ""
