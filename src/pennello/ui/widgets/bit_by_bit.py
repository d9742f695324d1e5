"""Work of the window's own thread that is done in small bits, between what the user does."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable, Iterator

from PySide6.QtCore import QObject, QTimer

AT_ONCE_S = 0.008
"""For so long bits are done in a row, s: half a frame."""


class BitByBit(QObject):
    """Does bits in their order whenever nothing else waits; new ones take the place of what is left of the old ones."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._bits: Iterator[Callable[[], object]] = iter(())
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._go_on)

    def do(self, bits: Iterable[Callable[[], object]]) -> None:
        """Begin with these bits."""
        self._bits = iter(bits)
        self._timer.start()

    def finish(self) -> None:
        """Do at once what is left."""
        self._timer.stop()
        for bit in self._bits:
            bit()

    @property
    def resting(self) -> bool:
        """Whether all is done."""
        return not self._timer.isActive()

    def _go_on(self) -> None:
        until = time.monotonic() + AT_ONCE_S
        for bit in self._bits:
            bit()
            if time.monotonic() > until:
                return
        self._timer.stop()
