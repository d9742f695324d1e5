"""Reading and writing .pennello files.

A bad file gets one sentence that names the place and the remedy, and changes nothing.
"""

from __future__ import annotations

import re
from numbers import Integral, Real
from pathlib import Path

import msgspec

from pennello.design.plan import Plan
from pennello.design.soundness import check_plan
from pennello.disk import read_bytes, write_bytes
from pennello.errors import FileProblemError, PennelloError, clipped
from pennello.files.json_text import sound_json
from pennello.files.plan_schema import FORMAT, VERSION, Header, PlanFile, from_plan, to_plan
from pennello.limits import MOST_PLAN_BYTES
from pennello.phrases import phrase, plural

SUFFIX = ".pennello"

_PLACE = re.compile(r"^(?P<problem>.*?)(?: - at `\$(?P<place>.*)`)?$", re.DOTALL)


def read_plan(path: Path) -> Plan:
    """Return the plan in a file.

    Raises
    ------
    FileProblemError
        If the file cannot be read, is no plan, is newer than this program, or holds a value that cannot be.
    """
    return parse_plan(read_bytes(path, MOST_PLAN_BYTES), path)


def parse_plan(data: bytes, path: object) -> Plan:
    """Return the plan in a file's bytes; `path` is what the file is called in messages."""
    try:
        return _decode(data, path)
    except RecursionError as error:
        raise FileProblemError(path, phrase("the file is nested too deeply to be a plan.")) from error


def _decode(data: bytes, path: object) -> Plan:
    data = sound_json(data, path)
    try:
        header = msgspec.json.decode(data, type=Header)
    except msgspec.DecodeError as error:
        raise FileProblemError(path, _unreadable(data, error)) from error
    if header.format != FORMAT:
        raise FileProblemError(
            path, phrase('this is not a Pennello plan (it should begin with "format": "{format}").', format=FORMAT)
        )
    if header.schema > VERSION:
        raise FileProblemError(
            path,
            phrase(
                "the plan was written by a newer Pennello (schema {schema}, this one reads up to {version}); "
                "update Pennello to open it. The file is untouched.",
                schema=header.schema,
                version=VERSION,
            ),
        )
    if header.schema < 1:
        raise FileProblemError(
            path,
            phrase(
                "there is no schema {schema}; this one reads 1 to {version}.", schema=header.schema, version=VERSION
            ),
        )
    try:
        return to_plan(_table(data, header.schema, path))
    except msgspec.ValidationError as error:
        raise FileProblemError(path, _sentence(str(error))) from error
    except msgspec.DecodeError as error:
        raise FileProblemError(path, _unreadable(data, error)) from error
    except FileProblemError:
        raise
    except PennelloError as error:
        raise FileProblemError(path, phrase("{error} Correct that place and open it again.", error=error)) from error


def _table(data: bytes, version: int, path: object) -> PlanFile:
    """Return a file's table; of an older version after it was brought up, step by step.

    A file with keys that its version does not have yet is refused: one of the two is a slip.
    """
    if version == VERSION:
        return msgspec.json.decode(data, type=PlanFile)
    from pennello.files.plan_since import later_than  # noqa: PLC0415 - only for files of older versions
    from pennello.files.plan_steps import Former, brought_up, former_later, without_former  # noqa: PLC0415

    try:
        table = msgspec.json.decode(data)
    except msgspec.ValidationError:
        return msgspec.json.decode(data, type=PlanFile)  # a number that none can be: told with its place
    slim = without_former(table, version)
    msgspec.convert(slim, PlanFile)  # what is wrong with it is told with its place
    msgspec.json.decode(data, type=Former)
    later = later_than(slim, version) or former_later(table, version)
    if later:
        raise FileProblemError(
            path,
            phrase(
                "the file says schema {version}, but {later}; write the newer schema number, or take that key out.",
                version=version,
                later=later,
            ),
        )
    return msgspec.convert(brought_up(table, version), PlanFile)


def _unreadable(data: bytes, error: Exception) -> str:
    if not data.strip():
        return phrase("the file is empty; open the autosaved copy beside it or another copy.")
    if isinstance(error, msgspec.ValidationError):
        return _sentence(str(error))
    if "truncated" in str(error):
        return plural(
            len(data),
            "the file breaks off after {count} byte; open the autosaved copy beside it or another copy.",
            "the file breaks off after {count} bytes; open the autosaved copy beside it or another copy.",
        )
    place = re.search(r"byte (\d+)", str(error))
    line = data[: int(place[1])].count(b"\n") + 1 if place else 0
    if not line:
        return phrase("the file is not valid JSON; correct it in a text editor or open another copy.")
    return phrase(
        "the file is not valid JSON at line {line}; correct it in a text editor or open another copy.", line=line
    )


_WORDS = {
    "`float`": phrase("a number"),
    "`int`": phrase("a whole number"),
    "`str`": "text",
    "`bool`": phrase("true or false"),
    "`object`": phrase("a table {...}"),
    "`array`": phrase("a list [...]"),
    "`null`": phrase("nothing (null)"),
    "object contains": phrase("this table contains"),
    "object missing": phrase("this table lacks the"),
}


def _sentence(message: str) -> str:
    match = _PLACE.match(message)
    problem, place = (match["problem"], match["place"]) if match else (message, None)
    where = f"{clipped(place.lstrip('.'), 120)}: " if place else ""
    problem = clipped(f"{problem[0].lower()}{problem[1:]}", 300)
    for term, word in _WORDS.items():
        problem = problem.replace(term, word)
    return phrase(
        "{where}{problem}; correct that place and open it again.", where=where, problem=problem.replace("`", chr(39))
    )


def plan_bytes(plan: Plan) -> bytes:
    """Return a plan as it is written: UTF-8 JSON, indented by one, with a line break at the end."""
    return msgspec.json.format(msgspec.json.encode(from_plan(plan), enc_hook=_plain), indent=1) + b"\n"


def _plain(value: object) -> object:
    """Return a NumPy number as Python's own: a number that came from an array must not keep a plan from being saved."""
    if isinstance(value, Real):
        return int(value) if isinstance(value, Integral) else float(value)
    raise TypeError(type(value).__name__)


def sound_bytes(plan: Plan, path: object) -> bytes:
    """Return a plan's bytes after they have been read back: what cannot be opened again is never written.

    Raises
    ------
    FileProblemError
        If there are too many of them for a plan.
    PennelloError
        If something in the plan is too long, too much, or points nowhere.
    """
    check_plan(plan)
    data = plan_bytes(plan)
    if len(data) > MOST_PLAN_BYTES:
        raise FileProblemError(
            path,
            phrase(
                "the plan would take {count:.0f} MB, and {most_plan_bytes:.0f} MB can be opened again; "
                "take strokes out or simplify their paths.",
                count=len(data) / 1e6,
                most_plan_bytes=MOST_PLAN_BYTES / 1e6,
            ),
        )
    if parse_plan(data, path) != plan:
        raise NotTheSameError(path)
    return data


class NotTheSameError(FileProblemError):
    """A plan does not come back from its own bytes."""

    def __init__(self, path: object) -> None:
        super().__init__(
            path,
            phrase("the plan would not come back the same from its file; nothing was written. Undo the last change."),
        )


def write_plan(plan: Plan, path: Path) -> None:
    """Write a plan so that either all of it or the old file is there.

    Raises
    ------
    FileProblemError
        If it cannot be written; the file that was there is untouched.
    PennelloError
        If it could not be opened again.
    """
    write_bytes(sound_bytes(plan, path), path)
