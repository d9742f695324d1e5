"""Asking the C library to give memory back: large arrays come and go, and by default it keeps what they leave."""

from __future__ import annotations

import ctypes

_MMAP_THRESHOLD, _ARENAS = -3, -8  # mallopt(3)
_THRESHOLD_BYTES = 1 << 18
_MOST_ARENAS = 2


def settle_memory() -> bool:
    """Have larger arrays mapped by themselves, and few arenas; return whether the C library knows how."""
    try:
        library = ctypes.CDLL(None)
        return bool(library.mallopt(_MMAP_THRESHOLD, _THRESHOLD_BYTES) and library.mallopt(_ARENAS, _MOST_ARENAS))
    except (OSError, AttributeError):  # another C library
        return False


def give_back() -> None:
    """Give back to the system what nobody uses."""
    try:
        ctypes.CDLL(None).malloc_trim(0)
    except (OSError, AttributeError):
        return
