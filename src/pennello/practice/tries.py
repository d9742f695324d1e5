"""Tries on a practice sheet, scored: how far each lies from what it should be, and what the hand did otherwise.

A place is grey, so paint is whatever is no longer as printed. The slip of the hand is found by changing the stroke's
own keys until the area that it would touch comes nearest to what was painted (least squares over the signed distances
of the painted edge, SciPy and shapely); what then is left over is wobble.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import shapely
import shapely.affinity
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from pennello.aim.profile import stops_of
from pennello.colour.srgb import encode
from pennello.design.touch import together, touched
from pennello.lay.laying import pull
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.lay.track import follow
from pennello.phrases import phrase
from pennello.practice.card import PAPER_R
from pennello.practice.fit_card import PLACES, lab_of
from pennello.practice.photo import Corners, Flat, PhotoProblemError, Picture, laid_flat, lamp_out
from pennello.practice.sheet import GAP_MM, PLACE_R, SHEET_MARKS_MM, SHEET_MM, Practised, TryPlace, places_for

Array = NDArray[np.floating[Any]]
Say = Callable[[float, str], None]

PX_PER_MM = 5.0
_BESIDE_PX = 9
_EDGE_POINTS = 160
_PAINTED_LAB = 8.0
_HALF = 0.5
"""Paint ends where it differs from its ground by half of what it does just beside: a camera blurs both alike."""

_LEAST_MM2 = 8.0
_STATIONS, _LOOKS = 24, 8
_PALE_SHARE = 0.5
"""A film that differs from the paper by less than this share of what it did at first is pale (a default)."""


@dataclass(frozen=True, slots=True)
class TrySlip:
    """What the hand did otherwise than the stroke says.

    Attributes
    ----------
    right_mm, down_mm
        How far beside it lies; where on its place a try begins is the painter's own choice, so it is not scored.
    turned_deg
        By how much the whole way is turned.
    longer
        How much longer it is, share of its length.
    chisel_deg
        By how much the chisel is turned at the start.
    turning_deg
        How much more the chisel turns between start and end.
    pressed
        How much harder it is pressed.
    """

    right_mm: float = 0.0
    down_mm: float = 0.0
    turned_deg: float = 0.0
    longer: float = 0.0
    chisel_deg: float = 0.0
    turning_deg: float = 0.0
    pressed: float = 0.0


_SCALE = np.array([2.0, 2.0, 5.0, 0.1, 8.0, 10.0, 0.12])
"""Usual sizes of the slips, in the order of their fields (defaults)."""


@dataclass(frozen=True, slots=True)
class TryScore:
    """A try, scored.

    Attributes
    ----------
    number
        Of its place.
    overlap
        Area shared with what should be laid, against the area of both together, in [0, 1], where it lies best.
    off_mm
        Greatest distance of its edge from where it should be (Hausdorff), mm.
    rim_mm, rim_uneven_mm
        Width of the rim, mean and standard deviation along the stroke; None where no rim is seen.
    blend_mm
        Width of the first blend, 10 to 90 %; None where there is none.
    feet_mm
        How far paint reaches out before the start and beyond the end, mm.
    pale_from_mm
        Where it runs pale; None where it does not.
    wobble_mm
        What no slip explains: standard deviation of the edge about the stroke that fits best, mm.
    slip
        What the hand did otherwise.
    words
        One sentence on what to change.
    """

    number: int
    overlap: float
    off_mm: float
    rim_mm: float | None
    rim_uneven_mm: float | None
    blend_mm: float | None
    feet_mm: float
    pale_from_mm: float | None
    wobble_mm: float
    slip: TrySlip
    words: str

    @property
    def points(self) -> int:
        """One figure out of 100: the overlap, less 5 for each mm of wobble (a default)."""
        return max(0, min(100, round(100 * self.overlap - 5 * self.wobble_mm)))


def slipped(stroke: Stroke, slip: TrySlip) -> Stroke:
    """Return a stroke as a hand pulls it that slips so."""
    turn, size = math.radians(slip.turned_deg), 1 + slip.longer
    cos, sin = size * math.cos(turn), size * math.sin(turn)
    points = tuple(
        (cos * x - sin * y + slip.right_mm, sin * x + cos * y + slip.down_mm) for x, y in stroke.path.points_mm
    )
    pressure = min(max(stroke.pressure + slip.pressed, 0.05), 1.0)
    pressures = tuple(replace(key, value=min(max(key.value + slip.pressed, 0.05), 1.0)) for key in stroke.pressures)
    nib = _turned(stroke.nib, slip)
    return replace(
        stroke,
        path=replace(stroke.path, points_mm=points),
        nib=nib,
        pressure=pressure,
        pressures=pressures,
        reload_mm=tuple(at * size for at in stroke.reload_mm),
        flips_mm=tuple(at * size for at in stroke.flips_mm),
    )


def _turned(nib: Nib, slip: TrySlip) -> Nib:
    """Return the chisel so turned; angles to the skin turn with the whole way, those to travel do so by themselves."""
    first, last = slip.chisel_deg, slip.chisel_deg + slip.turning_deg
    if nib.mode is NibMode.PIVOTING:
        both = slip.turned_deg
        return replace(nib, angle_deg=nib.angle_deg + first + both, angle_end_deg=nib.angle_end_deg + last + both)
    if nib.mode is NibMode.FIXED:
        turned = nib.angle_deg + slip.turned_deg
        return Nib(NibMode.PIVOTING, turned + first, angle_end_deg=turned + last, pivot_u=0.5)
    keys = nib.keys if nib.mode is NibMode.KEYED else (Key(0.0, nib.angle_deg), Key(1.0, nib.angle_deg))
    bent = tuple(replace(key, value=key.value + first + (last - first) * key.at) for key in keys)
    return replace(nib, mode=NibMode.KEYED, keys=bent)


# --- a sheet ---


def score_sheet(
    picture: Picture, corners: Corners, what: Practised, say: Say | None = None, most: int = 10
) -> tuple[TryScore, ...]:
    """Return the tries on a photographed sheet, scored, in the order of their places; places left empty are left out.

    Parameters
    ----------
    corners
        Middles of the corner marks on the photo, pixels, clockwise from the top left of the sheet.
    say
        Is told how far the work is, 0 to 1, and may raise to stop it.

    Raises
    ------
    PhotoProblemError
        If the photo cannot be read, or nothing is painted on it.
    """
    places = places_for(what, most)
    flat = flat_sheet(picture, corners, places)
    found = []
    for number, place in enumerate(places):
        if say is not None:
            say(number / len(places), phrase("place {number} of {count}", number=place.number, count=len(places)))
        one = _score(flat, place, what)
        if one is not None:
            found.append(one)
    if not found:
        raise PhotoProblemError(phrase("No place of the sheet is painted, or all of it is too pale to be seen."))
    return tuple(found)


def cut_outs(
    picture: Picture, corners: Corners, what: Practised, most: int = 10, px_per_mm: float = 4.0
) -> dict[int, Picture]:
    """Return each place of a photographed sheet by its number, laid flat and with its lamp taken out, sRGB bytes."""
    places = places_for(what, most)
    flat, found = flat_sheet(picture, corners, places), {}
    for place in places:
        x = place.x + np.arange(0, place.width, 1 / px_per_mm)
        y = place.y + np.arange(0, place.height, 1 / px_per_mm)
        found[place.number] = np.rint(encode(np.clip(flat.at(*np.meshgrid(x, y)), 0, 1)) * 255).astype(np.uint8)
    return found


def flat_sheet(picture: Picture, corners: Corners, places: tuple[TryPlace, ...]) -> Flat:
    """Return a photographed sheet as reflectance, laid flat; see `score_sheet`."""
    raw = laid_flat(picture, corners, SHEET_MARKS_MM, SHEET_MM, PX_PER_MM)
    corner = [(one.x + 0.7, one.y + 0.7, 3.0, 3.0) for one in places]
    return lamp_out(raw, white_between(places), PAPER_R, [(box, PLACE_R) for box in corner])


def white_between(places: tuple[TryPlace, ...]) -> Array:
    """Return places of white paper round the grey ones, mm, shape (n, 2)."""
    left, right = min(one.x for one in places), max(one.x + one.width for one in places)
    top, bottom = min(one.y for one in places), max(one.y + one.height for one in places)
    xs, ys = (np.linspace(low, high, 7).tolist() for low, high in ((left, right), (top, bottom)))
    beyond = GAP_MM / 2
    at = [(x, y) for x in xs for y in (top - beyond, bottom + beyond)]
    at += [(x, y) for y in ys for x in (left - beyond, right + beyond)]
    return np.array(at)


@dataclass(frozen=True, slots=True, eq=False)
class _Painted:
    """What is painted on a place, about its middle: points of its edge, a grid with what is painted, all mm."""

    edge: Array
    x: Array
    y: Array
    inside: NDArray[np.bool_]

    @property
    def area_mm2(self) -> float:
        return float(self.inside.sum()) / PX_PER_MM**2


def _painted(flat: Flat, place: TryPlace) -> _Painted | None:
    """Return what is painted on a place, without specks; None where it is empty."""
    from scipy.ndimage import (  # noqa: PLC0415 - SciPy costs a second
        binary_fill_holes,
        gaussian_filter,
        label,
        maximum_filter,
    )

    half_w, half_h = place.width / 2 - 0.4, place.height / 2 - 0.4
    x, y = np.arange(-half_w, half_w, 1 / PX_PER_MM), np.arange(-half_h, half_h, 1 / PX_PER_MM)
    at = np.meshgrid(x + place.middle_mm[0], y + place.middle_mm[1])
    lab = lab_of(flat.at(*at))
    rim = np.concatenate([lab[:3].reshape(-1, 3), lab[-3:].reshape(-1, 3)])
    strength = gaussian_filter(np.linalg.norm(lab - np.median(rim, axis=0), axis=-1), 0.7)
    off = strength / np.maximum(maximum_filter(strength, size=_BESIDE_PX), 2 * _PAINTED_LAB)
    pieces, _ = label(off > _HALF)
    sizes = np.bincount(pieces.ravel())
    sizes[0] = 0
    keep = sizes >= max(0.15 * sizes.max(), _LEAST_MM2 * PX_PER_MM**2)
    inside = binary_fill_holes(keep[pieces])
    if not inside.any():
        return None
    only = np.where(inside, np.maximum(off, _HALF + 0.01), np.minimum(off, _HALF - 0.01))
    return _Painted(_edge_points(only, x, y), x, y, inside)


def _edge_points(off: Array, x: Array, y: Array) -> Array:
    """Return where a picture crosses the threshold between neighbours, shape (n, 2)."""
    points = []
    for axis, (one, two) in enumerate(((off[:, :-1], off[:, 1:]), (off[:-1], off[1:]))):
        crosses = (one > _HALF) != (two > _HALF)
        row, column = np.nonzero(crosses)
        share = (_HALF - one[crosses]) / (two[crosses] - one[crosses])
        along = share / PX_PER_MM
        points.append(np.column_stack([x[column] + along, y[row]] if axis == 0 else [x[column], y[row] + along]))
    return np.concatenate(points)


def _score(flat: Flat, place: TryPlace, what: Practised) -> TryScore | None:
    seen = _painted(flat, place)
    if seen is None:
        return None
    some = np.random.default_rng(1).permutation(len(seen.edge))[:_EDGE_POINTS]
    slip, left = fitted_slip(seen.edge[some], seen.area_mm2, what)
    aligned = shapely.affinity.translate(filled(what.shape), slip.right_mm, slip.down_mm)
    overlap = _overlap(seen, aligned)
    off = _hausdorff(seen.edge, aligned)
    rim = _across(flat, place, what, slip)
    feet = _feet(seen, what, slip, aligned)
    wobble = float(np.sqrt(np.mean(left**2)))
    words = told(slip, what, overlap, wobble, rim.pale_from_mm)
    return TryScore(
        place.number, overlap, off, rim.rim_mm, rim.uneven_mm, rim.blend_mm, feet, rim.pale_from_mm, wobble, slip, words
    )


def fitted_slip(edge: Array, area_mm2: float, what: Practised) -> tuple[TrySlip, Array]:
    """Return the slip whose stroke comes nearest to a painted edge, and what is left of its distances, mm.

    Parameters
    ----------
    edge
        Points of the painted edge about the middle of the place, mm, shape (n, 2).
    area_mm2
        What it encloses.
    """
    from scipy.optimize import least_squares  # noqa: PLC0415 - SciPy costs a second to import

    count = len(_SCALE) if what.single is not None else 4
    points, reach = shapely.points(edge), float(what.shape.length)
    shapes: dict[bytes, BaseGeometry] = {}

    def off(x: Array) -> Array:
        slip = _slip(x * _SCALE[:count])
        key = x[3:].tobytes()
        if key not in shapes:
            shapes[key] = filled(_unplaced(what, slip))
        shape = placed(shapes[key], slip)
        signed = shapely.distance(shape.boundary, points) * np.where(shapely.contains(shape, points), -1.0, 1.0)
        # what no point tells: a stroke that reaches farther than the painted one; and slips are small until shown
        more = math.sqrt(len(edge)) * (shape.area - area_mm2) / reach
        return np.concatenate([signed, [more], _SMALL * x[2:]])

    def slopes(x: Array) -> Array:
        base = off(x)
        return np.array([(off(x + step) - base) / _STEP for step in _STEP * np.eye(count)]).T

    start = np.zeros(count)
    start[:2] = (edge.min(axis=0) + edge.max(axis=0)) / 2 / _SCALE[:2]
    left, top, right, bottom = what.shape.bounds
    start[3] = (np.ptp(edge, axis=0).max() / max(right - left, bottom - top) - 1) / _SCALE[3]
    found = least_squares(off, start, jac=slopes, max_nfev=12, xtol=2e-3, ftol=2e-3)
    return _slip(found.x * _SCALE[:count]), off(found.x)[: len(edge)]


_STEP, _SMALL, _STEP_MM = 0.05, 0.12, 1.5


def _slip(values: Array) -> TrySlip:
    return TrySlip(*(float(one) for one in values))


def _unplaced(what: Practised, slip: TrySlip) -> BaseGeometry:
    """Return the area that a slipped stroke touches, before the whole of it is turned and moved."""
    if what.single is not None:
        stroke, brush, axis = what.single
        own = replace(slip, right_mm=0.0, down_mm=0.0, turned_deg=0.0)
        return touched(follow(slipped(stroke, own), brush, axis, _STEP_MM))
    larger: BaseGeometry = shapely.affinity.scale(what.shape, 1 + slip.longer, 1 + slip.longer, origin=(0, 0))
    return larger


def placed(shape: BaseGeometry, slip: TrySlip) -> BaseGeometry:
    """Return a shape turned and moved as a slip has it."""
    turn = math.radians(slip.turned_deg)
    cos, sin = math.cos(turn), math.sin(turn)
    moved: BaseGeometry = shapely.affinity.affine_transform(shape, (cos, -sin, sin, cos, slip.right_mm, slip.down_mm))
    return moved


def filled(shape: BaseGeometry) -> BaseGeometry:
    """Return a shape without its holes: on a photo what it encloses counts as painted."""
    parts = [shapely.Polygon(one.exterior) for one in getattr(shape, "geoms", (shape,))]
    return parts[0] if len(parts) == 1 else together(parts)


def _overlap(seen: _Painted, shape: BaseGeometry) -> float:
    x, y = np.meshgrid(seen.x, seen.y)
    wanted = shapely.contains_xy(shape, x.ravel(), y.ravel()).reshape(x.shape)
    both = float((wanted | seen.inside).sum())
    return float((wanted & seen.inside).sum()) / both if both else 0.0


def _hausdorff(edge: Array, shape: BaseGeometry) -> float:
    """Return the greatest distance of either edge from the other, mm."""
    painted = shapely.multipoints(edge)
    outline = shapely.segmentize(shape.boundary, 0.5)
    there = shapely.distance(shapely.points(edge), outline).max()
    back = shapely.distance(shapely.points(shapely.get_coordinates(outline)), painted).max()
    return float(max(there, back))


@dataclass(frozen=True, slots=True)
class _Across:
    rim_mm: float | None = None
    uneven_mm: float | None = None
    blend_mm: float | None = None
    pale_from_mm: float | None = None


def _across(flat: Flat, place: TryPlace, what: Practised, slip: TrySlip) -> _Across:
    """Return what the colours across a stroke tell, along the stroke as the hand pulled it."""
    if what.single is None:
        return _Across()
    stroke, brush, axis = what.single
    track = pull(slipped(stroke, slip), brush, axis).track
    at = track.at(track.length_mm * np.linspace(0.12, 0.88, _STATIONS))
    u = (np.arange(PLACES) + 0.5) / PLACES
    points = track.points(at, u) + np.array(place.middle_mm)
    lab = lab_of(flat.at(points[..., 0], points[..., 1]))
    grey = lab_of(np.full(3, PLACE_R))
    strength = np.linalg.norm(lab - grey, axis=-1).mean(axis=1)
    first = float(np.median(strength[:4]))
    pale = np.flatnonzero(strength < _PALE_SHARE * first)
    pale_from = float(track.s_mm[at[pale[0]]]) if len(pale) else None
    ribbons = np.maximum(track.touch_mm[at] * np.abs(np.sin(track.phi[at])), 0.5)
    groups = zip(np.split(lab, _LOOKS), np.split(ribbons, _LOOKS), strict=True)
    rims, blends = zip(*(_rim(rows, float(wide.mean())) for rows, wide in groups), strict=True)
    told_rims = np.array([one for one in rims if one is not None])
    told_blends = np.array([one for one in blends if one is not None])
    if len(told_rims) < _LOOKS // 3:
        return _Across(pale_from_mm=pale_from)
    blend = float(np.median(told_blends)) if len(told_blends) else None
    return _Across(float(told_rims.mean()), float(told_rims.std()), blend, pale_from)


def _rim(rows: Array, wide_mm: float) -> tuple[float | None, float | None]:
    """Return the width of the rim and of the blend behind it, of neighbouring rows of colours from A to B, (n, 32, 3).

    None where all is one colour.
    """
    found = stops_of(rows.mean(axis=0), wide_mm)
    return (found[0].to_u * wide_mm, found[0].blend_mm) if len(found) > 1 else (None, None)


def _feet(seen: _Painted, what: Practised, slip: TrySlip, shape: BaseGeometry) -> float:
    """Return how far paint reaches out of its outline near the start and the end, mm."""
    if what.single is None:
        return 0.0
    stroke, brush, axis = what.single
    track = pull(stroke, brush, axis).track
    ends = np.array([track.centre[0], track.centre[-1]]) + np.array([slip.right_mm, slip.down_mm])
    near = np.linalg.norm(seen.edge[:, None] - ends[None], axis=-1).min(axis=1) < 0.6 * track.width_mm
    points = shapely.points(seen.edge[near])
    out = shapely.distance(shape, points) if len(points) else np.zeros(1)
    return float(out.max())


# --- words ---


def told(slip: TrySlip, what: Practised, overlap: float, wobble_mm: float, pale_from_mm: float | None) -> str:
    """Return one plain sentence on what to change in the hand: the slip that changes most of what is laid."""
    values = _values(slip)
    effects = [0.0, 0.0, *(_effect(what, number, values[number]) for number in range(2, len(values)))]
    worst = int(np.argmax(effects))
    if effects[worst] >= _WORTH_SAYING:
        return _SENTENCES[worst](values[worst])
    if wobble_mm > 1.0:
        return phrase(
            "The edge wobbles by {wobble_mm:.1f} mm: slower, with the little finger resting.", wobble_mm=wobble_mm
        )
    if pale_from_mm is not None:
        return phrase("It runs pale from {pale_from_mm:.0f} mm: more sweeps, or press less.", pale_from_mm=pale_from_mm)
    return (
        phrase("That is the stroke.")
        if overlap >= 0.85
        else phrase("Nearly: the same again, a little closer to the outline.")
    )


_WORTH_SAYING = 0.03
"""A slip that changes less than this share of the area is not worth a word (a default)."""


def _effect(what: Practised, number: int, value: float) -> float:
    """Return which share of the area one slip alone changes."""
    if abs(value) < 0.2 * _SCALE[number]:
        return 0.0
    alone = _slip(np.where(np.arange(len(_SCALE)) == number, value, 0.0))
    shape, usual = placed(_unplaced(what, alone), alone), what.shape
    return float(shape.symmetric_difference(usual).area / max(2 * usual.area, 1e-9))


def _values(slip: TrySlip) -> tuple[float, ...]:
    return (
        *(slip.right_mm, slip.down_mm, slip.turned_deg, slip.longer),
        *(slip.chisel_deg, slip.turning_deg, slip.pressed),
    )


_SENTENCES: tuple[Callable[[float], str], ...] = (
    lambda by: phrase("It lies {by:.1f} mm beside.", by=abs(by)),
    lambda by: phrase("It lies {by:.1f} mm beside.", by=abs(by)),
    lambda by: (
        phrase("The whole stroke is turned {by:.0f} degrees clockwise.", by=abs(by))
        if by > 0
        else phrase("The whole stroke is turned {by:.0f} degrees anticlockwise.", by=abs(by))
    ),
    lambda by: (
        phrase("The stroke is {by:.0%} too long.", by=abs(by))
        if by > 0
        else phrase("The stroke is {by:.0%} too short.", by=abs(by))
    ),
    lambda by: (
        phrase("You set the chisel down {by:.0f} degrees too far clockwise.", by=abs(by))
        if by > 0
        else phrase("You set the chisel down {by:.0f} degrees too far anticlockwise.", by=abs(by))
    ),
    lambda by: (
        phrase("You turn {by:.0f} degrees too far on the way, seen clockwise.", by=abs(by))
        if by > 0
        else phrase("You turn {by:.0f} degrees too little on the way, seen clockwise.", by=abs(by))
    ),
    lambda by: (
        phrase("You press too hard, by {by:.0%} of full pressure.", by=abs(by))
        if by > 0
        else phrase("You press too lightly, by {by:.0%} of full pressure.", by=abs(by))
    ),
)


def best_and_worst(scores: tuple[TryScore, ...]) -> tuple[TryScore, TryScore]:
    """Return the best and the worst try."""
    ordered = sorted(scores, key=lambda one: one.points)
    return ordered[-1], ordered[0]


def trend(scores: tuple[TryScore, ...]) -> float:
    """Return by how many points a try is better than the one before, by a straight line through all; 0 for one."""
    if len(scores) < 2:
        return 0.0
    return float(np.polyfit(np.arange(len(scores)), [one.points for one in scores], 1)[0])
