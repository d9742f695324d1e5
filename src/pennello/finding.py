"""What can be wrong with a plan, a stroke, a chart or a person, as one kind of value.

A code says what it is, once: how much it weighs, and a line for the documents (docs/findings.md is made of them). A
finding is one case of it: a sentence with the remedy, where it is, and the changes that mend it.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, StrEnum
from typing import Any, Self


class Level(Enum):
    """How much a finding weighs, the heaviest first."""

    STOP = "do not paint like this"
    ASK = "ask first"
    WRONG = "comes out otherwise than wished"
    ODD = "looks like a slip"
    MIND = "keep in mind"


class Code(StrEnum):
    """What is found, with its level and a line of words."""

    level: Level
    words: str

    def __new__(cls, value: str, level: Level, words: str) -> Self:
        """Return a code."""
        code = str.__new__(cls, value)
        code._value_ = value
        code.level, code.words = level, words
        return code

    # a load that lays other colours than wished; each is confirmed by laying what would mend it
    SLID = "slid", Level.WRONG, "the brush lies beside its place on the cake"
    WRONG_WAY = "wrong_way", Level.WRONG, "the brush is the wrong way round"
    HANGS_OVER = "hangs_over", Level.WRONG, "a part of the brush hangs over the edge of the cake"
    TOO_SOFT = "too_soft", Level.WRONG, "boundaries blend more than wished"
    TOO_HARD = "too_hard", Level.WRONG, "boundaries are harder than wished"
    PALE = "pale", Level.WRONG, "the stroke runs pale"
    THIN_LOAD = "thin_load", Level.WRONG, "the brush is not full"
    TOO_WET = "too_wet", Level.WRONG, "the load is too wet"
    TOO_DRY = "too_dry", Level.WRONG, "the load is too dry"
    STRAY_PICKUP = "stray_pickup", Level.WRONG, "a pick-up spoils what the others load"
    MISSING_COLOUR = "missing_colour", Level.WRONG, "no stripe of the cake has a colour that is wished"

    # a stroke's way and film
    TIGHT_CURVE = "tight_curve", Level.WRONG, "the curve is tighter than the brush is wide"
    DRIP = "drip", Level.WRONG, "paint stands so thick that it may run"
    STREAK = "streak", Level.WRONG, "a nearly dry load breaks up into streaks"
    MISSED_STRIPE = "missed_stripe", Level.WRONG, "a part of the edge holds no paint"
    WRONG_RIM = "wrong_rim", Level.WRONG, "the rim has the heel's colour"
    OLD_PAINT = "old_paint", Level.WRONG, "pressure squeezes old paint out of the root"

    # a load as it is written down
    WRONG_DIP = "wrong_dip", Level.ODD, "a dip with a brush that takes its colours across"
    NO_SECOND_FACE = "no_second_face", Level.ODD, "the back of what has no second face is loaded"
    RELOAD_BEYOND = "reload_beyond", Level.ODD, "a reload lies beyond the end of the stroke"
    NO_LENGTH = "no_length", Level.ODD, "a path has no length"
    FINISH = "finish", Level.MIND, "a finish of which only the diffuse part is predicted"
    WORN_OUT = "worn_out", Level.ODD, "a stripe is worn out and drops out of the load"
    DIRTY = "dirty", Level.ODD, "a stripe is dirty"
    NO_SUCH_PART_IN_ORDER = "idle_rule", Level.ODD, "a rule, priority or worth names what is not there"

    # a chart
    PETAL_GAP = "petal_gap", Level.ODD, "gaps between petals that should close"
    MISSING_MIRROR = "missing_mirror", Level.ODD, "a piece off the midline has nothing like it on the other side"
    KEEP_CLEAR = "keep_clear", Level.STOP, "paint on an open eye, a nostril, or lips that it is not meant for"
    BEYOND = "beyond", Level.ODD, "a stroke reaches beyond the skin"
    OFF_SKIN = "off_skin", Level.ODD, "a layer reaches beyond the skin"
    NO_SUCH_PART = "no_such_part", Level.ODD, "a load for a part that the motif does not have"
    NO_LOAD = "no_load", Level.ODD, "a part of a motif has no load"
    LEADS_NOWHERE = "leads_nowhere", Level.ODD, "a line begins far from everything"
    AIMS_ELSEWHERE = "aims_elsewhere", Level.ODD, "the point of a stripe aims elsewhere than those beside it"
    RESERVED = "reserved", Level.ODD, "a stroke lies on a place that is kept"
    TOO_SMALL = "too_small", Level.ODD, "a motif is too small for its brush"
    LINE_TOO_WIDE = "line_too_wide", Level.ODD, "line work with a brush that lays it too wide"
    STRIPE_OFF = "stripe_off", Level.ODD, "a stripe that should stay on a landmark cannot"
    SIGN_UNREAD = "sign_unread", Level.ASK, "a sign that nobody who reads it has checked"
    GLITTER_ON_LINES = "glitter_on_lines", Level.ODD, "glitter falls on line work and hides it"

    # people and products
    LABEL = "label", Level.STOP, "a paint near eyes or lips whose label does not allow it"
    NOT_FOR_SKIN = "not_for_skin", Level.STOP, "a product that is not marked for skin"
    EXPIRED = "expired", Level.STOP, "a product past its date"
    NEON = "neon", Level.ASK, "neon colours near eyes or lips"
    GLITTER_NEAR = "glitter_near", Level.STOP, "glitter or a gem comes near an eye or the lips"
    GLITTER = "glitter", Level.ASK, "glitter at all"
    GEMS = "gems", Level.ASK, "gems at all"
    ASK_AGE = "ask_age", Level.ASK, "the age was not asked"
    ASK_ALLERGY = "ask_allergy", Level.ASK, "allergies were not asked about"
    ASK_ASTHMA = "ask_asthma", Level.ASK, "asthma was not asked about"
    ASK_ILL = "ask_ill", Level.ASK, "recent illness was not asked about"
    ASK_SKIN = "ask_skin", Level.ASK, "the skin was not looked at"
    ASK_CONSENT = "ask_consent", Level.ASK, "the person was not asked"
    ASK_PARENT = "ask_parent", Level.ASK, "a parent was not asked"
    CONSENT = "consent", Level.STOP, "the person or a parent does not agree"
    BROKEN_SKIN = "broken_skin", Level.STOP, "broken or infected skin"
    SENSITIVE = "sensitive", Level.ASK, "skin that reacts"
    ALLERGY = "allergy", Level.STOP, "an allergy"
    ASTHMA = "asthma", Level.ASK, "asthma"
    ILL = "ill", Level.STOP, "a recent illness"
    SMALL_CHILD = "small_child", Level.STOP, "a child under three; on an arm or hand: ask"
    CLEAN_TOOLS = "clean_tools", Level.MIND, "clean tools for each person"
    DECANT = "decant", Level.MIND, "decant what goes on lips"
    NO_BLOWING = "no_blowing", Level.MIND, "never blow on a face"
    REMOVAL = "removal", Level.MIND, "say how it comes off"


@dataclass(frozen=True, slots=True)
class RatedMend:
    """A change that mends, and the mean dE00 that it leads to, laid for real; None where it is not about colours."""

    mend: Any
    mean_de00: float | None = None


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing that is wrong, odd, or to be minded.

    Attributes
    ----------
    text
        One plain sentence with the remedy.
    piece
        Id of the stroke or motif, name of the layer or paint that it is about; "" for all.
    place
        Where it stands in the plan, in the words of its file; "" where that says nothing.
    x_mm, y_mm
        Where on the chart.
    at_mm
        Where along the stroke it shows, or is worst; None for all of it.
    mends
        What helps, best first; none where the hand has to, or nothing on the table does.
    reason
        Why, where that is another sentence.
    weighs
        Another level than its code's, where the case is another.
    """

    code: Code
    text: str
    piece: str = ""
    place: str = ""
    x_mm: float = 0.0
    y_mm: float = 0.0
    at_mm: float | None = None
    mends: tuple[RatedMend, ...] = ()
    reason: str = ""
    weighs: Level | None = None

    @property
    def level(self) -> Level:
        """How much it weighs."""
        return self.weighs or self.code.level
