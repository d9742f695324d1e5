"""Which engine does the work: the reference until the kernel is there. The kernel is imported in the background."""

from __future__ import annotations

import threading
from typing import TYPE_CHECKING

from pennello.lay.reference import Reference

if TYPE_CHECKING:
    from pennello.lay.skin_film import Engine

REFERENCE = Reference()
_made: list[Engine] = []
_serving: list[Engine] = []
_starting = threading.Lock()


def best() -> Engine:
    """Return the kernel once it has been warmed up, else the reference."""
    return _serving[0] if _serving else REFERENCE


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
