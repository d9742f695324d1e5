"""Kinematics: where every bin of the edge is at every moment of a stroke, and how far it has travelled.

P(s, u) = C(s) + (u - 1/2) W e(theta). The footprint is W x t, so a ribbon is W |sin phi| + t |cos phi| wide,
phi being the angle between chisel and travel.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.contact import BINS, contact, outline
from pennello.lay.grip import Grip, grip_of
from pennello.lay.pats import pat_places
from pennello.lay.stroke import NibMode, Stroke, keyed
from pennello.load.pickup import bin_centres
from pennello.path.cubic import (
    direction,
    far_mm,
    length_mm,
    parameter_at,
    position,
    position_and_direction,
    rough_parameter_at,
    travelled_mm,
)

Array = NDArray[np.floating[Any]]

MOST_STEPS = 60_000
_NO_SIDE = 1e-6
_COARSE_STEPS = 64  # for every curve and every wave
_FEWEST_STEPS = 8


@dataclass(frozen=True, slots=True, eq=False)
class Track:
    """The nib sampled along a stroke; n moments.

    Attributes
    ----------
    s_mm
        Travel of the edge's middle before wiggling, mm, shape (n,).
    centre
        Middle of the edge, mm, shape (n, 2).
    edge
        Unit vector from A to B, shape (n, 2).
    widths_mm, thicknesses_mm
        Length of the edge and greatest thickness of the contact at each moment, mm, shape (n,).
    touch
        Part of each bin that touches at each moment, in [0, 1], shape (n, 64), or (1, 64) where it never changes.
    low, high
        From where to where the edge touches, u, shape (n,); equal where nothing does.
    near, far
        Sides of the contact at each bin, in thicknesses, shape (n, 64), or (1, 64) where they never change.
    form_low, form_high
        From where to where the outline is drawn together, u, shape (n,).
    outline
        The same two sides in 65 even steps from `form_low` to `form_high`, shape (2, 65).
    rate
        How much faster than at medium pressure paint is given, shape (n,).
    grade
        How much more or less than that each bin gives, shape (n, 64) or (1, 64).
    pressure
        In [0, 1], shape (n,).
    jump
        Steps in which the brush is off the skin, shape (n - 1,).
    press
        Jumps after which it is set down anew, as in pats, shape (n - 1,).
    travel_mm
        Own travel of each bin's centre, mm, shape (n, 64).
    phi
        Angle between chisel and travel, radians in [0, pi/2], shape (n,); pi/2 where the middle stands still.
    sponge
        Whether it is a sponge or dauber, which prints stippled.
    """

    s_mm: Array
    centre: Array
    edge: Array
    widths_mm: Array
    thicknesses_mm: Array
    touch: Array
    low: Array
    high: Array
    near: Array
    far: Array
    form_low: Array
    form_high: Array
    outline: Array
    rate: Array
    grade: Array
    pressure: Array
    jump: NDArray[np.bool_]
    press: NDArray[np.bool_]
    travel_mm: Array
    phi: Array
    sponge: bool

    @property
    def width_mm(self) -> float:
        """Greatest length of the edge on the skin, mm."""
        return float(self.widths_mm.max())

    @property
    def thickness_mm(self) -> float:
        """Greatest thickness of the contact square to the edge, mm."""
        return float(self.thicknesses_mm.max())

    @property
    def reach(self) -> tuple[Array, Array]:
        """From where to where the edge touches, u at each moment, shape (n,) each; equal where nothing does."""
        return self.low, self.high

    @property
    def still(self) -> bool:
        """Whether it is pressed and never dragged: no bin moves while it is on the skin."""
        return float(self.travel_mm[-1].max()) < 1e-6

    @property
    def touch_mm(self) -> Array:
        """Length of the edge that touches at each moment, mm, shape (n,)."""
        return np.asarray(self.widths_mm * self.touch.mean(axis=1))

    @property
    def length_mm(self) -> float:
        """Travel of the edge's middle, mm."""
        return float(self.s_mm[-1])

    @property
    def across(self) -> Array:
        """Unit vector along the chisel's thickness, shape (n, 2)."""
        return np.stack([-self.edge[:, 1], self.edge[:, 0]], axis=1)

    @property
    def ribbon_mm(self) -> Array:
        """Width of the ribbon square to travel, mm, shape (n,)."""
        return np.asarray(self.widths_mm * np.sin(self.phi) + self.thicknesses_mm * np.cos(self.phi))

    def points(self, moment: NDArray[np.intp], u: Array) -> Array:
        """Return P(s, u) in mm, shape (moments, u, 2)."""
        along = (u - 0.5)[None, :, None] * self.widths_mm[moment][:, None, None]
        return self.centre[moment][:, None, :] + along * self.edge[moment][:, None, :]

    def at(self, s_mm: Array) -> NDArray[np.intp]:
        """Return the moments nearest to places along the stroke, mm."""
        after = np.clip(np.searchsorted(self.s_mm, s_mm), 1, len(self.s_mm) - 1)
        nearer = s_mm - self.s_mm[after - 1] < self.s_mm[after] - s_mm
        return np.where(nearer, after - 1, after)


