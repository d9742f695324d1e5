"""Writing pictures and paper in the background: the window goes on, says how far it is, and can stop it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer

from pennello.files.paper import Paper, on_paper
from pennello.phrases import phrase
from pennello.session.jobs import Job, Jobs
from pennello.ui.banner import Banner
from pennello.ui.work import Runner

SOON_MS = 300
"""What is there sooner than this is not announced."""

Work = Callable[[Job[Any]], object]


@dataclass(frozen=True, slots=True, eq=False)
class Printed:
    """Something that a station has for paper.

    Attributes
    ----------
    name
        What it is called.
    make
        Return the work of writing it to a path as PDF.
    stem
        How its file would be called, without an ending.
    """

    name: str
    make: Callable[[Path], Work]
    stem: str


class Exporter(QObject):
    """Writes one thing at a time and says so in the banner.

    Parameters
    ----------
    banner
        Where it is said.
    paper, settle
        The paper that what is written is for, and how to take another one from now on.
    """

    def __init__(
        self,
        banner: Banner,
        parent: QObject,
        paper: Callable[[], Paper] = Paper,
        settle: Callable[[Paper], object] = lambda _: None,
    ) -> None:
        super().__init__(parent)
        self._banner, self._paper, self.settle_paper = banner, paper, settle
        self._jobs = Jobs()
        self.runner = Runner(self._jobs, "export", self)
        self._words = ""
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self._announce)
        self.runner.told.connect(self._tell)
        self.runner.ended.connect(lambda _: self._done(phrase("Wrote {words}.", words=self._words)))
        self.runner.failed.connect(self._done)

    @property
    def busy(self) -> bool:
        """Whether something is being written."""
        return self.runner.busy

    @property
    def paper(self) -> Paper:
        """What is printed on."""
        return self._paper()

    def write(self, words: str, work: Work) -> None:
        """Let a worker write something.

        Parameters
        ----------
        words
            What is written and where, as in "sheet.pdf".
        """
        if self.busy:
            self._banner.say(phrase("{words} is still being written; wait for it, or stop it.", words=self._words))
            return
        self._words = words
        self._soon.start()
        paper = self.paper

        def on_it(job: Job[Any]) -> object:
            with on_paper(paper):
                return work(job)

        self.runner.run(on_it)

    def stop(self) -> None:
        """Stop writing; what was not finished is not there."""
        self.runner.stop()
        self._done(phrase("Stopped: {words} was not finished.", words=self._words))

    def close(self) -> None:
        """The window closes."""
        self._soon.stop()
        self.runner.stop()
        self._jobs.close()

    def _announce(self) -> None:
        if self.busy:
            self._banner.say_working(phrase("Writing {words} ...", words=self._words), self.stop)

    def _tell(self, part: float, words: str) -> None:
        del words
        self._banner.show_part(part)

    def _done(self, words: str) -> None:
        self._soon.stop()
        self._banner.say(words)
