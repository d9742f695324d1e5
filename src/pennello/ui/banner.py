"""One sentence across the top with what can be done about it; nothing stops while it is there."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QProgressBar, QPushButton, QWidget

from pennello.errors import clipped
from pennello.phrases import phrase
from pennello.ui.widgets.announcing import announce
from pennello.ui.widgets.plain import Label

MOST_SIGNS = 900

Action = tuple[str, Callable[[], object]]


class _Offer(NamedTuple):
    """A sentence that waits for an answer, what can be answered, and whether that is still to be asked."""

    sentence: str
    actions: tuple[Action, ...]
    holds: Callable[[], bool]


class Banner(QFrame):
    """Hidden until there is something to say.

    What waits for an answer is not lost below what is said later: it comes back once that is closed or answered.
    """

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("banner")
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(12, 6, 8, 6)
        self.words = Label("")
        self.words.setTextFormat(Qt.TextFormat.PlainText)
        self.words.setWordWrap(True)
        self._row.addWidget(self.words, 1)
        self.bar = QProgressBar()
        self.bar.setFixedSize(160, 6)
        self.bar.setTextVisible(False)
        self.bar.setRange(0, 1000)
        self.bar.setAccessibleName(phrase("How far it is"))
        self._row.addWidget(self.bar)
        self.bar.hide()
        self.buttons: list[QPushButton] = []
        self._offers: list[_Offer] = []
        self.hide()

    def say(self, sentence: str, *actions: Action, holds: Callable[[], bool] = lambda: True) -> None:
        """Show a sentence with buttons; the last one is always there and only closes.

        Parameters
        ----------
        holds
            Whether what is offered can still be done; it is not shown again, and not done, once it cannot.
        """
        if not actions:
            self._show(sentence, ((phrase("Close"), lambda: None),))
            return
        offer = _Offer(sentence, actions, holds)
        self._offers = [*(one for one in self._offers if one.sentence != sentence), offer]
        self._ask(offer)

    def _ask(self, offer: _Offer) -> None:
        def answered(act: Callable[[], object]) -> None:
            self._offers = [one for one in self._offers if one is not offer]
            if offer.holds():
                act()

        answers = (*offer.actions, (phrase("Not now"), lambda: None))
        self._show(offer.sentence, tuple((label, partial(answered, act)) for label, act in answers))

    def say_working(self, sentence: str, stop: Callable[[], object]) -> None:
        """Show what goes on in the background, how far it is, and a button that stops it."""
        self._show(sentence, ((phrase("Stop"), stop),))
        self.bar.setValue(0)
        self.bar.show()

    def show_part(self, part: float) -> None:
        """Show how far the work is, 0 to 1."""
        self.bar.setValue(round(1000 * min(max(part, 0.0), 1.0)))

    def _show(self, sentence: str, actions: tuple[Action, ...]) -> None:
        for button in self.buttons:
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.buttons = []
        self.bar.hide()
        words = clipped(sentence, MOST_SIGNS)
        self.words.setText(words)
        self.setAccessibleName(words)
        for label, act in actions:
            button = QPushButton(label)
            button.setProperty("chip", True)
            button.clicked.connect(lambda _=False, do=act: self._press(do))
            self._row.addWidget(button)
            self.buttons.append(button)
        self.show()
        announce(self, words)

    def _press(self, act: Callable[[], object]) -> None:
        """Do what a button says; then ask what still waits for an answer, unless something else was said."""
        self.hide()
        act()
        self._offers = [one for one in self._offers if one.holds()]
        if self._offers and self.isHidden():
            self._ask(self._offers[-1])
