"""The loaded edge, face on: bristles in paint, and the paints' shares below."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QWidget

from pennello.aim.attempt import Side
from pennello.kit.applicator import GradientAxis
from pennello.load.edge import Boundary, LoadedEdge, boundaries
from pennello.phrases import named, phrase
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.edge_drawing import FERRULE_PX, draw_loaded, draw_scatter, draw_shares
from pennello.ui.stations.bench.scale import EDGE_PX, shared_scale
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Mat
from pennello.ui.widgets.paint import draw_note, draw_ruler
from pennello.ui.widgets.words import Words
from pennello.units import length_text

_HOVER_PX = 8
_ROOM_PX = 62


class EdgeMat(Mat):
    """Ferrule, bristles, shares by volume, boundaries with 10-90 widths over a ruler, the scatter of real loads."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__(phrase("Edge"), parent)
        self._model = model
        self._scale, self._left = 8.0, 20.0
        self.words = Words(6)
        self.fields.addWidget(self.words, 0, 0)
        self.surface.setMouseTracking(True)
        self.surface.pointed.connect(self._point)
        self.surface.left.connect(lambda: model.hover(-1))

    @property
    def _edge(self) -> LoadedEdge | None:
        return self._model.outcome.laid.edge if self._model.outcome else None

    def place(self) -> None:
        """Lay the scale, and say in words what is loaded."""
        edge = self._edge
        if self._model.stroke is not None:
            self._scale = shared_scale(self._model, EDGE_PX * 10)
            self._left = self.area.width() / 2 - self._model.edge_mm * self._scale / 2
        if edge is None:
            self.words.setText("")
            self.note.setText("")
            return
        self.note.setText(phrase("{total_mm3:.0f} mm³", total_mm3=edge.total_mm3))
        self.note.setToolTip(phrase("Paint on the brush, solids, predicted"))
        self.words.setText("\n".join([*self._boundary_words(edge), *self._scatter_words()]))

    def _boundary_words(self, edge: LoadedEdge) -> list[str]:
        """Say the paints in order with the places where they hand over between them, then how softly."""
        found, unit = boundaries(edge), self._model.unit
        if not found:
            return self._without_boundary(edge)
        names = {paint.id: paint.name for paint in self._model.plan.paints}
        start = phrase("the tip") if edge.axis is GradientAxis.ALONG else "A"
        chain = [names[found[0].from_paint]]
        for one in found:
            chain += [length_text(one.at_mm, unit), names[one.to_paint]]
        soft = ", ".join(length_text(one.width_10_90_mm, unit) for one in found)
        return [
            phrase("From {start}: {chain}", start=start, chain=" | ".join(chain)),
            phrase("Blends {soft} soft", soft=soft),
        ]

    def _without_boundary(self, edge: LoadedEdge) -> list[str]:
        if edge.total_mm3 <= 0:
            return [phrase("Nothing is loaded.")]
        ends = phrase("tip to belly") if edge.axis is GradientAxis.ALONG else phrase("corner to corner")
        return [phrase("One colour from {ends}.", ends=ends)]

    def _scatter_words(self) -> list[str]:
        outcome = self._model.outcome
        band = outcome.band if outcome else None
        if band is None or band.widest < 0.01:
            return []
        return [phrase("Veil: 8 of 10 loads of your hand")]

    def _point(self, at: QPointF) -> None:
        """Follow the hand: the boundary near it is marked on all mats."""
        if self._edge:
            found = [abs(self._left + one.at_mm * self._scale - at.x()) for one in boundaries(self._edge)]
            near = int(np.argmin(found)) if found and min(found) < _HOVER_PX else -1
            self._model.hover(near)

    def paint_surface(self, painter: QPainter) -> None:
        """Draw the brush face on and the shares."""
        edge, model = self._edge, self._model
        if edge is None or model.stroke is None:
            draw_note(painter, self.area, phrase("The loaded brush stands here."))
            return
        scale, left, brush = self._scale, self._left, model.brush
        width = edge.width_mm * scale
        top = FERRULE_PX + 4 if not brush.kind.pressed and edge.axis is GradientAxis.ACROSS else 8.0
        room = self.area.height() - px(_ROOM_PX)
        tall = brush.bristle_mm if edge.axis is GradientAxis.ACROSS and not brush.kind.pressed else brush.width_mm
        if brush.kind.pressed:
            tall = brush.thickness_mm
        face = QRectF(left, top, width, max(14.0, min(tall * scale, (room - top) * 0.6)))
        paints = model.plan.paints_by_id
        draw_loaded(painter, face, brush, edge, paints, scale)
        self._draw_ends(painter, face, edge.axis)
        shares = QRectF(left, face.bottom() + px(16) + 12, width, max(16.0, room - face.bottom() + 22 - px(16)))
        draw_shares(painter, shares, edge, [paints[name].srgb for name in edge.paints])
        outcome = model.outcome
        if outcome and outcome.band is not None:
            draw_scatter(painter, shares, outcome.band)
        draw_ruler(painter, shares.bottomLeft() + QPointF(0, 2), edge.width_mm, scale, model.unit)
        for number, one in enumerate(boundaries(edge)):
            self._draw_boundary(painter, face, shares, one, number == model.hovered)

    def _draw_ends(self, painter: QPainter, face: QRectF, axis: GradientAxis) -> None:
        """Name both ends of the edge."""
        stroke = self._model.stroke
        for side, x in ((Side.A, face.left()), (Side.B, face.right())):
            role = phrase("rim") if stroke and stroke.rim is side else phrase("heel")
            words = f"{named(side)} · {role}"
            if axis is GradientAxis.ALONG:
                words = phrase("tip") if side is Side.A else phrase("belly")
            align = Qt.AlignmentFlag.AlignLeft if side is Side.A else Qt.AlignmentFlag.AlignRight
            at = x - 2 if side is Side.A else x + 2 - px(80)
            draw_note(painter, QRectF(at, face.bottom() + 2, px(80), px(16)), words, align)

    def _draw_boundary(
        self,
        painter: QPainter,
        face: QRectF,
        shares: QRectF,
        one: Boundary,
        near: bool,  # noqa: FBT001
    ) -> None:
        """Mark where paints hand over and how softly; a line through both pictures when the hand is near."""
        inks = theme()
        x = self._left + one.at_mm * self._scale
        half = one.width_10_90_mm * self._scale / 2
        y = shares.top() - 5
        painter.setPen(QPen(QColor(inks.accent if near else inks.ink_2), 2 if near else 1))
        painter.drawLine(QPointF(x - half, y), QPointF(x + half, y))
        for end in (x - half, x + half):
            painter.drawLine(QPointF(end, y - 3), QPointF(end, y + 3))
        if near:
            painter.setPen(QPen(QColor(inks.accent), 1, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(x, face.top()), QPointF(x, shares.bottom()))
