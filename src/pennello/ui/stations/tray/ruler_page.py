"""A ruler on the screen, set once with a bank card, to measure a real brush or cake by laying it on.

A bank card (ISO/IEC 7810, ID-1) is 85.60 x 53.98 mm.
"""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QSlider, QVBoxLayout, QWidget

from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.handle import Handle, HandleWork
from pennello.ui.widgets.held import Loose, number_held
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.paint import draw_note, draw_ruler
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit, length_text

CARD_MM = (85.60, 53.98)
PX_PER_MM = (1.5, 16.0)
LENGTH_MM = (0.5, 120.0)
_TOP, _LEFT = 34, 20


class RulerPage(QDialog):
    """First the card, then the thing: slide the mark to its other side and take the length."""

    def __init__(
        self, name: str, px_per_mm: float, unit: LengthUnit, settled: Callable[[float], None], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Measure {name}", name=name))
        self.resize(760, 470)
        self._unit, self._settled = unit, settled
        self.scale = px_per_mm or self.logicalDpiX() / 25.4
        self.setting = px_per_mm == 0
        self.length_mm = 20.0
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.words = Label("")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.surface = Surface(self)
        self.surface.setMinimumHeight(px(310))
        self.surface.draw = self._draw
        column.addWidget(self.surface, 1)
        self.mark = Handle(self.surface, "bar", self._mark_work(), Qt.CursorShape.SizeHorCursor)
        row = QHBoxLayout()
        self.card_size = QSlider(Qt.Orientation.Horizontal)
        self.card_size.setAccessibleName(phrase("Size of the card on the screen"))
        self.card_size.setRange(round(PX_PER_MM[0] * 1000), round(PX_PER_MM[1] * 1000))
        self.card_size.setSingleStep(10)
        self.card_size.setValue(round(self.scale * 1000))
        self.card_size.valueChanged.connect(self._resize)
        row.addWidget(self.card_size, 9)
        row.addStretch(1)
        self.turn, leave, self.take = QPushButton(""), QPushButton(phrase("Leave it")), QPushButton("")
        self.turn.setProperty("chip", True)
        leave.setProperty("chip", True)
        self.take.setProperty("main", True)
        self.turn.clicked.connect(self._turn)
        leave.clicked.connect(self.reject)
        self.take.clicked.connect(self._take)
        for widget in (self.turn, leave, self.take):
            row.addWidget(widget)
        column.addLayout(row)
        self._show()

    def _mark_work(self) -> HandleWork:
        loose = Loose(lambda: self.length_mm, self.set_length)
        loose.unit = self._unit
        return number_held(
            loose,
            Quantity(phrase("Other side of the thing"), *LENGTH_MM, 1, 2, length=True),
            phrase("Other side of the thing"),
            now=lambda: loose.kept,
            put=lambda mm: mm,
            say=lambda: length_text(self.length_mm, self._unit),
            drag=lambda start, way: start + way.x() / self.scale,
        )

    def set_length(self, length_mm: float) -> None:
        """Put the mark at a length, mm."""
        self.length_mm = min(max(round(length_mm, 2), LENGTH_MM[0]), LENGTH_MM[1])
        self._show()

    def _resize(self, value: int) -> None:
        self.scale = value / 1000
        self._show()

    def _turn(self) -> None:
        self.setting = not self.setting
        self._show()

    def _take(self) -> None:
        if self.setting:
            self._settled(self.scale)
            self._turn()
        else:
            self.accept()

    def _show(self) -> None:
        self.card_size.setVisible(self.setting)
        self.mark.setVisible(not self.setting)
        self.turn.setText(phrase("Measure") if self.setting else phrase("Set the ruler again"))
        self.take.setText(
            phrase("It fits")
            if self.setting
            else phrase("Take {length_mm}", length_mm=length_text(self.length_mm, self._unit))
        )
        self.words.setText(
            phrase("Lay a bank card on the screen, corner at the corner, and make the outline as large as the card.")
            if self.setting
            else phrase("Lay the brush or cake on the ruler, one side at 0, and slide the mark to its other side.")
        )
        self.mark.put(QPointF(_LEFT + self.length_mm * self.scale, _TOP + 60))
        self.mark.refresh()
        self.surface.update()

    def _draw(self, painter: QPainter) -> None:
        inks = theme()
        if self.setting:
            card = QRectF(_LEFT, _TOP - 14, CARD_MM[0] * self.scale, CARD_MM[1] * self.scale)
            painter.setPen(QPen(QColor(inks.accent), 2))
            painter.setBrush(QColor(inks.well))
            painter.drawRoundedRect(card, 3.18 * self.scale, 3.18 * self.scale)
            draw_note(painter, card, phrase("bank card, 85.60 x 53.98 mm"))
            return
        draw_ruler(painter, QPointF(_LEFT, _TOP), 130.0, self.scale, self._unit)
        painter.setPen(QPen(QColor(inks.accent), 1.4))
        for x in (_LEFT, _LEFT + self.length_mm * self.scale):
            painter.drawLine(QPointF(x, _TOP), QPointF(x, self.surface.height() - 12.0))
        words = phrase("{length_mm} between the lines", length_mm=length_text(self.length_mm, self._unit))
        draw_note(painter, QRectF(_LEFT + 10, _TOP + 84, px(320), px(18)), words)
