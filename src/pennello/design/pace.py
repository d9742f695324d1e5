"""How long things take. All are defaults until the painter's own recorded runs give medians."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from enum import Enum
from statistics import median

from pennello.errors import OutOfRangeError
from pennello.phrases import named, phrase, plural


class StepKind(Enum):
    """What the hand does in a step."""

    LOAD = "load"
    RINSE = "rinse"
    CHANGE = "brush"
    STROKES = "strokes"
    LINE = "line"
    DOTS = "dots"
    GLITTER = "glitter"
    STENCIL = "stencil"
    GEM = "gem"
    MOVE = "go over"
    WAIT = "wait"
    CUE = "cue"
    CHECK = "check"

    @property
    def paints(self) -> bool:
        """Whether something comes to lie on the skin."""
        return self in _PAINTS


_PAINTS = {StepKind.STROKES, StepKind.LINE, StepKind.DOTS, StepKind.GLITTER, StepKind.STENCIL, StepKind.GEM}


class Tempo(Enum):
    """How fast a painter works: at an event, or teaching."""

    EVENT = "at an event"
    TEACHING = "teaching"


TEACHING_LOAD_S = 40.0
"""The first load of a brush where it is taught: wet, work until creamy (common practice, no published source), s."""

LEAST_RECORDS = 3
"""So many recorded steps of a kind it takes before their median replaces a default (a default)."""

FACTOR = (0.1, 20.0)


@dataclass(frozen=True, slots=True)
class Record:
    """A step as it was: what kind, how long the model said, how long it took, s."""

    kind: StepKind
    planned_s: float
    actual_s: float


@dataclass(frozen=True, slots=True)
class Pace:
    """Seconds of the hand at an event (defaults, common practice), and how the painter's own times compare with them.

    Attributes
    ----------
    stroke_mm_s, line_mm_s
        How fast the faster corner of a loaded stroke and line work are pulled, mm/s.
    touch_s, dot_s, press_s, pat_s
        Setting down and lifting one stroke; one dot; one pressed petal; one pat.
    first_load_s, again_s
        The first load of a brush: wet, work until creamy; loading it anew on the same cake.
    dip_s, tip_dip_s
        A dip into one colour, and a wetted tip into another.
    rinse_s, wipe_s, blot_s, change_s
        Rinsing a brush, wiping, blotting it; putting one down, into the rinse pot, and taking up another.
    turn_s
        Turning a sponge over.
    move_s
        Going over to another part of the body or the other side.
    glitter_s, glitter_s_per_cm2, stencil_s, stencil_s_per_cm2
        Glitter and stencils: fetching, and by area.
    gem_s
        Sticking one gem on.
    cue_s, check_s
        Telling what comes next; a look at the whole.
    factors
        By kind of step, the median of the painter's own times against these, with how many there are.
    """

    stroke_mm_s: float = 25.0
    line_mm_s: float = 40.0
    touch_s: float = 0.6
    dot_s: float = 0.5
    press_s: float = 1.2
    pat_s: float = 0.4
    first_load_s: float = 12.0
    again_s: float = 4.0
    dip_s: float = 1.5
    tip_dip_s: float = 5.0
    rinse_s: float = 6.0
    wipe_s: float = 2.0
    blot_s: float = 1.0
    change_s: float = 3.0
    turn_s: float = 1.0
    move_s: float = 1.0
    glitter_s: float = 3.0
    glitter_s_per_cm2: float = 0.5
    stencil_s: float = 4.0
    stencil_s_per_cm2: float = 0.8
    gem_s: float = 3.0
    cue_s: float = 2.0
    check_s: float = 4.0
    factors: tuple[tuple[StepKind, float, int], ...] = ()

    def __post_init__(self) -> None:
        for name in ("stroke_mm_s", "line_mm_s"):
            if not 1 <= getattr(self, name) <= 2000:
                raise OutOfRangeError(
                    phrase("speed of the hand ({name})", name=name), getattr(self, name), "1 to 2000 mm/s"
                )
        for name in _SECONDS:
            if not 0 <= getattr(self, name) <= 600:
                raise OutOfRangeError(
                    phrase("seconds of the pace ({name})", name=name), getattr(self, name), "0 to 600 s"
                )

    def own(self, kind: StepKind) -> tuple[float, int]:
        """Return the painter's own factor on a kind of step and from how many steps it is; (1, 0) for a default."""
        return next(((factor, count) for known, factor, count in self.factors if known is kind), (1.0, 0))

    @property
    def words(self) -> tuple[str, ...]:
        """What is the painter's own of it, a sentence for each kind of step; none where all are defaults.

        >>> Pace(factors=((StepKind.LOAD, 1.25, 52),)).words
        ('load takes you 25 % longer than the default, from 52 steps',)
        """
        return tuple(_own_words(*one) for one in self.factors)

    def seconds(self, kind: StepKind, default_s: float) -> float:
        """Return how long a step takes this painter, s, to a tenth."""
        return round(self.own(kind)[0] * default_s, 1)


