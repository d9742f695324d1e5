"""What is drawn on the cake mat: the pan with its hollows and dirt, the brush on it, the signs of its wetness."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QPainter, QPainterPath, QPen, QTransform

from pennello.design.plan import Plan
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.load.recipe import PickUp, Wetness
from pennello.load.wear import dirt_share, worn_out
from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import draw_note
from pennello.ui.widgets.tools import draw_ferrule, tool_height_mm, tool_path


@dataclass(frozen=True, slots=True)
class CakeView:
    """How the mat shows its pan: px per mm, where the left wall is, the pan's rectangle, where the chisel lies."""

    scale: float
    left: float
    pan: QRectF
    chisel_y: float

    def x(self, at_mm: float) -> float:
        """Return where a place across the cake is, px."""
        return self.left + at_mm * self.scale


def draw_wear(painter: QPainter, view: CakeView, cake: Cake, plan: Plan) -> None:
    """Shade hollows by their depth, speckle dirt, strike out what is worn out."""
    draw_wear_of(painter, view, cake, plan.paints_by_id)


def draw_wear_of(painter: QPainter, view: CakeView, cake: Cake, paints: Mapping[str, Paint]) -> None:
    """Do so with the paints by id."""
    areas = [
        QRectF(view.x(low), view.pan.top(), (high - low) * view.scale, view.pan.height())
        for low, high in pairwise(cake.edges_mm)
    ]
    for area, stripe in zip(areas, cake.stripes, strict=True):
        depth = stripe.hollow_mm / cake.depth_mm
        if depth > 0.01:
            _draw_hollow(painter, area, depth)
    for index, share in enumerate(dirt_share(cake).tolist()):
        if share > 0.02:
            dirt = max(cake.stripes[index].dirt, key=lambda portion: portion.amount)
            _draw_specks(painter, areas[index], share, paints[dirt.paint].srgb, index)
    painter.setPen(QPen(QColor(theme().misses), 2))
    for index in worn_out(cake):
        area = areas[index].adjusted(2, 2, -2, -2)
        painter.drawLine(area.topLeft(), area.bottomRight())


def _draw_hollow(painter: QPainter, area: QRectF, depth: float) -> None:
    shade = QLinearGradient(area.topLeft(), area.topRight())
    dark, light = QColor(0, 0, 0, round(30 + 120 * depth)), QColor(255, 255, 255, round(60 * depth))
    for at, colour in ((0.0, dark), (0.35, QColor(0, 0, 0, round(40 * depth))), (0.85, light), (1.0, dark)):
        shade.setColorAt(at, colour)
    painter.fillRect(area, shade)


def _draw_specks(painter: QPainter, area: QRectF, share: float, colour: str, seed: int) -> None:
    places = np.random.default_rng(seed).random((min(160, int(12 + 160 * share)), 2))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colour))
    for x, y in places.tolist():
        painter.drawEllipse(QPointF(area.left() + x * area.width(), area.top() + y * area.height()), 1.6, 1.2)


def draw_pan(painter: QPainter, rect: QRectF, colour: QColor) -> None:
    """Draw a round pan of one colour."""
    painter.setPen(QPen(QColor(theme().ink_2), 1.4))
    painter.setBrush(QColor("#d8d6d2"))
    painter.drawEllipse(rect)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(colour)
    painter.drawEllipse(rect.adjusted(5, 5, -5, -5))


def shown_height(view: CakeView, brush: Applicator) -> float:
    """Return how long bristles or sponge are drawn, px: to scale, or what the pan leaves room for."""
    return min(tool_height_mm(brush) * view.scale, view.pan.height() * 0.5)


def draw_brush_lying(
    painter: QPainter, view: CakeView, brush: Applicator, pickup: PickUp, middle_x: float, axis: GradientAxis
) -> None:
    """Draw the brush from above: what touches across the stripes, bristles or sponge, ferrule; corners named."""
    painter.save()
    painter.translate(QPointF(middle_x, view.chisel_y))
    painter.rotate(-pickup.skew_deg)
    half = brush.width_mm * view.scale / 2
    squash = shown_height(view, brush) / (tool_height_mm(brush) * view.scale)
    body = QTransform.fromScale(1, squash).map(tool_path(brush, view.scale, flip=pickup.flip))
    painter.setPen(QPen(QColor("#ffffff"), 1.2))
    painter.setBrush(QColor(29, 28, 27, 70))
    painter.drawPath(body)
    _draw_hairs(painter, body)
    if not brush.kind.pressed:
        draw_ferrule(painter, brush, view.scale, brush.bristle_mm * view.scale * squash, 16)
    _draw_idle_part(painter, body, pickup, half, axis)
    for weight, colour in ((3.0, QColor("#ffffff")), (1.6, QColor("#0d5560"))):
        painter.setPen(QPen(colour, weight))
        painter.drawLine(QPointF(-half, 0), QPointF(half, 0))
    names = (phrase("tip"), phrase("tip")) if axis is GradientAxis.ALONG else ("B", "A") if pickup.flip else ("A", "B")
    for name, x in zip(names, (-half, half), strict=True):
        if axis is GradientAxis.ACROSS:
            _draw_corner(painter, name, x)
    painter.restore()


