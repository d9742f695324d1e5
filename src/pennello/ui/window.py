"""The one window: rail, bar, stations; files, autosave, errors."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QMainWindow,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from pennello.design.fresh import fresh_plan
from pennello.errors import PennelloError
from pennello.files.demo import demo_plan
from pennello.files.plan_json import SUFFIX
from pennello.session.autosave import AUTOSAVE_S, Autosave, Recovered
from pennello.session.document import Document
from pennello.session.jobs import Jobs
from pennello.session.settings import Settings, load_settings, state_folder, store_settings, with_recent
from pennello.ui.banner import Banner
from pennello.ui.binding import follow
from pennello.ui.help import HelpPage
from pennello.ui.rail import FIRST, STATIONS, Rail
from pennello.ui.stations.bench.model import BenchModel
from pennello.ui.stations.bench.station import BenchStation
from pennello.ui.theme.style import apply_theme
from pennello.ui.top_bar import History, TopBar
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.ui.stations.chart.station import ChartStation
    from pennello.ui.stations.order.station import OrderStation
    from pennello.ui.stations.tray.desk import TrayDesk

TRAY, BENCH, CHART, ORDER = (list(dict(STATIONS)).index(name) for name in ("tray", "bench", "chart", "order"))
assert BENCH == FIRST
_FILTER = f"Pennello plans (*{SUFFIX})"


class MainWindow(QMainWindow):
    """Holds the stations and the plan's file."""

    def __init__(self, document: Document, settings: Settings | None = None) -> None:
        super().__init__()
        self.document = document
        self.settings = settings if settings is not None else load_settings()
        self.jobs = Jobs()
        self.autosave = Autosave(document, state_folder())
        self.model = BenchModel(document, self.jobs, self)
        self.model.unit = self.settings.length_unit
        self.bar = TopBar(document, self.settings)
        self.banner = Banner()
        self.bench = BenchStation(self.model)
        self._build()
        self._build_menu()
        self._help: HelpPage | None = None
        self._tray: TrayDesk | None = None
        self._chart: ChartStation | None = None
        self._order: OrderStation | None = None
        self._keeper = QTimer(self)
        self._keeper.setInterval(round(AUTOSAVE_S * 1000))
        self._keeper.timeout.connect(self._keep)
        self._keeper.start()
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
        self._act(menu, "New plan", self.new_plan, keys.New)
        self._act(menu, "Open ...", self.ask_open, keys.Open)
        self.recent = menu.addMenu("Recent")
        self.recent.aboutToShow.connect(self._list_recent)
        self._act(menu, "Saltmarsh Lantern Walk (demo)", self.open_demo)
        menu.addSeparator()
        self._act(menu, "Save", self.save, keys.Save)
        self._act(menu, "Save as ...", self.save_as, QKeySequence("Ctrl+Shift+S"))
        menu.addSeparator()
        self._act(menu, "Picture of the stroke (PNG) ...", self.ask_picture, QKeySequence("Ctrl+E"))
        self._act(menu, "Load card (PDF) ...", self.ask_card, keys.Print)
        self._act(menu, "Label of the cake (PDF) ...", self.ask_label)
        menu.addSeparator()
        self._act(menu, "Close", self.close, keys.Quit)
        for words, act, key in (
            ("Undo", self.undo, keys.Undo),
            ("Redo", self.redo, keys.Redo),
            ("Tray", lambda: self.go_to(TRAY), QKeySequence("Alt+1")),
            ("Bench", lambda: self.go_to(BENCH), QKeySequence("Alt+2")),
            ("Chart", lambda: self.go_to(CHART), QKeySequence("Alt+3")),
            ("Order", lambda: self.go_to(ORDER), QKeySequence("Alt+4")),
            ("Flip the brush", self.bench.cake.numbers.do_flip, QKeySequence("F")),
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
            action = self.recent.addAction(Path(name).name)
            action.setToolTip(name)
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

            self._order = OrderStation(OrderModel(self.document, self))
            self._order.said.connect(self.say)
            self.stations.addWidget(self._order)
        return self._order

    def go_to(self, station: int) -> None:
        """Show a station; undo follows what it shows."""
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
        self._guarded(self._history.undo)

    def redo(self) -> None:
        """Do it again."""
        self._guarded(self._history.redo)

    # --- saying things ---

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

    def new_plan(self) -> None:
        """Start an empty plan."""
        if self._may_leave():
            self.document.replace(fresh_plan())

    def open_demo(self) -> None:
        """Open the demo plan."""
        if self._may_leave():
            self._guarded(lambda: self.document.replace(demo_plan()))

    def ask_open(self) -> None:
        """Ask for a plan and open it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a plan", self._folder(), _FILTER)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """Open a plan; offer the autosaved copy where it is newer."""
        if not self._may_leave():
            return
        found = self.autosave.recoverable(path)
        opened = self._guarded(lambda: self.document.open(path))
        if opened:
            self._remember(path)
        if found:
            self._offer(found, path)

    def offer_unnamed(self) -> None:
        """Offer the copy of a plan that never had a file, left by a kill."""
        found = self.autosave.recoverable(None)
        if found:
            self._offer(found, None)

    def _offer(self, found: Recovered, path: Path | None) -> None:
        def take() -> None:
            self.document.replace(found.plan, path, saved=False)

        name = path.name if path else "a plan without a name"
        self.banner.say(
            f"There is an autosaved copy of {name} from {found.saved_at:%d %B, %H:%M} that is newer than the file.",
            ("Take the copy", take),
            ("Throw the copy away", lambda: self.autosave.discard(found)),
        )

    def offer_run(self) -> None:
        """Offer to go on with a run at the chair that was under way when Pennello ended."""
        from pennello.session.run_keeper import forget_run, run_path  # noqa: PLC0415 - only where there may be one

        kept = self.order.door.waiting() if run_path().exists() else None
        if kept is None:
            return

        def take() -> None:
            path = Path(kept.plan)
            if kept.plan and path.exists() and path != self.document.path:
                self.open_path(path)
            self.order.model.show_chart(kept.chart)
            self.go_to(ORDER)
            self.order.door.go_on(kept)

        done = len(kept.run.took)
        self.banner.say(
            f"A run of {kept.title} was under way, {done} of {len(kept.run.steps)} steps done; its paint has dried on.",
            ("Go on with it", take),
            ("Give it up", forget_run),
        )

    def save(self) -> bool:
        """Save where the plan came from, or ask."""
        if self.document.path is None:
            return self.save_as()
        return self._save_to(self.document.path)

    def save_as(self) -> bool:
        """Ask where to save."""
        stem = "".join(c if c.isalnum() else "-" for c in self.document.plan.title.lower()).strip("-") or "plan"
        name, _ = QFileDialog.getSaveFileName(self, "Save the plan", f"{self._folder()}/{stem}{SUFFIX}", _FILTER)
        return bool(name) and self._save_to(Path(name))

    def _save_to(self, path: Path) -> bool:
        saved = self._guarded(lambda: self.document.save(path))
        if saved:
            self.autosave.forget()
            self._remember(self.document.path or path)
        return saved

    def _remember(self, path: Path) -> None:
        self._settle(with_recent(self.settings, path))

    def _settle(self, settings: Settings) -> None:
        self.settings = settings
        store_settings(settings)

    def _folder(self) -> str:
        return str(self.document.path.parent if self.document.path else Path.home())

    def _keep(self) -> None:
        self._guarded(self.autosave.keep)

    # --- out ---

    def ask_picture(self) -> None:
        """Ask where and write the stroke with its ribbons as PNG."""
        self._ask_out("Picture of the stroke", ".png", self.write_picture)

    def ask_card(self) -> None:
        """Ask where and write the load card."""
        self._ask_out("Load card", ".pdf", self.write_card)

    def ask_label(self) -> None:
        """Ask where and write the label of the cake on the Bench."""
        if self.model.stroke is not None and self.model.cake is None:
            self.say("Nothing on the Bench comes from a cake; choose a pick-up that does.")
            return
        self._ask_out("Label of the cake", ".pdf", self.write_label)

    def _ask_out(self, words: str, suffix: str, write: Callable[[Path], None]) -> None:
        stroke = self.model.stroke
        if stroke is None:
            self.say("There is no stroke yet; begin with a petal.")
            return
        name, _ = QFileDialog.getSaveFileName(self, words, f"{self._folder()}/{stroke.id}{suffix}", f"*{suffix}")
        if name:
            path = Path(name)
            target = path if path.suffix else path.with_suffix(suffix)
            if self._guarded(lambda: write(target)):
                self.say(f"Wrote {target}.")

    def write_picture(self, path: Path) -> None:
        """Write the stroke on the Bench with its ribbons as PNG."""
        from pennello.files.picture import bench_picture, write_png  # noqa: PLC0415 - Pillow only when asked for
        from pennello.session.forecast import fine  # noqa: PLC0415

        stroke = self.model.stroke
        if stroke:
            outcome = fine(self.model.plan, stroke.id, self.model.unit)
            scale = outcome.laid.film.canvas.px_per_mm
            page = bench_picture(outcome.picture, outcome.seen, outcome.attempt.edge_mm, scale)
            write_png(page, path, scale)

    def write_card(self, path: Path) -> None:
        """Write the load card of the stroke on the Bench."""
        from pennello.files.card_pdf import write_card  # noqa: PLC0415 - reportlab only when asked for

        stroke = self.model.stroke
        if stroke:
            write_card(self.model.plan, stroke.id, path, self.model.unit)

    def write_label(self, path: Path) -> None:
        """Write the label of the cake on the Bench."""
        from pennello.files.cake_pdf import write_cake_label  # noqa: PLC0415 - reportlab only when asked for

        cake = self.model.cake
        if cake:
            write_cake_label(self.model.plan, cake.id, path, self.model.unit)

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

    def _may_leave(self) -> bool:
        """Ask about a plan that is not saved; return whether to go on."""
        if not self.document.dirty:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self,
            "Not saved",
            f"{self.document.plan.title} has changes that are not saved.",
            buttons.Save | buttons.Discard | buttons.Cancel,
            buttons.Save,
        )
        if answer == buttons.Save:
            return self.save()
        if answer == buttons.Discard:
            self.autosave.forget()
            return True
        return False

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask, then stop timers and workers."""
        if not self._may_leave():
            event.ignore()
            return
        self._keeper.stop()
        self.model.stop()
        if self._tray is not None:
            self._tray.model.close()
        if self._chart is not None:
            self._chart.model.close()
        if self._order is not None:
            self._order.close_all()
        self.jobs.close()
        self.autosave.forget()
        event.accept()
