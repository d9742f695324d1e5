"""What several designs are made of: leaves, rings of dots, tufts of fur, a thing and its mirror image."""

from __future__ import annotations

import math

from designs.studio import Points, laid
from pennello.lay.stroke import Stroke


def leaves(*where: tuple[float, float, float, float], bow: float = 5.0) -> list[Stroke]:
    """Return leaves of one stroke: x and y of their feet, where they point, degrees, and how long."""
    return [laid("one-stroke-leaf", x, y, turn, length_mm=long, bow_mm=bow) for x, y, turn, long in where]


def ring(x: float, y: float, radius: float, count: int, mm: float) -> list[tuple[float, float, float]]:
    """Return dots in a ring."""
    turns = (2 * math.pi * at / count for at in range(count))
    return [(x + radius * math.cos(turn), y + radius * math.sin(turn), mm) for turn in turns]


def tufts(feet: Points, long: float) -> list[Stroke]:
    """Return tufts of fur that lie away from the middle of the face."""
    return [laid("feather-barb", x, y, math.degrees(math.atan2(y - 22, x)), length_mm=long, bow_mm=3) for x, y in feet]


def put(points: Points, x: float, y: float, turn: float, side: int = 1) -> Points:
    """Return points moved and turned, on the other side where `side` is -1."""
    cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return [(x + side * a * cos - b * sin, y + side * a * sin + b * cos) for a, b in points]


def pair(key: str, x: float, y: float, turn: float, length_mm: float) -> tuple[Stroke, Stroke]:
    """Return a stroke and its mirror image about the line that it points along."""
    one = laid(key, x, y, turn, length_mm=length_mm)
    return one, laid(key, x, y, turn - 180, mirrored=True, length_mm=length_mm)


def circle(x: float, y: float, radius: float) -> Points:
    turns = (math.pi * at / 8 for at in range(17))
    return [(x + radius * math.cos(turn), y + radius * math.sin(turn)) for turn in turns]
