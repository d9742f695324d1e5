"""Lengths: millimetres inside, millimetres or inches for the painter; times in words."""

from __future__ import annotations

from enum import Enum
from fractions import Fraction

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
    return length if unit is LengthUnit.MM else length * MM_PER_INCH


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
    return f"{' '.join(str(part) for part in (whole, rest) if part)} in"


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
    return f"{whole // 60} min {whole % 60} s" if whole >= 60 else f"{whole} s"
