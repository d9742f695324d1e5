"""Sentences one below the other, each about something: a click, or Enter, goes there."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QListWidget, QListWidgetItem


class ToldList(QListWidget):
    """Sentences that lead somewhere.

    Signals
    -------
    gone(str)
        Where a sentence leads was asked for.
    """

    gone = Signal(str)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setWordWrap(True)
        self.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(name)
        self.setSpacing(2)
        self.itemClicked.connect(self._go)
        self.itemActivated.connect(self._go)

    @property
    def words(self) -> str:
        """All that is told, a line each."""
        return "\n".join(self.item(row).text() for row in range(self.count()))

    def show_told(self, told: Sequence[tuple[str, str, str]]) -> None:
        """Show sentences, each with where it leads ("" for nowhere) and its tip."""
        if [(self.item(row).text(), self._to(row)) for row in range(self.count())] == [one[:2] for one in told]:
            return
        self.clear()
        for words, to, tip in told:
            item = QListWidgetItem(words)
            item.setData(Qt.ItemDataRole.UserRole, to)
            item.setToolTip(tip)
            self.addItem(item)

    def _to(self, row: int) -> str:
        return str(self.item(row).data(Qt.ItemDataRole.UserRole))

    def _go(self, item: QListWidgetItem) -> None:
        to = str(item.data(Qt.ItemDataRole.UserRole))
        if to:
            self.gone.emit(to)
