"""The five ways to hold a brush as five pictures, and the numbers that the stroke's hold has."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QIcon, QImage
from PySide6.QtWidgets import QButtonGroup, QGridLayout, QHBoxLayout, QToolButton, QWidget

from pennello.design.edits import with_stroke
from pennello.design.holds import FIVE, hold_of, numbers_of, with_hold
from pennello.design.plan import Plan
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Stroke
from pennello.session.catalogue import CataloguePicture, family_plan, laid
from pennello.session.jobs import Job, Jobs
from pennello.ui.bench_model import BenchModel, stroke_change
from pennello.ui.gallery import tile
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.plain import Label, tip
from pennello.ui.work import begin

SHOWN_BY = {
    Hold.UPRIGHT: "fingernail",
    Hold.HEEL: "shell",
    Hold.RIM: "horn",
    Hold.PUSH: "one-stroke-leaf",
    Hold.SQUARE: "fill",
}
"""Which family stands for a hold in its picture."""

_PICTURE = QSize(60, 34)


class HoldChooser(QWidget):
    """Five buttons with pictures that the engine lays itself, and the numbers of the hold that is chosen."""

    def __init__(self, model: BenchModel) -> None:
        super().__init__()
        self._model, self._jobs = model, Jobs()
        self._drawn_for: tuple[Any, ...] = ()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.group = QButtonGroup(self)
        self.buttons: dict[Hold, QToolButton] = {}
        for hold in FIVE:
            button = QToolButton()
            button.setText(hold.value)
            button.setCheckable(True)
            button.setIconSize(_PICTURE)
            button.setIcon(QIcon(tile(QImage(), _PICTURE)))
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
            button.setProperty("segment", True)
            button.setStyleSheet("font-size: 11px; padding: 1px 3px;")
            button.setToolTip(tip(hold.words))
            button.setAccessibleName(f"Held {hold.value}: {hold.words}")
            button.clicked.connect(partial(self._choose, hold))
            self.group.addButton(button)
            row.addWidget(button)
            self.buttons[hold] = button
        self._line = QGridLayout()
        self._line.setHorizontalSpacing(6)
        self._line.setVerticalSpacing(0)
        row.addSpacing(6)
        row.addLayout(self._line)
        row.addStretch(1)
        self.fields: dict[str, NumberField] = {}
        self._of: tuple[str, ...] = ()
        self._hold_shown = ""

    def _choose(self, hold: Hold, *_: object) -> None:
        self._model.edit("Hold the brush another way", stroke_change(lambda way: with_hold(way, hold)))

    def refresh(self, way: Stroke) -> None:
        """Follow the stroke: its hold is marked, and only the numbers that it has are there."""
        hold = hold_of(way)
        self.group.setExclusive(False)
        for kind, button in self.buttons.items():
            button.setChecked(kind is hold)
        self.group.setExclusive(True)
        numbers = numbers_of(way)
        if tuple(one.key for one in numbers) != self._of or hold.value != self._hold_shown:
            self._build(way)
        for one in numbers:
            self.fields[one.key].show_amount(one.value)
        self._draw()

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
            words.setMinimumWidth(150)
            self._line.addWidget(words, 0, 0)

    def _set(self, key: str, value: float) -> None:
        def make(way: Stroke) -> Stroke:
            return next((one.change(value) for one in numbers_of(way) if one.key == key), way)

        self._model.edit("A number of the hold", stroke_change(make), f"hold {key}")

    # --- pictures ---

    def _draw(self) -> None:
        """Lay the pictures in the background, in the colours of the stroke's load; not again for the same ones."""
        stroke, plan = self._model.stroke, self._model.document.committed
        if stroke is None or not self.isVisible():
            return
        rests_on = (plan.skin, plan.paints, plan.cakes, stroke.recipe, stroke.brush)
        if rests_on == self._drawn_for:
            return
        self._drawn_for = rests_on
        name = stroke.id

        def work(job: Job[Any]) -> None:
            for hold, family in SHOWN_BY.items():
                job.report(0.0, "")
                job.found.emit((hold, _picture(plan, name, family)))

        begin(
            self._jobs,
            "holds",
            self,
            work,
            finished=lambda _: None,
            failed=lambda _: None,
            found=lambda found: self._show_picture(*found),
        )

    def _show_picture(self, hold: Hold, one: CataloguePicture) -> None:
        self.buttons[hold].setIcon(QIcon(tile(to_image(one.picture), _PICTURE)))

    def showEvent(self, event: object) -> None:
        """Lay the pictures once they are seen."""
        super().showEvent(event)  # type: ignore[arg-type]
        self._draw()

    def close_all(self) -> None:
        """Stop what is laid; the window closes."""
        self._jobs.close()


def _picture(plan: Plan, stroke: str, family: str) -> CataloguePicture:
    """Return a family's stroke, laid with the load of a stroke of the plan where that is across the edge."""
    made = family_plan(plan, family)
    here, new = plan.stroke(stroke), made.strokes[0]
    if here.recipe.pickups and not here.recipe.after and not plan.brush(here.brush).kind.dips:
        made = with_stroke(made, replace(new, brush=here.brush, recipe=here.recipe))
    return laid(made, family, family, 3.0, (132, 80))
