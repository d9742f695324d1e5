"""Paper of a day: the menu board, a pick card by colours, the bag, the hygiene list, and a plain quote."""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

import numpy as np
from reportlab.lib.pagesizes import A3, A4, LETTER, landscape
from reportlab.pdfgen.canvas import Canvas

from pennello.day.bag import Thing
from pennello.day.event import Event, MenuItem, clock_text
from pennello.disk import write_bytes
from pennello.errors import OutOfRangeError
from pennello.files.page import MARGIN_MM, PAGE_WIDTH_MM, Page, write_page
from pennello.files.paper import new_canvas
from pennello.files.picture import Picture
from pennello.phrases import phrase, plural, told

SIZES = {"A4": A4, "A3": A3, "Letter": LETTER}
_PT = 72 / 25.4

HYGIENE = (
    phrase("Clean hands before each person; no painting on broken, sore or infected skin, nor over a cold sore."),
    phrase("A clean sponge for each person; brushes rinsed and wiped between people; water changed before it turns."),
    phrase(
        "Only products made for skin, inside their date, used as their label says; nothing in the eye, "
        "no glitter that is not made for faces."
    ),
    phrase(
        "Ask first: allergies, skin that reacts, who may say yes for a child. "
        "Nobody is painted who does not want to be."
    ),
    phrase("Not painted: the inside of the lips and nostrils, open eyes, babies who cannot say no."),
    phrase("It comes off with lukewarm water and mild soap; what itches or burns is washed off at once."),
)
"""Common practice, no published source; labels, local rules and licensed practice decide."""

DECIDES = phrase(
    "Labels, local rules and licensed practice decide; this list certifies nothing. "
    "Common practice, no published source."
)


class _Sheet(Page):
    """A page of any size."""

    def __init__(self, canvas: Canvas, width_pt: float, height_pt: float) -> None:
        super().__init__(canvas)
        self.width_mm, self.height_mm = width_pt / _PT, height_pt / _PT
        # Page measures from the top of an A4 page: what is taller begins higher up
        canvas.translate(0, height_pt - A4[1])


