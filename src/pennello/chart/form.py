"""Light and shade of a chart, so that brow, socket, nose, lips, cheek and limbs read as form.

A calm light from the front: what turns away at the outline is darker, the rest is soft strokes of the drawing. Common
practice in drawing, no published source.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Chart, Tone, drawn
from pennello.kept import remembered
from pennello.path.cubic import travelled_mm

Array = NDArray[np.floating[Any]]

PX_PER_MM = 1.0
_EDGE_DARK, _EDGE_SHARE = 0.34, 0.085
"""How much light is lost at the outline, and over which share of the lesser side of the drawing it comes back."""

_REACH, _STEP_MM = 3.0, 3.0
"""After how many of its standard deviations a tone is nothing, and how close points of a line stand, mm (defaults)."""


@dataclass(frozen=True, slots=True, eq=False)
class SkinLight:
    """How much light falls on each place of a chart, shape (rows, columns), and where its corner lies, mm."""

    factor: Array
    left_mm: float
    top_mm: float
    px_per_mm: float


@remembered(16)
def skin_light(chart: Chart) -> SkinLight:
    """Return the light on a chart; kept, and not to be written to."""
    left, top, right, bottom = chart.bounds_mm
    corner = (math.floor(left), math.floor(top))
    size = (math.ceil((bottom - corner[1]) * PX_PER_MM) + 1, math.ceil((right - corner[0]) * PX_PER_MM) + 1)
    xs = corner[0] + (np.arange(size[1], dtype=np.float32) + 0.5) / PX_PER_MM
    ys = corner[1] + (np.arange(size[0], dtype=np.float32) + 0.5) / PX_PER_MM
    fades_mm = _EDGE_SHARE * min(right - left, bottom - top)
    factor = 1 - _EDGE_DARK * np.exp(-_apart(_dense(drawn(chart.skin)), xs, ys) / fades_mm)
    for tone in chart.tones:
        _lay(tone, factor, xs, ys)
    factor.flags.writeable = False
    return SkinLight(factor, float(corner[0]), float(corner[1]), PX_PER_MM)


def _dense(points: Array) -> Array:
    """Return a line with its points no further apart than a few mm, shape (m, 2)."""
    ways = travelled_mm(points)
    even = np.linspace(0, ways[-1], math.ceil(ways[-1] / _STEP_MM) + 1)
    return np.column_stack([np.interp(even, ways, points[:, axis]) for axis in (0, 1)])


def _lay(tone: Tone, factor: Array, xs: Array, ys: Array) -> None:
    """Take the light of one soft stroke, where it reaches."""
    points = _dense(drawn(tone.path))
    reach = tone.width_mm + _REACH * tone.soft_mm
    columns = slice(*np.searchsorted(xs, [points[:, 0].min() - reach, points[:, 0].max() + reach]).tolist())
    rows = slice(*np.searchsorted(ys, [points[:, 1].min() - reach, points[:, 1].max() + reach]).tolist())
    beyond = np.maximum(_apart(points, xs[columns], ys[rows]) - tone.width_mm, 0) / tone.soft_mm
    factor[rows, columns] *= 1 - tone.dark * np.exp(-0.5 * beyond**2)


def _apart(points: Array, xs: Array, ys: Array) -> Array:
    """Return how far each place of a grid is from a line of points close together, shape (rows, columns), mm."""
    nearest = np.full((len(ys), len(xs)), np.inf, np.float32)
    for x, y in points.astype(np.float32):
        np.minimum(nearest, (xs - x) ** 2 + (ys[:, None] - y) ** 2, out=nearest)
    return np.sqrt(nearest)
