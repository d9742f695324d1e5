"""The patch of skin that a stroke may reach, cut into square pixels."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import PennelloError
from pennello.lay.track import Track
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

MARGIN_MM = 1.2  # four times the levelling
MOST_PIXELS = 10_000_000


class CanvasTooLargeError(PennelloError):
    """A picture would need more memory than Pennello gives one."""

    def __init__(self, width_px: int, height_px: int) -> None:
        super().__init__(
            phrase(
                "a picture of {width_px} x {height_px} pixels is too large; "
                "choose fewer pixels per mm or a shorter stroke.",
                width_px=width_px,
                height_px=height_px,
            )
        )


@dataclass(frozen=True, slots=True)
class Canvas:
    """Pixels over a rectangle.

    Attributes
    ----------
    left_mm, top_mm
        The corner of pixel (0, 0), mm; whole pixels from the origin, so that resolutions line up.
    columns, rows
        Size in pixels.
    px_per_mm
        Pixels per mm, > 0.
    """

    left_mm: float
    top_mm: float
    columns: int
    rows: int
    px_per_mm: float

    def to_px(self, points_mm: Array) -> Array:
        """Return pixel coordinates (x, y), shape (..., 2); pixel centres lie at halves."""
        return np.asarray((points_mm - np.array([self.left_mm, self.top_mm])) * self.px_per_mm)


def canvas_for(track: Track, px_per_mm: float) -> Canvas:
    """Return the canvas that holds a stroke with a margin.

    Raises
    ------
    CanvasTooLargeError
        If it would have more than 10 million pixels.
    """
    reach = track.points(np.arange(len(track.s_mm)), np.array([0.0, 1.0])).reshape(-1, 2)
    margin = track.thickness_mm / 2 + max(MARGIN_MM, 2 / px_per_mm)
    low = np.floor((reach.min(axis=0) - margin) * px_per_mm)
    high = np.ceil((reach.max(axis=0) + margin) * px_per_mm)
    columns, rows = (int(size) for size in high - low)
    if columns * rows > MOST_PIXELS or not math.isfinite(px_per_mm):
        raise CanvasTooLargeError(columns, rows)
    return Canvas(float(low[0]) / px_per_mm, float(low[1]) / px_per_mm, columns, rows, px_per_mm)
