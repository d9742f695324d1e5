"""Steps as a CSV table, and as an iCalendar file for a day's plan."""

from __future__ import annotations

import csv
import io
from datetime import datetime
from pathlib import Path

from pennello.disk import write_bytes
from pennello.files.words import guarded, printable
from pennello.moments import later
from pennello.order.arrange import Arranged
from pennello.phrases import phrase

COLUMNS = ("number", "id", "kind", "start_s", "end_s", "seconds", "what", "waits_for", "loaded_again_at_s")


def steps_csv(arranged: Arranged) -> str:
    """Return the steps as CSV with a head line; text that a table program would take for a formula gets a quote."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for number, step in enumerate(arranged.steps, 1):
        times = (f"{step.start_s:.1f}", f"{step.end_s:.1f}", f"{step.seconds:.1f}")
        again = " ".join(f"{start:.1f}" for start, _ in step.reloads_s)
        cells = (step.id, step.kind.value, *times, step.words, " ".join(step.waits_for), again)
        writer.writerow((number, *(guarded(printable(cell)) for cell in cells)))
    return out.getvalue()


def steps_ics(arranged: Arranged, begins: datetime) -> bytes:
    """Return the steps as iCalendar (RFC 5545): the design as one event, and one for each step that lays something."""
    from icalendar import Calendar, Event  # noqa: PLC0415 - only when asked for

    calendar = Calendar()
    calendar.add("prodid", "-//Pennello//order of painting//EN")
    calendar.add("version", "2.0")
    title = arranged.design.work.plan.title
    spans = [("design", title, 0.0, arranged.sums.total_s, phrase("Times are predicted."))]
    spans += [(step.id, step.name, step.start_s, step.end_s, step.words) for step in arranged.steps if step.kind.paints]
    for key, name, start_s, end_s, words in spans:
        event = Event()
        event.add(
            "uid",
            printable(f"{key}.{begins:%Y%m%dT%H%M%S}@pennello.invalid").replace(" ", "-"),
        )
        event.add("summary", printable(name))
        event.add("description", printable(words))
        event.add("dtstamp", begins)
        event.add("dtstart", later(begins, round(start_s)))
        event.add("dtend", later(begins, max(round(end_s), round(start_s) + 1)))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def write_steps(arranged: Arranged, path: Path, begins: datetime) -> None:
    """Write the steps as .ics or, by any other ending, as CSV; raises FileProblemError."""
    if path.suffix.lower() == ".ics":
        write_bytes(steps_ics(arranged, begins), path)
    else:
        write_bytes(steps_csv(arranged).encode("utf-8"), path)
