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

LARGE = "large"
"""The role of a ground's or fill's larger brush."""


class Computing(Enum):
    """What is worked out."""

    OUTLINE = "outline"
    GROUND = "ground"
    FILL = "fill"


@dataclass(frozen=True, slots=True)
class Computed:
    """A line that hugs other parts, the ground round them, or all of a place."""

    kind: Annotated[Computing, Told("`outline` of parts, `ground` round them, `fill` of a place")]
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

    def __post_init__(self) -> None:
        check(self)
        if self.kind is Computing.FILL and self.border is None:
            raise OutOfRangeError("what a fill fills", "nothing", "a border")
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
