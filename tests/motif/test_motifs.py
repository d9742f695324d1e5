"""Motifs: their arithmetic against trigonometry and shapely, and places that can be undone."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely import MultiPoint, Polygon, union_all

from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.lay.laying import pull
from pennello.lay.stroke import Exit, Key, Nib, NibMode, Stroke, Wiggle
from pennello.motif.catalogue import MOTIFS, motif
from pennello.motif.fields import scale_step_mm
from pennello.motif.flowers import petal_overlap_mm, petals_that_fit
from pennello.motif.place import HERE, Place
from pennello.path.cubic import CubicPath, line

FLAT = catalogue.brushes()["flat-1-2"]

place = st.builds(
    Place,
    st.floats(-300, 300),
    st.floats(-300, 300),
    st.floats(-180, 180),
    st.floats(0.2, 5),
    st.booleans(),
)
points = st.lists(st.tuples(st.floats(-100, 100), st.floats(-100, 100)), min_size=1, max_size=6).map(np.array)


def swept(stroke, brush=FLAT):
    """Return what a stroke's edge sweeps, as a shapely area."""
    track = pull(stroke, brush, GradientAxis.ACROSS).track
    ends = track.points(np.arange(len(track.s_mm)), np.array([0.0, 1.0]))
    quads = [
        MultiPoint([*ends[n], *ends[n + 1]]).convex_hull.buffer(brush.thickness_mm / 2) for n in range(len(ends) - 1)
    ]
    return union_all(quads)


# --- places ---


@given(one=place, xy=points)
def test_a_place_is_undone_by_its_inverse(one, xy):
    assert one.inverse().points(one.points(xy)) == pytest.approx(xy, abs=1e-6)
    assert one.then(one.inverse()).points(xy) == pytest.approx(xy, abs=1e-6)


@given(inner=place, middle=place, outer=place, xy=points)
def test_places_in_groups_in_groups_follow_one_another(inner, middle, outer, xy):
    try:
        nested = inner.then(middle).then(outer)
    except OutOfRangeError:  # sizes multiply beyond what a motif may be
        return
    assert nested.points(xy) == pytest.approx(outer.points(middle.points(inner.points(xy))), rel=1e-9, abs=1e-6)


@given(one=place, mode=st.sampled_from(list(NibMode)), angle=st.floats(-170, 170), sweep=st.floats(-90, 90))
def test_a_placed_stroke_sweeps_the_placed_ribbon(one, mode, angle, sweep):
    at = replace(one, scale=1.0)
    keys = (Key(0.0, angle), Key(1.0, angle + sweep)) if mode is NibMode.KEYED else ()
    nib = Nib(mode, angle, angle + sweep, 0.3, keys)
    stroke = Stroke(CubicPath(((0.0, 0.0), (10.0, -20.0), (30.0, -20.0), (40.0, 0.0))), nib)
    before = pull(stroke, FLAT, GradientAxis.ACROSS).track
    after = pull(at.stroke(stroke), FLAT, GradientAxis.ACROSS).track
    moments = np.arange(0, len(before.s_mm), 7)
    edges = np.array([0.0, 1.0])
    assert len(before.s_mm) == len(after.s_mm)
    expected = at.points(before.points(moments, edges))
    if at.mirrored and mode in (NibMode.FIXED, NibMode.PIVOTING):  # a held chisel keeps its hand: A stays where it was
        expected = np.array([expected, expected[:, ::-1]])
        found = after.points(moments, edges)
        assert min(float(np.abs(found - one_way).max()) for one_way in expected) < 0.02
    else:
        assert after.points(moments, edges) == pytest.approx(expected, abs=0.01)


