"""The Notebook station: an open book of what was planned and painted, a shelf of months, and a tray of sheets."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from pathlib import Path

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from pennello.colour.families import ColourFamily
from pennello.design.plan import Plan
from pennello.disk import exists, kept_path, path_of
from pennello.errors import PennelloError
from pennello.files.plan_json import read_plan
from pennello.phrases import named, phrase, plural
from pennello.practice.lessons import Lesson
from pennello.practice.records import LogPage
from pennello.practice.trouble import Trouble
from pennello.session.copies import page_rows
from pennello.session.document import Document
from pennello.session.exports import notebook_page, notebook_table
from pennello.session.log import compared, months, now_text, picture_of, step_rows, steps_of
from pennello.ui.copying import Copied
from pennello.ui.exporting import Exporter, Printed
from pennello.ui.paged_station import PagedStation
from pennello.ui.stations.notebook.book import Book
from pennello.ui.stations.notebook.model import BookModel
from pennello.ui.stations.notebook.page_form import PageForm
from pennello.ui.stations.notebook.shelf import PageShelf
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_target
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.menus import menu_button
from pennello.ui.widgets.plain import Label
from pennello.ui.work import guarded

SHELF_PX = 250


class NotebookStation(PagedStation):
    """The notebook."""

    def __init__(self, document: Document, exporter: Exporter, parent: QWidget | None = None) -> None:
        super().__init__(document, exporter, parent)
        self.model = BookModel(self)
        column = self._column_under(self._head())
        middle = QHBoxLayout()
        middle.setSpacing(8)
        middle.addWidget(self._shelf())
        middle.addWidget(self._table(), 1)
        column.addLayout(middle, 1)
        column.addLayout(self._tray())
        self.model.changed.connect(self.show_shelf)
        self.model.opened.connect(self.show_page)
        self.model.pictured.connect(self._show_pictures)
        self.model.stepped.connect(self._show_steps)
        self.model.said.connect(self.said)

    def enter(self) -> None:
        """It is shown: what runs and other programs wrote is read."""
        self.model.read()
        self.shelf.setFocus()

    def show_theme(self) -> None:
        """Another theme is worn."""
        self.book.spread.update()

    # --- what stands where ---

    def _head(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(6)
        title = Label(phrase("Notebook"))
        title.setObjectName("station")
        self.search = QLineEdit()
        self.search.setPlaceholderText(phrase("Search: words, what people chose, what went wrong"))
        self.search.setAccessibleName(phrase("Words that a page has to say"))
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda _: self._look())
        self.colour, self.trouble = (
            choice(phrase("Only pages of a colour")),
            choice(phrase("Only what went wrong")),
        )
        fill(self.colour, [(phrase("any colour"), ""), *((named(one), one.value) for one in ColourFamily)], "")
        fill(
            self.trouble, [(phrase("all that went wrong or well"), None), *((named(one), one) for one in Trouble)], None
        )
        for box in (self.colour, self.trouble):
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
            box.activated.connect(lambda _: self._look())
        self.more = menu_button(phrase("More ..."), phrase("Compare, write out, totals"))
        self._fill_more(self.more.menu())
        self.write = QPushButton(phrase("Write a page"))
        self.write.setProperty("main", True)
        self.write.clicked.connect(lambda _=False: self.write_page())
        head.addWidget(title)
        head.addWidget(self.search, 1)
        for widget in (self.colour, self.trouble, self.more, self.write):
            head.addWidget(widget)
        return head

    def _fill_more(self, menu: QMenu | None) -> None:
        assert menu is not None, "the button has a menu"
        for words, act in (
            (phrase("Compare with another page ..."), self.compare),
            (phrase("Totals by month ..."), self.show_months),
            (phrase("This page as PDF ..."), self.ask_page_pdf),
            (phrase("All pages shown, as CSV or calendar ..."), self.ask_table),
        ):
            menu.addAction(words).triggered.connect(lambda _=False, do=act: do())
        menu.addSeparator()
        self.asked = menu.addAction(phrase("Write out what people asked for, too"))
        self.asked.setCheckable(True)

    def _shelf(self) -> QWidget:
        self.shelf = PageShelf()
        self.shelf.setFixedWidth(px(SHELF_PX))
        self.shelf.chosen.connect(self._choose)
        self.shelf.wanted.connect(self.change_page)
        self.shelf.dropped.connect(self.model.remove)
        return self.shelf

    def _table(self) -> QWidget:
        card = QFrame()
        card.setObjectName("mat")
        column = QVBoxLayout(card)
        column.setContentsMargins(12, 8, 12, 8)
        self.book = Book(card)
        self.book.change.clicked.connect(lambda _=False: self.change_page())
        self.book.by_step.clicked.connect(lambda _=False: self.show_steps())
        self.book.out.clicked.connect(lambda _=False: self.model.remove())
        self.empty = QWidget()
        inside = QVBoxLayout(self.empty)
        self.empty_words = Label("")
        self.empty_words.setObjectName("headline")
        self.empty_words.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.empty_words.setWordWrap(True)
        first = QPushButton(phrase("Write the first page"))
        first.setProperty("main", True)
        first.clicked.connect(lambda _=False: self.write_page())
        self.first = first
        inside.addStretch(1)
        inside.addWidget(self.empty_words)
        inside.addWidget(first, 0, Qt.AlignmentFlag.AlignCenter)
        inside.addStretch(1)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.empty)
        self.stack.addWidget(self.book)
        column.addWidget(self.stack)
        return card

    def _tray(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        note = Label(phrase("To print, paint and photograph:"))
        note.setObjectName("note")
        row.addWidget(note)
        for words, hint, act in (
            (phrase("Calibration card"), phrase("Let brush and paints be your own"), self.show_card),
            (
                phrase("Practice sheets"),
                phrase("Any stroke, load or part at true scale, scored from a photo"),
                self.show_sheets,
            ),
            (phrase("Lessons"), phrase("From straight sweeps to a rose"), self.show_lessons),
            (phrase("What is mine"), phrase("Your hand, pace, brushes and paints, and the way back"), self.show_mine),
        ):
            button = QPushButton(words)
            button.setProperty("chip", True)
            button.setToolTip(hint)
            button.clicked.connect(lambda _=False, do=act: do())
            row.addWidget(button)
        row.addStretch(1)
        self.sums = Label("")
        self.sums.setObjectName("note")
        row.addWidget(self.sums)
        return row

    # --- pages ---

    def _look(self) -> None:
        wanted = replace(
            self.model.wanted,
            words=self.search.text(),
            colour=self.colour.currentData() or "",
            trouble=self.trouble.currentData(),
        )
        self.model.look_for(wanted)

    def show_shelf(self) -> None:
        """Show the pages that are looked for, by month."""
        with QSignalBlocker(self.shelf):
            self.shelf.shown.put(self.model.pages)
        count = len(self.model.pages)
        self.sums.setText(plural(count, "{count} page", "{count} pages"))

    def show_page(self) -> None:
        """Show the page that lies open."""
        page = self.model.current
        if page is None:
            anything = bool(self.model.log.pages)
            self.empty_words.setText(
                phrase("No page says that.")
                if anything
                else phrase("Nothing is written yet. Every run at the chair gets its page by itself; others you write.")
            )
            self.first.setVisible(not anything)
            self.stack.setCurrentWidget(self.empty)
            return
        self.stack.setCurrentWidget(self.book)
        self.book.show_page(page)
        with QSignalBlocker(self.shelf):
            self.shelf.lay_open(page.id)

    def _show_pictures(self, number: int, planned: object, painted: object) -> None:
        if self.model.current is not None and self.model.current.id == number:
            self.book.spread.show_pictures(planned, painted)  # type: ignore[arg-type]

    def _show_steps(self, number: int, words: str) -> None:
        if self.model.current is not None and self.model.current.id == number:
            self.book.show_steps(words)

    def _choose(self, page: LogPage) -> None:
        self.model.open_page(page)

    def write_page(self) -> None:
        """Write a page about the plan that is open."""
        self._write_page(None)

    def write_page_with(self, photo: Path) -> None:
        """Write a page about the plan that is open, with a photo of what was painted."""
        self._write_page(photo)

    def _write_page(self, photo: Path | None) -> None:
        plan = self.document.committed
        path = kept_path(self.document.path)
        self._form(LogPage(now_text(), plan.title, plan=path), plan, picture=True, photo=photo)

    def change_page(self) -> None:
        """Change the page that lies open."""
        page = self.model.current
        if page is not None:
            self._form(page, _plan_of(page), picture=False)

    def _form(self, page: LogPage, plan: Plan | None, *, picture: bool, photo: Path | None = None) -> None:
        form = PageForm(page, plan, self)
        if photo is not None:
            form.take_photo(photo)
        form.accepted.connect(lambda: self._keep(form, plan if picture else None))
        self.open_page(form)
        if plan is not None:
            self.model.look_at(plan, form, form.take_findings)

    def _keep(self, form: PageForm, plan: Plan | None) -> None:
        self.model.keep_with(form.page, plan if plan is not None and plan.motifs else None, form.photo)

    def page_closed(self) -> None:
        """A page was closed: what it kept is read."""
        self.model.read()

    # --- more ---

    def compare(self) -> None:
        """Choose another page and show what differs."""
        from pennello.ui.stations.notebook.compare_page import ComparePage  # noqa: PLC0415 - only when wanted

        page = self.model.current
        others = tuple(one for one in self.model.log.pages if page is not None and one.id != page.id)
        if page is None or not others:
            self.said.emit(phrase("There is no other page to compare with yet."))
            return
        self.open_page(ComparePage(page, others, lambda name: picture_of(name, self.model.log.path), compared, self))

    def show_steps(self) -> None:
        """Show how long each step of the open page's run took."""
        from pennello.ui.stations.notebook.compare_page import StepsPage  # noqa: PLC0415 - only when wanted

        page = self.model.current
        if page is not None:
            guarded(
                lambda: self.open_page(StepsPage(page, step_rows(steps_of(page, self.model.log.path)), self)),
                self.said.emit,
            )

    def show_months(self) -> None:
        """Show totals by month."""
        from pennello.ui.stations.notebook.compare_page import MonthsPage  # noqa: PLC0415 - only when wanted

        self.open_page(MonthsPage(months(self.model.pages), self))

    def papers(self) -> tuple[Printed, ...]:
        """The page that lies open; what a person asked for only where that is ticked."""
        page = self.model.current
        if page is None:
            return ()
        work = partial(notebook_page, page, self.model.log.path, asked=self.asked.isChecked())
        return (Printed(phrase("This page"), work, "page"),)

    def copied(self) -> Copied:
        """The pages that are shown, as a table."""
        pages = self.model.pages
        return Copied(phrase("the pages as a table"), table=lambda _: page_rows(pages))

    def ask_page_pdf(self) -> None:
        """Write the open page as a PDF; what a person asked for only where that is ticked."""
        page = self.model.current
        target = ask_target(self, phrase("This page as PDF"), Path.home() / "page.pdf", (".pdf",)) if page else None
        if page is not None and target is not None:
            work = notebook_page(page, self.model.log.path, target, asked=self.asked.isChecked())
            self._exporter.write(target.name, work)

    def ask_table(self) -> None:
        """Write the pages that are shown as CSV or iCalendar; what people asked for only where that is ticked."""
        target = ask_target(self, phrase("All pages shown"), Path.home() / "notebook.csv", (".csv", ".ics"))
        if target is not None:
            self._exporter.write(target.name, notebook_table(self.model.pages, target, asked=self.asked.isChecked()))

    # --- the tray ---

    def show_card(self) -> None:
        """Show the calibration card of the open plan's loads."""
        from pennello.ui.stations.notebook.card_page import CardPage  # noqa: PLC0415 - only when wanted

        self.open_page(CardPage(self.document, self._exporter, self.model.log.path, self))

    def show_sheets(self) -> None:
        """Show practice sheets of what the open plan has."""
        self._sheet(None)

    def _sheet(self, lesson: Lesson | None) -> None:
        from pennello.ui.stations.notebook.sheet_page import SheetPage  # noqa: PLC0415 - only when wanted

        def show() -> None:
            self.open_page(SheetPage(self.document.committed, self._exporter, self.model.log.path, self, lesson))

        guarded(show, self.said.emit)

    def show_lessons(self) -> None:
        """Show the lessons."""
        from pennello.ui.stations.notebook.lessons_page import LessonsPage  # noqa: PLC0415 - only when wanted

        def begin(lesson: Lesson) -> None:
            page.close()
            self._sheet(lesson)

        page = LessonsPage(self.model.log.path, self.document.committed, begin, self)
        self.open_page(page)

    def show_mine(self) -> None:
        """Show what is the painter's own."""
        from pennello.ui.stations.notebook.mine_page import MinePage  # noqa: PLC0415 - only when wanted

        self.open_page(MinePage(self.document, self.model.log.path, self))


def _plan_of(page: LogPage) -> Plan | None:
    if not page.plan or not exists(path_of(page.plan)):
        return None
    try:
        return read_plan(path_of(page.plan))
    except PennelloError:
        return None
