"""The laid stroke held against the wish, at stations along it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt, Side
from pennello.aim.wish import Wanted, wanted_along
from pennello.colour.basis import Basis
from pennello.colour.difference import ciede2000
from pennello.kit.contact import BINS
from pennello.lay.deposit import LEVELLING_MM
from pennello.lay.film import Samples, covered_reflectance, sample
from pennello.lay.laying import Laid
from pennello.load.edge import Boundary, LoadedEdge, boundaries
from pennello.load.gaussian import WIDTH_10_90
from pennello.load.pickup import bin_centres

Array = NDArray[np.floating[Any]]

STATIONS = 12
_STATIONS_AT = (np.arange(STATIONS) + 0.5) / STATIONS
PALE_DE00 = 3.0
"""The skin shows where the film is this far from what a full coat of the same paint would be (a default)."""

ON_SIDE_DE00 = 8.0
"""A rim or heel has its colour where it is nearer than this (a default)."""


@dataclass(frozen=True, slots=True)
class BoundaryCheck:
    """A wanted hand-over beside the laid one, if there is one: mm from A and 10-90 widths in mm."""

    from_stop: int
    wanted_at_mm: float
    wanted_width_mm: float
    laid: Boundary | None

    @property
    def shift_mm(self) -> float | None:
        """How far the laid boundary lies towards B, mm."""
        return None if self.laid is None else self.laid.at_mm - self.wanted_at_mm


@dataclass(frozen=True, slots=True, eq=False)
class Comparison:
    """What the verdict rests on.

    Attributes
    ----------
    s_mm, ribbon_mm
        Places of the stations along the stroke and width of the ribbon there, mm, shape (stations,).
    lab
        Laid colour, shape (stations, 64, 3).
    film_um
        Laid thickness, um, shape (stations, 64).
    wanted_lab
        Wanted colour at the start, shape (64, 3).
    goals
        Wanted colour at each station, shape (stations, 64, 3).
    de00
        Difference, shape (stations, 64).
    pale_de00
        How far the skin shows at each station: mean dE00 from a full coat of the same paint, shape (stations,).
    rim_share, heel_share
        Over what share of the length the outer millimetre has its wanted colour, in [0, 1].
    """

    s_mm: Array
    ribbon_mm: Array
    lab: Array
    film_um: Array
    wanted_lab: Array
    goals: Array
    de00: Array
    pale_de00: Array
    boundaries: tuple[BoundaryCheck, ...]
    rim_share: float
    heel_share: float

    @property
    def mean_de00(self) -> float:
        """Mean difference over all stations and bins."""
        return float(self.de00.mean())

    @property
    def p95_de00(self) -> float:
        """Difference that 95 % stay below."""
        ordered = np.sort(self.de00, axis=None)  # not numpy.percentile, which imports masked arrays, 30 ms at start
        return float(np.interp(0.95 * (ordered.size - 1), np.arange(ordered.size), ordered))

    @property
    def pale_from_mm(self) -> float | None:
        """Where the skin begins to show, to the end, mm along the stroke; None where it does not."""
        pale = self.pale_de00 > PALE_DE00
        if not pale[-1]:
            return None
        good = np.flatnonzero(~pale)
        if not len(good):
            return 0.0
        pair = slice(good[-1], good[-1] + 2)
        return float(np.interp(PALE_DE00, self.pale_de00[pair], self.s_mm[pair]))


def compare(laid: Laid, attempt: Attempt) -> Comparison:
    """Return how far a laid stroke is from its wish."""
    moments = laid.track.at(laid.track.length_mm * _STATIONS_AT)
    read = sample(laid.even, laid.track.points(moments, bin_centres()))
    lab = seen_lab(read, attempt.skin, laid.even.basis)
    along = np.concatenate([[0.0], _STATIONS_AT])
    goals = wanted_along(attempt.wanted, BINS, attempt.edge_mm, attempt.paints, attempt.skin, along)
    difference = ciede2000(lab, goals[1:])
    rim, heel = _side_shares(difference, attempt)
    return Comparison(
        s_mm=laid.track.s_mm[moments],
        ribbon_mm=laid.track.ribbon_mm[moments],
        lab=lab,
        film_um=read.thickness_um,
        wanted_lab=goals[0],
        goals=goals[1:],
        de00=difference,
        pale_de00=_paleness(read, lab, attempt, laid.even.basis),
        boundaries=check_boundaries(laid.edge, attempt.wanted),
        rim_share=rim,
        heel_share=heel,
    )


def runs_pale(laid: Laid, attempt: Attempt) -> bool:
    """Return whether the skin shows at the end of a stroke: what `compare` finds there, without all the rest."""
    last = laid.track.at(laid.track.length_mm * _STATIONS_AT[-1:])
    read = sample(laid.even, laid.track.points(last, bin_centres()))
    lab = seen_lab(read, attempt.skin, laid.even.basis)
    return bool(_paleness(read, lab, attempt, laid.even.basis)[-1] > PALE_DE00)


def _paleness(read: Samples, lab: Array, attempt: Attempt, basis: Basis) -> Array:
    """Return the mean dE00 of each station from a full coat of the same paint, shape (stations,)."""
    return np.asarray(ciede2000(lab, full_coat_lab(read, attempt, basis)).mean(axis=1))


def seen_lab(read: Samples, skin: Array, basis: Basis) -> Array:
    """Return L*, a*, b* of film samples on skin, each as if its covered part filled the eye."""
    covered = (read.coverage > 1e-3).astype(float)
    return basis.lab(covered_reflectance(read.kx, read.sx, covered, basis.pick(skin)))


def full_coat_lab(read: Samples, attempt: Attempt, basis: Basis) -> Array:
    """Return L*, a*, b* of the same paint where it is thinner than the wanted coat, brought up to that coat."""
    thickness = np.maximum(read.thickness_um, 1e-3)
    more = np.maximum(attempt.wanted.coat_um / thickness, 1.0)
    thick = Samples(read.kx * more[..., None], read.sx * more[..., None], read.thickness_um * more, read.coverage)
    return seen_lab(thick, attempt.skin, basis)


def check_boundaries(edge: LoadedEdge, wanted: Wanted) -> tuple[BoundaryCheck, ...]:
    """Return each wanted hand-over of two paints beside the one on the edge, which levelling softens."""
    loaded = boundaries(edge)
    levelled = [
        Boundary(
            one.from_paint,
            one.to_paint,
            one.at_mm,
            float(np.hypot(one.width_10_90_mm, WIDTH_10_90 * LEVELLING_MM)),
        )
        for one in loaded
    ]
    pairs = {(one.from_paint, one.to_paint): one for one in levelled}
    return tuple(
        BoundaryCheck(
            index,
            stop.to_u * edge.width_mm,
            stop.blend_mm,
            pairs.get((stop.paint or "", following.paint or "")),
        )
        for index, (stop, following) in enumerate(zip(wanted.stops, wanted.stops[1:], strict=False))
    )


def _side_shares(difference: Array, attempt: Attempt) -> tuple[float, float]:
    bins = max(1, round(BINS / attempt.edge_mm))
    on_a = float((difference[:, :bins].mean(axis=1) < ON_SIDE_DE00).mean())
    on_b = float((difference[:, -bins:].mean(axis=1) < ON_SIDE_DE00).mean())
    return (on_a, on_b) if attempt.rim is Side.A else (on_b, on_a)
