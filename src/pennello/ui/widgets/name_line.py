"""A line with what a thing is called, or says, and the name that somebody types over it."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QLineEdit, QWidget


class NameLine(QLineEdit):
    """Tells what was typed, of the thing that it was typed for; a line that is only left tells nothing.

    Signals
    -------
    told(str)
        What somebody typed, without blanks around it.
    """

    told = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._of: object = None
        self._shown = ""
        self.editingFinished.connect(self._finish)

    def show_words(self, words: str, of: object = None) -> None:
        """Show the words of a thing; what somebody types of the same one meanwhile stays."""
        if of == self._of and self.hasFocus() and self.text() != self._shown:
            return
        self._of = of
        if self.text() != words:
            self.setText(words)
            self.setCursorPosition(0)
        self._shown = self.text()

    def _finish(self) -> None:
        words = self.text().strip()
        if words != self._shown.strip():
            self._shown = self.text()
            self.told.emit(words)
        elif self.text() != self._shown:
            self.setText(self._shown)
