"""Where a patted stroke sets its contact down: along a way, or over the place that the way encloses."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import OutOfRangeError
from pennello.lay.stroke import MOST_PATS, NibMode, Over, Stroke
from pennello.path.cubic import length_mm, parameter_at, position
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

_TOO_MANY = phrase("at most {most_pats}: take a larger tool, less overlap or a smaller place", most_pats=MOST_PATS)


@dataclass(frozen=True, slots=True, eq=False)
class PatPlaces:
    """n pats in order.

    Attributes
    ----------
    fraction
        How far along the stroke each is, in [0, 1], rising, shape (n,).
    at_mm
        Where the middle of the contact comes down, mm, shape (n, 2).
    turn
        By how much each is turned, radians, shape (n,).
    """

    fraction: Array
    at_mm: Array
    turn: Array


def pat_places(stroke: Stroke, width_mm: float, thickness_mm: float) -> PatPlaces:
    """Return where the pats of a stroke come down.

    Parameters
    ----------
    width_mm, thickness_mm
        Size of the contact, > 0 mm.

    Raises
    ------
    OutOfRangeError
        If there would be too many.
    """
    pats = stroke.pats
    assert pats is not None
    over_place = pats.over is Over.PLACE and length_mm(stroke.path) > 0
    fraction, at = (_over_place if over_place else _along)(stroke, width_mm, thickness_mm, 1 - pats.overlap)
    if len(at) > MOST_PATS:
        raise OutOfRangeError(phrase("number of pats"), len(at), _TOO_MANY)
    spread = math.radians(pats.turn_deg)
    turn = np.random.default_rng(pats.seed).uniform(-spread, spread, len(at))
    return PatPlaces(fraction, at, -turn if pats.mirrored else turn)


def _along(stroke: Stroke, width_mm: float, thickness_mm: float, apart: float) -> tuple[Array, Array]:
    total = length_mm(stroke.path)
    if total <= 0:
        return np.zeros(1), position(stroke.path, np.zeros(1))
    along = math.radians(stroke.nib.angle_deg)
    size = width_mm * abs(math.cos(along)) + thickness_mm * abs(math.sin(along))  # a following nib: from travel
    if stroke.nib.mode is NibMode.FIXED:
        size = (width_mm + thickness_mm) / 2
    count = max(2, math.ceil(total / (size * apart)) + 1)
    if count > MOST_PATS:
        raise OutOfRangeError(phrase("number of pats"), count, _TOO_MANY)
    fraction = np.linspace(0, 1, count)
    return fraction, position(stroke.path, parameter_at(stroke.path, fraction * total))


def _over_place(stroke: Stroke, width_mm: float, thickness_mm: float, apart: float) -> tuple[Array, Array]:
    """Return a lattice of pats inside the place, in rows to and fro, so that stripes stay on their line."""
    outline = position(stroke.path, np.linspace(0, stroke.path.curves, 48 * stroke.path.curves + 1))
    angle = math.radians(stroke.nib.angle_deg)
    edge = np.array([math.cos(angle), math.sin(angle)])
    turned = np.stack([outline @ edge, outline @ np.array([-edge[1], edge[0]])], axis=1)
    low, high = turned.min(axis=0), turned.max(axis=0)
    sizes = (width_mm, thickness_mm)
    steps = [_lattice(float(a), float(b), size, apart) for a, b, size in zip(low, high, sizes, strict=True)]
    if len(steps[0]) * len(steps[1]) > 8 * MOST_PATS:
        raise OutOfRangeError(phrase("number of pats"), len(steps[0]) * len(steps[1]), _TOO_MANY)
    found = []
    for number, across in enumerate(steps[1][::-1] if stroke.pats is not None and stroke.pats.mirrored else steps[1]):
        row = np.stack([steps[0], np.full(len(steps[0]), across)], axis=1)
        inside = row[_inside(row, turned)]
        found.append(inside if number % 2 == 0 else inside[::-1])
    at = np.concatenate(found)
    if not len(at):
        at = (low + high)[None] / 2
    back = at[:, :1] * edge + at[:, 1:] * np.array([-edge[1], edge[0]])
    return np.linspace(0, 1, len(at)) if len(at) > 1 else np.zeros(1), back


def _lattice(low: float, high: float, size: float, apart: float) -> Array:
    """Return middles of pats between two bounds: the outer ones lie within them, the others evenly between."""
    if high - low <= size:
        return np.array([(low + high) / 2])
    count = math.ceil((high - low - size) / (size * apart)) + 1
    return np.linspace(low + size / 2, high - size / 2, min(count, 8 * MOST_PATS))


def _inside(points: Array, outline: Array) -> NDArray[np.bool_]:
    """Return which points an outline encloses (by crossings), shapes (n, 2) and (m, 2)."""
    x, y = points[:, :1], points[:, 1:]
    start, end = outline, np.roll(outline, -1, axis=0)
    between = (start[:, 1] > y) != (end[:, 1] > y)
    rise = end[:, 1] - start[:, 1]
    cross = start[:, 0] + (y - start[:, 1]) / np.where(np.abs(rise) < 1e-12, 1.0, rise) * (end[:, 0] - start[:, 0])
    return np.asarray((between & (x < cross)).sum(axis=1) % 2 == 1)
