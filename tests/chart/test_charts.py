"""Charts: proportions against the named surveys, symmetry, and SVG read by an independent parser."""

import numpy as np
import pytest
from defusedxml.ElementTree import fromstring
from fontTools.pens.boundsPen import BoundsPen
from fontTools.svgLib.path import parse_path
from shapely import Point, Polygon

from pennello.chart.catalogue import CHARTS, chart
from pennello.chart.chart import drawn, mirrored_path
from pennello.chart.face import PUPILS
from pennello.chart.measures import Age, Measures, usual
from pennello.chart.shape import closed, part_of
from pennello.design.touch import skin_shape, zone_shape
from pennello.errors import OutOfRangeError, UnknownNameError
from pennello.files.chart_svg import chart_svg

ADULT = usual(Age.ADULT)


@pytest.mark.parametrize("age", list(Age))
def test_face_keeps_what_was_measured(age):
    measures = usual(age)
    face = chart("face", measures)
    skin = drawn(face.skin)
    assert np.ptp(skin[:, 0]) == pytest.approx(measures.head_breadth_mm, rel=0.02)
    assert skin[:, 1].max() == pytest.approx(measures.face_height_mm, rel=0.02)
    right, left = (face.landmark(f"pupil, wearer's {side}") for side in ("right", "left"))
    assert left[0] - right[0] == pytest.approx(PUPILS * measures.head_breadth_mm)
    assert right[0] < 0 < left[0]


@pytest.mark.parametrize(("breadth", "pupils"), [(152, 64.7), (144, 62.3)])
def test_pupils_stand_apart_as_in_the_survey(breadth, pupils):
    """Gordon et al. 1989 (1988 survey), means of men and women, values from memory."""
    face = chart("face", Measures(head_breadth_mm=breadth))
    apart = face.landmark("pupil, wearer's left")[0] - face.landmark("pupil, wearer's right")[0]
    assert apart == pytest.approx(pupils, rel=0.03)


def test_children_are_smaller_and_ages_rise():
    sizes = [usual(age) for age in Age]
    for name in ("head_breadth_mm", "face_height_mm", "stature_mm"):
        values = [getattr(one, name) for one in sizes]
        assert values == sorted(values)


def test_face_is_symmetric():
    face = chart("face", ADULT)
    left, right = (
        {name.split(",")[0]: point for name, point in face.landmarks if name.endswith(f"wearer's {side}")}
        for side in ("left", "right")
    )
    assert left
    for name, (x, y) in left.items():
        assert right[name] == pytest.approx((-x, y))
    assert face.midline_mm == 0


@pytest.mark.parametrize("key", list(CHARTS))
def test_charts_are_whole(key):
    made = chart(key, ADULT)
    assert made.landmarks
    assert made.frames
    left, top, right, bottom = made.bounds_mm
    assert right - left > 40
    assert bottom - top > 30
    skin = drawn(made.skin)
    for zone in made.zones:
        assert skin_shape(made).intersection(zone_shape(zone)).area > 0.8 * zone_shape(zone).area
    for name, point in made.landmarks:
        if "ear" not in name:
            near = np.linalg.norm(skin - point, axis=1).min()
            assert skin_shape(made).contains(Point(point)) or near < 8, name


@pytest.mark.parametrize("key", list(CHARTS))
def test_svg_has_the_same_bounds_in_another_parser(key):
    made = chart(key, ADULT)
    root = fromstring(chart_svg(made))
    name = "{http://www.w3.org/2000/svg}"
    paths = [root.find(f"{name}path[@id='skin']"), *root.find(f"{name}g[@id='lines']")]
    paths += [*root.find(f"{name}g[@id='behind']"), *root.find(f"{name}g[@id='features']")]
    pen = BoundsPen(None)
    for path in paths:
        parse_path(path.get("d"), pen)
    assert pen.bounds == pytest.approx(made.bounds_mm, abs=1.0)
    view = [float(value) for value in root.get("viewBox").split()]
    assert view[2] == pytest.approx(made.bounds_mm[2] - made.bounds_mm[0] + 10, abs=0.01)
    assert root.get("width") == f"{view[2]:.3f}mm"


