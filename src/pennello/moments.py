"""Moments at the ends of the calendar: a year that was written wrong has days before and after it, or has none."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta


def later(moment: datetime, seconds: float) -> datetime:
    """Return a moment so many seconds later, or the last one that there is.

    >>> later(datetime(2026, 11, 28, 18, 30), 90)
    datetime.datetime(2026, 11, 28, 18, 31, 30)
    >>> later(datetime(9999, 12, 31, 23, 59), 90).second
    59
    """
    try:
        return moment + timedelta(seconds=seconds)
    except OverflowError:
        return datetime.max.replace(microsecond=0, tzinfo=moment.tzinfo)


def of_the_place(moment: datetime) -> datetime:
    """Return a moment on the clocks of the place with their shift from UTC; none where the calendar ends within it."""
    try:
        return moment.astimezone()
    except (OverflowError, ValueError, OSError):
        return moment.replace(tzinfo=UTC)
