"""Where the same again comes to lie along a line: evenly, smaller, to the other side by turns."""

from __future__ import annotations

import math

import numpy as np

from pennello.errors import OutOfRangeError, PennelloError
from pennello.motif.place import SCALE, Place
from pennello.path.cubic import CubicPath, direction, length_mm, parameter_at, position
from pennello.phrases import phrase

TIMES = (1, 24)
SMALLER = (0.5, 1.2)
USUAL_TIMES, USUAL_SMALLER = 3, 0.85
"""How often, and each how large beside the one before (defaults)."""

LEAST_GUIDE_MM = 1.0


class NoGuideError(PennelloError):
    """There is no line that something could be repeated along."""


def check_repeats(times: int, smaller: float) -> None:
    """Raise OutOfRangeError if there are too many, or they grow or shrink beyond what a place can have."""
    for what, value, (least, most) in (("copies", times, TIMES), (phrase("size of each"), smaller, SMALLER)):
        if not least <= value <= most:
            raise OutOfRangeError(what, value, phrase("{least:g} to {most:g}", least=least, most=most))
    last = smaller**times
    if not SCALE[0] <= last <= SCALE[1]:
        raise OutOfRangeError(
            phrase("size of the last one"),
            round(last, 4),
            phrase("{scale:g} to {scale_2:g} of the first", scale=SCALE[0], scale_2=SCALE[1]),
        )


def places_along(guide: CubicPath, times: int, smaller: float, *, by_turns: bool) -> tuple[Place, ...]:
    """Return by which place each copy is placed once more, the nearest first.

    As the part lies to the start of the guide and to its direction there, each copy lies to its place on it; the last
    one to its end.

    Parameters
    ----------
    times
        How many copies, 1 to 24.
    smaller
        How large each is beside the one before, 0.5 to 1.2.
    by_turns
        Every second one on the other side of the guide, reflected.

    Raises
    ------
    NoGuideError
        If the guide is shorter than 1 mm.
    OutOfRangeError
        If there are too many, or they grow or shrink beyond what a place can have.
    """
    check_repeats(times, smaller)
    total = length_mm(guide)
    if total < LEAST_GUIDE_MM:
        raise NoGuideError(phrase("The line is shorter than 1 mm; draw one from the part to where it shall end."))
    at = parameter_at(guide, np.linspace(0.0, total, times + 1))
    points, ways = position(guide, at), direction(guide, at)
    frames = [
        Place(float(x), float(y), math.degrees(math.atan2(float(v), float(u))))
        for (x, y), (u, v) in zip(points, ways, strict=True)
    ]
    start, found = frames[0].inverse(), []
    for number, frame in enumerate(frames[1:], 1):
        over = by_turns and number % 2 == 1
        turn = frame.turn_deg + (180.0 if over else 0.0)  # x to -x and half a turn: to the other side of the guide
        found.append(start.then(Place(frame.x_mm, frame.y_mm, turn, smaller**number, over)))
    return tuple(found)
