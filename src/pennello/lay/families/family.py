"""What a family is: its name, its parameters in the trade's terms with sensible ranges, and how it is made."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Stroke
from pennello.phrases import phrase

Values = Mapping[str, float]


@dataclass(frozen=True, slots=True)
class Parameter:
    """A number of a family: its key, what it is called, its default, range and unit."""

    key: str
    name: str
    default: float
    low: float
    high: float
    unit: str = "mm"

    def check(self, value: float, name: str) -> None:
        """Raise OutOfRangeError if a value of what is called so is outside the range."""
        if not self.low <= value <= self.high:
            allowed = phrase("{low:g} to {high:g} {unit}", low=self.low, high=self.high, unit=self.unit)
            raise OutOfRangeError(phrase("{one} of {name}", one=self.name, name=name), value, allowed.rstrip())


@dataclass(frozen=True, slots=True)
class Family:
    """A family of strokes.

    Attributes
    ----------
    group
        petals, leaves, lines, fields or dabs.
    tool
        Id of the shipped applicator that it is usually pulled with.
    make
        Gives the stroke, at the origin, from values by key.
    hold
        How the brush is held.
    """

    key: str
    name: str
    words: str
    group: str
    tool: str
    parameters: tuple[Parameter, ...]
    make: Callable[[Values], Stroke]
    hold: Hold = Hold.TOUCH

    def stroke(self, **values: float) -> Stroke:
        """Return a stroke; what is not given is at its default.

        Raises
        ------
        UnknownNameError, OutOfRangeError
            If there is no such parameter, or a value is outside its range.
        """
        known = {one.key: one for one in self.parameters}
        for key, value in values.items():
            if key not in known:
                raise UnknownNameError(phrase("parameter"), key, list(known), self.key)
            known[key].check(value, self.name)
        return self.make({key: values.get(key, one.default) for key, one in known.items()})


LENGTH = Parameter("length_mm", phrase("length"), 40, 4, 300)
SPREAD = Parameter("spread_mm", phrase("spread"), 30, 2, 200)
WIGGLES = Parameter("wiggles", phrase("wiggles"), 3, 0, 30, "×")
WIGGLE_MM = Parameter("wiggle_mm", phrase("width of a wiggle"), 3, 0, 30)
PRESS = Parameter("press", phrase("greatest pressure"), 0.8, 0.1, 1.0, phrase("of full"))
HEAVY = Parameter("heavy", phrase("begins heavy (1) or light (0)"), 0, 0, 1, "")
"""Both habits: from thin to thick, or from thick to the tip."""

OUTWARD = Parameter("outward", phrase("edge A outside (1) or inside (0)"), 1, 0, 1, "")
