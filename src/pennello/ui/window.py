"""The one window: rail, bar, stations; files, autosave, errors. It knows no station by name."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QByteArray, QChildEvent, QMimeData, QPoint, QSize, Qt, QUrl
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeySequence
from PySide6.QtWidgets import (
    QDialog,
    QFrame,
    QHBoxLayout,
    QMainWindow,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from pennello.design.plan import Plan
from pennello.disk import exists, path_of
from pennello.files.demo import demo_plan
from pennello.files.paper import Paper, PaperSize
from pennello.files.plan_json import SUFFIX
from pennello.phrases import phrase, plural
from pennello.session.document import Document
from pennello.session.jobs import Jobs
from pennello.session.recent_files import MIME
from pennello.session.settings import Settings, load_settings, state_folder, store_settings
from pennello.ui.banner import Banner
from pennello.ui.bench_model import BenchModel
from pennello.ui.binding import follow
from pennello.ui.clothes import Clothes
from pennello.ui.copying import Copier
from pennello.ui.exporting import Exporter
from pennello.ui.help import HelpPage
from pennello.ui.leftovers import Leftovers
from pennello.ui.plan_files import PlanFiles
from pennello.ui.rail import Rail
from pennello.ui.recent import RecentMenu
from pennello.ui.station import Action, Station, Takes, UndoRedo, Workplace
from pennello.ui.station_stack import StationStack
from pennello.ui.stations.registry import FIRST, STATIONS, row, takers_of
from pennello.ui.top_bar import TopBar
from pennello.ui.widgets.folders import FOLDERS
from pennello.ui.widgets.folding import FOLDS
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.pending import settle_typing
from pennello.ui.work import guarded
from pennello.units import LengthUnit

if TYPE_CHECKING:
    from pennello.session.run_keeper import KeptRun
    from pennello.ui.tour import Tour

ACTIONS: tuple[Action, ...] = (
    Action("new_plan", phrase("New plan"), "Ctrl+N", "plan"),
    Action("ask_open", phrase("Open ..."), "Ctrl+O", "plan"),
    Action("show_designs", phrase("Designs ..."), "Ctrl+D", "plan"),
    Action("open_demo", phrase("Saltmarsh Lantern Walk (demo)"), "", "plan"),
    Action("save", phrase("Save"), "Ctrl+S", "save"),
    Action("save_as", phrase("Save as ..."), "Ctrl+Shift+S", "save"),
    Action("print_shown", phrase("Print ..."), "Ctrl+P", "save"),
    Action("show_first_steps", phrase("First steps ..."), "", "end"),
    Action("show_tour", phrase("The tour"), "", "end"),
    Action("first_petal", phrase("Make my first petal"), "", "plan"),
    Action("turn_light", phrase("The other light"), "", "end"),
    Action("follow_desktop", phrase("Light as the desktop has it"), "", "end", ticked="follows_desktop"),
    Action("turn_contrast", phrase("More contrast"), "", "end", ticked="more_contrast"),
    Action("ask_size", phrase("Size of everything ..."), "", "end"),
    Action("ask_text", phrase("Size of words ..."), "", "end"),
    Action("turn_motion", phrase("Less motion"), "", "end", ticked="less_motion"),
    Action("close", phrase("Close"), "Ctrl+Q", "end"),
    Action("copy_shown", phrase("Copy what is shown"), "Ctrl+C"),
    Action("undo", phrase("Undo"), "Ctrl+Z"),
    Action("redo", phrase("Redo"), "Ctrl+Shift+Z"),
    Action("show_help", phrase("Help"), "F1"),
)
USUAL, LEAST = QSize(1280, 800), QSize(760, 480)
"""How large the window is at first, and how small it may be made."""

MENU = ("plan", "save", "out", "end")
"""The parts of the plan's menu, in order; stations put theirs in."""


