"""How a coat of what lies across an edge looks on skin, many at once, and how far it is from what is wanted.

The edge model of the solvers: a brush lays a coat of one thickness, as thick as the stroke leaves on average; where it
runs pale and how it levels only the laid film knows, and that has the last word.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import Wanted, wanted_at_end, wanted_lab
from pennello.colour.basis import FULL, Basis
from pennello.colour.difference import ciede2000
from pennello.colour.kubelka_munk import film, volume_shares
from pennello.kept import kept
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.paint import Paint, PaintOptics
from pennello.lay.laying import pull
from pennello.lay.stroke import Stroke

Array = NDArray[np.floating[Any]]

SAMPLES = 32
"""Places across the edge at which a load is compared."""


@dataclass(frozen=True, slots=True, eq=False)
class Goal:
    """What is wanted across an edge.

    Attributes
    ----------
    labs
        L*, a*, b* at each place, for the start and, where the wish changes, the end: shape (1 or 2, 32, 3).
    """

    labs: Array

    def difference(self, lab: Array) -> Array:
        """Return dE00 at each place, mean of start and end, shape (..., 32), of laid colours, shape (..., 32, 3)."""
        found = [ciede2000(lab, goal) for goal in self.labs]
        return found[0] if len(found) == 1 else np.asarray((found[0] + found[1]) / 2)

    @property
    def flipped(self) -> Goal:
        """What is wanted with the corners exchanged."""
        return Goal(self.labs[:, ::-1])


def goal_for(wanted: Wanted, width_mm: float, paints: Mapping[str, Paint], skin: Array) -> Goal:
    """Return what is wanted across an edge of a width, mm."""
    ends = [wanted] if not wanted.end else [wanted, wanted_at_end(wanted)]
    return Goal(np.array([wanted_lab(one, SAMPLES, width_mm, paints, skin) for one in ends]))


def coat_lab(shares: Array, constants: PaintOptics, coat_um: float, skin: Array, basis: Basis = FULL) -> Array:
    """Return a coat of mixtures on skin as L*, a*, b*.

    Parameters
    ----------
    shares
        Volumes of the paints, >= 0, shape (..., paints).
    constants
        Their optics at the bands of `basis`.
    coat_um
        Thickness of the coat, um.
    skin
        Reflectance at 36 bands.

    Returns
    -------
    Shape (..., 3).
    """
    weights = volume_shares(shares)
    kx, sx = weights @ constants.k * coat_um, weights @ constants.s * coat_um
    return basis.lab(film(kx, sx, basis.pick(skin)))


@kept
def laid_um(stroke: Stroke, brush: Applicator, axis: GradientAxis, solids: float) -> float:
    """Return how thick a stroke leaves a full load on average, um.

    Parameters
    ----------
    solids
        Share of a creamy load's solids, by its wetness.
    """
    way = pull(stroke, brush, axis)
    given = sum(float((part.touch_down + part.given.sum(axis=0)).mean()) for part in way.stretches)
    held = brush.capacity_mm3_per_mm * solids * brush.edge_mm(axis)
    steps = np.diff(way.track.s_mm, prepend=0.0)
    area = float((steps * way.track.ribbon_mm).sum()) + way.track.thickness_mm * way.track.width_mm
    return max(given * held / max(area, 1e-6) * 1000, 0.5)
