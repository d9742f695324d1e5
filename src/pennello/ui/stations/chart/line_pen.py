"""Line work drawn on the chart by hand, mouse or pen: each pull is a line, a tap is a dot."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPen, QPolygonF

from pennello.chart.chart import Point, drawn
from pennello.design.edits import new_name
from pennello.design.line_work import (
    Taper,
    hand_drawn,
    is_dot,
    look_of,
    places_to_snap,
    shapes_to_snap,
    swirl,
    with_line_work,
    with_lines_on,
    with_snapped_ends,
    with_usual_line_load,
)
from pennello.design.part_edits import put_in
from pennello.design.plan import Plan
from pennello.phrases import phrase
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.stations.chart.pen import HandTouch, Pen, draw_hint
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.qt_surface import outline_of

SNAP_PX = 7
"""So near a line begins and ends on what is there (a default)."""

_ENDS = phrase("Esc ends; undo takes the last one back.")
_HINTS = {
    Taper.DOTS: phrase("a pull is a row of dots that grow, a tap is a dot. {ends}", ends=_ENDS),
    Taper.SWIRL: phrase("a pull is the radius of a swirl, from its middle out. {ends}", ends=_ENDS),
    Taper.CLUSTER: phrase("a pull is the radius of a cluster of dots, from its middle out. {ends}", ends=_ENDS),
}
_HINT = phrase("a pull is a line, a tap is a dot; arrows, Space by keys. Esc ends; undo takes the last one back.")


class LinePen(Pen):
    """Draws line work with a load; one piece takes all the lines of one sitting."""

    def __init__(self, model: ChartModel, view: Callable[[], ChartView]) -> None:
        super().__init__(model, view)
        self._points: list[Point] = []
        self._at: Point = (0.0, 0.0)
        self._by_keys = False
        self.load = self.piece = self._within = ""
        self.taper = Taper.EVEN

    def begin(self, load: str = "", piece: str = "") -> None:
        """Draw from now on with a load, or the plan's usual one: on with a piece, or a new one."""
        self.start()
        self.load, self.piece, self._points = load, piece, []
        self._within = self._model.part
        left, top, right, bottom = self._model.chart.bounds_mm
        self._at, self._by_keys = ((left + right) / 2, (top + bottom) / 2), False

    def end(self) -> None:
        """Draw no more."""
        super().end()
        self._points = []

    def press(self, touch: HandTouch) -> None:
        """Set down."""
        self._points = [self._view().to_mm(touch.at)]

    def move(self, touch: HandTouch) -> None:
        """Pull on."""
        if self._points:
            self._points.append(self._view().to_mm(touch.at))

    def release(self) -> None:
        """Lift: the line is there."""
        points, self._points = self._points, []
        if points:
            self._model.edit(phrase("Draw a line"), lambda plan: self._drawn(plan, points))

    def key(self, event: QKeyEvent) -> bool:
        """Lead the hand by arrows, down and up by Space; Esc gives the line in the hand back."""
        there = self.led(event, self._at)
        if there is not None:
            self._at, self._by_keys = there, True
            if self._points:
                self._points.append(there)
        elif event.key() == Qt.Key.Key_Space:
            self._by_keys = True
            if self._points:
                self.release()
            else:
                self._points = [self._at]
        elif event.key() == Qt.Key.Key_Escape and self._points:
            self._points = []
        else:
            return False
        return True

    def _drawn(self, plan: Plan, points: list[Point]) -> Plan:
        scale = self._view().scale
        if len(points) > 1:
            key = self._model.key
            # while the picture is behind, what strokes touch may not be worked out yet, and would keep the hand waiting
            shapes = () if self._model.busy else shapes_to_snap(plan, key)
            points = with_snapped_ends(points, places_to_snap(plan, key), SNAP_PX / scale, shapes)
        lines = (hand_drawn(points, least_mm=max(6 / scale, 0.5)),)
        if self._model.part != self._within:  # another part is drawn now
            self.piece, self._within = "", self._model.part
        if any(one.id == self.piece for one in plan.motifs):
            return with_lines_on(plan, self.piece, lines, self.taper)
        plan, self.load = with_usual_line_load(plan, self.load)
        name = new_name(plan, plan.stroke(self.load).name)
        plan, self.piece = with_line_work(plan, self.load, lines, self._model.key, name, self.taper)
        return put_in(plan, [self.piece], self._model.part)

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """Draw what is being drawn, and how it ends."""
        if not self.on:
            return
        plan, self.load = with_usual_line_load(self._model.plan, self.load)
        hint = _HINTS.get(self.taper, _HINT)
        words = phrase("Drawing with {stroke}: {hint}", stroke=plan.stroke(self.load).name, hint=hint)
        draw_hint(painter, area, self.told(words))
        self._draw_fresh(painter, plan)
        if self._by_keys:
            self.draw_tip(painter, self._at)

    def _draw_fresh(self, painter: QPainter, plan: Plan) -> None:
        """Draw the line in the hand, and those that are not in the picture yet, in the colour of their load."""
        view = self._view()
        srgb, wide = look_of(plan, self.load)
        pen = QPen(QColor(srgb), max(wide * view.scale, 1.0))
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        here = self._points
        if self.taper is Taper.SWIRL and len(here) > 1:
            here = [(float(x), float(y)) for x, y in drawn(swirl(hand_drawn(here)))]
        if self.taper is Taper.CLUSTER and len(here) > 1:
            radius = math.dist(here[0], here[-1]) * view.scale
            painter.drawEllipse(view.to_px(*here[0]), radius, radius)
        else:
            painter.drawPolyline(QPolygonF([view.to_px(x, y) for x, y in here]))
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
