"""A number with its unit: quiet text that becomes a field when it is focused."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QEvent, QObject, QSignalBlocker, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QResizeEvent, QShowEvent, QWheelEvent
from PySide6.QtWidgets import QAbstractSpinBox, QDoubleSpinBox, QWidget

from pennello.units import LengthUnit, from_mm, to_mm


@dataclass(frozen=True, slots=True)
class Quantity:
    """What a field holds: its name, range, step and decimals in the core's unit, and the unit's sign."""

    name: str
    low: float
    high: float
    step: float
    decimals: int
    suffix: str = ""
    length: bool = False


class NumberField(QDoubleSpinBox):
    """A field for one quantity. Lengths are shown in the unit chosen and given in mm.

    Signals
    -------
    edited(float)
        The user has set the value, in the core's unit.
    """

    edited = Signal(float)

    def __init__(self, quantity: Quantity, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.quantity = quantity
        self._unit = LengthUnit.MM
        self._value = 0.0
        self.setAccessibleName(quantity.name)
        self.setToolTip(quantity.name)
        self.setButtonSymbols(QAbstractSpinBox.ButtonSymbols.NoButtons)
        self.setKeyboardTracking(False)
        self.setCorrectionMode(QAbstractSpinBox.CorrectionMode.CorrectToNearestValue)
        self.setMinimumWidth(58)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self._set_up()
        self.valueChanged.connect(self._changed)

    @property
    def amount(self) -> float:
        """The value in the core's unit."""
        return self._value

    def show_amount(self, amount: float) -> None:
        """Show a value given in the core's unit, without saying that it was edited."""
        self._value = amount
        shown = self._shown(amount)
        if round(shown, self.decimals()) != self.value():
            with QSignalBlocker(self):
                self.setValue(shown)

    def show_unit(self, unit: LengthUnit) -> None:
        """Show lengths in this unit."""
        if self.quantity.length and unit is not self._unit:
            self._unit = unit
            self._set_up()
            self.show_amount(self._value)

    def _set_up(self) -> None:
        inches = self.quantity.length and self._unit is LengthUnit.INCH
        with QSignalBlocker(self):
            self.setDecimals(self.quantity.decimals + 2 if inches else self.quantity.decimals)
            self.setRange(self._shown(self.quantity.low), self._shown(self.quantity.high))
            self.setSingleStep(1 / 64 if inches else self.quantity.step)
            self.setSuffix(f" {self._unit.value}" if self.quantity.length else self.quantity.suffix)

    def _shown(self, amount: float) -> float:
        return from_mm(amount, self._unit) if self.quantity.length else amount

    def _changed(self, shown: float) -> None:
        self._value = to_mm(shown, self._unit) if self.quantity.length else shown
        self.edited.emit(self._value)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Give the text all the room: the style sheet keeps some for buttons that there are not."""
        super().resizeEvent(event)
        self._give_room()

    def changeEvent(self, event: QEvent) -> None:
        """Do so again when the style may be another one."""
        super().changeEvent(event)
        self._give_room()

    def showEvent(self, event: QShowEvent) -> None:
        """Do so when it appears."""
        super().showEvent(event)
        self._give_room()

    def _give_room(self) -> None:
        self.lineEdit().setGeometry(self.rect().adjusted(4, 1, -4, -1))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Esc gives back the value that was there."""
        if event.key() == Qt.Key.Key_Escape:
            self.show_amount(self._value)
            self.selectAll()
            event.accept()
            return
        super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Select all, ready to type over."""
        super().focusInEvent(event)
        self.selectAll()

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Step only while focused, so that scrolling past changes nothing."""
        if self.hasFocus():
            super().wheelEvent(event)
        else:
            event.ignore()


class WheelGuard(QObject):
    """Keeps the wheel from changing a choice that is not focused."""

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Swallow the wheel over an unfocused widget."""
        return bool(isinstance(event, QWheelEvent) and isinstance(watched, QWidget) and not watched.hasFocus())
