"""A design on the menu of the Day as a card: its picture, whether it is on today, its minutes and loads."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Signal
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QCheckBox, QFrame, QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout

from pennello.day.event import MenuItem
from pennello.phrases import phrase, plural
from pennello.ui.theme.text import px
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.plain import Label
from pennello.units import clock

PICTURE = QSize(150, 104)


def card_high() -> int:
    """Return how high a card is with the bar below it, px."""
    return PICTURE.height() + px(66) + 24


class MenuCard(QFrame):
    """A design on the menu.

    Signals
    -------
    ticked(str, bool), dropped(str)
        It is on the menu today or not; it is taken off for good.
    """

    ticked = Signal(str, bool)
    dropped = Signal(str)

    def __init__(self, item: MenuItem) -> None:
        super().__init__()
        self.setObjectName("mat")
        self.item = item
        self._image: QImage | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(6, 6, 6, 6)
        column.setSpacing(2)
        self.surface = Surface(self)
        self.surface.setMinimumSize(PICTURE)
        self.surface.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.surface.draw = self._draw
        self.on = QCheckBox(item.title)
        self.on.setChecked(item.on)
        self.on.toggled.connect(lambda on: self.ticked.emit(item.id, on))
        told = Label(f"{_minutes(item)}\n{plural(len(item.loads), '{count} load', '{count} loads')}")
        told.setObjectName("note")
        off = QPushButton(phrase("Take off"))
        off.setProperty("chip", True)
        off.setAccessibleName(phrase("Take {item} off the menu", item=item.title))
        off.clicked.connect(lambda _=False: self.dropped.emit(item.id))
        row = QHBoxLayout()
        row.addWidget(told, 1)
        row.addWidget(off)
        column.addWidget(self.surface)
        column.addWidget(self.on)
        column.addLayout(row)

    def show_picture(self, image: QImage) -> None:
        """Show its picture."""
        self._image = image
        self.surface.update()

    def _draw(self, painter: QPainter) -> None:
        if self._image is not None:
            area = QRectF(self.surface.rect())
            scale = min(area.width() / self._image.width(), area.height() / self._image.height())
            painter.drawImage(centred(area, self._image.width() * scale, self._image.height() * scale), self._image)


def _minutes(item: MenuItem) -> str:
    whole = clock(item.whole_s)
    if not item.short_s:
        return phrase("{whole_s} min", whole_s=whole)
    return phrase("{whole_s} min, short {short_s}", whole_s=whole, short_s=clock(item.short_s))
