"""What the hand changes along a stroke, each as a curve of keys: pressure, lean, tilt, the part that touches."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from pennello.errors import UnknownNameError
from pennello.lay.stroke import Key, PartKey, Stroke, keyed
from pennello.phrases import phrase

LEAST_PART = 0.02
"""A part is at least this much of the edge."""


@dataclass(frozen=True, slots=True)
class Curve:
    """A quantity along a stroke.

    Attributes
    ----------
    key, name
        For scripts, and as it is shown.
    low, high
        Its range.
    levels
        What stands beside the strip: values and their words.
    keys
        Its keys on a stroke, at least the two ends.
    on
        The stroke with other keys.
    """

    key: str
    name: str
    low: float
    high: float
    levels: tuple[tuple[float, str], ...]
    keys: Callable[[Stroke], tuple[Key, ...]]
    on: Callable[[Stroke, tuple[Key, ...]], Stroke]

    def words(self, value: float) -> str:
        """Return a value with its unit."""
        if self.key == "lean":
            return f"{value:.0f}°"
        if self.key == "tilt":
            return (
                phrase("level")
                if abs(value) < 0.005
                else (
                    phrase("{value:.0%} to corner A", value=abs(value))
                    if value < 0
                    else phrase("{value:.0%} to corner B", value=abs(value))
                )
            )
        return f"{value:.0%}"

    def held(self, value: float) -> float:
        """Return a value within the range."""
        return round(min(max(value, self.low), self.high), 1 if self.key == "lean" else 3)


def _level(value: float) -> tuple[Key, ...]:
    return (Key(0.0, value), Key(1.0, value))


def _flat(keys: tuple[Key, ...], value: float) -> bool:
    return all(key.value == value for key in keys)


def _pressure_on(stroke: Stroke, keys: tuple[Key, ...]) -> Stroke:
    if _flat(keys, keys[0].value):
        return replace(stroke, pressures=(), pressure=keys[0].value)
    return replace(stroke, pressures=keys)


def _lean_on(stroke: Stroke, keys: tuple[Key, ...]) -> Stroke:
    return replace(stroke, leans=() if _flat(keys, 0.0) else keys)


def _tilt_on(stroke: Stroke, keys: tuple[Key, ...]) -> Stroke:
    return replace(stroke, tilts=() if _flat(keys, 0.0) else keys)


def _parts(stroke: Stroke) -> tuple[PartKey, ...]:
    return stroke.parts or tuple(PartKey(at, *stroke.part) for at in (0.0, 1.0))


def _from(stroke: Stroke) -> tuple[Key, ...]:
    return tuple(Key(part.at, part.from_u) for part in _parts(stroke))


def _to(stroke: Stroke) -> tuple[Key, ...]:
    return tuple(Key(part.at, part.to_u) for part in _parts(stroke))


def with_part_curves(stroke: Stroke, starts: tuple[Key, ...], ends: tuple[Key, ...], leading: str) -> Stroke:
    """Return the stroke with the part of its edge between two curves; the leading one pushes the other before it."""
    places = sorted({key.at for key in (starts if leading == "from" else ends)})
    low, high = (keyed(keys, np.array(places)) for keys in (starts, ends))
    parts = []
    for at, one, other in zip(places, low.tolist(), high.tolist(), strict=True):
        if leading == "from":
            start = min(max(one, 0.0), 1 - LEAST_PART)
            end = max(min(other, 1.0), start + LEAST_PART)
        else:
            end = max(min(other, 1.0), LEAST_PART)
            start = min(max(one, 0.0), end - LEAST_PART)
        parts.append(PartKey(at, round(start, 4), round(end, 4)))
    first = parts[0]
    if all((part.from_u, part.to_u) == (first.from_u, first.to_u) for part in parts):
        return replace(stroke, parts=(), part=(first.from_u, first.to_u))
    return replace(stroke, parts=tuple(parts))


CURVES: dict[str, Curve] = {
    one.key: one
    for one in (
        Curve(
            "pressure",
            phrase("pressure"),
            0.05,
            1.0,
            ((0.05, phrase("off")), (0.5, "50 %"), (1.0, phrase("full"))),
            lambda stroke: stroke.pressures or _level(stroke.pressure),
            _pressure_on,
        ),
        Curve(
            "lean",
            phrase("lean"),
            0.0,
            70.0,
            ((0.0, "upright"), (35.0, "35°"), (70.0, phrase("flat"))),
            lambda stroke: stroke.leans or _level(0.0),
            _lean_on,
        ),
        Curve(
            "tilt",
            phrase("tilt"),
            -1.0,
            1.0,
            ((-1.0, phrase("on A")), (0.0, phrase("level")), (1.0, phrase("on B"))),
            lambda stroke: stroke.tilts or _level(0.0),
            _tilt_on,
        ),
        Curve(
            "from",
            phrase("touches from"),
            0.0,
            1.0,
            ((0.0, "A"), (0.5, "50 %"), (1.0, "B")),
            _from,
            lambda stroke, keys: with_part_curves(stroke, keys, _to(stroke), "from"),
        ),
        Curve(
            "to",
            phrase("touches to"),
            0.0,
            1.0,
            ((0.0, "A"), (0.5, "50 %"), (1.0, "B")),
            _to,
            lambda stroke, keys: with_part_curves(stroke, _from(stroke), keys, "to"),
        ),
    )
}


def curve(key: str) -> Curve:
    """Return a curve by its key; raises UnknownNameError."""
    if key not in CURVES:
        raise UnknownNameError(phrase("curve of the hand"), key, list(CURVES))
    return CURVES[key]
