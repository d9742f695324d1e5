"""Finding a load. The oracle is a plain search with true CIEDE2000 over every place."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest
from tests.solve.conftest import FLAT, PAINTS, SKIN, random_cake, random_wish, tried

from pennello.aim.comparison import compare
from pennello.aim.reasons import reason_of
from pennello.aim.wish import Stop, Wanted
from pennello.design.edits import with_stroke
from pennello.design.wishing import with_load_wished
from pennello.errors import PennelloError
from pennello.kit.applicator import GradientAxis
from pennello.kit.cake import Cake, Portion, Stripe
from pennello.kit.paint import Near, optics
from pennello.kit.shelf import Keeping, Kit, KitItem
from pennello.load.recipe import PickUp, Recipe, Way
from pennello.session.kit import shipped_kit
from pennello.solve.candidates import composition_of, exact_shares, offsets_of, search
from pennello.solve.coats import coat_lab, laid_um
from pennello.solve.find_load import find_load
from pennello.solve.finds import Filters
from pennello.solve.for_plan import with_find
from pennello.solve.kit import at_hand


def brute(cakes, brushes):
    """Return the least mean dE00 of all places, one by one."""
    best = np.inf
    for cake in cakes:
        names, composition = composition_of(cake)
        constants = optics(tuple(PAINTS[name] for name in names))
        for one in brushes:
            for drift in one.drifts_mm:
                for offset in offsets_of(cake, one.brush):
                    met = exact_shares(cake, one, [(float(offset), drift)])[0] @ composition
                    for flipped in (met, met[::-1]):
                        lab = coat_lab(flipped, constants, one.coat_um, SKIN)
                        best = min(best, float(one.goal.difference(lab).mean()))
    return best


@pytest.mark.parametrize("seed", range(20))
def test_search_equals_the_plain_one(seed):
    rng = np.random.default_rng(seed)
    cakes, brushes = [random_cake(rng, f"c{n}") for n in range(2)], tried(random_wish(rng), 16.0, 19.05)
    found = search(cakes, brushes, PAINTS, SKIN)
    assert found.found[0].mean_de00 == pytest.approx(brute(cakes, brushes), abs=0.02)
    assert found.searched == sum(
        2 * len(one.drifts_mm) * len(offsets_of(cake, one.brush)) for cake in cakes for one in brushes
    )
    again = search(cakes, brushes, PAINTS, SKIN, threads=1)
    assert [one.offset_mm for one in again.found] == [one.offset_mm for one in found.found]


def test_best_offset_of_one_boundary_is_known(two_tone_plan):
    # the boundary lies 25 mm from the wall and is wanted at 0.3 of 19.05 mm: the brush begins 5.715 mm before it
    board = find_load(two_tone_plan, "two", at_hand(two_tone_plan), Filters(one_visit=True, keep_brush=True))
    best = board.finds[0]
    assert best.first.offset_mm in (19.0, 19.5)
    assert best.recipe.pickups[0].offset_mm == pytest.approx(25 - 0.3 * FLAT.width_mm, abs=0.15)
    assert best.state.value == "holds"
    assert not best.first.flip


def test_symmetric_wish_ranks_both_ways_alike():
    cake = Cake("c", "C", (Stripe("foam-white", 10.0), Stripe("poppy-red", 10.0), Stripe("foam-white", 10.0)))
    wanted = Wanted((Stop(paint="foam-white", to_u=0.3), Stop(paint="poppy-red", to_u=0.7), Stop(paint="foam-white")))
    found = search([cake], tried(wanted), PAINTS, SKIN).found
    best = [one.mean_de00 for one in found[:4]]
    flips = {one.flip for one in found if one.mean_de00 == pytest.approx(best[0], abs=1e-9)}
    assert flips == {False, True}


def test_more_kit_is_never_worse():
    rng = np.random.default_rng(5)
    wanted, cakes = random_wish(rng), [random_cake(rng, f"c{n}") for n in range(6)]
    best = [search(cakes[:count], tried(wanted), PAINTS, SKIN).found[0].mean_de00 for count in (1, 2, 4, 6)]
    assert best == sorted(best, reverse=True)


def test_a_touch_helps_where_one_visit_cannot(two_tone_plan):
    cake = replace(two_tone_plan.cakes[0], stripes=(*two_tone_plan.cakes[0].stripes, Stripe("deep-channel", 25.0)))
    stroke = two_tone_plan.strokes[0]
    wanted = Wanted((Stop(paint="foam-white", to_u=0.85), Stop(paint="deep-channel")))
    plan = replace(two_tone_plan, cakes=(cake,), strokes=(replace(stroke, wanted=wanted),))
    alone = find_load(plan, "two", at_hand(plan), Filters(one_visit=True), tries=0).finds[0]
    touched = find_load(plan, "two", at_hand(plan), tries=0).finds[0]
    assert len(touched.recipe.pickups) == 2
    assert touched.mean_de00 < alone.mean_de00 - 1
    assert "a second visit" in touched.costs


def test_what_is_taken_lays_what_was_said(demo):
    find = find_load(demo, "beetle-scale", at_hand(demo), top=3, tries=20).finds[0]
    plan = with_find(demo, "beetle-scale", find, at_hand(demo).by_name)
    attempt = plan.attempt("beetle-scale")
    assert attempt.recipe == find.recipe
    assert attempt.lay(2.0).film.thickness_um == pytest.approx(find.laid.film.thickness_um)
    assert 0 <= find.holds_share <= 1
    assert reason_of(find.seen, find.attempt, find.laid) == "as wished"


def test_reasons_name_rim_and_paint(demo):
    board = find_load(demo, "poppy-petal", at_hand(demo), top=4, tries=0)
    told = {reason_of(find.seen, find.attempt, find.laid) for find in board.finds}
    assert any("you asked for" in text or text.startswith("no ") for text in told)


# --- what may be used ---


def kit_of(*things, keeping=None):
    return Kit().with_items(KitItem(thing, keeping or Keeping()) for thing in things)


def test_retired_expired_worn_and_banned_are_left_out(demo):
    cake = Cake("mine", "Mine", (Stripe("foam-white", 15.0), Stripe("poppy-red", 15.0)))
    bare = replace(demo, cakes=(), strokes=())
    today = date(2026, 11, 25)
    assert [one.id for one in at_hand(bare, kit_of(cake), today).cakes] == ["mine"]
    for keeping in (Keeping(retired=True), Keeping(expires=date(2026, 1, 1))):
        assert not at_hand(bare, kit_of(cake, keeping=keeping), today).cakes
    worn = replace(cake, stripes=tuple(replace(stripe, hollow_mm=8.0) for stripe in cake.stripes))
    assert "worn out" in at_hand(bare, kit_of(worn), today).left_out[0]
    neon = [paint.id for paint in demo.paints if not paint.eye_area]
    if neon:
        loud = replace(cake, stripes=(Stripe(neon[0], 15.0), Stripe("poppy-red", 15.0)))
        assert at_hand(bare, kit_of(loud), today).cakes
        here = at_hand(bare, kit_of(loud), today, Near.EYE)
        assert not here.cakes
        assert "label does not allow the eye area" in here.left_out[0]


@pytest.mark.parametrize(
    ("cakes", "words"),
    [
        ((), "no cake that may be used"),
        ((Cake("s", "S", (Stripe("foam-white", 3.0), Stripe("poppy-red", 3.0))),), "No cake here is as wide"),
    ],
    ids=["none", "too narrow"],
)
def test_kits_that_cannot_give_a_sentence(two_tone_plan, cakes, words):
    stroke = two_tone_plan.strokes[0]
    own = Cake("own", "Own", (Stripe("foam-white", 25.0), Stripe("poppy-red", 25.0)))
    plan = replace(two_tone_plan, cakes=(own,), strokes=(with_cake_of(stroke, "own"),))
    here = replace(at_hand(plan), cakes=cakes)
    with pytest.raises(PennelloError, match=words):
        find_load(plan, "two", here)


def with_cake_of(stroke, cake):
    return replace(stroke, recipe=replace(stroke.recipe, pickups=(replace(stroke.recipe.pickups[0], cake=cake),)))


def test_alike_and_dark_kits_still_answer(two_tone_plan):
    same = Cake("same", "Same", (Stripe("peat-black", 15.0), Stripe("peat-black", 15.0)))
    plan = replace(two_tone_plan, cakes=(*two_tone_plan.cakes, same))
    board = find_load(plan, "two", at_hand(plan).only(["same"]), tries=10)
    assert board.finds[0].state.value == "misses"
    assert board.finds[0].holds_share == 0


def wished_for(plan, name, *pickups):
    """Return a plan in which a stroke has a load and wishes for what that lays, and the stroke without that load."""
    stroke = plan.stroke(name)
    plan = with_stroke(plan, replace(stroke, recipe=Recipe(pickups)))
    wished = with_load_wished(plan, name)
    first = replace(pickups[0], pan=(Portion("foam-white", 1.0),))
    last = replace(pickups[-1], pan=(Portion("foam-white", 1.0),))
    lost = replace(wished.stroke(name), recipe=Recipe((first, last)))
    return wished, with_stroke(wished, lost)


@pytest.mark.parametrize(
    ("tip", "belly", "depth"), [("samphire", "bladderwrack", 0.3), ("thrift-pink", "foam-white", 0.5)]
)
def test_a_dip_is_found_again(demo, tip, belly, depth):
    kit = shipped_kit()
    own = demo.stroke("kelp-leaf").recipe.pickups
    body, top = (replace(one, pan=(Portion(paint, 1.0),)) for one, paint in zip(own, (belly, tip), strict=True))
    wished, lost = wished_for(demo, "kelp-leaf", body, replace(top, part=(0.0, depth)))
    board = find_load(lost, "kelp-leaf", at_hand(lost, kit), tries=0)
    best = board.finds[0]
    assert best.recipe.pan_paints[0] == belly
    assert (belly, tip) in [find.recipe.pan_paints for find in board.finds]  # another tip may come as near
    assert best.recipe.pickups[-1].part[1] == pytest.approx(depth, abs=0.15)
    attempt = wished.attempt("kelp-leaf")
    assert best.mean_de00 < compare(attempt.lay(2.0), attempt).mean_de00 + 0.3
    taken = with_find(lost, "kelp-leaf", best, at_hand(lost, kit).by_name)
    assert taken.edge("kelp-leaf").axis is GradientAxis.ALONG
    single = find_load(lost, "kelp-leaf", at_hand(lost, kit), Filters(one_visit=True), tries=0)
    assert all(len(find.recipe.pickups) == 1 for find in single.finds)
    cake = next(cake for cake in demo.cakes if "bladderwrack" in cake.paints)
    on_cake = find_load(lost, "kelp-leaf", at_hand(lost).only([cake.id]), tries=0)
    assert {pickup.cake for find in on_cake.finds for pickup in find.recipe.pickups} == {cake.id}


def test_a_side_load_is_found_again(two_tone_plan):
    body = PickUp(pan=(Portion("mussel-blue", 1.0),), passes=12, way=Way.ROLL)
    side = PickUp(pan=(Portion("lantern-yellow", 1.0),), passes=4, way=Way.SIDE, part=(0.4, 1.0))
    wished, lost = wished_for(two_tone_plan, "two", body, side)
    best = find_load(lost, "two", at_hand(lost), tries=10).finds[0]
    known = wished.attempt("two")
    assert best.mean_de00 < compare(known.lay(2.0), known).mean_de00 + 0.3  # as near as the load that the wish is of
    assert best.recipe.pickups[-1].way is Way.SIDE
    assert best.recipe.pickups[-1].part[1] == 1.0
    nothing = replace(at_hand(lost), paints=lost.paints, gone=frozenset(paint.id for paint in lost.paints), cakes=())
    with pytest.raises(PennelloError, match="no paint at hand"):
        find_load(lost, "two", nothing)


def test_cancel_stops_it(two_tone_plan):
    class StopError(Exception):
        pass

    def stop(*_):
        raise StopError

    with pytest.raises(StopError):
        find_load(two_tone_plan, "two", at_hand(two_tone_plan), report=stop)


def test_coat_is_the_laid_volume_over_its_area(demo):
    attempt = demo.attempt("dahlia-petal")
    laid = attempt.lay(4.0)
    area = float(laid.film.coverage.sum()) / 16
    mean = laid.volumes.laid_mm3 / area * 1000
    solids = attempt.recipe.pickups[0].wetness.solids
    filled = 1 - np.exp(-attempt.recipe.pickups[0].passes / attempt.brush.fill_passes)
    assert laid_um(attempt.stroke, attempt.brush, attempt.axis, solids) * filled == pytest.approx(mean, rel=0.1)


def test_wish_that_changes_along_the_stroke_pulls_the_load_between(two_tone_plan):
    stroke = two_tone_plan.strokes[0]
    ends = replace(stroke.wanted, end=(Stop(paint="foam-white", to_u=0.6, blend_mm=2.0), Stop(paint="poppy-red")))
    plan = with_stroke(two_tone_plan, replace(stroke, wanted=ends))
    best = find_load(plan, "two", at_hand(plan), Filters(one_visit=True, keep_brush=True), tries=0).finds[0]
    assert 25 - 0.6 * FLAT.width_mm - 0.6 < best.recipe.pickups[0].offset_mm < 25 - 0.3 * FLAT.width_mm + 0.6
