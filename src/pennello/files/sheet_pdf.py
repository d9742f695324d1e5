"""The sheet for the chair: what it comes to, cautions, kit, load cards, steps, the stroke chart at true scale."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from pennello.caution.rules import DECIDE
from pennello.design.pace import StepKind
from pennello.design.plan import Plan
from pennello.design.words import load_words
from pennello.files.card_pdf import draw_pickup
from pennello.files.page import MARGIN_MM, PAGE_HEIGHT_MM, PAGE_WIDTH_MM, Page, rows_of, write_pages
from pennello.files.tiles import bounds_of, draw_tile, marked, tiles_of
from pennello.finding import Finding
from pennello.load.look import edge_colours
from pennello.motif.motif import counted
from pennello.order.arrange import Arranged
from pennello.order.jobs import part_names
from pennello.order.steps import Step
from pennello.units import LengthUnit, clock, minutes

Draw = Callable[[Page], None]

_WIDE = PAGE_WIDTH_MM - 2 * MARGIN_MM
_BOTTOM = PAGE_HEIGHT_MM - 34.0
_ROW = 6.4
_CARD_MM = 118.0


def write_sheet(
    arranged: Arranged, told: Sequence[Finding], path: Path, unit: LengthUnit = LengthUnit.MM, *, maker: str = ""
) -> int:
    """Write the sheet of an order as a PDF (A4) and return how many pages it has.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """
    plan = arranged.design.work.plan
    draws: list[Draw] = [*_first_pages(arranged, told), *_load_pages(arranged, unit), *_step_pages(arranged)]
    for chart in dict.fromkeys(job.chart for job in arranged.jobs):
        strokes = marked(arranged, chart)
        draws += [
            lambda page, chart=chart, strokes=strokes, tile=tile: draw_tile(page, plan, chart, strokes, tile)  # type: ignore[misc]
            for tile in tiles_of(bounds_of(plan, chart, strokes))
        ]
    write_pages(path, f"{plan.title}: sheet{f', {maker}' if maker else ''}", draws)
    return len(draws)


# --- the first page ---


def _first_pages(arranged: Arranged, told: Sequence[Finding]) -> list[Draw]:
    """Return pages with what it comes to, the kit, and the cautions; as many as it takes."""
    plan, sums = arranged.design.work.plan, arranged.sums
    counts = (counted(sums.loads, "load"), counted(sums.rinses, "rinse"), counted(sums.changes, "change"))
    lines: list[tuple[str, str]] = [
        ("big", plan.title),
        ("quiet", " · ".join(part for part in (plan.place, plan.skin.name) if part)),
        (
            "text",
            f"{minutes(sums.total_s)} in all: {minutes(sums.busy_s)} of work, {minutes(sums.waiting_s)} of waiting.",
        ),
        (
            "text",
            f"{', '.join(counts)} of tool. Times are predicted.",
        ),
    ]
    if arranged.choice is not None:
        lines += [("text", words) for words in arranged.choice.words(part_names(plan))]
    lines += [("text", f"Complete as it is after {minutes(stop.at_s)}.") for stop in arranged.stops[:-1]]
    lines.append(("head", "Kit"))
    lines += [("text", line) for line in kit_list(arranged)]
    lines.append(("head", "Cautions"))
    lines += [("text", f"{one.level.value}: {one.text} {one.reason}") for one in told]
    lines.append(("quiet", DECIDE))
    return _flowed(lines)


def _flowed(lines: Sequence[tuple[str, str]]) -> list[Draw]:
    """Return pages that the lines flow over; a line is measured as it is written."""
    pages: list[list[tuple[float, str, str]]] = [[]]
    y = 18.0
    for style, words in lines:
        size, gap = {"big": (20, 4.0), "head": (12, 4.0), "quiet": (9, 1.0), "text": (10, 0.6)}[style]
        tall = rows_of(words, _WIDE, size) * size * 0.48 + gap
        if y + tall > _BOTTOM:
            pages.append([])
            y = 18.0
        y += gap if style == "head" else 0.0
        pages[-1].append((y, style, words))
        y += tall
    return [lambda page, rows=rows: _draw_flow(page, rows) for rows in pages]  # type: ignore[misc]


def _draw_flow(page: Page, rows: Sequence[tuple[float, str, str]]) -> None:
    for y, style, words in rows:
        if style in ("big", "head"):
            page.text(MARGIN_MM, y, words, 20 if style == "big" else 12, bold=True)
        else:
            page.paragraph(MARGIN_MM, y, words, _WIDE, 9 if style == "quiet" else 10, quiet=style == "quiet")


def kit_list(arranged: Arranged) -> tuple[str, ...]:
    """Return what has to be at hand, each in a line: brushes and sponges, cakes, pans, and what lies over the paint."""
    plan = arranged.design.work.plan
    loads = [plan.stroke(job.load) for job in arranged.jobs if job.load]
    brushes = dict.fromkeys(plan.brush(stroke.brush).name for stroke in loads)
    cakes = dict.fromkeys(plan.cake(name).name for stroke in loads for name in stroke.recipe.cakes)
    pans = dict.fromkeys(plan.paint(name).name for stroke in loads for name in stroke.recipe.pan_paints)
    over = [job.name for job in arranged.jobs if not job.load]
    things = {"Brushes and sponges": brushes, "Cakes": cakes, "Pans": pans, "Over the paint": over}
    lines = tuple(f"{words}: {', '.join(names)}." for words, names in things.items() if names)
    return (*lines, "Rinse pot, fresh water, one clean sponge and swab a person, cloth, soap to take it off.")


# --- load cards ---


def _load_pages(arranged: Arranged, unit: LengthUnit) -> list[Draw]:
    """Return pages with a card for every load that is used, two a page."""
    names = list(dict.fromkeys(job.load for job in arranged.jobs if job.load))
    pairs = [names[at : at + 2] for at in range(0, len(names), 2)]
    return [lambda page, pair=pair: _draw_cards(page, arranged, pair, unit) for pair in pairs]  # type: ignore[misc]


def _draw_cards(page: Page, arranged: Arranged, names: Sequence[str], unit: LengthUnit) -> None:
    plan = arranged.design.work.plan
    for number, name in enumerate(names):
        _draw_card(page, plan, name, 18.0 + number * _CARD_MM, unit)


def _draw_card(page: Page, plan: Plan, name: str, y: float, unit: LengthUnit) -> None:
    stroke = plan.stroke(name)
    page.text(MARGIN_MM, y, stroke.name, 15, bold=True)
    page.text(MARGIN_MM, y + 5, f"{plan.brush(stroke.brush).name}, edge {stroke.rim.value} is the rim", 9, quiet=True)
    y += 12
    for line in load_words(plan, stroke, unit)[:4]:
        y = page.paragraph(MARGIN_MM, y, line, _WIDE, 9.5)
    for pickup in stroke.recipe.pickups[-2:]:
        y = draw_pickup(page, plan, stroke, pickup, y + 3)
    edge = plan.edge(name)
    wide = min(edge.width_mm, 80.0)
    page.text(MARGIN_MM, y + 6, "The loaded edge, A to B", 9, quiet=True)
    page.strips(MARGIN_MM, y + 8, wide, 7, edge_colours(edge, plan.paints_by_id))
    page.ruler(MARGIN_MM, y + 15, wide)


# --- steps ---


def _step_pages(arranged: Arranged) -> list[Draw]:
    numbers = {arranged.jobs[place].id: number for number, place in enumerate(arranged.timing.order, 1)}
    rows = [(numbers.get(step.id), step) for step in arranged.steps]
    fits = int((_BOTTOM - 34) / _ROW)
    parts = [rows[at : at + fits] for at in range(0, len(rows), fits)]
    return [
        lambda page, part=part, number=number: _draw_steps(page, part, number, len(parts))  # type: ignore[misc]
        for number, part in enumerate(parts, 1)
    ]


def _draw_steps(page: Page, rows: Sequence[tuple[int | None, Step]], number: int, of: int) -> None:
    page.text(MARGIN_MM, 18, f"Steps{f', {number} of {of}' if of > 1 else ''}", 15, bold=True)
    for x, words in ((0, "step"), (12, "at"), (30, "takes"), (48, "what to do")):
        page.text(MARGIN_MM + x, 25, words, 8.5, quiet=True)
    y = 31.0
    for place, step in rows:
        if place is not None:
            page.text(MARGIN_MM, y, str(place), 10.5, bold=True)
        page.text(MARGIN_MM + 12, y, clock(step.start_s), 9.5)
        page.text(MARGIN_MM + 30, y, f"{step.seconds:.0f} s", 9.5)
        words = step.words if len(step.words) <= 88 else f"{step.words[:86]} ..."
        page.text(MARGIN_MM + 48, y, words, 9.5, bold=place is not None, quiet=step.kind is StepKind.WAIT)
        page.line(MARGIN_MM, y + 1.9, MARGIN_MM + _WIDE, y + 1.9, 0.15)
        y += _ROW
