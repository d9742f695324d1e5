"""Parts of a design: what they hold, how they nest, their edits, and that files keep them."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.design.holds import hold_of
from pennello.design.on_chart import broken_apart, mirrored_twin, pieces_on, repeated, with_new_motif
from pennello.design.own import own_of, with_own
from pennello.design.part import Habit, PlanPart
from pennello.design.part_edits import (
    PartProblemError,
    all_placed_before,
    block_of,
    copied,
    mirrored_part,
    painted_before,
    part_in,
    placed_before,
    put_in,
    recoloured,
    short_form,
    twinned,
    with_new_part,
    with_new_piece,
    with_part,
    without_part,
    without_seen,
)
from pennello.design.parts import habit_of, line_of, listed, names_of, pieces_in, together_with, unit_of
from pennello.design.plan import Plan
from pennello.design.soundness import NoSuchLinkError, check_plan
from pennello.errors import OutOfRangeError, PennelloError, UnknownNameError
from pennello.files.plan_json import parse_plan, plan_bytes
from pennello.lay.families.hold import Hold
from pennello.motif.place import Place
from pennello.path.cubic import line


@pytest.fixture(scope="module")
def five(demo):
    """Five pieces on a face: a to e."""
    plan = demo
    for number, name in enumerate("abcde"):
        plan, new = with_new_piece(plan, "beetle-scale", line((0, 12 * number), (14, 12 * number)), name=name)
        assert new == name
    return plan


def order(plan):
    return [one.id for one in plan.motifs]


def test_a_part_holds_pieces_and_parts(five):
    plan, rose = with_new_part(five, "The rose!", ["a", "b"])
    plan, inner = with_new_part(plan, "Middle", ["c"], within=rose)
    assert (rose, inner) == ("the-rose", "middle")
    assert [one.id for one in pieces_in(plan, rose)] == ["a", "b", "c"]
    assert [part.id for part in line_of(plan, "middle")] == ["middle", "the-rose"]
    assert names_of(plan, plan.motifs[2]) == {"c", "middle", "the-rose"}
    assert together_with(plan, "a") == {"a", "b"}
    assert [(deep, one.id) for deep, one in listed(plan)] == [
        (0, "the-rose"),
        (1, "a"),
        (1, "b"),
        (1, "middle"),
        (2, "c"),
        (0, "d"),
        (0, "e"),
    ]
    check_plan(plan)
    assert parse_plan(plan_bytes(plan), "x") == plan


def test_the_outermost_part_in_one_go_is_the_unit(five):
    plan, rose = with_new_part(five, "Rose", ["a"])
    plan, inner = with_new_part(plan, "Middle", ["b"], within=rose)
    assert [unit_of(plan, one) for one in plan.motifs] == ["rose", "middle", "c", "d", "e"]
    whole = with_part(plan, replace(part_in(plan, rose), habit=Habit.ONE_GO))
    assert unit_of(whole, whole.motifs[1]) == "rose"
    dry = with_part(whole, replace(part_in(whole, inner), habit=Habit.DRY))
    assert [habit_of(dry, one) for one in dry.motifs[:3]] == [Habit.ONE_GO, Habit.DRY, Habit.USUAL]


def test_pieces_of_a_part_are_painted_together_where_its_first_is(five):
    plan, name = with_new_part(five, "Ends", ["a", "e"])
    assert order(plan) == ["a", "e", "b", "c", "d"]
    assert order(painted_before(plan, name, "d")) == ["b", "c", "a", "e", "d"]
    assert order(painted_before(plan, name, "")) == ["b", "c", "d", "a", "e"]
    assert order(painted_before(plan, "c", name)) == ["c", "a", "e", "b", "d"]
    assert order(painted_before(plan, name, "a")) == order(plan), "not before itself"
    assert order(put_in(plan, ["c"], name)) == ["a", "e", "c", "b", "d"]


def test_a_piece_comes_last_of_a_part_or_of_all(five):
    plan, name = with_new_part(five, "Ends", ["a", "e"])
    assert order(placed_before(plan, "a", "", name)) == ["e", "a", "b", "c", "d"]
    assert order(all_placed_before(plan, ["b", "d"], "a", name)) == ["b", "d", "a", "e", "c"]
    assert order(all_placed_before(plan, ["b", "a"], "a", name)) == ["b", "a", "e", "c", "d"], (
        "before what follows them"
    )
    assert order(all_placed_before(plan, ["a", "e"], "e", name)) == ["a", "e", "b", "c", "d"]
    assert order(placed_before(plan, "a", "", "")) == ["e", "b", "c", "d", "a"]
    plan, inner = with_new_part(plan, "Middle", ["c"], within=name)
    inside = placed_before(plan, "d", "c", inner)
    assert order(inside) == ["a", "e", "d", "c", "b"], "parts stay together"
    assert order(placed_before(inside, inner, "e", name)) == ["a", "d", "c", "e", "b"]
    with pytest.raises(PennelloError, match="within itself"):
        placed_before(plan, name, "", inner)


def test_no_piece_gets_the_id_of_a_part(five):
    """A rule or a command names a part or a piece: `rose` may not be both."""
    plan, rose = with_new_part(five, "Petal ring", ["a"])
    assert rose == "petal-ring"
    plan, piece = with_new_motif(plan, "petal-ring", "face", Place())
    plan, _ = with_new_part(plan, "Petal ring 2", [piece])
    plan = broken_apart(plan, piece)
    plan = repeated(plan, "a", line((0.0, 0.0), (40.0, 0.0)), 3)
    own = own_of(plan, [rose], "Petal ring 3")
    plan, _ = with_own(plan, own, "face", Place(5.0, 5.0))
    plan, _ = mirrored_twin(plan, plan.motifs[0].id)
    ids = plan.ids_in_design
    assert len(set(ids)) == len(ids)
    assert len(own.parts.motifs) == 3, "a part that is named comes whole, and nothing of another"
    with pytest.raises(OutOfRangeError, match="length of the name of your own motif is 201"):
        own_of(plan, [rose], "n" * 201)


def test_a_part_cannot_lie_within_itself(five):
    plan, one = with_new_part(five, "One", ["a"])
    plan, two = with_new_part(plan, "Two", ["b"], within=one)
    for outer in (one, two):
        with pytest.raises(PartProblemError, match="within itself"):
            with_part(plan, replace(part_in(plan, one), within=outer))
    with pytest.raises(UnknownNameError):
        with_new_part(plan, "Three", [], within="no-such")
    with pytest.raises(UnknownNameError):
        with_new_part(plan, "Three", ["no-such"])
    looped = replace(plan, parts=(PlanPart("x", "X", "y"), PlanPart("y", "Y", "x")))
    with pytest.raises(NoSuchLinkError, match="within itself"):
        check_plan(looped)
    lost = replace(plan, motifs=(replace(plan.motifs[0], part="gone"),))
    with pytest.raises(UnknownNameError, match="part"):
        check_plan(lost)


def test_a_part_is_let_go_or_taken_away_with_all_of_it(five):
    plan, one = with_new_part(five, "One", ["a", "b"])
    plan, two = with_new_part(plan, "Two", ["c"], within=one)
    free = without_part(plan, one)
    assert [part.id for part in free.parts] == [two]
    assert [piece.part for piece in free.motifs[:3]] == ["", "", two]
    gone = without_part(plan, one, pieces=True)
    assert (gone.parts, order(gone)) == ((), ["d", "e"])


def test_copies_mirrors_twins_and_other_loads(five):
    plan, one = with_new_part(five, "One", ["a", "b"])
    plan, _ = with_new_part(plan, "In", ["b"], within=one)
    more, new = copied(plan, one, by=Place(5.0, 0.0))
    assert new == "one-2"
    assert [part.within for part in more.parts] == ["", "one", "", "one-2"]
    assert [piece.place.x_mm for piece in pieces_in(more, new)] == [5.0, 5.0]
    other, alone = copied(plan, "c", "forearm")
    assert (other.motifs[-1].chart, other.motifs[-1].part, alone) == ("forearm", "", "c-2")
    there = [one.stroke.path.points_mm for one in pieces_on(mirrored_part(plan, one), "face")][:2]
    here = [one.stroke.path.points_mm for one in pieces_on(plan, "face")][:2]
    assert [[(-x, y) for x, y in path] for path in there] == [[pytest.approx(at) for at in path] for path in here]
    assert all(piece.twin for piece in pieces_in(twinned(plan, one, on=True), one))
    changed = recoloured(plan, one, {"beetle-scale": "dahlia-petal"})
    assert [piece.load_of["stroke"] for piece in changed.motifs] == ["dahlia-petal"] * 2 + ["beetle-scale"] * 3
    with pytest.raises(UnknownNameError):
        recoloured(plan, one, {"beetle-scale": "no-such"})
    arm, name = with_new_part(replace(plan, motifs=(replace(plan.motifs[0], chart="forearm"),), parts=()), "Arm", ["a"])
    with pytest.raises(PartProblemError, match="no midline"):
        mirrored_part(arm, name)


def test_a_look_without_some_and_the_short_form(five):
    plan, one = with_new_part(five, "One", ["a", "b"])
    assert order(without_seen(plan, {one, "d"})) == ["c", "e"]
    assert without_seen(plan, ()) is plan
    short = with_part(plan, replace(part_in(plan, one), long_only=True))
    assert order(short_form(short)) == ["c", "d", "e"]
    with pytest.raises(PennelloError):
        block_of(plan, "no-such")


def test_a_motif_that_is_broken_apart_becomes_a_part(demo):
    plan, name = with_new_motif(demo, "petal-ring", "face", Place(), "beetle-scale")
    apart = broken_apart(plan, name)
    assert [one.name for one in apart.parts] == ["Petal ring"]
    assert {one.part for one in apart.motifs} == {apart.parts[0].id}
    rose, name = with_new_motif(demo, "rose-open", "face", Place(), "beetle-scale")
    assert broken_apart(rose, name).parts[0].habit in (Habit.USUAL, Habit.ONE_GO)


def test_a_piece_is_held_as_it_is_asked_for(demo):
    plan, name = with_new_piece(demo, "beetle-scale", line((0, 0), (20, -5)), "face", Hold.HEEL, "A petal")
    made = plan.motifs[-1]
    assert (made.id, name) == ("a-petal", "a-petal")
    assert hold_of(made.way) is Hold.HEEL
    assert made.way.path.points_mm[-1] == (20, -5)
    with pytest.raises(UnknownNameError):
        with_new_piece(demo, "no-such", line((0, 0), (20, -5)))
    with pytest.raises(UnknownNameError):
        with_new_piece(demo, "beetle-scale", line((0, 0), (20, -5)), "tail")


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.sampled_from("abcde"), st.sampled_from(["p", "q", ""])), max_size=8), st.data())
def test_whatever_is_dragged_nothing_is_lost(five, moves, data):
    plan: Plan = replace(five, parts=(PlanPart("p", "P"), PlanPart("q", "Q")))
    for piece, part in moves:
        plan = put_in(plan, [piece], part)
        other = data.draw(st.sampled_from(["a", "b", "c", "d", "e", "p", "q", ""]))
        plan = painted_before(plan, piece, other)
    assert sorted(order(plan)) == list("abcde")
    assert {one.id for _, one in listed(plan)} == set("abcde") | {"p", "q"}
    check_plan(plan)
    assert parse_plan(plan_bytes(plan), "x") == plan


def test_fields_of_loads_are_kept_in_their_range(demo):
    with pytest.raises(OutOfRangeError, match="strokes of"):
        replace(demo.strokes[0], reload_after=0)
