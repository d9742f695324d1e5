"""What is being typed belongs to what was chosen when it was typed.

A tool button or a shortcut takes no focus, so a number still in its field would land in whatever is chosen next. While
a field is being typed into, a press anywhere else ends the typing first; the window does the same before it saves,
undoes, or shows another plan.
"""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QAbstractSpinBox, QApplication, QLineEdit, QWidget

_PRESSES = (QEvent.Type.MouseButtonPress, QEvent.Type.MouseButtonDblClick)


def _typed_into() -> QWidget | None:
    widget = QApplication.focusWidget()
    return widget if isinstance(widget, (QAbstractSpinBox, QLineEdit)) else None


def settle_typing() -> None:
    """End what is being typed: it goes where it was meant for, and the field keeps the focus."""
    field = _typed_into()
    if isinstance(field, QAbstractSpinBox):
        field.interpretText()
    elif isinstance(field, QLineEdit) and field.isModified():
        field.setModified(False)
        field.editingFinished.emit()


class PressWatch(QObject):
    """Settles what is typed when something else is pressed; it watches only while a field has the focus."""

    def __init__(self, app: QApplication) -> None:
        super().__init__(app)
        self._app, self._watching = app, False
        app.focusChanged.connect(self._focus_moved)

    def _focus_moved(self, _old: QWidget | None, now: QWidget | None) -> None:
        watch = isinstance(now, (QAbstractSpinBox, QLineEdit))
        if watch and not self._watching:
            self._app.installEventFilter(self)
        elif self._watching and not watch:
            self._app.removeEventFilter(self)
        self._watching = watch

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Settle before a press on something else is seen by it."""
        if not isinstance(event, QMouseEvent):  # to ask each event for its kind is slow
            return False
        field = _typed_into()
        if event.type() in _PRESSES and isinstance(watched, QWidget) and field is not None:
            inside = watched is field or field.isAncestorOf(watched)
            popup = watched.window().windowFlags() & Qt.WindowType.Popup == Qt.WindowType.Popup
            if not inside and not popup:
                settle_typing()
        return False
