"""Being told to end: Ctrl+C, `kill`, the end of a session, a terminal that is closed.

Python answers a signal wherever it happens to be, amid a painting called by Qt too, and an exception that comes out of
there ends the program in a fault. So nothing is done where a signal arrives: its number goes into a pipe, and the
window reads it between two events.
"""

from __future__ import annotations

import contextlib
import signal
import socket
from collections.abc import Callable

from PySide6.QtCore import QObject, QSocketNotifier

ASKED = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)
"""The signals that ask the program to end."""


class Interrupts(QObject):
    """Hears the signals, from the moment it is made; what comes before the event loop runs waits for it."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._heard, self._told = socket.socketpair()
        for one in (self._heard, self._told):
            one.setblocking(False)
        signal.set_wakeup_fd(self._told.fileno(), warn_on_full_buffer=False)
        for number in ASKED:
            if signal.getsignal(number) is not signal.SIG_IGN:  # `nohup` stays what it is
                signal.signal(number, _leave_it_to_the_pipe)
        self._notifier = QSocketNotifier(self._heard.fileno(), QSocketNotifier.Type.Read, self)
        self._notifier.activated.connect(self._read)
        self._end: Callable[[int], object] | None = None
        self._first: int | None = None

    def tell(self, end: Callable[[int], object]) -> None:
        """Say who is told the number of the first signal that asks to end; only once, and at once if it has come."""
        self._end = end
        self._hand_on()

    def _read(self) -> None:
        with contextlib.suppress(OSError):
            for number in self._heard.recv(64):
                if number in ASKED and self._first is None:
                    self._first = number
        self._hand_on()

    def _hand_on(self) -> None:
        if self._first is not None and self._end is not None:
            end, self._end = self._end, None
            end(self._first)


def _leave_it_to_the_pipe(_number: int, _frame: object) -> None:
    """Do nothing: a signal that Python has no function for would not come into the pipe."""
