"""What the brush gives, bin by bin: it runs dry with its own travel, and may be loaded again on the way.

A bin that has travelled l holds m e^(-l / L), L the release length; the touch-down counts as a travel of one
chisel thickness. Common practice, no published source, for the law; L is a default until calibrated.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator
from pennello.lay.stroke import Stroke
from pennello.lay.track import Track
from pennello.load.edge import LoadedEdge
from pennello.load.pickup import BINS

Array = NDArray[np.floating[Any]]


@dataclass(frozen=True, slots=True, eq=False)
class Run:
    """A stretch of a stroke from one load.

    Attributes
    ----------
    first, last
        Moments of the track that it runs between.
    edge
        The load that it starts with.
    touch_down
        Share of each bin's paint that the touch-down leaves, shape (64,).
    given
        Share of each bin's paint that each step leaves, shape (last - first, 64).
    left
        Share of each bin's paint that is still in the brush at the end, shape (64,).
    """

    first: int
    last: int
    edge: LoadedEdge
    touch_down: Array
    given: Array
    left: Array

    @property
    def left_edge(self) -> LoadedEdge:
        """What the brush holds at the end."""
        return LoadedEdge(
            self.edge.paints, self.edge.solids * self.left, self.edge.water * self.left, self.edge.width_mm
        )

    @property
    def left_mm3(self) -> float:
        """Solids still in the brush at the end, mm3."""
        return self.left_edge.total_mm3


def runs(
    stroke: Stroke, brush: Applicator, track: Track, loader: Callable[[LoadedEdge | None], LoadedEdge]
) -> list[Run]:
    """Return the stretches of a stroke.

    Parameters
    ----------
    loader
        Gives the edge after a visit to the cake, from the residue (None for a clean brush).
    """
    inside = [at for at in stroke.reload_mm if 0 < at < track.length_mm]
    cuts = [0, *(int(moment) for moment in track.at(np.array(inside))), len(track.s_mm) - 1]
    result: list[Run] = []
    for first, last in pairwise(cuts):
        edge = loader(result[-1].left_edge if result else None)
        result.append(_run(stroke, brush, track, edge, first, last))
    return result


def _run(stroke: Stroke, brush: Applicator, track: Track, edge: LoadedEdge, first: int, last: int) -> Run:
    rate = brush.release_rate(stroke.pressure) / brush.release_mm
    own = track.travel_mm[first : last + 1] - track.travel_mm[first]
    held = np.exp(-rate * (own + track.thickness_mm))
    return Run(first, last, edge, 1 - held[0], held[:-1] - held[1:], held[-1])


def loaded_mm3(stretches: list[Run]) -> float:
    """Return the solids that all visits to the cake put on the brush, less what the cake took back, mm3."""
    before = [0.0, *(run.left_mm3 for run in stretches[:-1])]
    return float(sum(run.edge.total_mm3 - residue for run, residue in zip(stretches, before, strict=True)))


def unit_edge(brush: Applicator) -> LoadedEdge:
    """Return an edge with 1 mm3 per mm of one nameless paint everywhere: what a stroke does with any load."""
    return LoadedEdge(("",), np.ones((1, BINS)), np.zeros(BINS), brush.width_mm)
