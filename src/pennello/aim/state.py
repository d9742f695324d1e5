"""How near a stroke is to its wish, in one word."""

from __future__ import annotations

from enum import Enum

from pennello.aim.comparison import Comparison
from pennello.aim.wish import Wanted

P95_FACTOR = 3.0
CLOSE_FACTOR = 2.0


class State(Enum):
    """How near the stroke is to the wish."""

    HOLDS = "holds"
    CLOSE = "close"
    MISSES = "misses"


def state_of(seen: Comparison, wanted: Wanted) -> State:
    """Return the state: holds within the tolerance (95 % within three times it), close within twice that."""
    for state, factor in ((State.HOLDS, 1.0), (State.CLOSE, CLOSE_FACTOR)):
        limit = factor * wanted.tolerance_de00
        if seen.mean_de00 <= limit and seen.p95_de00 <= P95_FACTOR * limit:
            return state
    return State.MISSES
