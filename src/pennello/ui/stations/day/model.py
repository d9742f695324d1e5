"""What the Day shows: the event, many evenings of it, and pictures of what is on its menu."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QIcon, QImage

from pennello.day.bag import InKit, Thing, bag
from pennello.day.event import Event, MenuItem
from pennello.day.queue import DAYS, Evening, WhatIf, evening, usual_rules, what_if
from pennello.files.day_json import demo_event
from pennello.phrases import phrase
from pennello.session.day import (
    DaySession,
    PackedThings,
    designed,
    faces_expected,
    known_of_kit,
    of_another_pace,
    plan_of,
    things_of,
    worked_out_again,
)
from pennello.session.jobs import Job, Jobs
from pennello.session.notebook import pace_of
from pennello.ui.stations.day.bag_icons import bag_icon
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import to_image
from pennello.ui.work import begin, guarded, once_seen

FIRST_DAYS = 16
"""So many evenings are shown at once; the rest follow."""

SOON_MS = 250


class DayModel(QObject):
    """The event and what comes of it.

    Signals
    -------
    changed
        The event is another one.
    shown
        The evenings are others.
    pictured(str)
        Pictures of a design and of what it takes are there.
    packed
        The kit knows other things of what is packed.
    paced(bool)
        Whether designs were worked out at another pace than the painter's is now.
    said(str)
    """

    changed = Signal()
    shown = Signal()
    pictured = Signal(str)
    packed = Signal()
    paced = Signal(bool)
    said = Signal(str)

    def __init__(self, parent: QObject, path: Path | None = None) -> None:
        super().__init__(parent)
        self.session = DaySession(demo_event(), path)
        self.evening: Evening | None = None
        self.pictures: dict[str, QImage] = {}
        self.icons: dict[str, QIcon] = {}
        self.no_icon = bag_icon(None, {})
        self._kit: InKit | None = None
        self._jobs, self._drawn, self._works, self._reads = Jobs(), Jobs(), Jobs(), Jobs()
        self._asked: set[str] = set()
        self._turn = self.session.started_over
        self._of: Event | None = None
        self._soon, self._seen_first = QTimer(self), once_seen(self, self._work_out)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self._simulate)
        self.session.changed.connect(self._changed)

    @property
    def day(self) -> Event:
        """The event."""
        return self.session.event

    def enter(self) -> None:
        """It is shown: first it is drawn, then workers begin with what it shows."""
        self._seen_first.start()

    def leave(self) -> None:
        """It is shown no more: where nobody looked long enough, no worker begins."""
        self._seen_first.stop()

    def _work_out(self) -> None:
        if self._of != _queued(self.day):
            self._simulate()
        self._draw()
        self.look_at_pace()
        self.read_kit()

    def edit(self, label: str, event: Event, merge: str = "") -> bool:
        """Take a change of the event, and say why where it cannot be written; return whether it was."""
        return guarded(lambda: self.session.edit(label, event, merge), self.said.emit)

    def _changed(self) -> None:
        if self.session.started_over != self._turn:  # designs of another event may have the same names
            self._turn = self.session.started_over
            self._drawn.cancel_all()
            self._asked.clear()
            self.pictures.clear()
        for gone in self._asked - {one.id for one in self.day.menu}:
            self._asked.remove(gone)
            self.pictures.pop(gone, None)
        self.changed.emit()
        if self._of != _queued(self.day):
            self._soon.start()
        self._draw()

    def _simulate(self) -> None:
        event = self.day
        self._of = _queued(event)
        self.evening = None
        if not event.on_menu:
            self.shown.emit()
            return

        def work(job: Job[Any]) -> Evening:
            rules = usual_rules(event)
            job.found.emit(evening(event, rules, FIRST_DAYS, lambda *_: job.check()))
            return evening(event, rules, DAYS, job.report)

        begin(self._jobs, "evening", self, work, finished=self._take, failed=self.said.emit, found=self._take)

    def _take(self, found: Evening) -> None:
        self.evening = found
        self.shown.emit()

    def what_if(self, owner: QObject, take: Any, tell: Any) -> None:
        """Work out what changes would bring; `take` is given them, `tell` how far it is."""
        event = self.day

        def work(job: Job[Any]) -> tuple[WhatIf, ...]:
            return what_if(event, 60, job.report)

        begin(self._works, phrase("what if"), owner, work, finished=take, failed=self.said.emit, progress=tell)

    def _draw(self) -> None:
        """Lay what is on the menu and has no picture yet, one after another."""
        missing = [one for one in self.day.menu if one.id not in self._asked]
        if not missing:
            return
        self._asked |= {one.id for one in missing}
        mat, pictured = theme().mat, self._here(self._pictured)

        def work(job: Job[Any]) -> None:
            from pennello.session.design_pictures import laid_plan  # noqa: PLC0415 - engines only on the worker

            for one in missing:
                job.check()
                plan = plan_of(one)
                if plan is not None and plan.motifs:
                    picture = laid_plan(plan, plan.motifs[0].chart, surround=mat, check=job.check).picture
                    job.found.emit((one.id, picture, things_of(plan)))

        begin(
            self._drawn,
            phrase("pictures {id}", id=missing[0].id),
            self,
            work,
            finished=lambda _: None,
            failed=self.said.emit,
            found=lambda three: pictured(*three),
        )

    def draw_anew(self) -> None:
        """Lay all pictures again: round them lies another theme."""
        self._asked.clear()
        self._draw()

    def _here(self, take: Callable[..., object]) -> Callable[..., None]:
        """Return a taker of what a worker brings that takes it for the event that is open now alone."""
        turn = self.session.started_over

        def taken(*found: Any) -> None:
            if self.session.started_over == turn:
                take(*found)

        return taken

    def _pictured(self, name: str, picture: Any, things: PackedThings) -> None:
        if all(one.id != name for one in self.day.menu):  # it was taken off meanwhile
            return
        self.pictures[name] = to_image(picture)
        new = things.by_name.keys() - self.icons.keys()
        self.icons |= {one: bag_icon(things.by_name[one], things.paints) for one in new}
        self.pictured.emit(name)

    def add_plan(self, plan: Any, where: str, take: Any) -> None:
        """Work out a plan as a design for the menu, at the painter's own pace, and give it to `take`."""

        def work(job: Job[Any]) -> MenuItem:
            job.report(0.2, phrase("working out its minutes"))
            return designed(plan, where, "", pace_of()).item

        begin(self._works, "design", self, work, finished=self._here(take), failed=self.said.emit)

    def look_at_pace(self) -> None:
        """Let a worker see whether designs of the menu were worked out at another pace than the painter's is now."""
        event = self.day

        def work(_: Job[Any]) -> bool:
            return bool(of_another_pace(event, pace_of()))

        begin(self._reads, "pace", self, work, finished=self.paced.emit, failed=self.said.emit)

    def work_out_again(self, take: Any, tell: Any) -> None:
        """Work out the designs of another pace with the painter's own of today, and give the menu to `take`."""
        event = self.day

        def work(job: Job[Any]) -> tuple[MenuItem, ...]:
            pace = pace_of()
            stale = {one.id for one in of_another_pace(event, pace)}
            found = []
            for number, one in enumerate(event.menu):
                job.report(number / len(event.menu), one.title)
                found.append(worked_out_again(one, pace) if one.id in stale else one)
            return tuple(found)

        begin(self._works, "again", self, work, finished=self._here(take), failed=self.said.emit, progress=tell)

    @property
    def faces(self) -> float:
        """For how many faces to pack."""
        return faces_expected(self.day, self.evening)

    def bag(self) -> tuple[Thing, ...]:
        """Return what to pack, held against the kit as it was read last."""
        return bag(self.day, self.faces, self._kit)

    def read_kit(self) -> None:
        """Let a worker read what the kit knows; the bag is shown anew then."""

        def take(found: InKit | None) -> None:
            if found != self._kit:
                self._kit = found
                self.packed.emit()

        begin(self._reads, "kit", self, lambda _: known_of_kit(), finished=take, failed=self.said.emit)

    @property
    def undo_label(self) -> str | None:
        """What undo would take back."""
        return self.session.undo_label

    @property
    def redo_label(self) -> str | None:
        """What redo would do again."""
        return self.session.redo_label

    def undo(self) -> None:
        """Take back the last change of the event."""
        guarded(self.session.undo, self.said.emit)

    def redo(self) -> None:
        """Do it again."""
        guarded(self.session.redo, self.said.emit)

    def close_all(self) -> None:
        """Stop work."""
        self._soon.stop()
        self._seen_first.stop()
        for jobs in (self._jobs, self._drawn, self._works, self._reads):
            jobs.leave()


def _queued(event: Event) -> Event:
    """Return what of an event the queue depends on."""
    return replace(event, guests=(), packed=(), booked=False)
