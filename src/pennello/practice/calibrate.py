"""Calibration in a minute: the painter says what he saw, the constants of his brush are fitted to it.

Each law is the one that the prediction uses; SciPy's least squares fits its constant on a log scale, so that none can
become negative. With one observation the fit goes through it exactly.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.errors import OutOfRangeError, PennelloError
from pennello.kit.applicator import Applicator
from pennello.lay.deposit import LEVELLING_MM
from pennello.load.gaussian import WIDTH_10_90
from pennello.load.recipe import LEAST_HAND_DRIFT_MM, Wetness
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

FULL_SHARE = 0.95
"""How full a brush is that looks full (a default)."""

PALE_SHARE = 0.35
"""How thin a petal has become, against the first, when it looks pale (a default)."""


class NothingSeenError(PennelloError):
    """There is nothing to fit to."""

    def __init__(self) -> None:
        super().__init__(phrase("Say at least one thing that you saw; without it there is nothing to fit."))


@dataclass(frozen=True, slots=True)
class Filled:
    """After so many sweeps from dry the brush was this full, in (0, 1); 0.95 looks full."""

    sweeps: float
    share: float = FULL_SHARE

    def __post_init__(self) -> None:
        _within(phrase("sweeps"), self.sweeps, 0.5, 500)
        _within(phrase("how full the brush was"), self.share, 0.05, 0.99)


@dataclass(frozen=True, slots=True)
class Petals:
    """One load gave so many petals of this length, mm, before one looked pale."""

    count: float
    length_mm: float

    def __post_init__(self) -> None:
        _within(phrase("petals of one load"), self.count, 0.25, 200)
        _within(phrase("length of a petal"), self.length_mm, 2, 2000)


@dataclass(frozen=True, slots=True)
class Blend:
    """On a test swatch a boundary was this wide, mm from 10 to 90 %, laid from a cake with this softness, mm."""

    width_10_90_mm: float
    softness_mm: float = 0.3
    passes: float = 12.0
    wetness: Wetness = Wetness.CREAMY

    def __post_init__(self) -> None:
        _within(phrase("width of the blend"), self.width_10_90_mm, 0.2, 60)
        _within(phrase("softness of the cake"), self.softness_mm, 0, 10)
        _within(phrase("sweeps"), self.passes, 0, 500)


@dataclass(frozen=True, slots=True)
class Fit:
    """A fitted constant: its value, its standard error (0 with one observation), and what it was before.

    `told` says whether what was seen tells it; what only follows from another constant is not the painter's own.
    """

    name: str
    value: float
    error: float
    before: float
    count: int
    told: bool = True


def _within(name: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        raise OutOfRangeError(name, value, phrase("{low:g} to {high:g}", low=low, high=high))


def fit_fill(brush: Applicator, seen: Sequence[Filled]) -> tuple[Fit, ...]:
    """Return the brush's fill constant, sweeps, from how full it was: share = 1 - e^(-n / n0)."""
    sweeps, share = (np.array([getattr(one, name) for one in seen], float) for name in ("sweeps", "share"))
    if not len(seen):
        raise NothingSeenError
    return (_fit(brush, "fill_passes", lambda n0: 1 - np.exp(-sweeps / n0) - share, len(seen), (0.2, 100.0)),)


def fit_release(brush: Applicator, seen: Sequence[Petals]) -> tuple[Fit, ...]:
    """Return the release length from petals per load: e^(-count length / L) = 0.35; and the capacity with it.

    The film of a fresh load is capacity over release length; it stays, so the capacity grows with the length. How many
    petals a load gives cannot tell the capacity by itself: it stays a default.
    """
    if not len(seen):
        raise NothingSeenError
    way = np.array([one.count * one.length_mm for one in seen])
    release = _fit(brush, "release_mm", lambda length: np.exp(-way / length) - PALE_SHARE, len(seen), (5.0, 10000.0))
    ratio = brush.capacity_mm3_per_mm / brush.release_mm
    capacity = min(max(release.value * ratio, 0.01), 200.0)
    return (
        release,
        Fit("capacity_mm3_per_mm", capacity, release.error * ratio, brush.capacity_mm3_per_mm, len(seen), told=False),
    )


def fit_drift(brush: Applicator, seen: Sequence[Blend]) -> tuple[Fit, ...]:
    """Return how far the painter's sweeps drift, mm, from the width of blends: w = 2.563 sqrt(sum of all variances)."""
    if not len(seen):
        raise NothingSeenError
    width = np.array([one.width_10_90_mm for one in seen])
    other = np.array([one.softness_mm**2 + one.wetness.mixing_mm**2 * one.passes + LEVELLING_MM**2 for one in seen])
    low = LEAST_HAND_DRIFT_MM / 3
    return (
        _fit(brush, "drift_mm", lambda drift: WIDTH_10_90 * np.sqrt(drift**2 + other) - width, len(seen), (low, 20.0)),
    )


def _fit(
    brush: Applicator, name: str, residuals: Callable[[float], Array], count: int, limits: tuple[float, float]
) -> Fit:
    from scipy.optimize import least_squares  # noqa: PLC0415 - costs a second to import: only when asked for

    before = float(getattr(brush, name))
    bounds = [math.log(limit) for limit in limits]
    start = min(max(math.log(max(before, limits[0])), bounds[0] + 1e-6), bounds[1] - 1e-6)
    found = least_squares(lambda p: residuals(math.exp(p[0])), [start], bounds=([bounds[0]], [bounds[1]]), xtol=1e-12)
    value = math.exp(float(found.x[0]))
    return Fit(name, value, _standard_error(found, value, count), before, count)


def _standard_error(found: Any, value: float, count: int) -> float:
    if count < 2:
        return 0.0
    slope = float((found.jac**2).sum())
    variance = 2 * float(found.cost) / (count - 1)
    return value * math.sqrt(variance / slope) if slope > 0 else math.inf


def calibrated(brush: Applicator, fits: Sequence[Fit]) -> Applicator:
    """Return the brush with fitted constants; those that what was seen can tell are marked as the painter's own."""
    own = tuple(dict.fromkeys([*brush.own, *(fit.name for fit in fits if fit.told)]))
    values: dict[str, Any] = {fit.name: round(fit.value, 4) for fit in fits}
    return replace(brush, **values, own=own)