@given(
    one=place,
    mode=st.sampled_from(list(NibMode)),
    pivot=st.sampled_from([0.0, 0.3, 1.0]),
    angle=st.one_of(st.floats(-150, -2), st.floats(2, 150)),  # along the travel the chisel has no side
    waves=st.integers(0, 6),
    swing=st.floats(0, 12),
    flips=st.lists(st.floats(5, 45), max_size=2, unique_by=round),
    part=st.sampled_from([(0.0, 1.0), (0.0, 0.4), (0.5, 1.0)]),
    pressure=st.floats(0.1, 1.0),
    lift=st.one_of(st.just(0.0), st.floats(0.5, 20)),
    leaves=st.sampled_from(list(Exit)),
)
def test_wiggles_flips_parts_and_lifts_are_placed_and_mirrored_too(
    one, mode, pivot, angle, waves, swing, flips, part, pressure, lift, leaves
):
    at = replace(one, scale=1.0)
    keys = (Key(0.0, angle), Key(1.0, angle / 2)) if mode is NibMode.KEYED else ()
    path = CubicPath(((0.0, 0.0), (10.0, -20.0), (30.0, -20.0), (40.0, 0.0)))
    ways = {"flips_mm": tuple(sorted(flips)), "part": part, "lift_mm": lift, "exit": leaves}
    stroke = Stroke(path, Nib(mode, angle, angle / 2, pivot, keys), pressure, Wiggle(waves, swing), **ways)
    before = pull(stroke, FLAT, GradientAxis.ACROSS).track
    after = pull(at.stroke(stroke), FLAT, GradientAxis.ACROSS).track
    assert len(before.s_mm) == len(after.s_mm)
    moments = np.arange(0, len(before.s_mm), 5)
    ends = np.array([0.0, 1.0])
    assert after.points(moments, ends) == pytest.approx(at.points(before.points(moments, ends)), abs=0.02)


def test_places_have_limits():
    for bad in ({"scale": 0.0}, {"scale": 11.0}, {"turn_deg": math.nan}, {"x_mm": 1e6}):
        with pytest.raises(OutOfRangeError):
            Place(**bad)
    assert HERE.then(HERE) == HERE


# --- all motifs ---


@pytest.mark.parametrize("key", list(MOTIFS))
def test_every_motif_makes_strokes_at_all_ends_of_its_ranges(key):
    kind = motif(key)
    assert kind.made().pieces
    parts = {part.key for part in kind.parts}
    for one in kind.parameters:
        for value in (one.low, one.high):
            made = kind.made({one.key: value}, dict.fromkeys(parts, 12.7))
            assert {piece.part for piece in made.pieces} <= parts
            assert made.says
    with pytest.raises(OutOfRangeError):
        kind.made({kind.parameters[0].key: 1e6})
    with pytest.raises(UnknownNameError):
        kind.made({"nonsense": 1.0})


@given(
    petals=st.integers(3, 12),
    radius=st.floats(4, 40),
    spread=st.floats(4, 30),
    height=st.floats(4, 30),
    width=st.floats(4, 26),
)
def test_ring_arithmetic_is_trigonometry(petals, radius, spread, height, width):
    middle = radius + height / 2
    a, b = ((middle * math.cos(t), middle * math.sin(t)) for t in (0.0, 2 * math.pi / petals))
    assert petal_overlap_mm(petals, radius, spread, height, width) == pytest.approx(spread + width - math.dist(a, b))
    fit = petals_that_fit(radius, spread, height, width)
    assert petal_overlap_mm(fit, radius, spread, height, width) >= -1e-6
    if fit > 2:
        assert petal_overlap_mm(fit - 1, radius, spread, height, width) < 1e-6


@pytest.mark.parametrize(("radius", "meets"), [(9.0, True), (34.0, False)])
def test_petals_meet_where_the_arithmetic_says(radius, meets):
    made = motif("petal-ring").made({"radius_mm": radius, "spread_mm": 8, "height_mm": 14}, {"petal": 12.7})
    one, two = (swept(piece.stroke) for piece in made.pieces[:2])
    overlap = petal_overlap_mm(5, radius, 8, 14, 12.7)
    assert (overlap > 0) is meets
    assert one.intersects(two) is meets
    assert ("overlap" in made.says[0]) is meets


@pytest.mark.parametrize("key", [key for key, kind in MOTIFS.items() if kind.made().spacings])
@pytest.mark.parametrize("print_mm", [3.0, 12.7, 40.0])
def test_as_many_as_fit_leave_no_gap_and_one_fewer_does(key, print_mm):
    """On the way that the motif's own strokes take: count steps in a row, or a closed ring."""
    kind = motif(key)
    for space in kind.made(prints={part.key: print_mm for part in kind.parts}).spacings:
        assert space.allows_mm > 0
        assert space.overlap_mm == pytest.approx(space.allows_mm - space.step_mm)
        if space.closed:
            radius = space.step_mm / 2 / math.sin(math.pi / space.count)
            steps = [2 * radius * math.sin(math.pi / max(count, 2)) for count in (space.fit, space.fit - 1)]
        else:
            way = space.count * space.step_mm
            steps = [way / max(count, 1) for count in (space.fit, space.fit - 1)]
        assert steps[0] <= space.allows_mm + 1e-6 or space.fit <= 2
        if space.fit > 2:
            assert steps[1] > space.allows_mm - 1e-6


