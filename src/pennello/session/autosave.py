"""A copy beside the plan, so that a kill loses nothing older than the last autosave."""

from __future__ import annotations

import contextlib
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from pennello.design.plan import Plan
from pennello.errors import FileProblemError, PennelloError
from pennello.files.plan_json import read_plan, write_plan
from pennello.session.document import Document

AUTOSAVE_S = 5.0


@dataclass(frozen=True, slots=True)
class Recovered:
    """A copy that is newer than its file."""

    plan: Plan
    copy: Path
    saved_at: datetime


def copy_path(path: Path | None, folder: Path) -> Path:
    """Return where the copy of a plan lies: beside it, or in the given folder for one without a file."""
    return path.with_name(f".{path.name}.autosave") if path else folder / "untitled.pennello.autosave"


class Autosave:
    """Keeps the copy of a document; call `keep` now and then and `forget` once all is saved or given up.

    Parameters
    ----------
    folder
        Where copies of plans without a file go.
    """

    def __init__(self, document: Document, folder: Path) -> None:
        self._document = document
        self._folder = folder
        self._kept: tuple[Plan, Path] | None = None

    def keep(self) -> None:
        """Write the copy if there is anything new that is not saved; forget it once all is.

        Raises
        ------
        FileProblemError
            If the copy cannot be written.
        """
        if not self._document.dirty:
            self.forget()
            return
        target = copy_path(self._document.path, self._folder)
        plan = self._document.committed
        if self._kept and self._kept[0] is plan and self._kept[1] == target:
            return
        if self._document.path is None:
            self._folder.mkdir(parents=True, exist_ok=True)
        if self._kept and self._kept[1] != target:
            self.forget()
        self._kept = (plan, target)
        write_plan(plan, target)

    def forget(self) -> None:
        """Remove the copy that this document wrote."""
        if self._kept:
            with contextlib.suppress(OSError):
                self._kept[1].unlink(missing_ok=True)
            self._kept = None

    def recoverable(self, path: Path | None) -> Recovered | None:
        """Return the copy of a plan where it is newer than the file and can be read."""
        copy = copy_path(path, self._folder)
        try:
            changed = copy.stat().st_mtime
            if path is not None and path.exists() and path.stat().st_mtime >= changed:
                return None
            plan = read_plan(copy)
            if path is not None and path.exists() and read_plan(path) == plan:
                return None
        except (OSError, FileProblemError):
            return None if not copy.exists() else self._unreadable(copy, path)
        return Recovered(plan, copy, datetime.fromtimestamp(changed).astimezone())

    @staticmethod
    def _unreadable(copy: Path, path: Path | None) -> Recovered | None:
        """Return the copy even if the plan's own file is broken: then it is all there is."""
        with contextlib.suppress(OSError, PennelloError):
            if path is not None and path.exists():
                return Recovered(read_plan(copy), copy, datetime.fromtimestamp(copy.stat().st_mtime).astimezone())
        return None

    def discard(self, found: Recovered) -> None:
        """Remove a copy that the user does not want."""
        with contextlib.suppress(OSError):
            found.copy.unlink(missing_ok=True)
