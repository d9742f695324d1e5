"""What goes wrong in a stroke's way and film, where it happens, and the change of the way that mends it.

Colour causes, which are about the load, stand in causes. Thresholds are defaults.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from pennello.aim.attempt import Attempt, Side
from pennello.aim.comparison import Comparison, compare
from pennello.aim.mend import SetPickUp, SetWay
from pennello.aim.wish import edge_lab
from pennello.colour.basis import small_basis
from pennello.finding import Code, Finding, RatedMend
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator
from pennello.kit.contact import BINS, profile
from pennello.lay.laying import Laid
from pennello.lay.stroke import NibMode, Stroke
from pennello.load.edge import load
from pennello.load.recipe import Before, Wetness
from pennello.phrases import phrase
from pennello.units import LengthUnit, length_text

Array = NDArray[np.floating[Any]]

DRIP_UM = 120.0
"""A wet film thicker than this runs (a default)."""

STREAK_UM = 3.0
"""A nearly dry load breaks up where it lays less than this (a default)."""

TURNED_BACK_MM = 1.5
MOST_PRESSURE_STEP = 0.15
RIM_DE00 = 12.0
WHOLLY = 0.9
OLD_PAINT_DE00 = 3.0


def find_faults(
    laid: Laid, attempt: Attempt, seen: Comparison, unit: LengthUnit = LengthUnit.MM
) -> tuple[Finding, ...]:
    """Return what goes wrong in a laid stroke, in the order in which it happens."""
    found = [*_tight(laid, attempt, unit), *_drips(laid, attempt), *_streaks(laid, attempt), *_rim(attempt, seen)]
    found += [*_bare(laid, attempt, unit), *_old_paint(laid, attempt)]
    return tuple(sorted(found, key=lambda fault: fault.at_mm or 0.0))


def with_sound_mends(
    faults: tuple[Finding, ...], attempt: Attempt, px_per_mm: float, bands: int = 8
) -> tuple[Finding, ...]:
    """Return the faults with only those mends that end the fault and bring no other one; each is laid for real.

    Parameters
    ----------
    px_per_mm
        Resolution at which they are laid.
    """
    known = {fault.code for fault in faults}

    def sound(fault: Finding, rated: RatedMend) -> bool:
        changed = rated.mend.mended(attempt)
        laid = changed.lay(px_per_mm, small_basis(bands))
        left = {one.code for one in find_faults(laid, changed, compare(laid, changed))}
        return fault.code not in left and left <= known

    return tuple(
        replace(fault, mends=tuple(mend for mend in fault.mends if sound(fault, mend))) if fault.mends else fault
        for fault in faults
    )


def _tight(laid: Laid, attempt: Attempt, unit: LengthUnit) -> Iterator[Finding]:
    """Find where the inner corner goes backwards: the curve is tighter than the brush is wide."""
    stroke, track = attempt.stroke, laid.track
    if stroke.nib.mode is NibMode.PIVOTING or track.length_mm <= 0:
        return
    ahead = np.diff(track.centre, axis=0)
    corners = track.points(np.arange(len(track.s_mm)), np.array([0.0, 1.0]))
    forward = np.einsum("nkc,nc->nk", np.diff(corners, axis=0), ahead)
    way = np.linalg.norm(np.diff(corners, axis=0), axis=2)
    back = np.where((forward < 0) & ~track.jump[:, None], way, 0.0)
    worst = back.sum(axis=0)
    if stroke.wiggle.count or worst.max() < TURNED_BACK_MM:
        return
    corner = int(worst.argmax())
    place = int(back[:, corner].argmax())
    narrower = max(0.1, (stroke.pressure if not stroke.pressures else 1.0) - 0.3)
    brush = attempt.brush
    mends: list[SetWay] = []
    if not stroke.pressures and brush.kind.dips and narrower < stroke.pressure - 0.05:
        mends.append(
            SetWay(
                "press",
                replace(stroke, pressure=narrower),
                brush,
                phrase("press only {narrower:.0%}", narrower=narrower),
            )
        )
    elif not stroke.pressures:
        pivoted = _pivoted(laid, stroke, float(corner))
        mends.append(SetWay("pivot", pivoted, brush, phrase("turn the stroke on its inner corner")))
    smaller = _next_narrower(brush)
    if smaller is not None:
        mends.append(SetWay("brush", stroke, smaller, phrase("take the {smaller}", smaller=smaller.name)))
    yield Finding(
        Code.TIGHT_CURVE,
        phrase(
            "The curve is tighter than the brush: corner {value} goes back by {worst} "
            "and smears; open the curve, take a narrower brush, or turn on that corner.",
            value="AB"[corner],
            worst=length_text(worst[corner], unit),
        ),
        at_mm=float(track.s_mm[place]),
        mends=tuple(map(RatedMend, mends)),
    )


def _next_narrower(brush: Applicator) -> Applicator | None:
    """Return the shipped brush of the same kind that is the next size down."""
    alike = [one for one in catalogue.brushes().values() if one.kind is brush.kind]
    return max(
        (one for one in alike if one.width_mm < 0.95 * brush.width_mm), key=lambda one: one.width_mm, default=None
    )


def _pivoted(laid: Laid, stroke: Stroke, corner: float) -> Stroke:
    edge = laid.track.edge
    angles = np.degrees(np.unwrap(np.arctan2(edge[:, 1], edge[:, 0])))
    start, end = (float(np.clip(round(angle), -720, 720)) for angle in (angles[0], angles[-1]))
    nib = replace(stroke.nib, mode=NibMode.PIVOTING, angle_deg=start, angle_end_deg=end, pivot_u=corner)
    return replace(stroke, nib=nib)


def _drips(laid: Laid, attempt: Attempt) -> Iterator[Finding]:
    film = np.where(laid.even.coverage > WHOLLY, laid.even.thickness_um, 0.0)  # a sliver of a pixel does not run
    if film.max() <= DRIP_UM:
        return
    row, column = (int(i) for i in np.unravel_index(int(film.argmax()), film.shape))
    at = laid.even.canvas.left_mm + (column + 0.5) / laid.even.canvas.px_per_mm
    down = laid.even.canvas.top_mm + (row + 0.5) / laid.even.canvas.px_per_mm
    near = int(np.linalg.norm(laid.track.centre - np.array([at, down]), axis=1).argmin())
    lighter = max(0.05, attempt.stroke.pressure - MOST_PRESSURE_STEP)
    way = replace(attempt.stroke, pressure=lighter)
    mends = (
        ()
        if attempt.stroke.pressures
        else (RatedMend(SetWay("press", way, attempt.brush, phrase("press {lighter:.0%}", lighter=lighter))),)
    )
    yield Finding(
        Code.DRIP,
        phrase("{max:.0f} µm of paint stand here and may run; press lighter, or blot the load.", max=film.max()),
        at_mm=float(laid.track.s_mm[near]),
        mends=mends,
    )


def _streaks(laid: Laid, attempt: Attempt) -> Iterator[Finding]:
    dry = any(one.wetness is Wetness.NEARLY_DRY for one in attempt.recipe.laid)
    given = np.array([run.stretch.left.mean() for run in laid.runs])
    if not dry or given.min() > 0.9:
        return
    film = laid.even.thickness_um[laid.even.coverage > 0.9]
    if film.size and float(np.percentile(film, 20)) < STREAK_UM:
        yield Finding(
            Code.STREAK,
            phrase("The load is nearly dry and breaks up into streaks towards the end; mist the cake once."),
            at_mm=laid.track.length_mm * 0.7,
        )


def _rim(attempt: Attempt, seen: Comparison) -> Iterator[Finding]:
    """Find where the rim has the heel's colour, and the other way round."""
    from pennello.colour.difference import ciede2000  # noqa: PLC0415

    bins = max(2, BINS // 10)
    first, last = seen.lab[:, :bins].mean(axis=1), seen.lab[:, -bins:].mean(axis=1)
    want_first, want_last = seen.wanted_lab[:bins].mean(axis=0), seen.wanted_lab[-bins:].mean(axis=0)
    if float(ciede2000(want_first, want_last)) < RIM_DE00:
        return
    here = ciede2000(first, want_first) + ciede2000(last, want_last)
    there = ciede2000(first, want_last) + ciede2000(last, want_first)
    wrong = np.flatnonzero(there + RIM_DE00 < here)
    if len(wrong):
        rim = attempt.rim.value if attempt.rim is Side.A else Side.B.value
        yield Finding(
            Code.WRONG_RIM,
            phrase(
                "The rim (corner {rim}) has the heel's colour here; flip the brush on the cake, or on the way.", rim=rim
            ),
            at_mm=float(seen.s_mm[wrong[0]]),
        )


def _old_paint(laid: Laid, attempt: Attempt) -> Iterator[Finding]:
    """Find old paint that hard pressure squeezes out of the root of a brush that was rinsed once."""
    from pennello.colour.difference import ciede2000  # noqa: PLC0415

    once = [index for index, pickup in enumerate(attempt.recipe.pickups) if pickup.before is Before.RINSE]
    if not once or attempt.residue is None:
        return
    clean = load(attempt.recipe, attempt.cakes, attempt.brush, attempt.residue)
    seen = [edge_lab(edge, attempt.paints, attempt.skin) for edge in (laid.edge, clean)]
    apart = float(ciede2000(*seen).max())
    if apart < OLD_PAINT_DE00:
        return
    old = attempt.residue.paints[int(attempt.residue.solids.sum(axis=1).argmax())]
    index = once[-1]
    mend = replace(attempt.recipe.pickups[index], before=Before.RINSE_TWICE)
    yield Finding(
        Code.OLD_PAINT,
        phrase(
            "Old {paints} in the brush: one rinse leaves some in the root, and you press it out; "
            "rinse twice and swab the brush, or press lighter.",
            paints=attempt.paints[old].name,
        ),
        at_mm=0.0,
        mends=(RatedMend(SetPickUp("rinse", index, mend, phrase("rinse twice"))),),
    )


def _bare(laid: Laid, attempt: Attempt, unit: LengthUnit) -> Iterator[Finding]:
    """Find bins that hold nothing: a stripe that was missed or has worn out."""
    held = laid.edge.volume_mm3_per_mm
    low, high = attempt.stroke.part
    edges = (np.arange(BINS) + 0.5) / BINS
    room = profile(attempt.brush, attempt.axis)
    bare = (held < 0.1 * room * float((held / room).max())) & (edges >= low) & (edges <= high)
    if not bare.any() or not held.any():
        return
    wide = float(bare.sum()) / BINS * laid.edge.width_mm
    if wide > 0.5:
        text = phrase(
            "{wide} of the edge hold no paint and leave the skin bare; look at the cake.", wide=length_text(wide, unit)
        )
        yield Finding(Code.MISSED_STRIPE, text, at_mm=0.0)
