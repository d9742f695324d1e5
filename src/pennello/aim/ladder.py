"""The tone ladder: one window slid along a cake so that each flower of a group is a step darker than the one before."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.wish import COAT_UM
from pennello.colour.basis import FULL
from pennello.colour.kubelka_munk import film, mix
from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint, optics
from pennello.load.edge import load
from pennello.load.recipe import PickUp, Recipe
from pennello.phrases import phrase
from pennello.units import length_text

Array = NDArray[np.floating[Any]]

STEPS = (2, 24)
_GRID_MM = 0.25
_FLAT = 1.0  # a range of L* below which there is no ladder to climb


class NoLadderError(PennelloError):
    """A cake gives no ladder."""


@dataclass(frozen=True, slots=True)
class Ladder:
    """Offsets on a cake, mm, lightest first, and the L* that each is predicted to lay."""

    offsets_mm: tuple[float, ...]
    lightness: tuple[float, ...]

    @property
    def step(self) -> float:
        """The mean step of L*."""
        return (self.lightness[0] - self.lightness[-1]) / (len(self.lightness) - 1)

    @property
    def worst(self) -> float:
        """The greatest distance of a rung from its place on an even ladder, L*."""
        even = np.linspace(self.lightness[0], self.lightness[-1], len(self.lightness))
        return float(np.abs(even - self.lightness).max())


def window_lightness(cake: Cake, pickup: PickUp, brush: Applicator, paints: Mapping[str, Paint], skin: Array) -> float:
    """Return the mean L* over the edge of a good coat (20 um) of what a pick-up loads, on a skin."""
    edge = load(Recipe((pickup,)), {cake.id: cake}, brush)
    constants = optics(tuple(paints[name] for name in edge.paints))
    held = edge.volume_mm3_per_mm > 0
    if not held.any():
        return float(FULL.lab(skin)[0])
    k, s = mix(edge.share.T[held], constants.k, constants.s)
    return float(FULL.lab(film(k * COAT_UM, s * COAT_UM, skin))[:, 0].mean())


def tone_ladder(
    cake: Cake,
    brush: Applicator,
    paints: Mapping[str, Paint],
    skin: Array,
    steps: int,
    like: PickUp | None = None,
) -> Ladder:
    """Return the offsets of an even ladder from the lightest to the darkest window of a cake.

    Parameters
    ----------
    steps
        How many rungs, 2 to 24.
    like
        A pick-up to take flip, sweeps, drift and wetness from; its offset does not matter.

    Raises
    ------
    OutOfRangeError
        If there are too few or too many steps.
    NoLadderError
        If the brush is no narrower than the cake, or all windows are equally light.
    """
    if not STEPS[0] <= steps <= STEPS[1]:
        raise OutOfRangeError(phrase("number of steps of the ladder"), steps, "2 to 24")
    room = cake.width_mm - brush.width_mm
    if room < _GRID_MM:
        raise NoLadderError(
            phrase(
                "{brush} ({width_mm}) is no narrower than {cake} "
                "({width_mm_2}), so there is nothing to slide; choose a narrower brush.",
                brush=brush.name,
                width_mm=length_text(brush.width_mm),
                cake=cake.name,
                width_mm_2=length_text(cake.width_mm),
            )
        )
    start = replace(like or PickUp(cake.id), cake=cake.id, pan=(), skew_deg=0.0)

    def lightness(offset_mm: float) -> float:
        return window_lightness(cake, replace(start, offset_mm=offset_mm), brush, paints, skin)

    places = np.linspace(0.0, room, max(3, round(room / _GRID_MM) + 1))
    seen = np.array([lightness(float(at)) for at in places])
    top, bottom = int(seen.argmax()), int(seen.argmin())
    if seen[top] - seen[bottom] < _FLAT:
        raise NoLadderError(
            phrase(
                "All windows of {cake} are equally light; choose a cake with a light and a dark end.", cake=cake.name
            )
        )
    offsets = [
        _crossing(places, seen, top, bottom, goal, lightness)
        for goal in np.linspace(float(seen[top]), float(seen[bottom]), steps).tolist()
    ]
    return Ladder(tuple(offsets), tuple(lightness(at) for at in offsets))


def _crossing(places: Array, seen: Array, top: int, bottom: int, goal: float, lightness: Any) -> float:
    """Return the first place on the way from the lightest window to the darkest that is as dark as the goal."""
    way = 1 if bottom > top else -1
    for index in range(top, bottom, way):
        if seen[index] >= goal >= seen[index + way]:
            return _halved(float(places[index]), float(places[index + way]), goal, lightness)
    return float(places[bottom])


def _halved(light: float, dark: float, goal: float, lightness: Any) -> float:
    for _ in range(9):
        middle = (light + dark) / 2
        light, dark = (middle, dark) if lightness(middle) >= goal else (light, middle)
    return round((light + dark) / 2, 3)
