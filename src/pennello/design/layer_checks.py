"""What is odd about what lies over the paint: lines in the eye or off the skin, glitter on line work."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Chart, drawn
from pennello.design.odd import NEAR_MM, Odd, label_words
from pennello.design.placed import GLITTER, LINES, Overlay, paths_of
from pennello.design.plan import Plan
from pennello.design.reach import inside
from pennello.kit.paint import Near

Array = NDArray[np.floating[Any]]

_CLEAR = ("eye", "nostril")
"""What lines and stencils stay clear of; lips are often outlined on purpose."""


def odd_layers(plan: Plan, key: str, chart: Chart) -> Iterator[Odd]:
    """Return what is odd about the layers of a chart."""
    layers = [one for one in plan.overlays if one.chart == key]
    shapes = {one.name: points for one in layers if (points := _points(one)) is not None}
    for layer in layers:
        if layer.name in shapes:
            yield from _over(layer, shapes[layer.name], chart)
            yield from _label(plan, layer, shapes[layer.name], chart)
    lines = [one for one in layers if one.kind == LINES]
    for glitter in layers:
        if glitter.kind == GLITTER:
            yield from _strewn_on(glitter, [(one, shapes[one.name]) for one in lines])


def _points(layer: Overlay) -> Array | None:
    """Return points along lines or outlines, mm, shape (n, 2), or None for glitter."""
    paths = paths_of(layer)
    return np.concatenate([drawn(path) for path in paths]) if paths else None


def _over(layer: Overlay, points: Array, chart: Chart) -> Iterator[Odd]:
    for zone in chart.zones:
        within = points[inside(points, zone.polygon)] if zone.kind in _CLEAR else points[:0]
        if len(within):
            text = f"{layer.name} lies over the {zone.name}, which stays clear; move it or take a line away."
            yield Odd("keep_clear", layer.name, *_middle(within), text)
    off = points[~inside(points, drawn(chart.skin))]
    if len(off):
        text = f"{layer.name} reaches beyond the skin; move it or make it smaller."
        yield Odd("off_skin", layer.name, *_middle(off), text)


def _label(plan: Plan, layer: Overlay, points: Array, chart: Chart) -> Iterator[Odd]:
    """A layer in the colour of a paint of the plan that is not marked for the eye area or lips, near them."""
    paints = [paint for paint in plan.paints if paint.srgb.lower() == layer.srgb.lower()]
    told: set[Near] = set()
    for zone in chart.zones:
        near = {"eye": Near.EYE, "lips": Near.LIPS}.get(zone.kind)
        if near is None or near in told or not paints or any(paint.allowed(near) for paint in paints):
            continue
        apart = np.linalg.norm(points[:, None] - zone.polygon[None], axis=2).min(axis=1)
        at = int(apart.argmin())
        if apart[at] < NEAR_MM:
            told.add(near)
            yield Odd(
                "label", layer.name, float(points[at, 0]), float(points[at, 1]), label_words(paints[0].name, near)
            )


def _strewn_on(glitter: Overlay, lines: list[tuple[Overlay, Array]]) -> Iterator[Odd]:
    """Glitter that falls on line work hides it (common practice, no published source)."""
    for line, points in lines:
        x = 2 * (points[:, 0] - glitter.x_mm) / glitter.width_mm
        y = 2 * (points[:, 1] - glitter.y_mm) / glitter.height_mm
        within = points[x**2 + y**2 <= 1.0]
        if len(within):
            text = f"{glitter.name} falls on {line.name} and hides it; strew it elsewhere, or tap it off the lines."
            yield Odd("glitter_on_lines", glitter.name, *_middle(within), text)


def _middle(points: Array) -> tuple[float, float]:
    x, y = points.mean(axis=0)
    return float(x), float(y)
