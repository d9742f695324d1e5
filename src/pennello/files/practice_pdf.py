"""Sheets to paint on, at true scale: the calibration card, and practice sheets of any stroke, load or part."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from reportlab.lib.units import mm
from shapely.geometry.base import BaseGeometry

from pennello.colour.srgb import encode
from pennello.design.plan import Plan
from pennello.design.words import pickup_words
from pennello.files.card_pdf import draw_pickup
from pennello.files.page import MARGIN_MM, PAGE_HEIGHT_MM, PAGE_WIDTH_MM, Page, write_page
from pennello.phrases import phrase
from pennello.practice.card import (
    GREY,
    GREY_R,
    HEIGHT_MM,
    INK_R,
    MARK_CENTRES_MM,
    MARK_MM,
    RULER_MM,
    WIDTH_MM,
    Card,
    Field,
    FieldKind,
)
from pennello.practice.photo import MARK_CELLS, mark_cells
from pennello.practice.sheet import PLACE_R, SHEET_MARK_MM, SHEET_MARKS_MM, Practised, TryPlace

Array = NDArray[np.floating[Any]]

CARD_AT_MM = ((PAGE_WIDTH_MM - WIDTH_MM) / 2, 30.0)
"""Where the card's top left corner lies on its page."""

_FIELD = (120, 112, 102)
_RIM = (60, 54, 48)


def _grey(reflectance: float) -> tuple[float, float, float]:
    """Return the sRGB bytes of a printed grey that reflects so much."""
    value = float(encode(np.array(reflectance))) * 255
    return value, value, value


def _mark(page: Page, number: int, x: float, y: float, size: float) -> None:
    """Draw a corner mark about a place, mm."""
    page.fill(x - size / 2 - 1, y - size / 2 - 1, size + 2, size + 2, (255, 255, 255))
    page.fill(x - size / 2, y - size / 2, size, size, (0, 0, 0))
    cell = size / MARK_CELLS
    for row, line in enumerate(mark_cells(number)):
        for column, white in enumerate(line):
            if white:
                page.fill(x - size / 2 + column * cell, y - size / 2 + row * cell, cell, cell, (255, 255, 255))


# --- the calibration card ---


def write_card_sheet(plan: Plan, load: str, card: Card, path: Path) -> None:
    """Write the calibration card of a load, with what to paint where, as a one-page PDF (A4) at true scale.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """
    source = plan.stroke(load)
    title = phrase("Calibration card, {source}", source=source.name)
    write_page(path, title, lambda page: _draw_card_page(page, plan, load, card))


def _draw_card_page(page: Page, plan: Plan, load: str, card: Card) -> None:
    source = plan.stroke(load)
    page.text(MARGIN_MM, 17, phrase("Calibration card: {source}", source=source.name), 15, bold=True)
    words = phrase(
        "With {brush}. Paint it, let it dry, photograph it from above by daylight.", brush=plan.brush(source.brush).name
    )
    page.text(MARGIN_MM, 23, words, 9.5, quiet=True)
    x, y = CARD_AT_MM
    draw_card(page, card, x, y)
    y += HEIGHT_MM + 10
    page.text(MARGIN_MM, y, phrase("What goes where"), 12, bold=True)
    y += 6
    width = PAGE_WIDTH_MM - 2 * MARGIN_MM
    for number, field in enumerate(card.of(FieldKind.STROKE), 1):
        y = (
            page.paragraph(
                MARGIN_MM,
                y,
                phrase("{number}: {field}, from left to right, A at the top.", number=number, field=field.words),
                width,
                9.5,
            )
            + 0.6
        )
    for kind, words in (
        (FieldKind.DAB, phrase("Dabs, three coats each, dry in between")),
        (FieldKind.LET_DOWN, phrase("Let-downs, one part in nine parts of white, three coats")),
    ):
        those = card.of(kind)
        if those:
            names = ", ".join(f"{_letter(card, one)} {_name(plan, one.paint)}" for one in those)
            y = page.paragraph(MARGIN_MM, y, f"{words}: {names}.", width, 9.5) + 0.6
    y = page.paragraph(MARGIN_MM, y, phrase("Load the brush anew for each stroke, as here:"), width, 9.5) + 2
    for pickup in source.recipe.pickups[:2]:
        y = page.paragraph(MARGIN_MM, y, pickup_words(plan, source, pickup), width, 9.5, quiet=True)
        y = draw_pickup(page, plan, source, pickup, y + 4)


def _letter(card: Card, field: Field) -> str:
    those = [one for one in card.fields if one.kind is not FieldKind.STROKE]
    return chr(ord("a") + those.index(field))


def _name(plan: Plan, paint: str) -> str:
    return plan.paint(paint).name


