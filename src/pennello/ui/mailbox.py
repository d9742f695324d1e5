"""The way from a worker's thread to the window's own: one object that lives as long as the application.

A worker never touches anything else of Qt. What it hands over is called, and thrown away, on the window's thread.
"""

from __future__ import annotations

from collections.abc import Callable
from queue import Empty, SimpleQueue

from PySide6.QtCore import QCoreApplication, QObject, Qt, Signal
from shiboken6 import isValid

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
        while True:
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
