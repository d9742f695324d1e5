"""One stroke from load to film on dry skin."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import FULL, Basis
from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS, contact
from pennello.kit.paint import Paint, optics
from pennello.lay.canvas import Canvas, canvas_for
from pennello.lay.coverage import swept_coverage
from pennello.lay.deposit import DROP_MM, Imprint, deposit, imprint
from pennello.lay.film import Film, optical_contents, to_film
from pennello.lay.reservoir import Run, Stretch, loaded_mm3, loaded_runs, stretches
from pennello.lay.stroke import Stroke
from pennello.lay.track import Track, follow
from pennello.load.edge import LoadedEdge, load
from pennello.load.recipe import Recipe

Array = NDArray[np.floating[Any]]

PX_PER_MM = (0.5, 64.0)


@dataclass(frozen=True, slots=True, eq=False)
class Ground:
    """What a stroke does whatever the load.

    Attributes
    ----------
    coverage
        Swept part of each pixel of the canvas, shape (rows, columns).
    stretches, imprints
        Between reloads: what each bin gives, and where it falls.
    """

    track: Track
    canvas: Canvas
    coverage: Array
    stretches: tuple[Stretch, ...]
    imprints: tuple[Imprint, ...]


@dataclass(frozen=True, slots=True, eq=False)
class Pull:
    """A stroke's way and what each bin gives on it; no canvas yet."""

    track: Track
    stretches: tuple[Stretch, ...]


@lru_cache(maxsize=1024)
def pull(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> Pull:
    """Return how a stroke moves the brush and empties it."""
    track = follow(stroke, contact(brush, axis, stroke.pressure), DROP_MM, lambda force: contact(brush, axis, force))
    return Pull(track, stretches(stroke, brush, track))


@lru_cache(maxsize=6)
def ground(stroke: Stroke, brush: Applicator, axis: GradientAxis, px_per_mm: float) -> Ground:
    """Return the ground of a stroke; kept, since dragging the brush along the cake changes none of it."""
    way = pull(stroke, brush, axis)
    canvas = canvas_for(way.track, px_per_mm)
    marks = tuple(imprint(way.track, part, canvas) for part in way.stretches)
    return Ground(way.track, canvas, swept_coverage(way.track, canvas), way.stretches, marks)


def runs_of(
    recipe: Recipe,
    stroke: Stroke,
    brush: Applicator,
    cakes: Mapping[str, Cake],
    residue: LoadedEdge | None = None,
) -> tuple[Run, ...]:
    """Return the loads of a stroke one after another, each with what it leaves in the brush."""
    way = pull(stroke, brush, recipe.axis(brush))
    return loaded_runs(way.stretches, lambda left: load(recipe, cakes, brush, left), residue)


@dataclass(frozen=True, slots=True)
class Volumes:
    """Solids that the brush took up, laid, and still holds, mm3. Laid is counted on the skin, left in the brush."""

    loaded_mm3: float
    laid_mm3: float
    left_mm3: float


@dataclass(frozen=True, slots=True, eq=False)
class Laid:
    """A stroke on the skin with all that led to it."""

    edge: LoadedEdge
    track: Track
    runs: tuple[Run, ...]
    film: Film
    volumes: Volumes


def lay(
    recipe: Recipe,
    stroke: Stroke,
    brush: Applicator,
    cakes: Mapping[str, Cake],
    paints: Mapping[str, Paint],
    *,
    px_per_mm: float = 4.0,
    basis: Basis = FULL,
    residue: LoadedEdge | None = None,
) -> Laid:
    """Return the stroke that a load lays.

    Parameters
    ----------
    cakes, paints
        By id; all that the recipe reaches must be there.
    px_per_mm
        Resolution of the film, 0.5 to 64.
    basis
        Bands of the film: all 36, or a small set for pictures.
    residue
        What the brush held before it came to the cake, or None for a clean one.

    Raises
    ------
    UnknownNameError
        If the recipe names a cake that is not there.
    OutOfRangeError
        If the resolution is outside its range.
    CanvasTooLargeError
        If the film would have too many pixels.
    """
    if not PX_PER_MM[0] <= px_per_mm <= PX_PER_MM[1]:
        raise OutOfRangeError("resolution", px_per_mm, "0.5 to 64 pixels per mm")
    under = ground(stroke, brush, recipe.axis(brush), px_per_mm)
    runs = runs_of(recipe, stroke, brush, cakes, residue)
    first = runs[0].edge
    constants = optics(tuple(paints[name] for name in first.paints)).at(basis)
    contents = [optical_contents(run.edge.solids, constants) for run in runs]
    laid = deposit(list(under.imprints), contents, first.width_mm / BINS, under.canvas, under.coverage)
    volumes = Volumes(loaded_mm3(runs), float(laid.volumes_mm3.sum()), runs[-1].left_edge.total_mm3)
    return Laid(first, under.track, runs, to_film(laid, constants, basis), volumes)
