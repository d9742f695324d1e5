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
from pennello.ui.memory import give_back, give_back_code, settle_memory

EVERY_MS = 1000
OLDEST_EVERY, OLDEST_LATEST = 6, 10
"""The oldest generation, which takes some 80 ms, is looked through once so many ticks are over and the window rests; at
the latest after so many (defaults; measured: 2,000 edits take 312 MB, and took 361 with 9 and 18).
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
    """

    def __init__(self, parent: QObject, worked_s: Callable[[], float] = main_thread_s) -> None:
        super().__init__(parent)
        self._worked_s, self._worked_before_s = worked_s, worked_s()
        self._since_oldest = OLDEST_EVERY - FIRST_AT
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
        gc.collect()
        gc.freeze()
        self._timer.start()

    def settle(self) -> None:
        """Look no more through what is there by now, either: the stations, once they are put together, stay too."""
        gc.collect()
        gc.freeze()

    def stop(self) -> None:
        """Give it back as it was taken."""
        self._timer.stop()
        gc.unfreeze()
        if self._before:
            gc.enable()

    def tick(self) -> None:
        """Collect what is young, and now and then everything, while nobody waits for the window."""
        rests = self._worked_s() - self._worked_before_s < RESTS_S
        self._since_oldest += 1
        if self._since_oldest >= (OLDEST_EVERY if rests else OLDEST_LATEST):
            self._since_oldest = 0
            gc.collect()
            # it frees nothing of Qt's, and the system takes up to 0.2 s over it
            threading.Thread(target=give_back_code, args=(COMPILER,), daemon=True).start()
        else:
            gc.collect(1)
        linecache.clearcache()  # Qt's import hook reads the source of all that is imported, and it stays: 30 MB
        give_back()
        self._worked_before_s = self._worked_s()