def draw_card(page: Page, card: Card, x: float, y: float) -> None:
    """Draw a card with its top left corner at a place, mm."""
    for left, top, width, height in card.bars:
        page.fill(x + left, y + top, width, height, _grey(INK_R))
    left, top, width, height = GREY
    page.fill(x + left, y + top, width, height, _grey(GREY_R))
    for number, (mark_x, mark_y) in enumerate(MARK_CENTRES_MM):
        _mark(page, number, x + mark_x, y + mark_y, MARK_MM)
    for number, field in enumerate(card.of(FieldKind.STROKE), 1):
        page.frame(x + field.x, y + field.y, field.width, field.height, 0.25)
        page.text(x + field.x - 3.6, y + field.y + field.height / 2 + 1, str(number), 8, bold=True)
    for field in card.fields:
        if field.kind is not FieldKind.STROKE:
            page.frame(x + field.x, y + field.y, field.width, field.height, 0.25)
            page.text(x + field.x, y + field.y - 0.8, _letter(card, field), 6.5)
    ruler_x, ruler_y = RULER_MM
    page.ruler(x + ruler_x, y + ruler_y, 100)
    page.frame(x, y, WIDTH_MM, HEIGHT_MM, 0.3)


# --- practice sheets ---


def write_practice_sheet(what: Practised, places: tuple[TryPlace, ...], path: Path, *, load: str = "") -> None:
    """Write a practice sheet as a one-page PDF (A4) at true scale.

    Parameters
    ----------
    load
        How the brush is loaded, in words.

    Raises
    ------
    FileProblemError
        If it cannot be written; a file that was there is untouched.
    """
    write_page(
        path, phrase("Practice sheet, {what}", what=what.name), lambda page: _draw_sheet(page, what, places, load)
    )


def _draw_sheet(page: Page, what: Practised, places: tuple[TryPlace, ...], load: str) -> None:
    page.text(MARGIN_MM, 15, phrase("Practice sheet: {what}", what=what.name), 14, bold=True)
    words = phrase(
        "Start at the ring, along the arrow, the rim on the side of the crescents. Let it dry, photograph it whole."
    )
    page.paragraph(MARGIN_MM, 20.5, f"{words} {load}", PAGE_WIDTH_MM - 2 * MARGIN_MM, 8.5, quiet=True)
    for number, (x, y) in enumerate(SHEET_MARKS_MM):
        _mark(page, number, x, y, SHEET_MARK_MM)
    for place in places:
        draw_place(page, what, place)


def draw_place(page: Page, what: Practised, place: TryPlace) -> None:
    """Draw one place: grey, the outline of what will be laid, ring, arrow and crescents."""
    page.fill(place.x, place.y, place.width, place.height, _grey(PLACE_R))
    middle = np.array(place.middle_mm)
    for ring in _rings(what.shape):
        page.cubic(_as_cubics(ring + middle), 0.2, _FIELD)
    page.text(place.x + 1.2, place.y + 3.4, str(place.number), 7)
    for number in range(min(len(what.strokes), 12)):
        way = what.way_mm(number) + middle
        start = way[0]
        page.canvas.setLineWidth(0.3)
        page.canvas.setStrokeColorRGB(*(part / 255 for part in _FIELD))
        page.canvas.circle(start[0] * mm, (PAGE_HEIGHT_MM - start[1]) * mm, 1.1 * mm, stroke=1, fill=0)
        _arrow(page, way)
        _crescents(page, what.rim_mm(number) + middle, way)


def _rings(shape: BaseGeometry) -> list[Array]:
    parts = getattr(shape, "geoms", (shape,))
    return [np.asarray(shapely.get_coordinates(one.exterior)) for one in parts]


def _as_cubics(points: Array) -> Array:
    """Return straight pieces between points as cubic curves, shape (3 n + 1, 2)."""
    third = (points[1:] - points[:-1]) / 3
    inner = np.stack([points[:-1] + third, points[1:] - third, points[1:]], axis=1).reshape(-1, 2)
    return np.concatenate([points[:1], inner])


def _arrow(page: Page, way: Array) -> None:
    """Draw a small arrow a little after the start."""
    if len(way) < 3 or (np.linalg.norm(way[-1] - way[0]) < 1 and len(way) < 6):
        return
    at = way[min(len(way) // 4, len(way) - 2)]
    on = way[min(len(way) // 4 + 1, len(way) - 1)] - at
    length = float(np.hypot(*on))
    if length < 1e-6:
        return
    ahead = on / length
    across = np.array([-ahead[1], ahead[0]])
    for side in (-1, 1):
        back = at - 2.0 * ahead + side * 1.1 * across
        page.canvas.setStrokeColorRGB(*(part / 255 for part in _FIELD))
        page.canvas.setLineWidth(0.3)
        page.canvas.line(at[0] * mm, (PAGE_HEIGHT_MM - at[1]) * mm, back[0] * mm, (PAGE_HEIGHT_MM - back[1]) * mm)


def _crescents(page: Page, rim: Array, way: Array) -> None:
    """Mark the rim by small ticks outside corner A."""
    if len(rim) < 4:
        return
    for share in (0.3, 0.5, 0.7):
        at = int(share * (len(rim) - 1))
        out = rim[at] - way[at]
        length = float(np.hypot(*out))
        if length < 0.3:
            continue
        end = rim[at] + out / length * 1.6
        page.canvas.setStrokeColorRGB(*(part / 255 for part in _RIM))
        page.canvas.setLineWidth(1.4)
        page.canvas.line(
            *(rim[at][0] * mm, (PAGE_HEIGHT_MM - rim[at][1]) * mm), *(end[0] * mm, (PAGE_HEIGHT_MM - end[1]) * mm)
        )
