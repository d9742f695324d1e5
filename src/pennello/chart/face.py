"""The face from the front, drawn from head breadth and face height; the root of the nose lies at 0, 0.

Proportions are common practice in drawing; interpupillary breadth over head breadth is 0.43 as in the adults' survey.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from pennello.chart import face_form
from pennello.chart.chart import Chart, Line, Point, Zone, mirrored_path
from pennello.chart.measures import SOURCE, Measures
from pennello.chart.shape import both, closed, part_of, symmetric
from pennello.lay.families.shapes import smooth
from pennello.path.cubic import CubicPath
from pennello.phrases import mark, phrase

PUPILS = 0.43
"""Interpupillary breadth over head breadth (Gordon et al. 1989, from memory: 65 of 152, 62 of 144)."""


def face(measures: Measures, *, eyes_closed: bool = False) -> Chart:
    """Return the chart of a face, its eyes open or closed."""
    breadth, height = measures.head_breadth_mm, measures.face_height_mm

    def at(x: float, y: float) -> Point:
        """Return a point from parts of the head's breadth and of the face's height."""
        return (round(x * breadth, 3), round(y * height, 3))

    return Chart(
        "face-eyes-closed" if eyes_closed else "face",
        phrase("Face, eyes closed") if eyes_closed else phrase("Face"),
        _skin(at),
        (*_lines(at), *(_closed_eyes(at) if eyes_closed else _open_eyes(at))),
        _landmarks(at),
        _zones(at, "lid" if eyes_closed else "eye"),
        _frames(at),
        0.0,
        SOURCE,
        face_form.areas(at, eyes_closed=eyes_closed, eye=closed(_eye(at)), lips=_lips(at)),
        face_form.tones(at),
        face_form.views(at),
    )


_At = Callable[[float, float], Point]


def _skin(at: _At) -> CubicPath:
    half = (
        (0.0, -0.86),
        (0.22, -0.81),
        (0.40, -0.62),
        (0.485, -0.30),
        (0.50, 0.0),
        (0.475, 0.32),
        (0.43, 0.58),
        (0.34, 0.80),
        (0.215, 0.94),
        (0.11, 0.992),
        (0.0, 1.005),
    )
    return symmetric([at(x, y) for x, y in half])


_EAR = 4
"""Which curve of the outline, from the top, begins at the ear: below it is a contour, above it lies hair."""


def _eye(at: _At) -> list[Point]:
    return [
        at(0.118, 0.045),
        at(0.165, -0.002),
        at(0.215, -0.018),
        at(0.270, 0.002),
        at(0.312, 0.040),
        at(0.265, 0.072),
        at(0.215, 0.082),
        at(0.160, 0.072),
    ]


def _lips(at: _At) -> list[Point]:
    half = [at(0.0, 0.600), at(0.045, 0.583), at(0.105, 0.612), at(0.168, 0.652), at(0.10, 0.712), at(0.0, 0.735)]
    return [*half, *[(-x, y) for x, y in reversed(half[1:-1])]]


def _nostril(at: _At) -> list[Point]:
    return [at(0.030, 0.452), at(0.055, 0.438), at(0.082, 0.452), at(0.055, 0.464)]


def _lines(at: _At) -> tuple[Line, ...]:
    ear = [at(0.49, -0.03), at(0.545, -0.07), at(0.572, 0.03), at(0.548, 0.24), at(0.505, 0.36), at(0.470, 0.34)]
    crease = [at(0.125, 0.005), at(0.175, -0.050), at(0.235, -0.060), at(0.318, -0.005)]
    wing = [at(0.070, 0.345), at(0.112, 0.385), at(0.108, 0.450), at(0.070, 0.470)]
    tip = [at(-0.062, 0.468), at(-0.03, 0.492), at(0.0, 0.498), at(0.03, 0.492), at(0.062, 0.468)]
    mouth = [at(-0.168, 0.652), at(-0.075, 0.648), at(0.0, 0.658), at(0.075, 0.648), at(0.168, 0.652)]
    philtrum = [at(0.018, 0.515), at(0.026, 0.555), at(0.030, 0.580)]
    rim = [at(0.515, 0.02), at(0.540, -0.03), at(0.552, 0.04), at(0.536, 0.20), at(0.510, 0.28)]
    return (
        *(replace(one, filled=True) for one in both(ear, 0.9)),
        Line(part_of(_skin(at), _EAR, -_EAR), 1.0),
        Line(part_of(_skin(at), -_EAR, _EAR), 0.2),
        *both(crease, 0.45),
        *both(wing, 0.6),
        Line(smooth(tip), 0.5),
        Line(closed(_lips(at)), 0.7),
        Line(smooth(mouth), 0.6),
        *both(philtrum, 0.25),
        *both(rim, 0.35),
        *(line for strand in _STRANDS for line in both([at(x, y) for x, y in strand], 0.2)),
    )


_STRANDS = (
    ((0.000, -0.560), (0.012, -0.680), (0.020, -0.800)),
    ((0.070, -0.565), (0.095, -0.690), (0.115, -0.810)),
    ((0.140, -0.555), (0.185, -0.670), (0.225, -0.770)),
    ((0.215, -0.520), (0.270, -0.610), (0.320, -0.690)),
    ((0.285, -0.470), (0.350, -0.540), (0.400, -0.590)),
    ((0.345, -0.400), (0.410, -0.450), (0.450, -0.480)),
    ((0.385, -0.310), (0.445, -0.340), (0.475, -0.345)),
    ((0.412, -0.210), (0.460, -0.225), (0.488, -0.220)),
    ((0.430, -0.110), (0.470, -0.120), (0.494, -0.110)),
)
"""Strands of hair over its edge."""


def _open_eyes(at: _At) -> tuple[Line, ...]:
    eye = closed(_eye(at))
    lashes = [at(0.118, 0.045), at(0.165, -0.002), at(0.215, -0.018), at(0.270, 0.002), at(0.322, 0.034)]
    return (Line(eye, 0.35), Line(mirrored_path(eye), 0.35), *both(lashes, 0.85))


def _closed_eyes(at: _At) -> tuple[Line, ...]:
    """The lid lies down to where the lower one was; lashes along it."""
    lash_line = [at(0.118, 0.045), at(0.160, 0.070), at(0.215, 0.081), at(0.265, 0.071), at(0.312, 0.040)]
    lashes = [
        line
        for x, y, dx in ((0.165, 0.074, -0.004), (0.195, 0.081, -0.001), (0.235, 0.081, 0.004), (0.275, 0.068, 0.010))
        for line in both([at(x, y), at(x + dx / 2, y + 0.012), at(x + dx, y + 0.024)], 0.4)
    ]
    return (*both(lash_line, 0.9), *lashes)


_SIDED: tuple[tuple[str, tuple[float, float]], ...] = (
    (mark("inner eye corner"), (0.118, 0.045)),
    (mark("outer eye corner"), (0.312, 0.040)),
    ("pupil", (PUPILS / 2, 0.035)),
    (mark("upper lid"), (0.215, -0.040)),
    (mark("lash line"), (0.215, -0.018)),
    (mark("brow start"), (0.105, -0.100)),
    (mark("brow peak"), (0.275, -0.174)),
    (mark("brow end"), (0.360, -0.110)),
    ("temple", (0.450, -0.180)),
    ("cheekbone", (0.340, 0.270)),
    ("nostril", (0.055, 0.450)),
    (mark("mouth corner"), (0.168, 0.652)),
    ("jaw", (0.385, 0.700)),
    ("ear", (0.520, 0.120)),
)
_MIDDLE: tuple[tuple[str, tuple[float, float]], ...] = (
    (mark("nose bridge"), (0.0, 0.0)),
    (mark("between the brows"), (0.0, -0.120)),
    (mark("nose tip"), (0.0, 0.430)),
    (mark("upper lip"), (0.0, 0.600)),
    (mark("lower lip"), (0.0, 0.735)),
    ("chin", (0.0, 0.930)),
    ("forehead", (0.0, -0.350)),
    ("hairline", (0.0, -0.580)),
)


def _landmarks(at: _At) -> tuple[tuple[str, Point], ...]:
    """Return landmarks; the wearer's right lies left in the picture."""
    sided = [
        (f"{name}, wearer's {side}", at(sign * x, y))
        for name, (x, y) in _SIDED
        for side, sign in (("right", -1), ("left", 1))
    ]
    return (*((name, at(x, y)) for name, (x, y) in _MIDDLE), *sided)


