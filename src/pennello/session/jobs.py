"""Long work off the interface thread: progress in words, best so far, cancel."""

from __future__ import annotations

import threading
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Any, Generic, TypeVar

from psygnal import Signal

from pennello.breath import Stopped, breathing
from pennello.errors import PennelloError
from pennello.phrases import phrase
from pennello.session.courtesy import HAND, WINDOW

if TYPE_CHECKING:
    from concurrent.futures import Future, ThreadPoolExecutor

Result = TypeVar("Result")


class CancelledError(PennelloError):
    """The job was asked to stop."""

    def __init__(self) -> None:
        super().__init__(phrase("The work was cancelled."))


def _at_once(act: Callable[[], None]) -> None:
    """Do it here."""
    act()


class Job(Generic[Result]):
    """One piece of work. Its signals come from the worker's thread; the window hands them on to its own.

    Parameters
    ----------
    to_the_end
        Once begun it is brought to its end whoever cancels it, since it writes. Other work is left where it breathes.

    Signals
    -------
    progress(fraction, words), found(best so far), finished(result), failed(sentence)
    """

    progress = Signal(float, str)
    found = Signal(object)
    finished = Signal(object)
    failed = Signal(str)

    def __init__(self, work: Callable[[Job[Result]], Result], *, to_the_end: bool = False) -> None:
        self._work: Callable[[Job[Result]], Result] | None = work
        self._to_the_end = to_the_end
        self._stop = threading.Event()
        self._over: Callable[[Callable[[], None]], None] = _at_once
        self._gone: Callable[[Job[Result]], object] = lambda _: None

    def on_over(self, hand_over: Callable[[Callable[[], None]], None]) -> None:
        """Say who throws the work away once it is over, on the thread that made what it held; else it goes at once."""
        self._over = hand_over

    def when_gone(self, act: Callable[[Job[Result]], object]) -> None:
        """Say what is done with it once it is over and its work thrown away: all that it said before was heard."""
        self._gone = act

    @property
    def cancelled(self) -> bool:
        """Whether somebody asked the job to stop."""
        return self._stop.is_set()

    def cancel(self) -> None:
        """Ask the job to stop; nothing more is heard of it."""
        self._stop.set()

    def check(self) -> None:
        """Go on, or raise CancelledError if the job should stop: the work simply lets it pass. A hand goes first."""
        if HAND.draws:
            HAND.wait_for(self._stop.is_set)
        if self.cancelled:
            raise CancelledError

    def _breathe(self) -> None:
        """Do as `check` does deep within the work, where any error would be taken for one of the plan's."""
        if not self._to_the_end:
            try:
                self.check()
            except CancelledError:
                raise Stopped from None
        WINDOW.goes_first(self._stop.is_set)

    def report(self, fraction: float, words: str) -> None:
        """Say how far the work is, 0 to 1; raises CancelledError as `check` does."""
        self.check()
        self.progress.emit(fraction, words)

    def run(self) -> None:
        """Do the work and say how it ended. The one place where any exception of a job is caught."""
        try:
            self.report(0.0, "")
            assert self._work is not None, "a job runs once"
            with breathing(self._breathe):
                result = self._work(self)
            if not self.cancelled:
                self.finished.emit(result)
        except (CancelledError, Stopped):
            return
        except PennelloError as error:
            self.failed.emit(str(error))
        except Exception as error:  # noqa: BLE001 - the edge of a job: nothing of it may be lost in a thread
            self.failed.emit(
                phrase(
                    "This could not be worked out ({type}: {error}). The plan is unchanged.",
                    type=type(error).__name__,
                    error=error,
                )
            )
        finally:
            held, self._work = [self._work], None

            def throw_away() -> None:
                held.clear()
                self._gone(self)
                self.let_go()

            self._over(throw_away)

    def let_go(self) -> None:
        """Throw its work away and forget whom it tells: they know the job, and each such ring waits for a collector."""
        self._work = None
        for signal in (self.progress, self.found, self.finished, self.failed):
            signal.disconnect()


class Jobs:
    """Workers; a new job with the same key cancels the one before."""

    def __init__(self, workers: int = 1) -> None:
        self._workers = workers
        self._pool: ThreadPoolExecutor | None = None
        self._running: dict[str, tuple[Job[Any], Future[None]]] = {}
        self._lock = threading.Lock()
        self._left = False

    def start(self, key: str, job: Job[Any]) -> None:
        """Start a job; one that comes when its page has gone is cancelled at once."""
        if self._left:
            job.cancel()
            job.let_go()
            return
        from concurrent.futures import ThreadPoolExecutor  # noqa: PLC0415 - no work before the first window is there

        self.cancel(key)
        if self._pool is None:
            self._pool = ThreadPoolExecutor(self._workers, thread_name_prefix="pennello-job")
        job.when_gone(partial(self._forget, key))
        with self._lock:
            self._running[key] = (job, self._pool.submit(job.run))

    def cancel(self, key: str) -> None:
        """Cancel the job with this key, if one runs."""
        with self._lock:
            found = self._running.pop(key, None)
        if found is not None:
            job, future = found
            job.cancel()
            if future.cancel():  # it never ran, and nobody else ends it
                job.let_go()

    def cancel_all(self) -> None:
        """Cancel all jobs; others may come."""
        with self._lock:
            keys = list(self._running)
        for key in keys:
            self.cancel(key)

    def _forget(self, key: str, job: Job[Any]) -> None:
        """Let go of a job of which all has been heard: those whom it tells hold plans."""
        with self._lock:
            if key in self._running and self._running[key][0] is job:
                del self._running[key]

    def leave(self) -> None:
        """Cancel all; the workers end by themselves, and nobody waits for them now."""
        self._left = True
        self.cancel_all()
        if self._pool is not None:
            self._pool.shutdown(wait=False, cancel_futures=True)

    def close(self) -> None:
        """Cancel all and wait for the workers to end."""
        self.leave()
        if self._pool is not None:
            self._pool.shutdown(wait=True)
