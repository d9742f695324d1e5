"""From each version of the plan file to the next: what an older one leaves out and meant otherwise."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

Table = dict[str, Any]


def six_to_seven(table: Table) -> None:
    """Write in what changed its default: the usual coat was 15 um, and dry after 57.6 s; a load held 3 mm3 a mm."""
    table.setdefault("dry_after_s", 57.6)
    for brush in _tables(table.get("brushes")):
        brush.setdefault("capacity_mm3_per_mm", 3.0)
    for stroke in _tables(table.get("strokes")):
        if isinstance(wanted := stroke.get("wanted"), dict):
            wanted.setdefault("coat_um", 15.0)


STEPS: dict[int, Callable[[Table], None]] = {6: six_to_seven}
"""By the version that a step starts from; versions 1 to 6 only added keys."""


def brought_up(table: Table, version: int) -> Table:
    """Return a file's table as the newest version would have it; changes the table."""
    for number in range(version, max(STEPS) + 1):
        if number in STEPS:
            STEPS[number](table)
    return table


def _tables(value: object) -> list[Table]:
    return [one for one in value if isinstance(one, dict)] if isinstance(value, list) else []
