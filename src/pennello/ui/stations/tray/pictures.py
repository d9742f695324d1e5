"""Large pictures of the chosen thing."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from pennello.colour.basis import FULL
from pennello.colour.kubelka_munk import film
from pennello.colour.observer import WAVELENGTH_NM
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import contact_width_mm, footprint
from pennello.kit.paint import Paint, masstones, optics
from pennello.load.look import cake_colours
from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.cake_drawing import CakeView, draw_wear_of
from pennello.ui.widgets.paint import draw_note, draw_ruler, strip_image
from pennello.ui.widgets.tools import draw_tool, tool_height_mm
from pennello.units import LengthUnit, length_text

FILMS_UM = (5.0, 10.0, 20.0, 40.0)
_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


def draw_paint(painter: QPainter, area: QRectF, paint: Paint) -> None:
    """Draw films of four thicknesses over black and white, and the reflectance below."""
    k, s = (getattr(optics((paint,)), name)[0] for name in ("k", "s"))
    grounds = np.stack([np.full(36, 0.03), np.full(36, 0.90)])
    tall = min(area.height() * 0.5, 96.0)
    width = area.width() / len(FILMS_UM)
    for column, thick in enumerate(FILMS_UM):
        colours = FULL.srgb(film(k * thick, s * thick, grounds))
        x = area.left() + column * width
        for row, colour in enumerate(colours.tolist()):
            part = QRectF(x, area.top() + row * tall / 2, width + 0.5, tall / 2)
            painter.fillRect(part, QColor.fromRgbF(*(min(max(one, 0.0), 1.0) for one in colour)))
        draw_note(
            painter,
            QRectF(x, area.top() + tall + 1, width, px(16)),
            phrase("{thick:g} µm", thick=thick),
        )
    painter.setPen(QPen(QColor(theme().line), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(QRectF(area.left(), area.top(), area.width(), tall))
    _draw_spectrum(painter, area.adjusted(0, tall + px(22), 0, -px(16)), paint)


def _draw_spectrum(painter: QPainter, area: QRectF, paint: Paint) -> None:
    inks = theme()
    values = masstones((paint,))[0]
    painter.setPen(QPen(QColor(inks.line), 1))
    painter.drawRect(area)
    x = area.left() + (WAVELENGTH_NM - 380) / 350 * area.width()
    y = area.bottom() - np.clip(values, 0, 1) * area.height()
    painter.setPen(QPen(QColor(inks.ink), 1.6))
    painter.drawPolyline(QPolygonF([QPointF(a, b) for a, b in zip(x.tolist(), y.tolist(), strict=True)]))
    words = phrase("measured") if paint.reflectance is not None else phrase("smoothest with this colour")
    bright = float(values.mean()) > 0.5  # the words stand where the curve does not
    line = area.bottom() - px(18) if bright else area.top() + 2
    words = phrase("films over black and white; reflectance, {words}", words=words)
    draw_note(painter, QRectF(area.left() + 4, line, area.width() - 8, px(16)), words, _LEFT)
    foot = QRectF(area.left(), area.bottom() + 1, area.width(), px(15))
    draw_note(painter, foot, "380 nm", _LEFT)
    draw_note(painter, foot, "730 nm", Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)


def draw_cake(painter: QPainter, area: QRectF, cake: Cake, paints: dict[str, Paint], unit: LengthUnit) -> None:
    """Draw the pan from above to scale with its wear, a ruler, and the names of its stripes."""
    scale = min((area.width() - 34) / cake.width_mm, (area.height() - px(46 + 15 * len(cake.stripes))) / cake.length_mm)
    pan = QRectF(area.left(), area.top() + 2, cake.width_mm * scale, cake.length_mm * scale)
    painter.drawImage(pan, strip_image(cake_colours(cake, paints, 256)))
    draw_wear_of(painter, CakeView(scale, pan.left(), pan, pan.top()), cake, paints)
    painter.setPen(QPen(QColor(theme().ink_2), 1.4))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRoundedRect(pan.adjusted(-1.5, -1.5, 1.5, 1.5), 4, 4)
    draw_ruler(painter, pan.bottomLeft() + QPointF(0, 3), cake.width_mm, scale, unit)
    y = pan.bottom() + px(34)
    for stripe in cake.stripes:
        painter.setPen(QPen(QColor(theme().line), 1))
        painter.setBrush(QColor(paints[stripe.paint].srgb))
        painter.drawRect(QRectF(area.left(), y + px(8) - 5, 10, 10))
        words = f"{paints[stripe.paint].name}, {length_text(stripe.width_mm, unit)}"
        if stripe.hollow_mm:
            words = phrase("{words}, hollow {deep}", words=words, deep=length_text(stripe.hollow_mm, unit))
        draw_note(painter, QRectF(area.left() + 16, y, area.width() - 16, px(16)), words, _LEFT)
        y += px(15)


def draw_brush(painter: QPainter, area: QRectF, brush: Applicator, unit: LengthUnit) -> None:
    """Draw the tool to scale, its footprint, and its width against pressure."""
    left = QRectF(area.left(), area.top(), area.width() * 0.48, area.height())
    scale = min(7.0, (left.width() - 8) / brush.width_mm, (left.height() - 64) / max(tool_height_mm(brush), 1.0))
    painter.save()
    painter.translate(left.center().x(), left.top() + 8)
    draw_tool(painter, brush, scale)
    painter.restore()
    right = QRectF(left.right() + 10, area.top(), area.width() - left.width() - 10, area.height())
    axis = GradientAxis.ALONG if brush.kind.dips else GradientAxis.ACROSS
    _draw_footprint(painter, QRectF(right.left(), right.top(), right.width(), right.height() * 0.46), brush, axis)
    _draw_pressure(painter, right.adjusted(0, right.height() * 0.46 + px(22), 0, -px(18)), brush, unit)


def _draw_footprint(painter: QPainter, area: QRectF, brush: Applicator, axis: GradientAxis) -> None:
    outline = footprint(brush, axis)
    size = np.ptp(outline, axis=0)
    scale = min(7.0, (area.width() - 6) / size[0], (area.height() - px(22)) / max(size[1], 0.5))
    middle = (outline.max(axis=0) + outline.min(axis=0)) / 2
    centre = area.center() - QPointF(0, px(8))
    points = [
        QPointF(centre.x() + (x - middle[0]) * scale, centre.y() + (y - middle[1]) * scale) for x, y in outline.tolist()
    ]
    painter.setPen(QPen(QColor(theme().ink_2), 1))
    painter.setBrush(QColor(theme().line))
    painter.drawPolygon(QPolygonF(points))
    words = phrase("its print, tip to belly") if axis is GradientAxis.ALONG else phrase("what touches")
    draw_note(painter, QRectF(area.left(), area.bottom() - px(16), area.width(), px(16)), words)


def _draw_pressure(painter: QPainter, area: QRectF, brush: Applicator, unit: LengthUnit) -> None:
    pressures = np.linspace(0.05, 1.0, 24)
    widths = contact_width_mm(brush, pressures)
    top = float(widths.max()) * 1.1
    painter.setPen(QPen(QColor(theme().line), 1))
    painter.drawLine(area.bottomLeft(), area.bottomRight())
    painter.drawLine(area.bottomLeft(), area.topLeft())
    x = area.left() + pressures * area.width()
    y = area.bottom() - widths / top * area.height()
    painter.setPen(QPen(QColor(theme().ink), 1.6))
    painter.drawPolyline(QPolygonF([QPointF(a, b) for a, b in zip(x.tolist(), y.tolist(), strict=True)]))
    ends = phrase(
        "{widths} to {widths_2} wide",
        widths=length_text(float(widths[0]), unit),
        widths_2=length_text(float(widths[-1]), unit),
    )
    draw_note(painter, QRectF(area.left() + 4, area.top() - px(16), area.width() - 4, px(15)), ends, _LEFT)
    draw_note(painter, QRectF(area.left(), area.bottom() + 1, area.width(), px(16)), phrase("light to full pressure"))
