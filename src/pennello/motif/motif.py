"""What a motif is: parts, numbers, the strokes that they make, and the arithmetic behind them in words."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from pennello.errors import UnknownNameError
from pennello.lay.families.family import Parameter
from pennello.lay.stroke import Stroke
from pennello.motif.place import HERE, Place
from pennello.motif.roles import PETAL, Check, Role, Wet
from pennello.motif.spacing import Spacing
from pennello.phrases import phrase

Values = Mapping[str, float]
Prints = Mapping[str, float]
"""Width of the brush that each part is laid with, mm."""

USUAL_PRINT_MM = 19.05


@dataclass(frozen=True, slots=True)
class Piece:
    """One stroke of a motif in the motif's own mm: the part that it is of, and its row, the first laid first."""

    part: str
    stroke: Stroke
    row: int = 0


@dataclass(frozen=True, slots=True)
class Part:
    """A part that shares a load, and all that is to be known of it.

    Attributes
    ----------
    tool
        The usual applicator for it.
    role
        Which load suits it.
    wet
        How it goes over what lies below.
    reload
        How many of its strokes are usually laid from one load, 1 to 40.
    checks
        What is asked of it on a chart.
    """

    key: str
    name: str
    tool: str = "flat-3-4"
    role: Role = PETAL
    wet: Wet = Wet.USUAL
    reload: int = 1
    checks: tuple[Check, ...] = ()


@dataclass(frozen=True, slots=True)
class Made:
    """What a motif came to: its strokes in the order of painting, its arithmetic in words and as spacings."""

    pieces: tuple[Piece, ...]
    says: tuple[str, ...] = ()
    spacings: tuple[Spacing, ...] = ()


@dataclass(frozen=True, slots=True)
class Motif:
    """A constructor.

    Attributes
    ----------
    group
        flowers, leaves, fields, wings, lines.
    make
        Gives strokes and words from values by key and prints by part.
    in_one_go
        Whether it is painted row over wet row, well under a minute (common practice); else rows dry in between.
    checks
        What is asked of it as a whole on a chart.
    former
        Numbers that it had once: still read, no longer used.
    """

    key: str
    name: str
    words: str
    group: str
    parts: tuple[Part, ...]
    parameters: tuple[Parameter, ...]
    make: Callable[[Values, Prints], Made] = field(repr=False)
    in_one_go: bool = False
    checks: tuple[Check, ...] = ()
    former: tuple[str, ...] = ()

    def part(self, key: str) -> Part:
        """Return a part; raises UnknownNameError."""
        found = next((one for one in self.parts if one.key == key), None)
        if found is None:
            raise UnknownNameError(phrase("part"), key, [one.key for one in self.parts], self.key)
        return found

    def values(self, given: Values) -> dict[str, float]:
        """Return all values, those not given at their defaults.

        Raises
        ------
        UnknownNameError, OutOfRangeError
            If there is no such number, or it is outside its range.
        """
        known = {one.key: one for one in self.parameters}
        for key, value in given.items():
            if key in self.former:
                continue
            if key not in known:
                raise UnknownNameError(phrase("number"), key, list(known), self.key)
            known[key].check(value, self.name)
        return {key: float(given.get(key, one.default)) for key, one in known.items()}

    def made(self, given: Values | None = None, prints: Prints | None = None) -> Made:
        """Return the strokes; brushes that are not named are 19.05 mm wide."""
        widths = {part.key: (prints or {}).get(part.key, USUAL_PRINT_MM) for part in self.parts}
        return self.make(self.values(given or {}), widths)


def at(
    stroke: Stroke, x_mm: float = 0.0, y_mm: float = 0.0, turn_deg: float = 0.0, *, mirrored: bool = False
) -> Stroke:
    """Return a stroke mirrored if so, turned about the origin, then moved."""
    if (x_mm, y_mm, turn_deg, mirrored) == (0.0, 0.0, 0.0, False):
        return HERE.stroke(stroke)
    return Place(x_mm, y_mm, turn_deg, 1.0, mirrored).stroke(stroke)
