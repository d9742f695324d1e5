"""Drawing a chart: skin, what is painted, lines, guides, landmarks, and pins where something is odd."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPainterPath, QPainterPathStroker, QPen, QTransform

from pennello.chart.chart import Chart
from pennello.design.placed import GLITTER, LINES, Overlay, Reserved, grains, is_dot, paths_of
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.session.chart_scene import Painted, grain_colour
from pennello.ui.theme.style import theme
from pennello.ui.widgets.paint import draw_note, to_image

_DARK_LINE, _PALE_LINE = "#25211D", "#F1EBE2"
_INNER = 150


@dataclass(frozen=True, slots=True)
class ChartView:
    """Where a chart lies on a surface: px per mm, the corner of its origin, and whether it is seen in a mirror."""

    scale: float
    left: float
    top: float
    mirror: bool = False

    def to_px(self, x_mm: float, y_mm: float) -> QPointF:
        """Return a point of the chart on the surface."""
        return QPointF(self.left + (-x_mm if self.mirror else x_mm) * self.scale, self.top + y_mm * self.scale)

    def to_mm(self, at: QPointF) -> tuple[float, float]:
        """Return a point of the surface on the chart."""
        x = (at.x() - self.left) / self.scale
        return (-x if self.mirror else x), (at.y() - self.top) / self.scale

    @property
    def transform(self) -> QTransform:
        """From mm to px."""
        return QTransform(-self.scale if self.mirror else self.scale, 0, 0, self.scale, self.left, self.top)


def view_of(chart: Chart, area: QRectF, zoom: float = 1.0, *, mirror: bool = False) -> ChartView:
    """Return a chart in the middle of an area, as large as fits times a zoom."""
    left, top, right, bottom = chart.bounds_mm
    scale = zoom * min(area.width() / (right - left + 8), area.height() / (bottom - top + 8))
    middle_x, middle_y = (left + right) / 2, (top + bottom) / 2
    across = middle_x * (1 if mirror else -1) * scale
    return ChartView(scale, area.center().x() + across, area.center().y() - middle_y * scale, mirror)


@lru_cache(maxsize=512)
def outline_of(path: CubicPath) -> QPainterPath:
    """Return a path for painting, mm."""
    points = [QPointF(x, y) for x, y in path.points_mm]
    drawn = QPainterPath(points[0])
    for at in range(1, len(points), 3):
        drawn.cubicTo(points[at], points[at + 1], points[at + 2])
    return drawn


def painted_image(painted: Painted) -> QImage:
    """Return what is painted as an image with what is bare left clear."""
    return to_image(painted.rgba)


def draw_skin(painter: QPainter, chart: Chart, view: ChartView, skin: QColor) -> None:
    """Fill what can be painted."""
    painter.save()
    painter.setTransform(view.transform, combine=True)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(skin)
    for line in chart.lines:
        if line.filled:
            painter.drawPath(outline_of(line.path))
    painter.drawPath(outline_of(chart.skin))
    painter.restore()


def draw_painted(
    painter: QPainter, image: QImage, painted: Painted, view: ChartView, moved: QTransform | None = None
) -> None:
    """Draw the picture where it lies, or moved from there."""
    canvas = painted.canvas
    painter.save()
    painter.setTransform((moved or QTransform()) * view.transform, combine=True)
    size = QRectF(canvas.left_mm, canvas.top_mm, canvas.columns / canvas.px_per_mm, canvas.rows / canvas.px_per_mm)
    painter.drawImage(size, image)
    painter.restore()


def carry_transform(start: Place, now: Place) -> QTransform:
    """Return what takes a picture made with a motif at one place to another place, mm to mm."""
    return _of_place(start).inverted()[0] * _of_place(now)


def _of_place(place: Place) -> QTransform:
    moved = QTransform()
    moved.translate(place.x_mm, place.y_mm)
    moved.rotate(place.turn_deg)
    moved.scale(-place.scale if place.mirrored else place.scale, place.scale)
    return moved


def mirror_transform(midline_mm: float) -> QTransform:
    """Return a reflection across a vertical line, mm to mm."""
    return QTransform(-1, 0, 0, 1, 2 * midline_mm, 0)


def wet_image(painted: Painted) -> QImage | None:
    """Return where it is still wet, as a blue veil."""
    if painted.wetness is None or not painted.wetness.size:
        return None
    rows, columns = painted.wetness.shape
    veil = np.zeros((rows, columns, 4), np.uint8)
    veil[..., :3] = (40, 110, 230)
    veil[..., 3] = np.rint(np.clip(painted.wetness, 0, 1) * 150)
    return to_image(veil)


def draw_overlay(painter: QPainter, overlay: Overlay, view: ChartView) -> None:
    """Draw glitter's grains, a stencil's flat colour, or lines."""
    painter.save()
    painter.setTransform(view.transform, combine=True)
    painter.setPen(Qt.PenStyle.NoPen)
    if overlay.kind == GLITTER:
        for x, y, radius, brightness in grains(overlay).tolist():
            painter.setBrush(QColor(*grain_colour(overlay, brightness)))
            painter.drawEllipse(QPointF(x, y), radius, radius)
    else:
        draw_shapes(painter, overlay)
    painter.restore()


def draw_shapes(painter: QPainter, overlay: Overlay) -> None:
    """Draw a stencil's shapes, or lines and dots, in mm where they lie, as one coat: no darker where they meet."""
    colour = QColor(overlay.srgb)
    colour.setAlphaF(overlay.amount)
    coat = QPainterPath()
    coat.setFillRule(Qt.FillRule.WindingFill)
    for path in paths_of(overlay):
        coat.addPath(_thick(path, overlay.line_mm) if overlay.kind == LINES else outline_of(path))
    painter.fillPath(coat.simplified() if overlay.kind == LINES else coat, colour)


