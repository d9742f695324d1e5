"""A list of pictures as they are laid: searched by words, sifted by group, one of them chosen."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QIcon, QImage
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.design.plan import Plan
from pennello.phrases import phrase
from pennello.ui.gallery import Gallery, tile
from pennello.ui.theme.text import px
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.progress import ThinBar
from pennello.ui.widgets.true_icon import true_icon

ALL = "all"
TILE = QSize(116, 92)


@dataclass(frozen=True, slots=True)
class Entry:
    """What is listed: its key, name and group, and all words that it is found by.

    Attributes
    ----------
    image
        Its picture where it has one of its own; null where the gallery has it.
    """

    key: str
    name: str
    group: str
    words: str
    image: QImage


class PictureList(QWidget):
    """Search on top, groups below it, pictures with their names and sizes, how far they are laid at the foot.

    Signals
    -------
    chosen(str), taken(str)
        Key of the one that is chosen, "" where nothing is left; and of one that is double clicked.
    """

    chosen = Signal(str)
    taken = Signal(str)

    def __init__(self, what: str, hint: str, gallery: Gallery) -> None:
        super().__init__()
        self._gallery, self._group = gallery, ALL
        self._told: str | None = None
        self._entries: dict[str, Entry] = {}
        self._of: dict[str, QListWidgetItem] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        self.search = QLineEdit()
        self.search.setPlaceholderText(hint)
        self.search.setAccessibleName(phrase("Search the {what}", what=what))
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(lambda _: self._sift())
        column.addWidget(self.search)
        self.groups = OneOf(self)
        self._chips = QHBoxLayout()
        self._chips.setSpacing(4)
        column.addLayout(self._chips)
        self.list = QListWidget()
        self.list.setAccessibleName(phrase("{what}, as they are laid", what=what.capitalize()))
        self.list.setViewMode(QListWidget.ViewMode.IconMode)
        self.list.setIconSize(TILE)
        self.list.setGridSize(QSize(px(138), TILE.height() + px(50)))
        self.list.setMovement(QListWidget.Movement.Static)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setUniformItemSizes(True)
        self.list.setWordWrap(True)
        self.list.currentItemChanged.connect(lambda *_: self._tell())
        self.list.itemActivated.connect(lambda _: self.taken.emit(self.key))
        column.addWidget(self.list, 1)
        self.bar = ThinBar()
        column.addWidget(self.bar)
        gallery.found.connect(self._show_picture)
        gallery.progress.connect(self._show_progress)
        gallery.ready.connect(self.bar.hide)

    def fill(self, entries: tuple[Entry, ...], plan: Plan, more: tuple[str, ...] = ()) -> None:
        """List these, with chips for their groups and for `more`, and look for the pictures in a plan's colours."""
        blank = true_icon(tile(QImage(), TILE))
        for one in entries:
            item = QListWidgetItem(blank if one.image.isNull() else true_icon(tile(one.image, TILE)), f"{one.name}\n ")
            item.setData(Qt.ItemDataRole.UserRole, one.key)
            item.setTextAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
            self.list.addItem(item)
            self._entries[one.key], self._of[one.key] = one, item
            self._show_picture(one.key)
        for name in dict.fromkeys((ALL, *(one.group for one in entries if one.group not in more), *more)):
            chip = QPushButton()
            chip.setText(name)
            chip.setCheckable(True)
            chip.setChecked(name == ALL)
            chip.setProperty("segment", True)
            chip.clicked.connect(lambda _=False, group=name: self.show_group(group))
            self.groups.addButton(chip)
            self._chips.addWidget(chip)
        self._chips.addStretch(1)
        self._gallery.show_plan(plan, 0)
        self.bar.setVisible(any(one.image.isNull() and one.key not in self._gallery.pictures for one in entries))
        self.list.setCurrentRow(0)
        self.search.setFocus()

    @property
    def key(self) -> str:
        """Key of the chosen one, "" where nothing is left."""
        item = self.list.currentItem()
        return "" if item is None or item.isHidden() else str(item.data(Qt.ItemDataRole.UserRole))

    @property
    def left(self) -> tuple[str, ...]:
        """Keys of what the search and the group leave, in order."""
        return tuple(key for key, item in self._of.items() if not item.isHidden())

    def choose(self, key: str) -> None:
        """Choose one."""
        self.list.setCurrentItem(self._of[key])

    def icon(self, key: str) -> QIcon:
        """Return what is shown of one."""
        return self._of[key].icon()

    def show_group(self, group: str) -> None:
        """Show one group only, or all."""
        self._group = group
        self._sift()

    def _sift(self) -> None:
        """Show what is of the group and has all the words that are searched for."""
        wanted = self.search.text().lower().split()
        for key, item in self._of.items():
            one = self._entries[key]
            told = f"{key} {one.name} {one.group} {one.words}".lower()
            item.setHidden(self._group not in (ALL, one.group) or not all(word in told for word in wanted))
        if not self.key:
            left = self.left
            self.list.setCurrentItem(self._of[left[0]] if left else None)  # type: ignore[arg-type]
            self._tell()

    def _tell(self) -> None:
        """Tell what is chosen, where it is another one: whoever hears it lays it anew."""
        if self.key != self._told:
            self._told = self.key
            self.chosen.emit(self.key)

    def _show_picture(self, key: str) -> None:
        seen = self._gallery.seen(key)
        if seen is not None and key in self._of:
            self._of[key].setIcon(true_icon(seen.tile(TILE)))
            self._of[key].setText(
                phrase(
                    "{entries}\n{width_mm:.0f} × {height_mm:.0f} mm",
                    entries=self._entries[key].name,
                    width_mm=seen.width_mm,
                    height_mm=seen.height_mm,
                )
            )

    def _show_progress(self, part: float) -> None:
        self.bar.show_part(part)
