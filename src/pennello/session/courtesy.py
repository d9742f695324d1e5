"""Who goes first: a hand that draws, then the window, then work in the background.

Python runs one thread at a time, and a machine has few cores. A window whose thread has much to do would get a share
as large as any worker's; so workers stand back, for a moment, when they see that it is busy.
"""

from __future__ import annotations

import ctypes
import os
import sys
import threading
import time
from collections.abc import Callable, Sequence
from importlib.abc import MetaPathFinder
from importlib.machinery import ExtensionFileLoader, PathFinder
from types import ModuleType

from pennello.c_library import c_function


class DrawingHand:
    """A hand that draws: while it moves, work in the background waits, and what is under it has the machine alone.

    Parameters
    ----------
    rests_s
        A hand that has not moved for so long rests: nobody waits for it any more, s.
    now_s
        The time.
    """

    def __init__(self, rests_s: float = 1.0, now_s: Callable[[], float] = time.monotonic) -> None:
        self._rests_s, self._now_s = rests_s, now_s
        self._lifted = threading.Event()
        self._lifted.set()
        self._moved_s = 0.0

    @property
    def draws(self) -> bool:
        """Whether it draws now."""
        return not self._lifted.is_set() and self._now_s() < self._moved_s + self._rests_s

    def moves(self) -> None:
        """Draw, or draw on."""
        self._moved_s = self._now_s()
        self._lifted.clear()

    def lift(self) -> None:
        """Draw no more; also where nothing was drawn."""
        self._lifted.set()

    def wait_for(self, given_up: Callable[[], bool]) -> None:
        """Wait until it is lifted or rests, or the wait is given up."""
        while self.draws and not given_up():
            self._lifted.wait(0.05)


HAND = DrawingHand()
"""The one of the person at the window."""


class _Seen(threading.local):
    """What a worker saw of the window's thread last: when, and how much it had worked by then, s."""

    at_s = 0.0
    worked_s = 0.0
    deaf_until_s = 0.0


def main_thread_s() -> float:
    """Return how long the program's first thread has worked, s of its own clock."""
    return time.clock_gettime(time.pthread_getcpuclockid(threading.main_thread().ident or 0))


class WindowThread:
    """The thread of the window as workers see it: how much it works is read off its own clock.

    Parameters
    ----------
    busy
        It is busy where it works for this share of the time: a small one, since it wants the interpreter more often
        than it gets it. Three workers that take turns with it leave it a quarter, and none would see it at work.
    most_s, then_s
        So long a worker waits at most at a time, and so long it works on then, s.
    worked_s, now_s, sleep
        How long it has worked, the time, and how to wait.
    """

    LOOK_S, STEP_S, WORTH_S = 0.003, 0.002, 0.0005

    def __init__(
        self,
        busy: float = 0.15,
        most_s: float = 0.15,
        then_s: float = 0.03,
        worked_s: Callable[[], float] = main_thread_s,
        now_s: Callable[[], float] = time.monotonic,
        sleep: Callable[[float], object] = time.sleep,
    ) -> None:
        self._busy, self._most_s, self._then_s = busy, most_s, then_s
        self._worked_s, self._now_s, self._sleep = worked_s, now_s, sleep
        self._seen = _Seen()

    def goes_first(self, given_up: Callable[[], bool]) -> None:
        """Let a busy window go first: called by a worker, often."""
        seen, now = self._seen, self._now_s()
        if now < seen.at_s + self.LOOK_S or now < seen.deaf_until_s:
            return
        worked = self._worked_s()
        if seen.at_s and worked > seen.worked_s + self.WORTH_S:
            until = now + self._most_s
            while now < until and not given_up():
                before, began = worked, now
                self._sleep(self.STEP_S)
                worked, now = self._worked_s(), self._now_s()
                if worked - before < self._busy * (now - began):
                    break
            else:
                seen.deaf_until_s = now + self._then_s
        seen.at_s, seen.worked_s = now, worked


WINDOW = WindowThread()
"""The one of this program."""


class GentleImports(MetaPathFinder):
    """Has workers that read a large package let the window go first before each module of it; it finds none itself.

    Reading holds the interpreter, and a package of four hundred modules breathes nowhere. What is compiled is loaded
    before Python asks for it, without the interpreter: a solver's library takes 100 ms.
    """

    def __init__(self, goes_first: Callable[[Callable[[], bool]], None] = WINDOW.goes_first) -> None:
        self._goes_first = goes_first

    def find_spec(self, fullname: str, path: Sequence[str] | None, target: ModuleType | None = None) -> None:
        """Wait where another thread than the window's reads; reading is never left half way."""
        if threading.current_thread() is not threading.main_thread():
            self._goes_first(lambda: False)
            found = PathFinder.find_spec(fullname, path, target)
            if found is not None and found.origin and isinstance(found.loader, ExtensionFileLoader):
                load_library(found.origin)


def load_library(path: str) -> bool:
    """Load a library as an import does, while other threads run; return whether it is there.

    An import, and `ctypes.CDLL`, hold the interpreter meanwhile; a function of the C library is called without it.
    """
    dlopen = c_function("dlopen")
    if dlopen is None:  # another C library: the import does it all
        return False
    dlopen.restype, dlopen.argtypes = ctypes.c_void_p, (ctypes.c_char_p, ctypes.c_int)
    return bool(dlopen(os.fsencode(path), sys.getdlopenflags()))
