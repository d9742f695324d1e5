"""How forgiving a load is: many seeded tries with a hand's own slips, and how many of them still hold."""

from __future__ import annotations

import math
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import compare
from pennello.aim.hand import SLIPS, Hand
from pennello.aim.quick import Forecast
from pennello.aim.state import CLOSE_FACTOR, P95_FACTOR
from pennello.colour.basis import small_basis
from pennello.errors import OutOfRangeError
from pennello.lay.laying import Laid
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.load.recipe import DRIFT_MM, LEAST_HAND_DRIFT_MM, PASSES, SKEW_DEG, PickUp, Recipe
from pennello.phrases import phrase
from pennello.solve.wilson import wilson

Array = NDArray[np.floating[Any]]

TRIES = 400
MOST_TRIES = 20_000
_PX_PER_MM = 2.0
_THREADS = 2
_CHUNK = 64


@dataclass(frozen=True, slots=True)
class Slip:
    """What one try did otherwise than meant, and how far it came out from the wish."""

    offset_mm: float
    skew_deg: float
    angle_deg: float
    drift_share: float
    passes: float
    mean_de00: float
    p95_de00: float


@dataclass(frozen=True, slots=True, eq=False)
class Forgiveness:
    """What many tries came to.

    Attributes
    ----------
    holds, close
        How many hold, and how many are at least close.
    low, high
        95 % interval of the share that holds (Wilson 1927).
    nominal
        Mean dE00 of the load as meant.
    worst
        The worst likely try: 95 of 100 come out better.
    ribbon
        Its colours across the edge, mean of the stations, L*, a*, b*, shape (64, 3).
    minds
        For each slip of SLIPS how much mean dE00 one standard deviation of it adds, on average over both ways.
    """

    tries: int
    holds: int
    close: int
    low: float
    high: float
    nominal: float
    worst: Slip
    ribbon: Array
    minds: dict[str, float]
    laid: bool

    @property
    def share(self) -> float:
        """Share of the tries that hold, in [0, 1]."""
        return self.holds / self.tries

    @property
    def minds_most(self) -> str:
        """The slip that it minds most."""
        return max(self.minds, key=lambda name: self.minds[name])


def forgive(
    attempt: Attempt,
    hand: Hand | None = None,
    tries: int = TRIES,
    seed: int = 1,
    *,
    start: tuple[Laid, Forecast] | None = None,
    every_laid: bool = False,
    report: Callable[[float], None] = lambda _: None,
) -> Forgiveness:
    """Return how forgiving a load is.

    Parameters
    ----------
    tries
        10 to 20 000.
    seed
        The same seed gives the same answer.
    start
        The attempt as laid and the forecast made from it, if the caller has them.
    every_laid
        Lay every try as a film instead of forecasting it from one laid stroke.
    report
        Is told how much is done, 0 to 1, and may raise to stop.
    """
    if not 10 <= tries <= MOST_TRIES:
        raise OutOfRangeError(phrase("number of tries"), tries, phrase("10 to {most_tries}", most_tries=MOST_TRIES))
    sizes = np.array((hand or Hand()).sizes)
    drawn = np.random.default_rng(seed).standard_normal((tries, len(SLIPS))) * sizes
    judge = _Judge(attempt, start, every_laid=every_laid)
    means, tops = judge.of(drawn, report)
    limit = attempt.wanted.tolerance_de00
    holds = int(((means <= limit) & (tops <= P95_FACTOR * limit)).sum())
    wide = CLOSE_FACTOR * limit
    close = int(((means <= wide) & (tops <= P95_FACTOR * wide)).sum())
    at = int(np.argsort(means, kind="stable")[math.ceil(0.95 * tries) - 1])
    low, high = wilson(holds, tries)
    nominal, minds = judge.sensitivity(sizes)
    worst = Slip(*(float(value) for value in (*drawn[at], means[at], tops[at])))
    return Forgiveness(tries, holds, close, low, high, nominal, worst, judge.ribbon(drawn[at]), minds, every_laid)


