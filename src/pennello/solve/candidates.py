"""All loads of one visit from the cakes at hand, and how far each is from the wish: a fast first pass, then exactly.

First pass: each cake, at each blend, becomes a strip of colours every quarter of a mm. Around each wanted colour
CIEDE2000 is a quadratic form (its derivative there), so that a strip against all 32 places is one matrix product, and
a load is a sum read along a diagonal of it. Second pass: the same mean in closed form and true CIEDE2000 for the loads
that lead, some of every cake.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import FULL, Basis, small_basis
from pennello.colour.difference import ciede2000
from pennello.kept import kept
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.paint import Paint, optics
from pennello.load.pickup import blurred_stripes, stripes_reached
from pennello.load.visit import top_composition
from pennello.solve.coats import SAMPLES, Goal, coat_lab

Array = NDArray[np.floating[Any]]

OFFSET_STEP_MM = 0.5
HANG_MM = 1.0
"""How far a brush may hang over the cake's wall."""

BLENDS_MM = (0.3, 0.5, 0.8, 1.2, 1.8, 2.5, 3.5, 5.0)
"""Drifts that are tried: from the straightest hand to a broad sweep."""

GRID_MM = 0.25
_FINE_MM = 0.1
_BANDS = 10
_LEADERS, _OF_EACH = 900, 16
_THREADS = 2
_CHUNK = 256
_BEYOND_MM = HANG_MM + 1.0


@dataclass(frozen=True, slots=True)
class Tried:
    """A brush that is tried, what is wanted across it, the coat it leaves, and the blends that are swept with it.

    Attributes
    ----------
    mixing_mm
        Blur that wet bristles add, mm.
    """

    brush: Applicator
    goal: Goal
    coat_um: float
    drifts_mm: tuple[float, ...] = BLENDS_MM
    mixing_mm: float = 0.0


@dataclass(frozen=True, slots=True)
class Candidate:
    """One visit: where the brush goes on a cake, and how far the coat is from the wish."""

    cake: str
    brush: str
    offset_mm: float
    flip: bool
    drift_mm: float
    mean_de00: float
    p95_de00: float


@dataclass(frozen=True, slots=True, eq=False)
class Search:
    """The loads that lead, nearest first, and how many were looked at."""

    found: tuple[Candidate, ...]
    searched: int


@dataclass(frozen=True, slots=True, eq=False)
class _Block:
    """All loads of one cake and brush: estimates, shape (blends, offsets, 2); the last axis is flip."""

    cake: Cake
    tried: Tried
    offsets: Array
    estimate: Array


def search(
    cakes: Sequence[Cake],
    brushes: Sequence[Tried],
    paints: Mapping[str, Paint],
    skin: Array,
    report: Callable[[float], None] = lambda _: None,
    threads: int = _THREADS,
) -> Search:
    """Return the best loads of one visit.

    Parameters
    ----------
    report
        Is told how much is done, 0 to 1, and may raise to stop.
    """
    optics(tuple(paints[name] for cake in cakes for name in cake.paints))  # all together, once
    blocks = _estimates(cakes, brushes, paints, skin, threads, lambda part: report(0.7 * part))
    leaders = list(_leaders(blocks))
    report(0.75)
    rough = _scored(leaders, paints, skin, small_basis(_BANDS), _from_tables)
    best = _first(rough, 120, 2)
    report(0.9)
    exact = _scored([leaders[at] for at in best], paints, skin, FULL, exact_shares)
    ordered = sorted(exact, key=lambda one: (round(one.mean_de00, 9), one.cake, one.offset_mm, one.flip))
    return Search(tuple(ordered), sum(block.estimate.size for block in blocks))


def offsets_of(cake: Cake, brush: Applicator) -> Array:
    """Return where a brush may lie on a cake, mm from its left wall to the brush's left corner; none if too wide."""
    room = cake.width_mm - brush.width_mm
    if room < -2 * HANG_MM:
        return np.empty(0)
    low, high = (-HANG_MM, room + HANG_MM) if room >= 0 else (room / 2, room / 2)
    return (
        np.arange(math.ceil(low / OFFSET_STEP_MM - 1e-9), math.floor(high / OFFSET_STEP_MM + 1e-9) + 1)
        * (OFFSET_STEP_MM)
        if high > low
        else np.array([low])
    )


