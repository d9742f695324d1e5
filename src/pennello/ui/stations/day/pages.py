"""Pages of the Day: what if, after the day, and the menu board on the whole screen."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from math import ceil, sqrt

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFont, QImage, QKeyEvent, QPainter
from PySide6.QtWidgets import QAbstractItemView, QDialog, QHBoxLayout, QHeaderView, QPushButton, QVBoxLayout, QWidget

from pennello.day.books import Report
from pennello.day.event import Event
from pennello.day.queue import WhatIf
from pennello.phrases import phrase, plural
from pennello.session.day import EVENT_COLUMNS, KnownEvent, event_rows
from pennello.ui.stations.day.model import DayModel
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar, foot_row
from pennello.ui.widgets.tables import told_table
from pennello.units import clock, minutes


class EventsPage(QDialog):
    """All events side by side.

    Signals
    -------
    wanted(object)
        The path of one that is to be opened.
    """

    wanted = Signal(object)

    def __init__(self, known: Sequence[KnownEvent], wrong: Sequence[str], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("All events"))
        self.resize(QSize(940, 420))
        self._known = tuple(known)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        head = Label(
            phrase("Time for: as many faces as the hours hold. Out and left: money with so many faces.")
            if known
            else phrase("No event is kept yet: the first change of one keeps it.")
        )
        head.setWordWrap(True)
        column.addWidget(head)
        self.table = told_table(EVENT_COLUMNS, event_rows(known), phrase("All events by day; Enter opens one"))
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.table.horizontalHeader().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.table.resizeRowsToContents()
        self.table.activated.connect(lambda _: self.take())
        if known:
            self.table.selectRow(0)
        column.addWidget(self.table, 1)
        for sentence in wrong:
            label = Label(sentence)
            label.setWordWrap(True)
            column.addWidget(label)
        foot = LeaveOrTake(self, phrase("Open it"))
        foot.take.setEnabled(bool(known))
        foot.take.clicked.disconnect()
        foot.take.clicked.connect(lambda _=False: self.take())
        column.addLayout(foot)

    def take(self) -> None:
        """Open the one that is chosen."""
        row = self.table.currentRow()
        if 0 <= row < len(self._known):
            self.wanted.emit(self._known[row].path)
            self.accept()


class WhatIfPage(QDialog):
    """What short forms, one more painter, or batches would bring."""

    def __init__(self, model: DayModel, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("What if"))
        self.resize(QSize(620, 340))
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.words = Label(phrase("Looking at evenings ..."))
        self.words.setWordWrap(True)
        self.bar = ThinBar()
        column.addWidget(self.words, 1)
        column.addWidget(self.bar)
        column.addLayout(foot_row(self))
        self.found: tuple[WhatIf, ...] = ()
        model.what_if(self, self.show_found, self.bar.show_part)

    def show_found(self, found: tuple[WhatIf, ...]) -> None:
        """Show what was found."""
        self.found = found
        self.bar.hide()
        self.words.setText("\n\n".join(sentence_of(one) for one in found))


def sentence_of(one: WhatIf) -> str:
    """Return what a change brings as a sentence."""
    faces = (
        plural(round(abs(one.faces)), "{faces:.0f} face more", "{faces:.0f} faces more", faces=abs(one.faces))
        if one.faces >= 0
        else plural(round(abs(one.faces)), "{faces:.0f} face fewer", "{faces:.0f} faces fewer", faces=abs(one.faces))
    )
    wait = (
        phrase("{wait_min:.0f} min less waiting in the longest hour", wait_min=abs(one.wait_min))
        if one.wait_min >= 0
        else phrase("{wait_min:.0f} min more waiting in the longest hour", wait_min=abs(one.wait_min))
    )
    return f"{one.words[0].upper()}{one.words[1:]}: {faces}, {wait}."


class ReportPage(QDialog):
    """What a day came to, and what to do with that."""

    def __init__(
        self, event: Event, found: Report, actions: Sequence[tuple[str, Callable[[], object]]], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("After {event}", event=event.name))
        self.resize(QSize(760, 560))
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        head = Label(phrase("{faces} painted, {gone} left unpainted", faces=found.faces, gone=found.gone))
        head.setObjectName("headline")
        column.addWidget(head)
        for line in report_lines(event, found):
            label = Label(line)
            label.setWordWrap(True)
            column.addWidget(label)
        column.addStretch(1)
        row = QHBoxLayout()
        for words, act in actions:
            button = QPushButton(words)
            button.setProperty("chip", True)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, do=act: do())
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)
        column.addLayout(foot_row(self))


def report_lines(event: Event, found: Report) -> list[str]:
    """Return what a day came to, in lines."""
    lines = []
    if found.wait_s is not None:
        lines.append(phrase("Half of them waited less than {wait_s}.", wait_s=minutes(found.wait_s)))
    for one in found.designs:
        told = {"title": one.title, "planned": clock(one.planned_s)}
        line = plural(
            one.faces,
            "{title}: {count} face, planned {planned} min.",
            "{title}: {count} faces, planned {planned} min.",
            **told,
        )
        if one.took_s is not None:
            line = plural(
                one.faces,
                "{title}: {count} face, planned {planned} min, took {took} min.",
                "{title}: {count} faces, planned {planned} min, took {took} min.",
                took=clock(one.took_s),
                **told,
            )
        lines.append(line)
    money, sign = found.money, event.currency
    lines.append(
        phrase(
            "In {income:.2f} {sign}, out {total:.2f} {sign}; left {left:.2f} {sign}.",
            income=money.income,
            sign=sign,
            total=money.total,
            left=money.left,
        )
    )
    if money.break_even_faces is not None:
        lines.append(plural(money.break_even_faces, "It pays from {count} face on.", "It pays from {count} faces on."))
    used = ", ".join(
        phrase("{name} {grams:.1f} g", name=name, grams=grams)
        for name, grams in sorted(found.grams, key=lambda one: -one[1])[:6]
    )
    if used:
        lines.append(phrase("Most used: {used}.", used=used))
    return [*lines, phrase("Next time: {what}", what=" ".join(found.next_time))]


class MenuBoard(QDialog):
    """The menu as the queue sees it, on the whole screen: pictures, names, minutes."""

    def __init__(self, event: Event, pictures: Mapping[str, QImage], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Menu"))
        self._event, self._pictures = event, pictures
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.surface = Surface(self)
        self.surface.draw = self._draw
        self.surface.setAccessibleName(phrase("Menu: {listed}", listed=", ".join(one.title for one in event.on_menu)))
        column.addWidget(self.surface)

    def _draw(self, painter: QPainter) -> None:
        items = self._event.on_menu
        area = QRectF(self.surface.rect()).adjusted(36, 24, -36, -24)
        title = QFont(painter.font())
        title.setPixelSize(max(28, int(area.height() / 20)))
        title.setWeight(QFont.Weight.DemiBold)
        painter.setPen(QColor(theme().ink))
        painter.setFont(title)
        painter.drawText(QRectF(area.left(), area.top(), area.width(), 60), self._event.name)
        columns = min(4, max(1, ceil(sqrt(len(items) * 1.3))))
        rows = max(1, ceil(len(items) / columns))
        top = area.top() + 70
        wide, high = area.width() / columns, (area.bottom() - top) / rows
        small = QFont(painter.font())
        small.setPixelSize(max(16, int(high / 11)))
        painter.setFont(small)
        for number, item in enumerate(items):
            x, y = area.left() + (number % columns) * wide, top + (number // columns) * high
            box = QRectF(x, y, wide - 16, high - 2.4 * small.pixelSize() - 8)
            image = self._pictures.get(item.id)
            if image is not None:
                scale = min(box.width() / image.width(), box.height() / image.height())
                painter.drawImage(centred(box, image.width() * scale, image.height() * scale), image)
            told = QRectF(x, box.bottom() + 4, wide - 16, 2.4 * small.pixelSize())
            words = phrase("{item}\nabout {minutes} min", item=item.title, minutes=max(1, round(item.whole_s / 60)))
            painter.drawText(told, int(Qt.AlignmentFlag.AlignHCenter), words)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Esc leaves it."""
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        else:
            super().keyPressEvent(event)
