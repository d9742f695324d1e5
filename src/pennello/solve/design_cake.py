"""Which cake to make for one wish, or one cake for several strokes: seeds, then moves downhill, best so far on the way.

Seeds come from dynamic programming over the wish (the best plain stripes of each number, without their blends) and from
all pairs and likely threes. From each seed the steepest change goes first: walls and windows slide until nothing more
helps, then the best few changes of paints are tried, each with its own slide. A price per stripe keeps cakes simple.
"""

from __future__ import annotations

import itertools
import math
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit.cake import Cake, Stripe
from pennello.kit.paint import Paint, optics
from pennello.phrases import phrase
from pennello.solve.cake_moves import Limits, changes, slides
from pennello.solve.cake_space import LEAST_STRIPE_MM, MOST_STRIPES, Look, MadeCake, Space
from pennello.solve.coats import coat_lab

Array = NDArray[np.floating[Any]]
Report = Callable[[float, str], None]
Show = Callable[[tuple["DesignedCake", ...]], None]

SECONDS = 6.0
STRIPE_PRICE = 0.04
"""What one stripe more has to bring, mean dE00 (a default)."""

_ROOM_MM = 8.0
"""How much wider than the widest brush a cake may be where no pan is given."""

_STEPS_MM = (2.0, 1.0, 0.5, 0.25, 0.1)
_LIKELY = 10
_SEEDS = 10
_FEW = 6
_CELLS = 40
_SEEN_MM = 0.3
_ALTERNATIVES = 4
_KICKS, _GOOD, _SEED = 24, 0.1, 11


class NoCakeError(PennelloError):
    """No cake can be designed, with the reason."""


@dataclass(frozen=True, slots=True)
class DesignedCake:
    """A cake that was found.

    Attributes
    ----------
    paints, widths_mm
        Stripes from the left wall.
    offsets_mm, flips
        For each look where its brush lies and whether flipped.
    each_de00
        Mean dE00 of an even coat from the wish of each look.
    mean_de00
        Their weighted mean.
    """

    paints: tuple[Paint, ...]
    widths_mm: tuple[float, ...]
    offsets_mm: tuple[float, ...]
    flips: tuple[bool, ...]
    each_de00: tuple[float, ...]
    mean_de00: float

    def cake(self, name: str, id_: str, like: Cake | None = None) -> Cake:
        """Return it as a cake, with the length, depth and softness of another one."""
        stripes = tuple(Stripe(paint.id, width) for paint, width in zip(self.paints, self.widths_mm, strict=True))
        if like is None:
            return Cake(id_, name, stripes)
        return replace(like, id=id_, name=name, stripes=stripes, ombre=False)


@dataclass(frozen=True, slots=True)
class Terms:
    """What a cake must be.

    Attributes
    ----------
    stripes
        How many at most, 2 to 7; with `exactly` just so many.
    pan_mm
        Width of the pan, mm, or None for as wide as the brushes need.
    keep
        Ids of paints that must be in it.
    """

    stripes: int = MOST_STRIPES
    exactly: bool = False
    pan_mm: float | None = None
    keep: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if not 2 <= self.stripes <= MOST_STRIPES:
            raise OutOfRangeError(phrase("number of stripes"), self.stripes, "2 to 7")
        if self.pan_mm is not None and not 5 <= self.pan_mm <= 300:
            raise OutOfRangeError(phrase("width of the pan"), self.pan_mm, "5 to 300 mm")


def design_cake(
    stock: Sequence[Paint],
    looks: Sequence[Look],
    skin: Array,
    terms: Terms | None = None,
    seconds: float = SECONDS,
    report: Report = lambda _, __: None,
    show: Show = lambda _: None,
    clock: Callable[[], float] = time.perf_counter,
) -> tuple[DesignedCake, ...]:
    """Return cakes for these looks, best first, at most four that differ.

    Parameters
    ----------
    stock
        Paints to make them of.
    looks
        The wishes, one or several.
    seconds
        When to be done at the latest.
    report, show
        Are told how far it is and what is best so far; both may raise to stop.

    Raises
    ------
    NoCakeError
        If no cake within the terms exists.
    """
    return _Designer(stock, looks, skin, terms or Terms(), seconds, report, show, clock).run()


