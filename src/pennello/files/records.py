"""Records in files, all from what their fields tell: the table in the file, reading it, writing it.

A record of the core is a frozen dataclass whose fields carry a `Told`. `FileForm` says of a record what no single field
can: what its table is called, what it is, and which of its records stand flat in it. Everything else follows:
msgspec tables (`table_of`), records from them with the place of what is wrong (`read_record`), tables from records
(`write_record`).
"""

from __future__ import annotations

import types
import typing
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import MISSING, dataclass, fields, is_dataclass
from functools import cache, cached_property
from typing import Annotated, Any

import msgspec
from msgspec import UNSET, Meta, Struct, UnsetType

from pennello import limits
from pennello.breath import breathe
from pennello.errors import OutOfRangeError, PennelloError
from pennello.record import NO_DEFAULT, NOTHING, Told, told_of

_TEXTS = {
    "id": Annotated[str, Meta(min_length=1, max_length=limits.MOST_ID)],
    "maybe id": Annotated[str, Meta(max_length=limits.MOST_ID)],
    "name": Annotated[str, Meta(max_length=limits.MOST_NAME)],
    "long name": Annotated[str, Meta(max_length=limits.MOST_STEP_NAME)],
    "colour": Annotated[str, Meta(pattern="^#[0-9a-fA-F]{6}$")],
    "": str,
}


class Strict(Struct, forbid_unknown_fields=True, omit_defaults=False):
    """A table of the file: a key that is not known is refused, so that a slip of the pen is not lost."""


@dataclass(frozen=True, slots=True)
class FileForm:
    """How a record stands in a file.

    Attributes
    ----------
    name, words
        Name of its table in the schema, and what it is.
    flat
        Fields whose own fields stand in this table.
    renamed
        What its table is called where some of its fields have other keys, by the first of those.
    reads, writes
        For a record that no table can be made of: its table, and both ways between them.
    """

    name: str
    words: str
    flat: tuple[str, ...] = ()
    renamed: Mapping[str, str] | None = None
    table: type[Struct] | None = None
    reads: Callable[[Any], Any] | None = None
    writes: Callable[[Any], Any] | None = None


class PlaceError(PennelloError):
    """A value in a file is out of range."""

    def __init__(self, where: str, problem: str) -> None:
        super().__init__(f"{where}: {problem}" if where else problem)
        self.where = where


@contextmanager
def at_place(where: str) -> Iterator[None]:
    """Give what is raised inside the place where it stands in the file; the innermost place stays."""
    try:
        yield
    except PlaceError:
        raise
    except OutOfRangeError as error:
        raise PlaceError(".".join(filter(None, (where, error.field))), str(error)) from error
    except PennelloError as error:
        raise PlaceError(where, str(error)) from error


_FORMS: dict[Any, FileForm] = {}


def register(forms: Mapping[Any, FileForm]) -> None:
    """Say how records stand in files."""
    _FORMS.update(forms)


# --- what a field is made of ---


@dataclass(frozen=True)
class _Part:
    """One field of a record: its name, what is told of it, its type without marks, and its default if it has one.

    What follows from these is worked out once: each field is read and written some thousand times in a plan.
    """

    name: str
    told: Told
    kind: Any
    default: Any
    flat: bool

    @cached_property
    def key(self) -> str:
        return self.told.key or self.name

    @cached_property
    def optional(self) -> bool:
        return type(None) in typing.get_args(self.kind)

    @cached_property
    def inner(self) -> Any:
        """The type without "or None"."""
        return next(one for one in typing.get_args(self.kind) if one is not type(None)) if self.optional else self.kind

    @cached_property
    def is_table(self) -> bool:
        """Whether it is a tuple of keys with values."""
        return _pair(self.inner) is not None

    @cached_property
    def each(self) -> Any:
        """The type of its items where it is a tuple of any length, or None."""
        return _each(self.inner)

    @cached_property
    def of_records(self) -> bool:
        """Whether it is a record, or its items are records."""
        return _is_record(self.inner if self.each is None else self.each)

    @cached_property
    def empty(self) -> Any:
        """What it is where the file leaves it out."""
        return None if self.optional else "" if self.kind is str else ()


