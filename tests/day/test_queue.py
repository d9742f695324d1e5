"""The queue of a day: closed forms of queueing theory, Little's law, and that nobody is lost.

Sources: L. Kleinrock, Queueing Systems I (1975): M/M/c (Erlang's C), M/D/1 (Pollaczek-Khinchin); J. D. C. Little,
Operations Research 9 (1961) 383; from memory.
"""

from __future__ import annotations

from dataclasses import replace
from math import factorial

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.day.event import Arrivals, Break, Event, MenuItem
from pennello.day.queue import (
    EmptyMenuError,
    Rules,
    arrivals_of,
    curve_of,
    evening,
    sentences,
    simulated_day,
    waiting_at,
    what_if,
)

MENU = tuple(MenuItem(f"d{n}", f"Design {n}", 150.0 + 30 * n, 90.0, loads=(f"load {n}",)) for n in range(4))
EVENT = Event("Walk", begins_min=1110, ends_min=1290, people=50, painters=2, menu=MENU)
SERVICE_S = 60.0


def erlang_c_wait(rate, chairs, service_s=SERVICE_S):
    """Mean wait in M/M/c."""
    load = rate * service_s
    used = load / chairs
    tail = load**chairs / factorial(chairs) / (1 - used)
    waits = tail / (sum(load**k / factorial(k) for k in range(chairs)) + tail)
    return waits * service_s / (chairs - load)


def mean_wait(rate, chairs, rules, days=200, people=500):
    """Of two hundred seeded days, without the first fifth, in which the queue is still filling."""
    event = Event("queue", begins_min=0, ends_min=1440, painters=chairs)
    waits = []
    for seed in range(days):
        came = np.cumsum(np.random.default_rng(10_000 + seed).exponential(1 / rate, people))
        day = simulated_day(event, seed, rules, came)
        waits.append(day.waits_s[people // 5 :].mean())
    return float(np.mean(waits))


@pytest.mark.parametrize(("used", "chairs"), [(0.5, 1), (0.6, 2), (0.6, 3)])
def test_waits_are_those_of_m_m_c(used, chairs):
    rate = used * chairs / SERVICE_S
    rules = Rules(fixed_s=SERVICE_S, exponential=True)
    assert mean_wait(rate, chairs, rules) == pytest.approx(erlang_c_wait(rate, chairs), rel=0.03)


def test_waits_are_those_of_m_d_1():
    rate = 0.6 / SERVICE_S
    wanted = 0.6 / (2 * (1 - 0.6)) * SERVICE_S
    assert mean_wait(rate, 1, Rules(fixed_s=SERVICE_S)) == pytest.approx(wanted, rel=0.03)


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 10_000), st.integers(0, 120), st.integers(1, 4), st.sampled_from(list(Arrivals)))
def test_nobody_is_lost_and_littles_law_holds(seed, people, painters, arrivals):
    """Came = painted + left; the area under the number waiting is the sum of all waits (Little's law, exactly)."""
    event = replace(EVENT, people=people, painters=painters, arrivals=arrivals, curve=(1.0, 3.0, 2.0))
    day = simulated_day(event, seed, Rules(patience_s=1800.0))
    assert len(day.came_s) == day.served.sum() + (~day.served).sum()
    assert np.isfinite(day.left_s).all()
    assert (np.diff(day.came_s) >= 0).all()
    assert (day.waits_s >= -1e-9).all()
    assert (day.waits_s <= 1800.0 + 600.0).all()
    assert (day.left_s[day.served] >= day.began_s[day.served]).all()
    moments = np.sort(np.concatenate([day.came_s, day.came_s + day.waits_s]))
    if len(moments):
        middles = (moments[1:] + moments[:-1]) / 2
        area = float((waiting_at(day, middles) * np.diff(moments)).sum())
        assert area == pytest.approx(float(day.waits_s.sum()), abs=1e-6)
    at_chair = [(begin, end) for begin, end, ok in zip(day.began_s, day.left_s, day.served, strict=True) if ok]
    for begin, _ in at_chair:
        assert sum(one <= begin < other for one, other in at_chair) <= painters


def test_nobody_is_begun_in_a_break():
    event = replace(EVENT, breaks=(Break(1140, 1170),))
    for seed in range(10):
        day = simulated_day(event, seed, Rules())
        began = day.began_s[day.served]
        assert not ((began > 1800 + 1e-6) & (began < 3600 - 1e-6)).any()


def test_a_day_of_a_seed_is_the_same_day():
    one, other, third = (simulated_day(EVENT, seed, Rules()) for seed in (3, 3, 4))
    assert np.array_equal(one.came_s, other.came_s)
    assert np.array_equal(one.left_s, other.left_s)
    assert len(one.came_s) != len(third.came_s) or not np.array_equal(one.came_s, third.came_s)


def test_people_come_by_the_curve():
    rush = replace(EVENT, arrivals=Arrivals.RUSH, people=4000)
    came = arrivals_of(rush, np.random.default_rng(1))
    parts = np.histogram(came, bins=len(curve_of(rush)), range=(0, rush.length_s))[0]
    curve = np.array(curve_of(rush))
    assert parts / parts.sum() == pytest.approx(curve / curve.sum(), abs=0.02)
    assert curve_of(replace(EVENT, arrivals=Arrivals.CURVE, curve=())) == (1.0,)


def test_more_painters_and_short_forms_help():
    busy = replace(EVENT, people=90)
    base = evening(busy, days=30)
    assert base.left > 1
    assert base.close_s is not None
    assert base.busy > 0.7
    found = {one.words: one for one in what_if(busy, days=30)}
    assert found["everybody in the short form"].faces > 0
    assert found["one more painter"].faces > 0
    assert found["one more painter"].wait_min > 0
    assert (base.low <= base.median).all()
    assert (base.median <= base.high).all()


def test_quiet_evenings_are_told_as_such():
    calm = replace(EVENT, people=8)
    told = sentences(calm, evening(calm, days=20))
    assert "nobody leaves unpainted" in told[0]
    assert "open until the end" in told[2]
    nobody = replace(EVENT, people=0)
    told = sentences(nobody, evening(nobody, days=5))
    assert told[0].startswith("0 of 0")
    assert "nobody waits" in told[1]


def test_odd_evenings_are_reckoned_or_said():
    with pytest.raises(EmptyMenuError, match="menu"):
        evening(replace(EVENT, menu=()), days=1)
    with pytest.raises(EmptyMenuError):
        evening(replace(EVENT, menu=tuple(replace(one, on=False) for one in MENU)), days=1)
    crowd = replace(EVENT, people=5000, painters=10)
    found = evening(crowd, days=1)
    assert found.came > 4700
    at_once = replace(EVENT, arrivals=Arrivals.CURVE, curve=(1.0, *([0.0] * 95)))
    assert evening(at_once, days=5).high.max() >= 35
