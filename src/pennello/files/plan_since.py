"""Keys and values that an older plan file may not have yet: what the declaration marks as since a later version."""

from __future__ import annotations

from functools import cache
from typing import Any

import msgspec

from pennello.files.plan_schema import VERSION, PlanFile
from pennello.phrases import phrase


def later_than(table: dict[str, Any], version: int) -> str:
    """Return what in a file of a version came only later, with its place, in words; "" where nothing did.

    >>> later_than({"dry_after_s": 60.0}, 2)
    "'dry_after_s' came with schema 3"
    """
    return "" if version >= VERSION else _of_table(table, PlanFile, version, "")


@cache
def _fields(kind: type) -> dict[str, tuple[dict[str, Any], type | None]]:
    """Return the marks of each key of a table, and the kind of table that it holds, itself or in a list."""
    found = {}
    info = msgspec.inspect.type_info(kind)
    assert isinstance(info, msgspec.inspect.StructType)
    for field in info.fields:
        marks: dict[str, Any] = {}
        found[field.encode_name] = (marks, _inner(field.type, marks))
    return found


def _inner(info: msgspec.inspect.Type, marks: dict[str, Any]) -> type | None:
    match info:
        case msgspec.inspect.Metadata(type=inner, extra=extra):
            marks |= extra or {}
            return _inner(inner, marks)
        case msgspec.inspect.StructType():
            return info.cls
        case msgspec.inspect.ListType(item_type=inner):
            return _inner(inner, {})
        case msgspec.inspect.UnionType(types=types):
            return next((kind for one in types if (kind := _inner(one, marks)) is not None), None)
    return None


def _of_table(table: dict[str, Any], kind: type, version: int, where: str) -> str:
    for key, value in table.items():
        marks, inner = _fields(kind).get(key, ({}, None))
        place = f"{where}.{key}" if where else key
        if marks.get("since", 0) > version:
            return phrase("'{place}' came with schema {marks}", place=place, marks=marks["since"])
        came = marks.get("values", {}).get(value, 0) if isinstance(value, str) else 0
        if came > version:
            return phrase("'{place}': '{value}' came with schema {came}", place=place, value=value, came=came)
        if inner is not None and (later := _of_value(value, inner, version, place)):
            return later
    return ""


def _of_value(value: Any, kind: type, version: int, place: str) -> str:
    if isinstance(value, dict):
        return _of_table(value, kind, version, place)
    if isinstance(value, list):
        for number, one in enumerate(value):
            if later := _of_value(one, kind, version, f"{place}[{number}]"):
                return later
    return ""
