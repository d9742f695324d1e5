"""The one mutable thing: the open plan with its history. Views follow its signals.

Three speeds: `preview` while a hand drags, nothing while it rests, `commit` (or `edit`) for what undo takes back.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from psygnal import Signal

from pennello.design.fresh import fresh_plan
from pennello.design.plan import Plan
from pennello.design.soundness import check_plan
from pennello.disk import NO_FILE, FileMark, is_file, mark_of, mark_on_disk, read_bytes, write_bytes
from pennello.errors import FileProblemError, PennelloError
from pennello.files.plan_json import SUFFIX, parse_plan, sound_bytes
from pennello.limits import MOST_PLAN_BYTES
from pennello.phrases import phrase
from pennello.session.history import History, Undoable


class ChangedOnDiskError(FileProblemError):
    """Somebody else has written the plan's file since it was read."""

    def __init__(self, path: Path) -> None:
        super().__init__(
            path,
            phrase("another program or window has changed this file since it was opened; nothing was written over it."),
        )


def with_suffix(path: Path) -> Path:
    """Return where a plan is really written: a name without the ending of plans gets it, unless that file is there.

    >>> with_suffix(Path("rose v1.2")).name
    'rose v1.2.pennello'
    """
    known = path.suffix.lower() == SUFFIX or not path.name or is_file(path)
    return path if known else path.with_name(path.name + SUFFIX)


class Document(Undoable):
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
        self._history: History[Plan] = History(clock)
        self._committed = plan if plan is not None else fresh_plan()
        self._preview: Plan | None = None
        self._saved: Plan | None = self._committed
        self.path: Path | None = None
        self._mark = NO_FILE

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
    def steps(self) -> tuple[int, int]:
        """How many steps can be taken back, and how many done again."""
        return self._history.count

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

        Raises
        ------
        PennelloError
            If such a plan could not be opened again; the plan stays as it was.
        """
        before, self._preview = self._committed, None
        if plan == before:
            self.changed.emit()
            return
        try:
            check_plan(plan)
        except PennelloError:
            self.changed.emit()
            raise
        self._history.add(label, before, plan, merge)
        self._show(plan)

    def undo(self) -> None:
        """Take back the last step."""
        self._history.take_back(lambda _, before: self._show(before))

    def redo(self) -> None:
        """Do the step again that undo took back."""
        self._history.do_again(lambda _, after: self._show(after))

    def replace(self, plan: Plan, path: Path | None = None, *, saved: bool = True, mark: FileMark = NO_FILE) -> None:
        """Start over with another plan.

        Parameters
        ----------
        saved
            Whether the file holds it.
        mark
            How the file was when it was read.
        """
        self._saved = plan if saved else None
        self._history.clear()
        self.path, self._mark = path, mark
        self._show(plan)

    def open(self, path: Path) -> None:
        """Open a file; a bad one leaves everything as it was.

        Raises
        ------
        FileProblemError
            If it cannot be read as a plan.
        """
        data = read_bytes(path, MOST_PLAN_BYTES)
        self.replace(parse_plan(data, path), path, mark=mark_of(data))

    @property
    def mark(self) -> FileMark:
        """How the plan's file was when it was last read or written."""
        return self._mark

    def take_from_disk(self) -> None:
        """Show what the plan's file holds now, as a step that undo takes back.

        Raises
        ------
        FileProblemError
            If it cannot be read as a plan.
        """
        assert self.path is not None, "a plan without a file"
        data = read_bytes(self.path, MOST_PLAN_BYTES)
        plan = parse_plan(data, self.path)
        self.edit(phrase("Take what is in the file"), plan)
        self._saved, self._mark = plan, mark_of(data)
        self.state_changed.emit()

    @property
    def changed_on_disk(self) -> bool:
        """Whether the plan's file is there and is another one than it was when it was last read or written."""
        if self.path is None or self._mark == NO_FILE:
            return False
        try:
            now = mark_on_disk(self.path, MOST_PLAN_BYTES)
        except FileProblemError:
            return True
        return now not in (self._mark, NO_FILE)

    def save(self, path: Path | None = None, *, over: bool = False) -> Path:
        """Write the plan and return where; without a path to where it came from.

        Parameters
        ----------
        over
            Write even over what somebody else has changed since.

        Raises
        ------
        ChangedOnDiskError
            If the file is another one than when it was read.
        FileProblemError
            If it cannot be written; the file that was there is untouched.
        """
        target = self.path if path is None or path == self.path else with_suffix(path)
        if target is None:
            raise ValueError("a new plan needs a path")
        if target == self.path and not over and self.changed_on_disk:
            raise ChangedOnDiskError(target)
        data = sound_bytes(self._committed, target)
        write_bytes(data, target)
        self.path, self._saved, self._mark = target, self._committed, mark_of(data)
        self.state_changed.emit()
        return target

    def _show(self, plan: Plan) -> None:
        self._committed, self._preview = plan, None
        self.changed.emit()
        self.state_changed.emit()
