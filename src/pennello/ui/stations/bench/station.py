"""The Bench station: strokes above, three mats left to right as the hand moves, the read-out below."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QStackedLayout, QVBoxLayout, QWidget

from pennello.ui.stations.bench.cake_mat import CakeMat
from pennello.ui.stations.bench.edge_mat import EdgeMat
from pennello.ui.stations.bench.model import BenchModel
from pennello.ui.stations.bench.readout import Readout
from pennello.ui.stations.bench.skin_mat import SkinMat
from pennello.ui.stations.bench.strokes_bar import StrokesBar


class BenchStation(QWidget):
    """The heart of the window."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.model = model
        self.strokes = StrokesBar(model)
        self.cake, self.edge, self.skin = CakeMat(model), EdgeMat(model), SkinMat(model)
        self.readout = Readout(model)
        mats = QHBoxLayout()
        mats.setSpacing(8)
        mats.addWidget(self.cake, 300)
        mats.addWidget(self.edge, 220)
        mats.addWidget(self.skin, 620)
        self.cake.setMinimumWidth(264)
        self.edge.setMinimumWidth(206)
        self.readout.setFixedHeight(232)
        bench = QWidget()
        column = QVBoxLayout(bench)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addLayout(mats, 1)
        column.addWidget(self.readout)
        body = QWidget()
        self._stack = QStackedLayout(body)
        self._stack.addWidget(bench)
        self._stack.addWidget(self._empty())
        outer = QVBoxLayout(self)
        outer.setContentsMargins(10, 4, 10, 10)
        outer.setSpacing(6)
        outer.addWidget(self.strokes)
        outer.addWidget(body, 1)
        model.shown.connect(self.refresh)
        model.unit_changed.connect(self.refresh)
        model.boundary_hovered.connect(self._mark_boundary)
        self.refresh()

    def _empty(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.addStretch(1)
        words = QLabel("No stroke yet. Begin with a petal: a cake, a brush on it, and what they lay.")
        words.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.first = QPushButton("Pull the first petal")
        self.first.setProperty("main", True)
        self.first.clicked.connect(self.strokes.add_stroke)
        column.addWidget(words)
        column.addSpacing(10)
        column.addWidget(self.first, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addStretch(1)
        return page

    def refresh(self) -> None:
        """Follow the model."""
        self._stack.setCurrentIndex(0 if self.model.stroke else 1)
        self.strokes.refresh()
        for mat in (self.cake, self.edge, self.skin):
            mat.refresh()
        self.readout.refresh()

    def _mark_boundary(self) -> None:
        for surface in (self.cake.surface, self.edge.surface, self.skin.surface, self.readout.surface):
            surface.update()
