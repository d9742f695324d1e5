"""Numbered things done on a few threads, each as soon as those that it waits for are done."""

from __future__ import annotations

import heapq
import threading
from collections.abc import Callable, Sequence
from graphlib import TopologicalSorter

from pennello.breath import in_this_breath


def side_by_side(waits_for: Sequence[Sequence[int]], do: Callable[[int], object], threads: int = 2) -> None:
    """Do each thing once, the lowest number that may begin first; the thread that asks is one of those that work.

    Parameters
    ----------
    waits_for
        For each thing the numbers of those that must be done before it; no circle.
    do
        Called with a number, on any of the threads, in the breath of the one that asks; what it raises is raised
        here, once those that are at work are done, and nothing more is begun.
    threads
        How many work, 1 or more.
    """
    team = _Team(waits_for, do)
    others = [threading.Thread(target=in_this_breath(team.work), daemon=True) for _ in range(threads - 1)]
    for one in others:
        one.start()
    team.work()
    for one in others:
        one.join()
    failure, team.failure = team.failure, None
    if failure is not None:
        try:
            raise failure
        finally:
            del failure  # it knows this call, and what it was about: a ring that holds a film


class _Team:
    def __init__(self, waits_for: Sequence[Sequence[int]], do: Callable[[int], object]) -> None:
        self._do, self._turn = do, threading.Condition()
        self._sorter = TopologicalSorter(dict(enumerate(waits_for)))
        self._sorter.prepare()
        self._ready = sorted(self._sorter.get_ready())
        self.failure: BaseException | None = None

    def work(self) -> None:
        """Do one thing after the other until none is left for this thread."""
        try:
            while (number := self._take()) is not None:
                self._do(number)
                self._done(number)
        except BaseException as failure:  # noqa: BLE001 - raised again by the thread that asks
            self._fail(failure)

    def _take(self) -> int | None:
        """Return what is to be done next, once something may begin; None where nothing is left."""
        with self._turn:
            while not self._ready and self._sorter.is_active() and self.failure is None:
                self._turn.wait()
            return heapq.heappop(self._ready) if self._ready and self.failure is None else None

    def _done(self, number: int) -> None:
        with self._turn:
            self._sorter.done(number)
            for follower in self._sorter.get_ready():
                heapq.heappush(self._ready, follower)
            self._turn.notify_all()

    def _fail(self, failure: BaseException) -> None:
        with self._turn:
            self.failure = self.failure or failure
            self._turn.notify_all()
