"""Strokes held in other ways: leaned, tilted, on a part, patted, rolled, pinched; what sponges and lines print."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely

from pennello.colour.basis import small_basis
from pennello.colour.difference import ciede2000
from pennello.colour.lab import xyz_to_lab
from pennello.colour.observer import rgb_to_xyz
from pennello.colour.skin import skin_reflectance
from pennello.colour.srgb import decode
from pennello.design.rims import mirrored, reversed_way
from pennello.errors import OutOfRangeError
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator, ApplicatorKind, GradientAxis
from pennello.kit.contact import LEAN_SHARE, contact, contact_width_mm
from pennello.lay.coverage import footprints, hulls, swept_coverage
from pennello.lay.engine import REFERENCE, kernel
from pennello.lay.families.catalogue import FAMILIES, family
from pennello.lay.giving import AGAIN, giving
from pennello.lay.laying import lay, pull
from pennello.lay.render import render
from pennello.lay.stroke import Exit, Key, Nib, NibMode, Over, PartKey, Pats, Stroke, Wiggle
from pennello.load.recipe import PickUp, Recipe, Way
from pennello.path.cubic import CubicPath, line

BRUSHES, CAKES, PAINTS = catalogue.brushes(), catalogue.cakes(), catalogue.paints()
FLAT, SPONGE = BRUSHES["flat-3-4"], BRUSHES["sponge-petal"]
SKIN = skin_reflectance(40)
STRAIGHT = Stroke(line((0, 0), (50, 0)))
STILL = CubicPath(((0.0, 0.0),) * 4)


def laid(stroke, brush=FLAT, px=4.0, engine=None, cake="dahlia-wrist", **pickup):
    way = Way.PRESS if brush.kind.pressed else Way.SWEEP
    recipe = Recipe((PickUp(cake, offset_mm=0.0, passes=14, way=way, **pickup),))
    engine = engine or kernel()
    return lay(recipe, stroke, brush, CAKES, PAINTS, px_per_mm=px, basis=small_basis(8), engine=engine)


def lab_of(film):
    return xyz_to_lab(rgb_to_xyz(decode(render(film, SKIN) / 255.0)))


def swept_shape(stroke, brush):
    quads = footprints(pull(stroke, brush, GradientAxis.ACROSS).track, 4.0)
    return shapely.union_all(shapely.convex_hull(shapely.multipoints(quads)))


@pytest.mark.parametrize("tool", list(BRUSHES))
def test_hulls_are_the_area_of_all_slices_by_fewer_shapes(tool):
    """Round contacts are swept as whole outlines; the union of all slices, by shapely, is the same area."""
    way = Stroke(CubicPath(((0, 0), (20, -25), (40, 25), (60, 0))), Nib(NibMode.FOLLOWING, 70))
    pressed = replace(way, pressures=(Key(0, 0.2), Key(0.5, 0.9), Key(1, 0.1)), tilts=(Key(0, 0.6), Key(1, 0)))
    track = pull(pressed, BRUSHES[tool], GradientAxis.ACROSS).track
    slices, sets = footprints(track, 2.0), hulls(track, 2.0)
    assert len(sets) <= len(slices)
    whole, same = (shapely.union_all(shapely.convex_hull(shapely.multipoints(one))) for one in (slices, sets))
    assert same.symmetric_difference(whole).area < 0.01 * whole.area


HELD = {
    "leaned": (replace(STRAIGHT, leans=(Key(0, 0), Key(1, 60))), FLAT),
    "tilted": (replace(STRAIGHT, tilts=(Key(0, -1), Key(0.5, 0), Key(1, 1))), FLAT),
    "part keys": (replace(STRAIGHT, parts=(PartKey(0, 0, 0.3), PartKey(1, 0.4, 1.0)), on_part=True), FLAT),
    "patted way": (replace(STRAIGHT, pats=Pats()), SPONGE),
    "patted place": (family("sponge-field").stroke(length_mm=60, spread_mm=40), BRUSHES["dauber-small"]),
    "rolled": (family("sponge-roll").stroke(), BRUSHES["sponge-block"]),
    "pinched": (family("sponge-pinch").stroke(), BRUSHES["sponge-block"]),
}


@pytest.mark.parametrize("name", HELD)
def test_kernel_is_the_reference_however_it_is_held(name):
    """Nothing but the paint that leaves the brush: volume to 1e-6, 99 of 100 pixels within 0.1 dE."""
    stroke, brush = HELD[name]
    one, other = (laid(stroke, brush, 3.0, engine) for engine in (kernel(), REFERENCE))
    covered = other.film.coverage > 0.05
    apart = ciede2000(lab_of(one.film), lab_of(other.film))[covered]
    assert np.percentile(apart, 99) <= 0.1
    for made in (one, other):
        given = made.volumes.loaded_mm3 - made.volumes.left_mm3
        assert made.volumes.laid_mm3 == pytest.approx(given, rel=1e-5)
        seen = float(made.film.thickness_um.sum(dtype=np.float64)) / 9 / 1000
        assert seen == pytest.approx(made.volumes.laid_mm3, rel=1e-5)
    assert one.volumes.laid_mm3 == pytest.approx(other.volumes.laid_mm3, rel=1e-6)


# --- lean and tilt ---


def test_a_dab_of_an_upright_flat_is_a_line_and_of_a_leaned_one_a_patch():
    """t0 (0.5 + p) + 0.6 b p sin(lean), worked out by hand."""
    dab = Stroke(STILL, Nib(NibMode.FIXED, 0.0), 0.5)
    tall = []
    for lean in (0.0, 60.0):
        shape = swept_shape(replace(dab, leans=(Key(0, lean),) if lean else ()), FLAT)
        left, top, right, bottom = shape.bounds
        assert right - left == pytest.approx(FLAT.width_mm, rel=1e-6)
        tall.append(bottom - top)
    assert tall[0] == pytest.approx(FLAT.thickness_mm)
    by_hand = FLAT.thickness_mm + LEAN_SHARE * FLAT.bristle_mm * 0.5 * math.sin(math.radians(60))
    assert tall[1] == pytest.approx(by_hand)


@pytest.mark.parametrize("side", [-1.0, 1.0])
def test_a_corner_comes_first_or_last_anywhere_on_the_way(side):
    """All of the edge at the start, only one corner in the middle, all of it again at the end."""
    stroke = replace(STRAIGHT, tilts=(Key(0, 0), Key(0.5, side), Key(1, 0)))
    track = pull(stroke, FLAT, GradientAxis.ACROSS).track
    at = track.at(np.array([1.0, 25.0, 49.0]))
    reach = (track.high - track.low)[at]
    assert reach[0] > 0.9
    assert reach[2] > 0.9
    assert reach[1] < 0.1
    assert bool(track.low[at[1]] == 0) is (side < 0)
    grade = np.broadcast_to(track.grade, (len(track.s_mm), 64))
    assert grade.mean(axis=1) == pytest.approx(1.0)


def test_a_slight_tilt_grades_what_is_given():
    result = laid(replace(STRAIGHT, tilts=(Key(0, 0.3),)))
    rows = result.film.thickness_um[:, result.film.canvas.columns // 2]
    inside = rows[result.film.coverage[:, result.film.canvas.columns // 2] > 0.99]
    assert inside[-8:-2].mean() > 2 * inside[2:8].mean()  # corner B lies below


def test_what_cannot_be_held_is_said():
    for bad in (
        lambda: replace(STRAIGHT, leans=(Key(0, 80),)),
        lambda: replace(STRAIGHT, tilts=(Key(0, 2),)),
        lambda: replace(STRAIGHT, parts=(PartKey(0.5, 0, 1), PartKey(0.2, 0, 1))),
        lambda: PartKey(0.0, 0.5, 0.5),
        lambda: Pats(overlap=0.95),
        lambda: Pats(turn_deg=270),
        lambda: pull(replace(STRAIGHT, path=line((0, 0), (9000, 0)), pats=Pats(0.9)), FLAT, GradientAxis.ACROSS),
    ):
        with pytest.raises(OutOfRangeError):
            bad()


# --- parts ---


def test_a_part_lies_where_the_whole_edge_has_it_or_where_the_path_is():
    half = replace(STRAIGHT, part=(0.0, 0.5))
    tops = [swept_shape(replace(half, on_part=on), FLAT).centroid.y for on in (False, True)]
    assert tops[0] == pytest.approx(-FLAT.width_mm / 4, abs=0.1)
    assert tops[1] == pytest.approx(0.0, abs=0.1)


def test_nothing_touches_in_teeth():
    """Lifts onto a corner and angle brushes leave a slanted edge: the swept area is within 1 % of its hull's."""
    lifted = swept_shape(replace(STRAIGHT, lift_mm=40.0, exit=Exit.A), FLAT)
    hull = shapely.convex_hull(lifted)
    assert lifted.area == pytest.approx(hull.area, rel=0.01)
    keys = (Key(0, 0.06), Key(0.5, 0.6), Key(1, 0.06))
    angle = swept_shape(replace(STRAIGHT, pressures=keys), BRUSHES["angle-3-4"])
    slanted = angle.simplify(0.3)
    assert slanted.area == pytest.approx(angle.area, rel=0.01)
    assert len(slanted.exterior.coords) < 24


