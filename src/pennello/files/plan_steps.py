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


def seven_to_eight(table: Table) -> None:
    """Leave out parts of 0 in a pan: 0.6 wrote them, and they are none."""
    for stroke in _tables(table.get("strokes")):
        load = stroke.get("load")
        for pickup in _tables(load.get("pickups")) if isinstance(load, dict) else []:
            if isinstance(pan := pickup.get("pan"), list):
                pickup["pan"] = [one for one in pan if not (isinstance(one, dict) and one.get("parts") == 0)]


STEPS: dict[int, Callable[[Table], None]] = {6: six_to_seven, 7: seven_to_eight}
"""By the version that a step starts from; versions 1 to 6 only added keys."""


def brought_up(table: Table, version: int) -> Table:
    """Return a file's table as the newest version would have it; changes the table."""
    for number in range(version, max(STEPS) + 1):
        if number in STEPS:
            STEPS[number](table)
    return table


def _tables(value: object) -> list[Table]:
    return [one for one in value if isinstance(one, dict)] if isinstance(value, list) else []
