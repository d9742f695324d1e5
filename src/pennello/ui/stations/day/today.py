"""Today's board: who is painted now, who is next, who waits; large, for a wet finger."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.day import board
from pennello.day.batches import Fairness, batched
from pennello.day.event import Event, Guest, GuestState, clock_text
from pennello.errors import PennelloError
from pennello.limits import MOST_NAME
from pennello.phrases import phrase, plural
from pennello.session.day import begins_at
from pennello.ui.stations.day.model import DayModel
from pennello.ui.theme.text import px
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import Label
from pennello.ui.work import guarded
from pennello.units import minutes

TICK_MS = 5000
_KEEP = Qt.ItemDataRole.UserRole
NEXT = 5


class TodayPage(QDialog):
    """The live board.

    Parameters
    ----------
    clock
        Seconds after the event began; by the computer's clock if left out.

    Signals
    -------
    cards_wanted(str, bool)
        A design is painted with its cards, in its short form or not.
    """

    cards_wanted = Signal(str, bool)

    def __init__(self, model: DayModel, parent: QWidget, clock: Callable[[], float] | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Today: {day}", day=model.day.name))
        self.resize(QSize(1240, 760))
        self.model = model
        self._clock = clock or self._by_the_computer
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(10)
        self.stand = Label("")
        self.stand.setObjectName("headline")
        column.addWidget(self.stand)
        column.addLayout(self._door())
        row = QHBoxLayout()
        row.setSpacing(12)
        self.now, self.line = QListWidget(), QListWidget()
        for words, widget, stretch in (
            (phrase("Now"), self._chair(), 3),
            (phrase("Next and waiting"), self._waiting(), 4),
        ):
            card = QFrame()
            card.setObjectName("mat")
            inside = QVBoxLayout(card)
            head = Label(words)
            head.setObjectName("station")
            inside.addWidget(head)
            inside.addWidget(widget, 1)
            row.addWidget(card, stretch)
        column.addLayout(row, 1)
        self.words = Label("")
        self.words.setWordWrap(True)
        foot = QHBoxLayout()
        foot.addWidget(self.words, 1)
        for words, act in (
            (phrase("For the second screen"), self.show_next),
            (phrase("Undo"), model.undo),
            (phrase("Close"), self.close),
        ):
            foot.addWidget(_button(words, act))
        column.addLayout(foot)
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self.refresh)
        self._timer.start()
        model.changed.connect(self.refresh)
        self.screen_page: NextFive | None = None
        self._order: tuple[str, ...] = ()
        self.refresh()

    def _by_the_computer(self) -> float:
        return (datetime.now().astimezone() - begins_at(self.day)).total_seconds()

    def _door(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.name, self.item, self.age = QLineEdit(), ChoiceBox(), ChoiceBox()
        self.name.setPlaceholderText(phrase("First name or number"))
        self.name.setAccessibleName(phrase("First name or number of who has come"))
        self.name.setMaxLength(MOST_NAME)
        self.item.setAccessibleName(phrase("The design that they chose"))
        self.age.setAccessibleName(phrase("How old they are"))
        for words, key in (
            (phrase("age not asked"), ""),
            (phrase("small child"), "small"),
            (phrase("child"), "child"),
            (phrase("adult"), "adult"),
        ):
            self.age.addItem(words, key)
        self.item.addItem(phrase("not chosen yet"), "")
        for one in self.model.day.on_menu:
            self.item.addItem(one.title, one.id)
        self.colours = QLineEdit()
        self.colours.setPlaceholderText(phrase("colours"))
        self.colours.setMaxLength(MOST_NAME)
        self.colours.setAccessibleName(phrase("Colours asked for"))
        self.consent = QCheckBox(phrase("said yes"))
        self.consent.setToolTip(phrase("Somebody who may say so has said yes, and was asked about allergies"))
        self.came = _button(phrase("Has come"), self.take_in)
        self.came.setProperty("main", True)
        self.name.returnPressed.connect(self.take_in)
        for widget, stretch in ((self.name, 2), (self.item, 2), (self.colours, 1), (self.age, 1)):
            row.addWidget(widget, stretch)
        row.addWidget(self.consent)
        row.addWidget(self.came)
        return row

    def _chair(self) -> QWidget:
        self.now.setAccessibleName(phrase("Who is painted now"))
        self.ready = _button(phrase("Done"), self.finish)
        self.back = _button(phrase("Waits after all"), self.put_back)
        return _with_buttons(self.now, self.ready, self.back)

    def _waiting(self) -> QWidget:
        self.line.setAccessibleName(phrase("Who waits, the next first"))
        self.next = _button(phrase("To the chair"), self.begin)
        self.next.setProperty("main", True)
        self.cards = _button(phrase("With cards"), self.begin_with_cards)
        self.cards.setToolTip(phrase("To the chair, with the cards of the design's run"))
        self.gone = _button(phrase("Did not come back"), self.lose)
        self.yes = _button(phrase("Said yes"), self.agree)
        self.batch = _button(phrase("Save loads"), self.show_batch)
        self.batch.setToolTip(phrase("An order of those who wait that saves loads, and keeps nobody too long"))
        return _with_buttons(self.line, self.next, self.cards, self.yes, self.gone, self.batch)

    # --- what is shown ---

    @property
    def day(self) -> Event:
        """The event as it stands."""
        return self.model.day

    def refresh(self) -> None:
        """Show it as it is now."""
        event, now = self.day, self._clock()
        stand = board.now_of(event, now)
        money = f" · {stand.money:.2f} {event.currency}" if stand.money else ""
        fits = (
            phrase("all done in time") if stand.all_done else phrase("{still} of them done in time", still=stand.still)
        )
        self.stand.setText(
            plural(
                stand.faces,
                "{faces} face{money} · {waits} waiting, {fits} · {left_s} left",
                "{faces} faces{money} · {waits} waiting, {fits} · {left_s} left",
                faces=stand.faces,
                money=money,
                waits=stand.waits,
                fits=fits,
                left_s=minutes(stand.left_s),
            )
        )
        begins = board.expected_s(event, now, self._order)
        self._fill(self.now, board.painting(event), lambda one: self._at_chair(one, now))
        self._fill(self.line, board.in_order(event, self._order), lambda one: self._in_line(one, begins))
        if self.screen_page is not None:
            self.screen_page.show_names([one.name for one in board.in_order(event, self._order)[:NEXT]])
        if board.over_limit(event, now):
            self.words.setText(
                phrase("The line is over {limit_min:.0f} min: the short form is called out.", limit_min=event.limit_min)
            )
        has_line, has_chair = self.line.count() > 0, self.now.count() > 0
        for button in (self.next, self.cards, self.gone, self.yes, self.batch):
            button.setEnabled(has_line)
        for button in (self.ready, self.back):
            button.setEnabled(has_chair)

    def _at_chair(self, one: Guest, now: float) -> str:
        item = self.day.item(one.item) if one.item else None
        past = now - (one.began_s or now)
        left = board.face_s(self.day, item, short=one.short) - past
        title = item.title if item is not None else phrase("taken off the menu")
        tail = (
            phrase("about {left} more", left=minutes(left)) if left > 0 else phrase("{left} over", left=minutes(-left))
        )
        told = phrase("{name}: {title}, short", name=one.name, title=title)
        return f"{told if one.short else f'{one.name}: {title}'}\n{tail}"

    def _in_line(self, one: Guest, begins: dict[str, float]) -> str:
        title = self.day.item(one.item).title if one.item else phrase("nothing chosen yet")
        at = clock_text(self.day.begins_min + begins[one.id] / 60)
        told = [title, one.colours, "" if one.consent else phrase("nobody said yes yet")]
        return phrase(
            "{one}, about {at}\n{listed}", one=one.name, at=at, listed=" · ".join(part for part in told if part)
        )

    @staticmethod
    def _fill(widget: QListWidget, guests: tuple[Guest, ...], say: Callable[[Guest], str]) -> None:
        """Show guests; rows that stay are only rewritten, so that the chosen one stays chosen."""
        chosen = TodayPage._chosen(widget)
        while widget.count() > len(guests):
            widget.takeItem(widget.count() - 1)
        for row, one in enumerate(guests):
            if row >= widget.count():
                widget.addItem(QListWidgetItem())
            item = widget.item(row)
            item.setText(say(one))
            item.setData(_KEEP, one.id)
        ids = [one.id for one in guests]
        if ids:
            widget.setCurrentRow(ids.index(chosen) if chosen in ids else 0)

    @staticmethod
    def _chosen(widget: QListWidget) -> str:
        return str(widget.currentItem().data(_KEEP)) if widget.currentRow() >= 0 else ""

    # --- what is done ---

    def _do(self, label: str, change: Callable[[float], Event]) -> bool:
        self.words.setText("")

        def act() -> None:
            self.model.session.edit(label, change(self._clock()))

        done = guarded(act, self.words.setText)
        if done:
            self.refresh()
        return done

    def take_in(self) -> None:
        """Take in who has come."""
        name, item = self.name.text(), str(self.item.currentData() or "")
        age, colours, consent = str(self.age.currentData()), self.colours.text(), self.consent.isChecked()

        def take(now: float) -> Event:
            return board.came(self.day, name, item, now, colours=colours, age=age, consent=consent)[0]

        if self._do(phrase("Somebody has come"), take):
            for field in (self.name, self.colours):
                field.clear()
            self.consent.setChecked(False)
            self.name.setFocus()

    def begin(self) -> None:
        """Begin with the chosen guest at the first free chair."""
        name = self._chosen(self.line)
        taken = {one.painter for one in board.painting(self.day)}
        free = next((chair for chair in range(1, self.day.painters + 1) if chair not in taken), 0)
        if not free:
            self.words.setText(phrase("Every chair is taken; say first who is done."))
            return
        if name:
            self._do(phrase("To the chair"), lambda now: board.begun(self.day, name, now, free))

    def begin_with_cards(self) -> None:
        """Begin with the chosen guest, and open the cards of the design; the board stays on disk and comes back."""
        name = self._chosen(self.line)
        self.begin()
        guest = self.day.guest(name) if name else None
        if guest is not None and guest.state is GuestState.PAINTING:
            item, short = guest.item, guest.short
            self.close()
            self.cards_wanted.emit(item, short)

    def finish(self) -> None:
        """The chosen guest at the chair is done."""
        name = self._chosen(self.now)
        if name:
            self._do(phrase("Done"), lambda now: board.ended(self.day, name, now))

    def put_back(self) -> None:
        """The chosen guest at the chair waits after all."""
        name = self._chosen(self.now)
        if name:
            self._do(phrase("Waits after all"), lambda _: board.back(self.day, name))

    def lose(self) -> None:
        """The chosen guest did not come back."""
        name = self._chosen(self.line)
        if name:
            self._do(phrase("Did not come back"), lambda now: board.gone(self.day, name, now))

    def agree(self) -> None:
        """Somebody said yes for the chosen guest; a design that is chosen above becomes theirs if they have none."""
        name, item = self._chosen(self.line), str(self.item.currentData() or "")
        if name:
            guest = self.day.guest(name)
            changed = replace(guest, consent=True, item=guest.item or item)
            self._do(phrase("Said yes"), lambda _: board.with_guest(self.day, changed))

    def show_next(self) -> None:
        """Show the next five in large letters, for a second screen."""
        if self.screen_page is None:
            self.screen_page = NextFive(self)
            goes_when_closed(self.screen_page)
            self.screen_page.finished.connect(self._let_go)
        self.screen_page.show()
        self.refresh()

    def _let_go(self) -> None:
        self.screen_page = None

    def show_batch(self) -> None:
        """Show those who wait in the order that saves most loads, fair to all."""
        event, now = self.day, self._clock()
        at_chair = board.painting(event)
        try:
            found = batched(event, now, Fairness(longest_s=120 * event.limit_min), at_chair[0].item if at_chair else "")
        except PennelloError as error:
            self.words.setText(str(error))
            return
        self._order = found.order
        self.refresh()
        saved = (
            phrase("saves {saved_s}", saved_s=minutes(found.saved_s))
            if found.saved_s >= 1
            else phrase("saves nothing: they are in a good order")
        )
        self.words.setText(
            phrase("In batches of the same loads; it {saved}, and nobody is passed by more than three.", saved=saved)
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Keys for a quick hand, where no field takes them."""
        acts = {
            Qt.Key.Key_N: self.name.setFocus,
            Qt.Key.Key_Space: self.begin,
            Qt.Key.Key_D: self.finish,
            Qt.Key.Key_G: self.lose,
        }
        act = acts.get(Qt.Key(event.key()))
        if act is not None:
            act()
        elif event.key() not in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            super().keyPressEvent(event)


