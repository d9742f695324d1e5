"""Work that can be left anywhere: what takes long breathes, and whoever began it may end it there."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")


class Stopped(BaseException):
    """Nobody waits for the work any more. No error, and no `except` of the work's own may take it for one."""


class _Thread(threading.local):
    breath: Callable[[], None] | None = None


_this = _Thread()


def breathe() -> None:
    """Let whoever began this thread's work make it wait, or raise Stopped; without one, go on."""
    if _this.breath is not None:
        _this.breath()


def in_this_breath(work: Callable[P, R]) -> Callable[P, R]:
    """Return work for another thread that breathes there as this thread does now."""
    breath = _this.breath

    def there(*given: P.args, **named: P.kwargs) -> R:
        if breath is None:
            return work(*given, **named)
        with breathing(breath):
            return work(*given, **named)

    return there


@contextmanager
def breathing(breath: Callable[[], None]) -> Iterator[None]:
    """Have this thread's work call `breath` wherever it breathes."""
    before, _this.breath = _this.breath, breath
    try:
        yield
    finally:
        _this.breath = before
