"""Throwing away what is no longer used, on the window's own thread alone.

Python collects wherever it happens to be, in a worker too; but what a collection frees may be Qt's, which is to be
freed where it lives. So the collector is switched off, and a timer does its work between events.
"""

from __future__ import annotations

import gc
import linecache
import threading
from collections.abc import Callable

from PySide6.QtCore import QObject, Qt, QTimer
from PySide6.QtGui import QGuiApplication

from pennello.session.courtesy import main_thread_s
from pennello.ui.memory import give_back, give_back_code, resident_mb, settle_memory

EVERY_MS = 1000
OLDEST_EVERY, OLDEST_LATEST = 6, 10
"""What came since the last such look, which takes some 20 ms, is looked through once so many ticks are over and the
window rests; at the latest after so many (defaults). What is used then is set aside for long, as permanent.
"""

AWAY_AFTER, MORE_MB = 5, 300.0
"""All that was set aside, which may take 200 ms, is looked through while another program is in front, once it has been
there for so many ticks in a row; else only where so many MB more are used, which is more than caches may hold (a last
resort; defaults). Little is found: what is in no ring is gone as soon as nobody uses it.
"""

FIRST_AT = 3
"""The tick of the first such look: soon after the kernel is there, whose compiler leaves much behind."""

RESTS_S = 0.04
"""A window rests that has worked for less than so long since the last tick, s (a default)."""

COMPILER = "llvm"
"""What compiles the kernel, or fetches it from where it was compiled before: 60 MB of code that is hardly run again."""


def in_front() -> bool:
    """Whether a window of the program's own is the one that is used."""
    return QGuiApplication.applicationState() == Qt.ApplicationState.ApplicationActive


class Collector(QObject):
    """Collects between events.

    Parameters
    ----------
    worked_s
        How long the window's thread has worked, s.
    resident_mb
        How much memory the program has, MB.
    in_front
        Whether a window of the program's own is the one that is used.
    """

    def __init__(
        self,
        parent: QObject,
        worked_s: Callable[[], float] = main_thread_s,
        resident_mb: Callable[[], float] = resident_mb,
        in_front: Callable[[], bool] = in_front,
    ) -> None:
        super().__init__(parent)
        self._resident_mb, self._mb = resident_mb, 0.0
        self._worked_s, self._worked_before_s = worked_s, worked_s()
        self._since_oldest = OLDEST_EVERY - FIRST_AT
        self._in_front, self._away = in_front, 0
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
        self._look()
        self._mb = self._resident_mb()

    @staticmethod
    def _look() -> None:
        gc.collect()
        gc.freeze()

    def _look_through_all(self) -> None:
        gc.unfreeze()
        self.settle()

    def stop(self) -> None:
        """Give it back as it was taken."""
        self._timer.stop()
        gc.unfreeze()
        if self._before:
            gc.enable()

    def tick(self) -> None:
        """Collect what is young, and now and then what is older, while nobody waits for the window."""
        rests = self._worked_s() - self._worked_before_s < RESTS_S
        self._away = 0 if self._in_front() else self._away + 1
        self._since_oldest += 1
        due = self._since_oldest >= (OLDEST_EVERY if rests else OLDEST_LATEST)
        if due or self._away == AWAY_AFTER:
            self._since_oldest = 0
            if self._away == AWAY_AFTER or self._resident_mb() > self._mb + MORE_MB:
                self._look_through_all()
            else:
                self._look()
            # it frees nothing of Qt's, and the system takes up to 0.2 s over it
            threading.Thread(target=give_back_code, args=(COMPILER,), daemon=True).start()
        else:
            gc.collect(1)
        linecache.clearcache()  # Qt's import hook reads the source of all that is imported, and it stays: 30 MB
        give_back()
        self._worked_before_s = self._worked_s()
