"""Strokes that go on with a leftover: the way of the edge and the face of a sponge stay what they were."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.aim.wish import Stop, Wanted
from pennello.design.fresh import fresh_plan
from pennello.design.load_edits import reloading
from pennello.design.on_chart import painted_plan, with_new_motif
from pennello.design.plan import PlanStroke
from pennello.design.scene import pulls
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Portion
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.load.recipe import Before, Face, PickUp, Recipe, Way
from pennello.motif.place import Place
from pennello.path.cubic import line

PRESS = Stroke(line((0, 0), (3, 0)), Nib(NibMode.FIXED, 0.0), 0.8)


def pan(name, **more):
    return PickUp(pan=(Portion(name, 1.0),), **more)


def stroke(name, recipe, brush, way=PRESS):
    return PlanStroke(name, name, brush, recipe, way, Wanted((Stop("foam-white"),)))


DIP = Recipe(
    (
        pan("thrift-pink", way=Way.DIP, passes=14),
        pan("foam-white", way=Way.DIP, passes=6, part=(0.0, 0.3), before=Before.BLOT),
    )
)
FRONT = Recipe(
    (
        pan("poppy-red", way=Way.PRESS, passes=18),
        pan("foam-white", way=Way.PRESS, passes=18, face=Face.BACK),
    ),
    lays=Face.FRONT,
)


@pytest.fixture(scope="module")
def plan():
    return replace(fresh_plan(), strokes=())


def test_the_leftover_of_a_dip_still_runs_along_the_print(plan):
    second = replace(PRESS, path=line((40, 0), (43, 0)))
    whole = replace(
        plan,
        strokes=(
            stroke("first", DIP, "petal-brush"),
            stroke("second", Recipe((), after="first"), "petal-brush", second),
            stroke("third", Recipe((), after="second"), "petal-brush", second),
        ),
    )
    assert set(whole.axes.values()) == {GradientAxis.ALONG}
    assert whole.axis("third") is whole.attempt("third").axis is GradientAxis.ALONG
    first, second, third = pulls(whole, 4.0)  # type: ignore[assignment]
    assert first.track.width_mm == second.track.width_mm == third.track.width_mm, "a petal, no disc"
    tip, belly = whole.edge("third").share[:, [2, 60]].T
    assert np.abs(tip - belly).max() > 0.2, "white at the tip, pink at the belly still"


def test_a_ring_of_dips_is_five_petals_whatever_a_load_gives(plan):
    """Case of a ring painted five from a load: only the first was a petal, four were discs."""
    loaded = replace(plan, strokes=(stroke("dip", DIP, "petal-brush"),))
    ring, name = with_new_motif(loaded, "dip-flower", "face", Place(), load="dip")
    assert name
    five, each = (reloading(ring, {"dip"}, count) for count in (5, 1))
    areas = [[one.track.width_mm for one in pulls(painted_plan(which, "face"), 2.0)[:5]] for which in (five, each)]
    assert areas[0] == pytest.approx(areas[1])


def test_what_is_left_on_the_other_face_is_that_faces_paint(plan):
    """Loaded red on one face and white on the other, laid with the first, then turned over: white, not red."""
    back = Recipe((), after="front", lays=Face.BACK)
    whole = replace(plan, strokes=(stroke("front", FRONT, "sponge-petal"), stroke("back", back, "sponge-petal")))
    edge = whole.edge("back")
    shares = dict(zip(edge.paints, edge.share.mean(axis=1), strict=True))
    assert shares["foam-white"] > 0.99
    red, white = (one.pulling.contents for one in pulls(whole, 4.0))
    fresh = replace(whole, strokes=(*whole.strokes[:1], stroke("back", replace(FRONT, lays=Face.BACK), "sponge-petal")))
    assert white == pytest.approx(pulls(fresh, 4.0)[1].pulling.contents), "nothing of that face was laid before"
    assert not np.allclose(red, white)
    again = replace(whole, strokes=(*whole.strokes, stroke("front again", Recipe((), after="back"), "sponge-petal")))
    shares = dict(zip(again.edge("front again").paints, again.edge("front again").share.mean(axis=1), strict=True))
    assert shares["poppy-red"] > 0.99, "turned back, it is red again"
