"""Motifs of held strokes: rings are n-fold, mirrored halves are reflections, old motifs stay readable."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pennello.design.edits import with_stroke
from pennello.design.on_chart import with_new_motif
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.lay.laying import pull
from pennello.motif.catalogue import KNOWN, MOTIFS, OLD, motif
from pennello.motif.catalogue import MOTIFS as OFFERED
from pennello.motif.place import HERE
from pennello.path.cubic import position


def corners(stroke, tool="flat-3-4", count=9):
    """Both corners of the edge at some moments along a stroke, mm, shape (count, 2, 2)."""
    track = pull(stroke, catalogue.brushes()[tool], GradientAxis.ACROSS).track
    return track.points(np.linspace(0, len(track.s_mm) - 1, count).astype(int), np.array([0.0, 1.0]))


@pytest.mark.parametrize("petals", [3, 5, 8])
def test_a_ring_of_shells_is_n_fold(petals):
    pieces = [one for one in motif("shell-flower").made({"petals": petals, "rows": 1}).pieces if one.part == "petal"]
    assert len(pieces) == petals
    first = corners(pieces[0].stroke)
    for number, piece in enumerate(pieces):
        turn = 2 * math.pi * number / petals
        spun = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])
        assert corners(piece.stroke) == pytest.approx(first @ spun, abs=0.01)


@pytest.mark.parametrize(
    ("key", "parts"), [("lobed-butterfly", ("upper", "lower")), ("whole-heart", ("half",)), ("peaks", ("peak",))]
)
def test_mirrored_pieces_are_reflections(key, parts):
    pieces = [one for one in motif(key).made().pieces if one.part in parts]
    for one, other in zip(pieces[::2], pieces[1::2], strict=True):
        if key == "peaks" and abs(float(position(one.stroke.path, np.ones(1) * one.stroke.path.curves)[0, 0])) > 0.1:
            continue  # only the middle peak stands on the midline
        assert corners(other.stroke) == pytest.approx(corners(one.stroke) * (-1, 1), abs=0.01)


@pytest.mark.parametrize("key", list(OFFERED))
@given(seed=st.integers(0, 10_000))
def test_seeded_settings_make_sound_strokes(key, seed):
    """Whatever the numbers within their ranges, each piece has a part that there is and a way that can be pulled."""
    kind, rng = motif(key), np.random.default_rng(seed)
    values = {}
    for number in kind.parameters:
        value = number.low + rng.random() * min(number.high - number.low, 3 * abs(number.default) + 1)
        values[number.key] = float(round(value)) if number.unit == "×" and number.high >= 3 else float(value)
    values = {
        key: min(max(value, low.low), low.high)
        for (key, value), low in zip(values.items(), kind.parameters, strict=True)
    }
    made = kind.made(values)
    assert {piece.part for piece in made.pieces} <= {part.key for part in kind.parts}
    assert made.says
    for piece in made.pieces[:4]:
        assert np.isfinite(np.array(piece.stroke.path.points_mm)).all()


def test_older_motifs_are_known_but_not_offered():
    assert not set(OLD) & set(MOTIFS)
    assert set(OLD) <= set(KNOWN)
    assert motif("rose-outside-in").made().pieces


def test_a_motif_put_on_takes_loads_that_suit_it(demo):
    """Green for leaves and for nothing else, from one cake where one can; else the brush that is nearest."""
    plan, name = with_new_motif(demo, "rose-open", "face", HERE)
    rose = next(one for one in plan.motifs if one.id == name)
    cakes = {plan.stroke(load).recipe.cakes for _, load in rose.loads}
    assert len(cakes) <= 2
    greens = [load for load in (one.id for one in demo.strokes) if load.startswith("kelp")]
    assert not set(greens) & {load for _, load in rose.loads}
    green = with_stroke(demo, replace(demo.stroke("kelp-swoosh"), brush="flat-3-4"))
    plan, name = with_new_motif(green, "two-leaves", "face", HERE)
    assert next(one for one in plan.motifs if one.id == name).loads == (("leaf", "kelp-swoosh"),)
