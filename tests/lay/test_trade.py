"""Facts of the trade that the engine has to show by itself: all of it common practice, no published source.

Ranges are wide on purpose: they are what painters see, not what an instrument reads.
"""

from dataclasses import replace

import numpy as np
import pytest

from pennello.aim.attempt import Attempt
from pennello.aim.comparison import compare
from pennello.aim.faults import find_faults
from pennello.aim.wish import Stop, Wanted, edge_lab
from pennello.colour.basis import FULL, small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.kubelka_munk import film, hiding_reflectance, mix
from pennello.colour.skin import skin_reflectance
from pennello.design.plan import Plan, PlanStroke, Skin
from pennello.design.scene import Carrying, fresh_film, lay_in_order, pulls, skin_canvas
from pennello.kit import catalogue
from pennello.kit.cake import Portion
from pennello.kit.paint import optics
from pennello.lay.drying import DRY, evaporation_um_s, time_to
from pennello.lay.engine import kernel
from pennello.lay.families.catalogue import family
from pennello.lay.laying import lay
from pennello.lay.skin_film import Box
from pennello.lay.stroke import Nib, NibMode, Stroke, Wiggle
from pennello.load.edge import boundaries, load
from pennello.load.recipe import Before, PickUp, Recipe, Way, Wetness
from pennello.path.cubic import CubicPath, line

BRUSHES, CAKES, PAINTS = catalogue.brushes(), catalogue.cakes(), catalogue.paints()
SKIN = skin_reflectance(50)
LIGHT = skin_reflectance(55)


def mixed(**parts):
    """The mass of a mixture as L*, chroma, hue in degrees."""
    constants = optics(tuple(PAINTS[name.replace("_", "-")] for name in parts))
    lab = FULL.lab(hiding_reflectance(*mix(list(parts.values()), constants.k, constants.s)))
    return float(lab[0]), float(np.hypot(lab[1], lab[2])), float(np.degrees(np.arctan2(lab[2], lab[1])) % 360)


def coat(name, um, skin=LIGHT):
    constants = optics((PAINTS[name],))
    return FULL.lab(film(constants.k[0] * um, constants.s[0] * um, skin))


def masstone(name):
    constants = optics((PAINTS[name],))
    return FULL.lab(hiding_reflectance(constants.k, constants.s))[0]


def pan(name, **more):
    return Recipe((PickUp(pan=(Portion(name, 1.0),), passes=14, **more),))


def laid(recipe, stroke, tool, px=4.0):
    return lay(recipe, stroke, BRUSHES[tool], CAKES, PAINTS, px_per_mm=px, basis=small_basis(8), engine=kernel())


def film_of(*strokes, dry_after_s=40.0):
    """Lay (paint, stroke, tool, at_s) one after another on one skin; the film, and its picture as L*, a*, b*."""
    made = tuple(
        PlanStroke(f"s{n}", "", tool, pan(paint), stroke, Wanted((Stop(paint),)))
        for n, (paint, stroke, tool, _) in enumerate(strokes)
    )
    plan = Plan("t", strokes=made, paints=tuple(PAINTS.values()), brushes=tuple(BRUSHES.values()), skin=Skin(40.0))
    plan = replace(plan, dry_after_s=dry_after_s)
    canvas = skin_canvas(plan, 4.0)
    skin = fresh_film(plan, canvas)
    keys = list(zip(pulls(plan, 4.0), [at for *_, at in strokes], strict=True))
    lay_in_order(skin, keys, Carrying(), kernel(), evaporation_um_s(dry_after_s))
    from pennello.colour.lab import xyz_to_lab
    from pennello.colour.observer import rgb_to_xyz
    from pennello.colour.srgb import decode

    seen = kernel().picture(skin, Box(0, canvas.rows, 0, canvas.columns))
    return skin, xyz_to_lab(rgb_to_xyz(decode(seen / 255.0)))


def at(skin, x, y):
    column, row = skin.canvas.to_px(np.array([x, y]))
    return int(row), int(column)


def test_red_beside_white_gives_pinks():
    light, chroma, hue = mixed(foam_white=1, poppy_red=1)
    assert 50 < light < 75
    assert chroma > 40
    assert hue < 35 or hue > 345
    paler, *_ = mixed(foam_white=4, poppy_red=1)
    assert paler > light + 8


