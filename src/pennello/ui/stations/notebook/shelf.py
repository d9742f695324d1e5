"""The shelf of the notebook: its pages by month, the latest first; thousands of them cost nothing until seen."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import QAbstractListModel, QEvent, QModelIndex, QPersistentModelIndex, Qt, Signal
from PySide6.QtGui import QFont, QKeyEvent
from PySide6.QtWidgets import QListView, QWidget

from pennello.phrases import named, phrase
from pennello.practice.records import LogPage
from pennello.units import clock

Row = str | LogPage
Index = QModelIndex | QPersistentModelIndex
_TOP = QModelIndex()


class ShelfRows(QAbstractListModel):
    """Pages with a head for each month."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.rows: list[Row] = []
        self._row_of: dict[int, int] = {}
        self._head = QFont(parent.font())
        self._head.setWeight(QFont.Weight.DemiBold)

    def put(self, pages: Sequence[LogPage]) -> None:
        """Show other pages, the latest first."""
        self.beginResetModel()
        self.rows, self._row_of, month = [], {}, ""
        for page in pages:
            if page.day[:7] != month:
                month = page.day[:7]
                self.rows.append(_month_words(month))
            self._row_of[page.id] = len(self.rows)
            self.rows.append(page)
        self.endResetModel()

    def index_of(self, number: int) -> QModelIndex:
        """Return where a page stands; nowhere if it is not there."""
        row = self._row_of.get(number)
        return _TOP if row is None else self.index(row)

    def page_at(self, index: Index) -> LogPage | None:
        """Return the page at a place; None for the head of a month."""
        row = self.rows[index.row()] if index.isValid() else ""
        return row if isinstance(row, LogPage) else None

    def rowCount(self, parent: Index = _TOP) -> int:
        """Return how many rows there are."""
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        """Return a row's words, and a strong font for a month."""
        row = self.rows[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return row if isinstance(row, str) else _line(row)
        return self._head if role == Qt.ItemDataRole.FontRole and isinstance(row, str) else None

    def flags(self, index: Index) -> Qt.ItemFlag:
        """Return that a page can be chosen, and a month cannot."""
        return super().flags(index) if self.page_at(index) is not None else Qt.ItemFlag.NoItemFlags


class PageShelf(QListView):
    """The shelf.

    Signals
    -------
    chosen(object)
        A page is chosen.
    wanted, dropped
        The page that lies open is to be changed, is to be taken out.
    """

    chosen = Signal(object)
    wanted = Signal()
    dropped = Signal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("mat")
        self.setAccessibleName(phrase("Pages by month, the latest first"))
        self.setUniformItemSizes(True)
        self.shown = ShelfRows(self)
        self.setModel(self.shown)
        self.activated.connect(lambda _: self.wanted.emit())

    def lay_open(self, number: int) -> None:
        """Mark the page that lies open, without choosing it anew."""
        index = self.shown.index_of(number)
        if index.isValid() and index != self.currentIndex():
            self.setCurrentIndex(index)

    def currentChanged(self, current: Index, previous: Index) -> None:
        """Tell which page was chosen."""
        super().currentChanged(current, previous)
        page = self.shown.page_at(current)
        if page is not None:
            self.chosen.emit(page)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Delete takes out the page that lies open."""
        if event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Delete:
            self.dropped.emit()
        else:
            super().keyPressEvent(event)


_MONTHS = (
    phrase("January"),
    phrase("February"),
    phrase("March"),
    phrase("April"),
    phrase("May"),
    phrase("June"),
    phrase("July"),
    phrase("August"),
)
_LATER = (phrase("September"), phrase("October"), phrase("November"), phrase("December"))


def _month_words(month: str) -> str:
    try:
        return f"{(*_MONTHS, *_LATER)[int(month[5:7]) - 1]} {month[:4]}"
    except (ValueError, IndexError):
        return month


def _line(page: LogPage) -> str:
    time = f", {phrase('{painted} min', painted=clock(page.painted_s))}" if page.painted_s else ""
    wrong = "".join(f" · {named(one.trouble)}" for one in page.faults[:2])
    return f"{page.day[8:10]}  {page.title}{f', {page.part}' if page.part else ''}{time}{wrong}"
