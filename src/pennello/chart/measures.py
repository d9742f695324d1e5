"""Sizes of people: typed, or usual for an age.

Source of the usual sizes, from memory: for adults C. C. Gordon et al., 1988 Anthropometric Survey of U.S. Army
Personnel, Natick TR-89/044 (head breadth 152 and 144 mm, menton to sellion 122 and 113 mm, interpupillary breadth 65
and 62 mm); for children R. G. Snyder et al., Anthropometry of Infants, Children and Youths to Age 18, SAE SP-450, 1977
(head breadth). Face heights of children and all limbs are interpolated: defaults, to be measured.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Annotated

from pennello.phrases import phrase
from pennello.record import Told, check

SOURCE = phrase(
    "usual sizes from memory: Gordon et al. 1989 (adults), Snyder et al. 1977 (children); typed ones are yours"
)
HEAD_BREADTH_MM = (100.0, 190.0)
FACE_HEIGHT_MM = (60.0, 160.0)
STATURE_MM = (700.0, 2200.0)


class Age(Enum):
    """Whom a chart is drawn for."""

    SMALL_CHILD = "small child, about 4"
    CHILD = "child, about 7"
    OLDER_CHILD = "child, about 11"
    ADULT = "adult"
    BROAD_ADULT = "adult, broad"


_USUAL = {
    Age.SMALL_CHILD: (138.0, 88.0, 1020.0),
    Age.CHILD: (141.0, 96.0, 1220.0),
    Age.OLDER_CHILD: (145.0, 105.0, 1440.0),
    Age.ADULT: (145.0, 114.0, 1640.0),
    Age.BROAD_ADULT: (152.0, 122.0, 1755.0),
}


@dataclass(frozen=True, slots=True)
class Measures:
    """What a chart is drawn from, mm; limbs are drawn in proportion to the stature."""

    head_breadth_mm: Annotated[
        float,
        Told("greatest breadth of the head above the ears", "mm", within=HEAD_BREADTH_MM, called="head breadth"),
    ] = 145.0
    face_height_mm: Annotated[
        float,
        Told(
            "from the root of the nose to the chin (sellion to menton)",
            "mm",
            within=FACE_HEIGHT_MM,
            called="face height",
        ),
    ] = 114.0
    stature_mm: Annotated[
        float, Told("height of the person", "mm", within=STATURE_MM, called="height of the person")
    ] = 1640.0

    def __post_init__(self) -> None:
        check(self)


def usual(age: Age) -> Measures:
    """Return the usual measures for an age."""
    return Measures(*_USUAL[age])
