"""A crowded chart as a sketch: each stroke as a few lines of its load's colours, long before it can be painted."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFilter

from pennello.design.laid_marks import SeenMark
from pennello.design.on_chart import chart_of, pieces_on
from pennello.design.plan import Plan
from pennello.design.scene import Check, go_on
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.contact import BINS, contact
from pennello.lay.canvas import Canvas
from pennello.lay.pats import pat_places
from pennello.lay.stroke import Stroke
from pennello.lay.track import sketched_edge
from pennello.load.look import BARE, edge_colours
from pennello.session.chart_scene import Painted

Array = NDArray[np.floating[Any]]

PX_PER_MM = 2.0
SOFT_PX = 0.7
"""How far Pillow's hard edges are softened, px: drawn finer and made smaller they take three times as long."""

LINES = 8
"""So many lines across an edge."""

_MARGIN_MM = 10.0
_MOMENTS = 12
_Ink = list[tuple[int, int, int]]


def sketched(plan: Plan, key: str, check: Check = go_on) -> Painted | None:
    """Return the strokes of a chart's motifs as lines, as the plan lists them; None where there are none.

    Each lies where it will be painted, in the full colours of its load: how thick it is laid, what it dries on and
    what is left in the brush are not asked. Glitter and stencils are told as they are planned.

    Parameters
    ----------
    check
        Called before each stroke; what it raises ends the work.
    """
    pieces = pieces_on(plan, key)
    if not pieces:
        return None
    left, top, right, bottom = chart_of(plan, key).bounds_mm
    start = (math.floor(left - _MARGIN_MM), math.floor(top - _MARGIN_MM))
    size = tuple(math.ceil((b - a + _MARGIN_MM) * PX_PER_MM) for a, b in zip(start, (right, bottom), strict=True))
    image = Image.new("RGBA", (size[0], size[1]))
    pen, inks, axes = ImageDraw.Draw(image), dict[str, _Ink](), plan.axes
    for piece in pieces:
        check()
        if piece.load not in inks:
            inks[piece.load] = _ink(plan, piece.load)
        brush = plan.brush(plan.stroke(piece.load).brush)
        lines, wide_mm = _lines(piece.stroke, brush, axes[piece.load])
        wide = max(1, round(wide_mm * PX_PER_MM))
        for ink, line in zip(inks[piece.load], (lines - start) * PX_PER_MM, strict=True):
            for way in line:
                pen.line([(x, y) for x, y in way.tolist()], fill=(*ink, 255), width=wide, joint="curve")
    image = image.convert("RGBa").filter(ImageFilter.BoxBlur(SOFT_PX)).convert("RGBA")
    marks = tuple(SeenMark(one) for one in plan.overlays if one.chart == key)
    canvas = Canvas(float(start[0]), float(start[1]), image.width, image.height, PX_PER_MM)
    return Painted(plan, key, canvas, np.asarray(image), len(pieces), marks=marks, light=plan.light, sketch=True)


def _ink(plan: Plan, load: str) -> _Ink:
    """Return the colours of a load's edge, one for each line, A first; a clean bristle's where it cannot be loaded."""
    try:
        colours = edge_colours(plan.edge(load), plan.paints_by_id, plan.light)
    except PennelloError:
        return [BARE] * LINES
    few = colours.reshape(LINES, BINS // LINES, 3).mean(axis=1)
    return [(round(float(red)), round(float(green)), round(float(blue))) for red, green, blue in few]


def _lines(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> tuple[Array, float]:
    """Return the ways along which lines across the edge are drawn, shape (lines, ways, n, 2), and how wide, mm."""
    u = (np.arange(LINES) + 0.5) / LINES
    if stroke.pats is not None:
        pat = contact(brush, axis, np.array([stroke.pressure]))
        wide, thick = float(pat.edge_mm[0]), float(pat.thickness_mm[0])
        places = pat_places(stroke, wide, thick)
        theta = math.radians(stroke.nib.angle_deg) + places.turn
        edge = np.stack([np.cos(theta), np.sin(theta)], axis=1)
        return _prints(places.at_mm, edge, u, (wide, thick), whole=_is_round(brush))
    moments = _MOMENTS * stroke.path.curves + 1 + 8 * math.ceil(stroke.wiggle.count)
    fraction, centre, edge, size = sketched_edge(stroke, brush, axis, moments)
    wide, thick = (float(side) for side in size.max(axis=0))
    step = np.diff(centre, axis=0)
    far = np.hypot(step[:, 0], step[:, 1])
    if far.sum() < thick:
        return _prints(centre[:1], edge[:1], u, (wide, thick), whole=_is_round(brush))
    low, high = stroke.part_at(fraction)
    lines = centre + ((low + u[:, None] * (high - low) - 0.5) * size[:, 0])[..., None] * edge
    along = float(np.abs((step * edge[:-1]).sum(axis=1)).sum() / far.sum())  # how far it is pulled along its chisel
    return lines[:, None], wide / LINES * math.sqrt(1 - min(along, 1.0) ** 2) + thick * along


def _is_round(brush: Applicator) -> bool:
    return brush.kind.dips or brush.kind is ApplicatorKind.DAUBER


def _prints(at: Array, edge: Array, u: Array, size: tuple[float, float], *, whole: bool) -> tuple[Array, float]:
    """Return the same of an edge that is set down and lifted at places, shape (n, 2); round, or with corners."""
    wide, thick = size
    across = np.stack([-edge[:, 1], edge[:, 0]], axis=1) * thick / 2
    far = np.sqrt(1 - (2 * u - 1) ** 2) if whole else np.ones_like(u)
    middle = at + (u[:, None, None] - 0.5) * wide * edge
    out = far[:, None, None] * across
    return np.stack([middle - out, middle + out], axis=2), wide / LINES
