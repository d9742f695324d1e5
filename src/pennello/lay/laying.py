"""One stroke from load to film on dry skin."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import FULL, Basis
from pennello.errors import OutOfRangeError
from pennello.kept import kept, kept_for_now
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS
from pennello.kit.paint import Paint, optics
from pennello.lay import channels
from pennello.lay.canvas import Canvas, canvas_for
from pennello.lay.coverage import swept_coverage
from pennello.lay.deposit import DROP_MM, Imprint, deposit, drops_across, imprint
from pennello.lay.engine import REFERENCE, best
from pennello.lay.film import Film, to_film
from pennello.lay.frame import own_frame
from pennello.lay.motion import Motion, motion_of
from pennello.lay.reservoir import LoadRun, Stretch, loaded_mm3, loaded_runs, stretches
from pennello.lay.skin_film import Engine, Pulling
from pennello.lay.stipple import stippled, thinned
from pennello.lay.stroke import Stroke
from pennello.lay.track import Track, follow
from pennello.load.edge import LoadedEdge, axis_of, bled, load
from pennello.load.recipe import Recipe
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

PX_PER_MM = (0.5, 64.0)
KERNEL_BANDS = 8
"""Bands of the pixel path, which the kernel is compiled for."""


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


@kept_for_now
def pull(stroke: Stroke, brush: Applicator, axis: GradientAxis, drag: float = 0.0) -> Pull:
    """Return how a stroke moves the brush and empties it; drag is how stiff the load is.

    It is worked out in the stroke's own frame, on a grid of a micrometre, and laid down where it belongs.
    """
    own = own_frame(stroke)
    if own is None:
        return _pulled(stroke, brush, axis, drag)
    made = _pulled(own[0], brush, axis, drag)
    return Pull(own[1].placed(made.track), made.stretches)


@kept
def moved(stroke: Stroke, brush: Applicator, axis: GradientAxis, drag: float = 0.0) -> tuple[Track, Motion]:
    """Return how a brush goes along a stroke, at any resolution, and its events; once for all that are alike."""
    own = own_frame(stroke)
    if own is None:
        return _moved(stroke, brush, axis, drag)
    track, motion = _moved(own[0], brush, axis, drag)
    return own[1].placed(track), own[1].placed_motion(motion)


@kept_for_now
def _moved(stroke: Stroke, brush: Applicator, axis: GradientAxis, drag: float) -> tuple[Track, Motion]:
    made = _pulled(stroke, brush, axis, drag)
    slim = replace(made.track, travel_mm=np.asarray(made.track.travel_mm, np.float32))
    return slim, motion_of(made.track, made.stretches)


@kept_for_now
def _pulled(stroke: Stroke, brush: Applicator, axis: GradientAxis, drag: float) -> Pull:
    track = follow(stroke, brush, axis, DROP_MM)
    return Pull(track, stretches(stroke, brush, track, drag))


@kept
def ground(stroke: Stroke, brush: Applicator, axis: GradientAxis, px_per_mm: float, drag: float = 0.0) -> Ground:
    """Return the ground of a stroke; kept, since dragging the brush along the cake changes none of it."""
    way = pull(stroke, brush, axis, drag)
    canvas = canvas_for(way.track, px_per_mm)
    marks = tuple(imprint(way.track, part, canvas) for part in way.stretches)
    return Ground(way.track, canvas, swept_coverage(way.track, canvas), way.stretches, marks)


def runs_of(
    recipe: Recipe,
    stroke: Stroke,
    brush: Applicator,
    cakes: Mapping[str, Cake],
    residue: LoadedEdge | None = None,
) -> tuple[LoadRun, ...]:
    """Return the loads of a stroke one after another, each with what it leaves in the brush."""
    own = own_frame(stroke)
    way = _pulled(stroke if own is None else own[0], brush, axis_of(recipe, brush, residue), recipe.drag)
    force = stroke.most_pressure
    return loaded_runs(way.stretches, lambda left: bled(load(recipe, cakes, brush, left), force), residue)


@dataclass(frozen=True, slots=True)
class Volumes:
    """Solids that the brush took up, laid, and still holds, mm3. Laid is counted on the skin, left in the brush."""

    loaded_mm3: float
    laid_mm3: float
    left_mm3: float


@dataclass(frozen=True, slots=True, eq=False)
class Laid:
    """A stroke on the skin with all that led to it.

    Attributes
    ----------
    film
        As it is seen: that of a sponge with its stippled rim and pores.
    even
        Without that texture, to be measured.
    """

    edge: LoadedEdge
    track: Track
    runs: tuple[LoadRun, ...]
    film: Film
    even: Film
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
    engine: Engine | None = None,
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
    engine
        Who does the work on pixels; the kernel as soon as it serves, for films of 8 bands.

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
        raise OutOfRangeError("resolution", px_per_mm, phrase("0.5 to 64 pixels per mm"))
    doer = engine or best()
    if doer is not REFERENCE and len(basis.weights) == KERNEL_BANDS:
        return _laid_by(doer, recipe, stroke, brush, cakes, paints, px_per_mm, basis, residue)
    under = ground(stroke, brush, axis_of(recipe, brush, residue), px_per_mm, recipe.drag)
    runs = runs_of(recipe, stroke, brush, cakes, residue)
    first = runs[0].edge
    constants = optics(tuple(paints[name] for name in first.paints)).at(basis)
    contents = [run.edge.solids for run in runs]
    laid = deposit(list(under.imprints), contents, first.width_mm / BINS, under.canvas, under.coverage)
    volumes = Volumes(loaded_mm3(runs), float(laid.volumes_mm3.sum()), runs[-1].left_edge.total_mm3)
    even = to_film(laid, constants, basis)
    return Laid(first, under.track, runs, _textured(even, under.track), even, volumes)


def _textured(even: Film, track: Track) -> Film:
    """Return a film with a sponge's texture in it; that of a brush as it is."""
    weight = stippled(even.thickness_um, even.coverage, track, even.canvas)
    if weight is None:
        return even
    kx, sx = (
        thinned(depth.transpose(0, 2, 1), weight, even.thickness_um).transpose(0, 2, 1) for depth in (even.kx, even.sx)
    )
    solids = thinned(even.thickness_um[..., None], weight, even.thickness_um)[..., 0]
    return Film(even.canvas, even.basis, kx, sx, solids, even.coverage * weight)


