"""Line work drawn on the chart by hand, mouse or pen: each pull is a line, a tap is a dot."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from pennello.chart.chart import Point
from pennello.design.layers import free_name, hand_drawn, lines_of, with_layer, with_line
from pennello.design.marks import Lines
from pennello.design.plan import Plan
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.paint import draw_note

HINT = "Draw: a pull is a line, a tap is a dot. Esc ends; undo takes the last one back."


class LinePen:
    """What the hand draws while it is on; a layer takes all the lines of one sitting."""

    def __init__(self, model: ChartModel, view: Callable[[], ChartView]) -> None:
        self._model, self._view = model, view
        self._points: list[Point] = []
        self.name = ""
        self.on = False
        self._key = ""

    def begin(self, name: str = "") -> None:
        """Draw from now on: on with the lines of a name, or with new ones."""
        self._model.choose("")
        self.name = name or free_name(self._model.document.committed, "lines")
        self.on, self._points, self._key = True, [], self._model.key

    @property
    def left(self) -> bool:
        """Whether it is on, but another chart or a motif was taken."""
        return self.on and (self._model.key != self._key or self._model.chosen is not None)

    def end(self) -> None:
        """Draw no more."""
        self.on, self._points = False, []

    def press(self, at: QPointF) -> None:
        """Set down."""
        self._points = [self._view().to_mm(at)]

    def move(self, at: QPointF) -> None:
        """Pull on."""
        if self._points:
            self._points.append(self._view().to_mm(at))

    def release(self) -> None:
        """Lift: the line is there."""
        points, self._points = self._points, []
        if points:
            self._model.edit("Draw a line", lambda plan: self._drawn(plan, points))

    def _drawn(self, plan: Plan, points: list[Point]) -> Plan:
        line = hand_drawn(points, least_mm=max(6 / self._view().scale, 0.5))
        old = self._layer(plan)
        layer = with_line(old, line) if old is not None else lines_of(self.name, (line,), self._model.key)
        return with_layer(plan, layer, old)

    def _layer(self, plan: Plan) -> Lines | None:
        named = (one for one in plan.overlays if one.name == self.name and isinstance(one, Lines))
        return next((one for one in named if one.chart == self._model.key), None)

    def draw(self, painter: QPainter, width: float) -> None:
        """Draw what is being drawn, and how it ends."""
        if not self.on:
            return
        inks = theme()
        hint = QRectF(width / 2 - 240, 2, 480, 22)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(inks.mat))
        painter.drawRoundedRect(hint, 6, 6)
        draw_note(painter, hint, HINT)
        if self._points:
            old, view = self._layer(self._model.plan), self._view()
            pen = QPen(QColor(old.srgb if old else "#f4f3ee"), (old.line_mm if old else 1.5) * view.scale)
            pen.setCapStyle(Qt.PenCapStyle.RoundCap)
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(QPolygonF([view.to_px(x, y) for x, y in self._points]))
