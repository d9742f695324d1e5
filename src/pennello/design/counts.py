"""How many strokes and loads something takes, and about how many seconds."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from pennello.design.clock import turns
from pennello.design.pace import Pace
from pennello.design.plan import Plan
from pennello.motif.motif import Made
from pennello.path.cubic import length_mm
from pennello.phrases import phrase, plural


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
        return phrase(
            "{counted}, {counted_2}, about {seconds:.0f} s (defaults)",
            counted=plural(self.strokes, "{count} stroke", "{count} strokes"),
            counted_2=plural(self.loads, "{count} load", "{count} loads"),
            seconds=self.seconds,
        )


def counts(painted: Plan) -> Counts:
    """Return what the strokes of a plan take as they are laid, one after another."""
    loads = sum(len(one.stroke.reload_mm) + bool(one.recipe.pickups) for one in painted.strokes)
    told = turns(painted)
    return Counts(len(painted.strokes), loads, told[-1].end_s if told else 0.0)


def usual_counts(made: Made, per_load: Mapping[str, int], pace: Pace | None = None) -> Counts:
    """Return what a motif takes that no plan says the loads of: so many strokes of each part from a load."""
    given = pace or Pace()
    strokes: dict[str, int] = {}
    for piece in made.pieces:
        strokes[piece.part] = strokes.get(piece.part, 0) + 1
    loads = {part: math.ceil(count / per_load[part]) for part, count in strokes.items()}
    pulls = sum(given.touch_s + length_mm(piece.stroke.path) / given.stroke_mm_s for piece in made.pieces)
    visits = sum(given.first_load_s + (count - 1) * given.again_s for count in loads.values())
    return Counts(len(made.pieces), sum(loads.values()), pulls + visits)
