"""A station with steps of its own to undo, and one page open over it at a time."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QDialog, QLayout, QVBoxLayout, QWidget

from pennello.session.document import Document
from pennello.ui.exporting import Exporter
from pennello.ui.station import Station, UndoRedo, Workplace
from pennello.ui.widgets.passing import goes_when_closed


class PagedStation(QWidget, Station):
    """What such stations share; who derives from it has a model that is undone.

    Signals
    -------
    said(str)
    """

    said = Signal(str)
    model: Any

    def __init__(self, document: Document, exporter: Exporter, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.document, self._exporter = document, exporter
        self.page: QDialog | None = None

    def _column_under(self, head: QLayout) -> QVBoxLayout:
        """Return the column that all of the station lies in, beneath its head."""
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 4, 10, 10)
        column.setSpacing(6)
        column.addLayout(head)
        return column

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return the station, made for a window."""
        made = cls(place.document, place.exporter)
        made.said.connect(place.say)
        return made

    @property
    def history(self) -> UndoRedo | None:
        """Undo goes through the model's own steps here."""
        model: UndoRedo = self.model
        return model

    def close_all(self) -> None:
        """The window closes."""
        self.model.close_all()

    def open_page(self, page: QDialog) -> None:
        """Open a page over the station; it goes when it is closed."""
        self.page = page
        goes_when_closed(page)
        page.finished.connect(lambda _: self._let_go(page))
        page.open()

    def _let_go(self, page: QDialog) -> None:
        if self.page is page:
            self.page = None
        self.page_closed()

    def page_closed(self) -> None:
        """A page was closed."""
