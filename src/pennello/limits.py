"""How long names may be and how many of each kind a plan may hold: one set for window, command line and files."""

from __future__ import annotations

from collections.abc import Callable

from pennello.errors import OutOfRangeError, clipped
from pennello.phrases import phrase

MOST_ID = 64
MOST_NAME = 200
MOST_STEP_NAME = 400
MOST_PAINTS, MOST_CAKES, MOST_BRUSHES, MOST_STROKES = 2200, 1000, 700, 2200
MOST_MOTIFS, MOST_RESERVED, MOST_OVERLAYS, MOST_OUTLINES = 700, 100, 200, 200
"""Until version 9 there were 200 fewer paints, brushes, strokes and pieces: layers of lines become some of each."""

MOST_DIRT, MOST_OWN, MOST_PARTS = 2000, 20, 500
MOST_SEQUENCE, MOST_RULES = 2000, 500
MOST_PLAN_BYTES = 20_000_000


def fitted(name: str, tail: str = "", most: int = MOST_NAME) -> str:
    """Return a name with a tail, cut where both would be longer than a name may be.

    >>> fitted("rose", ", other side"), len(fitted("r" * 300, " copy"))
    ('rose, other side', 200)
    """
    return f"{name[: most - len(tail)]}{tail}"


def fitted_words(name: str, worded: Callable[[str], str], most: int = MOST_NAME) -> str:
    """Return a name within words, the name cut where they would be longer than a name may be.

    >>> fitted_words("rose", "{}, other side".format), len(fitted_words("r" * 300, "copy of {}".format))
    ('rose, other side', 200)
    """
    return worded(name[: most - len(worded(""))])


def check_id(kind: str, value: str) -> None:
    """Check that an id has 1 to 64 signs that can be written.

    Raises
    ------
    OutOfRangeError
        If it has not.
    """
    if not 1 <= len(value) <= MOST_ID:
        raise OutOfRangeError(
            phrase("length of the id of a {kind}", kind=kind),
            len(value),
            phrase("1 to {most_id} signs", most_id=MOST_ID),
        )
    _check_writable(phrase("id of a {kind}", kind=kind), value)


def check_name(what: str, value: str, most: int = MOST_NAME) -> None:
    """Check that a name is at most so long and can be written.

    Raises
    ------
    OutOfRangeError
        If it is longer, or holds half a sign (a lone surrogate).
    """
    if len(value) > most:
        raise OutOfRangeError(
            phrase("length of {what}", what=what), len(value), phrase("at most {most} signs", most=most)
        )
    _check_writable(what, value)


def check_named(kind: str, item_id: str, name: str) -> None:
    """Check both the id and the name of a thing; raises OutOfRangeError."""
    check_id(kind, item_id)
    check_name(phrase("the name of {kind} '{item_id}'", kind=kind, item_id=clipped(item_id)), name)


def check_count(what: str, count: int, most: int) -> None:
    """Check how many there are; raises OutOfRangeError."""
    if count > most:
        raise OutOfRangeError(phrase("number of {what}", what=what), count, phrase("at most {most}", most=most))


def writable(text: str) -> bool:
    """Return whether text can be written as UTF-8: no half of a sign (a lone surrogate) is in it."""
    return text.isascii() or not any("\ud800" <= sign <= "\udfff" for sign in text)


def _check_writable(what: str, value: str) -> None:
    if not writable(value):
        raise OutOfRangeError(what, ascii(value[:40]), phrase("text that can be written as UTF-8"))
