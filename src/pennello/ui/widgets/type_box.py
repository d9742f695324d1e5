"""A field that opens over a handle to type its value."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QWidget

from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.units import LengthUnit


class TypeBox(NumberField):
    """Closes on Enter (done), Esc or a click elsewhere (nothing changed)."""

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Close on Esc."""
        if event.key() == Qt.Key.Key_Escape:
            self.deleteLater()
            return
        super().keyPressEvent(event)
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.deleteLater()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Close on a click elsewhere."""
        self.blockSignals(True)
        super().focusOutEvent(event)
        self.deleteLater()


def type_over(
    handle: QWidget, quantity: Quantity, unit: LengthUnit, amount: float, done: Callable[[float], None]
) -> TypeBox:
    """Open a field over a handle and call `done` with what is typed."""
    parent = handle.parentWidget() or handle
    box = TypeBox(quantity, parent)
    box.show_unit(unit)
    box.show_amount(amount)
    box.edited.connect(done)
    box.setAutoFillBackground(True)
    box.resize(96, 28)
    at = handle.geometry().center() + QPoint(12, -34)
    box.move(max(2, min(at.x(), parent.width() - 98)), max(2, at.y()))
    box.show()
    box.setFocus(Qt.FocusReason.PopupFocusReason)
    return box
