"""What the piece in the hand is worked out with: how far off, how far round, how often again, how it is laid."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QCheckBox, QComboBox, QFrame, QGridLayout

from pennello.design.computing import Computed, Computing, LaidBy
from pennello.design.made_numbers import MadeNumber, numbers_of, with_number
from pennello.design.placed import PlacedMotif
from pennello.phrases import named, phrase
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.widgets.card_row import empty_grid
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit


class MadeFields(QFrame):
    """Fields for a computed piece; hidden for any other."""

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self._kind: tuple[str, ...] = ()
        self.fields: dict[str, NumberField] = {}
        self.by: QComboBox = choice(phrase("How it is laid: pulled, patted, dabbed, or as fur"))
        for one in LaidBy:
            self.by.addItem(named(one), one)
        self.by.activated.connect(lambda at: self._lay_by(self.by.itemData(at)))
        self.by_turns = QCheckBox(phrase("to the other side by turns"))
        self.by_turns.setToolTip(phrase("Every second one is reflected at the line"))
        self.by_turns.toggled.connect(
            lambda on: self._edit(phrase("To the other side by turns"), lambda made: replace(made, by_turns=on))
        )
        self._numbers = QGridLayout()
        self._numbers.setColumnStretch(0, 1)
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(2)
        grid.addLayout(self._numbers, 0, 0)
        grid.addWidget(self.by, 1, 0)
        grid.addWidget(self.by_turns, 2, 0)

    def refresh(self, unit: LengthUnit) -> None:
        """Follow the model."""
        chosen = self._model.chosen
        made = chosen.computed if chosen is not None else None
        self.setVisible(made is not None)
        if made is None:
            return
        numbers = numbers_of(made)
        kind = tuple(one.key for one in numbers)
        if kind != self._kind:
            self._build(numbers)
            self._kind = kind
        for key, field in self.fields.items():
            field.show_unit(unit)
            field.show_amount(getattr(made, key))
        self.by.setVisible(made.kind in (Computing.GROUND, Computing.FILL))
        self.by.setCurrentIndex(self.by.findData(made.by))
        self.by_turns.setVisible(made.kind is Computing.ECHO)
        with QSignalBlocker(self.by_turns):
            self.by_turns.setChecked(made.by_turns)

    def _build(self, numbers: tuple[MadeNumber, ...]) -> None:
        empty_grid(self._numbers)
        self.fields = {}
        for row, one in enumerate(numbers):
            length = one.unit == " mm"
            places = 1 if length else 2 if one.step < 0.1 else 0
            unit = "" if length else one.unit
            field = NumberField(Quantity(one.name, one.low, one.high, one.step, places, unit, length=length))
            field.edited.connect(lambda value, key=one.key: self._set(key, value))
            label = Label(one.name)
            label.setObjectName("note")
            label.setWordWrap(True)
            label.setBuddy(field)
            self._numbers.addWidget(label, row, 0)
            self._numbers.addWidget(field, row, 1)
            self.fields[one.key] = field

    def _set(self, key: str, value: float) -> None:
        self._edit(
            phrase("A number of what is worked out"),
            lambda made: with_number(made, key, value),
            phrase("made {key}", key=key),
        )

    def _lay_by(self, by: LaidBy) -> None:
        self._edit(phrase("How it is laid"), lambda made: replace(made, by=by))

    def _edit(self, label: str, change: Callable[[Computed], Computed], key: str = "") -> None:
        def make(one: PlacedMotif) -> PlacedMotif:
            return one if one.computed is None else replace(one, computed=change(one.computed))

        self._model.edit_motif(label, make, key)
