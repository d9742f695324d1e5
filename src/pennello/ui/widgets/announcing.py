"""What is said aloud by a screen reader as soon as it stands on the screen: verdicts and messages."""

from __future__ import annotations

from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QWidget


def announce(widget: QWidget, words: str) -> None:
    """Have a sentence said, if anybody listens."""
    if words and QAccessible.isActive():
        QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(widget, words))
