"""At the right of the chart while nothing is in the hand: what lies on it, each at a click, and how to begin."""

from __future__ import annotations

from PySide6.QtWidgets import QPushButton, QScrollArea, QVBoxLayout, QWidget

from pennello.design.on_chart import pieces_on
from pennello.motif.motif import counted
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.widgets.plain import Label

EMPTY = "Nothing lies here yet. Pick a motif from the strip below the chart: it is laid with a load of yours."
FIRST = "A motif is laid with the load of a stroke, and there is none yet: make one on the Bench first."
TAKE = "Click one on the chart or here to take it in the hand; pick another from the strip below."


class IdlePage(QWidget):
    """The motifs of a chart in the order of painting."""

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self._listed: tuple[tuple[str, str], ...] | None = None
        self.buttons: dict[str, QPushButton] = {}
        self.words = Label("")
        self.words.setWordWrap(True)
        self._list = QVBoxLayout()
        self._list.setSpacing(4)
        inner = QWidget()
        held = QVBoxLayout(inner)
        held.setContentsMargins(0, 0, 0, 0)
        held.addLayout(self._list)
        held.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(inner)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.words)
        column.addWidget(scroll, 1)

    def refresh(self) -> None:
        """Follow the model."""
        motifs = self._model.motifs
        strokes = len(pieces_on(self._model.plan, self._model.key))
        told = f"{counted(len(motifs), 'motif')}, {counted(strokes, 'stroke')} on this chart. {TAKE}"
        self.words.setText(told if motifs else EMPTY if self._model.plan.strokes else FIRST)
        listed = tuple((one.id, one.name) for one in motifs)
        if listed != self._listed:
            self._listed = listed
            self._fill(listed)

    def _fill(self, listed: tuple[tuple[str, str], ...]) -> None:
        for button in self.buttons.values():
            button.hide()
            button.deleteLater()
        self.buttons = {}
        for number, (key, name) in enumerate(listed, 1):
            button = QPushButton(f"{number}  {name}")
            button.setProperty("chip", True)
            button.setToolTip("Take it in the hand")
            button.clicked.connect(lambda _=False, chosen=key: self._model.choose(chosen))
            self._list.addWidget(button)
            self.buttons[key] = button