class _Designer:
    """One search."""

    def __init__(
        self,
        stock: Sequence[Paint],
        looks: Sequence[Look],
        skin: Array,
        terms: Terms,
        seconds: float,
        report: Report,
        show: Show,
        clock: Callable[[], float],
    ) -> None:
        self._space = Space(stock, looks, skin)
        self._limits = _limits(stock, looks, terms)
        self._looks = tuple(looks)
        self._began, self._seconds, self._clock = clock(), seconds, clock
        self._report, self._show = report, show
        self._best: dict[tuple[int, ...], tuple[float, MadeCake]] = {}

    def run(self) -> tuple[DesignedCake, ...]:
        """Return the best few."""
        seeds = sorted(self._seeds(), key=lambda pair: pair[0])
        if not seeds:
            raise NoCakeError(phrase("No cake fits: give the pan more width, or fewer stripes to keep."))
        for price, one in seeds[:_SEEDS]:
            self._keep(price, one)
        self._show(self.designs())
        for number, (_, one) in enumerate(_unlike(seeds, _SEEDS)):
            if self._late():
                break
            self._report(self._part(number / _SEEDS), phrase("bettering cakes"))
            self._climb(one)
            self._show(self.designs())
        self._kick()
        for _, one in sorted(self._best.values(), key=lambda pair: pair[0])[:_SEEDS]:
            self._tidy(one)
        return self.designs()

    def _tidy(self, one: MadeCake) -> None:
        """Leave out stripes at the walls that no brush touches, where the limits let them go."""
        paints, widths, offsets = list(one.paints), list(one.widths_mm), one.offsets_mm
        while len(paints) > 1 and all(at >= widths[0] - 1e-9 for at in offsets):
            offsets = tuple(at - widths[0] for at in offsets)
            del paints[0], widths[0]
        reach = max(at + look.width_mm for at, look in zip(offsets, self._looks, strict=True))
        while len(paints) > 1 and sum(widths[:-1]) >= reach - 1e-9:
            del paints[-1], widths[-1]
        tidy = MadeCake(tuple(paints), tuple(widths), offsets, one.flips)
        for price, kept in self._priced([tidy]):
            self._keep(price, kept)

    def _kick(self) -> None:
        """Throw the leaders out of their valleys by two random changes at once, and better what comes of it."""
        rng = np.random.default_rng(_SEED)
        for number in range(_KICKS):
            leaders = sorted(self._best.values(), key=lambda pair: pair[0])[:3]
            if self._late() or leaders[0][0] < _GOOD + STRIPE_PRICE * len(leaders[0][1].paints):
                return
            self._report(self._part(number / _KICKS), phrase("looking further"))
            one = leaders[number % len(leaders)][1]
            for _ in range(2):
                allowed = [new for new in changes(one, len(self._space.stock)) if self._limits.allows(new, self._looks)]
                prices = self._space.total(allowed)
                likely = np.argsort(prices, kind="stable")[: max(len(allowed) // 8, 1)]
                one = allowed[int(rng.choice(likely))]
            self._climb(one)
            self._show(self.designs())

    def designs(self) -> tuple[DesignedCake, ...]:
        """Return the best so far that differ in their paints, simplest first among those alike."""
        ordered = sorted(self._best.values(), key=lambda pair: pair[0])
        taken: list[MadeCake] = []
        for _, one in ordered:
            here = self._visible(one)
            if len(here) < len(one.paints) and taken:  # a stripe that no brush touches makes no other cake
                continue
            if all(len(set(here) ^ set(self._visible(other))) >= 2 or here == other.paints[::-1] for other in taken):
                taken.append(one)
            if len(taken) == _ALTERNATIVES:
                break
        return tuple(self._design(one) for one in taken)

    def _visible(self, one: MadeCake) -> tuple[int, ...]:
        """Return the paints that lie under any window."""
        edges = list(itertools.accumulate(one.widths_mm, initial=0.0))
        return tuple(
            paint
            for paint, low, high in zip(one.paints, edges, edges[1:], strict=False)
            if any(
                min(high, at + look.width_mm) - max(low, at) > _SEEN_MM
                for at, look in zip(one.offsets_mm, self._looks, strict=True)
            )
        )

    def _design(self, one: MadeCake) -> DesignedCake:
        each = self._space.rate([one])[0]
        weights = np.array([look.weight for look in self._looks])
        return DesignedCake(
            tuple(self._space.stock[paint] for paint in one.paints),
            tuple(round(width, 2) for width in one.widths_mm),
            tuple(round(offset, 2) for offset in one.offsets_mm),
            one.flips,
            tuple(float(value) for value in each),
            float(each @ weights / weights.sum()),
        )

    # --- time ---

    def _part(self, done: float) -> float:
        return max(done, min((self._clock() - self._began) / self._seconds, 1.0))

    def _late(self, share: float = 1.0) -> bool:
        return self._clock() - self._began > share * self._seconds

    # --- seeds ---

    def _seeds(self) -> list[tuple[float, MadeCake]]:
        found: list[tuple[float, MadeCake]] = []
        for look in range(len(self._looks)):
            found += self._priced([self._placed(one) for one in self._by_programming(look)])
        for price, one in found:
            self._keep(price, one)
        if found:
            self._show(self.designs())
        found += self._priced(list(self._pairs()))
        if not self._late(0.2):
            found += self._priced(list(self._threes()))
        return found

    def _priced(self, ones: Sequence[MadeCake]) -> list[tuple[float, MadeCake]]:
        allowed = [one for one in ones if self._limits.allows(one, self._looks)]
        if not allowed:
            return []
        prices = self._space.total(allowed) + STRIPE_PRICE * np.array([len(one.paints) for one in allowed])
        return [(float(price), one) for price, one in zip(prices, allowed, strict=True)]

    def _placed(self, one: MadeCake) -> MadeCake:
        """Return a cake as wide as one look's window made wide enough for all, every window in its middle."""
        need = max(self._limits.least_mm, *(other.width_mm for other in self._looks))
        short = max(need - one.width_mm, 0.0)
        widths = (one.widths_mm[0] + short / 2, *one.widths_mm[1:-1], one.widths_mm[-1] + short / 2)
        total = sum(widths)
        offsets = tuple(min(max((total - other.width_mm) / 2, 0.0), total) for other in self._looks)
        return MadeCake(one.paints, widths, offsets, tuple(False for _ in self._looks))

    def _by_programming(self, look: int) -> Iterator[MadeCake]:
        """Give the best plain stripes of each number for one look, without blends."""
        here = self._looks[look]
        cost = self._cell_costs(here)
        least = max(1, math.ceil(LEAST_STRIPE_MM / here.width_mm * _CELLS))
        for stripes in range(max(2, self._limits.stripes[0]), min(self._limits.stripes[1], _CELLS // least) + 1):
            yield from _best_rows(cost, stripes, least, here.width_mm / _CELLS)

    def _cell_costs(self, look: Look) -> Array:
        """Return the difference of each paint from the wish at each of 40 cells, shape (paints, cells)."""
        labs = self._space.pure_labs(look)
        seen = np.array([look.goal.difference(np.broadcast_to(lab, (look.goal.labs.shape[1], 3))) for lab in labs])
        at = (np.arange(_CELLS) + 0.5) / _CELLS * seen.shape[1] - 0.5
        return np.array([np.interp(at, np.arange(seen.shape[1]), row) for row in seen])

    def _pairs(self) -> Iterator[MadeCake]:
        if not self._limits.stripes[0] <= 2 <= self._limits.stripes[1]:
            return
        width = self._width()
        for a, b in itertools.permutations(range(len(self._space.stock)), 2):
            if self._limits.keep <= {a, b}:
                for part in (0.2, 0.35, 0.5, 0.65, 0.8):
                    yield self._spread((a, b), (part * width, (1 - part) * width))

    def _threes(self) -> Iterator[MadeCake]:
        if not self._limits.stripes[0] <= 3 <= self._limits.stripes[1]:
            return
        width = self._width()
        likely = sorted({*self._likely(), *self._limits.keep})
        for names in itertools.permutations(likely, 3):
            if self._limits.keep <= set(names):
                for first, last in ((0.2, 0.2), (0.33, 0.33), (0.2, 0.5), (0.5, 0.2)):
                    yield self._spread(names, (first * width, (1 - first - last) * width, last * width))

    def _likely(self) -> list[int]:
        """Return the paints that come nearest to any part of a wish."""
        nearest = np.min([self._cell_costs(look).min(axis=1) for look in self._looks], axis=0)
        spread = np.min([self._cell_costs(look).mean(axis=1) for look in self._looks], axis=0)
        order = np.argsort(nearest + 0.2 * spread, kind="stable")
        return [int(paint) for paint in order[:_LIKELY]]

    def _width(self) -> float:
        return max(self._limits.least_mm, 2 * LEAST_STRIPE_MM)

    def _spread(self, paints: tuple[int, ...], widths: tuple[float, ...]) -> MadeCake:
        total = sum(widths)
        offsets = tuple(max((total - look.width_mm) / 2, 0.0) for look in self._looks)
        return MadeCake(paints, widths, offsets, tuple(False for _ in self._looks))

    # --- downhill ---

    def _keep(self, price: float, one: MadeCake) -> None:
        known = self._best.get(one.paints)
        if known is None or price < known[0]:
            self._best[one.paints] = (price, one)

    def _slid(self, price: float, one: MadeCake, steps: Sequence[float] = _STEPS_MM) -> tuple[float, MadeCake]:
        """Return the cake with walls and windows slid until nothing more helps."""
        for step in steps:
            for _ in range(60):
                tried = self._priced(list(slides(one, step)))
                best = min(tried, key=lambda pair: pair[0], default=(math.inf, one))
                if best[0] >= price - 1e-4 or self._late():
                    break
                price, one = best
                self._report(self._part(0.0), phrase("bettering cakes"))
        self._keep(price, one)
        return price, one

    def _climb(self, one: MadeCake) -> None:
        """Better one cake until neither slides nor changes help."""
        price, one = self._slid(self._priced([one])[0][0], one)
        for _ in range(12):
            tried = sorted(self._priced(list(changes(one, len(self._space.stock)))), key=lambda pair: pair[0])
            better = None
            for start in _unlike(tried, _FEW):
                if self._late():
                    return
                slid = self._slid(*start, steps=_STEPS_MM[1:4])
                if slid[0] < price - 2e-3 and (better is None or slid[0] < better[0]):
                    better = slid
                    if start[0] < price - 0.1:  # plainly better as it is: no need to look at the others
                        break
            if better is None:
                return
            price, one = self._slid(*better)


def _limits(stock: Sequence[Paint], looks: Sequence[Look], terms: Terms) -> Limits:
    if len(stock) < 2:
        raise NoCakeError(phrase("A cake needs at least two paints; add paints at the Tray, or allow more of them."))
    if not looks:
        raise NoCakeError(phrase("There is no stroke to make a cake for; choose at least one."))
    widest = max(look.width_mm for look in looks)
    if terms.pan_mm is not None and terms.pan_mm < widest - 1e-6:
        raise NoCakeError(
            phrase(
                "A pan of {pan_mm:g} mm is narrower than the brush ({widest:.1f} mm); "
                "take a wider pan or a narrower brush.",
                pan_mm=terms.pan_mm,
                widest=widest,
            )
        )
    names = [paint.id for paint in stock]
    lost = [name for name in terms.keep if name not in names]
    if lost:
        raise NoCakeError(
            phrase("The paint '{lost}' is to be kept but is not among those allowed; allow it first.", lost=lost[0])
        )
    least, room = (widest, widest + _ROOM_MM) if terms.pan_mm is None else (terms.pan_mm, terms.pan_mm)
    most = min(terms.stripes, int(room / LEAST_STRIPE_MM))
    fewest = most if terms.exactly else 2
    if len(set(terms.keep)) > most or most < 2:
        raise NoCakeError(
            phrase(
                "{room:.0f} mm have room for {most} stripes of 2.5 mm; keep fewer, or take a wider pan.",
                room=room,
                most=most,
            )
        )
    return Limits(least, room, (fewest, most), frozenset(names.index(name) for name in terms.keep))


def _best_rows(cost: Array, stripes: int, least: int, cell_mm: float) -> Iterator[MadeCake]:
    """Give the best row of so many plain stripes: dynamic programming over where each begins."""
    paints, cells = cost.shape
    reached = np.concatenate([np.zeros((paints, 1)), np.cumsum(cost, axis=1)], axis=1)
    best = np.full((stripes + 1, cells + 1, paints), np.inf)
    came: dict[tuple[int, int, int], tuple[int, int]] = {}
    best[1, least:, :] = reached[:, least:].T
    for count in range(2, stripes + 1):
        for end in range(count * least, cells + 1):
            for start in range((count - 1) * least, end - least + 1):
                before = best[count - 1, start]
                one, two = (int(at) for at in np.argsort(before)[:2])
                through = np.full(paints, before[one])
                through[one] = before[two]
                total = through + reached[:, end] - reached[:, start]
                better = total < best[count, end] - 1e-12
                best[count, end][better] = total[better]
                for paint in np.flatnonzero(better).tolist():
                    came[count, end, paint] = (start, two if paint == one else one)
    last = int(best[stripes, cells].argmin())
    if not np.isfinite(best[stripes, cells, last]):
        return
    row, end = [last], cells
    widths: list[float] = []
    for count in range(stripes, 1, -1):
        start, before_paint = came[count, end, row[0]]
        widths.insert(0, (end - start) * cell_mm)
        row.insert(0, before_paint)
        end = start
    widths.insert(0, end * cell_mm)
    yield MadeCake(tuple(row), tuple(widths), (0.0,), (False,))


def _unlike(ordered: Sequence[tuple[float, MadeCake]], most: int) -> list[tuple[float, MadeCake]]:
    """Return the first of each row of paints, at most so many."""
    taken: dict[tuple[int, ...], tuple[float, MadeCake]] = {}
    for price, one in ordered:
        taken.setdefault(one.paints, (price, one))
        if len(taken) == most:
            break
    return list(taken.values())


def why_not(stock: Sequence[Paint], look: Look, skin: Array, limit_de00: float) -> str:
    """Return why no order of stripes can lay a wish, in a sentence, or nothing if it can.

    For each place the nearest coat of any one paint, and of any two mixed half and half, is looked at.
    """
    pairs = list(itertools.combinations_with_replacement(range(len(stock)), 2))
    shares = np.zeros((len(pairs), len(stock)))
    for row, pair in enumerate(pairs):
        for paint in pair:
            shares[row, paint] += 0.5
    labs = coat_lab(shares, optics(tuple(stock)), look.coat_um, skin)
    places = look.goal.labs.shape[1]
    every = np.array([look.goal.difference(np.broadcast_to(lab, (places, 3))) for lab in labs])
    nearest = every.min(axis=0)
    far = nearest > 2 * limit_de00
    if far.mean() < 0.1:
        return ""
    at = int(np.where(far, nearest, 0).argmax())
    short = float(look.goal.labs[0, at, 0] - labs[int(every[:, at].argmin()), 0])
    lack = phrase("a nearer paint")
    if abs(short) > 3:
        lack = phrase("a lighter paint") if short > 0 else phrase("a darker paint")
    place = (at + 0.5) / places * look.width_mm
    return phrase(
        "No order of stripes can do it: {place:.1f} mm from A nothing here comes nearer than {nearest:.0f} dE to "
        "what you want; add {lack}.",
        place=place,
        nearest=nearest[at],
        lack=lack,
    )
