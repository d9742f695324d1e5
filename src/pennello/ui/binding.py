"""Ties a view's slot to a signal of the session for as long as the view lives.

A slot may still be called after Qt has deleted its widget unless somebody disconnects it; this does.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from psygnal import SignalInstance
from PySide6.QtCore import QObject


def follow(view: QObject, signal: SignalInstance, slot: Callable[..., Any]) -> None:
    """Call `slot`, without arguments, whenever `signal` is emitted, until `view` is destroyed."""
    signal.connect(slot, check_nargs=False, max_args=0)  # known, so that the slot need not be inspected

    def forget(*_: object) -> None:
        signal.disconnect(slot, missing_ok=True)

    view.destroyed.connect(forget)
