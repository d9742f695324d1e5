"""A picture in memory as a surface: drawn twice as large with Pillow, then reduced, so that lines are smooth."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from pennello.chart.chart import drawn
from pennello.design.surface import Ink, contour_px
from pennello.path.cubic import CubicPath

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]

_TWICE = 2
_CLEAR_PX = 4
_LEAST_GRAIN_PX = 0.7


class PillowSurface:
    """A picture of a part of a chart.

    Parameters
    ----------
    size
        Width and height, px.
    left_mm, top_mm
        What of the chart its corner shows.
    ground
        What it is filled with before anything is drawn: "#rrggbb" or sRGB bytes.
    """

    def __init__(
        self,
        size: tuple[int, int],
        left_mm: float,
        top_mm: float,
        px_per_mm: float,
        ground: str | tuple[int, int, int],
    ) -> None:
        self._size, self._corner, self._scale = size, np.array([left_mm, top_mm]), px_per_mm * _TWICE
        self._page = Image.new("RGB", (size[0] * _TWICE, size[1] * _TWICE), ground)

    def copy(self) -> PillowSurface:
        """Return the same, to be drawn on further."""
        other = PillowSurface((1, 1), 0.0, 0.0, 1.0, "#000000")
        other._size, other._corner, other._scale = self._size, self._corner, self._scale
        other._page = self._page.copy()
        return other

    @property
    def picture(self) -> Picture:
        """What is drawn, sRGB bytes, shape (rows, columns, 3)."""
        return np.ascontiguousarray(np.asarray(self._page.resize(self._size)))

    def fill(self, shapes: Sequence[CubicPath], ink: Ink) -> None:
        """Fill closed outlines as one coat."""
        coat, draw, full = self._coat(ink)
        for shape in shapes:
            draw.polygon(self._at(drawn(shape)), fill=full)
        self._put(ink, coat)

    def discs(self, discs: Array, inks: Sequence[Ink]) -> None:
        """Draw discs, none so small that it cannot be seen."""
        draw = ImageDraw.Draw(self._page, "RGBA")
        for (x, y), radius, ink in zip(self._at(discs[:, :2]), discs[:, 2].tolist(), inks, strict=True):
            size = max(radius * self._scale, _LEAST_GRAIN_PX)
            draw.ellipse((x - size, y - size, x + size, y + size), fill=(*ink.rgb, round(255 * ink.cover)))

    def contour(self, path: CubicPath, weight: float, ink: Ink) -> None:
        """Draw a line of the chart."""
        coat, draw, full = self._coat(ink)
        width = contour_px(weight, self._scale / _TWICE) * _TWICE
        draw.line(self._at(drawn(path)), fill=full, width=max(1, round(width)), joint="curve")
        self._put(ink, coat)

    @contextmanager
    def within(self, shapes: Sequence[CubicPath]) -> Iterator[None]:
        """Draw within closed outlines only."""
        before = self._page.copy()
        mask, draw, _ = self._coat(Ink(0, 0, 0))
        for shape in shapes:
            draw.polygon(self._at(drawn(shape)), fill=255)
        yield
        self._page = Image.composite(self._page, before, mask)

    def paint(self, rgba: Picture, left_mm: float, top_mm: float, px_per_mm: float) -> None:
        """Lay a picture, shape (rows, columns, 4), with its corner at a place, clear where its last channel is 0."""
        film = Image.fromarray(rgba, "RGBA")
        factor = self._scale / px_per_mm
        ((x, y),) = self._at(np.array([[left_mm, top_mm]]))
        corner = (round(x), round(y))
        if factor.is_integer():  # what is clear all round need not be enlarged; the rest falls on the same pixels
            box = film.getchannel("A").getbbox()
            if box is None:
                return
            left, top = max(box[0] - _CLEAR_PX, 0), max(box[1] - _CLEAR_PX, 0)
            film = film.crop((left, top, min(box[2] + _CLEAR_PX, film.width), min(box[3] + _CLEAR_PX, film.height)))
            corner = (corner[0] + left * round(factor), corner[1] + top * round(factor))
        film = film.resize((max(round(film.width * factor), 1), max(round(film.height * factor), 1)))
        self._page.paste(film, corner, film)

    def warp(self, picture: Picture, onto: Array) -> None:
        """Lay a picture, shape (rows, columns, 3), by what takes its px to mm, shape (2, 3)."""
        whole = np.vstack([onto, [0.0, 0.0, 1.0]])
        place = np.array([[self._scale, 0.0, 0.0], [0.0, self._scale, 0.0], [0.0, 0.0, 1.0]])
        place[:2, 2] = -self._corner * self._scale
        back = np.linalg.inv(place @ whole)[:2].reshape(-1).tolist()
        image = Image.fromarray(picture, "RGB")
        cover = Image.new("L", image.size, 255)
        size, way, how = self._page.size, Image.Transform.AFFINE, Image.Resampling.BILINEAR
        self._page.paste(image.transform(size, way, back, how), (0, 0), cover.transform(size, way, back, how))

    def _at(self, points: Array) -> list[tuple[float, float]]:
        return [(float(x), float(y)) for x, y in (points - self._corner) * self._scale]

    def _put(self, ink: Ink, coat: Image.Image) -> None:
        """Lay a coat on the page, where there is any of it."""
        box = coat.getbbox()
        if box is not None:
            self._page.paste(ink.rgb, box, coat.crop(box))

    def _coat(self, ink: Ink) -> tuple[Image.Image, Any, int]:
        coat = Image.new("L", self._page.size)
        return coat, ImageDraw.Draw(coat), round(255 * ink.cover)
