"""How large words are: their own size, beside that of everything, chosen before the window is made.

All lengths that hold words go through `px`, so that a room grows with what is in it; pictures, handles and what lies at
true scale do not.
"""

from __future__ import annotations

from pennello.session.settings import TEXTS_PERCENT

BODY_PT, NOTE_PT, STATION_PT, HEADLINE_PT = 10.5, 9.0, 12.75, 15.0
"""Sizes of type at 100 %, points: what is read, what is noted, the name of a mat, a headline."""

_PX_PER_PT = 96 / 72
"""Qt's own pixels: a point is 1/72 inch, and what the screen is denser is in the scale of everything."""

_chosen = {"percent": TEXTS_PERCENT[0]}


def choose_text(percent: int) -> None:
    """Have words so large, percent of their usual size; for windows that are made from now on."""
    _chosen["percent"] = percent


def text_percent() -> int:
    """Return how large words are, percent of their usual size."""
    return _chosen["percent"]


def px(length: float) -> int:
    """Return a length that holds words, px: as given for words of the usual size, more for larger ones.

    >>> px(16)
    16
    """
    return round(length * text_percent() / 100)


def type_px(points: float) -> int:
    """Return the size of type in px, of one given in points at 100 %.

    >>> type_px(BODY_PT), type_px(NOTE_PT)
    (14, 12)
    """
    return round(points * _PX_PER_PT * text_percent() / 100)
