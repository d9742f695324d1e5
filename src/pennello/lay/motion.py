"""A stroke as a list of events for the kernel: where the nib is, how thick it is laid on, what each bin gives."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.contact import BINS
from pennello.lay.deposit import drop_counts, moments_of, sides_at
from pennello.lay.reservoir import Stretch
from pennello.lay.track import Track

Array = NDArray[np.floating[Any]]

_DRY = 1e-16


@dataclass(frozen=True, slots=True, eq=False)
class Motion:
    """n events: each stretch's touch-down, then its steps that leave anything.

    Attributes
    ----------
    pose
        Centre x, y (mm), edge x, y (unit vector from A to B), width and thickness (mm), stagger (share of a bin),
        shape (n, 7).
    count
        Drops through the thickness, shape (n,).
    stretch
        Which stretch each event belongs to, shape (n,).
    given, held
        Share of each bin's paint at the stretch's start that the event leaves, and that was there before it, (n, 64).
    passes
        How often the ground under each bin is passed over in the event: the way square to it, in contacts, (n, 64).
    sides
        Near and far side of the contact at each bin, in thicknesses, shape (n or 1, 2, 64).
    """

    pose: Array
    count: NDArray[np.intp]
    stretch: NDArray[np.intp]
    given: Array
    held: Array
    passes: Array
    sides: Array

    def sides_of(self, event: int) -> Array:
        """Return near and far side of the contact in an event, in thicknesses, shape (2, 64)."""
        return np.asarray(self.sides[min(event, len(self.sides) - 1)])


def motion_of(track: Track, stretches: tuple[Stretch, ...]) -> Motion:
    """Return the events of a stroke."""
    parts = [_events(track, stretch, number) for number, stretch in enumerate(stretches)]
    alone = parts[0] if len(parts) == 1 else (np.concatenate(columns) for columns in zip(*parts, strict=True))
    pose, count, which, given, held, passes, sides = alone
    given, held, passes = (np.asarray(one, np.float32) for one in (given, held, passes))  # they are kept by the hundred
    once = len(track.near) == 1 and len(track.far) == 1
    return Motion(pose, count, which, given, held, passes, sides[:1] if once else sides)


def _events(track: Track, stretch: Stretch, number: int) -> tuple[Any, ...]:
    counts = np.where(stretch.given.max(axis=1, initial=0) > _DRY, drop_counts(track, stretch), 0)
    steps = np.flatnonzero(counts > 0)
    moments = np.concatenate([[float(stretch.first)], moments_of(track, stretch, steps)])
    pose = np.empty((len(moments), 7))
    nib = (track.centre, track.edge, track.widths_mm[:, None], track.thicknesses_mm[:, None])
    pose[:, :6] = _between(np.concatenate(nib, axis=1), moments)
    pose[:, 6] = (np.floor(moments) % 2 - 0.5) / 2
    first = max(1, int(np.ceil(float(track.thicknesses_mm[stretch.first]) / 0.5)))
    count = np.concatenate([[first], counts[steps]])
    given = np.concatenate([stretch.touch_down[None], stretch.given[steps]])
    before = np.empty((len(stretch.given) + 1, BINS))
    before[0] = stretch.touch_down
    np.cumsum(stretch.given, axis=0, out=before[1:])
    before[1:] += stretch.touch_down
    held = np.concatenate([np.ones((1, BINS)), 1 - before[steps]])
    sides = np.broadcast_to(sides_at(track, moments), (len(moments), 2, BINS))
    return pose, count, np.full(len(moments), number), given, held, _passes(track, stretch, steps), sides


def _passes(track: Track, stretch: Stretch, steps: NDArray[np.intp]) -> Array:
    """Return how often the ground under each bin is passed over: once at touch-down, then by the way it makes."""
    at = stretch.first + steps
    way = track.travel_mm[at + 1] - track.travel_mm[at]
    sine, cosine = (np.abs(f(track.phi[at]))[:, None] for f in (np.sin, np.cos))
    width, thick = track.widths_mm[at][:, None], track.thicknesses_mm[at][:, None]
    near, far, touch = (_rows(values, at) for values in (track.near, track.far, track.touch))
    under = np.maximum((far - near) * thick * width, 1e-9)
    down = np.broadcast_to(track.touch[min(stretch.first, len(track.touch) - 1)], (1, BINS))
    over = way * ((width * sine + thick * cosine) * (touch / under))
    if track.press[at].any():
        over += np.where(track.press[at][:, None], _rows(track.touch, at + 1), 0.0)
    return np.concatenate([down, over])


def _rows(values: Array, at: NDArray[np.intp]) -> Array:
    """Return values at moments, shape (n, 64), or their one row where they never change."""
    return values if len(values) == 1 else values[at]


def _between(values: Array, moments: Array) -> Array:
    index = np.floor(moments).astype(np.intp)
    part = (moments - index)[:, None]
    following = np.minimum(index + 1, len(values) - 1)
    return np.asarray(values[index] * (1 - part) + values[following] * part)
