"""The numbered stroke chart at true scale, cut into tiles that fit the pages and overlap for gluing."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.chart.chart import Chart
from pennello.design.marks import Mark
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan
from pennello.design.surface import Ink, draw_contours, draw_edges, draw_features, draw_mark, skin_outlines
from pennello.files.page import MARGIN_MM, PAGE_HEIGHT_MM, PAGE_WIDTH_MM, Page
from pennello.files.page_surface import PageSurface
from pennello.lay.laying import pull
from pennello.order.arrange import Arranged
from pennello.order.jobs import SKIN
from pennello.order.stages import Under
from pennello.phrases import phrase

Array = NDArray[np.floating[Any]]

TOP_MM, FOOT_MM = 26.0, 32.0
OVERLAP_MM = 10.0
TILE_MM = (PAGE_WIDTH_MM - 2 * MARGIN_MM, PAGE_HEIGHT_MM - TOP_MM - FOOT_MM)

_RIBBON = (226, 220, 209)
_QUIET = (160, 150, 138)
_STATIONS = 80
_COVER_ON_PHOTO = 0.55


@dataclass(frozen=True, slots=True)
class Tile:
    """A part of a chart on one page: its column and row, how many there are, and its left and top on the chart, mm."""

    column: int
    row: int
    columns: int
    rows: int
    left_mm: float
    top_mm: float

    @property
    def name(self) -> str:
        """What it is called, as in "B2 of 2 × 3"."""
        return phrase(
            "{column}{row} of {columns} × {rows}",
            column=chr(ord("A") + self.column),
            row=self.row + 1,
            columns=self.columns,
            rows=self.rows,
        )


def tiles_of(bounds_mm: tuple[float, float, float, float]) -> tuple[Tile, ...]:
    """Return the tiles that cover a rectangle (left, top, right, bottom), neighbours sharing 10 mm.

    >>> [tile.name for tile in tiles_of((0.0, 0.0, 200.0, 100.0))]
    ['A1 of 2 × 1', 'B1 of 2 × 1']
    """
    left, top, right, bottom = bounds_mm
    columns, rows = (
        max(1, math.ceil((size - OVERLAP_MM) / (tile - OVERLAP_MM)))
        for size, tile in zip((right - left, bottom - top), TILE_MM, strict=True)
    )
    step_x, step_y = TILE_MM[0] - OVERLAP_MM, TILE_MM[1] - OVERLAP_MM
    return tuple(
        Tile(column, row, columns, rows, left + column * step_x, top + row * step_y)
        for row in range(rows)
        for column in range(columns)
    )


@dataclass(frozen=True, slots=True, eq=False)
class Marked:
    """A stroke as it is drawn: its number, its outline and its middle line, mm on the chart."""

    number: int
    outline: Array
    middle: Array


def marked(arranged: Arranged, chart: str) -> tuple[Marked, ...]:
    """Return the strokes of a chart with the number of the step that they belong to, in the order of painting."""
    work = arranged.design.work
    painted = dict(work.painted).get(chart)
    found = []
    for number, place in enumerate(arranged.timing.order, 1):
        job = arranged.jobs[place]
        if job.chart != chart or painted is None:
            continue
        for name in job.strokes:
            stroke = painted.stroke(name)
            brush = painted.brush(stroke.brush)
            axis = work.plan.axis(job.load)
            track = pull(stroke.stroke, brush, axis).track
            every = max(1, len(track.s_mm) // _STATIONS)
            at = track.points(np.arange(0, len(track.s_mm), every), np.array([0.0, 0.5, 1.0]))
            found.append(Marked(number, np.concatenate([at[:, 0], at[::-1, 2]]), at[:, 1]))
    return tuple(found)


def bounds_of(plan: Plan, chart: str, strokes: tuple[Marked, ...]) -> tuple[float, float, float, float]:
    """Return what has to be drawn: the chart, and every stroke with a margin."""
    corners = [stroke.outline for stroke in strokes]
    if chart != SKIN:
        left, top, right, bottom = chart_of(plan, chart).bounds_mm
        corners.append(np.array([[left, top], [right, bottom]]))
    points = np.concatenate(corners) if corners else np.array([[0.0, 0.0], [40.0, 30.0]])
    (left, top), (right, bottom) = points.min(axis=0) - 4, points.max(axis=0) + 4
    return float(left), float(top), float(right), float(bottom)


_PAPER = Ink(255, 255, 255)


def draw_tile(
    page: Page, plan: Plan, chart: str, strokes: tuple[Marked, ...], tile: Tile, photo: Under | None = None
) -> None:
    """Draw one tile, with marks where it overlaps its neighbours; on a photo where one stands for the chart."""
    shift = np.array([MARGIN_MM - tile.left_mm, TOP_MM - tile.top_mm])
    drawn = None if chart == SKIN else chart_of(plan, chart)
    name = drawn.name if drawn else phrase("The strokes")
    page.text(MARGIN_MM, 16, phrase("{drawn}, {tile}, true scale", drawn=name, tile=tile.name), 13, bold=True)
    words = phrase("Numbers are the steps.")
    if tile.columns * tile.rows > 1:
        words = phrase("Numbers are the steps. Neighbouring pages share 10 mm; glue them on the grey lines.")
    page.text(MARGIN_MM, 22, words, 8.5, quiet=True)
    with page.clipped(MARGIN_MM, TOP_MM, *TILE_MM):
        if photo is not None:
            _draw_under(page, photo, shift)
        for stroke in strokes:
            page.polygon(stroke.outline + shift, _RIBBON, cover=1.0 if photo is None else _COVER_ON_PHOTO)
        if drawn is not None:
            _draw_person(page, drawn, plan.overlays, shift, lines=photo is None)
        for stroke in strokes:
            _draw_way(page, stroke, shift)
    _glue_lines(page, tile)


def _draw_under(page: Page, photo: Under, shift: Array) -> None:
    rows, columns = (side / photo.px_per_mm for side in photo.picture.shape[:2])
    page.picture(photo.left_mm + float(shift[0]), photo.top_mm + float(shift[1]), columns, rows, photo.picture)


def _draw_person(page: Page, drawn: Chart, overlays: Sequence[Mark], shift: Array, *, lines: bool) -> None:
    """Draw the lines of a chart, unless a photo shows them, and the marks on it with their names."""
    surface = PageSurface(page, shift)
    if lines:
        draw_features(surface, drawn, _PAPER)
        draw_edges(surface, drawn, _PAPER)
        draw_contours(surface, drawn, _PAPER)
    marks = [mark for mark in overlays if mark.chart == drawn.key]
    with surface.within(skin_outlines(drawn)):
        for mark in marks:
            draw_mark(surface, mark)
    for mark in marks:
        page.text(mark.x_mm - 4 + float(shift[0]), mark.y_mm + float(shift[1]), mark.name, 7, quiet=True)


def _draw_way(page: Page, stroke: Marked, shift: Array) -> None:
    points = stroke.middle + shift
    for a, b in pairwise(points):
        page.line(float(a[0]), float(a[1]), float(b[0]), float(b[1]), 0.6)
    x, y = (float(value) for value in points[0])
    page.text(x - 1.2, y + 1.2, str(stroke.number), 8, bold=True)


def _glue_lines(page: Page, tile: Tile) -> None:
    right, bottom = MARGIN_MM + TILE_MM[0], TOP_MM + TILE_MM[1]
    points = []
    if tile.column:
        points.append(((MARGIN_MM + OVERLAP_MM / 2, TOP_MM), (MARGIN_MM + OVERLAP_MM / 2, bottom)))
    if tile.column < tile.columns - 1:
        points.append(((right - OVERLAP_MM / 2, TOP_MM), (right - OVERLAP_MM / 2, bottom)))
    if tile.row:
        points.append(((MARGIN_MM, TOP_MM + OVERLAP_MM / 2), (right, TOP_MM + OVERLAP_MM / 2)))
    if tile.row < tile.rows - 1:
        points.append(((MARGIN_MM, bottom - OVERLAP_MM / 2), (right, bottom - OVERLAP_MM / 2)))
    for (x0, y0), (x1, y1) in points:
        straight = np.array(
            [(x0, y0), ((2 * x0 + x1) / 3, (2 * y0 + y1) / 3), ((x0 + 2 * x1) / 3, (y0 + 2 * y1) / 3), (x1, y1)]
        )
        page.cubic(straight, 0.4, _QUIET, dashed=True)
