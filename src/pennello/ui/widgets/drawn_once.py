"""Changing much of what is shown without drawing what lies between."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from PySide6.QtCore import QCoreApplication, QEvent
from PySide6.QtWidgets import QWidget


@contextmanager
def drawn_once(widget: QWidget) -> Iterator[None]:
    """Lay everything out at the end of what is done within, and then draw the widget once.

    Qt itself draws a page that is put in the place of another at the size that it had, then lays it out, and draws it
    again where it needs more room; and once more since each part of it that is shown asks for that, later.
    """
    widget.setUpdatesEnabled(False)
    try:
        yield
        for put_off in (QEvent.Type.LayoutRequest, QEvent.Type.UpdateLater):
            QCoreApplication.sendPostedEvents(None, put_off.value)
    finally:
        widget.setUpdatesEnabled(True)
