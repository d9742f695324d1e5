"""A handle on a mat: dragged by hand or stepped by keys, at least 24 px to grab; to screen readers it is a slider.

Arrows step, Shift is fine, Ctrl coarse; double click or Enter types; Esc gives back the old value. While
dragged, the number stands beside the hand.
"""

from __future__ import annotations

import contextlib
from collections.abc import Callable
from dataclasses import dataclass, field

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QWheelEvent
from PySide6.QtWidgets import QLabel, QSlider, QWidget

from pennello.errors import PennelloError
from pennello.ui.theme.icons import draw_icon
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import Label, tip

GRAB_PX = 24
_PARTS = 100
"""Into so many parts each unit of a number is cut for a slider, which knows whole numbers."""

FINE, NORMAL, COARSE = 0.1, 1.0, 5.0

_ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


@dataclass(frozen=True)
class HandleNumber:
    """The one number that a handle stands for: its range as it is said, what it is now, and how to make it another."""

    low: float
    high: float
    now: Callable[[], float | None]
    put: Callable[[float], object]


@dataclass
class HandleWork:
    """What a handle does.

    Attributes
    ----------
    name, value
        Its name, and its value in words with the unit.
    dragged
        Called with how far the hand is from where it pressed, px; shows a preview.
    stepped
        Called with the arrow (x, y) and the factor fine, normal or coarse; makes a step.
    released, cancelled
        Called when the hand lets go, or gives the old value back.
    typed
        Called on double click or Enter, with the handle.
    number
        Its number for screen readers, or None where it has none.
    """

    name: str
    value: Callable[[], str]
    dragged: Callable[[QPointF], None]
    stepped: Callable[[int, int, float], object]
    released: Callable[[], object]
    cancelled: Callable[[], object]
    typed: Callable[[Handle], object] = field(default=lambda _: None)
    number: HandleNumber | None = None


def press_work(name: str, value: Callable[[], str], act: Callable[[], object]) -> HandleWork:
    """Return the work of a handle that is pressed, not dragged."""
    return HandleWork(name, value, lambda _: None, lambda *_: act(), act, lambda: None, lambda _: act())


def keep_handles(handles: list[Handle], count: int, make: Callable[[int], Handle]) -> None:
    """Bring a list of handles to a length: make those that lack (by their index), take away those too many."""
    while len(handles) > count:
        surplus = handles.pop()
        surplus.hide()
        surplus.deleteLater()
    while len(handles) < count:
        handle = make(len(handles))
        mat = handle.parentWidget()
        kin = handles or [one for one in (mat.findChildren(Handle) if mat else ()) if one is not handle]
        if kin:
            QWidget.setTabOrder(kin[-1], handle)  # keys go from one grip of a mat to the next, whenever it was made
        handle.show()
        handles.append(handle)