@pytest.mark.parametrize("press", [0.1, 0.25, 0.5, 0.9])
def test_a_light_press_of_a_dipped_brush_is_a_whole_small_petal(press):
    """Its belly is round at every pressure: no straight cut at the end (common practice)."""
    brush = BRUSHES["petal-brush"]
    track = pull(Stroke(STILL, Nib(NibMode.FIXED, 0.0), press), brush, GradientAxis.ALONG).track
    half = np.broadcast_to(track.far, (len(track.s_mm), 64))[0]
    touched = np.broadcast_to(track.touch, (len(track.s_mm), 64))[0] > 0.5
    assert half[touched][-1] < 0.6 * half[touched].max()


def test_rounds_widen_beyond_half_pressure():
    widths = contact_width_mm(BRUSHES["round-4"], np.linspace(0.1, 1, 10))
    assert (np.diff(widths) > 0.02).all()
    assert widths[-1] > 1.3 * contact_width_mm(BRUSHES["round-4"], 0.5)
    assert contact(BRUSHES["round-4"], GradientAxis.ACROSS, np.array([0.5])).edge_mm[0] == pytest.approx(3.2)


# --- what is given ---


def test_a_line_along_the_chisel_is_two_to_three_times_a_broad_film():
    """170 um were laid before; (ribbon / width)^0.8 leaves about 30 to 50."""
    along = laid(Stroke(line((0, 0), (60, 0)), Nib(NibMode.FIXED, 0.0)))
    broad = laid(Stroke(line((0, 0), (60, 0))))
    middle = [np.median(one.film.thickness_um[one.film.coverage > 0.99]) for one in (along, broad)]
    assert 1.2 < middle[0] / middle[1] < 3.0
    assert middle[0] < 60


