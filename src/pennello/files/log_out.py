"""The log as a CSV table, as an iCalendar file, and a page of it as a PDF."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from datetime import datetime
from pathlib import Path

import numpy as np

from pennello.disk import write_bytes
from pennello.files.page import MARGIN_MM, PAGE_WIDTH_MM, Page, write_page
from pennello.files.picture import Picture
from pennello.files.words import guarded, printable
from pennello.moments import later
from pennello.phrases import named, phrase
from pennello.practice.records import LogPage, PageFault
from pennello.units import clock

COLUMNS = (
    *("day", "title", "part", "form", "painted_s", "planned_s"),
    *("went_wrong", "light", "asked", "kept", "colours", "note"),
)
_LEAST_S = 60
Steps = Sequence[tuple[str, str, str, str]]


def log_csv(pages: Sequence[LogPage], *, asked: bool = False) -> str:
    """Return pages as CSV with a head line; what people asked for only where that is wished."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for page in pages:
        wrong = "; ".join(f"{named(one.trouble)} {one.name}".strip() for one in page.faults)
        times = (f"{page.painted_s:.1f}", f"{page.planned_s:.1f}")
        head = (page.day, page.title, page.part, "short" if page.short else "whole")
        tail = (wrong, page.light, page.asked if asked else "", page.kept, " ".join(page.colours), page.note)
        writer.writerow([*map(_cell, head), *times, *map(_cell, tail)])
    return out.getvalue()


def _cell(text: str) -> str:
    return guarded(printable(text))


def log_ics(pages: Sequence[LogPage]) -> bytes:
    """Return pages as iCalendar (RFC 5545), one event each; what people asked for is left out."""
    from icalendar import Calendar, Event  # noqa: PLC0415 - only when asked for

    calendar = Calendar()
    calendar.add("prodid", "-//Pennello//notebook//EN")
    calendar.add("version", "2.0")
    for page in pages:
        begins = datetime.fromisoformat(page.day)
        event = Event()
        event.add("uid", f"page.{page.id}.{begins:%Y%m%dT%H%M%S}@pennello.invalid")
        event.add("summary", printable(page.title + (f", {page.part}" if page.part else "")))
        event.add("description", printable(page.note))
        event.add("dtstamp", begins)
        event.add("dtstart", begins)
        event.add("dtend", later(begins, max(round(page.painted_s), _LEAST_S)))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def write_log(pages: Sequence[LogPage], path: Path, *, asked: bool = False) -> None:
    """Write pages as .ics or, by any other ending, as CSV; raises FileProblemError."""
    if path.suffix.lower() == ".ics":
        write_bytes(log_ics(pages), path)
    else:
        write_bytes(log_csv(pages, asked=asked).encode("utf-8"), path)


def write_log_page(
    page: LogPage,
    path: Path,
    planned: Picture | None,
    painted: Picture | None,
    steps: Steps = (),
    *,
    asked: bool = False,
) -> None:
    """Write a page as a one-page PDF: what was planned beside what was painted, and what differs.

    Parameters
    ----------
    planned, painted
        Pictures, or None where there are none.
    steps
        What each step of its run was, how long it was to take, how long it took, and how far apart that is.

    Raises
    ------
    FileProblemError
        If it cannot be written.
    """

    def draw(sheet: Page) -> None:
        y = _draw(sheet, page, planned, painted, asked=asked)
        _draw_steps(sheet, y + 4, steps)

    write_page(path, f"{page.title}, {page.day[:10]}", draw, enlarged=True)


_BOX_MM = ((PAGE_WIDTH_MM - 2 * MARGIN_MM - 8) / 2, 92.0)


def _draw(sheet: Page, page: LogPage, planned: Picture | None, painted: Picture | None, *, asked: bool) -> float:
    width = PAGE_WIDTH_MM - 2 * MARGIN_MM
    sheet.text(MARGIN_MM, 20, page.title, 18, bold=True)
    form = phrase("short form") if page.short else phrase("whole")
    sheet.text(MARGIN_MM, 27, ", ".join([page.day[:10], page.part or phrase("all of it"), form]), 10, quiet=True)
    shown = (
        (phrase("planned"), phrase("no picture of what was planned"), planned),
        (phrase("painted"), phrase("no picture of what was painted"), painted),
    )
    for number, (words, told, picture) in enumerate(shown):
        x = MARGIN_MM + number * (_BOX_MM[0] + 8)
        sheet.text(x, 36, words, 9, quiet=True)
        _picture(sheet, x, 38, picture, told)
    y = 38 + _BOX_MM[1] + 10
    for line in _lines(page, asked=asked):
        y = sheet.paragraph(MARGIN_MM, y, line, width, 10.5) + 1.5
    return y


def _draw_steps(sheet: Page, y: float, steps: Steps) -> None:
    """Draw as many steps as the page has room for, in two columns, and say how many there are beyond."""
    if not steps:
        return
    sheet.text(MARGIN_MM, y, phrase("Step by step, minutes and seconds: predicted, took"), 9, bold=True)
    rows = max(int((_FOOT_MM - y) / _STEP_MM) - 1, 0)
    room = 2 * rows
    shown = steps if len(steps) <= room else steps[: max(room - 1, 0)]
    told = [(what, f"{planned}   {took}") for what, planned, took, _ in shown]
    told += [(phrase("... and {count} more", count=len(steps) - len(shown)), "")] if len(shown) < len(steps) else []
    for number, (what, times) in enumerate(told):
        x = MARGIN_MM + number // max(rows, 1) * (_BOX_MM[0] + 8)
        at = y + (number % max(rows, 1) + 1) * _STEP_MM
        sheet.text(x, at, _clipped(what), 8.5)
        sheet.text(x + _BOX_MM[0] - 24, at, times, 8.5, quiet=True)


def _clipped(text: str) -> str:
    return text if len(text) <= _STEP_SIGNS else f"{text[: _STEP_SIGNS - 3]}..."


_FOOT_MM, _STEP_MM, _STEP_SIGNS = 280.0, 4.6, 44


def _picture(sheet: Page, x: float, y: float, picture: Picture | None, words: str) -> None:
    if picture is None:
        sheet.frame(x, y, *_BOX_MM)
        sheet.text(x + 4, y + 8, words, 9, quiet=True)
        return
    rows, columns = picture.shape[:2]
    scale = min(_BOX_MM[0] / columns, _BOX_MM[1] / rows)
    sheet.picture(x, y, columns * scale, rows * scale, np.ascontiguousarray(picture))


def _lines(page: LogPage, *, asked: bool) -> list[str]:
    lines = []
    if page.painted_s:
        took = clock(page.painted_s)
        lines.append(
            phrase("Painted in {took} min, predicted {planned} min.", took=took, planned=clock(page.planned_s))
            if page.planned_s
            else phrase("Painted in {took} min.", took=took)
        )
    lines += [_fault_line(one) for one in page.faults]
    told = (
        (phrase("Light"), page.light),
        (phrase("Kept"), page.kept),
        (phrase("Asked for"), page.asked if asked else ""),
    )
    lines += [f"{word}: {text}." for word, text in told if text]
    if page.note:
        lines.append(page.note)
    return lines


def _fault_line(one: PageFault) -> str:
    trouble = named(one.trouble).capitalize()
    if one.name:
        return phrase("{trouble} at {place}: {mend}", trouble=trouble, place=one.name, mend=one.mend)
    return f"{trouble}: {one.mend}"
