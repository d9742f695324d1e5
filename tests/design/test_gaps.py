"""Holes between parts, held against discs and slits of known size; dots and drops that fill them."""

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
from lantern_face import demo_plan

from pennello.design.gaps import LEAST_MM, MOST_MM, gaps_on, with_gaps_filled
from pennello.design.line_work import with_line_load
from pennello.design.marks import Reserved
from pennello.design.on_chart import laid_pieces, pieces_on, with_motif
from pennello.design.part import PlanPart
from pennello.design.placed import FREE, SINGLE, PlacedMotif
from pennello.design.touch import swept, together
from pennello.lay.families.shapes import arc
from pennello.lay.stroke import Nib, NibMode, Stroke
from pennello.motif.place import Place
from pennello.path.cubic import line

WIDE = 4.0


def drawn(*ways, parts=None):
    """A forehead with lines of a 4 mm round on it, each of a part of its own as a rule."""
    plan = replace(demo_plan(), motifs=(), parts=(), overlays=(), reserved=())
    plan, load = with_line_load(plan, "#205080", WIDE)
    press = plan.stroke(load).stroke.pressure
    names = parts or [f"part-{number}" for number in range(len(ways))]
    plan = replace(plan, parts=tuple(PlanPart(name, name) for name in dict.fromkeys(names)))
    for number, (way, part) in enumerate(zip(ways, names, strict=True)):
        stroke = Stroke(way, Nib(NibMode.FOLLOWING, 90.0), press)
        piece = PlacedMotif(f"p{number}", "P", FREE, ((SINGLE, load),), place=Place(0.0, -45.0), part=part, way=stroke)
        plan = with_motif(plan, piece)
    return plan, load


def half_ring(radius, turned):
    return arc(radius, turned, turned + 180.0)


def test_a_round_hole_between_two_parts_is_found_with_its_size():
    """Between two half rings led 5 mm from the middle by a brush 4 mm wide a disc of 3 mm is left."""
    plan, _ = drawn(half_ring(5.0, 0.0), half_ring(5.0, 180.0))
    (gap,) = gaps_on(plan, "face")
    assert (gap.x_mm, gap.y_mm) == pytest.approx((0.0, -45.0), abs=0.3)
    laid = together([swept(plan, one) for one in pieces_on(plan, "face")])
    free = laid.distance(shapely.Point(gap.x_mm, gap.y_mm))
    assert gap.radius_mm == pytest.approx(free - 0.4, abs=0.15)  # less the air round a dot
    assert not gap.is_long


def test_what_one_part_leaves_open_in_itself_is_meant():
    ways = (half_ring(5.0, 0.0), half_ring(5.0, 180.0))
    assert gaps_on(drawn(*ways, parts=["ring", "ring"])[0], "face") == ()


def test_wide_and_narrow_openings_are_none():
    for radius in (MOST_MM + 12.0, WIDE / 2 + LEAST_MM / 2):
        plan, _ = drawn(half_ring(radius, 0.0), half_ring(radius, 180.0))
        assert gaps_on(plan, "face") == ()


def test_a_place_that_is_kept_is_no_gap():
    plan, _ = drawn(half_ring(5.0, 0.0), half_ring(5.0, 180.0))
    kept = replace(plan, reserved=(Reserved("horn", 0.0, -45.0, 4.0),))
    assert gaps_on(kept, "face") == ()


def test_a_slit_is_filled_by_a_drop_along_it():
    plan, load = drawn(*(line((-15.0, side * 3.6), (15.0, side * 3.6)) for side in (-1, 1)))
    (gap,) = gaps_on(plan, "face")
    assert gap.is_long
    assert math.dist(*gap.along) == pytest.approx(30, abs=6)
    filled, name = with_gaps_filled(plan, "face", load)
    placed = filled.motifs[-1]
    assert placed.id == name
    (drop,) = laid_pieces(filled, placed, 0.0)
    (x0, y0), *_, (x1, y1) = drop.stroke.path.points_mm
    assert abs(x1 - x0) > 15
    assert (y0 + y1) / 2 == pytest.approx(-45, abs=0.5)
    assert drop.stroke.pressures[0].value > drop.stroke.pressures[-1].value


def test_dots_lie_in_the_holes_and_touch_nothing():
    plan, load = drawn(half_ring(6.0, 0.0), half_ring(6.0, 180.0))
    before = together([swept(plan, one) for one in pieces_on(plan, "face")])
    filled, name = with_gaps_filled(plan, "face", load)
    dots = [swept(filled, one) for one in pieces_on(filled, "face") if one.motif == name]
    assert dots
    assert together(dots).intersection(before).area < 0.1
    assert gaps_on(filled, "face") == () or gaps_on(filled, "face")[0].radius_mm < gaps_on(plan, "face")[0].radius_mm


def test_a_whole_face_has_its_gaps_on_both_sides():
    from pennello.files.demo import shipped_design

    found = gaps_on(shipped_design("dahlia-crown").plan(), "face")
    sides = np.array([[gap.x_mm, gap.y_mm] for gap in found if abs(gap.x_mm) > 10])
    assert len(sides) >= 6
    mirrored = sides * [-1, 1]
    assert all(np.hypot(*(sides - one).T).min() < 1.0 for one in mirrored)


def test_one_part_alone_or_an_empty_chart_has_none():
    assert gaps_on(drawn(half_ring(5.0, 0.0))[0], "face") == ()
    plan = replace(demo_plan(), motifs=(), parts=())
    assert with_gaps_filled(plan, "face", "line-foam-white") == (plan, "")
