"""Work in the background: what it says comes back on the window's own thread, and only of the newest job."""

from __future__ import annotations

import weakref
from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal
from shiboken6 import isValid

from pennello.errors import PennelloError
from pennello.session.jobs import Job, Jobs
from pennello.ui.mailbox import latest, open_mailbox, post

Slot = Callable[..., object]

SEEN_MS = 120
"""How long what was just shown has to be drawn before workers begin, ms (a default)."""


def _nothing(*_: object) -> None:
    """Take what nobody asked for."""


def begin(
    jobs: Jobs,
    key: str,
    owner: QObject,
    work: Callable[[Job[Any]], Any],
    *,
    finished: Slot,
    failed: Slot,
    found: Slot = _nothing,
    progress: Slot = _nothing,
    to_the_end: bool = False,
) -> Job[Any]:
    """Start a job; the one before with the same key is cancelled, and nothing more is heard of it.

    Parameters
    ----------
    owner
        Who is told: nothing is called any more once it is gone.
    finished, failed, found, progress
        Called on the window's thread with the result, a sentence, the best so far, or a share and words.
    to_the_end
        It writes: see `Job`.
    """
    open_mailbox()
    job: Job[Any] = Job(work, to_the_end=to_the_end)

    def guarded(slot: Slot) -> Callable[..., None]:
        def here(*values: Any) -> None:
            if not job.cancelled and isValid(owner):
                slot(*values)

        return here

    def told(slot: Slot) -> Callable[..., None]:
        here = guarded(slot)
        return lambda *values: post(partial(here, *values))

    job.progress.connect(latest(guarded(progress)))  # a hundred pieces are done in a frame
    job.found.connect(told(found))
    job.finished.connect(told(finished))
    job.failed.connect(told(failed))
    job.on_over(post)
    jobs.start(key, job)
    return job


def once_seen(owner: QObject, act: Callable[[], object]) -> QTimer:
    """Return a timer to be started when something is first shown: it is drawn, then `act` lets workers begin.

    They would take the interpreter from the drawing: measured, a page that is drawn in 12 ms alone takes 54 ms.
    """
    timer = QTimer(owner)
    timer.setSingleShot(True)
    timer.setInterval(SEEN_MS)
    timer.timeout.connect(act)
    return timer


class Newest:
    """One piece of work at a time: what is begun stops what still runs, and only the newest is heard of."""

    def __init__(self, jobs: Jobs, key: str, owner: QObject) -> None:
        self._jobs, self._key, self._owner = jobs, key, weakref.ref(owner)
        self._job: Job[Any] | None = None

    @property
    def busy(self) -> bool:
        """Whether something runs."""
        return self._job is not None

    def run(
        self,
        work: Callable[[Job[Any]], Any],
        *,
        finished: Slot,
        failed: Slot,
        found: Slot = lambda *_: None,
        progress: Slot = lambda *_: None,
    ) -> None:
        """Begin; the slots are called on the interface thread."""
        self.stop()
        owner = self._owner()
        if owner is None:  # nobody is told
            return
        self._job = begin(
            self._jobs,
            self._key,
            owner,
            work,
            finished=lambda result: self._last(finished, result),
            failed=lambda words: self._last(failed, words),
            found=found,
            progress=progress,
        )

    def stop(self) -> None:
        """Stop what runs, if anything does; nothing more is heard of it."""
        if self._job is not None:
            self._job.cancel()
            self._job = None

    def _last(self, slot: Slot, value: object) -> None:
        self._job = None
        slot(value)


class Runner(QObject):
    """Runs one piece of work at a time.

    Signals
    -------
    told(float, str), found(object), ended(object), failed(str)
        Of the work that runs; work that was stopped says nothing more.
    turned(bool)
        Something runs, or nothing does.
    """

    told = Signal(float, str)
    found = Signal(object)
    ended = Signal(object)
    failed = Signal(str)
    turned = Signal(bool)

    def __init__(self, jobs: Jobs, key: str, parent: QObject) -> None:
        super().__init__(parent)
        self._newest = Newest(jobs, key, self)

    @property
    def busy(self) -> bool:
        """Whether something runs."""
        return self._newest.busy

    def run(self, work: Callable[[Job[Any]], Any]) -> None:
        """Begin; what still runs is stopped."""
        self.stop()
        self.turned.emit(True)
        self._newest.run(
            work,
            finished=lambda result: self._last(self.ended, result),
            failed=lambda words: self._last(self.failed, words),
            found=self.found.emit,
            progress=self.told.emit,
        )

    def stop(self) -> None:
        """Stop what runs, if anything does."""
        self._newest.stop()
        self.turned.emit(False)

    def _last(self, signal: Any, value: object) -> None:
        self.turned.emit(False)
        signal.emit(value)


def guarded(act: Callable[[], object], say: Callable[[str], object]) -> bool:
    """Do something, and say why where it cannot be done; return whether it was."""
    try:
        act()
    except PennelloError as error:
        say(str(error))
        return False
    return True
