"""What the searching pages share: choices at the left, a thin bar of progress, a board of cards at the right."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import closing
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from pennello.kit.shelf import Kit
from pennello.phrases import phrase
from pennello.session.jobs import Job
from pennello.session.kit import KitSession
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.readout_page import ReadoutPage
from pennello.ui.stations.bench.search.card import BoardCard, ShownFind
from pennello.ui.theme.text import px
from pennello.ui.widgets.passing import throw_away
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar
from pennello.ui.widgets.words import Words
from pennello.ui.work import Runner

SIDE_PX = 290


class SearchPage(ReadoutPage):
    """A page with a job behind it."""

    def __init__(self, model: BenchModel, title: str, start: str) -> None:
        super().__init__()
        self.model = model
        self.setObjectName("mat")
        self.setAccessibleName(title)
        self._start_words = start
        self.runner = Runner(model.searches, "search", self)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 8, 12, 8)
        row.setSpacing(14)
        side = QWidget()
        side.setFixedWidth(px(SIDE_PX))
        self.side = QVBoxLayout(side)
        self.side.setContentsMargins(0, 0, 0, 0)
        self.side.setSpacing(4)
        self.head = QHBoxLayout()
        named = Label(title)
        named.setObjectName("station")
        self.head.addWidget(named)
        self.head.addStretch(1)
        self.side.addLayout(self.head)
        row.addWidget(side)
        self.right = QVBoxLayout()
        self.right.setSpacing(4)
        row.addLayout(self.right, 1)
        self.runner.told.connect(self._tell)
        self.runner.found.connect(self.show_found)
        self.runner.ended.connect(self.show_result)
        self.runner.failed.connect(self._fail)
        self.runner.turned.connect(self._turn)

    def add_foot(self, lines: int = 2) -> None:
        """Put words in so many lines, progress, start and done below the choices."""
        self.bar = ThinBar()
        self.bar.hide()
        self.words = Words(lines)
        self.side.addStretch(1)
        self.side.addWidget(self.words)
        self.side.addWidget(self.bar)
        foot = QHBoxLayout()
        self.again = QPushButton(self._start_words)
        self.again.setProperty("chip", True)
        self.again.clicked.connect(self._toggle)
        done = QPushButton(phrase("Done"))
        done.setProperty("main", True)
        done.setToolTip(phrase("Back to the read-out"))
        done.clicked.connect(self.left)
        foot.addWidget(self.again, 1)
        foot.addWidget(done)
        self.side.addLayout(foot)

    # --- the job ---

    @property
    def busy(self) -> bool:
        """Whether a search runs."""
        return self.runner.busy

    def _toggle(self) -> None:
        if self.busy:
            self.stop()
            self.words.setText(phrase("Stopped; what was found so far stays."))
        else:
            self.start()

    def start(self) -> None:
        """Begin anew; pages say what."""

    def run(self, work: Callable[[Job[Any]], Any]) -> None:
        """Let a worker do something; its progress, finds and end come back to this page."""
        self.runner.run(work)

    def stop(self) -> None:
        """Stop the search, if one runs."""
        self.runner.stop()

    def _turn(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        self.again.setText(phrase("Stop") if on else self._start_words)
        self.bar.setValue(0)
        self.bar.setVisible(on)

    def _tell(self, part: float, words: str) -> None:
        self.bar.show_part(part)
        if words:
            self.words.setText(words[0].upper() + words[1:] + " ...")

    def _fail(self, words: str) -> None:
        self.words.setText(words)

    def show_found(self, found: Any) -> None:
        """Show the best so far; pages do."""

    def show_result(self, result: Any) -> None:
        """Show the result; pages do."""


class Board(QScrollArea):
    """Cards in a row, best first.

    Signals
    -------
    taken(int)
        The card with this number was clicked.
    """

    taken = Signal(int)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.cards: list[BoardCard] = []
        inner = QWidget()
        self._row = QHBoxLayout(inner)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(8)
        self._row.addStretch(1)
        self.setWidgetResizable(True)
        self.setWidget(inner)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName(name)

    def show_finds(self, shown: Sequence[ShownFind]) -> None:
        """Show finds, in their order."""
        while len(self.cards) > len(shown):
            card = self.cards.pop()
            self._row.removeWidget(card)
            card.hide()
            throw_away(card)
        while len(self.cards) < len(shown):
            card, number = BoardCard(), len(self.cards)
            card.clicked.connect(lambda _=False, at=number: self.taken.emit(at))
            self._row.insertWidget(number, card)
            self.cards.append(card)
        for card, one in zip(self.cards, shown, strict=True):
            card.show_find(one)


def read_kit() -> Kit:
    """Return the painter's kit as it is on disk; for a worker's thread."""
    with closing(KitSession()) as session:
        return session.kit
