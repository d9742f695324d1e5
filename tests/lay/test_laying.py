"""What a stroke leaves: volume, thickness, colour, edges."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pennello.aim.comparison import seen_lab
from pennello.colour.basis import FULL, small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.kubelka_munk import film, mix
from pennello.colour.skin import skin_reflectance
from pennello.errors import OutOfRangeError
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.kit.paint import optics
from pennello.lay.film import covered_reflectance, sample
from pennello.lay.laying import ground, lay
from pennello.lay.render import render
from pennello.lay.streaks import broken
from pennello.lay.stroke import Nib, NibMode, Stroke, Wiggle
from pennello.load.edge import load
from pennello.load.pickup import bin_centres
from pennello.load.recipe import PickUp, Recipe, Wetness
from pennello.path.cubic import CubicPath, line

PAINTS, CAKES = catalogue.paints(), catalogue.cakes()
BRUSHES = catalogue.brushes()
FLAT = BRUSHES["flat-3-4"]
POPPY = Recipe((PickUp("poppy-brow", 4.0),))
SKIN = skin_reflectance(40)


def laid(stroke, recipe=POPPY, brush=FLAT, **wish):
    return lay(recipe, stroke, brush, CAKES, PAINTS, **wish)


coordinate = st.floats(-50, 50)
TURNS = [mode for mode in NibMode if mode is not NibMode.KEYED]  # which needs its keys
strokes = st.builds(
    Stroke,
    path=st.lists(st.tuples(coordinate, coordinate), min_size=4, max_size=4).map(lambda p: CubicPath(tuple(p))),
    nib=st.builds(Nib, st.sampled_from(TURNS), st.floats(-180, 180), st.floats(-180, 180), st.floats(0, 1)),
    pressure=st.floats(0.05, 1),
    wiggle=st.builds(Wiggle, st.floats(0, 6), st.floats(0, 8)),
    reload_mm=st.lists(st.floats(1, 80), max_size=2).map(lambda at: tuple(sorted(at))),
)


@settings(max_examples=40)
@given(strokes, st.sampled_from([1.0, 2.0, 4.0]))
def test_no_paint_is_made_or_lost(stroke, px_per_mm):
    volumes = laid(stroke, px_per_mm=px_per_mm, basis=small_basis(8)).volumes
    assert volumes.laid_mm3 + volumes.left_mm3 == pytest.approx(volumes.loaded_mm3, rel=1e-6)
    assert volumes.laid_mm3 >= 0


@pytest.mark.parametrize("px_per_mm", [2.0, 4.0, 8.0])
def test_straight_film_has_the_thickness_of_the_law(straight, px_per_mm):
    """Square to its travel a bin lays m / L e^(-(l + t) / L): held volume over release length, touch-down included."""
    result = laid(straight, px_per_mm=px_per_mm)
    held = result.edge.volume_mm3_per_mm[32]
    for s in (15.0, 30.0, 45.0):
        moment = result.track.at(np.array([s]))
        read = sample(result.film, result.track.points(moment, np.array([0.5])))
        travelled = result.track.s_mm[moment[0]] + FLAT.thickness_mm
        expected = held / FLAT.release_mm * math.exp(-travelled / FLAT.release_mm) * 1000
        assert read.thickness_um[0, 0] == pytest.approx(expected, rel=5e-3)


def test_ripple_of_a_straight_ribbon():
    brush = replace(FLAT, release_mm=5000.0)  # hardly runs down
    one = Recipe((PickUp("kelp-swoosh", 3.0),))
    for angle in (90, 55, 25):
        result = lay(one, Stroke(line((0, 0), (70, 13)), Nib(NibMode.FOLLOWING, angle)), brush, CAKES, PAINTS)
        inner = sample(
            result.film,
            result.track.points(result.track.at(np.linspace(20, 50, 200)), np.linspace(0.3, 0.7, 40)),
        ).thickness_um
        trend = np.outer(inner.mean(axis=1), inner.mean(axis=0)) / inner.mean()
        assert np.std(inner / trend - 1) < 0.005


def test_reservoir_is_the_exponential_that_it_claims(straight):
    result = laid(straight)
    (run,) = result.runs
    travelled = result.track.travel_mm[-1] + FLAT.thickness_mm
    part = run.stretch
    assert part.left == pytest.approx(np.exp(-travelled / FLAT.release_mm))
    assert part.touch_down + part.given.sum(axis=0) + part.left == pytest.approx(np.ones(64))


def test_reload_takes_up_the_residue_and_starts_again():
    stroke = Stroke(line((0, 0), (120, 0)), reload_mm=(60.0,))
    result = laid(stroke)
    once, again = result.runs
    fade = math.exp(-POPPY.pickups[0].passes / FLAT.fill_passes)
    expected = once.left_edge.solids * fade + load(POPPY, CAKES, FLAT).solids
    assert again.edge.solids == pytest.approx(expected)
    film_um = [
        sample(result.film, result.track.points(result.track.at(np.array([s])), np.array([0.5]))).thickness_um[0, 0]
        for s in (10, 50, 70, 110)
    ]
    assert film_um[0] > film_um[1] < film_um[2] > film_um[3]


def test_imprint_leaves_no_drop_out(straight):
    under = ground(straight, FLAT, GradientAxis.ACROSS, 4.0)
    for part, mark in zip(under.stretches, under.imprints, strict=True):
        fallen = np.bincount(mark.bin, mark.part, 64)
        assert fallen == pytest.approx(1 - part.left, rel=1e-12)


def test_laid_colour_is_the_mixture_as_a_film_on_skin(straight):
    """The laid colour, worked out again by hand from the shares of the load and the thickness of the film."""
    result = laid(straight)
    read = sample(result.film, result.track.points(result.track.at(np.array([20.0])), bin_centres()))
    lab = seen_lab(read, SKIN, FULL)[0]
    constants = optics(tuple(PAINTS[name] for name in result.edge.paints))
    k, s = mix(result.edge.share.T, constants.k, constants.s)
    thick = read.thickness_um[0][:, None]
    by_hand = FULL.lab(film(k * thick, s * thick, SKIN))
    apart = ciede2000(lab, by_hand)
    assert apart[[12, 30, 31, 55]].max() < 0.3  # in the middle of stripes
    assert apart.max() < 4  # across a boundary levelling mixes a little more


def test_stroke_along_its_own_chisel_is_a_line_as_thick_as_the_chisel():
    result = laid(Stroke(line((0, 0), (60, 0)), Nib(NibMode.FIXED, 0)))
    column = result.film.coverage[:, round((30 - result.film.canvas.left_mm) * 4)]
    assert column.sum() / 4 == pytest.approx(FLAT.thickness_mm, rel=0.02)


def test_heel_of_a_pivot_does_not_blow_up():
    """The heel's thickness converges over resolutions and stays of the order of the touch-down."""
    turn = Stroke(CubicPath(((0.0, 0.0),) * 4), Nib(NibMode.PIVOTING, 0, 120, 0.0))
    most = [float(laid(turn, px_per_mm=px, basis=small_basis(8)).film.thickness_um.max()) for px in (4, 8, 16)]
    assert abs(most[2] - most[1]) < 0.03 * most[2]
    assert most[2] < 60


