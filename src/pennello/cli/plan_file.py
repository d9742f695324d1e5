"""Plans for the verbs: what a command writes over is compared with what it read, however long it took in between."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from pennello.colour.lights import Light
from pennello.design.plan import Plan
from pennello.disk import NO_FILE, FileMark, mark_of, mark_on_disk, read_bytes, write_bytes
from pennello.files.plan_json import parse_plan, sound_bytes
from pennello.limits import MOST_PLAN_BYTES
from pennello.session.document import ChangedOnDiskError

_read: dict[Path, FileMark] = {}
"""How the plans of this command were when they were read."""


def read_plan(path: Path) -> Plan:
    """Return the plan in a file, and keep in mind how the file was; raises FileProblemError."""
    data = read_bytes(path, MOST_PLAN_BYTES)
    plan = parse_plan(data, path)
    _read[path.absolute()] = mark_of(data)
    return plan


def in_light(plan: Plan, said: str | None) -> Plan:
    """Return a plan in a light of the place that was typed, or as it is."""
    return plan if said is None else replace(plan, light=Light[said.upper()])


def write_plan(plan: Plan, path: Path) -> None:
    """Write a plan.

    Raises
    ------
    ChangedOnDiskError
        If somebody else has written the file since this command read it.
    FileProblemError
        If it cannot be written; the file that was there is untouched.
    """
    data = sound_bytes(plan, path)
    known = _read.get(path.absolute(), NO_FILE)
    if known != NO_FILE and mark_on_disk(path, MOST_PLAN_BYTES) not in (known, NO_FILE):
        raise ChangedOnDiskError(path)
    write_bytes(data, path)
    _read[path.absolute()] = mark_of(data)
