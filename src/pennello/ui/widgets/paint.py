"""Drawing that several mats share: rulers, strips of paint, marks of a verdict."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QImage, QPainter, QPainterPath, QPen

from pennello.ui.theme.text import NOTE_PT, px, type_px
from pennello.ui.theme.tokens import theme
from pennello.units import MM_PER_INCH, LengthUnit

Picture = NDArray[np.uint8]


def to_image(picture: Picture) -> QImage:
    """Return sRGB bytes, shape (rows, columns, 3), or with how much is covered, 4, as an image that owns its memory.

    The one place where an image is made of an array's memory: it is copied while the array is still held.
    """
    rows, columns, channels = picture.shape
    data = np.ascontiguousarray(picture, np.uint8)
    clear = channels == 4
    given = QImage.Format.Format_RGBA8888 if clear else QImage.Format.Format_RGB888
    shown = QImage.Format.Format_ARGB32_Premultiplied if clear else QImage.Format.Format_RGB32
    image = QImage(data.data, columns, rows, channels * columns, given).copy()
    return image.convertToFormat(shown)  # what the screen takes as it is


def strip_image(colours: Picture) -> QImage:
    """Return colours, shape (n, 3), as an image one pixel high."""
    return to_image(colours[None])


def note_font(painter: QPainter) -> QFont:
    """Return the font of notes."""
    font = QFont(painter.font())
    font.setPixelSize(type_px(NOTE_PT))
    return font


def draw_ruler(painter: QPainter, left: QPointF, length_mm: float, scale: float, unit: LengthUnit) -> None:
    """Draw a ruler downwards from a line: mm with numbers every 10, or sixteenths of an inch with numbers every half.

    Parameters
    ----------
    left
        Where 0 lies, px.
    scale
        Pixels per mm.
    """
    inks = theme()
    painter.setFont(note_font(painter))
    base, long_every, mid_every = (1.0, 10, 5) if unit is LengthUnit.MM else (MM_PER_INCH / 16, 8, 4)
    every = max(1, math.ceil(3 / (base * scale)))
    every = next(step for step in (1, 2, 5, 10, 20, 50, 100) if step >= every or step == 100)
    marks = []
    painter.setPen(QPen(QColor(inks.ink_2), 1))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    for index in range(0, math.floor(length_mm / base + 1e-6) + 1, every):
        x = left.x() + index * base * scale
        tall = 9 if index % long_every == 0 else 6 if index % mid_every == 0 else 3.5
        marks.append(QLineF(x, left.y(), x, left.y() + tall))
        if index % long_every == 0:
            words = f"{index * base:.0f}" if unit is LengthUnit.MM else f"{index / 16:g}"
            painter.drawText(QRectF(x - px(20), left.y() + 9, px(40), px(15)), Qt.AlignmentFlag.AlignCenter, words)
    painter.drawLines(marks)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    words_at = QRectF(left.x() + length_mm * scale + 4, left.y() - 1, px(24), px(15))
    painter.drawText(words_at, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, unit.value)


def draw_state(painter: QPainter, word: str, centre: QPointF, radius: float) -> None:
    """Draw the mark of a verdict: a filled disc holds, a half disc is close, an open ring misses."""
    colour = QColor(theme().state(word))
    painter.setPen(QPen(colour, 2))
    painter.setBrush(colour if word == "holds" else Qt.BrushStyle.NoBrush)
    painter.drawEllipse(centre, radius, radius)
    if word == "close":
        half = QPainterPath(centre)
        around = QRectF(centre.x() - radius, centre.y() - radius, 2 * radius, 2 * radius)
        half.arcTo(around, 90, 180)
        painter.fillPath(half, colour)


def is_drawn(painter: QPainter, rect: QRectF) -> bool:
    """Return whether anything of a rectangle lies where is drawn now."""
    return not painter.hasClipping() or painter.clipBoundingRect().intersects(rect)


def draw_note(painter: QPainter, rect: QRectF, words: str, align: Any = Qt.AlignmentFlag.AlignCenter) -> None:
    """Write a note in quiet ink."""
    painter.setFont(note_font(painter))
    painter.setPen(QColor(theme().ink_2))
    painter.drawText(rect, align, words)
