"""Where lines lead: stripes whose points aim elsewhere than those beside them, drawn swirls that begin at nothing."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Chart
from pennello.design.odd import found_at
from pennello.design.placed import LaidPiece, PlacedMotif
from pennello.finding import Code, Finding
from pennello.lay.stroke import Stroke
from pennello.path.cubic import direction, length_mm, parameter_at, position
from pennello.phrases import mark, phrase

Array = NDArray[np.floating[Any]]

FOCUS = mark("between the brows")
"""What the points of stripes aim at (common practice, no published source)."""

_LEAST_STRIPES, _MOST_OF_THEM = 4, 0.75
_BESIDE_MM, _BESIDE_DEG = 12.0, 20.0
"""So many stripes are a set, and of a set so many aim when they pass the focus no farther off (defaults)."""

_TIP = 0.5
"""A stroke has a point where it is pressed at most half as much as where it is pressed most (default)."""

_CURL_DEG, _SAMPLES, _FOOT = 200.0, 40, 0.25
"""A line that turns so far in all is a swirl (default); its foot is the end whose quarter turns less."""


@dataclass(frozen=True, slots=True)
class _Point:
    """The point of a stripe: where it is, mm, how far beside the focus it passes, mm, and how far it is turned off."""

    placed: PlacedMotif
    x_mm: float
    y_mm: float
    beside_mm: float
    off_deg: float

    @property
    def aims(self) -> bool:
        """Whether it aims at the focus."""
        return self.off_deg < 90 and (self.beside_mm <= _BESIDE_MM or self.off_deg <= _BESIDE_DEG)


def stripes_astray(laid: Sequence[tuple[PlacedMotif, Sequence[LaidPiece]]], chart: Chart) -> Iterator[Finding]:
    """Find the stripes of a set that aim elsewhere while most of the set aim between the brows.

    Parameters
    ----------
    laid
        What lies on the chart with its strokes; single pulled strokes of one part and load with one pointed end each
        are a set.
    """
    focus = dict(chart.landmarks).get(FOCUS)
    if focus is None:
        return
    sets: dict[tuple[str, str], list[_Point]] = {}
    for placed, mine in laid:
        if placed.way is None or placed.more or not placed.part:
            continue
        for one in mine:
            tip = _tip(one.stroke)
            if tip is not None:
                sets.setdefault((placed.part, one.load), []).append(_aimed(placed, *tip, focus))
    for points in sets.values():
        if len(points) >= _LEAST_STRIPES and sum(one.aims for one in points) >= _MOST_OF_THEM * len(points):
            for point in points:
                if not point.aims:
                    text = phrase(
                        "{placed} does not aim between the brows as the stripes beside it do: its point is "
                        "turned {off_deg:.0f}° away; turn it there.",
                        placed=point.placed.name,
                        off_deg=point.off_deg,
                    )
                    yield found_at(Code.AIMS_ELSEWHERE, text, point.placed.id, point.x_mm, point.y_mm)


def _tip(stroke: Stroke) -> tuple[Array, Array] | None:
    """Return where the pointed end of a stroke is and the way that it points; None without just one."""
    keys = stroke.pressures
    if len(keys) < 2 or length_mm(stroke.path) <= 0:
        return None
    first, most, last = keys[0].value, max(key.value for key in keys), keys[-1].value
    pointed = [at for at, value in ((0, first), (1, last)) if value <= _TIP * most]
    if len(pointed) != 1:
        return None
    at = parameter_at(stroke.path, np.array([length_mm(stroke.path) * pointed[0]]))
    way = direction(stroke.path, at)[0]
    return position(stroke.path, at)[0], way if pointed[0] else -way


def _aimed(placed: PlacedMotif, tip: Array, way: Array, focus: tuple[float, float]) -> _Point:
    to = np.array(focus) - tip
    cross = float(way[0] * to[1] - way[1] * to[0])
    off = math.degrees(math.atan2(abs(cross), float(way @ to)))
    return _Point(placed, float(tip[0]), float(tip[1]), abs(cross), off)


def foot_of_swirl(stroke: Stroke) -> tuple[float, float] | None:
    """Return where a drawn swirl begins, the end that it curls away from; None for a line that is none."""
    total = length_mm(stroke.path)
    if total <= 0:
        return None
    at = parameter_at(stroke.path, np.linspace(0.0, total, _SAMPLES + 1))
    ways = direction(stroke.path, at)
    turns = np.abs(np.diff(np.unwrap(np.arctan2(ways[:, 1], ways[:, 0]))))
    if math.degrees(float(turns.sum())) < _CURL_DEG:
        return None
    end = round(_FOOT * _SAMPLES)
    first = float(turns[:end].sum()) <= float(turns[-end:].sum())
    x, y = position(stroke.path, at[[0 if first else -1]])[0]
    return float(x), float(y)
