"""What a computed piece is worked out from: it is kept, and the strokes are worked out each time anew."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import Enum
from typing import Annotated

import numpy as np

from pennello.errors import OutOfRangeError
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.record import Told, check

OFF_MM = (-5.0, 5.0)
MARGIN_MM = (1.0, 80.0)
MOST_NAMED = 200

ABOVE_LEFT_DEG = -120.0
"""Where the light comes from as a rule: above, from the left of the picture (common practice in drawing)."""

LARGE = "large"
"""The role of a ground's or fill's larger brush."""


class Computing(Enum):
    """What is worked out."""

    OUTLINE = "outline"
    GROUND = "ground"
    FILL = "fill"
    SHADOW = "shadow"
    LIGHT = "light"


RIMS = (Computing.SHADOW, Computing.LIGHT)
"""Lines along the part of a contour that lies away from the light, or towards it."""


class LaidBy(Enum):
    """How a ground or a fill is laid along its lines."""

    PULLED = "pulled"
    PATTED = "patted"
    DABBED = "dabbed"
    FUR = "fur"


@dataclass(frozen=True, slots=True)
class Computed:
    """A line that hugs other parts, the ground round them, or all of a place."""

    kind: Annotated[
        Computing,
        Told(
            "`outline` of parts, `ground` round them, `fill` of a place; `shadow` and `light`: a line along what of a "
            "contour lies away from the light, or towards it",
            values={"shadow": 11, "light": 11},
        ),
    ]
    of: Annotated[
        tuple[str, ...],
        Told("ids of the parts and pieces that it goes round", text="id", count=(0, MOST_NAMED), called="parts"),
    ] = ()
    off_mm: Annotated[
        float,
        Told("an outline's middle from the contour, inwards below 0", "mm", within=OFF_MM, called="distance"),
    ] = 1.0
    margin_mm: Annotated[
        float, Told("how far a ground without a border reaches", "mm", within=MARGIN_MM, called="margin")
    ] = 10.0
    border: Annotated[
        CubicPath | None, Told("closed outline of a ground or fill, mm on the chart", default="left out")
    ] = None
    zone: Annotated[
        str,
        Told("name of a zone or a closed frame of the chart, in the place of a fill's border", text="name", since=11),
    ] = ""
    by: Annotated[LaidBy, Told("how a ground or fill is laid: `pulled`, `patted`, `dabbed` or as `fur`", since=11)] = (
        LaidBy.PULLED
    )
    light_deg: Annotated[
        float,
        Told(
            "where the light comes from, from +x towards +y; -90 is above",
            "degrees",
            within=(-360.0, 360.0),
            called="direction of the light",
            since=11,
        ),
    ] = ABOVE_LEFT_DEG

    def __post_init__(self) -> None:
        check(self)
        if self.kind is Computing.FILL and self.border is None and not self.zone:
            raise OutOfRangeError("what a fill fills", "nothing", "a border or a zone")
        if self.kind is not Computing.FILL and not self.of:
            raise OutOfRangeError(f"what the {self.kind.value} goes round", "nothing", "one part or piece at least")

    def moved(self, by: Place) -> Computed:
        """Return it within a border that lies elsewhere; distances and margins stay as they are."""
        if self.border is None:
            return self
        points = by.points(np.array(self.border.points_mm)).round(6)
        return replace(self, border=CubicPath(tuple((float(x), float(y)) for x, y in points)))

    def renamed(self, ids: Mapping[str, str]) -> Computed:
        """Return it going round copies, by id of the old ones, where what it goes round was copied."""
        return replace(self, of=tuple(ids.get(name, name) for name in self.of))
