"""What the piece in the hand keeps: a stripe on a landmark, its angle to the level; what it says as a sign."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QCheckBox, QComboBox, QFrame, QGridLayout

from pennello.design.bound import LEVEL_DEG, Sign, StripeOn
from pennello.design.on_chart import prints_of, seat
from pennello.design.placed import PlacedMotif
from pennello.design.seated import chord_deg, places_for_stripes
from pennello.limits import MOST_NAME
from pennello.phrases import phrase
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.name_line import NameLine
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label

LEVEL = Quantity(phrase("Angle of its first stroke to the level"), *LEVEL_DEG, 1, 0, "°")
_NONE = ""


class BoundFields(QFrame):
    """Fields for what a piece keeps."""

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self.stripe: QComboBox = choice(phrase("Which stripe of its load stays on a landmark"))
        self.on: QComboBox = choice(phrase("On which landmark, frame or line"))
        self.level = NumberField(LEVEL)
        self.keeps = QCheckBox(phrase("keep it"))
        self.keeps.setToolTip(phrase("It stays at this angle to the level, however else it is turned"))
        self.says = NameLine()
        self.says.setAccessibleName(phrase("What it says, if it is a sign"))
        self.says.setPlaceholderText(phrase("no sign"))
        self.says.setMaxLength(MOST_NAME)
        self.checked = QCheckBox(phrase("checked by somebody who reads it"))
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(2)
        for row, (words, widget, more) in enumerate(
            (
                (phrase("stripe"), self.stripe, self.on),
                (phrase("to the level"), self.level, self.keeps),
                (phrase("says"), self.says, None),
            )
        ):
            label = Label(words)
            label.setObjectName("note")
            label.setBuddy(widget)
            grid.addWidget(label, row, 0)
            grid.addWidget(widget, row, 1, 1, 1 if more is not None else 2)
            if more is not None:
                grid.addWidget(more, row, 2)
        grid.addWidget(self.checked, 3, 0, 1, 3)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(2, 1)
        self.stripe.activated.connect(lambda _: self._set_stripe())
        self.on.activated.connect(lambda _: self._set_stripe())
        self.level.edited.connect(self._set_level)
        self.keeps.toggled.connect(lambda on: self._set_level(self._rises() if on else None))
        self.says.told.connect(self._set_sign)
        self.checked.toggled.connect(self._set_checked)

    def refresh(self) -> None:
        """Follow the model."""
        chosen = self._model.chosen
        self.setVisible(chosen is not None and chosen.computed is None)
        if chosen is None or chosen.computed is not None:
            return
        plan = self._model.plan
        loads = dict.fromkeys(load for _, load in chosen.loads)
        paints = dict.fromkeys(paint for load in loads for paint in plan.edge(load).paints)
        stripes: list[tuple[str, object]] = [(phrase("no stripe"), _NONE)]
        stripes += [(phrase("{paint} on", paint=plan.paint(paint).name), paint) for paint in paints]
        places = places_for_stripes(self._model.chart)
        fill(self.stripe, stripes, chosen.stripe.paint if chosen.stripe else _NONE)
        fill(self.on, [(name, name) for name in places], chosen.stripe.on if chosen.stripe else places[0])
        self.on.setEnabled(chosen.stripe is not None)
        rises = self._rises()
        self.level.setEnabled(rises is not None)
        self.keeps.setEnabled(rises is not None)
        self.level.show_amount(rises or 0.0)
        with QSignalBlocker(self.keeps):
            self.keeps.setChecked(chosen.level_deg is not None)
        self._show_sign(chosen)

    def _show_sign(self, chosen: PlacedMotif) -> None:
        self.says.show_words(chosen.sign.says if chosen.sign else "", chosen.id)
        self.checked.setVisible(chosen.sign is not None)
        with QSignalBlocker(self.checked):
            self.checked.setChecked(chosen.sign is not None and chosen.sign.checked)

    def _rises(self) -> float | None:
        """Return how steeply the first stroke of the piece rises where it lies, degrees."""
        chosen = self._model.chosen
        if chosen is None:
            return None
        plan = self._model.plan
        return chord_deg(seat(plan, chosen), prints_of(plan, chosen))

    def _set_stripe(self) -> None:
        paint, on = self.stripe.currentData(), self.on.currentData()
        stripe = StripeOn(paint, on) if paint else None
        self._model.edit_motif(phrase("A stripe on a landmark"), lambda one: replace(one, stripe=stripe))

    def _set_level(self, to_deg: float | None) -> None:
        level = None if to_deg is None else round(to_deg, 1)
        self._model.edit_motif(phrase("Angle to the level"), lambda one: replace(one, level_deg=level), "level")

    def _set_sign(self, says: str) -> None:
        self._model.edit_motif(phrase("What it says"), lambda one: replace(one, sign=Sign(says) if says else None))

    def _set_checked(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        def make(one: PlacedMotif) -> PlacedMotif:
            return one if one.sign is None else replace(one, sign=replace(one.sign, checked=on))

        self._model.edit_motif(phrase("Checked by somebody who reads it"), make)
