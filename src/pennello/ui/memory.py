"""Asking the C library and the system to take memory back: both keep what was used once until somebody asks."""

from __future__ import annotations

import ctypes
import os
from pathlib import Path

from pennello.c_library import c_function

_MMAP_THRESHOLD, _ARENAS = -3, -8  # mallopt(3)
_THRESHOLD_BYTES = 1 << 18
_MOST_ARENAS = 2
_PAGE_OUT = 21  # MADV_PAGEOUT of madvise(2): what is on disk is read again when it is wanted, nothing is lost
_MAPS, _STATM = Path("/proc/self/maps"), Path("/proc/self/statm")


def settle_memory() -> bool:
    """Have larger arrays mapped by themselves, and few arenas; return whether the C library knows how."""
    mallopt = c_function("mallopt")
    return mallopt is not None and bool(mallopt(_MMAP_THRESHOLD, _THRESHOLD_BYTES) and mallopt(_ARENAS, _MOST_ARENAS))


def resident_mb() -> float:
    """Return how much memory the program has, MB; 0 where the system does not tell."""
    try:
        pages = int(_STATM.read_text().split()[1])
        return pages * os.sysconf("SC_PAGE_SIZE") / 1e6
    except (OSError, ValueError, IndexError):
        return 0.0


def give_back() -> None:
    """Give back to the system what nobody uses."""
    trim = c_function("malloc_trim")
    if trim is not None:
        trim(0)


def give_back_code(library: str) -> int:
    """Give back the pages of a loaded library that has done its work, a compiler's; return the bytes asked for.

    They stay loaded and are read from disk again if they are called. 0 where the system cannot, or has no such library.
    """
    asked, madvise = 0, c_function("madvise")
    if madvise is None:  # another C library
        return asked
    try:
        for line in _MAPS.read_text().splitlines():
            if library not in line.rpartition("/")[2]:
                continue
            where, rights, *_ = line.split(maxsplit=2)
            if "w" not in rights:
                start, end = (int(part, 16) for part in where.split("-"))
                failed = madvise(ctypes.c_void_p(start), ctypes.c_size_t(end - start), _PAGE_OUT)
                asked += 0 if failed else end - start
    except (OSError, ValueError):  # another system
        return asked
    return asked
