"""The C library that Python itself runs on, found once: each finding makes classes that wait for a collector."""

from __future__ import annotations

import ctypes
from typing import Any


def _found() -> Any:
    try:
        return ctypes.CDLL(None)
    except (OSError, TypeError):  # a system that finds it elsewhere
        return None


_LIBRARY = _found()


def c_function(name: str) -> Any:
    """Return a function of the C library, called without the interpreter, or None where there is no such thing."""
    return getattr(_LIBRARY, name, None)
