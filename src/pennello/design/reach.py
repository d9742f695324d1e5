"""Where strokes reach on a chart, and how much of a base's edges later strokes hide."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.design.on_chart import pieces_on
from pennello.design.placed import LaidPiece, PlacedMotif
from pennello.design.plan import Plan
from pennello.lay.laying import pull
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]

BASE = "base"
"""The part of a motif whose edges may be hidden under later strokes, or seen."""

_STATIONS = 60


def track_of(plan: Plan, piece: LaidPiece) -> Track:
    """Return the way of a stroke's edge over the chart."""
    source = plan.stroke(piece.load)
    brush = plan.brush(source.brush)
    return pull(piece.stroke, brush, source.recipe.axis(brush)).track


def reach_of(plan: Plan, piece: LaidPiece) -> Array:
    """Return both edges of a stroke's ribbon and its middle as points, shape (n, 2), mm."""
    track = track_of(plan, piece)
    every = max(1, len(track.s_mm) // _STATIONS)
    return track.points(np.arange(0, len(track.s_mm), every), np.linspace(0, 1, 7)).reshape(-1, 2)


def inside(points: Array, polygon: Array) -> NDArray[np.bool_]:
    """Return which points lie inside a closed polygon, by crossings to the right."""
    x, y = points[:, 0][:, None], points[:, 1][:, None]
    x0, y0 = polygon[:, 0], polygon[:, 1]
    x1, y1 = np.roll(x0, -1), np.roll(y0, -1)
    rising = (y0 > y) != (y1 > y)
    with np.errstate(divide="ignore", invalid="ignore"):
        crossing = x0 + (y - y0) * (x1 - x0) / (y1 - y0)
    return np.asarray((rising & (x < crossing)).sum(axis=1) % 2 == 1)


def outline_of(plan: Plan, piece: LaidPiece) -> Array:
    """Return the outline of a stroke's ribbon, along edge A and back along edge B, shape (n, 2), mm."""
    edges = edges_of(plan, piece)
    return np.concatenate([edges[0], edges[1][::-1]])


def edges_of(plan: Plan, piece: LaidPiece) -> Array:
    """Return edges A and B of a stroke's ribbon, shape (2, n, 2), mm."""
    track = track_of(plan, piece)
    every = max(1, len(track.s_mm) // _STATIONS)
    return track.points(np.arange(0, len(track.s_mm), every), np.array([0.0, 1.0])).swapaxes(0, 1)


def hidden_edges(plan: Plan, placed: PlacedMotif) -> tuple[float, float] | None:
    """Return the shares of a base's edges A and B that strokes painted after it hide; None for what is no base."""
    pieces = pieces_on(plan, placed.chart)
    mine = [number for number, piece in enumerate(pieces) if piece.motif == placed.id and piece.part == BASE]
    if not mine:
        return None
    later = [outline_of(plan, piece) for piece in pieces[mine[-1] + 1 :] if piece.motif != placed.id]
    edges = edges_of(plan, pieces[mine[0]])
    shares = [
        float(np.any([inside(edge, outline) for outline in later], axis=0).mean()) if later else 0.0 for edge in edges
    ]
    return shares[0], shares[1]
