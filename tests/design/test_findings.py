"""Every finding about a plan by its code: what brings it, and that it goes when that is mended."""

from dataclasses import replace

import pytest
from lantern_face import demo_plan

from pennello.aim.comparison import compare
from pennello.aim.faults import find_faults
from pennello.aim.verdict import judge
from pennello.caution.person import Person
from pennello.caution.rules import cautions
from pennello.design.edits import with_cake, with_paint, with_stroke
from pennello.design.findings import findings_by_chart, findings_of
from pennello.design.ordering import Priority, Rule
from pennello.design.wishing import with_load_wished
from pennello.finding import Code, Finding, Level, RatedMend
from pennello.kit.cake import Portion
from pennello.kit.paint import Finish, Near
from pennello.lay.stroke import Key
from pennello.load.recipe import Face, PickUp, Way, Wetness
from pennello.path.cubic import CubicPath, line

NAME = "dahlia-petal"


@pytest.fixture
def plan():
    return demo_plan()


def with_pickup(plan, **changes):
    """Return the plan with the petal's first pick-up changed."""
    stroke = plan.stroke(NAME)
    first, *rest = stroke.recipe.pickups
    recipe = replace(stroke.recipe, pickups=(replace(first, **changes), *rest))
    return with_stroke(plan, replace(stroke, recipe=recipe))


def with_way(plan, **changes):
    stroke = plan.stroke(NAME)
    return with_stroke(plan, replace(stroke, stroke=replace(stroke.stroke, **changes)))


def with_cake_changed(plan, **changes):
    """Return the plan with the first stripe of the petal's cake changed."""
    cake = plan.cake(plan.stroke(NAME).recipe.cakes[0])
    return with_cake(plan, replace(cake, stripes=tuple(replace(one, **changes) for one in cake.stripes)))


def with_finish(plan):
    paint = plan.paint(plan.edge(NAME).paints[0])
    return with_paint(plan, replace(paint, finish=Finish.PEARL))


CASES = {
    Code.WRONG_DIP: lambda plan: with_pickup(plan, way=Way.DIP),
    Code.NO_SECOND_FACE: lambda plan: with_pickup(plan, face=Face.BACK),
    Code.TOO_WET: lambda plan: with_pickup(plan, wetness=Wetness.TOO_WET),
    Code.HANGS_OVER: lambda plan: with_pickup(plan, offset_mm=-8.0),
    Code.RELOAD_BEYOND: lambda plan: with_way(plan, reload_mm=(4000.0,)),
    Code.NO_LENGTH: lambda plan: with_way(plan, path=CubicPath(((5.0, 5.0),) * 4)),
    Code.FINISH: with_finish,
    Code.WORN_OUT: lambda plan: with_cake_changed(plan, hollow_mm=8.0),
    Code.DIRTY: lambda plan: with_cake_changed(plan, dirt=(Portion("peat-black", 900.0),)),
}


@pytest.mark.parametrize("code", list(CASES), ids=lambda code: code.value)
def test_what_is_odd_about_a_load_or_way(plan, code):
    def here(of):
        return [one for one in findings_of(of) if one.code is code and NAME in one.place]

    assert here(plan) == []
    found = here(CASES[code](plan))
    assert found
    assert found[0].text.endswith(".")
    assert found[0].level is code.level


def test_labels_are_read_at_the_stroke(plan):
    paint = plan.paint(plan.edge(NAME).paints[0])
    near = with_stroke(plan, replace(plan.stroke(NAME), near=Near.EYE))
    banned = with_paint(near, replace(paint, eye_area=False))
    assert Code.LABEL in {one.code for one in findings_of(banned)}
    craft = with_paint(plan, replace(paint, skin=False))
    assert Code.NOT_FOR_SKIN in {one.code for one in findings_of(craft)}


def test_an_order_that_names_nothing_is_told(plan):
    ordering = replace(plan.ordering, rules=(Rule("gone", "away"),), priorities=(("nowhere", Priority.SKIP),))
    found = [one for one in findings_of(replace(plan, ordering=ordering)) if one.code is Code.NO_SUCH_PART_IN_ORDER]
    assert [one.place for one in found] == ["ordering.rules[0]", "ordering.rules[0]", "ordering.priorities.nowhere"]


def test_a_part_without_a_load_is_told(plan):
    first, *rest = plan.motifs
    bare = replace(plan, motifs=(replace(first, loads=first.loads[1:]), *rest))
    found = [one for one in findings_by_chart(bare)[first.chart] if one.code is Code.NO_LOAD]
    assert [one.piece for one in found] == [first.id]
    assert Code.NO_LOAD not in {one.code for one in findings_by_chart(plan)[first.chart]}


def test_what_is_laid_comes_out_otherwise_than_wished(plan):
    """Each with the change that brings it; the cause is confirmed by laying what mends it."""
    plan = with_load_wished(plan, NAME)
    stroke = plan.stroke(NAME)
    stray = PickUp(pan=(Portion("peat-black", 1.0),), passes=6, part=(0.3, 0.7))
    brought = {
        Code.TOO_DRY: with_pickup(plan, wetness=Wetness.NEARLY_DRY),
        Code.STRAY_PICKUP: with_stroke(
            plan, replace(stroke, recipe=replace(stroke.recipe, pickups=(*stroke.recipe.pickups, stray)))
        ),
    }
    for code, changed in brought.items():
        attempt = changed.attempt(NAME)
        laid = attempt.lay(2.0)
        seen = compare(laid, attempt)
        cause = next(one for one in judge(attempt, laid, seen).causes if one.code is code)
        mended = cause.mends[0].mend.mended(attempt)
        assert compare(mended.lay(2.0), mended).mean_de00 < seen.mean_de00
        assert cause.mends[0].mean_de00 == pytest.approx(compare(mended.lay(2.0), mended).mean_de00, abs=0.3)


def test_a_nearly_dry_load_breaks_up(plan):
    dry = with_way(with_pickup(plan, wetness=Wetness.NEARLY_DRY), path=line((0, 0), (400, 0)), pressures=(Key(0, 0.5),))
    for changed, there in ((plan, False), (dry, True)):
        attempt = changed.attempt(NAME)
        laid = attempt.lay(2.0)
        codes = {one.code for one in find_faults(laid, attempt, compare(laid, attempt))}
        assert (Code.STREAK in codes) is there


def test_what_was_not_asked_is_told(plan):
    found = {one.code: one for one in cautions(plan, Person())}
    for code in (
        Code.ASK_AGE,
        Code.ASK_ALLERGY,
        Code.ASK_ASTHMA,
        Code.ASK_ILL,
        Code.ASK_SKIN,
        Code.ASK_CONSENT,
    ):
        assert found[code].level is Level.ASK
        assert found[code].text.startswith("Ask ")
        assert found[code].reason


def test_a_finding_weighs_what_its_code_says_or_the_case():
    one = Finding(Code.SMALL_CHILD, "x")
    assert one.level is Level.STOP
    assert replace(one, weighs=Level.ASK).level is Level.ASK
    assert str(Code.SLID) == "slid"
    assert Code.SLID == "slid"  # type: ignore[comparison-overlap]
    assert RatedMend("m").mean_de00 is None
    assert len({code.value for code in Code}) == len({code.words for code in Code}) == len(Code)
