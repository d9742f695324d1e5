"""Lengths: millimetres inside, millimetres or inches for the painter; times in words; numbers as people write them."""

from __future__ import annotations

import re
from enum import Enum
from fractions import Fraction

from pennello.errors import PennelloError, clipped
from pennello.phrases import phrase

MM_PER_INCH = 25.4  # exact: international yard and pound agreement, 1959


class LengthUnit(Enum):
    """What lengths are shown in."""

    MM = "mm"
    INCH = "in"


def from_mm(length_mm: float, unit: LengthUnit) -> float:
    """Return a length in the unit shown.

    >>> from_mm(12.7, LengthUnit.INCH)
    0.5
    """
    return length_mm if unit is LengthUnit.MM else length_mm / MM_PER_INCH


def to_mm(length: float, unit: LengthUnit) -> float:
    """Return in mm a length given in the unit shown.

    >>> to_mm(1, LengthUnit.INCH)
    25.4
    """
    return length if unit is LengthUnit.MM else round(length * MM_PER_INCH, 9)


def decimals(unit: LengthUnit) -> int:
    """Return how many decimals show 0.1 mm honestly in this unit."""
    return 1 if unit is LengthUnit.MM else 3


def length_text(length_mm: float, unit: LengthUnit = LengthUnit.MM) -> str:
    """Return a length with its unit.

    >>> length_text(2.04), length_text(25.4, LengthUnit.INCH)
    ('2 mm', '1 in')
    """
    number = f"{from_mm(length_mm, unit):.{decimals(unit)}f}".rstrip("0").rstrip(".")
    return f"{'0' if number in ('-0', '') else number} {unit.value}"


def brush_size_text(width_mm: float) -> str:
    """Return a brush width as painters say it: a fraction of an inch where it is one.

    >>> brush_size_text(19.05), brush_size_text(20)
    ('3/4 in', '20 mm')
    """
    eighths = Fraction(round(width_mm / MM_PER_INCH * 8), 8)
    if not eighths or abs(float(eighths) * MM_PER_INCH - width_mm) > 0.01:
        return length_text(width_mm)
    whole, rest = divmod(eighths, 1)
    return phrase("{listed} in", listed=" ".join(str(part) for part in (whole, rest) if part))


def clock(seconds: float) -> str:
    """Return a time as on a clock, m:ss.

    >>> clock(75.2)
    '1:15'
    """
    whole = round(seconds)
    return f"{whole // 60}:{whole % 60:02d}"


def minutes(seconds: float) -> str:
    """Return a time as minutes and seconds.

    >>> minutes(75.2), minutes(9.0)
    ('1 min 15 s', '9 s')
    """
    whole = round(seconds)
    return (
        phrase("{whole} min {whole_2} s", whole=whole // 60, whole_2=whole % 60)
        if whole >= 60
        else phrase("{whole} s", whole=whole)
    )


class NumberTextError(PennelloError, ValueError):
    """A text is no number, or one of something else."""

    def __init__(self, text: str, wanted: str) -> None:
        super().__init__(phrase("'{text}' is not understood; {wanted}.", text=clipped(text, 40), wanted=wanted))
        self.text = text


_SIGNS = str.maketrans(dict(zip("\u2212\u00a0\u2009\u202f\u2044\u2033\u201d", '-   /""', strict=True)))
_PARTS = {"\u00bd": "1/2", "\u00bc": "1/4", "\u00be": "3/4"} | {
    sign: f"{top}/8" for sign, top in zip("\u215b\u215c\u215d\u215e", "1357", strict=True)
}
_DECIMAL = r"(?:[0-9]+(?:[.,][0-9]*)?|[.,][0-9]+)(?:[eE][+-]?[0-9]{1,3})?"
_FRACTION = r"(?:(?P<whole>[0-9]{1,6})[ -]+)?(?P<top>[0-9]{1,6}) ?/ ?(?P<bottom>[0-9]{1,6})"
_QUANTITY = re.compile(rf"(?P<sign>[+-]?) ?(?:{_FRACTION}|(?P<decimal>{_DECIMAL})) ?(?P<unit>[^0-9 .,/+-].*)?\Z")
_LENGTHS = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    '"': MM_PER_INCH,
    "''": MM_PER_INCH,
    "um": 1e-3,
    "\u00b5m": 1e-3,
    "\u03bcm": 1e-3,
}
_SAME = {
    "\u00b0": ("deg", "degree", "degrees"),
    "s": ("sec", "second", "seconds"),
    "g": ("gram", "grams"),
    "um": ("\u00b5m", "\u03bcm", "micron", "microns"),
    "\u00b5m": ("um", "\u03bcm", "micron", "microns"),
}
_HOW = phrase("write a number, as in 12.5, 12,5 or 3/4")
_CLOCK = re.compile(r"(?P<minutes>[0-9]{1,4}):(?P<seconds>[0-5][0-9])\Z")


