"""What to pack, buy and wash: sponges, brushes, water, wipes, cakes by the gram, glitter, and what else a stand needs.

One sponge for each person and colour family, clean water every so many faces and the like are common practice, no
published source; their sizes are marked defaults.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from pennello.day.event import Event
from pennello.kit.cake import Cake
from pennello.kit.cut_list import DENSITY_G_PER_CM3
from pennello.kit.shelf import Kit

FACES_A_WATER, SWABS, WIPES = 6, 2, 2
"""Faces until the water is changed, swabs and wipes a face (defaults)."""

SPARE = 1.15
"""What runs out is packed for so many times the faces (a default)."""

EXTRAS = (
    "mirror",
    "lamp",
    "towel for the table",
    "waste bags",
    "hand cleaner",
    "menu board",
    "pick card",
    "first aid kit",
)


@dataclass(frozen=True, slots=True)
class Thing:
    """Something to pack.

    Attributes
    ----------
    name, amount
        What it is, and how much of it, in words.
    kind
        cake, brush, sponge, water, glitter, or extra.
    caution
        What is wrong with it: runs out, past its date, not for skin; "" for nothing.
    lasts
        Of a cake: for how many of the faces that want it; None where it is not known what is left.
    wanted
        Of a cake: how many faces want it.
    """

    name: str
    amount: str
    kind: str
    caution: str = ""
    lasts: int | None = None
    wanted: int = 0


def faces_by_item(event: Event, faces: float) -> dict[str, float]:
    """Return how many faces of each design there are among so many, by how often each is asked for."""
    items = event.on_menu
    total = sum(one.share for one in items)
    if not items:
        return {}
    return {one.id: faces * (one.share / total if total > 0 else 1 / len(items)) for one in items}


def grams_of(event: Event, faces: float) -> dict[str, float]:
    """Return how many grams of each cake or pan so many faces take."""
    found: dict[str, float] = {}
    for name, count in faces_by_item(event, faces).items():
        for used in event.item(name).uses:
            found[used.name] = found.get(used.name, 0.0) + used.grams * count
    return found


def left_in(kit: Kit, today: date) -> tuple[dict[str, float], dict[str, str]]:
    """Return what is left of each cake and pan of the kit, g, where that is known, and what is wrong with it."""
    left: dict[str, float] = {}
    wrong: dict[str, str] = {}
    for item in kit:
        thing, about = item.thing, item.keeping
        if about.retired:
            continue
        if about.stock_g is not None:
            left[thing.name] = about.stock_g
        elif isinstance(thing, Cake):
            deep = [max(thing.depth_mm - one.hollow_mm, 0.0) * one.width_mm for one in thing.stripes]
            left[thing.name] = sum(deep) * thing.length_mm / 1000 * DENSITY_G_PER_CM3
        if about.expires and about.expires < today:
            wrong[thing.name] = f"past its date, {about.expires.isoformat()}"
    return left, wrong


def bag(
    event: Event,
    faces: float,
    left: Mapping[str, float] | None = None,
    wrong: Mapping[str, str] | None = None,
) -> tuple[Thing, ...]:
    """Return what to pack for so many faces.

    Parameters
    ----------
    left
        What is left of cakes and pans, g, by name.
    wrong
        What is wrong with things of the kit, by name.
    """
    return (
        *_cakes(event, faces, left or {}, wrong or {}),
        *_brushes(event),
        *_used_up(event, faces),
        *(Thing(name, "1", "extra") for name in EXTRAS),
    )


def _cakes(event: Event, faces: float, left: Mapping[str, float], wrong: Mapping[str, str]) -> list[Thing]:
    by_item, found = faces_by_item(event, faces), []
    for name, grams in sorted(grams_of(event, faces).items()):
        wanted = sum(count for key, count in by_item.items() if any(used.name == name for used in event.item(key).uses))
        caution, lasts = wrong.get(name, ""), None
        if name in left and grams > 0:
            lasts = min(int(left[name] / grams * wanted + 1e-9), math.ceil(wanted))
            if left[name] < grams:
                short = f"lasts for {lasts} of {math.ceil(wanted)} faces: take a second one"
                caution = f"{caution}; {short}" if caution else short
        amount = f"{grams:.1f} g" + (f" of {left[name]:.0f} g" if name in left else "")
        found.append(Thing(name, amount, "cake", caution, lasts, math.ceil(wanted)))
    return found


def _brushes(event: Event) -> list[Thing]:
    names: dict[str, int] = {}
    for one in event.on_menu:
        for brush in one.brushes:
            names[brush] = max(names.get(brush, 0), 1)
    return [Thing(name, f"{event.painters}", "brush") for name in sorted(names)]


def _used_up(event: Event, faces: float) -> list[Thing]:
    by_item = faces_by_item(event, faces)
    sponges = sum(event.item(name).sponges * count for name, count in by_item.items())
    glitter = sorted({colour for one in event.on_menu for colour in one.glitter})
    packed = math.ceil(faces * SPARE)
    things = [Thing(f"glitter, {colour}", "1 pot", "glitter") for colour in glitter]
    if sponges > 0:
        things.append(
            Thing("sponges, one for each person and colour family", f"{math.ceil(sponges * SPARE)}", "sponge")
        )
    return [
        *things,
        Thing("clean water, changed", f"{math.ceil(max(faces, 1) / FACES_A_WATER)} times", "water"),
        Thing("cotton swabs", f"{packed * SWABS}", "water"),
        Thing("wipes", f"{packed * WIPES}", "water"),
    ]


def to_buy(things: Sequence[Thing]) -> tuple[str, ...]:
    """Return what runs out or is past its date, as a shopping list."""
    return tuple(f"{one.name}: {one.caution}" for one in things if one.caution)


def to_wash(event: Event, faces: int) -> tuple[str, ...]:
    """Return what is washed in the evening."""
    sponges = sum(event.item(name).sponges * count for name, count in faces_by_item(event, faces).items())
    brushes = sorted({brush for one in event.on_menu for brush in one.brushes})
    found = [f"{brush}: with soap until the water stays clear, dried lying" for brush in brushes]
    if sponges > 0:
        found.append(f"{math.ceil(sponges)} sponges: washed hot, dried through; the torn ones thrown away")
    return (*found, "cakes: the tops wiped with a clean damp cloth, dried open", "table, chair and mirror: wiped down")
