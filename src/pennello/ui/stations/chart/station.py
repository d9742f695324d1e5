"""The Chart station: the person fills the height; motifs below, the chosen one at the right."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.chart.catalogue import CHARTS
from pennello.chart.measures import FACE_HEIGHT_MM, HEAD_BREADTH_MM, Age, usual
from pennello.design.on_chart import moved_in_order, with_new_motif
from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.motif.place import Place
from pennello.ui.stations.bench.cake_fields import choice, fill
from pennello.ui.stations.chart.board import ChartBoard
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.stations.chart.panel import MotifPanel
from pennello.ui.stations.chart.strip import Beads, MotifStrip
from pennello.ui.widgets.number_field import NumberField, Quantity, WheelGuard
from pennello.units import LengthUnit

HEAD = Quantity("Head breadth above the ears", *HEAD_BREADTH_MM, 1, 0, length=True)
FACE = Quantity("From the root of the nose to the chin", *FACE_HEIGHT_MM, 1, 0, length=True)


class ChartStation(QWidget):
    """Motifs on a person.

    Signals
    -------
    said(str)
    """

    said = Signal(str)

    def __init__(self, model: ChartModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.model = model
        guard = WheelGuard(self)
        card = QFrame()
        card.setObjectName("mat")
        self.board = ChartBoard(model, card)
        self.panel = MotifPanel(model)
        self.strip, self.beads = MotifStrip(), Beads(model)
        self.strip.picked.connect(self.add_motif)
        self.beads.chosen.connect(model.choose)
        self.beads.moved.connect(self.move_bead)
        inner = QVBoxLayout(card)
        inner.setContentsMargins(10, 6, 10, 6)
        inner.addLayout(self._head(guard))
        inner.addWidget(self.board, 1)
        inner.addWidget(self.beads)
        inner.addWidget(self.strip)
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 4, 10, 10)
        row.setSpacing(8)
        row.addWidget(card, 1)
        row.addWidget(self.panel)
        model.failed.connect(self.said)
        model.shown.connect(self.refresh)
        self.refresh()

    def _head(self, guard: WheelGuard) -> QHBoxLayout:
        head = QHBoxLayout()
        title = QLabel("Chart")
        title.setObjectName("station")
        head.addWidget(title)
        self.chart: QComboBox = choice("Which part of the body", guard)
        for key, (name, _) in CHARTS.items():
            self.chart.addItem(name, key)
        self.chart.setMinimumWidth(150)
        self.chart.activated.connect(lambda at: self.model.show_chart(self.chart.itemData(at)))
        self.age: QComboBox = choice("Whom it is drawn for: usual sizes", guard)
        self.age.addItem("own measures", None)
        for age in Age:
            self.age.addItem(age.value, age)
        self.age.setMinimumWidth(110)
        self.age.activated.connect(self._set_age)
        self.head_mm, self.face_mm = NumberField(HEAD), NumberField(FACE)
        self.head_mm.edited.connect(lambda v: self._measure("Head breadth", head_breadth_mm=v))
        self.face_mm.edited.connect(lambda v: self._measure("Face height", face_height_mm=v))
        self.guide: QComboBox = choice("A frame to paint along", guard)
        self.guide.setMinimumWidth(110)
        self.guide.activated.connect(lambda _: self._set_guide())
        self.mirror = QToolButton()
        self.mirror.setText("In the mirror")
        self.mirror.setCheckable(True)
        self.mirror.setToolTip("As you see yourself when you paint your own face")
        self.mirror.toggled.connect(self._set_mirror)
        self.svg = QPushButton("SVG out ...")
        self.svg.setProperty("chip", True)
        self.svg.setToolTip("The chart as a drawing, 1 unit = 1 mm")
        self.svg.clicked.connect(self.ask_svg)
        for words, widget in (
            ("", self.chart),
            ("for", self.age),
            ("head", self.head_mm),
            ("face", self.face_mm),
            ("frame", self.guide),
        ):
            if words:
                label = QLabel(words)
                label.setObjectName("note")
                label.setBuddy(widget)
                head.addWidget(label)
            head.addWidget(widget)
        head.addStretch(1)
        head.addWidget(self.mirror)
        head.addWidget(self.svg)
        return head

    # --- edits ---

    def add_motif(self, key: str) -> None:
        """Put a motif in the middle of the chart and take it in the hand."""
        left, top, right, bottom = self.model.chart.bounds_mm
        x, y = (left + right) / 2, (top + bottom) / 2
        try:
            plan, new_id = with_new_motif(self.model.document.committed, key, self.model.key, Place(x, y))
        except PennelloError as error:
            self.said.emit(str(error))
            return
        self.model.edit("Put a motif on the chart", lambda _: plan)
        self.model.choose(new_id)

    def move_bead(self, name: str, to: int) -> None:
        """Paint a motif at another time: its number among those of this chart."""
        here = [one.id for one in self.model.motifs]
        target = self.model.document.committed.motifs.index(
            next(one for one in self.model.document.committed.motifs if one.id == here[to])
        )
        self.model.edit("Another order", lambda plan: moved_in_order(plan, name, target))

    def _measure(self, label: str, **changes: float) -> None:
        def make(plan: Plan) -> Plan:
            return replace(plan, measures=replace(plan.measures, **changes))

        self.model.edit(label, make, label)

    def _set_age(self, at: int) -> None:
        age = self.age.itemData(at)
        if age is not None:
            self.model.edit("Whom it is drawn for", lambda plan: replace(plan, measures=usual(age)))

    def _set_guide(self) -> None:
        self.board.guide = self.guide.currentData() or ""
        self.board.update()

    def _set_mirror(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        self.board.mirror = on
        self.board.refresh()

    def ask_svg(self) -> None:
        """Ask where and write the chart as SVG."""
        name, _ = QFileDialog.getSaveFileName(self, "The chart", str(Path.home() / f"{self.model.key}.svg"), "*.svg")
        if name:
            self.write_svg(Path(name))

    def write_svg(self, path: Path) -> None:
        """Write the chart as SVG."""
        from pennello.files.atomic import write_bytes  # noqa: PLC0415
        from pennello.files.chart_svg import chart_svg  # noqa: PLC0415

        try:
            write_bytes(chart_svg(self.model.chart).encode(), path)
        except PennelloError as error:
            self.said.emit(str(error))
        else:
            self.said.emit(f"Wrote {path}.")

    def show_unit(self, unit: LengthUnit) -> None:
        """Show lengths in this unit."""
        self.board.unit = self.panel.unit = unit
        for field in (self.head_mm, self.face_mm):
            field.show_unit(unit)
        self.panel.refresh()

    # --- following ---

    def refresh(self) -> None:
        """Follow the model."""
        measures = self.model.plan.measures
        with QSignalBlocker(self.chart):
            self.chart.setCurrentIndex(self.chart.findData(self.model.key))
        known = next((age for age in Age if usual(age) == measures), None)
        with QSignalBlocker(self.age):
            self.age.setCurrentIndex(0 if known is None else 1 + list(Age).index(known))
        self.head_mm.show_amount(measures.head_breadth_mm)
        self.face_mm.show_amount(measures.face_height_mm)
        frames: list[tuple[str, object]] = [("none", ""), *((name, name) for name, _ in self.model.chart.frames)]
        wished = self.board.guide if self.board.guide in dict(self.model.chart.frames) else ""
        fill(self.guide, frames, wished)
        self.board.guide = wished
