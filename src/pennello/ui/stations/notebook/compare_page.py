"""Two pages of the notebook side by side, the steps of a run, and totals by month."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QSize
from PySide6.QtWidgets import (
    QDialog,
    QTableWidget,
    QVBoxLayout,
    QWidget,
)

from pennello.phrases import named, phrase, told
from pennello.practice.records import LogPage
from pennello.session.log import MonthSum
from pennello.ui.stations.notebook.book import Spread, figures_of
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.passing import throw_away
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import foot_row
from pennello.ui.widgets.tables import told_table
from pennello.units import clock

Picture = NDArray[np.uint8]
Differs = Callable[[LogPage, LogPage], tuple[tuple[str, str, str], ...]]


class ComparePage(QDialog):
    """What differs between the open page and another one, with their photos."""

    def __init__(
        self,
        page: LogPage,
        others: Sequence[LogPage],
        picture: Callable[[str], Picture | None],
        differs: Differs,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Compare {page}, {day}", page=page.title, day=page.day[:10]))
        self.resize(QSize(900, 660))
        self._page, self._others, self._picture, self._differs = page, others, picture, differs
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(16, 12, 16, 12)
        self.other = ChoiceBox()
        self.other.setAccessibleName(phrase("The page to compare with"))
        for one in others:
            self.other.addItem(f"{one.day[:10]}  {one.title}", one.id)
        self.other.activated.connect(lambda _: self.refresh())
        self._column.addWidget(self.other)
        self.spread = Spread(self)
        self.spread.words = (f"{page.day[:10]}", phrase("the other"))
        self._column.addWidget(self.spread, 1)
        self.table: QTableWidget | None = None
        self._column.addLayout(foot_row(self))
        self.refresh()

    def _photo_of(self, page: LogPage) -> Picture | None:
        """Return a page's photo, or what was planned where there is none."""
        return self._picture(page.photo or page.picture)

    def refresh(self) -> None:
        """Show the pair that is chosen."""
        other = self._others[max(self.other.currentIndex(), 0)]
        self.spread.words = (self._page.day[:10], other.day[:10])
        self.spread.show_pictures(self._photo_of(self._page), self._photo_of(other))
        if self.table is not None:
            self._column.removeWidget(self.table)
            throw_away(self.table)
        rows = [(told(what), mine, theirs) for what, mine, theirs in self._differs(self._page, other)]
        self.table = told_table(("", phrase("this page"), phrase("the other")), rows, phrase("What differs"))
        self._column.insertWidget(2, self.table, 1)


class StepsPage(QDialog):
    """How long each step of a run took, against what was predicted."""

    def __init__(self, page: LogPage, rows: Sequence[Sequence[str]], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("{page}, {day}: step by step", page=page.title, day=page.day[:10]))
        self.resize(QSize(760, 560))
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        form = phrase("the short form") if page.short else phrase("the whole")
        column.addWidget(
            Label(
                phrase(
                    "{form}. {figures_of} All times are minutes and seconds.",
                    form=form.capitalize(),
                    figures_of=figures_of(page),
                )
            )
        )
        self.table = told_table(
            (phrase("step"), phrase("predicted"), phrase("took"), phrase("apart")), rows, phrase("Steps of the run")
        )
        column.addWidget(self.table, 1)
        column.addLayout(foot_row(self))


class MonthsPage(QDialog):
    """Totals by month."""

    def __init__(self, sums: Sequence[MonthSum], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Totals by month"))
        self.resize(QSize(720, 420))
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        if not sums:
            column.addWidget(Label(phrase("No page is written yet.")))
        rows = [
            (
                one.month,
                str(one.pages),
                phrase("{painted_s} min", painted_s=clock(one.painted_s)) if one.painted_s else phrase("not timed"),
                phrase("{planned_s} min", planned_s=clock(one.planned_s)) if one.planned_s else "",
                ", ".join(f"{count} {named(trouble)}" for trouble, count in one.troubles) or phrase("nothing"),
            )
            for one in sums
        ]
        columns = (phrase("month"), phrase("pages"), phrase("painted"), phrase("predicted"), phrase("went wrong"))
        self.table = told_table(columns, rows, phrase("Totals by month"))
        column.addWidget(self.table, 1)
        column.addLayout(foot_row(self))
