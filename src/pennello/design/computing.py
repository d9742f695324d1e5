"""What a computed piece is worked out from: it is kept, and the strokes are worked out each time anew."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import Enum
from typing import Annotated

import numpy as np

from pennello.design.repeats import SMALLER, TIMES, USUAL_SMALLER, USUAL_TIMES, check_repeats
from pennello.errors import OutOfRangeError
from pennello.motif.place import Place
from pennello.path.cubic import CubicPath
from pennello.phrases import named, phrase
from pennello.record import Told, check

OFF_MM = (-5.0, 5.0)
MARGIN_MM = (1.0, 80.0)
LIGHT_DEG = (-360.0, 360.0)
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
    ECHO = "echo"


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
            "contour lies away from the light, or towards it; `echo`: the same again along a line",
            values={"shadow": 11, "light": 11, "echo": 12},
        ),
    ]
    of: Annotated[
        tuple[str, ...],
        Told(
            "ids of the parts and pieces that it goes round, or that are laid again",
            text="id",
            count=(0, MOST_NAMED),
            called="parts",
        ),
    ] = ()
    off_mm: Annotated[
        float,
        Told("an outline's middle from the contour, inwards below 0", "mm", within=OFF_MM, called="distance"),
    ] = 1.0
    margin_mm: Annotated[
        float, Told("how far a ground without a border reaches", "mm", within=MARGIN_MM, called="margin")
    ] = 10.0
    border: Annotated[
        CubicPath | None,
        Told("closed outline of a ground or fill, or the line of an echo, mm on the chart", default="left out"),
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
            within=LIGHT_DEG,
            called="direction of the light",
            since=11,
        ),
    ] = ABOVE_LEFT_DEG
    along: Annotated[
        str, Told("id of the piece whose line an echo goes along, in the place of a border", text="maybe id", since=12)
    ] = ""
    times: Annotated[
        int, Told("how often an echo lays it again", within=TIMES, called="how often it is laid again", since=12)
    ] = USUAL_TIMES
    smaller: Annotated[
        float,
        Told("how large each is beside the one before", within=SMALLER, called="size of each", since=12),
    ] = USUAL_SMALLER
    by_turns: Annotated[bool, Told("every second one on the other side of the line", since=12)] = True

    def __post_init__(self) -> None:
        check(self)
        if self.kind is Computing.FILL and self.border is None and not self.zone:
            raise OutOfRangeError(phrase("what a fill fills"), "nothing", phrase("a border or a zone"))
        if self.kind is not Computing.FILL and not self.of:
            raise OutOfRangeError(
                phrase("what the {kind} goes round", kind=named(self.kind)),
                "nothing",
                phrase("one part or piece at least"),
            )
        if self.kind is Computing.ECHO:
            check_repeats(self.times, self.smaller)
            if (self.border is None) == (not self.along):
                raise OutOfRangeError(
                    phrase("what an echo goes along"), phrase("nothing or two"), phrase("one line: a border or a piece")
                )

    def moved(self, by: Place) -> Computed:
        """Return it within a border that lies elsewhere; distances and margins stay as they are."""
        if self.border is None:
            return self
        points = by.points(np.array(self.border.points_mm)).round(6)
        return replace(self, border=CubicPath(tuple((float(x), float(y)) for x, y in points)))

    def renamed(self, ids: Mapping[str, str]) -> Computed:
        """Return it going round copies, by id of the old ones, where what it goes round was copied."""
        return replace(self, of=tuple(ids.get(name, name) for name in self.of), along=ids.get(self.along, self.along))

    def along_way(self, way: CubicPath) -> Computed:
        """Return an echo along a line of its own, for when the piece that it went along is not there any more."""
        return replace(self, along="", border=way)
