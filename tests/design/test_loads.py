"""Every kind of load on every applicator: it can be planned, predicted, said, stored and undone by value."""

from dataclasses import replace

import pytest

from pennello.aim.ladder import NoLadderError
from pennello.design.edits import (
    StillNeededError,
    with_brush_taken,
    with_ladder,
    with_load_counted,
    with_moved_pickup,
    with_stroke,
    without_pickup,
    without_stroke,
)
from pennello.design.faces import faces_left
from pennello.design.fresh import fresh_plan, with_fresh_stroke
from pennello.design.laddering import plan_ladder
from pennello.design.load_kinds import LOAD_KINDS, axis_words, goes_on_with, kinds_for
from pennello.design.problems import problems, problems_of
from pennello.design.soundness import NoSuchLinkError, check_references
from pennello.design.words import load_words
from pennello.errors import OutOfRangeError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Portion, Stripe
from pennello.load.recipe import PickUp, Recipe, Wetness
from pennello.session.forecast import coarse

PLAN, NAME = with_fresh_stroke(fresh_plan())
PAIRS = [(brush, kind) for brush in catalogue.brushes().values() for kind in kinds_for(brush)]


@pytest.mark.parametrize(("brush", "kind"), PAIRS, ids=[f"{b.id}-{k.key}" for b, k in PAIRS])
def test_every_kind_on_every_applicator(brush, kind):
    plan = with_brush_taken(PLAN, NAME, brush.id)
    plan = kind.edit(plan, plan.stroke(NAME))
    check_references(plan)
    edge = plan.edge(NAME)
    assert edge.total_mm3 > 0
    assert edge.axis is (GradientAxis.ALONG if kind.key == "tip" else GradientAxis.ACROSS)
    assert coarse(plan, NAME).laid.volumes.laid_mm3 > 0
    assert all(line.endswith((".", ")")) for line in load_words(plan, plan.stroke(NAME)))
    assert parse_plan(plan_bytes(plan), "x") == plan


def test_kinds_fit_their_tools():
    tools = catalogue.brushes()
    assert "tip" in {kind.key for kind in kinds_for(tools["round-3"])}
    assert "tip" not in {kind.key for kind in kinds_for(tools["flat-1"])}
    assert "faces" in {kind.key for kind in kinds_for(tools["sponge-block"])}
    assert len({kind.key for kind in LOAD_KINDS}) == len(LOAD_KINDS)
    assert axis_words(GradientAxis.ALONG) == ("tip", "belly")


def test_a_wish_for_a_load_holds(demo):
    for name in ("moth-wing", "lantern-cheek", "kelp-leaf"):
        outcome = coarse(demo, name)
        assert outcome.state.value in ("holds", "close")


# --- order and leftovers ---


def loaded(plan, *pickups, after=""):
    return with_stroke(plan, replace(plan.stroke(NAME), recipe=Recipe(pickups, after)))


def test_order_matters_and_moving_back_is_nothing():
    one, two = PickUp("dahlia-wrist", 1.0, passes=9), PickUp("kelp-swoosh", 0.0, passes=2)
    plan = loaded(PLAN, one, two)
    stroke = plan.stroke(NAME)
    moved = with_moved_pickup(stroke, 0, 1)
    assert moved.recipe.pickups == (two, one)
    assert with_moved_pickup(moved, 1, 0) == stroke
    assert (with_stroke(plan, moved).edge(NAME).solids != plan.edge(NAME).solids).any()
    assert without_pickup(stroke, 1).recipe.pickups == (one,)
    with pytest.raises(OutOfRangeError):
        without_pickup(without_pickup(stroke, 1), 0)


