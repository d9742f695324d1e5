"""The catalogue: all motifs as they are laid in the colours of the plan, by group, to be searched, played, put on."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QCloseEvent, QIcon, QImage
from PySide6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.design.plan import Plan
from pennello.kit import catalogue
from pennello.motif.catalogue import MOTIFS, motif
from pennello.session.catalogue import motif_plan, own_plan
from pennello.session.motif_library import Kept
from pennello.ui.stations.chart.gallery import Gallery, tile
from pennello.ui.widgets.motion import MOVING
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.play_view import PlayView

ALL, OWN = "all", "your own"
_TILE = QSize(116, 92)
_OWN = "own:"


class CataloguePage(QDialog):
    """Motifs at the left, the chosen one at the right, played on the plan's skin.

    Signals
    -------
    picked(str), own_picked(Kept)
        Put it on the chart.
    """

    picked = Signal(str)
    own_picked = Signal(object)

    def __init__(self, plan: Plan, own: Sequence[Kept], gallery: Gallery, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("Motifs")
        self.setObjectName(MOVING)
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.resize(QSize(1160, 720))
        self._plan, self._gallery = plan, gallery
        self._own = {f"{_OWN}{number}": kept for number, kept in enumerate(own)}
        self._group = ALL
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 12, 16, 12)
        row.setSpacing(14)
        row.addLayout(self._left(), 7)
        row.addLayout(self._right(), 4)
        self._fill()
        gallery.found.connect(self._show_picture)
        gallery.progress.connect(self._show_progress)
        gallery.ready.connect(self.bar.hide)
        gallery.show_plan(plan, 0)
        self.bar.setVisible(len(gallery.pictures) < len(MOTIFS))
        self.list.setCurrentRow(0)
        self.search.setFocus()

    def _left(self) -> QVBoxLayout:
        column = QVBoxLayout()
        self.search = QLineEdit()
        self.search.setPlaceholderText("search: rose, wing, dots, leaf ...")
        self.search.setAccessibleName("Search the motifs")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda _: self._sift())
        column.addWidget(self.search)
        chips = QHBoxLayout()
        chips.setSpacing(4)
        self.groups = QButtonGroup(self)
        for name in (ALL, *dict.fromkeys(one.group for one in MOTIFS.values()), OWN):
            chip = QToolButton()
            chip.setText(name)
            chip.setCheckable(True)
            chip.setChecked(name == ALL)
            chip.setProperty("segment", True)
            chip.clicked.connect(lambda _=False, group=name: self.show_group(group))
            self.groups.addButton(chip)
            chips.addWidget(chip)
        chips.addStretch(1)
        column.addLayout(chips)
        self.list = QListWidget()
        self.list.setAccessibleName("Motifs, as they are laid")
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setIconSize(_TILE)
        self.list.setGridSize(QSize(148, 142))
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setUniformItemSizes(True)
        self.list.setWordWrap(True)
        self.list.currentItemChanged.connect(lambda *_: self._show_chosen())
        self.list.itemActivated.connect(lambda _: self.take())
        column.addWidget(self.list, 1)
        self.bar = QProgressBar()
        self.bar.setFixedHeight(4)
        self.bar.setTextVisible(False)
        self.bar.setRange(0, 1000)
        column.addWidget(self.bar)
        return column

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
        self.put = QPushButton("Put it on the chart")
        self.put.setProperty("main", True)
        self.put.setAutoDefault(False)
        self.put.clicked.connect(self.take)
        close = QPushButton("Close")
        close.setProperty("chip", True)
        close.setAutoDefault(False)
        close.clicked.connect(self.close)
        foot.addStretch(1)
        foot.addWidget(close)
        foot.addWidget(self.put)
        for widget in (self.name, self.words):
            column.addWidget(widget)
        column.addWidget(self.view, 1)
        column.addWidget(self.parts)
        column.addLayout(foot)
        return column

    # --- what is listed ---

    def _fill(self) -> None:
        blank = tile(QImage(), _TILE)
        for key, kept in self._own.items():
            self._add(key, kept.own.name, QIcon(tile(QImage.fromData(kept.picture), _TILE)))
        for key, kind in MOTIFS.items():
            self._add(key, f"{kind.name}\n ", QIcon(blank))
            if key in self._gallery.pictures:
                self._show_picture(key)

    def _add(self, key: str, name: str, icon: QIcon) -> None:
        item = QListWidgetItem(icon, name)
        item.setData(Qt.ItemDataRole.UserRole, key)
        item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
        self.list.addItem(item)

    def _items(self) -> list[QListWidgetItem]:
        return [self.list.item(number) for number in range(self.list.count())]

    def _show_progress(self, part: float) -> None:
        self.bar.setValue(round(1000 * part))

    def _show_picture(self, key: str) -> None:
        seen = self._gallery.pictures[key]
        for item in self._items():
            if item.data(Qt.ItemDataRole.UserRole) == key:
                item.setIcon(QIcon(seen.tile(_TILE)))
                item.setText(f"{motif(key).name}\n{seen.width_mm:.0f} × {seen.height_mm:.0f} mm")

    def show_group(self, group: str) -> None:
        """Show one group of motifs only, or all."""
        self._group = group
        self._sift()

    def _sift(self) -> None:
        """Show what is of the group and has all the words that are searched for."""
        wanted = self.search.text().lower().split()
        for item in self._items():
            key = str(item.data(Qt.ItemDataRole.UserRole))
            own = key in self._own
            group = OWN if own else motif(key).group
            told = self._own[key].own.name if own else _told(key)
            hidden = self._group not in (ALL, group) or not all(word in told.lower() for word in wanted)
            item.setHidden(hidden)
        current = self.list.currentItem()
        if current is None or current.isHidden():
            shown = next((number for number, item in enumerate(self._items()) if not item.isHidden()), -1)
            self.list.setCurrentRow(shown)
            self._show_chosen()

    # --- the chosen one ---

    @property
    def chosen(self) -> str:
        """Key of the chosen motif, "" without one."""
        item = self.list.currentItem()
        return "" if item is None or item.isHidden() else str(item.data(Qt.ItemDataRole.UserRole))

    def _show_chosen(self) -> None:
        key = self.chosen
        self.put.setEnabled(bool(key))
        if not key:
            self.name.setText("Nothing of that name")
            self.words.setText("Search for another word, or choose all.")
            self.parts.setText("")
            return
        make: Callable[[], Plan]
        if key in self._own:
            own = self._own[key].own
            self.name.setText(own.name)
            self.words.setText("Your own")
            loads = ", ".join(one.name for one in own.parts.strokes)
            self.parts.setText(f"{len(own.parts.motifs)} things, with their own loads: {loads}")
            make = partial(own_plan, self._plan, own)
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
        key = self.chosen
        if key in self._own:
            self.own_picked.emit(self._own[key])
        elif key:
            self.picked.emit(key)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self.view.leave()
        super().closeEvent(event)


def _told(key: str) -> str:
    """Return all that is said of a motif, to be searched through."""
    kind = motif(key)
    return " ".join([key, kind.name, kind.words, kind.group, *(part.name for part in kind.parts)])
