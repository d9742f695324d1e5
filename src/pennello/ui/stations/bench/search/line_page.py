"""A wish from a photo: a line across a petal, from A to B, and the colours that it crosses."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QDialog, QVBoxLayout, QWidget

from pennello.aim.profile import stops_of
from pennello.aim.wish import Stop, Wanted, wanted_lab
from pennello.colour.skin import skin_reflectance
from pennello.errors import PennelloError
from pennello.files.picture import lab_bytes
from pennello.files.profile import line_colours
from pennello.phrases import phrase, plural
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.handle import Handle
from pennello.ui.widgets.held import Held, Loose
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.paint import Picture, draw_note, strip_image, to_image
from pennello.ui.widgets.plain import Label

_FOOT = 78
_RIM_TO_HEEL = phrase("Drag A to the petal's rim and B to its heel, across it as the brush lies:")
_WALLS = phrase("Drag A to the left wall and B to the right one, across all stripes:")


class LinePage(QDialog):
    """The photo with both ends of the line to drag, and below it what is read off."""

    def __init__(self, picture: Picture, edge_mm: float, parent: QWidget, *, of_cake: bool = False) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("A cake from a picture") if of_cake else phrase("A wish from a picture"))
        self._read_as = phrase("the cake") if of_cake else phrase("the wish")
        self._picture, self._edge_mm = picture, edge_mm
        self._image = to_image(picture)
        self.stops: tuple[Stop, ...] = ()
        self._read: Picture | None = None
        rows, columns = picture.shape[:2]
        self.ends = [(columns * 0.3, rows * 0.5), (columns * 0.7, rows * 0.5)]
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addWidget(Label(_WALLS if of_cake else _RIM_TO_HEEL))
        self.surface = Surface(self)
        self.surface.setMinimumSize(620, 460)
        self.surface.setAccessibleName(phrase("The photo with a line from A to B"))
        self.surface.draw = self._draw
        self.surface.resized.connect(self._place)
        column.addWidget(self.surface, 1)
        self.words = Label("")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.foot = LeaveOrTake(self, phrase("Take these stripes") if of_cake else phrase("Wish for these"))
        column.addLayout(self.foot)
        self.grips = [self._grip(number, name) for number, name in enumerate("AB")]
        self.work_out()

    def _grip(self, number: int, name: str) -> Handle:
        hand = Loose(lambda: self.ends[number], lambda at: self.move_end(number, *at))

        def led(start: tuple[float, float], way: QPointF) -> tuple[float, float]:
            scale, _ = self._view()
            return start[0] + way.x() / scale, start[1] + way.y() / scale

        def stepped(start: tuple[float, float], x: int, y: int, factor: float) -> tuple[float, float]:
            step = factor * max(1.0, self._picture.shape[1] / 200)
            return start[0] + x * step, start[1] + y * step

        held: Held[tuple[float, float], tuple[float, float]] = Held(
            name=phrase("End {name} of the line", name=name),
            label=phrase("Line"),
            now=lambda: hand.kept,
            put=lambda at: at,
            say=lambda: "{:.0f}, {:.0f} px".format(*self.ends[number]),
            drag=led,
            step=stepped,
        )
        return Handle(self.surface, "dot", held.work(hand), Qt.CursorShape.CrossCursor)

    def move_end(self, number: int, x: float, y: float) -> None:
        """Move an end of the line to a pixel of the picture."""
        rows, columns = self._picture.shape[:2]
        self.ends[number] = (min(max(x, 0.0), columns - 1.0), min(max(y, 0.0), rows - 1.0))
        self._place()
        self.work_out()

    def work_out(self) -> None:
        """Read the colours along the line anew."""
        try:
            self.stops = stops_of(line_colours(self._picture, self.ends[0], self.ends[1]), self._edge_mm)
        except PennelloError as error:
            self.stops, self._read = (), None
            self.words.setText(str(error))
        else:
            lab = wanted_lab(Wanted(self.stops), 128, self._edge_mm, {}, skin_reflectance(40))
            self._read = lab_bytes(lab)
            count = "1 colour" if len(self.stops) == 1 else plural(len(self.stops), "{count} colour", "{count} colours")
            self.words.setText(phrase("{count}. A photo is off by some 3 to 6 dE; its lamp is in it.", count=count))
        self.foot.take.setEnabled(bool(self.stops))
        self.surface.update()

    def _view(self) -> tuple[float, QPointF]:
        room = QRectF(self.surface.rect()).adjusted(0, 0, 0, -_FOOT)
        scale = min(room.width() / self._image.width(), room.height() / self._image.height())
        wide, high = self._image.width() * scale, self._image.height() * scale
        return scale, QPointF((room.width() - wide) / 2, (room.height() - high) / 2)

    def _at(self, number: int) -> QPointF:
        scale, corner = self._view()
        x, y = self.ends[number]
        return corner + QPointF((x + 0.5) * scale, (y + 0.5) * scale)

    def _place(self) -> None:
        for number, grip in enumerate(getattr(self, "grips", [])):
            grip.put(self._at(number))
            grip.refresh()

    def _draw(self, painter: QPainter) -> None:
        scale, corner = self._view()
        size = QPointF(self._image.width() * scale, self._image.height() * scale)
        painter.drawImage(QRectF(corner, corner + size), self._image)
        start, end = self._at(0), self._at(1)
        for weight, colour in ((4.0, "#ffffff"), (1.6, theme().accent)):
            painter.setPen(QPen(QColor(colour), weight))
            painter.drawLine(start, end)
        for at, name in ((start, "A"), (end, "B")):
            label = QRectF(at.x() - px(8), at.y() - 14 - px(16), px(16), px(16))
            painter.fillRect(label, QColor(theme().mat))
            draw_note(painter, label, name)
        area = QRectF(self.surface.rect())
        top = area.bottom() - _FOOT + 10
        rows = [(phrase("along the line"), self._crossed()), (self._read_as, self._read)]
        for number, (words, colours) in enumerate(rows):
            align = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            draw_note(painter, QRectF(0, top + number * 32, px(84), 28), words, align)
            if colours is not None:
                strip = QRectF(px(84) + 8, top + number * 32, area.width() - px(84) - 16, 28)
                painter.drawImage(strip, strip_image(colours))

    def _crossed(self) -> Picture | None:
        try:
            return lab_bytes(line_colours(self._picture, self.ends[0], self.ends[1]))
        except PennelloError:
            return None