@dataclass(frozen=True, slots=True, eq=False)
class _Way:
    """What the kernel needs of a stroke whatever the load."""

    motion: Motion
    canvas: Canvas
    coverage: Array


@kept
def _way(stroke: Stroke, brush: Applicator, axis: GradientAxis, px_per_mm: float, engine: Engine, drag: float) -> _Way:
    made = pull(stroke, brush, axis, drag)
    canvas = canvas_for(made.track, px_per_mm)
    return _Way(motion_of(made.track, made.stretches), canvas, engine.cover(made.track, canvas))


def _laid_by(
    engine: Engine,
    recipe: Recipe,
    stroke: Stroke,
    brush: Applicator,
    cakes: Mapping[str, Cake],
    paints: Mapping[str, Paint],
    px_per_mm: float,
    basis: Basis,
    residue: LoadedEdge | None,
) -> Laid:
    """Return the stroke laid on dry skin by an engine."""
    axis, drag = axis_of(recipe, brush, residue), recipe.drag
    made, way = pull(stroke, brush, axis, drag), _way(stroke, brush, axis, px_per_mm, engine, drag)
    runs = runs_of(recipe, stroke, brush, cakes, residue)
    contents = np.array([bin_contents(run.edge, paints, basis) for run in runs])
    many = contents.shape[2]
    drops = drops_across(made.track.width_mm / BINS, px_per_mm)
    pulling = Pulling(contents, np.ones((len(runs), BINS)), np.zeros((BINS, many)), drops, uptake=0.0)
    nothing = np.zeros((way.canvas.rows, way.canvas.columns, many), np.float32)
    change, _ = engine.change(nothing, way.coverage, way.motion, way.canvas, pulling)
    change = _all_of_it(change, runs, contents, px_per_mm)
    kx, sx = (
        np.ascontiguousarray(depth.transpose(0, 2, 1))
        for depth in (channels.depth_k(change), channels.depth_s(change, basis))
    )
    film = Film(way.canvas, basis, kx, sx, change[..., channels.SOLIDS], way.coverage)
    laid_mm3 = float(change[..., channels.SOLIDS].sum(dtype=np.float64)) / px_per_mm**2 / 1000
    volumes = Volumes(loaded_mm3(runs), laid_mm3, runs[-1].left_edge.total_mm3)
    return Laid(runs[0].edge, made.track, runs, _textured(film, made.track), film, volumes)


def _all_of_it(change: Array, runs: tuple[LoadRun, ...], contents: Array, px_per_mm: float) -> Array:
    """Return a film that holds all that the brush gave: what fell where no pixel is covered is shared out."""
    given = sum(
        float(((1 - run.stretch.left) * held[:, channels.SOLIDS]).sum())
        for run, held in zip(runs, contents, strict=True)
    )
    there = float(change[..., channels.SOLIDS].sum(dtype=np.float64)) / px_per_mm**2 / 1000
    return np.asarray(change * np.float32(given / there)) if there > 0 else change


def bin_contents(edge: LoadedEdge, paints: Mapping[str, Paint], basis: Basis) -> Array:
    """Return what each bin holds, as channels of a film times mm3, shape (64, bands + 4)."""
    used = tuple(paints[name] for name in edge.paints)
    return channels.of_paints(edge.solids, edge.water, used, basis) * (edge.width_mm / BINS)
