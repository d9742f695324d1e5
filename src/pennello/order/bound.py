"""Times that no order can beat: from what the hand must do between jobs, and from what must wait.

Three bounds, the greatest counts: the cheapest way to come to every job from some other (the least arborescence of
Chu & Liu 1965 and Edmonds 1967), all jobs on one hand that may be taken up again (Jackson's preemptive schedule with
heads and tails, Carlier 1982), and the longest chain of waits (Kelley & Walker 1959).
"""

from __future__ import annotations

import heapq

import numpy as np
from numpy.typing import NDArray

from pennello.kept import kept_small
from pennello.order.problem import NEVER, START, Problem

Costs = NDArray[np.int64]


@kept_small
def lower_bound(problem: Problem) -> int:
    """Return a time, tenths of a second, that no order can beat, switches that are not liked included.

    Every order comes to each job from one other or from the start, so its setups weigh at least as much as the least
    arborescence; a setup is as long as the lag between two jobs where that is longer.
    """
    if not problem.count:
        return problem.tail
    work = sum(problem.lasts) + least_arborescence(_ways(problem))
    return max(work, preemptive(problem), critical_path(problem)) + problem.tail


def _ways(problem: Problem) -> Costs:
    """Return what it costs to come from one job (row, 0 the start) straight to another (column less one)."""
    count = problem.count
    setup, dislike = (np.array(table, np.int64).reshape(count + 1, count) for table in (problem.setup, problem.dislike))
    lags, after = np.zeros((count, count), np.int64), np.zeros((count, count), bool)
    for job, row in enumerate(problem.before):
        for one, least, _ in row:
            lags[one, job] = least
    for job, later in enumerate(problem.after):
        after[job, list(later)] = True
    between = after.astype(np.float32) @ after.astype(np.float32) > 0
    costs = np.full((count + 1, count + 1), NEVER, np.int64)
    straight = ~(np.eye(count, dtype=bool) | after.T | between)  # not the other way round, with nothing between them
    costs[1:, 1:] = np.where(straight, np.maximum(setup[:-1], lags) + dislike[:-1], NEVER)
    free = np.array([not row for row in problem.before], bool)
    costs[0, 1:] = np.where(free, setup[START] + dislike[START], NEVER)
    return costs


def least_arborescence(costs: Costs) -> int:
    """Return the weight of the least arborescence from node 0 to all others, shape (n, n), from row to column.

    Each node takes its cheapest way in; what goes round in a circle becomes one node, its ways in dearer by nothing
    and cheaper by what was taken already, until nothing goes round.
    """
    costs = costs.copy()
    total = 0
    while len(costs) > 1:
        np.fill_diagonal(costs, NEVER)
        least = costs.min(axis=0)
        least[0] = 0
        total += int(least.sum())
        parents = costs.argmin(axis=0)
        costs = np.where(costs >= NEVER, NEVER, costs - least)
        circle = _circle(parents)
        if not circle:
            return total
        rest = [node for node in range(len(costs)) if node not in circle]
        smaller = np.full((len(rest) + 1, len(rest) + 1), NEVER, np.int64)
        smaller[:-1, :-1] = costs[np.ix_(rest, rest)]
        smaller[:-1, -1] = costs[np.ix_(rest, circle)].min(axis=1)
        smaller[-1, :-1] = costs[np.ix_(circle, rest)].min(axis=0)
        costs = smaller
    return total


def _circle(parents: NDArray[np.intp]) -> list[int]:
    """Return nodes that come from each other in a circle, or none; node 0 comes from nowhere."""
    done = {0}
    for begin in range(1, len(parents)):
        way: list[int] = []
        node = begin
        while node not in done and node not in way:
            way.append(node)
            node = int(parents[node])
        if node in way:
            return way[way.index(node) :]
        done.update(way)
    return []


def preemptive(problem: Problem) -> int:
    """Return the end of Jackson's preemptive schedule, without what comes after the last job.

    Each job takes its own time and its shortest setup; it may begin at its head, and after it comes its tail. Among
    the jobs that may begin the one with the longest tail goes first, and gives way to a longer one.
    """
    begins, rests, setups = heads(problem), tails(problem), least_setups(problem)
    coming = sorted((begins[job] - setups[job], job) for job in range(problem.count))
    left = [problem.lasts[job] + setups[job] for job in range(problem.count)]
    ready: list[tuple[int, int]] = []
    now = best = 0
    while coming or ready:
        if not ready:
            now = max(now, coming[0][0])
        while coming and coming[0][0] <= now:
            _, job = coming.pop(0)
            heapq.heappush(ready, (-rests[job], job))
        tail, job = ready[0]
        until = min(now + left[job], coming[0][0]) if coming else now + left[job]
        left[job] -= until - now
        now = until
        if left[job] == 0:
            heapq.heappop(ready)
            best = max(best, now - tail)
    return best


def critical_path(problem: Problem) -> int:
    """Return the longest chain of jobs and least lags, without what comes after the last job."""
    return max((head + last for head, last in zip(heads(problem), problem.lasts, strict=True)), default=0)


def least_setups(problem: Problem) -> list[int]:
    """Return for each job the shortest way to come to it from any other, or from the start."""
    if not problem.count:
        return []
    setup = np.array(problem.setup, np.int64)
    setup[range(problem.count), range(problem.count)] = NEVER
    return [int(least) for least in setup.min(axis=0)]


def heads(problem: Problem) -> list[int]:
    """Return for each job before when it cannot be touched first."""
    found = least_setups(problem)
    for job in sorted(range(problem.count), key=lambda one: -len(problem.after[one])):
        ready = [found[one] + problem.lasts[one] + least for one, least, _ in problem.before[job]]
        found[job] = max([found[job], *ready])
    return found


def tails(problem: Problem) -> list[int]:
    """Return for each job how long at least it goes on after its end: the longest chain of work and waits."""
    found = [0] * problem.count
    for job in sorted(range(problem.count), key=lambda one: len(problem.after[one])):
        for one, least, _ in problem.before[job]:
            found[one] = max(found[one], least + problem.lasts[job] + found[job])
    return found
