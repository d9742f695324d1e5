"""Plans that showed faults, as painters made them: what waited, broke in two, or had no order."""

import itertools
import random
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.design.on_chart import chart_of
from pennello.design.part import Habit, PlanPart
from pennello.design.plan import skin_bytes
from pennello.files.plan_json import read_plan
from pennello.lay.engine import kernel
from pennello.order.arrange import _is_shortest, arrange, design_of, in_order
from pennello.order.job import Why
from pennello.order.laid import laid_out
from pennello.order.problem import make_problem, time_order
from pennello.order.search import exact_order, first_order
from pennello.session.chart_scene import chart_picture
from pennello.session.order_pictures import painted_at, sequence

CASES = Path(__file__).parent / "cases"


def case(number):
    (path,) = CASES.glob(f"{number:02}-*.pennello")
    plan = read_plan(path)
    design = design_of(plan, engine=kernel())
    return plan, design, arrange(design, 0.0)


def test_residue_goes_on_across_pieces_of_a_part():
    """A leaf that is loaded over what the bud leaves, and one load for leaves: every stroke has paint in its brush."""
    plan, _, arranged = case(1)
    out = laid_out(arranged, "face").plan
    loaded = [one for one in out.strokes if one.recipe.pickups]
    assert loaded
    for one in out.strokes:
        assert out.edge(one.id).volume_mm3_per_mm.max() > 0
    assert [one.name for one in plan.parts] == ["leaves"]


def test_a_load_that_goes_on_finds_what_the_one_before_left():
    """Three pieces, the second and third with a load that is only a leftover: one visit, each paler than the last."""
    _, _, arranged = case(2)
    assert arranged.sums.loads == 1
    out = laid_out(arranged, "face").plan
    left = [float(out.edge(one.id).volume_mm3_per_mm.sum()) for one in out.strokes]
    assert len(left) == 3
    assert left == sorted(left, reverse=True)
    assert left[0] > left[2] > 0


def test_lights_come_after_eyes_however_small_they_are():
    _, design, arranged = case(9)
    order = [name.split("/")[0] if "lights" not in name else "lights" for name in arranged.order]
    assert order == ["head", "eyes", "lights"]
    tiny = [lag for lag in design.lags if "lights" in lag.after]
    assert tiny
    assert all(design.films.touch(lag.before, lag.after) for lag in tiny)


@pytest.mark.parametrize("number", [10, 11, 12], ids=["passes of a base", "twin halves", "twin of one piece"])
def test_passes_and_twins_do_not_wait_for_each_other(number):
    _, _, arranged = case(number)
    assert arranged.sums.waiting_s == 0
    assert arranged.sums.changes == 1


def test_what_is_painted_in_one_go_is_not_interrupted():
    """A rose with leaves beside it: the rose is one unit, whatever the leaves would save."""
    _, design, arranged = case(13)
    rose = [place for place, name in enumerate(arranged.order) if name.startswith("centre/")]
    assert rose == list(range(rose[0], rose[0] + len(rose)))
    assert {lag.why for lag in design.lags if lag.before.startswith("centre/") and lag.after.startswith("centre/")} == {
        Why.GO
    }


def test_a_second_name_says_which_side_it_is_on():
    _, _, arranged = case(11)
    names = [job.name for job in arranged.jobs]
    assert len(set(names)) == len(names) == 2
    assert any("wearer's left" in name for name in names)


@pytest.mark.parametrize("number", [1, 9, 13])
def test_the_end_of_the_order_is_the_last_picture_of_the_sequence(number):
    """One scene: to the pixel."""
    plan, _, arranged = case(number)
    last = None
    for moment in sequence(arranged, "face", 2.0, kernel()):
        last = moment
    painted = painted_at(arranged, "face", 2.0, engine=kernel())

    whole = chart_picture(chart_of(plan, "face"), painted, skin_bytes(plan.skin), 2.0)
    assert np.array_equal(whole, last.picture)


def test_every_order_keeps_parts_in_one_go_whole():
    """Whatever the search finds: pieces of a part in one go follow each other, each side for itself."""
    plan, _, _ = case(1)

    whole = replace(plan, parts=tuple(replace(one, habit=Habit.ONE_GO) for one in plan.parts))
    arranged = arrange(design_of(whole, engine=kernel()), 0.0)
    units = [arranged.job(name).unit for name in arranged.order]
    assert len([key for key, _ in itertools.groupby(units)]) == len(set(units))


def test_no_order_of_units_is_shorter_than_is_said(whole_demo):
    """Brute force over all lawful orders of units, each loaded as it is really loaded: none is below the bound told."""
    plan = replace(whole_demo, motifs=tuple(one for one in whole_demo.motifs if one.chart in ("hand", "forearm")))
    parts = (PlanPart("hand", "Hand", habit=Habit.ONE_GO), PlanPart("arm", "Arm"))
    put = {"hand": "hand", "forearm": "arm"}
    plan = replace(
        plan, parts=parts, motifs=tuple(replace(one, part=put[one.chart]) for one in plan.motifs), overlays=()
    )
    design = design_of(plan, engine=kernel())
    found = arrange(design, 0.1)
    units: dict[str, list[str]] = {}
    for job in design.work.jobs:
        units.setdefault(job.unit, []).append(job.id)
    assert 4 <= len(units) <= 9
    firsts = {(lag.before, lag.after) for lag in design.lags}
    totals = []
    for order in itertools.permutations(units.values()):
        names = [name for unit in order for name in unit]
        at = {name: place for place, name in enumerate(names)}
        if all(at[one] < at[other] for one, other in firsts):
            one = in_order(design, names)
            if not one.missed:
                totals.append(one.sums.total_s)
    assert found.sums.total_s * (1 - found.gap) - 0.2 <= min(totals)
    assert found.sums.total_s <= found.own_total_s + 0.05


@given(st.integers(0, 400))
@settings(max_examples=25, deadline=None)
def test_none_is_shorter_is_said_only_where_none_is(seed):
    """Brute force over all orders of five jobs: switches that are not liked may cost time, and then it is not said."""
    rng = random.Random(seed)
    setup = [[rng.randrange(5, 60) for _ in range(5)] for _ in range(6)]
    dislike = [[rng.choice([0, 0, 30]) for _ in range(5)] for _ in range(6)]
    made = make_problem(list("abcde"), [rng.randrange(10, 90) for _ in range(5)], setup, (), dislike)
    found = exact_order(made, first_order(made))
    shortest = min(time_order(made, order).total for order in itertools.permutations(range(5)))
    assert _is_shortest(made, found.total) == (found.total == shortest)
