"""The menu weighed: which designs serve most people, share loads and cakes, and offer every colour family."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import comb

from pennello.day.event import BETWEEN_S, Event, MenuItem

MOST_TRIED = 60_000
"""So many menus are all looked at; of more designs the best are taken one after another."""

_FACES, _LOADS, _COLOURS = 1.0, 0.35, 0.6
"""What faces an hour, shared loads and colours count for (defaults)."""


@dataclass(frozen=True, slots=True)
class Weighed:
    """A menu.

    Attributes
    ----------
    items
        Its designs, in the order of the event's menu.
    faces_an_hour
        Faces of one painter in an hour of painting, all designs asked for alike.
    loads, cakes
        How many different ones it takes.
    colours
        Colour families that it offers.
    missing
        Colour families that the event's designs have, and this menu lacks.
    score
        What it was chosen by; higher is better.
    """

    items: tuple[MenuItem, ...]
    faces_an_hour: float
    loads: int
    cakes: int
    colours: tuple[str, ...]
    missing: tuple[str, ...]
    score: float


def weigh(event: Event, count: int = 8, between_s: float = BETWEEN_S) -> Weighed:
    """Return the best menu of so many of the event's designs."""
    items = event.menu
    count = min(count, len(items))
    if count <= 0:
        return _weighed(event, (), between_s)
    if comb(len(items), count) <= MOST_TRIED:
        return max((_weighed(event, those, between_s) for those in combinations(items, count)), key=_better)
    chosen: list[MenuItem] = []
    while len(chosen) < count:
        rest = [one for one in items if one not in chosen]
        chosen.append(max(rest, key=lambda one: _better(_weighed(event, (*chosen, one), between_s))))
    order = {one.id: number for number, one in enumerate(items)}
    return _weighed(event, tuple(sorted(chosen, key=lambda one: order[one.id])), between_s)


def weighed(event: Event, items: Sequence[MenuItem], between_s: float = BETWEEN_S) -> Weighed:
    """Return what a menu comes to."""
    return _weighed(event, tuple(items), between_s)


def _better(one: Weighed) -> float:
    return one.score


def _weighed(event: Event, items: tuple[MenuItem, ...], between_s: float) -> Weighed:
    every, colours = _colours(event.menu), _colours(items)
    loads = {load for one in items for load in one.loads}
    cakes = {used.name for one in items for used in one.uses}
    mean = sum(one.whole_s + between_s for one in items) / max(len(items), 1)
    faces = 3600 / mean if mean > 0 else 0.0
    best = max((3600 / (one.whole_s + between_s) for one in event.menu), default=1.0)
    score = _FACES * faces / best + _LOADS * _shared(items, len(loads)) + _COLOURS * len(colours) / max(len(every), 1)
    missing = tuple(sorted(every - colours))
    return Weighed(items, faces, len(loads), len(cakes), tuple(sorted(colours)), missing, score)


def _colours(items: Sequence[MenuItem]) -> set[str]:
    return {colour for one in items for colour in one.colours}


def _shared(items: Sequence[MenuItem], loads: int) -> float:
    """Return which share of the loads is another design's too."""
    held = sum(len(one.loads) for one in items)
    return 1 - loads / held if held else 0.0


def left_out_first(event: Event) -> tuple[MenuItem, ...]:
    """Return the designs on the menu in the order in which to leave them out when the queue grows: the longest first,
    but the last of a colour family stays to the end."""
    rest = list(event.on_menu)
    found: list[MenuItem] = []
    while rest:
        only = [one for one in rest if not _only_of_a_colour(one, rest)] or rest
        worst = max(only, key=lambda one: one.whole_s)
        rest.remove(worst)
        found.append(worst)
    return tuple(found)


def _only_of_a_colour(item: MenuItem, items: Sequence[MenuItem]) -> bool:
    others = {colour for one in items if one is not item for colour in one.colours}
    return any(colour not in others for colour in item.colours)
