"""Results that are kept for the next time; where there is no more room the oldest go first.

All are bounded by what they weigh, those of a shelf together: films and other arrays (`kept`), arrays that others are
made from at once (`kept_for_now`), and small things such as strokes, with what they were asked for (`kept_small`). Only
a few of a kind at most are counted and not weighed (`remembered`): one table, or the last plans as somebody sees them.
"""

from __future__ import annotations

import dataclasses
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from enum import Enum
from functools import cache, lru_cache, singledispatch, wraps
from operator import attrgetter
from typing import Any, Generic, ParamSpec, TypeVar, cast

import numpy as np

from pennello.breath import breathe

MOST_BYTES = 33_000_000
"""What all kept results together may weigh, bytes (a default), but for a plan that needs more."""

BYTES_A_STROKE, MANY = 400_000, 100
"""What the kept results of a stroke weigh, bytes (measured), and from how many strokes on a plan is given more room."""

MOST_REMEMBERED = 32
"""So many results of a kind may be counted and not weighed."""

MOST_BYTES_FOR_NOW = 8_000_000
"""What results may weigh that others are made from at once, bytes (a default)."""

MOST_BYTES_OF_SMALL = 24_000_000
"""What all small results may weigh together, with what they were asked for, bytes (a default), but for a large plan."""

SMALL_BYTES_A_STROKE = 20_000
"""Room for the small results of each stroke of a large plan, bytes (measured: 15,000 once it is in order)."""

_OBJECT, _PLACE, _UNKNOWN = 56, 32, 200  # bytes; in a place lie a pointer and a number

P = ParamSpec("P")
R = TypeVar("R")
T = TypeVar("T")


class HashedOnce(Generic[T]):
    """A value that is hashed once: to hash all paints of a plan, or a stroke with its cakes, takes longer than to find
    what is kept of them.
    """

    __slots__ = ("hashed", "value")

    def __init__(self, value: T) -> None:
        self.value, self.hashed = value, hash(value)

    def __hash__(self) -> int:
        return self.hashed

    def __eq__(self, other: object) -> bool:
        return isinstance(other, HashedOnce) and self.hashed == other.hashed and bool(self.value == other.value)


class ResultShelf:
    """Results that are kept as long as there is room for them, the one used last at the end.

    Parameters
    ----------
    most
        What they may weigh together, bytes; one alone may weigh more.
    weigh
        Returns what a key and its result weigh, bytes: the result alone, if not given.
    """

    def __init__(self, most: int, weigh: Callable[[Any, Any], int] | None = None) -> None:
        self.most, self._weigh = most, weigh or (lambda _, value: weight_of(value))
        self.items: OrderedDict[Hashable, tuple[Any, int]] = OrderedDict()
        self.bytes = 0
        self.lock = threading.Lock()

    def get(self, key: Hashable) -> tuple[Any, int] | None:
        """Return a result and what it weighs, bytes; None where it is not there."""
        with self.lock:
            found = self.items.get(key)
            if found is not None:
                self.items.move_to_end(key)
            return found

    def put(self, key: Hashable, value: Any) -> Any:
        """Keep a result, and return it, or the one that another thread put there meanwhile."""
        weight = self._weigh(key, value)
        with self.lock:
            there = self.items.get(key)
            if there is not None:  # another thread was quicker: one object for one question
                return there[0]
            self.items[key] = (value, weight)
            self.bytes += weight
            while self.bytes > self.most and len(self.items) > 1:
                _, (_, gone) = self.items.popitem(last=False)
                self.bytes -= gone
        return value

    def again(self, key: Hashable, make: Callable[[], Any]) -> Any:
        """Return what is kept under a key; make and keep it where it is not there."""
        found = self.get(key)
        return found[0] if found is not None else self.put(key, make())

    def clear(self) -> None:
        """Let go of all."""
        with self.lock:
            self.items.clear()
            self.bytes = 0


