"""The event as it is written down: name, place, hours, who comes and how, what is paid."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import Any, TypeVar

from PySide6.QtCore import QDate, QTime
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLayout,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from pennello.day.event import (
    Arrivals,
    Break,
    Event,
    cakes_taken,
    parse_clock,
    parse_curve,
    parse_prices,
    prices_text,
    rest_of,
    with_hours,
)
from pennello.errors import PennelloError
from pennello.limits import MOST_NAME, MOST_STEP_NAME
from pennello.phrases import phrase
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.wheel import DateField, TimeField

_T = TypeVar("_T")
_SAYS = {
    Arrivals.EVEN: phrase("evenly all the time"),
    Arrivals.RUSH: phrase("in a rush at the start"),
    Arrivals.WAVES: phrase("in waves"),
    Arrivals.CURVE: phrase("by an own curve"),
}
PAINTERS = Quantity(phrase("How many paint"), 1, 50, 1, 0)
PEOPLE = Quantity(phrase("People expected"), 0, 5000, 5, 0)
LIMIT = Quantity(phrase("Longest wait that you want"), 1, 600, 5, 0, phrase(" min"))
CHILDREN = Quantity(phrase("Share of small children"), 0, 100, 5, 0, " %")


class EventForm(QDialog):
    """Everything about an event but its menu; what is accepted is in `wished`."""

    def __init__(self, event: Event, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("The event"))
        self.resize(560, 560)
        self._event = event
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        form = QFormLayout()
        for words, row in self._rows():
            form.addRow(words, row)
        column.addLayout(form)
        self.words = Label("")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        column.addStretch(1)
        foot = LeaveOrTake(self, phrase("Take it"))
        self.take = foot.take
        self.take.clicked.disconnect()
        self.take.clicked.connect(lambda _=False: self._try())
        column.addLayout(foot)

    def _rows(self) -> list[tuple[str, QWidget | QLayout]]:
        rows = [*self._place_rows(), *self._people_rows(), *self._money_rows()]
        self._lines = {line: line.text() for line in (self.rests, self.curve, self.prices, self.extras)}
        self._first_day = self.day.date()
        self._hours = (self.begins.time(), self.ends.time())
        return rows

    def _place_rows(self) -> list[tuple[str, QWidget | QLayout]]:
        event = self._event
        self.name, self.place = QLineEdit(event.name), QLineEdit(event.place)
        self.name.setMaxLength(MOST_NAME)
        self.place.setMaxLength(MOST_STEP_NAME)
        self.fixed = QCheckBox(phrase("on"))
        self.fixed.setChecked(bool(event.day))
        self.day = DateField()
        self.day.setDate(QDate.fromString(event.day, "yyyy-MM-dd") if event.day else QDate.currentDate())
        self.day.setCalendarPopup(True)
        self.day.setDisplayFormat("yyyy-MM-dd")
        self.day.setEnabled(bool(event.day))
        self.fixed.toggled.connect(self.day.setEnabled)
        self.begins, self.ends = (_time(at) for at in (event.begins_min, event.ends_min))
        self.rests = QLineEdit(", ".join(f"{_text(one.begins_min)}-{_text(one.ends_min)}" for one in event.breaks))
        self.rests.setPlaceholderText(phrase("20:00-20:10, none if empty"))
        return [
            (phrase("Name"), self.name),
            (phrase("Place"), self.place),
            (phrase("Day"), _side(self.fixed, self.day)),
            (phrase("From, to"), _side(self.begins, self.ends)),
            (phrase("Breaks"), self.rests),
        ]

    def _people_rows(self) -> list[tuple[str, QWidget | QLayout]]:
        event = self._event
        self.hands, self.people = _number(PAINTERS, event.painters), _number(PEOPLE, event.people)
        self.limit, self.small = _number(LIMIT, event.limit_min), _number(CHILDREN, 100 * event.children)
        self.arrivals = ChoiceBox()
        for one in Arrivals:
            self.arrivals.addItem(_SAYS[one], one)
        self.arrivals.setCurrentIndex(self.arrivals.findData(event.arrivals))
        self.curve = QLineEdit(", ".join(f"{one:.12g}" for one in event.curve))
        self.curve.setPlaceholderText(phrase("3, 2, 1, 1: how many in each equal part of the time"))
        return [
            (phrase("Painters, people"), _side(self.hands, self.people)),
            (phrase("They come"), _side(self.arrivals, self.curve)),
            (phrase("Small children"), self.small),
            (phrase("Longest wait"), self.limit),
        ]

    def _money_rows(self) -> list[tuple[str, QWidget | QLayout]]:
        event = self._event
        self.currency = QLineEdit(event.currency)
        self.money = {
            name: _number(Quantity(words, 0, 1e6, 1, 2, f" {event.currency}"), getattr(event, name))
            for name, words in _MONEY
        }
        self.prices, self.extras = QLineEdit(prices_text(event.prices)), QLineEdit("; ".join(event.extras))
        self.prices.setPlaceholderText(phrase("Dahlia wrist 0.60; White 0.45"))
        self.prices.setToolTip(
            phrase("Cakes and pans of the menu: {cakes_taken}", cakes_taken=", ".join(cakes_taken(event)) or "none yet")
        )
        self.extras.setPlaceholderText(phrase("horns; ribbons: what no design of the menu names"))
        return [
            (phrase("Currency"), self.currency),
            *((words, self.money[name]) for name, words in _MONEY),
            (phrase("Grams at other prices"), self.prices),
            (phrase("Also to pack"), self.extras),
        ]

    @property
    def wished(self) -> Event:
        """The event as it is written; raises PennelloError where it cannot be."""
        event = self._event
        money: dict[str, Any] = {name: field.amount for name, field in self.money.items()}
        plain = replace(
            event,
            breaks=(),
            name=self.name.text().strip() or phrase("Event"),
            place=self.place.text().strip(),
            day=self._written_day if self.fixed.isChecked() else "",
            painters=round(self.hands.amount),
            people=round(self.people.amount),
            arrivals=self.arrivals.currentData(),
            curve=self._told(self.curve, event.curve, parse_curve),
            children=self.small.amount / 100,
            limit_min=self.limit.amount,
            currency=self.currency.text().strip() or "€",
            prices=self._told(self.prices, event.prices, lambda text: parse_prices(text, cakes_taken(event))),
            extras=self._told(self.extras, event.extras, _extras),
            **money,
        )
        hours = (self.begins.time(), self.ends.time())
        if hours == self._hours:
            return replace(plain, breaks=self._told(self.rests, event.breaks, partial(_rests, plain)))
        plain = with_hours(plain, *map(_minutes, hours))
        return replace(plain, breaks=_rests(plain, self.rests.text()))

    @property
    def _written_day(self) -> str:
        """The day as it is shown; one before the calendar of the field stays, unless another is chosen."""
        kept = self._event.day and self.day.date() == self._first_day
        return self._event.day if kept else self.day.date().toString("yyyy-MM-dd")

    def _told(self, line: QLineEdit, before: _T, read: Callable[[str], _T]) -> _T:
        """Return what a line says; one that nobody touched says what it was made from, however that was rounded."""
        return read(line.text()) if line.text() != self._lines[line] else before

    def _try(self) -> None:
        try:
            _ = self.wished
        except PennelloError as error:
            self.words.setText(str(error))
        else:
            self.accept()


_MONEY = (
    ("per_face", phrase("Price of a face")),
    ("per_hour", phrase("Price of an hour")),
    ("travel", phrase("The way there and back")),
    ("own_hour", phrase("An hour of yours")),
    ("per_gram", phrase("A gram of paint")),
    ("per_sponge", phrase("A sponge thrown away")),
)


def _rests(event: Event, text: str) -> tuple[Break, ...]:
    spans = [part.partition("-") for part in (one.strip() for one in text.split(",")) if part]
    return tuple(rest_of(event, parse_clock(start), parse_clock(end)) for start, _, end in spans)


def _extras(text: str) -> tuple[str, ...]:
    return tuple(dict.fromkeys(part.strip() for part in text.split(";") if part.strip()))


def _number(quantity: Quantity, amount: float) -> NumberField:
    field = NumberField(quantity)
    field.show_amount(amount)
    return field


def _time(minutes: float) -> TimeField:
    field = TimeField()
    field.setTime(QTime(int(minutes // 60) % 24, int(minutes % 60)))
    field.setDisplayFormat("HH:mm")
    return field


def _minutes(time: QTime) -> float:
    return 60.0 * time.hour() + time.minute()


def _text(minutes: float) -> str:
    return f"{int(minutes // 60) % 24}:{int(minutes % 60):02d}"


def _side(*widgets: QWidget) -> QHBoxLayout:
    row = QHBoxLayout()
    for one in widgets:
        row.addWidget(one, 1)
    return row
