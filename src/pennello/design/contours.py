"""Lines round shapes and over places, by shapely: a contour at a distance, a place gone over ring within ring.

A brush is taken as wide as its contact under the pressure it is led with, and led along the middle of that.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from pennello.path.cubic import travelled_mm

Array = NDArray[np.floating[Any]]

LAP = 0.25
"""Share of its width by which a ring lies over the one before (a default)."""

LEAST_MM2 = 0.3
"""A bare spot that is smaller is none."""

_BEND = 0.2
"""Radius of the bend in which a flat brush turns a corner, against its width (a default)."""

_LIT, _LEAST_RIM_MM = 0.25, 3.0
"""From which cosine to the light on a contour is lit, and the shortest stretch that is drawn, mm (defaults)."""

_CORNER = np.radians(40.0)
"""From which turn on a line has a corner there (a default)."""

_QUADRANT = 8
_LEAST_MM = 1.5
_STEP_MM = 0.8


def contour(shape: BaseGeometry, off_mm: float) -> list[Array]:
    """Return closed lines at a distance from a shape's contour, holes too, each of shape (n, 2), its end its start."""
    return _rings(shape.buffer(off_mm, quad_segs=_QUADRANT))


def _rings(shape: BaseGeometry) -> list[Array]:
    """Return the contours of a shape, evenly sampled."""
    found = []
    for part in getattr(shape, "geoms", (shape,)):
        if part.is_empty or part.geom_type != "Polygon":
            continue
        for ring in (part.exterior, *part.interiors):
            if ring.length >= _LEAST_MM:
                even = shapely.segmentize(ring.simplify(0.01), _STEP_MM)
                found.append(np.array(even.coords)[:, :2])
    return found


def turned_to(rings: Sequence[Array], light_deg: float) -> list[Array]:
    """Return the stretches of closed lines that look towards a light, none shorter than 3 mm.

    Parameters
    ----------
    rings
        Each of shape (n, 2), its end its start.
    light_deg
        Where the light comes from, from +x towards +y.
    """
    towards = np.array([np.cos(np.radians(light_deg)), np.sin(np.radians(light_deg))])
    found = []
    for ring in rings:
        ways = np.diff(ring, axis=0)
        normals = np.stack([ways[:, 1], -ways[:, 0]], axis=1) / np.linalg.norm(ways, axis=1, keepdims=True)
        outwards = normals if shapely.LinearRing(ring).is_ccw else -normals
        lit = outwards @ towards > _LIT
        if lit.all() or not lit.any():
            found += [ring] if lit.all() else []
            continue
        first = int(np.flatnonzero(lit & ~np.roll(lit, 1))[0])  # begin where a lit stretch begins: none is cut in two
        turned = np.roll(lit, -first)
        points = np.concatenate([np.roll(ring[:-1], -first, axis=0), ring[first : first + 1]])
        ends = np.flatnonzero(np.diff(np.concatenate([[0], turned.astype(int), [0]])))
        found += [points[low : high + 1] for low, high in ends.reshape(-1, 2).tolist()]
    bent = [part for one in found for part in _without_corners(one)]
    return [one for one in bent if travelled_mm(one)[-1] >= _LEAST_RIM_MM]


def _without_corners(line: Array) -> list[Array]:
    """Return a line in pieces that turn no corner: there the brush is set down anew."""
    ways = np.diff(line, axis=0)
    angles = np.arctan2(ways[:, 1], ways[:, 0])
    turns = np.abs((np.diff(angles) + np.pi) % (2 * np.pi) - np.pi)
    cuts = [0, *(int(at) + 1 for at in np.flatnonzero(turns > _CORNER)), len(line) - 1]
    return [line[low : high + 1] for low, high in pairwise(cuts) if high > low]


def parted(line: Array, most_mm: float) -> list[Array]:
    """Return a line in pieces of even length, none longer than so much; neighbours share their ends."""
    far = travelled_mm(line)
    count = max(1, int(np.ceil(far[-1] / most_mm - 1e-9)))
    cuts = np.linspace(0, far[-1], count + 1)
    pieces = []
    for low, high in pairwise(cuts.tolist()):
        inner = line[(far > low) & (far < high)]
        ends = [np.array([np.interp(at, far, line[:, 0]), np.interp(at, far, line[:, 1])]) for at in (low, high)]
        pieces.append(np.concatenate([ends[0][None], inner, ends[1][None]]))
    return pieces


