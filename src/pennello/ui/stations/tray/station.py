"""The Tray station: search on top, the shelf, the chosen thing at the right."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLineEdit,
    QMenu,
    QPushButton,
    QSplitter,
    QStackedLayout,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Paint
from pennello.kit.shelf import ItemKind
from pennello.phrases import phrase
from pennello.ui.stations.tray.detail import Detail, scrolled
from pennello.ui.stations.tray.model import TrayModel
from pennello.ui.stations.tray.shelf import Shelf
from pennello.ui.theme.icons import set_glyph
from pennello.ui.theme.text import px
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.plain import Label

_KINDS = (
    (ItemKind.PAINT, phrase("Paints")),
    (ItemKind.CAKE, phrase("Cakes")),
    (ItemKind.BRUSH, phrase("Brushes and sponges")),
)


class TrayStation(QWidget):
    """Everything that the painter owns.

    Signals
    -------
    import_wanted, export_wanted
        Files in and out.
    """

    import_wanted = Signal()
    export_wanted = Signal()

    def __init__(self, model: TrayModel) -> None:
        super().__init__()
        self.model = model
        outer = QVBoxLayout(self)
        outer.setContentsMargins(10, 4, 10, 10)
        outer.setSpacing(6)
        outer.addLayout(self._head())
        split = QSplitter(Qt.Orientation.Horizontal)
        left = QWidget()
        self._stack = QStackedLayout(left)
        self.shelf = Shelf(model)
        self._stack.addWidget(self.shelf)
        self._stack.addWidget(self._nothing())
        self.detail = Detail(model)
        split.addWidget(left)
        right = scrolled(self.detail)
        right.setMinimumWidth(px(392))
        split.addWidget(right)
        split.setStretchFactor(0, 1)
        split.setSizes([760, 420])
        split.setChildrenCollapsible(False)
        outer.addWidget(split, 1)
        model.listed.connect(self.refresh)
        self.setFocusProxy(self.search)

    def _head(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(4)
        self.kinds = OneOf(self)
        for number, (kind, words) in enumerate(_KINDS):
            button = QPushButton()
            button.setText(words)
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setChecked(number == 0)
            self.kinds.addButton(button, number)
            button.clicked.connect(lambda _=False, of=kind: self.model.show_kind(of))
            row.addWidget(button)
        row.addSpacing(10)
        self.search = QLineEdit()
        self.search.setPlaceholderText(
            phrase("search: words, eye:yes, lips:no, or white + red for neighbours in a cake")
        )
        self.search.setAccessibleName(phrase("Search the kit"))
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self.model.search)
        row.addWidget(self.search, 1)
        self.retired = QCheckBox(phrase("out of use too"))
        self.retired.toggled.connect(self.model.show_retired)
        row.addWidget(self.retired)
        self.count = Label("")
        self.count.setObjectName("note")
        row.addWidget(self.count)
        self.add = QToolButton()
        self.add.setText(phrase("Add"))
        set_glyph(self.add, "plus")
        self.add.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.add.clicked.connect(self.add_thing)
        row.addWidget(self.add)
        self.files = QToolButton()
        self.files.setText(phrase("Lists"))
        set_glyph(self.files, "down")
        self.files.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.files.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.files)
        menu.addAction(phrase("Take in a table or palette (CSV, GPL) ...")).triggered.connect(self.import_wanted)
        menu.addAction(phrase("Write the kit (CSV, GPL) ...")).triggered.connect(self.export_wanted)
        self.files.setMenu(menu)
        row.addWidget(self.files)
        return row

    def _nothing(self) -> QWidget:
        """Return what an empty shelf shows: why, and one button."""
        page = QWidget()
        column = QVBoxLayout(page)
        column.addStretch(1)
        self.why = Label("")
        self.why.setAlignment(Qt.AlignmentFlag.AlignCenter)
        column.addWidget(self.why)
        self.first = QPushButton(phrase("Add the first one"))
        self.first.setProperty("main", True)
        self.first.clicked.connect(self._first)
        column.addWidget(self.first, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addStretch(2)
        return page

    def _first(self) -> None:
        if self.model.query:
            self.search.clear()
        else:
            self.add_thing()

    def add_thing(self) -> None:
        """Put a plain new thing of the kind shown into the kit."""
        session = self.model.session
        if session is None:
            return
        paints = list(session.kit.paints)
        if self.model.kind is ItemKind.PAINT:
            self.model.add(Paint("new", phrase("New paint"), "#8090a0"), phrase("New paint"))
        elif self.model.kind is ItemKind.BRUSH:
            self.model.add(Applicator("new", phrase("New flat"), 19.05), phrase("New brush"))
        elif len(paints) < 2:
            self.model.failed.emit(phrase("A cake needs two paints; add paints first."))
        else:
            stripes = (Stripe(paints[0], 10.0), Stripe(paints[1], 10.0))
            self.model.add(Cake("new", phrase("New cake"), stripes), phrase("New cake"))
        self.search.clear()
        self.detail.name.setFocus()
        self.detail.name.selectAll()

    def refresh(self) -> None:
        """Follow the model."""
        model = self.model
        for number, (kind, _) in enumerate(_KINDS):
            if kind is model.kind:
                self.kinds.button(number).setChecked(True)
        self.count.setText(phrase("{count} here", count=len(model.items)))
        self._stack.setCurrentIndex(0 if model.items else 1)
        if not model.items:
            self.why.setText(phrase("Nothing in the kit is like that.") if model.query else phrase("Nothing here yet."))
            self.first.setText(phrase("Show all") if model.query else phrase("Add the first one"))
