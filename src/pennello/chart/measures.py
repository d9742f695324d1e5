"""Sizes of people: typed, or usual for an age.

Source of the usual sizes, from memory: for adults C. C. Gordon et al., 1988 Anthropometric Survey of U.S. Army
Personnel, Natick TR-89/044 (head breadth 152 and 144 mm, menton to sellion 122 and 113 mm, interpupillary breadth 65
and 62 mm); for children R. G. Snyder et al., Anthropometry of Infants, Children and Youths to Age 18, SAE SP-450, 1977
(head breadth). Face heights of children and all limbs are interpolated: defaults, to be measured.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from pennello.errors import OutOfRangeError

SOURCE = "usual sizes from memory: Gordon et al. 1989 (adults), Snyder et al. 1977 (children); typed ones are yours"
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
    """What a chart is drawn from, mm.

    Attributes
    ----------
    head_breadth_mm
        Greatest breadth of the head above the ears, 100 to 190 mm.
    face_height_mm
        From the root of the nose to the chin (sellion to menton), 60 to 160 mm.
    stature_mm
        Height of the person, 700 to 2200 mm; limbs are drawn in proportion to it.
    """

    head_breadth_mm: float = 145.0
    face_height_mm: float = 114.0
    stature_mm: float = 1640.0

    def __post_init__(self) -> None:
        for name, value, (low, high) in (
            ("head breadth", self.head_breadth_mm, HEAD_BREADTH_MM),
            ("face height", self.face_height_mm, FACE_HEIGHT_MM),
            ("height of the person", self.stature_mm, STATURE_MM),
        ):
            if not low <= value <= high:
                raise OutOfRangeError(name, value, f"{low:g} to {high:g} mm")


def usual(age: Age) -> Measures:
    """Return the usual measures for an age."""
    return Measures(*_USUAL[age])