def gone_over(place: BaseGeometry, width_mm: float, *, flat: bool = False) -> tuple[list[Array], BaseGeometry]:
    """Return lines of a brush that go over a place without leaving it, the outermost first, and what stays bare.

    Rings lie within rings, each over a quarter of the one before; where the last leave a seam, a line closes it.

    Parameters
    ----------
    flat
        It is led across its way: it turns corners in a bend, and ends square.
    """
    lines: list[Array] = []
    half, inwards = width_mm / 2, width_mm / 2
    while True:
        inner = place.buffer(-inwards, quad_segs=_QUADRANT)
        rings = _rings(_with_bends(inner, _BEND * width_mm) if flat else inner)
        if not rings:
            break
        lines += rings
        inwards += width_mm * (1 - LAP)
    lines += _seams(_bare(place, lines, width_mm, flat=flat), place.buffer(-half, quad_segs=_QUADRANT))
    return lines, _bare(place, lines, width_mm, flat=flat)


def _with_bends(shape: BaseGeometry, radius_mm: float) -> BaseGeometry:
    """Return a shape with its corners rounded; as it is where nothing would be left of it."""
    rounded: BaseGeometry = shape.buffer(-radius_mm, quad_segs=_QUADRANT).buffer(radius_mm, quad_segs=_QUADRANT)
    return shape if rounded.is_empty else rounded


def _laid(lines: Sequence[Array], width_mm: float, *, flat: bool) -> BaseGeometry:
    """Return what lines of a brush cover: a flat one ends square, and closed lines have no ends."""
    found = []
    for line in lines:
        ring = bool(np.allclose(line[0], line[-1]))
        shape = shapely.LinearRing(line) if ring and len(line) > 3 else shapely.LineString(line)
        cap = "flat" if flat and not ring else "round"
        found.append(shape.buffer(width_mm / 2, quad_segs=_QUADRANT, cap_style=cap))
    union: BaseGeometry = shapely.union_all(found)
    return union


def _bare(place: BaseGeometry, lines: Sequence[Array], width_mm: float, *, flat: bool = False) -> BaseGeometry:
    """Return what lines of a brush leave bare of a place."""
    rest = place.difference(_laid(lines, width_mm, flat=flat)) if lines else place
    kept = [part for part in getattr(rest, "geoms", (rest,)) if part.area >= LEAST_MM2]
    return shapely.union_all(kept)


def _seams(bare: BaseGeometry, reach: BaseGeometry) -> list[Array]:
    """Return a line along each bare spot, as far as the brush may go there: over the middle of places that are left."""
    found = []
    for spot in getattr(bare, "geoms", (bare,)):
        if spot.is_empty:
            continue
        line = shapely.LineString(along(spot))
        line = line.intersection(_near(reach, line))
        found += [
            np.array(shapely.segmentize(part, _STEP_MM).coords)[:, :2]
            for part in getattr(line, "geoms", (line,))
            if not part.is_empty and part.geom_type == "LineString" and part.length > 0
        ]
    return found


def along(shape: BaseGeometry) -> tuple[Array, Array]:
    """Return the ends of the longer middle line of the box round a shape, each of shape (2,), mm."""
    box = np.array(shape.minimum_rotated_rectangle.exterior.coords)[:4]
    sides = np.linalg.norm(np.diff(box, axis=0), axis=1)
    first = 0 if sides[0] >= sides[1] else 1
    return (box[first] + box[(first + 3) % 4]) / 2, (box[first + 1] + box[(first + 2) % 4]) / 2


def _near(shape: BaseGeometry, spot: BaseGeometry) -> BaseGeometry:
    """Return what of a large shape lies round a small one: to intersect with that costs less."""
    left, top, right, bottom = spot.bounds
    return shapely.make_valid(shapely.clip_by_rect(shape, left - 0.1, top - 0.1, right + 0.1, bottom + 0.1))


def ground_lines(
    place: BaseGeometry, small_mm: float, large_mm: float | None = None
) -> tuple[list[Array], list[Array], BaseGeometry]:
    """Return lines of a small brush and of a large one that go over a place, and what stays bare.

    The small one goes along the contours and wherever the large one does not come; the large one over the rest.
    """
    if large_mm is None or large_mm <= small_mm:
        lines, bare = gone_over(place, small_mm)
        return lines, [], bare
    inner = place.buffer(-small_mm * (1 - LAP), quad_segs=_QUADRANT)
    large, _ = gone_over(inner, large_mm, flat=True)
    rest = place.difference(_laid(large, large_mm, flat=True)) if large else place
    small = _rings(place.buffer(-small_mm / 2, quad_segs=_QUADRANT))
    more = _bare(rest, small, small_mm)
    reach = place.buffer(-small_mm / 2, quad_segs=_QUADRANT)
    for spot in getattr(more, "geoms", (more,)):
        grown = spot.buffer(small_mm * 0.5, quad_segs=_QUADRANT)
        grown = grown.intersection(_near(place, grown))
        rings, _ = gone_over(grown, small_mm)
        small += rings or _seams(spot, reach)
    return small, large, _bare(rest, small, small_mm)
