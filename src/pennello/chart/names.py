"""What landmarks, zones, frames and close views are called: codes in files, words on the screen."""

from __future__ import annotations

from pennello.phrases import phrase, told

_SIDE = ", wearer's "


def place_words(name: str) -> str:
    """Return what a landmark, zone, frame or close view of a chart is called.

    >>> place_words("nose tip"), place_words("cheek, wearer's left")
    ('nose tip', "cheek, wearer's left")
    """
    place, _, side = name.partition(_SIDE)
    if side == "left":
        return phrase("{place}, wearer's left", place=told(place))
    if side == "right":
        return phrase("{place}, wearer's right", place=told(place))
    return told(name)
