"""What is at hand: cakes, brushes and paints of the plan and of the kit, without what may not be used."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date
from typing import TypeVar

from pennello.design.plan import Plan
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Near, Paint
from pennello.kit.shelf import ItemKind, Kit
from pennello.load.pickup import stripes_reached
from pennello.phrases import phrase

Thing = TypeVar("Thing", Cake, Applicator)


class NothingAtHandError(PennelloError):
    """There is nothing to search through."""


@dataclass(frozen=True, slots=True)
class AtHand:
    """What a search may use; `left_out` says of each thing that it may not, in a sentence.

    `paints` are all that cakes at hand may hold or a plan has; `gone` the ids of those that are retired or past
    their date; `pans` says whether single paints may be used beside the cakes.
    """

    cakes: tuple[Cake, ...]
    brushes: tuple[Applicator, ...]
    paints: tuple[Paint, ...]
    left_out: tuple[str, ...] = ()
    gone: frozenset[str] = frozenset()
    pans: bool = True

    @property
    def by_name(self) -> dict[str, Paint]:
        """All paints by id."""
        return {paint.id: paint for paint in self.paints}

    @property
    def stock(self) -> tuple[Paint, ...]:
        """The paints that a pan may still be made of."""
        return tuple(paint for paint in self.paints if paint.id not in self.gone)

    def only(self, cakes: Iterable[str]) -> AtHand:
        """Return the same with these cakes only, and no pan."""
        wanted = set(cakes)
        return replace(self, cakes=tuple(cake for cake in self.cakes if cake.id in wanted), pans=False)


def at_hand(plan: Plan, kit: Kit | None = None, today: date | None = None, near: Near = Near.SKIN) -> AtHand:
    """Return what may be used for a stroke near a place; the plan's own things come before the kit's of the same id.

    Left out is what the kit says is retired or past its date, cakes with a paint whose label does not allow the place,
    and cakes that are worn out.
    """
    paints = {paint.id: paint for paint in (*(kit.paints.values() if kit else ()), *plan.paints)}
    cakes = {cake.id: cake for cake in (*_things(kit, ItemKind.CAKE, Cake), *plan.cakes)}
    brushes = {brush.id: brush for brush in (*_things(kit, ItemKind.BRUSH, Applicator), *plan.brushes)}
    out: list[str] = []
    gone = _gone(kit, today, out)
    gone_paints = {name for kind, name in gone if kind is ItemKind.PAINT}
    kept = [cake for cake in cakes.values() if _usable(cake, paints, gone, gone_paints, near, out)]
    return AtHand(
        tuple(kept),
        tuple(brush for name, brush in brushes.items() if (ItemKind.BRUSH, name) not in gone),
        tuple(paints.values()),
        tuple(out),
        frozenset(gone_paints),
    )


def stock(plan: Plan, kit: Kit | None = None, today: date | None = None, near: Near = Near.SKIN) -> tuple[Paint, ...]:
    """Return the paints that a cake may be made of for a place."""
    out: list[str] = []
    gone = {name for kind, name in _gone(kit, today, out) if kind is ItemKind.PAINT}
    paints = {paint.id: paint for paint in (*(kit.paints.values() if kit else ()), *plan.paints)}
    return tuple(paint for name, paint in paints.items() if name not in gone and paint.allowed(near))


def _things(kit: Kit | None, kind: ItemKind, of: type[Thing]) -> list[Thing]:
    return [item.thing for item in kit if item.kind is kind and isinstance(item.thing, of)] if kit else []


def _gone(kit: Kit | None, today: date | None, out: list[str]) -> set[tuple[ItemKind, str]]:
    gone: set[tuple[ItemKind, str]] = set()
    for item in kit or ():
        if item.keeping.retired:
            gone.add(item.key)
        elif today is not None and item.keeping.expired(today):
            gone.add(item.key)
            out.append(phrase("{item} is past its date.", item=item.name))
    return gone


def _usable(
    cake: Cake,
    paints: dict[str, Paint],
    gone: set[tuple[ItemKind, str]],
    gone_paints: set[str],
    near: Near,
    out: list[str],
) -> bool:
    if (ItemKind.CAKE, cake.id) in gone or any(name not in paints for name in cake.paints):
        return False
    if not stripes_reached(cake).any():
        out.append(phrase("{cake} is worn out.", cake=cake.name))
        return False
    old = [paints[name].name for name in cake.paints if name in gone_paints]
    if old:
        out.append(phrase("{cake} holds {old}, which is retired or past its date.", cake=cake.name, old=old[0]))
        return False
    banned = [paints[name].name for name in cake.paints if not paints[name].allowed(near)]
    if banned:
        place = {Near.SKIN: "skin", Near.EYE: "the eye area", Near.LIPS: "lips"}[near]
        out.append(
            phrase(
                "{cake} holds {banned}, whose label does not allow {place}.",
                cake=cake.name,
                banned=banned[0],
                place=place,
            )
        )
        return False
    return True
