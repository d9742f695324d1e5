"""A list that draws itself, its items wherever they lie: to a screen reader a list like any other."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPoint, QRect, QRectF, QSignalBlocker, Qt
from PySide6.QtGui import QRegion, QStandardItem, QStandardItemModel
from PySide6.QtWidgets import QAbstractItemView, QFrame, QListView

Index = QModelIndex | QPersistentModelIndex


class DrawnList(QListView):
    """Draws itself; a class of it says where an item lies (`rect_of`) and takes hand and keys itself."""

    def __init__(self) -> None:
        super().__init__()
        self._items = QStandardItemModel(self)
        self.setModel(self._items)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setStyleSheet("QListView { background: transparent; border: none; }")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setMouseTracking(True)
        self.viewport().setMouseTracking(True)

    def rect_of(self, row: int) -> QRectF:
        """Return where an item lies."""
        raise NotImplementedError

    def show_words(self, words: Sequence[str], tips: Sequence[str], current: int) -> None:
        """Say what the items are, what is told when one is pointed at, and which is chosen; -1 for none."""
        with QSignalBlocker(self.selectionModel()):
            if list(words) != [self._items.item(row).text() for row in range(self._items.rowCount())]:
                self._items.clear()
                for word in words:
                    item = QStandardItem(word)
                    item.setEditable(False)
                    self._items.appendRow(item)
            for row, told in enumerate(tips):
                self._items.item(row).setToolTip(told)
            self.setCurrentIndex(self._items.index(current, 0) if current >= 0 else QModelIndex())

    def redraw(self) -> None:
        """Draw anew."""
        self.viewport().update()

    # --- what Qt asks of a list ---

    def visualRect(self, index: Index) -> QRect:
        """Return where an item lies."""
        return self.rect_of(index.row()).toAlignedRect() if index.isValid() else QRect()

    def indexAt(self, point: QPoint) -> QModelIndex:
        """Return the item at a point."""
        rows = [row for row in range(self._items.rowCount()) if self.rect_of(row).contains(point)]
        return self._items.index(rows[-1], 0) if rows else QModelIndex()

    def scrollTo(
        self, index: Index, hint: QAbstractItemView.ScrollHint = QAbstractItemView.ScrollHint.EnsureVisible
    ) -> None:
        """Do nothing: the window that it lies in is scrolled."""

    def moveCursor(self, cursorAction: QAbstractItemView.CursorAction, modifiers: Qt.KeyboardModifier) -> QModelIndex:
        """Stay: keys are taken by the class itself."""
        return self.currentIndex()

    def horizontalOffset(self) -> int:
        """Return 0: nothing is scrolled within."""
        return 0

    def verticalOffset(self) -> int:
        """Return 0."""
        return 0

    def isIndexHidden(self, index: Index) -> bool:
        """Return that no item is hidden."""
        return False

    def setSelection(self, rect: QRect, command: object) -> None:
        """Do nothing: the class itself says what is chosen."""

    def visualRegionForSelection(self, selection: object) -> QRegion:
        """Return nothing: the class itself draws what is chosen."""
        return QRegion()
