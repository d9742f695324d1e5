"""A chart drawn once, against an abstract surface: the window, picture files and paper are its backs.

Nothing is drawn where there is no skin: paint and marks end at the outline.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass, replace
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Chart, Feature
from pennello.chart.form import skin_light
from pennello.colour.lights import Light, seen_bytes
from pennello.colour.srgb import decode, encode, parse_hex
from pennello.design.marks import GEM_MM, Gem, Glitter, Mark, grains, paths_of
from pennello.path.cubic import CubicPath

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

CONTOUR_WEIGHT = 0.9
"""From this weight on a line of a chart is a contour: against what is round the skin it has to be dark."""

_DARK, _PALE = (0x25, 0x21, 0x1D), (0xF1, 0xEB, 0xE2)
_DARK_SKIN = 0.28
"""HSL lightness below which the lines on a skin have to be pale (a default)."""

_INNER, _LEAST, _MOST = 150, 60, 200
"""How strong inner lines are: of 255 for each weight, at least and at most (defaults)."""

_LEAST_SHOWN, _EDGE_WEIGHT = 0.02, 0.4
_PX, _PX_A_WEIGHT, _MM_A_WEIGHT = 0.9, 0.9, 0.25


@dataclass(frozen=True, slots=True)
class Ink:
    """A colour, sRGB bytes, and how much it covers, in [0, 1]."""

    red: int
    green: int
    blue: int
    cover: float = 1.0

    @property
    def rgb(self) -> tuple[int, int, int]:
        """The colour alone."""
        return self.red, self.green, self.blue


class DrawingSurface(Protocol):
    """What a chart can be drawn on; places are in mm of the chart."""

    def fill(self, shapes: Sequence[CubicPath], ink: Ink) -> None:
        """Fill closed outlines as one coat: no darker where they meet."""

    def discs(self, discs: Array, inks: Sequence[Ink]) -> None:
        """Draw discs: x, y and radius, mm, shape (n, 3)."""

    def contour(self, path: CubicPath, weight: float, ink: Ink) -> None:
        """Draw a line of the chart itself, as wide as `contour_px` says."""

    def paint(self, rgba: Picture, left_mm: float, top_mm: float, px_per_mm: float) -> None:
        """Lay a picture, shape (rows, columns, 4), with its corner at a place, clear where its last channel is 0."""

    def within(self, shapes: Sequence[CubicPath]) -> AbstractContextManager[None]:
        """Draw within closed outlines only."""


def contour_px(weight: float, px_per_mm: float) -> float:
    """Return how wide a line of a chart is drawn, px: it stays to be seen on small pictures and grows on large."""
    return max(_PX + _PX_A_WEIGHT * weight, _MM_A_WEIGHT * weight * px_per_mm)


def skin_outlines(chart: Chart) -> tuple[CubicPath, ...]:
    """Return all that is skin: filled parts such as ears, and the outline of what can be painted."""
    return (*(line.path for line in chart.lines if line.filled), chart.skin)


def draw_skin(surface: DrawingSurface, chart: Chart, skin: Ink, light: Light = Light.DAYLIGHT) -> None:
    """Fill what can be painted, in light and shade, with hair, eyes and lips.

    Parameters
    ----------
    skin
        As it is seen in the light.
    """
    _draw_areas(surface, chart, skin, light, behind=True)
    outlines = skin_outlines(chart)
    for outline in outlines:
        surface.fill((outline,), skin)
    with surface.within(outlines):
        if chart.tones:
            lit = skin_light(chart)
            surface.paint(shaded(lit.factor, skin), lit.left_mm, lit.top_mm, lit.px_per_mm)
        _draw_areas(surface, chart, skin, light, behind=False)


def shaded(factor: Array, skin: Ink) -> Picture:
    """Return a skin under more or less light, sRGB bytes, shape (rows, columns, 4).

    The light is neutral: it scales the reflectance at every wavelength, and so linear sRGB, alike.

    Parameters
    ----------
    factor
        How much light falls on each place against the full light, shape (rows, columns).
    """
    linear = decode(np.array(skin.rgb) / 255)
    colour = encode(np.clip(factor[..., None] * linear, 0, 1))
    covered = np.full((*factor.shape, 1), 255.0)
    return np.asarray(np.rint(np.concatenate([colour * 255, covered], axis=2)).astype(np.uint8))


def _draw_areas(surface: DrawingSurface, chart: Chart, skin: Ink, light: Light, *, behind: bool) -> None:
    for area in chart.areas:
        if area.behind is behind:
            surface.fill((area.outline,), area_ink(area.feature, skin, light))


_EYE = {
    Feature.WHITE: Ink(0xEC, 0xE8, 0xE2),
    Feature.IRIS: Ink(0x6E, 0x64, 0x58),
    Feature.PUPIL: Ink(0x22, 0x1E, 0x1C),
    Feature.GLINT: Ink(0xFA, 0xFA, 0xF8),
}
_ON_SKIN = {
    Feature.NECK: ((0.62, 0.62, 0.62), 1.0),
    Feature.HAIR: ((0.15, 0.16, 0.17), 1.0),
    Feature.BROW: ((0.13, 0.14, 0.15), 0.62),
    Feature.LIP: ((0.74, 0.56, 0.58), 0.8),
}
"""Linear light against the skin's own, by red, green, blue, and how much it covers (defaults, by eye)."""


