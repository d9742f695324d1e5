"""A page of a PDF as a surface for charts, drawn darker so that light paint reads on white paper."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.design.surface import Ink
from pennello.files.page import Page
from pennello.path.cubic import CubicPath

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

_SHADE = 200 / 255
_PT_PER_MM = 72 / 25.4
_LEAST_PT, _CONTOUR_PT, _CONTOUR_PT_A_WEIGHT = 0.3, 0.3, 0.5


class PageSurface:
    """A page, and how far the chart is shifted on it, mm."""

    def __init__(self, page: Page, shift: Array) -> None:
        self._page, self._shift = page, shift

    def fill(self, shapes: Sequence[CubicPath], ink: Ink) -> None:
        """Fill closed outlines."""
        for shape in shapes:
            self._page.shape(self._at(shape), _shaded(ink))

    def discs(self, discs: Array, inks: Sequence[Ink]) -> None:
        """Draw discs."""
        for (x, y), radius, ink in zip((discs[:, :2] + self._shift).tolist(), discs[:, 2].tolist(), inks, strict=True):
            self._page.disc(x, y, radius, _shaded(ink))

    def contour(self, path: CubicPath, weight: float, ink: Ink) -> None:  # noqa: ARG002 - paper is light
        """Draw a line of the chart, in black."""
        self._page.cubic(self._at(path), _CONTOUR_PT + _CONTOUR_PT_A_WEIGHT * weight)

    def paint(self, rgba: Picture, left_mm: float, top_mm: float, px_per_mm: float) -> None:
        """Lay nothing: paper shows lines alone, and saves ink."""

    @contextmanager
    def within(self, shapes: Sequence[CubicPath]) -> Iterator[None]:
        """Draw within closed outlines only."""
        with self._page.clipped_to([self._at(shape) for shape in shapes]):
            yield

    def _at(self, path: CubicPath) -> Array:
        return np.array(path.points_mm) + self._shift


def _shaded(ink: Ink) -> tuple[float, float, float]:
    """Return a colour darker, and paler by what it does not cover."""
    red, green, blue = (_SHADE * value * ink.cover + 255 * (1 - ink.cover) for value in ink.rgb)
    return red, green, blue
