"""The cake from above with the brush lying on it."""

from __future__ import annotations

import math
from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, QSignalBlocker, QSizeF, Qt
from PySide6.QtGui import QColor, QImage, QLinearGradient, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QComboBox, QToolButton, QWidget

from pennello.design.edits import with_brush, with_cake, with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.kit.cake import Cake
from pennello.kit.stripes import with_boundary
from pennello.load.edge import boundaries
from pennello.load.look import cake_colours
from pennello.load.recipe import DRIFT_MM, OFFSET_MM, PASSES, SKEW_DEG, Wetness
from pennello.ui.stations.bench.model import BenchModel, pickup_change
from pennello.ui.stations.bench.scale import shared_scale
from pennello.ui.theme.icons import icon
from pennello.ui.theme.style import theme
from pennello.ui.widgets.handle import COARSE, FINE, Handle, HandleWork, keep_handles
from pennello.ui.widgets.mat import Mat
from pennello.ui.widgets.number_field import NumberField, Quantity, WheelGuard
from pennello.ui.widgets.paint import draw_note, draw_ruler, strip_image
from pennello.ui.widgets.type_box import type_over
from pennello.units import length_text

_TOP, _RULER = 26, 30
_MAGNET_PX = 4
_STRIPS = 256

OFFSET = Quantity("Corner from the left wall", *OFFSET_MM, 0.5, 1, length=True)
SKEW = Quantity("Turn of the brush on the cake", *SKEW_DEG, 1, 0, "°")
SWEEPS = Quantity("Sweeps, back or forth", *PASSES, 1, 0, " ×")
DRIFT = Quantity("Sideways drift of the sweeps", *DRIFT_MM, 0.1, 1, length=True)
STRIPE = Quantity("Boundary from the left wall", 0, 850, 0.5, 1, length=True)


