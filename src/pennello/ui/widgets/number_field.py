"""A number with its unit: quiet text that becomes a field when it is focused.

Numbers are read as people write them, with either decimal sign, as a fraction, with their own unit; what is not
understood is said, and the old value stays. They are written in one way, whatever the locale.
"""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QEvent, QLocale, QSignalBlocker, Qt, Signal
from PySide6.QtGui import QFocusEvent, QHideEvent, QKeyEvent, QResizeEvent, QShowEvent, QValidator
from PySide6.QtWidgets import QAbstractSpinBox, QDoubleSpinBox, QWidget

from pennello.errors import OutOfRangeError, PennelloError
from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.widgets.saying import say_from
from pennello.ui.widgets.wheel import WheelWhenFocused
from pennello.units import LengthUnit, from_mm, parse_amount, parse_length, to_mm

_EXACT = 6
"""Decimals that a length keeps behind those that are shown: 3/4 in is 19.05 mm."""

_SLACK = 1e-6


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


class NumberField(WheelWhenFocused, QDoubleSpinBox):
    """A field for one quantity. Lengths are shown in the unit chosen and given in mm.

    Signals
    -------
    edited(float)
        The user has set the value, in the core's unit.
    refused(str)
        What was typed is no such number; the old value stays.
    """

    edited = Signal(float)
    refused = Signal(str)

    def __init__(self, quantity: Quantity, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.quantity = quantity
        self._unit = LengthUnit.MM
        self._value = 0.0
        self._places = 0
        self.setLocale(QLocale.c())
        self.setAccessibleName(quantity.name)
        self.setToolTip(quantity.name)
        self._leave_wheel()
        self.setButtonSymbols(QAbstractSpinBox.ButtonSymbols.NoButtons)
        self.setKeyboardTracking(False)
        self.setCorrectionMode(QAbstractSpinBox.CorrectionMode.CorrectToPreviousValue)
        self.setMinimumWidth(px(58))
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
            self._places = self.quantity.decimals + 2 if inches else self.quantity.decimals
            self.setDecimals(max(self._places, _EXACT) if self.quantity.length else self._places)
            self.setRange(self._shown(self.quantity.low), self._shown(self.quantity.high))
            self.setSingleStep(1 / 64 if inches else self.quantity.step)
            self.setSuffix(f" {self._unit.value}" if self.quantity.length else self.quantity.suffix)

    def _shown(self, amount: float) -> float:
        return from_mm(amount, self._unit) if self.quantity.length else amount

    # --- numbers as people write them ---

    def textFromValue(self, value: float) -> str:
        """Write a number in the one way that numbers are written here."""
        text = f"{value:.{self._places}f}"
        return text[1:] if text.startswith("-") and not text.strip("-0.") else text

    def valueFromText(self, text: str) -> float:
        """Read a number; the one that is shown stays what it is, however it is rounded."""
        return self.value() if self._as_shown(text) else self._read(text)

    def validate(self, text: str, position: int) -> tuple[QValidator.State, str, int]:
        """Let anything be typed; only what is understood and in range is taken."""
        try:
            if not self._as_shown(text):
                self._read(text)
        except PennelloError:
            return QValidator.State.Intermediate, text, position
        return QValidator.State.Acceptable, text, position

    def fixup(self, text: str) -> str:
        """Say what is not understood, and give back the value that was there."""
        try:
            self._read(text)
        except OutOfRangeError as error:
            self._refuse(str(error))
        except PennelloError as error:
            self._refuse(f"{self.quantity.name}: {error}")
        return self._whole()

    def _refuse(self, words: str) -> None:
        sentence = phrase("{words} It stays {whole}.", words=words, whole=self._whole())
        self.refused.emit(sentence)
        say_from(self, sentence)

    def _whole(self) -> str:
        return f"{self.textFromValue(self.value())}{self.suffix()}"

    def _as_shown(self, text: str) -> bool:
        return text.strip() in (self._whole().strip(), self.textFromValue(self.value()))

    def _read(self, text: str) -> float:
        """Return a number in the unit shown; raises PennelloError. The field's own unit may stand behind another."""
        text = text.removesuffix(self.suffix())
        if self.quantity.length:
            shown = from_mm(parse_length(text, self._unit), self._unit)
        else:
            shown = round(parse_amount(text, self.suffix()), self._places)
        low, high = self.minimum(), self.maximum()
        if not low - _SLACK <= shown <= high + _SLACK:
            ends = (self.textFromValue(low), self.textFromValue(high))
            allowed = " to ".join(end.rstrip("0").rstrip(".") if "." in end else end for end in ends)
            raise OutOfRangeError(self.quantity.name, f"{shown:g}{self.suffix()}", f"{allowed}{self.suffix()}")
        return min(max(shown, low), high)

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
        if event.type() in {QEvent.Type.StyleChange, QEvent.Type.FontChange}:
            self._give_room()

    def showEvent(self, event: QShowEvent) -> None:
        """Do so when it appears."""
        super().showEvent(event)
        self._give_room()

    def hideEvent(self, event: QHideEvent) -> None:
        """What is half typed was meant for what is taken away: it goes too, and changes nothing else.

        On a page that closes it counts: what was written there is read then.
        """
        if event.spontaneous() or not self.window().isVisible():
            super().hideEvent(event)
            return
        with QSignalBlocker(self):
            super().hideEvent(event)
        self.show_amount(self._value)

    def _give_room(self) -> None:
        room = self.rect().adjusted(4, 1, -4, -1)
        if self.lineEdit().geometry() != room:
            self.lineEdit().setGeometry(room)

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
