"""The books of a day as a CSV table, and the event as an iCalendar file."""

from __future__ import annotations

import csv
import io
from datetime import datetime
from pathlib import Path

from pennello.day.event import Event, clock_text
from pennello.disk import write_bytes
from pennello.files.words import guarded, printable
from pennello.moments import later

COLUMNS = ("number", "design", "form", "came", "began", "ended", "minutes", "state", "price")


def day_csv(event: Event, *, names: bool = False) -> str:
    """Return who was painted as CSV with a head line: numbers, and names only where that is wished."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow((*COLUMNS, "name") if names else COLUMNS)
    for number, one in enumerate(sorted(event.guests, key=lambda one: one.came_s), 1):
        title = event.item(one.item).title if one.item else ""
        times = [_at(event, moment) for moment in (one.came_s, one.began_s, one.ended_s)]
        took = one.ended_s - one.began_s if one.began_s is not None and one.ended_s is not None else None
        minutes = f"{took / 60:.1f}" if took is not None else ""
        price = f"{event.per_face:.2f}" if one.state.value == "done" else "0.00"
        form = "short" if one.short else "whole"
        row = [number, guarded(printable(title)), form, *times, minutes, one.state.value, price]
        writer.writerow([*row, guarded(printable(one.name))] if names else row)
    return out.getvalue()


def _at(event: Event, moment: float | None) -> str:
    return "" if moment is None else clock_text(event.begins_min + moment / 60)


def day_ics(event: Event, begins: datetime) -> bytes:
    """Return the event as iCalendar (RFC 5545), its breaks as events of their own; nobody who came is in it."""
    from icalendar import Calendar  # noqa: PLC0415 - only when asked for
    from icalendar import Event as Entry  # noqa: PLC0415

    calendar = Calendar()
    calendar.add("prodid", "-//Pennello//day//EN")
    calendar.add("version", "2.0")
    spans = [("event", event.name, 0.0, event.length_s)]
    spans += [(f"break{number}", "Break", start, end) for number, (start, end) in enumerate(event.breaks_s, 1)]
    for key, name, start, end in spans:
        entry = Entry()
        entry.add("uid", f"{key}.{begins:%Y%m%dT%H%M%S}@pennello.invalid")
        entry.add("summary", printable(name))
        entry.add("location", printable(event.place))
        entry.add("dtstamp", begins)
        entry.add("dtstart", later(begins, start))
        entry.add("dtend", later(begins, end))
        calendar.add_component(entry)
    return bytes(calendar.to_ical())


def write_day_table(event: Event, path: Path, begins: datetime, *, names: bool = False) -> None:
    """Write an event as .ics, or its books as CSV by any other ending; raises FileProblemError."""
    if path.suffix.lower() == ".ics":
        write_bytes(day_ics(event, begins), path)
    else:
        write_bytes(day_csv(event, names=names).encode("utf-8"), path)
