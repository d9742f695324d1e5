"""What of the brush touches along a stroke: width, thickness and bins, where pressure, part and lift change them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.contact import BINS, Contact
from pennello.lay.stroke import Exit, Stroke
from pennello.path.cubic import length_mm

Array = NDArray[np.floating[Any]]

_LEVELS = 21
_LEAST_LIFT_MM = 1e-6
LIGHTEST = 0.05
"""Pressure at the very end of a lift (a default)."""


@dataclass(frozen=True, slots=True, eq=False)
class Grip:
    """The contact at n moments.

    Attributes
    ----------
    width_mm, thickness_mm, rate
        Edge, thickness, and how fast paint is given, shape (n,).
    touch
        Part of each bin that touches, in [0, 1], shape (n, 64), or (1, 64) where it never changes.
    """

    width_mm: Array
    thickness_mm: Array
    rate: Array
    touch: Array


def grip_of(
    stroke: Stroke, usual: Contact, fraction: Array, contact_at: Callable[[float], Contact] | None = None
) -> Grip:
    """Return the contact at fractions of a stroke; between 21 pressures it is interpolated."""
    count = len(fraction)
    if stroke.plain or contact_at is None:
        width, thickness, rate = (
            np.full(count, value) for value in (usual.edge_mm, usual.thickness_mm, usual.release_rate)
        )
        return Grip(width, thickness, rate, usual.touching[None])
    left = _left_mm(stroke, fraction)
    lifting = np.clip(1 - left / stroke.lift_mm, 0, 1) if stroke.lift_mm > _LEAST_LIFT_MM else np.zeros(count)
    usual_pressure = stroke.pressure_at(fraction)
    pressure = usual_pressure + (np.minimum(LIGHTEST, usual_pressure) - usual_pressure) * lifting
    levels = np.linspace(0, 1, _LEVELS)
    known = [contact_at(float(level)) for level in levels]
    width, thickness, rate = (
        np.interp(pressure, levels, [getattr(one, name) for one in known])
        for name in ("edge_mm", "thickness_mm", "release_rate")
    )
    if stroke.exit is not Exit.EDGE:  # a corner leaves last: the edge keeps its width and tips onto that corner
        width = np.interp(usual_pressure, levels, [one.edge_mm for one in known])
    touch = _touching(known, pressure) * _part(stroke.part) * _leaving(stroke.exit, lifting)
    return Grip(width, thickness, rate, np.asarray(touch))


def _left_mm(stroke: Stroke, fraction: Array) -> Array:
    return (1 - fraction) * length_mm(stroke.path)


def _touching(known: list[Contact], pressure: Array) -> Array:
    place = np.clip(pressure, 0, 1) * (_LEVELS - 1)
    low = np.minimum(place.astype(np.intp), _LEVELS - 2)
    part = (place - low)[:, None]
    table = np.array([one.touching for one in known])
    return np.asarray(table[low] * (1 - part) + table[low + 1] * part)


def _part(part: tuple[float, float]) -> Array:
    """Return how much of each bin lies in the part, shape (64,)."""
    edges = np.arange(BINS + 1) / BINS
    return np.diff(np.clip(edges, *part)) * BINS


def _leaving(exit_: Exit, lifting: Array) -> Array:
    """Return how much of each bin still touches while the brush tips onto a corner, shape (n, 64)."""
    if exit_ is Exit.EDGE:
        return np.ones((1, BINS))
    edges = np.arange(BINS + 1) / BINS
    still = np.maximum(1 - lifting, 1 / BINS)[:, None]
    touching = np.diff(np.clip(edges[None], 0, still), axis=1) * BINS
    return touching if exit_ is Exit.A else touching[:, ::-1]
