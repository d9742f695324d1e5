"""How strokes stand beside each other: their step, the step that the print allows, the overlap, how many fit."""

from __future__ import annotations

import math
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Spacing:
    """Strokes of one part side by side.

    Attributes
    ----------
    part, row
        Which strokes: the part's key, and their row, 0 for the first laid.
    count
        How many there are.
    step_mm
        From one to the next, mm.
    allows_mm
        The widest step that leaves no gap, mm: how wide one prints.
    fit
        The fewest of this print that cover the same way without a gap.
    """

    part: str
    count: int
    step_mm: float
    allows_mm: float
    fit: int
    row: int = 0

    @property
    def overlap_mm(self) -> float:
        """By how much neighbours overlap, mm; below 0 it is a gap."""
        return self.allows_mm - self.step_mm

    @property
    def close(self) -> str:
        """Overlap or gap in words."""
        over = self.overlap_mm
        return f"{over:.1f} mm overlap" if over >= 0 else f"gaps of {-over:.1f} mm"

    @property
    def words(self) -> str:
        """Step, what the print allows, and what comes of it.

        >>> Spacing("scale", 5, 19.7, 22.7, 5).words
        'one every 19.7 mm, the print allows 22.7 mm: 3.0 mm overlap'
        """
        return f"one every {self.step_mm:.1f} mm, the print allows {self.allows_mm:.1f} mm: {self.close}"


def spaced(part: str, count: int, step_mm: float, allows_mm: float, row: int = 0) -> Spacing:
    """Return the spacing of strokes along a way that is as long as all their steps."""
    fit = max(1, math.ceil(count * step_mm / allows_mm - 1e-9)) if allows_mm > 0 else count
    return Spacing(part, count, step_mm, allows_mm, fit, row)
