"""A page with a photo of something printed: its corner marks are looked for, or put there by hand, then it is read."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QSize
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.files.swatch import read_picture
from pennello.phrases import phrase
from pennello.practice.photo import Corners, marks_found
from pennello.session.jobs import Job, Jobs
from pennello.ui.widgets.asking import ask_source
from pennello.ui.widgets.mark_pad import MarkPad
from pennello.ui.widgets.passing import throw_away
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar, foot_row
from pennello.ui.work import Runner

Picture = NDArray[np.uint8]
Seen = tuple[Picture, Corners | None]
CORNERS = (phrase("top left"), phrase("top right"), phrase("bottom right"), phrase("bottom left"))
_STARTS = ((0.12, 0.12), (0.88, 0.12), (0.88, 0.88), (0.12, 0.88))


class PhotoDialog(QDialog):
    """The frame of such a page: print, photo, marks, read; what comes of it is shown at the right.

    Who derives from it says what is printed and read.
    """

    def __init__(self, title: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.resize(QSize(1080, 700))
        self._jobs = Jobs()
        self.runner = Runner(self._jobs, "photo", self)
        self.picture: Picture | None = None
        self.pad: MarkPad | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.head = QHBoxLayout()
        column.addLayout(self.head)
        self.words = Label("")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.body = QHBoxLayout()
        self.left = QVBoxLayout()
        self.hint = Label("")
        self.hint.setObjectName("note")
        self.hint.setWordWrap(True)
        self.left.addWidget(self.hint)
        self.body.addLayout(self.left, 3)
        self.right = QVBoxLayout()
        self.body.addLayout(self.right, 2)
        column.addLayout(self.body, 1)
        self.bar = ThinBar()
        self.bar.setVisible(False)
        column.addWidget(self.bar)
        self.read = QPushButton(phrase("Read it"))
        self.read.setEnabled(False)
        self.read.clicked.connect(lambda _=False: self.start())
        self.take = QPushButton(phrase("Keep it"))
        self.may_take(yes=False)
        self.take.clicked.connect(lambda _=False: self.keep())
        column.addLayout(foot_row(self, self.read, self.take))
        self.runner.turned.connect(self.bar.setVisible)
        self.runner.told.connect(self._tell)
        self.runner.failed.connect(self.words.setText)
        self.runner.ended.connect(self._ended)
        self._then: Callable[[Any], None] = lambda _: None

    def chip(self, words: str, hint: str, act: Callable[[], object]) -> QPushButton:
        """Return a small button of the head."""
        button = QPushButton(words)
        button.setProperty("chip", True)
        button.setToolTip(hint)
        button.setAutoDefault(False)
        button.clicked.connect(lambda _=False: act())
        self.head.addWidget(button)
        return button

    @property
    def busy(self) -> bool:
        """Whether something is being worked out."""
        return self.runner.busy

    def run(self, work: Callable[[Job[Any]], Any], then: Callable[[Any], None]) -> None:
        """Let a worker do something, and then something with what comes of it."""
        self._then = then
        self.runner.run(work)

    def _tell(self, part: float, words: str) -> None:
        self.bar.show_part(part)
        if words:
            self.words.setText(words[0].upper() + words[1:] + " ...")

    def _ended(self, result: Any) -> None:
        self._then(result)

    def ask_photo(self) -> None:
        """Ask for a photo."""
        chosen = ask_source(self, phrase("A photo"), "photos", "Photos (*.jpg *.jpeg *.png *.webp)")
        if chosen is not None:
            self.open_photo(chosen)

    def open_photo(self, path: Path) -> None:
        """Open a photo and look for its corner marks, in the background."""

        def work(job: Job[Any]) -> Seen:
            job.report(0.2, phrase("opening the photo"))
            picture = read_picture(path)
            job.report(0.6, phrase("looking for the corner marks"))
            return picture, marks_found(picture)

        self.run(work, lambda seen: self.show_photo(*seen))

    def show_photo(self, picture: Picture, corners: Corners | None) -> None:
        """Show a photo with its corner marks, or with marks to be put onto them."""
        if self.pad is not None:
            self.left.removeWidget(self.pad)
            self.pad.hide()
            throw_away(self.pad)
        self.picture = picture
        self.pad = MarkPad(picture, CORNERS, _STARTS, lambda: None, nearest=True)
        if corners is not None:
            self.pad.at = list(corners)
            self.words.setText(phrase("All four corner marks are found. Look whether they sit, then read it."))
        else:
            self.words.setText(phrase("Put the four marks onto the corner marks of the print, then read it."))
        self.left.insertWidget(0, self.pad, 1)
        self.read.setEnabled(True)
        self.may_take(yes=False)
        self.pad.setFocus()

    def may_take(self, *, yes: bool) -> None:
        """Say whether there is something to keep: then that is the main thing to do, else reading is."""
        self.take.setEnabled(yes)
        for button, main in ((self.take, yes), (self.read, not yes)):
            button.setProperty("main", main)
            button.setProperty("chip", not main)
            button.style().unpolish(button)
            button.style().polish(button)

    @property
    def corners(self) -> Corners:
        """Where the corner marks are put, pixels."""
        assert self.pad is not None, "a photo is read"
        return tuple(self.pad.at)

    def start(self) -> None:
        """Read the photo; pages say what."""

    def keep(self) -> None:
        """Keep what came of it; pages say where."""

    def done(self, result: int) -> None:
        """Stop what runs, however the page ends."""
        self.runner.stop()
        self._jobs.leave()
        super().done(result)