def composition_of(cake: Cake) -> tuple[tuple[str, ...], Array]:
    """Return the paints of a cake and what the top of each stripe is made of, worn-out stripes nothing.

    Shape (stripes, paints).
    """
    names = cake.paints
    return names, top_composition(cake, np.zeros(len(cake.stripes)), names) * stripes_reached(cake)[:, None]


# --- first pass ---


def _estimates(
    cakes: Sequence[Cake],
    brushes: Sequence[Tried],
    paints: Mapping[str, Paint],
    skin: Array,
    threads: int,
    report: Callable[[float], None],
) -> list[_Block]:
    """Return the estimates of all cakes with all brushes that fit them; brushes that lay alike are done at once."""
    groups: dict[tuple[tuple[float, ...], float, float], list[Tried]] = {}
    for one in brushes:
        groups.setdefault((one.drifts_mm, one.mixing_mm, round(one.coat_um, 1)), []).append(one)
    jobs = [(cake, group) for cake in cakes for group in groups.values()]
    blocks: list[_Block] = []
    with ThreadPoolExecutor(threads) as pool:
        for number, found in enumerate(pool.map(lambda job: _estimated(job[0], job[1], paints, skin), jobs)):
            blocks.extend(found)
            report((number + 1) / len(jobs))
    return blocks


def _estimated(cake: Cake, group: Sequence[Tried], paints: Mapping[str, Paint], skin: Array) -> list[_Block]:
    """Return the estimates of one cake with brushes that lay alike."""
    fitting = [(one, offsets) for one in group if len(offsets := offsets_of(cake, one.brush))]
    if not fitting:
        return []
    first = fitting[0][0]
    known = tuple(paints[name] for name in cake.paints)
    start, features = _strip(cake, first.drifts_mm, first.mixing_mm, round(first.coat_um, 1), known, skin.tobytes())
    ends = len(first.goal.labs)
    forms = np.hstack([form for one, _ in fitting for form in _forms(one.goal)])  # 64 columns: as it is, and flipped
    squared = (features.reshape(-1, features.shape[2]) @ forms).reshape(len(features), -1)
    reads = [
        _reads(one, offsets, start, features.shape[1], number, ends, forms.shape[1])
        for number, (one, offsets) in enumerate(fitting)
    ]
    near = squared.take(np.concatenate(reads), axis=1)
    np.maximum(near, 0, out=near)
    np.sqrt(near, out=near)
    means = near.reshape(len(features), -1, SAMPLES).mean(axis=2)
    blocks, begin = [], 0
    for one, offsets in fitting:
        part = means[:, begin : begin + ends * 2 * len(offsets)]
        begin += part.shape[1]
        estimate = part.reshape(len(features), ends, 2, len(offsets)).mean(axis=1).transpose(0, 2, 1)
        blocks.append(_Block(cake, one, offsets, estimate))
    return blocks


def _reads(
    one: Tried, offsets: Array, start: float, places: int, number: int, ends: int, columns: int
) -> NDArray[np.intp]:
    """Return where in the table of squares a brush reads: for start and end, as it is and flipped, at each offset."""
    at = offsets[:, None] + (np.arange(SAMPLES) + 0.5) / SAMPLES * one.brush.width_mm
    rows = np.clip(np.rint((at - start) / GRID_MM - 0.5).astype(np.intp), 0, places - 1)
    base = (rows * columns + np.arange(SAMPLES))[None]
    which = (number * ends * 2 + np.arange(ends * 2))[:, None, None]
    return np.asarray((base + which * SAMPLES).ravel())


@kept
def _forms(goal: Goal) -> tuple[Array, ...]:
    """Return for each wanted colour what squares to dE00 near it, in L2, a2, b2, La, Lb, ab, L, a, b, 1.

    For start and end of the stroke, shape (10, 64): as it is, and flipped.
    """
    return tuple(np.hstack([form, form[:, ::-1]]) for form in map(_form, goal.labs))


