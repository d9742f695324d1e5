"""The chosen thing at large: its picture, its numbers, what is kept about it, what can be done with it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from functools import partial
from typing import Any

from PySide6.QtCore import QRectF, QSignalBlocker, Qt, Signal
from PySide6.QtGui import QColor, QPainter
from PySide6.QtWidgets import (
    QCheckBox,
    QColorDialog,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.kit.applicator import CALIBRATED, Applicator, ApplicatorKind
from pennello.kit.cake import Cake
from pennello.kit.paint import Finish, Paint
from pennello.kit.shelf import KitItem
from pennello.phrases import named, phrase
from pennello.record import range_of
from pennello.ui.stations.tray.model import TrayModel
from pennello.ui.stations.tray.pictures import draw_brush, draw_cake, draw_paint
from pennello.ui.theme.icons import set_glyph
from pennello.ui.theme.text import px
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.name_line import NameLine
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label

_of_paint, _of_cake, _of_brush = (partial(range_of, kind) for kind in (Paint, Cake, Applicator))
PAINT_NUMBERS = {
    "contrast": Quantity(phrase("Contrast ratio over black and white (0: not known)"), 0, 0.999, 0.01, 3),
    "contrast_film_um": Quantity(phrase("Film that it was told for"), *_of_paint("contrast_film_um"), 1, 1, " µm"),
    "tint": Quantity(
        phrase("Strength in a let-down with white, against what its opacity says"), *_of_paint("tint"), 0.1, 2, " ×"
    ),
    "scatter_exponent": Quantity(
        phrase("How fast its whiteness falls towards red (1 for titanium whites)"),
        *_of_paint("scatter_exponent"),
        0.1,
        1,
    ),
}
CAKE_NUMBERS = {
    "softness_mm": Quantity(phrase("Softness of the boundaries"), *_of_cake("softness_mm"), 0.1, 1, length=True),
    "length_mm": Quantity(phrase("Length of the stripes"), *_of_cake("length_mm"), 1, 0, length=True),
    "depth_mm": Quantity(phrase("Depth of the paint"), *_of_cake("depth_mm"), 0.5, 1, length=True),
}
BRUSH_NUMBERS = {
    "width_mm": Quantity(phrase("Width"), *_of_brush("width_mm"), 0.5, 2, length=True),
    "thickness_mm": Quantity(phrase("Thickness"), *_of_brush("thickness_mm"), 0.1, 1, length=True),
    "bristle_mm": Quantity(
        phrase("Bristle length, or height of a sponge"), *_of_brush("bristle_mm"), 1, 1, length=True
    ),
    "print_mm": Quantity(phrase("Length of its print, tip to belly"), *_of_brush("print_mm"), 1, 1, length=True),
    "tip_mm": Quantity(phrase("Width of its point"), *_of_brush("tip_mm"), 0.1, 1, length=True),
    "cut_deg": Quantity(phrase("Cut of an angle brush"), *_of_brush("cut_deg"), 1, 0, "°"),
    "capacity_mm3_per_mm": Quantity(
        phrase("Paint on a mm of edge when full"), *_of_brush("capacity_mm3_per_mm"), 0.5, 2, phrase(" mm³/mm")
    ),
    "release_mm": Quantity(phrase("Travel that lays all but a third"), *_of_brush("release_mm"), 5, 0, length=True),
    "fill_passes": Quantity(phrase("Sweeps to two thirds full"), *_of_brush("fill_passes"), 0.5, 1, " ×"),
    "splay": Quantity(phrase("Share of width that pressure adds"), *_of_brush("splay"), 0.02, 2),
    "drift_mm": Quantity(phrase("Usual drift of sweeps"), *_of_brush("drift_mm"), 0.1, 1, length=True),
    "root_share": Quantity(
        phrase("Share of old paint that a rinse leaves in the root"), *_of_brush("root_share"), 0.01, 2
    ),
}
_SHORT = {
    "contrast": phrase("Opacity"),
    "contrast_film_um": "at",
    "tint": phrase("Let-down"),
    "scatter_exponent": phrase("Blue-white"),
    "softness_mm": phrase("Soft"),
    "length_mm": phrase("Long"),
    "depth_mm": phrase("Deep"),
    "width_mm": phrase("Width"),
    "thickness_mm": phrase("Thick"),
    "bristle_mm": phrase("Bristles"),
    "print_mm": phrase("Print"),
    "tip_mm": phrase("Tip"),
    "cut_deg": phrase("Cut"),
    "capacity_mm3_per_mm": phrase("Holds"),
    "release_mm": phrase("Release"),
    "fill_passes": phrase("Fills in"),
    "splay": phrase("Splay"),
    "drift_mm": phrase("Drift"),
    "root_share": phrase("Root keeps"),
}
STOCK = Quantity(phrase("What is left (0: not counted)"), 0, 100000, 1, 1, " g")


@dataclass(frozen=True, slots=True)
class Deed:
    """Something to do with a thing: its words, a hint, and the act."""

    words: str
    hint: str
    act: Callable[[], object]


class Numbers(QWidget):
    """Named numbers in two columns; each says whether it is a default or the painter's own."""

    def __init__(self, quantities: dict[str, Quantity], change: Callable[[str, float], None]) -> None:
        super().__init__()
        self.fields: dict[str, NumberField] = {}
        self.marks: dict[str, QLabel] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(2)
        for number, (name, quantity) in enumerate(quantities.items()):
            field, mark, label = NumberField(quantity), Label(""), Label(_SHORT[name])
            label.setObjectName("note")
            label.setBuddy(field)
            label.setToolTip(quantity.name)
            mark.setObjectName("note")
            field.edited.connect(lambda value, of=name: change(of, value))
            row, column = divmod(number, 2)
            for at, widget in enumerate((label, field, mark)):
                grid.addWidget(widget, row, 3 * column + at)
            self.fields[name], self.marks[name] = field, mark
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(4, 1)

    def show_values(self, thing: Any, model: TrayModel, own: tuple[str, ...] | None = None) -> None:
        """Show a thing's numbers; with `own`, mark which of those that can be measured are the painter's."""
        for name, field in self.fields.items():
            value = getattr(thing, name)
            field.show_unit(model.unit)
            field.show_amount(0.0 if value is None else value)
            if own is not None:
                known = name in CALIBRATED and name != "width_mm"
                words = phrase("yours") if name in own else phrase("default") if known else ""
                self.marks[name].setText(words)


