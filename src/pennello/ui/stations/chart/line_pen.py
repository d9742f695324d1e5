"""Line work drawn on the chart by hand, mouse or pen: each pull is a line, a tap is a dot."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from pennello.chart.chart import Point
from pennello.design.line_work import (
    Taper,
    hand_drawn,
    is_dot,
    look_of,
    with_line_work,
    with_lines_on,
    with_usual_line_load,
)
from pennello.design.plan import Plan
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.paint import draw_note
from pennello.ui.widgets.qt_surface import outline_of

_HINT = "a pull is a line, a tap is a dot. Esc ends; undo takes the last one back."
_WIDE = 640


class LinePen:
    """What the hand draws while it is on, with a load; one piece takes all the lines of one sitting."""

    def __init__(self, model: ChartModel, view: Callable[[], ChartView]) -> None:
        self._model, self._view = model, view
        self._points: list[Point] = []
        self.load = self.piece = ""
        self.taper = Taper.EVEN
        self.on = False
        self._key = ""

    def begin(self, load: str = "", piece: str = "") -> None:
        """Draw from now on with a load, or the plan's usual one: on with a piece, or a new one."""
        self._model.choose("")
        self.load, self.piece = load, piece
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
        lines = (hand_drawn(points, least_mm=max(6 / self._view().scale, 0.5)),)
        if any(one.id == self.piece for one in plan.motifs):
            return with_lines_on(plan, self.piece, lines, self.taper)
        plan, self.load = with_usual_line_load(plan, self.load)
        name = plan.stroke(self.load).name
        plan, self.piece = with_line_work(plan, self.load, lines, self._model.key, name, self.taper)
        return plan

    def draw(self, painter: QPainter, width: float) -> None:
        """Draw what is being drawn, and how it ends."""
        if not self.on:
            return
        inks = theme()
        plan, self.load = with_usual_line_load(self._model.plan, self.load)
        hint = QRectF((width - _WIDE) / 2, 2, _WIDE, 22)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(inks.mat))
        painter.drawRoundedRect(hint, 6, 6)
        draw_note(painter, hint, f"Drawing with {plan.stroke(self.load).name}: {_HINT}")
        self._draw_fresh(painter, plan)

    def _draw_fresh(self, painter: QPainter, plan: Plan) -> None:
        """Draw the line in the hand, and those that are not in the picture yet, in the colour of their load."""
        view = self._view()
        srgb, wide = look_of(plan, self.load)
        pen = QPen(QColor(srgb), max(wide * view.scale, 1.0))
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF([view.to_px(x, y) for x, y in self._points]))
        piece = next((one for one in plan.motifs if one.id == self.piece), None)
        painted = self._model.painted
        if piece is None or (painted is not None and piece in painted.plan.motifs):
            return
        painter.save()
        pen.setWidthF(max(wide, 1.0 / view.scale))
        painter.setPen(pen)
        painter.setTransform(view.transform, combine=True)
        for way in piece.ways:
            path = piece.place.stroke(way).path
            painter.drawPoint(QPointF(*path.points_mm[0])) if is_dot(path) else painter.drawPath(outline_of(path))
        painter.restore()
