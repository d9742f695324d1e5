"""What is ordered: jobs of the one hand, and what must lie between two of them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum

from pennello.design.ordering import Priority
from pennello.order.pace import StepKind

BOTH, MIDDLE = "both sides", "middle"


@dataclass(frozen=True, slots=True)
class PaintJob:
    """A group of strokes laid in one go, or glitter, or a stencil.

    Attributes
    ----------
    id, name
        Key that stays the same as long as the motif is there, and what to call it.
    part
        Id of the motif, overlay or stroke that it belongs to.
    strokes
        Ids of its strokes in the painted plan, in order; their starts after its own start, s, in `offsets_s`.
    load, brush
        Id of the stroke whose load it is laid with ("" for glitter and stencils), and of the brush.
    tool
        What to call the brush.
    pull_s
        How long it takes from the first touch, loads in between included, s.
    reloads_s
        When within it the brush is loaded anew: starts and ends after its own start, s.
    load_s, loads
        How long the load before it takes, s, and how many visits all of its loads are.
    rinses
        How many rinses within its loads there are.
    goes_on
        Id of the job whose leftover it goes on with if it comes right after it; "" for none.
    region
        "middle", "both sides", or whose side.
    twin
        Id of the job that is its mirror image; "" for none.
    near
        Kinds of zones that it lies near: eye, lips, nostril.
    reload_every
        After how many strokes it is loaded anew within it; 0 for never.
    """

    id: str
    name: str
    kind: StepKind
    part: str
    chart: str
    strokes: tuple[str, ...] = ()
    offsets_s: tuple[float, ...] = ()
    reloads_s: tuple[tuple[float, float], ...] = ()
    load: str = ""
    brush: str = ""
    tool: str = ""
    pull_s: float = 1.0
    load_s: float = 0.0
    loads: int = 0
    rinses: int = 0
    goes_on: str = ""
    row: int = 0
    region: str = MIDDLE
    twin: str = ""
    near: tuple[str, ...] = ()
    priority: Priority = Priority.MUST
    worth: float = 1.0
    area_cm2: float = 0.0
    reload_every: int = 0


class Why(Enum):
    """Why one job waits for another."""

    DRY = "must be dry"
    WET = "must still be wet"
    TACKY = "must still be tacky"
    SAME = "lies over the same paint"
    GO = "painted in one go"
    OVER = "however wet it is"
    LAST = "glitter is the last touch"
    LIGHT = "light before dark"
    DARK = "dark before light"
    NOSE = "the ticklish nose comes late"
    OWN = "your own rule"


@dataclass(frozen=True, slots=True)
class Lag:
    """Between the end of one job and the start of another: at least and at most so many seconds, and why."""

    before: str
    after: str
    least_s: float
    most_s: float = math.inf
    why: Why = Why.DRY
    words: str = ""
