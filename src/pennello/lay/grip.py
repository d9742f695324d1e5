"""What of the brush touches along a stroke: width, thickness and bins, as pressure, lean, part and lift have it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.contact import BINS, bin_places, contact, rounded_where_cut, sides
from pennello.lay.stroke import Exit, Stroke, keyed
from pennello.path.cubic import length_mm

Array = NDArray[np.floating[Any]]

_LEAST_LIFT_MM = 1e-6
LIGHTEST = 0.05
"""Pressure at the very end of a lift (a default)."""

_EDGES = np.arange(BINS + 1) / BINS


@dataclass(frozen=True, slots=True, eq=False)
class Grip:
    """The contact at n moments.

    Attributes
    ----------
    width_mm, thickness_mm, rate
        Edge, thickness, and how fast paint is given, shape (n,).
    low, high
        From where to where the edge touches, u, shape (n,).
    touch
        Part of each bin that touches, in [0, 1], shape (n, 64), or (1, 64) where it never changes.
    grade
        How much more or less than the mean a bin is pressed on, shape (n, 64) or (1, 64): a tilted brush.
    form_low, form_high
        From where to where the tool's outline is drawn together, u, shape (n,).
    near, far
        Sides of the contact, in thicknesses, shape (n, 64), or (1, 64) where they never change.
    """

    width_mm: Array
    thickness_mm: Array
    rate: Array
    low: Array
    high: Array
    touch: Array
    grade: Array
    form_low: Array
    form_high: Array
    near: Array
    far: Array


def grip_of(stroke: Stroke, brush: Applicator, axis: GradientAxis, fraction: Array) -> Grip:
    """Return the contact at fractions of a stroke, shape (n,)."""
    usual = stroke.pressure_at(fraction)
    lifting = _lifting(stroke, fraction)
    pressure = usual + (np.minimum(LIGHTEST, usual) - usual) * lifting
    lean = keyed(stroke.leans, fraction) if stroke.leans else 0.0
    made = contact(brush, axis, pressure, lean)
    width = made.edge_mm
    if stroke.exit is not Exit.EDGE:  # a corner leaves last: the edge keeps its width and tips onto that corner
        width = contact(brush, axis, usual).edge_mm
    low, high = _ends(stroke, fraction, lifting, made.low, made.high)
    ends = _once(np.stack([low, np.maximum(high, low)], axis=1))
    touch = np.diff(np.minimum(np.maximum(_EDGES[None], ends[:, :1]), ends[:, 1:]), axis=1) * BINS
    form_low, form_high = made.low, np.maximum(made.high, made.low)
    form = _once(np.stack([form_low, form_high], axis=1))
    near, far = sides(brush, axis, form[:, 0], form[:, 1])
    if brush.kind.pressed and not stroke.parts and stroke.part != (0.0, 1.0):
        near, far = rounded_where_cut(brush, stroke.part, near, far)
    return Grip(
        width,
        made.thickness_mm,
        made.release_rate,
        low,
        high,
        _once(touch),
        _once(_grade(stroke, fraction)),
        form_low,
        form_high,
        _once(near),
        _once(far),
    )


def _lifting(stroke: Stroke, fraction: Array) -> Array:
    """Return how far the brush has lifted off at its end, in [0, 1], shape (n,)."""
    if stroke.lift_mm <= _LEAST_LIFT_MM:
        return np.zeros(len(fraction))
    left = (1 - fraction) * length_mm(stroke.path)
    return np.asarray(np.clip(1 - left / stroke.lift_mm, 0, 1))


def _ends(stroke: Stroke, fraction: Array, lifting: Array, low: Array, high: Array) -> tuple[Array, Array]:
    """Return from where to where the edge touches once part, tilt and a corner's lift are taken off it."""
    part_low, part_high = stroke.part_at(fraction)
    low, high = np.maximum(low, part_low), np.minimum(high, part_high)
    on_a, on_b = _up_to_corner(stroke, fraction, lifting)
    return np.maximum(low, 1 - on_b), np.minimum(high, on_a)


def _up_to_corner(stroke: Stroke, fraction: Array, lifting: Array) -> tuple[Array, Array]:
    """Return how much of the edge still touches from corner A on, and from corner B on, shape (n,) each."""
    on_a, on_b = np.ones(len(fraction)), np.ones(len(fraction))
    still = np.maximum(1 - lifting, 1 / BINS)
    if stroke.exit is Exit.A:
        on_a = still
    elif stroke.exit is Exit.B:
        on_b = still
    if stroke.tilts:
        tilt = keyed(stroke.tilts, fraction)
        held = np.clip(2 * (1 - np.abs(tilt)), 1 / BINS, 1)
        on_a = np.where(tilt < 0, np.minimum(on_a, held), on_a)
        on_b = np.where(tilt > 0, np.minimum(on_b, held), on_b)
    return on_a, on_b


def _grade(stroke: Stroke, fraction: Array) -> Array:
    """Return how much more or less each bin is pressed on, mean 1 over the edge, shape (n, 64) or (1, 64)."""
    if not stroke.tilts:
        return np.ones((1, BINS))
    tilt = keyed(stroke.tilts, fraction)[:, None]
    return np.asarray(1 + np.clip(2 * tilt, -1, 1) * (2 * bin_places()[None] - 1))


def _once(values: Array) -> Array:
    """Return the first row alone where all rows are the same."""
    first = values[:1]
    return first if len(values) > 1 and bool((values == first).all()) else values