def _draw_hairs(painter: QPainter, body: QPainterPath) -> None:
    box = body.boundingRect()
    painter.save()
    painter.setClipPath(body)
    painter.setPen(QPen(QColor(0, 0, 0, 60), 1))
    xs = np.linspace(box.left(), box.right(), 13)[1:-1].tolist()
    painter.drawLines([QLineF(x, box.top(), x, box.bottom()) for x in xs])
    painter.restore()


def _draw_idle_part(painter: QPainter, body: QPainterPath, pickup: PickUp, half: float, axis: GradientAxis) -> None:
    """Veil the part of the edge that stays off the paint."""
    if pickup.whole or axis is GradientAxis.ALONG:
        return
    box = body.boundingRect()
    low, high = pickup.part if not pickup.flip else (1 - pickup.part[1], 1 - pickup.part[0])
    painter.save()
    painter.setClipPath(body)
    for start, end in ((0.0, low), (high, 1.0)):
        if end > start:
            painter.fillRect(
                QRectF(-half + 2 * half * start, box.top(), 2 * half * (end - start), box.height()),
                QColor(247, 246, 244, 190),
            )
    painter.restore()


def _draw_corner(painter: QPainter, name: str, x: float) -> None:
    label = QRectF(QPointF(x - px(9), -px(18) - 4), QSizeF(px(18), px(18)))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme().mat))
    painter.drawEllipse(label)
    painter.setPen(QColor(theme().ink))
    painter.drawText(label, Qt.AlignmentFlag.AlignCenter, name)


def draw_wetness(painter: QPainter, view: CakeView, wetness: Wetness, middle_x: float, half: float) -> None:
    """Draw the signs: bubbles and a drip, or drags and streaks; nothing for a creamy load."""
    painter.save()
    y = view.chisel_y
    if wetness in (Wetness.WET, Wetness.TOO_WET):
        many = 7 if wetness is Wetness.WET else 18
        painter.setBrush(QColor(255, 255, 255, 60))
        painter.setPen(QPen(QColor(255, 255, 255, 200), 1))
        for number, (u, v) in enumerate(np.random.default_rng(5).random((many, 2)).tolist()):
            radius = 1.6 + number % 3
            painter.drawEllipse(QPointF(middle_x + (2 * u - 1) * half, y - 8 - 30 * v), radius, radius)
        if wetness is Wetness.TOO_WET:
            drop = QPainterPath(QPointF(middle_x + half + 5, y - 2))
            drop.cubicTo(middle_x + half + 13, y + 10, middle_x + half + 9, y + 17, middle_x + half + 5, y + 17)
            drop.cubicTo(middle_x + half + 1, y + 17, middle_x + half - 3, y + 10, middle_x + half + 5, y - 2)
            painter.drawPath(drop)
    elif wetness in (Wetness.NEARLY_DRY, Wetness.DAMP):
        strokes = 5 if wetness is Wetness.DAMP else 12
        painter.setPen(QPen(QColor(255, 255, 255, 90), 1, Qt.PenStyle.DashLine))
        for x in np.linspace(middle_x - half, middle_x + half, strokes + 2)[1:-1].tolist():
            painter.drawLine(QPointF(x, y - 6), QPointF(x, y - 34))
    painter.restore()


def draw_passes(painter: QPainter, view: CakeView, brush: Applicator, middle_x: float, words: str) -> None:
    """Say near the foot of the pan how the brush moves and how often."""
    top = view.pan.bottom() - 32
    lowest = view.chisel_y + shown_height(view, brush) + (34 if not brush.kind.pressed else 4)
    if top < min(lowest, view.pan.bottom() - 30) or not math.isfinite(middle_x):
        return
    width = px(20 + 6.4 * len(words))
    pill = QRectF(middle_x - width / 2, top + 26 - px(20), width, px(20))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme().mat))
    painter.drawRoundedRect(pill, 9, 9)
    draw_note(painter, pill, words)
