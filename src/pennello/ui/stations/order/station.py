"""The Order station: when the hand does what, what dries meanwhile, and what fits into the time there is."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import QSignalBlocker, Signal
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from pennello.chart.catalogue import CHARTS
from pennello.design.on_chart import charts_used
from pennello.design.ordering import GlitterWhen, Sides, Whites
from pennello.design.pace import Tempo
from pennello.design.problems import problems_of_order
from pennello.order.jobs import part_names
from pennello.phrases import named, phrase
from pennello.session.copies import step_rows
from pennello.session.exports import hand_over, order_pictures, order_sheet, order_steps
from pennello.session.owner import Owner
from pennello.session.run_keeper import KeptRun
from pennello.ui.copying import Copied
from pennello.ui.exporting import Exporter, Printed
from pennello.ui.station import Station, Workplace
from pennello.ui.stations.order.empty import EmptyOrder
from pennello.ui.stations.order.line import LineView, WashingLine
from pennello.ui.stations.order.model import OrderModel
from pennello.ui.stations.order.panel import StepPanel
from pennello.ui.stations.order.run_controller import RunController
from pennello.ui.theme.text import px
from pennello.ui.widgets.asking import ask_folder, ask_target, may_write_over
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.menus import empty_menu, menu_button
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label, menu_words
from pennello.ui.widgets.progress import ThinBar
from pennello.units import LengthUnit

TARGET = Quantity(phrase("Time there is; 0 for all the time it takes"), 0, 36_000, 10, 0, " s")
LEAST_TARGET_S = 5.0


class OrderStation(QWidget, Station):
    """The order of painting.

    Signals
    -------
    said(str)
    wanted(str)
        Another station, which leads to something that can be painted.
    """

    said = Signal(str)
    wanted = Signal(str)

    def __init__(self, model: OrderModel, owner: Owner, exporter: Exporter, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.model = model
        self._exporter = exporter
        self._fitted: tuple[str, str] | None = None
        self._wanted, self._unit = False, LengthUnit.MM
        card = QFrame()
        card.setObjectName("mat")
        self.line = WashingLine(model)
        self.view = LineView(self.line)
        self.panel = StepPanel(model)
        self.controller = RunController(model, self, owner)
        self.controller.said.connect(self.said)
        self.bar = ThinBar()
        self.words = Label("")
        self.words.setObjectName("note")
        self.words.setWordWrap(True)
        inner = QVBoxLayout(card)
        inner.setContentsMargins(10, 6, 10, 6)
        inner.addLayout(self._head())
        self.empty = EmptyOrder()
        self.empty.wanted.connect(self.wanted)
        self.empty.hide()  # until it is known that there is nothing
        inner.addWidget(self.view, 1)
        inner.addWidget(self.empty, 1)
        inner.addLayout(self._foot())
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 4, 10, 10)
        row.setSpacing(8)
        row.addWidget(card, 1)
        row.addWidget(self.panel)
        self.line.refused.connect(self.said)
        model.failed.connect(self.said)
        model.shown.connect(self.refresh)
        model.shown.connect(self._run_when_ready)
        model.told.connect(self._tell)
        self.refresh()

    @classmethod
    def at(cls, place: Workplace) -> Station:
        """Return the Order, made for a window."""
        made = cls(OrderModel(place.document, place.window), place.owner, place.exporter)
        made.said.connect(place.say)
        made.wanted.connect(place.go_to)
        made.show_unit(place.bench.unit)
        return made

    def show_unit(self, unit: LengthUnit) -> None:
        """Write lengths on paper in a unit."""
        self._unit = unit

    def enter(self) -> None:
        """It is shown."""
        self.model.enter()
        self.line.setFocus()

    def leave(self) -> None:
        """Another station is shown."""
        self.model.leave()

    def take_run(self, kept: KeptRun, path: Path) -> None:
        """Go on with a run at the chair that was cut off."""
        self.short.setChecked(kept.short)
        self.model.show_chart(kept.chart)
        self.controller.go_on(kept, path)

    def begin_run(self, chart: str, *, short: bool) -> None:
        """Begin a run of a chart as soon as its order is there."""
        self._wanted = True
        self.short.setChecked(short)
        self.model.show_chart(chart)
        self._run_when_ready()

    def _run_when_ready(self) -> None:
        if self._wanted and self.model.arranged is not None:
            self._wanted = False
            self.controller.ask()

    def _head(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(4)
        title = Label(phrase("Order"))
        title.setObjectName("station")
        self.chart: QComboBox = choice(phrase("What is painted"))
        self.chart.setMinimumWidth(px(112))
        self.chart.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.chart.activated.connect(lambda at: self.model.show_chart(self.chart.itemData(at)))
        self.target = NumberField(TARGET)
        self.target.setSpecialValueText(phrase("no limit"))
        self.target.edited.connect(self._set_target)
        note = Label(phrase("within"))
        note.setObjectName("note")
        note.setBuddy(self.target)
        note.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Preferred)
        for widget in (title, self.chart, note, self.target, *self._time_buttons()):
            head.addWidget(widget)
        head.addStretch(1)
        self.run = QPushButton(phrase("At the chair"))
        self.run.setProperty("main", True)
        self.run.setToolTip(phrase("Ask what has to be asked, then one card after another"))
        self.run.clicked.connect(self.controller.ask)
        self.run.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        head.addWidget(self.run)
        return head

    def _time_buttons(self) -> list[QToolButton]:
        """Return the usual times: what fits into one is painted."""
        self.times: dict[str, QToolButton] = {}
        for words, seconds in (("1:30", 90.0), ("2:00", 120.0), ("3:00", 180.0), (phrase("all"), 0.0)):
            button = QToolButton()
            button.setText(words)
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setToolTip(
                phrase("What fits into {words} min", words=words)
                if seconds
                else phrase("Everything, however long it takes")
            )
            button.clicked.connect(lambda _=False, value=seconds: self._set_target(value))
            self.times[words] = button
        return list(self.times.values())

    def _build_menus(self) -> None:
        """Make what is opened at the foot: where painters differ, and what comes on paper."""
        self.schools = menu_button(phrase("Schools"), phrase("Where painters differ, as you have it"))
        self.schools.menu().aboutToShow.connect(self.list_schools)
        self.paper = menu_button(phrase("Paper"), phrase("For the chair: a sheet, a table, a calendar, pictures"))
        for words, act in (
            (phrase("Sheet for the chair (PDF) ..."), self.ask_sheet),
            (phrase("Sheet with outlines at true scale (PDF) ..."), lambda: self.ask_sheet(tiles=True)),
            (phrase("All of it, to hand over (PDF) ..."), self.ask_hand_over),
            (phrase("Steps as a table (CSV) ..."), lambda: self.ask_steps(".csv")),
            (phrase("Steps as a calendar (ICS) ..."), lambda: self.ask_steps(".ics")),
            (phrase("Pictures after each step (PNG) ..."), self.ask_pictures),
            (phrase("Forget what people said"), self.controller.forget_answers),
        ):
            self.paper.menu().addAction(words).triggered.connect(lambda _=False, do=act: do())

    def _foot(self) -> QVBoxLayout:
        """Return what is said with the work that goes on, and below it what can be done."""
        said, foot = QHBoxLayout(), QHBoxLayout()
        self._build_menus()
        self.automatic = QPushButton(phrase("Find an order"))
        self.automatic.setProperty("chip", True)
        self.automatic.setToolTip(phrase("Forget the order of your own and look for a short one"))
        self.automatic.clicked.connect(self.find_order)
        self.short = QToolButton()
        self.short.setText(phrase("Short"))
        self.short.setProperty("segment", True)
        self.short.setCheckable(True)
        self.short.setToolTip(
            phrase("The short form, for when the queue is long: without the parts that it leaves out")
        )
        self.short.toggled.connect(lambda on: self.model.show_short(on=on))
        said.addWidget(self.words, 3)
        said.addWidget(self.bar, 1)
        self.stop = QPushButton(phrase("Stop looking"))
        self.stop.setProperty("chip", True)
        self.stop.clicked.connect(self.model.stop)
        self.fit = QToolButton()
        self.fit.setText(phrase("Fit"))
        self.fit.setToolTip(phrase("All of the time in the window; Ctrl and the wheel zoom"))
        self.fit.clicked.connect(self.show_all)
        said.addWidget(self.stop)
        foot.addStretch(1)
        for thing in (self.automatic, self.schools, self.paper, self.short, self.fit):
            foot.addWidget(thing)
        both = QVBoxLayout()
        both.setSpacing(4)
        both.addLayout(said)
        both.addLayout(foot)
        return both

    def close_all(self) -> None:
        """Stop timers, work and a run; the window closes and the run stays on disk."""
        self.controller.close()
        self.model.close()

    # --- schools ---

    def list_schools(self) -> None:
        """List where painters differ, with what is chosen."""
        menu, here = self.schools.menu(), self.model.ordering
        empty_menu(menu)
        for words, field, kind in (
            (phrase("Both sides"), "sides", Sides),
            (phrase("White lights"), "whites", Whites),
            (phrase("Glitter"), "glitter", GlitterWhen),
            (phrase("How fast"), "tempo", Tempo),
        ):
            inner = menu.addMenu(words)
            group = QActionGroup(inner)
            for value in kind:
                action = QAction(named(value), inner)
                action.setCheckable(True)
                action.setChecked(getattr(here, field) is value)
                action.triggered.connect(lambda _=False, of=field, to=value: self.set_school(of, to))
                group.addAction(action)
                inner.addAction(action)
        nose = menu.addAction(phrase("The nose comes late"))
        nose.setCheckable(True)
        nose.setChecked(here.nose_last)
        nose.triggered.connect(lambda on: self.set_school("nose_last", on))
        if here.rules:
            inner = menu.addMenu(phrase("Your own rules"))
            names = part_names(self.model.plan)
            for rule in here.rules:
                inner.addAction(menu_words(phrase("Take away: {names}", names=rule.words(names)))).triggered.connect(
                    lambda _=False, one=rule: self.model.set_ordering(
                        phrase("A rule less"), lambda o: o.without_rule(one)
                    )
                )

    def set_school(self, field: str, value: object) -> None:
        """Follow another school."""
        self.model.set_ordering(phrase("Another school"), lambda one: replace(one, **{field: value}))  # type: ignore[arg-type]

    def _set_target(self, seconds: float) -> None:
        target = max(seconds, LEAST_TARGET_S) if seconds > 0 else None
        self.model.set_ordering(phrase("Time there is"), lambda one: replace(one, target_s=target), "target")

    def find_order(self) -> None:
        """Forget an own order and look for a short one."""
        self.model.set_ordering(phrase("Find an order"), lambda one: replace(one, sequence=()))
        self.model.refresh()

    def show_all(self) -> None:
        """Show all of the time in the window."""
        self.line.fit(self.view.viewport().width())

    # --- paper ---

    def ask_sheet(self, *, tiles: bool = False) -> None:
        """Ask where and write the sheet for the chair."""
        arranged, plan, chart = self.model.arranged, self.model.document.committed, self.model.chart
        path = self._target("sheet", ".pdf") if arranged is not None else None
        if arranged is not None and path is not None:
            self._exporter.write(str(path), order_sheet(arranged, plan, chart, path, tiles=tiles))

    def ask_steps(self, ending: str) -> None:
        """Ask where and write the steps as a table or a calendar."""
        arranged = self.model.arranged
        path = self._target("steps", ending) if arranged is not None else None
        if arranged is not None and path is not None:
            self._exporter.write(str(path), order_steps(arranged, path, datetime.now()))

    def _target(self, stem: str, ending: str) -> Path | None:
        return ask_target(self, phrase("Where to?"), Path.home() / f"{stem}{ending}", (ending,))

    def papers(self) -> tuple[Printed, ...]:
        """The sheet for the chair, with outlines or without, and all of the design to hand over."""
        arranged, plan, chart = self.model.arranged, self.model.document.committed, self.model.chart
        if arranged is None or not arranged.jobs:
            return ()
        return (
            Printed(phrase("Sheet for the chair"), partial(order_sheet, arranged, plan, chart), "sheet"),
            Printed(
                phrase("Sheet with outlines at true scale"),
                partial(order_sheet, arranged, plan, chart, tiles=True),
                "sheet",
            ),
            Printed(
                phrase("All of it, to hand over"), partial(hand_over, arranged, plan, chart, self._unit), "all-of-it"
            ),
        )

    def ask_hand_over(self) -> None:
        """Ask where and write all of the design as one PDF, for somebody without Pennello."""
        arranged, plan, chart = self.model.arranged, self.model.document.committed, self.model.chart
        path = self._target("all-of-it", ".pdf") if arranged is not None else None
        if arranged is not None and path is not None:
            self._exporter.write(str(path), hand_over(arranged, plan, chart, self._unit, path))

    def copied(self) -> Copied | None:
        """The steps with their times, as a table."""
        arranged = self.model.arranged
        return (
            Copied(phrase("the steps as a table"), table=lambda _: step_rows(arranged))
            if arranged is not None
            else None
        )

    def ask_pictures(self) -> None:
        """Ask for a folder and write the design after each step as PNG."""
        arranged = self.model.arranged
        folder = ask_folder(self, phrase("A folder for the pictures"), "pictures")
        if arranged is None or folder is None:
            return
        if any(folder.glob("*-[0-9][0-9][0-9]-*.png")) and not may_write_over(self, folder):
            return
        self._exporter.write(phrase("the pictures into {folder}", folder=folder), order_pictures(arranged, folder))

    # --- following ---

    def _tell(self, part: float, words: str) -> None:
        resting = part >= 1 and not self.model.busy
        self.bar.setVisible(not resting)
        self.stop.setVisible(not resting)
        self.bar.show_part(part)
        self.words.setText("" if resting else words)

    def refresh(self) -> None:
        """Follow the model."""
        plan, ordering = self.model.plan, self.model.ordering
        items: list[tuple[str, object]] = [(phrase("All of the plan"), "")]
        items += [(CHARTS[key][0], key) for key in charts_used(plan)]
        fill(self.chart, items, self.model.chart)
        self.target.show_amount(ordering.target_s or 0.0)
        for words, seconds in (("1:30", 90.0), ("2:00", 120.0), ("3:00", 180.0), (phrase("all"), None)):
            with QSignalBlocker(self.times[words]):
                self.times[words].setChecked(ordering.target_s == seconds)
        self.automatic.setEnabled(bool(ordering.sequence))
        arranged = self.model.arranged
        ready = arranged is not None and bool(arranged.jobs)
        for button in (self.run, self.paper):
            button.setEnabled(ready)
        idle = problems_of_order(plan)
        if idle and self.model.rests:
            self.words.setText(" ".join(problem.text for problem in idle[:2]))
        if arranged is not None:
            key = (plan.title, self.model.chart)
            if key != self._fitted:
                self._fitted = key
                self.show_all()
            self.empty.setVisible(not ready)
            self.view.setVisible(ready)