def follow(stroke: Stroke, brush: Applicator, axis: GradientAxis, step_mm: float) -> Track:
    """Return the nib's track with no bin moving further than about `step_mm` (> 0) between moments.

    A path without length is a touch of the brush, or a turn on the spot when the nib pivots. Pats are one moment each.

    Raises
    ------
    OutOfRangeError
        If there are too many pats.
    """
    if stroke.pats is not None:
        return _patted(stroke, brush, axis)
    usual = contact(brush, axis, np.array([stroke.pressure]))
    fraction, jump = _with_flips(stroke, _even_fractions(stroke, brush, axis, float(usual.edge_mm[0]), step_mm))
    grip = grip_of(stroke, brush, axis, fraction)
    centre, edge, middle = _pose(stroke, grip, fraction, jump)
    phi = _travel_angle(middle, edge)
    return _track(stroke, brush, axis, fraction, grip, centre, edge, middle, phi, jump, np.zeros(len(jump), bool))


def _patted(stroke: Stroke, brush: Applicator, axis: GradientAxis) -> Track:
    """Return the track of pats: a moment each, with a jump to the next after which it is set down."""
    size = contact(brush, axis, np.array([stroke.pressure]))
    places = pat_places(stroke, float(size.edge_mm[0]), float(size.thickness_mm[0]))
    fraction, at, turn = places.fraction, places.at_mm, places.turn
    if len(at) == 1:  # a track has two moments at least
        fraction, at, turn = (np.concatenate([one, one]) for one in (fraction, at, turn))
    grip = grip_of(replace(stroke, lift_mm=0.0, flips_mm=()), brush, axis, fraction)
    total = length_mm(stroke.path)
    parameter = parameter_at(stroke.path, fraction * total) if total > 0 else fraction * stroke.path.curves
    theta = _chisel_angle(stroke, fraction, direction(stroke.path, parameter)) + turn
    edge = np.stack([np.cos(theta), np.sin(theta)], axis=1)
    jump = np.ones(len(at) - 1, bool)
    press = jump & (len(places.at_mm) > 1)
    phi = np.full(len(at), math.pi / 2)
    centre = at + _to_the_middle(stroke, grip)[:, None] * edge
    return _track(stroke, brush, axis, fraction, grip, centre, edge, at, phi, jump, press)


def _track(
    stroke: Stroke,
    brush: Applicator,
    axis: GradientAxis,
    fraction: Array,
    grip: Grip,
    centre: Array,
    edge: Array,
    middle: Array,
    phi: Array,
    jump: NDArray[np.bool_],
    press: NDArray[np.bool_],
) -> Track:
    return Track(
        s_mm=travelled_mm(middle),
        centre=centre,
        edge=edge,
        widths_mm=grip.width_mm,
        thicknesses_mm=grip.thickness_mm,
        touch=grip.touch,
        low=grip.low,
        high=np.maximum(grip.high, grip.low),
        near=grip.near,
        far=grip.far,
        form_low=grip.form_low,
        form_high=grip.form_high,
        outline=outline(brush, axis),
        rate=grip.rate,
        grade=grip.grade,
        pressure=stroke.pressure_at(fraction),
        jump=jump,
        press=press,
        travel_mm=_bin_travel(centre, edge, grip.width_mm, jump),
        phi=phi,
        sponge=brush.kind.pressed,
    )


