"""Cheek from the side, forearm, back of the hand, lower leg, shoulder and neck.

Drawn in proportion to the face's height or the person's; common practice in drawing, defaults to be measured. The
drawings stand in data/limbs.txt.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from importlib.resources import files

from pennello.chart.chart import EYE, Chart, Feature, FeatureArea, Line, Point, Tone, Zone, mirrored_path
from pennello.chart.measures import SOURCE, Measures
from pennello.chart.shape import closed, part_of
from pennello.lay.families.shapes import smooth
from pennello.path.cubic import CubicPath

FOREARM, HAND, SHIN, UPPER_ARM, FOOT = 0.155, 0.108, 0.235, 0.186, 0.152
"""Elbow to wrist, wrist to fingertip, knee to ankle, shoulder to elbow, heel to toe over stature.

Defaults, from memory of usual proportions.
"""

_SHOULDER = 1.9
"""What the drawing of the shoulder is wide against the face's height."""

_LASH_LINE: tuple[Point, ...] = ((-0.4, 0.05), (-0.36, 0.085), (-0.31, 0.09), (-0.24, 0.05))
"""Where the lashes of a closed eye lie from the side, in parts of the face's height."""

_LASHES = 0.85
"""The weight of the upper lashes of an open eye, which no other line of the drawing has."""

_UNDER_HAIR = 0.2

_BEHIND = "behind/"

_Row = tuple[str, str, tuple[Point, ...]]


@cache
def _rows() -> dict[str, tuple[_Row, ...]]:
    """Return the drawings: kind, word and points of each row, by part of the body."""
    text = (files("pennello.chart") / "data" / "limbs.txt").read_text("utf-8")
    found: dict[str, list[_Row]] = {}
    for line in text.splitlines():
        if line.startswith("#"):
            continue
        part, kind, word, points = line.split("|")
        pairs = (pair.split(",") for pair in points.split(" "))
        found.setdefault(part, []).append((kind, word, tuple((float(x), float(y)) for x, y in pairs)))
    return {part: tuple(rows) for part, rows in found.items()}


def _drawing(part: str, key: str, name: str, size: float, *, mirrored: bool = False) -> Chart:
    """Return a chart from its drawing, its points times a size, mm; mirrored if it is of the other side."""

    def path(points: tuple[Point, ...], *, ring: bool) -> CubicPath:
        sized = [(round(x * size, 3), round(y * size, 3)) for x, y in points]
        made = closed(sized) if ring else smooth(sized)
        return mirrored_path(made) if mirrored else made

    def point(at: Point) -> Point:
        return (round((-at[0] if mirrored else at[0]) * size, 3), round(at[1] * size, 3))

    def of(*kinds: str) -> list[tuple[str, str, tuple[Point, ...]]]:
        return [row for row in _rows()[part] if row[0] in kinds]

    skin = path(of("skin")[0][2], ring=True)
    bare = [points[0] for _, _, points in of("bare")]
    lines = [Line(path(at, ring=kind == "closed"), float(weight)) for kind, weight, at in of("closed", "line")]
    zones = [Zone(word.split("/")[1], word.split("/")[0], path(points, ring=True)) for _, word, points in of("zone")]
    areas = [
        FeatureArea(path(points, ring=True), Feature(word.removeprefix(_BEHIND)), word.startswith(_BEHIND))
        for _, word, points in of("area")
    ]
    return Chart(
        key,
        name,
        skin,
        (*_contours(skin, bare), *lines),
        tuple((word, point(points[0])) for _, word, points in of("mark")),
        tuple(zones),
        tuple((word, path(points, ring=False)) for _, word, points in of("frame")),
        None,
        SOURCE,
        tuple(areas),
        tuple(Tone(path(points, ring=False), *map(float, word.split("/"))) for _, word, points in of("tone")),
        tuple((word, (*point(points[0]), round(points[1][0] * size, 3))) for _, word, points in of("view")),
    )


def _contours(skin: CubicPath, bare: list[Point]) -> list[Line]:
    """Return the outline as a contour, but for what of it has hair before it."""
    if not bare:
        return [Line(skin, 1.0)]
    first, last = (round(at) for at in bare[0])
    return [Line(part_of(skin, first, last), 1.0), Line(part_of(skin, last, first), _UNDER_HAIR)]


