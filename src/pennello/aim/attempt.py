"""Everything that one stroke depends on, in one value."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import Wanted
from pennello.colour.basis import FULL, Basis
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.lay.laying import Laid, lay
from pennello.lay.stroke import Stroke
from pennello.load.edge import LoadedEdge, axis_of
from pennello.load.recipe import Recipe

Array = NDArray[np.floating[Any]]


class Side(Enum):
    """A corner of the edge."""

    A = "A"
    B = "B"


@dataclass(frozen=True, slots=True, eq=False)
class Attempt:
    """A load, a stroke and a wish on one skin.

    Attributes
    ----------
    cakes, paints
        By id; the cakes that the recipe may reach and all paints that they or the wish name.
    skin
        Reflectance at 36 bands, shape (36,).
    rim
        Corner that lies away from the motif's centre.
    residue
        What the brush holds before it comes to the cake; None for a clean one.
    """

    recipe: Recipe
    stroke: Stroke
    brush: Applicator
    cakes: Mapping[str, Cake]
    paints: Mapping[str, Paint]
    wanted: Wanted
    skin: Array
    rim: Side = Side.A
    residue: LoadedEdge | None = None

    @property
    def axis(self) -> GradientAxis:
        """Which way the loaded edge runs."""
        return axis_of(self.recipe, self.brush, self.residue)

    @property
    def edge_mm(self) -> float:
        """Length of the loaded edge, mm."""
        return self.brush.edge_mm(self.axis)

    def lay(self, px_per_mm: float = 4.0, basis: Basis = FULL) -> Laid:
        """Return the laid stroke; see `lay.laying.lay`."""
        return lay(
            self.recipe,
            self.stroke,
            self.brush,
            self.cakes,
            self.paints,
            px_per_mm=px_per_mm,
            basis=basis,
            residue=self.residue,
        )
