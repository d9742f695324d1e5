"""What a page that takes the read-out's place is."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame


class ReadoutPage(QFrame):
    """A page that takes the read-out's place.

    Signals
    -------
    left
        The painter is done.
    """

    left = Signal()

    def refresh(self) -> None:
        """Follow the model; pages do."""

    def stop(self) -> None:
        """Stop what runs in the background; pages may."""
