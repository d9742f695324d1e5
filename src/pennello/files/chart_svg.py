"""Charts and motifs as SVG 1.1, 1 unit = 1 mm."""

from __future__ import annotations

from collections.abc import Iterable
from xml.sax.saxutils import quoteattr

from pennello.chart.chart import Chart, FeatureArea
from pennello.colour.srgb import format_hex
from pennello.design.surface import Ink, area_ink
from pennello.files.words import xml_text
from pennello.motif.motif import Made
from pennello.path.cubic import CubicPath

_MARGIN_MM = 5.0
_SKIN = Ink(0xC6, 0x9C, 0x7B)


def path_data(path: CubicPath) -> str:
    """Return a path as SVG path data with absolute cubic curves."""
    (x, y), *rest = path.points_mm
    curves = " ".join(
        "C " + " ".join(f"{a:.3f},{b:.3f}" for a, b in rest[at : at + 3]) for at in range(0, len(rest), 3)
    )
    return f"M {x:.3f},{y:.3f} {curves}"


def chart_svg(chart: Chart) -> str:
    """Return a chart as a drawing with its landmarks, zones and frames in groups of their own."""
    left, top, right, bottom = chart.bounds_mm
    skin = f'fill="{_hex(_SKIN)}" stroke="none"'
    parts = [f'<path d="{path_data(line.path)}" {skin}/>' for line in chart.lines if line.filled]
    parts.append(f'<path d="{path_data(chart.skin)}" {skin} id="skin"/>')
    behind, before = ([one for one in chart.areas if one.behind is told] for told in (True, False))
    parts = [_group("behind", map(_area, behind)), *parts, _group("features", map(_area, before))]
    parts.append(_group("lines", (_stroke(line.path, 0.3 + 0.5 * line.weight) for line in chart.lines)))
    parts.append(_group("zones", (_stroke(zone.outline, 0.2, zone.name) for zone in chart.zones)))
    parts.append(_group("frames", (_stroke(path, 0.2, name) for name, path in chart.frames)))
    marks = (f'<circle cx="{x:.3f}" cy="{y:.3f}" r="0.8" id={quoteattr(name)}/>' for name, (x, y) in chart.landmarks)
    parts.append(_group("landmarks", marks))
    return _page((left, top, right, bottom), chart.name, parts)


def motif_svg(name: str, made: Made) -> str:
    """Return the paths of a motif's strokes."""
    points = [point for piece in made.pieces for point in piece.stroke.path.points_mm]
    bounds = (
        min(x for x, _ in points),
        min(y for _, y in points),
        max(x for x, _ in points),
        max(y for _, y in points),
    )
    strokes = (_stroke(piece.stroke.path, 0.4, f"{piece.part}-{at}") for at, piece in enumerate(made.pieces, 1))
    return _page(bounds, name, [_group("strokes", strokes)])


def _stroke(path: CubicPath, width_mm: float, name: str = "") -> str:
    label = f" id={quoteattr(name)}" if name else ""
    return f'<path d="{path_data(path)}" fill="none" stroke="#25211d" stroke-width="{width_mm:.2f}"{label}/>'


def _hex(ink: Ink) -> str:
    return format_hex([value / 255 for value in ink.rgb])


def _area(area: FeatureArea) -> str:
    ink = area_ink(area.feature, _SKIN)
    fill = f'fill="{_hex(ink)}" fill-opacity="{ink.cover:.2f}" stroke="none"'
    return f'<path d="{path_data(area.outline)}" {fill}/>'


def _group(name: str, parts: Iterable[str]) -> str:
    return f'<g id="{name}">{"".join(parts)}</g>'


def _page(bounds: tuple[float, float, float, float], title: str, parts: list[str]) -> str:
    left, top = bounds[0] - _MARGIN_MM, bounds[1] - _MARGIN_MM
    width, height = bounds[2] - bounds[0] + 2 * _MARGIN_MM, bounds[3] - bounds[1] + 2 * _MARGIN_MM
    view = f"{left:.3f} {top:.3f} {width:.3f} {height:.3f}"
    head = f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="{width:.3f}mm" height="{height:.3f}mm"'
    return f'{head} viewBox="{view}"><title>{xml_text(title)}</title>{"".join(parts)}</svg>\n'
