"""Buttons of which one is chosen: to a screen reader they are radio buttons, not boxes to tick."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractButton, QButtonGroup


class OneOf(QButtonGroup):
    """A group of buttons of which one is chosen."""

    def addButton(self, button: QAbstractButton, id: int = -1) -> None:
        """Put a button in."""
        button.setAutoExclusive(True)  # the group decides; by this Qt tells what a push button is
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)  # a click leaves the station its keys
        super().addButton(button, id)
