"""The chart to work on: a motif is taken by a click, moved, turned and sized by its handles."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPen, QTabletEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

from pennello.chart.chart import Chart
from pennello.design.line_work import Taper
from pennello.design.on_chart import laid_pieces, moved_group, pieces_on, scaled
from pennello.design.placed import PlacedMotif
from pennello.design.plan import skin_bytes
from pennello.design.pulled import points_of
from pennello.design.seated import chord_deg
from pennello.design.surface import draw_contours, skin_outlines
from pennello.lay.families.hold import Hold
from pennello.motif.place import SCALE, Place
from pennello.phrases import phrase
from pennello.session.chart_scene import Lifted
from pennello.session.chart_views import ChartLook, ChartViews
from pennello.session.settings import state_folder
from pennello.ui.stations.chart.layers import LayerHandles
from pennello.ui.stations.chart.line_pen import LinePen
from pennello.ui.stations.chart.model import ChartModel, PlanChange
from pennello.ui.stations.chart.pen import Pen, draw_hint, touch_of
from pennello.ui.stations.chart.rib_handles import ChartRibs
from pennello.ui.stations.chart.still import BoardLook, StillPicture
from pennello.ui.stations.chart.stroke_pen import StrokePen
from pennello.ui.stations.chart.way_handles import WayHandles
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import (
    ChartView,
    carry_transform,
    draw_guide,
    draw_landmarks,
    draw_level,
    draw_painted,
    draw_reserved,
    draw_sides,
    ink_of,
    mirror_transform,
    painted_image,
    surface_of,
    view_seen,
)
from pennello.ui.widgets.handle import Handle, HandleWork
from pennello.ui.widgets.held import Held, number_held
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.paint import draw_note
from pennello.ui.widgets.qt_surface import outline_of
from pennello.units import length_text

SNAP_PX = 7
_SKETCH = phrase("A sketch, in the colours of the loads: it is being painted ...")
_STEP = 1.15
_TURN_ARM, _SIZE_ARM = 46.0, 34.0
TURN = Quantity(phrase("Turn of the motif"), -720, 720, 1, 0, "°")
SIZE = Quantity(phrase("Size of the motif"), SCALE[0] * 100, SCALE[1] * 100, 5, 0, " %")


class ChartBoard(Surface):
    """The chart, large.

    Signals
    -------
    looked
        It is looked at from elsewhere.
    taken_up
        A brush or a line pen is in the hand, or no longer.
    """

    looked = Signal()
    taken_up = Signal()

    def __init__(self, model: ChartModel, parent: QWidget) -> None:
        super().__init__(parent)
        self.model = model
        self.mirror = False
        self.guide = ""
        self.views = ChartViews(state_folder)
        self._led: QPointF | None = None
        self.near = ""
        self._carried: tuple[Lifted, QImage] | None = None
        self._still = StillPicture(model)
        self.wet = False
        self.setAccessibleName(phrase("The chart: click a motif to take it, drag its handles"))
        self.setMinimumSize(360, 300)
        self.setMouseTracking(True)
        self.draw = self._draw
        self._viewed: tuple[Chart, tuple[QSize, ChartLook, bool], ChartView] | None = None
        self.grip = Handle(self, "square", self._move_work(), Qt.CursorShape.SizeAllCursor)
        self.turn = Handle(self, "turn", self._turn_work(), Qt.CursorShape.CrossCursor)
        self.size_grip = Handle(self, "dot", self._size_work(), Qt.CursorShape.SizeFDiagCursor)
        self.over = LayerHandles(model, self, lambda: self.view)
        self.way = WayHandles(model, self, lambda: self.view)
        self.ribs = ChartRibs(model, self, lambda: self.view)
        self.pen, self.puller = LinePen(model, lambda: self.view), StrokePen(model, lambda: self.view)
        self.resized.connect(self.place_handles)
        model.shown.connect(self.refresh)
        model.painted_anew.connect(self.refresh)
        self.refresh()

    @property
    def view(self) -> ChartView:
        """Where the chart lies."""
        chart, looked = self.model.chart, (self.size(), self.seen, self.mirror)
        if self._viewed is None or self._viewed[0] is not chart or self._viewed[1] != looked:
            area = QRectF(self.rect()).adjusted(8, 8, -8, -24)
            self._viewed = (chart, looked, view_seen(chart, area, self.seen, mirror=self.mirror))
        return self._viewed[2]

    @property
    def seen(self) -> ChartLook:
        """How the chart is looked at: whole or close."""
        return self.views.of(self.model.chart)

    @property
    def skin(self) -> QColor:
        """The colour of the plan's skin."""
        return QColor(*skin_bytes(self.model.plan.skin, self.model.plan.light))

    def refresh(self) -> None:
        """Follow the model."""
        if self.drawing is not None and self.drawing.left:
            self.put_down()
        self.place_handles()
        self.update()

    def look(self, seen: ChartLook) -> None:
        """Look at the chart so, and remember it."""
        if seen != self.seen:
            self.views.keep(self.model.chart, seen)
            self.refresh()
            self.looked.emit()

    def set_zoom(self, zoom: float) -> None:
        """Show it larger or smaller, 50 to 800 % of what fits."""
        self.look(self.seen.zoomed(zoom / self.seen.zoom))

    def _from_middle(self, at: QPointF) -> tuple[float, float]:
        """Return a place of the surface from the middle of what is seen, mm."""
        view = self.view
        (x, y), (middle_x, middle_y) = view.to_mm(at), view.to_mm(QRectF(self.rect()).adjusted(8, 8, -8, -24).center())
        return x - middle_x, y - middle_y

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom with Ctrl, about the pointer; or turn the chisel of the brush in the hand."""
        pen = self.drawing
        if pen is not None and pen.wheel(event.angleDelta().y() / 120):
            self.update()
        elif event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            factor = _STEP if event.angleDelta().y() > 0 else 1 / _STEP
            self.look(self.seen.zoomed(factor, *self._from_middle(event.position())))

    def _lead(self, to: QPointF) -> None:
        """Lead what is seen along with the middle button."""
        assert self._led is not None
        way, self._led = to - self._led, to
        right = way.x() / self.view.scale * (1 if self.mirror else -1)
        self.look(self.seen.moved(right, -way.y() / self.view.scale))

    def _look_by_key(self, event: QKeyEvent) -> bool:
        """Zoom by Ctrl with plus, minus and 0, and move what is seen by Ctrl with the arrows."""
        if not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return False
        step_mm, seen = self.width() / self.view.scale / 10, self.seen
        side = -1 if self.mirror else 1
        match event.key():
            case Qt.Key.Key_Plus | Qt.Key.Key_Equal:
                self.look(seen.zoomed(_STEP))
            case Qt.Key.Key_Minus:
                self.look(seen.zoomed(1 / _STEP))
            case Qt.Key.Key_0:
                self.look(ChartLook(seen.view))
            case Qt.Key.Key_Left | Qt.Key.Key_Right:
                self.look(seen.moved(side * (step_mm if event.key() == Qt.Key.Key_Right else -step_mm), 0))
            case Qt.Key.Key_Up | Qt.Key.Key_Down:
                self.look(seen.moved(0, step_mm if event.key() == Qt.Key.Key_Down else -step_mm))
            case _:
                return False
        return True

    # --- handles ---

    def place_handles(self) -> None:
        """Lay the handles about the motif in the hand and on what lies over the paint."""
        self.over.place(shown=self.drawing is None)
        self.ribs.place()
        self.way.place()
        chosen = self.model.seated
        taken = chosen is not None and chosen.computed is None  # what is worked out lies where it must
        for handle in (self.grip, self.turn, self.size_grip):
            handle.setVisible(taken)
        if chosen is None or not taken:
            return
        at = self.view.to_px(chosen.place.x_mm, chosen.place.y_mm)
        turn = math.radians((-chosen.place.turn_deg if self.mirror else chosen.place.turn_deg) - 90)
        self.grip.put(at)
        self.turn.put(at + QPointF(math.cos(turn), math.sin(turn)) * _TURN_ARM)
        self.size_grip.put(at + QPointF(math.cos(turn + math.pi / 2), math.sin(turn + math.pi / 2)) * _SIZE_ARM)
        for handle in (self.grip, self.turn, self.size_grip):
            handle.refresh()
            handle.raise_()

    def _move_work(self) -> HandleWork:
        model = self.model

        def say() -> str:
            if model.chosen is None:
                return ""
            x, y = model.chosen.place.x_mm, model.chosen.place.y_mm
            near = f", {self.near}" if self.near and self.grip.dragging else ""
            return phrase(
                "{x} right, {y} down{near}", x=length_text(x, model.unit), y=length_text(y, model.unit), near=near
            )

        def led(start: Place, way: QPointF) -> Place:
            dx, dy = way.x() / self.view.scale * (-1 if self.mirror else 1), way.y() / self.view.scale
            x, y = self._snapped(start.x_mm + dx, start.y_mm + dy)
            return replace(start, x_mm=x, y_mm=y)

        def stepped(start: Place, x: int, y: int, factor: float) -> Place:
            right = x * factor * (-1 if self.mirror else 1)
            return replace(start, x_mm=start.x_mm + right, y_mm=start.y_mm + y * factor)

        def put(to: Place) -> PlanChange:
            here = model.committed
            by = Place() if here is None else Place(to.x_mm - here.place.x_mm, to.y_mm - here.place.y_mm)
            return lambda plan: moved_group(plan, model.chosen_id, by)

        held = Held[Place, PlanChange](
            name=phrase("Place of the motif"),
            label=phrase("Move a motif"),
            now=lambda: model.committed.place if model.committed else None,
            put=put,
            say=say,
            drag=led,
            step=stepped,
            merge=lambda: phrase("move {chosen_id}", chosen_id=model.chosen_id),
        )
        return held.work(model)

    def _snapped(self, x: float, y: float) -> tuple[float, float]:
        """Return a landmark that is near enough to be felt, or the point."""
        reach = SNAP_PX / self.view.scale
        best = min(self.model.chart.landmarks, key=lambda one: math.dist(one[1], (x, y)), default=None)
        if best is not None and math.dist(best[1], (x, y)) < reach:
            self.near = best[0]
            return best[1]
        self.near = ""
        return x, y

    def _turn_work(self) -> HandleWork:
        model = self.model

        def led(start: float, way: QPointF) -> float:
            sign = -1 if self.mirror else 1
            angle = math.radians(sign * start - 90)
            hand = QPointF(math.cos(angle), math.sin(angle)) * _TURN_ARM + way
            return round(sign * (math.degrees(math.atan2(hand.y(), hand.x())) + 90), 1)

        return number_held(
            model,
            TURN,
            phrase("Turn a motif"),
            now=lambda: model.committed.place.turn_deg if model.committed else None,
            put=lambda deg: model.motif_change(lambda one: _turned(one, deg)),
            say=lambda: f"{model.chosen.place.turn_deg:.0f}°" if model.chosen else "",
            drag=led,
            merge=lambda: phrase("turn {chosen_id}", chosen_id=model.chosen_id),
        )

    def _size_work(self) -> HandleWork:
        model = self.model

        def size() -> float | None:
            return model.committed.place.scale if model.committed else None

        def led(start: float, way: QPointF) -> float:
            turn = model.committed.place.turn_deg if model.committed else 0.0
            angle = math.radians(-turn if self.mirror else turn)
            along = way.x() * math.cos(angle) + way.y() * math.sin(angle)
            return start * max((_SIZE_ARM + along) / _SIZE_ARM, 0.1)

        return number_held(
            model,
            SIZE,
            phrase("Size of a motif"),
            now=size,
            put=lambda to: model.motif_change(lambda one: scaled(one, to / one.place.scale)),
            say=lambda: (
                phrase("{scale:.0%}, brushes stay as wide as they are", scale=model.chosen.place.scale)
                if model.chosen
                else ""
            ),
            drag=led,
            by=lambda x, y, factor: 0.05 * (x - y) * factor * (size() or 1.0),
            in_field=100,
            merge=lambda: phrase("size {chosen_id}", chosen_id=model.chosen_id),
        )

    # --- taking ---

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take the motif that lies there, the last painted first; or set a pen or brush down."""
        if self.drawing is not None and event.button() == Qt.MouseButton.LeftButton:
            self.drawing.press(touch_of(event))
            self.update()
        elif event.button() == Qt.MouseButton.LeftButton:
            self.model.choose(self.motif_at(event.position()))
        elif event.button() == Qt.MouseButton.MiddleButton:
            self._led = event.position()
        self.setFocus()

    def motif_at(self, at: QPointF) -> str:
        """Return the motif whose strokes lie at a point of the surface, or nothing."""
        x, y = self.view.to_mm(at)
        found = ""
        for piece in pieces_on(self.model.plan, self.model.key):
            points = np.array(piece.stroke.path.points_mm)
            width = self.model.plan.brush(self.model.plan.stroke(piece.load).brush).width_mm
            if np.hypot(*(points - (x, y)).T).min() < max(width / 2, 3.0):
                found = piece.motif
        return found

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Name the landmark that is near; or go on with the pen or brush, or lead what is seen."""
        if self._led is not None:
            self._lead(event.position())
            return
        if (pen := self.drawing) is not None:
            before = pen.reach()
            pen.move(touch_of(event))
            self._changed(before, pen.reach())
            return
        x, y = self.view.to_mm(event.position())
        best = min(self.model.chart.landmarks, key=lambda one: math.dist(one[1], (x, y)), default=None)
        near = best[0] if best is not None and math.dist(best[1], (x, y)) * self.view.scale < 12 else ""
        if near != self.near:
            self.near = near
            self.update()

    def _changed(self, before: QRectF | None, now: QRectF | None) -> None:
        """Draw anew where what is in the hand was seen and is seen now."""
        if before is None or now is None:
            self.update()
        else:
            self.update(before.united(now).toAlignedRect())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Lift the pen or brush off."""
        self._led = None
        if self.drawing is not None and event.button() == Qt.MouseButton.LeftButton:
            self.drawing.release()
        super().mouseReleaseEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Keys of the pen or brush in the hand; Esc puts it down."""
        pen = self.drawing
        if pen is not None and pen.key(event):
            self.update()
        elif pen is not None and event.key() == Qt.Key.Key_Escape:
            self.put_down()
        elif not self._look_by_key(event):
            super().keyPressEvent(event)

    def tabletEvent(self, event: QTabletEvent) -> None:
        """A pen tablet does what a mouse does, with its pressure and tilt; without a pen in the hand it is a mouse."""
        pen = self.drawing
        if pen is None:
            event.ignore()
            return
        event.accept()
        before = pen.reach() if event.type() is QEvent.Type.TabletMove else None
        match event.type():
            case QEvent.Type.TabletPress:
                pen.press(touch_of(event))
            case QEvent.Type.TabletMove:
                pen.move(touch_of(event))
            case QEvent.Type.TabletRelease:
                pen.release()
        self._changed(before, pen.reach())

    @property
    def drawing(self) -> Pen | None:
        """What draws by hand, if anything does."""
        return next((pen for pen in (self.pen, self.puller) if pen.on), None)

    def draw_by_hand(self, load: str = "", piece: str = "") -> None:
        """Draw lines by hand from now on, with a load, on with a piece or as a new one."""
        self.put_down()
        self.pen.begin(load, piece)
        self._take_up()

    def pull_by_hand(self, load: str, hold: Hold | None = None) -> None:
        """Pull strokes by hand from now on, with a load in a hold."""
        self.put_down()
        self.puller.begin(load, hold)
        self._take_up()

    def _take_up(self) -> None:
        self.setFocus()
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.place_handles()
        self.update()
        self.taken_up.emit()

    def rest(self) -> None:
        """Another station is shown: what is in the hand stays there."""
        for pen in (self.pen, self.puller):
            pen.rest()

    def put_down(self) -> None:
        """Draw no more."""
        for pen in (self.pen, self.puller):
            pen.end()
        self.setCursor(Qt.CursorShape.ArrowCursor)
        self.place_handles()
        self.update()
        self.taken_up.emit()

    def draw_tapered(self, taper: Taper) -> None:
        """Draw lines thick and thin so from now on."""
        self.pen.taper = taper

    # --- drawing ---

    def _draw(self, painter: QPainter) -> None:
        chart, view = self.model.chart, self.view
        seen = BoardLook(view, self.size(), self.devicePixelRatioF(), self.skin)
        painter.drawPixmap(0, 0, self._still.whole(seen, wet=self.wet))
        self._draw_carried(painter, view)
        for kept in self.model.plan.reserved:
            if kept.chart == self.model.key:
                draw_reserved(painter, kept, view)
        if self.guide in dict(chart.frames):
            draw_guide(painter, chart.frame(self.guide), view)
        self._draw_chosen(painter, view)
        self.ribs.draw(painter)
        self.way.draw(painter)
        if chart.landmarks and (self.near or self.grip.dragging):
            draw_landmarks(painter, chart, view, self.near)
        if self.model.odd:
            painter.drawPixmap(0, 0, self._still.pins(seen))
        if chart.midline_mm is None:
            corner = QRectF(6, self.height() - px(16) - 5, px(240), px(16))
            draw_note(painter, corner, chart.name, Qt.AlignmentFlag.AlignLeft)
        else:
            draw_sides(painter, QRectF(self.rect()), mirror=self.mirror)
        area, painted = QRectF(self.rect()), self.model.painted
        if self.drawing is not None:
            self.drawing.draw(painter, area)
        elif painted is not None and painted.sketch:
            draw_hint(painter, area, _SKETCH)

    def _draw_carried(self, painter: QPainter, view: ChartView) -> None:
        """Draw the motif in the hand as painted, where the hand has it, and its mirror image."""
        lifted, chosen = self.model.carried, self.model.chosen
        if lifted is None or chosen is None:
            return
        if self._carried is None or self._carried[0] is not lifted:
            self._carried = (lifted, painted_image(lifted.alone))
        image, moved = self._carried[1], carry_transform(lifted.place, chosen.place)
        surface = surface_of(painter, view)
        with surface.within(skin_outlines(self.model.chart)):
            draw_painted(painter, image, lifted.alone.canvas, view, moved)
            midline = self.model.chart.midline_mm
            if lifted.twin and midline is not None:
                draw_painted(painter, image, lifted.alone.canvas, view, moved * mirror_transform(midline))
        if self.model.photo is None:
            draw_contours(surface, self.model.chart, ink_of(self.skin))

    def _draw_chosen(self, painter: QPainter, view: ChartView) -> None:
        """Draw the paths of the motif in the hand: at once, while its picture is still to come."""
        chosen = self.model.chosen
        if chosen is None:
            return
        pieces = laid_pieces(self.model.plan, chosen, self.model.chart.midline_mm)
        painter.save()
        painter.setTransform(view.transform, combine=True)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for weight, colour in ((3.0, QColor(255, 255, 255, 150)), (1.2, QColor(theme().accent))):
            pen = QPen(colour, weight)
            pen.setCosmetic(True)
            painter.setPen(pen)
            for piece in pieces:
                painter.drawPath(outline_of(piece.stroke.path))
        painter.restore()
        self._draw_level(painter, view)

    def _draw_level(self, painter: QPainter, view: ChartView) -> None:
        """Draw the angle of a single stroke in the hand to the level: a gauge at its start."""
        chosen = self.model.seated
        if chosen is None or not points_of(chosen):
            return
        rises = chord_deg(chosen, ())
        if rises is not None:
            (x, y), *_ = points_of(chosen)
            draw_level(painter, view.to_px(x, y), 180.0 - rises if view.mirror else rises)


def _turned(placed: PlacedMotif, to_deg: float) -> PlacedMotif:
    return replace(placed, place=replace(placed.place, turn_deg=(to_deg + 180) % 360 - 180))
