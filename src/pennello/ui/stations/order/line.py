"""The hand's steps like washing on a line, by the clock; below, each film dries from full to hollow, glitter has gates.

One hand, so one line: a step hangs from it as a small picture of what it lays, as wide as it takes. Loads are drops,
rinses waves, other tools a brush on the line; where the line is bare the hand waits.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QImage,
    QKeyEvent,
    QLinearGradient,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QWheelEvent,
)
from PySide6.QtWidgets import QScrollArea

from pennello.lay.drying import DRY
from pennello.order.arrange import Arranged
from pennello.order.job import Why
from pennello.order.problem import span
from pennello.order.steps import Step
from pennello.phrases import phrase
from pennello.session.order_pictures import Picture
from pennello.ui.stations.order.line_marks import draw_gate, draw_hand, draw_mark, draw_rope
from pennello.ui.stations.order.model import OrderModel, drying
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.announcing import announce
from pennello.ui.widgets.drawn_list import DrawnList
from pennello.ui.widgets.paint import draw_note, note_font, to_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import tip
from pennello.units import about_seconds_text, clock

LEFT_PX, _TOP_PX = 24, 30
_LANE_PX = 24
_LEAST_PX, _ROOMY_PX = 24, 64
_AFTER_PX, _LEAST_AFTER_PX, _WIDE_AFTER_PX = 210, 80, 260
_CARD_PX = (110, 168)
_PX_PER_S = (1.5, 40.0)
_BEYOND_PX = 40
"""So far beyond its place a step may draw, px."""

_ALIGN = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


def top_px() -> int:
    """Return where the clock ends, px."""
    return px(_TOP_PX)


def line_y() -> int:
    """Return where the line hangs: below the clock and the words on it, px."""
    return top_px() + px(22) + 4


@dataclass(frozen=True, slots=True)
class _Hung:
    """An order's steps that lay something, those whose paint something waits for, and when the next of each begins."""

    view: Arranged
    laid: list[Step]
    waited: list[Step]
    next_s: dict[str, float]


def _hung(view: Arranged) -> _Hung:
    laid = [step for step in view.steps if step.kind.paints]
    before = {lag.before for lag in view.lags if lag.least_s > 0 or lag.most_s < 1e8}
    starts = sorted(step.start_s for step in laid)
    ends = [*starts, view.sums.total_s]
    next_s = {step.id: ends[bisect_right(starts, step.start_s + 0.05)] for step in laid}
    return _Hung(view, laid, [step for step in laid if step.id in before], next_s)


