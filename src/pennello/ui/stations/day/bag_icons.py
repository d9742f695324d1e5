"""Small pictures of what lies in the bag: a cake by its stripes, a pan by its colour, a brush as it hangs."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap

from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.kit.shelf import Thing
from pennello.load.look import cake_colours
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.cake_drawing import draw_pan
from pennello.ui.widgets.paint import strip_image
from pennello.ui.widgets.painting import painting
from pennello.ui.widgets.tools import draw_tool, stick_px, tool_height_mm
from pennello.ui.widgets.true_icon import true_icon

ICON = QSize(44, 26)
_SHARP = 2
"""Pixels of the picture for each of the list, for screens of twice the sharpness."""


def bag_icon(thing: Thing | None, paints: Mapping[str, Paint]) -> QIcon:
    """Return the picture of a thing; an empty one of the same size where it is none of these."""
    pixmap = QPixmap(ICON * _SHARP)
    pixmap.setDevicePixelRatio(_SHARP)
    pixmap.fill(Qt.GlobalColor.transparent)
    with painting(pixmap) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        _draw(painter, QRectF(1, 1, ICON.width() - 2, ICON.height() - 2), thing, paints)
    return true_icon(pixmap)


def _draw(painter: QPainter, area: QRectF, thing: Thing | None, paints: Mapping[str, Paint]) -> None:
    if isinstance(thing, Cake):
        painter.drawImage(area, strip_image(cake_colours(thing, paints, 44)))
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.drawRoundedRect(area, 2, 2)
    elif isinstance(thing, Paint):
        middle, half = area.center(), area.height() / 2
        draw_pan(painter, QRectF(middle.x() - half, middle.y() - half, 2 * half, 2 * half), QColor(thing.srgb))
    elif isinstance(thing, Applicator):
        handle = 12.0
        high = tool_height_mm(thing)
        room = area.height() - (stick_px(thing) if thing.kind.pressed else handle)
        scale = min(max(room, 8.0) / high, area.width() / thing.width_mm)
        painter.translate(QPointF(area.center().x(), area.top()))
        draw_tool(painter, thing, scale, handle)
