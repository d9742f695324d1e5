"""Cheek from the side, forearm, back of the hand, lower leg, shoulder and neck.

Drawn in proportion to the face's height or the person's; common practice in drawing, defaults to be measured.
"""

from __future__ import annotations

from collections.abc import Callable

from pennello.chart.chart import Chart, Line, Point, Zone, mirrored_path
from pennello.chart.measures import SOURCE, Measures
from pennello.chart.shape import closed
from pennello.lay.families.shapes import smooth
from pennello.path.cubic import CubicPath

_At = Callable[[float, float], Point]

FOREARM, HAND, SHIN = 0.155, 0.108, 0.235
"""Elbow to wrist, wrist to fingertip, knee to ankle over stature (defaults, from memory of usual proportions)."""


def cheek(measures: Measures, *, left: bool) -> Chart:
    """Return the head from the side; the wearer's left cheek looks to the left of the picture."""
    size = measures.face_height_mm

    def at(x: float, y: float) -> Point:
        return (round(x * size, 3), round(y * size, 3))

    head = [
        at(-0.50, -0.05),
        at(-0.44, -0.40),
        at(-0.22, -0.78),
        at(0.25, -0.95),
        at(0.75, -0.80),
        at(0.98, -0.35),
        at(0.92, 0.15),
        at(0.72, 0.55),
        at(0.70, 1.05),
        at(0.25, 1.20),
        at(0.12, 0.98),
        at(-0.20, 0.99),
        at(-0.43, 0.96),
        at(-0.46, 0.80),
        at(-0.42, 0.72),
        at(-0.50, 0.66),
        at(-0.49, 0.58),
        at(-0.50, 0.50),
        at(-0.68, 0.43),
        at(-0.60, 0.28),
        at(-0.47, 0.03),
    ]
    eye = [at(-0.40, 0.05), at(-0.33, -0.01), at(-0.24, 0.05), at(-0.32, 0.09)]
    lips = [at(-0.485, 0.66), at(-0.475, 0.605), at(-0.40, 0.625), at(-0.31, 0.66), at(-0.37, 0.70), at(-0.43, 0.705)]
    ear = [at(0.26, 0.00), at(0.34, -0.09), at(0.45, -0.04), at(0.42, 0.20), at(0.31, 0.36), at(0.25, 0.30)]
    lines = (
        Line(closed(head), 1.0),
        Line(closed(eye), 0.8),
        Line(closed(ear), 0.8),
        Line(smooth([at(-0.45, -0.12), at(-0.33, -0.18), at(-0.18, -0.12)]), 0.8),
        Line(smooth([at(-0.50, 0.66), at(-0.40, 0.66), at(-0.31, 0.66)]), 0.6),
        Line(closed(lips), 0.5),
        Line(smooth([at(-0.47, 0.43), at(-0.43, 0.38), at(-0.47, 0.33)]), 0.5),
        Line(smooth([at(-0.14, 0.36), at(0.02, 0.30), at(0.18, 0.20)]), 0.22),
        Line(smooth([at(0.10, 0.95), at(0.22, 0.75), at(0.27, 0.45)]), 0.35),
        Line(smooth([at(-0.22, -0.62), at(0.02, -0.45), at(0.08, -0.15), at(0.20, 0.0)]), 0.4),
    )
    marks = {
        "brow peak": (-0.27, -0.17),
        "outer eye corner": (-0.24, 0.05),
        "cheekbone": (-0.08, 0.30),
        "nostril": (-0.50, 0.44),
        "nose bridge": (-0.47, 0.03),
        "mouth corner": (-0.31, 0.66),
        "chin": (-0.40, 0.93),
        "jaw": (0.10, 0.80),
        "temple": (0.02, -0.12),
        "ear": (0.32, 0.12),
        "hairline": (-0.30, -0.60),
    }
    frames = (("cheek", smooth([at(-0.20, -0.16), at(0.08, 0.02), at(0.06, 0.35), at(-0.18, 0.52)])),)
    side = "left" if left else "right"
    sign = 1.0 if left else -1.0

    def faced(path: CubicPath) -> CubicPath:
        return path if left else mirrored_path(path)

    return Chart(
        f"cheek-{side}",
        f"Cheek, wearer's {side}",
        faced(closed(head)),
        tuple(Line(faced(one.path), one.weight) for one in lines),
        tuple((name, (sign * at(x, y)[0], at(x, y)[1])) for name, (x, y) in marks.items()),
        (Zone("eye opening", "eye", faced(closed(eye))), Zone("lips", "lips", faced(closed(lips)))),
        tuple((name, faced(path)) for name, path in frames),
        None,
        SOURCE,
    )


