"""A mat: a titled card with a surface to draw on, handles on it, and fields with numbers under the picture."""

from __future__ import annotations

from collections.abc import Callable
from types import MethodType
from weakref import WeakMethod

from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QSizePolicy, QVBoxLayout, QWidget

from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.folding import Fold
from pennello.ui.widgets.handle import Handle
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.words import Words

Draw = Callable[[QPainter], object]


def _nobody() -> None:
    """Name nobody who draws."""


class Surface(QWidget):
    """Where a mat draws; neutral, since paint is judged against it.

    Signals
    -------
    resized
        Its size is another one.
    pointed(QPointF), left
        The pointer moves over it, if it tracks the mouse, and leaves it.
    """

    resized = Signal()
    pointed = Signal(QPointF)
    left = Signal()

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(px(150))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # it fills itself: nothing below is drawn first
        self._draws: Callable[[], Draw | None] = _nobody

    @property
    def draw(self) -> Draw | None:
        """Who draws here. Whoever holds the surface is not held by it: both would stay until a collector comes by."""
        return self._draws()

    @draw.setter
    def draw(self, act: Draw) -> None:
        self._draws = WeakMethod(act) if isinstance(act, MethodType) else lambda: act

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the mat's picture."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setClipRect(event.rect())  # what draws can see by it what need not be drawn
        painter.fillRect(event.rect(), QColor(theme().mat))
        draw = self.draw
        if draw is not None:
            draw(painter)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Tell the mat."""
        super().resizeEvent(event)
        self.resized.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Tell the mat."""
        super().mouseMoveEvent(event)
        self.pointed.emit(event.position())

    def leaveEvent(self, event: QEvent) -> None:
        """Tell the mat."""
        super().leaveEvent(event)
        self.left.emit()

    def changeEvent(self, event: QEvent) -> None:
        """Draw again when the theme is another one; no look at the kind, whose first look costs 30 ms at the start."""
        super().changeEvent(event)
        self.update()


class Mat(QFrame):
    """A card with a title, a surface and fields beneath."""

    def __init__(self, title: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("mat")
        self.setAccessibleName(title)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(10, 6, 10, 8)
        outer.setSpacing(4)
        self.head = head = QHBoxLayout()
        self.title = Label(title)
        self.title.setObjectName("station")
        self.note = Words(1, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head.addWidget(self.title)
        head.addWidget(self.note, 1)
        outer.addLayout(head)
        self.surface = Surface(self)
        outer.addWidget(self.surface, 1)
        self.fields = QGridLayout()
        self.fields.setHorizontalSpacing(8)
        self.fields.setVerticalSpacing(2)
        outer.addLayout(self.fields)
        self.labels: dict[QWidget, Label] = {}
        self.folded = QWidget()
        self.rest = QGridLayout(self.folded)
        self.rest.setContentsMargins(0, 0, 0, 0)
        self.rest.setHorizontalSpacing(8)
        self.rest.setVerticalSpacing(2)
        outer.addWidget(self.folded)
        self.folded.hide()
        self.handles: list[Handle] = []
        self.surface.draw = self.paint_surface
        self.surface.resized.connect(self.place)

    def add_field(
        self, row: int, column: int, words: str, field: QWidget, span: int = 1, *, rest: bool = False
    ) -> None:
        """Put a field with its word before it into the grid; a column stands for both.

        Parameters
        ----------
        rest
            Into the grid that can be folded away.
        """
        label = Label(words)
        label.setObjectName("note")
        label.setBuddy(field)
        self.labels[field] = label
        grid = self.rest if rest else self.fields
        grid.addWidget(label, row, 2 * column)
        grid.addWidget(field, row, 2 * column + 1, 1, 2 * span - 1)
        grid.setColumnStretch(2 * column + 1, 1)

    def fold(self, name: str) -> Fold:
        """Fold the rest away, as it was left; return the button that opens it."""
        return Fold(name, self.folded)

    @property
    def dragging(self) -> bool:
        """Whether a hand holds one of the handles."""
        return any(handle.dragging for handle in self.handles)

    @property
    def area(self) -> QRectF:
        """The surface's rectangle, px."""
        return QRectF(self.surface.rect())

    def paint_surface(self, painter: QPainter) -> None:
        """Draw the picture; mats do."""

    def place(self) -> None:
        """Lay the handles where they belong; mats do."""

    def refresh(self) -> None:
        """Follow the model: lay the handles, draw again."""
        self.place()
        for handle in self.handles:
            handle.refresh()
        self.surface.update()


def centred(rect: QRectF, width: float, height: float) -> QRectF:
    """Return a rectangle of this size in the middle of another."""
    middle = rect.center()
    return QRectF(middle.x() - width / 2, middle.y() - height / 2, width, height)
