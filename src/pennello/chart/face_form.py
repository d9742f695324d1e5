"""Hair, eyes, lips, light and shade of the face from the front; by eye, common practice in drawing."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from pennello.chart.chart import Feature, FeatureArea, Point, Tone, View, mirrored_path
from pennello.chart.shape import closed, symmetric
from pennello.lay.families.shapes import smooth
from pennello.path.cubic import CubicPath
from pennello.phrases import mark

At = Callable[[float, float], Point]
Points = tuple[tuple[float, float], ...]
_Tone = tuple[float, float, float, Points]

_HAIRLINE: Points = (
    (-0.465, 0.0),
    (-0.418, -0.26),
    (-0.325, -0.44),
    (-0.17, -0.56),
    (0.0, -0.58),
    (0.17, -0.56),
    (0.325, -0.44),
    (0.418, -0.26),
    (0.465, 0.0),
)

_BOTH: tuple[_Tone, ...] = (
    (0.24, 1.5, 5.0, ((0.078, -0.005), (0.092, -0.055), (0.135, -0.088))),
    (0.12, 1.0, 4.0, ((0.135, -0.088), (0.215, -0.105), (0.300, -0.085), (0.345, -0.035))),
    (0.16, 0.3, 2.4, ((0.122, 0.000), (0.175, -0.048), (0.235, -0.058), (0.318, -0.004))),
    (-0.08, 1.5, 3.5, ((0.190, -0.075), (0.240, -0.080), (0.290, -0.060))),
    (0.13, 0.5, 3.4, ((0.112, 0.075), (0.165, 0.118), (0.230, 0.128), (0.295, 0.100))),
    (0.17, 1.5, 4.5, ((0.050, -0.040), (0.048, 0.090), (0.060, 0.240), (0.082, 0.350))),
    (0.22, 0.4, 2.6, ((0.086, 0.345), (0.118, 0.390), (0.114, 0.448), (0.092, 0.474))),
    (-0.07, 1.5, 3.0, ((0.082, 0.395), (0.090, 0.425))),
    (0.10, 0.6, 4.2, ((0.122, 0.430), (0.168, 0.515), (0.200, 0.610))),
    (0.09, 0.4, 2.0, ((0.026, 0.515), (0.032, 0.575))),
    (0.16, 0.6, 4.0, ((0.172, 0.652), (0.190, 0.668))),
    (-0.10, 7.0, 9.0, ((0.235, 0.220), (0.300, 0.235), (0.345, 0.200))),
    (0.13, 4.0, 10.0, ((0.430, 0.260), (0.370, 0.430), (0.310, 0.560))),
    (0.10, 3.0, 9.0, ((0.425, -0.300), (0.440, -0.120))),
    (0.10, 2.0, 8.0, ((0.300, 0.850), (0.200, 0.920))),
    (0.22, 0.3, 2.2, ((0.520, 0.005), (0.545, 0.010), (0.545, 0.120), (0.515, 0.230))),
    (0.25, 0.8, 2.6, ((0.503, 0.120), (0.508, 0.190))),
)
"""Tones of either side: dark, width and softness, mm, and where, in parts of the head's breadth and face's height."""

_MIDDLE: tuple[_Tone, ...] = (
    (-0.10, 1.5, 4.0, ((0.0, -0.020), (0.0, 0.150), (0.0, 0.330))),
    (-0.13, 2.5, 4.5, ((-0.012, 0.412), (0.012, 0.412))),
    (0.30, 0.6, 3.2, ((-0.066, 0.482), (0.0, 0.506), (0.066, 0.482))),
    (-0.06, 1.0, 2.0, ((0.0, 0.525), (0.0, 0.575))),
    (0.16, 0.5, 3.0, ((-0.12, 0.630), (0.0, 0.620), (0.12, 0.630))),
    (0.15, 0.3, 5.0, ((-0.050, 0.770), (0.0, 0.782), (0.050, 0.770))),
    (-0.09, 6.0, 7.0, ((-0.030, 0.875), (0.030, 0.875))),
    (-0.08, 12.0, 13.0, ((-0.120, -0.330), (0.120, -0.330))),
    (0.12, 1.0, 4.5, ((0.0, -0.135), (0.0, -0.060))),
    (0.30, 0.5, 4.0, _HAIRLINE),
)

_BROW: Points = (
    (0.100, -0.108),
    (0.104, -0.140),
    (0.190, -0.176),
    (0.275, -0.186),
    (0.330, -0.160),
    (0.372, -0.112),
    (0.325, -0.142),
    (0.272, -0.160),
    (0.190, -0.146),
)
_HAIR_OUT: Points = ((0.0, -0.915), (0.240, -0.868), (0.435, -0.670), (0.522, -0.340), (0.525, -0.080), (0.497, 0.060))
_HAIR_IN: Points = ((0.483, 0.110), (0.462, -0.040), (0.418, -0.270), (0.328, -0.448), (0.170, -0.570), (0.0, -0.590))
_NECK: Points = ((0.0, 0.700), (0.330, 0.700), (0.316, 0.960), (0.322, 1.060), (0.290, 1.075), (0.0, 1.085))


def areas(at: At, *, eyes_closed: bool, eye: CubicPath, lips: Sequence[Point]) -> tuple[FeatureArea, ...]:
    """Return hair, eyes and lips, from the back to the front."""
    hair = symmetric([at(x, y) for x, y in (*_HAIR_OUT, *_HAIR_IN)])
    found = [
        FeatureArea(symmetric([at(x, y) for x, y in _NECK]), Feature.NECK, behind=True),
        FeatureArea(hair, Feature.HAIR, behind=True),
        FeatureArea(hair, Feature.HAIR),
        FeatureArea(closed(lips), Feature.LIP),
        *_sides(closed([at(x, y) for x, y in _BROW]), Feature.BROW),
    ]
    return (*found, *(() if eyes_closed else _open_eye(at, eye)))


def _open_eye(at: At, eye: CubicPath) -> tuple[FeatureArea, ...]:
    breadth = at(1.0, 0.0)[0]

    def disc(radius: float, x: float = 0.215, y: float = 0.024) -> CubicPath:
        middle = at(x, y)
        r = radius * breadth
        return closed([(middle[0] + dx * r, middle[1] + dy * r) for dx, dy in _ROUND])

    return (
        *_sides(eye, Feature.WHITE),
        *_sides(disc(0.0400), Feature.IRIS),
        *_sides(disc(0.0165), Feature.PUPIL),
        *_sides(disc(0.0075, 0.227, 0.008), Feature.GLINT),
    )


_ROUND: Points = tuple((math.cos(turn * math.pi / 4), math.sin(turn * math.pi / 4)) for turn in range(8))


def _sides(outline: CubicPath, feature: Feature) -> tuple[FeatureArea, FeatureArea]:
    return FeatureArea(outline, feature), FeatureArea(mirrored_path(outline), feature)


def tones(at: At) -> tuple[Tone, ...]:
    """Return the lights and shades of a face."""
    size = at(1.0, 0.0)[0] / 145.0
    one = [_tone(at, size, tone) for tone in _BOTH]
    other = [Tone(mirrored_path(tone.path), tone.dark, tone.width_mm, tone.soft_mm) for tone in one]
    return (*one, *other, *(_tone(at, size, tone) for tone in _MIDDLE))


def _tone(at: At, size: float, tone: _Tone) -> Tone:
    dark, width, soft, points = tone
    return Tone(smooth([at(x, y) for x, y in points]), dark, width * size, soft * size)


def views(at: At) -> tuple[tuple[str, View], ...]:
    """Return the close views of a face."""
    sided = [
        (f"{name}, wearer's {side}", (sign * at(x, y)[0], at(x, y)[1], at(width, 0.0)[0]))
        for name, x, y, width in _CLOSE
        for side, sign in (("right", -1), ("left", 1))
    ]
    middle = [
        (name, (*at(0.0, y), at(width, 0.0)[0]))
        for name, y, width in ((mark("mouth"), 0.66, 0.6), (mark("forehead"), -0.3, 0.9))
    ]
    return (*sided, *middle)


_CLOSE = (
    (mark("eye"), 0.235, -0.02, 0.48),
    (mark("cheek"), 0.29, 0.28, 0.52),
    (mark("brow"), 0.25, -0.20, 0.56),
)
"""Close views of either side: their middle and width."""
