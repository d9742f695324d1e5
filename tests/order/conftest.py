"""Random problems of one hand, and designs of the demo."""

import itertools
import random
from dataclasses import replace
from pathlib import Path

import pytest

from pennello.design.pace import StepKind
from pennello.files.plan_json import read_plan
from pennello.lay import engine
from pennello.order.arrange import design_of
from pennello.order.problem import NEVER, make_problem
from pennello.order.steps import sums_of


@pytest.fixture(scope="session")
def random_problem():
    """Makes a problem from a seed."""
    return made_up


def made_up(seed, count, *, windows=0.06, lags=0.5):
    """Jobs with brushes, loads and regions as a painter has them; setups in tenths of a second."""
    rng = random.Random(seed)
    brush = [rng.randrange(4) for _ in range(count)]
    load = [(one, rng.randrange(2)) for one in brush]
    region = [rng.randrange(3) for _ in range(count)]

    def setup(one, job):
        return (
            50
            + (30 if one is None or brush[one] != brush[job] else 60 if load[one] != load[job] else 0)
            + (10 if one is not None and region[one] != region[job] else 0)
        )

    rows = [*range(count), None]
    table = [[0 if one == job else setup(one, job) for job in range(count)] for one in rows]
    told = []
    for job in range(count):
        before = [one for one in rng.sample(range(job), min(job, 2)) if rng.random() < lags]
        told += [(one, job, rng.randrange(200, 1500), NEVER) for one in before]
        if job and rng.random() < windows:
            told.append((job - 1, job, 0, rng.randrange(120, 400)))
    lasts = [rng.randrange(10, 200) for _ in range(count)]
    return make_problem([str(job) for job in range(count)], lasts, table, told)


@pytest.fixture(scope="session")
def whole_demo():
    """The demo as it was with version 7: small motifs whose rows wait for each other."""
    return read_plan(Path(__file__).parents[1] / "files/v7-saltmarsh.pennello")


@pytest.fixture(scope="session")
def kernel():
    return engine.kernel()


@pytest.fixture(scope="session")
def face(whole_demo, kernel):
    """The face of the demo, ready to be ordered."""
    return design_of(whole_demo, "face", engine=kernel)


@pytest.fixture
def ordered(whole_demo, face):
    """The face with something else said about its order."""

    def make(**changes):
        plan = replace(whole_demo, ordering=replace(whole_demo.ordering, **changes))
        return design_of(plan, "face", films=face.films)

    return make


@pytest.fixture(scope="session")
def check():
    """Checks that an order keeps what it must."""
    return keeps


def keeps(arranged):
    """Every step follows the one before, every constraint holds, and the sums are those of the steps."""
    for one, other in itertools.pairwise(arranged.steps):
        assert other.start_s == pytest.approx(one.end_s, abs=0.11)
    start = {step.id: step.start_s for step in arranged.steps}
    end = {step.id: step.end_s for step in arranged.steps}
    for lag in arranged.lags:
        if lag.before in end and lag.after in start:
            assert start[lag.after] - end[lag.before] >= lag.least_s - 0.11, lag
            if not arranged.missed:
                assert start[lag.after] - end[lag.before] <= lag.most_s + 0.11, lag
    assert arranged.sums == sums_of(arranged.steps, arranged.jobs)
    assert arranged.sums.total_s == pytest.approx(arranged.sums.busy_s + arranged.sums.waiting_s, abs=0.2)
    assert sum(step.kind is StepKind.CHANGE for step in arranged.steps) == arranged.sums.changes
