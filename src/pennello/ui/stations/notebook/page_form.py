"""A page of the notebook as it is written: what was painted, how long, what went wrong, a photo, a note."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLayout,
    QLineEdit,
    QListWidget,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.design.plan import Plan
from pennello.finding import Finding
from pennello.phrases import named, phrase
from pennello.practice.records import MOST_LINE, MOST_NOTE, LogPage, PageFault
from pennello.practice.trouble import Trouble, mend_of
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_source
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.choices import LeaveOrTake
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label

SECONDS = Quantity(phrase("How long the hand took; 0 where it was not timed"), 0, 36_000, 10, 0, " s")
LIGHTS = (
    "",
    phrase("daylight, shade"),
    phrase("daylight, sun"),
    phrase("lamp, warm"),
    phrase("lamp, cold"),
    phrase("dusk"),
    phrase("flash"),
)


class PageForm(QDialog):
    """Everything that stands on a page; what is accepted is in `page` and `photo`.

    Parameters
    ----------
    plan
        The plan that it is of, whose pieces may have gone wrong; None where it is not there. What the program says of
        it is given by `take_findings`, once it is known.
    """

    def __init__(self, page: LogPage, plan: Plan | None, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Change a page") if page.id else phrase("Write a page"))
        self.resize(620, 620)
        self._page, self._plan = page, plan
        self._findings: tuple[Finding, ...] = ()
        self.photo: Path | None = None
        self._faults = list(page.faults)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addLayout(self._fields())
        column.addLayout(self._wrong())
        self.listed = QListWidget()
        self.listed.setAccessibleName(phrase("What went wrong"))
        self.listed.setMaximumHeight(px(96))
        self.listed.setWordWrap(True)
        column.addWidget(self.listed)
        self.note = QPlainTextEdit(page.note)
        self.note.setTabChangesFocus(True)
        self.note.setAccessibleName(phrase("Note"))
        self.note.setPlaceholderText(phrase("What to remember next time"))
        column.addWidget(self.note, 1)
        private = Label(
            phrase("What people asked for is never exported unless you tick it. Ask before you take a photo.")
        )
        private.setObjectName("note")
        private.setWordWrap(True)
        column.addWidget(private)
        foot = LeaveOrTake(self, phrase("Keep it"))
        self.take = foot.take
        column.addLayout(foot)
        self._show_faults()
        self._check()

    def _fields(self) -> QFormLayout:
        form, page = QFormLayout(), self._page
        self.title, self.part, self.asked, self.kept = (
            QLineEdit(text) for text in (page.title, page.part, page.asked, page.kept)
        )
        for field in (self.title, self.part, self.asked, self.kept):
            field.setMaxLength(MOST_LINE)
        self.title.textChanged.connect(self._check)
        self.seconds = NumberField(SECONDS)
        self.seconds.show_amount(page.painted_s)
        self.short = QCheckBox(phrase("the short form"))
        self.short.setChecked(page.short)
        self.light = ChoiceBox()
        self.light.setEditable(True)
        self.light.addItems(list(LIGHTS))
        self.light.setCurrentText(page.light)
        self.choose = QPushButton(phrase("Choose a photo ..."))
        self.choose.setProperty("chip", True)
        self.choose.clicked.connect(lambda _=False: self.ask_photo())
        self.photo_words = Label(phrase("one is kept") if page.photo else phrase("none"))
        photo = QHBoxLayout()
        photo.addWidget(self.choose)
        photo.addWidget(self.photo_words, 1)
        time = QHBoxLayout()
        time.addWidget(self.seconds)
        time.addWidget(self.short)
        time.addStretch(1)
        rows: tuple[tuple[str, QWidget | QLayout], ...] = (
            (phrase("What was painted"), self.title),
            (phrase("Part alone"), self.part),
            (phrase("Painted in"), time),
            (phrase("Photo"), photo),
            (phrase("Light of the photo"), self.light),
            (phrase("Asked for"), self.asked),
            (phrase("Kept"), self.kept),
        )
        for words, row in rows:
            form.addRow(words, row)
        return form

    def _wrong(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.trouble, self.piece = ChoiceBox(), ChoiceBox()
        self.trouble.setAccessibleName(phrase("What went wrong"))
        self.piece.setAccessibleName(phrase("On which piece"))
        for one in Trouble:
            self.trouble.addItem(named(one), one)
        self.piece.addItem(phrase("all of it"), "")
        if self._plan is not None:
            for placed in self._plan.motifs:
                self.piece.addItem(placed.name, placed.id)
        add, drop = QPushButton(phrase("It went wrong so")), QPushButton(phrase("Not so"))
        for button, act in ((add, self.add_fault), (drop, self.drop_fault)):
            button.setProperty("chip", True)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, do=act: do())
        for widget in (Label(phrase("Went wrong:")), self.trouble, Label(phrase("at")), self.piece, add, drop):
            row.addWidget(widget)
        row.addStretch(1)
        return row

    def take_findings(self, findings: tuple[Finding, ...]) -> None:
        """Take what the program says of the plan; what was said on this form to have gone wrong gets its mend anew."""
        self._findings = findings
        known = self._page.faults
        self._faults = [one if one in known else replace(one, mend=self._mend(one)) for one in self._faults]
        self._show_faults()

    def add_fault(self) -> None:
        """Take what is chosen among what went wrong, with the mend that the program gives."""
        piece = self.piece.currentData()
        fault = PageFault(self.trouble.currentData(), piece, self.piece.currentText() if piece else "", "")
        self._faults.append(replace(fault, mend=self._mend(fault)))
        self._show_faults()

    def _mend(self, fault: PageFault) -> str:
        return mend_of(fault.trouble, tuple(one for one in self._findings if one.piece == fault.piece))

    def drop_fault(self) -> None:
        """Take the chosen one out again."""
        at = self.listed.currentRow()
        if 0 <= at < len(self._faults):
            del self._faults[at]
            self._show_faults()

    def _show_faults(self) -> None:
        self.listed.clear()
        for one in self._faults:
            self.listed.addItem(
                phrase("{trouble} at {place}: {mend}", trouble=named(one.trouble), place=one.name, mend=one.mend)
                if one.name
                else f"{named(one.trouble)}: {one.mend}"
            )
        self.listed.setVisible(bool(self._faults))

    def ask_photo(self) -> None:
        """Ask for a photo."""
        chosen = ask_source(self, phrase("A photo"), "photos", "Photos (*.jpg *.jpeg *.png *.webp)")
        if chosen is not None:
            self.take_photo(chosen)

    def take_photo(self, path: Path) -> None:
        """Take a photo of what was painted."""
        self.photo = path
        self.photo_words.setText(path.name)

    def _check(self) -> None:
        self.take.setEnabled(bool(self.title.text().strip()))

    @property
    def page(self) -> LogPage:
        """The page as it is written."""
        return replace(
            self._page,
            title=self.title.text().strip(),
            part=self.part.text().strip(),
            painted_s=self.seconds.amount,
            short=self.short.isChecked(),
            light=self.light.currentText()[:MOST_LINE],
            asked=self.asked.text().strip(),
            kept=self.kept.text().strip(),
            note=self.note.toPlainText()[:MOST_NOTE],
            faults=tuple(self._faults),
        )
