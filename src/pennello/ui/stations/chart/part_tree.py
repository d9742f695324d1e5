"""Parts and pieces of a design as a tree in the order of painting: selected, dragged, moved by keys."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QDropEvent, QKeyEvent
from PySide6.QtWidgets import QAbstractItemView, QTreeWidget, QTreeWidgetItem, QWidget

from pennello.phrases import phrase

PICTURE = QSize(40, 30)
_ID = Qt.ItemDataRole.UserRole


class PartTree(QTreeWidget):
    """Parts and pieces in the order of painting.

    Signals
    -------
    dropped(object, str, str)
        What was dragged, a tuple of ids; before what it shall come ("" for last); into which part ("" for none).
    stepped(object, int)
        What shall be painted one place earlier (-1) or later (1), a tuple of ids.
    """

    dropped = Signal(object, str, str)
    stepped = Signal(object, int)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setHeaderHidden(True)
        self.setIndentation(14)
        self.setIconSize(PICTURE)
        self.setAccessibleName(phrase("Parts of the design in the order of painting: Ctrl with up or down moves"))
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)

    @property
    def taken(self) -> tuple[QTreeWidgetItem, ...]:
        """What is selected, as listed, without what lies in a part that is selected too."""
        found, item = [], self.topLevelItem(0)
        while item is not None:
            if item.isSelected() and not any(one.isSelected() for one in _outer(item)):
                found.append(item)
            item = self.itemBelow(item)
        return tuple(found)

    @property
    def every(self) -> list[QTreeWidgetItem]:
        """All parts and pieces, in no order that matters."""
        found, open_ = [], [self.topLevelItem(at) for at in range(self.topLevelItemCount())]
        while open_:
            item = open_.pop()
            if item is not None:
                found.append(item)
                open_ += [item.child(at) for at in range(item.childCount())]
        return found

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Move what is selected with Ctrl and up or down."""
        way = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()), 0)
        if self.taken and way and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.stepped.emit(tuple(name_of(one) for one in self.taken), way)
            return
        super().keyPressEvent(event)

    def dropEvent(self, event: QDropEvent) -> None:
        """Say where it fell; the plan moves it, and the tree follows."""
        taken, target = self.taken, self.itemAt(event.position().toPoint())
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        if taken and target not in taken:
            self.dropped.emit(tuple(name_of(one) for one in taken), *self._fell(target))

    def _fell(self, target: QTreeWidgetItem | None) -> tuple[str, str]:
        """Return what it fell before, and into which part."""
        if target is None:
            return "", ""
        within = part_of(target)
        where = self.dropIndicatorPosition()
        onto = QAbstractItemView.DropIndicatorPosition.OnItem
        if where == onto and is_part(target):
            return "", name_of(target)
        if where == QAbstractItemView.DropIndicatorPosition.BelowItem:
            below = self.itemBelow(target)
            return (name_of(below), part_of(below)) if below is not None else ("", within)
        return name_of(target), within


def item_of(words: str, name: str, *, part: bool) -> QTreeWidgetItem:
    """Return what shows a part, which takes what is dropped on it, or a piece."""
    item = QTreeWidgetItem([words])
    item.setData(0, _ID, name)
    item.setData(0, _ID + 1, part)
    flags = item.flags() | Qt.ItemFlag.ItemIsDragEnabled
    item.setFlags(flags | Qt.ItemFlag.ItemIsDropEnabled if part else flags & ~Qt.ItemFlag.ItemIsDropEnabled)
    if part:
        font = item.font(0)
        font.setBold(True)
        item.setFont(0, font)
    return item


def name_of(item: QTreeWidgetItem) -> str:
    """Return the id of what an item shows."""
    return str(item.data(0, _ID))


def part_of(item: QTreeWidgetItem) -> str:
    """Return the part that an item lies in, "" for none."""
    outer = item.parent()
    return name_of(outer) if outer is not None else ""


def _outer(item: QTreeWidgetItem) -> list[QTreeWidgetItem]:
    """Return the items that an item lies in."""
    found = []
    while (above := item.parent()) is not None:
        found.append(above)
        item = above
    return found


def is_part(item: QTreeWidgetItem) -> bool:
    """Return whether an item shows a part, not a piece."""
    return bool(item.data(0, _ID + 1))
