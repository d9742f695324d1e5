"""How many strokes and loads a motif takes, and about how many seconds."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from pennello.design.clock import HAND_MM_S, PICK_UP_S
from pennello.motif.motif import Made, counted
from pennello.path.cubic import length_mm


@dataclass(frozen=True, slots=True)
class Counts:
    """Strokes, loads, and seconds by the default speeds."""

    strokes: int
    loads: int
    seconds: float

    @property
    def words(self) -> str:
        """The three in words.

        >>> Counts(5, 5, 31.2).words
        '5 strokes, 5 loads, about 31 s (defaults)'
        """
        return (
            f"{counted(self.strokes, 'stroke')}, {counted(self.loads, 'load')}, about {self.seconds:.0f} s (defaults)"
        )


def counts(
    made: Made, loads: Mapping[str, tuple[str, int]], per_load: int = 1, times: int = 1, scale: float = 1.0
) -> Counts:
    """Return what a motif takes.

    Parameters
    ----------
    loads
        By part the load that it is laid with and how many visits to the paint that is; what is not named needs none.
    per_load
        How many strokes come from one load, 1 or more.
    times, scale
        2 with a mirror image; the size that it is placed at.
    """
    strokes: dict[tuple[str, int], int] = {}
    for piece in made.pieces:
        if piece.part in loads:
            key = loads[piece.part]
            strokes[key] = strokes.get(key, 0) + times
    taken = {key: math.ceil(number / per_load) for key, number in strokes.items()}
    travel = times * scale * sum(length_mm(piece.stroke.path) for piece in made.pieces)
    visits = sum(number * visits for (_, visits), number in taken.items())
    return Counts(times * len(made.pieces), sum(taken.values()), travel / HAND_MM_S + PICK_UP_S * visits)
