"""From the order to the chair: what has to be asked, the cautions, then the run, kept on disk and in the notebook."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from pennello.caution.person import Person
from pennello.caution.rules import cautions_of_plan, charts_painted
from pennello.disk import kept_path
from pennello.errors import PennelloError
from pennello.finding import Finding
from pennello.order.arrange import Arranged, in_order
from pennello.order.run import Run
from pennello.order.run import begin as begun
from pennello.phrases import phrase, plural
from pennello.session.jobs import Job, Jobs
from pennello.session.kit import expired_names
from pennello.session.notebook import forget_answers, note_run
from pennello.session.order_pictures import Picture
from pennello.session.owner import Owner
from pennello.session.run_keeper import KeptRun, forget_run, keep_run, run_path, with_run, without_answers
from pennello.store.database import SOON_MS
from pennello.ui.stations.order.after import paint_after
from pennello.ui.stations.order.cautions_page import CautionsPage
from pennello.ui.stations.order.model import OrderModel
from pennello.ui.stations.order.run_window import RunWindow
from pennello.ui.widgets.passing import throw_away
from pennello.ui.work import begin

CARD_PX_PER_MM = 3.0

Clock = Callable[[], float]
Answers = tuple[tuple[str, str], ...]


def _laid(order: Run | Arranged) -> list[tuple[str, str]]:
    """Return what is laid, in its order, each with its name."""
    return [(one.id, one.name) for one in order.steps if one.id == one.job]


class RunController(QObject):
    """Opens the run and looks after it.

    Signals
    -------
    said(str)
    """

    said = Signal(str)

    def __init__(self, model: OrderModel, parent: QWidget, owner: Owner, clock: Clock = time.monotonic) -> None:
        super().__init__(parent)
        self._model, self._parent, self.clock = model, parent, clock
        self._owner = owner
        self._jobs = Jobs()
        self.page: CautionsPage | None = None
        self.window: RunWindow | None = None
        self.kept: KeptRun | None = None
        self.rehearsing = False
        self._closer_of: Arranged | None = None
        self._mine: Arranged | None = None
        model.shown.connect(self._show_pictures)

    def ask(self) -> None:
        """Show the cautions and ask what has to be asked."""
        if self._model.arranged is None:
            return
        if not self._model.arranged.jobs:
            self.said.emit(phrase("There is nothing to paint yet: put a motif on the Chart, or a load on the Bench."))
            return
        plan, chart = self._model.document.committed, self._model.chart
        page = CautionsPage(charts_painted(plan, chart), self._parent)
        page.begun.connect(lambda person: self.begin(person, page.told))
        page.rehearsed.connect(self.rehearse)
        page.finished.connect(self._let_go_of_page)
        self.page = page
        page.open()

        def work(_: Job[Any]) -> tuple[tuple[Finding, ...], str]:
            expired, why = _expired()
            return cautions_of_plan(plan, chart, expired), why

        def take(found: tuple[tuple[Finding, ...], str]) -> None:
            cautions, why = found
            page.take_plan(cautions)
            if why:
                self.said.emit(why)

        begin(self._jobs, "cautions", page, work, finished=take, failed=page.fail)

    def _let_go_of_page(self) -> None:
        if self.page is not None:
            throw_away(self.page)
            self.page = None

    def begin(self, person: Person, told: Sequence[Finding] = ()) -> None:
        """Begin a run; the cautions that were shown go into the notebook with it."""
        arranged = self._model.arranged
        if arranged is None:
            return
        answers = tuple((name, getattr(person, name).value) for name in Person.__slots__)
        self._begin(arranged, answers, told)

    def rehearse(self) -> None:
        """Go through the cards with nobody to paint: nothing is asked, nothing is kept, no pace is learnt."""
        arranged = self._model.arranged
        if arranged is not None:
            self.rehearsing = True
            self._begin(arranged, (), ())

    def _begin(self, arranged: Arranged, answers: Answers, told: Sequence[Finding]) -> None:
        document = self._model.document
        now = datetime.now().astimezone().isoformat(timespec="seconds")
        self.kept = KeptRun(
            begun(arranged.steps, self.clock()),
            document.committed.title,
            kept_path(document.path),
            self._model.chart,
            now,
            answers,
            arranged.lags,
            tuple((one.code, one.text) for one in told),
            self._model.pace.factors,
            short=self._model.short,
        )
        self._open()

    @property
    def path(self) -> Path:
        """Where this Pennello keeps its run."""
        return run_path(self._owner.token)

    def go_on(self, kept: KeptRun, path: Path) -> None:
        """Take up a run that was under way, its paint dried on; its old file goes once it is kept here."""
        self.kept = kept
        if self._open():
            forget_run(path)

    def forget_answers(self) -> None:
        """Let a worker erase what people said, in the notebook and in runs on disk."""

        def told(count: int) -> None:
            runs = plural(count, "{count} run", "{count} runs")
            self.said.emit(
                phrase("What people said before {runs} is erased; times stay.", runs=runs)
                if count
                else phrase("Nothing was kept.")
            )

        if self.kept is not None:
            self.kept = without_answers(self.kept)
        begin(
            self._jobs,
            "forget",
            self,
            lambda _: forget_answers(),
            finished=told,
            failed=self.said.emit,
            to_the_end=True,
        )

    def close(self) -> None:
        """Shut the page and the run; a run under way stays on disk."""
        if self.page is not None:
            self.page.close()
        self._let_go_of_page()
        self._jobs.close()
        if self.window is not None:
            self.window.close()
            throw_away(self.window)
            self.window = None

    def _open(self) -> bool:
        """Show the run; return whether it could be kept on disk."""
        assert self.kept is not None
        self._closer_of = self._mine = None
        self.window = RunWindow(
            self.kept.run, self.kept.lags, self.clock, self._parent.window(), rehearsal=self.rehearsing
        )
        self._show_pictures()
        self.window.changed.connect(self._keep)
        self.window.left.connect(self._leave)
        kept = self._keep(self.kept.run)
        screen = self._parent.screen()
        self.window.setGeometry(screen.geometry())  # where no window manager makes it as large as the screen
        self.window.showFullScreen()
        return kept

    def _show_pictures(self) -> None:
        """Give the run its pictures, as soon as the order that they are of is there."""
        arranged = self._as_it_goes(self._model.arranged)
        if self.window is not None and arranged is not None:
            self.window.show_arranged(arranged, self._model.pictures)
            if arranged is not self._closer_of:
                self._look_closer(arranged)

    def _as_it_goes(self, found: Arranged | None) -> Arranged | None:
        """Return an order that was found as the run goes, which may have begun by another; None for another design."""
        if found is None or self.kept is None:
            return None
        mine, theirs = _laid(self.kept.run), _laid(found)
        if mine == theirs:
            return found
        if sorted(mine) != sorted(theirs):
            return None
        if self._mine is None or self._mine.design is not found.design or _laid(self._mine) != mine:
            self._mine = in_order(found.design, [name for name, _ in mine])
        return self._mine

    def _look_closer(self, arranged: Arranged) -> None:
        """Paint the charts after each step, fine enough to be seen from near; those of the Order serve until then."""
        self._closer_of = arranged
        for job, picture in self._model.after.items() if arranged is self._model.arranged else ():
            self._take_after(arranged, job, picture)
        paint_after(
            self._jobs,
            "closer",
            self,
            arranged,
            CARD_PX_PER_MM,
            found=lambda moment: self._take_after(arranged, moment.job, moment.picture),
            failed=self.said.emit,
        )

    def _take_after(self, arranged: Arranged, job: str, picture: Picture) -> None:
        if self.window is not None and arranged is self._closer_of:
            self.window.show_after(job, picture)

    def _keep(self, run: Run) -> bool:
        """Write the run down after every tick of the hand; return whether it could be."""
        assert self.kept is not None
        self.kept = with_run(self.kept, run)
        if self.rehearsing:
            return True
        try:
            self._owner.claim()
            keep_run(self.kept, self.clock(), time.time(), self.path)
        except PennelloError as error:
            self.said.emit(str(error))
            return False
        return True

    def _leave(self, record: bool) -> None:  # noqa: FBT001 - the run's own signal
        """The run is over, or given up: its file goes once the notebook has it, and not before."""
        kept, self.kept = self.kept, None
        if self.window is not None:
            self.window.close()
            throw_away(self.window)
            self.window = None
        rehearsed, self.rehearsing = self.rehearsing, False
        if kept is None:
            return
        if rehearsed:
            self.said.emit(phrase("That was a rehearsal: nothing of it is kept."))
            return
        if not record or not kept.run.took:
            forget_run(self.path)
            return
        now = datetime.now().astimezone().isoformat(timespec="seconds")
        ended = replace(kept, ended=now)
        try:
            keep_run(ended, self.clock(), time.time(), self.path)
        except PennelloError as error:
            self.said.emit(str(error))
        self._note(ended)

    def _note(self, kept: KeptRun) -> None:
        """Let a worker write it into the notebook; a notebook that is in use holds nobody up and loses nothing."""
        path, seconds = self.path, sum(one.seconds for one in kept.run.took)

        def noted(_: object) -> None:
            self.said.emit(phrase("Written into the notebook: {seconds:.0f} s of your hand.", seconds=seconds))
            self._model.look_at_pace()

        def failed(words: str) -> None:
            self.said.emit(
                phrase("The run is kept and will be in the notebook when Pennello starts next: {words}", words=words)
            )

        def work(_: Job[Any]) -> None:
            note_run(kept)
            forget_run(path)

        begin(self._jobs, "note", self, work, finished=noted, failed=failed, to_the_end=True)


def _expired() -> tuple[tuple[str, ...], str]:
    """Return what of the kit is over its date, or none and why that cannot be known."""
    try:
        return expired_names(busy_ms=SOON_MS), ""
    except PennelloError as error:
        return (), str(error)
