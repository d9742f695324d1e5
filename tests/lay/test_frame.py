"""A stroke in its own frame: turned and moved copies are one stroke, laid to a micrometre where they belong."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.lay.deposit import DROP_MM
from pennello.lay.families.catalogue import FAMILIES
from pennello.lay.frame import own_frame
from pennello.lay.laying import pull
from pennello.lay.stroke import Pats, Stroke
from pennello.lay.track import follow
from pennello.motif.place import Place
from pennello.path.cubic import line

BRUSHES = catalogue.brushes()
PULLED = sorted(key for key, one in FAMILIES.items() if one.stroke().pats is None)


@pytest.mark.parametrize("key", PULLED)
def test_it_is_laid_where_it_belongs(key):
    """Against the track that is followed in place, at an odd place and turn."""
    family = FAMILIES[key]
    stroke = Place(31.7, -12.4, 143.0).stroke(family.stroke())
    brush = BRUSHES[family.tool]
    made = pull(stroke, brush, GradientAxis.ACROSS).track
    there = follow(stroke, brush, GradientAxis.ACROSS, DROP_MM)
    at = np.linspace(0, 1, 40)
    for name in ("centre", "edge"):
        one, other = (
            np.stack([np.interp(at * way.s_mm[-1], way.s_mm, getattr(way, name)[:, axis]) for axis in (0, 1)])
            if way.s_mm[-1] > 1e-6
            else getattr(way, name)[[0, -1]]
            for way in (made, there)
        )
        near = np.abs(one - other) < 0.05
        assert near.mean() > 0.9, f"{name}: but for the moments in which a star turns on its tip"
    assert made.length_mm == pytest.approx(there.length_mm, abs=0.05)


@given(turn=st.floats(-360, 360), x=st.floats(-300, 300), y=st.floats(-300, 300), key=st.sampled_from(PULLED))
def test_turned_and_moved_copies_are_worked_out_once(turn, x, y, key):
    """Places are written to a millionth of a mm; the grid is a thousand times as wide, and a tie is rare."""
    first = FAMILIES[key].stroke()
    one, other = own_frame(first), own_frame(Place(x, y, turn).stroke(first))
    assert (one is None) == (other is None)
    if one is not None:
        apart = np.array(one[0].path.points_mm) - np.array(other[0].path.points_mm)  # type: ignore[index]
        assert np.abs(apart).max() < 2e-3
        assert replace(one[0], path=first.path, nib=first.nib) == replace(other[0], path=first.path, nib=first.nib)  # type: ignore[index]


def test_a_ring_is_one_petal(demo):
    petals = [Place(4.0, 7.0, 72.0 * n).stroke(FAMILIES["shell"].stroke()) for n in range(5)]
    assert len({own_frame(petal)[0] for petal in petals}) == 1  # type: ignore[index]
    tracks = [pull(petal, BRUSHES["flat-3-4"], GradientAxis.ACROSS).track for petal in petals]
    for turn, track in enumerate(tracks[1:], 1):
        back = Place(turn_deg=-72.0 * turn).points(track.centre - (4.0, 7.0))
        assert back == pytest.approx(tracks[0].centre - (4.0, 7.0), abs=0.01), "five-fold to 0.01 mm"


def test_pats_lie_as_they_lie():
    assert own_frame(Stroke(line((0, 0), (40, 0)), pats=Pats())) is None
