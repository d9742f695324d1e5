"""From the loaded edge to paint on skin: how the nib moves, what it leaves, and how that looks."""

import os

os.environ.setdefault("NUMBA_SLP_VECTORIZE", "1")
"""Read as Numba is imported: the twelve lines of `kernel._plus` become three instructions of the processor."""
