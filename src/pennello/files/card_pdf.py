"""The load card: one page, everything at true scale, so that the brush can be laid on the paper."""

from __future__ import annotations

import io
from functools import cache
from importlib.resources import as_file, files
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfbase.pdfmetrics import registerFont
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from pennello.aim.comparison import Comparison, compare
from pennello.aim.verdict import Verdict, judge
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.words import load_words
from pennello.files.atomic import write_bytes
from pennello.files.picture import Picture, ribbons
from pennello.kit import catalogue
from pennello.kit.cake import Cake
from pennello.lay.laying import Laid
from pennello.lay.render import render
from pennello.load.look import cake_colours, edge_colours
from pennello.units import LengthUnit, length_text

PAGE_WIDTH_MM, PAGE_HEIGHT_MM = (side / mm for side in A4)
_MARGIN_MM = 14.0
_STROKE_BOX_MM = (PAGE_WIDTH_MM - 2 * _MARGIN_MM, 100.0)
_INK = (0.145, 0.129, 0.114)
_QUIET = (0.357, 0.329, 0.294)
CAUTION = (
    "Predicted from the paints' colours, not measured. Use only products made for skin and inside their date, clean "
    "tools for each person, nothing on broken skin. Labels, local rules and licensed practice decide."
)


@cache
def _fonts() -> tuple[str, str]:
    for name in ("SourceSansPro-Regular", "SourceSansPro-Semibold"):
        with as_file(files("pennello.files") / "fonts" / f"{name}.ttf") as path:
            registerFont(TTFont(name, str(path)))
    return "SourceSansPro-Regular", "SourceSansPro-Semibold"


class _Page:
    """A PDF page measured in mm from the top left."""

    def __init__(self, canvas: Canvas) -> None:
        self.canvas = canvas
        self.regular, self.bold = _fonts()

    def text(
        self, x: float, y: float, words: str, size: float = 10, *, bold: bool = False, quiet: bool = False
    ) -> None:
        self.canvas.setFillColorRGB(*(_QUIET if quiet else _INK))
        self.canvas.setFont(self.bold if bold else self.regular, size)
        self.canvas.drawString(x * mm, (PAGE_HEIGHT_MM - y) * mm, words)

    def paragraph(
        self, x: float, y: float, words: str, width: float, size: float = 10, *, quiet: bool = False
    ) -> float:
        """Write words within a width and return the y below them."""
        for line in simpleSplit(words, self.regular, size, width * mm):
            self.text(x, y, line, size, quiet=quiet)
            y += size * 0.48
        return y

    def fill(self, x: float, y: float, width: float, height: float, colour: Any) -> None:
        self.canvas.setFillColorRGB(*(float(part) / 255 for part in colour))
        self.canvas.rect(x * mm, (PAGE_HEIGHT_MM - y - height) * mm, width * mm, height * mm, stroke=0, fill=1)

    def frame(self, x: float, y: float, width: float, height: float, weight: float = 0.4) -> None:
        self.canvas.setLineWidth(weight)
        self.canvas.setStrokeColorRGB(*_INK)
        self.canvas.rect(x * mm, (PAGE_HEIGHT_MM - y - height) * mm, width * mm, height * mm, stroke=1, fill=0)

    def line(self, x0: float, y0: float, x1: float, y1: float, weight: float = 0.4) -> None:
        self.canvas.setLineWidth(weight)
        self.canvas.setStrokeColorRGB(*_INK)
        self.canvas.line(x0 * mm, (PAGE_HEIGHT_MM - y0) * mm, x1 * mm, (PAGE_HEIGHT_MM - y1) * mm)

    def picture(self, x: float, y: float, width: float, height: float, picture: Picture) -> None:
        reader = ImageReader(Image.fromarray(picture))
        self.canvas.drawImage(reader, x * mm, (PAGE_HEIGHT_MM - y - height) * mm, width * mm, height * mm)

    def ruler(self, x: float, y: float, length_mm: float) -> None:
        """Draw a mm ruler downwards from y, with a long mark every 10 mm."""
        for at in range(int(length_mm) + 1):
            tall = 2.4 if at % 10 == 0 else 1.6 if at % 5 == 0 else 0.9
            self.line(x + at, y, x + at, y + tall, 0.2)
            if at % 10 == 0:
                self.text(x + at - 1, y + 5.2, str(at), 6.5, quiet=True)
        self.text(x + length_mm + 1, y + 2.4, "mm", 6.5, quiet=True)


def write_card(plan: Plan, name: str, path: Path, unit: LengthUnit = LengthUnit.MM) -> None:
    """Write the load card of one stroke as a one-page PDF (A4).

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    UnknownNameError
        If the plan has no such stroke.
    """
    stroke, attempt = plan.stroke(name), plan.attempt(name)
    laid = attempt.lay(6.0)
    seen = compare(laid, attempt)
    verdict = judge(attempt, laid, seen, tuple(catalogue.paints().values()), unit)
    file = io.BytesIO()
    canvas = Canvas(file, pagesize=A4, invariant=1)
    canvas.setTitle(f"{plan.title}: {stroke.name}")
    page = _Page(canvas)
    _draw(page, plan, stroke, laid, seen, verdict, unit)
    canvas.showPage()
    canvas.save()
    write_bytes(file.getvalue(), path)


