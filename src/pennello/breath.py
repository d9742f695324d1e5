"""Work that can be left anywhere: what takes long breathes, and whoever began it may end it there."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager


class Stopped(BaseException):
    """Nobody waits for the work any more. No error, and no `except` of the work's own may take it for one."""


class _Thread(threading.local):
    breath: Callable[[], None] | None = None


_this = _Thread()


def breathe() -> None:
    """Let whoever began this thread's work make it wait, or raise Stopped; without one, go on."""
    if _this.breath is not None:
        _this.breath()


@contextmanager
def breathing(breath: Callable[[], None]) -> Iterator[None]:
    """Have this thread's work call `breath` wherever it breathes."""
    before, _this.breath = _this.breath, breath
    try:
        yield
    finally:
        _this.breath = before
