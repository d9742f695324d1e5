"""Visits to the paint: how long a load lasts, who goes on with it, who is loaded anew."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.aim.comparison import compare
from pennello.colour.basis import small_basis
from pennello.design.load_edits import (
    LoadProblemError,
    followers,
    habit_in,
    reloading,
    used_by,
    with_copy_of,
    with_habit,
    without_load,
    words_of,
)
from pennello.design.on_chart import laid_stroke
from pennello.design.part_edits import with_new_piece
from pennello.design.plan import Reload
from pennello.design.scene import paint_all
from pennello.design.visits import Filling, ToLay, filled, from_one_load, lasting, paints_of, share_of, whole_load
from pennello.errors import OutOfRangeError
from pennello.lay.engine import kernel
from pennello.load.recipe import Face, Recipe
from pennello.motif.place import Place
from pennello.path.cubic import line

WAY = line((0, 0), (30, 0))


def strokes(demo, load, count):
    return [ToLay(f"{load}.{n}", load, replace(demo.stroke(load).stroke, path=WAY)) for n in range(count)]


def anew(demo, asked):
    return [bool(recipe.pickups) for recipe in filled(demo, asked)]


def test_a_load_lasts_until_the_film_runs_pale(demo):
    """Against the film itself, one after another: the first that runs pale is one more than it lasts for."""
    for name in ("beetle-scale", "plume-eye", "kelp-leaf"):
        attempt, residue, count = demo.attempt(name), None, 0
        while count < 12:
            tried = attempt if count == 0 else replace(attempt, recipe=Recipe((), after=name), residue=residue)
            laid = tried.lay(1.0, small_basis(8))
            if compare(laid, tried).pale_from_mm is not None:
                break
            residue, count = laid.runs[-1].left_edge, count + 1
        assert from_one_load(demo, name) == count
        assert lasting(demo, name, demo.stroke(name).stroke) == max(count, 1)


def test_where_a_stroke_lies_does_not_matter(demo):
    stroke = demo.stroke("beetle-scale").stroke
    moved = Place(31.0, -12.0, 77.0).stroke(stroke)
    assert lasting(demo, "beetle-scale", moved) == lasting(demo, "beetle-scale", stroke)


def test_habits(demo):
    load = "beetle-scale"
    lasts = lasting(demo, load, strokes(demo, load, 1)[0].stroke)
    pale = anew(demo, strokes(demo, load, 2 * lasts + 1))
    assert [number for number, one in enumerate(pale) if one] == [0, lasts, 2 * lasts]
    assert anew(with_habit(demo, {load}, Reload.EACH), strokes(demo, load, 3)) == [True] * 3
    assert anew(reloading(demo, {load}, 2), strokes(demo, load, 5)) == [True, False, True, False, True]
    assert anew(with_habit(demo, {load}, Reload.NEVER), strokes(demo, load, 30)) == [True] + [False] * 29


def test_another_brush_and_another_load_begin_anew(demo):
    scale, peak = strokes(demo, "beetle-scale", 2), strokes(demo, "plume-eye", 1)
    assert anew(demo, [scale[0], peak[0], scale[1]]) == [True, True, True]
    same_brush = replace(demo.stroke("beetle-scale"), id="other")
    plan = replace(demo, strokes=(*demo.strokes, same_brush))
    assert anew(plan, [scale[0], *strokes(plan, "other", 1), scale[1]]) == [True, True, True]
    assert anew(demo, scale) == [True, False]


def test_a_load_that_follows_another_finds_its_leftover(demo):
    follower = replace(demo.stroke("beetle-scale"), id="rest", recipe=Recipe((), after="beetle-scale"))
    plan = replace(demo, strokes=(*demo.strokes, follower))
    first, rest = strokes(plan, "beetle-scale", 1)[0], strokes(plan, "rest", 2)
    recipes = list(filled(plan, [first, *rest]))
    assert [one.after for one in recipes] == ["", first.id, rest[0].id]
    alone = next(filled(plan, rest[:1]))
    assert alone.pickups == demo.stroke("beetle-scale").recipe.pickups, "loaded as that one is where it was not laid"
    assert whole_load(plan, "rest").id == "beetle-scale"


def test_a_sponge_keeps_both_faces_when_it_is_turned_over(demo):
    front = demo.stroke("lantern-cheek")
    back = replace(front, id="back", recipe=replace(front.recipe, lays=Face.BACK))
    plan = with_habit(replace(demo, strokes=(*demo.strokes, back)), {front.id, "back"}, Reload.NEVER)
    one, two = strokes(plan, front.id, 2), strokes(plan, "back", 2)
    recipes = list(filled(plan, [one[0], two[0], one[1], two[1]]))
    assert [bool(recipe.pickups) for recipe in recipes] == [True, True, False, False]
    assert [recipe.after for recipe in recipes] == ["", one[0].id, two[0].id, one[1].id]


@settings(max_examples=25, deadline=None)
@given(st.lists(st.sampled_from(["beetle-scale", "plume-eye", "kelp-leaf"]), min_size=1, max_size=12))
def test_every_stroke_has_paint_and_no_load_is_asked_too_much(demo, loads):
    """For every order of loads: what goes on follows the stroke before it, and no visit is spent twice."""
    asked = [replace(strokes(demo, load, 1)[0], id=f"{load}.{n}") for n, load in enumerate(loads)]
    spent, before = 0.0, None
    for one, recipe in zip(asked, filled(demo, asked), strict=True):
        share = share_of(demo, demo.stroke(one.load), one.stroke)
        if recipe.pickups:
            spent = 0.0
        else:
            assert recipe.after == before.id
            assert before.load == one.load
        spent += share
        assert spent <= 1 + 1e-9
        before = one


def test_paint_is_conserved_over_a_load_that_is_shared(demo):
    """What the brush took up is on the skin and in the brush, stroke by stroke, by the film engine."""
    ways = [replace(demo.stroke("beetle-scale").stroke, path=line((0, 20 * n), (30, 20 * n))) for n in range(3)]
    asked = [ToLay(f"s{n}", "beetle-scale", way) for n, way in enumerate(ways)]
    made = [laid_stroke(demo, one, recipe) for one, recipe in zip(asked, filled(demo, asked), strict=True)]
    assert [bool(one.recipe.pickups) for one in made] == [True, False, False]
    plan = replace(demo, strokes=tuple(made), dry_after_s=1e4)
    film = paint_all(plan, 4.0, kernel())
    took = plan.edge("s0").total_mm3
    left = plan.leftover("s2").total_mm3
    assert film.volume_mm3() == pytest.approx(took - left, rel=0.02)


def test_loads_are_copied_named_and_taken_out(demo):
    plan, name = with_copy_of(demo, "beetle-scale", "Blue shells")
    assert (name, plan.stroke(name).name) == ("blue-shells", "Blue shells")
    used, piece = with_new_piece(plan, name, WAY)
    assert used_by(used, name) == (piece,)
    with pytest.raises(LoadProblemError, match="in use"):
        without_load(used, name)
    assert name not in [one.id for one in without_load(plan, name).strokes]
    rest = replace(plan.stroke(name), id="rest", recipe=Recipe((), after=name))
    assert followers(replace(plan, strokes=(*plan.strokes, rest)), name) == ("rest",)


def test_habits_in_words():
    assert habit_in("pale") == (Reload.PALE, 1)
    assert habit_in("1") == (Reload.EACH, 1)
    assert habit_in("12") == (Reload.COUNT, 12)
    assert words_of(*habit_in("12")) == "after 12 strokes"
    for bad in ("", "0", "41", "often", "-3", "1.5", "²", "9" * 5000):
        with pytest.raises(OutOfRangeError):
            habit_in(bad)


def test_what_a_load_can_reach(demo):
    recipe = demo.stroke("dahlia-petal").recipe
    stripes = {stripe.paint for stripe in demo.cake("dahlia-wrist").stripes}
    assert stripes <= paints_of(demo, recipe)
    filling = Filling(demo)
    assert filling.next(strokes(demo, "dahlia-petal", 1)[0]).pickups
    assert np.isfinite(share_of(demo, demo.stroke("dahlia-petal"), demo.stroke("dahlia-petal").stroke))
