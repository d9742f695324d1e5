"""What the Notebook shows: the pages that are looked for, the one that lies open, and its pictures."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QObject, Signal

from pennello.design.findings import findings_by_chart
from pennello.design.plan import Plan
from pennello.disk import exists, path_of
from pennello.errors import PennelloError
from pennello.files.plan_json import read_plan
from pennello.finding import Finding
from pennello.practice.records import LogPage
from pennello.session.jobs import Job, Jobs
from pennello.session.log import (
    LookedFor,
    apart_words,
    found,
    keep_photo,
    keep_picture,
    picture_of,
    steps_of,
    sweep_photos,
)
from pennello.session.log_session import LogSession
from pennello.ui.work import Newest, begin, guarded

Picture = NDArray[np.uint8]
Looked = tuple[int, Picture | None, Picture | None, str]


class BookModel(QObject):
    """The pages and the one that lies open.

    Signals
    -------
    changed
        Pages are others, or others are looked for.
    opened
        Another page lies open.
    pictured(int, object, object)
        Pictures of a page: what was planned, and what was painted; None where there is none.
    stepped(int, str)
        Which steps of a page's run took another time than was predicted.
    said(str)
    """

    changed = Signal()
    opened = Signal()
    pictured = Signal(int, object, object)
    stepped = Signal(int, str)
    said = Signal(str)

    def __init__(self, parent: QObject, path: Path | None = None) -> None:
        super().__init__(parent)
        self.log = LogSession(path)
        self.wanted = LookedFor()
        self.current: LogPage | None = None
        self._jobs, self._keeping = Jobs(), Jobs()
        self._pictures = Newest(self._jobs, "pictures", self)

    @property
    def pages(self) -> tuple[LogPage, ...]:
        """The pages that are looked for, the latest first."""
        return found(self.log.pages, self.wanted)

    def read(self) -> None:
        """Read the pages anew."""
        guarded(self.log.read, self.said.emit)
        self._keep_current()

    def look_for(self, wanted: LookedFor) -> None:
        """Show other pages."""
        self.wanted = wanted
        self._keep_current()

    def _keep_current(self) -> None:
        pages = self.pages
        number = self.current.id if self.current is not None else 0
        now = next((one for one in pages if one.id == number), pages[0] if pages else None)
        self.changed.emit()
        self.open_page(now)

    def open_page(self, page: LogPage | None) -> None:
        """Let a page lie open; its pictures come when they are there."""
        self.current = page
        self.opened.emit()
        if page is not None:
            self._pictures.run(
                lambda job: self._look(job, page),
                finished=self._show_looked,
                failed=self.said.emit,
            )

    def _show_looked(self, found: Looked) -> None:
        number, planned, painted, words = found
        self.pictured.emit(number, planned, painted)
        self.stepped.emit(number, words)

    def _look(self, job: Job[Any], page: LogPage) -> Looked:
        """Return a page's pictures and steps; what was planned is laid where that was not done yet. On a worker."""
        from pennello.session.design_pictures import laid_plan  # noqa: PLC0415 - engines only on the worker

        painted = picture_of(page.photo, self.log.path)
        planned = picture_of(page.picture, self.log.path)
        if planned is None and page.plan and exists(path_of(page.plan)):
            job.check()
            try:
                plan = read_plan(path_of(page.plan))
                chart = plan.motifs[0].chart if plan.motifs else None
                planned = laid_plan(plan, chart, check=job.check).picture if chart is not None else None
            except PennelloError:
                planned = None  # the plan is another file by now: the page stays as it is
        return page.id, planned, painted, apart_words(steps_of(page, self.log.path))

    def keep(self, page: LogPage) -> LogPage | None:
        """Write a page and open it, where it is among those looked for; return it, or None where it was not written."""
        kept: list[LogPage] = []
        if guarded(lambda: kept.append(self.log.keep(page)), self.said.emit):
            self.current = kept[0]
        self._keep_current()
        return kept[0] if kept else None

    def keep_with(self, page: LogPage, plan: Plan | None, photo: Path | None) -> None:
        """Write a page at once; its photo, and its plan's picture, colours and predicted time follow from a worker."""
        kept, at = self.keep(page), self.log.path
        if kept is None or (photo is None and plan is None):
            return

        def work(job: Job[Any]) -> dict[str, Any]:
            from pennello.session.design_pictures import laid_plan  # noqa: PLC0415 - engines only on the worker

            found: dict[str, Any] = {"photo": keep_photo(photo, at)} if photo is not None else {}
            if plan is not None:
                laid = laid_plan(plan, plan.motifs[0].chart, check=job.check)
                found |= {"picture": keep_picture(laid.picture, at), "colours": laid.colours}
                found["planned_s"] = round(laid.seconds, 1)
            return found

        number = kept.id
        # a key of its own: looking at another page meanwhile stops nothing
        begin(
            self._keeping,
            str(number),
            self,
            work,
            finished=lambda found: self._complete(number, found),
            failed=self.said.emit,
        )

    def _complete(self, number: int, found: dict[str, Any]) -> None:
        """Write what has come for a page, unless it was taken out meanwhile."""
        page = self.log.page(number)
        if page is not None:
            guarded(lambda: self.log.keep(replace(page, **found)), self.said.emit)
            self._keep_current()

    def look_at(self, plan: Plan, owner: QObject, take: Callable[[tuple[Finding, ...]], object]) -> None:
        """Let a worker find what is odd about the charts of a plan, for as long as its owner is there."""

        def work(_: Job[tuple[Finding, ...]]) -> tuple[Finding, ...]:
            return tuple(one for found in findings_by_chart(plan).values() for one in found)

        begin(self._jobs, "odd", owner, work, finished=take, failed=self.said.emit)

    def remove(self) -> None:
        """Take out the page that lies open; undo brings it back."""
        page = self.current
        if page is not None:
            guarded(lambda: self.log.remove(page.id), self.said.emit)
            self._keep_current()

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self.log.undo_label

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""
        return self.log.redo_label

    def undo(self) -> None:
        """Take back the last change to the log."""
        guarded(self.log.undo, self.said.emit)
        self._keep_current()

    def redo(self) -> None:
        """Do it again."""
        guarded(self.log.redo, self.said.emit)
        self._keep_current()

    def close_all(self) -> None:
        """Stop work; erase photos that no page shows."""
        self._jobs.leave()
        self._keeping.leave()
        guarded(lambda: sweep_photos(self.log.path) if self.log.pages else None, lambda _: None)
