"""The sheet for the chair: the whole as painted, the loads, the parts as pictures, cautions; outlines if asked."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from itertools import pairwise
from pathlib import Path

from pennello.caution.rules import DECIDE
from pennello.design.load_edits import words_of
from pennello.design.plan import Plan, PlanStroke
from pennello.design.words import source_words
from pennello.files.card_pdf import cake_strips
from pennello.files.page import MARGIN_MM, PAGE_HEIGHT_MM, PAGE_WIDTH_MM, Page, rows_of, write_pages
from pennello.files.tiles import bounds_of, draw_tile, marked, tiles_of
from pennello.finding import Finding
from pennello.load.edge import LoadedEdge, boundaries
from pennello.load.look import edge_colours
from pennello.order.arrange import Arranged
from pennello.order.jobs import part_names
from pennello.order.stages import SheetPictures, Stage, loads_used, stages, when_words
from pennello.phrases import named, phrase, told
from pennello.units import minutes

Draw = Callable[[Page], None]

_WIDE = PAGE_WIDTH_MM - 2 * MARGIN_MM
_BOTTOM = PAGE_HEIGHT_MM - 32.0
_COLUMN, _GAP = (_WIDE - 6.0) / 2, 6.0
_WHOLE_MM = (100.0, 118.0)
_PICTURE_MM, _STAGE_MM = 40.0, 79.0
_LOAD_MM, _STRIP_MM = 21.0, 44.0
_LINE = 3.9


def write_sheet(
    arranged: Arranged,
    told: Sequence[Finding],
    path: Path,
    pictures: SheetPictures | None = None,
    *,
    maker: str = "",
    tiles: bool = False,
) -> int:
    """Write the sheet of an order as a PDF (A4) and return how many pages it has.

    Parameters
    ----------
    pictures
        Of the design and its stages; without them there are words alone.
    tiles
        Whether outlines at true scale follow, cut into pages.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """
    plan = arranged.design.work.plan
    draws = sheet_pages(arranged, told, pictures)
    enlarged = len(draws)
    draws += tile_pages(arranged, pictures) if tiles else []
    write_pages(
        path,
        phrase("{plan}: sheet, {maker}", plan=plan.title, maker=maker)
        if maker
        else phrase("{plan}: sheet", plan=plan.title),
        draws,
        enlarged=enlarged,
    )
    return len(draws)


def sheet_pages(arranged: Arranged, told: Sequence[Finding], pictures: SheetPictures | None) -> list[Draw]:
    """Return what draws the pages of a sheet without outlines; nothing on them is at true scale."""
    loads = loads_used(arranged)
    first = _fits(_LOAD_MM, 18.0 + _WHOLE_MM[1] + 22.0)
    draws: list[Draw] = [lambda page: _draw_first(page, arranged, pictures, loads[:first])]
    rest = [_load_cell(arranged, loads, number) for number in range(first, len(loads))]
    cells = [_stage_cell(one, pictures) for one in stages(arranged)]
    draws += _columns(rest, _LOAD_MM, phrase("Loads")) + _columns(cells, _STAGE_MM, phrase("One after another"))
    lines = [("head", phrase("Cautions")), *(("text", _caution(one)) for one in told), ("quiet", DECIDE)]
    return _with_flow(draws, lines, len(cells))


def tile_pages(arranged: Arranged, pictures: SheetPictures | None) -> list[Draw]:
    """Return what draws the outlines of each chart at true scale, cut into pages; on the photo that stands for it."""
    plan = arranged.design.work.plan
    photos = pictures.under if pictures is not None else {}
    draws: list[Draw] = []
    for chart in dict.fromkeys(job.chart for job in arranged.jobs):
        strokes = marked(arranged, chart)
        draws += [
            partial(draw_tile, plan=plan, chart=chart, strokes=strokes, tile=tile, photo=photos.get(chart))
            for tile in tiles_of(bounds_of(plan, chart, strokes))
        ]
    return draws


def _caution(one: Finding) -> str:
    return f"{named(one.level)}: {one.text} {one.reason}"


def _fits(tall_mm: float, top_mm: float) -> int:
    """Return how many cells of two columns have room below a place."""
    return 2 * int((_BOTTOM - top_mm) / tall_mm)


# --- the first page ---


def _draw_first(page: Page, arranged: Arranged, pictures: SheetPictures | None, loads: Sequence[str]) -> None:
    """Draw the whole: the design as painted, minutes, kit, what to say, the loads."""
    plan = arranged.design.work.plan
    page.text(MARGIN_MM, 18, plan.title, 20, bold=True)
    page.text(MARGIN_MM, 24, " · ".join(part for part in (plan.place, plan.skin.name) if part), 9, quiet=True)
    _draw_whole(page, pictures, 28.0)
    _draw_facts(page, arranged, MARGIN_MM + _WHOLE_MM[0] + 6.0, 32.0)
    top = 28.0 + _WHOLE_MM[1] + 8.0
    page.text(MARGIN_MM, top, phrase("Loads, in the order of painting"), 12, bold=True)
    for number in range(len(loads)):
        x = MARGIN_MM + (number % 2) * (_COLUMN + _GAP)
        _load_cell(arranged, loads_used(arranged), number)(page, x, top + 5.0 + number // 2 * _LOAD_MM)


def _draw_whole(page: Page, pictures: SheetPictures | None, top: float) -> None:
    """Draw the charts side by side within a box."""
    shown = list(pictures.whole.values())[:4] if pictures is not None else []
    columns = 1 if len(shown) < 2 else 2
    rows = max(1, -(-len(shown) // columns))
    wide, tall = _WHOLE_MM[0] / columns, _WHOLE_MM[1] / rows
    for number, picture in enumerate(shown):
        scale = min((wide - 2) / picture.shape[1], (tall - 2) / picture.shape[0])
        x, y = MARGIN_MM + number % columns * wide, top + number // columns * tall
        page.picture(x, y, picture.shape[1] * scale, picture.shape[0] * scale, picture)


def _draw_facts(page: Page, arranged: Arranged, x: float, y: float) -> None:
    """Draw minutes with where they go, what is needed, what is said."""
    sums, wide = arranged.sums, MARGIN_MM + _WIDE - x
    page.text(x, y, phrase("{total_s} in all", total_s=minutes(sums.total_s)), 15, bold=True)
    y = _draw_where(page, sums.where, x, y + 3.0, wide)
    lines = [phrase("{counts}. Times are predicted.", counts=sums.changes_words)]
    if arranged.choice is not None:
        lines += arranged.choice.words(part_names(arranged.design.work.plan))
    lines += [phrase("Complete as it is after {at_s}.", at_s=minutes(stop.at_s)) for stop in arranged.stops[-3:-1]]
    lines += kit_list(arranged)
    said = [words for job in arranged.jobs if (words := arranged.design.cues.get(job.id))]
    lines += [phrase("Say: {words}", words=words) for words in dict.fromkeys(said)]
    for line in lines:
        if y + rows_of(line, wide, 8.5) * 4.1 > 28.0 + _WHOLE_MM[1]:
            break
        y = page.paragraph(x, y, line, wide, 8.5) + 0.8


def _draw_where(page: Page, parts: Sequence[tuple[str, float]], x: float, y: float, wide: float) -> float:
    """Draw where the time goes as a hatched bar with its words; return the y below."""
    total, at = sum(seconds for _, seconds in parts) or 1.0, x
    for number, (_, seconds) in enumerate(parts):
        long = wide * seconds / total
        _hatched(page, at, y, long, 4.0, number)
        page.frame(at, y, long, 4.0, 0.3)
        at += long
    words = ", ".join(
        phrase("{name} {seconds:.0f} s", name=told(name), seconds=seconds) for name, seconds in parts if seconds >= 0.5
    )
    return page.paragraph(x, y + 8.0, words, wide, 8, quiet=True) + 1.0


def _hatched(page: Page, x: float, y: float, wide: float, tall: float, kind: int) -> None:
    """Fill a rectangle by lines: none, leaning right, leaning left, upright, level; for grey prints."""
    with page.clipped(x, y, wide, tall):
        if kind % 5 in (1, 2):
            lean = tall if kind % 5 == 1 else -tall
            for at in range(int((wide + 2 * tall) / 1.5) + 1):
                left = x - tall + at * 1.5
                page.line(left, y + tall, left + lean, y, 0.15)
        elif kind % 5 == 3:
            for at in range(int(wide / 1.5) + 1):
                page.line(x + at * 1.5, y, x + at * 1.5, y + tall, 0.2)
        elif kind % 5 == 4:
            for at in range(int(tall / 1.5) + 1):
                page.line(x, y + at * 1.5, x + wide, y + at * 1.5, 0.2)


def kit_list(arranged: Arranged) -> tuple[str, ...]:
    """Return what has to be at hand, each in a line: brushes and sponges, cakes, pans, and what lies over the paint."""
    plan = arranged.design.work.plan
    loads = [plan.stroke(job.load) for job in arranged.jobs if job.load]
    brushes = dict.fromkeys(plan.brush(stroke.brush).name for stroke in loads)
    cakes = dict.fromkeys(plan.cake(name).name for stroke in loads for name in stroke.recipe.cakes)
    pans = dict.fromkeys(plan.paint(name).name for stroke in loads for name in stroke.recipe.pan_paints)
    over = [job.name for job in arranged.jobs if not job.load]
    things = {
        phrase("Brushes and sponges"): brushes,
        phrase("Cakes"): cakes,
        phrase("Pans"): pans,
        phrase("Over the paint"): over,
    }
    lines = tuple(f"{words}: {', '.join(names)}." for words, names in things.items() if names)
    return (*lines, phrase("Rinse pot, fresh water, one clean sponge and swab a person, cloth, soap to take it off."))


# --- loads ---


def _load_cell(arranged: Arranged, loads: Sequence[str], number: int) -> Callable[[Page, float, float], None]:
    """Return what draws a load at a place: its cake with the brush on it, its edge, in words."""
    plan = arranged.design.work.plan
    stroke = plan.stroke(loads[number])

    def draw(page: Page, x: float, y: float) -> None:
        page.text(x, y + 4.0, str(number + 1), 13, bold=True)
        page.text(x + 7.0, y + 3.2, stroke.name, 9.5, bold=True)
        if stroke.recipe.pickups and stroke.recipe.pickups[0].cake:
            _draw_cake(page, plan, stroke, x + 7.0, y + 5.6)
        _draw_edge(page, plan.edge(stroke.id), plan, x + 7.0, y + 11.4)
        words = [plan.brush(stroke.brush).name, *(source_words(plan, one) for one in stroke.recipe.pickups[:2])]
        words.append(phrase("again {words_of}", words_of=words_of(stroke.reload, stroke.reload_after)))
        wide, at = _COLUMN - _STRIP_MM - 12.0, y + 7.4
        for line in words:
            if at < y + _LOAD_MM - 2:
                at = page.paragraph(x + 7.0 + _STRIP_MM + 4.0, at, line, wide, 7)

    return draw


def _draw_cake(page: Page, plan: Plan, stroke: PlanStroke, x: float, y: float) -> None:
    """Draw a cake from above, as wide as there is room, with the brush on it."""
    pickup = stroke.recipe.pickups[0]
    cake, brush = plan.cake(pickup.cake), plan.brush(stroke.brush)
    left = min(0.0, pickup.offset_mm)
    scale = _STRIP_MM / (max(cake.width_mm, pickup.offset_mm + brush.width_mm) - left)
    start = x - left * scale
    page.strips(start, y, cake.width_mm * scale, 4.4, cake_strips(cake, plan))
    page.frame(start, y, cake.width_mm * scale, 4.4, 0.3)
    page.frame(start + pickup.offset_mm * scale, y + 1.2, brush.width_mm * scale, 2.0, 1.1)


def _draw_edge(page: Page, edge: LoadedEdge, plan: Plan, x: float, y: float) -> None:
    """Draw the loaded edge, A at the left, each paint hatched in its own way."""
    page.strips(x, y, _STRIP_MM, 5.0, edge_colours(edge, plan.paints_by_id))
    ends = [0.0, *(one.at_mm / edge.width_mm for one in boundaries(edge)), 1.0]
    for number, (start, end) in enumerate(pairwise(ends)):
        _hatched(page, x + start * _STRIP_MM, y, (end - start) * _STRIP_MM, 5.0, number)
    page.frame(x, y, _STRIP_MM, 5.0, 0.3)
    page.text(x - 2.6, y + 3.8, "A", 7, quiet=True)
    page.text(x + _STRIP_MM + 0.6, y + 3.8, "B", 7, quiet=True)


# --- part by part ---


def _stage_cell(stage: Stage, pictures: SheetPictures | None) -> Callable[[Page, float, float], None]:
    """Return what draws a part at a place: its number and name, its picture, what to do."""
    shown = pictures.stages[stage.number - 1] if pictures is not None else None

    def draw(page: Page, x: float, y: float) -> None:
        page.text(x, y + 4.0, str(stage.number), 14, bold=True)
        page.text(x + 9.0, y + 3.4, stage.name, 10.5, bold=True)
        page.text(x + 9.0, y + 7.2, when_words(stage), 8, quiet=True)
        top = y + 9.5
        if shown is not None:
            picture, wide, tall = shown
            scale = min(_COLUMN / wide, _PICTURE_MM / tall)
            page.picture(x, top, wide * scale, tall * scale, picture)
        at = top + _PICTURE_MM + 4.0
        for line in stage.words:
            if at + rows_of(line, _COLUMN, 8.5) * _LINE > y + _STAGE_MM:
                break
            at = page.paragraph(x, at, line, _COLUMN, 8.5)

    return draw


def _columns(cells: Sequence[Callable[[Page, float, float], None]], tall_mm: float, head: str) -> list[Draw]:
    """Return pages of cells in two columns, read row by row."""
    fits = _fits(tall_mm, 24.0)
    pages = [cells[at : at + fits] for at in range(0, len(cells), fits)]

    def drawn(ones: Sequence[Callable[[Page, float, float], None]]) -> Draw:
        def draw(page: Page) -> None:
            page.text(MARGIN_MM, 16, head, 12, bold=True)
            for number, cell in enumerate(ones):
                cell(page, MARGIN_MM + number % 2 * (_COLUMN + _GAP), 21.0 + number // 2 * tall_mm)

        return draw

    return [drawn(ones) for ones in pages]


# --- words ---


def _with_flow(draws: list[Draw], lines: Sequence[tuple[str, str]], cells: int) -> list[Draw]:
    """Return pages with words after them: below the last cells where they have room, else on pages of their own."""
    last = cells % _fits(_STAGE_MM, 24.0) or min(cells, _fits(_STAGE_MM, 24.0))
    top = 21.0 + -(-last // 2) * _STAGE_MM + 6.0
    flowed = _flowed(lines, top) if cells else []
    if len(flowed) != 1:
        return [*draws, *_flowed(lines)]
    before, words = draws[-1], flowed[0]

    def both(page: Page) -> None:
        before(page)
        words(page)

    return [*draws[:-1], both]


def _flowed(lines: Sequence[tuple[str, str]], top: float = 18.0) -> list[Draw]:
    """Return pages that the lines flow over; a line is measured as it is written."""
    pages: list[list[tuple[float, str, str]]] = [[]]
    y = top
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
