"""Changes of a cake that a search tries: sliding walls and windows, other paints, stripes more and fewer.

Every move keeps stripes at least 2.5 mm wide, the cake's width within its pan, and every window on the cake.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from pennello.solve.cake_space import LEAST_STRIPE_MM, Look, MadeCake


@dataclass(frozen=True, slots=True)
class Limits:
    """What a cake may be.

    Attributes
    ----------
    least_mm, most_mm
        Width of the pan, mm; equal where it is given.
    stripes
        Fewest and most stripes.
    keep
        Stock numbers of paints that must be in it.
    """

    least_mm: float
    most_mm: float
    stripes: tuple[int, int]
    keep: frozenset[int] = frozenset()

    def allows(self, one: MadeCake, looks: Sequence[Look]) -> bool:
        """Return whether a cake is within the limits."""
        total = one.width_mm
        return (
            self.stripes[0] <= len(one.paints) <= self.stripes[1]
            and min(one.widths_mm) >= LEAST_STRIPE_MM - 1e-9
            and self.least_mm - 1e-6 <= total <= self.most_mm + 1e-6
            and self.keep <= set(one.paints)
            and all(a != b for a, b in zip(one.paints, one.paints[1:], strict=False))
            and all(-1e-6 <= at <= total - look.width_mm + 1e-6 for at, look in zip(one.offsets_mm, looks, strict=True))
        )


def slides(one: MadeCake, step_mm: float) -> Iterator[MadeCake]:
    """Give cakes with one boundary, wall or window moved by a step, either way."""
    for by in (step_mm, -step_mm):
        for at in range(len(one.widths_mm) - 1):
            yield _with_widths(one, {at: by, at + 1: -by})
        yield replace(_with_widths(one, {0: by}), offsets_mm=tuple(max(o + by, 0.0) for o in one.offsets_mm))
        yield _with_widths(one, {0: by})
        wider = _with_widths(one, {len(one.widths_mm) - 1: by})
        yield wider
        yield replace(wider, offsets_mm=tuple(o + by for o in one.offsets_mm))
        both = _with_widths(one, {0: by, len(one.widths_mm) - 1: -by})  # for a pan of a given width
        yield replace(both, offsets_mm=tuple(max(o + by, 0.0) for o in one.offsets_mm))
        for at in range(1, len(one.widths_mm) - 1):  # one stripe moved as it is
            yield _with_widths(one, {at - 1: by, at + 1: -by})
        yield replace(one, offsets_mm=tuple(o + by for o in one.offsets_mm))
        if len(one.offsets_mm) > 1:
            for look in range(len(one.offsets_mm)):
                moved = (o + by if number == look else o for number, o in enumerate(one.offsets_mm))
                yield replace(one, offsets_mm=tuple(moved))


def changes(one: MadeCake, stock: int) -> Iterator[MadeCake]:
    """Give cakes with another paint in a stripe, a stripe more or fewer, two exchanged, a window flipped."""
    count = len(one.paints)
    for at in range(count):
        for paint in range(stock):
            if paint != one.paints[at]:
                yield replace(one, paints=(*one.paints[:at], paint, *one.paints[at + 1 :]))
    for at in range(count):
        yield from _split(one, at, stock)
        yield from _merged(one, at)
    for other in range(stock):
        yield from _edged(one, other)
    for at in range(count - 1):
        swapped = list(one.paints)
        swapped[at], swapped[at + 1] = swapped[at + 1], swapped[at]
        yield replace(one, paints=tuple(swapped))
    for look in range(len(one.flips)):
        yield replace(one, flips=tuple(flip != (number == look) for number, flip in enumerate(one.flips)))


def _split(one: MadeCake, at: int, stock: int) -> Iterator[MadeCake]:
    """Give cakes with a new stripe at either end of a stripe, or laid over its middle."""
    width, paint = one.widths_mm[at], one.paints[at]
    if width < 2 * LEAST_STRIPE_MM:
        return
    new = max(LEAST_STRIPE_MM, width / 3)
    for other in range(stock):
        for widths, paints in (
            ((new, width - new), (other, paint)),
            ((width - new, new), (paint, other)),
        ):
            yield replace(
                one,
                paints=(*one.paints[:at], *paints, *one.paints[at + 1 :]),
                widths_mm=(*one.widths_mm[:at], *widths, *one.widths_mm[at + 1 :]),
            )


def _edged(one: MadeCake, paint: int) -> Iterator[MadeCake]:
    """Give wider cakes with a new stripe at an end that reaches a little into the last one."""
    widths = one.widths_mm
    into = min(1.5, widths[-1] - LEAST_STRIPE_MM)
    if into > 0:
        grown = (*widths[:-1], widths[-1] - into, LEAST_STRIPE_MM)
        yield replace(one, paints=(*one.paints, paint), widths_mm=grown)
    into = min(1.5, widths[0] - LEAST_STRIPE_MM)
    if into > 0:
        grown = (LEAST_STRIPE_MM, widths[0] - into, *widths[1:])
        offsets = tuple(offset + LEAST_STRIPE_MM - into for offset in one.offsets_mm)
        yield replace(one, paints=(paint, *one.paints), widths_mm=grown, offsets_mm=offsets)


def _merged(one: MadeCake, at: int) -> Iterator[MadeCake]:
    """Give cakes without a stripe, its room given to a neighbour."""
    for neighbour in (at - 1, at + 1):
        if 0 <= neighbour < len(one.paints):
            widths = list(one.widths_mm)
            widths[neighbour] += widths[at]
            del widths[at]
            yield replace(one, paints=(*one.paints[:at], *one.paints[at + 1 :]), widths_mm=tuple(widths))


def _with_widths(one: MadeCake, changed: dict[int, float]) -> MadeCake:
    widths = tuple(width + changed.get(number, 0.0) for number, width in enumerate(one.widths_mm))
    return replace(one, widths_mm=widths)
