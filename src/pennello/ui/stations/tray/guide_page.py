"""Entering one's own kit, cakes first: colours are picked or read from a photo; then brushes by their size."""

from __future__ import annotations

from functools import partial
from itertools import pairwise
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import (
    QCheckBox,
    QColorDialog,
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from pennello.errors import PennelloError
from pennello.kit import catalogue
from pennello.kit.own_cake import SeenStripe
from pennello.kit.shelf import Kit, KitItem
from pennello.limits import MOST_NAME
from pennello.phrases import phrase, plural
from pennello.session.own_kit import cake_items, shipped_away
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.asking import ask_source
from pennello.ui.widgets.card_row import keep_cards
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit, length_text

WIDE = Quantity(phrase("From wall to wall"), 6, 120, 1, 0, length=True)
LEAST, MOST = 2, 7
_FIRST = ("#f6f5f0", "#d8435a")
_PHOTOS = "Photos (*.jpg *.jpeg *.png *.webp)"


class KitGuide(QDialog):
    """Two pages: cakes, brushes. What is kept is told at the end, as one step.

    Signals
    -------
    entered(object)
        Things for the kit, as a tuple.
    """

    entered = Signal(object)

    def __init__(self, kit: Kit, unit: LengthUnit, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Enter my kit"))
        self.resize(760, 540)
        self._kit, self._unit = kit, unit
        self.colours: list[str] = list(_FIRST)
        self.shares: list[float] = [0.5, 0.5]
        self.items: list[KitItem] = []
        self._cakes = 0
        self.pages = QStackedWidget()
        self.pages.addWidget(self._cake_page())
        self.pages.addWidget(self._brush_page())
        self.back, self.next = QPushButton(phrase("Back to the cakes")), QPushButton(phrase("Now the brushes"))
        leave = QPushButton(phrase("Not now"))
        for button in (leave, self.back):
            button.setProperty("chip", True)
        self.next.setProperty("main", True)
        leave.clicked.connect(self.reject)
        self.back.clicked.connect(lambda: self.turn(0))
        self.next.clicked.connect(self.go_on)
        foot = QHBoxLayout()
        foot.addStretch(1)
        for button in (leave, self.back, self.next):
            foot.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addWidget(self.pages, 1)
        column.addLayout(foot)
        self.turn(0)
        self._show()

    # --- cakes ---

    def _cake_page(self) -> QWidget:
        page = QWidget()
        told = Label(phrase("Cakes first: name one, say how wide it is, and pick its colours from left to right."))
        told.setWordWrap(True)
        self.name = QLineEdit()
        self.name.setMaxLength(MOST_NAME)
        self.name.setPlaceholderText(phrase("what you call this cake"))
        self.name.setAccessibleName(phrase("Name of the cake"))
        self.wide = NumberField(WIDE)
        self.wide.show_unit(self._unit)
        self.wide.show_amount(40.0)
        self.wide.edited.connect(lambda _: self._show())
        self.pan = Surface(self)
        self.pan.setFixedHeight(px(150))
        self.pan.setAccessibleName(phrase("The cake from above"))
        self.pan.draw = self._draw
        self.row = QHBoxLayout()
        self.buttons: list[QPushButton] = []
        deeds = self._cake_deeds()
        self.kept = QListWidget()
        self.kept.setAccessibleName(phrase("Cakes entered so far"))
        self.said = Label("")
        self.said.setWordWrap(True)
        head = QHBoxLayout()
        head.addWidget(self.name, 1)
        head.addWidget(self.wide)
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(told)
        column.addLayout(head)
        column.addWidget(self.pan)
        column.addLayout(self.row)
        column.addLayout(deeds)
        column.addWidget(self.said)
        column.addWidget(self.kept, 1)
        return page

    def _cake_deeds(self) -> QHBoxLayout:
        """Return what can be done with the cake that stands there."""
        self.more, self.fewer = QPushButton(phrase("Another stripe")), QPushButton(phrase("One stripe fewer"))
        self.photo, self.keep = QPushButton(phrase("From a photo ...")), QPushButton(phrase("Keep this cake"))
        self.keep.setProperty("main", True)
        for button, act in (
            (self.more, self.add_stripe),
            (self.fewer, self.drop_stripe),
            (self.photo, self.ask_photo),
            (self.keep, self.keep_cake),
        ):
            button.clicked.connect(act)
            if button is not self.keep:
                button.setProperty("chip", True)
        deeds = QHBoxLayout()
        for button in (self.more, self.fewer, self.photo):
            deeds.addWidget(button)
        deeds.addStretch(1)
        deeds.addWidget(self.keep)
        return deeds

    @property
    def stripes(self) -> tuple[SeenStripe, ...]:
        """The stripes as they stand."""
        wide = self.wide.amount
        return tuple(SeenStripe(one, wide * part) for one, part in zip(self.colours, self.shares, strict=True))

    def set_stripes(self, colours: list[str], shares: list[float] | None = None) -> None:
        """Take other stripes, all equally wide unless it is said."""
        self.colours = colours
        self.shares = shares or [1 / len(colours)] * len(colours)
        self._show()

    def add_stripe(self) -> None:
        """Put another stripe at the right; its colour is asked."""
        if len(self.colours) < MOST:
            self.set_stripes([*self.colours, "#c8c4bc"])
            self.pick(len(self.colours) - 1)

    def drop_stripe(self) -> None:
        """Take the last stripe away."""
        if len(self.colours) > LEAST:
            self.set_stripes(self.colours[:-1])

    def pick(self, at: int) -> None:
        """Ask for the colour of a stripe."""
        colour = QColorDialog.getColor(QColor(self.colours[at]), self, phrase("Stripe {at}", at=at + 1))
        if colour.isValid():
            self.colours[at] = colour.name()
            self._show()

    def ask_photo(self) -> None:
        """Ask for a photo of the cake and where its stripes lie in it."""
        path = ask_source(self, phrase("A photo of the cake, from above"), "photos", _PHOTOS)
        if path is not None:
            self.read_photo(path)

    def read_photo(self, path: Path) -> None:
        """Show the photo; a line across the stripes tells their colours and widths."""
        from pennello.files.swatch import read_picture  # noqa: PLC0415 - Pillow only for photos
        from pennello.ui.stations.bench.search.line_page import LinePage  # noqa: PLC0415

        try:
            page = LinePage(read_picture(path), self.wide.amount, self, of_cake=True)
        except PennelloError as error:
            self.said.setText(str(error))
            return
        page.accepted.connect(lambda: self._take_stops(page))
        self.line_page = page
        goes_when_closed(page)
        page.open()

    def _take_stops(self, page: object) -> None:
        stops = getattr(page, "stops", ())[:MOST]
        if len(stops) < LEAST:
            self.said.setText(
                phrase("The line crosses one colour only; draw it across all stripes, from wall to wall.")
            )
            return
        ends = [0.0, *(stop.to_u for stop in stops)]
        self.set_stripes([str(stop.srgb) for stop in stops], [end - start for start, end in pairwise(ends)])

    def keep_cake(self) -> None:
        """Keep the cake that stands there, and begin another one."""
        name = self.name.text().strip()
        if not name:
            self.said.setText(phrase("Give the cake a name first: what you would call it at the table."))
            self.name.setFocus()
            return
        try:
            items = cake_items(self._kit.with_items(self.items), name, self.stripes)
        except PennelloError as error:
            self.said.setText(str(error))
            return
        self.items += items
        self._cakes += 1
        self.kept.addItem(
            f"{name}: {plural(len(self.colours), '{count} stripe', '{count} stripes')}, {self._wide_words()}"
        )
        self.said.setText(phrase("{name} is kept. The next one, or the brushes?", name=name))
        self.name.clear()
        self.set_stripes(list(_FIRST))
        self._turned()

    def _wide_words(self) -> str:
        return length_text(self.wide.amount, self._unit)

    def _show(self) -> None:
        keep_cards(self.buttons, self.row, len(self.colours), self._swatch)
        for at, button in enumerate(self.buttons):
            button.setAccessibleName(phrase("Colour of stripe {at}: {colours}", at=at + 1, colours=self.colours[at]))
        self.more.setEnabled(len(self.colours) < MOST)
        self.fewer.setEnabled(len(self.colours) > LEAST)
        self.pan.update()

    def _swatch(self, at: int) -> QPushButton:
        button = QPushButton(phrase("Stripe {at} ...", at=at + 1))
        button.setProperty("chip", True)
        button.clicked.connect(partial(self.pick, at))
        return button

    def _draw(self, painter: QPainter) -> None:
        area = QRectF(self.pan.rect()).adjusted(0, 8, 0, -8)
        left = area.left()
        for colour, share in zip(self.colours, self.shares, strict=True):
            stripe = QRectF(left, area.top(), area.width() * share, area.height())
            painter.fillRect(stripe, QColor(colour))
            left = stripe.right()
        painter.setPen(QPen(QColor(theme().ink_2), 1.2))
        painter.drawRoundedRect(area, 6, 6)

    # --- brushes ---

    def _brush_page(self) -> QWidget:
        page = QWidget()
        told = Label(phrase("Brushes and sponges by their size: tick those that you have."))
        self.brushes = QListWidget()
        self.brushes.setAccessibleName(phrase("Brushes and sponges"))
        self.brushes.setIconSize(QSize(1, 1))
        for brush in catalogue.brushes().values():
            words = phrase(
                "{brush}, {width_mm} wide", brush=brush.name, width_mm=length_text(brush.width_mm, self._unit)
            )
            item = QListWidgetItem(words)
            item.setData(Qt.ItemDataRole.UserRole, brush.id)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Unchecked)
            self.brushes.addItem(item)
        self.away = QCheckBox(
            phrase("Put out of use what ships with Pennello: its cakes, and brushes that are not ticked")
        )
        self.away.setChecked(True)
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(told)
        column.addWidget(self.brushes, 1)
        column.addWidget(self.away)
        return page

    @property
    def ticked(self) -> tuple[str, ...]:
        """Ids of the brushes that are ticked."""
        every = (self.brushes.item(at) for at in range(self.brushes.count()))
        return tuple(one.data(Qt.ItemDataRole.UserRole) for one in every if one.checkState() is Qt.CheckState.Checked)

    # --- turning ---

    def turn(self, page: int) -> None:
        """Show the cakes or the brushes."""
        self.pages.setCurrentIndex(page)
        self._turned()

    def _turned(self) -> None:
        last = self.pages.currentIndex() == 1
        self.back.setVisible(last)
        self.next.setText(phrase("Into the kit") if last else phrase("Now the brushes"))

    def go_on(self) -> None:
        """Go to the brushes, or put all into the kit."""
        if self.pages.currentIndex() == 0:
            self.turn(1)
            return
        kit = self._kit.with_items(self.items)
        away = shipped_away(kit, self.ticked) if self.away.isChecked() else ()
        self.entered.emit((*self.items, *away))
        self.accept()