_shelf, _for_now = ResultShelf(MOST_BYTES), ResultShelf(MOST_BYTES_FOR_NOW)


@dataclasses.dataclass(slots=True)
class _Small:
    """A small result, what it weighs with what it was asked for, and whether it was asked for again since looked at."""

    value: Any
    weight: int
    again: bool = False


class SmallShelf:
    """Small results by what was asked, as long as there is room for them.

    They are asked for so often that none is moved when it is: who was asked for again since the last look is passed
    over once when room is made, and the others go, the oldest first.
    """

    def __init__(self, most: int) -> None:
        self.most, self.bytes = most, 0
        self._there: dict[Hashable, _Small] = {}
        self._lock = threading.Lock()

    def again(self, key: tuple[Any, ...], make: Callable[[], Any]) -> Any:
        """Return what is kept under a function and what it was asked; make and keep it where it is not there."""
        found = self._there.get(key)
        if found is not None:
            found.again = True
            return found.value
        value = make()
        new = _Small(value, weight_of(key[1:]) + weight_of(value))
        with self._lock:
            there = self._there.setdefault(key, new)
            if there is new:  # else another thread was quicker
                self.bytes += new.weight
                self._make_room()
        return there.value

    def _make_room(self) -> None:
        while self.bytes > self.most and len(self._there) > 1:
            key = next(iter(self._there))
            oldest = self._there.pop(key)
            if oldest.again:
                oldest.again = False
                self._there[key] = oldest
            else:
                self.bytes -= oldest.weight

    def clear(self) -> None:
        """Let go of all."""
        with self._lock:
            self._there.clear()
            self.bytes = 0


_small = SmallShelf(MOST_BYTES_OF_SMALL)


def kept(make: Callable[P, R]) -> Callable[P, R]:
    """Keep a function's results as long as there is room; its arguments must be hashable."""
    return _kept_on(_shelf, make)


def kept_for_now(make: Callable[P, R]) -> Callable[P, R]:
    """Keep the last few of a function's results: what they go into is kept, and they must not crowd it out."""
    return _kept_on(_for_now, make)


def kept_small(make: Callable[P, R]) -> Callable[P, R]:
    """Keep a function's small results as long as there is room; its arguments must be hashable, and are weighed too."""

    @wraps(make)
    def again(*given: P.args, **named: P.kwargs) -> R:
        key = (make, given, tuple(named.items())) if named else (make, given)
        result: R = _small.again(key, lambda: make(*given, **named))
        return result

    return again


def shelf_for(most_bytes: int, weigh: Callable[[Any, Any], int] | None = None) -> ResultShelf:
    """Return a shelf of its own for results of one kind, which others must not crowd out."""
    shelf = ResultShelf(most_bytes, weigh)
    _forgets.append(shelf.clear)
    return shelf


