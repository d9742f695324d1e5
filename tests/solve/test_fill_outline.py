"""A drawn outline to one stroke: strokes of known hands are found again from their outline alone. Invented strokes."""

import random
from dataclasses import replace

import numpy as np
import pytest
import shapely
from lantern_face import demo_plan

from pennello.aim.attempt import Side
from pennello.design.holds import with_hold
from pennello.design.touch import swept_by
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.path.cubic import CubicPath, line
from pennello.solve.fill_outline import ENOUGH, NoOutlineError, fill_outline, loads_to_try, needs_two, other_rim

LOAD = "dahlia-petal"
PLAN = demo_plan()
BRUSH, AXIS = PLAN.brush(PLAN.stroke(LOAD).brush), PLAN.axis(LOAD)


def of_a_hand(seed):
    """Return a bowed stroke: the chisel stays, turns or follows the way by turns."""
    rng = random.Random(seed)
    far, bow, turn = rng.uniform(28, 60), rng.uniform(-14, 14), rng.uniform(0, 360)
    flat = [(0, 0), (far * 0.3, bow + rng.uniform(-4, 4)), (far * 0.7, bow + rng.uniform(-4, 4)), (far, 0)]
    cos, sin = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    path = CubicPath(tuple((float(x * cos - y * sin), float(x * sin + y * cos)) for x, y in flat))
    held = turn + rng.uniform(50, 130)
    nibs = (
        Nib(NibMode.FIXED, held),
        Nib(NibMode.PIVOTING, held - rng.uniform(10, 45), held + rng.uniform(10, 45), 0.5),
        Nib(NibMode.FOLLOWING, 90.0),
    )
    return Stroke(path, nibs[seed % 3], rng.uniform(0.3, 0.85))


def largest(shape):
    return max(getattr(shape, "geoms", (shape,)), key=lambda part: part.area)


def outline_of(stroke):
    return list(largest(swept_by(stroke, BRUSH, AXIS)).exterior.coords)


@pytest.mark.parametrize("seed", range(4))
def test_a_known_stroke_is_found_again_from_its_outline(seed):
    outline = outline_of(of_a_hand(seed))
    best, *others = fill_outline(PLAN, outline, [LOAD])
    laid, meant = swept_by(best.stroke, BRUSH, AXIS), shapely.Polygon(outline)
    shared = laid.intersection(meant).area / laid.union(meant).area
    assert best.overlap == pytest.approx(shared, abs=1e-6), "as shapely counts it from the stroke that is told"
    assert shared >= 0.9
    assert all(one.overlap <= best.overlap for one in others)
    assert not needs_two([best])


@pytest.mark.slow
def test_most_of_forty_known_strokes_are_found_to_92_percent():
    found = [fill_outline(PLAN, outline_of(of_a_hand(seed)), [LOAD])[0].overlap for seed in range(40)]
    assert sum(overlap >= 0.92 for overlap in found) >= 36, sorted(found)[:6]


def test_the_rim_lies_on_the_side_that_is_told():
    stroke = Stroke(line((0, 0), (40, 0)), Nib(NibMode.FIXED, 90.0), 0.6)
    outline = outline_of(stroke)
    for rim_at in ((20.0, -12.0), (20.0, 12.0)):
        best = fill_outline(PLAN, outline, [LOAD], rim_at)[0]
        angle = best.stroke.nib.angle_deg
        if best.stroke.nib.mode is NibMode.PIVOTING:
            angle = (angle + best.stroke.nib.angle_end_deg) / 2
        side = 1.0 if PLAN.stroke(LOAD).rim is Side.B else -1.0  # u grows from A to B along the chisel's direction
        assert np.sign(side * np.sin(np.radians(angle))) == np.sign(rim_at[1])
        turned = other_rim(best).stroke
        assert abs(turned.nib.angle_deg - best.stroke.nib.angle_deg) == 180
        same = swept_by(turned, BRUSH, AXIS).symmetric_difference(swept_by(best.stroke, BRUSH, AXIS)).area
        assert same < 0.01 * shapely.Polygon(outline).area


def test_a_place_too_broad_for_the_brush_needs_two():
    disc = list(shapely.Point(0, 0).buffer(40).exterior.coords)
    found = fill_outline(PLAN, disc, [LOAD])
    assert found[0].overlap < ENOUGH
    assert needs_two(found)
    assert needs_two(())


def test_the_best_so_far_is_told_after_each_load():
    told, said = [], []
    loads = loads_to_try(PLAN, (), LOAD)
    assert loads[0] == LOAD
    kinds = [PLAN.brush(PLAN.stroke(name).brush) for name in loads]
    assert len({(brush, PLAN.axis(name)) for brush, name in zip(kinds, loads, strict=True)}) == len(loads)
    assert not any(brush.kind.dips or brush.kind.pressed for brush in kinds)
    outline = outline_of(with_hold(of_a_hand(0), Hold.SQUARE))
    found = fill_outline(PLAN, outline, loads[:2], None, lambda share, words: said.append(words), told.append)
    assert len(told) == 2
    assert told[-1] == found
    assert told[0][0].overlap <= found[0].overlap
    assert len(found) <= 3
    assert PLAN.stroke(LOAD).name in said[0]


def test_what_cannot_be_filled_is_told():
    with pytest.raises(NoOutlineError, match="three points"):
        fill_outline(PLAN, [(0, 0), (10, 0)], [LOAD])
    with pytest.raises(NoOutlineError, match="hardly anything"):
        fill_outline(PLAN, [(0, 0), (10, 0), (20, 0)], [LOAD])
    with pytest.raises(NoOutlineError, match="draw it smaller"):
        fill_outline(PLAN, [(0, 0), (3000, 0), (0, 3000)], [LOAD])
    with pytest.raises(UnknownNameError):
        loads_to_try(PLAN, ["nobody"])
    with pytest.raises(OutOfRangeError, match="flat or angle"):
        loads_to_try(replace(PLAN, strokes=(), motifs=()))
