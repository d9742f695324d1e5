"""The log as it is open in a window: its pages with a history of what was written, changed and taken out."""

from __future__ import annotations

from pathlib import Path

from psygnal import Signal

from pennello.phrases import phrase
from pennello.practice.records import LogPage
from pennello.session.history import History, Undoable
from pennello.session.log import open_log
from pennello.session.notebook import notebook_path
from pennello.store.database import SOON_MS

Change = LogPage | None


class LogSession(Undoable):
    """The pages.

    Signals
    -------
    changed
        Pages are others, or undo offers something else.

    Parameters
    ----------
    path
        The notebook's file; the painter's own if left out.
    """

    changed = Signal()

    def __init__(self, path: Path | None = None) -> None:
        self.path = path or notebook_path()
        self.pages: tuple[LogPage, ...] = ()
        self._history: History[tuple[int, Change]] = History()

    def read(self) -> None:
        """Read the pages anew: a run at the chair or another program may have added one.

        Raises
        ------
        FileProblemError
            If they cannot be read.
        """
        with open_log(self.path, SOON_MS) as log:
            self.pages = log.pages()
        self.changed.emit()

    def page(self, number: int) -> LogPage | None:
        """Return a page by its number, or None."""
        return next((one for one in self.pages if one.id == number), None)

    def keep(self, page: LogPage) -> LogPage:
        """Write a new page or what is changed on one, and return it; raises FileProblemError."""
        before = self.page(page.id) if page.id else None
        with open_log(self.path, SOON_MS) as log:
            kept = log.put(page)
        self._history.add(phrase("Change a page") if before else phrase("New page"), (kept.id, before), (kept.id, kept))
        self.read()
        return kept

    def remove(self, number: int) -> None:
        """Take a page out; raises FileProblemError. Its photo stays until the window closes, for undo."""
        before = self.page(number)
        if before is None:
            return
        with open_log(self.path, SOON_MS) as log:
            log.remove(number)
        self._history.add(phrase("Take out a page"), (number, before), (number, None))
        self.read()

    def undo(self) -> None:
        """Take back the last change; raises FileProblemError."""
        self._history.take_back(self._show)

    def redo(self) -> None:
        """Do it again; raises FileProblemError."""
        self._history.do_again(self._show)

    def _show(self, _: tuple[int, Change], wanted: tuple[int, Change]) -> None:
        number, page = wanted
        with open_log(self.path, SOON_MS) as log:
            if page is None:
                log.remove(number)
            else:
                log.put(page, anew=self.page(number) is None)
        self.read()
