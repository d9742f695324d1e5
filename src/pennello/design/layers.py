"""Edits of what else comes to lie on a chart or is kept free: glitter, stencils, gems, reserved places."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Point
from pennello.design.marks import GEM_MM, RADIUS_MM, SIZE_MM, Gem, Glitter, Mark, Reserved, Stencil
from pennello.design.plan import Plan
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.limits import fitted
from pennello.path.cubic import CubicPath
from pennello.phrases import phrase

Layer = Mark | Reserved
OneLayer = TypeVar("OneLayer", bound=Layer)

LIGHT = "#f4f3ee"
"""The paint of a new stencil (a default)."""


class EmptyStencilError(PennelloError):
    """A stencil without an outline lets nothing through."""


def every_layer(plan: Plan) -> tuple[Layer, ...]:
    """Return what lies over the paint of all charts, then what is kept free."""
    return (*plan.overlays, *plan.reserved)


def layers_on(plan: Plan, key: str) -> tuple[Layer, ...]:
    """Return what lies over the paint of a chart, then what is kept free."""
    return tuple(layer for layer in every_layer(plan) if layer.chart == key)


def layer_named(plan: Plan, name: str) -> Layer:
    """Return a layer by its name; raises UnknownNameError."""
    for layer in every_layer(plan):
        if layer.name == name:
            return layer
    raise UnknownNameError(phrase("layer"), name, [layer.name for layer in every_layer(plan)])


def with_layer(plan: Plan, layer: Layer, instead_of: Layer | None = None) -> Plan:
    """Return the plan with a layer more, or with one in the place of another."""
    if isinstance(layer, Reserved):
        return replace(plan, reserved=_with(plan.reserved, layer, instead_of))
    return replace(plan, overlays=_with(plan.overlays, layer, instead_of))


def _with(layers: tuple[OneLayer, ...], layer: OneLayer, instead_of: Layer | None) -> tuple[OneLayer, ...]:
    kept = [layer if one == instead_of else one for one in layers]
    if instead_of is None:
        kept.append(layer)
    return tuple(kept)


def without_layer(plan: Plan, layer: Layer) -> Plan:
    """Return the plan without a layer."""
    return replace(
        plan,
        overlays=tuple(one for one in plan.overlays if one != layer),
        reserved=tuple(one for one in plan.reserved if one != layer),
    )


def moved_layer(layer: Layer, x_mm: float, y_mm: float) -> Layer:
    """Return a layer with its middle at a point."""
    return replace(layer, x_mm=round(x_mm, 2), y_mm=round(y_mm, 2))


def sized_layer(layer: Layer, half_mm: float) -> Layer:
    """Return a layer with another half width or radius, mm; heights and outlines go with it."""
    if isinstance(layer, Reserved):
        return replace(layer, radius_mm=round(min(max(half_mm, RADIUS_MM[0]), RADIUS_MM[1]), 2))
    least, most = GEM_MM if isinstance(layer, Gem) else SIZE_MM
    width = min(max(2 * half_mm, least), most)
    factor = width / layer.width_mm
    height = min(max(layer.height_mm * factor, SIZE_MM[0]), SIZE_MM[1])
    sized = replace(layer, width_mm=round(width, 2), height_mm=round(height, 2))
    if not isinstance(sized, Stencil):
        return sized
    outlines = tuple(
        CubicPath(tuple((x * factor, y * factor) for x, y in outline.points_mm)) for outline in sized.outlines
    )
    return replace(sized, outlines=outlines)


def half_mm(layer: Layer) -> float:
    """Return half the width of a layer, or its radius, mm."""
    return layer.radius_mm if isinstance(layer, Reserved) else layer.width_mm / 2


def stencil_of(name: str, outlines: tuple[CubicPath, ...], at: Point, chart: str) -> Stencil:
    """Return a stencil with these outlines about their common middle, at a point of a chart, in a light paint.

    Raises
    ------
    EmptyStencilError
        If there is no outline.
    """
    if not outlines:
        raise EmptyStencilError(
            phrase("{name} has no closed outline to sponge through; draw one and save it as a path.", name=name)
        )
    _, (wide, tall), about = _about(outlines)
    return Stencil(name[:60], at[0], at[1], wide, tall, LIGHT, chart, outlines=about)


def amount_of(mark: Mark) -> float:
    """Return how much there is of a mark: grains a cm2, its cover in [0.05, 1], or one gem."""
    if isinstance(mark, Gem):
        return 1.0
    return mark.grains_cm2 if isinstance(mark, Glitter) else mark.cover


def with_amount(mark: Mark, amount: float) -> Mark:
    """Return a mark with another amount: grains a cm2, or its cover.

    Raises
    ------
    OutOfRangeError
        For a gem, of which there is one, or an amount that cannot be.
    """
    if isinstance(mark, Gem):
        raise OutOfRangeError(phrase("amount of {mark}", mark=mark.name), amount, phrase("none: it is one gem"))
    return replace(mark, grains_cm2=amount) if isinstance(mark, Glitter) else replace(mark, cover=amount)


def turned_layer(layer: Layer, turn_deg: float) -> Layer:
    """Return a stencil or gem turned about its middle, degrees.

    Raises
    ------
    OutOfRangeError
        For what has no direction.
    """
    if not isinstance(layer, Stencil | Gem):
        raise OutOfRangeError(
            phrase("turn of {layer}", layer=layer.name), turn_deg, phrase("none: only stencils and gems are turned")
        )
    return replace(layer, turn_deg=round(turn_deg, 1))


def mirrored_layer(layer: Mark, midline_mm: float, name: str) -> Mark:
    """Return a mark's mirror image across a vertical line, under another name."""
    there = replace(layer, name=name, x_mm=round(2 * midline_mm - layer.x_mm, 2))
    if isinstance(there, Glitter):
        return there
    there = replace(there, turn_deg=-there.turn_deg)
    if isinstance(there, Gem):
        return there
    outlines = tuple(CubicPath(tuple((-x, y) for x, y in path.points_mm)) for path in there.outlines)
    return replace(there, outlines=outlines)


def free_name(plan: Plan, word: str) -> str:
    """Return a word with the first number that no layer has yet."""
    taken = {one.name for one in every_layer(plan)}
    numbered = (fitted(word, f" {n}") for n in range(1, len(taken) + 2))
    return next(name for name in numbered if name not in taken)


def _about(paths: tuple[CubicPath, ...]) -> tuple[Point, tuple[float, float], tuple[CubicPath, ...]]:
    """Return the middle of paths, their size, and the same about it."""
    points: NDArray[np.floating[Any]] = np.array([point for path in paths for point in path.points_mm])
    low, high = points.min(axis=0), points.max(axis=0)
    x, y = (round(float(value), 2) for value in (low + high) / 2)
    wide, tall = (round(float(value), 2) for value in np.clip(high - low, *SIZE_MM))
    about = tuple(CubicPath(tuple((a - x, b - y) for a, b in path.points_mm)) for path in paths)
    return (x, y), (wide, tall), about