class WashingLine(DrawnList):
    """The line; wider than its window when the design takes long.

    Signals
    -------
    refused(str)
        A step cannot be where it was dropped.
    """

    refused = Signal(str)

    def __init__(self, model: OrderModel) -> None:
        super().__init__()
        self.orders = model
        self.px_per_s = 5.0
        self.reason = ""
        self._held: tuple[str, float] | None = None
        self._moved = False
        self._x = 0.0
        self._images: dict[int, tuple[Picture, QImage]] = {}
        self._hung: _Hung | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(phrase("Steps on the clock: arrows choose one, Ctrl and arrows move it"))
        model.shown.connect(self.refresh)

    # --- places ---

    def x_at(self, seconds: float) -> float:
        """Return where a time lies, px."""
        return LEFT_PX + seconds * self.px_per_s

    def laid(self, view: Arranged) -> list[Step]:
        """Return the steps that lay something, in order."""
        return self._known(view).laid

    def _known(self, view: Arranged) -> _Hung:
        if self._hung is None or self._hung.view is not view:
            self._hung = _hung(view)
        return self._hung

    @property
    def card_px(self) -> float:
        """How far steps hang down: what the lanes below leave, within limits."""
        view = self.orders.view
        lanes = px(_LANE_PX) * (len(self._lanes(view)) + 2) if view is not None else 0
        return float(min(max(self.height() - line_y() - px(60) - lanes, _CARD_PX[0]), _CARD_PX[1]))

    @property
    def lanes_y(self) -> float:
        """Where the first lane lies."""
        return line_y() + self.card_px + px(24) + 14

    def card_of(self, step: Step) -> QRectF:
        """Return where a step hangs: as wide as its time, a little wider where there is room."""
        view = self.orders.view
        wide = max(step.seconds * self.px_per_s, _LEAST_PX)
        if view is not None and wide < _ROOMY_PX:
            after = self._known(view).next_s.get(step.id, view.sums.total_s)
            room = (after - step.start_s) * self.px_per_s - 5
            wide = max(wide, min(_ROOMY_PX, room))
        return QRectF(self.x_at(step.start_s), line_y(), wide, self.card_px)

    def rect_of(self, row: int) -> QRectF:
        """Return where a step hangs, by its place in the order."""
        view = self.orders.view
        steps = self.laid(view) if view is not None else []
        return self.card_of(steps[row]) if row < len(steps) else QRectF()

    def step_at(self, at: QPointF) -> Step | None:
        """Return the step that hangs at a point, or None."""
        view = self.orders.view
        hits = [step for step in self.laid(view) if self.card_of(step).contains(at)] if view is not None else []
        return hits[-1] if hits else None

    def refresh(self) -> None:
        """Follow the model: as wide as the time, as high as the lanes."""
        view = self.orders.view
        if view is not None:
            wide = self.x_at(view.sums.total_s) + 60
            high = line_y() + _CARD_PX[0] + px(48) + px(_LANE_PX) * (len(self._lanes(view)) + 1)
            if self.minimumSize() != QSize(round(wide), round(high)):
                self.setMinimumSize(round(wide), round(high))
            self._tell_chosen(view)
        self.redraw()

    def _tell_chosen(self, view: Arranged) -> None:
        """Have the step that is chosen said, with its place in the order and its time."""
        laid = self.laid(view)
        told = [
            phrase(
                "{here} of {count}: {step}, from {start_s}, {seconds:.0f} s",
                here=here,
                count=len(laid),
                step=step.words,
                start_s=clock(step.start_s),
                seconds=step.seconds,
            )
            for here, step in enumerate(laid, 1)
        ]
        here = next((number for number, step in enumerate(laid) if step.id == self.orders.chosen), -1)
        self.show_words(told, [tip(self._told(step)) for step in laid], here)
        words = told[here] if here >= 0 else ""
        if words != self.accessibleDescription():
            self.setAccessibleDescription(words)
            if self.hasFocus():
                announce(self, words)

    def set_scale(self, px_per_s: float) -> None:
        """Show a second so wide."""
        self.px_per_s = min(max(px_per_s, _PX_PER_S[0]), _PX_PER_S[1])
        self.refresh()

    def fit(self, width: int) -> None:
        """Show all of the time in a width, if that is not too narrow to see."""
        view = self.orders.view
        if view is not None and view.sums.total_s > 0:
            self.set_scale(max((width - LEFT_PX - 60) / view.sums.total_s, 2.4))

    # --- hand ---

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a step."""
        step = self.step_at(event.position())
        self.setFocus()
        if event.button() == Qt.MouseButton.LeftButton:
            self.orders.choose(step.id if step is not None else "")
            self._held = (step.id, event.position().x()) if step is not None else None
            self._x, self._moved = event.position().x(), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move it along the line; say why where it cannot hang."""
        if self._held is None:
            return
        self._x = event.position().x()
        if abs(self._x - self._held[1]) > 6:
            self._moved = True
            self.reason = self.orders.drag(self._held[0], self._place_at(self._x, self._held[0]))
        self.redraw()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go of it."""
        if self._held is None:
            return
        reason, moved = self.reason, self._moved
        self._held, self._moved, self.reason = None, False, ""
        if reason:
            self.orders.give_back()
            self.refused.emit(reason)
        elif moved:
            self.orders.drop()
        self.redraw()

    def _place_at(self, x: float, name: str) -> int:
        """Return the place among the other steps that a point of the line stands for."""
        arranged = self.orders.arranged
        assert arranged is not None
        others = [step for step in self.laid(arranged) if step.id != name]
        return sum(self.card_of(step).center().x() < x for step in others)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose with arrows, move with Ctrl; Esc gives a drag back."""
        key = Qt.Key(event.key())
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(key, 0)
        arranged = self.orders.arranged
        if key == Qt.Key.Key_Escape and self._held is not None:
            self._held, self._moved, self.reason = None, False, ""
            self.orders.give_back()
            return
        if not way or arranged is None or not arranged.order:
            event.ignore()
            return
        order = arranged.order
        here = order.index(self.orders.chosen) if self.orders.chosen in order else -way
        to = min(max(here + way, 0), len(order) - 1)
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and self.orders.chosen in order:
            reason = self.orders.drag(self.orders.chosen, to)
            if reason:
                self.refused.emit(reason)
            else:
                self.orders.drop()
        else:
            self.orders.choose(order[to])

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Zoom the clock with Ctrl."""
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_scale(self.px_per_s * (1.15 if event.angleDelta().y() > 0 else 1 / 1.15))
            event.accept()
        else:
            event.ignore()

    def _told(self, step: Step) -> str:
        return phrase(
            "{step}, {seconds:.0f} s, from {start_s}", step=step.name, seconds=step.seconds, start_s=clock(step.start_s)
        )

    # --- drawing ---

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw clock, line, steps and what dries."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(event.rect(), QColor(theme().mat))
        view = self.orders.view
        if view is None:
            return
        self._draw_clock(painter, view)
        self._draw_places(painter)
        draw_rope(painter, view, self.x_at, line_y())
        left, right = event.rect().left() - _BEYOND_PX, event.rect().right() + _BEYOND_PX
        for step in view.steps:
            if not step.kind.paints and self.x_at(step.end_s) > left and self.x_at(step.start_s) < right:
                draw_mark(painter, step, self.x_at(step.start_s), self.x_at(step.end_s), line_y())
        for number, step in enumerate(self.laid(view), 1):
            card = self.card_of(step)
            held = self._held is not None and self._held[0] == step.id
            if held or (max(card.right(), self.x_at(step.end_s)) > left and card.left() < right):
                self._draw_card(painter, view, step, number)
        self._draw_stops(painter, view)
        self._draw_lanes(painter, view)
        self._draw_after(painter, view)
        if self.reason:
            self._draw_reason(painter)

    def _draw_clock(self, painter: QPainter, view: Arranged) -> None:
        every = next(step for step in (5, 10, 15, 30, 60, 120, 300) if step * self.px_per_s >= px(46) or step == 300)
        painter.setPen(QPen(QColor(theme().line), 1))
        bottom = self.height()
        for seconds in range(0, math.ceil(view.sums.total_s) + every, every):
            x = self.x_at(seconds)
            painter.setPen(QPen(QColor(theme().line), 1))
            painter.drawLine(QPointF(x, top_px() - 6), QPointF(x, bottom))
            draw_note(painter, QRectF(x - px(24), 4, px(60), px(18)), clock(seconds) if seconds else "min:s", _ALIGN)

    def _draw_card(self, painter: QPainter, view: Arranged, step: Step, number: int) -> None:
        inks, card = theme(), self.card_of(step)
        here = step.id == self.orders.chosen
        held = self._held is not None and self._moved and self._held[0] == step.id
        if held:
            card.moveLeft(self._x - card.width() / 2)
            card.translate(0, 6)
        draw_hand(painter, step, self.x_at, line_y())
        painter.setPen(QPen(QColor(inks.accent if here else inks.line), 2 if here else 1))
        painter.setBrush(QColor(inks.well))
        painter.drawRoundedRect(card.adjusted(1, 4, -1, 0), 4, 4)
        for x in (card.left() + 6, card.right() - 6) if card.width() > 30 else (card.center().x(),):
            painter.fillRect(QRectF(x - 1.5, card.top() - 5, 3, 14), QColor(inks.ink_2))
        picture = self.orders.pictures.get(step.id)
        box = card.adjusted(4, 14, -4, -px(22))
        if picture is not None and picture.shape[0] > 1:
            image = self._image(picture)
            scale = min(box.width() / image.width(), box.height() / image.height(), 2.0)
            size = QRectF(0, 0, image.width() * scale, image.height() * scale)
            size.moveCenter(box.center())
            painter.drawImage(size, image)
        draw_note(painter, QRectF(card.left(), card.bottom() - px(20), card.width(), px(16)), str(number))
        if view.job(step.id).priority.value != "must":
            painter.setPen(QPen(QColor(inks.ink_2), 1, Qt.PenStyle.DotLine))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(card.adjusted(3, 6, -3, -2), 3, 3)

    def _image(self, picture: Picture) -> QImage:
        known = self._images.get(id(picture))
        if known is None or known[0] is not picture:  # another array may lie where a thrown away one lay
            if len(self._images) > 400:
                self._images.clear()
            known = self._images[id(picture)] = (picture, to_image(picture))
        return known[1]

    def _draw_stops(self, painter: QPainter, view: Arranged) -> None:
        """Draw a small flag where the design is complete as it is."""
        painter.setPen(QPen(QColor(theme().holds), 1.6))
        painter.setBrush(QColor(theme().holds))
        for stop in view.stops:
            x = self.x_at(stop.at_s)
            foot = line_y() + self.card_px + 14
            painter.drawLine(QPointF(x, foot - 10), QPointF(x, foot + 3))
            painter.drawPolygon([QPointF(x, foot - 10), QPointF(x + 9, foot - 6), QPointF(x, foot - 2)])

    def _draw_places(self, painter: QPainter) -> None:
        """While a step is dragged: where it may hang."""
        arranged = self.orders.arranged
        if self._held is None or not self._moved or arranged is None:
            return
        order = list(arranged.timing.order)
        job = next(number for number in order if arranged.jobs[number].id == self._held[0])
        first, last = span(arranged.problem, order, job)
        rest = [arranged.step(arranged.jobs[number].id) for number in order if number != job]
        left = self.x_at(rest[first - 1].end_s) if first else LEFT_PX - 10
        right = self.x_at(rest[last].start_s) if last < len(rest) else self.x_at(arranged.sums.total_s) + 14
        band = QColor(theme().holds)
        band.setAlpha(38)
        painter.fillRect(QRectF(left, top_px() - 4, max(right - left, 4), self.lanes_y - top_px()), band)

    def _draw_reason(self, painter: QPainter) -> None:
        inks = theme()
        box = QRectF(
            max(self._x - px(200), self.viewport().visibleRegion().boundingRect().left() + 8),
            line_y() + self.card_px - 6,
            px(400),
            px(44),
        )
        painter.setPen(QPen(QColor(inks.misses), 1.4))
        painter.setBrush(QColor(inks.mat))
        painter.drawRoundedRect(box, 6, 6)
        painter.setPen(QColor(inks.ink))
        wrap = Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(box.adjusted(8, 4, -8, -4), wrap, self.reason)

    # --- what dries ---

    def _lanes(self, view: Arranged) -> list[Step]:
        """Return the steps whose paint something waits for."""
        return self._known(view).waited

    def _draw_lanes(self, painter: QPainter, view: Arranged) -> None:
        """Draw a lane for each film that something waits for: full when laid, hollow when dry; gates for windows."""
        steps = self._lanes(view)
        head = QRectF(LEFT_PX - 16, self.lanes_y - px(24), self.width() - LEFT_PX, px(18))
        words = phrase(
            "flags: complete as it is; below what dries, from full to hollow; gates are open while glitter sticks"
        )
        draw_note(painter, head, words, _ALIGN)
        for lane, step in enumerate(steps):
            self._draw_lane(painter, view, step, self.lanes_y + lane * px(_LANE_PX))

    def _draw_after(self, painter: QPainter, view: Arranged) -> None:
        """Where there is room below: the design after as many of the steps as fit, each under its step."""
        top = self.lanes_y + px(_LANE_PX) * len(self._lanes(view)) + 18
        high = min(self.height() - top - px(26), _AFTER_PX)
        if high < _LEAST_AFTER_PX or not self.orders.after:
            return
        free = 0.0
        for number, step in enumerate(self.laid(view), 1):
            picture = self.orders.after.get(step.id)
            if picture is None:
                continue
            ratio = picture.shape[1] / picture.shape[0]
            wide = min(high * ratio, _WIDE_AFTER_PX)
            tall = wide / ratio
            left = max(self.card_of(step).center().x() - wide / 2, 4.0)
            if left < free:
                continue
            free = left + wide + 6
            painter.drawImage(QRectF(left, top, wide, tall), self._image(picture))
            draw_note(painter, QRectF(left, top + tall + 2, wide, px(16)), phrase("after {number}", number=number))

    def _draw_lane(self, painter: QPainter, view: Arranged, step: Step, y: float) -> None:
        inks = theme()
        um, dry_s = drying(view, step.id)
        start, end = self.x_at(step.end_s), self.x_at(step.end_s + dry_s)
        bar = QRectF(start, y, max(end - start, 2), 10)
        full, clear = QColor(inks.ink_2), QColor(inks.ink_2)
        full.setAlpha(230)
        clear.setAlpha(0)
        fade = QLinearGradient(bar.topLeft(), bar.topRight())
        for part in np.linspace(0, 1, 7).tolist():
            shade = QColor(full)
            shade.setAlphaF(0.9 * (1 - part * (1 - DRY)))
            fade.setColorAt(part, shade)
        painter.setPen(QPen(QColor(inks.ink_2), 1))
        painter.setBrush(fade)
        painter.drawRoundedRect(bar, 5, 5)
        windows = [lag for lag in view.lags if lag.before == step.id and lag.most_s < 1e8]
        for lag in windows:
            opens, closes = self.x_at(step.end_s + lag.least_s), self.x_at(step.end_s + lag.most_s)
            draw_gate(painter, opens, closes, y, tacky=lag.why is Why.TACKY)
        dry = about_seconds_text(dry_s)

        def told(name: str) -> str:
            return phrase("{name}: {um:.0f} µm, dry after {dry_s}", name=name, um=um, dry_s=dry)

        metrics = QFontMetricsF(note_font(painter))
        width = metrics.horizontalAdvance(told(step.name)) + 8
        before, after = start - 10, self.width() - end - 12
        beside = before >= min(width, max(before, after))
        room = min(width, before if beside else after)
        left = start - room - 6 if beside else end + 8
        name = metrics.elidedText(
            step.name, Qt.TextElideMode.ElideMiddle, room - metrics.horizontalAdvance(told("")) - 4
        )
        draw_note(painter, QRectF(left, y + 5 - px(9), room, px(18)), told(name), _ALIGN)


class LineView(QScrollArea):
    """The line in a window that scrolls along the clock."""

    def __init__(self, line: WashingLine) -> None:
        super().__init__()
        self.setWidget(line)
        self.setWidgetResizable(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