def _limb(key: str, name: str, size: float, parts: _Parts) -> Chart:
    def at(point: Point) -> Point:
        return (round(point[0] * size, 3), round(point[1] * size, 3))

    outline = closed([at(point) for point in parts.outline])
    lines = [Line(outline, 1.0)]
    lines += [Line(smooth([at(point) for point in row]), weight) for row, weight in parts.lines]
    frames = tuple((word, smooth([at(point) for point in row])) for word, row in parts.frames.items())
    marks = tuple((word, at(point)) for word, point in parts.marks.items())
    return Chart(key, name, outline, tuple(lines), marks, (), frames, None, SOURCE)


class _Parts:
    """Outline, inner lines, landmarks and frames in parts of a limb's length."""

    def __init__(
        self,
        outline: list[Point],
        lines: list[tuple[list[Point], float]],
        marks: dict[str, Point],
        frames: dict[str, list[Point]],
    ) -> None:
        self.outline, self.lines, self.marks, self.frames = outline, lines, marks, frames


def forearm(measures: Measures) -> Chart:
    """Return the forearm from elbow (left) to wrist (right), its inside up."""
    parts = _Parts(
        [
            (0.0, -0.15),
            (0.12, -0.185),
            (0.30, -0.195),
            (0.55, -0.165),
            (0.80, -0.120),
            (1.0, -0.105),
            (1.14, -0.125),
            (1.22, -0.10),
            (1.22, 0.10),
            (1.14, 0.125),
            (1.0, 0.105),
            (0.80, 0.125),
            (0.55, 0.165),
            (0.30, 0.185),
            (0.12, 0.175),
            (0.0, 0.15),
            (-0.05, 0.0),
        ],
        [
            ([(0.98, -0.10), (0.99, 0.0), (0.98, 0.10)], 0.35),
            ([(0.10, -0.06), (0.35, -0.045), (0.60, -0.03)], 0.22),
            ([(0.01, -0.10), (0.05, 0.0), (0.01, 0.10)], 0.3),
        ],
        {
            "elbow": (0.03, 0.0),
            "wrist": (0.99, 0.0),
            "middle": (0.5, 0.0),
            "thumb side": (0.9, -0.10),
            "little finger side": (0.9, 0.11),
        },
        {
            "swoosh": [(0.12, 0.06), (0.35, -0.08), (0.62, 0.06), (0.92, -0.03)],
            "band": [(0.8, -0.12), (0.82, 0.0), (0.8, 0.12)],
        },
    )
    return _limb("forearm", "Forearm", FOREARM * measures.stature_mm, parts)


