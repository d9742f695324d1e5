"""The event as an open JSON file, .pennello-day: read with the place of what is wrong, written whole or not at all."""

from __future__ import annotations

from importlib.resources import files
from pathlib import Path
from typing import Annotated, Any, Literal

import msgspec
from msgspec import Meta, Struct

from pennello.day.event import Break, Event, Extra, Guest, MenuItem, Price, Used
from pennello.disk import PRIVATE, read_bytes, write_bytes
from pennello.errors import FileProblemError, OutOfRangeError, PennelloError, clipped
from pennello.files.json_text import sound_json
from pennello.files.records import FileForm, PlaceError, read_record, register, table_of, write_record
from pennello.phrases import phrase

SUFFIX = ".pennello-day"
DEMO = "saltmarsh-lantern-walk.pennello-day"
MOST_BYTES = 8_000_000
VERSION = 1

register(
    {
        Break: FileForm("Break", "A rest, minutes after midnight."),
        Used: FileForm("Used", "How many grams of a cake or pan one face takes."),
        Extra: FileForm("Extra", "A stencil, gems, a head piece: what a design takes beside paint."),
        Price: FileForm("Price", "What a gram of one cake or pan costs."),
        MenuItem: FileForm("MenuItem", "A design on the menu, with what it takes."),
        Guest: FileForm("Guest", "Somebody who waits, is painted, or was."),
        Event: FileForm("Event", "An event."),
    }
)
_EventTable: Any = table_of(Event)


class DayFile(Struct, forbid_unknown_fields=True, kw_only=True):
    """A file of an event."""

    format: Literal["pennello-day"] = "pennello-day"
    schema: Annotated[int, Meta(ge=1)] = VERSION
    event: _EventTable


class _DayHead(Struct):
    format: str = ""
    schema: Any = 0


def day_path(path: Path) -> Path:
    """Return where an event is really written: a name with another ending gets this one, a folder none."""
    return path if path.suffix == SUFFIX or not path.name else path.with_name(path.name + SUFFIX)


def day_bytes(event: Event) -> bytes:
    """Return an event as bytes of a file; raises OutOfRangeError if a text of it holds half a sign."""
    try:
        data = msgspec.json.encode(DayFile(event=write_record(event)))
    except UnicodeEncodeError as error:
        raise OutOfRangeError(
            phrase("a text of the event"), ascii(error.object[:40]), phrase("text that can be written as UTF-8")
        ) from None
    return msgspec.json.format(data, indent=1) + b"\n"


def write_day(event: Event, path: Path) -> None:
    """Write an event so that either all of it or the old file is there; only its owner may read it: it names guests.

    Raises
    ------
    FileProblemError
        If it cannot be written.
    OutOfRangeError
        If a text of it holds half a sign.
    """
    data = day_bytes(event)
    parse_day(data, path)  # what could not be read again is not written
    write_bytes(data, path, mode=PRIVATE)


def read_day(path: Path) -> Event:
    """Return the event in a file.

    Raises
    ------
    FileProblemError
        If it is none, damaged, of a newer version, or a value is out of range; the sentence names the place.
    """
    return parse_day(read_bytes(path, MOST_BYTES), path)


def parse_day(data: bytes, path: Path) -> Event:
    """Return the event in bytes; see `read_day`."""
    try:
        text = sound_json(data, path)
        head = msgspec.json.decode(text, type=_DayHead)
        if head.format != "pennello-day":
            raise FileProblemError(
                path, phrase("this is no event of Pennello's; choose a file that ends in .pennello-day.")
            )
        if not isinstance(head.schema, int) or head.schema > VERSION:
            raise FileProblemError(
                path,
                phrase(
                    "it was written by a newer Pennello (version {schema}; this one knows "
                    "{version}): update Pennello to open it. The file is untouched.",
                    schema=clipped(str(head.schema), 20),
                    version=VERSION,
                ),
            )
        found: Event = read_record(Event, msgspec.json.decode(text, type=DayFile).event, "event")
    except FileProblemError:
        raise
    except PlaceError as error:
        raise FileProblemError(path, phrase("{error} Mend it there, or take back a copy.", error=error)) from error
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        words = clipped(str(error), 200)
        raise FileProblemError(
            path, phrase("this is no event that can be read ({words}); take back a copy.", words=words)
        ) from error
    except PennelloError as error:
        raise FileProblemError(path, f"{error}") from error
    return found


def day_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of an event's file."""
    schema: dict[str, Any] = msgspec.json.schema(DayFile)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Pennello event, version {VERSION}",
        "description": "Times of day in minutes after midnight, moments in seconds after the event begins, grams.",
    } | schema


def demo_event() -> Event:
    """Return the evening that ships: the Saltmarsh Lantern Walk with the twelve designs. All of it is invented."""
    file = files("pennello.files") / "plans" / DEMO
    return parse_day(file.read_bytes(), Path(DEMO))
