"""The five ways to hold a brush as five pictures, and the numbers that the stroke's hold has."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QWidget

from pennello.design.holds import hold_of, numbers_of, with_hold
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Stroke
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel, stroke_change
from pennello.ui.theme.text import px
from pennello.ui.widgets.hold_buttons import HoldButtons
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label

_PICTURE = QSize(60, 34)


class HoldChooser(QWidget):
    """Five buttons with pictures that the engine lays itself, and the numbers of the hold that is chosen."""

    def __init__(self, model: BenchModel) -> None:
        super().__init__()
        self._model = model
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.pictures = HoldButtons(_PICTURE)
        self.pictures.chosen.connect(self._choose)
        self.buttons = self.pictures.buttons
        row.addWidget(self.pictures)
        self._line = QGridLayout()
        self._line.setHorizontalSpacing(6)
        self._line.setVerticalSpacing(0)
        row.addSpacing(6)
        row.addLayout(self._line)
        row.addStretch(1)
        self.fields: dict[str, NumberField] = {}
        self._of: tuple[str, ...] = ()
        self._hold_shown = ""

    def _choose(self, hold: Hold) -> None:
        self._model.edit(phrase("Hold the brush another way"), stroke_change(lambda way: with_hold(way, hold)))

    def refresh(self, way: Stroke) -> None:
        """Follow the stroke: its hold is marked, and only the numbers that it has are there."""
        hold = hold_of(way)
        self.pictures.show_hold(hold)
        numbers = numbers_of(way)
        if tuple(one.key for one in numbers) != self._of or hold.value != self._hold_shown:
            self._build(way)
        for one in numbers:
            self.fields[one.key].show_amount(one.value)
        stroke = self._model.stroke
        if stroke is not None:
            self.pictures.draw(self._model.document.committed, stroke.id)

    def _build(self, way: Stroke) -> None:
        while self._line.count():
            item = self._line.takeAt(0)
            widget = item.widget() if item else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.fields = {}
        numbers = numbers_of(way)
        self._of, self._hold_shown = tuple(one.key for one in numbers), hold_of(way).value
        for number, one in enumerate(numbers):
            at, column = number % 2, number // 2 * 2
            label = Label(one.name)
            label.setObjectName("note")
            length = one.unit == " mm"
            quantity = Quantity(
                one.name,
                one.low,
                one.high,
                1.0 if one.unit in ("°", " ×") else 0.5,
                0 if one.unit in ("°", " ×") else 1,
                "" if length else one.unit,
                length=length,
            )
            field = NumberField(quantity)
            field.show_unit(self._model.unit)
            field.edited.connect(partial(self._set, one.key))
            label.setBuddy(field)
            self._line.addWidget(label, at, column)
            self._line.addWidget(field, at, column + 1)
            self.fields[one.key] = field
        if not numbers:
            words = Label(hold_of(way).words)
            words.setObjectName("note")
            words.setWordWrap(True)
            words.setMinimumWidth(px(150))
            self._line.addWidget(words, 0, 0)

    def _set(self, key: str, value: float) -> None:
        def make(way: Stroke) -> Stroke:
            return next((one.change(value) for one in numbers_of(way) if one.key == key), way)

        self._model.edit(phrase("A number of the hold"), stroke_change(make), phrase("hold {key}", key=key))

    def close_all(self) -> None:
        """Stop what is laid; the window closes."""
        self.pictures.close_all()