def _thick(path: CubicPath, width_mm: float) -> QPainterPath:
    """Return a line as wide as it is, with round ends; a dot is a disc."""
    if is_dot(path):
        disc = QPainterPath()
        disc.addEllipse(QPointF(*path.points_mm[0]), width_mm / 2, width_mm / 2)
        return disc
    pen = QPainterPathStroker()
    pen.setWidth(width_mm)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    return pen.createStroke(outline_of(path)).simplified()


def draw_reserved(painter: QPainter, kept: Reserved, view: ChartView) -> None:
    """Draw a place that is kept for what comes later."""
    at, radius = view.to_px(kept.x_mm, kept.y_mm), kept.radius_mm * view.scale
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(theme().accent), 1.4, Qt.PenStyle.DotLine))
    painter.drawEllipse(at, radius, radius)
    label = QRectF(at.x() - 4 - 3.3 * len(kept.name), at.y() - 9, 8 + 6.6 * len(kept.name), 18)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme().mat))
    painter.drawRoundedRect(label, 6, 6)
    draw_note(painter, label, kept.name)


def draw_lines(painter: QPainter, chart: Chart, view: ChartView, skin: QColor) -> None:
    """Draw the lines, in an ink that reads on the skin."""
    dark = skin.lightnessF() > 0.28
    painter.save()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setTransform(view.transform, combine=True)
    for line in chart.lines:
        ink = QColor(_DARK_LINE if dark or line.weight >= 0.9 else _PALE_LINE)
        if line.weight < 0.9:
            ink.setAlpha(min(60 + round(_INNER * line.weight), 200))
        pen = QPen(ink, 0.9 + 0.9 * line.weight)
        pen.setCosmetic(True)
        painter.setPen(pen)
        painter.drawPath(outline_of(line.path))
    painter.restore()


def draw_guide(painter: QPainter, path: CubicPath, view: ChartView) -> None:
    """Draw a frame as a dashed guide."""
    painter.save()
    painter.setTransform(view.transform, combine=True)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    pen = QPen(QColor(theme().accent), 1.4, Qt.PenStyle.DashLine)
    pen.setCosmetic(True)
    painter.setPen(pen)
    painter.drawPath(outline_of(path))
    painter.restore()


def draw_landmarks(painter: QPainter, chart: Chart, view: ChartView, near: str) -> None:
    """Draw landmarks as small crosses, the one that is near with its name."""
    for name, (x, y) in chart.landmarks:
        at = view.to_px(x, y)
        painter.setPen(QPen(QColor(theme().accent), 1))
        painter.drawLine(at + QPointF(-3, 0), at + QPointF(3, 0))
        painter.drawLine(at + QPointF(0, -3), at + QPointF(0, 3))
        if name == near:
            label = QRectF(at.x() + 8, at.y() - 20, 12 + 6.4 * len(name), 18)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(theme().mat))
            painter.drawRoundedRect(label, 6, 6)
            draw_note(painter, label, name)


def draw_pin(painter: QPainter, at: QPointF, number: int) -> None:
    """Draw a numbered pin where something is odd."""
    painter.setPen(QPen(QColor(theme().mat), 2))
    painter.setBrush(QColor(theme().misses))
    painter.drawEllipse(at, 9, 9)
    painter.setPen(QColor(theme().mat))
    painter.drawText(QRectF(at.x() - 9, at.y() - 9, 18, 18), Qt.AlignmentFlag.AlignCenter, str(number))


def draw_sides(painter: QPainter, area: QRectF, *, mirror: bool) -> None:
    """Say whose left and right it is."""
    left, right = ("wearer's left", "wearer's right") if mirror else ("wearer's right", "wearer's left")
    draw_note(painter, QRectF(area.left() + 6, area.bottom() - 20, 120, 16), left, Qt.AlignmentFlag.AlignLeft)
    draw_note(painter, QRectF(area.right() - 126, area.bottom() - 20, 120, 16), right, Qt.AlignmentFlag.AlignRight)
