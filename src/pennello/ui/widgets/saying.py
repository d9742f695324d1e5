"""How a small part says a sentence: whoever holds it and can say things says it for it."""

from __future__ import annotations

from typing import Protocol, runtime_checkable

from PySide6.QtWidgets import QWidget


@runtime_checkable
class Sayer(Protocol):
    """A window that shows sentences."""

    def say(self, sentence: str) -> None:
        """Show a sentence."""


def say_from(widget: QWidget, sentence: str) -> bool:
    """Let the nearest window around a widget say a sentence; return whether there is one."""
    holder: QWidget | None = widget
    while holder is not None:
        if isinstance(holder, Sayer):
            holder.say(sentence)
            return True
        holder = holder.parentWidget()
    return False
