"""The wish: what the stroke should look like, colour by colour, for its start and, where it changes, its end."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QSignalBlocker, QSize, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QColorDialog,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.aim.wish import Stop, Wanted
from pennello.design.edits import with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.design.wish_edits import (
    RIM_MM,
    usual_wish,
    wish_of,
    with_rim_at_least,
    with_stop_added,
    with_stop_coloured,
    without_stop,
)
from pennello.design.wishing import turned_round, with_load_wished, with_wish_blend, with_wish_boundary
from pennello.errors import PennelloError
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.hand_page import PICTURES
from pennello.ui.stations.bench.readout_page import ReadoutPage
from pennello.ui.theme.icons import set_glyph
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.asking import ask_source
from pennello.ui.widgets.card_row import keep_cards
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.menus import passing_menu
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.passing import taken
from pennello.ui.widgets.plain import Label, menu_words
from pennello.units import LengthUnit

ENDS = Quantity(phrase("Where this colour ends, from A"), 0, 120, 0.5, 1, length=True)
BLEND = Quantity(phrase("How softly it hands over"), 0, 60, 0.5, 1, length=True)
RIM = Quantity(phrase("A light rim at least so wide"), 0.5, 60, 0.5, 1, length=True)
TOLERANCE = Quantity(phrase("Mean dE up to which it holds"), 0.1, 50, 0.5, 1, phrase(" dE"))
CARD_PX = QSize(150, 118)
_COLOUR = phrase("a colour ...")


class SwatchButton(QWidget):
    """A patch of colour."""

    def __init__(self) -> None:
        super().__init__()
        self.colour = "#888888"
        self.setFixedHeight(px(24))

    def show_colour(self, colour: str) -> None:
        """Show another colour."""
        if colour != self.colour:
            self.colour = colour
            self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw it."""
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.setBrush(QColor(self.colour))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


class StopCard(QFrame):
    """One wanted colour.

    Signals
    -------
    coloured(object), ended(float), blended(float), added, removed
    """

    coloured = Signal(object)
    ended = Signal(float)
    blended = Signal(float)
    added = Signal()
    removed = Signal()

    def __init__(self, number: int) -> None:
        super().__init__()
        self.setFixedWidth(px(CARD_PX.width()))
        self.setAccessibleName(phrase("Wanted colour {number}", number=number + 1))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        self.swatch = SwatchButton()
        self.paint: QComboBox = choice(phrase("Wanted colour {number}", number=number + 1))
        self.paint.activated.connect(lambda at: self.coloured.emit(self.paint.itemData(at)))
        self.end, self.blend = NumberField(ENDS), NumberField(BLEND)
        self.end.edited.connect(self.ended)
        self.blend.edited.connect(self.blended)
        column.addWidget(self.swatch)
        column.addWidget(self.paint)
        grid = QGridLayout()
        grid.setVerticalSpacing(0)
        self._last = [Label(phrase("to")), Label(phrase("soft"))]
        for row, (label, field) in enumerate(zip(self._last, (self.end, self.blend), strict=True)):
            label.setObjectName("note")
            label.setBuddy(field)
            grid.addWidget(label, row, 0)
            grid.addWidget(field, row, 1)
        for row, (glyph, words, signal) in enumerate(
            (
                ("plus", phrase("Another colour after this one"), self.added),
                ("away", phrase("Take this colour out"), self.removed),
            )
        ):
            button = QToolButton()
            set_glyph(button, glyph)
            button.setToolTip(words)
            button.setAccessibleName(phrase("{words}, colour {number}", words=words, number=number + 1))
            button.setFixedSize(px(26), px(26))
            button.setStyleSheet("padding: 2px;")
            button.clicked.connect(signal)
            grid.addWidget(button, row, 2)
        column.addLayout(grid)

    def show_stop(
        self, stop: Stop, items: list[tuple[str, object]], colour: str, edge_mm: float, unit: LengthUnit, *, last: bool
    ) -> None:
        """Show a stop; the last one ends at B."""
        own = [*items, (str(stop.srgb), stop.srgb)] if stop.srgb else list(items)
        fill(self.paint, [*own, (_COLOUR, None)], stop.paint or stop.srgb)
        self.swatch.show_colour(colour)
        for field, value in ((self.end, stop.to_u * edge_mm), (self.blend, stop.blend_mm)):
            field.show_unit(unit)
            field.show_amount(value)
            field.setVisible(not last)
        for label in self._last:
            label.setVisible(not last)