def _read(text: str, how: str) -> tuple[float, str]:
    """Return the number and the unit, "" for none, that a text gives."""
    plain = text.translate(_SIGNS).strip()
    for sign, part in _PARTS.items():
        plain = plain.replace(sign, f" {part}")
    match = _QUANTITY.match(plain.strip())
    if match is None:
        raise NumberTextError(text, how)
    if match["bottom"]:
        if int(match["bottom"]) == 0:
            raise NumberTextError(text, how)
        value = float(int(match["whole"] or 0) + Fraction(int(match["top"]), int(match["bottom"])))
    else:
        value = float(match["decimal"].replace(",", "."))
    if value > 1e300:
        raise NumberTextError(text, how)
    return (-value if match["sign"] == "-" else value), (match["unit"] or "").strip()


def parse_number(text: str) -> float:
    """Return a number as people write it: with a decimal point or comma, or as a fraction.

    Raises
    ------
    NumberTextError
        If it is none: words, infinities, underscores, other scripts' digits, a unit.

    >>> parse_number("12,5"), parse_number("-3/4"), parse_number("1 1/8"), parse_number("1e2")
    (12.5, -0.75, 1.125, 100.0)
    """
    value, unit = _read(text, _HOW)
    if unit:
        raise NumberTextError(text, _HOW)
    return value


def is_count(text: str) -> bool:
    """Return whether a text is a whole number of at most nine digits; other scripts' digits and powers are none.

    >>> is_count("12"), is_count("-1"), is_count("\u00b2"), is_count("9" * 5000)
    (True, False, False, False)
    """
    return re.fullmatch("[0-9]{1,9}", text) is not None


def parse_whole(text: str) -> int:
    """Return a whole number; raises NumberTextError.

    >>> parse_whole(" 12 ")
    12
    """
    if not re.fullmatch(r"[+-]?[0-9]{1,15}", text.strip()):
        raise NumberTextError(text, phrase("write a whole number, as in 12"))
    return int(text)


def parse_length(text: str, unit: LengthUnit = LengthUnit.MM) -> float:
    """Return a length in mm, given in the unit that stands with it, or else in this one.

    Raises
    ------
    NumberTextError
        If it is none.

    >>> parse_length("19 mm", LengthUnit.INCH), parse_length('1 1/8"'), round(parse_length("3/4 in"), 2)
    (19.0, 28.575, 19.05)
    """
    how = phrase("write a length, as in 12.5, 19 mm, 3/4 in or 1 1/8 in")
    value, named = _read(text, how)
    if not named:
        return to_mm(value, unit)
    factor = _LENGTHS.get(named.lower().rstrip("."))
    if factor is None:
        raise NumberTextError(text, how)
    return round(value * factor, 9)


def parse_amount(text: str, unit: str) -> float:
    """Return a number with or without its own unit; times are understood as on a clock too.

    Parameters
    ----------
    unit
        The unit that the number is in, as it is shown, "" for none.

    Raises
    ------
    NumberTextError
        If it is no number, or has another unit.

    >>> parse_amount("12,5 s", "s"), parse_amount("1:30", "s"), parse_amount("30 deg", "\u00b0"), parse_amount("7", "g")
    (12.5, 90.0, 30.0, 7.0)
    """
    own = unit.strip()
    how = phrase("{how}, in {own}", how=_HOW, own=own) if own else _HOW
    on_clock = _CLOCK.match(text.strip()) if own == "s" else None
    if on_clock:
        return 60.0 * int(on_clock["minutes"]) + int(on_clock["seconds"])
    value, named = _read(text, how)
    if own == "s" and named.lower() in ("min", "minute", "minutes"):
        return 60.0 * value
    if named and named != own and named.lower() not in (own.lower(), *_SAME.get(own, ())):
        raise NumberTextError(text, how)
    return value


WHOLE_FROM_DE = 3.0
"""A difference from here on is told in whole dE: no prediction knows it better."""


def difference_text(de00: float) -> str:
    """Return a colour difference with the digits that it deserves, without its unit.

    >>> difference_text(0.62), difference_text(5.6)
    ('0.6', '6')
    """
    return f"{de00:.1f}" if abs(de00) < WHOLE_FROM_DE else f"{de00:.0f}"


def de_text(de00: float) -> str:
    """Return a colour difference with its unit.

    >>> de_text(0.62)
    '0.6 dE'
    """
    return phrase("{de00} dE", de00=difference_text(de00))


_SEEN = ((1.0, phrase("cannot be told apart")), (3.0, phrase("only side by side")), (6.0, phrase("seen")))


def difference_words(de00: float) -> str:
    """Return what a colour difference is to the eye, on one scale everywhere (common practice, no published source).

    >>> [difference_words(one) for one in (0.4, 2, 5, 9)]
    ['cannot be told apart', 'only side by side', 'seen', 'another colour']
    """
    return next((words for below, words in _SEEN if de00 < below), phrase("another colour"))


def about_seconds_text(seconds: float) -> str:
    """Return a time that hangs on films drying with the digits that it deserves: from 20 s on in steps of 5.

    >>> about_seconds_text(7.3), about_seconds_text(43.0)
    ('7 s', '45 s')
    """
    return (
        phrase("{seconds:.0f} s", seconds=seconds)
        if seconds < 20
        else phrase("{seconds} s", seconds=5 * round(seconds / 5))
    )
