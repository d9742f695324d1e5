"""Bounds on the time of all orders: against networkx, all orders of small problems, and a textbook example."""

import itertools

import networkx  # type: ignore[import-untyped]
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from pennello.order.bound import critical_path, least_arborescence, lower_bound, preemptive
from pennello.order.improve import improve
from pennello.order.problem import NEVER, lawful, make_problem, time_order
from pennello.order.search import exact_order, first_order


@given(st.integers(2, 9).flatmap(lambda n: arrays(np.int64, (n, n), elements=st.integers(0, 50))))
def test_the_least_arborescence_is_networkxs(costs):
    """networkx: Edmonds' algorithm on the graph without ways into the root."""
    graph = networkx.DiGraph()
    graph.add_nodes_from(range(len(costs)))
    for one, other in itertools.permutations(range(len(costs)), 2):
        if other != 0:
            graph.add_edge(one, other, weight=int(costs[one, other]))
    found = networkx.minimum_spanning_arborescence(graph)
    assert least_arborescence(costs) == sum(weight for _, _, weight in found.edges(data="weight"))


def test_ways_that_do_not_exist_are_not_taken():
    costs = np.full((4, 4), NEVER, np.int64)
    costs[0, 1], costs[1, 2], costs[2, 3], costs[3, 1] = 7, 2, 3, 1
    assert least_arborescence(costs) == 12


@pytest.mark.parametrize("seed", range(30))
def test_no_order_beats_the_bound(random_problem, seed):
    """All orders of up to six jobs, with lags and without windows."""
    problem = random_problem(seed, 3 + seed % 4, windows=0.0)
    orders = [order for order in itertools.permutations(range(problem.count)) if lawful(problem, order)]
    best = min(time_order(problem, order).total for order in orders)
    assert max(critical_path(problem), preemptive(problem)) <= best
    assert lower_bound(problem) <= best
    assert lower_bound(problem) >= 0.6 * best  # it says something


HEADS = (10, 13, 11, 20, 30, 0, 30)
LASTS = (5, 6, 7, 4, 3, 6, 2)
TAILS = (7, 26, 24, 21, 8, 17, 0)


def carlier():
    """Jobs with heads and tails, as a gate that opens all and an end that waits for all."""
    lags = [(0, job + 1, head, NEVER) for job, head in enumerate(HEADS)]
    lags += [(job + 1, 8, tail, NEVER) for job, tail in enumerate(TAILS)]
    return make_problem(list("gabcdefge"), [0, *LASTS, 0], [[0] * 9 for _ in range(10)], lags)


def test_heads_and_tails_of_the_textbook():
    """Carlier 1982, The one-machine sequencing problem: the best is 50, Schrage's schedule 53 (values from memory)."""
    problem = carlier()
    assert exact_order(problem, first_order(problem, range(9))).total == 50
    assert time_order(problem, (0, 6, 1, 2, 3, 4, 5, 7, 8)).total == 53
    assert critical_path(problem) < preemptive(problem) == lower_bound(problem) <= 50


@pytest.mark.parametrize("seed", [5, 6])
def test_cp_sat_never_proves_less_than_the_bound(random_problem, seed):
    problem = random_problem(seed, 12, windows=0.0)
    found = improve(problem, first_order(problem, range(12)), 2.0)
    assert lower_bound(problem) <= found.bound <= found.timing.cost
    assert found.gap == 0 or found.gap < 0.2


def test_nothing_takes_no_time():
    empty = make_problem([], [], [[]], tail=7)
    assert (lower_bound(empty), preemptive(empty), critical_path(empty)) == (7, 0, 0)