class NextFive(QDialog):
    """Who is next, in letters to be read from afar; names or numbers alone."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Window)
        self.setWindowTitle(phrase("Next"))
        self.resize(QSize(900, 600))
        column = QVBoxLayout(self)
        self.names = Label("")
        font = self.names.font()
        font.setPixelSize(64)
        self.names.setFont(font)
        self.names.setAlignment(Qt.AlignmentFlag.AlignCenter)
        column.addWidget(self.names)

    def show_names(self, names: list[str]) -> None:
        """Show who is next."""
        self.names.setText("\n".join(names) or phrase("Come in"))


def _with_buttons(people: QListWidget, *buttons: QPushButton) -> QWidget:
    """Return a list of people in large type with its buttons below."""
    inner = QWidget()
    column = QVBoxLayout(inner)
    column.setContentsMargins(0, 0, 0, 0)
    people.setObjectName("headline")
    column.addWidget(people, 1)
    row = QHBoxLayout()
    for button in buttons:
        row.addWidget(button)
    row.addStretch(1)
    column.addLayout(row)
    return inner


def _button(words: str, act: Callable[[], object]) -> QPushButton:
    button = QPushButton(words)
    button.setProperty("chip", True)
    button.setAutoDefault(False)
    button.setMinimumHeight(px(44))
    button.clicked.connect(lambda _=False: act())
    return button
