"""What draws on the chart by hand: a mouse or a pen tablet goes through it while it is on."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPen, QTabletEvent

from pennello.chart.chart import Point
from pennello.kept import remembered
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.paint import draw_note, is_drawn, note_font

_CORNER = 96.0
_AT_THE_FOOT = int(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignBottom) | int(Qt.TextFlag.TextWordWrap)
_BY_KEY_MM, _FINE_MM = 2.0, 0.5
ARROWS = {
    Qt.Key.Key_Left: (-1, 0),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1),
    Qt.Key.Key_Down: (0, 1),
}


@dataclass(frozen=True, slots=True)
class HandTouch:
    """Where the hand is on the surface; a pen's pressure, 0 to 1, or None; how far it leans; whether Shift is held."""

    at: QPointF
    pressure: float | None = None
    lean_deg: float = 0.0
    upright: bool = False


def touch_of(event: QMouseEvent | QTabletEvent) -> HandTouch:
    """Return what a mouse or a pen says."""
    upright = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
    if isinstance(event, QTabletEvent):
        lean = math.hypot(event.xTilt(), event.yTilt())
        return HandTouch(event.position(), event.pressure() or None, lean, upright)
    return HandTouch(event.position(), upright=upright)


class Pen:
    """Draws while it is on; what it makes is an edit of the plan."""

    def __init__(self, model: ChartModel, view: Callable[[], ChartView]) -> None:
        self._model, self._view = model, view
        self.on = False
        self._key = ""

    def start(self) -> None:
        """Be on from now, on this chart, with nothing in the hand."""
        self._model.choose("")
        self.on, self._key = True, self._model.key

    @property
    def left(self) -> bool:
        """Whether it is on, but another chart or a motif was taken."""
        return self.on and (self._model.key != self._key or self._model.chosen is not None)

    def end(self) -> None:
        """Draw no more."""
        self.on = False

    def rest(self) -> None:
        """Lie there while another station is shown; what takes much memory is let go of."""

    def press(self, touch: HandTouch) -> None:
        """Set down."""

    def move(self, touch: HandTouch) -> None:
        """Go on."""

    def release(self) -> None:
        """Lift."""

    def key(self, event: QKeyEvent) -> bool:
        """Take a key; return whether it was one of the pen's own."""
        return False

    def led(self, event: QKeyEvent, at: Point) -> Point | None:
        """Return where an arrow leads from a place, mm; None for any other key."""
        right, down = ARROWS.get(Qt.Key(event.key()), (0, 0))
        if not (right or down):
            return None
        step = _FINE_MM if event.modifiers() & Qt.KeyboardModifier.ControlModifier else _BY_KEY_MM
        return at[0] + (-right if self._view().mirror else right) * step, at[1] + down * step

    def told(self, words: str) -> str:
        """Return words about the pen, with the part that it draws before them."""
        part = self._model.plan.parts_by_id.get(self._model.part)
        return f"{part.name}  ·  {words}" if part is not None else words

    def draw_tip(self, painter: QPainter, at: Point) -> None:
        """Draw where the hand is that is led by keys."""
        here = QPointF(self._view().to_px(*at))
        painter.setPen(QPen(QColor(theme().accent), 1.4))
        for way in (QPointF(7, 0), QPointF(0, 7)):
            painter.drawLine(here - way, here + way)

    def reach(self) -> QRectF | None:
        """Return where on the surface what is in the hand may be seen now; None for anywhere."""
        return None

    def wheel(self, steps: float) -> bool:
        """Take a turn of the wheel; return whether it was wanted."""
        return False

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """Draw what is in the hand, and how it ends."""


def draw_hint(painter: QPainter, area: QRectF, words: str) -> None:
    """Write words at the foot of the board, between the notes of the corners; nothing of the head is hidden."""
    corner = px(_CORNER)
    room = area.adjusted(corner, 0, -corner, -4)
    hint = _hint_rect(words, (room.x(), room.y(), room.width(), room.height()), note_font(painter).toString())
    if not is_drawn(painter, hint.adjusted(-6, -1, 6, 1)):
        return
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme().mat))
    painter.drawRoundedRect(hint.adjusted(-6, -1, 6, 1), 6, 6)
    draw_note(painter, hint, words, _AT_THE_FOOT)


@remembered(16)
def _hint_rect(words: str, area: tuple[float, float, float, float], font: str) -> QRectF:
    """Return where words lie: kept, since each step of a hand asks whether that is drawn anew."""
    written = QFont()
    written.fromString(font)
    return QFontMetricsF(written).boundingRect(QRectF(*area), _AT_THE_FOOT, words)
