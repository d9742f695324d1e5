"""The painting order as beads on a string: a list, so that a screen reader reads it as one."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, QSignalBlocker, QSize, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import QFrame, QListView, QListWidget, QStyledItemDelegate, QStyleOptionViewItem

from pennello.phrases import phrase
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.announcing import announce
from pennello.ui.widgets.paint import draw_note

_BEAD_PX, _STEP_PX, _HIGH_PX = 24, 30, 32


class _Bead(QStyledItemDelegate):
    """A bead with its number, and the string on both sides of it."""

    def __init__(self, beads: Beads) -> None:
        super().__init__(beads)
        self._beads = beads

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        """Return the room of one."""
        return QSize(px(_STEP_PX), px(_HIGH_PX) - 2)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        """Draw it; while one is dragged, as they would lie if it were let go."""
        inks, room = theme(), QRectF(option.rect)
        order, row = self._beads.shown_order, index.row()
        here = order[row] == self._beads.model_of.chosen_id
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(QColor(inks.line), 2))
        middle = room.center()
        left = middle.x() if row == 0 else room.left()
        right = middle.x() if row == len(order) - 1 else room.right()
        painter.drawLine(QPointF(left, middle.y()), QPointF(right, middle.y()))
        painter.setPen(QPen(QColor(inks.accent if here else inks.ink_2), 2 if here else 1))
        painter.setBrush(QColor(inks.mat))
        painter.drawEllipse(middle, px(_BEAD_PX) / 2 - 1, px(_BEAD_PX) / 2 - 1)
        draw_note(painter, room, str(self._beads.number_of(order[row])))
        if here and self._beads.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(inks.accent), 1.4, Qt.PenStyle.DashLine))
            painter.drawRoundedRect(room.adjusted(1, 1, -1, -1), 6, 6)
        painter.restore()


class Beads(QListWidget):
    """The painting order of a chart; a bead is dragged to another place.

    Signals
    -------
    chosen(str), moved(str, int)
        A motif, and its new number on this chart.
    """

    chosen = Signal(str)
    moved = Signal(str, int)

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self.model_of = model
        self._held = ""
        self._to = self._from = 0
        self.setFlow(QListView.Flow.LeftToRight)
        self.setItemDelegate(_Bead(self))
        self.setUniformItemSizes(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setStyleSheet("QListView { background: transparent; border: none; }")
        self.setFixedHeight(px(_HIGH_PX))
        self.setAccessibleName(phrase("Order of painting: arrows choose, Ctrl and arrows move"))
        self.setToolTip(phrase("The order of painting: drag a bead to another place"))
        self._drawn: object = None
        model.shown.connect(self._follow)

    # --- what is shown ---

    @property
    def _order(self) -> list[str]:
        return [one.id for one in self.model_of.motifs]

    @property
    def shown_order(self) -> list[str]:
        """The pieces from left to right, with the one that is dragged where it would come to lie."""
        order = self._order
        if self._held in order:
            order.remove(self._held)
            order.insert(self._to, self._held)
        return order

    def number_of(self, name: str) -> int:
        """Return a piece's number in the order as it is."""
        return self._order.index(name) + 1

    def place_of(self, number: int) -> QPointF:
        """Return where a bead lies in the list's window."""
        return QPointF(self.visualItemRect(self.item(number)).center())

    def _follow(self) -> None:
        """Show the beads anew where they are others: not for each step of a drag."""
        motifs, chosen = self.model_of.motifs, self.model_of.chosen_id
        beads = ([(one.id, one.name) for one in motifs], chosen)
        if beads == self._drawn:
            return
        self._drawn, self._held = beads, ""
        told = [
            phrase("{here} of {count}: {piece}", here=here, count=len(motifs), piece=one.name)
            for here, one in enumerate(motifs, 1)
        ]
        with QSignalBlocker(self):
            if told != [self.item(row).text() for row in range(self.count())]:
                self.clear()
                self.addItems(told)
            row = self._order.index(chosen) if chosen in self._order else -1
            self.setCurrentRow(row)
        words = told[row] if row >= 0 else ""
        self.setAccessibleDescription(words)
        if self.hasFocus():
            announce(self, words)
        self.viewport().update()

    # --- hand and keys ---

    def _at(self, x: float) -> int:
        first = self.place_of(0).x() if self.count() else 0.0
        return round((x - first) / px(_STEP_PX))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a bead."""
        number = self._at(event.position().x())
        if 0 <= number < self.count():
            name = self._order[number]
            self.chosen.emit(name)
            self._held, self._from, self._to = name, number, number

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move it along the string."""
        if self._held:
            self._to = min(max(self._at(event.position().x()), 0), self.count() - 1)
            self.viewport().update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go of it."""
        name, self._held = self._held, ""
        if name and self._to != self._from:
            self.moved.emit(name, self._to)
        self.viewport().update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose with arrows, move with Ctrl."""
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()), 0)
        order, chosen = self._order, self.model_of.chosen_id
        if not way or not order:
            super().keyPressEvent(event)
            return
        here = order.index(chosen) if chosen in order else -way
        to = min(max(here + way, 0), len(order) - 1)
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and chosen in order:
            self.moved.emit(chosen, to)
        else:
            self.chosen.emit(order[to])
