"""The one place where a painter is begun: it is ended whatever happens.

A painter that an exception leaves open is only ended when the last traceback that knows it is thrown away: later, by
whichever thread does so, and over a surface that is gone by then. Qt does not survive that.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from typing import TypeVar

from PySide6.QtGui import QPaintDevice, QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractScrollArea, QWidget

Drawn = TypeVar("Drawn", bound=QWidget)


@contextmanager
def painting(surface: QPaintDevice) -> Iterator[QPainter]:
    """Give a painter on a surface, and end it whatever happens."""
    painter = QPainter(surface)
    try:
        yield painter
    finally:
        painter.end()


def painted(draw: Callable[[Drawn, QPainter, QPaintEvent], None]) -> Callable[[Drawn, QPaintEvent], None]:
    """Make a widget's paintEvent of a method that is given the painter too; a list is painted within its frame."""

    @wraps(draw)
    def paint_event(self: Drawn, event: QPaintEvent) -> None:
        painter = QPainter(self.viewport() if isinstance(self, QAbstractScrollArea) else self)
        try:
            draw(self, painter, event)
        finally:
            painter.end()

    return paint_event
