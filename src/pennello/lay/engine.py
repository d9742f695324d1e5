"""Which engine does the work: the reference until the kernel is there. The kernel is imported in the background."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING

from pennello.lay.reference import Reference

if TYPE_CHECKING:
    from pennello.lay.skin_film import Engine

REFERENCE = Reference()
_made: list[Engine] = []
_serving: list[Engine] = []
_waited_for: list[bool] = []
_starting = threading.Lock()


def best() -> Engine:
    """Return the kernel once it has been warmed up, else the reference; the kernel where one rather waits for it."""
    if _waited_for:
        return kernel()
    return _serving[0] if _serving else REFERENCE


@contextmanager
def waiting_for_kernel() -> Iterator[None]:
    """Let `best` wait for the kernel: for a command line, which has no window to keep alive.

    The reference needs ten times as long for a design; the kernel is imported when something is laid, not before.
    """
    _waited_for.append(True)
    try:
        yield
    finally:
        _waited_for.pop()


def kernel() -> Engine:
    """Return the kernel, importing it and waiting for it if need be; a second or two the first time."""
    with _starting:
        if not _made:
            from pennello.lay.compiled import Compiled  # noqa: PLC0415 - Numba costs a second: never at start-up

            _made.append(Compiled())
    return _made[0]


def serve(made: Engine) -> None:
    """Let the kernel do the work from now on."""
    if not _serving:
        _serving.append(made)
