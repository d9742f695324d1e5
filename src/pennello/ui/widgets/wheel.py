"""Fields that the wheel changes only while they have the focus, so that scrolling past changes nothing."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QDateEdit, QTimeEdit, QWidget

if TYPE_CHECKING:
    _Field = QWidget
else:
    _Field = object


class WheelWhenFocused(_Field):
    """Stands before one of Qt's own fields, which give themselves the focus under the wheel and then change."""

    def _leave_wheel(self) -> None:
        """Take the focus by Tab and by a click, not by the wheel; asked for as the field is made."""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Leave the wheel to what lies beneath unless focused."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


class DateField(WheelWhenFocused, QDateEdit):
    """A day."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._leave_wheel()


class TimeField(WheelWhenFocused, QTimeEdit):
    """A time of day."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._leave_wheel()