def test_spacings_stand_where_the_strokes_do():
    """Steps measured between the strokes that are made."""

    def feet(made, part):
        return [np.array(piece.stroke.path.points_mm[0]) for piece in made.pieces if (piece.part, piece.row) == part]

    scales = motif("scale-field").made({"columns": 4, "rows": 1}, {"scale": 12.7})
    steps = np.linalg.norm(np.diff(feet(scales, ("scale", 0)), axis=0), axis=1)
    assert steps == pytest.approx(scales.spacings[0].step_mm, abs=1e-6)
    fill = motif("fill").made({"high_mm": 100}, {"fill": 30.0})
    rows = sorted({piece.stroke.path.points_mm[0][1] for piece in fill.pieces})
    assert np.diff(rows) == pytest.approx(fill.spacings[0].step_mm)
    ring = motif("petal-ring").made({"petals": 7}, {"petal": 12.7, "inner": 12.7})
    tops = [np.mean(piece.stroke.path.points_mm, axis=0) for piece in ring.pieces]
    turns = np.diff(np.unwrap([math.atan2(y, x) for x, y in tops]))
    assert np.abs(turns) == pytest.approx(2 * math.pi / 7)


def test_ring_with_rows_twins_and_stagger():
    made = motif("petal-ring").made({"petals": 7, "rows": 3, "radius_mm": 40}, {"petal": 12.7, "inner": 12.7})
    assert [sum(piece.row == row for piece in made.pieces) for row in range(3)] == [7, 6, 5]
    closed = motif("petal-ring").made({"petals": 4, "radius_mm": 40, "twins": 1}, {"petal": 12.7, "inner": 12.7})
    assert len(closed.pieces) == 5
    assert "closed by a twin" in closed.says[0]


@pytest.mark.parametrize(("spread", "height"), [(10, 8), (16, 10)])
def test_scale_rows_leave_no_bare_skin(spread, height):
    """Share covered of the field between the first and the last row, by shapely."""
    made = motif("scale-field").made(
        {"columns": 5, "rows": 4, "spread_mm": spread, "height_mm": height}, {"scale": 12.7}
    )
    area = union_all([swept(piece.stroke) for piece in made.pieces])
    step = scale_step_mm(spread, 3, 12.7)
    rows = sorted({round(piece.stroke.path.points_mm[0][1], 3) for piece in made.pieces})
    field = Polygon([(-step, rows[0]), (step, rows[0]), (step, rows[-1] - 2), (-step, rows[-1] - 2)])
    assert field.intersection(area).area / field.area > 0.97


def test_converging_stripes_aim_at_one_point():
    made = motif("converging").made({"stripes": 7, "stop_mm": 10})
    for piece in made.pieces:
        start, end = np.array(piece.stroke.path.points_mm[0]), np.array(piece.stroke.path.points_mm[-1])
        way = (end - start) / np.linalg.norm(end - start)
        assert np.linalg.norm(end + 10 * way) == pytest.approx(0, abs=1e-3)


def test_dots_are_graded_and_in_triangles():
    made = motif("dots").made({"dots": 6, "triangle": 1, "first": 0.9, "last": 0.2})
    presses = [piece.stroke.pressure for piece in made.pieces]
    assert presses[0] == pytest.approx(0.9)
    assert presses[-1] == pytest.approx(0.2)
    assert len({round(piece.stroke.path.points_mm[0][1], 2) for piece in made.pieces}) == 3


def test_a_stroke_placed_keeps_its_lengths_in_proportion():
    stroke = Stroke(line((0, 0), (40, 0)), flips_mm=(10.0,), lift_mm=5.0)
    twice = Place(0, 0, 30, 2.0).stroke(stroke)
    assert (twice.flips_mm, twice.lift_mm) == ((20.0,), 10.0)
