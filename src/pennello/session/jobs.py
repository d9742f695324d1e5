"""Long work off the interface thread: progress in words, best so far, cancel."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Generic, TypeVar

from psygnal import Signal

from pennello.errors import PennelloError

if TYPE_CHECKING:
    from concurrent.futures import Future, ThreadPoolExecutor

Result = TypeVar("Result")


class CancelledError(PennelloError):
    """The job was asked to stop."""

    def __init__(self) -> None:
        super().__init__("The work was cancelled.")


class Job(Generic[Result]):
    """One piece of work. Its signals come from the worker's thread; the window hands them on to its own.

    Signals
    -------
    progress(fraction, words), found(best so far), finished(result), failed(sentence)
    """

    progress = Signal(float, str)
    found = Signal(object)
    finished = Signal(object)
    failed = Signal(str)

    def __init__(self, work: Callable[[Job[Result]], Result]) -> None:
        self._work = work
        self._stop = threading.Event()

    @property
    def cancelled(self) -> bool:
        """Whether somebody asked the job to stop."""
        return self._stop.is_set()

    def cancel(self) -> None:
        """Ask the job to stop; nothing more is heard of it."""
        self._stop.set()

    def report(self, fraction: float, words: str) -> None:
        """Say how far the work is, 0 to 1.

        Raises
        ------
        CancelledError
            If the job should stop: the work simply lets it pass.
        """
        if self.cancelled:
            raise CancelledError
        self.progress.emit(fraction, words)

    def run(self) -> None:
        """Do the work and say how it ended. The one place where any exception of a job is caught."""
        try:
            self.report(0.0, "")
            result = self._work(self)
            if not self.cancelled:
                self.finished.emit(result)
        except CancelledError:
            return
        except PennelloError as error:
            self.failed.emit(str(error))
        except Exception as error:  # noqa: BLE001 - the edge of a job: nothing of it may be lost in a thread
            self.failed.emit(f"This could not be worked out ({type(error).__name__}: {error}). The plan is unchanged.")


class Jobs:
    """Workers; a new job with the same key cancels the one before."""

    def __init__(self, workers: int = 1) -> None:
        self._workers = workers
        self._pool: ThreadPoolExecutor | None = None
        self._running: dict[str, tuple[Job[Any], Future[None]]] = {}

    def start(self, key: str, job: Job[Any]) -> None:
        """Start a job."""
        from concurrent.futures import ThreadPoolExecutor  # noqa: PLC0415 - no work before the first window is there

        self.cancel(key)
        if self._pool is None:
            self._pool = ThreadPoolExecutor(self._workers, thread_name_prefix="pennello-job")
        self._running[key] = (job, self._pool.submit(job.run))

    def cancel(self, key: str) -> None:
        """Cancel the job with this key, if one runs."""
        if key in self._running:
            job, future = self._running.pop(key)
            job.cancel()
            future.cancel()

    def close(self) -> None:
        """Cancel all and wait for the workers to end."""
        for key in list(self._running):
            self.cancel(key)
        if self._pool is not None:
            self._pool.shutdown(wait=True, cancel_futures=True)
