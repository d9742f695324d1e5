"""The catalogue as it is laid: rims, holes, feet, halves that meet, reflections, half and double size.

What is asked are a painter's own questions (common practice, no published source); shapes are measured on films that
the kernel lays, and on swept areas made by shapely.
"""

import math
from dataclasses import replace
from functools import cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage
from shapely import convex_hull, multipoints, union_all

from pennello.colour.lab import picture_lab
from pennello.design.on_chart import painted_plan, with_new_motif
from pennello.design.scene import paint_all
from pennello.kit import catalogue
from pennello.kit.applicator import GradientAxis
from pennello.lay.coverage import hulls
from pennello.lay.engine import kernel
from pennello.lay.laying import pull
from pennello.lay.skin_film import Box
from pennello.motif.catalogue import MOTIFS, motif
from pennello.motif.place import Place
from pennello.motif.roles import Check
from pennello.session.catalogue import motif_plan

FILLED = {
    "shell-flower": 1.0,
    "tea-rose": 1.0,
    "rose-open": 1.0,
    "whole-heart": 1.0,
    "peaks": 1.0,
    "flower-spray": 99.0,
}
"""Motifs that are closed, and the largest hole within their outline that they may have, mm2."""

RIMMED = ("shell-flower", "tea-rose", "rose-open", "rose-closed")
PX = 4.0
WANTED = """
shell-flower press-ring rose-open rose-closed tea-rose rose-half rosebud whole-leaf two-leaves leaf-sprig many-petals
daisy dip-flower tulip barbed-feather plume lobed-butterfly hanging-moth waved-fin fish-tail scale-rows curling-waves
peaks flame-border horns fur-head aimed-stripes snow-figure radial-figure eye-mask moon-stars bubbles lips eye-frame
swirl-trail dot-set whole-heart
"""


def tool_of(kind, part):
    return catalogue.brushes()[kind.part(part).tool]


def area_of(stroke, brush):
    track = pull(stroke, brush, GradientAxis.ACROSS).track
    return union_all(convex_hull(multipoints(hulls(track, 3.0))))


def areas(kind, values):
    """Return each piece with the area that it sweeps, laid with its part's usual brush."""
    return _areas(kind.key, tuple(values.items()))


@cache
def _areas(key, items):
    kind, values = motif(key), dict(items)
    widths = {part.key: catalogue.brushes()[part.tool].width_mm for part in kind.parts}
    return [(piece, area_of(piece.stroke, tool_of(kind, piece.part))) for piece in kind.made(values, widths).pieces]


def holes_mm2(shape):
    whole = shape.buffer(0.15)
    pieces = getattr(whole, "geoms", [whole])
    return [type(piece)(ring).area for piece in pieces for ring in piece.interiors]


def seeded(kind, seed):
    """Return numbers of a motif about its defaults, from 0.8 to 1.25 times each, the whole ones by one or two."""
    rng = np.random.default_rng(seed)
    values = {}
    for one in kind.parameters:
        if one.key in ("arc_deg", "tip_in", "twins", "uneven", "dark_outside", "triangle"):
            continue
        free = one.default * rng.uniform(0.85, 1.2)
        whole = one.unit == "×" and one.key != "size"
        value = round(one.default + rng.integers(-1, 2)) if whole else free
        low = 2.0 if one.key == "rows" else one.low  # one row of petals leaves its middle open
        values[one.key] = float(min(max(value, low), one.high))
    if kind.key == "shell-flower":  # rows that stand wider apart leave the middle open, as they say
        values["inset_mm"] = max(values["inset_mm"], values["heel_mm"] + 6.4)
    return values


def test_the_catalogue_has_what_painters_ask_for():
    assert len(MOTIFS) >= 34
    assert set(WANTED.split()) <= set(MOTIFS)
    for kind in MOTIFS.values():
        assert all(part.role.wish and part.role.words for part in kind.parts), kind.key
        assert all(1 <= part.reload <= 40 for part in kind.parts)


