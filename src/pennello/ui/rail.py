"""The narrow rail of stations; the current one is a notch cut into the table."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFontMetrics, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QVBoxLayout, QWidget

from pennello.phrases import phrase
from pennello.ui.stations.registry import FIRST, STATIONS
from pennello.ui.theme.icons import draw_icon
from pennello.ui.theme.text import NOTE_PT, px, type_px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.painting import painted

RAIL_PX = 64


class StationButton(QAbstractButton):
    """A glyph with its word under it."""

    def __init__(self, glyph: str, words: str) -> None:
        super().__init__()
        self._glyph = glyph
        self.setText(words)
        self.setCheckable(True)
        self.setAutoExclusive(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setToolTip(words)

    def sizeHint(self) -> QSize:
        """Return the room of one station."""
        font = self.font()
        font.setPixelSize(type_px(NOTE_PT))
        return QSize(max(RAIL_PX, QFontMetrics(font).horizontalAdvance(self.text()) + 8), 44 + px(18))

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw glyph and word; the current station is open to the right."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        inks = theme()
        if self.isChecked():
            notch = QRectF(6, 1, self.width() + 10, self.height() - 2)
            painter.setPen(QPen(QColor(inks.line), 1))
            painter.setBrush(QColor(inks.table))
            painter.drawRoundedRect(notch, 8, 8)
        if self.hasFocus():
            painter.setPen(QPen(QColor(inks.accent), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(9, 4, self.width() - 14, self.height() - 8), 6, 6)
        ink = inks.ink if self.isChecked() else inks.ink_2
        draw_icon(painter, self._glyph, QRectF(self.width() / 2 - 12, 9, 26, 26), ink)
        font = painter.font()
        font.setPixelSize(type_px(NOTE_PT))
        painter.setFont(font)
        painter.setPen(QColor(ink))
        painter.drawText(QRectF(0, 37, self.width() + 2, px(18)), Qt.AlignmentFlag.AlignCenter, self.text())


class Rail(QWidget):
    """The stations, in the order of the work.

    Signals
    -------
    chosen(str)
    """

    chosen = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(phrase("Stations"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 50, 0, 8)
        column.setSpacing(2)
        self.buttons: dict[str, StationButton] = {}
        for one in STATIONS:
            button = StationButton(one.key, one.title)
            button.setChecked(one.key == FIRST)
            button.clicked.connect(lambda _=False, key=one.key: self.chosen.emit(key))
            column.addWidget(button)
            self.buttons[one.key] = button
        self.setFixedWidth(max(button.sizeHint().width() for button in self.buttons.values()))
        column.addStretch(1)

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the rail a shade deeper than the table."""
        inks = theme()
        painter.fillRect(self.rect(), QColor(inks.mat))
        painter.setPen(QPen(QColor(inks.line), 1))
        painter.drawLine(self.width() - 1, 0, self.width() - 1, self.height())
