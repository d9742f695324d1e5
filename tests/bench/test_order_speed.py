"""Speeds of the order of painting, by pytest-benchmark: `make bench`."""

from __future__ import annotations

import random

import pytest
from lantern_face import demo_plan

from pennello.lay.engine import kernel
from pennello.lay.warming import rehearse
from pennello.order.arrange import arrange, design_of, in_order, moved
from pennello.order.improve import improve
from pennello.order.problem import NEVER, Problem, make_problem, time_order
from pennello.order.search import first_order, improved

STEPS = 40


def forty(seed: int) -> Problem:
    """So many jobs of four brushes and eight loads in three regions, with paint to dry and windows to catch."""
    rng = random.Random(seed)
    brush = [rng.randrange(4) for _ in range(STEPS)]
    load = [(one, rng.randrange(2)) for one in brush]
    region = [rng.randrange(3) for _ in range(STEPS)]

    def setup(one: int | None, job: int) -> int:
        same = one is not None and brush[one] == brush[job]
        change = 60 * (load[one] != load[job]) if same else 30  # type: ignore[index]
        return 50 + change + (10 if one is not None and region[one] != region[job] else 0)

    rows = [*range(STEPS), None]
    table = [[0 if one == job else setup(one, job) for job in range(STEPS)] for one in rows]
    lags = []
    for job in range(STEPS):
        before = [one for one in rng.sample(range(job), min(job, 2)) if rng.random() < 0.5]
        lags += [(one, job, rng.randrange(200, 1500), NEVER) for one in before]
        if job and rng.random() < 0.06:
            lags.append((job - 1, job, 0, 300))
    lasts = [rng.randrange(10, 200) for _ in range(STEPS)]
    return make_problem([str(job) for job in range(STEPS)], lasts, table, lags)


def test_first_order_of_40_steps(benchmark):
    problem = forty(1)
    benchmark(lambda: first_order(problem, range(STEPS)))
    benchmark.extra_info["wanted, ms"] = 50


def test_one_order_of_40_steps_is_timed(benchmark):
    problem = forty(1)
    benchmark(lambda: time_order(problem, range(STEPS)))


@pytest.mark.parametrize("seed", range(5))
def test_restarts_of_one_second_against_cp_sat(benchmark, seed):
    problem = forty(seed)
    start = first_order(problem, range(STEPS))
    found = benchmark.pedantic(lambda: improved(problem, start, 1.0), rounds=1)
    best = improve(problem, found, 10.0).timing
    benchmark.extra_info["above CP-SAT after 10 s more, %"] = round(100 * (found.cost / best.cost - 1), 2)
    benchmark.extra_info["wanted, %, against 60 s"] = 3


@pytest.fixture(scope="module")
def face():
    made = kernel()
    rehearse(made)
    return design_of(demo_plan(), "face", engine=made)


def test_films_of_a_face(benchmark, face):
    benchmark.pedantic(lambda: design_of(demo_plan(), "face", engine=kernel()), rounds=3)


def test_a_dragged_step_follows(benchmark, face):
    arranged = arrange(face, 0.0)
    order = moved(arranged, arranged.order[0], 1)
    assert not isinstance(order, str)
    benchmark(lambda: in_order(face, order))
    benchmark.extra_info["wanted, ms"] = 33
