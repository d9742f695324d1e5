"""What of an applicator touches: the edge cut into 64 bins, how thick the contact is at each, and which of them touch.

The outlines are plain curves that look like the tools; common practice, no published source.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kept import kept_small, remembered
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis

Array = NDArray[np.floating[Any]]

BINS = 64
"""Bins of a loaded edge."""

LIGHTEST_TOUCH = 0.3
"""Pressure from which the heel of an angle brush touches too (a default)."""

LEAN_SHARE = 0.6
"""Share of the bristles that comes to lie on the skin under full pressure when the brush is laid flat (a default)."""

BROAD_BELLY = 0.35
"""By how much a round's print grows from half to full pressure (a default)."""

CORNER_MM = 5.0
"""Radius of a block sponge's corners, mm (a default)."""

_BELLY_U = 0.62  # where a print is widest, from its tip


@dataclass(frozen=True, slots=True, eq=False)
class Contact:
    """An applicator on skin at n moments, each with a pressure of its own.

    Attributes
    ----------
    edge_mm
        Length of the whole edge, mm, shape (n,).
    thickness_mm
        Greatest thickness of the contact square to the edge, mm, shape (n,).
    release_rate
        How much faster than at medium pressure paint is given, shape (n,).
    low, high
        From where to where the edge touches, u in [0, 1], shape (n,).
    """

    edge_mm: Array
    thickness_mm: Array
    release_rate: Array
    low: Array
    high: Array


@remembered(1)
def bin_places() -> Array:
    """Return u of the bin centres, shape (64,); not to be written to."""
    places = (np.arange(BINS) + 0.5) / BINS
    places.flags.writeable = False
    return places


@kept_small
def profile(brush: Applicator, axis: GradientAxis) -> Array:
    """Return how thick the contact is at each bin against its thickest, in (0, 1], shape (64,)."""
    near, far = _sides(brush, axis, bin_places())
    return np.asarray(far - near)


def contact(brush: Applicator, axis: GradientAxis, pressure: Array, lean_deg: Array | float = 0.0) -> Contact:
    """Return what touches under pressures.

    Parameters
    ----------
    pressure
        In [0, 1], shape (n,); the nominal sizes hold at 0.5.
    lean_deg
        How far the brush is laid over, 0 (upright) to 70 degrees, shape (n,) or one for all: bristles that lie on the
        skin make the contact thicker by 0.6 of their length times pressure times the sine. A sponge does not lean.
    """
    force = np.atleast_1d(np.asarray(pressure, np.float64))
    across = contact_width_mm(brush, force)
    low, high = touching_ends(brush, axis, force)
    thick: Array
    if brush.kind.pressed:
        thick = brush.thickness_mm * (1 + brush.splay * (force - 0.5))
    elif axis is GradientAxis.ALONG:
        thick = across
    else:
        laid_over = LEAN_SHARE * brush.bristle_mm * force * np.sin(np.radians(lean_deg))
        thick = brush.thickness_mm * (0.5 + force) + laid_over
    edge = np.full(len(force), brush.print_mm) if axis is GradientAxis.ALONG else across
    return Contact(edge, np.asarray(thick), 0.5 + force, low, high)


def contact_width_mm(brush: Applicator, pressure: Array | float) -> Array:
    """Return the width on the skin, mm, at pressures in [0, 1]; the nominal width at 0.5.

    A pointed brush grows from its tip to its belly and on to a broad belly, any other only splays.
    """
    force = np.asarray(pressure, np.float64)
    splayed = brush.width_mm * (1 + brush.splay * (force - 0.5))
    if not brush.kind.dips:
        return np.asarray(splayed)
    tip = min(brush.tip_mm, brush.width_mm)
    grown = np.where(force < 0.5, (2 * force) ** 0.8, 1 + BROAD_BELLY * (2 * force - 1))
    return np.asarray(tip + (splayed - tip) * grown)


def touching_ends(brush: Applicator, axis: GradientAxis, pressure: Array) -> tuple[Array, Array]:
    """Return from where to where the edge touches under pressures, u, shape (n,) each: continuous in the pressure."""
    force = np.atleast_1d(np.asarray(pressure, np.float64))
    low, high = np.zeros(len(force)), np.ones(len(force))
    if axis is GradientAxis.ALONG:  # tip first, then belly
        high = np.minimum(1.0, 0.2 + 1.6 * force)
    elif brush.kind is ApplicatorKind.ANGLE:  # toe first
        high = np.clip(force / LIGHTEST_TOUCH, 0.1, 1.0)
    elif brush.kind is ApplicatorKind.FILBERT:  # the rounded end first
        half = np.minimum(0.5, 0.2 + 0.75 * force)
        low, high = 0.5 - half, 0.5 + half
    return low, high


@kept_small
def outline(brush: Applicator, axis: GradientAxis) -> Array:
    """Return both sides of a contact in 65 even steps along what touches of it, in thicknesses, shape (2, 65).

    Not to be written to.
    """
    both = np.array(_sides(brush, axis, np.linspace(0, 1, BINS + 1)))
    both.flags.writeable = False
    return both


