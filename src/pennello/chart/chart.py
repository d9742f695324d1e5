"""What a chart is. x runs to the right of the picture, y down, mm; the wearer's right lies left on a front view."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from enum import Enum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import UnknownNameError
from pennello.kept import kept_small
from pennello.path.cubic import CubicPath, position
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]
Point = tuple[float, float]
View = tuple[float, float, float]
"""The middle of what is seen and how wide it is, mm."""

Bounds = tuple[float, float, float, float]
"""Left, top, right, bottom, mm."""

_PER_CURVE = 12


@dataclass(frozen=True, slots=True)
class Line:
    """A line of the drawing; weight 1 for a contour, less for what lies within; filled with skin, as an ear is."""

    path: CubicPath
    weight: float = 1.0
    filled: bool = False


class Feature(Enum):
    """What an area of the drawing shows."""

    NECK = "neck"
    HAIR = "hair"
    BROW = "brow"
    WHITE = "white of an eye"
    IRIS = "iris"
    PUPIL = "pupil"
    GLINT = "glint"
    LIP = "lip"


EYE = frozenset((Feature.WHITE, Feature.IRIS, Feature.PUPIL, Feature.GLINT))
"""What is seen of an open eye."""


@dataclass(frozen=True, slots=True)
class FeatureArea:
    """A closed area that is no bare skin; behind the skin, as hair round a head and a neck are, or on it."""

    outline: CubicPath
    feature: Feature
    behind: bool = False


@dataclass(frozen=True, slots=True)
class Tone:
    """A soft stroke of shade or light, so that the form of a body reads.

    Attributes
    ----------
    dark
        How much light it takes, in [-1, 1]; less than 0 for a light.
    width_mm, soft_mm
        Half of what is dark all over, and how far it fades beyond (one standard deviation).
    """

    path: CubicPath
    dark: float
    width_mm: float
    soft_mm: float


@dataclass(frozen=True, slots=True)
class Zone:
    """A place that matters: an eye opening, a closed lid, a nostril, the lips; a closed outline.

    Attributes
    ----------
    kind
        "eye" (open: nothing goes there), "lid" (a closed eye, which may be painted), "nostril" or "lips".
    """

    name: str
    kind: str
    outline: CubicPath

    @property
    def polygon(self) -> Array:
        """The outline as points, shape (n, 2), mm."""
        return drawn(self.outline)


@dataclass(frozen=True, slots=True)
class Chart:
    """A line drawing of a part of the body at its true size.

    Attributes
    ----------
    skin
        Closed outline of what can be painted.
    landmarks
        Points by name; left and right are the wearer's.
    frames
        Paths to paint along, by name.
    midline_mm
        x of the line of symmetry, or None where there is none.
    source
        Where its proportions come from.
    areas, tones
        Hair, eyes and lips; shades and lights.
    views
        Close views: middle and width, mm, by name.
    bounds_mm
        Left, top, right, bottom of the drawing, mm; worked out when it is made, as every event of a hand asks for it.
    """

    key: str
    name: str
    skin: CubicPath
    lines: tuple[Line, ...]
    landmarks: tuple[tuple[str, Point], ...]
    zones: tuple[Zone, ...] = ()
    frames: tuple[tuple[str, CubicPath], ...] = ()
    midline_mm: float | None = None
    source: str = ""
    areas: tuple[FeatureArea, ...] = ()
    tones: tuple[Tone, ...] = ()
    views: tuple[tuple[str, View], ...] = ()
    bounds_mm: Bounds = field(init=False, compare=False, repr=False)

    def __post_init__(self) -> None:
        outlines = (*(line.path for line in self.lines), self.skin, *(area.outline for area in self.areas))
        object.__setattr__(self, "bounds_mm", _bounds(outlines))

    def landmark(self, name: str) -> Point:
        """Return a landmark; raises UnknownNameError."""
        known = dict(self.landmarks)
        if name not in known:
            raise UnknownNameError(phrase("landmark"), name, list(known), self.key)
        return known[name]

    def frame(self, name: str) -> CubicPath:
        """Return a frame; raises UnknownNameError."""
        known = dict(self.frames)
        if name not in known:
            raise UnknownNameError(phrase("frame"), name, list(known), self.key)
        return known[name]

    @property
    def eyes_closed(self) -> bool:
        """Whether there is an eye, and it is closed."""
        return any(zone.kind == "lid" for zone in self.zones)


def _bounds(outlines: Iterable[CubicPath]) -> Bounds:
    """Return left, top, right, bottom of outlines, mm."""
    points = np.concatenate([drawn(path) for path in outlines])
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    return float(left), float(top), float(right), float(bottom)


@kept_small
def drawn(path: CubicPath) -> Array:
    """Return a path as points close together, shape (n, 2), mm; kept, and not to be written to."""
    curves = (len(path.points_mm) - 1) // 3
    points = position(path, np.linspace(0, curves, curves * _PER_CURVE + 1))
    points.flags.writeable = False
    return points


def mirrored_path(path: CubicPath, midline_mm: float = 0.0) -> CubicPath:
    """Return a path mirrored about a vertical line."""
    return CubicPath(tuple((2 * midline_mm - x, y) for x, y in path.points_mm))
