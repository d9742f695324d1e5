"""Asking for one thing: a number with its unit, a name, or where to write. Nothing is written over unasked."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import (
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QMessageBox,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.disk import exists
from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.widgets.folders import FOLDERS, kind_of
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.passing import taken
from pennello.ui.widgets.plain import Label, tip
from pennello.ui.widgets.saying import say_from
from pennello.units import LengthUnit


class AmountPage(QDialog):
    """One number."""

    def __init__(self, parent: QWidget, title: str, quantity: Quantity, amount: float, unit: LengthUnit) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        words = Label(quantity.name)
        self.field = NumberField(quantity)
        self.field.show_unit(unit)
        self.field.show_amount(amount)
        self.said = Label("")
        self.said.setObjectName("note")
        self.said.setWordWrap(True)
        leave, take = QPushButton(phrase("Not now")), QPushButton(phrase("Take it"))
        leave.setProperty("chip", True)
        take.setProperty("main", True)
        take.setDefault(True)
        leave.clicked.connect(self.reject)
        take.clicked.connect(self.accept)
        foot = QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(leave)
        foot.addWidget(take)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        for part in (words, self.field, self.said):
            column.addWidget(part)
        column.addLayout(foot)
        self.setMinimumWidth(px(380))
        self.field.setFocus()

    def say(self, sentence: str) -> None:
        """Show why a number is not taken."""
        self.said.setText(sentence)
        self.adjustSize()  # all of it is read, however long


def ask_amount(
    parent: QWidget, title: str, quantity: Quantity, amount: float, unit: LengthUnit = LengthUnit.MM
) -> float | None:
    """Ask for a number; None where it is left alone."""
    page = AmountPage(parent, title, quantity, amount, unit)
    return page.field.amount if taken(page) else None


def ask_name(parent: QWidget, title: str, what: str, name: str = "") -> str:
    """Ask what something is called; "" where that is left alone or blank."""
    told, fine = QInputDialog.getText(parent, title, what, text=name)
    return told.strip() if fine else ""


def with_ending(path: Path, endings: tuple[str, ...]) -> Path:
    """Return a path with one of these endings: the first is added to what has none of them.

    >>> with_ending(Path("sheet"), (".pdf",)).name, with_ending(Path("a.v2"), (".csv",)).name
    ('sheet.pdf', 'a.v2.csv')
    """
    return path if path.suffix.lower() in endings else path.with_name(path.name + endings[0])


def ask_source(parent: QWidget, title: str, kind: str, filters: str, otherwise: Path | None = None) -> Path | None:
    """Ask for a file to read; None where nobody wants one.

    Parameters
    ----------
    kind
        What of `KINDS` it is: it is asked for where such a file was last.
    filters
        What is offered, as Qt writes it.
    otherwise
        Where it is asked for the first time; the home without it.
    """
    start = FOLDERS.of(kind, otherwise or Path.home())
    chosen, _ = QFileDialog.getOpenFileName(parent, title, str(start), filters)
    if not chosen:
        return None
    FOLDERS.note(kind, Path(chosen))
    return Path(chosen)


def ask_folder(parent: QWidget, title: str, kind: str) -> Path | None:
    """Ask for a folder to write files of a kind into; None where nobody wants to."""
    chosen = QFileDialog.getExistingDirectory(parent, title, str(FOLDERS.of(kind, Path.home())))
    if not chosen:
        return None
    FOLDERS.note(kind, Path(chosen) / "x")
    return Path(chosen)


def ask_target(parent: QWidget, title: str, start: Path, endings: tuple[str, ...]) -> Path | None:
    """Ask where to write; None where nobody wants to.

    It is asked for where a file of that kind was last; where an ending has to be added, and there is a file of that
    name, that is asked too.

    Parameters
    ----------
    endings
        What the file may end with, the usual one first.
    """
    kinds = " ".join(f"*{ending}" for ending in endings)
    kind = kind_of(endings[0])
    chosen, _ = QFileDialog.getSaveFileName(parent, title, str(FOLDERS.of(kind, start.parent) / start.name), kinds)
    if not chosen or not Path(chosen).name:
        return None
    FOLDERS.note(kind, Path(chosen))
    path = Path(chosen)
    target = with_ending(path, endings)
    if target != path and exists(target) and not may_write_over(parent, target):
        return None
    return target


def may_write_over(parent: QWidget, path: Path) -> bool:
    """Ask whether a file that is there may be written over."""
    return _may_go(parent, path.name, phrase("There is a file {path} already. Write over it?", path=path.name))


def may_take_the_place(parent: QWidget, name: str) -> bool:
    """Ask whether a motif may take the place of another one that is kept under its name."""
    return _may_go(
        parent, name, phrase("You keep another motif as {name} already. Let this one take its place?", name=name)
    )


def _may_go(parent: QWidget, name: str, words: str) -> bool:
    buttons = QMessageBox.StandardButton
    answer = QMessageBox.question(
        parent, phrase("Already there"), tip(words), buttons.Yes | buttons.Cancel, buttons.Cancel
    )
    if answer == buttons.Yes:
        return True
    say_from(parent, phrase("{name} was left as it is.", name=name))
    return False
