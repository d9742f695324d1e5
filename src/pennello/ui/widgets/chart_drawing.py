"""Drawing a chart: skin, what is painted, lines, guides, landmarks, and pins where something is odd."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen, QTransform

from pennello.chart.chart import Chart
from pennello.chart.names import place_words
from pennello.design.marks import Reserved
from pennello.design.surface import Ink
from pennello.lay.canvas import Canvas
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase
from pennello.session.chart_scene import Painted
from pennello.session.chart_views import ChartLook, frame_of
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import draw_note, is_drawn, to_image
from pennello.ui.widgets.qt_surface import QtSurface, outline_of

_GAUGE_PX = 46.0


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
    return view_seen(chart, area, ChartLook(zoom=zoom), mirror=mirror)


def view_seen(chart: Chart, area: QRectF, seen: ChartLook, *, mirror: bool = False) -> ChartView:
    """Return a chart in an area as it is looked at."""
    x, y, width, height = frame_of(chart, seen.view)
    scale = seen.zoom * min(area.width() / width, area.height() / height)
    across = (x + seen.right_mm) * (1 if mirror else -1) * scale
    return ChartView(scale, area.center().x() + across, area.center().y() - (y + seen.down_mm) * scale, mirror)


def painted_image(painted: Painted) -> QImage:
    """Return what is painted as an image with what is bare left clear."""
    return to_image(painted.rgba)


def draw_painted(
    painter: QPainter, image: QImage, canvas: Canvas, view: ChartView, moved: QTransform | None = None
) -> None:
    """Draw a picture of what is painted where it lies, or moved from there."""
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


def surface_of(painter: QPainter, view: ChartView) -> QtSurface:
    """Return a painter as a surface for a chart that lies so."""
    return QtSurface(painter, view.transform, view.scale)


def ink_of(colour: QColor) -> Ink:
    """Return a colour as an ink."""
    return Ink(colour.red(), colour.green(), colour.blue())


def draw_reserved(painter: QPainter, kept: Reserved, view: ChartView) -> None:
    """Draw a place that is kept for what comes later."""
    at, radius = view.to_px(kept.x_mm, kept.y_mm), kept.radius_mm * view.scale
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(theme().accent), 1.4, Qt.PenStyle.DotLine))
    painter.drawEllipse(at, radius, radius)
    label = QRectF(0, 0, px(8 + 6.6 * len(kept.name)), px(18))
    label.moveCenter(at)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme().mat))
    painter.drawRoundedRect(label, 6, 6)
    draw_note(painter, label, kept.name)


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


def draw_photo(painter: QPainter, image: QImage, onto: NDArray[np.floating[Any]], view: ChartView) -> None:
    """Draw a photo on a chart by what takes its px to mm, shape (2, 3)."""
    (a, b, x), (c, d, y) = onto.tolist()
    painter.save()
    painter.setTransform(QTransform(a, c, b, d, x, y) * view.transform, combine=True)
    painter.drawImage(0, 0, image)
    painter.restore()


def draw_level(painter: QPainter, at: QPointF, rises_deg: float) -> None:
    """Draw how steeply something rises from a point against the level, up to the right above 0."""
    level = 0.0 if abs(rises_deg) <= 90 else 180.0
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(theme().accent), 1, Qt.PenStyle.DashLine))
    side = -1.0 if level else 1.0
    painter.drawLine(at, at + QPointF(side * _GAUGE_PX, 0))
    box = QRectF(at.x() - _GAUGE_PX * 0.7, at.y() - _GAUGE_PX * 0.7, _GAUGE_PX * 1.4, _GAUGE_PX * 1.4)
    painter.drawArc(box, round(16 * level), round(16 * (rises_deg - level)))


def draw_landmarks(painter: QPainter, chart: Chart, view: ChartView, near: str) -> None:
    """Draw landmarks as small crosses, the one that is near with its name."""
    for name, (x, y) in chart.landmarks:
        at = view.to_px(x, y)
        painter.setPen(QPen(QColor(theme().accent), 1))
        painter.drawLine(at + QPointF(-3, 0), at + QPointF(3, 0))
        painter.drawLine(at + QPointF(0, -3), at + QPointF(0, 3))
        if name == near:
            words = place_words(name)
            label = QRectF(at.x() + 8, at.y() - px(18) - 2, px(12 + 6.4 * len(words)), px(18))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(theme().mat))
            painter.drawRoundedRect(label, 6, 6)
            draw_note(painter, label, words)


def draw_pin(painter: QPainter, at: QPointF, number: int) -> None:
    """Draw a numbered pin where something is odd."""
    painter.setPen(QPen(QColor(theme().mat), 2))
    painter.setBrush(QColor(theme().misses))
    painter.drawEllipse(at, px(9), px(9))
    painter.setPen(QColor(theme().mat))
    painter.drawText(QRectF(at.x() - px(9), at.y() - px(9), px(18), px(18)), Qt.AlignmentFlag.AlignCenter, str(number))


def draw_sides(painter: QPainter, area: QRectF, *, mirror: bool) -> None:
    """Say whose left and right it is."""
    if not is_drawn(painter, area.adjusted(0, area.height() - px(24), 0, 0)):
        return
    left, right = (
        (phrase("wearer's left"), phrase("wearer's right"))
        if mirror
        else (phrase("wearer's right"), phrase("wearer's left"))
    )
    draw_note(
        painter, QRectF(area.left() + 6, area.bottom() - px(16) - 4, px(120), px(16)), left, Qt.AlignmentFlag.AlignLeft
    )
    draw_note(
        painter,
        QRectF(area.right() - px(120) - 6, area.bottom() - px(16) - 4, px(120), px(16)),
        right,
        Qt.AlignmentFlag.AlignRight,
    )
