"""A stroke in its own frame: it begins at the origin and leads to the right.

What the hand does is the same wherever a stroke lies and however it is turned. A ring of petals, a row of scales or a
motif that is dragged over a chart is worked out once, and laid down where it belongs.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kept import kept_small
from pennello.lay.motion import Motion
from pennello.lay.stroke import NibMode, Stroke
from pennello.lay.track import Track
from pennello.path.cubic import CubicPath

Array = NDArray[np.floating[Any]]

GRID_MM, GRID_DEG = 1e-3, 1e-3
"""To what places and angles are rounded in the own frame: a micrometre, so that turned copies are one stroke."""


_MOST_DEG = 720.0
_QUARTER = 1e-9
_TIE = 0.2137  # a symmetric stroke lies half way between two places of the grid: copies must not part there


@dataclass(frozen=True, slots=True)
class Frame:
    """Where a stroke's own frame lies: its origin, mm, and its turn, radians, from +x towards +y."""

    x_mm: float
    y_mm: float
    turn: float

    def placed(self, track: Track) -> Track:
        """Return a track of the own frame where it lies."""
        centre, edge = self._placed(track.centre, track.edge)
        return replace(track, centre=centre, edge=edge)

    def placed_motion(self, motion: Motion) -> Motion:
        """Return the events of a track of the own frame where it lies."""
        centre, edge = self._placed(motion.pose[:, :2], motion.pose[:, 2:4])
        return replace(motion, pose=np.hstack([centre, edge, motion.pose[:, 4:]]))

    def _placed(self, centre: Array, edge: Array) -> tuple[Array, Array]:
        """Return middles and directions of the own frame where they lie."""
        cos, sin = _turning(self.turn)
        turned = np.array([[cos, sin], [-sin, cos]])
        edge = edge @ turned
        edge[np.abs(edge) < _QUARTER] = 0.0
        return centre @ turned + (self.x_mm, self.y_mm), edge

    @property
    def affine(self) -> tuple[float, float, float, float, float, float]:
        """The way from the own frame to where it lies as a, b, d, e, xoff, yoff: x' = a x + b y + xoff."""
        cos, sin = _turning(self.turn)
        return cos, -sin, sin, cos, self.x_mm, self.y_mm


@kept_small
def own_frame(stroke: Stroke) -> tuple[Stroke, Frame] | None:
    """Return a stroke in its own frame, and where that lies; None for pats, whose rows lie as they lie."""
    if stroke.pats is not None:
        return None
    points, nib = np.array(stroke.path.points_mm), stroke.nib
    away = points - points[0]
    far = [away[-1], *away[1:-1]]
    lead = next((one for one in far if math.hypot(*one) > GRID_MM), None)
    turn = 0.0 if lead is None else math.atan2(lead[1], lead[0])
    if lead is None and nib.mode in (NibMode.FIXED, NibMode.PIVOTING):  # a touch lies as its chisel does
        turn = math.radians(nib.angle_deg)
    frame = Frame(float(points[0, 0]), float(points[0, 1]), turn)
    cos, sin = _turning(turn)
    own = np.rint(away @ np.array([[cos, -sin], [sin, cos]]) / GRID_MM + _TIE) * GRID_MM + 0.0
    if nib.mode in (NibMode.FIXED, NibMode.PIVOTING):
        start = _wrapped(_on_grid(nib.angle_deg - math.degrees(turn)))
        sweep = _on_grid(nib.angle_end_deg - nib.angle_deg) if nib.mode is NibMode.PIVOTING else 0.0
        if abs(start + sweep) > _MOST_DEG:
            return None
        nib = replace(nib, angle_deg=start, angle_end_deg=round(start + sweep, 6))
    return replace(stroke, path=CubicPath(tuple(map(tuple, own.tolist()))), nib=nib), frame


def _turning(turn: float) -> tuple[float, float]:
    """Return cosine and sine, exact at quarter turns: an edge along a row of pixels stays there to the last bit."""
    cos, sin = math.cos(turn), math.sin(turn)
    return (0.0, math.copysign(1.0, sin)) if abs(cos) < _QUARTER else (cos, 0.0) if abs(sin) < _QUARTER else (cos, sin)


def _on_grid(angle_deg: float) -> float:
    return round(round(angle_deg / GRID_DEG + _TIE) * GRID_DEG, 6) + 0.0


def _wrapped(angle_deg: float) -> float:
    """Return an angle within half a turn of zero: the chisel points the same way."""
    return round((angle_deg + 180.0) % 360.0 - 180.0, 6) + 0.0
