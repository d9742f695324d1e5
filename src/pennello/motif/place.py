"""Where something lies: moved, turned, sized and mirrored. A brush keeps its true width whatever the size."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from pennello.lay.stroke import NibMode, Pats, Stroke
from pennello.path.cubic import CubicPath
from pennello.record import Told, check

Array = NDArray[np.floating[Any]]

SCALE = (0.1, 10.0)
FARTHEST_MM = 4000.0


@dataclass(frozen=True, slots=True)
class Place:
    """A similarity: points are mirrored (x to -x) if so, sized, turned, then moved."""

    x_mm: Annotated[
        float, Told("to the right", "mm", within=(-FARTHEST_MM, FARTHEST_MM), called="place of a motif")
    ] = 0.0
    y_mm: Annotated[float, Told("down", "mm", within=(-FARTHEST_MM, FARTHEST_MM), called="place of a motif")] = 0.0
    turn_deg: Annotated[
        float,
        Told("from +x towards +y", "degrees", within=(-3600.0, 3600.0), called="turn of a motif"),
    ] = 0.0
    scale: Annotated[float, Told("how large it is", within=SCALE, called="size of a motif")] = 1.0
    mirrored: Annotated[bool, Told("x to -x first")] = False

    def __post_init__(self) -> None:
        check(self)

    def points(self, xy: Array) -> Array:
        """Return points, shape (..., 2), as they come to lie, mm."""
        given = np.asarray(xy, np.float64)
        x = (-given[..., 0] if self.mirrored else given[..., 0]) * self.scale
        y = given[..., 1] * self.scale
        cos, sin = math.cos(math.radians(self.turn_deg)), math.sin(math.radians(self.turn_deg))
        return np.stack([self.x_mm + x * cos - y * sin, self.y_mm + x * sin + y * cos], axis=-1)

    def inverse(self) -> Place:
        """Return the place that undoes this one.

        >>> Place(3.0, 4.0, 30.0, 2.0).then(Place(3.0, 4.0, 30.0, 2.0).inverse()).scale
        1.0
        """
        scale = 1 / self.scale
        turn = self.turn_deg if self.mirrored else -self.turn_deg
        back = Place(0.0, 0.0, turn, scale, self.mirrored)
        x, y = (float(value) for value in back.points(np.array([self.x_mm, self.y_mm])))
        return replace(back, x_mm=-x, y_mm=-y)

    def then(self, other: Place) -> Place:
        """Return this place followed by another: what lies in a group that is itself placed."""
        x, y = (float(value) for value in other.points(np.array([self.x_mm, self.y_mm])))
        turn = -self.turn_deg if other.mirrored else self.turn_deg
        return Place(x, y, turn + other.turn_deg, self.scale * other.scale, self.mirrored != other.mirrored)

    def stroke(self, stroke: Stroke) -> Stroke:
        """Return a stroke as it comes to lie; lengths along it grow with the size, the brush does not."""
        points = self.points(np.array(stroke.path.points_mm))
        nib, size = stroke.nib, self.scale
        if nib.mode in (NibMode.FOLLOWING, NibMode.KEYED):
            if self.mirrored:
                keys = tuple(replace(key, value=-key.value) for key in nib.keys)
                nib = replace(nib, angle_deg=-nib.angle_deg, keys=keys)
        else:
            start, end = (
                _wrapped((180.0 - angle if self.mirrored else angle) + self.turn_deg)
                for angle in (nib.angle_deg, nib.angle_end_deg)
            )
            turned = (180.0 - nib.angle_end_deg) - (180.0 - nib.angle_deg) if self.mirrored else None
            sweep = nib.angle_end_deg - nib.angle_deg if turned is None else turned
            nib = replace(nib, angle_deg=start, angle_end_deg=start + sweep if nib.mode is NibMode.PIVOTING else end)
        return replace(
            stroke,
            path=CubicPath(tuple((round(float(x), 6), round(float(y), 6)) for x, y in points)),
            nib=nib,
            wiggle=replace(stroke.wiggle, width_mm=min(stroke.wiggle.width_mm * size, 60.0)),
            flips_mm=tuple(at * size for at in stroke.flips_mm),
            reload_mm=tuple(at * size for at in stroke.reload_mm),
            lift_mm=min(stroke.lift_mm * size, 200.0),
            pats=_as_mirrored(stroke.pats) if self.mirrored else stroke.pats,
        )


HERE = Place()


def _as_mirrored(pats: Pats | None) -> Pats | None:
    return None if pats is None else replace(pats, mirrored=not pats.mirrored)


def _wrapped(angle_deg: float) -> float:
    """Return an angle within a whole turn of zero."""
    return (angle_deg + 360.0) % 720.0 - 360.0
