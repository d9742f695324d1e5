"""Values in the hand, declared: what a handle drags, steps, types and gives back is said once, in values.

A handle's owner says where a drag or an arrow leads; previews, steps of the history and Esc are the same for all.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, Protocol, TypeVar

from PySide6.QtCore import QPointF

from pennello.ui.widgets.handle import Handle, HandleNumber, HandleWork
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.type_box import type_over
from pennello.units import LengthUnit

V = TypeVar("V")
C = TypeVar("C")
C_contra = TypeVar("C_contra", contravariant=True)

DEAD_PX = 6.0
"""So near to its pivot, px, a hand says no angle."""


class Taker(Protocol[C_contra]):
    """Whoever takes changes: shows one, makes it a step, keeps or drops what is shown."""

    unit: LengthUnit

    def preview(self, change: C_contra) -> None:
        """Show what a change of the kept state gives."""

    def edit(self, label: str, change: C_contra, merge: str = "") -> None:
        """Make a change a step; quick ones with the same `merge` become one."""

    def commit(self, label: str) -> None:
        """Make what is shown a step."""

    def cancel(self) -> None:
        """Give back what was there."""


@dataclass(frozen=True, kw_only=True)
class Held(Generic[V, C]):
    """A value in the hand.

    Attributes
    ----------
    name, label
        What the handle is called, and what its step in the history is called.
    now
        The value without a preview, or None where there is none.
    put
        The change that makes it another.
    say
        The shown value in words with its unit.
    drag
        Where a drag of so many px leads from a value; None where it says nothing.
    step
        Where an arrow (x right, y down) and its factor (fine, normal, coarse) lead.
    merge
        Key under which quick steps become one.
    typed
        What Enter and a double click do, given the handle.
    """

    name: str
    label: str
    now: Callable[[], V | None]
    put: Callable[[V], C]
    say: Callable[[], str]
    drag: Callable[[V, QPointF], V | None]
    step: Callable[[V, int, int, float], V]
    merge: Callable[[], str] = lambda: ""
    typed: Callable[[Handle], object] = lambda _: None

    def work(self, hand: Taker[C]) -> HandleWork:
        """Return what a handle does for it."""

        def dragged(way: QPointF) -> None:
            start = self.now()
            led = None if start is None else self.drag(start, way)
            if led is not None:
                hand.preview(self.put(led))

        def stepped(x: int, y: int, factor: float) -> None:
            start = self.now()
            if start is not None:
                hand.edit(self.label, self.put(self.step(start, x, y, factor)), self.merge())

        return HandleWork(
            self.name, self.say, dragged, stepped, lambda: hand.commit(self.label), hand.cancel, self.typed
        )


def number_held(
    hand: Taker[C],
    quantity: Quantity,
    label: str,
    *,
    now: Callable[[], float | None],
    put: Callable[[float], C],
    say: Callable[[], str],
    drag: Callable[[float, QPointF], float | None],
    by: Callable[[int, int, float], float] = lambda x, y, factor: (x - y) * factor,
    in_field: float = 1.0,
    merge: Callable[[], str] = lambda: "",
) -> HandleWork:
    """Return the work of a handle on one number, held to its range, that can be typed over.

    Parameters
    ----------
    quantity
        Its name, range and unit as they are typed; `in_field` of them are one of the number.
    by
        What an arrow (x right, y down) adds, by its factor fine, normal or coarse.
    """
    low, high = quantity.low / in_field, quantity.high / in_field

    def held(value: float) -> float:
        return min(max(round(value, 6), low), high)

    def led(start: float, way: QPointF) -> float | None:
        value = drag(start, way)
        return None if value is None else held(value)

    def stepped(start: float, x: int, y: int, factor: float) -> float:
        return held(start + by(x, y, factor))

    def typed(handle: Handle) -> None:
        value = now()
        if value is not None:
            type_over(handle, quantity, hand.unit, value * in_field, lambda v: hand.edit(label, put(v / in_field)))

    one: Held[float, C] = Held(
        name=quantity.name,
        label=label,
        now=now,
        put=put,
        say=say,
        drag=led,
        step=stepped,
        merge=merge,
        typed=typed,
    )
    work = one.work(hand)
    work.number = HandleNumber(
        quantity.low,
        quantity.high,
        lambda: None if (value := now()) is None else value * in_field,
        lambda value: hand.edit(label, put(held(value / in_field)), merge()),
    )
    return work


def turned(start: QPointF, pivot: QPointF, way: QPointF) -> float | None:
    """Return how far a drag turns a grip about a pivot, -180 to 180 degrees; None near the pivot."""
    hand, before = start + way - pivot, start - pivot
    if math.hypot(hand.x(), hand.y()) < DEAD_PX:
        return None
    by = math.degrees(math.atan2(hand.y(), hand.x()) - math.atan2(before.y(), before.x()))
    return (by + 180) % 360 - 180


class Loose(Generic[V]):
    """A hand for a value that lies in no plan: a page's own, read and set by its functions."""

    unit = LengthUnit.MM

    def __init__(self, read: Callable[[], V], show: Callable[[V], Any]) -> None:
        self._read, self._show = read, show
        self.kept = read()

    def preview(self, change: V) -> None:
        """Show a value."""
        self._show(change)

    def edit(self, label: str, change: V, merge: str = "") -> None:
        """Show a value and keep it."""
        self._show(change)
        self.kept = self._read()

    def commit(self, label: str) -> None:
        """Keep what is shown."""
        self.kept = self._read()

    def cancel(self) -> None:
        """Show what was kept."""
        self._show(self.kept)
