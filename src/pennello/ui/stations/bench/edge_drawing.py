"""What is drawn on the edge mat: the loaded bristles face on, the shares below, and where real loads scatter."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from pennello.colour.srgb import parse_hex
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.contact import BINS, footprint
from pennello.kit.paint import Paint
from pennello.load.edge import LoadedEdge
from pennello.load.look import edge_colours
from pennello.load.scatter import Band
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import strip_image, to_image
from pennello.ui.widgets.tools import SPONGE, draw_ferrule

FERRULE_PX = 40.0


def draw_loaded(
    painter: QPainter, area: QRectF, brush: Applicator, edge: LoadedEdge, paints: Mapping[str, Paint], scale: float
) -> None:
    """Draw what holds the paint: bristles below a ferrule, a print from tip to belly, or the face of a sponge."""
    shape = _shape(area, brush, edge.axis, scale)
    if not brush.kind.pressed and edge.axis is GradientAxis.ACROSS:
        painter.save()
        painter.translate(area.center().x(), area.top())
        painter.scale(1, -1)
        draw_ferrule(painter, brush, scale, 0, FERRULE_PX)
        painter.restore()
    painter.save()
    painter.setClipPath(shape)
    painter.fillRect(area, QColor(SPONGE if brush.kind.pressed else "#bdb9b4"))
    painter.drawImage(area, strip_image(edge_colours(edge, paints)))
    _draw_bare(painter, area, edge, SPONGE if brush.kind.pressed else "#bdb9b4")
    if not brush.kind.pressed:
        _draw_hairs(painter, area, along=edge.axis is GradientAxis.ALONG)
    painter.restore()
    painter.setPen(QPen(QColor(theme().ink_2), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(shape)


def _shape(area: QRectF, brush: Applicator, axis: GradientAxis, scale: float) -> QPainterPath:
    path = QPainterPath()
    if not brush.kind.pressed and axis is GradientAxis.ACROSS:
        path.addRect(area)
        return path
    outline = footprint(brush, axis)
    low, size = outline.min(axis=0), np.ptp(outline, axis=0)
    squash = min(1.0, area.height() / max(float(size[1]) * scale, 1e-6))
    x = area.left() + (outline[:, 0] - low[0]) * (area.width() / float(size[0]))
    y = area.center().y() + (outline[:, 1] - low[1] - size[1] / 2) * (scale * squash)
    points = [QPointF(*point) for point in zip(x.tolist(), y.tolist(), strict=True)]
    path.addPolygon(QPolygonF(points))
    path.closeSubpath()
    return path


def _draw_bare(painter: QPainter, area: QRectF, edge: LoadedEdge, colour: str) -> None:
    """Show what holds no paint as it is."""
    held = edge.volume_mm3_per_mm
    step = area.width() / BINS
    for index in np.flatnonzero(held < 0.02 * max(float(held.max()), 1e-9)):
        painter.fillRect(QRectF(area.left() + index * step, area.top(), step + 0.5, area.height()), QColor(colour))


def _draw_hairs(painter: QPainter, area: QRectF, *, along: bool) -> None:
    painter.setPen(QPen(QColor(0, 0, 0, 22), 1))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    if along:
        ys = np.linspace(area.top(), area.bottom(), 20).tolist()
        painter.drawLines([QLineF(area.left(), y, area.right(), y) for y in ys])
    else:
        xs = (area.left() + area.width() * index / BINS for index in range(1, BINS, 2))
        painter.drawLines([QLineF(x, area.top(), x, area.bottom()) for x in xs])
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)


def draw_shares(painter: QPainter, area: QRectF, edge: LoadedEdge, codes: list[str]) -> None:
    """Draw the shares of the paints stacked, each in its own colour ("#rrggbb" in the edge's order)."""
    rows = max(2, round(area.height()))
    height = 1 - (np.arange(rows)[:, None] + 0.5) / rows
    columns = np.linspace(0, BINS - 1, 4 * BINS)
    reached = np.array([np.interp(columns, np.arange(BINS), row) for row in np.cumsum(edge.share, axis=0)])
    which = (height[None] > reached[:, None, :]).sum(axis=0)
    colours = np.rint([parse_hex(code) * 255 for code in [*codes, theme().mat]]).astype(np.uint8)
    painter.drawImage(area, to_image(colours[which]))
    painter.setPen(QPen(QColor(theme().line), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(area)


def draw_scatter(painter: QPainter, area: QRectF, band: Band) -> None:
    """Veil where 8 of 10 real loads hand over from one paint to the next."""
    stacked = np.sort(np.cumsum(band.tries, axis=1), axis=0)
    low, high = (stacked[round(level * (len(stacked) - 1))] for level in (0.1, 0.9))
    x = area.left() + (np.arange(BINS) + 0.5) / BINS * area.width()
    painter.setPen(QPen(QColor(255, 255, 255, 190), 1))
    painter.setBrush(QColor(255, 255, 255, 90))
    for under, over in zip(low[:-1], high[:-1], strict=True):
        if float((over - under).max()) < 0.01:
            continue
        there = over - under > 0.004
        first, last = np.flatnonzero(there)[[0, -1]]
        reach = slice(max(first - 1, 0), last + 2)
        top = [QPointF(a, area.bottom() - b * area.height()) for a, b in zip(x[reach], over[reach], strict=True)]
        low_side = [QPointF(a, area.bottom() - b * area.height()) for a, b in zip(x[reach], under[reach], strict=True)]
        painter.drawPolygon(QPolygonF([*top, *reversed(low_side)]))