def pace_at(tempo: Tempo, pace: Pace | None = None) -> Pace:
    """Return a pace at a tempo: teaching, each first load takes 40 s."""
    given = pace or Pace()
    return replace(given, first_load_s=TEACHING_LOAD_S) if tempo is Tempo.TEACHING else given


_SECONDS = (
    "touch_s",
    "dot_s",
    "press_s",
    "pat_s",
    "first_load_s",
    "again_s",
    "dip_s",
    "tip_dip_s",
    "rinse_s",
    "wipe_s",
    "blot_s",
    "change_s",
    "turn_s",
    "move_s",
    "glitter_s",
    "glitter_s_per_cm2",
    "stencil_s",
    "stencil_s_per_cm2",
    "gem_s",
    "cue_s",
    "check_s",
)


def parted(records: Sequence[tuple[Record, float]]) -> tuple[Record, ...]:
    """Return the records of one run without the loads within their steps, which went as the run's other loads did.

    Parameters
    ----------
    records
        Each with how much of its default time is loads within it, s.

    >>> load, petals = Record(StepKind.LOAD, 5.0, 10.0), Record(StepKind.STROKES, 24.0, 44.0)
    >>> parted([(load, 0.0), (petals, 20.0)])[1]
    Record(kind=<StepKind.STROKES: 'strokes'>, planned_s=4.0, actual_s=4.0)
    """
    loads = [one.actual_s / one.planned_s for one, _ in records if one.kind is StepKind.LOAD and one.planned_s > 0]
    pace = median(loads) if loads else 1.0
    alone = (Record(one.kind, one.planned_s - within, one.actual_s - pace * within) for one, within in records)
    return tuple(one for one in alone if one.planned_s > 0 and one.actual_s > 0)


def own_pace(records: Iterable[Record], pace: Pace | None = None) -> Pace:
    """Return a pace whose kinds of step with enough records are as fast as their median.

    >>> slow = [Record(StepKind.LOAD, 5.0, 7.5)] * 3
    >>> own_pace(slow).own(StepKind.LOAD)
    (1.5, 3)
    """
    by_kind: dict[StepKind, list[float]] = {}
    for record in records:
        if record.planned_s > 0 and record.actual_s > 0 and record.kind is not StepKind.WAIT:
            by_kind.setdefault(record.kind, []).append(record.actual_s / record.planned_s)
    factors = tuple(
        (kind, min(max(median(found), FACTOR[0]), FACTOR[1]), len(found))
        for kind, found in by_kind.items()
        if len(found) >= LEAST_RECORDS
    )
    return replace(pace or Pace(), factors=factors)


def _own_words(kind: StepKind, factor: float, count: int) -> str:
    apart = abs(factor - 1)
    if apart < _AS_DEFAULT:
        return plural(
            count,
            "{kind} takes you as long as the default, from {count} step",
            "{kind} takes you as long as the default, from {count} steps",
            kind=named(kind),
        )
    if factor > 1:
        return plural(
            count,
            "{kind} takes you {apart:.0f} % longer than the default, from {count} step",
            "{kind} takes you {apart:.0f} % longer than the default, from {count} steps",
            kind=named(kind),
            apart=100 * apart,
        )
    return plural(
        count,
        "{kind} takes you {apart:.0f} % less than the default, from {count} step",
        "{kind} takes you {apart:.0f} % less than the default, from {count} steps",
        kind=named(kind),
        apart=100 * apart,
    )


_AS_DEFAULT = 0.01
"""Less than so much apart is as long (a default)."""