@cache
def _parts(kind: Any) -> tuple[_Part, ...]:
    hints, told, form = typing.get_type_hints(kind), told_of(kind), _FORMS[kind]
    return tuple(
        _Part(
            one.name,
            told[one.name],
            hints[one.name],
            one.default if one.default_factory is MISSING else one.default_factory,
            one.name in form.flat,
        )
        for one in fields(kind)
    )


@cache
def _each(kind: Any) -> Any:
    """Return the type of the items of a tuple of any length, or None."""
    found = typing.get_args(kind)
    return found[0] if typing.get_origin(kind) is tuple and len(found) == 2 and found[1] is Ellipsis else None


@cache
def _pair(kind: Any) -> Any:
    """Return the type of the values of a tuple of keys with values, which a file holds as a table, or None."""
    each = _each(kind)
    found = typing.get_args(each) if each is not None else ()
    return found[1] if typing.get_origin(each) is tuple and len(found) == 2 and found[0] is str else None


# --- the table ---


def table_of(kind: Any, within: Told = NOTHING) -> type[Struct]:
    """Return the table of a record in a file; `within` is what the field that holds it tells of its fields."""
    return _table_of(kind, tuple((within.keys or {}).items()), tuple((within.defaults or {}).items()))


@cache
def _table_of(kind: Any, keys: tuple[tuple[str, str], ...], defaults: tuple[tuple[str, Any], ...]) -> type[Struct]:
    form = _FORMS[kind]
    if form.table is not None:
        return form.table
    name = (form.renamed or {})[keys[0][1]] if keys else form.name
    told = {"__doc__": form.words}
    return msgspec.defstruct(
        name, columns(kind, dict(keys), dict(defaults)), bases=(Strict,), kw_only=True, module=__name__, namespace=told
    )


def columns(kind: Any, keys: Mapping[str, str], defaults: Mapping[str, Any]) -> list[Any]:
    """Return the columns of a record's table: key, type, and default where there is one."""
    found: list[Any] = []
    for part in _parts(kind):
        if part.flat:
            found += columns(part.kind, {}, {})
            continue
        hint = _file_type(part.inner, part.told)
        if part.told.text and hint is str:
            hint = _TEXTS[part.told.text]
        if part.optional or part.told.left_out:
            hint = hint | UnsetType
        extra: dict[str, Any] = {"since": part.told.since} if part.told.since > 1 else {}
        if part.told.values:
            extra["values"] = dict(part.told.values)
        bounds = _bounds(part)
        if extra or bounds:
            hint = Annotated[hint, Meta(extra=extra or None, extra_json_schema=bounds or None)]
        found.append((keys.get(part.name, part.key), hint, *_default(part, defaults.get(part.name, part.told.in_file))))
    return found


def _list_type(each: Any, told: Told, limited: Meta | None) -> Any:
    item = _TEXTS[told.text] if each is str else _file_type(each, Told(keys=told.keys, defaults=told.defaults))
    item = item if limited is None else Annotated[item, limited]
    least, most = told.count or (0, None)
    meta = Meta(min_length=least or None, max_length=most)
    return Annotated[list[item], meta] if least or most else list[item]  # type: ignore[valid-type]


def _file_type(kind: Any, told: Told) -> Any:
    """Return the type of a value in a file."""
    limited = Meta(extra_json_schema=_limits(told.items, above=told.above)) if told.items is not None else None
    if (value := _pair(kind)) is not None:
        item = _TEXTS[told.text] if value is str else _file_type(value, Told())
        return dict[str, item if limited is None else Annotated[item, limited]]  # type: ignore[misc]
    if limited is not None and typing.get_args(kind) == (float, float):
        return tuple[Annotated[float, limited], Annotated[float, limited]]
    if (each := _each(kind)) is not None:
        return _list_type(each, told, limited)
    if is_dataclass(kind) or isinstance(kind, types.UnionType):
        return table_of(kind, told)
    return kind


