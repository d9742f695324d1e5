"""Words that stay words: names of a plan are never taken for markup or for a key to press."""

from __future__ import annotations

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label that shows its text as it is."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class Paragraph(Label):
    """A label of several lines that always has the height that they need: some layouts give it that of one line."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(text, parent)
        self.setWordWrap(True)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Ask for the height that the width brings with it."""
        super().resizeEvent(event)
        self.setMinimumHeight(max(self.heightForWidth(self.width()), 0))


def tip(words: str) -> str:
    """Return words for a tool tip or a question: what looks like markup is written out."""
    return f"<qt>{escape(words)}</qt>".replace("\n", "<br>") if "<" in words else words


def menu_words(name: str) -> str:
    """Return a name for a menu or a button: an ampersand is one and underlines nothing.

    >>> menu_words("Black & white")
    'Black && white'
    """
    return name.replace("&", "&&")
