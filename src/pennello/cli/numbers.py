"""Numbers on the command line, read as everywhere: either decimal sign, fractions, units; nothing else passes."""

from __future__ import annotations

from argparse import ArgumentTypeError

from pennello.phrases import phrase, plural
from pennello.units import NumberTextError, parse_length, parse_number, parse_whole


def number(text: str) -> float:
    """Return a number; raises ArgumentTypeError, which argparse says with the option's name.

    >>> number("12,5")
    12.5
    """
    try:
        return parse_number(text)
    except NumberTextError as error:
        raise ArgumentTypeError(str(error)) from error


def whole(text: str) -> int:
    """Return a whole number; raises ArgumentTypeError."""
    try:
        return parse_whole(text)
    except NumberTextError as error:
        raise ArgumentTypeError(str(error)) from error


def seed(text: str) -> int:
    """Return what chance is begun with; raises ArgumentTypeError."""
    value = whole(text)
    if value < 0:
        raise ArgumentTypeError(str(NumberTextError(text, phrase("write a whole number from 0 on, as in 12"))))
    return value


def length_mm(text: str) -> float:
    """Return a length in mm, its unit with it or not; raises ArgumentTypeError.

    >>> length_mm("1/2 in")
    12.7
    """
    try:
        return parse_length(text)
    except NumberTextError as error:
        raise ArgumentTypeError(str(error)) from error


def numbers(text: str, count: int, what: str) -> tuple[float, ...]:
    """Return so many numbers from a list with commas between them.

    Parameters
    ----------
    what
        How they are written, for the sentence.

    Raises
    ------
    NumberTextError
        If there are others, or one is no number.

    >>> numbers("1,2.5", 2, "X,Y")
    (1.0, 2.5)
    """
    parts = text.split(",")
    if len(parts) != count:
        raise NumberTextError(
            text,
            plural(
                count,
                "write {count} number as {what}, with decimal points",
                "write {count} numbers as {what}, with decimal points",
                what=what,
            ),
        )
    return tuple(parse_number(part) for part in parts)
