"""Cheek from the side, forearm and upper arm, hand and palm, lower leg and foot, shoulder and neck.

Drawn in proportion to the face's height or the person's; common practice in drawing, defaults to be measured. The
drawings stand in data/limbs.txt.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cache, partial
from importlib.resources import files

from pennello.chart.chart import EYE, Chart, Feature, FeatureArea, Line, Point, Tone, Zone, mirrored_path
from pennello.chart.measures import SOURCE, Measures
from pennello.chart.shape import closed, part_of
from pennello.lay.families.shapes import smooth
from pennello.path.cubic import CubicPath
from pennello.phrases import mark, phrase

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


def _with_eye_closed(chart: Chart, size: float, *, mirrored: bool) -> Chart:
    """Return a chart with its eye's lid down: the outline gives way to the line of the lashes."""
    eye = next(zone.outline for zone in chart.zones if zone.kind == "eye")
    sized = smooth([(round(x * size, 3), round(y * size, 3)) for x, y in _LASH_LINE])
    lid = Line(mirrored_path(sized) if mirrored else sized, 0.9)
    zones = tuple(Zone(mark("closed lid"), "lid", zone.outline) if zone.kind == "eye" else zone for zone in chart.zones)
    lines = (*(line for line in chart.lines if line.path != eye and line.weight != _LASHES), lid)
    areas = tuple(area for area in chart.areas if area.feature not in EYE)
    return replace(chart, lines=lines, zones=zones, areas=areas)


@dataclass(frozen=True, slots=True)
class Limb:
    """A part of the body with a left and a right one, of which one is drawn and the other mirrored.

    Attributes
    ----------
    part
        Its drawing in data/limbs.txt.
    drawn, mirrored
        Keys of the chart as it is drawn, and of its mirror image.
    share, of
        What its drawing is wide or long, against which of the person's measures.
    left
        Whether the wearer's left one is drawn.
    eye
        Whether there is an eye, which may be closed.
    """

    part: str
    name: str
    drawn: str
    mirrored: str
    share: float
    of: str
    left: bool = True
    eye: bool = False

    @property
    def charts(self) -> Iterator[tuple[str, str, Callable[[Measures], Chart]]]:
        """Key, name and maker of each chart of it, the drawn one first."""
        for key, mirrored in ((self.drawn, False), (self.mirrored, True)):
            name = (
                phrase("{name}, wearer's left", name=self.name)
                if self.left != mirrored
                else phrase("{name}, wearer's right", name=self.name)
            )
            yield key, name, partial(self._chart, key, name, mirrored=mirrored)
            if self.eye:
                key_closed, name_closed = f"{key}-eye-closed", phrase("{name}, eye closed", name=name)
                yield key_closed, name_closed, partial(self._closed, key_closed, name_closed, mirrored=mirrored)

    def _chart(self, key: str, name: str, measures: Measures, *, mirrored: bool) -> Chart:
        return _drawing(self.part, key, name, self._size_mm(measures), mirrored=mirrored)

    def _closed(self, key: str, name: str, measures: Measures, *, mirrored: bool) -> Chart:
        drawn = self._chart(key, name, measures, mirrored=mirrored)
        return _with_eye_closed(drawn, self._size_mm(measures), mirrored=mirrored)

    def _size_mm(self, measures: Measures) -> float:
        return self.share * float(getattr(measures, self.of))


_FACE, _STATURE = "face_height_mm", "stature_mm"

LIMBS = (
    Limb("cheek", phrase("Cheek"), "cheek-left", "cheek-right", 1.0, _FACE, eye=True),
    Limb("forearm", phrase("Forearm"), "forearm", "forearm-right", 0.155, _STATURE),
    Limb(
        "forearm-outside", phrase("Forearm from outside"), "forearm-outside", "forearm-outside-right", 0.155, _STATURE
    ),
    Limb("upper-arm", phrase("Upper arm"), "upper-arm", "upper-arm-right", 0.186, _STATURE),
    Limb("hand", phrase("Hand"), "hand", "hand-left", 0.108, _STATURE, left=False),
    Limb("palm", phrase("Palm"), "palm", "palm-right", 0.108, _STATURE),
    Limb("leg", phrase("Leg"), "leg", "leg-right", 0.235, _STATURE),
    Limb("foot", phrase("Foot"), "foot", "foot-right", 0.152, _STATURE),
    Limb("shoulder", phrase("Shoulder"), "shoulder", "shoulder-right", 1.9, _FACE),
)
"""Elbow to wrist, shoulder to elbow, wrist to fingertip, knee to ankle, heel to toe over stature; the shoulder's
drawing over the face's height. Defaults, from memory of usual proportions.

The drawn cheek looks to the left of the picture. Forearms lie from elbow (left) to wrist (right): from inside with the
thumb's side up, from outside with it down. Upper arm and leg are seen from the outside, their front at the left. Back
and palm of a hand have their fingers up and the thumb at the left; a foot is seen from above, toes down, the big toe at
the left; the shoulder is seen from the front.
"""

BY_STATURE = frozenset(key for limb in LIMBS if limb.of == _STATURE for key, _, _ in limb.charts)
"""Charts that are drawn in proportion to the stature; all others are to the face."""
