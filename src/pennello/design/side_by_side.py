"""Numbered things done on a few threads, each as soon as those that it waits for are done."""

from __future__ import annotations

import heapq
import threading
from collections.abc import Callable, Sequence

from pennello.breath import in_this_breath


def side_by_side(waits_for: Sequence[Sequence[int]], do: Callable[[int], object], threads: int = 2) -> None:
    """Do each thing once, the lowest number that may begin first; the thread that asks is one of those that work.

    Parameters
    ----------
    waits_for
        For each thing the numbers of those before it that must be done first.
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
    if team.failure is not None:
        raise team.failure


class _Team:
    def __init__(self, waits_for: Sequence[Sequence[int]], do: Callable[[int], object]) -> None:
        self._do, self._turn = do, threading.Condition()
        self._open = [len(earlier) for earlier in waits_for]
        self._followers: list[list[int]] = [[] for _ in waits_for]
        for number, earlier in enumerate(waits_for):
            for other in earlier:
                self._followers[other].append(number)
        self._ready = [number for number, count in enumerate(self._open) if count == 0]  # rising, and so a heap
        self._left = len(self._open)
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
            while not self._ready and self._left and self.failure is None:
                self._turn.wait()
            if not self._left or self.failure is not None:
                return None
            self._left -= 1
            return heapq.heappop(self._ready)

    def _done(self, number: int) -> None:
        with self._turn:
            for follower in self._followers[number]:
                self._open[follower] -= 1
                if self._open[follower] == 0:
                    heapq.heappush(self._ready, follower)
            if self._ready or not self._left:
                self._turn.notify_all()

    def _fail(self, failure: BaseException) -> None:
        with self._turn:
            self.failure = self.failure or failure
            self._turn.notify_all()