class _Judge:
    """Says how far tries come out from the wish."""

    def __init__(self, attempt: Attempt, start: tuple[Laid, Forecast] | None, *, every_laid: bool) -> None:
        self._attempt, self._every = attempt, every_laid
        if start is None:
            laid = attempt.lay(_PX_PER_MM, small_basis(8))
            start = laid, Forecast(attempt, laid.edge, compare(laid, attempt))
        self._track, self._forecast = start[0].track, start[1]

    def of(self, slips: Array, report: Callable[[float], None] = lambda _: None) -> tuple[Array, Array]:
        """Return mean and 95 % dE00 of tries, shape (tries,) each."""
        if self._every:
            return self._all_laid(slips, report)
        means, tops = np.empty(len(slips)), np.empty(len(slips))
        for start in range(0, len(slips), _CHUNK):
            part = slips[start : start + _CHUNK]
            recipes = [slipped_recipe(self._attempt.recipe, slip) for slip in part]
            found = self._forecast.differences(recipes, self._thicker(part[:, 2])).reshape(len(part), -1)
            means[start : start + _CHUNK] = found.mean(axis=1)
            tops[start : start + _CHUNK] = np.quantile(found, 0.95, axis=1)
            report(start / len(slips))
        return means, tops

    def _all_laid(self, slips: Array, report: Callable[[float], None]) -> tuple[Array, Array]:
        """Lay tries for real, those with the chisel held alike one after another: they share the way over the skin."""
        order = np.argsort(slips[:, 2], kind="stable")
        found = np.empty((len(slips), 2))
        with ThreadPoolExecutor(_THREADS) as pool:
            for number, (at, one) in enumerate(zip(order, pool.map(self._laid, slips[order]), strict=True)):
                found[at] = one
                if number % 16 == 0:
                    report(number / len(slips))
        return found[:, 0], found[:, 1]

    def _laid(self, slip: Array) -> tuple[float, float]:
        attempt = self._attempt
        stroke = slipped_stroke(attempt.stroke, float(round(slip[2])))
        tried = replace(attempt, recipe=slipped_recipe(attempt.recipe, slip), stroke=stroke)
        seen = compare(tried.lay(_PX_PER_MM, small_basis(8)), tried)
        return seen.mean_de00, seen.p95_de00

    def _thicker(self, angle_deg: Array) -> Array:
        """Return how much thicker the film gets where a turned chisel makes the ribbon narrower, shape (tries,)."""
        track = self._track
        phi = track.phi[None] + np.radians(np.concatenate([[0.0], angle_deg]))[:, None]
        wide = (track.widths_mm * np.abs(np.sin(phi)) + track.thicknesses_mm * np.abs(np.cos(phi))).mean(axis=1)
        return np.asarray(wide[0] / np.maximum(wide[1:], 0.1 * wide[0]))

    def sensitivity(self, sizes: Array) -> tuple[float, dict[str, float]]:
        """Return mean dE00 as meant, and what one standard deviation of each slip adds to it."""
        ways = np.concatenate([np.zeros((1, len(sizes))), np.diag(sizes), -np.diag(sizes)])
        means, _ = self.of(ways)
        added = (means[1 : 1 + len(sizes)] + means[1 + len(sizes) :]) / 2 - means[0]
        return float(means[0]), {name: float(value) for name, value in zip(SLIPS, added, strict=True)}

    def ribbon(self, slip: Array) -> Array:
        """Return the colours that a try lays across the edge, mean of the stations, shape (64, 3)."""
        recipe = slipped_recipe(self._attempt.recipe, slip)
        return np.asarray(self._forecast.labs((recipe,), self._thicker(slip[2:3]))[0].mean(axis=0))


def slipped_recipe(recipe: Recipe, slip: Array) -> Recipe:
    """Return the load as a hand does it that slips by offset, skew, -, share of drift and sweeps."""
    return replace(recipe, pickups=tuple(_slipped(pickup, slip) for pickup in recipe.pickups))


def _slipped(pickup: PickUp, slip: Array) -> PickUp:
    offset, skew, _, drift, passes = (float(value) for value in slip)
    least = min(LEAST_HAND_DRIFT_MM, pickup.drift_mm)
    return replace(
        pickup,
        offset_mm=pickup.offset_mm + (offset if pickup.cake else 0.0),
        skew_deg=min(max(pickup.skew_deg + skew, SKEW_DEG[0]), SKEW_DEG[1]),
        drift_mm=min(max(pickup.drift_mm * math.exp(drift), least), DRIFT_MM[1]),
        passes=min(max(pickup.passes + passes, min(1.0, pickup.passes)), PASSES[1]),
    )


def slipped_stroke(stroke: Stroke, angle_deg: float) -> Stroke:
    """Return the stroke with the chisel held so much further round, degrees."""
    nib = stroke.nib
    keys = tuple(Key(key.at, _turned(key.value + angle_deg)) for key in nib.keys) if nib.mode is NibMode.KEYED else ()
    turned = Nib(
        nib.mode,
        _turned(nib.angle_deg + angle_deg),
        _turned(nib.angle_end_deg + angle_deg),
        nib.pivot_u,
        keys or nib.keys,
    )
    return replace(stroke, nib=turned)


def _turned(angle_deg: float) -> float:
    return min(max(angle_deg, -720.0), 720.0)
