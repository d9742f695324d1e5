"""What was done, and can be taken back and done again: of a plan, of a kit, of whatever is edited in steps."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

State = TypeVar("State")

MERGE_WITHIN_S = 1.5
"""Steps with the same key that follow each other so soon become one."""

MOST_UNDO = 500


@dataclass(frozen=True, slots=True)
class HistoryStep(Generic[State]):
    """One step: what undo calls it, and what was before and after it."""

    label: str
    before: State
    after: State
    merge: str
    at_s: float


class Undoable:
    """Whoever keeps a history, and says what it would take back."""

    _history: History[Any]

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self._history.undo_label

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""
        return self._history.redo_label

    @property
    def started_over(self) -> int:
        """How often something else was begun or opened: what a worker brings for the one before is for nobody."""
        return self._history.started_over


class History(Generic[State]):
    """Steps in their order."""

    def __init__(self, clock: Callable[[], float] = time.monotonic, most: int = MOST_UNDO) -> None:
        self._clock, self._most = clock, most
        self._done: list[HistoryStep[State]] = []
        self._undone: list[HistoryStep[State]] = []
        self.started_over = 0

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self._done[-1].label if self._done else None

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""
        return self._undone[-1].label if self._undone else None

    def add(self, label: str, before: State, after: State, merge: str = "") -> None:
        """Add a step; those in quick succession with the same `merge` become one ("" never merges)."""
        now, last = self._clock(), self._done[-1] if self._done else None
        if last and merge and last.merge == merge and now - last.at_s < MERGE_WITHIN_S:
            self._done[-1] = HistoryStep(label, last.before, after, merge, now)
        else:
            self._done = [*self._done[-self._most + 1 :], HistoryStep(label, before, after, merge, now)]
        self._undone.clear()

    def take_back(self, show: Callable[[State, State], None]) -> bool:
        """Take back the last step if there is one; `show` is given what was and what is, and may refuse by raising."""
        return self._moved(self._done, self._undone, lambda step: show(step.after, step.before))

    def do_again(self, show: Callable[[State, State], None]) -> bool:
        """Do the step again that was taken back, if there is one."""
        return self._moved(self._undone, self._done, lambda step: show(step.before, step.after))

    @staticmethod
    def _moved(
        source: list[HistoryStep[State]], target: list[HistoryStep[State]], show: Callable[[HistoryStep[State]], None]
    ) -> bool:
        if not source:
            return False
        target.append(source.pop())  # before it is shown: who follows asks what undo offers
        try:
            show(target[-1])
        except BaseException:
            source.append(target.pop())
            raise
        return True

    @property
    def count(self) -> tuple[int, int]:
        """How many steps can be taken back, and how many done again."""
        return len(self._done), len(self._undone)

    def clear(self) -> None:
        """Forget all steps: something else is begun."""
        self.started_over += 1
        self._done.clear()
        self._undone.clear()
