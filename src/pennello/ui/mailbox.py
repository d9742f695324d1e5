"""The way from a worker's thread to the window's own: one object that lives as long as the application.

A worker never touches anything else of Qt. What it hands over is called, and thrown away, on the window's thread.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from queue import Empty, SimpleQueue

from PySide6.QtCore import QCoreApplication, QObject, Qt, Signal
from shiboken6 import isValid

AT_ONCE_S = 0.012
"""For so long letters are delivered in a row, s: less than a frame; then the window sees to what else has come."""

_box: list[_Mailbox] = []


class _Mailbox(QObject):
    _rang = Signal()

    def __init__(self) -> None:
        super().__init__(QCoreApplication.instance())
        self.letters: SimpleQueue[Callable[[], None]] = SimpleQueue()
        self._rang.connect(self.deliver, Qt.ConnectionType.QueuedConnection)

    def post(self, act: Callable[[], None]) -> None:
        self.letters.put(act)
        self._rang.emit()

    def deliver(self) -> None:
        until = time.monotonic() + AT_ONCE_S
        while True:
            if time.monotonic() > until:
                self._rang.emit()
                return
            try:
                act = self.letters.get_nowait()
            except Empty:
                return
            try:
                act()
            except BaseException:
                self._rang.emit()  # whoever is told of it, the other letters come too
                raise


def open_mailbox() -> None:
    """Make the mailbox, if there is none; to be called on the window's thread."""
    if not _box or not isValid(_box[0]):
        _box[:] = [_Mailbox()]


def post(act: Callable[[], None]) -> None:
    """Have something done on the window's thread, soon; may be called by any thread."""
    if _box:
        _box[0].post(act)


def latest(tell: Callable[..., None]) -> Callable[..., None]:
    """Return a way for any thread to tell news of which only the last counts.

    What was not delivered yet is replaced, and waits in the old one's place.
    """
    news: list[tuple[object, ...]] = []
    lock = threading.Lock()

    def deliver() -> None:
        with lock:
            last = news.pop()
        tell(*last)

    def take(*values: object) -> None:
        with lock:
            waits = bool(news)
            news[:] = [values]
        if not waits:
            post(deliver)

    return take
