"""Putting things on a chart one after the other: a worker finds the room and the loads for each."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QObject, Signal

from pennello.design.plan import Plan
from pennello.session.document import Document
from pennello.session.jobs import Jobs
from pennello.ui.work import begin

Put = tuple[Plan, str]


@dataclass(frozen=True, slots=True, eq=False)
class _Wanted:
    chart: str
    make: Callable[[Plan], Put]
    then: str
    turn: int


class Putting(QObject):
    """What is wanted on the charts of a plan, in the order in which it was asked for.

    The next one is worked out once the one before lies there: it takes other room, and other loads.

    Signals
    -------
    made(Plan, str, str)
        The plan with one thing more, the chart that it lies on and its id.
    said(str)
        That it is there, or why it cannot be.
    """

    made = Signal(object, str, str)
    said = Signal(str)

    def __init__(self, document: Document, parent: QObject) -> None:
        super().__init__(parent)
        self._document, self._jobs = document, Jobs()
        self._wanted: deque[_Wanted] = deque()

    def put(self, chart: str, make: Callable[[Plan], Put], then: str = "") -> None:
        """Have one thing more on a chart.

        Parameters
        ----------
        make
            Returns a plan with it, and its id; done on a worker.
        then
            What is said when it is there.
        """
        self._wanted.append(_Wanted(chart, make, then, self._document.started_over))
        if len(self._wanted) == 1:
            self._begin()

    def leave(self) -> None:
        """The window closes."""
        self._wanted.clear()
        self._jobs.leave()

    def _begin(self) -> None:
        """Have the first one worked out; those that were wanted on a plan that was open before are for nobody."""
        while self._wanted and self._wanted[0].turn != self._document.started_over:
            self._wanted.popleft()
        if not self._wanted:
            return
        first, base = self._wanted[0], self._document.committed

        def take(found: Put) -> None:
            if self._document.committed is base and first.turn == self._document.started_over:
                self._wanted.popleft()
                self.made.emit(found[0], first.chart, found[1])
                if first.then:
                    self.said.emit(first.then)
            self._begin()  # the next one; or the same, since something was changed meanwhile

        begin(self._jobs, "put", self, lambda _: first.make(base), finished=take, failed=self._fail)

    def _fail(self, sentence: str) -> None:
        self._wanted.popleft()
        self.said.emit(sentence)
        self._begin()
