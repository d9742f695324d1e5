"""How fast each bin gives its paint from step to step: less along the chisel, little over its own wet track.

Common practice, no published source, for both; the exponent and the share over old ground are defaults. A line pulled
along the chisel comes out two to three times as thick as a broad film, not ten times; and a wiggle that goes back and
forth over the same place empties the brush by the ground that it covers anew, not by its way.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.contact import BINS, bin_places
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]

LINE_EXPONENT = 0.8
"""Paint given per mm falls as (ribbon / width) to this power where the ribbon is narrower than the edge."""

AGAIN = 0.15
"""Share of its usual paint that a bin gives per mm over ground that the stroke has covered before."""

CELL_MM = 0.8
"""Ground is told apart in cells of this size."""

_BEHIND = 2.0  # thicknesses: ground that the nib has not left yet is not covered before
_TURNED = -0.3  # cosine between ways of a bin: a stroke that never turns so far does not come back


def giving(track: Track) -> Array:
    """Return by how much each bin gives more slowly than on a broad, fresh way, in (0, 1], shape (n - 1, 64)."""
    return np.asarray(_along_the_chisel(track) * _over_old_ground(track))


def _steps(track: Track, u: Array) -> Array:
    """Return the way of places along the edge in each step, mm, shape (n - 1, u, 2)."""
    centre, reach = _moves(track)
    return np.asarray(centre[:, None, :] + (u - 0.5)[:, None] * reach[:, None, :])


def _moves(track: Track) -> tuple[Array, Array]:
    """Return how the edge's middle and how its two ends to each other move in each step, mm, shape (n - 1, 2) each."""
    reach = track.edge * track.widths_mm[:, None]
    return track.centre[1:] - track.centre[:-1], reach[1:] - reach[:-1]


def _along_the_chisel(track: Track) -> Array:
    """Return (ribbon / width)^0.8 of each bin's own direction, 1 where it does not move."""
    edge = (track.edge[:-1] + track.edge[1:]) / 2
    centre, reach = ((move * edge).sum(axis=1)[:, None] for move in _moves(track))
    way = track.travel_mm[1:] - track.travel_mm[:-1]
    moving = way > 1e-9
    along = np.abs(centre + (bin_places() - 0.5) * reach)
    cosine = np.minimum(np.divide(along, way, out=np.zeros_like(way), where=moving), 1.0)
    ribbon = np.sqrt(1 - cosine * cosine)
    thick = track.thicknesses_mm / np.maximum(track.touch_mm, 1e-6)
    ribbon += (thick[:-1] + thick[1:])[:, None] / 2 * cosine
    narrow = (ribbon < 1.0) & moving
    return np.asarray(np.power(ribbon, LINE_EXPONENT, out=np.ones_like(way), where=narrow))


def _over_old_ground(track: Track) -> Array:
    """Return 1 over ground that is covered anew, AGAIN over what the stroke has covered and left."""
    if not _comes_back(track):
        return np.ones((1, BINS))
    u, reach = bin_places(), track.edge * track.widths_mm[:, None]
    places = track.centre[:-1, None, :] + (u - 0.5)[:, None] * reach[:-1, None, :]
    cell = np.floor((places + _steps(track, u) / 2) / CELL_MM).astype(np.int64)
    number = (cell[..., 0] - cell[..., 0].min()) * (int(cell[..., 1].max() - cell[..., 1].min()) + 1) + cell[..., 1]
    _, cell_of = np.unique(number.ravel(), return_inverse=True)
    travelled = track.travel_mm.mean(axis=1)
    when = np.repeat((travelled[:-1] + travelled[1:]) / 2, BINS)
    touching = np.broadcast_to(track.touch > 0, track.travel_mm.shape)[:-1].ravel()
    first = np.full(int(cell_of.max()) + 1, np.inf)
    np.minimum.at(first, cell_of[touching], when[touching])
    behind = _BEHIND * max(track.thickness_mm, CELL_MM)
    return np.where(when - first[cell_of] > behind, AGAIN, 1.0).reshape(-1, BINS)


def _comes_back(track: Track) -> bool:
    """Return whether a corner or the middle ever moves against the way that it came."""
    ways = _steps(track, bin_places()[[0, BINS // 2, BINS - 1]])
    if not len(ways):
        return False
    few = ways[:: max(1, len(ways) // 64)].transpose(1, 0, 2)
    unit = few / np.maximum(np.hypot(few[..., 0], few[..., 1]), 1e-12)[..., None]
    return bool((unit @ unit.transpose(0, 2, 1)).min(initial=1.0) < _TURNED)
