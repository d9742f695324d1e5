"""All that is the painter's own: hand, pace, brushes and paints, each with where it comes from and a way back."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QDialog, QFrame, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from pennello.errors import PennelloError
from pennello.phrases import phrase
from pennello.practice.fit_card import OWN_BELOW
from pennello.practice.records import KeptConstant, KeptTry
from pennello.session.document import Document
from pennello.session.log import OwnHand, hand_with, open_log, own_hand
from pennello.session.notebook import pace_of
from pennello.session.practising import back_to_default, own_items
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import foot_row
from pennello.ui.work import guarded


class MinePage(QDialog):
    """What is one's own, in cards."""

    def __init__(self, document: Document, notebook: Path, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("What is mine"))
        self.resize(QSize(760, 620))
        self._document, self._notebook = document, notebook
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.words = Label(
            phrase("Everything else is a default of the program. What is yours goes back to it by one click.")
        )
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        self.area = area
        column.addWidget(area, 1)
        column.addLayout(foot_row(self))
        self.tries: tuple[KeptTry, ...] = ()
        self.learnt: tuple[KeptConstant, ...] = ()
        self.refresh()

    def refresh(self) -> None:
        """Show it anew."""

        def read() -> None:
            with open_log(self._notebook) as log:
                self.tries, self.learnt = log.tries(), log.learnt()

        guarded(read, self.words.setText)
        inner = QWidget()
        column = QVBoxLayout(inner)
        column.setSpacing(8)
        for card in (self._hand(own_hand(self.tries)), self._pace(), *self._items()):
            column.addWidget(card)
        column.addStretch(1)
        self.area.setWidget(inner)

    @staticmethod
    def _card(title: str, sentences: list[str], *buttons: QPushButton) -> QFrame:
        card = QFrame()
        card.setObjectName("mat")
        column = QVBoxLayout(card)
        head = QHBoxLayout()
        name = Label(title)
        name.setObjectName("station")
        head.addWidget(name)
        head.addStretch(1)
        for button in buttons:
            button.setProperty("chip", True)
            button.setAutoDefault(False)
            head.addWidget(button)
        column.addLayout(head)
        for sentence in sentences:
            label = Label(sentence)
            label.setWordWrap(True)
            column.addWidget(label)
        return card

    def _hand(self, own: OwnHand) -> QFrame:
        use, forget = QPushButton(phrase("Use it in this plan")), QPushButton(phrase("Back to a usual hand"))
        use.setEnabled(own.angle_deg is not None)
        forget.setEnabled(own.tries > 0)
        use.clicked.connect(lambda _=False: self.use_hand(own))
        forget.clicked.connect(lambda _=False: self.forget_tries())
        self.use, self.forget = use, forget
        return self._card(phrase("Your hand"), [own.words], use, forget)

    def use_hand(self, own: OwnHand) -> None:
        """Let the plan's forgiveness use the hand that tries tell of: a step that undo takes back."""
        plan = self._document.committed
        self._document.edit(phrase("Use my hand"), replace(plan, hand=hand_with(plan.hand, own)))
        self.words.setText(phrase("This plan's forgiveness uses your hand now; undo takes it back."))

    def forget_tries(self) -> None:
        """Erase all tries."""

        def erase() -> None:
            with open_log(self._notebook) as log:
                log.forget_tries()

        if guarded(erase, self.words.setText):
            self.refresh()

    def _pace(self) -> QFrame:
        sentences = []
        try:
            sentences += [f"{words[0].upper()}{words[1:]}." for words in pace_of(self._notebook).words]
        except PennelloError as error:
            sentences.append(str(error))
        return self._card(
            phrase("Your pace"),
            sentences or [phrase("Runs at the chair will tell it: three steps of a kind are enough.")],
        )

    def _items(self) -> list[QFrame]:
        plan, cards = self._document.committed, []
        for item, name in own_items(plan, self.learnt):
            told = [one for one in self.learnt if one.item == item and one.shrunk < OWN_BELOW]
            sentences = [
                phrase(
                    "{names}: {one:.3g} (was {was:.3g}), from {source} of {taken}.",
                    names=_NAMES.get(one.name, one.name),
                    one=one.value,
                    was=one.was,
                    source=one.source,
                    taken=one.taken[:10],
                )
                for one in told[:8]
            ]
            back = QPushButton(phrase("Back to the default"))
            back.clicked.connect(lambda _=False, key=item: self.give_back(key))
            back.setAccessibleName(phrase("{name}: back to the default", name=name))
            cards.append(self._card(name, sentences or [phrase("Calibrated by what you saw.")], back))
        return cards

    def give_back(self, item: str) -> None:
        """Bring a brush or paint of the plan back to its default: a step that undo takes back."""
        plan = self._document.committed
        self._document.edit(phrase("Back to the default"), back_to_default(plan, item, self.learnt))
        self.refresh()


_NAMES = {
    "release_mm": phrase("lasts, mm of way"),
    "capacity_mm3_per_mm": phrase("holds, mm³ on a mm of edge"),
    "drift_mm": phrase("sweeps wander, mm"),
    "fill_passes": phrase("sweeps to two thirds full"),
    "tint": phrase("strength"),
    "slope": phrase("fall of its scattering, exponent"),
    "colour": phrase("colour in mixtures"),
}
