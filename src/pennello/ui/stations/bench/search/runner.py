"""One search at a time in a worker; what it says comes back on the window's own thread, and only of the last one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, Signal

from pennello.session.jobs import Job, Jobs


class Runner(QObject):
    """Runs searches.

    Signals
    -------
    told(float, str), found(object), ended(object), failed(str)
        Of the search that runs; one that was stopped says nothing more.
    turned(bool)
        A search runs, or none does.
    """

    told = Signal(float, str)
    found = Signal(object)
    ended = Signal(object)
    failed = Signal(str)
    turned = Signal(bool)
    _told = Signal(object, float, str)
    _found = Signal(object, object)
    _ended = Signal(object, object)
    _failed = Signal(object, str)

    def __init__(self, jobs: Jobs, key: str, parent: QObject) -> None:
        super().__init__(parent)
        self._jobs, self._key = jobs, key
        self._job: Job[Any] | None = None
        self._told.connect(lambda job, part, words: self._pass(job, self.told, part, words))
        self._found.connect(lambda job, found: self._pass(job, self.found, found))
        self._ended.connect(lambda job, result: self._last(job, self.ended, result))
        self._failed.connect(lambda job, words: self._last(job, self.failed, words))

    @property
    def busy(self) -> bool:
        """Whether a search runs."""
        return self._job is not None

    def run(self, work: Callable[[Job[Any]], Any]) -> None:
        """Begin a search; one that still runs is stopped."""
        self.stop()
        job: Job[Any] = Job(work)
        job.progress.connect(lambda part, words: self._told.emit(job, part, words))
        job.found.connect(lambda found: self._found.emit(job, found))
        job.finished.connect(lambda result: self._ended.emit(job, result))
        job.failed.connect(lambda words: self._failed.emit(job, words))
        self._job = job
        self.turned.emit(True)
        self._jobs.start(self._key, job)

    def stop(self) -> None:
        """Stop the search, if one runs."""
        if self._job is not None:
            self._job.cancel()
            self._job = None
        self.turned.emit(False)

    def _pass(self, job: object, signal: Any, *values: object) -> None:
        if job is self._job:
            signal.emit(*values)

    def _last(self, job: object, signal: Any, value: object) -> None:
        if job is self._job:
            self.stop()
            signal.emit(value)
