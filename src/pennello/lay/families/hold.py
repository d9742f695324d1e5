"""The five ways to hold a loaded brush, and the touches that are none of them. Common practice, no published source."""

from __future__ import annotations

from pennello.phrases import phrase
from pennello.quick_enum import QuickEnum


class Hold(QuickEnum):
    """What the hand does; every family is one of these with numbers."""

    UPRIGHT = "upright"
    HEEL = "round the heel"
    RIM = "on the rim"
    PUSH = "chisel, push, chisel"
    SQUARE = "square"
    TOUCH = "touch"

    @property
    def words(self) -> str:
        """What the hand does, in a sentence."""
        return _WORDS[self]


_WORDS = {
    Hold.UPRIGHT: phrase(
        "the chisel keeps its direction while the path bends under it: feet come to a point of themselves"
    ),
    Hold.HEEL: phrase("corner B stands still or creeps along while corner A swings round it"),
    Hold.RIM: phrase("corner A runs along the outline, B hangs inwards and turns with it"),
    Hold.PUSH: phrase("starts on the edge, turned and pressed in the middle, back onto the edge"),
    Hold.SQUARE: phrase("the chisel stays across the path"),
    Hold.TOUCH: phrase("set down, pressed or patted; or drawn with the tip"),
}
