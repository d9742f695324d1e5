"""The evening as one wide picture: people waiting as a band over the hours, rests hollow, where to close the line."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen
from PySide6.QtWidgets import QWidget

from pennello.day.event import Event, clock_text
from pennello.day.queue import Evening
from pennello.phrases import phrase
from pennello.ui.theme.text import px, text_percent
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.paint import draw_note

_LEFT, _RIGHT, _TOP, _FOOT = 34.0, 16.0, 14.0, 24.0


class EveningView(Surface):
    """The curve of people waiting with its band."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.draw = self._draw
        self._event: Event | None = None
        self._found: Evening | None = None
        self.setMinimumHeight(px(170))
        self.setAccessibleName(phrase("People waiting over the hours"))

    def show_evening(self, event: Event, found: Evening | None) -> None:
        """Show many evenings of an event."""
        self._event, self._found = event, found
        self.update()

    def _draw(self, painter: QPainter) -> None:
        event = self._event
        if event is None:
            return
        area = QRectF(self.rect()).adjusted(px(_LEFT), px(_TOP), -_RIGHT, -px(_FOOT))
        found = self._found
        most = max(float(found.high.max()) if found is not None else 0.0, 4.0)
        self._draw_hours(painter, event, area)
        if found is None:
            draw_note(
                painter,
                area,
                phrase("Put a design on the menu") if not event.on_menu else phrase("Looking at evenings ..."),
            )
            return
        x = area.left() + found.at_s / event.length_s * area.width()
        accent = QColor(theme().accent)
        band = QPainterPath()
        self._trace(band, x, found.high, area, most, begin=True)
        self._trace(band, x[::-1], found.low[::-1], area, most, begin=False)
        band.closeSubpath()
        soft = QColor(accent)
        soft.setAlpha(60)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(soft)
        painter.drawPath(band)
        line = QPainterPath()
        self._trace(line, x, found.median, area, most, begin=True)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(accent, 2.4))
        painter.drawPath(line)
        for count in sorted({round(most / 2), round(most)}):
            y = area.bottom() - count / most * area.height()
            draw_note(painter, QRectF(0, y - px(9), px(_LEFT) - 6, px(18)), str(count))
        if found.close_s is not None:
            self._draw_close(painter, event, found.close_s, area)

    @staticmethod
    def _trace(
        path: QPainterPath, x: NDArray[np.floating], y: NDArray[np.floating], area: QRectF, most: float, *, begin: bool
    ) -> None:
        for number, (at, count) in enumerate(zip(x.tolist(), y.tolist(), strict=True)):
            point = QPointF(at, area.bottom() - count / most * area.height())
            if begin and number == 0:
                path.moveTo(point)
            else:
                path.lineTo(point)

    @staticmethod
    def _draw_hours(painter: QPainter, event: Event, area: QRectF) -> None:
        rest = QColor(theme().line)
        rest.setAlpha(90)
        for start, end in event.breaks_s:
            left = area.left() + start / event.length_s * area.width()
            wide = (end - start) / event.length_s * area.width()
            painter.fillRect(QRectF(left, area.top(), wide, area.height()), rest)
        painter.setPen(QPen(QColor(theme().line), 1))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        step = 30 if event.hours * text_percent() <= 500 else 60
        minute = -(-event.begins_min // step) * step
        while minute <= event.ends_min:
            at = area.left() + (minute - event.begins_min) * 60 / event.length_s * area.width()
            painter.drawLine(QPointF(at, area.bottom()), QPointF(at, area.bottom() + 4))
            draw_note(painter, QRectF(at - px(30), area.bottom() + 5, px(60), px(18)), clock_text(minute))
            minute += step

    @staticmethod
    def _draw_close(painter: QPainter, event: Event, close_s: float, area: QRectF) -> None:
        at = area.left() + close_s / event.length_s * area.width()
        painter.setPen(QPen(QColor(theme().ink), 1.4, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(at, area.top() + px(8)), QPointF(at, area.bottom()))
        words = phrase("close the line, {clock}", clock=clock_text(event.begins_min + close_s / 60))
        wide = painter.fontMetrics().horizontalAdvance(words) + 12
        draw_note(painter, QRectF(min(at - wide / 2, area.right() - wide), area.top() - px(12), wide, px(18)), words)