class WishPage(ReadoutPage):
    """Stops to change, and ways to come to others."""

    def __init__(self, model: BenchModel) -> None:
        super().__init__()
        self._model = model
        self.cards: list[StopCard] = []
        self.setObjectName("mat")
        self.setAccessibleName(phrase("What the stroke should look like"))
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 6, 12, 6)
        column.setSpacing(4)
        column.addLayout(self._head())
        inner = QWidget()
        self._row = QHBoxLayout(inner)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(14)
        self._row.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(inner)
        scroll.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column.addWidget(scroll, 1)

    def _head(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(4)
        title = Label(phrase("Wish"))
        title.setObjectName("station")
        head.addWidget(title)
        head.addWidget(self._segments())
        self.named: dict[str, QPushButton] = {}
        deeds: tuple[tuple[str, str, Callable[[], object]], ...] = (
            (
                phrase("Usual"),
                phrase("A light rim and a dark heel, of the paints of the stroke's cakes"),
                self._take_usual,
            ),
            (phrase("This load"), phrase("Just what this load lays"), self._take_load),
            (phrase("Like ..."), phrase("As another stroke, rim to rim"), self._offer_strokes),
            (phrase("Picture ..."), phrase("As a petal in a photo: draw a line across it"), self.ask_picture),
            (
                phrase("Turn round"),
                phrase("A and B exchanged"),
                lambda: self._set(phrase("Turn the wish round"), turned_round),
            ),
        )
        for words, hint, act in deeds:
            button = QPushButton(words)
            button.setProperty("chip", True)
            button.setToolTip(hint)
            button.clicked.connect(lambda _=False, do=act: do())
            head.addWidget(button)
            self.named[words] = button
        head.addStretch(1)
        self.rim, self.tolerance = NumberField(RIM), NumberField(TOLERANCE)
        self.rim.show_amount(RIM_MM)
        self.tolerance.edited.connect(
            lambda value: self._set(phrase("Tolerance"), lambda w: replace(w, tolerance_de00=value), "tolerance")
        )
        apply = QPushButton(phrase("Rim at least"))
        apply.setProperty("chip", True)
        apply.setToolTip(phrase("Give the rim's colour that much room, where it has less"))
        apply.clicked.connect(self._rule_rim)
        self.named[phrase("Rim at least")] = apply
        holds = Label(phrase("holds to"))
        holds.setObjectName("note")
        holds.setBuddy(self.tolerance)
        done = QPushButton(phrase("Done"))
        done.setProperty("main", True)
        done.setToolTip(phrase("Back to the read-out"))
        done.clicked.connect(self.left)
        for widget in (apply, self.rim, holds, self.tolerance, done):
            head.addWidget(widget)
        return head

    def _segments(self) -> QWidget:
        """Return the choice between the start's wish and the end's."""
        held = QWidget()
        row = QHBoxLayout(held)
        row.setContentsMargins(4, 0, 8, 0)
        row.setSpacing(0)
        self.which = OneOf(self)
        for number, (words, hint) in enumerate(
            (
                (phrase("start"), phrase("What the stroke should look like where it begins")),
                (phrase("end"), phrase("And where it ends, if otherwise")),
            )
        ):
            button = QPushButton()
            button.setText(words)
            button.setToolTip(hint)
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setChecked(number == 0)
            button.clicked.connect(lambda _=False: self.refresh())
            self.which.addButton(button, number)
            row.addWidget(button)
        self.same = QToolButton()
        self.same.setText(phrase("end as start"))
        self.same.setToolTip(phrase("The same all the way"))
        self.same.clicked.connect(lambda: self._set(phrase("The same all the way"), lambda w: replace(w, end=())))
        row.addWidget(self.same)
        return held

    # --- edits ---

    @property
    def _at_end(self) -> bool:
        return self.which.checkedId() == 1

    def _stops(self, wanted: Wanted) -> tuple[Stop, ...]:
        return (wanted.end or wanted.stops) if self._at_end else wanted.stops

    def _set(self, label: str, make: Callable[[Wanted], Wanted], merge: str = "") -> None:
        def change(plan: Plan, stroke: PlanStroke) -> Plan:
            return with_stroke(plan, replace(stroke, wanted=make(stroke.wanted)))

        self._model.edit(label, change, merge)

    def _set_stops(
        self, label: str, at: int, make: Callable[[tuple[Stop, ...]], tuple[Stop, ...]], merge: str = ""
    ) -> None:
        end = self._at_end

        def change(wanted: Wanted) -> Wanted:
            had = (wanted.end or wanted.stops) if end else wanted.stops
            if at >= len(had):
                return wanted  # the wish has become shorter since the card was shown
            stops = make(had)
            return replace(wanted, end=stops) if end else replace(wanted, stops=stops)

        self._set(label, change, merge)

    def _recolour(self, at: int, key: object) -> None:
        if at >= len(self.cards):
            return  # the wish has become shorter meanwhile
        if key is None:
            asked = QColorDialog.getColor(QColor(self.cards[at].swatch.colour), self, phrase("A wanted colour"))
            if not asked.isValid():
                self.refresh()
                return
            key = asked.name()
        name = str(key)
        paint, srgb = (None, name) if name.startswith("#") else (name, None)
        self._set_stops(phrase("Another wanted colour"), at, lambda stops: with_stop_coloured(stops, at, paint, srgb))

    def _move(self, at: int, end_mm: float) -> None:
        u = end_mm / self._model.edge_mm

        def make(stops: tuple[Stop, ...]) -> tuple[Stop, ...]:
            return with_wish_boundary(Wanted(stops), at, u).stops

        self._set_stops(phrase("Move a wanted boundary"), at, make, phrase("wish end {at}", at=at))

    def _soften(self, at: int, blend_mm: float) -> None:
        def make(stops: tuple[Stop, ...]) -> tuple[Stop, ...]:
            return with_wish_blend(Wanted(stops), at, blend_mm).stops

        self._set_stops(phrase("How softly it hands over"), at, make, phrase("wish blend {at}", at=at))

    def _add(self, at: int) -> None:
        def make(stops: tuple[Stop, ...]) -> tuple[Stop, ...]:
            used = {stop.paint for stop in stops}
            free = next((paint.id for paint in self._model.plan.paints if paint.id not in used), None)
            new = Stop(paint=free) if free else Stop(srgb="#c0a090")
            return with_stop_added(stops, at, new)

        self._set_stops(phrase("Another wanted colour"), at, make)

    def _take_usual(self) -> None:
        self._model.edit(
            phrase("The usual wish"),
            lambda plan, stroke: with_stroke(plan, replace(stroke, wanted=usual_wish(plan, stroke.id))),
        )

    def _take_load(self) -> None:
        self._model.edit(phrase("Wish for what this load lays"), lambda plan, stroke: with_load_wished(plan, stroke.id))

    def _offer_strokes(self) -> None:
        menu, here = passing_menu(self), self._model.stroke
        for other in self._model.plan.strokes:
            if here is not None and other.id != here.id:
                menu.addAction(menu_words(other.name)).triggered.connect(
                    lambda _=False, name=other.id: self.take_wish(name)
                )
        button = self.named[phrase("Like ...")]
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def take_wish(self, other: str) -> None:
        """Wish for what another stroke wishes for."""
        self._model.edit(
            phrase("The wish of another stroke"),
            lambda plan, stroke: with_stroke(plan, replace(stroke, wanted=wish_of(plan, stroke.id, other))),
        )

    def _rule_rim(self) -> None:
        least = self.rim.amount

        def change(plan: Plan, stroke: PlanStroke) -> Plan:
            ruled = with_rim_at_least(stroke.wanted, stroke.rim, self._model.edge_mm, least)
            return with_stroke(plan, replace(stroke, wanted=ruled))

        self._model.edit(phrase("A rim at least so wide"), change)

    def ask_picture(self) -> None:
        """Ask for a photo and let the painter draw a line across a petal of it."""
        path = ask_source(self, phrase("A photo of a petal"), "photos", PICTURES)
        if path is not None:
            self.open_picture(path)

    def open_picture(self, path: Path) -> None:
        """Let the painter draw a line across a petal of a photo."""
        from pennello.files.swatch import read_picture  # noqa: PLC0415 - Pillow only for photos
        from pennello.ui.stations.bench.search.line_page import LinePage  # noqa: PLC0415

        try:
            page = LinePage(read_picture(path), self._model.edge_mm, self)
        except PennelloError as error:
            self._model.failed.emit(str(error))
            return
        if taken(page) and page.stops:
            self.take_stops(page.stops)

    def take_stops(self, stops: tuple[Stop, ...]) -> None:
        """Wish for these colours."""
        self._set_stops(phrase("A wish from a picture"), 0, lambda _: stops)

    # --- following ---

    def refresh(self) -> None:
        """Show the wish of the stroke on the Bench."""
        stroke, plan = self._model.stroke, self._model.plan
        if stroke is None:
            return
        stops = self._stops(stroke.wanted)
        self._keep(len(stops))
        items: list[tuple[str, object]] = [(paint.name, paint.id) for paint in plan.paints]
        colours = {paint.id: paint.srgb for paint in plan.paints}
        for number, (card, stop) in enumerate(zip(self.cards, stops, strict=True)):
            colour = stop.srgb or colours[str(stop.paint)]
            last = number == len(stops) - 1
            card.show_stop(stop, items, colour, self._model.edge_mm, self._model.unit, last=last)
        self.rim.show_unit(self._model.unit)
        with QSignalBlocker(self.tolerance):
            self.tolerance.show_amount(stroke.wanted.tolerance_de00)
        self.same.setVisible(bool(stroke.wanted.end))

    def _keep(self, count: int) -> None:
        keep_cards(self.cards, self._row, count, self._card)

    def _card(self, at: int) -> StopCard:
        card = StopCard(at)
        card.coloured.connect(lambda key: self._recolour(at, key))
        card.ended.connect(lambda mm: self._move(at, mm))
        card.blended.connect(lambda mm: self._soften(at, mm))
        card.added.connect(lambda: self._add(at))
        card.removed.connect(
            lambda: self._set_stops(phrase("Take a wanted colour out"), at, lambda stops: without_stop(stops, at))
        )
        return card