def remembered(most: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Remember a function's last few results, so many at most: they are counted and not weighed.

    Its arguments must be hashable.
    """
    assert most <= MOST_REMEMBERED, "so many are to be weighed: kept_small"

    def remember(make: Callable[P, R]) -> Callable[P, R]:
        counted = lru_cache(maxsize=most)(make)
        _forgets.append(counted.cache_clear)
        return cast("Callable[P, R]", counted)

    return remember


_forgets: list[Callable[[], None]] = []


def _kept_on(shelf: ResultShelf, make: Callable[P, R]) -> Callable[P, R]:
    @wraps(make)
    def again(*given: P.args, **named: P.kwargs) -> R:
        breathe()
        key = HashedOnce((make, given, tuple(named.items())) if named else (make, given))
        found, beside = shelf.get(key), _aside.shelf
        result: R
        if found is not None:
            result = found[0]
        elif beside is not None:
            result = beside.again(key, lambda: make(*given, **named))
        else:
            result = shelf.put(key, make(*given, **named))
        return result

    return again


class _Aside(threading.local):
    shelf: ResultShelf | None = None


_aside = _Aside()


@contextmanager
def kept_aside(shelf: ResultShelf) -> Iterator[None]:
    """Keep what this thread works out now apart, on a shelf of its own: it comes but once, and crowds nothing out."""
    before, _aside.shelf = _aside.shelf, shelf
    try:
        yield
    finally:
        _aside.shelf = before


def room_for(strokes: int) -> None:
    """Make room for a plan of so many strokes: where they crowd each other out each change works out all of them."""
    _shelf.most = MOST_BYTES if strokes <= MANY else BYTES_A_STROKE * strokes
    _small.most = max(MOST_BYTES_OF_SMALL, SMALL_BYTES_A_STROKE * strokes)


def kept_bytes() -> int:
    """Return what all kept results weigh now, bytes."""
    return _shelf.bytes + _for_now.bytes + _small.bytes


def forget_kept() -> None:
    """Let go of all kept results."""
    for shelf in (_shelf, _for_now, _small):
        shelf.clear()


def forget_all() -> None:
    """Let go of all kept results, and of all that is remembered."""
    forget_kept()
    for forget in _forgets:
        forget()


_NUMBERS = frozenset({float, int})
_NOTHING: tuple[Any, ...] = ()
_PLAIN = frozenset({*_NUMBERS, bool, str, bytes, type(None)})


def weight_of(value: Any) -> int:
    """Return about how much memory a value takes, bytes: all of it, each thing once. It is quick rather than exact.

    Fields that a dataclass names in `KEPT_ELSEWHERE` are kept, and weighed, as the results that they are.

    >>> weight_of((1.0, 2.0))
    120
    """
    weight, seen, left = 0, set[int](), [value]
    while left:
        one = left.pop()
        kind = type(one)
        if kind in _PLAIN:  # its object is weighed where it lies
            if kind is str or kind is bytes:
                weight += len(one)
        elif one is not _NOTHING and id(one) not in seen:
            seen.add(id(one))
            if isinstance(one, tuple | list):
                weight += _OBJECT + _PLACE * len(one) + _rest_of(one, left)
            elif kind is dict:
                weight += _OBJECT + 2 * _PLACE * len(one)
                left += (*one, *one.values())
            elif (held := _held(kind)) is not None:  # type: ignore[arg-type]  # a class is hashable
                values = held(one)
                weight += _OBJECT + _PLACE * len(values)
                left += values
            else:
                weight += other_weight(one)
    return weight


@cache
def _held(kind: Any) -> Callable[[Any], tuple[Any, ...]] | None:
    """Return what gives all values of a dataclass at once; None for another class."""
    if issubclass(kind, Enum):
        return lambda _: ()  # there is one of each, whoever names it
    if not dataclasses.is_dataclass(kind):
        return None
    elsewhere = getattr(kind, "KEPT_ELSEWHERE", ())
    names = [field.name for field in dataclasses.fields(kind) if field.name not in elsewhere]
    if len(names) > 1:
        return attrgetter(*names)
    return lambda one: tuple(getattr(one, name) for name in names)


def _rest_of(row: tuple[Any, ...] | list[Any], left: list[Any]) -> int:
    """Return what points in a row weigh besides their places, bytes; leave other things to be weighed each."""
    first, last = (row[0], row[-1]) if row else (None, None)
    if type(first) in _NUMBERS and type(last) in _NUMBERS:
        return 0
    if type(first) is type(last) is tuple and 0 < len(first) == len(last) and type(first[0]) in _NUMBERS:
        return len(row) * (_OBJECT + _PLACE * len(first))
    left += row
    return 0


@singledispatch
def other_weight(_one: object) -> int:
    """Return what something weighs that is neither number, row nor dataclass, bytes; each kind is told where it is."""
    return _UNKNOWN


@other_weight.register
def _of_array(one: np.ndarray) -> int:
    spread = one.base is not None and 0 in one.strides  # one value shown many times
    return _UNKNOWN + (0 if spread else int(one.nbytes))
