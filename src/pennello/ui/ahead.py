"""Stations are put together while nobody does anything, so that a first visit does not wait for that."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterable, Iterator
from contextlib import suppress
from functools import partial

from PySide6.QtCore import QObject, QPoint, QTimer
from PySide6.QtGui import QCursor, QGuiApplication
from PySide6.QtWidgets import QApplication, QWidget

from pennello.errors import PennelloError
from pennello.session.courtesy import main_thread_s
from pennello.ui.stations.registry import STATIONS
from pennello.ui.window import MainWindow

LOOK_MS = 500
RESTS_S = 0.02
"""A window rests if it has worked for less than so long between two looks, s (a default; measured: 1 ms or less while
nobody does anything).
"""


class Ahead(QObject):
    """Does bits one at a time, each only when the window has rested for a moment and the pointer stood still.

    Parameters
    ----------
    bits
        What is to be done; one that fails is left out, and whoever needs it later is told why.
    window
        Once it is closed nothing more is done.
    worked_s
        How long the window's thread has worked, s.
    pointer
        Where it is.
    """

    def __init__(
        self,
        bits: Iterable[Callable[[], object]],
        window: QWidget,
        worked_s: Callable[[], float] = main_thread_s,
        pointer: Callable[[], QPoint] = QCursor.pos,
    ) -> None:
        super().__init__(window)
        self._window, self._bits = window, iter(bits)
        self._worked_s, self._before_s = worked_s, worked_s()
        self._pointer, self._at = pointer, pointer()
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_MS)
        self._timer.timeout.connect(self._look)
        self._timer.start()

    @property
    def over(self) -> bool:
        """Whether all is done."""
        return not self._timer.isActive()

    def _look(self) -> None:
        now = self._worked_s()
        at = self._pointer()
        rests = now - self._before_s < RESTS_S and at == self._at
        self._before_s, self._at = now, at
        held = QGuiApplication.mouseButtons() != QGuiApplication.mouseButtons().NoButton
        if not rests or held or QApplication.activeModalWidget() is not None:
            return
        bit = None if self._window.isHidden() else next(self._bits, None)
        if bit is None:
            self._timer.stop()
            return
        with suppress(PennelloError):
            bit()
        self._before_s = self._worked_s()


def make_stations(window: MainWindow, fetched: threading.Thread, then: Callable[[], object]) -> Ahead:
    """Begin to put the other stations together, once their code is there; `then` is done after the last of them."""

    def bits() -> Iterator[Callable[[], object]]:
        while fetched.is_alive():
            yield lambda: None
        for one in STATIONS:
            yield partial(window.station, one.key)
            yield partial(window.stations.fill, one.key)
            yield partial(window.stations.dressed, one.key)
        yield then

    return Ahead(bits(), window)
