"""Writing pictures and paper in the background: the window goes on, says how far it is, and can stop it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer

from pennello.session.jobs import Job, Jobs
from pennello.ui.banner import Banner
from pennello.ui.work import Runner

SOON_MS = 300
"""What is there sooner than this is not announced."""

Work = Callable[[Job[Any]], object]


class Exporter(QObject):
    """Writes one thing at a time and says so in the banner.

    Parameters
    ----------
    banner
        Where it is said.
    """

    def __init__(self, banner: Banner, parent: QObject) -> None:
        super().__init__(parent)
        self._banner = banner
        self._jobs = Jobs()
        self.runner = Runner(self._jobs, "export", self)
        self._words = ""
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self._announce)
        self.runner.told.connect(self._tell)
        self.runner.ended.connect(lambda _: self._done(f"Wrote {self._words}."))
        self.runner.failed.connect(self._done)

    @property
    def busy(self) -> bool:
        """Whether something is being written."""
        return self.runner.busy

    def write(self, words: str, work: Work) -> None:
        """Let a worker write something.

        Parameters
        ----------
        words
            What is written and where, as in "sheet.pdf".
        """
        if self.busy:
            self._banner.say(f"{self._words} is still being written; wait for it, or stop it.")
            return
        self._words = words
        self._soon.start()
        self.runner.run(work)

    def stop(self) -> None:
        """Stop writing; what was not finished is not there."""
        self.runner.stop()
        self._done(f"Stopped: {self._words} was not finished.")

    def close(self) -> None:
        """The window closes."""
        self._soon.stop()
        self.runner.stop()
        self._jobs.close()

    def _announce(self) -> None:
        if self.busy:
            self._banner.say_working(f"Writing {self._words} ...", self.stop)

    def _tell(self, part: float, words: str) -> None:
        del words
        self._banner.show_part(part)

    def _done(self, words: str) -> None:
        self._soon.stop()
        self._banner.say(words)
