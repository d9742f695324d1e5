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
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

CELLS = 48
MOST_STOPS = 6
_PRICE = 9.0
_LEAST_CELLS = 3
_MOST_PIECES = 12
_ON_THE_WAY, _BEND, _SHORT = 8.0, 0.25, 0.15
"""A piece so near, in Lab units or in parts of the way, to the line between its neighbours' colours, and so short
against the row, is only their blend."""

_LEAST_U = 0.02


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
        raise OutOfRangeError(phrase("length of the line across the picture"), len(labs), phrase("at least 2 pixels"))
    at = (np.arange(CELLS) + 0.5) / CELLS * (len(labs) - 1)
    row = np.stack([np.interp(at, np.arange(len(labs)), labs[:, channel]) for channel in range(3)], axis=1)
    pieces = _merged(row, _cut(row, min(max(2 * most, 1), _MOST_PIECES)))
    while len(pieces) > min(max(most, 1), 9):
        shortest = min(range(len(pieces)), key=lambda number: pieces[number][1] - pieces[number][0])
        pieces = [piece for number, piece in enumerate(pieces) if number != shortest]
    colours = [np.median(row[start:end], axis=0) for start, end in pieces]
    stops, begin = [], 0.0
    for number, colour in enumerate(colours):
        end, blend = 1.0, 0.0
        if number < len(colours) - 1:
            way = (pieces[number][0], pieces[number + 1][1])
            end, blend = _passage(row, way, colour, colours[number + 1])
            end = min(max(end, begin + _LEAST_U), 1 - _LEAST_U * (len(colours) - 1 - number))
        stops.append(Stop(srgb=lab_to_hex(colour), to_u=round(end, 4), blend_mm=round(blend * width_mm, 2)))
        begin = end
    return tuple(stops)


def _merged(row: Array, ends: list[int]) -> list[tuple[int, int]]:
    """Return pieces from, to without those that are only the way from one neighbour to the other."""
    pieces = list(zip([0, *ends[:-1]], ends, strict=True))
    while True:
        colours = [np.median(row[start:end], axis=0) for start, end in pieces]
        between = [
            number
            for number in range(1, len(pieces) - 1)
            if _off_line(colours[number - 1], colours[number], colours[number + 1]) < 1
            and pieces[number][1] - pieces[number][0] <= _SHORT * len(row)
        ]
        if not between:
            return pieces
        pieces.pop(min(between, key=lambda number: pieces[number][1] - pieces[number][0]))


def _off_line(one: Array, middle: Array, other: Array) -> float:
    """Return how far a colour lies from the line between two others, against what a blend of paints may bend it."""
    way = other - one
    part = float(np.clip((middle - one) @ way / max(float(way @ way), 1e-9), 0, 1))
    bend = max(_ON_THE_WAY, _BEND * float(np.linalg.norm(way)))
    return float(np.linalg.norm(middle - one - part * way)) / bend


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


def _passage(row: Array, way: tuple[int, int], one: Array, two: Array) -> tuple[float, float]:
    """Return where one colour hands over to the next, and the 10-90 width of it, both as parts of the row."""
    line = two - one
    along = (row[way[0] : way[1]] - one) @ line / max(float(line @ line), 1e-9)
    rising = np.maximum.accumulate(np.clip(along, 0, 1)) + 1e-9 * np.arange(len(along))
    places = np.arange(way[0], way[1]) + 0.5
    low, middle, high = (float(np.interp(level, rising, places)) / len(row) for level in (0.1, 0.5, 0.9))
    return middle, high - low
