"""How applicators look from the side, to scale: bristles or sponge, for pictures. Plain curves, common practice."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator, ApplicatorKind
from pennello.kit.contact import footprint

Array = NDArray[np.floating[Any]]

_POINTS = 33
_FERRULE_SHARE = 0.72  # of a round brush's belly


def side_outline(brush: Applicator) -> Array:
    """Return the outline of bristles or sponge, mm, shape (n, 2).

    x runs along the edge from A to B with the middle at 0, y from what touches first (0) towards the handle. A sponge
    is seen from its face: its footprint, with y from -t/2 to t/2 moved to begin at 0.
    """
    if brush.kind.pressed:
        outline = footprint(brush)
        return np.asarray(outline - np.array([0.0, outline[:, 1].min()]))
    u = np.linspace(-0.5, 0.5, _POINTS)
    tip = _tip_line(brush, u)
    top = np.stack([u * brush.width_mm, np.minimum(tip, brush.bristle_mm * 0.95)], axis=1)
    if brush.kind.dips:
        top = _pointed(brush)
    root = ferrule_mm(brush) / 2
    return np.concatenate([top, [[root, brush.bristle_mm], [-root, brush.bristle_mm]]])


def ferrule_mm(brush: Applicator) -> float:
    """Return the width of the ferrule where the bristles leave it, mm."""
    return brush.width_mm * (_FERRULE_SHARE if brush.kind.dips else 1.0)


def _tip_line(brush: Applicator, u: Array) -> Array:
    if brush.kind is ApplicatorKind.ANGLE:
        return (u + 0.5) * brush.width_mm * math.tan(math.radians(brush.cut_deg))
    if brush.kind is ApplicatorKind.FILBERT:
        return np.asarray((1 - np.sqrt(1 - np.abs(2 * u) ** 2.5 * 0.999)) * brush.width_mm * 0.4)
    return np.zeros(len(u))


def _pointed(brush: Applicator) -> Array:
    """Return both flanks of a pointed brush from the ferrule's left over the tip to its right."""
    along = np.linspace(1, 0, _POINTS)
    tip, belly, root = brush.tip_mm / 2, brush.width_mm / 2, ferrule_mm(brush) / 2
    swelling = np.sin(math.pi * np.minimum(along / 0.62, 1) / 2)
    narrowing = np.clip((along - 0.62) / 0.38, 0, 1)
    half = np.where(along <= 0.62, tip + (belly - tip) * swelling, belly + (root - belly) * narrowing**1.5)
    left = np.stack([-half, along * brush.bristle_mm], axis=1)
    return np.concatenate([left, (left * np.array([-1, 1]))[::-1]])