def _even_fractions(stroke: Stroke, brush: Applicator, axis: GradientAxis, width_mm: float, step_mm: float) -> Array:
    """Return fractions of the stroke between which the faster corner moves by about a step.

    Even in the corner's travel, not in the path's, so that a cusp, where a following chisel spins, costs no more
    than its arc.
    """
    coarse = np.linspace(0, 1, _COARSE_STEPS * (stroke.path.curves + math.ceil(stroke.wiggle.count)) + 1)
    still = replace(stroke, flips_mm=()) if stroke.flips_mm else stroke
    width, shift = np.full(len(coarse), width_mm), np.zeros(len(coarse))
    total = length_mm(stroke.path)
    parameter = rough_parameter_at(stroke.path, coarse * total) if total > 0 else coarse * stroke.path.curves
    centre, edge, _ = _placed(still, width, shift, coarse, parameter, np.zeros(len(coarse) - 1, bool))
    half = edge * (width_mm / 2)
    corners = np.stack([centre - half, centre + half])
    moved = far_mm(corners[:, 1:] - corners[:, :-1]).max(axis=0) + 1e-9
    if stroke.parts or stroke.tilts or stroke.leans or stroke.pressures or stroke.lift_mm:
        moved = np.maximum(moved, _contact_moves(stroke, brush, axis, coarse))
    travelled = np.concatenate([[0.0], np.cumsum(moved)])
    steps = int(np.clip(math.ceil(travelled[-1] / step_mm), _FEWEST_STEPS, MOST_STEPS))
    return np.interp(np.linspace(0, travelled[-1], steps + 1), travelled, coarse)


def _contact_moves(stroke: Stroke, brush: Applicator, axis: GradientAxis, fraction: Array) -> Array:
    """Return how far the ends of what touches move along the edge from each fraction to the next, mm."""
    grip = grip_of(stroke, brush, axis, fraction)
    ends = [np.abs(np.diff((end - 0.5) * grip.width_mm)) for end in (grip.low, np.maximum(grip.high, grip.low))]
    return np.asarray(np.maximum(np.maximum(*ends), np.abs(np.diff(grip.thickness_mm)) / 2))


def _with_flips(stroke: Stroke, fraction: Array) -> tuple[Array, NDArray[np.bool_]]:
    """Return the fractions with each flip put in twice, before and after it, and the steps between these."""
    total = length_mm(stroke.path)
    flips = [at / total for at in stroke.flips_mm if 0 < at < total]
    jump = np.zeros(len(fraction) - 1 + 2 * len(flips), bool)
    for flip in flips:
        at = int(np.searchsorted(fraction, flip))
        fraction = np.insert(fraction, at, [flip, flip])
    twice = np.flatnonzero(fraction[1:] == fraction[:-1])
    for at in twice.tolist():  # few; np.isin would import numpy.ma, which costs more than a prediction
        jump[at] = fraction[at] in flips
    return fraction, jump


def _pose(stroke: Stroke, grip: Grip, fraction: Array, jump: NDArray[np.bool_]) -> tuple[Array, Array, Array]:
    """Return the edge's middle, its direction, and the middle before wiggling, at fractions of the stroke."""
    total = length_mm(stroke.path)
    parameter = parameter_at(stroke.path, fraction * total) if total > 0 else fraction * stroke.path.curves
    return _placed(stroke, grip.width_mm, _to_the_middle(stroke, grip), fraction, parameter, jump)


def _to_the_middle(stroke: Stroke, grip: Grip) -> Array:
    """Return how far the middle of the edge lies from the middle of what follows the path, mm, shape (n,)."""
    if not stroke.on_part:
        return np.zeros(len(grip.width_mm))
    return np.asarray((0.5 - (grip.low + grip.high) / 2) * grip.width_mm)


def _placed(
    stroke: Stroke, width_mm: Array, shift_mm: Array, fraction: Array, parameter: Array, jump: NDArray[np.bool_]
) -> tuple[Array, Array, Array]:
    """Return the edge's middle, its direction, and the middle before wiggling, at fractions of the stroke.

    The parameters are those of its path there.
    """
    on_path, heading = position_and_direction(stroke.path, parameter)
    turned = np.zeros(len(jump) + 1)
    np.cumsum(jump, out=turned[1:])
    return _edge_at(stroke, width_mm, shift_mm, fraction, on_path, heading, turned)


def _edge_at(
    stroke: Stroke, width_mm: Array, shift_mm: Array, fraction: Array, on_path: Array, heading: Array, turned: Array
) -> tuple[Array, Array, Array]:
    """Return the same where the path, its heading and how often the brush was flipped by then are known."""
    theta = _chisel_angle(stroke, fraction, heading)
    theta = theta + math.pi * turned
    edge = np.empty((len(theta), 2))
    edge[:, 0], edge[:, 1] = np.cos(theta), np.sin(theta)
    middle = on_path + shift_mm[:, None] * edge
    if stroke.nib.mode is NibMode.PIVOTING:
        middle = on_path + (0.5 - stroke.nib.pivot_u) * width_mm[:, None] * edge
    if not stroke.wiggle.width_mm:
        return middle, edge, middle
    sideways = np.stack([-heading[:, 1], heading[:, 0]], axis=1)
    swing = _swing_side(heading, edge, turned) * stroke.wiggle.width_mm / 2
    waves = swing * stroke.wiggle.envelope(fraction) * np.sin(2 * math.pi * stroke.wiggle.count * fraction)
    return middle + waves[:, None] * sideways, edge, middle


