"""The order of one hand against brute force, Held & Karp, networkx, and cases whose best is known."""

import itertools
import math

import networkx  # type: ignore[import-untyped]
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.order.bound import critical_path, lower_bound
from pennello.order.improve import improve
from pennello.order.problem import (
    NEVER,
    START,
    lawful,
    make_problem,
    span,
    time_order,
)
from pennello.order.search import better, exact_order, first_order, improved


def by_hand(problem, order):
    """Starts of an order by relaxing every difference until none moves; None where they contradict each other.

    Written apart from the program: Bellman (1958), Ford (1956) over start(b) - start(a) >= weight.
    """
    starts = dict.fromkeys(order, 0)
    edges = [(None, order[0], problem.setup[START][order[0]])]
    edges += [(a, b, problem.lasts[a] + problem.setup[a][b]) for a, b in itertools.pairwise(order)]
    for job in order:
        for one, least, most in problem.before[job]:
            edges.append((one, job, problem.lasts[one] + least))
            if most < NEVER:
                edges.append((job, one, -(problem.lasts[one] + most)))
    for _ in range(len(edges) + 1):
        moved = False
        for a, b, weight in edges:
            at = (0 if a is None else starts[a]) + weight
            if at > starts[b]:
                starts[b], moved = at, True
        if not moved:
            return max(starts[job] + problem.lasts[job] for job in order)
    return None


def brute(problem):
    """The shortest time of all lawful orders that meet every window."""
    best = None
    for order in itertools.permutations(range(problem.count)):
        if lawful(problem, order):
            total = by_hand(problem, order)
            if total is not None and (best is None or total < best):
                best = total
    return best


@pytest.mark.parametrize("seed", range(24))
def test_up_to_seven_jobs_are_as_good_as_brute_force(random_problem, seed):
    problem = random_problem(seed, 4 + seed % 4, windows=0.3)
    found = exact_order(problem, first_order(problem, range(problem.count)))
    expected = brute(problem)
    if expected is None:
        assert found.late > 0
    else:
        assert (found.late, found.total) == (0, expected)


@pytest.mark.parametrize("seed", [100, 101, 102])
def test_nine_free_jobs_are_as_good_as_held_and_karp(random_problem, seed):
    """Sequence-dependent setups alone: the dynamic program of Held & Karp 1962 over sets of jobs."""
    problem = random_problem(seed, 9, windows=0.0, lags=0.0)
    ends = {(frozenset([job]), job): problem.setup[START][job] + problem.lasts[job] for job in range(9)}
    for size in range(2, 10):
        for group in itertools.combinations(range(9), size):
            for job in group:
                rest = frozenset(group) - {job}
                ends[frozenset(group), job] = min(
                    ends[rest, one] + problem.setup[one][job] + problem.lasts[job] for one in rest
                )
    expected = min(ends[frozenset(range(9)), job] for job in range(9))
    assert exact_order(problem, first_order(problem)).total == expected


@pytest.mark.parametrize("seed", range(4))
def test_restarts_and_cp_sat_find_what_all_orders_find(random_problem, seed):
    problem = random_problem(seed + 40, 7)
    start = first_order(problem, range(7))
    best = exact_order(problem, start)
    assert improved(problem, start, 0.3).cost == best.cost
    answer = improve(problem, start, 5.0)
    assert answer.timing.cost == best.cost
    assert answer.gap == 0 or best.late > 0  # no order meets its windows: CP-SAT has no answer


def test_release_times_are_kept_by_the_earliest_first():
    """1 | r_j | Cmax: taking jobs by their release is best (Pinedo, Scheduling, ch. 3); the optimum is then known."""
    release, lasts = [0, 300, 120, 700, 50], [100, 150, 200, 80, 60]
    table = [[0] * 6 for _ in range(7)]
    lags = [(0, job + 1, release[job], NEVER) for job in range(5)]
    problem = make_problem([str(n) for n in range(6)], [0, *lasts], table, lags)
    now = 0
    for job in sorted(range(5), key=lambda one: release[one]):
        now = max(now, release[job]) + lasts[job]
    assert exact_order(problem, first_order(problem)).total == now == 780


