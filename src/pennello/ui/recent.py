"""Plans that were open: kept in the settings, told to the desktop, listed in a menu."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QMenu, QWidget

from pennello.phrases import phrase
from pennello.session.jobs import Jobs
from pennello.session.recent_files import note_recent
from pennello.session.settings import Settings, with_recent
from pennello.ui.widgets.plain import menu_words, tip
from pennello.ui.work import begin


class RecentMenu(QMenu):
    """Plans that were open, the last one first.

    Signals
    -------
    wanted(Path)
        One is to be opened.
    said(str)
        Why the desktop's list could not be written.
    """

    wanted = Signal(object)
    said = Signal(str)

    def __init__(
        self, settings: Callable[[], Settings], settle: Callable[[Settings], None], jobs: Jobs, parent: QWidget
    ) -> None:
        super().__init__(phrase("Recent"), parent)
        self._settings, self._settle, self._jobs = settings, settle, jobs
        self.aboutToShow.connect(self._list)

    @property
    def last(self) -> Path | None:
        """The plan that was open last."""
        return next((Path(name) for name in self._settings().recent), None)

    def remember(self, path: Path) -> None:
        """Remember a plan."""
        self._settle(with_recent(self._settings(), path))
        self.note(path)

    def note(self, path: Path) -> None:
        """Let a worker put a file into the desktop's list of recent ones."""
        now = datetime.now().astimezone()
        begin(
            self._jobs,
            "recent",
            self,
            lambda _: note_recent(path, now),
            finished=lambda _: None,
            failed=self.said.emit,
            to_the_end=True,
        )

    def _list(self) -> None:
        self.clear()
        names = self._settings().recent
        for name in names:
            action = self.addAction(menu_words(Path(name).name))
            action.setToolTip(tip(name))
            action.triggered.connect(lambda _=False, path=Path(name): self.wanted.emit(path))
        if not names:
            self.addAction(phrase("Nothing yet")).setEnabled(False)
