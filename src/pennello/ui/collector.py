"""Throwing away what is no longer used, on the window's own thread alone.

Python collects wherever it happens to be, in a worker too; but what a collection frees may be Qt's, which is to be
freed where it lives. So the collector is switched off, and a timer does its work between events.
"""

from __future__ import annotations

import gc
import linecache

from PySide6.QtCore import QObject, QTimer

from pennello.ui.memory import give_back, give_back_code, settle_memory

EVERY_MS = 1000
OLDEST_EVERY = 9
"""The oldest generation, which takes longest, is looked through at every so many ticks."""

FIRST_AT = 3
"""The tick of the first such look: soon after the kernel is there, whose compiler leaves much behind."""

COMPILER = "llvm"
"""What compiles the kernel, or fetches it from where it was compiled before: 60 MB of code that is hardly run again."""


class Collector(QObject):
    """Collects between events."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._ticks = 0
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
        """Collect what is young, and now and then everything."""
        self._ticks += 1
        if self._ticks % OLDEST_EVERY != FIRST_AT:
            gc.collect(1)
        else:
            gc.collect()
            give_back_code(COMPILER)
        linecache.clearcache()  # Qt's import hook reads the source of all that is imported, and it stays: 30 MB
        give_back()
