"""The Day station: the evening as one picture, the menu as cards below it, the bag at the right."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QSignalBlocker, Qt, QTimer
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from pennello.day.bag import to_buy
from pennello.day.books import report
from pennello.day.event import Event, MenuItem, clock_text, with_item, without_item
from pennello.day.menu import weigh
from pennello.day.queue import sentences
from pennello.design.plan import Plan
from pennello.disk import exists, kept_path, path_of
from pennello.files.day_json import SUFFIX, demo_event
from pennello.phrases import phrase, plural
from pennello.session.copies import day_rows
from pennello.session.day import SHIPPED, booked, free_key, known_events, noted, plan_of
from pennello.session.document import Document
from pennello.session.kit import KitSession
from pennello.session.log import open_log
from pennello.session.settings import with_event
from pennello.ui.copying import Copied
from pennello.ui.exporting import Exporter, Printed
from pennello.ui.paged_station import PagedStation
from pennello.ui.station import Station, Workplace
from pennello.ui.stations.day.bag_icons import ICON
from pennello.ui.stations.day.evening import EveningView
from pennello.ui.stations.day.menu_card import MenuCard, card_high
from pennello.ui.stations.day.model import DayModel
from pennello.ui.stations.day.written import DayWritten
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_source, ask_target
from pennello.ui.widgets.menus import menu_button
from pennello.ui.widgets.passing import throw_away
from pennello.ui.widgets.plain import Label, Paragraph, tip
from pennello.ui.work import guarded

BAG_PX = 292
_NAME = Qt.ItemDataRole.UserRole


class DayStation(PagedStation):
    """The day."""

    def __init__(self, document: Document, exporter: Exporter, parent: QWidget | None = None) -> None:
        super().__init__(document, exporter, parent)
        self.model = DayModel(self)
        self.written = DayWritten(self.model, exporter, self)
        self.run_plan: Callable[[Plan, Path | None, bool], None] | None = None
        self.others: Callable[[], tuple[Path, ...]] = tuple
        self.cards: dict[str, MenuCard] = {}
        self._menu_of: tuple[MenuItem, ...] = ()
        column = self._column_under(self._head())
        middle = QHBoxLayout()
        middle.setSpacing(8)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addWidget(self._evening_card(), 3)
        left.addWidget(self._menu_card(), 2)
        middle.addLayout(left, 1)
        middle.addWidget(self._bag_card())
        column.addLayout(middle, 1)
        self.model.changed.connect(self.refresh)
        self.model.shown.connect(self._show_evening)
        self.model.pictured.connect(self._show_picture)
        self.model.packed.connect(self._show_bag)
        self.model.paced.connect(self.again.setVisible)
        self.model.said.connect(self.said)
        self.refresh()

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return the Day, made for a window."""
        made = super().at(place)
        assert isinstance(made, cls), "it is the Day"
        made.run_plan = place.run_plan
        made.go_on_with(place)
        return made

    def go_on_with(self, place: Workplace) -> None:
        """Go on with the event that was open last, and remember the one that is."""
        self.others = lambda: tuple(Path(one) for one in place.settings().events)
        last = place.settings().event
        if last and exists(Path(last)):
            self.open_file(Path(last))

        def remember() -> None:
            path = str(self.model.session.path or "")
            if path != place.settings().event:
                place.settle(with_event(place.settings(), path))

        self.model.changed.connect(remember)

    @property
    def day(self) -> Event:
        """The event."""
        event: Event = self.model.day
        return event

    def enter(self) -> None:
        """It is shown."""
        self.model.enter()

    def leave(self) -> None:
        """Another station is shown."""
        self.model.leave()

    def show_theme(self) -> None:
        """Another theme is worn."""
        self.evening.update()
        self.model.draw_anew()

    # --- what stands where ---

    def _head(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(6)
        station = Label(phrase("Day"))
        station.setObjectName("station")
        self.title = Label("")
        self.title.setObjectName("strong")
        self._build_menus()
        head.addWidget(station)
        head.addWidget(self.title)
        head.addStretch(1)
        head.addWidget(self.file)
        head.addWidget(self.paper)
        for words, hint, act in (
            (phrase("The event ..."), phrase("Hours, people, prices"), self.show_event),
            (phrase("What if ..."), phrase("Short forms, one more painter, batches"), self.show_what_if),
            (phrase("After the day ..."), phrase("What it came to"), self.show_report),
        ):
            head.addWidget(_chip(words, hint, act))
        self.today = QPushButton(phrase("Today's board"))
        self.today.setProperty("main", True)
        self.today.clicked.connect(lambda _=False: self.show_today())
        head.addWidget(self.today)
        return head

    def _build_menus(self) -> None:
        """Make the menus of the head: the event's file, and what is printed of it."""
        self.file = menu_button(phrase("File"), phrase("Another event, open one, keep this one"))
        self.paper = menu_button(
            phrase("Paper"), phrase("Board, pick card, packing list, hygiene list, quote, calendar")
        )
        for menu, rows in (
            (
                self.file.menu(),
                (
                    (phrase("A new event"), self.new_event),
                    (phrase("The Saltmarsh Lantern Walk"), self.open_demo),
                    (phrase("All events ..."), self.show_events),
                    (phrase("Open ..."), self.ask_open),
                    (phrase("Keep it as ..."), self.ask_keep),
                ),
            ),
            (
                self.paper.menu(),
                self.written.rows(),
            ),
        ):
            _fill(menu, rows)

    def _evening_card(self) -> QWidget:
        card = QFrame()
        card.setObjectName("mat")
        column = QVBoxLayout(card)
        column.setContentsMargins(10, 6, 10, 6)
        self.evening = EveningView(card)
        self.told = Paragraph()
        column.addWidget(self.evening, 1)
        column.addWidget(self.told)
        return card

    def _menu_card(self) -> QWidget:
        card = QWidget()
        column = QVBoxLayout(card)
        column.setContentsMargins(0, 0, 0, 0)
        row = QHBoxLayout()
        head = Label(phrase("Menu"))
        head.setObjectName("station")
        row.addWidget(head)
        self.weighed = Label("")
        self.weighed.setObjectName("note")
        row.addWidget(self.weighed, 1)
        for words, hint, act in (
            (phrase("Put this plan on it"), phrase("The plan that is open, with its true minutes"), self.add_plan),
            (
                phrase("The best eight"),
                phrase("Which eight serve most people, share loads and offer every colour"),
                self.take_best,
            ),
            (phrase("Show it large"), phrase("The menu on the whole screen, for the queue"), self.show_board),
        ):
            row.addWidget(_chip(words, hint, act))
        self.again = _chip(
            phrase("Your pace has changed"), phrase("Work out the minutes of the menu again, with it"), self.work_out
        )
        self.again.hide()
        row.insertWidget(2, self.again)
        column.addLayout(row)
        inner = QWidget()
        self.row = QHBoxLayout(inner)
        self.row.setContentsMargins(0, 0, 0, 0)
        self.row.addStretch(1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(inner)
        area.setMinimumHeight(card_high())
        column.addWidget(area, 1)
        return card

    def _bag_card(self) -> QWidget:
        card = QFrame()
        card.setObjectName("mat")
        card.setFixedWidth(px(BAG_PX))
        column = QVBoxLayout(card)
        column.setContentsMargins(10, 6, 10, 6)
        head = Label(phrase("The bag"))
        head.setObjectName("station")
        self.bag_words = Label("")
        self.bag_words.setObjectName("note")
        self.bag_words.setWordWrap(True)
        self.bag = QListWidget()
        self.bag.setAccessibleName(phrase("What to pack, ticked off"))
        self.bag.setWordWrap(True)
        self.bag.setIconSize(ICON)
        self.bag.setResizeMode(QListWidget.ResizeMode.Adjust)  # lines wrap anew once there is a scroll bar
        self.bag.itemChanged.connect(self._tick)
        for widget in (head, self.bag_words):
            column.addWidget(widget)
        column.addWidget(self.bag, 1)
        return card

    # --- what is shown ---

    def refresh(self) -> None:
        """Show the event as it is."""
        event = self.day
        hours = phrase("{clock} to {clock_2}", clock=clock_text(event.begins_min), clock_2=clock_text(event.ends_min))
        people = phrase("{painters} painting, {people} people", painters=event.painters, people=event.people)
        self.title.setText(" · ".join(part for part in (event.name, event.day, hours, people) if part))
        if event.menu != self._menu_of:
            self._show_menu(event)
        self._show_bag()

    def _show_menu(self, event: Event) -> None:
        self._menu_of = event.menu
        for card in self.cards.values():
            self.row.removeWidget(card)
            card.hide()
            throw_away(card)
        self.cards = {}
        for number, item in enumerate(event.menu):
            card = MenuCard(item)
            card.ticked.connect(self.tick_item)
            card.dropped.connect(self.drop_item)
            if item.id in self.model.pictures:
                card.show_picture(self.model.pictures[item.id])
            self.row.insertWidget(number, card)
            self.cards[item.id] = card

    def _show_picture(self, name: str) -> None:
        if name in self.cards:
            self.cards[name].show_picture(self.model.pictures[name])
        with QSignalBlocker(self.bag):
            for row in range(self.bag.count()):
                item = self.bag.item(row)
                item.setIcon(self.model.icons.get(item.data(_NAME), self.model.no_icon))

    def _show_evening(self) -> None:
        event, found = self.day, self.model.evening
        self.evening.show_evening(event, found)
        self.told.setText("  ".join(sentences(event, found)) if found is not None else "")
        self._show_bag()

    def _show_bag(self) -> None:
        things = self.model.bag()
        with QSignalBlocker(self.bag):
            self.bag.clear()
            for one in things:
                told = [f"{one.words}: {one.amount}", one.caution, one.label]
                item = QListWidgetItem("\n".join(line for line in told if line))
                item.setToolTip(tip(item.text()))
                item.setData(_NAME, one.name)
                item.setIcon(self.model.icons.get(one.name, self.model.no_icon))
                packed = one.name in self.day.packed
                item.setCheckState(Qt.CheckState.Checked if packed else Qt.CheckState.Unchecked)
                self.bag.addItem(item)
        missing = sum(one.name not in self.day.packed for one in things)
        buy = len(to_buy(things))
        counts = {"faces": self.model.faces, "missing": missing, "things": len(things)}
        words = phrase("For {faces:.0f} faces: {missing} of {things} not packed yet.", **counts)
        if buy:
            words = phrase(
                "For {faces:.0f} faces: {missing} of {things} not packed yet; {buy} to buy.", buy=buy, **counts
            )
        self.bag_words.setText(words)

    def _tick(self, item: QListWidgetItem) -> None:
        name = str(item.data(_NAME))
        packed = set(self.day.packed)
        packed = packed | {name} if item.checkState() == Qt.CheckState.Checked else packed - {name}
        # the list is rebuilt by the change: not within the signal of the item that is ticked
        event = replace(self.day, packed=tuple(sorted(packed)))
        self._later(lambda: self.model.edit(phrase("Pack"), event))

    def _later(self, act: Callable[[], object]) -> None:
        QTimer.singleShot(0, self, act)

    # --- the menu ---

    def tick_item(self, name: str, on: bool) -> None:  # noqa: FBT001 - Qt gives it so
        """Put a design on today's menu, or not."""
        event = with_item(self.day, replace(self.day.item(name), on=on))
        self._later(lambda: self.model.edit(phrase("The menu"), event))

    def drop_item(self, name: str) -> None:
        """Take a design off the menu for good."""
        event = without_item(self.day, name)
        self._later(lambda: self.model.edit(phrase("Take off the menu"), event))

    def take_best(self) -> None:
        """Let the best eight be today's menu, and say what that is."""
        event = self.day
        if not event.menu:
            self.said.emit(phrase("No design is on the menu yet; put a plan on it first."))
            return
        best = weigh(event, 8)
        chosen = {one.id for one in best.items}
        self.model.edit(
            phrase("The best eight"),
            replace(event, menu=tuple(replace(one, on=one.id in chosen) for one in event.menu)),
        )
        told = phrase(
            "{faces_an_hour:.0f} faces an hour and painter, {loads}, {cakes}",
            faces_an_hour=best.faces_an_hour,
            loads=plural(best.loads, "{count} load", "{count} loads"),
            cakes=plural(best.cakes, "{count} cake", "{count} cakes"),
        )
        if best.missing:
            told = phrase("{told}; no {missing}", told=told, missing=", ".join(best.missing))
        self.weighed.setText(told)

    def work_out(self) -> None:
        """Work out the minutes of the menu again, at the painter's own pace of today."""

        def take(menu: tuple[MenuItem, ...]) -> None:
            self.again.hide()
            self.weighed.setText("")
            if self.model.edit(phrase("Work out again"), replace(self.day, menu=_merged(self.day.menu, menu))):
                self.said.emit(phrase("The minutes of the menu are those of your pace now."))

        self.model.work_out_again(take, lambda part, words: self.weighed.setText(f"{part:.0%}: {words}"))

    def add_plan(self) -> None:
        """Put the open plan on the menu."""
        plan, path = self.document.committed, self.document.path
        if not plan.motifs:
            self.said.emit(phrase("Nothing lies on a chart of this plan yet; put something on the Chart first."))
            return
        self.said.emit(phrase("Working out its minutes ..."))

        def take(item: MenuItem) -> None:
            event = self.day
            self.model.edit(phrase("Put on the menu"), with_item(event, replace(item, id=free_key(event, item.id))))

        self.model.add_plan(plan, kept_path(path), take)

    # --- pages ---

    def show_event(self) -> None:
        """Show and change the event."""
        from pennello.ui.stations.day.event_form import EventForm  # noqa: PLC0415 - only when wanted

        form = EventForm(self.day, self)
        form.accepted.connect(lambda: self.model.edit(phrase("The event"), form.wished))
        self.open_page(form)

    def show_events(self) -> None:
        """Show all events side by side; one that is chosen is opened."""
        from pennello.ui.stations.day.pages import EventsPage  # noqa: PLC0415 - only when wanted

        page = EventsPage(*known_events(self.others()), self)
        page.wanted.connect(self.open_file)
        self.open_page(page)

    def show_today(self) -> None:
        """Show the live board."""
        from pennello.ui.stations.day.today import TodayPage  # noqa: PLC0415 - only when wanted

        page = TodayPage(self.model, self)
        page.cards_wanted.connect(self.run_cards)
        self.open_page(page)

    def run_cards(self, name: str, short: bool) -> None:  # noqa: FBT001 - Qt gives it so
        """Open a design of the menu and begin its run at the chair."""
        item = self.day.item(name)
        plan = plan_of(item)
        if plan is None or not plan.motifs or self.run_plan is None:
            self.said.emit(phrase("The plan of {item} is not there any more; paint it without cards.", item=item.title))
            return
        path = None if item.plan.startswith(SHIPPED) else path_of(item.plan)
        self.run_plan(plan, path, short)

    def show_what_if(self) -> None:
        """Show what changes would bring."""
        from pennello.ui.stations.day.pages import WhatIfPage  # noqa: PLC0415 - only when wanted

        if not self.day.on_menu:
            self.said.emit(phrase("No design is on the menu; put one on it first."))
            return
        self.open_page(WhatIfPage(self.model, self))

    def show_board(self) -> None:
        """Show the menu on the whole screen."""
        from pennello.ui.stations.day.pages import MenuBoard  # noqa: PLC0415 - only when wanted

        page = MenuBoard(self.day, self.model.pictures, self)
        self.open_page(page)
        page.showFullScreen()

    def show_report(self) -> None:
        """Show what the day came to."""
        from pennello.ui.stations.day.pages import ReportPage  # noqa: PLC0415 - only when wanted

        actions = (
            (phrase("Into the notebook"), self.keep_report),
            (phrase("Book what was used"), self.book),
            (phrase("For the books ..."), self.written.ask_table),
        )
        self.open_page(ReportPage(self.day, report(self.day), actions, self))

    def keep_report(self) -> None:
        """Write a page of the notebook about the day."""

        def write() -> None:
            with open_log() as log:
                log.put(noted(self.day))
            self.said.emit(phrase("The day has its page in the Notebook."))

        guarded(write, self.said.emit)

    def book(self) -> None:
        """Take what was used from the kit."""

        def write() -> None:
            kit = KitSession()
            try:
                event, grams = booked(kit, self.day)
            finally:
                kit.close()
            self.model.session.edit(phrase("Book what was used"), event)
            self.model.read_kit()
            self.said.emit(
                plural(
                    len(grams),
                    "{grams:.1f} g were taken from {count} cake and pans of the kit.",
                    "{grams:.1f} g were taken from {count} cakes and pans of the kit.",
                    grams=sum(grams.values()),
                )
            )

        guarded(write, self.said.emit)

    # --- files and paper ---

    def new_event(self) -> None:
        """Begin a new event with an empty menu, and ask what it is."""
        self.model.session.take(Event(phrase("New event")))
        self.show_event()

    def open_demo(self) -> None:
        """Open the evening that ships."""
        self.model.session.take(demo_event())

    def ask_open(self) -> None:
        """Ask for an event's file and open it."""
        chosen = ask_source(self, phrase("Open an event"), "events", phrase("Events (*{suffix})", suffix=SUFFIX))
        if chosen is not None:
            self.open_file(chosen)

    def open_file(self, path: Path) -> None:
        """Open an event, and say why where it cannot be."""
        guarded(lambda: self.model.session.open(path), self.said.emit)

    def ask_keep(self) -> None:
        """Ask where to keep the event."""
        target = ask_target(self, phrase("Keep the event"), Path.home() / f"event{SUFFIX}", (SUFFIX,))
        if target is not None:
            guarded(lambda: self.model.session.keep_as(target), self.said.emit)

    def papers(self) -> tuple[Printed, ...]:
        """The menu board, the pick card, lists and the quote."""
        return self.written.papers()

    def copied(self) -> Copied:
        """The books of the event, as a table."""
        event = self.day
        return Copied(phrase("the books of the event as a table"), table=lambda _: day_rows(event))


def _merged(menu: tuple[MenuItem, ...], found: tuple[MenuItem, ...]) -> tuple[MenuItem, ...]:
    """Return a menu with what was worked out; what was ticked, added or taken off meanwhile stays so."""
    made = {one.id: one for one in found}
    return tuple(replace(made[one.id], share=one.share, on=one.on) if one.id in made else one for one in menu)


def _fill(menu: QMenu | None, rows: tuple[tuple[str, Callable[[], object]], ...]) -> None:
    assert menu is not None, "the button has a menu"
    for words, act in rows:
        menu.addAction(words).triggered.connect(lambda _=False, do=act: do())


def _chip(words: str, hint: str, act: Callable[[], object]) -> QPushButton:
    button = QPushButton(words)
    button.setProperty("chip", True)
    button.setToolTip(hint)
    button.clicked.connect(lambda _=False: act())
    return button
