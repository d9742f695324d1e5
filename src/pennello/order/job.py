"""What is ordered: jobs of the one hand, and what must lie between two of them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum

from pennello.design.ordering import Priority
from pennello.design.pace import StepKind
from pennello.load.recipe import Face
from pennello.phrases import phrase

BOTH, MIDDLE = phrase("both sides"), "middle"


@dataclass(frozen=True, slots=True)
class PaintJob:
    """A group of strokes laid in one go, or glitter, or a stencil.

    Attributes
    ----------
    id, name
        Key that stays the same as long as the motif is there, and what to call it.
    piece
        Id of the motif, overlay or stroke that it is of.
    part
        What it is left out and weighed with: a part in one go, its part, or the piece itself.
    unit
        What it is painted with in one go, nothing in between; its own id where that is nothing else.
    names
        All that a rule may call it by: its piece, the parts that this lies in, the kind of its motif.
    strokes
        Ids of its strokes in the painted plan, in order; their starts after its own start, s, in `offsets_s`.
    stroke_loads
        The load of each stroke, where they are not all laid with `load`.
    shares, pulls_s
        How much of one load each stroke takes, and how long it is pulled, s.
    load, brush
        Id of the stroke whose load it is laid with ("" for glitter and stencils), and of the brush.
    tool
        What to call the brush.
    pull_s
        How long it takes from the first touch, loads in between included, s.
    reloads_s
        When within it the brush is loaded anew: starts and ends after its own start, s.
    load_s, again_s
        How long the load before it takes, s: the first of a brush, or again with the same load.
    loads
        How many visits all of its loads are.
    rinses
        How many rinses within its loads there are.
    sources
        Cakes and pans that its load is taken from.
    follows
        Id of the load whose leftover its own was made to go on with; "" for none.
    goes_on
        Whether it needs no load where it stands: the brush still holds enough. Said once an order is found.
    may_go_on
        Whether it could do so right after a job of the same load.
    filled
        Whether `goes_on` has been looked into.
    sponge
        Whether it is laid with a sponge or dauber.
    face
        Which face of a sponge that has two lays it.
    region, place
        "middle", "both sides", or whose side; what the hand goes over to.
    twin
        Id of the job that is its mirror image; "" for none.
    near
        Kinds of zones that it lies near: eye, lips, nostril.
    anew
        Before which of its strokes, counted from 1, it is loaded anew.
    """

    id: str
    name: str
    kind: StepKind
    part: str
    chart: str
    piece: str = ""
    unit: str = ""
    names: frozenset[str] = frozenset()
    strokes: tuple[str, ...] = ()
    stroke_loads: tuple[str, ...] = ()
    shares: tuple[float, ...] = ()
    pulls_s: tuple[float, ...] = ()
    offsets_s: tuple[float, ...] = ()
    reloads_s: tuple[tuple[float, float], ...] = ()
    load: str = ""
    brush: str = ""
    tool: str = ""
    pull_s: float = 1.0
    load_s: float = 0.0
    again_s: float = 0.0
    loads: int = 0
    rinses: int = 0
    sources: frozenset[str] = frozenset()
    follows: str = ""
    goes_on: bool = False
    may_go_on: bool = False
    filled: bool = False
    sponge: bool = False
    face: Face | None = None
    row: int = 0
    region: str = MIDDLE
    place: str = ""
    twin: str = ""
    near: tuple[str, ...] = ()
    priority: Priority = Priority.MUST
    worth: float = 1.0
    area_cm2: float = 0.0
    anew: tuple[int, ...] = ()
    sign: str = ""


class Why(Enum):
    """Why one job waits for another."""

    DRY = "must be dry"
    WET = "must still be wet"
    TACKY = "must still be tacky"
    SAME = "lies over the same paint"
    LOAD = "of one load"
    LIES = "lies over it"
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