@pytest.mark.parametrize("key", FILLED)
def test_no_hole_within_a_filled_motif(key):
    shape = union_all([area for _, area in areas(motif(key), {})])
    assert max(holes_mm2(shape), default=0.0) <= FILLED[key]


@pytest.mark.parametrize("key", ["shell-flower", "whole-heart", "peaks", "tea-rose"])
@settings(max_examples=10)
@given(seed=st.integers(0, 10_000))
def test_no_hole_at_seeded_settings(key, seed):
    kind = motif(key)
    shape = union_all([area for _, area in areas(kind, seeded(kind, seed))])
    assert max(holes_mm2(shape), default=0.0) <= FILLED[key]


@pytest.mark.parametrize("key", RIMMED)
def test_the_rim_is_the_rims_colour_all_round(key, demo):
    """Along the outer contour of a flower at least 95 % is within 10 dE of the rim's colour."""
    plan = motif_plan(demo, key)
    film = paint_all(plan, PX, kernel())
    picture = kernel().picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns))
    painted = ndimage.binary_fill_holes(film.cover > 0.5)
    inner = ndimage.binary_erosion(painted, iterations=round(1.0 * PX))
    band = ndimage.binary_erosion(painted, iterations=round(0.7 * PX)) & ~inner
    lab = picture_lab(picture)[band]
    rim = np.median(lab, axis=0)
    assert rim[0] > 75, "the rim is the light end of the load"
    near = np.linalg.norm(lab - rim, axis=1) < 15  # about 10 dE2000 near white
    assert near.mean() >= 0.95


@pytest.mark.parametrize("length_mm", [12.0, 24.0, 48.0])
def test_leaf_halves_meet(length_mm):
    (_, one), (_, other) = areas(motif("whole-leaf"), {"length_mm": length_mm})[:2]
    assert one.distance(other) < 0.5
    gap = union_all([one, other]).buffer(0.25).buffer(-0.25)
    assert gap.geom_type == "Polygon", "one leaf"
    tip = max(one.bounds[2], other.bounds[2])
    at_tip = [area for area in (one, other) if area.bounds[2] > tip - 0.5]
    assert len(at_tip) == 2
    assert at_tip[0].intersects(at_tip[1].buffer(0.5))


def test_heart_and_peak_close():
    (_, left), (_, right) = areas(motif("whole-heart"), {})
    assert left.distance(right) < 0.5
    low = [max(area.exterior.coords, key=lambda point: point[1]) for area in (left, right)]
    assert math.dist(*low) < 1.0, "both halves end at one point"
    made = areas(motif("peaks"), {"peaks": 1})
    assert made[0][1].distance(made[1][1]) < 0.5
    tips = [min(area.exterior.coords, key=lambda point: point[1]) for _, area in made]
    assert math.dist(*tips) < 1.5, "no wider than the chisel is thick"


def test_scales_leave_no_skin_between():
    """Between the middle of the first row and the feet of the last but one no skin is bare, at any usual size."""
    kind = motif("scale-rows")
    for values in ({}, {"scales": 3, "rows": 6}, {"scales": 8, "rows": 3}):
        made = areas(kind, values)
        rows = max(piece.row for piece, _ in made)
        whole = union_all([area for _, area in made])
        first = union_all([area for piece, area in made if piece.row == 0])
        low = union_all([area for piece, area in made if piece.row == rows]).bounds[1] + 2
        middle = kind.values(values)["spread_mm"] * (kind.values(values)["scales"] - 1) / 2
        from shapely import box

        field = box(-middle, first.bounds[1] + 7, middle, low)
        assert field.difference(whole.buffer(0.1)).area <= 0.005 * field.area


@pytest.mark.parametrize(
    "key", ["lobed-butterfly", "hanging-moth", "horns", "tulip", "eye-mask", "fish-tail", "fur-head"]
)
def test_a_mirrored_motif_is_the_reflected_picture(key, demo):
    """Put on mirrored, its strokes sweep the reflected areas (to a pixel of the film)."""
    kind = motif(key)
    for piece, area in areas(kind, {})[:8]:
        mirrored = area_of(Place(mirrored=True).stroke(piece.stroke), tool_of(kind, piece.part))
        minx, miny, maxx, maxy = area.bounds
        assert mirrored.bounds == pytest.approx((-maxx, miny, -minx, maxy), abs=1 / PX)
        assert mirrored.area == pytest.approx(area.area, rel=0.01)


