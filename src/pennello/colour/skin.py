"""Skin by its individual typology angle, ITA = atan((L* - 50) / b*).

Classes: A. Chardon, I. Cretois, C. Hourseau, International Journal of Cosmetic Science 13 (1991) 191-208, with the
limits in use today: above 55, 41, 28, 10, -30 degrees, and dark below (limits from memory). The
b* and a* that belong to an angle are a default from memory of typical readings; L* follows from the angle and
b*, so the angle itself is exact.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.lab import lab_to_xyz
from pennello.colour.observer import xyz_to_rgb
from pennello.colour.recover import reflectance_from_srgb
from pennello.colour.srgb import encode
from pennello.errors import OutOfRangeError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

ITA_RANGE = (-60.0, 70.0)
ITA_STEPS = (65.0, 57.0, 48.0, 40.0, 32.0, 24.0, 16.0, 6.0, -8.0, -22.0, -38.0, -52.0)
"""Twelve skins offered to choose from, very light to dark, degrees."""

_CLASSES = (
    (55, phrase("very light")),
    (41, phrase("light")),
    (28, phrase("intermediate")),
    (10, phrase("tan")),
    (-30, phrase("brown")),
)
_ANGLES = (-60, -45, -30, -15, 0, 10, 20, 28, 41, 50, 60, 70)
_A_STAR = (7.5, 9.0, 10.5, 11.5, 12.0, 12.0, 11.5, 11.0, 9.5, 8.5, 7.0, 6.0)
_B_STAR = (10.5, 13.0, 15.5, 17.0, 18.0, 19.0, 19.5, 19.0, 17.0, 15.0, 12.0, 8.5)


def ita_class(ita_deg: float) -> str:
    """Return the class of an angle in degrees.

    >>> ita_class(60), ita_class(41), ita_class(-30.5)
    ('very light', 'intermediate', 'dark')
    """
    return next((name for above, name in _CLASSES if ita_deg > above), phrase("dark"))


def ita_deg(lab: Array) -> float:
    """Return the angle in degrees of L*, a*, b*, shape (3,)."""
    return float(np.degrees(np.arctan2(lab[0] - 50, lab[2])))


def skin_lab(ita: float) -> Array:
    """Return L*, a*, b*, shape (3,), of the default skin with this angle in [-60, 70] degrees.

    Raises
    ------
    OutOfRangeError
        If the angle is outside that range.
    """
    if not ITA_RANGE[0] <= ita <= ITA_RANGE[1]:
        raise OutOfRangeError(phrase("skin angle (ITA)"), ita, "-60 to 70 degrees")
    b_star = np.interp(ita, _ANGLES, _B_STAR)
    return np.array([50 + b_star * np.tan(np.radians(ita)), np.interp(ita, _ANGLES, _A_STAR), b_star])


def skin_reflectance(ita: float) -> Array:
    """Return the reflectance, shape (36,), of the default skin with this angle in degrees."""
    return reflectance_from_srgb(encode(xyz_to_rgb(lab_to_xyz(skin_lab(ita)))))
