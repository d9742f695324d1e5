"""A stroke as it is meant: the path, how the chisel is held, pressure, wiggle, reloads."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import Enum

from pennello.errors import OutOfRangeError
from pennello.path.cubic import CubicPath


class NibMode(Enum):
    """How the chisel turns along the stroke."""

    FIXED = "fixed"
    FOLLOWING = "following"
    PIVOTING = "pivoting"


@dataclass(frozen=True, slots=True)
class Nib:
    """How the chisel is held. Angles turn from +x (right) towards +y (down); the chisel points from A to B.

    Attributes
    ----------
    angle_deg
        FIXED: direction of the chisel. FOLLOWING: angle between travel and chisel (90 lays the full width, with
        B on the right hand of travel). PIVOTING: direction of the chisel at the start. -720 to 720.
    angle_end_deg
        PIVOTING only: direction of the chisel at the end; it turns evenly along the path.
    pivot_u
        PIVOTING only: which point of the edge follows the path, 0 for corner A to 1 for corner B. In the other
        modes the middle does.
    """

    mode: NibMode = NibMode.FOLLOWING
    angle_deg: float = 90.0
    angle_end_deg: float = 90.0
    pivot_u: float = 0.0

    def __post_init__(self) -> None:
        for angle in (self.angle_deg, self.angle_end_deg):
            if not -720 <= angle <= 720:
                raise OutOfRangeError("chisel angle", angle, "-720 to 720 degrees")
        if not 0 <= self.pivot_u <= 1:
            raise OutOfRangeError("pivot point on the edge", self.pivot_u, "0 (corner A) to 1 (corner B)")


@dataclass(frozen=True, slots=True)
class Wiggle:
    """Sideways waves along the stroke: how many, and from crest to trough in mm."""

    count: float = 0.0
    width_mm: float = 0.0

    def __post_init__(self) -> None:
        if not 0 <= self.count <= 100:
            raise OutOfRangeError("number of wiggles", self.count, "0 to 100")
        if not 0 <= self.width_mm <= 60:
            raise OutOfRangeError("width of a wiggle", self.width_mm, "0 to 60 mm")


@dataclass(frozen=True, slots=True)
class Stroke:
    """One pull of the brush.

    Attributes
    ----------
    pressure
        0 (hovering) to 1 (full belly); 0.5 lays the nominal width.
    reload_mm
        Where along the stroke the painter lifts, goes back to the cake and starts again, mm, ascending.
    """

    path: CubicPath
    nib: Nib = field(default_factory=Nib)
    pressure: float = 0.5
    wiggle: Wiggle = field(default_factory=Wiggle)
    reload_mm: tuple[float, ...] = ()

    def __post_init__(self) -> None:
        if not 0.05 <= self.pressure <= 1:
            raise OutOfRangeError("pressure", self.pressure, "0.05 to 1")
        if len(self.reload_mm) > 50:
            raise OutOfRangeError("number of reloads", len(self.reload_mm), "at most 50")
        if list(self.reload_mm) != sorted(self.reload_mm) or not all(0 <= at <= 1e5 for at in self.reload_mm):
            raise OutOfRangeError("reload places", list(self.reload_mm), "in rising order, 0 mm or more")