@pytest.mark.parametrize("size", [0.5, 2.0])
@pytest.mark.parametrize("key", ["shell-flower", "whole-heart", "whole-leaf", "peaks", "scale-rows", "lips"])
def test_half_and_double_size_with_the_brush_that_fits_are_the_same_shape(key, size):
    kind = motif(key)
    widths = {part.key: catalogue.brushes()[part.tool].width_mm for part in kind.parts}
    for piece in kind.made({}, widths).pieces[:6]:
        brush = tool_of(kind, piece.part)
        if brush.kind.dips:
            continue  # a line is as wide as its tip's belly spreads, whatever its length
        fitting = replace(brush, width_mm=brush.width_mm * size, thickness_mm=brush.thickness_mm * size)
        area, sized = area_of(piece.stroke, brush), area_of(Place(scale=size).stroke(piece.stroke), fitting)
        assert sized.area == pytest.approx(area.area * size**2, rel=0.06)
        assert np.array(sized.bounds) == pytest.approx(np.array(area.bounds) * size, abs=0.6 * max(size, 1))


@pytest.mark.parametrize("key", [one.key for one in MOTIFS.values() if one.group in ("flowers", "leaves", "wings")])
def test_no_blunt_foot_is_in_sight(key):
    """Both ends of a stroke are thin, or under or over its neighbours, or on a radius that reaches the middle."""
    kind = motif(key)
    made = areas(kind, {})
    for number, (piece, _) in enumerate(made):
        brush = tool_of(kind, piece.part)
        if brush.kind.dips or brush.kind.pressed:
            continue
        track = pull(piece.stroke, brush, GradientAxis.ACROSS).track
        ribbon = track.touch_mm * np.sin(track.phi) + track.thicknesses_mm * np.cos(track.phi)
        for end in (0, -1):
            if ribbon[end] < 0.35 * ribbon.max() or track.pressure[end] <= 0.2:
                continue
            others = union_all([area for n, (_, area) in enumerate(made) if n != number])
            edge = multipoints(track.points(np.array([end % len(track.s_mm)]), np.linspace(0.1, 0.9, 5))[0])
            inside = sum(others.buffer(1.0).contains(point) for point in edge.geoms)
            assert inside >= 3, f"{piece.part} {number} ends broad in sight"


def test_checks_and_loads_are_data_of_the_motif(demo):
    assert Check.LINE_WORK in motif("dot-set").part("dot").checks
    assert motif("wave").part("white").wet.value == "pulled through what is still wet"
    plan, name = with_new_motif(demo, "daisy", "face", Place())
    assert {part.reload for part in motif("daisy").parts} == {3, 6}
    assert len(painted_plan(replace(plan, motifs=plan.motifs[-1:]), "face").strokes) > 13
    assert name == "daisy"


@pytest.mark.parametrize(
    ("key", "values"), [("lobed-butterfly", {}), ("lobed-butterfly", {"size": 2}), ("hanging-moth", {})]
)
def test_wings_are_apart_and_what_is_on_them_is_on_them(key, values):
    """Four wings, each with its own outline: run into one they were a disc, which no painter calls a butterfly."""
    made = areas(motif(key), values)
    wings = [area for piece, area in made if piece.part in ("upper", "lower")]
    assert len(wings) == 4
    for number, one in enumerate(wings):
        for other in wings[:number]:
            assert one.intersection(other).area <= 0.02 * min(one.area, other.area)
    on_them = "line" if key == "lobed-butterfly" else "spot"
    for piece, area in made:
        if piece.part == on_them:
            assert area.difference(union_all(wings).buffer(0.2)).area <= 0.35 * area.area
