"""How strokes stand beside each other: their step, the step that the print allows, the overlap, how many fit."""

from __future__ import annotations

import math
from dataclasses import dataclass

from pennello.phrases import phrase


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
    closed
        Whether they stand round a whole circle.
    """

    part: str
    count: int
    step_mm: float
    allows_mm: float
    fit: int
    row: int = 0
    closed: bool = False

    @property
    def overlap_mm(self) -> float:
        """By how much neighbours overlap, mm; below 0 it is a gap."""
        return self.allows_mm - self.step_mm

    @property
    def close(self) -> str:
        """Overlap or gap in words."""
        over = self.overlap_mm
        return phrase("{over:.1f} mm overlap", over=over) if over >= 0 else phrase("gaps of {over:.1f} mm", over=-over)

    @property
    def words(self) -> str:
        """Step, what the print allows, and what comes of it.

        >>> Spacing("scale", 5, 19.7, 22.7, 5).words
        'one every 19.7 mm, the print allows 22.7 mm: 3.0 mm overlap'
        """
        return phrase(
            "one every {step_mm:.1f} mm, the print allows {allows_mm:.1f} mm: {close}",
            step_mm=self.step_mm,
            allows_mm=self.allows_mm,
            close=self.close,
        )


def spaced(part: str, count: int, step_mm: float, allows_mm: float, row: int = 0) -> Spacing:
    """Return the spacing of strokes along a way that is as long as all their steps."""
    fit = max(1, math.ceil(count * step_mm / allows_mm - 1e-9)) if allows_mm > 0 else count
    return Spacing(part, count, step_mm, allows_mm, fit, row)


def round_spaced(
    part: str, count: int, radius_mm: float, allows_mm: float, row: int = 0, arc_deg: float = 360.0
) -> Spacing:
    """Return the spacing of strokes round a circle or over an arc of it: steps are chords of its radius."""
    closed = arc_deg >= 360 or count == 1
    apart = math.radians(360 / count if closed else arc_deg / (count - 1))
    half = allows_mm / (2 * radius_mm) if radius_mm > 0 else 1.0
    widest = 2 * math.asin(min(half, 1.0))
    way = count * apart if closed else (count - 1) * apart
    fit = max(math.ceil(way / widest - 1e-9), 2 if closed else 0) + (0 if closed else 1)
    return Spacing(part, count, 2 * radius_mm * math.sin(apart / 2), allows_mm, fit, row, closed)
