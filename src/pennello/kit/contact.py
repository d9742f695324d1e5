"""What of an applicator touches: the edge cut into 64 bins, how thick the contact is at each, and which of them touch.

The outlines are plain curves that look like the tools; common practice, no published source.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis

Array = NDArray[np.floating[Any]]

BINS = 64
"""Bins of a loaded edge."""

LIGHTEST_TOUCH = 0.3
"""Pressure from which the heel of an angle brush touches too (a default)."""

_BELLY_U = 0.62  # where a print is widest, from its tip


@dataclass(frozen=True, slots=True, eq=False)
class Contact:
    """An applicator on skin under one pressure.

    Attributes
    ----------
    edge_mm
        Length of the edge on the skin, mm.
    thickness_mm
        Greatest thickness of the contact square to the edge, mm.
    near, far
        The contact's two sides at each bin, mm from the edge's line, shape (64,); far > near.
    touching
        Part of each bin that touches, in [0, 1], shape (64,).
    release_rate
        How much faster than at medium pressure paint is given.
    """

    edge_mm: float
    thickness_mm: float
    near: Array
    far: Array
    touching: Array
    release_rate: float

    @property
    def square(self) -> bool:
        """Whether the contact is a plain rectangle."""
        return bool((self.far - self.near).min() >= self.thickness_mm * (1 - 1e-9) and self.touching.min() >= 1)


def bin_places() -> Array:
    """Return u of the bin centres, shape (64,)."""
    return (np.arange(BINS) + 0.5) / BINS


@lru_cache(maxsize=128)
def profile(brush: Applicator, axis: GradientAxis) -> Array:
    """Return how thick the contact is at each bin against its thickest, in (0, 1], shape (64,)."""
    near, far = _sides(brush, axis, bin_places())
    return np.asarray(far - near)


@lru_cache(maxsize=128)
def contact(brush: Applicator, axis: GradientAxis, pressure: float) -> Contact:
    """Return what touches at a pressure in [0, 1]; the nominal sizes hold at 0.5."""
    along = axis is GradientAxis.ALONG
    thickness = brush.width_mm if along else brush.thickness_mm
    across = contact_width_mm(brush, pressure)
    near, far = _sides(brush, axis, bin_places())
    thick = thickness * (0.5 + pressure) if not along else across
    if brush.kind.pressed:
        thick = thickness * (1 + brush.splay * (pressure - 0.5))
    return Contact(
        edge_mm=brush.print_mm if along else across,
        thickness_mm=thick,
        near=near * thick,
        far=far * thick,
        touching=_touching(brush, axis, pressure),
        release_rate=0.5 + pressure,
    )


def contact_width_mm(brush: Applicator, pressure: float) -> float:
    """Return the width on the skin, mm, at a pressure in [0, 1]; the nominal width at 0.5.

    A pointed brush grows from its tip to its belly, any other only splays.
    """
    splayed = brush.width_mm * (1 + brush.splay * (pressure - 0.5))
    if not brush.kind.dips:
        return splayed
    tip = min(brush.tip_mm, brush.width_mm)
    return tip + (splayed - tip) * math.pow(min(1.0, 2 * pressure), 0.8)


def footprint(brush: Applicator, axis: GradientAxis = GradientAxis.ACROSS, pressure: float = 0.5) -> Array:
    """Return the outline of the contact, mm, shape (n, 2): x along the edge, y square to it, the middle at 0."""
    shape = contact(brush, axis, pressure)
    u = np.linspace(0, 1, 97)
    near, far = _sides(brush, axis, u)
    x = (u - 0.5) * shape.edge_mm
    lower, upper = (np.stack([x, side * shape.thickness_mm], axis=1) for side in (near, far))
    return np.concatenate([lower, upper[::-1]])


def _touching(brush: Applicator, axis: GradientAxis, pressure: float) -> Array:
    edges = np.arange(BINS + 1) / BINS
    low, high = 0.0, 1.0
    if axis is GradientAxis.ALONG:  # tip first, then belly
        high = min(1.0, 0.2 + 1.6 * pressure)
    elif brush.kind is ApplicatorKind.ANGLE:  # toe first
        high = min(1.0, max(pressure / LIGHTEST_TOUCH, 0.1))
    elif brush.kind is ApplicatorKind.FILBERT:  # the rounded end first
        half = min(0.5, 0.2 + 0.75 * pressure)
        low, high = 0.5 - half, 0.5 + half
    return np.diff(np.clip(edges, low, high)) * BINS


def _sides(brush: Applicator, axis: GradientAxis, u: Array) -> tuple[Array, Array]:
    if axis is GradientAxis.ALONG:
        half = _teardrop(u, brush.tip_mm / brush.width_mm) / 2
        return -half, half
    outline = _OUTLINES.get(brush.kind, _rectangle)
    return outline(u)


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
