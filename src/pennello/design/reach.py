"""Where strokes reach on a chart, and how much of a base's edges later strokes hide."""

from __future__ import annotations

from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray

from pennello.design.on_chart import pieces_on
from pennello.design.placed import LaidPiece, PlacedMotif
from pennello.design.plan import Plan
from pennello.design.touch import hidden_share, swept
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.lay.laying import pull
from pennello.lay.stroke import Stroke

Array = NDArray[np.floating[Any]]

BASE = "base"
"""The part of a motif whose edges may be hidden under later strokes, or seen."""

_STATIONS = 60


def edges_of(plan: Plan, piece: LaidPiece) -> Array:
    """Return edges A and B of a stroke's ribbon, shape (2, n, 2), mm."""
    source = plan.stroke(piece.load)
    return edges_along(piece.stroke, plan.brush(source.brush), plan.axis(source.id))


def edges_along(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> Array:
    """Return edges A and B of the ribbon of a stroke of a brush, shape (2, n, 2), mm."""
    track = pull(stroke, brush, axis).track
    every = max(1, len(track.s_mm) // _STATIONS)
    return track.points(np.arange(0, len(track.s_mm), every), np.array([0.0, 1.0])).swapaxes(0, 1)


def hidden_edges(plan: Plan, placed: PlacedMotif) -> tuple[float, float] | None:
    """Return the shares of a base's edges A and B that strokes painted after it hide; None for what is no base."""
    pieces = pieces_on(plan, placed.chart)
    mine = [number for number, piece in enumerate(pieces) if piece.motif == placed.id and piece.part == BASE]
    if not mine:
        return None
    later = [swept(plan, piece) for piece in pieces[mine[-1] + 1 :] if piece.motif != placed.id]
    covers = shapely.union_all(later)
    one, other = edges_of(plan, pieces[mine[0]])
    return hidden_share(one, covers), hidden_share(other, covers)