@pytest.mark.parametrize("px_per_mm", [2.0, 4.0])
def test_edge_pixels_agree_with_a_fine_render(straight, px_per_mm):
    coarse = laid(straight, px_per_mm=px_per_mm)
    fine = laid(straight, px_per_mm=16.0)
    step = int(16 / px_per_mm)

    def reflectance(result):
        seen = covered_reflectance(  # type: ignore[call-arg]
            *(depth.transpose(0, 2, 1) for depth in (result.film.kx, result.film.sx)), result.film.coverage, SKIN
        )
        return seen, result.film.canvas

    seen, canvas = reflectance(coarse)
    sharp, ground = reflectance(fine)
    left = round((canvas.left_mm - ground.left_mm) * 16)
    top = round((canvas.top_mm - ground.top_mm) * 16)
    rows, columns = np.nonzero((coarse.film.coverage > 0.02) & (coarse.film.coverage < 0.98))
    keep = (columns > 25) & (columns < canvas.columns - 25)  # the long sides, not the ends
    for row, column in list(zip(rows[keep], columns[keep], strict=True))[::37]:
        y, x = top + row * step, left + column * step
        block = sharp[max(y, 0) : y + step, max(x, 0) : x + step].mean(axis=(0, 1))
        assert float(ciede2000(FULL.lab(seen[row, column]), FULL.lab(block))) < 3


