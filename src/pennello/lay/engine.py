"""Which engine does the work: the reference until the kernel is there. The kernel is imported in the background."""

from __future__ import annotations

import threading
from typing import TYPE_CHECKING

from pennello.lay.reference import Reference

if TYPE_CHECKING:
    from pennello.lay.skin_film import Engine

REFERENCE = Reference()
_ready: list[Engine] = []
_starting = threading.Lock()


def best() -> Engine:
    """Return the kernel if it is there, else the reference."""
    return _ready[0] if _ready else REFERENCE


def kernel() -> Engine:
    """Return the kernel, importing it and waiting for it if need be; a second or two the first time."""
    with _starting:
        if not _ready:
            from pennello.lay.compiled import Compiled  # noqa: PLC0415 - Numba costs a second: never at start-up

            _ready.append(Compiled())
    return _ready[0]


def warm_up() -> threading.Thread:
    """Start importing the kernel and compiling it for the usual arrays in the background; return the thread."""
    thread = threading.Thread(target=_warm, name="pennello-kernel", daemon=True)
    thread.start()
    return thread


def _warm() -> None:
    from pennello.lay.compiled import Compiled  # noqa: PLC0415
    from pennello.lay.warming import rehearse  # noqa: PLC0415

    with _starting:
        if not _ready:
            made = Compiled()
            rehearse(made)
            _ready.append(made)  # only now: nobody waits for it to be compiled
