"""Throwing away what is no longer used, on the window's own thread alone.

Python collects wherever it happens to be, in a worker too; but what a collection frees may be Qt's, which is to be
freed where it lives. So the collector is switched off, and a timer does its work between events.
"""

from __future__ import annotations

import gc
import linecache
import threading
from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer

from pennello.session.courtesy import main_thread_s
from pennello.ui.memory import give_back, give_back_code, resident_mb, settle_memory

EVERY_MS = 1000
OLDEST_EVERY, OLDEST_LATEST = 6, 10
"""What came since the last such look, which takes some 20 ms, is looked through once so many ticks are over and the
window rests; at the latest after so many (defaults). What is used then is set aside for long, as permanent.
"""

ALL_AFTER, ALL_MORE, ALL_MORE_MB = 60, 200_000, 300.0
"""All that was set aside, which may take 200 ms, is looked through once the window has rested for so many ticks in a
row and nobody is there; and where so many things more are set aside than after the last time, or so many MB more are
used than caches may hold (defaults). Little is found: what is in no ring is gone as soon as nobody uses it.
"""

FIRST_AT = 3
"""The tick of the first such look: soon after the kernel is there, whose compiler leaves much behind."""

RESTS_S = 0.04
"""A window rests that has worked for less than so long since the last tick, s (a default)."""

COMPILER = "llvm"
"""What compiles the kernel, or fetches it from where it was compiled before: 60 MB of code that is hardly run again."""


class Collector(QObject):
    """Collects between events.

    Parameters
    ----------
    worked_s
        How long the window's thread has worked, s.
    resident_mb
        How much memory the program has, MB.
    """

    def __init__(
        self,
        parent: QObject,
        worked_s: Callable[[], float] = main_thread_s,
        resident_mb: Callable[[], float] = resident_mb,
    ) -> None:
        super().__init__(parent)
        self._resident_mb, self._mb = resident_mb, 0.0
        self._worked_s, self._worked_before_s = worked_s, worked_s()
        self._since_oldest = OLDEST_EVERY - FIRST_AT
        self._rested = 0
        self._aside, self._more = 0, 0  # things set aside at the last look through all, and at most so many since
        self._before = True
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY_MS)
        self._timer.timeout.connect(self.tick)

    def start(self) -> None:
        """Take over from Python; what is there at the start stays for good and is not looked through again."""
        settle_memory()
        linecache.clearcache()
        self._before = gc.isenabled()
        gc.disable()
        self._look_through_all()
        self._timer.start()

    def settle(self) -> None:
        """Look through what has come, and set aside what stays: the stations do, once they are put together."""
        self._look_through_new()
        self._mb = self._resident_mb()

    def _look_through_new(self) -> None:
        gc.collect()
        self._more += len(gc.get_objects())
        gc.freeze()

    def _look_through_all(self) -> None:
        gc.unfreeze()
        self.settle()
        self._aside, self._more = gc.get_freeze_count(), 0

    def _much_came(self) -> bool:
        if self._more > ALL_MORE:  # most of it may be gone again; counting takes 25 ms
            self._more = gc.get_freeze_count() - self._aside
        return self._more > ALL_MORE or self._resident_mb() > self._mb + ALL_MORE_MB

    def stop(self) -> None:
        """Give it back as it was taken."""
        self._timer.stop()
        gc.unfreeze()
        if self._before:
            gc.enable()

    def tick(self) -> None:
        """Collect what is young, and now and then what is older, while nobody waits for the window."""
        rests = self._worked_s() - self._worked_before_s < RESTS_S
        self._rested = self._rested + 1 if rests else 0
        self._since_oldest += 1
        due = self._since_oldest >= (OLDEST_EVERY if rests else OLDEST_LATEST)
        nobody_there = self._rested == ALL_AFTER
        if due or nobody_there:
            self._since_oldest = 0
            if nobody_there or self._much_came():
                self._look_through_all()
            else:
                self._look_through_new()
            # it frees nothing of Qt's, and the system takes up to 0.2 s over it
            threading.Thread(target=give_back_code, args=(COMPILER,), daemon=True).start()
        else:
            gc.collect(1)
        linecache.clearcache()  # Qt's import hook reads the source of all that is imported, and it stays: 30 MB
        give_back()
        self._worked_before_s = self._worked_s()
