"""A photo of the painter's own for a chart: two landmarks are set on it, and how far these are apart."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PySide6.QtWidgets import QComboBox, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.chart.chart import Chart
from pennello.chart.names import place_words
from pennello.design.photo import LEAST_APART_PX, Photo
from pennello.phrases import phrase
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.mark_pad import MarkPad
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit

APART = Quantity(phrase("How far the two are apart on the person"), 5, 1000, 1, 0, length=True)
ORDINALS = ("first", "second")
_STARTS = ((0.35, 0.45), (0.65, 0.45))
_PAIRS = (
    ("pupil, wearer's right", "pupil, wearer's left"),
    ("outer eye corner", "mouth corner"),
    ("elbow", "wrist"),
)
"""Landmarks that are easy to find on a photo, where a chart has them."""


class PhotoPage(QDialog):
    """Two landmarks and a width; what is accepted is in `photo` and `width_mm`."""

    def __init__(
        self, path: Path, picture: NDArray[np.uint8], chart: Chart, unit: LengthUnit, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("A photo for: {chart}", chart=chart.name))
        self._path, self._chart = path, chart
        self.pad = MarkPad(picture, ORDINALS, _STARTS, self.refresh)
        self.names: list[QComboBox] = []
        self.which = OneOf(self)
        head = QHBoxLayout()
        for number, name in enumerate(_usual(chart)):
            button = QPushButton()
            button.setText(ORDINALS[number])
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setChecked(number == 0)
            button.clicked.connect(lambda _=False, at=number: self._turn_to(at))
            self.which.addButton(button, number)
            box = ChoiceBox()
            box.setAccessibleName(phrase("Which landmark is the {text}", text=button.text()))
            for landmark, _ in chart.landmarks:
                box.addItem(place_words(landmark), landmark)
            box.setCurrentIndex(box.findData(name))
            box.activated.connect(lambda _: self._named())
            head.addWidget(button)
            head.addWidget(box, 1)
            self.names.append(box)
        self.apart = NumberField(APART)
        self.apart.show_unit(unit)
        self.apart.edited.connect(self._typed)
        head.addWidget(Label(phrase("apart")))
        head.addWidget(self.apart)
        self.width_mm = 0.0
        self.words = Label("")
        self.words.setWordWrap(True)
        caution = Label(
            phrase("Ask before you take a photo of anybody. It stays in its file; the plan keeps its name alone.")
        )
        caution.setObjectName("note")
        foot = LeaveOrTake(self, phrase("Paint over it"))
        self.take = foot.take
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addLayout(head)
        column.addWidget(self.pad, 1)
        column.addWidget(self.words)
        column.addWidget(caution)
        column.addLayout(foot)
        self._named()

    @property
    def photo(self) -> Photo:
        """The photo as its marks lie now."""
        one, other = (box.currentData() for box in self.names)
        places = [round(value, 1) for at in self.pad.at for value in at]
        return Photo(self._chart.key, str(self._path), one, other, *places)

    def _turn_to(self, number: int) -> None:
        self.pad.current = number
        self.pad.setFocus()
        self.pad.update()

    def _typed(self, value: float) -> None:
        self.width_mm = value
        self.refresh()

    def _named(self) -> None:
        """Other landmarks are named: they are as far apart as on the chart until something else is typed."""
        one, other = (self._chart.landmark(box.currentData()) for box in self.names)
        self.width_mm = math.dist(one, other)
        self.apart.show_amount(self.width_mm)
        self.refresh()

    def refresh(self) -> None:
        """Say what comes of it, or what is missing."""
        apart = math.dist(*self.pad.at)
        same = self.names[0].currentData() == self.names[1].currentData()
        self.take.setEnabled(not same and apart >= LEAST_APART_PX and self.width_mm > 0)
        if same:
            self.words.setText(phrase("Choose two different landmarks."))
        elif apart < LEAST_APART_PX:
            self.words.setText(phrase("Set the two landmarks apart."))
        else:
            scale = apart / max(self.width_mm, 1e-9)
            self.words.setText(phrase("{scale:.1f} px of the photo are 1 mm of the person.", scale=scale))


def _usual(chart: Chart) -> tuple[str, str]:
    names = [name for name, _ in chart.landmarks]
    return next((pair for pair in _PAIRS if set(pair) <= set(names)), (names[0], names[-1]))
