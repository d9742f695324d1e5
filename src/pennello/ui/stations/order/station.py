"""The Order station: when the hand does what, what dries meanwhile, and what fits into the time there is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QMenu,
    QProgressBar,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.caution.person import Person
from pennello.caution.rules import cautions
from pennello.chart.catalogue import CHARTS
from pennello.design.on_chart import charts_used
from pennello.design.ordering import GlitterWhen, Sides, Whites
from pennello.errors import PennelloError
from pennello.order.jobs import part_names
from pennello.ui.stations.bench.cake_fields import choice, fill
from pennello.ui.stations.order.line import LineView, WashingLine
from pennello.ui.stations.order.model import OrderModel
from pennello.ui.stations.order.panel import StepPanel
from pennello.ui.stations.order.run_door import RunDoor
from pennello.ui.widgets.number_field import NumberField, Quantity, WheelGuard

TARGET = Quantity("Time there is; 0 for all the time it takes", 0, 36_000, 10, 0, " s")
LEAST_TARGET_S = 5.0


class OrderStation(QWidget):
    """The order of painting.

    Signals
    -------
    said(str)
    """

    said = Signal(str)

    def __init__(self, model: OrderModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.model = model
        self._fitted: tuple[str, str] | None = None
        guard = WheelGuard(self)
        card = QFrame()
        card.setObjectName("mat")
        self.line = WashingLine(model)
        self.view = LineView(self.line)
        self.panel = StepPanel(model)
        self.door = RunDoor(model, self)
        self.door.said.connect(self.said)
        self.bar = QProgressBar()
        self.bar.setFixedHeight(4)
        self.bar.setTextVisible(False)
        self.bar.setRange(0, 1000)
        self.words = QLabel("")
        self.words.setObjectName("note")
        self.words.setWordWrap(True)
        inner = QVBoxLayout(card)
        inner.setContentsMargins(10, 6, 10, 6)
        inner.addLayout(self._head(guard))
        inner.addWidget(self.view, 1)
        inner.addLayout(self._foot())
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 4, 10, 10)
        row.setSpacing(8)
        row.addWidget(card, 1)
        row.addWidget(self.panel)
        self.line.refused.connect(self.said)
        model.failed.connect(self.said)
        model.shown.connect(self.refresh)
        model.told.connect(self._tell)
        self.refresh()

    def _head(self, guard: WheelGuard) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(4)
        title = QLabel("Order")
        title.setObjectName("station")
        self.chart: QComboBox = choice("What is painted", guard)
        self.chart.setMinimumWidth(112)
        self.chart.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.chart.activated.connect(lambda at: self.model.show_chart(self.chart.itemData(at)))
        self.target = NumberField(TARGET)
        self.target.setSpecialValueText("no limit")
        self.target.edited.connect(self._set_target)
        note = QLabel("within")
        note.setObjectName("note")
        note.setBuddy(self.target)
        note.setMinimumWidth(note.sizeHint().width())
        for widget in (title, self.chart, note, self.target):
            head.addWidget(widget)
        self.times: dict[str, QToolButton] = {}
        for words, seconds in (("1:30", 90.0), ("2:00", 120.0), ("3:00", 180.0), ("all", 0.0)):
            button = QToolButton()
            button.setText(words)
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setToolTip(f"What fits into {words} min" if seconds else "Everything, however long it takes")
            button.clicked.connect(lambda _=False, value=seconds: self._set_target(value))
            head.addWidget(button)
            self.times[words] = button
        head.addStretch(1)
        self.schools = self._menu_button("Schools", "Where painters differ, as you have it")
        self.schools.menu().aboutToShow.connect(self.list_schools)
        self.paper = self._menu_button("Paper", "For the chair: a sheet, a table, a calendar, pictures")
        for words, act in (
            ("Sheet at true scale (PDF) ...", lambda: self._ask("sheet.pdf", "*.pdf", self.write_sheet)),
            ("Steps as a table (CSV) ...", lambda: self._ask("steps.csv", "*.csv", self.write_steps)),
            ("Steps as a calendar (ICS) ...", lambda: self._ask("steps.ics", "*.ics", self.write_steps)),
            ("Pictures after each step (PNG) ...", self._ask_pictures),
        ):
            self.paper.menu().addAction(words).triggered.connect(lambda _=False, do=act: do())
        self.automatic = QPushButton("Find an order")
        self.automatic.setProperty("chip", True)
        self.automatic.setToolTip("Forget the order of your own and look for a short one")
        self.automatic.clicked.connect(self.find_order)
        self.run = QPushButton("At the chair")
        self.run.setProperty("main", True)
        self.run.setToolTip("Ask what has to be asked, then one card after another")
        self.run.clicked.connect(self.door.ask)
        self.run.setMinimumWidth(118)
        head.addWidget(self.run)
        return head

    def _menu_button(self, words: str, hint: str) -> QToolButton:
        button = QToolButton()
        button.setText(words)
        button.setToolTip(hint)
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        button.setMenu(QMenu(button))
        return button

    def _foot(self) -> QHBoxLayout:
        foot = QHBoxLayout()
        foot.addWidget(self.words, 1)
        foot.addWidget(self.bar, 1)
        self.stop = QPushButton("Stop looking")
        self.stop.setProperty("chip", True)
        self.stop.clicked.connect(self.model.stop)
        self.fit = QToolButton()
        self.fit.setText("Fit")
        self.fit.setToolTip("All of the time in the window; Ctrl and the wheel zoom")
        self.fit.clicked.connect(self.show_all)
        for thing in (self.stop, self.automatic, self.schools, self.paper):
            foot.addWidget(thing)
        foot.addWidget(self.fit)
        return foot

    def close_all(self) -> None:
        """Stop timers, work and a run; the window closes and the run stays on disk."""
        self.door.close()
        self.model.close()

    # --- schools ---

    def list_schools(self) -> None:
        """List where painters differ, with what is chosen."""
        menu, here = self.schools.menu(), self.model.ordering
        menu.clear()
        for words, field, kind in (
            ("Both sides", "sides", Sides),
            ("White lights", "whites", Whites),
            ("Glitter", "glitter", GlitterWhen),
        ):
            inner = menu.addMenu(words)
            group = QActionGroup(inner)
            for value in kind:
                action = QAction(value.value, inner)
                action.setCheckable(True)
                action.setChecked(getattr(here, field) is value)
                action.triggered.connect(lambda _=False, of=field, to=value: self.set_school(of, to))
                group.addAction(action)
                inner.addAction(action)
        nose = menu.addAction("The nose comes late")
        nose.setCheckable(True)
        nose.setChecked(here.nose_last)
        nose.triggered.connect(lambda on: self.set_school("nose_last", on))
        if here.rules:
            inner = menu.addMenu("Your own rules")
            names = part_names(self.model.plan)
            for rule in here.rules:
                inner.addAction(f"Take away: {rule.words(names)}").triggered.connect(
                    lambda _=False, one=rule: self.model.set_ordering("A rule less", lambda o: o.without_rule(one))
                )

    def set_school(self, field: str, value: object) -> None:
        """Follow another school."""
        self.model.set_ordering("Another school", lambda one: replace(one, **{field: value}))  # type: ignore[arg-type]

    def _set_target(self, seconds: float) -> None:
        target = max(seconds, LEAST_TARGET_S) if seconds > 0 else None
        self.model.set_ordering("Time there is", lambda one: replace(one, target_s=target), "target")

    def find_order(self) -> None:
        """Forget an own order and look for a short one."""
        self.model.set_ordering("Find an order", lambda one: replace(one, sequence=()))
        self.model.refresh()

    def show_all(self) -> None:
        """Show all of the time in the window."""
        self.line.fit(self.view.viewport().width())

    # --- paper ---

    def _ask(self, name: str, kinds: str, write: Callable[[Path], None]) -> None:
        chosen, _ = QFileDialog.getSaveFileName(self, "Where to?", str(Path.home() / name), kinds)
        if chosen:
            self.guarded(lambda: write(Path(chosen)), f"Wrote {chosen}.")

    def guarded(self, act: Callable[[], object], words: str) -> None:
        """Do something that may fail, and say how it went."""
        try:
            act()
        except PennelloError as error:
            self.said.emit(str(error))
        else:
            self.said.emit(words)

    def write_sheet(self, path: Path) -> None:
        """Write the sheet for the chair."""
        from pennello.files.sheet_pdf import write_sheet  # noqa: PLC0415 - reportlab only when asked for

        arranged = self.model.arranged
        if arranged is not None:
            told = cautions(self.model.document.committed, Person(), self.model.chart)
            write_sheet(arranged, told, path)

    def write_steps(self, path: Path) -> None:
        """Write the steps as a table or a calendar."""
        from pennello.files.steps_out import write_steps  # noqa: PLC0415

        if self.model.arranged is not None:
            write_steps(self.model.arranged, path, datetime.now().replace(microsecond=0))

    def _ask_pictures(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "A folder for the pictures", str(Path.home()))
        if folder:
            self.guarded(lambda: self.write_pictures(Path(folder)), f"Wrote the pictures into {folder}.")

    def write_pictures(self, folder: Path) -> None:
        """Write the design after each step as PNG."""
        from pennello.files.picture import write_png  # noqa: PLC0415
        from pennello.session.order_pictures import file_stem, sequence  # noqa: PLC0415

        arranged = self.model.arranged
        if arranged is None:
            return
        for chart in dict.fromkeys(job.chart for job in arranged.jobs):
            for moment in sequence(arranged, chart, 3.0):
                write_png(moment.picture, folder / f"{chart}-{moment.number:03d}-{file_stem(moment.job)}.png", 3.0)

    # --- following ---

    def _tell(self, part: float, words: str) -> None:
        resting = part >= 1 and not self.model.busy
        self.bar.setVisible(not resting)
        self.stop.setVisible(not resting)
        self.bar.setValue(round(1000 * part))
        self.words.setText("" if resting else words)

    def refresh(self) -> None:
        """Follow the model."""
        plan, ordering = self.model.plan, self.model.ordering
        items: list[tuple[str, object]] = [("All of the plan", "")]
        items += [(CHARTS[key][0], key) for key in charts_used(plan)]
        fill(self.chart, items, self.model.chart)
        self.target.show_amount(ordering.target_s or 0.0)
        for words, seconds in (("1:30", 90.0), ("2:00", 120.0), ("3:00", 180.0), ("all", None)):
            with QSignalBlocker(self.times[words]):
                self.times[words].setChecked(ordering.target_s == seconds)
        self.automatic.setEnabled(bool(ordering.sequence))
        arranged = self.model.arranged
        ready = arranged is not None and bool(arranged.jobs)
        for button in (self.run, self.paper):
            button.setEnabled(ready)
        if arranged is not None:
            key = (plan.title, self.model.chart)
            if key != self._fitted:
                self._fitted = key
                self.show_all()
            if not ready:
                self.words.setText("Nothing to paint yet: make a stroke on the Bench, or put motifs on the Chart.")
