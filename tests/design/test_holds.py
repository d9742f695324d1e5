"""The five ways to hold a brush (common practice, no published source): told, taken, and their numbers."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.design.fresh import with_family_stroke
from pennello.design.holds import FIVE, hold_of, numbers_of, with_hold
from pennello.errors import OutOfRangeError
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.lay.families.catalogue import FAMILIES
from pennello.lay.families.hold import Hold
from pennello.lay.laying import pull
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.path.cubic import CubicPath, length_mm, line

ARCH = Stroke(CubicPath(((-15, 0), (-12, -16), (12, -16), (15, 0))), Nib(NibMode.FOLLOWING, 90.0))


def ends(stroke, corner):
    """The way of one corner: 0 is A, 1 is B."""
    brush = next(one for one in catalogue.brushes().values() if one.width_mm > 15)
    track = pull(stroke, brush, GradientAxis.ACROSS).track
    return track.points(np.arange(len(track.s_mm)), np.array([float(corner)]))[:, 0]


def travelled(points):
    return float(np.linalg.norm(np.diff(points, axis=0), axis=1).sum())


def test_every_family_is_pulled_by_the_hold_that_it_names(demo):
    """The hold that is told from the stroke itself is the one that its family names."""
    for key, family in FAMILIES.items():
        if family.hold in FIVE and key != "fill":  # keeps its direction on the way back: upright, by itself
            plan, name = with_family_stroke(demo, key)
            assert hold_of(plan.stroke(name).stroke) is family.hold, key


@pytest.mark.parametrize("hold", FIVE)
def test_a_stroke_is_taken_in_another_hold(hold):
    for other in FIVE:
        held = with_hold(with_hold(ARCH, other), hold)
        assert hold_of(held) is hold
        assert held.path == ARCH.path or hold in (Hold.HEEL, Hold.RIM)
    assert with_hold(held, hold) is held


def test_what_the_hold_says_is_what_the_corners_do():
    """Upright keeps its angle; the way is B's round the heel, A's on the rim; square the chisel lies across it."""
    upright = with_hold(ARCH, Hold.UPRIGHT)
    chisel = ends(upright, 1) - ends(upright, 0)
    assert np.ptp(np.degrees(np.arctan2(chisel[:, 1], chisel[:, 0]))) < 0.5
    still = with_hold(replace(ARCH, path=line((0, 0), (0.6, 0)), nib=Nib(NibMode.FIXED, 90)), Hold.HEEL)
    assert travelled(ends(still, 1)) < 0.05 * travelled(ends(still, 0)), "A swings round B"
    way = length_mm(ARCH.path)
    assert travelled(ends(with_hold(ARCH, Hold.HEEL), 1)) == pytest.approx(way, rel=0.02)
    assert travelled(ends(with_hold(ARCH, Hold.RIM), 0)) == pytest.approx(way, rel=0.02)
    square = with_hold(ARCH, Hold.SQUARE)
    middle = (ends(square, 0) + ends(square, 1)) / 2
    along, chisel = np.gradient(middle, axis=0)[5:-5], (ends(square, 1) - ends(square, 0))[5:-5]
    cosine = (along * chisel).sum(1) / np.linalg.norm(along, axis=1) / np.linalg.norm(chisel, axis=1)
    assert np.abs(cosine).max() < 0.15


def test_each_hold_has_its_numbers_and_no_others():
    keys = {hold: [one.key for one in numbers_of(with_hold(ARCH, hold))] for hold in FIVE}
    assert keys == {
        Hold.UPRIGHT: ["angle"],
        Hold.HEEL: ["from", "to", "waves", "wave_mm"],
        Hold.RIM: ["from", "to", "waves", "wave_mm"],
        Hold.PUSH: ["start", "broad", "end"],
        Hold.SQUARE: ["across"],
    }
    for hold in FIVE:
        held = with_hold(ARCH, hold)
        for one in numbers_of(held):
            wanted = min(max(one.value + 5, one.low), one.high)
            now = {other.key: other.value for other in numbers_of(one.change(wanted))}
            assert now[one.key] == pytest.approx(wanted), (hold, one.key)
            assert one.name


def test_a_touch_has_no_numbers_and_is_none_of_the_five():
    still = replace(ARCH, path=line((0, 0), (0.1, 0)))
    assert hold_of(still) is Hold.TOUCH
    assert numbers_of(still) == ()
    with pytest.raises(OutOfRangeError, match="hold"):
        with_hold(ARCH, Hold.TOUCH)
