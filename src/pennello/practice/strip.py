"""A straight stroke square to its brush, without a canvas: what lies where along it.

The law is the one of the engine (`lay.reservoir`): a bin that has travelled s holds m exp(-rate (s + t) / L), so that
the film there is 1000 m rate / L times that, um; then it levels along the edge. Thousands of such strokes are needed to
fit a brush to a photo of some; `tests/practice/test_strip.py` holds them against strokes that are laid.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.quick import levelling_matrix
from pennello.colour.kubelka_munk import film
from pennello.kit.applicator import Applicator
from pennello.kit.contact import contact
from pennello.load.edge import LoadedEdge

Array = NDArray[np.floating[Any]]

UM_PER_MM = 1000.0


def held_share(travel_mm: Array, release_mm: float, bend: float = 1.0) -> Array:
    """Return what of a load is left after travels, in [0, 1]: exp(-(l / L)^bend); the program's own law has bend 1."""
    return np.asarray(np.exp(-((travel_mm / release_mm) ** bend)))


def strip_um(edge: LoadedEdge, brush: Applicator, s_mm: Array, pressure: float = 0.5, bend: float = 1.0) -> Array:
    """Return the film of each paint along a straight stroke.

    Parameters
    ----------
    s_mm
        Places along the stroke, mm from its start, shape (n,).
    pressure
        0 to 1.
    bend
        Exponent of the release; see `held_share`.

    Returns
    -------
    um, shape (n, paints, 64), bins from A to B.
    """
    made = contact(brush, edge.axis, np.array([pressure]))
    rate, thick, wide = float(made.release_rate[0]), float(made.thickness_mm[0]), float(made.edge_mm[0])
    near, far = ((s_mm + thick + step) * rate for step in (-0.25, 0.25))
    laid = (held_share(near, brush.release_mm, bend) - held_share(far, brush.release_mm, bend)) / 0.5
    levelled = edge.solids @ levelling_matrix(edge.width_mm)
    return np.asarray(laid[:, None, None] * levelled[None] * (UM_PER_MM * brush.width_mm / wide))


def seen(um: Array, k: Array, s: Array, ground: Array) -> Array:
    """Return the reflectance of films over grounds.

    Parameters
    ----------
    um
        Film of each paint, um, shape (n, paints, places).
    k, s
        Per um, shape (paints, bands) each.
    ground
        Reflectance below, shape (n, bands) or (bands,).

    Returns
    -------
    Shape (n, places, bands).
    """
    thick = um.transpose(0, 2, 1)
    below = ground if ground.ndim == 1 else ground[:, None, :]
    return film(thick @ k, thick @ s, below)
