"""The one window: rail, bar, stations; files, autosave, errors."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QAction, QCloseEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QHBoxLayout,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from pennello.design.plan import Plan
from pennello.disk import exists
from pennello.errors import PennelloError
from pennello.session.document import Document
from pennello.session.exports import Work, cake_label, load_card, stroke_picture
from pennello.session.jobs import Jobs
from pennello.session.settings import Settings, load_settings, state_folder, store_settings, with_recent
from pennello.ui.banner import Banner
from pennello.ui.binding import follow
from pennello.ui.exporting import Exporter
from pennello.ui.help import HelpPage
from pennello.ui.leftovers import Leftovers
from pennello.ui.plan_files import PlanFiles
from pennello.ui.rail import FIRST, STATIONS, Rail
from pennello.ui.stations.bench.model import BenchModel
from pennello.ui.stations.bench.station import BenchStation
from pennello.ui.theme.style import apply_theme
from pennello.ui.top_bar import History, TopBar
from pennello.ui.widgets.asking import ask_target
from pennello.ui.widgets.motion import MOVING, choose_less_motion
from pennello.ui.widgets.pending import settle_typing
from pennello.ui.widgets.plain import menu_words, tip
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.session.run_keeper import KeptRun
    from pennello.ui.stations.chart.station import ChartStation
    from pennello.ui.stations.order.station import OrderStation
    from pennello.ui.stations.tray.desk import TrayDesk

TRAY, BENCH, CHART, ORDER = (list(dict(STATIONS)).index(name) for name in ("tray", "bench", "chart", "order"))
assert BENCH == FIRST


class MainWindow(QMainWindow):
    """Holds the stations and the plan's file."""

    def __init__(self, document: Document, settings: Settings | None = None) -> None:
        super().__init__()
        self.document = document
        self.settings = settings if settings is not None else load_settings()
        self.jobs = Jobs()
        self.model = BenchModel(document, self.jobs, self)
        self.model.unit = self.settings.length_unit
        self.bar = TopBar(document, self.settings)
        self.banner = Banner()
        self.files = PlanFiles(document, self.banner, state_folder(), self)
        self.exporter = Exporter(self.banner, self)
        self.leftovers = Leftovers(self.files.autosave.owner, self)
        self.bench = BenchStation(self.model)
        self._build()
        self._build_menu()
        self._help: HelpPage | None = None
        self._tray: TrayDesk | None = None
        self._chart: ChartStation | None = None
        self._order: OrderStation | None = None
        self.files.remembered.connect(self._remember)
        self.leftovers.offered.connect(self._offer_run)
        self.leftovers.said.connect(self.say)
        self.bar.unit_chosen.connect(self._choose_unit)
        self.bar.theme_chosen.connect(self._choose_theme)
        self.bar.help_wanted.connect(self.show_help)
        self.bar.failed.connect(self.say)
        self.bench.label_wanted.connect(self.ask_label)
        self.bench.ladder_wanted.connect(self.show_ladder)
        self.bench.kept.connect(self._keep_cake)
        self.bar.undo_wanted.connect(self.undo)
        self.bar.redo_wanted.connect(self.redo)
        self.model.failed.connect(self.say)
        follow(self, document.state_changed, self._show_state)
        self._show_state()
        self._wear(self.settings.theme)
        choose_less_motion(on=self.settings.less_motion)
        (self.bench.cake if self.model.stroke else self.bench.first).setFocus()

    def _build(self) -> None:
        table = QWidget()
        table.setObjectName("table")
        self.rail = Rail()
        self.stations = QStackedWidget()
        self.stations.addWidget(self.bench)
        self.rail.chosen.connect(self.go_to)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(4)
        right.addWidget(self.bar)
        held = QHBoxLayout()
        held.setContentsMargins(10, 0, 10, 0)
        held.addWidget(self.banner)
        right.addLayout(held)
        right.addWidget(self.stations, 1)
        across = QHBoxLayout(table)
        across.setContentsMargins(0, 0, 0, 0)
        across.setSpacing(0)
        across.addWidget(self.rail)
        across.addLayout(right, 1)
        self.setCentralWidget(table)
        self.resize(QSize(1280, 800))
        self.setMinimumSize(QSize(980, 640))

    # --- menu ---

    def _build_menu(self) -> None:
        keys = QKeySequence.StandardKey
        menu = self.bar.menu
        self._act(menu, "New plan", self.files.new_plan, keys.New)
        self._act(menu, "Open ...", self.files.ask_open, keys.Open)
        self.recent = menu.addMenu("Recent")
        self.recent.aboutToShow.connect(self._list_recent)
        self._act(menu, "Saltmarsh Lantern Walk (demo)", self.files.open_demo)
        menu.addSeparator()
        self._act(menu, "Save", self.save, keys.Save)
        self._act(menu, "Save as ...", self.files.save_as, QKeySequence("Ctrl+Shift+S"))
        menu.addSeparator()
        self._act(menu, "Picture of the stroke (PNG) ...", self.ask_picture, QKeySequence("Ctrl+E"))
        self._act(menu, "Load card (PDF) ...", self.ask_card, keys.Print)
        self._act(menu, "Label of the cake (PDF) ...", self.ask_label)
        menu.addSeparator()
        self.less_motion = self._act(menu, "Less motion", self._settle_motion)
        self.less_motion.setCheckable(True)
        self.less_motion.setChecked(self.settings.less_motion)
        self._act(menu, "Close", self.close, keys.Quit)
        for words, act, key in (
            ("Undo", self.undo, keys.Undo),
            ("Redo", self.redo, keys.Redo),
            ("Tray", lambda: self.go_to(TRAY), QKeySequence("Alt+1")),
            ("Bench", lambda: self.go_to(BENCH), QKeySequence("Alt+2")),
            ("Chart", lambda: self.go_to(CHART), QKeySequence("Alt+3")),
            ("Order", lambda: self.go_to(ORDER), QKeySequence("Alt+4")),
            ("Help", self.show_help, keys.HelpContents),
        ):
            action = QAction(words, self)
            action.setShortcut(key)
            action.triggered.connect(lambda _=False, do=act: do())
            self.addAction(action)

    def _act(self, menu: object, words: str, do: Callable[[], object], key: object = None) -> QAction:
        action = QAction(words, self)
        if key is not None:
            action.setShortcut(key)  # type: ignore[call-overload]
        action.triggered.connect(lambda _=False: do())
        menu.addAction(action)  # type: ignore[attr-defined]
        self.addAction(action)
        return action

    def _list_recent(self) -> None:
        self.recent.clear()
        for name in self.settings.recent:
            action = self.recent.addAction(menu_words(Path(name).name))
            action.setToolTip(tip(name))
            action.triggered.connect(lambda _=False, path=Path(name): self.open_path(path))
        if not self.settings.recent:
            self.recent.addAction("Nothing yet").setEnabled(False)

    # --- stations ---

    @property
    def tray(self) -> TrayDesk:
        """The Tray, made when it is first wanted."""
        if self._tray is None:
            from pennello.ui.stations.tray.desk import TrayDesk  # noqa: PLC0415 - not before the first window is there

            self._tray = TrayDesk(self.model, self.settings.screen_px_per_mm, self._settle_screen, self)
            self._tray.said.connect(self.say)
            self._tray.bench_wanted.connect(lambda: self.go_to(BENCH))
            self._tray.model.listed.connect(self.bar.refresh)
            self.stations.addWidget(self._tray.station)
        return self._tray

    @property
    def chart(self) -> ChartStation:
        """The Chart, made when it is first wanted."""
        if self._chart is None:
            from pennello.ui.stations.chart.model import ChartModel  # noqa: PLC0415 - not before it is wanted
            from pennello.ui.stations.chart.station import ChartStation  # noqa: PLC0415

            self._chart = ChartStation(ChartModel(self.document, self), self.model)
            self._chart.said.connect(self.say)
            self._chart.show_unit(self.model.unit)
            self.stations.addWidget(self._chart)
        return self._chart

    @property
    def order(self) -> OrderStation:
        """The Order station, made when it is first wanted."""
        if self._order is None:
            from pennello.ui.stations.order.model import OrderModel  # noqa: PLC0415 - not before it is wanted
            from pennello.ui.stations.order.station import OrderStation  # noqa: PLC0415

            self._order = OrderStation(OrderModel(self.document, self), self.files.autosave.owner, self.exporter)
            self._order.said.connect(self.say)
            self.stations.addWidget(self._order)
        return self._order

    def go_to(self, station: int) -> None:
        """Show a station; undo follows what it shows."""
        settle_typing()
        self.rail.buttons[station].setChecked(True)
        if self._chart is not None and station != CHART:
            self._chart.model.leave()
        if self._order is not None and station != ORDER:
            self._order.model.leave()
        self.model.rest(station in (CHART, ORDER))
        if station == CHART:
            self.stations.setCurrentWidget(self.chart)
            self.chart.model.enter()
            self.chart.board.setFocus()
        elif station == ORDER:
            self.stations.setCurrentWidget(self.order)
            self.order.model.enter()
            self.order.line.setFocus()
        elif station == TRAY:
            self.tray.model.open()
            self.stations.setCurrentWidget(self.tray.station)
            self.tray.station.setFocus()
        else:
            self.stations.setCurrentWidget(self.bench)
        self.bar.show_history(self._history)

    @property
    def _history(self) -> History:
        at_tray = self._tray is not None and self.stations.currentWidget() is self._tray.station
        return (self._tray.model.session if at_tray and self._tray else None) or self.document

    def _keep_cake(self, cake: str) -> None:
        self.tray.keep_cake(cake)

    def undo(self) -> None:
        """Take back the last step of what is shown: of the kit at the Tray, else of the plan."""
        settle_typing()
        self._guarded(self._history.undo)

    def redo(self) -> None:
        """Do it again."""
        settle_typing()
        self._guarded(self._history.redo)

    # --- saying things ---

    def _offer_run(self, kept: KeptRun, path: Path) -> None:
        """Offer to go on with a run at the chair that was under way when Pennello ended."""

        def take() -> None:
            plan = Path(kept.plan)
            if kept.plan and exists(plan) and plan != self.document.path:
                self.open_path(plan)
            self.order.model.show_chart(kept.chart)
            self.go_to(ORDER)
            self.order.door.go_on(kept, path)

        done = len(kept.run.took)
        self.banner.say(
            f"A run of {kept.title} was under way, {done} of {len(kept.run.steps)} steps done; its paint has dried on.",
            ("Go on with it", take),
            ("Give it up", lambda: self.leftovers.give_up(path)),
        )

    def say(self, sentence: str) -> None:
        """Show a sentence across the top."""
        self.banner.say(sentence)

    def _guarded(self, act: Callable[[], object]) -> bool:
        try:
            act()
        except PennelloError as error:
            self.say(str(error))
            return False
        return True

    def show_help(self) -> None:
        """Show keys and handles."""
        if self._help is None:
            self._help = HelpPage(self)
        self._help.show()
        self._help.raise_()

    def _show_state(self) -> None:
        name = self.document.path.name if self.document.path else "not saved yet"
        self.setWindowTitle(f"{self.document.plan.title} ({name})[*] - Pennello")
        self.setWindowModified(self.document.dirty)

    # --- files ---

    def open_path(self, path: Path) -> None:
        """Open a plan."""
        self.files.open_path(path)

    def save(self) -> bool:
        """Save where the plan came from, or ask."""
        return self.files.save()

    def _remember(self, path: Path) -> None:
        self._settle(with_recent(self.settings, path))

    def _settle(self, settings: Settings) -> None:
        self.settings = settings
        store_settings(settings)

    def _settle_motion(self) -> None:
        self._settle(replace(self.settings, less_motion=self.less_motion.isChecked()))
        choose_less_motion(on=self.settings.less_motion)

    def tidy(self) -> None:
        """See to what earlier Pennellos left: runs that ended, private files, what people said, stray files."""
        self.leftovers.look()

    # --- out ---

    def ask_picture(self) -> None:
        """Ask where and write the stroke with its ribbons as PNG."""
        self._ask_out("Picture of the stroke", ".png", stroke_picture)

    def ask_card(self) -> None:
        """Ask where and write the load card."""
        self._ask_out("Load card", ".pdf", load_card)

    def ask_label(self) -> None:
        """Ask where and write the label of the cake on the Bench."""
        cake = self.model.cake if self.model.stroke is not None else None
        if self.model.stroke is not None and cake is None:
            self.say("Nothing on the Bench comes from a cake; choose a pick-up that does.")
            return
        self._ask_out("Label of the cake", ".pdf", lambda plan, _, unit, path: cake_label(plan, cake, unit, path))

    def _ask_out(self, words: str, ending: str, make: Callable[[Plan, str, LengthUnit, Path], Work]) -> None:
        stroke = self.model.stroke
        if stroke is None:
            self.say("There is no stroke yet; begin with a petal.")
            return
        path = ask_target(self, words, self.files.folder / f"{stroke.id}{ending}", (ending,))
        if path is not None:
            self.exporter.write(str(path), make(self.model.plan, stroke.id, self.model.unit, path))

    def show_ladder(self, cake: str) -> None:
        """Show the tones of a cake."""
        from pennello.ui.stations.bench.ladder_page import LadderPage  # noqa: PLC0415

        page = LadderPage(self.model, cake, self)
        page.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        page.show()

    # --- choices ---

    def _choose_unit(self, name: str) -> None:
        self._settle(replace(self.settings, unit=name))
        self.model.set_unit(LengthUnit(name))
        if self._chart is not None:
            self._chart.show_unit(LengthUnit(name))

    def _choose_theme(self, name: str) -> None:
        self._settle(replace(self.settings, theme=name))
        self._wear(name)
        if self._chart is not None:
            self._chart.strip.redraw()
        self.update()

    def _settle_screen(self, px_per_mm: float) -> None:
        self._settle(replace(self.settings, screen_px_per_mm=px_per_mm))

    def _wear(self, name: str) -> None:
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_theme(app, name)

    # --- leaving ---

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask, then stop timers and workers; nobody waits for them with an open window."""
        if not self.files.may_leave():
            event.ignore()
            return
        self.hide()
        for page in self.findChildren(QDialog, MOVING):
            page.close()
        self.model.stop()
        self.bench.close_all()
        if self._tray is not None:
            self._tray.model.close()
        if self._chart is not None:
            self._chart.close_all()
        if self._order is not None:
            self._order.close_all()
        self.exporter.close()
        self.leftovers.close()
        self.jobs.close()
        self.files.close()
        event.accept()
