"""Before the run: what has to be asked, and the cautions that follow from plan and answers. Never a certificate."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from pennello.caution.person import QUESTIONS, Person
from pennello.caution.rules import DECIDE, cautions_of_person, weighed
from pennello.finding import Finding, Level
from pennello.phrases import named, phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.plain import Label

_MARKS = {Level.STOP: "●", Level.ASK: "◐", Level.MIND: "○"}


class CautionsPage(QDialog):
    """Questions at the left, cautions at the right; a run begins once it is known what the plan asks for.

    Parameters
    ----------
    charts
        Those that are painted.

    Signals
    -------
    begun(Person)
        The run may begin.
    rehearsed
        Nobody is painted: the cards are gone through without questions.
    """

    begun = Signal(object)
    rehearsed = Signal()

    def __init__(self, charts: tuple[str, ...], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Before you begin"))
        self.resize(QSize(900, 560))
        self._charts = charts
        self._of_plan: tuple[Finding, ...] | None = None
        self._looking = phrase("Looking at what lies near eyes and lips ...")
        self.person = Person()
        self.told: tuple[Finding, ...] = ()
        self._build(self._questions())
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose, False)
        self._show()

    def _questions(self) -> QWidget:
        """Return the questions with their answers."""
        self.answers: dict[str, QComboBox] = {}
        form = QFormLayout()
        form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft)
        form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapAllRows)
        for field, question, kind in QUESTIONS:
            box = ChoiceBox()
            box.setAccessibleName(question)
            for answer in kind:
                box.addItem(named(answer), answer)
            box.currentIndexChanged.connect(lambda at, of=field: self._answer(of, at))
            self.answers[field] = box
            form.addRow(question, box)
        asks = QWidget()
        asks.setFixedWidth(px(290))
        left = QVBoxLayout(asks)
        left.setContentsMargins(0, 0, 0, 0)
        left.addLayout(form)
        left.addStretch(1)
        return asks

    def _build(self, asks: QWidget) -> None:
        self.list = QLabel("")
        self.list.setWordWrap(True)
        self.list.setTextFormat(Qt.TextFormat.RichText)
        self.list.setAlignment(Qt.AlignmentFlag.AlignTop)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(self.list)
        self.seen = QCheckBox(phrase("I have read what says stop, and decide myself"))
        self.seen.toggled.connect(lambda _: self._show())
        decide = Label(DECIDE)
        decide.setObjectName("note")
        leave, self.go = QPushButton(phrase("Not now")), QPushButton(phrase("Begin the run"))
        leave.setProperty("chip", True)
        self.go.setProperty("main", True)
        leave.clicked.connect(self.reject)
        self.rehearse = QPushButton(phrase("Rehearse without questions"))
        self.rehearse.setProperty("chip", True)
        self.rehearse.setToolTip(phrase("Nobody is painted: the cards one after another, and nothing is kept"))
        self.rehearse.clicked.connect(self.accept)
        self.rehearse.clicked.connect(self.rehearsed)
        self.go.clicked.connect(self._begin)
        across = QHBoxLayout()
        across.addWidget(asks)
        across.addSpacing(16)
        across.addWidget(scroll, 1)
        foot = QHBoxLayout()
        foot.addWidget(decide, 1)
        foot.addWidget(leave)
        foot.addWidget(self.rehearse)
        foot.addWidget(self.go)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addLayout(across, 1)
        column.addWidget(self.seen)
        column.addLayout(foot)

    def _answer(self, field: str, at: int) -> None:
        self.person = replace(self.person, **{field: self.answers[field].itemData(at)})
        self._show()

    def fail(self, why: str) -> None:
        """Say why it cannot be known what the plan asks for: no run begins."""
        self._looking = why
        self._show()

    def take_plan(self, found: tuple[Finding, ...]) -> None:
        """Take what the plan asks for, whoever is painted."""
        self._of_plan = found
        self._show()

    def _show(self) -> None:
        self.told = weighed(self._of_plan or (), cautions_of_person(self.person, self._charts))
        inks = theme()
        colours = {Level.STOP: inks.misses, Level.ASK: inks.close, Level.MIND: inks.ink_2}
        rows = [
            f'<p style="margin:0 0 9px 0"><span style="color:{colours[one.level]}">{_MARKS[one.level]} '
            f"<b>{_safe(named(one.level))}</b></span> {_safe(one.text)} "
            f'<span style="color:{inks.ink_2}">{_safe(one.reason)}</span></p>'
            for one in self.told
        ]
        looking = self._of_plan is None
        if looking:
            rows.insert(0, f"<p>{_safe(self._looking)}</p>")
        self.list.setText("".join(rows))
        stops = any(one.level is Level.STOP for one in self.told)
        self.seen.setVisible(stops)
        self.go.setEnabled(not looking and (not stops or self.seen.isChecked()))

    def _begin(self) -> None:
        self.accept()
        self.begun.emit(self.person)


def _safe(words: str) -> str:
    """Return words of the plan so that they stay words."""
    return words.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