def cheek(measures: Measures, *, left: bool, eyes_closed: bool = False) -> Chart:
    """Return the head from the side; the wearer's left cheek looks to the left of the picture."""
    key, size = ("cheek-left" if left else "cheek-right"), measures.face_height_mm
    chart = _drawing("cheek", key, f"Cheek, {_whose(left=left)}", size, mirrored=not left)
    return _with_eye_closed(chart, size, mirrored=not left) if eyes_closed else chart


def _with_eye_closed(chart: Chart, size: float, *, mirrored: bool) -> Chart:
    """Return a chart with its eye's lid down: the outline gives way to the line of the lashes."""
    eye = next(zone.outline for zone in chart.zones if zone.kind == "eye")
    sized = smooth([(round(x * size, 3), round(y * size, 3)) for x, y in _LASH_LINE])
    lid = Line(mirrored_path(sized) if mirrored else sized, 0.9)
    zones = tuple(Zone("closed lid", "lid", zone.outline) if zone.kind == "eye" else zone for zone in chart.zones)
    lines = (*(line for line in chart.lines if line.path != eye and line.weight != _LASHES), lid)
    areas = tuple(area for area in chart.areas if area.feature not in EYE)
    key, name = f"{chart.key}-eye-closed", f"{chart.name}, eye closed"
    return replace(chart, key=key, name=name, lines=lines, zones=zones, areas=areas)


def forearm(measures: Measures, *, left: bool) -> Chart:
    """Return the inside of the forearm, the thumb's side up: a left one from elbow (left) to wrist (right)."""
    key, size = ("forearm" if left else "forearm-right"), FOREARM * measures.stature_mm
    return _drawing("forearm", key, f"Forearm, {_whose(left=left)}", size, mirrored=not left)


def forearm_outside(measures: Measures, *, left: bool) -> Chart:
    """Return the outside of the forearm, the thumb's side down: a left one from elbow (left) to wrist (right)."""
    key, size = ("forearm-outside" if left else "forearm-outside-right"), FOREARM * measures.stature_mm
    return _drawing("forearm-outside", key, f"Forearm from outside, {_whose(left=left)}", size, mirrored=not left)


def upper_arm(measures: Measures, *, left: bool) -> Chart:
    """Return the upper arm from the outside, shoulder to elbow: a left one has its front at the left."""
    key, size = ("upper-arm" if left else "upper-arm-right"), UPPER_ARM * measures.stature_mm
    return _drawing("upper-arm", key, f"Upper arm, {_whose(left=left)}", size, mirrored=not left)


def palm(measures: Measures, *, left: bool) -> Chart:
    """Return the palm side of a hand, fingers up: a left one with its thumb at the left."""
    key, size = ("palm" if left else "palm-right"), HAND * measures.stature_mm
    return _drawing("palm", key, f"Palm, {_whose(left=left)}", size, mirrored=not left)


def foot(measures: Measures, *, left: bool) -> Chart:
    """Return a foot from above, toes down, as one sits before it: a left one has its big toe at the left."""
    key, size = ("foot" if left else "foot-right"), FOOT * measures.stature_mm
    return _drawing("foot", key, f"Foot, {_whose(left=left)}", size, mirrored=not left)


def hand(measures: Measures, *, left: bool) -> Chart:
    """Return the back of a hand, fingers up: a right one with its thumb at the left."""
    key, size = ("hand-left" if left else "hand"), HAND * measures.stature_mm
    return _drawing("hand", key, f"Hand, {_whose(left=left)}", size, mirrored=left)


def leg(measures: Measures, *, left: bool) -> Chart:
    """Return the lower leg from the knee (top) to the ankle, from the outside: a left one looks to the left."""
    key, size = ("leg" if left else "leg-right"), SHIN * measures.stature_mm
    return _drawing("leg", key, f"Leg, {_whose(left=left)}", size, mirrored=not left)


def shoulder(measures: Measures, *, left: bool) -> Chart:
    """Return the neck and a shoulder from the front: the wearer's left one is at the right of the picture."""
    key, size = ("shoulder" if left else "shoulder-right"), _SHOULDER * measures.face_height_mm
    return _drawing("shoulder", key, f"Shoulder, {_whose(left=left)}", size, mirrored=not left)


def _whose(*, left: bool) -> str:
    return f"wearer's {'left' if left else 'right'}"