def _form(labs: Array) -> Array:
    step = 2.0
    unit = np.eye(3) * step
    along = np.array([ciede2000(labs + one, labs) ** 2 + ciede2000(labs - one, labs) ** 2 for one in unit]) / 2
    mixed = {}
    for i, j in ((0, 1), (0, 2), (1, 2)):
        plus, minus = ciede2000(labs + unit[i] + unit[j], labs) ** 2, ciede2000(labs + unit[i] - unit[j], labs) ** 2
        mixed[i, j] = (plus - minus) / 4
    m = np.zeros((len(labs), 3, 3))
    for i in range(3):
        m[:, i, i] = along[i]
    for (i, j), value in mixed.items():
        m[:, i, j] = m[:, j, i] = value
    m /= step**2
    linear = -2 * np.einsum("nij,nj->ni", m, labs)
    constant = np.einsum("ni,nij,nj->n", labs, m, labs)
    squares = [m[:, 0, 0], m[:, 1, 1], m[:, 2, 2], 2 * m[:, 0, 1], 2 * m[:, 0, 2], 2 * m[:, 1, 2]]
    return np.asarray(np.array([*squares, *linear.T, constant]), np.float32)


@kept
def _strip(
    cake: Cake, drifts_mm: tuple[float, ...], mixing_mm: float, coat_um: float, paints: tuple[Paint, ...], skin: bytes
) -> tuple[float, Array]:
    """Return where a cake's strips begin and the features of their colours, shape (blends, places, 10)."""
    edges = _grid(cake, GRID_MM)
    _, composition = composition_of(cake)
    basis = small_basis(_BANDS)
    shares = np.array([blurred_stripes(cake, edges, spread_mm(cake, one, mixing_mm)).T for one in drifts_mm])
    lab = coat_lab(shares @ composition, optics(paints).at(basis), coat_um, np.frombuffer(skin), basis)
    lightness, a, b = np.moveaxis(lab.astype(np.float32), -1, 0)
    rows = [lightness**2, a**2, b**2, lightness * a, lightness * b, a * b, lightness, a, b, np.ones_like(a)]
    return float(edges[0]), np.stack(rows, axis=-1)


def _grid(cake: Cake, step_mm: float) -> Array:
    """Return edges every so many mm over a cake and as far beyond its walls as a brush may hang."""
    return np.arange(-_BEYOND_MM, cake.width_mm + _BEYOND_MM + step_mm, step_mm)


def spread_mm(cake: Cake, drift_mm: float, mixing_mm: float) -> float:
    """Return the standard deviation of the blur across the stripes, mm."""
    return math.sqrt(drift_mm**2 + cake.softness_mm**2 + mixing_mm**2)


# --- second pass ---


_Leader = tuple[_Block, int, int, int]
"""A block and where in it: blend, offset, flip."""


def _leaders(blocks: list[_Block]) -> Iterator[_Leader]:
    """Give the loads that lead by their estimates, of all and of every cake."""
    if not blocks:
        return
    every = np.concatenate([block.estimate.ravel() for block in blocks])
    limit = _least(every, _LEADERS)
    of_cake: dict[str, list[Array]] = {}
    for block in blocks:
        of_cake.setdefault(block.cake.id, []).append(block.estimate.ravel())
    limits = {name: max(_least(np.concatenate(ones), _OF_EACH), limit) for name, ones in of_cake.items()}
    for block in blocks:
        for at in np.flatnonzero(block.estimate.ravel() <= limits[block.cake.id]):
            blend, offset, flip = np.unravel_index(int(at), block.estimate.shape)
            yield block, int(blend), int(offset), int(flip)


def _least(values: Array, count: int) -> float:
    """Return the value that so many are not above."""
    at = min(count, len(values)) - 1
    return float(np.partition(values, at)[at])


_Place = tuple[float, float]
"""An offset and a drift, mm."""