def test_coupled_tasks_fill_each_others_gaps():
    """Two pairs with a gap of 10 between tasks of 5: interleaved they take 25, else 40 (Shapiro 1980)."""
    lags = [(0, 1, 100, NEVER), (2, 3, 100, NEVER)]
    problem = make_problem(list("abcd"), [50] * 4, [[0] * 4 for _ in range(5)], lags)
    assert time_order(problem, (0, 1, 2, 3)).total == 400
    assert exact_order(problem, first_order(problem)).total == 250


@pytest.mark.parametrize("seed", range(5))
def test_the_longest_chain_is_the_critical_path_of_networkx(random_problem, seed):
    problem = random_problem(seed, 14, windows=0.0)
    graph = networkx.DiGraph()
    for job in range(problem.count):
        first = min(problem.setup[one][job] for one in range(-1, problem.count) if one != job)
        graph.add_edge("start", job, weight=first + problem.lasts[job])
        for one, least, _ in problem.before[job]:
            graph.add_edge(one, job, weight=least + problem.lasts[job])
    assert critical_path(problem) == networkx.dag_longest_path_length(graph)


@pytest.mark.parametrize("seed", range(3))
def test_the_first_order_is_never_worse_than_the_painters_and_restarts_never_worse_than_that(random_problem, seed):
    problem = random_problem(seed, 30)
    own = time_order(problem, range(30))
    first = first_order(problem, range(30))
    later = improved(problem, first, 0.2)
    assert not better(own, first)
    assert not better(first, later)
    assert later.cost >= lower_bound(problem)


def test_a_report_that_raises_stops_both_searches(random_problem):
    problem = random_problem(3, 30)
    first = first_order(problem, range(30))

    class EnoughError(Exception):
        pass

    def stop(part, words):
        raise EnoughError

    for search in (lambda: improved(problem, first, 9.0, report=stop), lambda: improve(problem, first, 9.0, stop)):
        with pytest.raises(EnoughError):
            search()


@given(st.integers(0, 10_000), st.integers(1, 12))
def test_every_order_that_is_found_satisfies_every_constraint(random_problem, seed, count):
    problem = random_problem(seed, count, windows=0.15)
    found = improved(problem, first_order(problem, range(count)), 0.02)
    assert lawful(problem, found.order)
    now, last, late = 0, START, 0
    for job in found.order:
        assert found.starts[job] >= now + problem.setup[last][job]
        for one, least, most in problem.before[job]:
            since = found.starts[job] - found.starts[one] - problem.lasts[one]
            assert since >= least
            late += max(0, since - most)
        now, last = found.starts[job] + problem.lasts[job], job
    assert late == found.late
    assert found.total == now
    if late == 0:
        assert by_hand(problem, found.order) == found.total


def test_a_job_waits_so_that_another_comes_within_its_window():
    """b must start within 20 s of a, but also 100 s after c: a is pushed later, nothing is late."""
    lags = [(0, 1, 0, 200), (2, 1, 1000, NEVER)]
    problem = make_problem(list("abc"), [10, 10, 10], [[0] * 3 for _ in range(4)], lags)
    found = time_order(problem, (2, 0, 1))
    assert (found.late, found.starts) == (0, (800, 1010, 0))
    impossible = make_problem(list("ab"), [10, 10], [[0, 500], [0, 0], [0, 0]], [(0, 1, 0, 200)])
    assert time_order(impossible, (0, 1)).late == 300


def test_where_a_job_may_go():
    problem = make_problem(list("abcd"), [10] * 4, [[0] * 4 for _ in range(5)], [(0, 1, 0, NEVER), (1, 3, 0, NEVER)])
    order = (0, 2, 1, 3)
    assert span(problem, order, 1) == (1, 2)
    assert span(problem, order, 2) == (0, 3)
    assert not lawful(problem, (1, 0, 2, 3))
    assert not lawful(problem, (0, 0, 2, 3))


def test_nothing_to_order():
    empty = make_problem([], [], [[]])
    assert time_order(empty, ()).total == 0
    assert lower_bound(empty) == 0
    one = make_problem(["a"], [50], [[0], [30]])
    assert first_order(one).total == 80
    assert improve(one, first_order(one), 1.0).proven
    assert not math.isnan(improve(one, first_order(one), 1.0).gap)