def sketched_edge(
    stroke: Stroke, brush: Applicator, axis: GradientAxis, count: int
) -> tuple[Array, Array, Array, Array]:
    """Return about where the edge is at so many moments, which lie evenly in the path's parameter.

    What of it touches, and how its end is lifted, is left out.

    Returns
    -------
    How far along the stroke each is, 0 to 1, shape (n,), middle and direction from A to B, shape (n, 2) each, and
    length and thickness, mm, shape (n, 2).
    """
    on_path = position(stroke.path, np.linspace(0, stroke.path.curves, count))
    along = np.gradient(on_path, axis=0)
    far = travelled_mm(on_path)
    total = float(far[-1])
    fraction = far / total if total > 0 else np.linspace(0, 1, count)
    heading = along / np.maximum(np.sqrt((along * along).sum(axis=1)), 1e-12)[:, None]
    flips = [at / total for at in stroke.flips_mm if 0 < at < total]
    turned = np.searchsorted(flips, fraction) if flips else np.zeros(count, np.intp)
    size = contact(brush, axis, stroke.pressure_at(fraction))
    centre, edge, _ = _edge_at(stroke, size.edge_mm, np.zeros(count), fraction, on_path, heading, turned - turned[0])
    return fraction, centre, edge, np.stack([size.edge_mm, size.thickness_mm], axis=1)


def chisel_angles(stroke: Stroke, fraction: Array) -> Array:
    """Return the chisel's direction from A to B at fractions of a stroke, flips left out, radians, shape (n,)."""
    parameter = fraction * stroke.path.curves  # where it begins and ends; between them the way is measured
    if ((fraction > 0) & (fraction < 1)).any() and (total := length_mm(stroke.path)) > 0:
        parameter = parameter_at(stroke.path, fraction * total)
    return np.unwrap(_chisel_angle(stroke, fraction, direction(stroke.path, parameter)))


def _swing_side(heading: Array, edge: Array, turned: Array) -> float:
    """Return to which side of the travel the first wave swings, 1 or -1: away from corner A.

    It hangs on the chisel and not on left and right, so that a mirrored stroke is the mirror image of its stroke.
    """
    across = heading[:, 0] * edge[:, 1] - heading[:, 1] * edge[:, 0]
    across = across * np.where(turned % 2, -1, 1)
    side = float(across.mean())
    if abs(side) < _NO_SIDE:  # as much on one side as on the other: it goes by where it begins
        told = across[np.abs(across) >= _NO_SIDE]
        side = float(told[0]) if len(told) else 0.0
    return -1.0 if side < 0 else 1.0


def _chisel_angle(stroke: Stroke, fraction: Array, heading: Array) -> Array:
    nib = stroke.nib
    start = math.radians(nib.angle_deg)
    if nib.mode is NibMode.FIXED:
        return np.full(len(fraction), start)
    if nib.mode is NibMode.PIVOTING:
        return np.asarray(start + (math.radians(nib.angle_end_deg) - start) * fraction)
    along = np.arctan2(heading[:, 1], heading[:, 0])
    return along + (np.radians(keyed(nib.keys, fraction)) if nib.mode is NibMode.KEYED else start)


def _bin_travel(centre: Array, edge: Array, width_mm: Array, jump: NDArray[np.bool_]) -> Array:
    along = bin_centres() - 0.5
    reach = edge * width_mm[:, None]
    d_centre, d_reach = centre[1:] - centre[:-1], reach[1:] - reach[:-1]
    step_x = d_centre[:, :1] + along * d_reach[:, :1]
    step_y = d_centre[:, 1:] + along * d_reach[:, 1:]
    step_x *= step_x
    step_y *= step_y
    step_x += step_y
    steps = np.sqrt(step_x, out=step_x)
    steps[jump] = 0.0
    travelled = np.zeros((len(centre), BINS))
    np.cumsum(steps, axis=0, out=travelled[1:])
    return travelled


def _travel_angle(middle: Array, edge: Array) -> Array:
    heading = np.gradient(middle, axis=0)
    speed = far_mm(heading)
    along = heading[:, 0] * edge[:, 0] + heading[:, 1] * edge[:, 1]
    cosine = np.abs(along) / np.maximum(speed, 1e-12)
    return np.where(speed > 1e-9, np.arccos(np.minimum(cosine, 1)), math.pi / 2)
