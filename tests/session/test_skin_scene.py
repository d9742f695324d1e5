"""The plan on one skin: incremental laying gives the same film as laying everything, and lays less."""

import itertools
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from pennello.aim.comparison import compare
from pennello.aim.faults import find_faults, with_sound_mends
from pennello.colour.basis import small_basis
from pennello.design.clock import turns
from pennello.design.edits import mended, with_stroke
from pennello.design.scene import MOST_PIXELS, Carrying, fresh_film, lay_in_order, paint_all, pulls, skin_canvas
from pennello.design.soundness import check_plan
from pennello.errors import OutOfRangeError
from pennello.lay.drying import evaporation_um_s
from pennello.lay.engine import REFERENCE, kernel
from pennello.lay.families.catalogue import family
from pennello.lay.stroke import NibMode
from pennello.load.recipe import Recipe
from pennello.path.cubic import CubicPath
from pennello.session.jobs import CancelledError
from pennello.session.skin_scene import SkinScene


def nudged(plan, name, by=0.5):
    stroke = plan.stroke(name)
    points = tuple((x + by, y) for x, y in stroke.stroke.path.points_mm)
    return with_stroke(plan, replace(stroke, stroke=replace(stroke.stroke, path=CubicPath(points))))


def test_an_edit_lays_only_what_comes_after_it(demo):
    scene, doer = SkinScene(2.0), kernel()
    names = [stroke.id for stroke in demo.strokes]
    scene.show(demo, 6, doer)
    assert scene.laid == len(names)
    plan = nudged(demo, names[6], 0.1)
    before = scene.laid
    view = scene.show(plan, 6, doer)
    assert scene.laid - before == 2
    assert not view.changed.empty
    assert view.changed.right - view.changed.left < view.canvas.columns
    fresh = SkinScene(2.0).show(plan, 0, doer)
    assert view.canvas == fresh.canvas
    assert (view.picture == fresh.picture).all()
    again = scene.show(plan, 6, doer)
    assert again.changed.empty
    back = scene.show(demo, 6, doer)
    assert (back.picture == SkinScene(2.0).show(demo, 0, doer).picture).all()


def test_reference_and_kernel_show_the_same_skin(demo):
    short = replace(demo, strokes=demo.strokes[:3])
    one, two = (SkinScene(2.0).show(short, 0, doer).picture.astype(int) for doer in (REFERENCE, kernel()))
    assert np.percentile(np.abs(one - two), 99.5) <= 1


def test_two_threads_lay_the_same_film_as_one(demo):
    canvas = skin_canvas(demo, 2.0)
    keys = list(zip(pulls(demo, 2.0), (turn.start_s for turn in turns(demo)), strict=True))
    films = [fresh_film(demo, canvas) for _ in range(2)]
    lay_in_order(films[0], keys, Carrying(), kernel(), evaporation_um_s())
    carrying = Carrying()
    for one, at_s in keys:
        carrying.lay(films[1], one, at_s, kernel(), evaporation_um_s())
    for name in ("wet", "cover", "as_of_s", "body_um", "ground", "dry_um"):
        assert (getattr(films[0], name) == getattr(films[1], name)).all()


def test_time_stops_where_it_is_told(demo):
    times = turns(demo)
    assert all(a.end_s <= b.start_s for a, b in pairwise(times))
    some = paint_all(demo, 1.0, kernel(), times[2].start_s)
    everything = paint_all(demo, 1.0, kernel())
    assert 0 < some.volume_mm3() < everything.volume_mm3()
    later = with_stroke(demo, replace(demo.strokes[1], wait_s=60.0))
    assert turns(later)[1].start_s == times[1].start_s + 60


def test_huge_plans_are_laid_coarser(demo):
    far = nudged(demo, demo.strokes[0].id, 3000.0)
    canvas = skin_canvas(far, 8.0)
    assert canvas.rows * canvas.columns <= 1.1 * MOST_PIXELS
    assert canvas.px_per_mm < 8
    with pytest.raises(OutOfRangeError):
        skin_canvas(demo, 100)


def test_paint_taken_up_goes_on_with_the_leftover(demo):
    """A stroke that goes on with what crossed a wet one lays some of it."""
    first, second = demo.stroke("dahlia-petal"), demo.stroke("moth-wing")
    cross = replace(second, stroke=first.stroke, wait_s=0.0)
    third = replace(second, id="on", recipe=Recipe((), "moth-wing"), stroke=family("flick").stroke())
    plan = replace(demo, strokes=(first, cross, third))
    apart = replace(demo, strokes=(replace(first, stroke=demo.stroke("kelp-swoosh").stroke), cross, third))
    films = [paint_all(one, 2.0, kernel()) for one in (plan, apart)]
    assert films[0].wet.shape != films[1].wet.shape or not np.allclose(films[0].wet, films[1].wet)


# --- faults ---


def faults_of(demo, name, **changes):
    stroke = demo.stroke(name)
    plan = with_stroke(demo, replace(stroke, **changes))
    attempt = plan.attempt(name)
    laid = attempt.lay(2.0, small_basis(8))
    return {fault.code: fault for fault in find_faults(laid, attempt, compare(laid, attempt))}


