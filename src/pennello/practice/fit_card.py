"""A brush and its paints fitted to what a painted card shows.

Every constant begins at its shipped default as a prior and moves only as far as the photo pulls it: the mode of the
posterior by SciPy's least squares, its spread from the Jacobian there (Laplace's approximation). How far the brush lay
beside, how full it was and how hard it was pressed belongs to each stroke alone and is not kept. A constant counts as
the painter's own where its spread has shrunk below 0.6 of the prior's. Drying is never told from colour.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import Basis, small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.lab import xyz_to_lab
from pennello.colour.observer import rgb_to_xyz, xyz_to_rgb
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator
from pennello.kit.cake import Cake
from pennello.kit.contact import BINS
from pennello.kit.paint import Paint, optics
from pennello.load.edge import load
from pennello.load.recipe import Recipe
from pennello.phrases import phrase
from pennello.practice.own_paint import LOBES_NM, Bend, bent_optics, bent_paint
from pennello.practice.strip import seen, strip_um
from pennello.record import range_of

Array = NDArray[np.floating[Any]]

PLACES = 32
"""Places across a stroke that are compared."""

OWN_BELOW = 0.6
"""A constant is the painter's own from this share of its prior's spread."""

BRUSH = ("release_mm", "capacity_mm3_per_mm", "drift_mm", "fill_passes")
_BRUSH_SD = (0.4, 0.35, 0.45, 0.45)
_TINT_SD, _SLOPE_SD, _LOBE_SD = 0.5, 0.4, 0.35
_OFFSET_SD_MM, _FILL_SD, _PRESSURE_SD = 0.8, 0.12, 0.12
_COAT_SD, _LET_DOWN_SD = 0.35, 0.25
"""Spreads of the priors: natural logarithms, but slopes and offsets (defaults)."""

COAT_UM = 22.0
"""One coat of a dab (a default)."""

NOISE_LAB = 2.5
"""What the law itself misses, L*a*b* (a default); places of one stroke go wrong together, so each counts for less."""

_INDEPENDENT = 6.0
_LEAST, _MOST_EVALUATIONS = 1e-3, 40
_DARKEST = 4e-4


def with_constants(brush: Applicator, factors: Array) -> Applicator:
    """Return a brush with its constants (BRUSH) so many times greater, within what a brush may have; shape (4,)."""
    values: dict[str, Any] = {}
    for name, by in zip(BRUSH, factors, strict=True):
        low, high = range_of(Applicator, name)
        values[name] = float(np.clip(getattr(brush, name) * by, low, high))
    return replace(brush, **values)


class FitProblemError(PennelloError):
    """There is nothing to fit to, or it does not fit together."""


@dataclass(frozen=True, slots=True, eq=False)
class SeenStroke:
    """A stroke as a photo shows it.

    Attributes
    ----------
    s_mm
        Places along it, mm from its start, shape (n,).
    rgb
        Linear sRGB as reflectance, shape (n, 32, 3), from A to B.
    ground
        Reflectance below, the same in all bands, shape (n,), or of every band, shape (n, 36).
    """

    recipe: Recipe
    pressure: float
    s_mm: Array
    rgb: Array
    ground: Array


@dataclass(frozen=True, slots=True, eq=False)
class SeenDab:
    """A dab as a photo shows it: volumes of paints by id, coats of them, linear sRGB of shape (3,), what lies below."""

    parts: tuple[tuple[str, float], ...]
    coats: float
    rgb: Array
    ground: float


@dataclass(frozen=True, slots=True)
class Learnt:
    """A constant: its name, of which paint ("" for the brush), its value, what it was before, and its spread against
    the prior's: below 0.6 it is the painter's own."""

    name: str
    paint: str
    value: float
    before: float
    shrunk: float

    @property
    def own(self) -> bool:
        """Whether the photo told it."""
        return self.shrunk < OWN_BELOW


@dataclass(frozen=True, slots=True, eq=False)
class CardFit:
    """What was fitted.

    Attributes
    ----------
    brush, paints
        As the painter's own, paints in the order given.
    learnt
        Every constant.
    before_de00, after_de00
        Mean difference of the photo from the prediction, with defaults and as fitted.
    strokes_de00
        As fitted, of each stroke by place, shape (n, 32) each.
    """

    brush: Applicator
    paints: tuple[Paint, ...]
    learnt: tuple[Learnt, ...]
    before_de00: float
    after_de00: float
    strokes_de00: tuple[Array, ...]


class _Model:
    """What a vector of constants, each in spreads of its prior, lets expect."""

    def __init__(
        self,
        brush: Applicator,
        cakes: dict[str, Cake],
        paints: tuple[Paint, ...],
        strokes: Sequence[SeenStroke],
        dabs: Sequence[SeenDab],
    ) -> None:
        self.brush, self.cakes, self.paints = brush, cakes, paints
        self.strokes, self.dabs = strokes, dabs
        self.basis: Basis = small_basis(10)
        made = optics(paints)
        self._k, self._s = made.k, made.s
        self._at = {one.id: number for number, one in enumerate(paints)}
        each = (_TINT_SD, _SLOPE_SD, *([_LOBE_SD] * len(LOBES_NM)))
        own = [*_BRUSH_SD, *(each * len(paints))]
        self.kept = len(own)
        nuisance = [_OFFSET_SD_MM, _FILL_SD, _PRESSURE_SD] * len(strokes)
        coats = [sd for dab in dabs for sd in ((_COAT_SD, _LET_DOWN_SD) if len(dab.parts) > 1 else (_COAT_SD,))]
        self.sd = np.array([*own, *nuisance, *coats])
        self._laid: dict[bytes, list[Array]] = {}
        seen_rgb = [one.rgb.reshape(-1, 3) for one in strokes] + [one.rgb[None] for one in dabs]
        self.wanted = lab_of(np.concatenate(seen_rgb))
        weight = [np.full(one.rgb[..., 0].size, 1 / (NOISE_LAB * math.sqrt(_INDEPENDENT))) for one in strokes]
        weight += [np.full(1, 1 / NOISE_LAB)] * len(dabs)
        self.weight = np.concatenate(weight)[:, None]

    def brush_at(self, x: Array) -> Applicator:
        """Return the brush of a vector."""
        factors = np.exp(x[: len(BRUSH)] * np.array(_BRUSH_SD))
        return with_constants(self.brush, factors)

    def bend_at(self, x: Array, number: int) -> Bend:
        """Return how a paint is bent by a vector."""
        size = 2 + len(LOBES_NM)
        first = len(BRUSH) + size * number
        own = x[first : first + size] * self.sd[first : first + size]
        return Bend(float(own[0]), float(own[1]), tuple(own[2:].tolist()))

    def _optics(self, x: Array) -> tuple[Array, Array]:
        both = [bent_optics(self._k[n], self._s[n], self.bend_at(x, n)) for n in range(len(self.paints))]
        return tuple(self.basis.pick(np.array(part)) for part in zip(*both, strict=True))  # type: ignore[return-value]

    def _laid_um(self, x: Array) -> list[Array]:
        """Return the films of the strokes; kept, since most steps of a Jacobian touch colours alone."""
        own = np.concatenate([x[: len(BRUSH)], x[self.kept : self.kept + 3 * len(self.strokes)]])
        key = own.tobytes()
        if key not in self._laid:
            if len(self._laid) > 4:
                self._laid.clear()
            brush = self.brush_at(x)
            slips = (own[len(BRUSH) :] * self.sd[self.kept : self.kept + 3 * len(self.strokes)]).reshape(-1, 3)
            self._laid[key] = [self._one(one, brush, slip) for one, slip in zip(self.strokes, slips, strict=True)]
        return self._laid[key]

    def _one(self, one: SeenStroke, brush: Applicator, slip: Array) -> Array:
        edge = load(drifting(moved(one.recipe, float(slip[0])), brush), self.cakes, brush)
        pressure = min(max(one.pressure + float(slip[2]), 0.05), 1.0)
        um = strip_um(edge, brush, one.s_mm, pressure) * math.exp(float(slip[1]))
        rows = np.zeros((len(one.s_mm), len(self.paints), PLACES))
        rows[:, [self._at[name] for name in edge.paints]] = paired(um)
        return rows

    def expected(self, x: Array) -> Array:
        """Return L*a*b* of all that was seen, shape (m, 3)."""
        k, s = self._optics(x)
        found = [
            seen(um, k, s, self._ground(one.ground)).reshape(-1, k.shape[1])
            for one, um in zip(self.strokes, self._laid_um(x), strict=True)
        ]
        at = self.kept + 3 * len(self.strokes)
        for dab in self.dabs:
            um = COAT_UM * dab.coats * math.exp(float(x[at]) * self.sd[at])
            at += 1
            amounts = np.zeros((1, len(self.paints), 1))
            for number, (name, part) in enumerate(dab.parts):
                by = 1.0
                if number == 0 and len(dab.parts) > 1:
                    by = math.exp(float(x[at]) * self.sd[at])
                    at += 1
                amounts[0, self._at[name], 0] = um * part * by
            found.append(seen(amounts, k, s, np.full((1, k.shape[1]), dab.ground)).reshape(1, -1))
        return lab_of(xyz_to_rgb(self.basis.xyz(np.concatenate(found))))

    def _ground(self, ground: Array) -> Array:
        count = len(self.basis.index)
        return np.repeat(ground[:, None], count, axis=1) if ground.ndim == 1 else self.basis.pick(ground)

    def residual(self, x: Array) -> Array:
        """Return what is missed, in its own noise, and how far each constant has moved, in its own prior."""
        return np.concatenate([((self.expected(x) - self.wanted) * self.weight).ravel(), x])


def fit_card(
    brush: Applicator,
    cakes: dict[str, Cake],
    paints: tuple[Paint, ...],
    strokes: Sequence[SeenStroke],
    dabs: Sequence[SeenDab] = (),
    say: Callable[[float, str], None] | None = None,
) -> CardFit:
    """Return the brush and the paints that a painted card shows.

    Parameters
    ----------
    cakes
        By id; those that the strokes' loads reach must be there.
    paints
        All that the cakes hold.
    say
        Is told how far the work is, 0 to 1, and may raise to stop it.

    Raises
    ------
    FitProblemError
        If no stroke was seen.
    """
    from scipy.optimize import least_squares  # noqa: PLC0415 - SciPy costs a second to import

    if not strokes:
        raise FitProblemError(phrase("No stroke is on the photo; paint at least one of the card's four."))
    model = _Model(brush, cakes, paints, strokes, dabs)
    start = np.zeros(len(model.sd))
    rounds = 0

    def slopes(x: Array) -> Array:
        nonlocal rounds
        if say is not None:
            say(min(0.95, rounds / 12), phrase("fitting brush and paints"))
        rounds += 1
        return _slopes(model, x)

    found = least_squares(model.residual, start, jac=slopes, max_nfev=_MOST_EVALUATIONS, xtol=_LEAST, ftol=_LEAST)
    spread = np.sqrt(np.diag(np.linalg.inv(found.jac.T @ found.jac)))
    before, after = (ciede2000(model.expected(x), model.wanted) for x in (start, found.x))
    learnt = _learnt(model, found.x, spread)
    own = tuple(one.name for one in learnt if one.own and not one.paint)
    fitted = replace(model.brush_at(found.x), own=tuple(sorted({*brush.own, *own})))
    cuts = np.cumsum([one.rgb[..., 0].size for one in strokes])[:-1]
    total = sum(one.rgb[..., 0].size for one in strokes)
    parts = np.split(after[:total], cuts)
    return CardFit(
        fitted,
        tuple(bent_paint(one, model.bend_at(found.x, number)) for number, one in enumerate(paints)),
        learnt,
        float(before.mean()),
        float(after.mean()),
        tuple(part.reshape(one.rgb.shape[:2]) for part, one in zip(parts, strokes, strict=True)),
    )


def _slopes(model: _Model, x: Array, step: float = 1e-4) -> Array:
    """Return the Jacobian by forward differences: what no stroke rests on is not laid anew."""
    base = model.residual(x)
    columns = []
    for number in range(len(x)):
        ahead = x.copy()
        ahead[number] += step
        columns.append((model.residual(ahead) - base) / step)
    return np.array(columns).T


def _learnt(model: _Model, x: Array, spread: Array) -> tuple[Learnt, ...]:
    brush = model.brush_at(x)
    found = [
        Learnt(name, "", float(getattr(brush, name)), float(getattr(model.brush, name)), float(spread[number]))
        for number, name in enumerate(BRUSH)
    ]
    size = 2 + len(LOBES_NM)
    for number, paint in enumerate(model.paints):
        bend, first = model.bend_at(x, number), len(BRUSH) + size * number
        found.append(Learnt("tint", paint.id, paint.tint * math.exp(bend.tint), paint.tint, float(spread[first])))
        slope = paint.scatter_exponent + bend.slope
        found.append(Learnt("slope", paint.id, slope, paint.scatter_exponent, float(spread[first + 1])))
        lobes = spread[first + 2 : first + size]
        strongest = int(np.argmin(lobes))
        found.append(Learnt("colour", paint.id, bend.lobes[strongest], 0.0, float(lobes[strongest])))
    return tuple(found)


def moved(recipe: Recipe, by_mm: float) -> Recipe:
    """Return a load whose pick-ups from cakes lie so much farther along."""
    return replace(
        recipe,
        pickups=tuple(
            one if one.pan else replace(one, offset_mm=min(max(one.offset_mm + by_mm, -120.0), 500.0))
            for one in recipe.pickups
        ),
    )


def drifting(recipe: Recipe, brush: Applicator) -> Recipe:
    """Return a load whose sweeps drift as those with a brush usually do."""
    return replace(recipe, pickups=tuple(replace(one, drift_mm=brush.drift_mm) for one in recipe.pickups))


def paired(um: Array) -> Array:
    """Return films at 32 places instead of 64 bins, shape (..., 32)."""
    return np.asarray(um.reshape(*um.shape[:-1], PLACES, BINS // PLACES).mean(axis=-1))


def lab_of(rgb: Array) -> Array:
    """Return L*, a*, b* of linear sRGB, as far as a camera's picture holds it, shape (..., 3)."""
    return xyz_to_lab(rgb_to_xyz(np.clip(rgb, _DARKEST, 1.0)))
