"""A painter of Qt as a surface for charts."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QTransform

from pennello.design.surface import Ink, contour_px
from pennello.kept import kept_small, other_weight
from pennello.path.cubic import CubicPath
from pennello.ui.widgets.paint import to_image

Array = NDArray[np.floating[Any]]
Picture = NDArray[np.uint8]


@other_weight.register
def _of_path(path: QPainterPath) -> int:
    return 200 + 24 * path.elementCount()


@kept_small
def outline_of(path: CubicPath) -> QPainterPath:
    """Return a path for painting, mm."""
    points = [QPointF(x, y) for x, y in path.points_mm]
    drawn = QPainterPath(points[0])
    for at in range(1, len(points), 3):
        drawn.cubicTo(points[at], points[at + 1], points[at + 2])
    return drawn


def colour_of(ink: Ink) -> QColor:
    """Return an ink as a colour."""
    colour = QColor(*ink.rgb)
    colour.setAlphaF(ink.cover)
    return colour


class QtSurface:
    """A painter, and where the chart lies on it."""

    def __init__(self, painter: QPainter, transform: QTransform, scale: float) -> None:
        self._painter, self._transform, self._scale = painter, transform, scale

    def fill(self, shapes: Sequence[CubicPath], ink: Ink) -> None:
        """Fill closed outlines as one coat."""
        with self._placed() as painter:
            painter.fillPath(_joined(map(outline_of, shapes)), colour_of(ink))

    def discs(self, discs: Array, inks: Sequence[Ink]) -> None:
        """Draw discs."""
        with self._placed() as painter:
            painter.setPen(Qt.PenStyle.NoPen)
            for (x, y, radius), ink in zip(discs.tolist(), inks, strict=True):
                painter.setBrush(colour_of(ink))
                painter.drawEllipse(QPointF(x, y), radius, radius)

    def contour(self, path: CubicPath, weight: float, ink: Ink) -> None:
        """Draw a line of the chart."""
        with self._placed() as painter:
            pen = QPen(colour_of(ink), contour_px(weight, self._scale))
            pen.setCosmetic(True)
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPath(outline_of(path))

    def paint(self, rgba: Picture, left_mm: float, top_mm: float, px_per_mm: float) -> None:
        """Lay a picture with its corner at a place."""
        rows, columns = rgba.shape[:2]
        area = QRectF(left_mm, top_mm, columns / px_per_mm, rows / px_per_mm)
        with self._placed() as painter:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(area, to_image(rgba))

    @contextmanager
    def within(self, shapes: Sequence[CubicPath]) -> Iterator[None]:
        """Draw within closed outlines only."""
        self._painter.save()
        clip = self._transform.map(_united(tuple(shapes)))
        self._painter.setClipPath(clip, Qt.ClipOperation.IntersectClip)
        try:
            yield
        finally:
            self._painter.restore()

    @contextmanager
    def _placed(self) -> Iterator[QPainter]:
        self._painter.save()
        self._painter.setTransform(self._transform, combine=True)
        try:
            yield self._painter
        finally:
            self._painter.restore()


@kept_small
def _united(shapes: tuple[CubicPath, ...]) -> QPainterPath:
    """Return all that lies in one of the shapes at least, whichever way round each was drawn."""
    union = QPainterPath()
    for shape in shapes:
        union = union.united(outline_of(shape))
    return union


def _joined(paths: Iterator[QPainterPath] | map[QPainterPath]) -> QPainterPath:
    """Return shapes as one, filled wherever one of them is."""
    coat = QPainterPath()
    coat.setFillRule(Qt.FillRule.WindingFill)
    for path in paths:
        coat.addPath(path)
    return coat
