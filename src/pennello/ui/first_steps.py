"""The first start: a choice of three pictures, and a tour. Found again in the plan's menu."""

from __future__ import annotations

from importlib.resources import files

from PySide6.QtCore import QEvent, QRect, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QEnterEvent, QImage, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import Label

_WIDE, _PICTURE_HIGH, _MARGIN = 272, 150, 8
WAYS = (
    ("show_designs", phrase("Try a design"), phrase("Twelve whole works to open, look at and change."), "designs.png"),
    (
        "show_guide",
        phrase("Enter my kit"),
        phrase("Your cakes first, by colour or photo; then your brushes."),
        "tray-cakes.png",
    ),
    ("first_petal", phrase("Make my first petal"), phrase("A cake, a brush on it, and what they lay."), "bench.png"),
)
"""What each does, its title, its words, and its picture."""


class WayCard(QAbstractButton):
    """A picture with a title and a sentence; all of it can be pressed."""

    def __init__(self, title: str, words: str, picture: str) -> None:
        super().__init__()
        self.setText(title)
        self.words = words
        file = files("pennello.ui") / "help_pages" / picture
        self._image = QImage.fromData(file.read_bytes() if file.is_file() else b"")
        self.setFixedWidth(_WIDE + (px(_WIDE) - _WIDE) // 4)  # three stand side by side on any screen
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(title)
        self.setAccessibleDescription(words)

    def sizeHint(self) -> QSize:
        """Return the room of the picture, the title and all that it says."""
        room = QRect(0, 0, self.width() - 2 * _MARGIN - 2, 10_000)
        words = self.fontMetrics().boundingRect(room, Qt.TextFlag.TextWordWrap, self.words)
        return QSize(self.width(), _PICTURE_HIGH + px(20) + words.height() + 4 * _MARGIN)

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the picture, and what it is below it."""
        inks = theme()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        body = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        near = self.hasFocus() or self.underMouse()
        painter.setBrush(QColor(inks.mat))
        painter.setPen(QPen(QColor(inks.accent if near else inks.line), 2 if near else 1))
        painter.drawRoundedRect(body, 6, 6)
        room = body.adjusted(_MARGIN, _MARGIN, -_MARGIN, 0)
        room.setHeight(_PICTURE_HIGH)
        if not self._image.isNull():
            scale = max(room.width() / self._image.width(), room.height() / self._image.height())
            wide, high = room.width() / scale, room.height() / scale
            painter.drawImage(room, self._image, QRectF((self._image.width() - wide) / 2, 0, wide, high))
        painter.setPen(QColor(inks.ink))
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        painter.drawText(QRectF(room.left(), room.bottom() + _MARGIN, room.width(), px(20)), self.text())
        font.setBold(False)
        painter.setFont(font)
        top = room.bottom() + _MARGIN + px(20)
        below = QRectF(room.left(), top, room.width(), self.height() - top)
        painter.drawText(below, Qt.TextFlag.TextWordWrap, self.words)

    def enterEvent(self, event: QEnterEvent) -> None:
        """Be ringed."""
        super().enterEvent(event)
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        """Be quiet again."""
        super().leaveEvent(event)
        self.update()


class FirstSteps(QDialog):
    """Three pictures and the tour.

    Signals
    -------
    chosen(str)
        What is wanted: the name of an action.
    """

    chosen = Signal(str)

    def __init__(self, parent: QWidget, tour_at: int = 0) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("First steps"))
        hello = Label(phrase("What would you like to begin with?"))
        hello.setObjectName("headline")
        row = QHBoxLayout()
        row.setSpacing(12)
        self.cards: dict[str, WayCard] = {}
        for name, title, words, picture in WAYS:
            card = WayCard(title, words, picture)
            card.clicked.connect(lambda _=False, of=name: self._choose(of))
            self.cards[name] = card
            row.addWidget(card)
        tallest = max(card.sizeHint().height() for card in self.cards.values())
        for card in self.cards.values():
            card.setFixedHeight(tallest)
        self.tour = QPushButton(phrase("Go on with the tour") if tour_at else phrase("A tour of eight small steps"))
        self.tour.setProperty("main", True)
        self.tour.clicked.connect(lambda: self._choose("show_tour"))
        leave = QPushButton(phrase("Not now"))
        leave.setProperty("chip", True)
        leave.clicked.connect(self.reject)
        told = Label(phrase("All of this is in the Plan menu again, under First steps."))
        told.setObjectName("note")
        foot = QHBoxLayout()
        foot.addWidget(told, 1)
        foot.addWidget(leave)
        foot.addWidget(self.tour)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 14)
        column.setSpacing(12)
        column.addWidget(hello)
        column.addLayout(row)
        column.addLayout(foot)
        self.cards[WAYS[0][0]].setFocus()

    def _choose(self, name: str) -> None:
        self.accept()
        self.chosen.emit(name)