def _zones(at: _At, kind: str) -> tuple[Zone, ...]:
    eye, nostril = closed(_eye(at)), closed(_nostril(at))
    word = mark("closed lid") if kind == "lid" else mark("eye opening")
    return (
        Zone(f"{word}, wearer's left", kind, eye),
        Zone(f"{word}, wearer's right", kind, mirrored_path(eye)),
        Zone("nostril, wearer's left", "nostril", nostril),
        Zone("nostril, wearer's right", "nostril", mirrored_path(nostril)),
        Zone("lips", "lips", closed(_lips(at))),
    )


def _frames(at: _At) -> tuple[tuple[str, CubicPath], ...]:
    heart = [at(0.0, -0.30), at(0.20, -0.50), at(0.40, -0.36), at(0.43, 0.05), at(0.30, 0.45), at(0.10, 0.70)]
    heart = [*heart, at(0.0, 0.76)]
    mask = [at(0.0, -0.10), at(0.16, -0.25), at(0.36, -0.24), at(0.46, -0.06), at(0.40, 0.18), at(0.22, 0.22)]
    mask = [*mask, at(0.08, 0.12), at(0.0, 0.16)]
    c = smooth([at(0.13, -0.19), at(0.27, -0.27), at(0.40, -0.16), at(0.425, 0.06), at(0.35, 0.24), at(0.20, 0.28)])
    crown = smooth([at(-0.42, -0.20), at(-0.25, -0.38), at(0.0, -0.44), at(0.25, -0.38), at(0.42, -0.20)])
    s = smooth([at(-0.36, -0.22), at(-0.16, -0.10), at(0.0, 0.13), at(0.16, 0.30), at(0.38, 0.36)])
    return (
        (mark("heart"), symmetric(heart)),
        (mark("mask"), symmetric(mask)),
        ("C, wearer's left", c),
        ("C, wearer's right", mirrored_path(c)),
        (mark("crown"), crown),
        (mark("S over the nose"), s),
    )
