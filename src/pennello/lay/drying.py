"""Drying: a wet film loses its wetness as e^(-t / tau); tau grows with its thickness.

Common practice, no published source.
Wet, tacky and dry are thresholds on the wetness; they and tau are defaults until a stopwatch calibrates them.
"""

from __future__ import annotations

import math
from enum import Enum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import OutOfRangeError

Array = NDArray[np.floating[Any]]

COAT_UM = 15.0
TAU_S = 25.0
"""Time constant of a film of 15 um, s (a default)."""

TACKY, DRY = 0.45, 0.1
"""Below these wetnesses a film is tacky, and dry (defaults)."""

ALL_WET, ALL_DRY = 0.985, 0.015


class Touch(Enum):
    """What a film is like under a finger."""

    WET = "wet"
    TACKY = "tacky"
    DRY = "dry"


def tau_s(film_um: Array, tau_coat_s: float = TAU_S) -> Array:
    """Return time constants, s, of films of a thickness, um: in proportion, from 3 um up."""
    return np.asarray(tau_coat_s * np.maximum(film_um, 3.0) / COAT_UM)


def wetness(film_um: Array, age_s: Array, tau_coat_s: float = TAU_S) -> Array:
    """Return the wetness of films, in [0, 1]; close to its ends it counts as 1 or 0."""
    wet = np.exp(-np.maximum(age_s, 0.0) / tau_s(film_um, tau_coat_s))
    return np.asarray(np.where(wet > ALL_WET, 1.0, np.where(wet < ALL_DRY, 0.0, wet)))


def touch(wet: float) -> Touch:
    """Return what a wetness feels like."""
    return Touch.WET if wet >= TACKY else Touch.TACKY if wet >= DRY else Touch.DRY


def time_to(wet: float, film_um: float = COAT_UM, tau_coat_s: float = TAU_S) -> float:
    """Return after how long a film has only this wetness left, s."""
    if not 0 < wet <= 1:
        raise OutOfRangeError("wetness", wet, "above 0, up to 1")
    return float(-math.log(wet) * tau_s(np.array(film_um), tau_coat_s))


def tau_from_dry(dry_after_s: float, film_um: float = COAT_UM) -> float:
    """Return the time constant of a 15 um coat from the time after which a film was dry to the touch, s.

    >>> round(tau_from_dry(60), 2)
    26.06
    """
    if not 1 <= dry_after_s <= 86_400:
        raise OutOfRangeError("drying time", dry_after_s, "1 to 86400 s")
    return float(dry_after_s / -math.log(DRY) * COAT_UM / max(film_um, 3.0))
