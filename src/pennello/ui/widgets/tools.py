"""Pictures of brushes, sponges and daubers to scale, as every station shows them."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QPainter, QPainterPath, QPen, QPolygonF

from pennello.kept import kept_small
from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.outline import ferrule_mm, side_outline

BRISTLE = "#8a7f74"
SPONGE = "#e3cf9f"
_STEEL = ((0.0, "#8d8d8d"), (0.3, "#efefef"), (0.65, "#bcbcbc"), (1.0, "#777777"))


@kept_small
def _outline(brush: Applicator) -> tuple[tuple[float, float], ...]:
    return tuple((float(x), float(y)) for x, y in side_outline(brush))


def tool_path(brush: Applicator, scale: float, *, flip: bool = False) -> QPainterPath:
    """Return bristles or sponge as a path: the middle of what touches first at (0, 0), the handle downwards, px."""
    side = -1.0 if flip else 1.0
    path = QPainterPath()
    path.addPolygon(QPolygonF([QPointF(side * x * scale, y * scale) for x, y in _outline(brush)]))
    path.closeSubpath()
    return path


def tool_height_mm(brush: Applicator) -> float:
    """Return how far bristles or sponge reach from what touches first, mm."""
    return max(y for _, y in _outline(brush))


def steel(left: float, width: float) -> QLinearGradient:
    """Return the shine of a ferrule."""
    shine = QLinearGradient(left, 0, left + width, 0)
    for at, grey in _STEEL:
        shine.setColorAt(at, QColor(grey))
    return shine


def draw_ferrule(painter: QPainter, brush: Applicator, scale: float, top: float, length: float) -> None:
    """Draw the ferrule from y = `top` downwards, `length` px, and the beginning of the handle."""
    half = max(ferrule_mm(brush) * scale / 2, 2.0)
    shoulder = max(min(half, 9.0), half * 0.5)
    painter.setPen(QPen(QColor("#555555"), 1))
    painter.setBrush(steel(-half, 2 * half))
    corners = [(-half, top), (half, top), (shoulder, top + length), (-shoulder, top + length)]
    painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in corners]))


def draw_tool(painter: QPainter, brush: Applicator, scale: float, handle_px: float = 46.0) -> None:
    """Draw a clean tool as it hangs: handle down, what touches first at (0, 0), true width at `scale` px per mm."""
    path = tool_path(brush, scale)
    if brush.kind is ApplicatorKind.DAUBER:
        _draw_stick(painter, tool_height_mm(brush) * scale - 3, stick_px(brush) + 3)
    painter.setPen(QPen(QColor("#5f564e"), 1))
    painter.setBrush(QColor(SPONGE if brush.kind.pressed else BRISTLE))
    painter.drawPath(path)
    if brush.kind.pressed:
        _draw_pores(painter, path)
        return
    root = brush.bristle_mm * scale
    _draw_hairs(painter, brush, scale)
    draw_ferrule(painter, brush, scale, root, handle_px * 0.45)
    _draw_stick(painter, root + handle_px * 0.45, handle_px * 0.55)


def stick_px(brush: Applicator) -> float:
    """Return how far the stick of a dauber is drawn, px; nothing for any other sponge."""
    return 24.0 if brush.kind is ApplicatorKind.DAUBER else 0.0


def _draw_stick(painter: QPainter, top: float, length: float) -> None:
    painter.setPen(QPen(QColor("#3b322b"), 1))
    painter.setBrush(QColor("#6b5a4a"))
    painter.drawRoundedRect(QRectF(-4, top, 8, length), 3, 3)


def _draw_hairs(painter: QPainter, brush: Applicator, scale: float) -> None:
    painter.save()
    painter.setClipPath(tool_path(brush, scale))
    painter.setPen(QPen(QColor(0, 0, 0, 60), 1))
    half = brush.width_mm * scale / 2
    for x in np.arange(-half + 2, half, 3.0):
        painter.drawLine(QPointF(float(x), 0), QPointF(float(x), brush.bristle_mm * scale))
    painter.restore()


def _draw_pores(painter: QPainter, path: QPainterPath) -> None:
    """Speckle a sponge, always the same way."""
    box = path.boundingRect()
    places = np.random.default_rng(3).random((max(6, int(box.width() * box.height() / 90)), 2))
    painter.save()
    painter.setClipPath(path)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(120, 95, 40, 70))
    for x, y in places[:400].tolist():
        painter.drawEllipse(QPointF(box.left() + x * box.width(), box.top() + y * box.height()), 1.4, 1.1)
    painter.restore()