def _draw(
    page: _Page,
    plan: Plan,
    stroke: PlanStroke,
    laid: Laid,
    seen: Comparison,
    verdict: Verdict,
    unit: LengthUnit,
) -> None:
    x = _MARGIN_MM
    page.text(x, 18, stroke.name, 20, bold=True)
    page.text(x, 24, " · ".join(part for part in (plan.title, plan.place, plan.skin.name) if part), 10, quiet=True)
    y = 32.0
    for line in load_words(plan, stroke, unit):
        y = page.paragraph(x, y, line, PAGE_WIDTH_MM - 2 * x, 10.5)
    y = page.paragraph(x, y + 1, verdict.headline, PAGE_WIDTH_MM - 2 * x, 10.5)
    y = _draw_cake(page, plan, stroke, y + 4)
    y = _draw_edge(page, plan, stroke, laid, seen, y + 8)
    _draw_stroke(page, plan, laid, y + 8, unit)
    page.ruler(x, PAGE_HEIGHT_MM - 26, 100)
    page.text(x + 106, PAGE_HEIGHT_MM - 23, "Check: this ruler is 100 mm long when printed at 100 %.", 8, quiet=True)
    page.paragraph(x, PAGE_HEIGHT_MM - 14, CAUTION, PAGE_WIDTH_MM - 2 * x, 7.5, quiet=True)


def _fit(width_mm: float, height_mm: float, box: tuple[float, float]) -> float:
    return min(1.0, box[0] / width_mm, box[1] / height_mm)


def _scale_words(scale: float) -> str:
    return "true scale" if scale == 1 else f"scale 1 : {1 / scale:.2f}, too large for the page"


def _draw_cake(page: _Page, plan: Plan, stroke: PlanStroke, y: float) -> float:
    pickup = stroke.recipe.pickups[-1]
    cake, brush = plan.cake(pickup.cake), plan.brush(stroke.brush)
    left = min(0.0, pickup.offset_mm)
    across = max(cake.width_mm, pickup.offset_mm + brush.width_mm) - left
    scale = _fit(across, 1.0, _STROKE_BOX_MM)
    x, height = _MARGIN_MM - left * scale, 22.0
    page.text(_MARGIN_MM, y, f"{cake.name} with the brush on it, {_scale_words(scale)}", 9, quiet=True)
    y += 7
    _strips(page, x, y, cake.width_mm * scale, height, _cake_strips(cake, plan))
    page.frame(x, y, cake.width_mm * scale, height)
    start = x + pickup.offset_mm * scale
    page.frame(start, y + height * 0.35, brush.width_mm * scale, brush.thickness_mm * scale, 1.2)
    for side, at in zip("BA" if pickup.flip else "AB", (start, start + brush.width_mm * scale), strict=True):
        page.line(at, y + height * 0.2, at, y + height * 0.6, 1.2)
        page.text(at - 1, y - 1.2, side, 8, bold=True)
    page.ruler(x, y + height, cake.width_mm * scale)
    return y + height + 6


def _cake_strips(cake: Cake, plan: Plan) -> Picture:
    return cake_colours(cake, {paint.id: paint for paint in plan.paints}, 240)


def _strips(page: _Page, x: float, y: float, width: float, height: float, colours: Picture) -> None:
    page.picture(x, y, width, height, np.repeat(colours[None], 2, axis=0))


def _draw_edge(page: _Page, plan: Plan, stroke: PlanStroke, laid: Laid, seen: Comparison, y: float) -> float:
    width = plan.brush(stroke.brush).width_mm
    scale = _fit(width, 1.0, (80.0, 1.0))
    loaded = edge_colours(laid.edge, {paint.id: paint for paint in plan.paints})
    named = zip(("loaded", "wanted", "laid early", "laid late"), (loaded, *ribbons(seen)), strict=True)
    page.text(_MARGIN_MM, y, f"The edge from A to B, {_scale_words(scale)}", 9, quiet=True)
    y += 2
    for words, colours in named:
        _strips(page, _MARGIN_MM, y, width * scale, 6, colours)
        page.text(_MARGIN_MM + width * scale + 3, y + 4.2, words, 9)
        y += 7
    page.ruler(_MARGIN_MM, y - 1, width * scale)
    return y + 5


def _draw_stroke(page: _Page, plan: Plan, laid: Laid, y: float, unit: LengthUnit) -> None:

    ground = laid.film.canvas
    width, height = ground.columns / ground.px_per_mm, ground.rows / ground.px_per_mm
    room = (_STROKE_BOX_MM[0], PAGE_HEIGHT_MM - 32 - y)
    scale = _fit(width, height, room)
    words = f"The stroke, {length_text(laid.track.length_mm, unit)} long, ribs every 5 mm, {_scale_words(scale)}"
    page.text(_MARGIN_MM, y, words, 9, quiet=True)
    y += 2
    page.picture(_MARGIN_MM, y, width * scale, height * scale, render(laid.film, skin_spectrum(plan.skin)))
    moments = laid.track.at(np.arange(0, laid.track.length_mm, 5.0))
    for a, b in laid.track.points(moments, np.array([0.0, 1.0])):
        ends = [(float(p[0]) - ground.left_mm, float(p[1]) - ground.top_mm) for p in (a, b)]
        (x0, y0), (x1, y1) = [(_MARGIN_MM + px * scale, y + py * scale) for px, py in ends]
        page.line(x0, y0, x1, y1, 0.25)
