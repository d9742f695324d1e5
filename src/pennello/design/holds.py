"""How a stroke is held, by the five holds: which it is, taking another one, and the numbers that each has."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from pennello.errors import OutOfRangeError
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Key, Nib, NibMode, Stroke
from pennello.lay.track import chisel_angles
from pennello.path.cubic import direction, length_mm
from pennello.phrases import phrase

FIVE = (Hold.UPRIGHT, Hold.HEEL, Hold.RIM, Hold.PUSH, Hold.SQUARE)
_LEAST_SWING, _EDGE, _BROAD = 20.0, 4.0, 60.0
_STILL_MM = 0.5
_TURN = 720.0


def hold_of(stroke: Stroke) -> Hold:
    """Return how a stroke is held: a touch where it is patted or stands still, else by how its chisel goes."""
    nib = stroke.nib
    if stroke.pats is not None or (length_mm(stroke.path) < _STILL_MM and nib.mode is not NibMode.PIVOTING):
        return Hold.TOUCH
    if nib.mode is NibMode.PIVOTING:
        return Hold.HEEL if nib.pivot_u >= 0.5 else Hold.RIM
    if nib.mode is NibMode.KEYED:  # a head round the heel begins across its way, a push on its edge
        return Hold.HEEL if nib.keys and abs(nib.keys[0].value) > _BROAD else Hold.PUSH
    if nib.mode is NibMode.FOLLOWING and _from_a_corner(stroke):
        return Hold.RIM
    return Hold.UPRIGHT if nib.mode is NibMode.FIXED else Hold.SQUARE


def _from_a_corner(stroke: Stroke) -> bool:
    """Return whether the edge comes down from a corner that runs along the way."""
    return stroke.on_part and bool(stroke.parts) and len({part.from_u for part in stroke.parts}) == 1


def with_hold(stroke: Stroke, hold: Hold) -> Stroke:
    """Return a stroke held in another of the five ways, its way kept, its chisel as near as the hold has it.

    Raises
    ------
    OutOfRangeError
        If it is none of the five.
    """
    if hold not in FIVE:
        raise OutOfRangeError("hold", hold.value, ", ".join(one.value for one in FIVE))
    if hold_of(stroke) is hold:
        return stroke
    start, middle, end = (math.degrees(angle) for angle in chisel_angles(stroke, np.array([0.0, 0.5, 1.0])))
    side = _side(stroke, middle)
    if hold is Hold.UPRIGHT:
        nib = Nib(NibMode.FIXED, round(_within(middle), 1))
    elif hold in (Hold.HEEL, Hold.RIM):
        if abs(end - start) < _LEAST_SWING:
            swing = 52.0 if hold is Hold.HEEL else 40.0
            start, end = middle - side * swing, middle + side * swing
        turned = _within(start) - start
        nib = Nib(NibMode.PIVOTING, round(start + turned, 1), round(end + turned, 1), 1.0 if hold is Hold.HEEL else 0.0)
    elif hold is Hold.PUSH:
        keys = tuple(Key(at, side * angle) for at, angle in zip((0.0, 0.5, 1.0), (_EDGE, _BROAD, _EDGE), strict=True))
        nib = Nib(NibMode.KEYED, keys=keys)
    else:
        nib = Nib(NibMode.FOLLOWING, side * 90.0)
        if _from_a_corner(stroke):
            stroke = replace(stroke, parts=(), on_part=False)
    return replace(stroke, nib=nib, pats=None)


def _side(stroke: Stroke, middle_deg: float) -> int:
    """Return 1 where B lies to the right of the travel in the middle of the stroke, else -1."""
    heading = direction(stroke.path, np.array([stroke.path.curves / 2]))[0]
    off = math.sin(math.radians(middle_deg) - math.atan2(float(heading[1]), float(heading[0])))
    return 1 if off >= 0 else -1


def _within(angle_deg: float) -> float:
    return (angle_deg + 180.0) % 360.0 - 180.0


@dataclass(frozen=True, slots=True)
class Number:
    """A number of a hold: its key, its name, what it is now, its range and unit, and how to change it."""

    key: str
    name: str
    value: float
    low: float
    high: float
    unit: str
    change: Callable[[float], Stroke]


def numbers_of(stroke: Stroke) -> tuple[Number, ...]:
    """Return the numbers that the stroke's hold has, and no others; none for a touch."""
    hold, nib = hold_of(stroke), stroke.nib

    def angle(key: str, name: str, *, end: bool = False) -> Number:
        def change(value: float) -> Stroke:
            turned = replace(nib, angle_end_deg=value) if end else replace(nib, angle_deg=value)
            return replace(stroke, nib=turned)

        return Number(key, name, nib.angle_end_deg if end else nib.angle_deg, -_TURN, _TURN, "°", change)

    if hold is Hold.UPRIGHT:
        return (angle("angle", phrase("Chisel to the level")),)
    if hold in (Hold.HEEL, Hold.RIM) and nib.mode is NibMode.PIVOTING:
        who = "A" if hold is Hold.HEEL else "B"
        return (
            angle("from", phrase("{who} from", who=who)),
            angle("to", phrase("to"), end=True),
            *_waves(stroke),
        )
    if nib.mode is NibMode.KEYED and hold in (Hold.HEEL, Hold.PUSH):
        return _keyed(stroke, hold)
    if nib.mode is NibMode.FOLLOWING and hold in (Hold.RIM, Hold.SQUARE):
        return (angle("across", phrase("Chisel to the way")),)
    return ()