def test_going_on_with_what_is_left():
    plan, second = with_fresh_stroke(PLAN)
    assert goes_on_with(plan, plan.stroke(second)) == (NAME,)
    stroke = plan.stroke(second)
    plan = with_stroke(plan, replace(stroke, recipe=Recipe((), NAME)))
    check_references(plan)
    assert plan.edge(second).total_mm3 == pytest.approx(plan.leftover(NAME).total_mm3)
    assert plan.edge(second).total_mm3 < plan.edge(NAME).total_mm3
    with pytest.raises(StillNeededError):
        without_stroke(plan, NAME)
    with pytest.raises(StillNeededError):
        with_brush_taken(plan, NAME, "flat-1")
    kept = with_stroke(plan, replace(stroke, recipe=replace(stroke.recipe, after=NAME)))
    assert without_stroke(kept, NAME).stroke(second).recipe.after == ""
    assert with_brush_taken(kept, NAME, "flat-1").stroke(second).recipe.after == ""
    backwards = with_stroke(kept, replace(kept.stroke(NAME), recipe=replace(kept.stroke(NAME).recipe, after=second)))
    with pytest.raises(NoSuchLinkError, match="not an earlier stroke"):
        check_references(backwards)
    other = with_stroke(kept, replace(kept.stroke(NAME), brush="flat-1"))
    with pytest.raises(NoSuchLinkError, match="another brush"):
        check_references(other)


# --- wear over a plan ---


def test_counting_loads_wears_the_cake_and_says_so():
    plan = with_load_counted(PLAN, NAME, 3)
    worn, fresh = plan.cake("dahlia-wrist"), PLAN.cake("dahlia-wrist")
    assert all(a.hollow_mm >= b.hollow_mm for a, b in zip(worn.stripes, fresh.stripes, strict=True))
    assert max(stripe.hollow_mm for stripe in worn.stripes) > 0
    many = faces_left(PLAN, "dahlia-wrist")
    again = with_load_counted(PLAN, NAME, 50)
    assert min(faces_left(again, "dahlia-wrist")) < min(many)
    stripes = list(fresh.stripes)
    stripes[1] = replace(stripes[1], hollow_mm=fresh.depth_mm)
    empty = replace(
        PLAN, cakes=tuple(replace(c, stripes=tuple(stripes)) if c.id == fresh.id else c for c in PLAN.cakes)
    )
    assert any("worn out" in one.text for one in problems_of(empty, NAME))
    assert not [one for one in problems(PLAN) if "worn out" in one.text]


def test_too_wet_and_paint_not_for_skin_are_said():
    pickup = replace(PLAN.stroke(NAME).recipe.pickups[0], wetness=Wetness.TOO_WET)
    plan = loaded(PLAN, pickup)
    plan = replace(plan, paints=tuple(replace(paint, skin=False) for paint in plan.paints))
    words = " ".join(one.text for one in problems_of(plan, NAME))
    assert "Too wet" in words
    assert "its label decides" in words


# --- ladder ---


def test_a_ladder_of_strokes():
    plan = replace(PLAN, cakes=tuple(replace(c, ombre=True) if c.id == "tide-rainbow" else c for c in PLAN.cakes))
    ladder, brush = plan_ladder(plan, "tide-rainbow", 4, "flat-1-2")
    assert brush.id == "flat-1-2"
    made = with_ladder(plan, NAME, 0, ladder.offsets_mm)
    assert [s.recipe.pickups[0].offset_mm for s in made.strokes] == list(ladder.offsets_mm)
    assert len({s.id for s in made.strokes}) == 4
    with pytest.raises(NoLadderError):
        plan_ladder(plan, "dahlia-wrist", 3, "sponge-block")
    assert Stripe("x", 1.0).dirt_mm3 == 0


def test_another_way_keeps_the_paint_that_is_on_the_brush(demo):
    """A white brush dipped at its tip is white still, whatever stands first among the plan's paints."""
    round_brush = next(brush for brush in demo.brushes if brush.kind.dips)
    stroke = replace(
        demo.stroke("dahlia-petal"),
        brush=round_brush.id,
        recipe=Recipe((PickUp(pan=(Portion("foam-white", 1.0),), passes=12),)),
    )
    plan = with_stroke(demo, stroke)
    kinds = {kind.key: kind for kind in LOAD_KINDS}
    for key, own in (("tip", 0), ("side", 0), ("single", 0), ("halves", 1), ("mixed", 1)):
        pickups = kinds[key].edit(plan, stroke).stroke(stroke.id).recipe.pickups
        paints = [portion.paint for pickup in pickups for portion in pickup.pan]
        assert paints[own] == "foam-white"
        assert len(set(paints)) == (1 if key == "single" else 2)
    window = demo.stroke("dahlia-petal")
    ends = kinds["halves"].edit(demo, window).stroke(window.id).recipe.pan_paints
    share = demo.edge(window.id).share
    assert ends == tuple(demo.edge(window.id).paints[int(share[:, at].argmax())] for at in (2, -5))
