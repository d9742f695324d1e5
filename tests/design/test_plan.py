"""Plans and pure edits."""

from dataclasses import replace

import numpy as np
import pytest

from pennello.aim.attempt import Side
from pennello.aim.comparison import compare
from pennello.aim.mend import Recolour, SetReloads, Shorten, shortened
from pennello.colour.basis import FULL
from pennello.design import edits
from pennello.design.fresh import fresh_plan, with_fresh_stroke
from pennello.design.plan import Plan, Skin, skin_spectrum
from pennello.design.problems import problems
from pennello.design.soundness import DoubleNameError, check_references
from pennello.design.words import load_words, side_paints
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit import catalogue
from pennello.kit.cake import Cake, Stripe
from pennello.load.recipe import Before, PickUp, Recipe
from pennello.path.cubic import CubicPath, length_mm
from pennello.units import LengthUnit


def test_demo_holds_together(demo):
    check_references(demo)
    names = [stroke.name for stroke in demo.strokes]
    assert any("petal" in name for name in names)
    assert any("scale" in name for name in names)
    assert any("swoosh" in name for name in names)


def test_a_fresh_stroke_holds_and_an_empty_plan_gets_what_it_needs():
    for start in (fresh_plan(), Plan()):
        plan, name = with_fresh_stroke(start)
        check_references(plan)
        tried = plan.attempt(name)
        assert compare(tried.lay(), tried).mean_de00 < 2
    again, second = with_fresh_stroke(plan)
    assert second != name
    assert len(again.strokes) == 2


def test_references_are_checked_with_their_place(demo):
    lost = replace(demo, paints=demo.paints[1:])
    with pytest.raises(UnknownNameError, match=r"cakes\[\d+\].stripes\[\d\].paint"):
        check_references(lost)
    with pytest.raises(UnknownNameError, match=r"strokes\[0\].brush"):
        check_references(replace(demo, brushes=()))
    with pytest.raises(DoubleNameError, match="used twice"):
        check_references(replace(demo, cakes=(*demo.cakes, demo.cakes[0])))
    with pytest.raises(UnknownNameError, match="no stroke"):
        demo.attempt("nope")


def test_edits_leave_the_old_plan_alone(demo):
    copied, new = edits.duplicated_stroke(demo, "dahlia-petal")
    assert copied.stroke(new).recipe == demo.stroke("dahlia-petal").recipe
    assert len(demo.strokes) + 1 == len(copied.strokes)
    assert edits.without_stroke(copied, new) == demo
    cake = replace(demo.cake("poppy-brow"), name="Other")
    assert edits.with_cake(demo, cake).cake("poppy-brow").name == "Other"
    brush = replace(demo.brushes[0], release_mm=99.0)
    assert edits.with_brush(demo, brush).brushes[0].release_mm == 99
    assert edits.shipped_cake(demo, "poppy-brow") is demo


def test_an_end_takes_its_handles_along():
    path = CubicPath(((0, 0), (1, 1), (2, 2), (3, 3), (4, 4), (5, 5), (6, 6)))
    moved = edits.with_path_point(path, 3, 13, 3)
    assert moved.points_mm[2:5] == ((12, 2), (13, 3), (14, 4))
    assert edits.with_path_point(path, 1, 9, 9).points_mm[:3] == ((0, 0), (9, 9), (2, 2))


def test_mends_are_written_back(demo):
    plum = catalogue.paints()["sea-plum"]
    plan = edits.mended(demo, "poppy-petal", Recolour("recolour", "poppy-brow", 3, plum, "fill"))
    assert plan.cake("poppy-brow").stripes[3].paint == "sea-plum"
    check_references(plan)
    plan = edits.mended(plan, "kelp-swoosh", SetReloads("reload", (50.0, 100.0), "reload"))
    assert plan.stroke("kelp-swoosh").stroke.reload_mm == (50, 100)
    plan = edits.mended(plan, "kelp-swoosh", Shorten("shorten", 80.0, "end"))
    assert length_mm(plan.stroke("kelp-swoosh").stroke.path) == pytest.approx(80, abs=0.05)
    assert plan.stroke("kelp-swoosh").stroke.reload_mm == (50,)
    with pytest.raises(OutOfRangeError):
        shortened(demo.stroke("kelp-swoosh").stroke, 0)


def test_skins_by_angle_and_by_sample():
    assert "ITA 36" in Skin(36).name
    assert FULL.srgb(skin_spectrum(Skin(srgb="#c69c7b"))) == pytest.approx(np.array([0xC6, 0x9C, 0x7B]) / 255, abs=1e-6)
    with pytest.raises(OutOfRangeError):
        Skin(99)


def test_words_say_what_to_do(demo):
    words = " ".join(load_words(demo, demo.stroke("dahlia-petal")))
    assert "3/4 in" in words
    assert "corner A 2.1 mm from the left wall, over Foam White / Thrift Pink / Mallow Magenta / Sea Plum" in words
    assert "12 sweeps, creamy, drifting 0.8 mm" in words
    assert "Foam White outside" in words
    stroke = demo.stroke("dahlia-petal")
    flipped = edits.with_pickup(stroke, 0, replace(stroke.recipe.pickups[0], flip=True, before=Before.RINSE))
    assert side_paints(demo, replace(flipped, rim=Side.B))[0] == "Foam White"
    inches = " ".join(load_words(demo, flipped, LengthUnit.INCH))
    assert "Rinse the brush" in inches
    assert "0.083 in" in inches
    empty = replace(stroke, recipe=Recipe((PickUp("dahlia-wrist", 200.0),)))
    assert "over nothing" in " ".join(load_words(demo, empty))


def test_problems_name_their_place(demo):
    stroke = demo.stroke("dahlia-petal")
    off = edits.with_pickup(stroke, 0, replace(stroke.recipe.pickups[0], offset_mm=-5.0))
    late = replace(off, stroke=replace(off.stroke, reload_mm=(900.0,)))
    found = problems(replace(demo, strokes=(late,)))
    assert [one.place for one in found] == ["strokes.dahlia-petal.load.pickups[0]", "strokes.dahlia-petal.reload_mm"]
    assert "5 mm of Flat 3/4 in hangs over" in found[0].text
    assert any("metallic" in one.text for one in problems(demo))


def test_ids_stay_free():
    assert edits.free_id("a", []) == "a"
    assert edits.free_id("a-2", ["a-2", "a-3"]) == "a-4" or edits.free_id("a-2", ["a-2", "a-3"]).startswith("a")
    taken = []
    for _ in range(30):
        taken.append(edits.free_id("flat-1-2", taken))
    assert len(set(taken)) == 30


def test_values_compare_by_what_they_hold():
    one, two = (Cake("x", "X", (Stripe("a", 4.0), Stripe("b", 5.0))) for _ in range(2))
    assert one == two
    assert hash(one) == hash(two)