def test_a_curve_tighter_than_the_brush_is_found_and_mended(demo):
    tight = family("inverted-u").stroke(spread_mm=6, height_mm=6)
    found = faults_of(demo, "dahlia-petal", stroke=tight)["tight_curve"]
    assert "goes back" in found.text
    pivot, smaller = (rated.mend for rated in found.mends)
    assert "inner corner" in pivot.words
    assert pivot.stroke.nib.mode is NibMode.PIVOTING
    assert smaller.brush.width_mm < demo.brush("flat-3-4").width_mm
    wide = family("inverted-u").stroke(spread_mm=60, height_mm=40)
    assert "tight_curve" not in faults_of(demo, "dahlia-petal", stroke=wide)


def test_mends_that_bring_another_fault_are_not_offered(demo):
    offered = found = 0
    for spread in (5, 8, 12, 17, 24):
        way = family("inverted-u").stroke(spread_mm=spread, height_mm=0.7 * spread)
        plan = with_stroke(demo, replace(demo.stroke("dahlia-petal"), stroke=way))
        attempt = plan.attempt("dahlia-petal")
        laid = attempt.lay(2.0, small_basis(8))
        faults = find_faults(laid, attempt, compare(laid, attempt))
        found += sum(len(fault.mends) for fault in faults)
        offered += sum(len(fault.mends) for fault in with_sound_mends(faults, attempt, 2.0))
    assert 0 < offered < found


def test_a_mend_with_another_brush_is_applied_and_leaves_no_other_fault(demo):
    tight = replace(demo.stroke("dahlia-petal"), stroke=family("inverted-u").stroke(spread_mm=17, height_mm=12))
    plan = with_stroke(demo, tight)
    attempt = plan.attempt("dahlia-petal")
    laid = attempt.lay(2.0, small_basis(8))
    found = find_faults(laid, attempt, compare(laid, attempt))
    sound = with_sound_mends(found, attempt, 2.0)
    for fault in sound:
        for mend in (rated.mend for rated in fault.mends):
            after = mended(plan, "dahlia-petal", mend)
            check_plan(after)
            there = after.attempt("dahlia-petal")
            assert there.brush == mend.brush
            again = there.lay(2.0, small_basis(8))
            left = {one.code for one in find_faults(again, there, compare(again, there))}
            assert fault.code not in left
            assert left <= {one.code for one in found}
    smaller = next(rated.mend for fault in found for rated in fault.mends if rated.mend.kind == "brush")
    after = mended(plan, "dahlia-petal", smaller)
    assert after.brush(after.stroke("dahlia-petal").brush).width_mm == smaller.brush.width_mm
    middle = [
        p.stroke("dahlia-petal").recipe.pickups[0].offset_mm + p.attempt("dahlia-petal").brush.width_mm / 2
        for p in (plan, after)
    ]
    assert middle[0] == pytest.approx(middle[1], abs=0.01)


def test_other_faults(demo):
    petal = demo.stroke("poppy-petal")
    thick = replace(demo.brush(petal.brush), capacity_mm3_per_mm=30.0)  # a brush that floods the skin
    flooded = replace(demo, brushes=tuple(thick if one.id == thick.id else one for one in demo.brushes))
    assert "drip" in faults_of(flooded, "poppy-petal")
    assert "wrong_rim" in faults_of(demo, "beetle-scale")
    recipe = demo.stroke("dahlia-petal").recipe
    hanging = replace(recipe, pickups=(replace(recipe.pickups[0], offset_mm=-6.0),))
    assert "missed_stripe" in faults_of(demo, "dahlia-petal", recipe=hanging)
    assert faults_of(demo, "dahlia-petal") == {}


def test_wet_paint_below_is_measured(demo):
    """Over fresh paint a stroke is muddier than over dry paint; alone, and after a long wait, it is not."""
    below, above = demo.stroke("dahlia-petal"), demo.stroke("moth-wing")
    crossing = replace(above, stroke=below.stroke)
    scene = SkinScene(2.0)

    def muddied(wait_s):
        plan = replace(demo, strokes=(below, replace(crossing, wait_s=wait_s)))
        scene.show(plan, 1, kernel())
        return scene.muddied_de00(plan, 1)

    soon, later = muddied(0.0), muddied(5000.0)
    assert soon > 3
    assert later < 0.2
    alone = replace(demo, strokes=(below,))
    scene.show(alone, 0, kernel())
    assert scene.muddied_de00(alone, 0) == 0


@pytest.mark.parametrize("focus", [0, 5])
@pytest.mark.parametrize("most", [0, 3, 6])
@pytest.mark.parametrize("shown", [False, True])
def test_work_that_is_stopped_leaves_nothing_half_painted(demo, focus, most, shown):
    whole = SkinScene(2.0).show(demo, focus, kernel()).picture
    scene, asked = SkinScene(2.0), itertools.count()
    if shown:
        scene.show(nudged(nudged(demo, "kelp-swoosh"), "lantern-cheek"), focus, kernel())

    def stop():
        if next(asked) >= most:
            raise CancelledError

    with pytest.raises(CancelledError):
        scene.show(demo, focus, kernel(), check=stop)
    assert np.array_equal(scene.show(demo, focus, kernel()).picture, whole)
