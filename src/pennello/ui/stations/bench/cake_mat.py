"""The cake from above with the brush lying on it."""

from __future__ import annotations

import math
from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen
from PySide6.QtWidgets import QToolButton, QWidget

from pennello.design.edits import with_cake
from pennello.design.words import passes_text
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS
from pennello.kit.stripes import with_boundary
from pennello.load.edge import boundaries
from pennello.load.look import cake_colours, pan_colour
from pennello.load.recipe import PickUp
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel, NothingThereError, StrokeChange, pickup_change
from pennello.ui.stations.bench.cake_fields import OFFSET, SKEW, CakeFields
from pennello.ui.stations.bench.scale import shared_scale
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.cake_drawing import (
    CakeView,
    draw_brush_lying,
    draw_pan,
    draw_passes,
    draw_wear,
    draw_wetness,
    shown_height,
)
from pennello.ui.widgets.handle import COARSE, FINE, Handle, HandleWork, keep_handles, press_work
from pennello.ui.widgets.held import number_held
from pennello.ui.widgets.mat import Mat, centred
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.paint import draw_note, draw_ruler, strip_image
from pennello.ui.widgets.tools import tool_height_mm
from pennello.units import length_text

_TOP, _RULER = 26, 30
_MAGNET_PX = 4
_STRIPS = 256

STRIPE = Quantity(phrase("Boundary from the left wall"), 0, 850, 0.5, 1, length=True)


