"""What the person in the chair was asked and said."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from pennello.phrases import phrase


class AgeBand(Enum):
    """How old the person is."""

    UNKNOWN = "not asked"
    SMALL = "under 3"
    CHILD = "3 to 12"
    TEEN = "13 to 17"
    ADULT = "adult"

    @property
    def minor(self) -> bool:
        """Whether a parent has to agree."""
        return self in {AgeBand.SMALL, AgeBand.CHILD, AgeBand.TEEN}


class Said(Enum):
    """An answer."""

    UNKNOWN = "not asked"
    NO = "no"
    YES = "yes"


class SkinSays(Enum):
    """What the skin looks like where the paint goes."""

    UNKNOWN = "not looked at"
    SOUND = "sound"
    SENSITIVE = "sensitive or dry"
    BROKEN = "broken, infected, cold sore or stitches"


@dataclass(frozen=True, slots=True)
class Person:
    """The answers of one person; everything begins as not asked.

    Attributes
    ----------
    allergy, asthma, ill
        Allergies to cosmetics or their parts; asthma; a recent illness.
    consent, parent
        Whether the person agrees, and for a minor a parent.
    """

    age: AgeBand = AgeBand.UNKNOWN
    allergy: Said = Said.UNKNOWN
    asthma: Said = Said.UNKNOWN
    ill: Said = Said.UNKNOWN
    skin: SkinSays = SkinSays.UNKNOWN
    consent: Said = Said.UNKNOWN
    parent: Said = Said.UNKNOWN


QUESTIONS: tuple[tuple[str, str, type[Enum]], ...] = (
    ("age", phrase("How old?"), AgeBand),
    ("allergy", phrase("Any allergy, to cosmetics above all?"), Said),
    ("asthma", phrase("Asthma?"), Said),
    ("ill", phrase("Ill lately?"), Said),
    ("skin", phrase("The skin there"), SkinSays),
    ("consent", phrase("Does the person agree, glitter and lips too?"), Said),
    ("parent", phrase("For a minor: does a parent agree?"), Said),
)
"""Field, question and answers, in the order in which they are asked (common practice)."""


PERSONAL = frozenset({"consent", "broken_skin", "sensitive", "allergy", "asthma", "ill", "small_child"})
"""Cautions that come from what a person said: whoever reads them knows the answer."""


def is_personal(code: str) -> bool:
    """Return whether a caution tells of a person and not of a plan.

    >>> is_personal("allergy"), is_personal("ask_age"), is_personal("expired")
    (True, True, False)
    """
    return code in PERSONAL or code.startswith("ask_")