class Detail(QFrame):
    """The right side of the Tray.

    Signals
    -------
    bench_wanted
        The chosen thing should lie on the Bench.
    calibrate_wanted, ruler_wanted, reader_wanted, swatch_wanted, measurement_wanted, curve_wanted
        Pages to open for the chosen thing.
    """

    bench_wanted = Signal()
    calibrate_wanted = Signal()
    ruler_wanted = Signal()
    reader_wanted = Signal()
    swatch_wanted = Signal()
    measurement_wanted = Signal()
    curve_wanted = Signal()

    def __init__(self, model: TrayModel) -> None:
        super().__init__()
        self._model = model
        self.setObjectName("mat")
        self.setAccessibleName(phrase("The chosen thing"))
        outer = QVBoxLayout(self)
        outer.setContentsMargins(14, 10, 14, 10)
        outer.setSpacing(6)
        self.name = NameLine()
        self.name.setAccessibleName(phrase("Name"))
        self.name.setMaxLength(200)
        self.name.setObjectName("station")
        self.name.told.connect(self._rename)
        outer.addWidget(self.name)
        self.picture = Surface(self)
        self.picture.setMinimumHeight(px(200))
        self.picture.draw = self._draw
        outer.addWidget(self.picture, 1)
        self.pages = QStackedWidget()
        for page in (self._paint_page(), self._cake_page(), self._brush_page()):
            self.pages.addWidget(page)
        outer.addWidget(self.pages)
        outer.addWidget(self._keeping())
        outer.addLayout(self._deeds())
        model.chosen.connect(self.refresh)
        self.refresh()

    # --- pages ---

    def _paint_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        row = QHBoxLayout()
        self.hex = NameLine()
        self.hex.setAccessibleName(phrase("Masstone, #rrggbb"))
        self.hex.setToolTip(phrase("Masstone: the colour of a film thick enough to hide, #rrggbb"))
        self.hex.setMaximumWidth(px(96))
        self.hex.told.connect(self._recolour)
        self.pick = QPushButton(phrase("Colour ..."))
        self.pick.setProperty("chip", True)
        self.pick.clicked.connect(self._pick_colour)
        self.finish = choice(phrase("Finish"))
        for finish in Finish:
            self.finish.addItem(named(finish), finish)
        self.finish.activated.connect(lambda at: self._change(phrase("Finish"), finish=self.finish.itemData(at)))
        row.addWidget(self.hex)
        row.addWidget(self.pick)
        row.addWidget(self.finish, 1)
        row.addWidget(self._measure_button())
        column.addLayout(row)
        self.paint_numbers = Numbers(PAINT_NUMBERS, self._set_paint_number)
        column.addWidget(self.paint_numbers)
        flags = QHBoxLayout()
        label = Label(phrase("Label allows"))
        label.setObjectName("note")
        flags.addWidget(label)
        self.flags: dict[str, QCheckBox] = {}
        for name, words in (("eye_area", phrase("eye area")), ("lips", phrase("lips")), ("skin", phrase("skin"))):
            box = QCheckBox(words)
            box.setToolTip(phrase("What the maker's label says; the label and local rules decide"))
            box.clicked.connect(lambda on, of=name: self._change(phrase("What the label allows"), **{of: on}))
            flags.addWidget(box)
            self.flags[name] = box
        flags.addStretch(1)
        column.addLayout(flags)
        column.addStretch(1)
        return page

    def _measure_button(self) -> QToolButton:
        self.measure = QToolButton()
        self.measure.setText(phrase("Measure"))
        set_glyph(self.measure, "down")
        self.measure.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.measure.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.measure)
        for words, signal in (
            (phrase("From a photo or scan of its swatch ..."), self.swatch_wanted),
            (phrase("With the colour reader (simulated) ..."), self.reader_wanted),
            (phrase("Take a measured reflectance in (CSV) ..."), self.measurement_wanted),
        ):
            menu.addAction(words).triggered.connect(lambda _=False, wanted=signal: wanted.emit())
        menu.addSeparator()
        menu.addAction(phrase("Write its reflectance (CSV) ...")).triggered.connect(self.curve_wanted)
        menu.addAction(phrase("Forget the measurement")).triggered.connect(
            lambda: self._change(phrase("Forget the measurement"), reflectance=None)
        )
        self.measure.setMenu(menu)
        return self.measure

    def _cake_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        self.cake_numbers = Numbers(
            CAKE_NUMBERS, lambda name, value: self._change(phrase("Size of the cake"), **{name: value})
        )
        column.addWidget(self.cake_numbers)
        self.ombre = QCheckBox(phrase("ombre: the tones run into each other all the way"))
        self.ombre.clicked.connect(lambda on: self._change(phrase("Ombre"), ombre=on))
        column.addWidget(self.ombre)
        measure = QPushButton(phrase("Measure its width ..."))
        measure.setProperty("chip", True)
        measure.setToolTip(phrase("Hold the cake to a ruler on the screen; its stripes grow or shrink alike"))
        measure.clicked.connect(self.ruler_wanted)
        column.addWidget(measure, 0, Qt.AlignmentFlag.AlignLeft)
        words = Label(phrase("Stripes are made on the Bench: put the cake there and choose Make."))
        words.setObjectName("note")
        words.setWordWrap(True)
        column.addWidget(words)
        column.addStretch(1)
        return page

    def _brush_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        row = QHBoxLayout()
        self.kind: QComboBox = choice(phrase("Kind"))
        for kind in ApplicatorKind:
            self.kind.addItem(named(kind), kind)
        self.kind.activated.connect(lambda at: self._change(phrase("Kind"), kind=self.kind.itemData(at)))
        row.addWidget(self.kind, 1)
        for words, hint, signal in (
            (
                phrase("Calibrate ..."),
                phrase("Say what you saw; its constants are fitted and marked as yours"),
                self.calibrate_wanted,
            ),
            (phrase("Measure ..."), phrase("Hold the brush to a ruler on the screen"), self.ruler_wanted),
        ):
            button = QPushButton(words)
            button.setProperty("chip", True)
            button.setToolTip(hint)
            button.clicked.connect(signal)
            row.addWidget(button)
        column.addLayout(row)
        self.brush_numbers = Numbers(BRUSH_NUMBERS, self._set_brush_number)
        column.addWidget(self.brush_numbers)
        return page

    def _keeping(self) -> QWidget:
        held = QWidget()
        grid = QGridLayout(held)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(2)
        self.opened, self.expires, self.notes = NameLine(), NameLine(), NameLine()
        self.stock = NumberField(STOCK)
        for column, (words, widget) in enumerate(
            ((phrase("Opened"), self.opened), (phrase("Good until"), self.expires), (phrase("Left"), self.stock))
        ):
            label = Label(words)
            label.setObjectName("note")
            label.setBuddy(widget)
            grid.addWidget(label, 0, 2 * column)
            grid.addWidget(widget, 0, 2 * column + 1)
            widget.setAccessibleName(words)
        for line, name in ((self.opened, "opened"), (self.expires, "expires")):
            line.setPlaceholderText("2026-11-25")
            line.told.connect(lambda text, key=name: self._set_date(text, key))
        self.stock.edited.connect(lambda grams: self._model.change_keeping(phrase("Stock"), stock_g=grams or None))
        self.notes.setPlaceholderText(phrase("notes"))
        self.notes.setAccessibleName(phrase("Notes"))
        self.notes.setMaxLength(2000)
        self.notes.told.connect(lambda text: self._model.change_keeping(phrase("Notes"), notes=text))
        grid.addWidget(self.notes, 1, 0, 1, 6)
        return held

    def _deeds(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.bench = QPushButton(phrase("Put on the Bench"))
        self.bench.setProperty("main", True)
        self.bench.setToolTip(phrase("Into the plan: a cake under the brush, a brush in the hand, a paint at hand"))
        self.bench.clicked.connect(self.bench_wanted)
        row.addWidget(self.bench)
        row.addStretch(1)
        self.buttons: dict[str, QPushButton] = {}
        for deed in (
            Deed(phrase("Copy"), phrase("A second one to change"), self._model.duplicate),
            Deed(phrase("Retire"), phrase("Out of use: kept in the book, not offered"), self._model.retire),
            Deed(phrase("Remove"), phrase("Out of the book; undo brings it back"), self._model.remove),
        ):
            button = QPushButton(deed.words)
            button.setProperty("chip", True)
            button.setToolTip(deed.hint)
            button.clicked.connect(lambda _=False, do=deed.act: do())
            row.addWidget(button)
            self.buttons[deed.words] = button
        return row

    # --- edits ---

    def _change(self, label: str, **changes: Any) -> None:
        self._model.change_thing(label, **changes)

    def _rename(self, name: str) -> None:
        if name:
            self._change(phrase("Rename"), name=name)
        else:
            self.refresh()

    def _recolour(self, text: str) -> None:
        item = self._model.item
        code = "#" + text.lstrip("#").lower()
        if item is not None and isinstance(item.thing, Paint) and code != item.thing.srgb:
            self._change(phrase("Another colour"), srgb=code, reflectance=None)

    def _pick_colour(self) -> None:
        item = self._model.item
        if item is not None and isinstance(item.thing, Paint):
            colour = QColorDialog.getColor(QColor(item.thing.srgb), self, phrase("Masstone of {item}", item=item.name))
            if colour.isValid():
                self._recolour(colour.name())

    def _set_paint_number(self, name: str, value: float) -> None:
        if name == "contrast":
            self._change(phrase("Opacity"), contrast=max(value, 0.01) if value > 0 else None)
        else:
            self._change(_SHORT[name], **{name: value})

    def _set_brush_number(self, name: str, value: float) -> None:
        item = self._model.item
        if item is not None and isinstance(item.thing, Applicator):
            own = item.thing.own
            if name in CALIBRATED:
                own = tuple(dict.fromkeys([*own, name]))
            self._change(_SHORT[name], **{name: value, "own": own})

    def _set_date(self, text: str, name: str) -> None:
        try:
            value = date.fromisoformat(text) if text else None
        except ValueError:
            self._model.failed.emit(phrase("'{text}' is not a date; write it as 2026-11-25.", text=text))
            self.refresh()
            return
        self._model.change_keeping(phrase("Date"), **{name: value})

    # --- following ---

    def refresh(self) -> None:
        """Show the chosen thing."""
        item = self._model.item
        self.setEnabled(item is not None)
        self.picture.update()
        if item is None:
            self.name.show_words("")
            return
        self.name.show_words(item.name, item.key)
        thing = item.thing
        if isinstance(thing, Paint):
            self._show_paint(thing, item.key)
        elif isinstance(thing, Cake):
            self.pages.setCurrentIndex(1)
            self.cake_numbers.show_values(thing, self._model)
            self.ombre.setChecked(thing.ombre)
        else:
            self.pages.setCurrentIndex(2)
            fill(self.kind, [(named(kind), kind) for kind in ApplicatorKind], thing.kind)
            self.brush_numbers.show_values(thing, self._model, thing.own)
        self._show_keeping(item)

    def _show_paint(self, paint: Paint, key: object) -> None:
        self.pages.setCurrentIndex(0)
        self.hex.show_words(paint.srgb, key)
        with QSignalBlocker(self.finish):
            self.finish.setCurrentIndex(list(Finish).index(paint.finish))
        self.finish.setToolTip(paint.finish.note or phrase("matte: predicted as it is"))
        self.paint_numbers.show_values(paint, self._model)
        for name, box in self.flags.items():
            box.setChecked(getattr(paint, name))

    def _show_keeping(self, item: KitItem) -> None:
        keeping = item.keeping
        for line, value in ((self.opened, keeping.opened), (self.expires, keeping.expires)):
            line.show_words(value.isoformat() if value else "", item.key)
        over = keeping.expired(date.today())
        self.expires.setToolTip(phrase("Past its date: leave it out") if over else phrase("The date on the label"))
        self.stock.show_amount(keeping.stock_g or 0.0)
        self.notes.show_words(keeping.notes, item.key)
        self.buttons[phrase("Retire")].setText(phrase("Use again") if keeping.retired else phrase("Retire"))

    def _draw(self, painter: QPainter) -> None:
        item, session = self._model.item, self._model.session
        area = QRectF(self.picture.rect()).adjusted(2, 2, -2, -2)
        if item is None or session is None:
            return
        thing = item.thing
        if isinstance(thing, Paint):
            draw_paint(painter, area, thing)
        elif isinstance(thing, Cake):
            draw_cake(painter, area, thing, session.kit.paints, self._model.unit)
        else:
            draw_brush(painter, area, thing, self._model.unit)


def scrolled(widget: QWidget) -> QScrollArea:
    """Return a widget that scrolls where the window is low."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setWidget(widget)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    return area