def test_a_wiggle_empties_the_brush_by_the_ground_that_it_covers():
    dabs = Stroke(line((0, 0), (20, 0)), wiggle=Wiggle(8, 12.0))
    track = pull(dabs, BRUSHES["flat-1-2"], GradientAxis.ACROSS).track
    slower = giving(track)
    assert slower.min() < 2 * AGAIN
    assert giving(pull(STRAIGHT, FLAT, GradientAxis.ACROSS).track).min() == pytest.approx(1.0)


@pytest.mark.parametrize("key", sorted(set(FAMILIES) - {"starburst"}))
def test_no_family_lays_more_than_80_um(key):
    """Starburst may: all of its arms meet in the middle, and its words say so."""
    one = FAMILIES[key]
    made = laid(one.stroke(), BRUSHES[one.tool], cake="tide-rainbow" if BRUSHES[one.tool].kind.pressed else "heron-fur")
    thick = made.film.thickness_um[made.film.coverage > 0.9]
    assert thick.size == 0 or thick.max() <= 80
    assert "thick in the middle" in FAMILIES["starburst"].words


# --- sponges ---


def test_a_sponge_prints_a_stippled_rim_and_pores_within_its_footprint():
    stroke = Stroke(STILL, Nib(NibMode.FIXED, 0.0))
    made = laid(stroke, SPONGE, 6.0, cake="tide-rainbow")
    swept = swept_coverage(made.track, made.film.canvas)
    assert (made.film.coverage[swept <= 0] == 0).all()
    inside = swept > 0.999
    assert 0.03 < (made.film.coverage[inside] < 0.3).mean() < 0.45
    again = laid(stroke, SPONGE, 6.0, cake="tide-rainbow")
    assert (made.film.coverage == again.film.coverage).all()
    assert made.even.coverage[inside].min() > 0.9
    swept_twice = laid(replace(stroke, path=line((0, 0), (0, 40))), SPONGE, 6.0, cake="tide-rainbow")
    deep = swept_coverage(swept_twice.track, swept_twice.film.canvas) > 0.999
    middle = np.zeros_like(deep)
    middle[deep.shape[0] // 2 - 40 : deep.shape[0] // 2 + 40, deep.shape[1] // 2 - 20 : deep.shape[1] // 2 + 20] = True
    assert swept_twice.film.coverage[deep & middle].min() > 0.9  # swept: no pores


def test_pats_are_one_stroke_that_covers_a_place():
    field = family("sponge-field").stroke(length_mm=60, spread_mm=40, overlap=0.4)
    made = laid(field, BRUSHES["dauber-small"], cake="tide-rainbow")
    assert made.track.press.sum() >= 8
    oval = shapely.affinity.scale(shapely.Point(0, 0).buffer(1), 22, 12)
    points = np.array([(x, y) for x in range(-20, 21, 4) for y in range(-10, 11, 4)], float)
    points = points[[oval.contains(shapely.Point(*point)) for point in points]]
    column, row = (made.film.canvas.to_px(points)).astype(int).T
    near = swept_coverage(made.track, made.film.canvas)
    assert (near[row, column] > 0.99).mean() > 0.9
    assert 6 < np.median(made.even.thickness_um[made.even.coverage > 0.99]) < 25


def test_a_roll_shows_the_far_stripe_only_after_the_roll():
    stroke, brush = HELD["rolled"]
    track = pull(stroke, brush, GradientAxis.ACROSS).track
    given = pull(stroke, brush, GradientAxis.ACROSS).stretches[0]
    assert given.touch_down[-8:].max() == 0
    assert given.touch_down[:8].min() > 0
    assert given.given[-2:, -8:].sum() > 0
    assert given.given[:2, -8:].sum() == 0
    assert track.still


def test_a_pinch_opens_again():
    stroke, brush = HELD["pinched"]
    track = pull(stroke, brush, GradientAxis.ACROSS).track
    reach = track.high - track.low
    assert reach[0] == pytest.approx(1)
    assert reach[-1] == pytest.approx(1)
    assert reach.min() == pytest.approx(0.4, abs=0.02)


@pytest.mark.parametrize("name", ["leaned", "tilted", "part keys", "patted way", "patted place"])
def test_mirrored_means_reflected_and_reversed_twice_is_nothing(name):
    """Flats, discs and petals are their own mirror image across the edge, so the swept area is too."""
    stroke, brush = HELD[name]
    twice = mirrored(mirrored(stroke))
    assert twice == replace(stroke, path=twice.path)
    xs = [x for x, _ in stroke.path.points_mm]
    axis = min(xs) + max(xs)
    image = shapely.affinity.scale(swept_shape(stroke, brush), -1, 1, origin=(axis / 2, 0))
    assert swept_shape(mirrored(stroke), brush).symmetric_difference(image).area < 0.01 * image.area
    back = reversed_way(reversed_way(stroke))
    assert (back.leans, back.tilts, back.parts) == (stroke.leans, stroke.tilts, stroke.parts)


def test_a_sponges_texture_belongs_to_the_place_and_not_to_the_picture():
    """The same spots at another resolution: coverage averaged to the coarse pixels agrees."""
    tool = Applicator("s", "S", 40.0, ApplicatorKind.BLOCK_SPONGE, 30.0)
    stroke = Stroke(STILL, Nib(NibMode.FIXED, 0.0), pats=Pats(over=Over.WAY))
    coarse, fine = (laid(stroke, tool, px, cake="tide-rainbow").film for px in (2.0, 8.0))
    x, y = np.meshgrid(np.arange(-14, 15, 1.5), np.arange(-10, 11, 1.5))
    points = np.stack([x, y], axis=-1).reshape(-1, 2)

    def around(film):
        half = film.canvas.px_per_mm * 1.0
        found = []
        for column, row in film.canvas.to_px(points):
            part = film.coverage[round(row - half) : round(row + half), round(column - half) : round(column + half)]
            found.append(part.mean())
        return np.array(found)

    assert np.corrcoef(around(coarse), around(fine))[0, 1] > 0.8
