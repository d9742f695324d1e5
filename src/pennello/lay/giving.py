"""How fast each bin gives its paint from step to step: less along the chisel, little over its own wet track.

Common practice, no published source, for both; the exponent and the share over old ground are defaults. A line pulled
along the chisel comes out two to three times as thick as a broad film, not ten times; and a wiggle that goes back and
forth over the same place empties the brush by the ground that it covers anew, not by its way.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.contact import BINS
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
    step = _steps(track)
    return np.asarray(_along_the_chisel(track, step) * _over_old_ground(track, step))


def _steps(track: Track) -> Array:
    """Return the way of each bin in each step, mm, shape (n - 1, 64, 2)."""
    return np.diff(_places(track), axis=0)


def _places(track: Track) -> Array:
    u = (np.arange(BINS) + 0.5) / BINS - 0.5
    along = u[None, :, None] * (track.edge * track.widths_mm[:, None])[:, None, :]
    return np.asarray(track.centre[:, None, :] + along)


def _along_the_chisel(track: Track, step: Array) -> Array:
    """Return (ribbon / width)^0.8 of each bin's own direction, 1 where it does not move."""
    edge = (track.edge[:-1] + track.edge[1:]) / 2
    way = np.hypot(step[..., 0], step[..., 1])
    moving = way > 1e-9
    along = np.abs(step[..., 0] * edge[:, None, 0] + step[..., 1] * edge[:, None, 1])
    cosine = np.clip(np.divide(along, way, out=np.zeros_like(way), where=moving), 0, 1)
    sine = np.sqrt(1 - cosine * cosine)
    width = np.maximum(track.touch_mm, 1e-6)
    thick = ((track.thicknesses_mm / width)[:-1] + (track.thicknesses_mm / width)[1:])[:, None] / 2
    narrow = np.minimum(sine + thick * cosine, 1.0) ** LINE_EXPONENT
    return np.asarray(np.where(moving, narrow, 1.0))


def _over_old_ground(track: Track, step: Array) -> Array:
    """Return 1 over ground that is covered anew, AGAIN over what the stroke has covered and left."""
    if not _comes_back(step):
        return np.ones((1, BINS))
    middle = (_places(track)[:-1] + step / 2) / CELL_MM
    cell = np.floor(middle).astype(np.int64)
    number = (cell[..., 0] - cell[..., 0].min()) * (int(cell[..., 1].max() - cell[..., 1].min()) + 1) + cell[..., 1]
    _, cell_of = np.unique(number.ravel(), return_inverse=True)
    travelled = track.travel_mm.mean(axis=1)
    when = np.repeat((travelled[:-1] + travelled[1:]) / 2, BINS)
    touching = np.broadcast_to(track.touch > 0, track.travel_mm.shape)[:-1].ravel()
    first = np.full(int(cell_of.max()) + 1, np.inf)
    np.minimum.at(first, cell_of[touching], when[touching])
    behind = _BEHIND * max(track.thickness_mm, CELL_MM)
    return np.where(when - first[cell_of] > behind, AGAIN, 1.0).reshape(-1, BINS)


def _comes_back(step: Array) -> bool:
    """Return whether a corner or the middle ever moves against the way that it came."""
    ways = step[:, [0, BINS // 2, BINS - 1]]
    length = np.hypot(ways[..., 0], ways[..., 1])
    unit = ways / np.maximum(length, 1e-12)[..., None]
    if not len(unit):
        return False
    apart = np.einsum("nbc,mbc->nmb", unit[:: max(1, len(unit) // 64)], unit[:: max(1, len(unit) // 64)])
    return bool(apart.min(initial=1.0) < _TURNED)
