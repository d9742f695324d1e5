"""A way led over the screen without paint, scored like a painted try: its edge is what the brush would touch on it."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from pennello.design.touch import touched
from pennello.errors import PennelloError
from pennello.lay.track import follow
from pennello.path.fit import fitted_path
from pennello.phrases import phrase
from pennello.practice.sheet import Practised
from pennello.practice.tries import TryScore, filled, fitted_slip, told

Array = NDArray[np.floating[Any]]

_STEP_MM, _EDGE_MM, _GOOD_TO_MM = 1.5, 0.8, 0.3
_SHORTEST_MM = 4.0


class TraceProblemError(PennelloError):
    """What was led over the screen is no stroke that can be scored."""


def score_trace(what: Practised, way_mm: Array, number: int = 1) -> TryScore:
    """Return a traced stroke, scored: the brush as the stroke holds it, led along the hand's way.

    Parameters
    ----------
    way_mm
        The way about the middle of what is practised, mm, shape (n, 2).

    Raises
    ------
    TraceProblemError
        If it is too short, or what is practised is not one stroke.
    """
    if what.single is None:
        raise TraceProblemError(phrase("{what} is more than one stroke; trace one of them.", what=what.name))
    if len(way_mm) < 2 or float(np.ptp(way_mm, axis=0).max()) < _SHORTEST_MM:
        raise TraceProblemError(phrase("That was too short to be scored; lead the pointer all along the outline."))
    stroke, brush, axis = what.single
    path = fitted_path([(float(x), float(y)) for x, y in way_mm], _GOOD_TO_MM)
    shape = filled(touched(follow(replace(stroke, path=path), brush, axis, _STEP_MM)))
    edge = shapely.get_coordinates(shapely.segmentize(shape.boundary, _EDGE_MM))
    some = np.random.default_rng(1).permutation(len(edge))[:160]
    slip, left = fitted_slip(edge[some], float(shape.area), what)
    meant = shapely.affinity.translate(filled(what.shape), slip.right_mm, slip.down_mm)
    overlap = float(shape.intersection(meant).area / shape.union(meant).area)
    off = float(shapely.hausdorff_distance(shape.boundary, meant.boundary, densify=0.2))
    wobble = float(np.sqrt(np.mean(left**2)))
    words = told(slip, what, overlap, wobble, None)
    return TryScore(number, overlap, off, None, None, None, 0.0, None, wobble, slip, words)
