"""A paint's colour from a photograph or scan: the picture, the area of paint, the white reference."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPoint, QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.errors import PennelloError
from pennello.files.swatch import Area, Swatch, read_swatch
from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.paint import Picture, draw_note, to_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import Label
from pennello.units import de_text

_ARROWS = {
    Qt.Key.Key_Left: QPoint(-1, 0),
    Qt.Key.Key_Right: QPoint(1, 0),
    Qt.Key.Key_Up: QPoint(0, -1),
    Qt.Key.Key_Down: QPoint(0, 1),
}


class PhotoPad(QWidget):
    """The picture with two areas; draw the current one anew by dragging, move it by arrows, grow it with Shift."""

    def __init__(self, picture: Picture, changed: Callable[[], None]) -> None:
        super().__init__()
        self._picture = to_image(picture)
        self._changed = changed
        self.areas: dict[str, QRect | None] = {"paint": None, "white": None}
        self.current = "paint"
        self._from: QPoint | None = None
        self.setMinimumSize(480, 320)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(phrase("The picture: drag over the paint, then over a white"))
        width, height = self._picture.width(), self._picture.height()
        self.areas["paint"] = QRect(width * 2 // 5, height * 2 // 5, max(3, width // 5), max(3, height // 5))

    def sizeHint(self) -> QSize:
        """Return a comfortable size."""
        return QSize(620, 420)

    def _view(self) -> tuple[float, QPointF]:
        scale = min(self.width() / self._picture.width(), self.height() / self._picture.height())
        size = QPointF(self._picture.width() * scale, self._picture.height() * scale)
        return scale, QPointF((self.width() - size.x()) / 2, (self.height() - size.y()) / 2)

    def _pixel(self, at: QPointF) -> QPoint:
        scale, corner = self._view()
        x, y = ((at.x() - corner.x()) / scale, (at.y() - corner.y()) / scale)
        return QPoint(min(max(int(x), 0), self._picture.width() - 1), min(max(int(y), 0), self._picture.height() - 1))

    def set_area(self, name: str, rect: QRect) -> None:
        """Set an area, px of the picture, held within it."""
        self.areas[name] = rect.normalized().intersected(QRect(QPoint(0, 0), self._picture.size()))
        self._changed()
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Begin an area."""
        self._from = self._pixel(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Draw it out."""
        if self._from is not None:
            self.set_area(self.current, QRect(self._from, self._pixel(event.position())))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go."""
        self._from = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move the area by arrows, grow it with Shift."""
        key, area = Qt.Key(event.key()), self.areas[self.current]
        if key not in _ARROWS:
            super().keyPressEvent(event)
            return
        area = area or QRect(0, 0, 12, 12)
        step = _ARROWS[key] * max(1, self._picture.width() // 100)
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.set_area(self.current, QRect(area.topLeft(), area.bottomRight() + step))
        else:
            self.set_area(self.current, area.translated(step))

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw picture and areas."""
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), QColor(theme().mat))
        scale, corner = self._view()
        size = QPointF(self._picture.width() * scale, self._picture.height() * scale)
        painter.drawImage(QRectF(corner, corner + size), self._picture)
        for name, area in self.areas.items():
            if area is None:
                continue
            box = QRectF(area.x() * scale, area.y() * scale, area.width() * scale, area.height() * scale)
            box.translate(corner)
            for weight, colour in ((3.0, "#ffffff"), (1.4, "#1d1c1b")):
                style = Qt.PenStyle.SolidLine if name == "paint" else Qt.PenStyle.DashLine
                painter.setPen(QPen(QColor(colour), weight, style))
                painter.drawRect(box)
            label = QRectF(box.left(), box.top() - px(16) - 1, px(44), px(16))
            painter.fillRect(label, QColor(theme().mat))
            draw_note(painter, label, name)


class SwatchPage(QDialog):
    """Pick the paint and a white; take the colour."""

    def __init__(self, title: str, picture: Picture, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self._picture = picture
        self.found: Swatch | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        head = QHBoxLayout()
        head.addWidget(Label(phrase("Drag over")))
        self.which = OneOf(self)
        for words, name in ((phrase("the paint"), "paint"), (phrase("a white beside it"), "white")):
            button = QPushButton()
            button.setText(words)
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setChecked(name == "paint")
            button.clicked.connect(lambda _=False, of=name: self._turn_to(of))
            self.which.addButton(button)
            head.addWidget(button)
        head.addStretch(1)
        column.addLayout(head)
        self.pad = PhotoPad(picture, self.work_out)
        column.addWidget(self.pad, 1)
        self.words = Label("")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.foot = LeaveOrTake(self, phrase("Take this colour"))
        self.take = self.foot.take
        column.addLayout(self.foot)
        self.work_out()

    def _turn_to(self, name: str) -> None:
        self.pad.current = name
        self.pad.setFocus()

    def work_out(self) -> None:
        """Read the colour anew."""
        paint, white = (self._area(name) for name in ("paint", "white"))
        try:
            self.found = read_swatch(self._picture, paint, white) if paint else None
            words = phrase("Drag over the paint.")
            if self.found:
                words = phrase("{srgb}, even to {de}.", srgb=self.found.srgb, de=de_text(self.found.spread_de00))
                told = [words] if white else [words, phrase("Without a white the lamp's colour stays in it.")]
                words = " ".join([*told, phrase("A photo is off by some 3 to 6 dE.")])
        except PennelloError as error:
            self.found, words = None, str(error)
        self.words.setText(words)
        self.take.setEnabled(self.found is not None)
        if self.found:
            self.foot.show_colour(self.found.srgb)

    def _area(self, name: str) -> Area | None:
        rect = self.pad.areas[name]
        return Area(rect.x(), rect.y(), rect.width(), rect.height()) if rect else None
