"""A wish read off colours in a row: as few plain stops as describe them, and how softly each hands over.

The places of the stops come from dynamic programming over the row (least squares in L*a*b* with a price a stop); the
blend between two is the 10-90 width of the error function that fits the passage between them.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import Stop
from pennello.colour.lab import lab_to_hex
from pennello.errors import OutOfRangeError

Array = NDArray[np.floating[Any]]

CELLS = 48
MOST_STOPS = 6
_PRICE = 9.0
_LEAST_CELLS = 3


def stops_of(labs: Array, width_mm: float, most: int = MOST_STOPS) -> tuple[Stop, ...]:
    """Return the stops that describe a row of colours from A to B.

    Parameters
    ----------
    labs
        L*, a*, b* along the row, shape (n, 3), n at least 2.
    width_mm
        What the row is wide on the brush, mm.
    most
        How many stops at most, 1 to 9.
    """
    if len(labs) < 2:
        raise OutOfRangeError("length of the line across the picture", len(labs), "at least 2 pixels")
    at = (np.arange(CELLS) + 0.5) / CELLS * (len(labs) - 1)
    row = np.stack([np.interp(at, np.arange(len(labs)), labs[:, channel]) for channel in range(3)], axis=1)
    ends = _cut(row, min(max(most, 1), 9))
    starts = [0, *ends[:-1]]
    stops = []
    for number, (start, end) in enumerate(zip(starts, ends, strict=True)):
        last = number == len(ends) - 1
        blend = 0.0 if last else _blend_mm(row, start, end, ends[number + 1], width_mm)
        colour = lab_to_hex(np.median(row[start:end], axis=0))
        stops.append(Stop(srgb=colour, to_u=1.0 if last else round(end / CELLS, 4), blend_mm=round(blend, 2)))
    return tuple(stops)


def _cut(row: Array, most: int) -> list[int]:
    """Return where plain pieces end, for the least sum of squares and price."""
    total = np.concatenate([np.zeros((1, 3)), np.cumsum(row, axis=0)])
    square = np.concatenate([[0.0], np.cumsum((row**2).sum(axis=1))])
    count = len(row)
    best = np.full((most + 1, count + 1), np.inf)
    came = np.zeros((most + 1, count + 1), np.intp)
    best[0, 0] = 0.0
    for pieces in range(1, most + 1):
        for end in range(_LEAST_CELLS * pieces, count + 1):
            starts = np.arange(_LEAST_CELLS * (pieces - 1), end - _LEAST_CELLS + 1)
            length = end - starts
            spread = square[end] - square[starts] - ((total[end] - total[starts]) ** 2).sum(axis=1) / length
            found = best[pieces - 1, starts] + spread
            at = int(found.argmin())
            best[pieces, end], came[pieces, end] = found[at], starts[at]
    price = _PRICE * count
    pieces = int(np.argmin([best[k, count] + price * k for k in range(1, most + 1)])) + 1
    ends, end = [], count
    for left in range(pieces, 0, -1):
        ends.append(end)
        end = int(came[left, end])
    return ends[::-1]


def _blend_mm(row: Array, start: int, middle: int, end: int, width_mm: float) -> float:
    """Return the 10-90 width of the passage from one piece to the next, mm."""
    one, two = np.median(row[start:middle], axis=0), np.median(row[middle:end], axis=0)
    way = two - one
    along = (row[start:end] - one) @ way / max(float(way @ way), 1e-9)
    rising = np.maximum.accumulate(np.clip(along, 0, 1))
    places = np.arange(start, end) + 0.5
    low, high = (float(np.interp(level, rising + 1e-9 * np.arange(len(rising)), places)) for level in (0.1, 0.9))
    return min(max(high - low, 0.0) / CELLS * width_mm, 0.8 * (end - start) / CELLS * width_mm)