class Handle(QSlider):
    """A grip; `shape` is square, dot, diamond, bar, turn, flip or area (an invisible grip over something drawn).

    It is a slider with its own paint, so that a screen reader finds its number, and may change it.

    Signals
    -------
    hovered(bool)
        The hand came near or went away.
    """

    hovered = Signal(bool)

    def __init__(self, parent: QWidget, shape: str, work: HandleWork, cursor: Qt.CursorShape) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self.work = work
        self._shape = shape
        self._telling = False
        self._pressed_at: QPointF | None = None
        self._moved = False
        self._bubble: QLabel | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(cursor)
        self.setFixedSize(GRAB_PX, GRAB_PX)
        self.setAccessibleName(work.name)
        self.valueChanged.connect(self._told)
        self.refresh()

    def refresh(self) -> None:
        """Take the value's words anew."""
        words = self.work.value()
        self.setToolTip(tip(f"{self.work.name}: {words}" if words else self.work.name))
        self.setAccessibleDescription(words)
        self._tell_number()
        if self._bubble is not None:
            self._show_bubble()

    def _tell_number(self) -> None:
        """Have the number as the slider's value, in hundredths."""
        number, now = self.work.number, None
        with contextlib.suppress(PennelloError, IndexError):  # what it stood for has just gone
            now = number.now() if number is not None else None
        if number is None or now is None:
            return
        self._telling = True
        self.setRange(round(number.low * _PARTS), round(number.high * _PARTS))
        self.setValue(round(now * _PARTS))
        self._telling = False

    def _told(self, value: int) -> None:
        """Take a number from a screen reader."""
        if not self._telling and self.work.number is not None:
            self.work.number.put(value / _PARTS)
            self.refresh()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Leave the wheel to what lies below."""
        event.ignore()

    def put(self, centre: QPointF) -> None:
        """Lie with the middle at a point of the mat."""
        self.move(round(centre.x() - self.width() / 2), round(centre.y() - self.height() / 2))

    @property
    def dragging(self) -> bool:
        """Whether the hand holds it."""
        return self._pressed_at is not None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take hold."""
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed_at, self._moved = event.globalPosition(), False
            self.setFocus(Qt.FocusReason.MouseFocusReason)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Follow the hand."""
        if self._pressed_at is None:
            return
        way = event.globalPosition() - self._pressed_at
        if not self._moved and way.manhattanLength() < 2:
            return
        self._moved = True
        self.work.dragged(way)
        self.refresh()
        self._show_bubble()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go: what was dragged becomes a step."""
        if self._pressed_at is not None and event.button() == Qt.MouseButton.LeftButton:
            self._let_go()
            if self._moved:
                self.work.released()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Type the value."""
        self._let_go()
        self.work.typed(self)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Step with arrows, type with Enter, give back with Esc."""
        key = Qt.Key(event.key())
        if key in _ARROWS and not self.dragging:
            held = event.modifiers()
            factor = FINE if held & Qt.KeyboardModifier.ShiftModifier else NORMAL
            factor = COARSE if held & Qt.KeyboardModifier.ControlModifier else factor
            self.work.stepped(*_ARROWS[key], factor)
            self.refresh()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.work.typed(self)
        elif key == Qt.Key.Key_Escape and self.dragging:
            self._let_go()
            self.work.cancelled()
        else:
            event.ignore()

    def _let_go(self) -> None:
        self._pressed_at = None
        if self._bubble is not None:
            self._bubble.deleteLater()
            self._bubble = None

    def _show_bubble(self) -> None:
        if self._bubble is None:
            self._bubble = Label("", self.parentWidget())
            self._bubble.setStyleSheet(
                f"background: {theme().ink}; color: {theme().mat}; border-radius: 4px; padding: 2px 7px;"
            )
            self._bubble.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self._bubble.setText(self.work.value())
        self._bubble.adjustSize()
        beside = self.geometry().center() + QPoint(18, -self._bubble.height() - 10)
        area = self.parentWidget()
        room = (area.width() if area else 0) - self._bubble.width() - 4
        self._bubble.move(max(4, min(beside.x(), room)), max(4, beside.y()))
        self._bubble.show()
        self._bubble.raise_()

    def enterEvent(self, event: object) -> None:
        """Say that the hand is near."""
        self.hovered.emit(True)
        self.update()

    def leaveEvent(self, event: object) -> None:
        """Say that the hand is gone."""
        self.hovered.emit(False)
        self.update()

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Show the focus."""
        self.hovered.emit(True)
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Hide the focus."""
        self.hovered.emit(False)
        super().focusOutEvent(event)
        self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the mark: quiet at rest, ringed when near or focused."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        inks = theme()
        strong = self.hasFocus() or self.underMouse() or self.dragging
        middle = QPointF(self.width() / 2, self.height() / 2)
        if self._shape == "area":
            if self.hasFocus():
                painter.setPen(QPen(QColor(inks.accent), 1.5, Qt.PenStyle.DashLine))
                painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 4, 4)
            return
        if self._shape in ("turn", "flip"):
            painter.setBrush(QColor(inks.mat))
            painter.setPen(QPen(QColor(inks.accent if strong else inks.ink_2), 1.6 if strong else 1))
            painter.drawEllipse(middle, 11, 11)
            draw_icon(painter, self._shape, QRectF(middle.x() - 8, middle.y() - 8, 16, 16), inks.accent)
            return
        painter.setPen(QPen(QColor(inks.mat), 3))
        self._draw_mark(painter, middle, strong)
        painter.setPen(QPen(QColor(inks.accent), 2 if strong else 1.4))
        self._draw_mark(painter, middle, strong)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(inks.accent), 1.5))
            painter.drawEllipse(middle, 10.5, 10.5)

    def _draw_mark(self, painter: QPainter, middle: QPointF, strong: bool) -> None:  # noqa: FBT001
        painter.setBrush(QColor(theme().accent if strong else theme().mat))
        size = 5.0 if strong else 4.0
        if self._shape == "square":
            painter.drawRect(QRectF(middle.x() - size, middle.y() - size, 2 * size, 2 * size))
        elif self._shape == "bar":
            painter.drawRoundedRect(QRectF(middle.x() - 3, middle.y() - 8, 6, 16), 3, 3)
        elif self._shape == "diamond":
            reach = 1.4 * size
            ends = ((0, -reach), (reach, 0), (0, reach), (-reach, 0))
            painter.drawPolygon([middle + QPointF(x, y) for x, y in ends])
        else:
            painter.drawEllipse(middle, size, size)
