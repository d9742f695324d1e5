"""What the Day writes: the menu board, the pick card, lists, the quote, the books."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QWidget

from pennello.phrases import phrase
from pennello.session.exports import Work, day_table, hygiene_list, menu_board, packing_list, pick_card, quote
from pennello.ui.exporting import Exporter, Printed
from pennello.ui.stations.day.model import DayModel
from pennello.ui.widgets.asking import ask_target


class DayWritten:
    """Asks where each is to be written, and writes it.

    Parameters
    ----------
    parent
        Over what the files are asked for.
    """

    def __init__(self, model: DayModel, exporter: Exporter, parent: QWidget) -> None:
        self._model, self._exporter, self._parent = model, exporter, parent

    def rows(self) -> tuple[tuple[str, Callable[[], object]], ...]:
        """Return the rows of a menu of all that is written."""
        return (
            (phrase("Menu board, A4 ..."), lambda: self.ask_board("A4")),
            (phrase("Menu board, A3 ..."), lambda: self.ask_board("A3")),
            (phrase("Menu board, Letter ..."), lambda: self.ask_board("Letter")),
            (phrase("Pick card by colours ..."), self.ask_pick),
            (phrase("Packing list ..."), self.ask_bag),
            (phrase("Hygiene list ..."), self.ask_hygiene),
            (phrase("Quote ..."), self.ask_quote),
            (phrase("Calendar or books ..."), self.ask_table),
        )

    def papers(self) -> tuple[Printed, ...]:
        """Return what can be printed."""
        event, faces = self._model.day, self._model.faces
        return (
            Printed(phrase("Menu board"), partial(menu_board, event, ""), "menu"),
            Printed(phrase("Pick card"), partial(pick_card, event), "pick"),
            Printed(phrase("Packing list"), partial(packing_list, event, faces, self._model.bag()), "bag"),
            Printed(phrase("Hygiene list"), partial(hygiene_list, event), "hygiene"),
            Printed(phrase("Quote"), partial(quote, event, faces), "quote"),
        )

    def ask_board(self, size: str) -> None:
        """Write the menu board as a PDF."""
        self._write(phrase("Menu board"), "menu.pdf", partial(menu_board, self._model.day, size))

    def ask_pick(self) -> None:
        """Write the pick card as a PDF."""
        self._write(phrase("Pick card"), "pick.pdf", partial(pick_card, self._model.day))

    def ask_bag(self) -> None:
        """Write the packing list as a PDF."""
        make = partial(packing_list, self._model.day, self._model.faces, self._model.bag())
        self._write(phrase("Packing list"), "bag.pdf", make)

    def ask_hygiene(self) -> None:
        """Write the hygiene list as a PDF."""
        self._write(phrase("Hygiene list"), "hygiene.pdf", partial(hygiene_list, self._model.day))

    def ask_quote(self) -> None:
        """Write a quote as a PDF."""
        self._write(phrase("Quote"), "quote.pdf", partial(quote, self._model.day, self._model.faces))

    def ask_table(self) -> None:
        """Write the books as CSV, or the event as iCalendar."""
        self._write(phrase("Books or calendar"), "day.csv", partial(day_table, self._model.day), (".csv", ".ics"))

    def _write(self, title: str, name: str, make: Callable[[Path], Work], endings: tuple[str, ...] = (".pdf",)) -> None:
        target = ask_target(self._parent, title, Path.home() / name, endings)
        if target is not None:
            self._exporter.write(target.name, make(target))
