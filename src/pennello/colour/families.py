"""Colour families in plain words: red, orange, ... grey, by hue, chroma and lightness in Oklab.

Hue is taken in Oklab, whose hue lines keep blue blue (in CIELAB they run into violet). Source of the space:
[Ottosson2020]. The borders of the families are defaults; tests hold them against the colour names of CSS [CSSColor4].
"""

from __future__ import annotations

from enum import Enum
from typing import Any

import numpy as np
from numpy.typing import ArrayLike, NDArray

from pennello.colour.lab import lab_to_xyz
from pennello.colour.observer import xyz_to_rgb

Array = NDArray[np.floating[Any]]

_TO_LMS = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
_TO_LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
GREY_CHROMA = 0.038
"""Chroma in Oklab below which a colour counts as white, grey or black (a default)."""

_WHITE, _BLACK = 0.87, 0.35
_DULL, _DARK, _PALE = 0.125, 0.62, 0.72


class ColourFamily(Enum):
    """A colour family; its value is the word for it."""

    RED = "red"
    ORANGE = "orange"
    YELLOW = "yellow"
    GREEN = "green"
    TURQUOISE = "turquoise"
    BLUE = "blue"
    PURPLE = "purple"
    PINK = "pink"
    BROWN = "brown"
    WHITE = "white"
    GREY = "grey"
    BLACK = "black"

    @property
    def neutral(self) -> bool:
        """Whether it has no hue."""
        return self in _NEUTRAL


_NEUTRAL = (ColourFamily.WHITE, ColourFamily.GREY, ColourFamily.BLACK)
_FROM_DEG = (
    (10.0, ColourFamily.PINK),
    (40.0, ColourFamily.RED),
    (80.0, ColourFamily.ORANGE),
    (112.0, ColourFamily.YELLOW),
    (166.0, ColourFamily.GREEN),
    (212.0, ColourFamily.TURQUOISE),
    (287.0, ColourFamily.BLUE),
    (335.0, ColourFamily.PURPLE),
    (360.0, ColourFamily.PINK),
)
"""Where each family ends on the hue circle of Oklab, degrees."""


def oklab(lab: ArrayLike) -> Array:
    """Return Oklab L (0 to 1), a, b, shape (..., 3), of CIE L*, a*, b*. Source: [Ottosson2020].

    >>> oklab([100.0, 0.0, 0.0]).round(3).tolist()
    [1.0, 0.0, 0.0]
    """
    return np.asarray(np.cbrt(xyz_to_rgb(lab_to_xyz(lab)) @ _TO_LMS.T) @ _TO_LAB.T)


def chroma_of(lab: ArrayLike) -> Array:
    """Return chroma in Oklab, shape (...), of L*, a*, b*; 0 for a grey, some 0.3 at most in sRGB."""
    found = oklab(lab)
    return np.asarray(np.hypot(found[..., 1], found[..., 2]))


def families_of(lab: ArrayLike) -> tuple[ColourFamily, ...]:
    """Return the family of each colour, of L*, a*, b*, shape (n, 3)."""
    return tuple(_ORDER[number] for number in _numbers(oklab(lab)).tolist())


_ORDER = tuple(ColourFamily)
_END_DEG = np.array([end for end, _ in _FROM_DEG])
_BY_HUE = np.array([_ORDER.index(family) for _, family in _FROM_DEG])


def _numbers(found: Array) -> NDArray[np.intp]:
    """Return the number of the family of each Oklab colour, shape (n, 3)."""
    light, a, b = np.moveaxis(found, -1, 0)
    chroma, hue = np.hypot(a, b), np.degrees(np.arctan2(b, a)) % 360
    family: NDArray[np.intp] = _BY_HUE[np.minimum(np.searchsorted(_END_DEG, hue), len(_END_DEG) - 1)]

    def named(*ones: ColourFamily) -> NDArray[np.bool_]:
        return np.isin(family, [_ORDER.index(one) for one in ones])

    def put(where: NDArray[np.bool_], one: ColourFamily) -> None:
        family[where] = _ORDER.index(one)

    dull = chroma < _DULL + 0.03 * (light < _DARK)
    put(named(ColourFamily.ORANGE, ColourFamily.YELLOW) & (light < _DARK + 0.15) & dull, ColourFamily.BROWN)
    dark_pink = named(ColourFamily.PINK) & (light < 0.5)
    put(named(ColourFamily.RED) & (light > _PALE), ColourFamily.PINK)
    put(dark_pink & (hue > 180), ColourFamily.PURPLE)
    put(dark_pink & (hue <= 180), ColourFamily.RED)
    grey = chroma < GREY_CHROMA
    put(grey, ColourFamily.GREY)
    put(grey & (light > _WHITE), ColourFamily.WHITE)
    put(grey & (light < _BLACK), ColourFamily.BLACK)
    return family
