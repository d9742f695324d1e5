"""Which colour is outside along a stroke: turning points of the path and flips that keep the rim."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.lay.stroke import Key, NibMode, Pats, Stroke
from pennello.path.cubic import CubicPath, direction, length_mm, parameter_at

Array = NDArray[np.floating[Any]]

_LEAST_BEND_DEG = 12.0


def bends(path: CubicPath) -> tuple[float, ...]:
    """Return where the path changes from turning one way to turning the other, mm; small wobbles do not count."""
    total = length_mm(path)
    if total <= 0:
        return ()
    s = np.linspace(0, total, 200)
    heading = direction(path, parameter_at(path, s))
    turning = np.diff(np.unwrap(np.arctan2(heading[:, 1], heading[:, 0])))
    places: list[float] = []
    way, least = 0.0, np.radians(_LEAST_BEND_DEG)
    for number, part in enumerate(turning.tolist()):
        if part * way < 0 and abs(way) > least and np.abs(np.cumsum(turning[number:])).max() > least:
            places.append(round(float(s[number]), 1))
            way = 0.0
        way += part
    return tuple(places)


def rim_kept(stroke: Stroke) -> Stroke:
    """Return the stroke with a flip at each bend, so that the same colour stays on the outside."""
    return replace(stroke, flips_mm=bends(stroke.path))


def mirrored(stroke: Stroke) -> Stroke:
    """Return the stroke as its mirror image (left and right exchanged about its middle); twice is nothing."""
    xs = [x for x, _ in stroke.path.points_mm]
    axis = min(xs) + max(xs)
    path = CubicPath(tuple((round(axis - x, 6), y) for x, y in stroke.path.points_mm))
    nib = stroke.nib
    if nib.mode.value in ("following", "keyed"):
        keys = tuple(replace(key, value=-key.value) for key in nib.keys)
        nib = replace(nib, angle_deg=-nib.angle_deg, keys=keys)
    else:
        nib = replace(nib, angle_deg=_half_turn(nib.angle_deg), angle_end_deg=_half_turn(nib.angle_end_deg))
    return replace(stroke, path=path, nib=nib, pats=mirrored_pats(stroke.pats))


def mirrored_pats(pats: Pats | None) -> Pats | None:
    """Return pats as their mirror image; twice is nothing."""
    return None if pats is None else replace(pats, mirrored=not pats.mirrored)


def _half_turn(angle_deg: float) -> float:
    return 180.0 - angle_deg


def reversed_way(stroke: Stroke) -> Stroke:
    """Return the stroke pulled from its other end, every corner of the brush on the same side; twice is nothing."""
    total = length_mm(stroke.path)
    nib = stroke.nib
    if nib.mode.value in ("following", "keyed"):
        keys = tuple(replace(key, at=1 - key.at, value=key.value - 180.0) for key in reversed(nib.keys))
        nib = replace(nib, angle_deg=nib.angle_deg - 180.0 if nib.angle_deg > 0 else nib.angle_deg + 180.0, keys=keys)
    else:
        nib = replace(nib, angle_deg=nib.angle_end_deg, angle_end_deg=nib.angle_deg)
        if nib.mode is NibMode.FIXED:
            nib = stroke.nib
    return replace(
        stroke,
        path=CubicPath(tuple(reversed(stroke.path.points_mm))),
        nib=nib,
        pressures=_turned_round(stroke.pressures),
        leans=_turned_round(stroke.leans),
        tilts=_turned_round(stroke.tilts),
        parts=tuple(replace(key, at=1 - key.at) for key in reversed(stroke.parts)),
        flips_mm=tuple(total - at for at in reversed(stroke.flips_mm) if at <= total),
        reload_mm=tuple(total - at for at in reversed(stroke.reload_mm) if at <= total),
    )


def _turned_round(keys: tuple[Key, ...]) -> tuple[Key, ...]:
    return tuple(replace(key, at=1 - key.at) for key in reversed(keys))


def with_way_of(stroke: Stroke, other: Stroke) -> Stroke:
    """Return the stroke held and pressed as another one, on its own path."""
    return replace(other, path=stroke.path, reload_mm=stroke.reload_mm, flips_mm=stroke.flips_mm)