def test_metallic_fuchsia_beside_yellow_gives_an_orange():
    _, chroma, hue = mixed(mallow_magenta=1, lantern_yellow=2)
    assert 25 < hue < 75
    assert chroma > 40


def test_a_touch_of_green_mutes_pink_to_an_antique_tone():
    _, before, _ = mixed(thrift_pink=20)
    light, after, _ = mixed(thrift_pink=20, kelp_green=1)
    assert after < 0.75 * before
    assert light > 60


@pytest.mark.parametrize(("one", "other"), [("poppy_red", "kelp_green"), ("ember_orange", "mussel_blue")])
def test_complementary_neighbours_turn_to_mud(one, other):
    light, chroma, _ = mixed(**{one: 1, other: 1})
    assert chroma < 0.75 * min(mixed(**{one: 1})[1], mixed(**{other: 1})[1])
    assert light < 50


def test_white_sinks_into_a_wet_red_base_and_stands_on_a_dry_one():
    base, over = Stroke(line((0, 0), (60, 0))), Stroke(line((10, 0), (50, 0)))
    seen = []
    for when in (2.0, 120.0):
        skin, lab = film_of(("poppy-red", base, "flat-1", 0.0), ("foam-white", over, "round-5", when))
        seen.append(lab[at(skin, 30, 0)])
    assert ciede2000(seen[1], masstone("foam-white")) < 8
    assert ciede2000(seen[0], masstone("foam-white")) > 12
    assert seen[0][1] > seen[1][1] + 10  # pink


def test_a_dot_of_white_on_dry_red_reads_white():
    dot = family("dot").stroke()
    skin, lab = film_of(
        ("poppy-red", Stroke(line((-15, 0), (15, 0))), "flat-1", 0.0), ("foam-white", dot, "round-3", 300.0)
    )
    assert ciede2000(lab[at(skin, 0.0, 0.0)], masstone("foam-white")) <= 8


@pytest.mark.parametrize("name", ["dusk-violet", "sea-plum", "mussel-blue", "deep-channel"])
def test_dark_blues_and_violets_need_two_coats(name):
    one, two = (float(ciede2000(coat(name, um), masstone(name))) for um in (15, 30))
    assert 4 <= one <= 6.5
    assert 0.7 <= two <= 2.5


def test_a_black_is_strong_in_white():
    """Let-downs 1:9 and 1:1."""
    assert 55 <= mixed(foam_white=9, peat_black=1)[0] <= 66
    assert 30 <= mixed(foam_white=1, peat_black=1)[0] <= 37


def test_one_load_of_a_half_inch_flat_does_an_animal_of_six_dabbed_shapes():
    """Small dabbed places, ears to muzzle; the sixth is not pale yet."""
    recipe, left, thick = pan("heron-grey"), None, []
    for shape in range(6):
        dabs = Stroke(line((0, 0), (14, 0)), wiggle=Wiggle(5, 8.0))
        load_on = recipe if shape == 0 else Recipe((), after="before")
        made = lay(load_on, dabs, BRUSHES["flat-1-2"], CAKES, PAINTS, px_per_mm=3.0, basis=small_basis(8), residue=left)
        left = made.runs[-1].left_edge
        thick.append(float(np.median(made.film.thickness_um[made.film.coverage > 0.99])))
    assert thick[0] > 15
    assert thick[5] > 12  # a good coat is 20, pale begins well below


def test_a_loaded_flat_lays_27_um_early_and_18_late():
    made = laid(pan("poppy-red"), Stroke(line((0, 0), (60, 0))), "flat-3-4")
    row = made.film.canvas.rows // 2
    early, late = (made.film.thickness_um[at(made.film, x, 0)] for x in (3.0, 57.0))
    assert row
    assert 24 <= early <= 30
    assert 15 <= late <= 21