def test_picture_has_skin_where_nothing_is_laid_and_8_bands_suffice(straight):
    pictures = [render(laid(straight, basis=basis).film, SKIN).astype(int) for basis in (FULL, small_basis(8))]
    corner = np.rint(FULL.srgb(SKIN) * 255)
    assert np.abs(pictures[0][0, 0] - corner).max() <= 1
    assert np.abs(pictures[0] - pictures[1]).max() <= 4
    assert np.abs(pictures[0] - pictures[1]).mean() < 0.5


def test_mirrored_stroke_is_the_mirrored_picture():
    # B runs on the other hand in the mirror: the chisel's angle and the flip change sign
    stroke = Stroke(CubicPath(((-20, 0), (-22, -30), (22, -26), (20, 4))), Nib(NibMode.FOLLOWING, 80))
    mirrored = Stroke(CubicPath(tuple((-x, y) for x, y in stroke.path.points_mm)), Nib(NibMode.FOLLOWING, -80))
    one, two = (laid(s, basis=small_basis(8)).film for s in (stroke, mirrored))
    assert one.thickness_um[:, ::-1].shape == two.thickness_um.shape
    assert np.abs(one.thickness_um[:, ::-1] - two.thickness_um).max() < 0.05 * one.thickness_um.max()


def test_touch_of_the_brush_leaves_one_footprint():
    result = laid(Stroke(CubicPath(((0.0, 0.0),) * 4), Nib(NibMode.FIXED, 0)))
    assert result.film.coverage.sum() / 16 == pytest.approx(FLAT.width_mm * FLAT.thickness_mm, rel=0.02)
    assert result.volumes.laid_mm3 == pytest.approx(
        result.volumes.loaded_mm3 * (1 - math.exp(-FLAT.thickness_mm / FLAT.release_mm)), rel=1e-9
    )


@pytest.mark.parametrize("px_per_mm", [0.1, 100, float("nan")])
def test_impossible_resolutions_are_refused(straight, px_per_mm):
    with pytest.raises(OutOfRangeError):
        laid(straight, px_per_mm=px_per_mm)


# --- streaks: common practice, no published source ---


@given(drag=st.floats(0, 1), steps=st.integers(2, 60), left=st.floats(0.01, 0.9))
def test_streaks_take_nothing_away_and_add_nothing(drag, steps, left):
    held = np.linspace(1, left, steps + 1)[:, None] * np.ones(64)
    even, light = held[:-1] - held[1:], np.linspace(0, 1 - drag, steps)
    uneven = broken(even, held[:-1], np.linspace(0, 80, steps), 19.05, drag, light)
    assert uneven.sum(axis=0) == pytest.approx(even.sum(axis=0), rel=1e-12)
    assert (uneven >= 0).all()
    assert (uneven == broken(even, held[:-1], np.linspace(0, 80, steps), 19.05, drag, light)).all()


def test_only_a_stiff_or_empty_brush_streaks(demo):
    attempt = demo.attempt("kelp-swoosh")
    stiff = tuple(replace(one, wetness=Wetness.NEARLY_DRY) for one in attempt.recipe.pickups)
    spread = []
    for recipe in (attempt.recipe, replace(attempt.recipe, pickups=stiff)):
        laid = replace(attempt, recipe=recipe).lay()
        across = sample(laid.film, laid.track.points(laid.track.at(np.array([100.0])), bin_centres())).thickness_um[0]
        inner = across[8:-8]
        spread.append(float(inner.std() / inner.mean()))
        assert laid.volumes.laid_mm3 + laid.volumes.left_mm3 == pytest.approx(laid.volumes.loaded_mm3, rel=1e-6)
    assert spread[0] < 0.1
    assert spread[1] > 3 * spread[0]