_Shares = Callable[[Cake, Tried, Sequence[_Place]], Array]


def exact_shares(cake: Cake, tried: Tried, places: Sequence[_Place]) -> Array:
    """Return what each of 32 places across the edge meets, in closed form, shape (places, 32, stripes)."""
    across = np.arange(SAMPLES + 1) / SAMPLES * tried.brush.width_mm
    return np.array(
        [blurred_stripes(cake, at + across, spread_mm(cake, drift, tried.mixing_mm)).T for at, drift in places]
    )


def _from_tables(cake: Cake, tried: Tried, places: Sequence[_Place]) -> Array:
    """Return the same read from tables at every 0.1 mm."""
    drifts = sorted({drift for _, drift in places})
    tables = np.array([_stripe_table(cake, spread_mm(cake, drift, tried.mixing_mm)) for drift in drifts])
    which = np.array([drifts.index(drift) for _, drift in places])[:, None]
    across = (np.arange(SAMPLES) + 0.5) / SAMPLES * tried.brush.width_mm
    at = (np.array([offset for offset, _ in places])[:, None] + across + _BEYOND_MM) / _FINE_MM - 0.5
    place = np.clip(at, 0, tables.shape[1] - 1.001)
    low = place.astype(np.intp)
    part = (place - low)[..., None]
    return np.asarray(tables[which, low] * (1 - part) + tables[which, low + 1] * part)


@kept
def _stripe_table(cake: Cake, sd_mm: float) -> Array:
    return blurred_stripes(cake, _grid(cake, _FINE_MM), sd_mm).T


def _scored(
    leaders: list[_Leader], paints: Mapping[str, Paint], skin: Array, basis: Basis, shares: _Shares
) -> list[Candidate]:
    """Return loads with their true differences, in the order given."""
    found: dict[int, Candidate] = {}
    groups: dict[tuple[str, int], list[int]] = {}
    for number, (block, *_) in enumerate(leaders):
        groups.setdefault((block.cake.id, id(block.tried)), []).append(number)
    for numbers in groups.values():
        for start in range(0, len(numbers), _CHUNK):
            part = numbers[start : start + _CHUNK]
            found.update(zip(part, _group([leaders[n] for n in part], paints, skin, basis, shares), strict=True))
    return [found[number] for number in range(len(leaders))]


def _group(
    leaders: list[_Leader], paints: Mapping[str, Paint], skin: Array, basis: Basis, shares: _Shares
) -> list[Candidate]:
    """Return loads of one cake and brush with their true differences."""
    block = leaders[0][0]
    cake, tried = block.cake, block.tried
    names, composition = composition_of(cake)
    places = [(float(block.offsets[o]), tried.drifts_mm[d], bool(f)) for _, d, o, f in leaders]
    met = shares(cake, tried, [(offset, drift) for offset, drift, _ in places])
    flipped = np.array([flip for *_, flip in places])
    met = np.where(flipped[:, None, None], met[:, ::-1], met)
    constants = optics(tuple(paints[name] for name in names)).at(basis)
    difference = tried.goal.difference(coat_lab(met @ composition, constants, tried.coat_um, skin, basis))
    ordered = np.sort(difference, axis=1)
    p95 = ordered[:, math.ceil(0.95 * (SAMPLES - 1))]
    return [
        Candidate(cake.id, tried.brush.id, offset, flip, drift, float(mean), float(top))
        for (offset, drift, flip), mean, top in zip(places, difference.mean(axis=1), p95, strict=True)
    ]


def _first(ones: list[Candidate], most: int, of_each: int) -> list[int]:
    """Return which lead: so many of all, and so many of every cake."""
    order = sorted(range(len(ones)), key=lambda at: ones[at].mean_de00)
    taken, counts = list(order[:most]), dict[str, int]()
    for at in order:
        counts[ones[at].cake] = counts.get(ones[at].cake, 0) + 1
        if counts[ones[at].cake] <= of_each and at not in taken[:most]:
            taken.append(at)
    return list(dict.fromkeys(taken))
