"""Many strokes on one skin: stacking, mixing, pick-up, drying; the kernel held to the reference."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.colour.basis import small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.kubelka_munk import film as km_film
from pennello.colour.lab import xyz_to_lab
from pennello.colour.observer import rgb_to_xyz
from pennello.colour.srgb import decode
from pennello.errors import OutOfRangeError
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.contact import BINS
from pennello.lay.canvas import canvas_for
from pennello.lay.channels import depth_k, depth_s
from pennello.lay.deposit import drops_across
from pennello.lay.drying import (
    COAT_UM,
    DRY,
    MIXING,
    TACKY,
    Touch,
    evaporation_um_s,
    mixing_share,
    time_to,
    touch,
    wetness,
)
from pennello.lay.engine import REFERENCE, kernel
from pennello.lay.film import MOST_OPTICAL_DEPTH
from pennello.lay.laying import lay, pull
from pennello.lay.motion import motion_of
from pennello.lay.render import render as picture_of
from pennello.lay.skin_film import Box, Pulling, bare_skin, pull_over
from pennello.lay.stroke import Exit, Key, Nib, NibMode, Stroke
from pennello.path.cubic import CubicPath, line

BASIS = small_basis(8)
CHANNELS = 12
SKIN = np.full(36, 0.42)
FLAT = Applicator("flat", "Flat", 12.0)
ROUND = Applicator("round", "Round", 6.0, ApplicatorKind.ROUND, 6.0)
WHITE = np.array([0.002] * 8 + [0.03, 0.06, 1.0, 1.0])  # S falls with the wavelength
RED = np.array([0.16, 0.15, 0.16, 0.14, 0.05, 0.01, 0.008, 0.008, 0.05, 0.0, 1.0, 1.0])


def patch(px, reach_mm=40.0):
    """A patch of skin large enough for all strokes of a test."""
    wide = pull(Stroke(line((-30, -30), (60, 30))), replace(FLAT, width_mm=reach_mm), GradientAxis.ACROSS)
    return canvas_for(wide.track, px)


def given_mm3(stroke, paint, px=4.0):
    """What the brush gives on a stroke, by the law of the reservoir."""
    way, _, _, pulling = ready(stroke, paint, px)
    return float((pulling.contents[0, :, -1] * (1 - way.stretches[0].left)).sum())


def ready(stroke, paint, px=4.0, brush=FLAT, mm3=2.0):
    """A stroke whose bins hold the same paint, mm3 per mm of edge."""
    way = pull(stroke, brush, GradientAxis.ACROSS)
    contents = np.broadcast_to(paint * mm3 * way.track.width_mm / BINS, (len(way.stretches), BINS, CHANNELS))
    pulling = Pulling(
        contents,
        np.ones((len(way.stretches), BINS)),
        np.zeros((BINS, CHANNELS)),
        drops_across(way.track.width_mm / BINS, px),
    )
    return way, motion_of(way.track, way.stretches), canvas_for(way.track, px), pulling


def laid(engine, *strokes, px=4.0, canvas=None, uptake=None):
    """Lay (stroke, paint, at_s) one after another; return film and what the last took up."""
    made = [ready(stroke, paint, px) for stroke, paint, _ in strokes]
    film = bare_skin(canvas or made[0][2], BASIS, SKIN)
    carried = None
    for (way, motion, own, pulling), (_, _, at_s) in zip(made, strokes, strict=True):
        brought = pulling if uptake is None else replace(pulling, uptake=uptake)
        _, carried = pull_over(film, way.track, motion, own, brought, at_s, engine)
    return film, carried


def picture_lab(engine, film):
    seen = engine.picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns))
    return xyz_to_lab(rgb_to_xyz(decode(seen / 255.0)))


STRAIGHT = Stroke(line((0, 0), (30, 0)))
TURNED = Stroke(CubicPath(((5.0, 0.0),) * 4), Nib(NibMode.PIVOTING, 0, 170, 0.1))
ACROSS = Stroke(line((15, -12), (15, 12)))
CASES = {
    "dry": [(STRAIGHT, RED, 0.0)],
    "wet over wet": [(STRAIGHT, RED, 0.0), (ACROSS, WHITE, 4.0)],
    "tacky": [(STRAIGHT, RED, 0.0), (ACROSS, WHITE, 30.0), (STRAIGHT, WHITE, 60.0)],
    "over dry": [(STRAIGHT, RED, 0.0), (ACROSS, WHITE, 4000.0)],
    "pivot": [(TURNED, RED, 0.0), (STRAIGHT, WHITE, 2.0)],
}


# --- the kernel is the reference ---


@pytest.mark.parametrize("case", CASES)
@pytest.mark.parametrize("px", [2.0, 4.0])
def test_kernel_equals_reference(case, px):
    canvas = patch(px)
    (one, took), (other, took_too) = (laid(doer, *CASES[case], px=px, canvas=canvas) for doer in (kernel(), REFERENCE))
    apart = ciede2000(picture_lab(kernel(), one), picture_lab(REFERENCE, other))
    covered = other.wet[..., -1] + other.dry_um > 0.1
    assert np.percentile(apart[covered], 99) <= 0.1
    assert one.volume_mm3() == pytest.approx(other.volume_mm3(), rel=1e-6)
    assert took == pytest.approx(took_too, abs=1e-5)


def test_same_picture_on_one_thread_and_two():
    import numba

    film, _ = laid(kernel(), *CASES["wet over wet"])
    pictures = []
    for threads in (1, 2):
        numba.set_num_threads(min(threads, numba.config.NUMBA_NUM_THREADS))
        pictures.append(kernel().picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns)))
    assert (pictures[0] == pictures[1]).all()


@pytest.mark.parametrize("name", ["dahlia-petal", "plume-eye", "kelp-leaf", "lantern-cheek"])
def test_one_stroke_by_the_kernel_is_the_one_of_the_reference(demo, name):
    attempt = demo.attempt(name)
    args = (attempt.recipe, attempt.stroke, attempt.brush, attempt.cakes, attempt.paints)
    one, two = (lay(*args, px_per_mm=3.0, basis=BASIS, engine=doer) for doer in (kernel(), REFERENCE))
    assert one.film.thickness_um == pytest.approx(two.film.thickness_um, abs=0.02 * float(two.film.thickness_um.max()))
    assert one.volumes.laid_mm3 == pytest.approx(two.volumes.laid_mm3, rel=1e-6)
    seen = [picture_of(made.film, attempt.skin).astype(int) for made in (one, two)]
    assert np.percentile(np.abs(seen[0] - seen[1]), 99.5) <= 1


# --- volume ---


@pytest.mark.parametrize("doer", [REFERENCE, "kernel"], ids=["reference", "kernel"])
def test_what_leaves_the_brush_is_on_the_skin(doer):
    """On the skin afterwards = before + given by the brush - carried away in it."""
    doer = kernel() if doer == "kernel" else doer
    canvas = patch(4.0)
    given = sum(given_mm3(stroke, paint) for stroke, paint, _ in CASES["wet over wet"])
    film, carried = laid(doer, *CASES["wet over wet"], canvas=canvas)
    assert carried[:, -1].sum() > 0.05
    assert film.volume_mm3() + carried[:, -1].sum() == pytest.approx(given, rel=1e-5)
    alone, nothing = laid(doer, *CASES["dry"], canvas=canvas)
    expected = given_mm3(STRAIGHT, RED)
    assert alone.volume_mm3() == pytest.approx(expected, rel=1e-6)
    assert nothing[:, -1].sum() == 0


@pytest.mark.parametrize("doer", [REFERENCE, "kernel"], ids=["reference", "kernel"])
@pytest.mark.parametrize("water", [0.25, 1.0, 4.0])
def test_water_is_as_well_kept_as_solids(doer, water):
    """Wet over wet in the same moment: all water is in the film or carried in the brush, mixing or set."""
    doer, canvas = kernel() if doer == "kernel" else doer, patch(4.0)
    wet = np.array([1.0] * 10 + [water, 1.0])
    film, carried = laid(doer, (STRAIGHT, RED * wet, 0.0), (ACROSS, WHITE * wet, 0.0), canvas=canvas)
    given = given_mm3(STRAIGHT, RED) + given_mm3(ACROSS, WHITE)
    on_skin = film.water_um().sum(dtype=np.float64) / canvas.px_per_mm**2 / 1000
    assert on_skin + carried[:, -2].sum() == pytest.approx(water * given, rel=5e-3 if water > 1 else 2e-3)
    body = film.body_um.sum(dtype=np.float64) / canvas.px_per_mm**2 / 1000
    if water >= 1.0:
        assert body + carried[:, -1].sum() == pytest.approx(given, rel=1e-4)


@settings(max_examples=15)
@given(
    st.lists(st.tuples(st.floats(-10, 40), st.floats(-10, 10)), min_size=4, max_size=4),
    st.sampled_from([NibMode.FOLLOWING, NibMode.FIXED]),
    st.floats(0, 60),
)
def test_random_strokes_over_wet_paint_lose_nothing(points, mode, at_s):
    stroke = Stroke(CubicPath(tuple(points)), Nib(mode, 70.0))
    canvas = patch(2.0, 60)
    before, _ = laid(kernel(), (STRAIGHT, RED, 0.0), px=2.0, canvas=canvas)
    film, carried = laid(kernel(), (STRAIGHT, RED, 0.0), (stroke, WHITE, at_s), px=2.0, canvas=canvas)
    gained = film.volume_mm3() - before.volume_mm3()
    assert gained + carried[:, -1].sum() == pytest.approx(given_mm3(stroke, WHITE, 2.0), rel=2e-5, abs=1e-4)


# --- stacking and mixing ---


def test_two_dry_coats_are_one_film_of_the_summed_thickness():
    """Kubelka-Munk in closed form over the sum (Kubelka 1948), at the middle of the stroke."""
    film, _ = laid(REFERENCE, (STRAIGHT, RED, 0.0), (STRAIGHT, RED, 5000.0))
    assert film.dry_um.max() > 1
    row, column = film.canvas.rows // 2, film.canvas.columns // 2
    total = float(film.dry_um[row, column] + film.wet[row, column, -1])
    expected = km_film(RED[:8] * total, np.full(8, RED[8] * total), BASIS.pick(SKIN))
    part = film.wet[row, column]
    seen = km_film(depth_k(part), depth_s(part, BASIS), film.ground[row, column])
    assert seen == pytest.approx(expected, abs=2e-5)
    assert RED[0] * total < MOST_OPTICAL_DEPTH


@pytest.mark.parametrize("at_s", [2.0, 20.0, 4000.0])
def test_order_does_not_matter_for_one_paint(at_s):
    """No pick-up, equal paint: whatever the order and the wetness, the same colour (films of one paint compose)."""
    canvas = patch(4.0)
    ab, _ = laid(REFERENCE, (STRAIGHT, RED, 0.0), (ACROSS, RED, at_s), canvas=canvas, uptake=0.0)
    ba, _ = laid(REFERENCE, (ACROSS, RED, 0.0), (STRAIGHT, RED, at_s), canvas=canvas, uptake=0.0)
    inside = (ab.cover > 0.999) & (ba.cover > 0.999)
    apart = ciede2000(picture_lab(REFERENCE, ab), picture_lab(REFERENCE, ba))
    assert apart[inside].max() < 0.6  # one byte of a picture


def test_order_matters_when_wet():
    canvas = patch(4.0)
    one, _ = laid(kernel(), (STRAIGHT, RED, 0.0), (ACROSS, WHITE, 2.0), canvas=canvas)
    two, _ = laid(kernel(), (ACROSS, WHITE, 0.0), (STRAIGHT, RED, 2.0), canvas=canvas)
    assert ciede2000(picture_lab(kernel(), one), picture_lab(kernel(), two))[one.cover > 0.9].max() > 3


def test_white_line_work_sinks_into_a_wet_base_and_stands_on_a_dry_one():
    """Common practice, no published source: white over wet goes muddy, over dry it stays white."""
    canvas = canvas_for(pull(STRAIGHT, FLAT, GradientAxis.ACROSS).track, 4.0)
    thin = Stroke(line((15, -12), (15, 12)), pressure=0.3)
    light = []
    for at_s in (1.0, 4000.0):
        film, _ = laid(kernel(), (STRAIGHT, RED, 0.0), (thin, WHITE, at_s), canvas=canvas)
        lab = picture_lab(kernel(), film)
        light.append(float(lab[canvas.rows // 2, round((15 - canvas.left_mm) * 4), 0]))
    assert light[1] > light[0] + 5


def test_a_brush_pulls_what_it_picks_up_along():
    """Beyond a wet red stripe a white stroke turns pinker than before it: pulled colour is muddying."""
    canvas = patch(4.0)
    stripe, through = Stroke(line((20, -12), (20, 12))), Stroke(line((-10, 0), (50, 0)))
    film, carried = laid(kernel(), (stripe, RED, 0.0), (through, WHITE, 2.0), canvas=canvas)
    lab = picture_lab(kernel(), film)
    row = round((0 - canvas.top_mm) * 4)
    before, beyond = (lab[row, round((x - canvas.left_mm) * 4), 1] for x in (4.0, 36.0))
    assert beyond > before + 1
    assert carried[:, 0].sum() > 0


# --- drying ---


def test_drying_law_and_its_calibration():
    rate = evaporation_um_s()
    assert wetness(20.0, 20.0, 0.0, rate) == 1
    assert wetness(20.0, 20.0, np.array([0.0, 20.0, 40.0, 1e4]), rate) == pytest.approx([1, 0.55, DRY, 0])
    assert wetness(0.0, 0.0, 5.0, rate) == 0
    for seconds in (20.0, 57.6, 300.0):
        assert time_to(DRY, COAT_UM, COAT_UM, evaporation_um_s(seconds)) == pytest.approx(seconds)
    assert [touch(value) for value in (1.0, 0.3, 0.01)] == [Touch.WET, Touch.TACKY, Touch.DRY]
    for bad in (lambda: evaporation_um_s(0), lambda: time_to(-1, 20, 20, 0.4)):
        with pytest.raises(OutOfRangeError):
            bad()


def test_what_is_dry_mixes_not_at_all_and_what_is_wet_in_part():
    """Dry means dry: the threshold that Order waits for is the one at which mixing ends."""
    assert mixing_share(np.array([0.0, DRY / 2, DRY])) == pytest.approx([0, 0, 0])
    assert mixing_share(np.array(1.0)) == pytest.approx(MIXING)
    assert (np.diff(mixing_share(np.linspace(DRY, 1.2, 40))) > 0).all()
    assert mixing_share(np.array(4.0)) == 1
    assert touch(float(DRY)) is Touch.DRY


def at_the_middle(film):
    return film.canvas.rows // 2, film.canvas.columns // 2


@pytest.mark.parametrize("doer", [REFERENCE, "kernel"], ids=["reference", "kernel"])
def test_white_laid_the_moment_that_red_is_dry_is_white_over_red(doer):
    """Nothing of the red comes into the white, and the picture is that of white laid an hour later."""
    doer, canvas = kernel() if doer == "kernel" else doer, patch(4.0)
    red, _ = laid(doer, (STRAIGHT, RED, 0.0), canvas=canvas)
    at = at_the_middle(red)
    dry_s = time_to(DRY, float(red.body_um[at]), float(red.water_um()[at]), evaporation_um_s())
    seen = [
        laid(doer, (STRAIGHT, RED, 0.0), (STRAIGHT, WHITE, when), canvas=canvas, uptake=0.0)[0]
        for when in (dry_s + 0.1, 3600.0)
    ]
    assert seen[0].wet[at] == pytest.approx(seen[1].wet[at], rel=1e-5)
    assert ciede2000(*(picture_lab(doer, film)[at] for film in seen)) < 0.5
    wet, _ = laid(doer, (STRAIGHT, RED, 0.0), (STRAIGHT, WHITE, dry_s / 2), canvas=canvas)
    assert wet.wet[at][0] > seen[0].wet[at][0] * 1.2


@pytest.mark.parametrize("water", [3.0])
@pytest.mark.parametrize("doer", [REFERENCE, "kernel"], ids=["reference", "kernel"])
def test_baking_often_is_baking_once(doer, water):
    """A semigroup: whatever moments it is looked at, the film is that of its last moment."""
    doer = kernel() if doer == "kernel" else doer
    film, _ = laid(doer, (STRAIGHT, RED * np.array([1.0] * 10 + [water, 1.0]), 0.0))
    everywhere, rate = np.ones(film.cover.shape, np.float32), evaporation_um_s()
    inside, rng = film.cover > 0.999, np.random.default_rng(11)
    for last_s in (12.0, 200.0) if doer is REFERENCE else (3.0, 30.0, 200.0):
        often, once = film.copy(), film.copy()
        for at_s in sorted([*rng.uniform(0, last_s, 4), last_s]):
            doer.bake(often, everywhere, at_s, rate)
        doer.bake(once, everywhere, last_s, rate)
        assert np.abs(often.ground - once.ground)[inside].max() < 2e-5
        for name in ("wet", "body_um", "dry_um"):
            seen, meant = (getattr(one, name)[inside] for one in (often, once))
            assert (np.abs(seen - meant) <= np.maximum(1e-3, 1e-3 * np.abs(meant))).all()


def test_four_thin_strokes_dry_as_one_body_of_paint():
    """Water leaves at one surface: four thin coats eight seconds apart are as wet as their water says."""
    rate, canvas = evaporation_um_s(), patch(4.0)
    strokes = [(replace(STRAIGHT, pressure=0.2), RED, 8.0 * turn) for turn in range(4)]
    film, _ = laid(REFERENCE, *strokes, canvas=canvas, uptake=0.0)
    one, _ = laid(REFERENCE, strokes[0], canvas=canvas)
    at = at_the_middle(film)
    thin = float(one.wet[at][-1])
    expected, body = 0.0, 0.0
    for turn in range(4):
        left = max(expected - 8 * rate, 0.0) if turn else 0.0
        body = (body if left > DRY * body else 0.0) + thin
        expected = (left if body > thin else 0.0) + thin
    assert film.body_um[at] == pytest.approx(body, rel=1e-4)
    assert film.water_um()[at] == pytest.approx(expected, rel=1e-3)


@pytest.mark.parametrize(
    ("solids_um", "ratio", "low_s", "high_s"),
    [(20, 1.0, 35, 45), (10, 0.7, 10, 20), (10, 0.25, 0.5, 6), (40, 1.0, 60, 120), (12, 4.0, 60, 180)],
    ids=["usual coat", "pressed damp sponge", "nearly dry sponge", "press petal", "too wet"],
)
def test_how_long_films_take(solids_um, ratio, low_s, high_s):
    """Common practice, no published source: a sponge base is painted over at once, a petal while two buds are done."""
    assert low_s <= time_to(DRY, solids_um, solids_um * ratio, evaporation_um_s()) <= high_s
    assert time_to(TACKY, solids_um, solids_um * ratio, evaporation_um_s()) < high_s


# --- the nib along the stroke ---


def widths_of(stroke, brush=FLAT):
    return pull(stroke, brush, GradientAxis.ACROSS).track


def test_pressure_keys_thin_and_thicken_a_round():
    track = widths_of(Stroke(line((0, 0), (40, 0)), pressures=(Key(0, 0.06), Key(0.5, 0.9), Key(1, 0.06))), ROUND)
    assert track.widths_mm[0] == pytest.approx(track.widths_mm[-1], rel=0.02)
    assert track.widths_mm.max() > 4 * track.widths_mm[0]
    assert track.widths_mm.argmax() == pytest.approx(len(track.s_mm) / 2, abs=4)


def test_a_flip_changes_the_sides_and_nothing_else():
    still, flipped = (widths_of(Stroke(line((0, 0), (40, 0)), flips_mm=flips)) for flips in ((), (20.0,)))
    at = np.array([5.0, 35.0])
    for place, side in zip(at, (1, -1), strict=True):
        moments = [track.at(np.array([place]))[0] for track in (still, flipped)]
        assert flipped.edge[moments[1]] == pytest.approx(side * still.edge[moments[0]], abs=1e-6)
    assert flipped.travel_mm[-1] == pytest.approx(still.travel_mm[-1], rel=1e-6)
    assert int(flipped.jump.sum()) == 1
    strokes = [Stroke(line((0, 0), (40, 0)), flips_mm=flips) for flips in ((), (20.0,))]
    area = [float(laid(REFERENCE, (stroke, RED, 0.0))[0].cover.sum()) for stroke in strokes]
    assert area[1] == pytest.approx(area[0], rel=1e-3)


@pytest.mark.parametrize(("exit_", "lower"), [(Exit.A, False), (Exit.B, True)])
def test_a_stroke_that_ends_on_a_corner_tapers_to_its_side(exit_, lower):
    """Following at 90 degrees B lies on the right hand: below a path that runs to the right."""
    film, _ = laid(REFERENCE, (Stroke(line((0, 0), (40, 0)), lift_mm=20.0, exit=exit_), RED, 0.0))
    column = film.cover[:, round((37 - film.canvas.left_mm) * 4)]
    rows = (np.flatnonzero(column > 0.5) + 0.5) / 4 + film.canvas.top_mm
    assert len(rows) < 0.5 * 12 * 4
    assert bool(rows.mean() > 0) is lower


def test_part_of_the_edge_lays_part_of_the_width():
    film, _ = laid(REFERENCE, (Stroke(line((0, 0), (40, 0)), part=(0.25, 0.5)), RED, 0.0))
    column = film.cover[:, round((20 - film.canvas.left_mm) * 4)]
    assert column.sum() / 4 == pytest.approx(3.0, abs=0.05)


def test_keyed_angles_turn_from_hairline_to_broad():
    keys = (Key(0.0, 0.0), Key(0.5, 90.0), Key(1.0, 0.0))
    track = widths_of(Stroke(line((0, 0), (40, 0)), Nib(NibMode.KEYED, keys=keys)))
    assert track.ribbon_mm[0] == pytest.approx(FLAT.thickness_mm, abs=0.1)
    assert track.ribbon_mm[len(track.s_mm) // 2] == pytest.approx(12.0, rel=0.05)


@pytest.mark.parametrize(
    "bad",
    [
        {"pressures": (Key(0.5, 0.5), Key(0.2, 0.5))},
        {"pressures": (Key(0.0, 2.0),)},
        {"part": (0.6, 0.6)},
        {"flips_mm": (5.0, 2.0)},
        {"lift_mm": -1},
    ],
)
def test_impossible_ways_are_refused(bad):
    with pytest.raises(OutOfRangeError):
        Stroke(line((0, 0), (40, 0)), **bad)
    with pytest.raises(OutOfRangeError):
        Nib(NibMode.KEYED)
    with pytest.raises(OutOfRangeError):
        Key(1.5, 0.5)
