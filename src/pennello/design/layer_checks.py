"""What is odd about glitter, stencils, gems: in an open eye or off the skin, against a label, glitter on line work."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from shapely.geometry.base import BaseGeometry

from pennello.chart.chart import Chart
from pennello.design.line_work import is_line_work
from pennello.design.marks import Glitter, Mark, Stencil
from pennello.design.odd import NEAR_MM, ZONE_NEAR, found_at, label_words
from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan
from pennello.design.touch import beyond, layer_shape, middle, nearest, overlap, skin_shape, zone_shape
from pennello.finding import Code, Finding
from pennello.kit.paint import Near
from pennello.phrases import phrase

_CLEAR = ("eye", "nostril")
"""What stencils stay clear of."""

_CLEAR_OF_LOOSE = ("eye", "lid", "nostril", "lips")
_OFF_SHARE = 0.01


def odd_layers(
    plan: Plan, key: str, chart: Chart, pieces: Sequence[tuple[PlacedMotif, BaseGeometry]]
) -> Iterator[Finding]:
    """Return what is odd about the layers of a chart.

    Parameters
    ----------
    pieces
        What is painted there, each with what it covers.
    """
    layers = [one for one in plan.overlays if one.chart == key]
    for layer in layers:
        yield from _over(layer, chart)
        if isinstance(layer, Stencil):
            yield from _label(plan, layer, chart)
    lines = [one for one in pieces if is_line_work(plan, one[0])]
    for glitter in layers:
        if isinstance(glitter, Glitter):
            yield from _strewn_on(glitter, lines)


def _over(layer: Mark, chart: Chart) -> Iterator[Finding]:
    shape = layer_shape(layer)
    clear = _CLEAR if isinstance(layer, Stencil) else _CLEAR_OF_LOOSE
    for zone in chart.zones:
        shared = overlap(shape, zone_shape(zone)) if zone.kind in clear else None
        if shared is not None:
            remedy = phrase("strew it elsewhere") if isinstance(layer, Glitter) else phrase("move it")
            text = phrase(
                "{layer} lies over the {zone}, which stays clear; {remedy}.",
                layer=layer.name,
                zone=zone.name,
                remedy=remedy,
            )
            yield found_at(Code.KEEP_CLEAR, text, layer.name, *middle(shared))
    off = beyond(shape, skin_shape(chart), _OFF_SHARE)
    if off is not None:
        text = phrase("{layer} reaches beyond the skin; move it or make it smaller.", layer=layer.name)
        yield found_at(Code.OFF_SKIN, text, layer.name, *middle(off))


def _label(plan: Plan, layer: Stencil, chart: Chart) -> Iterator[Finding]:
    """A stencil in the colour of a paint of the plan that is not marked for the eye area or lips, near them."""
    paints = [paint for paint in plan.paints if paint.srgb.lower() == layer.srgb.lower()]
    told: set[Near] = set()
    for zone in chart.zones:
        near = ZONE_NEAR.get(zone.kind)
        if near is None or near in told or not paints or any(paint.allowed(near) for paint in paints):
            continue
        x, y, apart = nearest(layer_shape(layer), zone_shape(zone))
        if apart < NEAR_MM:
            told.add(near)
            yield found_at(Code.LABEL, label_words(paints[0].name, near), layer.name, x, y)


def _strewn_on(glitter: Glitter, lines: list[tuple[PlacedMotif, BaseGeometry]]) -> Iterator[Finding]:
    """Glitter that falls on line work hides it (common practice, no published source)."""
    for line, shape in lines:
        shared = overlap(layer_shape(glitter), shape)
        if shared is not None:
            text = phrase(
                "{glitter} falls on {line} and hides it; strew it elsewhere, or tap it off the lines.",
                glitter=glitter.name,
                line=line.name,
            )
            yield found_at(Code.GLITTER_ON_LINES, text, glitter.name, *middle(shared))
