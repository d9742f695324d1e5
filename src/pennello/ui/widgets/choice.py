"""Choices: boxes with a name for screen readers, filled without saying that they were edited."""

from __future__ import annotations

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QComboBox, QWidget

from pennello.ui.theme.text import px
from pennello.ui.widgets.wheel import WheelWhenFocused


class ChoiceBox(WheelWhenFocused, QComboBox):
    """A box of choices."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._leave_wheel()


def choice(name: str) -> ChoiceBox:
    """Return a choice with a name for screen readers, no wider than it must be."""
    box = ChoiceBox()
    box.setAccessibleName(name)
    box.setToolTip(name)
    box.setMinimumWidth(px(60))
    box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    return box


def fill(box: QComboBox, items: list[tuple[str, object]], current: object) -> None:
    """Show items (words, key) with one of them chosen, without saying that it was edited."""
    with QSignalBlocker(box):
        if box.property("items") != repr(items):  # kept beside it: asking a box for its items costs more
            box.setProperty("items", repr(items))
            box.clear()
            for name, key in items:
                box.addItem(name, key)
        box.setCurrentIndex(next((at for at, (_, key) in enumerate(items) if key == current), -1))
