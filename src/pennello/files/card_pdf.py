"""The load card: one page, everything at true scale, so that the brush can be laid on the paper."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from pennello.aim.comparison import Comparison, compare
from pennello.aim.verdict import Verdict, judge
from pennello.colour.srgb import parse_hex
from pennello.design.plan import Plan, PlanStroke, skin_spectrum
from pennello.design.words import load_words, pickup_words
from pennello.files.page import MARGIN_MM, PAGE_HEIGHT_MM, PAGE_WIDTH_MM, Draw, Page, fit, scale_words, write_page
from pennello.files.picture import Picture, ribbons
from pennello.kit import catalogue
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.lay.laying import Laid
from pennello.lay.render import render
from pennello.load.look import cake_colours, edge_colours
from pennello.load.recipe import PickUp
from pennello.phrases import phrase
from pennello.units import LengthUnit, length_text

_STROKE_BOX_MM = (PAGE_WIDTH_MM - 2 * MARGIN_MM, 100.0)
_MOST_DRAWN = 3


def write_card(plan: Plan, name: str, path: Path, unit: LengthUnit = LengthUnit.MM) -> None:
    """Write the load card of one stroke as a one-page PDF (A4).

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    UnknownNameError
        If the plan has no such stroke.
    """
    write_page(path, f"{plan.title}: {plan.stroke(name).name}", card_page(plan, name, unit))


def card_page(plan: Plan, name: str, unit: LengthUnit = LengthUnit.MM) -> Draw:
    """Return what draws the load card of a stroke; raises UnknownNameError if the plan has no such stroke."""
    stroke, attempt = plan.stroke(name), plan.attempt(name)
    laid = attempt.lay(6.0)
    seen = compare(laid, attempt)
    verdict = judge(attempt, laid, seen, tuple(catalogue.paints().values()), unit)
    return lambda page: _draw(page, plan, stroke, laid, seen, verdict, unit)


def _draw(
    page: Page,
    plan: Plan,
    stroke: PlanStroke,
    laid: Laid,
    seen: Comparison,
    verdict: Verdict,
    unit: LengthUnit,
) -> None:
    x = MARGIN_MM
    page.text(x, 18, stroke.name, 20, bold=True)
    page.text(x, 24, " · ".join(part for part in (plan.title, plan.place, plan.skin.name) if part), 10, quiet=True)
    y = 32.0
    for line in load_words(plan, stroke, unit):
        y = page.paragraph(x, y, line, PAGE_WIDTH_MM - 2 * x, 10.5)
    y = page.paragraph(x, y + 1, verdict.headline, PAGE_WIDTH_MM - 2 * x, 10.5)
    for pickup in stroke.recipe.pickups[-_MOST_DRAWN:]:
        y = draw_pickup(page, plan, stroke, pickup, y + 4)
    y = _draw_edge(page, plan, laid, seen, y + 8)
    _draw_stroke(page, plan, laid, y + 8, unit)


def draw_pickup(page: Page, plan: Plan, stroke: PlanStroke, pickup: PickUp, y: float) -> float:
    """Draw the cake with the brush on it, or the pan, less tall when there are several; return the y below it."""
    height = 22.0 if len(stroke.recipe.pickups) == 1 else 11.0
    if pickup.pan:
        page.text(MARGIN_MM, y, pickup_words(plan, stroke, pickup), 9, quiet=True)
        for index, portion in enumerate(pickup.pan):
            colour = parse_hex(plan.paint(portion.paint).srgb) * 255
            page.fill(MARGIN_MM + 14 * index, y + 2, 12, height * 0.6, colour)
        return y + 4 + height * 0.6
    return _draw_cake(page, plan.cake(pickup.cake), plan, plan.brush(stroke.brush), pickup, y, height)


def _draw_cake(page: Page, cake: Cake, plan: Plan, brush: Applicator, pickup: PickUp, y: float, height: float) -> float:
    left = min(0.0, pickup.offset_mm)
    across = max(cake.width_mm, pickup.offset_mm + brush.width_mm) - left
    scale = fit(across, 1.0, _STROKE_BOX_MM)
    x = MARGIN_MM - left * scale
    page.text(
        MARGIN_MM,
        y,
        phrase("{cake} with the brush on it, {scale_words}", cake=cake.name, scale_words=scale_words(scale)),
        9,
        quiet=True,
    )
    y += 7
    page.strips(x, y, cake.width_mm * scale, height, cake_strips(cake, plan))
    page.frame(x, y, cake.width_mm * scale, height)
    start = x + pickup.offset_mm * scale
    deep = min(brush.thickness_mm * scale, height * 0.6)
    page.frame(start, y + height * 0.35, brush.width_mm * scale, deep, 1.2)
    for side, at in zip("BA" if pickup.flip else "AB", (start, start + brush.width_mm * scale), strict=True):
        page.line(at, y + height * 0.2, at, y + height * 0.6, 1.2)
        page.text(at - 1, y - 1.2, side, 8, bold=True)
    page.ruler(x, y + height, cake.width_mm * scale)
    return y + height + 6


def cake_strips(cake: Cake, plan: Plan) -> Picture:
    """Return a cake's face as colours side by side, shape (240, 3)."""
    return cake_colours(cake, plan.paints_by_id, 240)


def _draw_edge(page: Page, plan: Plan, laid: Laid, seen: Comparison, y: float) -> float:
    width = laid.edge.width_mm
    scale = fit(width, 1.0, (80.0, 1.0))
    loaded = edge_colours(laid.edge, plan.paints_by_id)
    named = zip(
        (phrase("loaded"), phrase("wanted"), phrase("laid early"), phrase("laid late")),
        (loaded, *ribbons(seen)),
        strict=True,
    )
    ends = phrase("tip to belly") if laid.edge.axis is GradientAxis.ALONG else phrase("A to B")
    page.text(
        MARGIN_MM,
        y,
        phrase("The edge from {ends}, {scale_words}", ends=ends, scale_words=scale_words(scale)),
        9,
        quiet=True,
    )
    y += 2
    for words, colours in named:
        page.strips(MARGIN_MM, y, width * scale, 6, colours)
        page.text(MARGIN_MM + width * scale + 3, y + 4.2, words, 9)
        y += 7
    page.ruler(MARGIN_MM, y - 1, width * scale)
    return y + 5


def _draw_stroke(page: Page, plan: Plan, laid: Laid, y: float, unit: LengthUnit) -> None:

    ground = laid.film.canvas
    width, height = ground.columns / ground.px_per_mm, ground.rows / ground.px_per_mm
    room = (_STROKE_BOX_MM[0], PAGE_HEIGHT_MM - 32 - y)
    scale = fit(width, height, room)
    words = phrase(
        "The stroke, {length_mm} long, ribs every 5 mm, {scale_words}",
        length_mm=length_text(laid.track.length_mm, unit),
        scale_words=scale_words(scale),
    )
    page.text(MARGIN_MM, y, words, 9, quiet=True)
    y += 2
    page.picture(MARGIN_MM, y, width * scale, height * scale, render(laid.film, skin_spectrum(plan.skin)))
    moments = laid.track.at(np.arange(0, laid.track.length_mm, 5.0))
    for a, b in laid.track.points(moments, np.array([0.0, 1.0])):
        ends = [(float(p[0]) - ground.left_mm, float(p[1]) - ground.top_mm) for p in (a, b)]
        (x0, y0), (x1, y1) = [(MARGIN_MM + px * scale, y + py * scale) for px, py in ends]
        page.line(x0, y0, x1, y1, 0.25)