def area_ink(feature: Feature, skin: Ink, light: Light = Light.DAYLIGHT) -> Ink:
    """Return the ink of hair, an eye or lips on a skin: calm, since colour is the paint's."""
    if feature in _EYE:
        return Ink(*seen_bytes(*_EYE[feature].rgb, light))
    share, cover = _ON_SKIN[feature]
    colour = encode(np.clip(decode(np.array(skin.rgb) / 255) * np.array(share), 0, 1))
    red, green, blue = (round(255 * float(value)) for value in colour)
    return Ink(red, green, blue, cover)


def draw_features(surface: DrawingSurface, chart: Chart, skin: Ink) -> None:
    """Draw brows, lashes, lips and whatever lies within the skin, in inks that read on it: paint covers them."""
    for line in chart.lines:
        if line.weight < CONTOUR_WEIGHT:
            surface.contour(line.path, line.weight, contour_ink(line.weight, skin))


def draw_edges(surface: DrawingSurface, chart: Chart, skin: Ink) -> None:
    """Draw the edges of hair, brows and what an eye shows, where areas are not filled: on paper."""
    for area in chart.areas:
        if not area.behind and area.feature is not Feature.GLINT:
            surface.contour(area.outline, _EDGE_WEIGHT, contour_ink(_EDGE_WEIGHT, skin))


def draw_contours(surface: DrawingSurface, chart: Chart, skin: Ink) -> None:
    """Draw where the skin ends: nothing covers that."""
    for line in chart.lines:
        if line.weight >= CONTOUR_WEIGHT:
            surface.contour(line.path, line.weight, contour_ink(line.weight, skin))


def contour_ink(weight: float, skin: Ink) -> Ink:
    """Return the ink of a line on a skin: contours dark, what lies within pale where the skin is dark."""
    if weight >= CONTOUR_WEIGHT:
        return Ink(*_DARK)
    light = (max(skin.rgb) + min(skin.rgb)) / 510
    cover = min(_LEAST + round(_INNER * weight), _MOST) / 255
    return Ink(*(_DARK if light > _DARK_SKIN else _PALE), cover)


def draw_mark(surface: DrawingSurface, mark: Mark, shows: Array | None = None) -> None:
    """Draw glitter's grains, a stencil's shapes, or a gem.

    Parameters
    ----------
    shows
        How much of each grain shows, in [0, 1], shape (n,); without it all of them.
    """
    if isinstance(mark, Glitter):
        found = grains(mark)
        shown = np.ones(len(found)) if shows is None else shows
        there = np.flatnonzero(shown > _LEAST_SHOWN)
        inks = [grain_ink(mark, found[one, 3], float(shown[one])) for one in there.tolist()]
        surface.discs(found[there, :3], inks)
    elif isinstance(mark, Gem):
        _draw_gem(surface, mark)
    else:
        surface.fill(paths_of(mark), _ink(mark.srgb, mark.cover))


def _draw_gem(surface: DrawingSurface, gem: Gem) -> None:
    """Draw a gem: its shape, a lighter facet within it, and a light at the upper left."""
    surface.fill(paths_of(gem), _ink(gem.srgb, 1.0))
    surface.fill(paths_of(replace(gem, width_mm=max(0.62 * gem.width_mm, GEM_MM[0]))), Ink(255, 255, 255, 0.35))
    light = (gem.x_mm - 0.14 * gem.width_mm, gem.y_mm - 0.14 * gem.width_mm, 0.09 * gem.width_mm)
    surface.discs(np.array([light]), [Ink(255, 255, 255)])


def _ink(srgb: str, cover: float) -> Ink:
    red, green, blue = (round(255 * float(value)) for value in parse_hex(srgb))
    return Ink(red, green, blue, cover)


def grain_ink(glitter: Glitter, brightness: float, shows: float = 1.0) -> Ink:
    """Return a grain's colour: the glitter's, darker or brighter as the grain lies, and how much of it shows."""
    red, green, blue = (min(round(255 * float(value) * brightness), 255) for value in parse_hex(glitter.srgb))
    return Ink(red, green, blue, shows)
