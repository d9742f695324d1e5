"""A stroke traced on the screen, without paint: by mouse or pen over its outline, scored like a painted one."""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPainterPath, QPen, QPolygonF, QTabletEvent
from PySide6.QtWidgets import QWidget
from shapely.geometry.base import BaseGeometry

from pennello.phrases import phrase
from pennello.practice.sheet import Practised
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.paint import draw_note

LEAST_POINTS = 6


class TracePad(Surface):
    """The outline of a stroke, large, to be traced along its way, which is dashed.

    Signals
    -------
    traced(object)
        The way of the hand, mm about the middle, shape (n, 2).
    """

    traced = Signal(object)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.draw = self._draw
        self._what: Practised | None = None
        self._way: list[tuple[float, float]] = []
        self._leads = False
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setMinimumHeight(240)

    def show_what(self, what: Practised) -> None:
        """Show another stroke."""
        self._what, self._way = what, []
        self.setAccessibleName(
            phrase("{what}: lead the pointer from the ring along the outline's middle", what=what.name)
        )
        self.update()

    @property
    def scale(self) -> float:
        """Pixels for each mm."""
        if self._what is None:
            return 1.0
        left, top, right, bottom = self._what.shape.bounds
        return float(min(self.width() / (right - left + 16), self.height() / (bottom - top + 16)))

    def to_px(self, x_mm: float, y_mm: float) -> QPointF:
        """Return where a place of the stroke is on the pad."""
        return QPointF(self.width() / 2 + x_mm * self.scale, self.height() / 2 + y_mm * self.scale)

    def _to_mm(self, at: QPointF) -> tuple[float, float]:
        return (at.x() - self.width() / 2) / self.scale, (at.y() - self.height() / 2) / self.scale

    def _begin(self, at: QPointF) -> None:
        self._leads, self._way = True, [self._to_mm(at)]
        self.update()

    def _lead(self, at: QPointF) -> None:
        if self._leads:
            self._way.append(self._to_mm(at))
            self.update()

    def _end(self) -> None:
        if self._leads and len(self._way) >= LEAST_POINTS:
            self.traced.emit(np.array(self._way))
        self._leads = False

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Set the brush down."""
        self._begin(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Lead it."""
        super().mouseMoveEvent(event)
        self._lead(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Lift it."""
        del event
        self._end()

    def tabletEvent(self, event: QTabletEvent) -> None:
        """As the mouse, by a pen."""
        act = {
            QTabletEvent.Type.TabletPress: lambda: self._begin(event.position()),
            QTabletEvent.Type.TabletMove: lambda: self._lead(event.position()),
            QTabletEvent.Type.TabletRelease: self._end,
        }.get(event.type())
        if act is not None:
            act()
        event.accept()

    def _draw(self, painter: QPainter) -> None:
        if self._what is None:
            return
        painter.setPen(QPen(QColor(theme().ink_2), 1.2))
        painter.setBrush(QColor(theme().table))
        painter.drawPath(self._outline(self._what.shape))
        way = QPen(QColor(theme().ink_2), 1.2, Qt.PenStyle.DashLine)
        painter.setPen(way)
        painter.drawPolyline(QPolygonF([self.to_px(float(x), float(y)) for x, y in self._what.way_mm()]))
        start = self.to_px(*self._what.start_mm)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(QColor(theme().accent), 2))
        painter.drawEllipse(start, 7, 7)
        draw_note(painter, QRectF(start.x() - px(30), start.y() + 9, px(60), px(18)), "start")
        painter.setPen(QPen(QColor(theme().accent), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawPolyline(QPolygonF([self.to_px(x, y) for x, y in self._way]))

    def _outline(self, shape: BaseGeometry) -> QPainterPath:
        path = QPainterPath()
        for one in getattr(shape, "geoms", (shape,)):
            ring: NDArray[np.float64] = shapely.get_coordinates(one.exterior)
            path.addPolygon(QPolygonF([self.to_px(float(x), float(y)) for x, y in ring]))
            path.closeSubpath()
        return path