class CakeMat(Mat):
    """The pan to scale, the brush to slide, flip and turn, the part that meets it, the stripes' boundaries to drag."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__(phrase("Cake"), parent)
        self._model = model
        self._scale, self._left = 8.0, 20.0
        self._face: tuple[object, QImage] | None = None
        self.numbers = CakeFields(self, model)
        self.brush = self._brush_handle()
        flip = press_work(phrase("Flip the brush"), self._flip_words, self.numbers.do_flip)
        self._flip = Handle(self.surface, "flip", flip, Qt.CursorShape.PointingHandCursor)
        self._turn = Handle(self.surface, "turn", self._turn_work(), Qt.CursorShape.SizeHorCursor)
        self._ends = [Handle(self.surface, "bar", self._end_work(end), Qt.CursorShape.SplitHCursor) for end in (0, 1)]
        self._bounds: list[Handle] = []
        self.make = QToolButton()
        self.make.setText(phrase("Make"))
        self.make.setToolTip(phrase("Make this cake: its stripes, what neighbours mix to, its wear"))
        self.make.setCheckable(True)
        self.make.setProperty("segment", True)
        self.head.addWidget(self.make)

    # --- handles ---

    def _brush_handle(self) -> Handle:
        model = self._model
        work = number_held(
            model,
            OFFSET,
            phrase("Slide the brush"),
            now=lambda: model.committed_pickup().offset_mm,
            put=lambda mm: pickup_change(model.pickup_index, offset_mm=mm),
            say=lambda: (
                phrase("{say} from the left wall", say=self._say(model.pickup.offset_mm)) if model.pickup else ""
            ),
            drag=lambda start, way: self._magnet(start + way.x() / self._scale, model.brush.width_mm),
            merge=lambda: "offset",
        )
        return Handle(self.surface, "area", work, Qt.CursorShape.SizeHorCursor)

    @property
    def _cake(self) -> Cake:
        cake = self._model.cake
        if cake is None:
            raise NothingThereError(phrase("This is taken from a pan; choose a pick-up from a cake."))
        return cake

    def _magnet(self, offset_mm: float, width_mm: float) -> float:
        """Return the offset drawn to whole mm and to boundaries under a corner, felt within 4 px."""
        edges = self._cake.edges_mm
        near = [round(offset_mm), *edges, *(edge - width_mm for edge in edges)]
        best = min(near, key=lambda at: abs(at - offset_mm))
        return float(best) if abs(best - offset_mm) * self._scale < _MAGNET_PX / 2 else round(offset_mm, 2)

    def _flip_words(self) -> str:
        pickup = self._model.pickup
        return (phrase("corner B lies left") if pickup.flip else phrase("corner A lies left")) if pickup else ""

    def _turn_work(self) -> HandleWork:
        model = self._model
        return number_held(
            model,
            SKEW,
            phrase("Turn the brush"),
            now=lambda: model.committed_pickup().skew_deg,
            put=lambda deg: pickup_change(model.pickup_index, skew_deg=deg),
            say=lambda: f"{model.pickup.skew_deg:.0f}°" if model.pickup else "",
            drag=lambda start, way: float(round(start - way.x() * 0.35)),
            merge=lambda: "skew",
        )

    def _end_work(self, end: int) -> HandleWork:
        """Return the work of one end of the part of the edge that meets the paint, in mm from A."""
        model = self._model

        def ends(to: float) -> tuple[float, float]:
            low, high = model.committed_pickup().part
            return (round(min(to, high - 1 / BINS), 4), high) if end == 0 else (low, round(max(to, low + 1 / BINS), 4))

        def say() -> str:
            if model.pickup is None:
                return ""
            part = model.pickup.part[end]
            return phrase("{say} from A, {part:.0%} of the edge", say=self._say(part * model.edge_mm), part=part)

        def along(mm: float) -> float:
            return mm / model.brush.width_mm * (-1 if model.committed_pickup().flip else 1)

        return number_held(
            model,
            Quantity((phrase("Part of the edge, to") if end else phrase("Part of the edge, from")), 0, 100, 5, 0, " %"),
            phrase("Part of the edge"),
            now=lambda: model.committed_pickup().part[end],
            put=lambda u: pickup_change(model.pickup_index, part=ends(u)),
            say=say,
            drag=lambda start, way: start + along(way.x() / self._scale),
            by=lambda x, y, factor: along((x - y) * factor),
            in_field=100,
            merge=lambda: phrase("part {end}", end=end),
        )

    def _boundary_handle(self, at: int) -> Handle:
        model = self._model

        def say() -> str:
            edges = model.cake.edges_mm if model.stroke and model.cake else ()
            return phrase("{say} from the left wall", say=self._say(edges[at])) if at < len(edges) - 1 else ""

        def committed() -> Cake:
            return model.document.committed.cake(self._cake.id)

        def led(start: float, way: QPointF) -> float:
            to = start + way.x() / self._scale
            near = round(to * 2) / 2
            return near if abs(near - to) * self._scale < _MAGNET_PX / 2 else round(to, 2)

        def put(at_mm: float) -> StrokeChange:
            return lambda plan, _: with_cake(plan, with_boundary(committed(), at, at_mm))

        work = number_held(
            model,
            replace(STRIPE, name=phrase("Boundary {at} of the cake", at=at)),
            phrase("Move a boundary"),
            now=lambda: committed().edges_mm[at],
            put=put,
            say=say,
            drag=led,
            by=lambda x, y, factor: (x - y) * {FINE: 0.1, COARSE: 2.0}.get(factor, 0.5),
            merge=lambda: phrase("boundary {at}", at=at),
        )
        return Handle(self.surface, "bar", work, Qt.CursorShape.SplitHCursor)

    # --- placing ---

    def place(self) -> None:
        """Lay scale, handles and fields anew."""
        model = self._model
        cake, pickup = (model.cake, model.pickup) if model.stroke else (None, None)
        across = cake is not None and model.axis is GradientAxis.ACROSS
        for handle in (self.brush, self._flip, self._turn):
            handle.setVisible(cake is not None)
        for handle in self._ends:
            handle.setVisible(across)
        keep_handles(self._bounds, len(cake.stripes) - 1 if cake else 0, lambda at: self._boundary_handle(at + 1))
        self.handles = [self.brush, self._flip, self._turn, *self._ends, *self._bounds]
        if model.stroke is not None:
            self.numbers.refresh()
        if cake is None or pickup is None:
            self.note.setText("")
            return
        if not self.dragging:
            self._fit(cake, pickup)
        self.note.setText(phrase("{say} across", say=self._say(cake.width_mm)))
        for number, handle in enumerate(self._bounds, 1):
            handle.put(QPointF(self._view.x(cake.edges_mm[number]), _TOP - 2))
        self._place_brush(pickup)

    def _place_brush(self, pickup: PickUp) -> None:
        view, brush = self._view, self._model.brush
        length = shown_height(view, brush)
        width = max(brush.width_mm * self._scale, 24)
        self.brush.setFixedSize(round(width), round(length + 8))
        middle = view.x(pickup.offset_mm + brush.width_mm / 2)
        self.brush.put(QPointF(middle, view.chisel_y + length / 2))
        below = min(view.chisel_y + length + 30, self.area.bottom() - _RULER - 4)
        self._flip.put(QPointF(middle - 20, below))
        self._turn.put(QPointF(middle + 20, below))
        half = brush.width_mm * self._scale / 2
        turn = math.radians(pickup.skew_deg)
        for handle, u in zip(self._ends, pickup.part, strict=True):
            along = (2 * u - 1) * half * (-1 if pickup.flip else 1)
            handle.put(QPointF(middle + along * math.cos(turn), view.chisel_y + 12 - along * math.sin(turn)))

    def _fit(self, cake: Cake, pickup: PickUp) -> None:
        brush = self._model.brush
        self._scale = shared_scale(self._model, self.area.width() - 58)
        low = min(0.0, pickup.offset_mm)
        high = max(cake.width_mm, pickup.offset_mm + brush.width_mm)
        self._left = self.area.width() / 2 - (low + high) / 2 * self._scale

    @property
    def _view(self) -> CakeView:
        cake = self._cake
        height = min(cake.length_mm * self._scale, self.area.height() - _TOP - _RULER - 8)
        pan = QRectF(self._left, _TOP, cake.width_mm * self._scale, height)
        return CakeView(self._scale, self._left, pan, pan.top() + pan.height() * 0.28)

    def _say(self, length_mm: float) -> str:
        return length_text(length_mm, self._model.unit)

    # --- drawing ---

    def paint_surface(self, painter: QPainter) -> None:
        """Draw pan, stripes, ruler and brush."""
        model = self._model
        if model.stroke is None:
            draw_note(painter, self.area, phrase("The cake lies here."))
        elif model.pickup is None:
            before = model.plan.stroke(model.stroke.recipe.after).name
            words = phrase("Nothing is picked up:\nthe load is what {before} left in the brush.", before=before)
            draw_note(painter, self.area, words)
        elif model.cake is None:
            self._paint_pan(painter, model.pickup)
        else:
            self._paint_cake(painter, model.cake, model.pickup)

    def _paint_pan(self, painter: QPainter, pickup: PickUp) -> None:
        model = self._model
        size = min(self.area.height() - px(30), self.area.width() - 60, 190.0)
        circle = centred(self.area, size, size)
        paints = model.plan.paints_by_id
        colour = pan_colour(pickup.pan, paints)
        draw_pan(painter, circle, QColor(*(int(part) for part in colour)))
        # the brush that dips into it, at the scale of the edge beside it, as far as there is room
        brush = model.brush
        scale = min(shared_scale(model, self.area.width()), size * 0.5 / max(brush.width_mm, tool_height_mm(brush)))
        view = CakeView(scale, 0.0, circle, circle.center().y() - size * 0.1)
        draw_wetness(painter, view, pickup.wetness, circle.center().x(), brush.width_mm * scale / 2)
        draw_brush_lying(painter, view, brush, pickup, circle.center().x(), model.axis)
        words = passes_text(pickup.way, pickup.passes)
        draw_note(painter, QRectF(self.area.left(), circle.bottom(), self.area.width(), px(16)), words)

    def _paint_cake(self, painter: QPainter, cake: Cake, pickup: PickUp) -> None:
        model, view = self._model, self._view
        painter.drawImage(view.pan, self._face_image(cake))
        draw_wear(painter, view, cake, model.plan)
        painter.setPen(QPen(QColor(theme().ink_2), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(view.pan.adjusted(-1.5, -1.5, 1.5, 1.5), 4, 4)
        draw_ruler(painter, view.pan.bottomLeft() + QPointF(0, 3), cake.width_mm, view.scale, model.unit)
        middle = view.x(pickup.offset_mm + model.brush.width_mm / 2)
        draw_wetness(painter, view, pickup.wetness, middle, model.brush.width_mm * view.scale / 2)
        draw_brush_lying(painter, view, model.brush, pickup, middle, model.axis)
        words = f"↕ {passes_text(pickup.way, pickup.passes)}"
        draw_passes(painter, view, model.brush, middle, words)
        self._draw_boundary(painter, view, pickup)

    def _draw_boundary(self, painter: QPainter, view: CakeView, pickup: PickUp) -> None:
        """Show where the hovered boundary of the edge lies on the cake."""
        outcome = self._model.outcome
        found = boundaries(outcome.laid.edge) if outcome else ()
        if not 0 <= self._model.hovered < len(found) or self._model.axis is GradientAxis.ALONG:
            return
        width = self._model.brush.width_mm
        from_a = found[self._model.hovered].at_mm - width / 2
        across = (-from_a if pickup.flip else from_a) * math.cos(math.radians(pickup.skew_deg))
        x = view.x(pickup.offset_mm + width / 2 + across)
        painter.setPen(QPen(QColor(theme().mat), 1.4, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(x, view.pan.top()), QPointF(x, view.pan.bottom()))

    def _face_image(self, cake: Cake) -> QImage:
        paints = self._model.plan.paints_by_id
        key = (cake, tuple(paints[name] for name in cake.paints))
        if self._face is None or self._face[0] != key:
            self._face = (key, strip_image(cake_colours(cake, paints, _STRIPS)))
        return self._face[1]