class CakeMat(Mat):
    """The pan to scale, the brush to slide, flip and turn, the stripes' boundaries to drag."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__("Cake", parent)
        self._model = model
        self._scale, self._left = 8.0, 20.0
        self._face: tuple[object, QImage] | None = None
        self._brush = self._brush_handle()
        self._flip = Handle(self.surface, "flip", self._flip_work(), Qt.CursorShape.PointingHandCursor)
        self._turn = Handle(self.surface, "turn", self._turn_work(), Qt.CursorShape.SizeHorCursor)
        self._bounds: list[Handle] = []
        self.setFocusProxy(self._brush)
        self._build_fields()

    # --- fields ---

    def _build_fields(self) -> None:
        model = self._model
        guard = WheelGuard(self)
        self.cake_choice, self.brush_choice, self.wet_choice = QComboBox(), QComboBox(), QComboBox()
        for box, name in (
            (self.cake_choice, "Cake"),
            (self.brush_choice, "Brush"),
            (self.wet_choice, "Wetness"),
        ):
            box.setAccessibleName(name)
            box.installEventFilter(guard)
            box.setMinimumWidth(60)
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        for wetness in Wetness:
            self.wet_choice.addItem(wetness.value, wetness)
        self.cake_choice.activated.connect(self._choose_cake)
        self.brush_choice.activated.connect(self._choose_brush)
        self.wet_choice.activated.connect(self._choose_wetness)
        self.offset, self.skew, self.sweeps, self.drift = (NumberField(q) for q in (OFFSET, SKEW, SWEEPS, DRIFT))
        self.offset.edited.connect(lambda v: model.edit("Slide the brush", pickup_change(offset_mm=v), "offset"))
        self.skew.edited.connect(lambda v: model.edit("Turn the brush", pickup_change(skew_deg=v), "skew"))
        self.sweeps.edited.connect(lambda v: model.edit("Sweeps", pickup_change(passes=v), "passes"))
        self.drift.edited.connect(lambda v: model.edit("Drift", pickup_change(drift_mm=v), "drift"))
        self.flip_button = QToolButton()
        self.flip_button.setIcon(icon("flip"))
        self.flip_button.setText("Flip")
        self.flip_button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.flip_button.setToolTip("Turn the brush half round: corners A and B change sides")
        self.flip_button.clicked.connect(self._do_flip)
        self.add_field(0, 0, "Cake", self.cake_choice, 2)
        self.add_field(1, 0, "Brush", self.brush_choice, 2)
        self.add_field(2, 0, "From wall", self.offset)
        self.add_field(2, 1, "Turned", self.skew)
        self.add_field(3, 0, "Sweeps", self.sweeps)
        self.add_field(3, 1, "Drift", self.drift)
        self.add_field(4, 0, "Wetness", self.wet_choice)
        self.fields.addWidget(self.flip_button, 4, 2, 1, 2)

    def _choose_cake(self, index: int) -> None:
        self._model.edit("Another cake", pickup_change(cake=self.cake_choice.itemData(index)))

    def _choose_brush(self, index: int) -> None:
        brush = self.brush_choice.itemData(index)

        def change(plan: Plan, stroke: PlanStroke) -> Plan:
            return with_stroke(with_brush(plan, plan.brush(brush)), replace(stroke, brush=brush))

        self._model.edit("Another brush", change)

    def _choose_wetness(self, index: int) -> None:
        self._model.edit("Wetness", pickup_change(wetness=self.wet_choice.itemData(index)))

    def _do_flip(self) -> None:
        self._model.edit("Flip the brush", pickup_change(flip=not self._model.pickup.flip))

    # --- handles ---

    def _brush_handle(self) -> Handle:
        model = self._model

        def value() -> str:
            return f"{self._say(model.pickup.offset_mm)} from the left wall" if model.stroke else ""

        def dragged(way: QPointF) -> None:
            start = model.committed_stroke.recipe.pickups[-1]
            offset = self._magnet(start.offset_mm + way.x() / self._scale, model.brush.width_mm)
            model.preview(pickup_change(offset_mm=min(max(offset, OFFSET_MM[0]), OFFSET_MM[1])))

        def stepped(x: int, y: int, factor: float) -> None:
            offset = round(model.pickup.offset_mm + (x - y) * factor, 4)
            model.edit("Slide the brush", pickup_change(offset_mm=offset), "offset")

        def typed() -> None:
            type_over(self._brush, OFFSET, model.unit, model.pickup.offset_mm, self.offset.edited.emit)

        work = HandleWork(
            "Brush on the cake",
            value,
            dragged,
            stepped,
            lambda: model.commit("Slide the brush"),
            model.cancel,
            typed,
        )
        return Handle(self.surface, "area", work, Qt.CursorShape.SizeHorCursor)

    def _magnet(self, offset_mm: float, width_mm: float) -> float:
        """Return the offset drawn to whole mm and to boundaries under a corner, felt within 4 px."""
        edges = self._model.cake.edges_mm
        near = [round(offset_mm), *edges, *(edge - width_mm for edge in edges)]
        best = min(near, key=lambda at: abs(at - offset_mm))
        return float(best) if abs(best - offset_mm) * self._scale < _MAGNET_PX / 2 else round(offset_mm, 2)

    def _flip_work(self) -> HandleWork:
        def value() -> str:
            if not self._model.stroke:
                return ""
            return "corner B lies left" if self._model.pickup.flip else "corner A lies left"

        return HandleWork(
            "Flip the brush",
            value,
            lambda _: None,
            lambda *_: self._do_flip(),
            self._do_flip,
            lambda: None,
            self._do_flip,
        )

    def _turn_work(self) -> HandleWork:
        model = self._model

        def dragged(way: QPointF) -> None:
            start = model.committed_stroke.recipe.pickups[-1]
            turned = start.skew_deg - way.x() * 0.35
            model.preview(pickup_change(skew_deg=float(round(min(max(turned, SKEW_DEG[0]), SKEW_DEG[1])))))

        def stepped(x: int, y: int, factor: float) -> None:
            turned = min(max(model.pickup.skew_deg + (x - y) * factor, SKEW_DEG[0]), SKEW_DEG[1])
            model.edit("Turn the brush", pickup_change(skew_deg=turned), "skew")

        def typed() -> None:
            type_over(self._turn, SKEW, model.unit, model.pickup.skew_deg, self.skew.edited.emit)

        return HandleWork(
            "Turn of the brush on the cake",
            lambda: f"{model.pickup.skew_deg:.0f}°" if model.stroke else "",
            dragged,
            stepped,
            lambda: model.commit("Turn the brush"),
            model.cancel,
            typed,
        )

    def _boundary_handle(self, number: int) -> Handle:
        model = self._model

        def moved(cake: Cake, at_mm: float) -> Cake:
            return with_boundary(cake, number, at_mm)

        def value() -> str:
            edges = model.cake.edges_mm if model.stroke else ()
            return f"{self._say(edges[number])} from the left wall" if number < len(edges) - 1 else ""

        def dragged(way: QPointF) -> None:
            cake = model.document.committed.cake(model.pickup.cake)
            at = cake.edges_mm[number] + way.x() / self._scale
            near = round(at * 2) / 2
            at = near if abs(near - at) * self._scale < _MAGNET_PX / 2 else round(at, 2)
            model.preview(lambda plan, _: with_cake(plan, moved(cake, at)))

        def stepped(x: int, y: int, factor: float) -> None:
            step = {FINE: 0.1, COARSE: 2.0}.get(factor, 0.5)
            type_in(model.cake.edges_mm[number] + (x - y) * step)

        def type_in(at: float) -> None:
            cake = model.cake
            model.edit("Move a boundary", lambda plan, _: with_cake(plan, moved(cake, at)), f"boundary {number}")

        def typed() -> None:
            type_over(self._bounds[number - 1], STRIPE, model.unit, model.cake.edges_mm[number], type_in)

        work = HandleWork(
            f"Boundary {number} of the cake",
            value,
            dragged,
            stepped,
            lambda: model.commit("Move a boundary"),
            model.cancel,
            typed,
        )
        return Handle(self.surface, "bar", work, Qt.CursorShape.SplitHCursor)

    # --- placing and drawing ---

    def place(self) -> None:
        """Lay scale, handles and fields anew."""
        shown = self._model.stroke is not None
        for handle in (self._brush, self._flip, self._turn):
            handle.setVisible(shown)
        if not shown:
            self._keep_bounds(0)
            return
        if not self.dragging:
            self._fit()
        cake, pickup = self._model.cake, self._model.pickup
        self._keep_bounds(len(cake.stripes) - 1)
        for number, handle in enumerate(self._bounds, 1):
            handle.put(QPointF(self._x(cake.edges_mm[number]), _TOP - 2))
        chisel, length = self._chisel_y, self._bristle_px
        width = max(self._model.brush.width_mm * self._scale, 24)
        self._brush.setFixedSize(round(width), round(length + 26))
        middle = self._x(pickup.offset_mm + self._model.brush.width_mm / 2)
        self._brush.put(QPointF(middle, chisel + length / 2 + 4))
        below = QPointF(middle, chisel + length + 34)
        self._flip.put(below - QPointF(20, 0))
        self._turn.put(below + QPointF(20, 0))
        self.handles = [self._brush, self._flip, self._turn, *self._bounds]
        self._fill_fields()

    def _keep_bounds(self, count: int) -> None:
        keep_handles(self._bounds, count, lambda index: self._boundary_handle(index + 1))

    def _fit(self) -> None:
        cake, pickup, brush = self._model.cake, self._model.pickup, self._model.brush
        self._scale = shared_scale(self._model, self.area.width() - 58)
        low = min(0.0, pickup.offset_mm)
        high = max(cake.width_mm, pickup.offset_mm + brush.width_mm)
        self._left = self.area.width() / 2 - (low + high) / 2 * self._scale

    def _x(self, at_mm: float) -> float:
        return self._left + at_mm * self._scale

    @property
    def _pan(self) -> QRectF:
        height = min(self._model.cake.length_mm * self._scale, self.area.height() - _TOP - _RULER - 8)
        return QRectF(self._left, _TOP, self._model.cake.width_mm * self._scale, height)

    @property
    def _chisel_y(self) -> float:
        return self._pan.top() + self._pan.height() * 0.28

    @property
    def _bristle_px(self) -> float:
        return min(self._model.brush.bristle_mm * self._scale * 0.6, self._pan.height() * 0.3)

    def _say(self, length_mm: float) -> str:
        return length_text(length_mm, self._model.unit)

    def _fill_fields(self) -> None:
        model, pickup = self._model, self._model.pickup
        for field, value in (
            (self.offset, pickup.offset_mm),
            (self.skew, pickup.skew_deg),
            (self.sweeps, pickup.passes),
            (self.drift, pickup.drift_mm),
        ):
            field.show_unit(model.unit)
            field.show_amount(value)
        _fill(self.cake_choice, [(cake.name, cake.id) for cake in model.plan.cakes], pickup.cake)
        _fill(self.brush_choice, [(brush.name, brush.id) for brush in model.plan.brushes], model.brush.id)
        with QSignalBlocker(self.wet_choice):
            self.wet_choice.setCurrentIndex(list(Wetness).index(pickup.wetness))
        self.note.setText(f"{self._say(model.cake.width_mm)} across")

    def paint_surface(self, painter: QPainter) -> None:
        """Draw pan, stripes, ruler and brush."""
        if self._model.stroke is None:
            draw_note(painter, self.area, "The cake lies here.")
            return
        pan, inks = self._pan, theme()
        painter.drawImage(pan, self._face_image())
        painter.setPen(QPen(QColor(inks.ink_2), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(pan.adjusted(-1.5, -1.5, 1.5, 1.5), 4, 4)
        draw_ruler(
            painter,
            pan.bottomLeft() + QPointF(0, 3),
            self._model.cake.width_mm,
            self._scale,
            self._model.unit,
        )
        self._draw_brush(painter)
        self._draw_boundary(painter)

    def _draw_boundary(self, painter: QPainter) -> None:
        """Show where the hovered boundary of the edge lies on the cake."""
        outcome = self._model.outcome
        found = boundaries(outcome.laid.edge) if outcome else ()
        if not 0 <= self._model.hovered < len(found):
            return
        pickup, width = self._model.pickup, self._model.brush.width_mm
        from_a = found[self._model.hovered].at_mm - width / 2
        across = (-from_a if pickup.flip else from_a) * math.cos(math.radians(pickup.skew_deg))
        x = self._x(pickup.offset_mm + width / 2 + across)
        painter.setPen(QPen(QColor(theme().mat), 1.4, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(x, self._pan.top()), QPointF(x, self._pan.bottom()))

    def _face_image(self) -> QImage:
        cake = self._model.cake
        paints = {paint.id: paint for paint in self._model.plan.paints}
        key = (cake.stripes, cake.softness_mm, tuple(paints[name] for name in cake.paints))
        if self._face is None or self._face[0] != key:
            self._face = (key, strip_image(cake_colours(cake, paints, _STRIPS)))
        return self._face[1]

    def _draw_brush(self, painter: QPainter) -> None:
        """Draw the brush from above: chisel across the stripes, bristles, ferrule, the beginning of the handle."""
        model, inks = self._model, theme()
        width, length = model.brush.width_mm * self._scale, self._bristle_px
        middle = QPointF(self._x(model.pickup.offset_mm + model.brush.width_mm / 2), self._chisel_y)
        painter.save()
        painter.translate(middle)
        painter.rotate(-model.pickup.skew_deg)
        half = width / 2
        dark = QColor("#1d1c1b")
        dark.setAlpha(60)
        painter.setPen(QPen(QColor("#ffffff"), 1.2))
        painter.setBrush(dark)
        painter.drawRect(QRectF(-half, 0, width, length))
        painter.setPen(QPen(QColor(0, 0, 0, 70), 1))
        for index in range(1, 12):
            x = -half + width * index / 12
            painter.drawLine(QPointF(x, 2), QPointF(x, length))
        steel = QLinearGradient(-half, 0, half, 0)
        for at, grey in ((0, "#8d8d8d"), (0.3, "#e9e9e9"), (0.7, "#b9b9b9"), (1, "#777777")):
            steel.setColorAt(at, QColor(grey))
        painter.setPen(QPen(QColor("#555555"), 1))
        painter.setBrush(steel)
        shoulder = max(half * 0.45, 8)
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(-half, length),
                    QPointF(half, length),
                    QPointF(shoulder, length + 18),
                    QPointF(-shoulder, length + 18),
                ]
            )
        )
        painter.setPen(QPen(QColor("#ffffff"), 3))
        painter.drawLine(QPointF(-half, 0), QPointF(half, 0))
        painter.setPen(QPen(QColor(inks.accent if theme().name == "linen" else "#0d5560"), 1.6))
        painter.drawLine(QPointF(-half, 0), QPointF(half, 0))
        for side, x in zip("BA" if model.pickup.flip else "AB", (-half, half), strict=True):
            label = QRectF(QPointF(x - 9, -22), QSizeF(18, 18))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(inks.mat))
            painter.drawEllipse(label)
            painter.setPen(QColor(inks.ink))
            painter.drawText(label, Qt.AlignmentFlag.AlignCenter, side)
        painter.restore()
        self._draw_sweeps(painter, middle)

    def _draw_sweeps(self, painter: QPainter, middle: QPointF) -> None:
        """Draw the sweep along the stripes as an arrow both ways, and say how many."""
        pan = self._pan
        x, top = middle.x(), pan.bottom() - 38
        lowest = middle.y() + self._bristle_px + 48
        if top < lowest or not math.isfinite(x):
            return
        words = QRectF(x - 44, top, 88, 30)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme().mat))
        painter.drawRoundedRect(words.adjusted(4, 5, -4, -5), 9, 9)
        draw_note(painter, words, f"↕ {self._model.pickup.passes:.0f} sweeps")


def _fill(box: QComboBox, items: list[tuple[str, str]], current: str) -> None:
    with QSignalBlocker(box):
        if [(box.itemText(i), box.itemData(i)) for i in range(box.count())] != items:
            box.clear()
            for name, key in items:
                box.addItem(name, key)
        box.setCurrentIndex([key for _, key in items].index(current))
