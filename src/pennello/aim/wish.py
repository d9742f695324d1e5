"""A wanted gradient: colours over the edge from A to B, and how softly each hands over to the next."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from pennello.colour.basis import FULL, full_basis
from pennello.colour.kubelka_munk import film, volume_shares
from pennello.colour.lights import Light
from pennello.colour.srgb import parse_hex
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit.applicator import Applicator
from pennello.kit.paint import Paint, optics
from pennello.load.edge import LoadedEdge
from pennello.load.gaussian import WIDTH_10_90, phi_integral
from pennello.phrases import phrase
from pennello.record import Told, check

Array = NDArray[np.floating[Any]]

COAT_UM = 20.0
"""Wanted coat of a brush, um: the usual one (a default)."""

SPONGE_COAT_UM = 10.0
"""Wanted coat of a sponge or dauber, which lays 8 to 12 um (common practice)."""


def usual_coat_um(brush: Applicator) -> float:
    """Return how thick a good coat of such a tool is, um."""
    return SPONGE_COAT_UM if brush.kind.pressed else COAT_UM


"""Film of a well laid stroke, um (a default): a wish for a paint means how it looks at this thickness on this skin."""

HIDING_UM = 2000.0
MOST_STOPS = 9
TOLERANCE_DE00 = 3.0
"""Mean dE00 up to which a stroke holds (a default)."""


@dataclass(frozen=True, slots=True)
class Stop:
    """One wanted colour, by paint or by sRGB: exactly one of them. The last stop ends at 1."""

    paint: Annotated[str | None, Told("id of a paint: a coat of it `coat_um` thick on this skin", text="id")] = None
    srgb: Annotated[str | None, Told("or a colour as it looks, `#rrggbb`", text="colour")] = None
    to_u: Annotated[
        float,
        Told(
            "where it hands over to the next, rising; 1 for the last",
            within=(0.0, 1.0),
            above=True,
            called="the end of a wanted colour (to_u)",
        ),
    ] = 1.0
    blend_mm: Annotated[
        float,
        Told("10-90 width of that handing over", "mm", within=(0.0, 60.0), called="the blend of a wanted colour"),
    ] = 2.5

    def __post_init__(self) -> None:
        if (self.paint is None) == (self.srgb is None):
            raise OutOfRangeError(
                phrase("a wanted stop"), (self.paint, self.srgb), phrase("either a paint or an srgb colour")
            )
        if self.srgb is not None:
            parse_hex(self.srgb)
        check(self)


@dataclass(frozen=True, slots=True)
class Wanted:
    """The gradient that a stroke should have; 1 to 9 stops from A to B, the last ending at 1.

    With `end` the wish changes evenly along the stroke from `stops` to `end`.
    """

    stops: Annotated[tuple[Stop, ...], Told("from A to B", count=(1, MOST_STOPS), called="wanted colours")]
    coat_um: Annotated[
        float,
        Told(
            "how thick a coat of a paint is meant",
            "um",
            within=(0.5, 500.0),
            called="wanted coat",
            default="20 (15 in files before schema 7)",
        ),
    ] = COAT_UM
    tolerance_de00: Annotated[
        float,
        Told(
            "mean CIEDE2000 up to which the stroke holds, with 95 % within three times it; close is within twice it",
            "dE00",
            within=(0.1, 50.0),
            called="tolerance",
        ),
    ] = TOLERANCE_DE00
    end: Annotated[
        tuple[Stop, ...],
        Told(
            "the same for the end of the stroke, towards which it changes evenly",
            since=4,
            count=(0, MOST_STOPS),
            called="wanted colours",
            default="left out: it stays",
        ),
    ] = ()

    def __post_init__(self) -> None:
        check(self)
        _check_stops(self.stops)
        if self.end:
            _check_stops(self.end)


def _check_stops(stops: tuple[Stop, ...]) -> None:
    ends = [stop.to_u for stop in stops]
    if ends[-1] != 1.0 or any(b <= a for a, b in pairwise(ends)):
        raise OutOfRangeError(phrase("ends of the wanted colours (to_u)"), ends, phrase("rising, with 1 for the last"))


def wanted_at_end(wanted: Wanted) -> Wanted:
    """Return the wish for the end of the stroke; the same one if it does not change."""
    return replace(wanted, stops=wanted.end, end=()) if wanted.end else wanted


def wanted_along(
    wanted: Wanted, bins: int, width_mm: float, paints: Mapping[str, Paint], skin: Array, along: Array
) -> Array:
    """Return the wanted colour at places along the stroke, 0 (start) to 1 (end), as L*, a*, b*, (places, bins, 3)."""
    start = wanted_lab(wanted, bins, width_mm, paints, skin)[None]
    if not wanted.end:
        return np.broadcast_to(start, (len(along), *start.shape[1:]))
    end = wanted_lab(wanted_at_end(wanted), bins, width_mm, paints, skin)[None]
    part = np.asarray(along, np.float64)[:, None, None]
    return np.asarray(start + part * (end - start))


def wanted_shares(wanted: Wanted, bins: int, width_mm: float) -> Array:
    """Return shares of the stops by volume, shape (stops, bins), summing to 1 over the stops.

    Parameters
    ----------
    bins
        How many equal bins the edge is cut into.
    width_mm
        Width of the edge, mm: blends are given in mm.
    """
    edges = np.arange(bins + 1) * width_mm / bins
    reached = [np.zeros(bins)]
    for stop in wanted.stops[:-1]:
        blurred = phi_integral(stop.to_u * width_mm - edges, stop.blend_mm / WIDTH_10_90)
        reached.append(np.maximum(-np.diff(blurred) * bins / width_mm, reached[-1]))
    return np.clip(np.diff(np.array([*reached, np.ones(bins)]), axis=0), 0, 1)


def wanted_lab(wanted: Wanted, bins: int, width_mm: float, paints: Mapping[str, Paint], skin: Array) -> Array:
    """Return the wanted colour across the edge as L*, a*, b*, shape (bins, 3).

    A paint means a coat of it on this skin, a colour means itself; blends mix as paint does.

    Parameters
    ----------
    paints
        Paints by id; those that the wish names must be there.
    skin
        Reflectance at 36 bands, shape (36,).
    """
    return _coats(wanted, wanted_shares(wanted, bins, width_mm), paints, skin)


def edge_lab(
    edge: LoadedEdge, paints: Mapping[str, Paint], skin: Array, coat_um: float = COAT_UM, light: Light = Light.DAYLIGHT
) -> Array:
    """Return a coat of what each bin holds on this skin as L*, a*, b*, shape (64, 3); bare skin where there is none.

    By daylight, or as another light shows it.
    """
    constants = optics(tuple(paints[name] for name in edge.paints))
    weights = volume_shares(edge.share.T)
    depth = np.where(edge.volume_mm3_per_mm > 0, coat_um, 0.0)[:, None]
    return full_basis(light).lab(film(weights @ constants.k * depth, weights @ constants.s * depth, skin))


def stop_labs(wanted: Wanted, paints: Mapping[str, Paint], skin: Array) -> Array:
    """Return the pure colours of the stops as L*, a*, b*, shape (stops, 3)."""
    return _coats(wanted, np.eye(len(wanted.stops)), paints, skin)


def _coats(wanted: Wanted, shares: Array, paints: Mapping[str, Paint], skin: Array) -> Array:
    constants = optics(tuple(_stop_paint(stop, paints) for stop in wanted.stops))
    weights = volume_shares(shares.T)
    thick = np.array([wanted.coat_um if stop.paint is not None else HIDING_UM for stop in wanted.stops])
    depth = (shares.T @ thick)[:, None]
    return FULL.lab(film(weights @ constants.k * depth, weights @ constants.s * depth, skin))


def _stop_paint(stop: Stop, paints: Mapping[str, Paint]) -> Paint:
    if stop.srgb is not None:
        return Paint(id=stop.srgb, name=stop.srgb, srgb=stop.srgb)
    if stop.paint is None or stop.paint not in paints:
        raise UnknownNameError(phrase("paint"), str(stop.paint), sorted(paints), phrase("the wanted gradient"))
    return paints[stop.paint]