class MainWindow(QMainWindow):
    """Holds the stations and the plan's file."""

    def __init__(self, document: Document, settings: Settings | None = None) -> None:
        super().__init__()
        self.document = document
        self.settings = settings if settings is not None else load_settings()
        FOLDERS.keep(dict(self.settings.folders), self._keep_folders)
        FOLDS.keep(self.settings.unfolded, self._keep_folds)
        self.jobs = Jobs()
        self.model = BenchModel(document, self.jobs, self)
        self.model.unit = self.settings.length_unit
        self.actions_by_id: dict[str, QAction] = {}
        self.clothes = Clothes(
            self, lambda: self.settings, self._settle, lambda name: self.actions_by_id[name].isChecked()
        )
        self.bar = TopBar(document, self.settings, self.clothes.light)
        self.banner = Banner()
        self.files = PlanFiles(document, self.banner, state_folder(), self)
        self.exporter = Exporter(self.banner, self, self._paper, self._settle_paper)
        self.copier = Copier(self.say, self)
        self.leftovers = Leftovers(self.files.autosave.owner, self)
        self.recent = RecentMenu(lambda: self.settings, self._settle, self.jobs, self.bar.menu)
        self.tour: Tour | None = None
        self._place = Workplace(
            document=document,
            bench=self.model,
            exporter=self.exporter,
            owner=self.files.autosave.owner,
            window=self,
            settings=lambda: self.settings,
            settle=self._settle,
            folder=lambda: self.files.folder,
            say=self.say,
            go_to=self.go_to,
            station=self.station,
            kit_changed=self.bar.refresh,
            run_plan=self.run_plan,
        )
        self.stations = StationStack(self._place, self.clothes.dress)
        self._build()
        self._build_menu()
        self._help: HelpPage | None = None
        self._connect()
        follow(self, document.state_changed, self._show_state)
        self._show_state()
        self.clothes.wear()
        self.clothes.dress(*self._parts)
        self.station(FIRST).enter()

    def _connect(self) -> None:
        """Hear what the parts of the window say."""
        self.files.remembered.connect(self.recent.remember)
        self.recent.wanted.connect(self.open_path)
        self.recent.said.connect(self.say)
        self.leftovers.offered.connect(self._offer_run)
        self.leftovers.said.connect(self.say)
        self.bar.unit_chosen.connect(self._choose_unit)
        self.bar.theme_chosen.connect(self.clothes.choose_theme)
        self.bar.help_wanted.connect(self.show_help)
        self.bar.failed.connect(self.say)
        self.bar.undo_wanted.connect(self.undo)
        self.bar.redo_wanted.connect(self.redo)
        self.model.failed.connect(self.say)
        self.clothes.changed.connect(self._show_light)
        self.clothes.said.connect(self.say)

    def _build(self) -> None:
        table = QWidget()
        table.setObjectName("table")
        self.rail = Rail()
        self.station(FIRST)
        self.rail.chosen.connect(self.go_to)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(4)
        right.addWidget(self.bar)
        held = QHBoxLayout()
        held.setContentsMargins(10, 0, 10, 0)
        held.addWidget(self.banner)
        right.addLayout(held)
        self.room = QScrollArea()  # a station that needs more than a small screen has is scrolled
        self.room.resize(USUAL)  # at less it takes bars, and gives them back only after all was drawn beside them
        self.room.setWidgetResizable(True)
        self.room.setFrameShape(QFrame.Shape.NoFrame)
        self.room.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # a click beside all fields leaves the station its keys
        self.room.setWidget(self.stations)
        self.stations.setAutoFillBackground(False)  # with a ground of its own it is drawn by itself, and its page again
        right.addWidget(self.room, 1)
        across = QHBoxLayout(table)
        across.setContentsMargins(0, 0, 0, 0)
        across.setSpacing(0)
        across.addWidget(self.rail)
        across.addLayout(right, 1)
        self.setCentralWidget(table)
        self.setAcceptDrops(True)
        self.resize(USUAL)
        self.setMinimumSize(LEAST)

    # --- menu ---

    def _build_menu(self) -> None:
        """Put in what the window and the stations can do, part by part, and take all keys."""
        every: list[tuple[Action, Callable[[Action], object]]] = [(action, self.do) for action in ACTIONS]
        for one in STATIONS:
            every.append((Action(one.key, one.title, one.keys), lambda action: self.go_to(action.do)))
            every += [(action, partial(self._do_there, one.key)) for action in one.actions]
        for part in MENU:
            if part != MENU[0]:
                self.bar.menu.addSeparator()
            for action, do in every:
                if action.menu == part:
                    self.bar.menu.addAction(self._act(action, do))
            if part == MENU[0]:
                self.bar.menu.insertMenu(self.actions_by_id["open_demo"], self.recent)
        for action, do in every:
            if not action.menu:
                self._act(action, do)

    def _act(self, action: Action, do: Callable[[Action], object]) -> QAction:
        made = QAction(action.title, self)
        if action.keys:
            made.setShortcut(QKeySequence(action.keys))
        if action.ticked:
            made.setCheckable(True)
            made.setChecked(getattr(self.settings, action.ticked))

        def act(_: bool = False) -> None:  # noqa: FBT001, FBT002 - Qt's own signal
            settle_typing()  # a key leaves the field that it is pressed in
            do(action)

        made.triggered.connect(act)
        self.addAction(made)
        self.actions_by_id[action.do] = made
        return made

    def do(self, action: Action) -> None:
        """Do what the window itself can, or what it can with the plan's file."""
        doer = next(one for one in (self, self.files, self.clothes) if hasattr(one, action.do))
        getattr(doer, action.do)()

    def _do_there(self, key: str, action: Action) -> None:
        getattr(self.station(key), action.do)()

    # --- stations ---

    def come_back(self) -> None:
        """Stand where the window stood last, or as large as is usual, but within the screen that there is.

        It is drawn once before it is there: what takes long the first time is not waited for in an empty frame.
        """
        kept = QByteArray.fromBase64(self.settings.window.encode("ascii", "ignore"))
        if kept.isEmpty() or not self.restoreGeometry(kept):
            self.resize(USUAL)
        screen = self.screen().availableGeometry()
        if not (self.isMaximized() or (screen.contains(self.frameGeometry()) and screen.contains(self.geometry()))):
            frame = self.frameGeometry().size() - self.size()
            self.resize(self.size().boundedTo(screen.size() - frame))
            self.move(screen.topLeft() + QPoint(*((screen.size() - frame - self.size()) / 2).toTuple()))
        self.grab()

    def station(self, key: str) -> Station:
        """Return a station, made when it is first wanted."""
        return self.stations.station(key)

    def go_to(self, key: str) -> None:
        """Show a station; undo follows what it shows."""
        settle_typing()
        self.rail.buttons[key].setChecked(True)
        self.stations.leave_for(key)
        self.model.rest(row(key).rests_bench)
        self.stations.show_station(key)
        self.bar.show_history(self._history)

    @property
    def _history(self) -> UndoRedo:
        return self.stations.current.history or self.document

    def undo(self) -> None:
        """Take back the last step of what is shown: of the plan, or of what the station keeps."""
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
            plan = path_of(kept.plan)
            elsewhere = kept.plan and exists(plan) and plan != self.document.path
            if elsewhere and not self.files.open_path(plan):
                self._offer_run(kept, path)
                return
            key = next(one.key for one in STATIONS if one.takes_runs)
            station: Any = self.station(key)
            self.go_to(key)
            station.take_run(kept, path)

        done = len(kept.run.took)
        self.banner.say(
            plural(
                len(kept.run.steps),
                "A run of {kept} was under way, {done} of {count} step done; its paint has dried on.",
                "A run of {kept} was under way, {done} of {count} steps done; its paint has dried on.",
                kept=kept.title,
                done=done,
            ),
            (phrase("Go on with it"), take),
            (phrase("Give it up"), lambda: self.leftovers.give_up(path)),
        )

    def say(self, sentence: str) -> None:
        """Show a sentence across the top."""
        self.banner.say(sentence)

    def _guarded(self, act: Callable[[], object]) -> bool:
        return guarded(act, self.say)

    def show_help(self) -> None:
        """Show the pages of help, the words, keys and marks."""
        if self._help is None:
            self._help = HelpPage(self, ACTIONS)
            self._help.wanted.connect(lambda name: self.actions_by_id[name].trigger())
        self._help.show()
        self._help.raise_()

    def show_first_steps(self) -> None:
        """Show what one may begin with."""
        from pennello.ui.first_steps import FirstSteps  # noqa: PLC0415 - only when wanted

        self._settle(replace(self.settings, welcomed=True))
        self.first_steps = FirstSteps(self, self.settings.tour)
        goes_when_closed(self.first_steps)
        self.first_steps.chosen.connect(lambda name: self.actions_by_id[name].trigger())
        self.first_steps.open()

    def welcome(self) -> None:
        """Show the first steps at the first start."""
        if not self.settings.welcomed and not self.settings.recent:
            self.show_first_steps()

    def first_petal(self) -> None:
        """Begin a plan with a petal on the Bench."""
        self.files.new_plan()
        self.go_to(FIRST)
        if not self.document.committed.strokes:
            bench: Any = self.station(FIRST)
            bench.first.click()

    def show_tour(self) -> None:
        """Begin the tour, or go on where it was left, on the plan that is open or on the demo."""
        from pennello.ui.tour import Tour  # noqa: PLC0415 - only when wanted

        if not self.document.committed.strokes and not self.files.open_shipped(demo_plan()):
            return
        if self.tour is not None and isValid(self.tour):
            self.tour.leave()
        self.tour = Tour(self, self, self.settings.tour - 1)
        self.tour.stood.connect(lambda at: self._settle(replace(self.settings, tour=at)))
        self.tour.go(self.tour.at)

    def show_designs(self) -> None:
        """Show the designs that ship with Pennello, to open one."""
        from pennello.ui.designs_page import DesignsPage  # noqa: PLC0415 - only when wanted

        self.designs = DesignsPage(self)
        goes_when_closed(self.designs)
        self.designs.chosen.connect(self.open_design)
        self.designs.show()

    def open_design(self, plan: Plan) -> None:
        """Open a design as a plan of its own, and show where it lies."""
        if self.files.open_shipped(plan):
            key = next(one.key for one in STATIONS if one.takes_designs)
            station: Any = self.station(key)
            station.show_design(plan)
            self.go_to(key)

    def run_plan(self, plan: Plan, path: Path | None, short: bool) -> None:  # noqa: FBT001 - a callable of the contract
        """Open a plan and begin its run at the chair: the station that takes runs asks what has to be asked."""
        if path is None:
            if not self.files.open_shipped(plan):
                return
        else:
            self.files.open_path(path)
            if self.document.path != path:
                return  # kept as it was, or it could not be opened
        key = next(one.key for one in STATIONS if one.takes_runs)
        station: Any = self.station(key)
        self.go_to(key)
        station.begin_run(self.document.committed.motifs[0].chart, short=short)

    def _show_state(self) -> None:
        name = self.document.path.name if self.document.path else phrase("not saved yet")
        self.setWindowTitle(phrase("{plan} ({name})[*] - Pennello", plan=self.document.plan.title, name=name))
        self.setWindowModified(self.document.dirty)

    # --- files ---

    def open_path(self, path: Path) -> None:
        """Open a plan, or give a file to the station that takes it; ask where several do and none of them is shown."""
        takers = takers_of(path)
        here = [taker for taker in takers if taker[0] == self.stations.shown]
        if not takers:
            self.files.open_path(path)
        elif here or len(takers) == 1:
            self._give(path, *(here or takers)[0])
        else:
            acts = [(_capital(takes.words), partial(self._give, path, key, takes)) for key, takes in takers]
            self.banner.say(phrase("What is {path} for?", path=path.name), *acts)

    def _give(self, path: Path, key: str, takes: Takes) -> None:
        if key != self.stations.shown:
            self.go_to(key)
        if path.suffix in MIME:
            self.recent.note(path)
        self._guarded(lambda: getattr(self.station(key), takes.do)(path))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Take files that Pennello can open."""
        if _dropped(event.mimeData()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what was dropped: one file at a time."""
        paths = _dropped(event.mimeData())
        if not paths:
            return
        event.acceptProposedAction()
        first, *others = paths
        self.open_path(first)
        if others:
            self.say(
                plural(
                    len(others),
                    "Took {first}; drop the other {count} file one at a time.",
                    "Took {first}; drop the other {count} files one at a time.",
                    first=first.name,
                )
            )

    def print_shown(self) -> None:
        """Show what the station has for paper, to print it or keep it as a PDF."""
        from pennello.ui.printing import PrintPage  # noqa: PLC0415 - only when wanted

        papers = self.stations.current.papers()
        if not papers:
            self.say(phrase("There is nothing here to print yet."))
            return
        self.printing = PrintPage(papers, self.exporter, self)
        goes_when_closed(self.printing)
        self.printing.open()

    def _paper(self) -> Paper:
        return Paper(PaperSize(self.settings.paper), self.settings.maker)

    def _settle_paper(self, paper: Paper) -> None:
        self._settle(replace(self.settings, paper=paper.size.value, maker=paper.maker))

    def copy_shown(self) -> None:
        """Put what the station shows on the clipboard: its picture, its table."""
        given = self.stations.current.copied()
        if given is None:
            self.say(phrase("There is nothing here to copy yet."))
        else:
            self.copier.copy(given)

    def save(self) -> bool:
        """Save where the plan came from, or ask."""
        return self.files.save()

    def offer_last(self) -> None:
        """Offer the plan that was open last, if nothing else is asked."""
        last = self.recent.last
        if last is None or self.banner.isVisible() or self.document.path is not None or not exists(last):
            return
        self.banner.say(
            phrase("{stem} was open last.", stem=last.stem),
            (phrase("Open it"), lambda: self.open_path(last)),
            holds=lambda: self.document.path is None,
        )

    def _keep_folders(self, kept: dict[str, str]) -> None:
        self._settle(replace(self.settings, folders=tuple(kept.items())))

    def _keep_folds(self, open_ones: tuple[str, ...]) -> None:
        self._settle(replace(self.settings, unfolded=open_ones))

    def _settle(self, settings: Settings) -> None:
        self.settings = settings
        store_settings(settings)

    def tidy(self) -> None:
        """See to what earlier Pennellos left: runs that ended, private files, what people said, stray files."""
        self.leftovers.look()

    # --- choices ---

    def _choose_unit(self, name: str) -> None:
        self._settle(replace(self.settings, unit=name))
        self.model.set_unit(LengthUnit(name))
        for one in self.stations.made.values():
            one.show_unit(LengthUnit(name))

    @property
    def _parts(self) -> list[QWidget]:
        """What is styled by itself: what stands around the stations, the one that is shown, and pages over them."""
        bars = (self.room.verticalScrollBar(), self.room.horizontalScrollBar())
        direct = self.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly)
        over = [one for one in direct if one is not self.centralWidget()]
        return [self.rail, self.bar, self.banner, *bars, self.stations.current.widget, *over]

    def childEvent(self, event: QChildEvent) -> None:
        """Style a page that is about to be shown over the window."""
        super().childEvent(event)
        if event.polished() and isinstance(child := event.child(), QWidget) and child is not self.centralWidget():
            self.clothes.dress(child)

    def _show_light(self, light: str) -> None:
        self.clothes.dress(*self._parts)
        self.bar.show_theme(light)
        self.actions_by_id["follow_desktop"].setChecked(self.settings.follows_desktop)
        for one in self.stations.made.values():
            one.show_theme()
        self.update()
        self.stations.dress_others()

    # --- leaving ---

    def closeEvent(self, event: QCloseEvent) -> None:
        """Ask, then stop timers and workers; nobody waits for them with an open window."""
        if not self.files.may_leave():
            event.ignore()
            return
        geometry = bytes(self.saveGeometry().toBase64().data()).decode()
        store_settings(replace(load_settings(), window=geometry))  # what another window has chosen meanwhile stays
        self.leave(copy=False)
        event.accept()

    def leave(self, *, copy: bool) -> None:
        """Stop timers and workers; what is not saved is kept as a copy for the next start, or given up."""
        self.hide()
        if copy:
            settle_typing()
        for page in self.findChildren(QDialog):  # what a page works at ends with it
            page.close()
        self.model.stop()
        for one in self.stations.made.values():
            one.close_all()
        self.exporter.close()
        self.copier.close()
        self.leftovers.close()
        self.jobs.close()
        self.files.leave(copy=copy)


def _dropped(data: QMimeData) -> list[Path]:
    """Return the files of a drop that Pennello, or one of its stations, can open."""
    paths = [_place(url) for url in data.urls() if url.isLocalFile()] if data.hasUrls() else []
    return [path for path in paths if path.suffix.lower() == SUFFIX or takers_of(path)]


def _place(url: QUrl) -> Path:
    """Return where a file lies; one whose name is no UTF-8 is found by its address, Qt has no words for it."""
    path, found = Path(url.toLocalFile()), path_of(url.toString(QUrl.ComponentFormattingOption.FullyEncoded))
    return found if not exists(path) and exists(found) else path


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
