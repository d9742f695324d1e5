"""OR-Tools CP-SAT as the improver: the same problem as a circuit of jobs, with the gap to its bound.

Perron & Didier, CP-SAT (OR-Tools); the circuit of jobs with setup times follows the usual model of sequence-dependent
scheduling. It begins from the order that is there and is never the only solver.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor, wait
from dataclasses import dataclass
from typing import Any

from pennello.order.bound import lower_bound
from pennello.order.problem import NEVER, START, Problem, Timing, time_order
from pennello.order.search import better
from pennello.phrases import mark, phrase

Report = Callable[[float, str], None]

WORKERS = 2
_SEED, _LOOK_S = 1, 0.1


@dataclass(frozen=True, slots=True)
class Improved:
    """The best order known, and a time in tenths of a second that no order can beat; `by` says who found it."""

    timing: Timing
    bound: int
    proven: bool
    by: str

    @property
    def gap(self) -> float:
        """How far the cost may be above the best there is, as a share of it; 0 when it is proven."""
        cost = self.timing.paid
        return 0.0 if self.proven or cost <= 0 else max(0.0, (cost - self.bound) / cost)


def improve(
    problem: Problem,
    start: Timing,
    seconds: float,
    report: Report | None = None,
    found: Callable[[Timing], None] | None = None,
) -> Improved:
    """Return the start, or what CP-SAT finds that is better within a time, with the bound that it proves.

    Parameters
    ----------
    report
        Called now and then while it searches; may raise to stop.
    """
    bound = lower_bound(problem)
    if problem.count < 2:
        return Improved(start, start.cost, proven=True, by=mark("nothing to order"))
    try:
        from ortools.sat.python import cp_model  # noqa: PLC0415 - OR-Tools takes a second to import
    except ImportError:
        return Improved(start, bound, proven=start.cost <= bound, by="restarts")
    model, starts = _model(cp_model, problem, start)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = WORKERS
    solver.parameters.random_seed = _SEED
    watcher = _watcher(cp_model, problem, starts, start, found)
    status = _solved(solver, model, watcher, seconds, report)
    best, by = start, "restarts"
    if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        order = sorted(range(problem.count), key=lambda job: solver.value(starts[job]))
        timed = time_order(problem, order)
        if better(timed, best):
            best, by = timed, "CP-SAT"
    proved = int(solver.best_objective_bound) if status in (cp_model.OPTIMAL, cp_model.FEASIBLE) else 0
    bound = max(bound, proved)
    return Improved(best, bound, proven=status == cp_model.OPTIMAL and best.cost <= bound, by=by)


def _model(cp_model: Any, problem: Problem, start: Timing) -> tuple[Any, list[Any]]:
    """Return the model and the starts of the jobs."""
    model = cp_model.CpModel()
    count = problem.count
    horizon = max(start.total, 1) + 1 if start.late == 0 else 4 * start.total + 1
    starts = [model.new_int_var(0, horizon, f"s{job}") for job in range(count)]
    whole = model.new_int_var(0, horizon, "whole")
    at = {job: place for place, job in enumerate(start.order)}
    circuit, disliked = _arcs(model, problem, starts, at)
    for job in range(count):
        end = model.new_bool_var(f"e{job}")
        circuit.append((job + 1, 0, end))
        model.add(whole >= starts[job] + problem.lasts[job] + problem.tail)
        model.add_hint(starts[job], start.starts[job])
        model.add_hint(end, int(at[job] == count - 1))
        for one, least, most in problem.before[job]:
            model.add(starts[job] >= starts[one] + problem.lasts[one] + least)
            if most < NEVER:
                model.add(starts[job] <= starts[one] + problem.lasts[one] + most)
    model.add_circuit(circuit)
    model.add_no_overlap(
        [model.new_fixed_size_interval_var(starts[job], problem.lasts[job], f"i{job}") for job in range(count)]
    )
    if problem.most_total < NEVER:
        model.add(whole <= problem.most_total)
    model.add(whole + sum(disliked) >= lower_bound(problem))
    model.minimize(whole + sum(disliked))
    return model, starts


def _arcs(
    model: Any, problem: Problem, starts: Sequence[Any], at: Mapping[int, int]
) -> tuple[list[tuple[int, int, Any]], list[Any]]:
    """Return which job may come right after which, with what that costs in time, and the terms of what is disliked."""
    count = problem.count
    circuit: list[tuple[int, int, Any]] = []
    disliked: list[Any] = []
    for one in range(-1, count):
        for job in range(count):
            if one == job or (problem.before[job] if one == START else one in problem.after[job]):
                continue
            if one >= 0 and any(between in problem.after[one] for between, _, _ in problem.before[job]):
                continue  # something must lie between them
            arc = model.new_bool_var(f"a{one},{job}")
            circuit.append((one + 1, job + 1, arc))
            gap = problem.setup[one][job]
            if one == START:
                model.add(starts[job] >= gap).only_enforce_if(arc)
            else:
                model.add(starts[job] >= starts[one] + problem.lasts[one] + gap).only_enforce_if(arc)
            follows = (at[job] == 0) if one == START else at[job] == at[one] + 1
            model.add_hint(arc, int(follows))
            if problem.dislike[one][job]:
                disliked.append(problem.dislike[one][job] * arc)
    return circuit, disliked


def _solved(solver: Any, model: Any, watcher: Any, seconds: float, report: Report | None) -> Any:
    """Let the solver work beside this thread, so that a report that raises stops it; return its status."""
    begun = time.monotonic()
    with ThreadPoolExecutor(1, thread_name_prefix="pennello-cp-sat") as pool:
        running = pool.submit(solver.solve, model, watcher)
        try:
            while not wait([running], timeout=_LOOK_S).done:
                if report is not None:
                    passed = min((time.monotonic() - begun) / seconds, 1.0)
                    report(passed, phrase("{total:.0f} s so far", total=watcher.best.total / 10))
        finally:
            solver.stop_search()
        return running.result()


def _watcher(
    cp_model: Any, problem: Problem, starts: list[Any], start: Timing, found: Callable[[Timing], None] | None
) -> Any:
    """Return what is called with each better order that the solver finds.

    Its class is made anew each time, and waits for a collector: what it knows belongs to the one watcher.
    """

    class Watcher(cp_model.CpSolverSolutionCallback):  # type: ignore[misc]
        best: Timing

        def on_solution_callback(self) -> None:
            order = sorted(range(self.problem.count), key=lambda job: self.value(self.starts[job]))
            timed = time_order(self.problem, order)
            if better(timed, self.best):
                self.best = timed
                if self.found is not None:
                    self.found(timed)

    watcher = Watcher()
    watcher.problem, watcher.starts, watcher.best, watcher.found = problem, starts, start, found
    return watcher