def sides(brush: Applicator, axis: GradientAxis, low: Array, high: Array) -> tuple[Array, Array]:
    """Return the contact's two sides at each bin, in thicknesses from the edge's line, (n, 64) each; far > near.

    What touches is a whole, smaller print whatever part of the edge it is: its ends are as rounded as the tool's.
    """
    span = np.maximum(high - low, 1.0 / BINS)[:, None]
    u = np.clip((bin_places()[None] - low[:, None]) / span, 0.5 / BINS, 1 - 0.5 / BINS)
    near, far = _sides(brush, axis, u)
    return np.broadcast_to(near, u.shape), np.broadcast_to(far, u.shape)


def footprint(brush: Applicator, axis: GradientAxis = GradientAxis.ACROSS, pressure: float = 0.5) -> Array:
    """Return the outline of the contact, mm, shape (n, 2): x along the edge, y square to it, the middle at 0."""
    shape = contact(brush, axis, np.array([pressure]))
    low, high = float(shape.low[0]), float(shape.high[0])
    u = np.linspace(0, 1, 97)
    near, far = _sides(brush, axis, u)
    x = (low + u * (high - low) - 0.5) * shape.edge_mm[0]
    lower, upper = (np.stack([x, side * shape.thickness_mm[0]], axis=1) for side in (near, far))
    return np.concatenate([lower, upper[::-1]])


def rounded_where_cut(brush: Applicator, part: tuple[float, float], near: Array, far: Array) -> tuple[Array, Array]:
    """Return the sides of a sponge of which only a part is put down: no straight cut, its new ends are round too.

    Parameters
    ----------
    part
        From and to, u.
    near, far
        Sides at each bin, in thicknesses, shape (n, 64).
    """
    u = bin_places()
    away = np.full(BINS, np.inf)
    if part[0] > 0:
        away = np.minimum(away, u - part[0])
    if part[1] < 1:
        away = np.minimum(away, part[1] - u)
    radius = min(CORNER_MM, brush.thickness_mm / 2, (part[1] - part[0]) * brush.width_mm / 2)
    inwards = np.clip(1 - np.maximum(away, 0) * brush.width_mm / radius, 0, 1)
    less = 2 * radius / brush.thickness_mm * (1 - np.sqrt(1 - inwards**2))
    middle, half = (near + far) / 2, np.maximum((far - near) / 2 * (1 - less), 1e-3)
    return middle - half, middle + half


def _sides(brush: Applicator, axis: GradientAxis, u: Array) -> tuple[Array, Array]:
    if axis is GradientAxis.ALONG:
        half = _teardrop(u, brush.tip_mm / brush.width_mm) / 2
        return -half, half
    if brush.kind is ApplicatorKind.BLOCK_SPONGE:
        return _rounded(u, brush.width_mm, brush.thickness_mm)
    outline = _OUTLINES.get(brush.kind, _rectangle)
    return outline(u)


def _rounded(u: Array, width_mm: float, thickness_mm: float) -> tuple[Array, Array]:
    """Return a rectangle whose corners are rounded off: no sponge has a razor-sharp one."""
    radius = min(CORNER_MM, thickness_mm / 2, width_mm / 2)
    inwards = np.clip(1 - np.minimum(u, 1 - u) * width_mm / radius, 0, 1)
    half = 0.5 - radius / thickness_mm * (1 - np.sqrt(1 - inwards**2))
    return -half, half


def _rectangle(u: Array) -> tuple[Array, Array]:
    half = np.full_like(u, 0.5)
    return -half, half


def _oval(u: Array) -> tuple[Array, Array]:
    half = 0.5 * np.sqrt(np.maximum(1 - np.abs(2 * u - 1) ** 4, 1e-3))
    return -half, half


def _disc(u: Array) -> tuple[Array, Array]:
    half = 0.5 * np.sqrt(np.maximum(1 - (2 * u - 1) ** 2, 1e-4))
    return -half, half


def _half_disc(u: Array) -> tuple[Array, Array]:
    return np.full_like(u, -0.5), np.sqrt(np.maximum(1 - (2 * u - 1) ** 2, 1e-4)) - 0.5


def _petal(u: Array) -> tuple[Array, Array]:
    half = _teardrop(u, 0.08) / 2
    return -half, half


def _teardrop(u: Array, tip: float) -> Array:
    """Return the width of a teardrop from its point at u = 0, rounded at u = 1, against its widest."""
    point = min(max(tip, 0.02), 1.0)
    rising = point + (1 - point) * np.sin(math.pi / 2 * np.clip(u / _BELLY_U, 0, 1))
    falling = np.sqrt(np.maximum(1 - (np.clip(u - _BELLY_U, 0, None) / (1 - _BELLY_U)) ** 2 * 0.97, 0.0))
    return np.asarray(rising * falling)


_OUTLINES: dict[ApplicatorKind, Callable[[Array], tuple[Array, Array]]] = {
    ApplicatorKind.FILBERT: _oval,
    ApplicatorKind.PETAL_BRUSH: _disc,
    ApplicatorKind.ROUND: _disc,
    ApplicatorKind.LINER: _disc,
    ApplicatorKind.PETAL_SPONGE: _petal,
    ApplicatorKind.HALF_CIRCLE_SPONGE: _half_disc,
    ApplicatorKind.DAUBER: _disc,
}
