"""The numbers of what is worked out, to be changed in the hand: how far off, how far round, how often again."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from pennello.design.computing import LIGHT_DEG, MARGIN_MM, OFF_MM, RIMS, Computed, Computing
from pennello.design.repeats import SMALLER, TIMES
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.phrases import phrase


@dataclass(frozen=True, slots=True)
class MadeNumber:
    """A number of a computed piece.

    Attributes
    ----------
    key
        The field of `Computed` that it is.
    name
        What it is called.
    low, high
        Its range.
    unit
        " mm", " °", " ×" or "" for how often.
    step
        By how much a wheel changes it.
    """

    key: str
    name: str
    low: float
    high: float
    unit: str
    step: float


_OFF = MadeNumber("off_mm", phrase("from the contour"), *OFF_MM, " mm", 0.5)
_LIGHT = MadeNumber("light_deg", phrase("where the light comes from"), *LIGHT_DEG, "°", 15.0)
_MARGIN = MadeNumber("margin_mm", phrase("how far it reaches"), *MARGIN_MM, " mm", 1.0)
_TIMES = MadeNumber("times", phrase("how often again"), *TIMES, " ×", 1.0)
_SMALLER = MadeNumber("smaller", phrase("each so large beside the last"), *SMALLER, " × size", 0.05)


def numbers_of(made: Computed) -> tuple[MadeNumber, ...]:
    """Return the numbers that count for what is worked out.

    >>> [one.key for one in numbers_of(Computed(Computing.SHADOW, ("leaf",)))]
    ['off_mm', 'light_deg']
    """
    if made.kind in RIMS:
        return _OFF, _LIGHT
    if made.kind is Computing.OUTLINE:
        return (_OFF,)
    if made.kind is Computing.ECHO:
        return _TIMES, _SMALLER
    return (_MARGIN,) if made.kind is Computing.GROUND and made.border is None else ()


def with_number(made: Computed, key: str, value: float) -> Computed:
    """Return what is worked out with another number.

    Raises
    ------
    OutOfRangeError
        If it is beyond its range.
    UnknownNameError
        If what is worked out has no such number.
    """
    known = {one.key: one for one in numbers_of(made)}
    if key not in known:
        raise UnknownNameError(phrase("number"), key, list(known), made.kind.value)
    here = known[key]
    if not here.low <= value <= here.high:
        raise OutOfRangeError(
            here.name, value, phrase("{low:g} to {high:g}{unit}", low=here.low, high=here.high, unit=here.unit)
        )
    changed: dict[str, Any] = {key: round(value) if key == "times" else value}
    return replace(made, **changed)
