"""Where the time of an order goes, as one bar: painting, loading, waiting, changing, words; told apart by hatching."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from pennello.phrases import phrase, told
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import draw_note
from pennello.ui.widgets.painting import painted

_STYLES = (
    Qt.BrushStyle.SolidPattern,
    Qt.BrushStyle.Dense4Pattern,
    Qt.BrushStyle.NoBrush,
    Qt.BrushStyle.BDiagPattern,
    Qt.BrushStyle.Dense6Pattern,
)
_BAR_PX, _LINE_PX = 14, 15


class WhereBar(QWidget):
    """The parts of a time side by side, and their names with seconds below."""

    def __init__(self) -> None:
        super().__init__()
        self._parts: tuple[tuple[str, float], ...] = ()
        self.setFixedHeight(_BAR_PX + 2 + 3 * px(_LINE_PX))

    def show_parts(self, parts: tuple[tuple[str, float], ...]) -> None:
        """Show parts by name, s."""
        self._parts = parts
        words = [phrase("{name} {seconds:.0f} s", name=told(name), seconds=seconds) for name, seconds in parts]
        self.setAccessibleName(phrase("Where the time goes"))
        self.setAccessibleDescription(", ".join(words))
        self.setToolTip(phrase("Where the time goes: {parts}", parts=", ".join(words)))
        self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the bar and its legend."""
        total = sum(seconds for _, seconds in self._parts)
        if total <= 0:
            return
        ink = QColor(theme().ink_2)
        painter.setPen(QPen(ink, 1))
        x = 0.5
        for (_, seconds), style in zip(self._parts, _STYLES, strict=True):
            wide = seconds / total * (self.width() - 1)
            self._piece(painter, QRectF(x, 0.5, wide, _BAR_PX - 1), style)
            x += wide
        align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        half = self.width() / 2
        for number, ((name, seconds), style) in enumerate(zip(self._parts, _STYLES, strict=True)):
            left, top = (number % 2) * half, _BAR_PX + 2 + (number // 2) * px(_LINE_PX)
            self._piece(painter, QRectF(left + 0.5, top + px(_LINE_PX) / 2 - 4, 10, 8), style)
            draw_note(
                painter,
                QRectF(left + 16, top, half - 16, px(_LINE_PX)),
                phrase("{name} {seconds:.0f} s", name=told(name), seconds=seconds),
                align,
            )

    @staticmethod
    def _piece(painter: QPainter, area: QRectF, style: Qt.BrushStyle) -> None:
        ink = QColor(theme().ink_2)
        painter.setPen(QPen(ink, 1))
        painter.setBrush(QBrush(ink, style))
        painter.drawRect(area)
