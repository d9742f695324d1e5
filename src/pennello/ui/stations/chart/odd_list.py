"""What is odd about a chart, numbered as its pins are; a click takes the piece that it is about in the hand."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QListWidget, QListWidgetItem

from pennello.design.parts import line_of
from pennello.finding import Finding
from pennello.ui.stations.chart.model import ChartModel

_MOST_PX = 108


class OddList(QListWidget):
    """Findings of the chart, each with the part and piece that it is about."""

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self.setWordWrap(True)
        self.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("What is odd: Enter takes the piece that it is about in the hand")
        self.setMaximumHeight(_MOST_PX)
        self.itemClicked.connect(self._go)
        self.itemActivated.connect(self._go)
        model.painted_anew.connect(self.refresh)
        self.refresh()

    @property
    def words(self) -> str:
        """All that is told, a line each."""
        return "\n".join(self.item(row).text() for row in range(self.count()))

    def refresh(self) -> None:
        """Follow the model."""
        told = [f"{number}  {self._about(one)}{one.text}" for number, one in enumerate(self._model.odd, 1)]
        if told != self.words.split("\n"):
            self.clear()
            for words, one in zip(told, self._model.odd, strict=True):
                item = QListWidgetItem(words)
                item.setData(Qt.ItemDataRole.UserRole, one.piece)
                item.setToolTip(f"{one.level.value}; click to take it in the hand" if one.piece else one.level.value)
                self.addItem(item)
        self.setVisible(bool(told))

    def _about(self, one: Finding) -> str:
        """Return the part that a finding's piece lies in, where its sentence does not name it."""
        placed = next((piece for piece in self._model.plan.motifs if piece.id == one.piece), None)
        line = line_of(self._model.plan, placed.part) if placed is not None else ()
        return f"{line[0].name}: " if line and line[0].name not in one.text else ""

    def _go(self, item: QListWidgetItem) -> None:
        name = item.data(Qt.ItemDataRole.UserRole)
        if any(one.id == name for one in self._model.motifs):
            self._model.choose(str(name))
