"""When a load is made anew: its habit, and after how many strokes where that is it."""

from __future__ import annotations

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import QBoxLayout, QComboBox, QWidget

from pennello.design.plan import MOST_PER_LOAD, Reload
from pennello.phrases import named, phrase
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.number_field import NumberField, Quantity

AFTER = Quantity(phrase("Strokes from one load"), 1, MOST_PER_LOAD, 1, 0, phrase(" strokes"))


class ReloadChoice(QWidget):
    """A choice and a number, side by side or one above the other.

    Signals
    -------
    changed(Reload, int)
        The painter says so.
    """

    changed = Signal(Reload, int)

    def __init__(self, direction: QBoxLayout.Direction) -> None:
        super().__init__()
        self.after = NumberField(AFTER)
        self.habit: QComboBox = choice(phrase("When it is loaded anew"))
        for habit in Reload:
            self.habit.addItem(named(habit), habit)
        self.habit.activated.connect(lambda at: self.changed.emit(self.habit.itemData(at), round(self.after.amount)))
        self.after.edited.connect(lambda value: self.changed.emit(Reload.COUNT, round(value)))
        row = QBoxLayout(direction, self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.habit, 1)
        row.addWidget(self.after)

    def show_habit(self, habit: Reload, count: int) -> None:
        """Show a habit; the number only where it counts."""
        with QSignalBlocker(self.habit):
            self.habit.setCurrentIndex(self.habit.findData(habit))
        self.after.setVisible(habit is Reload.COUNT)
        self.after.show_amount(count)
