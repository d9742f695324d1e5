"""The catalogue: all motifs as they are laid in the colours of the plan, by group, to be searched, played, put on."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QSize, Signal
from PySide6.QtGui import QCloseEvent, QImage
from PySide6.QtWidgets import QCheckBox, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.design.plan import Plan
from pennello.kit import catalogue
from pennello.motif.catalogue import MOTIFS, motif
from pennello.motif.motif import Motif
from pennello.phrases import phrase, plural
from pennello.session.catalogue import motif_plan, own_plan
from pennello.session.motif_library import Kept
from pennello.ui.gallery import Gallery
from pennello.ui.picture_list import Entry, PictureList
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.play_view import PlayView

OWN = phrase("your own")
_OWN = "own:"


class CataloguePage(QDialog):
    """Motifs at the left, the chosen one at the right, played on the plan's skin.

    Signals
    -------
    picked(str), own_picked(Kept, bool)
        Put it on the chart; one of one's own in its own colours, or with the plan's loads.
    """

    picked = Signal(str)
    own_picked = Signal(object, bool)

    def __init__(self, plan: Plan, own: Sequence[Kept], gallery: Gallery, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Motifs"))
        goes_when_closed(self)
        self.resize(QSize(1160, 720))
        self._plan = plan
        self._own = {f"{_OWN}{number}": kept for number, kept in enumerate(own)}
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 12, 16, 12)
        row.setSpacing(14)
        self.motifs = PictureList("motifs", phrase("search: rose, wing, dots, leaf ..."), gallery)
        row.addWidget(self.motifs, 7)
        row.addLayout(self._right(), 4)
        self.motifs.chosen.connect(self._show_chosen)
        self.motifs.taken.connect(lambda _: self.take())
        self.motifs.fill((*map(_of_own, self._own.items()), *map(_entry, MOTIFS.values())), plan, (OWN,))

    def _right(self) -> QVBoxLayout:
        column = QVBoxLayout()
        self.name = Label("")
        self.name.setObjectName("station")
        self.words = Label("")
        self.words.setWordWrap(True)
        self.view = PlayView(self)
        self.parts = Label("")
        self.parts.setObjectName("note")
        self.parts.setWordWrap(True)
        foot = QHBoxLayout()
        self.put = QPushButton(phrase("Put it on the chart"))
        self.put.setProperty("main", True)
        self.put.setAutoDefault(False)
        self.put.clicked.connect(self.take)
        close = QPushButton(phrase("Close"))
        close.setProperty("chip", True)
        close.setAutoDefault(False)
        close.clicked.connect(self.close)
        self.plan_colours = QCheckBox(phrase("with the plan's loads"))
        self.plan_colours.setToolTip(phrase("In other colours: the loads of the plan that are most like its own"))
        self.plan_colours.toggled.connect(lambda _: self._show_chosen(self.motifs.key))
        foot.addWidget(self.plan_colours)
        foot.addStretch(1)
        foot.addWidget(close)
        foot.addWidget(self.put)
        for widget in (self.name, self.words):
            column.addWidget(widget)
        column.addWidget(self.view, 1)
        column.addWidget(self.parts)
        column.addLayout(foot)
        return column

    def _show_chosen(self, key: str) -> None:
        self.put.setEnabled(bool(key))
        self.plan_colours.setVisible(key in self._own)
        if not key:
            self.name.setText(phrase("Nothing of that name"))
            self.words.setText(phrase("Search for another word, or choose all."))
            self.parts.setText("")
            return
        make: Callable[[], Plan]
        if key in self._own:
            own = self._own[key].own
            self.name.setText(own.name)
            self.words.setText(phrase("Your own"))
            loads = ", ".join(one.name for one in own.parts.strokes)
            self.parts.setText(
                plural(
                    len(own.parts.motifs),
                    "{count} thing, kept with these loads: {loads}",
                    "{count} things, kept with these loads: {loads}",
                    loads=loads,
                )
            )
            make = partial(own_plan, self._plan, own, own_colours=not self.plan_colours.isChecked())
        else:
            kind = motif(key)
            self.name.setText(kind.name)
            made = kind.made()
            self.words.setText(f"{kind.words}. {'; '.join(made.says[:2])}.")
            tools = catalogue.brushes()
            self.parts.setText(
                "\n".join(f"{part.name}: {part.role.words}, {tools[part.tool].name}" for part in kind.parts)
            )
            make = partial(motif_plan, self._plan, key)
        self.view.show_plan(make)

    def take(self) -> None:
        """Put the chosen one on the chart; the page stays open for the next."""
        key = self.motifs.key
        if key in self._own:
            self.own_picked.emit(self._own[key], not self.plan_colours.isChecked())
        elif key:
            self.picked.emit(key)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self.view.leave()
        super().closeEvent(event)


def _entry(kind: Motif) -> Entry:
    words = " ".join([kind.words, *(part.name for part in kind.parts)])
    return Entry(kind.key, kind.name, kind.group, words, QImage())


def _of_own(one: tuple[str, Kept]) -> Entry:
    key, kept = one
    return Entry(key, kept.own.name, OWN, "", QImage.fromData(kept.picture))
