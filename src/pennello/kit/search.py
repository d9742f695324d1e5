"""Finding things in the kit: by words, by label, and cakes by the two colours that lie side by side."""

from __future__ import annotations

import re
from itertools import pairwise

from pennello.colour.difference import ciede2000
from pennello.colour.lab import hex_to_lab
from pennello.kept import kept_small
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint
from pennello.kit.shelf import ItemKind, Kit, KitItem

NEIGHBOUR_DE00 = 12.0
"""A stripe counts as the colour asked for when it is nearer than this (a default)."""

_HEX = re.compile(r"#?[0-9a-fA-F]{6}\Z")
_FLAGS = {"eye": "eye_area", "lips": "lips", "skin": "skin"}


def found(kit: Kit, kind: ItemKind, query: str, *, with_retired: bool = False) -> list[KitItem]:
    """Return the items of a kind that a query finds.

    Every word must occur in an item's name, notes, kind, finish or, for a cake, in one of its paints' names.
    "eye", "lips" and "skin" with a colon find paints by label, as in "eye:yes". Two names or "#rrggbb" colours with a
    plus between them find cakes that hold these two as neighbours, as in "white + red".
    """
    items = kit.of(kind, retired=with_retired)
    text = query.strip().lower()
    if not text:
        return items
    if "+" in text:
        one, _, other = text.partition("+")
        pair = neighbours(kit, one.strip(), other.strip()) if kind is ItemKind.CAKE else set()
        return [item for item in items if item.id in pair]
    words = text.split()
    paints = kit.paints
    return [item for item in items if all(_has(item, word, paints) for word in words)]


def neighbours(kit: Kit, one: str, other: str, within_de00: float = NEIGHBOUR_DE00) -> set[str]:
    """Return ids of cakes in which the two colours lie side by side, either way round.

    A colour is "#rrggbb" (any paint nearer than `within_de00`) or words that a paint's name holds.
    """
    first, second = (_paints_like(kit, colour, within_de00) for colour in (one, other))
    result = set()
    for item in kit.of(ItemKind.CAKE, retired=True):
        if isinstance(item.thing, Cake):
            names = [stripe.paint for stripe in item.thing.stripes]
            pairs = pairwise(names)
            if any((a in first and b in second) or (a in second and b in first) for a, b in pairs):
                result.add(item.id)
    return result


def _paints_like(kit: Kit, colour: str, within_de00: float) -> set[str]:
    paints = kit.paints
    if not colour:
        return set(paints)
    if _HEX.match(colour):
        goal = hex_to_lab("#" + colour.lstrip("#"))
        return {name for name, paint in paints.items() if ciede2000(hex_to_lab(paint.srgb), goal) <= within_de00}
    words = colour.split()
    return {name for name, paint in paints.items() if all(word in paint.name.lower() or word in name for word in words)}


def _has(item: KitItem, word: str, paints: dict[str, Paint]) -> bool:
    flag, colon, answer = word.partition(":")
    if colon and flag in _FLAGS:
        allowed = getattr(item.thing, _FLAGS[flag], None)
        return allowed is not None and allowed is (answer not in {"no", "0", "false"})
    if word in item.keeping.notes.lower():
        return True
    thing = item.thing
    if isinstance(thing, Cake):
        return word in _cake_words(thing.name, tuple(paints[name].name for name in thing.paints if name in paints))
    return word in _words(thing)


@kept_small
def _cake_words(name: str, paints: tuple[str, ...]) -> str:
    return " ".join([name, *paints]).lower()


@kept_small
def _words(thing: Paint | Applicator) -> str:
    if isinstance(thing, Paint):
        return f"{thing.name} {thing.srgb} {thing.finish.value}".lower()
    return f"{thing.name} {thing.kind.value}".lower()
