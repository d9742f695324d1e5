"""From the order to the chair: what has to be asked, the cautions, then the run, kept on disk and in the notebook."""

from __future__ import annotations

import time
from collections.abc import Callable
from datetime import datetime

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from pennello.caution.person import Person
from pennello.errors import PennelloError
from pennello.order.pace import Pace, StepKind
from pennello.order.run import Run, Took, begin, defaults_of, hand_s
from pennello.order.steps import Step
from pennello.session.kit import expired_names
from pennello.session.notebook import notebook_path
from pennello.session.run_keeper import KeptRun, forget_run, keep_run, kept_run, with_run
from pennello.store.notebook import Notebook, RunNote, StepNote
from pennello.ui.stations.order.cautions_page import CautionsPage
from pennello.ui.stations.order.model import OrderModel
from pennello.ui.stations.order.run_window import RunWindow

Clock = Callable[[], float]


class RunDoor(QObject):
    """Opens the run and looks after it.

    Signals
    -------
    said(str)
    """

    said = Signal(str)

    def __init__(self, model: OrderModel, parent: QWidget, clock: Clock = time.monotonic) -> None:
        super().__init__(parent)
        self._model, self._parent, self.clock = model, parent, clock
        self.page: CautionsPage | None = None
        self.window: RunWindow | None = None
        self.kept: KeptRun | None = None
        model.shown.connect(self._show_pictures)

    def ask(self) -> None:
        """Show the cautions and ask what has to be asked."""
        if self._model.arranged is None:
            return
        expired: tuple[str, ...] = ()
        try:
            expired = expired_names()
        except PennelloError as error:
            self.said.emit(str(error))
        self.page = CautionsPage(self._model.document.committed, self._model.chart, self._parent, expired)
        self.page.begun.connect(self.begin)
        self.page.open()

    def begin(self, person: Person) -> None:
        """Begin a run."""
        arranged = self._model.arranged
        if arranged is None:
            return
        document = self._model.document
        answers = tuple((name, getattr(person, name).value) for name in Person.__slots__)
        now = datetime.now().astimezone().isoformat(timespec="seconds")
        self.kept = KeptRun(
            begin(arranged.steps, self.clock()),
            document.committed.title,
            str(document.path or ""),
            self._model.chart,
            now,
            answers,
            arranged.lags,
        )
        self._open()

    def waiting(self) -> KeptRun | None:
        """Return a run that was under way when Pennello ended, or None."""
        return kept_run(self.clock(), time.time())

    def go_on(self, kept: KeptRun) -> None:
        """Take up a run that was under way: its paint has dried on meanwhile."""
        self.kept = kept
        self._open()

    def close(self) -> None:
        """Shut the page and the run; a run under way stays on disk."""
        if self.page is not None:
            self.page.close()
            self.page.deleteLater()
            self.page = None
        if self.window is not None:
            self.window.close()
            self.window.deleteLater()
            self.window = None

    def _open(self) -> None:
        assert self.kept is not None
        self.window = RunWindow(self.kept.run, self.kept.lags, self.clock)
        self._show_pictures()
        self.window.changed.connect(self._keep)
        self.window.left.connect(self._leave)
        self._keep(self.kept.run)
        screen = self._parent.screen()
        self.window.setGeometry(screen.geometry())  # where no window manager makes it as large as the screen
        self.window.showFullScreen()

    def _show_pictures(self) -> None:
        """Give the run its pictures, as soon as the order that they are of is there."""
        arranged = self._model.arranged
        if self.window is not None and arranged is not None:
            self.window.show_arranged(arranged, self._model.pictures)

    def _keep(self, run: Run) -> None:
        """Write the run down after every tick of the hand; a run that is over goes into the notebook."""
        assert self.kept is not None
        self.kept = with_run(self.kept, run)
        try:
            keep_run(self.kept, self.clock(), time.time())
        except PennelloError as error:
            self.said.emit(str(error))

    def _leave(self, record: bool) -> None:  # noqa: FBT001 - the run's own signal
        """The run is over, or given up."""
        forget_run()
        if record and self.kept is not None and self.kept.run.took:
            self._note(self.kept)
        self.kept = None
        if self.window is not None:
            self.window.close()
            self.window.deleteLater()
            self.window = None

    def _note(self, kept: KeptRun) -> None:
        run = kept.run
        try:
            book = Notebook(notebook_path())
            try:
                book.add(self._run_note(kept))
            finally:
                book.close()
        except PennelloError as error:
            self.said.emit(str(error))
            return
        self.said.emit(f"Written into the notebook: {hand_s(run, self.clock()):.0f} s of your hand.")
        self._model.enter()

    def _run_note(self, kept: KeptRun) -> RunNote:
        run, pace = kept.run, self._model.pace
        by_id = {step.id: step for step in run.steps}
        steps = tuple(_noted(by_id[one.step], one, pace) for one in run.took)
        told = self.page.told if self.page is not None else ()
        return RunNote(
            kept.title,
            kept.chart,
            kept.begun,
            datetime.now().astimezone().isoformat(timespec="seconds"),
            round(sum(one.seconds for one in run.took), 2),
            round(run.steps[-1].end_s, 2),
            run.over,
            steps,
            kept.answers,
            tuple((one.code, one.text) for one in told),
        )


def _noted(step: Step, took: Took, pace: Pace) -> StepNote:
    whole, within = defaults_of(step, pace)
    left_out = took.skipped or step.kind is StepKind.WAIT
    return StepNote(
        step.id, step.kind, step.name, round(whole, 2), round(max(took.seconds, 0.0), 2), left_out, round(within, 2)
    )
