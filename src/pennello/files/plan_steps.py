"""From each version of the plan file to the next: what an older one leaves out and meant otherwise."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any

import msgspec
from msgspec import Meta

from pennello.limits import MOST_NAME

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


def eight_to_nine(table: Table) -> None:
    """Make parts of groups, and habits of loads of how many strokes a motif took from one.

    A group whose pieces were all named in rules "any" among themselves was painted in one go. One stroke from a load
    was the default of a single stroke, which nobody chose: it is loaded when it runs pale.
    """
    motifs = _tables(table.get("motifs"))
    taken = {str(one.get("id")) for one in motifs}
    known: dict[str, str] = {}
    for one in motifs:
        group = one.pop("group", "")
        if group:
            if group not in known:
                known[group] = _free(_slug(group), taken)
                taken.add(known[group])
            one["part"] = known[group]
    if known:
        table["parts"] = [{"id": name, "name": group} for group, name in known.items()]
    ordering = table.get("ordering")
    if isinstance(ordering, dict):
        _habits_of_rules(table, ordering, motifs)
        _weights_of_pieces(ordering, motifs)
    _habits_of_loads(table, motifs)


def _habits_of_rules(table: Table, ordering: Table, motifs: list[Table]) -> None:
    part = {str(one.get("id")): str(one.get("part", "")) for one in motifs}
    named: dict[str, set[str]] = {}
    kept = []
    inside: list[tuple[str, Table]] = []
    for rule in _tables(ordering.get("rules")):
        one, other = str(rule.get("earlier")), str(rule.get("later"))
        home = part.get(one, "")
        if rule.get("kind") == "any" and home and home == part.get(other) and one != other:
            named.setdefault(home, set()).update((one, other))
            inside.append((home, rule))
        else:
            kept.append(rule)
    whole = {name for name, ones in named.items() if len(ones) == list(part.values()).count(name)}
    for made in _tables(table.get("parts")):
        if made["id"] in whole:
            made["habit"] = "in one go"
    if whole:
        ordering["rules"] = [*kept, *(rule for home, rule in inside if home not in whole)]


def _weights_of_pieces(ordering: Table, motifs: list[Table]) -> None:
    """Give a part the highest priority and worth that its pieces were given."""
    rank = {"skip": 0, "nice": 1, "must": 2}
    pieces = [(str(one.get("id")), one["part"]) for one in motifs if one.get("part")]
    for key, least in (("priorities", lambda value: rank.get(value, 0)), ("worth", float)):
        given = ordering.get(key)
        if not isinstance(given, dict):
            continue
        for piece, part in pieces:
            if piece in given:
                value = given.pop(piece)
                given[part] = max(given.get(part, value), value, key=least)


def _habits_of_loads(table: Table, motifs: list[Table]) -> None:
    counts: dict[str, set[int]] = {}
    for one in motifs:
        count = one.pop("per_load", 1)
        loads = one.get("loads")
        if isinstance(loads, dict) and (one.get("motif") or count > 1):
            for load in loads.values():
                counts.setdefault(str(load), set()).add(count)
    for stroke in _tables(table.get("strokes")):
        said = counts.get(str(stroke.get("id")), {0})
        count = min((one for one in said if one > 1), default=min(said))
        if count == 1:
            stroke["reload"] = "after every stroke"
        elif count > 1:
            stroke["reload"], stroke["reload_after"] = "after so many strokes", count


def _slug(name: str) -> str:
    """Return a name as an id."""
    kept = "".join(letter.lower() if letter.isalnum() and letter.isascii() else "-" for letter in name)
    return "-".join(word for word in kept.split("-") if word)[:50] or "part"


def _free(name: str, taken: set[str]) -> str:
    number, found = 2, name
    while found in taken:
        found, number = f"{name}-{number}", number + 1
    return found


STEPS: dict[int, Callable[[Table], None]] = {6: six_to_seven, 7: seven_to_eight, 8: eight_to_nine}
"""By the version that a step starts from; versions 1 to 6 only added keys."""


class _MotifBefore9(msgspec.Struct):
    group: Annotated[str, Meta(max_length=MOST_NAME)] = ""
    per_load: Annotated[int, Meta(ge=1, le=40)] = 1


class Before9(msgspec.Struct):
    """The keys that files had until version 8."""

    motifs: list[_MotifBefore9] = msgspec.field(default_factory=list)


def without_former(table: Table, version: int) -> Table:
    """Return a file's table without the keys that only its version, and older ones, had."""
    if version >= 9 or not isinstance(table.get("motifs"), list):
        return table
    gone = _MotifBefore9.__struct_fields__
    slim = [
        {key: value for key, value in one.items() if key not in gone} if isinstance(one, dict) else one
        for one in table["motifs"]
    ]
    return {**table, "motifs": slim}


def brought_up(table: Table, version: int) -> Table:
    """Return a file's table as the newest version would have it; changes the table."""
    for number in range(version, max(STEPS) + 1):
        if number in STEPS:
            STEPS[number](table)
    return table


def _tables(value: object) -> list[Table]:
    return [one for one in value if isinstance(one, dict)] if isinstance(value, list) else []
