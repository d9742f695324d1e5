"""A photo of the painter's own for a chart: two landmarks are set on it, and how far these are apart."""

from __future__ import annotations

import math
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QButtonGroup, QComboBox, QDialog, QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from pennello.chart.chart import Chart
from pennello.design.photo import LEAST_APART_PX, Photo
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.mat import centred
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import draw_note, to_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit

APART = Quantity("How far the two are apart on the person", 5, 1000, 1, 0, length=True)
ORDINALS = ("first", "second")
_STEPS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
_GRAIN = 400
"""Into so many steps of the arrow keys the width of a photo goes."""

_PAIRS = (
    ("pupil, wearer's right", "pupil, wearer's left"),
    ("outer eye corner", "mouth corner"),
    ("elbow", "wrist"),
)
"""Landmarks that are easy to find on a photo, where a chart has them."""


class MarkPad(QWidget):
    """The photo with two marks: press to set the current one, arrows move it."""

    def __init__(self, picture: NDArray[np.uint8], changed: Callable[[], None]) -> None:
        super().__init__()
        self._picture, self._changed = to_image(picture), changed
        width, height = self._picture.width(), self._picture.height()
        self.at = [(width * 0.35, height * 0.45), (width * 0.65, height * 0.45)]
        self.current = 0
        self.setMinimumSize(360, 300)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setAccessibleName("The photo: press where the landmark lies, arrows move it")

    def sizeHint(self) -> QSize:
        """Return a comfortable size."""
        return QSize(720, 520)

    @property
    def _box(self) -> QRectF:
        scale = min(self.width() / self._picture.width(), self.height() / self._picture.height())
        return centred(QRectF(self.rect()), self._picture.width() * scale, self._picture.height() * scale)

    def set_mark(self, x_px: float, y_px: float) -> None:
        """Put the current mark somewhere, held within the photo."""
        x = min(max(x_px, 0.0), float(self._picture.width()))
        y = min(max(y_px, 0.0), float(self._picture.height()))
        self.at[self.current] = (x, y)
        self._changed()
        self.update()

    def _lead(self, event: QMouseEvent) -> None:
        box, at = self._box, event.position()
        scale = self._picture.width() / box.width()
        self.set_mark((at.x() - box.left()) * scale, (at.y() - box.top()) * scale)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Set the current mark."""
        self._lead(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Lead it."""
        self._lead(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move the current mark by arrows, Shift finely."""
        step = _STEPS.get(Qt.Key(event.key()))
        if step is None:
            super().keyPressEvent(event)
            return
        size = self._picture.width() / _GRAIN * (0.2 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0)
        x, y = self.at[self.current]
        self.set_mark(x + step[0] * size, y + step[1] * size)

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the photo and both marks."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), QColor(theme().mat))
        box = self._box
        painter.drawImage(box, self._picture)
        scale = box.width() / self._picture.width()
        for number, (x, y) in enumerate(self.at):
            at = QPointF(box.left() + x * scale, box.top() + y * scale)
            for weight, colour in ((4.0, "#ffffff"), (1.6, theme().accent)):
                painter.setPen(QPen(QColor(colour), weight))
                painter.drawLine(at - QPointF(12, 0), at + QPointF(12, 0))
                painter.drawLine(at - QPointF(0, 12), at + QPointF(0, 12))
            if number == self.current:
                painter.drawEllipse(at, 9, 9)
            label = QRectF(at.x() - 24, at.y() + 14, 48, 18)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(theme().mat))
            painter.drawRoundedRect(label, 6, 6)
            draw_note(painter, label, ORDINALS[number])


class PhotoPage(QDialog):
    """Two landmarks and a width; what is accepted is in `photo` and `width_mm`."""

    def __init__(
        self, path: Path, picture: NDArray[np.uint8], chart: Chart, unit: LengthUnit, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(f"A photo for: {chart.name}")
        self._path, self._chart = path, chart
        self.pad = MarkPad(picture, self.refresh)
        self.names: list[QComboBox] = []
        self.which = QButtonGroup(self)
        head = QHBoxLayout()
        for number, name in enumerate(_usual(chart)):
            button = QToolButton()
            button.setText(ORDINALS[number])
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setChecked(number == 0)
            button.clicked.connect(lambda _=False, at=number: self._turn_to(at))
            self.which.addButton(button, number)
            box = QComboBox()
            box.setAccessibleName(f"Which landmark is the {button.text()}")
            box.addItems([landmark for landmark, _ in chart.landmarks])
            box.setCurrentText(name)
            box.activated.connect(lambda _: self._named())
            head.addWidget(button)
            head.addWidget(box, 1)
            self.names.append(box)
        self.apart = NumberField(APART)
        self.apart.show_unit(unit)
        self.apart.edited.connect(self._typed)
        head.addWidget(Label("apart"))
        head.addWidget(self.apart)
        self.width_mm = 0.0
        self.words = Label("")
        self.words.setWordWrap(True)
        caution = Label("Ask before you take a photo of anybody. It stays in its file; the plan keeps its name alone.")
        caution.setObjectName("note")
        foot = LeaveOrTake(self, "Paint over it")
        self.take = foot.take
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addLayout(head)
        column.addWidget(self.pad, 1)
        column.addWidget(self.words)
        column.addWidget(caution)
        column.addLayout(foot)
        self._named()

    @property
    def photo(self) -> Photo:
        """The photo as its marks lie now."""
        one, other = (box.currentText() for box in self.names)
        places = [round(value, 1) for at in self.pad.at for value in at]
        return Photo(self._chart.key, str(self._path), one, other, *places)

    def _turn_to(self, number: int) -> None:
        self.pad.current = number
        self.pad.setFocus()
        self.pad.update()

    def _typed(self, value: float) -> None:
        self.width_mm = value
        self.refresh()

    def _named(self) -> None:
        """Other landmarks are named: they are as far apart as on the chart until something else is typed."""
        one, other = (self._chart.landmark(box.currentText()) for box in self.names)
        self.width_mm = math.dist(one, other)
        self.apart.show_amount(self.width_mm)
        self.refresh()

    def refresh(self) -> None:
        """Say what comes of it, or what is missing."""
        apart = math.dist(*self.pad.at)
        same = self.names[0].currentText() == self.names[1].currentText()
        self.take.setEnabled(not same and apart >= LEAST_APART_PX and self.width_mm > 0)
        if same:
            self.words.setText("Choose two different landmarks.")
        elif apart < LEAST_APART_PX:
            self.words.setText("Set the two landmarks apart.")
        else:
            self.words.setText(f"{apart / max(self.width_mm, 1e-9):.1f} px of the photo are 1 mm of the person.")


def _usual(chart: Chart) -> tuple[str, str]:
    names = [name for name, _ in chart.landmarks]
    return next((pair for pair in _PAIRS if set(pair) <= set(names)), (names[0], names[-1]))