def test_cheeks_mirror_each_other():
    left, right = chart("cheek-left", ADULT), chart("cheek-right", ADULT)
    assert drawn(right.skin) == pytest.approx(drawn(mirrored_path(left.skin)))
    assert right.landmark("ear")[0] == -left.landmark("ear")[0]


def test_wrong_measures_and_names_get_a_sentence():
    with pytest.raises(OutOfRangeError, match="head breadth"):
        Measures(head_breadth_mm=20)
    with pytest.raises(UnknownNameError, match="chart"):
        chart("elbow", ADULT)
    with pytest.raises(UnknownNameError, match="landmark"):
        chart("face", ADULT).landmark("horn")
    with pytest.raises(UnknownNameError, match="frame"):
        chart("face", ADULT).frame("square")


@pytest.mark.parametrize(
    ("one", "other"),
    [
        ("cheek-left", "cheek-right"),
        ("forearm", "forearm-right"),
        ("forearm-outside", "forearm-outside-right"),
        ("upper-arm", "upper-arm-right"),
        ("hand-left", "hand"),
        ("palm", "palm-right"),
        ("foot", "foot-right"),
        ("leg", "leg-right"),
        ("shoulder", "shoulder-right"),
    ],
)
def test_both_sides_of_the_body_are_mirror_images_and_say_whose(one, other):
    left, right = chart(one, ADULT), chart(other, ADULT)
    assert left.name.endswith("wearer's left")
    assert right.name.endswith("wearer's right")
    assert CHARTS[one][0] == left.name
    assert CHARTS[other][0] == right.name
    for (name, (x, y)), (same, at) in zip(left.landmarks, right.landmarks, strict=True):
        assert name == same
        assert at == pytest.approx((-x, y))
    assert np.allclose(drawn(mirrored_path(left.skin)), drawn(right.skin), atol=0.01)


def test_thumbs_are_on_the_side_where_they_grow():
    """The back of a right hand, fingers up, has its thumb at the left; so has the inside of a left arm, fingers right,
    its thumb's side up."""
    hand, arm = chart("hand", ADULT), chart("forearm", ADULT)
    assert hand.landmark("thumb")[0] < hand.landmark("little finger")[0]
    assert arm.landmark("elbow")[0] < arm.landmark("wrist")[0]
    assert arm.landmark("thumb side")[1] < arm.landmark("little finger side")[1]


def test_other_sides_turn_as_they_do():
    """Seen from outside the thumb's side of an arm lies down; a palm shows its thumb on the other side than its back;
    the big toe of the wearer's left foot, toes down, lies at the picture's left."""
    outside, back, palm, foot = (chart(key, ADULT) for key in ("forearm-outside", "hand-left", "palm", "foot"))
    assert outside.landmark("thumb side")[1] > outside.landmark("little finger side")[1]
    assert np.sign(back.landmark("thumb")[0]) == -np.sign(palm.landmark("thumb")[0])
    assert foot.landmark("big toe")[0] < foot.landmark("little toe")[0]


@pytest.mark.parametrize("key", list(CHARTS))
def test_close_views_show_skin(key):
    for name, (x, y, width) in chart(key, ADULT).views:
        assert skin_shape(chart(key, ADULT)).contains(Point(x, y)), name
        assert 20 < width < 400


def test_a_point_named_twice_is_a_corner_and_nothing_loops():
    """A square of doubled points is the square: its area by the shoelace formula."""
    corners = [(0.0, 0.0), (40.0, 0.0), (40.0, 30.0), (0.0, 30.0)]
    path = closed([corner for corner in corners for _ in range(2)])
    assert Polygon(drawn(path)).area == pytest.approx(1200)
    assert Polygon(drawn(path)).length == pytest.approx(140)


def test_part_of_an_outline_goes_round_its_end():
    ring = closed([(1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0)])
    first, second = part_of(ring, 3, 1), part_of(ring, 1, 3)
    assert first.points_mm[0] == ring.points_mm[9]
    assert first.points_mm[-1] == second.points_mm[0] == ring.points_mm[3]
    assert len(first.points_mm) == len(second.points_mm) == 7
