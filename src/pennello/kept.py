"""Results that are kept for the next time; where there is no more room the oldest go first.

Those that hold arrays are bounded by what they weigh, all of a shelf together; small ones are counted (`remembered`).
"""

from __future__ import annotations

import dataclasses
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from functools import cache, lru_cache, wraps
from typing import Any, Generic, ParamSpec, TypeVar, cast

import numpy as np

from pennello.breath import breathe

MOST_BYTES = 33_000_000
"""What all kept results together may weigh, bytes (a default), but for a plan that needs more."""

BYTES_A_STROKE, MANY = 400_000, 100
"""What the kept results of a stroke weigh, bytes (measured), and from how many strokes on a plan is given more room."""

MOST_BYTES_FOR_NOW = 8_000_000
"""What results may weigh that others are made from at once, bytes (a default)."""

_LEAST_BYTES = 400

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
    """

    def __init__(self, most: int) -> None:
        self.most = most
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
        weight = weight_of(value)
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


def kept(make: Callable[P, R]) -> Callable[P, R]:
    """Keep a function's results as long as there is room; its arguments must be hashable."""
    return _kept_on(_shelf, make)


def kept_for_now(make: Callable[P, R]) -> Callable[P, R]:
    """Keep the last few of a function's results: what they go into is kept, and they must not crowd it out."""
    return _kept_on(_for_now, make)


def shelf_for(most_bytes: int) -> ResultShelf:
    """Return a shelf of its own for results of one kind, which films must not crowd out."""
    shelf = ResultShelf(most_bytes)
    _forgets.append(shelf.clear)
    return shelf


def remembered(most: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Remember a function's last results, so many at most: small ones, which are counted and not weighed.

    Its arguments must be hashable.
    """

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


def kept_bytes() -> int:
    """Return what all kept results weigh now, bytes."""
    return _shelf.bytes + _for_now.bytes


def forget_kept() -> None:
    """Let go of all kept results."""
    _shelf.clear()
    _for_now.clear()


def forget_all() -> None:
    """Let go of all kept results, and of all that is remembered."""
    forget_kept()
    for forget in _forgets:
        forget()


def weight_of(value: Any) -> int:
    """Return about how much memory a value takes, bytes: its arrays, wherever in it they are.

    Fields that a dataclass names in `KEPT_ELSEWHERE` are kept, and weighed, as the results that they are.

    >>> weight_of((np.zeros(1000), np.zeros(1000)))
    16400
    """
    return _LEAST_BYTES + _arrays(value)


_PLAIN = frozenset({float, int, bool, str, bytes, type(None)})


@cache
def _fields(kind: Any) -> tuple[str, ...]:
    """Return the fields of a dataclass that are weighed with it; none of another class."""
    if not isinstance(kind, type) or not dataclasses.is_dataclass(kind):
        return ()
    elsewhere = getattr(kind, "KEPT_ELSEWHERE", ())
    return tuple(field.name for field in dataclasses.fields(kind) if field.name not in elsewhere)


def _arrays(value: Any) -> int:
    """Return what the arrays within a value weigh, bytes, each once."""
    weight, seen, left = 0, set[int](), [value]
    while left:
        one = left.pop()
        kind = type(one)
        if kind in _PLAIN or id(one) in seen:
            continue
        seen.add(id(one))
        if kind is np.ndarray:
            spread = one.base is not None and 0 in one.strides  # one value shown many times
            weight += 0 if spread else int(one.nbytes)
        elif isinstance(one, tuple | list):
            left += () if one and type(one[0]) is float else one  # numbers in a row hold no arrays
        elif kind is dict:
            left += one.values()
        else:
            left += [getattr(one, name) for name in _fields(kind)]  # type: ignore[arg-type]  # a class is hashable
    return weight