def _bounds(part: _Part) -> dict[str, float]:
    """Return the range of a number as the schema has it: it is told, and checked by the record itself."""
    return {} if part.told.within is None else _limits(part.told.within, above=part.told.above)


def _limits(within: tuple[float, float], *, above: bool = False) -> dict[str, float]:
    low, high = (int(end) if float(end).is_integer() else end for end in within)
    return {"exclusiveMinimum" if above else "minimum": low, "maximum": high}


def _default(part: _Part, in_file: Any) -> tuple[Any, ...]:
    """Return the default of a field in the file, in a tuple, or nothing where it has to be there."""
    if part.optional or part.told.left_out:
        return (UNSET,)
    default = part.default if in_file is NO_DEFAULT else in_file
    if default is MISSING:
        return ()
    made = _factory(part.kind)
    return (default,) if made is None else (msgspec.field(default_factory=made),)


def _factory(kind: Any) -> Callable[[], Any] | None:
    """Return what makes an empty table or list, where the default is one."""
    if _pair(kind) is not None:
        return dict
    if _each(kind) is not None:
        return list
    return table_of(kind) if is_dataclass(kind) else None


# --- between them ---


def read_record(kind: Any, table: Any, where: str = "", within: Told = NOTHING) -> Any:
    """Return the record in a table.

    Raises
    ------
    PlaceError
        If a value is out of range; the message names the place.
    """
    breathe()
    form = _FORMS[kind]
    if form.reads is not None:
        with at_place(where):
            return form.reads(table)
    values: dict[str, Any] = {}
    for part in _parts(kind):
        if part.flat:
            values[part.name] = read_record(part.kind, table, where)
            continue
        key = (within.keys or {}).get(part.name, part.key)
        values[part.name] = _read(part, getattr(table, key), f"{where}.{key}" if where else key)
    if not values.get("name", "-"):
        values["name"] = values.get("id", "")
    with at_place(where):
        return kind(**values)


def _read(part: _Part, value: Any, where: str) -> Any:
    if value is UNSET:
        return part.empty
    if part.is_table:
        return tuple(value.items())
    if not part.of_records:
        return value if part.each is None else tuple(value)
    if part.each is None:
        return read_record(part.inner, value, where, part.told)
    return tuple(read_record(part.each, one, f"{where}[{number}]", part.told) for number, one in enumerate(value))


@cache
def _is_record(kind: Any) -> bool:
    return is_dataclass(kind) or isinstance(kind, types.UnionType)


def write_record(record: Any, kind: Any = None, within: Told = NOTHING) -> Any:
    """Return the table of a record."""
    kind = type(record) if kind is None else kind
    form = _FORMS[kind]
    return form.writes(record) if form.writes is not None else table_of(kind, within)(**written(record, kind, within))


def written(record: Any, kind: Any, within: Told = NOTHING) -> dict[str, Any]:
    """Return the keys of a record's table with their values."""
    keys = within.keys or {}
    found: dict[str, Any] = {}
    for part in _parts(kind):
        value = getattr(record, part.name)
        if part.flat:
            found |= written(value, part.kind)
        else:
            found[keys.get(part.name, part.key)] = _write(part, value)
    return found


def _write(part: _Part, value: Any) -> Any:
    if value is None or (part.told.left_out and not value):
        return UNSET
    if part.is_table:
        return dict(value)
    if not part.of_records:
        return value if part.each is None else list(value)
    if part.each is None:
        return write_record(value, part.inner, part.told)
    return [write_record(one, part.each, part.told) for one in value]