@pytest.mark.parametrize(
    ("tool", "low", "high"), [("sponge-petal", 8, 12), ("sponge-block", 8, 12), ("dauber-medium", 8, 12)]
)
def test_a_pressed_sponge_lays_8_to_12_um_and_is_painted_over_at_once(tool, low, high):
    press = Stroke(CubicPath(((0.0, 0.0),) * 4), Nib(NibMode.FIXED, 0.0))
    made = laid(pan("poppy-red", way=Way.PRESS, wetness=Wetness.DAMP), press, tool)
    um = float(np.median(made.even.thickness_um[made.even.coverage > 0.99]))
    assert 7 <= um <= 12
    assert 6 <= time_to(DRY, um, um * Wetness.DAMP.water, evaporation_um_s()) <= 20


def test_a_liner_draws_an_even_line_of_60_to_90_mm():
    made = laid(pan("foam-white"), Stroke(line((0, 0), (90, 0)), Nib(NibMode.FOLLOWING, 90.0)), "liner-1")
    um = [float(made.film.thickness_um[:, at(made.film, x, 0)[1]].max()) for x in (5, 60, 85)]
    assert um[1] > 0.7 * um[0]
    assert um[2] > 0.6 * um[0]


def test_too_wet_takes_longer_than_creamy_and_nearly_dry_is_dry_in_seconds():
    times = []
    for wetness in (Wetness.NEARLY_DRY, Wetness.CREAMY, Wetness.TOO_WET):
        um = 20 * wetness.solids
        times.append(time_to(DRY, um, um * wetness.water, evaporation_um_s()))
    assert times[0] < 8 < times[1] < times[2]


def test_a_few_last_sweeps_over_a_third_colour_mute_that_side_alone():
    """The third-colour touch: two sweeps over green with one edge."""
    window = PickUp("dahlia-wrist", offset_mm=2.0, passes=12)
    touch = PickUp(pan=(Portion("kelp-green", 1.0),), passes=2, part=(0.7, 1.0))
    plain, touched = (
        edge_lab(load(Recipe(pickups), CAKES, BRUSHES["flat-3-4"]), PAINTS, SKIN)
        for pickups in ((window,), (window, touch))
    )
    apart = ciede2000(plain, touched)
    assert apart[:40].max() < 1
    assert 3 < apart[50:].mean() < 40


def test_crisp_stripes_need_a_fresh_load():
    """Old paint in the brush and more drift blur the hand-over; a fresh load is crisp again."""
    brush = BRUSHES["flat-3-4"]
    crisp = load(Recipe((PickUp("dahlia-wrist", offset_mm=2.0, passes=12, drift_mm=0.5),)), CAKES, brush)
    loose = load(Recipe((PickUp("dahlia-wrist", offset_mm=2.0, passes=12, drift_mm=2.0),)), CAKES, brush)
    widths = [np.mean([one.width_10_90_mm for one in boundaries(edge)]) for edge in (crisp, loose)]
    assert widths[1] > 2 * widths[0]


@pytest.mark.parametrize(("before", "found"), [(Before.RINSE, True), (Before.RINSE_TWICE, False)])
def test_old_black_in_the_root_bleeds_out_under_hard_pressure(before, found):
    brush = BRUSHES["flat-3-4"]
    black = load(pan("peat-black"), CAKES, brush)
    white = PickUp(pan=(Portion("foam-white", 1.0),), passes=14, before=before)
    attempt = Attempt(
        Recipe((white,), after="x"),
        Stroke(line((0, 0), (40, 0)), pressure=1.0),
        brush,
        CAKES,
        PAINTS,
        Wanted((Stop("foam-white"),)),
        SKIN,
        residue=black,
    )
    made = attempt.lay(3.0, small_basis(8))
    faults = {fault.code: fault for fault in find_faults(made, attempt, compare(made, attempt))}
    assert ("old_paint" in faults) is found
    soft = replace(attempt, stroke=replace(attempt.stroke, pressure=0.4))
    gentle = soft.lay(3.0, small_basis(8))
    assert "old_paint" not in {fault.code for fault in find_faults(gentle, soft, compare(gentle, soft))}
    if found:
        (mend,) = (rated.mend for rated in faults["old_paint"].mends)  # type: ignore[index]
        mended = mend.mended(attempt)
        again = mended.lay(3.0, small_basis(8))
        assert "old_paint" not in {one.code for one in find_faults(again, mended, compare(again, mended))}
