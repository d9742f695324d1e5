"""Words that change while a hand drags: unlike a label they never make the window lay itself out anew."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from pennello.ui.theme.text import px
from pennello.ui.widgets.paint import draw_note
from pennello.ui.widgets.painting import painted

_LINE_PX = 16
_LEFT_TOP = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop


class Words(QWidget):
    """Quiet words in a room for a fixed number of lines."""

    def __init__(self, lines: int, align: Qt.AlignmentFlag = _LEFT_TOP) -> None:
        super().__init__()
        self._text = ""
        self._lines = lines
        self._align = align
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def text(self) -> str:
        """Return the words shown."""
        return self._text

    def setText(self, text: str) -> None:
        """Show other words in the same room."""
        if text != self._text:
            self._text = text
            self.setAccessibleName(text)
            self.update()

    def sizeHint(self) -> QSize:
        """Return the room of the lines."""
        return QSize(60, self._lines * px(_LINE_PX))

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the words, wrapped."""
        draw_note(painter, QRectF(self.rect()), self._text, self._align | Qt.TextFlag.TextWordWrap)