def write_board(
    event: Event,
    pictures: Mapping[str, Picture],
    path: Path,
    *,
    size: str = "A4",
    prices: bool = False,
    short: bool = False,
) -> None:
    """Write the menu board as a one-page PDF: pictures as laid, names, minutes; no prices unless they are wanted.

    Parameters
    ----------
    pictures
        By design.
    size
        A4, A3 or Letter, on its side.
    short
        Whether the short forms are offered.

    Raises
    ------
    OutOfRangeError
        If there is no such size, or no design is on the menu.
    FileProblemError
        If it cannot be written.
    """
    if size not in SIZES:
        raise OutOfRangeError(phrase("size of the paper"), size, ", ".join(SIZES))
    items = event.on_menu
    if not items:
        raise OutOfRangeError(phrase("number of designs on the board"), 0, phrase("at least 1"))

    def draw(sheet: _Sheet) -> None:
        sheet.text(MARGIN_MM, 20, event.name, 24, bold=True)
        if prices and event.per_face > 0:
            words = phrase("{per_face:g} {currency} a face", per_face=event.per_face, currency=event.currency)
            sheet.text(sheet.width_mm - MARGIN_MM - 3.2 * len(words), 20, words, 16)
        columns = min(4, max(1, math.ceil(math.sqrt(len(items) * 1.3))))
        rows = math.ceil(len(items) / columns)
        wide = (sheet.width_mm - 2 * MARGIN_MM + 6) / columns - 6
        high = (sheet.height_mm - 40) / rows - 14
        for number, item in enumerate(items):
            x = MARGIN_MM + (number % columns) * (wide + 6)
            y = 28 + (number // columns) * (high + 14)
            _fitted(sheet, x, y, wide, high, pictures.get(item.id))
            sheet.text(x, y + high + 4.6, item.title, 11, bold=True)
            minutes = max(1, round(item.seconds(short=short) / 60))
            sheet.text(x, y + high + 8.8, phrase("about {minutes} min", minutes=minutes), 9, quiet=True)

    _write_sized(path, phrase("Menu, {event}", event=event.name), size, draw)


def _write_sized(path: Path, title: str, size: str, draw: Callable[[_Sheet], None]) -> None:
    file = io.BytesIO()
    width, height = landscape(SIZES[size])
    canvas = new_canvas(file, title, (width, height), phrase("menu"))
    draw(_Sheet(canvas, width, height))
    canvas.showPage()
    canvas.save()
    write_bytes(file.getvalue(), path)


def _fitted(page: Page, x: float, y: float, wide: float, high: float, picture: Picture | None) -> None:
    """Draw a picture into a box as large as it fits, in its middle; a frame where there is none."""
    if picture is None:
        page.frame(x, y, wide, high)
        return
    rows, columns = picture.shape[:2]
    scale = min(wide / columns, high / rows)
    w, h = columns * scale, rows * scale
    page.picture(x + (wide - w) / 2, y + (high - h) / 2, w, h, np.ascontiguousarray(picture))


def by_colour(event: Event) -> dict[str, tuple[MenuItem, ...]]:
    """Return the designs on the menu by the colour that each shows most."""
    found: dict[str, list[MenuItem]] = {}
    for item in event.on_menu:
        found.setdefault(item.colours[0] if item.colours else phrase("all colours"), []).append(item)
    return {colour: tuple(those) for colour, those in sorted(found.items())}


def write_pick_card(event: Event, pictures: Mapping[str, Picture], path: Path) -> None:
    """Write a card to choose from by colours, a one-page PDF (A4); raises FileProblemError."""

    def draw(page: Page) -> None:
        page.text(MARGIN_MM, 20, phrase("Choose by colour"), 20, bold=True)
        y = 28.0
        groups = by_colour(event)
        high = min(48.0, (235 - 7 * len(groups)) / max(len(groups), 1) - 6)
        for colour, items in groups.items():
            page.text(MARGIN_MM, y + 4, told(colour), 12, bold=True)
            y += 7
            wide = min(60.0, (PAGE_WIDTH_MM - 2 * MARGIN_MM) / max(len(items), 1) - 3)
            for number, item in enumerate(items):
                x = MARGIN_MM + number * (wide + 3)
                _fitted(page, x, y, wide, high - 5, pictures.get(item.id))
                page.text(x, y + high - 1, item.title, 8)
            y += high + 4

    write_page(path, phrase("Pick card, {event}", event=event.name), draw, enlarged=True)


def write_bag(event: Event, faces: float, things: Sequence[Thing], buy: Sequence[str], path: Path) -> None:
    """Write the packing list with boxes to tick, and what to buy, a one-page PDF (A4); raises FileProblemError."""

    def draw(page: Page) -> None:
        page.text(MARGIN_MM, 18, phrase("The bag for {event}", event=event.name), 16, bold=True)
        page.text(
            MARGIN_MM,
            24,
            plural(
                math.ceil(faces),
                "for {faces} face, {painters} painting",
                "for {faces} faces, {painters} painting",
                faces=math.ceil(faces),
                painters=event.painters,
            ),
            9.5,
            quiet=True,
        )
        y, column = 32.0, 0
        for one in things:
            x = MARGIN_MM + column * 93
            page.frame(x, y - 3, 3.2, 3.2)
            page.text(x + 5, y, f"{one.words}: {one.amount}", 8.5)
            y += 4.6
            for words in filter(None, (one.caution, one.label)):
                y = page.paragraph(x + 5, y, words, 82, 7.5, quiet=True) + 0.8
            if y > 232 and column == 0:
                y, column = 32.0, 1
        y = 240.0
        if buy:
            page.text(MARGIN_MM, y, phrase("To buy"), 11, bold=True)
            page.paragraph(MARGIN_MM, y + 5, "; ".join(buy), PAGE_WIDTH_MM - 2 * MARGIN_MM, 8.5)

    write_page(path, phrase("Bag, {event}", event=event.name), draw, enlarged=True)


def write_hygiene(event: Event, path: Path) -> None:
    """Write the hygiene list to hang up, a one-page PDF (A4); raises FileProblemError."""

    def draw(page: Page) -> None:
        page.text(MARGIN_MM, 24, phrase("How we keep it clean"), 26, bold=True)
        y = 42.0
        for line in HYGIENE:
            page.disc(MARGIN_MM + 2, y - 2.2, 1.2, (37, 33, 29))
            y = page.paragraph(MARGIN_MM + 8, y, line, PAGE_WIDTH_MM - 2 * MARGIN_MM - 8, 15) + 6
        page.paragraph(MARGIN_MM, y + 4, DECIDES, PAGE_WIDTH_MM - 2 * MARGIN_MM, 10, quiet=True)
        page.text(MARGIN_MM, 250, event.name, 10, quiet=True)

    write_page(path, phrase("Hygiene, {event}", event=event.name), draw, enlarged=True)


def write_quote(event: Event, faces: float, path: Path) -> None:
    """Write a plain quote: hours or faces, the way, the sum. No taxes, a one-page PDF (A4); raises FileProblemError."""

    def draw(page: Page) -> None:
        page.text(MARGIN_MM, 24, phrase("Quote"), 22, bold=True)
        hours = phrase("{clock} to {clock_2}", clock=clock_text(event.begins_min), clock_2=clock_text(event.ends_min))
        where = ", ".join(part for part in (event.place, event.day, hours) if part)
        page.text(MARGIN_MM, 33, f"{event.name}: {where}", 11)
        lines = []
        if event.per_hour > 0:
            words = phrase(
                "{hours:g} hours of painting at {per_hour:g} {currency}",
                hours=event.hours,
                per_hour=event.per_hour,
                currency=event.currency,
            )
            lines.append((words, event.per_hour * event.hours))
        if event.per_face > 0:
            words = plural(
                math.ceil(faces),
                "{faces} face at {per_face:g} {currency}",
                "{faces} faces at {per_face:g} {currency}",
                faces=math.ceil(faces),
                per_face=event.per_face,
                currency=event.currency,
            )
            lines.append((words, event.per_face * math.ceil(faces)))
        if event.travel > 0:
            lines.append((phrase("the way there and back"), event.travel))
        y = 46.0
        for words, amount in lines:
            page.text(MARGIN_MM, y, words, 11)
            page.text(150, y, f"{amount:,.2f} {event.currency}", 11)
            y += 7
        page.line(MARGIN_MM, y - 3, 195, y - 3)
        page.text(MARGIN_MM, y + 3, phrase("together"), 12, bold=True)
        page.text(150, y + 3, f"{sum(amount for _, amount in lines):,.2f} {event.currency}", 12, bold=True)
        words = phrase(
            "{painters} painting; about {people} people can be painted in this time. No taxes are reckoned.",
            painters=event.painters,
            people=math.ceil(faces),
        )
        page.paragraph(MARGIN_MM, y + 16, words, PAGE_WIDTH_MM - 2 * MARGIN_MM, 10, quiet=True)

    write_page(path, phrase("Quote, {event}", event=event.name), draw, enlarged=True)
