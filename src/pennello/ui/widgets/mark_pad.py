"""A photo on which marks are set by hand."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import centred
from pennello.ui.widgets.paint import draw_note, to_image
from pennello.ui.widgets.painting import painted

_STEPS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1)}
_GRAIN = 400
"""Into so many steps of the arrow keys the width of a photo goes."""


class MarkPad(QWidget):
    """A photo with marks: press to set the current one, arrows move it.

    Parameters
    ----------
    picture
        sRGB bytes, shape (rows, columns, 3).
    names
        What the marks are called.
    starts
        Where they begin, shares of the photo's width and height.
    changed
        Is called when one has moved.
    nearest
        Whether a press takes the mark that is nearest instead of the current one.
    """

    def __init__(
        self,
        picture: NDArray[np.uint8],
        names: Sequence[str],
        starts: Sequence[tuple[float, float]],
        changed: Callable[[], None],
        *,
        nearest: bool = False,
    ) -> None:
        super().__init__()
        self._picture, self._changed, self._names, self._nearest = to_image(picture), changed, names, nearest
        width, height = self._picture.width(), self._picture.height()
        self.at = [(width * x, height * y) for x, y in starts]
        self.current = 0
        self.setMinimumSize(360, 300)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.CrossCursor)
        self.setAccessibleName(
            phrase("The photo: press where {names} lie; arrows move the chosen one", names=", ".join(names))
        )

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
        """Set the current mark, or take the nearest."""
        if self._nearest:
            box, at = self._box, event.position()
            scale = self._picture.width() / box.width()
            here = ((at.x() - box.left()) * scale, (at.y() - box.top()) * scale)
            self.current = min(range(len(self.at)), key=lambda number: math.dist(self.at[number], here))
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
        """Draw the photo and its marks."""
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
            wide = painter.fontMetrics().horizontalAdvance(self._names[number]) + 14
            left = min(max(at.x() - wide / 2, 2.0), self.width() - wide - 2.0)
            label = QRectF(left, min(at.y() + 14, self.height() - px(18) - 2.0), wide, px(18))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(theme().mat))
            painter.drawRoundedRect(label, 6, 6)
            draw_note(painter, label, self._names[number])
