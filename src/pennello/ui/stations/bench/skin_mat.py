"""The stroke on the skin: its path, nib, pressure, and where it goes wrong."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSignalBlocker, Qt
from PySide6.QtGui import QColor, QImage, QPainter
from PySide6.QtWidgets import QToolButton, QWidget

from pennello.aim.attempt import Side
from pennello.design.edits import with_path_point, with_stroke
from pennello.design.plan import PlanStroke, skin_bytes
from pennello.errors import PennelloError
from pennello.lay.stroke import Key, Nib, NibMode, Stroke, Wiggle
from pennello.path.cubic import COORDINATE_LIMIT_MM, Point
from pennello.phrases import named, phrase
from pennello.session.forecast import Outcome
from pennello.ui.bench_model import BenchModel, StrokeChange, stroke_change
from pennello.ui.stations.bench.rib_handles import RibHandles
from pennello.ui.stations.bench.skin_drawing import draw_boundary, draw_faults, draw_marks, draw_path, draw_ribs
from pennello.ui.stations.bench.skin_view import SkinView, view_of
from pennello.ui.stations.bench.whole_skin import Backdrop, WholeSkin, draw_whole
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.handle import COARSE, FINE, Handle, HandleWork, keep_handles
from pennello.ui.widgets.held import Held, number_held, turned
from pennello.ui.widgets.mat import Mat
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import draw_note, to_image
from pennello.units import length_text

_GAUGE_PX = 34
_MODES = (
    (NibMode.FOLLOWING, phrase("follows the path")),
    (NibMode.FIXED, phrase("stays as it is")),
    (NibMode.PIVOTING, phrase("turns on a corner")),
    (NibMode.KEYED, phrase("turns by keys")),
)

PLACE = Quantity(phrase("Chosen point, across"), -COORDINATE_LIMIT_MM, COORDINATE_LIMIT_MM, 1, 1, length=True)
DOWN = Quantity(phrase("Chosen point, down"), -COORDINATE_LIMIT_MM, COORDINATE_LIMIT_MM, 1, 1, length=True)
ANGLE = Quantity(phrase("Chisel angle"), -720, 720, 1, 0, "°")
ANGLE_END = Quantity(phrase("Chisel angle at the end"), -720, 720, 1, 0, "°")
PIVOT = Quantity(phrase("Pivot on the edge, 0 % is A, 100 % is B"), 0, 100, 5, 0, " %")
PRESSURE = Quantity(phrase("Pressure"), 5, 100, 5, 0, " %")
WIGGLES = Quantity(phrase("Wiggles"), 0, 100, 1, 0, " ×")
AFTER = Quantity(phrase("Seconds after the last stroke"), 0, 3600, 10, 0, phrase(" s after"))
WIGGLE_WIDTH = Quantity(phrase("Width of a wiggle"), 0, 60, 0.5, 1, length=True)


class SkinMat(Mat):
    """The skin with the stroke, ribs of the nib every 5 mm, rim, heel, start, and handles."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__(phrase("Skin"), parent)
        self._model = model
        self._view = SkinView()
        self._image: tuple[Outcome, QImage] | None = None
        self._points: list[Handle] = []
        self._chosen_point = 0
        self._backdrop = Backdrop()
        self._angle = Handle(self.surface, "turn", self._angle_work(at_end=False), Qt.CursorShape.SizeAllCursor)
        self._angle_end = Handle(self.surface, "turn", self._angle_work(at_end=True), Qt.CursorShape.SizeAllCursor)
        self._pressure = Handle(self.surface, "bar", self._pressure_work(), Qt.CursorShape.SizeVerCursor)
        self._ribs = RibHandles(model, self.surface, lambda: self._view)
        self._build_fields()
        self.all_strokes = WholeSkin(model, self)
        self.all_strokes.ready.connect(self.refresh)
        self._build_head()

    # --- fields ---

    def _build_head(self) -> None:
        """Put the switches beside the title."""
        self.whole, self.wet, self.lead = (
            self._switch(words, hint)
            for words, hint in (
                (phrase("Whole skin"), phrase("All strokes on one skin, in their order, wet over wet")),
                (
                    phrase("Wet"),
                    phrase("Where it is still wet when the last stroke ends, and after the seconds beside it"),
                ),
                (phrase("Hand"), phrase("How the hand leads the stroke: pressure, flips, lift, part, path")),
            )
        )
        self.after = NumberField(AFTER)
        self.whole.toggled.connect(self.all_strokes.switch)
        self.whole.toggled.connect(self._show_wet_switch)
        self.wet.toggled.connect(self._look_for_wet)
        self.after.edited.connect(lambda _: self._look_for_wet())
        for widget in (self.whole, self.wet, self.after, self.lead):
            self.head.addWidget(widget)
        self._show_wet_switch()

    @staticmethod
    def _switch(words: str, hint: str) -> QToolButton:
        button = QToolButton()
        button.setText(words)
        button.setToolTip(hint)
        button.setCheckable(True)
        button.setProperty("segment", True)
        return button

    def _show_wet_switch(self) -> None:
        self.wet.setVisible(self.whole.isChecked())
        self.after.setVisible(self.whole.isChecked() and self.wet.isChecked())

    def _look_for_wet(self) -> None:
        self._show_wet_switch()
        self.all_strokes.show_wet, self.all_strokes.after_s = self.wet.isChecked(), self.after.amount
        self.all_strokes.ask()

    def _build_fields(self) -> None:
        model = self._model
        self.mode_choice, self.rim_choice = ChoiceBox(), ChoiceBox()
        for box, name in ((self.mode_choice, phrase("Chisel")), (self.rim_choice, phrase("Rim"))):
            box.setAccessibleName(name)
        for mode, words in _MODES:
            self.mode_choice.addItem(words, mode)
        for side in Side:
            self.rim_choice.addItem(phrase("corner {side}", side=named(side)), side)
        self.mode_choice.activated.connect(self._choose_mode)
        self.rim_choice.activated.connect(self._choose_rim)
        made = (NumberField(q) for q in (ANGLE, ANGLE_END, PIVOT, PRESSURE, WIGGLES, WIGGLE_WIDTH, PLACE, DOWN))
        (
            self.angle,
            self.angle_end,
            self.pivot,
            self.pressure,
            self.wiggles,
            self.wiggle_width,
            self.across,
            self.down,
        ) = made
        self.angle.edited.connect(lambda v: self._edit_nib(phrase("Chisel angle"), angle_deg=v))
        self.angle_end.edited.connect(lambda v: self._edit_nib(phrase("Chisel angle at the end"), angle_end_deg=v))
        self.pivot.edited.connect(lambda v: self._edit_nib(phrase("Pivot"), pivot_u=v / 100))
        self.pressure.edited.connect(
            lambda v: model.edit(phrase("Pressure"), stroke_change(lambda s: replace(s, pressure=v / 100)), "pressure")
        )
        self.wiggles.edited.connect(lambda v: self._edit_wiggle(count=v))
        self.wiggle_width.edited.connect(lambda v: self._edit_wiggle(width_mm=v))
        self.across.edited.connect(lambda v: self._put_point(v, self._point_now()[1]))
        self.down.edited.connect(lambda v: self._put_point(self._point_now()[0], v))
        self.add_field(0, 0, phrase("Press"), self.pressure)
        self.add_field(0, 1, phrase("Angle"), self.angle)
        self.add_field(0, 2, phrase("Rim"), self.rim_choice)
        self.add_field(0, 0, phrase("Chisel"), self.mode_choice, 2, rest=True)
        self.add_field(0, 2, "to", self.angle_end, rest=True)
        self.add_field(0, 3, phrase("Pivot at"), self.pivot, rest=True)
        self.add_field(1, 0, phrase("Wiggles"), self.wiggles, rest=True)
        self.add_field(1, 1, phrase("wide"), self.wiggle_width, rest=True)
        self.add_field(1, 2, phrase("Point"), self.across, rest=True)
        self.add_field(1, 3, phrase("down"), self.down, rest=True)
        self.more = self.fold(phrase("skin"))
        self.fields.addWidget(self.more, 0, 6)

    def _choose_mode(self, index: int) -> None:
        mode: NibMode = self.mode_choice.itemData(index)
        self._model.edit(
            phrase("Chisel"), stroke_change(lambda stroke: replace(stroke, nib=self._nib_as_is(stroke, mode)))
        )

    def _nib_as_is(self, stroke: Stroke, mode: NibMode) -> Nib:
        """Return the nib in another mode that begins as the present one does."""
        outcome = self._model.outcome
        if outcome is None or stroke.nib.mode is mode:
            keys = stroke.nib.keys or (Key(0.0, stroke.nib.angle_deg), Key(1.0, stroke.nib.angle_deg))
            return replace(stroke.nib, mode=mode, keys=keys if mode is NibMode.KEYED else stroke.nib.keys)
        edge, centre = outcome.laid.track.edge, outcome.laid.track.centre
        start, end = (round(math.degrees(math.atan2(e[1], e[0]))) for e in (edge[0], edge[-1]))
        heading = centre[min(3, len(centre) - 1)] - centre[0]
        follows = round(start - math.degrees(math.atan2(heading[1], heading[0])))
        along = float((follows + 180) % 360 - 180)
        if mode is NibMode.KEYED:
            keys = stroke.nib.keys or (Key(0.0, along), Key(1.0, along))
            return replace(stroke.nib, mode=mode, keys=keys)
        angle = along if mode is NibMode.FOLLOWING else float(start)
        return replace(stroke.nib, mode=mode, angle_deg=angle, angle_end_deg=float(end))

    def _choose_rim(self, index: int) -> None:
        rim = self.rim_choice.itemData(index)
        self._model.edit(phrase("Rim"), lambda plan, stroke: with_stroke(plan, replace(stroke, rim=rim)))

    def _edit_nib(self, label: str, **changes: float) -> None:
        self._model.edit(label, stroke_change(lambda s: replace(s, nib=replace(s.nib, **changes))), label)  # type: ignore[arg-type]

    def _edit_wiggle(self, **changes: float) -> None:
        def change(stroke: Stroke) -> Stroke:
            wiggle: Wiggle = replace(stroke.wiggle, **changes)
            return replace(stroke, wiggle=wiggle)

        self._model.edit(phrase("Wiggle"), stroke_change(change), phrase("wiggle {list}", list=list(changes)))

    def _point_now(self) -> tuple[float, float]:
        stroke = self._model.stroke
        if stroke is None:
            return (0.0, 0.0)
        points = stroke.stroke.path.points_mm
        return points[min(self._chosen_point, len(points) - 1)]

    def _put_point(self, x_mm: float, y_mm: float) -> None:
        index = self._chosen_point
        at = (round(x_mm, 4), round(y_mm, 4))
        self._model.edit(phrase("Move a point"), _with_point(index, at), phrase("point {index}", index=index))

    # --- handles ---

    def _point_handle(self, index: int) -> Handle:
        model = self._model

        def say() -> str:
            points = model.stroke.stroke.path.points_mm if model.stroke else ()
            if index >= len(points):
                return ""
            x, y = points[index]
            return phrase("{x} across, {y} down", x=length_text(x, model.unit), y=length_text(y, model.unit))

        def led(start: Point, way: QPointF) -> Point:
            return round(start[0] + way.x() / self._view.scale, 2), round(start[1] + way.y() / self._view.scale, 2)

        def typed(_: Handle) -> None:
            self._choose_point(index)
            self.across.setFocus()

        on_path = index % 3 == 0
        number = index // 3 + 1 if on_path else (index + 1) // 3 + (0 if index % 3 == 2 else 1)
        point: Held[Point, StrokeChange] = Held(
            name=(
                phrase("Point {number} of the path", number=number)
                if on_path
                else phrase("Handle {number} of the path", number=number)
            ),
            label=phrase("Move a point"),
            now=lambda: model.committed_stroke.stroke.path.points_mm[index],
            put=lambda at: _with_point(index, at),
            say=say,
            drag=led,
            step=lambda at, x, y, factor: (at[0] + x * factor, at[1] + y * factor),
            merge=lambda: phrase("point {index}", index=index),
            typed=typed,
        )
        handle = Handle(self.surface, "square" if on_path else "dot", point.work(model), Qt.CursorShape.SizeAllCursor)
        handle.hovered.connect(lambda near: self._choose_point(index) if near and handle.hasFocus() else None)
        return handle

    def _choose_point(self, index: int) -> None:
        self._chosen_point = index
        self._fill_fields()

    def _angle_work(self, *, at_end: bool) -> HandleWork:
        model = self._model
        quantity, key = (ANGLE_END, "angle_end_deg") if at_end else (ANGLE, "angle_deg")

        def angle(stroke: PlanStroke | None) -> float:
            return float(getattr(stroke.stroke.nib if stroke else Nib(), key))

        def led(start: float, way: QPointF) -> float | None:
            by = turned(*self._drag_from[1 if at_end else 0], way) if self._drag_from else None
            return None if by is None else float(round(start + by))

        return number_held(
            model,
            quantity,
            quantity.name,
            now=lambda: angle(model.committed_stroke),
            put=lambda deg: stroke_change(lambda s: replace(s, nib=replace(s.nib, **{key: deg}))),  # type: ignore[arg-type]
            say=lambda: f"{angle(model.stroke):.0f}°",
            drag=led,
            by=lambda x, y, factor: (x + y) * factor,
            merge=lambda: quantity.name,
        )

    def _pressure_work(self) -> HandleWork:
        model = self._model
        return number_held(
            model,
            PRESSURE,
            phrase("Pressure"),
            now=lambda: model.committed_stroke.stroke.pressure,
            put=lambda share: stroke_change(lambda s: replace(s, pressure=share)),
            say=lambda: f"{model.stroke.stroke.pressure if model.stroke else 0.5:.0%}".replace("%", " %"),
            drag=lambda start, way: round(start - way.y() / self._gauge.height(), 2),
            by=lambda x, y, factor: (x - y) * {FINE: 0.01, COARSE: 0.2}.get(factor, 0.05),
            in_field=100,
            merge=lambda: "pressure",
        )

    # --- placing ---

    _drag_from: tuple[tuple[QPointF, QPointF], tuple[QPointF, QPointF]] | None = None

    @property
    def _gauge(self) -> QRectF:
        area = self.area
        height = min(area.height() - 60, 150.0)
        return QRectF(area.right() - 24, area.center().y() - height / 2, 6, height)

    def place(self) -> None:
        """Lay view, handles and fields anew."""
        outcome, stroke = self._model.outcome, self._model.stroke
        shown = outcome is not None and stroke is not None
        for handle in (self._angle, self._angle_end, self._pressure):
            handle.setVisible(shown)
        if stroke is not None and stroke.stroke.nib.mode is NibMode.KEYED:
            self._angle.hide()
        if outcome is None or stroke is None:
            keep_handles(self._points, 0, self._point_handle)
            self._ribs.place(None)
            self.handles = [self._angle, self._angle_end, self._pressure]  # the others are gone
            self.note.setText("")
            return
        if not self.dragging:
            self._fit(outcome, stroke)
            self._fit_whole()
        keep_handles(self._points, len(stroke.stroke.path.points_mm), self._point_handle)
        for handle, point in zip(self._points, stroke.stroke.path.points_mm, strict=True):
            handle.put(self._view.point(*point))
        self._place_angles(outcome, stroke)
        gauge = self._gauge
        self._pressure.put(QPointF(gauge.center().x(), gauge.bottom() - stroke.stroke.pressure * gauge.height()))
        self._ribs.place(outcome.laid.track)
        self.handles = [*self._points, self._angle, self._angle_end, self._pressure, *self._ribs.handles]
        self._fill_fields()

    def _fit(self, outcome: Outcome, stroke: PlanStroke) -> None:
        ground = outcome.laid.film.canvas
        points = np.array(stroke.stroke.path.points_mm)
        low = np.minimum(points.min(axis=0), (ground.left_mm, ground.top_mm))
        size = np.array([ground.columns, ground.rows]) / ground.px_per_mm
        high = np.maximum(points.max(axis=0), np.array([ground.left_mm, ground.top_mm]) + size)
        room = self.area.adjusted(22, 22, -22 - _GAUGE_PX, -22)
        self._view = view_of((low[0], low[1]), (high[0], high[1]), room)

    def show_backdrop(self, name: str, wide_mm: float) -> None:
        """Lay a photo, this wide, faintly under the stroke, to trace; an unreadable one is said."""
        try:
            self._backdrop.take(name, wide_mm)
        except PennelloError as error:
            self._model.failed.emit(str(error))
        self.surface.update()

    def _fit_whole(self) -> None:
        """Show all of the skin where all strokes are shown."""
        shown = self.all_strokes.shown if self.all_strokes.on else None
        if shown is not None:
            canvas = shown.view.canvas
            low = (canvas.left_mm, canvas.top_mm)
            high = (low[0] + canvas.columns / canvas.px_per_mm, low[1] + canvas.rows / canvas.px_per_mm)
            self._view = view_of(low, high, self.area.adjusted(6, 6, -6 - _GAUGE_PX, -6))

    def _place_angles(self, outcome: Outcome, stroke: PlanStroke) -> None:
        track = outcome.laid.track
        pivoting = stroke.stroke.nib.mode is NibMode.PIVOTING
        self._angle_end.setVisible(pivoting)
        at_pivot = stroke.stroke.nib.pivot_u if pivoting else 0.5
        outer = 0.0 if at_pivot > 0.5 else 1.0
        places = []
        for moment in (0, -1) if pivoting else (len(track.s_mm) // 2, -1):
            along = track.edge[moment] * track.widths_mm[moment]
            pivot = track.centre[moment] + along * (at_pivot - 0.5)
            tip = track.centre[moment] + along * (outer - 0.5)
            towards = self._view.point(*tip) - self._view.point(*pivot)
            reach = max(math.hypot(towards.x(), towards.y()), 1e-6)
            places.append((self._view.point(*tip) + towards * (16 / reach), self._view.point(*pivot)))
        for handle, (at, _) in zip((self._angle, self._angle_end), places, strict=True):
            inside = self.area.adjusted(12, 12, -12 - _GAUGE_PX, -12)
            handle.put(
                QPointF(
                    min(max(at.x(), inside.left()), inside.right()),
                    min(max(at.y(), inside.top()), inside.bottom()),
                )
            )
        if not (self._angle.dragging or self._angle_end.dragging):
            self._drag_from = (places[0], places[1])

    def _fill_fields(self) -> None:
        stroke = self._model.stroke
        if stroke is None:
            return
        way, unit = stroke.stroke, self._model.unit
        x, y = self._point_now()
        for field, value in (
            (self.angle, way.nib.angle_deg),
            (self.angle_end, way.nib.angle_end_deg),
            (self.pivot, way.nib.pivot_u * 100),
            (self.pressure, way.pressure * 100),
            (self.wiggles, way.wiggle.count),
            (self.wiggle_width, way.wiggle.width_mm),
            (self.across, x),
            (self.down, y),
        ):
            field.show_unit(unit)
            field.show_amount(value)
        pivoting = way.nib.mode is NibMode.PIVOTING
        self.angle_end.setEnabled(pivoting)
        self.pivot.setEnabled(pivoting)
        with QSignalBlocker(self.mode_choice), QSignalBlocker(self.rim_choice):
            self.mode_choice.setCurrentIndex([mode for mode, _ in _MODES].index(way.nib.mode))
            self.rim_choice.setCurrentIndex(list(Side).index(stroke.rim))
        outcome = self._model.outcome
        if outcome:
            track = outcome.laid.track
            widest = length_text(float(track.ribbon_mm.max()), unit)
            self.note.setText(
                phrase("{length_mm} long, {widest} wide", length_mm=length_text(track.length_mm, unit), widest=widest)
            )

    # --- drawing ---

    def paint_surface(self, painter: QPainter) -> None:
        """Draw skin, stroke, ribs and marks."""
        plan = self._model.plan
        painter.fillRect(self.area, QColor(*skin_bytes(plan.skin)))
        outcome = self._model.outcome
        if outcome is None:
            return
        painter.setClipRect(self.area)
        shown = self.all_strokes.shown if self.all_strokes.on else None
        if shown is not None:
            draw_whole(painter, self.area, self._view, shown)
            draw_path(painter, self._view, outcome)
            draw_faults(painter, self._view, outcome)
            painter.setClipping(False)
            self._draw_gauge(painter)
            return
        canvas = outcome.laid.film.canvas
        size = (canvas.columns / canvas.px_per_mm, canvas.rows / canvas.px_per_mm)
        painter.drawImage(self._view.rect(canvas.left_mm, canvas.top_mm, *size), self._picture(outcome))
        self._backdrop.draw(painter, self._view, outcome, held=self.dragging)
        draw_ribs(painter, self._view, outcome)
        draw_path(painter, self._view, outcome)
        draw_marks(painter, self._view, outcome)
        draw_boundary(painter, self._view, outcome, self._model.hovered)
        draw_faults(painter, self._view, outcome)
        painter.setClipping(False)
        self._draw_gauge(painter)

    def _picture(self, outcome: Outcome) -> QImage:
        if self._image is None or self._image[0] is not outcome:
            self._image = (outcome, to_image(outcome.picture))
        return self._image[1]

    def _draw_gauge(self, painter: QPainter) -> None:
        gauge = self._gauge
        pill = gauge.adjusted(-px(12), -px(26), px(12), px(26))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme().mat))
        painter.drawRoundedRect(pill, 10, 10)
        painter.setBrush(QColor(theme().line))
        painter.drawRoundedRect(gauge, 3, 3)
        draw_note(painter, QRectF(pill.left() - 4, pill.top() + 3, pill.width() + 8, px(16)), phrase("full"))
        draw_note(
            painter, QRectF(pill.left() - 4, pill.bottom() - px(16) - 3, pill.width() + 8, px(16)), phrase("light")
        )


def _with_point(index: int, at: Point) -> StrokeChange:
    return stroke_change(lambda s: replace(s, path=with_path_point(s.path, index, *at)))