def hand(measures: Measures) -> Chart:
    """Return the back of a left hand, fingers up."""
    outline: list[Point] = [
        (-0.16, 0.50),
        (-0.17, 0.30),
        (-0.225, 0.12),
        (-0.30, -0.02),
        (-0.36, -0.12),
        (-0.335, -0.17),
        (-0.27, -0.13),
        (-0.20, -0.03),
        (-0.205, -0.20),
        (-0.215, -0.36),
        (-0.185, -0.415),
        (-0.145, -0.37),
        (-0.115, -0.12),
        (-0.095, -0.30),
        (-0.085, -0.465),
        (-0.045, -0.50),
        (-0.01, -0.46),
        (0.0, -0.13),
        (0.03, -0.30),
        (0.06, -0.43),
        (0.10, -0.455),
        (0.125, -0.40),
        (0.105, -0.10),
        (0.15, -0.22),
        (0.19, -0.32),
        (0.225, -0.335),
        (0.245, -0.28),
        (0.205, -0.04),
        (0.205, 0.14),
        (0.16, 0.32),
        (0.15, 0.50),
        (0.0, 0.53),
    ]
    parts = _Parts(
        outline,
        [
            ([(-0.15, 0.30), (0.0, 0.325), (0.155, 0.30)], 0.35),
            ([(-0.165, -0.02), (-0.15, 0.10), (-0.10, 0.22)], 0.18),
            ([(-0.055, -0.04), (-0.05, 0.08), (-0.03, 0.22)], 0.18),
            ([(0.055, -0.02), (0.05, 0.10), (0.03, 0.22)], 0.18),
            ([(0.15, 0.02), (0.125, 0.12), (0.08, 0.22)], 0.18),
        ],
        {
            "knuckles": (-0.02, -0.02),
            "wrist": (0.0, 0.31),
            "middle": (0.0, 0.10),
            "thumb": (-0.31, -0.08),
            "little finger": (0.205, -0.10),
        },
        {"across": [(-0.18, 0.05), (0.0, 0.0), (0.19, 0.07)]},
    )
    return _limb("hand", "Back of the hand", HAND * measures.stature_mm, parts)


def leg(measures: Measures) -> Chart:
    """Return the lower leg from the knee (top) to the ankle, from the outside."""
    parts = _Parts(
        [
            (-0.14, -0.05),
            (-0.155, 0.06),
            (-0.15, 0.22),
            (-0.125, 0.45),
            (-0.09, 0.72),
            (-0.085, 0.95),
            (-0.16, 1.05),
            (-0.30, 1.10),
            (-0.30, 1.15),
            (0.12, 1.15),
            (0.13, 1.05),
            (0.085, 0.92),
            (0.085, 0.70),
            (0.165, 0.42),
            (0.19, 0.25),
            (0.155, 0.08),
            (0.12, -0.05),
            (0.0, -0.09),
        ],
        [
            ([(-0.10, 0.0), (-0.02, 0.05), (-0.10, 0.10)], 0.3),
            ([(0.06, 0.28), (0.075, 0.45), (0.03, 0.62)], 0.2),
            ([(-0.02, 0.98), (0.02, 0.955), (0.045, 0.985)], 0.35),
        ],
        {"knee": (-0.02, 0.03), "calf": (0.10, 0.30), "shin": (-0.10, 0.40), "ankle": (0.01, 0.97)},
        {"spiral": [(-0.10, 0.10), (0.10, 0.28), (-0.06, 0.50), (0.06, 0.74), (-0.02, 0.93)]},
    )
    return _limb("leg", "Lower leg", SHIN * measures.stature_mm, parts)


def shoulder(measures: Measures) -> Chart:
    """Return the neck and the wearer's left shoulder from the front."""
    parts = _Parts(
        [
            (-0.30, -0.55),
            (-0.29, -0.30),
            (-0.32, -0.12),
            (-0.42, -0.03),
            (-0.55, 0.02),
            (-0.55, 0.62),
            (0.0, 0.72),
            (0.55, 0.70),
            (0.66, 0.75),
            (0.86, 0.74),
            (0.93, 0.40),
            (0.88, 0.14),
            (0.74, 0.0),
            (0.50, -0.07),
            (0.30, -0.13),
            (0.21, -0.30),
            (0.20, -0.55),
            (-0.05, -0.60),
        ],
        [
            ([(-0.10, 0.04), (0.10, 0.06), (0.40, 0.01), (0.66, 0.04)], 0.5),
            ([(-0.14, 0.04), (-0.30, 0.06), (-0.50, 0.05)], 0.5),
            ([(0.16, -0.42), (0.05, -0.18), (-0.07, 0.03)], 0.35),
            ([(0.55, 0.70), (0.60, 0.50), (0.66, 0.36)], 0.45),
        ],
        {"neck": (0.05, -0.30), "collarbone": (0.30, 0.04), "shoulder": (0.78, 0.16), "upper arm": (0.76, 0.50)},
        {"over the shoulder": [(0.05, -0.30), (0.30, -0.05), (0.62, 0.12), (0.78, 0.45)]},
    )
    return _limb("shoulder", "Shoulder and neck, wearer's left", 1.9 * measures.face_height_mm, parts)
