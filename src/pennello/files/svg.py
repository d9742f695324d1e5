"""Strokes as SVG 1.1, in and out: one path a stroke, one unit a millimetre."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any
from xml.sax.saxutils import quoteattr

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import ParseError, fromstring
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import SVGPath

from pennello.design.plan import Plan
from pennello.disk import read_bytes, write_bytes
from pennello.errors import FileProblemError, PennelloError
from pennello.files.words import printable, xml_text
from pennello.path.cubic import COORDINATE_LIMIT_MM, CubicPath, Point
from pennello.phrases import phrase

MOST_BYTES = 8_000_000
MOST_CURVES = 4000
_MARGIN_MM = 5.0
_ROUND = 4
_PARSER_ERRORS = (
    ValueError,
    IndexError,
    KeyError,
    TypeError,
    AttributeError,
    AssertionError,
    ArithmeticError,
    NotImplementedError,
    RecursionError,
)
"""What the parser of paths raises at a broken one; it has no error of its own."""


def svg_text(plan: Plan) -> str:
    """Return the plan's strokes as an SVG document."""
    points = [point for stroke in plan.strokes for point in stroke.stroke.path.points_mm] or [(0.0, 0.0)]
    left, top = (min(point[axis] for point in points) - _MARGIN_MM for axis in (0, 1))
    wide, high = (max(point[axis] for point in points) + _MARGIN_MM - low for axis, low in ((0, left), (1, top)))
    size = f'width="{wide:.3f}mm" height="{high:.3f}mm" viewBox="{left:.3f} {top:.3f} {wide:.3f} {high:.3f}"'
    lines = ['<?xml version="1.0" encoding="UTF-8"?>', f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" {size}>']
    lines.append(f"<title>{xml_text(plan.title)}</title>")
    for stroke in plan.strokes:
        drawn = f'd="{path_data(stroke.stroke.path)}" fill="none" stroke="#25211d" stroke-width="0.4"'
        lines.append(
            f"<path id={quoteattr(printable(stroke.id))} {drawn}><title>{xml_text(stroke.name)}</title></path>"
        )
    return "\n".join([*lines, "</svg>", ""])


def path_data(path: CubicPath) -> str:
    """Return a path in SVG's path grammar.

    >>> path_data(CubicPath(((0.0, 0.0), (1.0, 0.0), (2.0, 0.5), (3.0, 1.0))))
    'M0 0C1 0 2 0.5 3 1'
    """
    numbers = [f"{x:.6g} {y:.6g}" for x, y in path.points_mm]
    curves = [f"C{' '.join(numbers[at : at + 3])}" for at in range(1, len(numbers), 3)]
    return f"M{numbers[0]}{''.join(curves)}"


def write_svg(plan: Plan, path: Path) -> None:
    """Write the plan's strokes; raises FileProblemError."""
    write_bytes(svg_text(plan).encode(), path)


def read_svg(path: Path, *, dots: bool = False) -> tuple[CubicPath, ...]:
    """Return the paths and simple shapes in a file as they are drawn, transforms included.

    Parameters
    ----------
    dots
        Whether a path of no length is wanted too, as a dot; a stroke has a way.

    Raises
    ------
    FileProblemError
        If it is no SVG, holds entities, or has no path; the sentence names what is wrong.
    """
    data = read_bytes(path, MOST_BYTES)
    try:
        root = fromstring(data, forbid_dtd=False)
    except DefusedXmlException as error:
        raise FileProblemError(
            path, phrase("the file holds XML entities, which are not read; save it as plain SVG.")
        ) from error
    except (ParseError, ValueError, LookupError) as error:  # LookupError: it names an encoding that there is not
        raise FileProblemError(path, phrase("this is no SVG ({error}).", error=error)) from error
    if not str(root.tag).endswith("svg"):
        raise FileProblemError(path, phrase("this is no SVG; its first element is '{tag}'.", tag=root.tag))
    pen = RecordingPen()
    try:
        SVGPath.fromstring(data).draw(pen)
    except _PARSER_ERRORS as error:
        raise FileProblemError(
            path, phrase("a path in it cannot be read; redraw it, and save it as plain SVG.")
        ) from error
    try:
        paths = tuple(paths_of(pen.value))
    except PennelloError as error:
        raise FileProblemError(path, str(error)) from error
    if not paths:
        raise FileProblemError(path, phrase("there is no path in it; draw one and save it as SVG."))
    if not dots and any(_no_length(one) for one in paths):
        raise FileProblemError(
            path, phrase("a path in it has no length, so no stroke can follow it; draw a line there.")
        )
    return paths


def _no_length(path: CubicPath) -> bool:
    return len(set(path.points_mm)) == 1


def paths_of(commands: list[tuple[str, Any]]) -> list[CubicPath]:
    """Return the cubic paths of what a pen recorded; lines and quadratic curves become cubic ones."""
    found: list[list[Point]] = []
    for name, points in commands:
        if name == "moveTo":
            found.append([_point(points[0])])
        elif name == "closePath" and found and found[-1][0] != found[-1][-1]:
            found[-1] += _line(found[-1][-1], found[-1][0])
        elif name in ("lineTo", "curveTo", "qCurveTo") and found:
            found[-1] += _curve(name, found[-1][-1], [_point(point) for point in points])
        if found and len(found[-1]) > 3 * MOST_CURVES:
            raise SvgError(phrase("a path has more than {most_curves} curves; simplify it.", most_curves=MOST_CURVES))
    return [CubicPath(tuple(points)) for points in found if len(points) > 1]


class SvgError(PennelloError):
    """A drawing cannot be a stroke."""


def _point(point: Any) -> Point:
    x, y = (round(float(value), _ROUND) for value in point)
    if not (math.isfinite(x) and math.isfinite(y)) or max(abs(x), abs(y)) > COORDINATE_LIMIT_MM:
        raise SvgError(
            phrase(
                "a point lies at {x:g}, {y:g}; a path must lie within {coordinate_limit_mm:g} mm.",
                x=x,
                y=y,
                coordinate_limit_mm=COORDINATE_LIMIT_MM,
            )
        )
    return x, y


def _line(start: Point, end: Point) -> list[Point]:
    return [
        ((2 * start[0] + end[0]) / 3, (2 * start[1] + end[1]) / 3),
        ((start[0] + 2 * end[0]) / 3, (start[1] + 2 * end[1]) / 3),
        end,
    ]


def _curve(name: str, start: Point, points: list[Point]) -> list[Point]:
    if name == "lineTo":
        return _line(start, points[0])
    if name == "curveTo":
        return points
    *off, end = points
    result: list[Point] = []
    for number, control in enumerate(off):  # implied points lie half way between the controls
        last = number == len(off) - 1
        to = end if last else ((control[0] + off[number + 1][0]) / 2, (control[1] + off[number + 1][1]) / 2)
        result += [_towards(start, control), _towards(to, control), to]
        start = to
    return result


def _towards(end: Point, control: Point) -> Point:
    """Return the handle of a cubic curve at an end of a quadratic one."""
    return (end[0] + (control[0] - end[0]) * 2 / 3, end[1] + (control[1] - end[1]) * 2 / 3)
