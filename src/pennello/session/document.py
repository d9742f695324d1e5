"""The one mutable thing: the open plan with its history. Views follow its signals.

Three speeds: `preview` while a hand drags, nothing while it rests, `commit` (or `edit`) for what undo takes back.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from psygnal import Signal

from pennello.design.fresh import fresh_plan
from pennello.design.plan import Plan
from pennello.files.plan_json import SUFFIX, read_plan, write_plan

MOST_UNDO = 500
MERGE_WITHIN_S = 1.5


@dataclass(frozen=True, slots=True)
class _Step:
    label: str
    before: Plan
    after: Plan
    merge: str
    at_s: float


class Document:
    """The open plan.

    Signals
    -------
    changed
        The plan shown is another one: an edit, a preview, undo, redo, new or open.
    state_changed
        Path, saved state or what undo offers is another.
    """

    changed = Signal()
    state_changed = Signal()

    def __init__(self, plan: Plan | None = None, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._committed = plan if plan is not None else fresh_plan()
        self._preview: Plan | None = None
        self._saved: Plan | None = self._committed
        self._done: list[_Step] = []
        self._undone: list[_Step] = []
        self.path: Path | None = None

    @property
    def plan(self) -> Plan:
        """The plan as shown: the preview while there is one."""
        return self._preview if self._preview is not None else self._committed

    @property
    def committed(self) -> Plan:
        """The plan without the preview."""
        return self._committed

    @property
    def dirty(self) -> bool:
        """Whether there is anything that is not in the file."""
        return self._committed is not self._saved and self._committed != self._saved

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self._done[-1].label if self._done else None

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""
        return self._undone[-1].label if self._undone else None

    def preview(self, plan: Plan | None) -> None:
        """Show a plan without making it a step; None shows the committed one again."""
        if plan is self._preview:
            return
        self._preview = plan
        self.changed.emit()

    def commit(self, label: str, merge: str = "") -> None:
        """Make the preview, if there is one, a step."""
        if self._preview is not None:
            self.edit(label, self._preview, merge)

    def edit(self, label: str, plan: Plan, merge: str = "") -> None:
        """Make a plan the committed one.

        Parameters
        ----------
        label
            What undo will say.
        merge
            Steps in quick succession with the same key become one ("" never merges).
        """
        before, self._preview = self._committed, None
        if plan == before:
            self.changed.emit()
            return
        now = self._clock()
        last = self._done[-1] if self._done else None
        if last and merge and last.merge == merge and now - last.at_s < MERGE_WITHIN_S:
            self._done[-1] = _Step(label, last.before, plan, merge, now)
        else:
            self._done = [*self._done[-MOST_UNDO + 1 :], _Step(label, before, plan, merge, now)]
        self._undone.clear()
        self._show(plan)

    def undo(self) -> None:
        """Take back the last step."""
        if self._done:
            step = self._done.pop()
            self._undone.append(step)
            self._show(step.before)

    def redo(self) -> None:
        """Do the step again that undo took back."""
        if self._undone:
            step = self._undone.pop()
            self._done.append(step)
            self._show(step.after)

    def replace(self, plan: Plan, path: Path | None = None, *, saved: bool = True) -> None:
        """Start over with another plan; `saved` says whether the file holds it."""
        self._saved = plan if saved else None
        self._done.clear()
        self._undone.clear()
        self.path = path
        self._show(plan)

    def open(self, path: Path) -> None:
        """Open a file; a bad one leaves everything as it was.

        Raises
        ------
        FileProblemError
            If it cannot be read as a plan.
        """
        self.replace(read_plan(path), path)

    def save(self, path: Path | None = None) -> Path:
        """Write the plan and return where; without a path to where it came from.

        Raises
        ------
        FileProblemError
            If it cannot be written; the file that was there is untouched.
        """
        target = path or self.path
        if target is None:
            raise ValueError("a new plan needs a path")
        if not target.suffix:
            target = target.with_suffix(SUFFIX)
        write_plan(self._committed, target)
        self.path, self._saved = target, self._committed
        self.state_changed.emit()
        return target

    def _show(self, plan: Plan) -> None:
        self._committed, self._preview = plan, None
        self.changed.emit()
        self.state_changed.emit()
