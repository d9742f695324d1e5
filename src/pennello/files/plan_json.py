"""Reading and writing .pennello files.

A bad file gets one sentence that names the place and the remedy, and changes nothing.
"""

from __future__ import annotations

import re
from numbers import Integral, Real
from pathlib import Path

import msgspec

from pennello.design.plan import Plan, check_references
from pennello.errors import FileProblemError, PennelloError
from pennello.files.atomic import read_bytes, write_bytes
from pennello.files.plan_convert import from_plan, to_plan
from pennello.files.plan_schema import FORMAT, VERSION, Header, PlanFile

SUFFIX = ".pennello"
MOST_BYTES = 20_000_000

_PLACE = re.compile(r"^(?P<problem>.*?)(?: - at `\$(?P<place>.*)`)?$", re.DOTALL)


def read_plan(path: Path) -> Plan:
    """Return the plan in a file.

    Raises
    ------
    FileProblemError
        If the file cannot be read, is no plan, is newer than this program, or holds a value that cannot be.
    """
    return parse_plan(read_bytes(path, MOST_BYTES), path)


def parse_plan(data: bytes, path: object) -> Plan:
    """Return the plan in a file's bytes; `path` is what the file is called in messages."""
    try:
        return _decode(data, path)
    except RecursionError as error:
        raise FileProblemError(path, "the file is nested too deeply to be a plan.") from error


def _decode(data: bytes, path: object) -> Plan:
    try:
        header = msgspec.json.decode(data, type=Header)
    except (msgspec.DecodeError, UnicodeDecodeError) as error:
        raise FileProblemError(path, _unreadable(data, error)) from error
    if header.format != FORMAT:
        raise FileProblemError(path, f'this is not a Pennello plan (it should begin with "format": "{FORMAT}").')
    if header.schema > VERSION:
        raise FileProblemError(
            path,
            f"the plan was written by a newer Pennello (schema {header.schema}, this one reads up to {VERSION}); "
            "update Pennello to open it. The file is untouched.",
        )
    try:
        return to_plan(msgspec.json.decode(data, type=PlanFile))
    except msgspec.ValidationError as error:
        raise FileProblemError(path, _sentence(str(error))) from error
    except PennelloError as error:
        raise FileProblemError(path, f"{error} Correct that place and open it again.") from error


def _unreadable(data: bytes, error: Exception) -> str:
    if not data.strip():
        return "the file is empty; open the autosaved copy beside it or another copy."
    if isinstance(error, msgspec.ValidationError):
        return _sentence(str(error))
    if "truncated" in str(error):
        return f"the file breaks off after {len(data)} bytes; open the autosaved copy beside it or another copy."
    place = re.search(r"byte (\d+)", str(error))
    line = data[: int(place[1])].count(b"\n") + 1 if place else 0
    where = f" at line {line}" if line else ""
    return f"the file is not valid JSON{where}; correct it in a text editor or open another copy."


_WORDS = {
    "`float`": "a number",
    "`int`": "a whole number",
    "`str`": "text",
    "`bool`": "true or false",
    "`object`": "a table {...}",
    "`array`": "a list [...]",
    "`null`": "nothing (null)",
    "object contains": "this table contains",
    "object missing": "this table lacks the",
}


def _sentence(message: str) -> str:
    match = _PLACE.match(message)
    problem, place = (match["problem"], match["place"]) if match else (message, None)
    where = f"{place.lstrip('.')}: " if place else ""
    problem = f"{problem[0].lower()}{problem[1:]}"
    for term, word in _WORDS.items():
        problem = problem.replace(term, word)
    return f"{where}{problem.replace('`', chr(39))}; correct that place and open it again."


def plan_bytes(plan: Plan) -> bytes:
    """Return a plan as it is written: UTF-8 JSON, indented by one, with a line break at the end."""
    return msgspec.json.format(msgspec.json.encode(from_plan(plan), enc_hook=_plain), indent=1) + b"\n"


def _plain(value: object) -> object:
    """Return a NumPy number as Python's own: a number that came from an array must not keep a plan from being saved."""
    if isinstance(value, Real):
        return int(value) if isinstance(value, Integral) else float(value)
    raise TypeError(type(value).__name__)


def write_plan(plan: Plan, path: Path) -> None:
    """Write a plan so that either all of it or the old file is there.

    Raises
    ------
    FileProblemError
        If it cannot be written; the file that was there is untouched.
    PennelloError
        If a name in the plan points nowhere: such a file could not be opened again.
    """
    check_references(plan)
    write_bytes(plan_bytes(plan), path)
