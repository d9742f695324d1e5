"""The colour reader at the Tray: read the white tile, lay it on a patch, take the reading."""

from __future__ import annotations

import numpy as np
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.errors import PennelloError
from pennello.files.reflectance_csv import srgb_of
from pennello.phrases import phrase
from pennello.session.reader import SimulatedReader
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.plain import Label


class ReaderPage(QDialog):
    """Drives the simulated reader as one would drive a real one."""

    def __init__(self, name: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Read {name}", name=name))
        self.reader = SimulatedReader()
        self.reading: tuple[float, ...] | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        note = Label(
            phrase("This reader is simulated: it stands in for a device and reads a card of invented patches.")
        )
        note.setWordWrap(True)
        note.setObjectName("note")
        column.addWidget(note)
        row = QHBoxLayout()
        self.tile, self.patch, self.read = (
            QPushButton(phrase("1  Read the white tile")),
            ChoiceBox(),
            QPushButton(phrase("3  Read")),
        )
        self.patch.setAccessibleName(phrase("Patch under the reader"))
        self.patch.addItem(phrase("2  Lay it on a patch ..."), "")
        for key, words in self.reader.patches.items():
            self.patch.addItem(words, key)
        for button in (self.tile, self.read):
            button.setProperty("chip", True)
        self.tile.clicked.connect(self._calibrate)
        self.read.clicked.connect(self._read)
        self.patch.activated.connect(self._lay)
        for widget in (self.tile, self.patch, self.read):
            row.addWidget(widget)
        column.addLayout(row)
        self.words = Label(phrase("Begin with the white tile."))
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.foot = LeaveOrTake(self, phrase("Take the reading"))
        self.take = self.foot.take
        self.take.setEnabled(False)
        column.addLayout(self.foot)

    def _calibrate(self) -> None:
        self.reader.calibrate()
        self.words.setText(phrase("The white tile is read. Lay the reader on a patch and read."))

    def _lay(self, at: int) -> None:
        self.reader.patch = self.patch.itemData(at)

    def _read(self) -> None:
        try:
            found = self.reader.read()
        except PennelloError as error:
            self.words.setText(str(error))
            return
        self.reading = tuple(found.tolist())
        code = srgb_of(np.array(self.reading))
        self.words.setText(phrase("36 bands read, {code}; each is the mean of three readings.", code=code))
        self.foot.show_colour(code)
        self.take.setEnabled(True)
