"""The loaded edge, face on: bristles in paint, and the paints' shares below."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QEvent, QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QMouseEvent, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from pennello.aim.attempt import Side
from pennello.colour.srgb import parse_hex
from pennello.kit.contact import BINS
from pennello.load.edge import Boundary, LoadedEdge, boundaries
from pennello.load.look import edge_colours
from pennello.ui.stations.bench.model import BenchModel
from pennello.ui.stations.bench.scale import EDGE_PX, shared_scale
from pennello.ui.theme.style import theme
from pennello.ui.widgets.mat import Mat
from pennello.ui.widgets.paint import draw_note, draw_ruler, strip_image, to_image
from pennello.ui.widgets.words import Words
from pennello.units import length_text

_HOVER_PX = 8


class EdgeMat(Mat):
    """Ferrule, bristles, shares by volume, boundaries with their 10-90 widths over a ruler."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__("Edge", parent)
        self._model = model
        self.words = Words(6)
        self.fields.addWidget(self.words, 0, 0)
        self.surface.setMouseTracking(True)
        self.surface.installEventFilter(self)

    @property
    def _edge(self) -> LoadedEdge | None:
        return self._model.outcome.laid.edge if self._model.outcome else None

    @property
    def _scale(self) -> float:
        return shared_scale(self._model, EDGE_PX * 10) if self._model.stroke else 8.0

    @property
    def _left(self) -> float:
        return self.area.width() / 2 - self._model.brush.width_mm * self._scale / 2

    def place(self) -> None:
        """Say in words what is loaded."""
        edge = self._edge
        if edge is None:
            self.words.setText("")
            self.note.setText("")
            return
        self.note.setText(f"{edge.total_mm3:.0f} mm³")
        self.note.setToolTip("Paint on the brush, solids, predicted")
        unit = self._model.unit
        names = {paint.id: paint.name for paint in self._model.plan.paints}
        lines = [
            f"{names[one.from_paint]} → {names[one.to_paint]}: {length_text(one.at_mm, unit)} from A, "
            f"{length_text(one.width_10_90_mm, unit)} soft"
            for one in boundaries(edge)
        ]
        self.words.setText("\n".join(lines) or "One colour from corner to corner.")

    def eventFilter(self, watched: object, event: QEvent) -> bool:
        """Follow the hand: the boundary near it is marked on all mats."""
        if event.type() == QEvent.Type.MouseMove and isinstance(event, QMouseEvent) and self._edge:
            found = [abs(self._left + one.at_mm * self._scale - event.position().x()) for one in boundaries(self._edge)]
            near = int(np.argmin(found)) if found and min(found) < _HOVER_PX else -1
            self._model.hover(near)
        elif event.type() == QEvent.Type.Leave:
            self._model.hover(-1)
        return super().eventFilter(watched, event)  # type: ignore[arg-type]

    def paint_surface(self, painter: QPainter) -> None:
        """Draw the brush face on and the shares."""
        edge = self._edge
        if edge is None or self._model.stroke is None:
            draw_note(painter, self.area, "The loaded brush stands here.")
            return
        scale, left = self._scale, self._left
        width = self._model.brush.width_mm * scale
        room = self.area.height() - 62
        bristles = QRectF(left, 46, width, min(self._model.brush.bristle_mm * scale, room * 0.5))
        self._draw_ferrule(painter, left, width)
        paints = {paint.id: paint for paint in self._model.plan.paints}
        painter.drawImage(bristles, strip_image(edge_colours(edge, paints)))
        self._draw_bare(painter, bristles, edge)
        self._draw_hairs(painter, bristles)
        self._draw_corners(painter, bristles)
        shares = QRectF(left, bristles.bottom() + 30, width, max(20.0, room - bristles.height() - 48))
        self._draw_shares(painter, shares, edge)
        draw_ruler(painter, shares.bottomLeft() + QPointF(0, 2), self._model.brush.width_mm, scale, self._model.unit)
        for number, one in enumerate(boundaries(edge)):
            self._draw_boundary(painter, bristles, shares, one, number == self._model.hovered)

    def _draw_ferrule(self, painter: QPainter, left: float, width: float) -> None:
        steel = QLinearGradient(left, 0, left + width, 0)
        for at, grey in ((0, "#8d8d8d"), (0.25, "#efefef"), (0.6, "#c2c2c2"), (1, "#777777")):
            steel.setColorAt(at, QColor(grey))
        painter.setPen(QPen(QColor("#555555"), 1))
        painter.setBrush(steel)
        inset = width * 0.22
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(left + inset, 4),
                    QPointF(left + width - inset, 4),
                    QPointF(left + width, 46),
                    QPointF(left, 46),
                ]
            )
        )
        painter.setPen(QPen(QColor("#8a8a8a"), 1))
        for y in (26, 32):
            part = inset * (46 - y) / 42
            painter.drawLine(QPointF(left + part, y), QPointF(left + width - part, y))

    def _draw_bare(self, painter: QPainter, bristles: QRectF, edge: LoadedEdge) -> None:
        """Show bristles without paint as bristles."""
        held = edge.volume_mm3_per_mm
        step = bristles.width() / BINS
        for index in np.flatnonzero(held < 0.02 * max(float(held.max()), 1e-9)):
            painter.fillRect(
                QRectF(bristles.left() + index * step, bristles.top(), step + 0.5, bristles.height()),
                QColor("#bdb9b4"),
            )

    def _draw_hairs(self, painter: QPainter, bristles: QRectF) -> None:
        painter.setPen(QPen(QColor(0, 0, 0, 22), 1))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        hairs = (bristles.left() + bristles.width() * index / BINS for index in range(1, BINS, 2))
        painter.drawLines([QLineF(x, bristles.top(), x, bristles.bottom()) for x in hairs])
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(bristles)

    def _draw_corners(self, painter: QPainter, bristles: QRectF) -> None:
        stroke = self._model.stroke
        for side, x in ((Side.A, bristles.left()), (Side.B, bristles.right())):
            painter.setPen(QColor(theme().ink))
            role = "rim" if stroke and stroke.rim is side else "heel"
            align = Qt.AlignmentFlag.AlignLeft if side is Side.A else Qt.AlignmentFlag.AlignRight
            at = x - 2 if side is Side.A else x - 78
            draw_note(painter, QRectF(at, bristles.bottom() + 2, 80, 16), f"{side.value} · {role}", align)

    def _draw_shares(self, painter: QPainter, area: QRectF, edge: LoadedEdge) -> None:
        """Draw the shares of the paints stacked, each in its own colour."""
        rows = max(2, round(area.height()))
        height = 1 - (np.arange(rows)[:, None] + 0.5) / rows
        columns = np.linspace(0, BINS - 1, 4 * BINS)
        reached = np.array([np.interp(columns, np.arange(BINS), row) for row in np.cumsum(edge.share, axis=0)])
        which = (height[None] > reached[:, None, :]).sum(axis=0)
        codes = [*(self._model.plan.paint(name).srgb for name in edge.paints), theme().mat]
        colours = np.rint([parse_hex(code) * 255 for code in codes]).astype(np.uint8)
        painter.drawImage(area, to_image(colours[which]))
        painter.setPen(QPen(QColor(theme().line), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area)

    def _draw_boundary(
        self,
        painter: QPainter,
        bristles: QRectF,
        shares: QRectF,
        one: Boundary,
        near: bool,  # noqa: FBT001
    ) -> None:
        """Mark where paints hand over and how softly; the number itself when the hand is near."""
        inks = theme()
        x = self._left + one.at_mm * self._scale
        half = one.width_10_90_mm * self._scale / 2
        y = shares.top() - 6
        painter.setPen(QPen(QColor(inks.accent if near else inks.ink_2), 2 if near else 1))
        painter.drawLine(QPointF(x - half, y), QPointF(x + half, y))
        for end in (x - half, x + half):
            painter.drawLine(QPointF(end, y - 3), QPointF(end, y + 3))
        if near:
            painter.setPen(QPen(QColor(inks.accent), 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(x, bristles.top()), QPointF(x, shares.bottom()))
