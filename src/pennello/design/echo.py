"""Echo: the same part again and again along a line, smaller, to the other side by turns."""

from __future__ import annotations

import math

import numpy as np

from pennello.design.part_edits import copied
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.errors import OutOfRangeError, PennelloError
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath, direction, length_mm, parameter_at, position

TIMES = (1, 24)
SMALLER = (0.5, 1.2)
USUAL_TIMES, USUAL_SMALLER = 3, 0.85
"""How often, and each how large beside the one before (defaults)."""


class NoGuideError(PennelloError):
    """There is no line that something could be repeated along."""


def guide_of(placed: PlacedMotif) -> CubicPath:
    """Return the line of a piece where it lies on the chart; raises NoGuideError where it has none of its own."""
    if placed.way is None or placed.more:
        raise NoGuideError(f"{placed.name} is no single line; draw one from the part to where it shall end.")
    return placed.place.stroke(placed.way).path


def echoed(
    plan: Plan,
    name: str,
    guide: CubicPath,
    times: int = USUAL_TIMES,
    smaller: float = USUAL_SMALLER,
    *,
    by_turns: bool = True,
) -> tuple[Plan, tuple[str, ...]]:
    """Return the plan with a part or piece repeated along a guide, evenly, and the ids of the copies.

    As the part lies to the start of the guide and to its direction there, each copy lies to its place on it; the last
    one to its end.

    Parameters
    ----------
    times
        How many copies, 1 to 24.
    smaller
        How large each is beside the one before, 0.5 to 1.2; brushes keep their width.
    by_turns
        Every second one on the other side of the guide, reflected.

    Raises
    ------
    NoGuideError
        If the guide has no length.
    OutOfRangeError
        If there are too many, or they grow beyond what a place can have.
    UnknownNameError
        If there is no such part or piece.
    """
    for what, value, (least, most) in (("copies", times, TIMES), ("size of each", smaller, SMALLER)):
        if not least <= value <= most:
            raise OutOfRangeError(what, value, f"{least:g} to {most:g}")
    total = length_mm(guide)
    if total < 1.0:
        raise NoGuideError("The line is shorter than 1 mm; draw one from the part to where it shall end.")
    at = parameter_at(guide, np.linspace(0.0, total, times + 1))
    points, ways = position(guide, at), direction(guide, at)
    frames = [
        Place(float(x), float(y), math.degrees(math.atan2(float(v), float(u))))
        for (x, y), (u, v) in zip(points, ways, strict=True)
    ]
    made = []
    for number, frame in enumerate(frames[1:], 1):
        over = by_turns and number % 2 == 1
        turn = frame.turn_deg + (180.0 if over else 0.0)  # x to -x and half a turn: to the other side of the guide
        there = Place(frame.x_mm, frame.y_mm, turn, smaller**number, over)
        plan, copy = copied(plan, name, by=frames[0].inverse().then(there))
        made.append(copy)
    return plan, tuple(made)
