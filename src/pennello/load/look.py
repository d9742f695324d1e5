"""How a cake's face and a loaded edge look: paint thick enough to hide, mixed as it lies."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import small_basis
from pennello.colour.kubelka_munk import hiding_reflectance, mix
from pennello.colour.lights import Light
from pennello.kit.cake import Cake, Portion
from pennello.kit.paint import Paint, optics
from pennello.load.edge import LoadedEdge
from pennello.load.pickup import blurred_stripes

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

_BANDS = 8
BARE = (189, 185, 180)
"""sRGB bytes of a clean bristle."""


def edge_colours(edge: LoadedEdge, paints: Mapping[str, Paint], light: Light = Light.DAYLIGHT) -> Picture:
    """Return the sRGB bytes of the 64 bins in a light, shape (64, 3); a bin without paint is a clean bristle's grey."""
    colours = _hiding_colours(edge.share.T, tuple(paints[name] for name in edge.paints), light)
    colours[edge.volume_mm3_per_mm <= 0] = BARE
    return colours


def cake_colours(cake: Cake, paints: Mapping[str, Paint], count: int) -> Picture:
    """Return the sRGB bytes of equal strips across the cake's face, left to right, shape (count, 3)."""
    strips = np.linspace(0, cake.width_mm, count + 1)
    shares = blurred_stripes(cake, strips, cake.softness_mm)
    return _hiding_colours(shares.T, tuple(paints[stripe.paint] for stripe in cake.stripes))


def pan_colour(pan: tuple[Portion, ...], paints: Mapping[str, Paint]) -> Picture:
    """Return the sRGB bytes of what is mixed in a pan, shape (3,)."""
    parts = np.array([[portion.amount for portion in pan]])
    return np.asarray(_hiding_colours(parts / parts.sum(), tuple(paints[portion.paint] for portion in pan))[0])


def _hiding_colours(shares: Array, paints: tuple[Paint, ...], light: Light = Light.DAYLIGHT) -> Picture:
    basis = small_basis(_BANDS, light)
    constants = optics(paints).at(basis)
    k, s = mix(shares, constants.k, constants.s)
    return np.rint(basis.srgb(hiding_reflectance(k, s)) * 255).astype(np.uint8)
