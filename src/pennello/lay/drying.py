"""Drying: water leaves a film at a constant rate per area until only the solids are left.

Wetness is the water left against what a creamy film of the same solids has: 1 for creamy paint just laid. Thin and
nearly dry films are dry in seconds, thick and too wet ones late. Wet, tacky and dry are thresholds on it. What is dry
is only stacked upon; what is wetter mixes in part with what is laid over it. Order, checks and film all ask here.
Common practice, no published source; rate, thresholds and mixing are defaults until a stopwatch calibrates the rate.
"""

from __future__ import annotations

from enum import Enum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import OutOfRangeError
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

COAT_UM = 20.0
"""The usual coat: solids of a film as a full creamy brush lays it, um (a default)."""

DRY_AFTER_S = 40.0
"""After so long the usual creamy coat is dry, s (a default). Common practice: the outer petals of a rose are gone over
once two buds are painted, 40 to 60 s later."""

TACKY, DRY = 0.45, 0.1
"""Below these wetnesses a film is tacky, and dry (defaults)."""

MIXING = 0.6
"""Share of a film just laid, creamy, that mixes with what one stroke lays over it (a default)."""


class Touch(Enum):
    """What a film is like under a finger."""

    WET = "wet"
    TACKY = "tacky"
    DRY = "dry"


def evaporation_um_s(dry_after_s: float = DRY_AFTER_S) -> float:
    """Return how much water leaves in a second, um of creamy water, if the usual coat is dry after so long.

    Parameters
    ----------
    dry_after_s
        1 to 86,400 s.

    Raises
    ------
    OutOfRangeError
        If the time is outside its range.

    >>> evaporation_um_s(40)
    0.45
    """
    if not 1 <= dry_after_s <= 86_400:
        raise OutOfRangeError(phrase("drying time"), dry_after_s, "1 to 86400 s")
    return (1 - DRY) * COAT_UM / dry_after_s


def wetness(film_um: Array, water_um: Array, age_s: Array, rate_um_s: float) -> Array:
    """Return the wetness of films after a time, >= 0; 0 where there is no film.

    Parameters
    ----------
    film_um, water_um
        Solids, and the water that they were laid with (as much as creamy paint has: the same number), um.
    age_s
        Time since they were laid, s.
    rate_um_s
        What leaves, see `evaporation_um_s`.
    """
    left = np.maximum(np.asarray(water_um) - rate_um_s * np.maximum(age_s, 0.0), 0.0)
    film = np.asarray(film_um, np.float64)
    return np.divide(left, film, out=np.zeros(np.broadcast(left, film).shape), where=film > 0)


def mixing_share(wet: Array) -> Array:
    """Return which share of a film of a wetness mixes with what is laid over it, in [0, 1]; 0 for what is dry.

    It grows as MIXING ((w - dry) / (1 - dry))^2.

    >>> float(mixing_share(np.array(DRY))), float(mixing_share(np.array(1.0)))
    (0.0, 0.6)
    """
    above = np.maximum(np.asarray(wet) - DRY, 0.0) / (1 - DRY)
    return np.asarray(np.minimum(MIXING * above**2, 1.0))


def touch(wet: float) -> Touch:
    """Return what a wetness feels like."""
    return Touch.WET if wet > TACKY else Touch.TACKY if wet > DRY else Touch.DRY


def time_to(wet: float, film_um: float, water_um: float, rate_um_s: float) -> float:
    """Return after how long a film has only this wetness left, s; 0 if it never had more.

    Parameters
    ----------
    wet
        In [0, 4]: DRY, TACKY.
    film_um, water_um, rate_um_s
        As for `wetness`.

    Raises
    ------
    OutOfRangeError
        If the wetness is outside its range.

    >>> time_to(DRY, COAT_UM, COAT_UM, evaporation_um_s(40))
    40.0
    """
    if not 0 <= wet <= 4:
        raise OutOfRangeError("wetness", wet, "0 to 4")
    return max((water_um - wet * film_um) / rate_um_s, 0.0)
