"""What the brush gives, bin by bin: it runs dry with its own travel, and may be loaded again on the way.

A bin that has travelled l holds m e^(-l / L), L the release length; the touch-down counts as a travel of one
chisel thickness. Along the chisel and over its own track it gives less per mm (`giving`). A bin that does not touch
gives nothing. Common practice, no published source, for the law; L is a
default until calibrated. A stiff or running-dry load gives unevenly, in streaks: the law then holds for each bin as a
whole.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator
from pennello.kit.contact import BINS
from pennello.lay.giving import giving
from pennello.lay.streaks import broken, lightness
from pennello.lay.stroke import Stroke
from pennello.lay.track import Track
from pennello.load.edge import LoadedEdge

Array = NDArray[np.floating[Any]]


@dataclass(frozen=True, slots=True, eq=False)
class Stretch:
    """A part of a stroke from one load; the same for any load.

    Attributes
    ----------
    first, last
        Moments of the track that it runs between.
    touch_down
        Share of each bin's paint that the touch-down leaves, shape (64,).
    given
        Share of each bin's paint that each step leaves, shape (last - first, 64).
    left
        Share of each bin's paint that is still in the brush at the end, shape (64,).
    """

    first: int
    last: int
    touch_down: Array
    given: Array
    left: Array


@dataclass(frozen=True, slots=True, eq=False)
class LoadRun:
    """A stretch with the load that it starts with."""

    stretch: Stretch
    edge: LoadedEdge

    @property
    def left_edge(self) -> LoadedEdge:
        """What the brush holds at the end."""
        edge, left = self.edge, self.stretch.left
        return replace(edge, solids=edge.solids * left, water=edge.water * left)


def stretches(stroke: Stroke, brush: Applicator, track: Track, drag: float = 0.0) -> tuple[Stretch, ...]:
    """Return the parts of a stroke between its reloads, in order; see `streaks.broken` for drag."""
    inside = [at for at in stroke.reload_mm if 0 < at < track.length_mm]
    cuts = [0, *(int(moment) for moment in track.at(np.array(inside))), len(track.s_mm) - 1]
    full = track.rate[:, None] * track.grade / brush.release_mm
    rate = full * track.touch
    given = track.travel_mm[1:] - track.travel_mm[:-1]
    given *= giving(track)
    given *= (rate[:-1] + rate[1:]) / 2
    given += _set_down(track, full)
    return tuple(_stretch(track, brush, rate, given, first, last, drag) for first, last in pairwise(cuts))


def _set_down(track: Track, full: Array) -> Array:
    """Return what a step adds to a bin's travel because it comes down on the skin, alone or with a whole pat."""
    if len(track.touch) == 1 and not track.press.any():
        return np.zeros((1, BINS))
    touch = np.broadcast_to(track.touch, full.shape) if len(track.touch) > 1 else np.repeat(track.touch, len(full), 0)
    comes = np.where(track.press[:, None], touch[1:], np.clip(np.diff(touch, axis=0), 0, 1))
    return np.asarray(comes * full[1:] * track.thicknesses_mm[1:, None])


def _stretch(
    track: Track, brush: Applicator, rate: Array, travelled: Array, first: int, last: int, drag: float
) -> Stretch:
    given = travelled[first:last]
    held = np.empty((last - first + 1, BINS))
    held[0] = rate[first] * track.thicknesses_mm[first]
    np.cumsum(given, axis=0, out=held[1:])
    held[1:] += held[0]
    np.exp(np.negative(held, out=held), out=held)
    even = held[:-1] - held[1:]
    light = np.zeros(last - first) if brush.kind.pressed else lightness(track.pressure[first:last])
    laid = broken(even, held[:-1], track.s_mm[first:last], track.width_mm, drag, light)
    return Stretch(first, last, 1 - held[0], laid, held[-1])


def loaded_runs(
    parts: tuple[Stretch, ...],
    loader: Callable[[LoadedEdge | None], LoadedEdge],
    residue: LoadedEdge | None = None,
) -> tuple[LoadRun, ...]:
    """Return the runs of a stroke.

    Parameters
    ----------
    loader
        Gives the edge after a visit to the cake, from the residue (None for a clean brush).
    residue
        What the brush holds before the first visit.
    """
    result: list[LoadRun] = []
    for part in parts:
        result.append(LoadRun(part, loader(result[-1].left_edge if result else residue)))
    return tuple(result)


def loaded_mm3(runs: tuple[LoadRun, ...]) -> float:
    """Return the solids of the first load and all that later visits added, less what the cake took back, mm3."""
    before = [0.0, *(run.left_edge.total_mm3 for run in runs[:-1])]
    return float(sum(run.edge.total_mm3 - residue for run, residue in zip(runs, before, strict=True)))