def numbers_in_hand(stroke: Stroke) -> tuple[Number, ...]:
    """Return what can be changed about a pulled stroke: numbers of its hold, waves, lift, where it is flipped."""
    held = numbers_of(stroke)
    known = {one.key for one in held}
    waves = tuple(one for one in _waves(stroke) if one.key not in known)
    lift = Number("lift_mm", phrase("Lifts over"), stroke.lift_mm, 0, 200, " mm", lambda v: replace(stroke, lift_mm=v))
    return (*held, *(() if hold_of(stroke) is Hold.TOUCH else (*waves, lift, _flip(stroke))))


def _flip(stroke: Stroke) -> Number:
    """Return where a stroke is flipped first, mm from its start; 0 where it is not."""
    far = length_mm(stroke.path)

    def change(at_mm: float) -> Stroke:
        later = stroke.flips_mm[1:]
        kept = (min(at_mm, far), *(one for one in later if one > at_mm)) if at_mm > 0 else later
        return replace(stroke, flips_mm=kept)

    return Number(
        "flip_mm", phrase("Flipped at"), stroke.flips_mm[0] if stroke.flips_mm else 0.0, 0, round(far, 1), " mm", change
    )


def _waves(stroke: Stroke) -> tuple[Number, ...]:
    wiggle = stroke.wiggle
    return (
        Number(
            "waves",
            phrase("Waves"),
            wiggle.count,
            0,
            30,
            " ×",
            lambda v: replace(stroke, wiggle=replace(wiggle, count=v)),
        ),
        Number(
            "wave_mm",
            phrase("high"),
            wiggle.width_mm,
            0,
            60,
            " mm",
            lambda v: replace(stroke, wiggle=replace(wiggle, width_mm=v)),
        ),
    )


def _keyed(stroke: Stroke, hold: Hold) -> tuple[Number, ...]:
    keys = stroke.nib.keys
    broad = max(range(len(keys)), key=lambda n: abs(keys[n].value)) if keys else 0

    def keyed(key: str, name: str, at: int) -> Number:
        def change(value: float) -> Stroke:
            now = keys[at].value
            if key == "broad" and abs(now) > 1e-9:  # all between the edge and the broadest follow
                scaled = tuple(
                    one if n in (0, len(keys) - 1) else replace(one, value=one.value * value / now)
                    for n, one in enumerate(keys)
                )
            else:
                scaled = (*keys[:at], replace(keys[at], value=value), *keys[at + 1 :])
            return replace(stroke, nib=replace(stroke.nib, keys=scaled))

        return Number(key, name, keys[at].value, -_TURN, _TURN, "°", change)

    if len(keys) < 3:
        return tuple(keyed(f"key{n}", phrase("Chisel at {at:.0%}", at=keys[n].at), n) for n in range(len(keys)))
    return (
        keyed("start", phrase("Starts on the edge at") if hold is Hold.PUSH else phrase("Starts across at"), 0),
        keyed("broad", phrase("broadest at"), broad),
        keyed("end", phrase("ends on the edge at"), len(keys) - 1),
    )
