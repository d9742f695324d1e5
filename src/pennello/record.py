"""Fields that are declared once: what one is, its unit and range, and since which version of a file it is there.

A field of a record carries a `Told` beside its type. From it come the check of the value and its message, the key in
files with reading and writing, the JSON Schema, the tables of docs/format.md and the columns of tables.

>>> @dataclass(frozen=True)
... class Wave:
...     height_mm: Annotated[float, Told("from crest to trough", "mm", within=(0, 60))] = 1.0
...
...     def __post_init__(self) -> None:
...         check(self)
>>> Wave(61)
Traceback (most recent call last):
    ...
pennello.errors.OutOfRangeError: height is 61; it must be 0 to 60 mm.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields
from functools import cache
from typing import Annotated, Any, get_args, get_origin, get_type_hints

from pennello.errors import OutOfRangeError
from pennello.phrases import phrase

_UNITS = ("_mm3_per_mm", "_mm", "_um", "_deg", "_s", "_u", "_de00")

NO_DEFAULT = object()
"""Said of a key that a file has to have."""


@dataclass(frozen=True, slots=True)
class Told:
    """What is told of a field.

    Attributes
    ----------
    words
        What it is, as docs/format.md says it.
    unit
        As it is written after a number: "mm", "degrees".
    within
        Least and greatest value, both allowed; `above` says that the least is not.
    items
        The same of each number in a list; it is told, and checked by the record itself.
    count
        How many items a list has at least and at most.
    called
        What it is called in a message, "{name}" standing for another field of the record; without it the field's
        name in words.
    since
        Version of the plan file that brought it.
    values
        Versions that brought single values of it.
    key
        Its key in a file, if that is not its name.
    text
        What kind of text it is: "id", "name", "long name" or "colour".
    left_out
        Whether an empty one is left out of a file.
    in_file
        Its default in a file where the record itself has none.
    keys, defaults
        For fields of the records in it: other keys in a file, and defaults there.
    default
        The default in words, where the value alone does not say it.
    """

    words: str = ""
    unit: str = ""
    within: tuple[float, float] | None = None
    above: bool = False
    items: tuple[float, float] | None = None
    count: tuple[int, int] | None = None
    called: str = ""
    since: int = 1
    values: Mapping[str, int] | None = None
    key: str = ""
    text: str = ""
    left_out: bool = False
    in_file: Any = NO_DEFAULT
    keys: Mapping[str, str] | None = None
    defaults: Mapping[str, Any] | None = None
    default: str = ""

    @property
    def range_words(self) -> str:
        """The range, with its unit, as in "0.05 to 25.4 mm"."""
        if self.within is None:
            return ""
        low, high = self.within
        unit = f" {self.unit}" if self.unit else ""
        return (
            phrase("above {low:g}, up to {high:g}{unit}", low=low, high=high, unit=unit)
            if self.above
            else phrase("{low:g} to {high:g}{unit}", low=low, high=high, unit=unit)
        )

    def allows(self, value: float) -> bool:
        """Return whether a number is in the range."""
        if self.within is None:
            return True
        low, high = self.within
        return low < value <= high if self.above else low <= value <= high


NOTHING = Told()


@cache
def told_of(kind: type) -> Mapping[str, Told]:
    """Return what is told of each field of a record, in order."""
    hints = get_type_hints(kind, include_extras=True)
    return {one.name: _told(hints[one.name]) for one in fields(kind)}


def _told(hint: Any) -> Told:
    marks = get_args(hint)[1:] if get_origin(hint) is Annotated else ()
    return next((mark for mark in marks if isinstance(mark, Told)), NOTHING)


@cache
def _checked(kind: type) -> tuple[tuple[str, Told], ...]:
    return tuple((name, told) for name, told in told_of(kind).items() if told.within or told.count)


def check(record: Any, *, counts: bool = True) -> None:
    """Check the numbers of a record against their ranges, and how many items its lists have.

    Parameters
    ----------
    counts
        Whether lists are counted too.

    Raises
    ------
    OutOfRangeError
        At the first that is out of range.
    """
    for name, told in _checked(record.__class__):
        value = getattr(record, name)
        if value is None:
            continue
        if counts and told.count is not None:
            least, most = told.count
            if not least <= len(value) <= most:
                allowed = (
                    phrase("{least} to {most}", least=least, most=most)
                    if least
                    else phrase("at most {most}", most=most)
                )
                raise OutOfRangeError(
                    phrase("number of {called}", called=_called(record, name, told)), len(value), allowed, name
                )
        if told.within is not None and not told.allows(value):
            raise OutOfRangeError(_called(record, name, told), value, told.range_words, name)


def range_of(kind: type, name: str) -> tuple[float, float]:
    """Return least and greatest value of a field: what a form may offer."""
    within = told_of(kind)[name].within
    assert within is not None, f"{kind.__name__}.{name} has no range"
    return within


def _called(record: Any, name: str, told: Told) -> str:
    if told.called:
        return told.called.format(**{one: getattr(record, one) for one in told_of(record.__class__)})
    unit = next((unit for unit in _UNITS if name.endswith(unit)), "")
    return name.removesuffix(unit).replace("_", " ")
