"""The Notebook: what was painted and how it came out; cards, practice sheets, lessons, and what is one's own."""

from __future__ import annotations

from pennello.phrases import phrase
from pennello.ui.station import Keys, Takes

TAKES = (Takes((".jpg", ".jpeg", ".png", ".webp"), "write_page_with", phrase("a page with this photo")),)
HELP: tuple[Keys, ...] = (
    Keys(phrase("Up, Down"), phrase("in the list: another page")),
    Keys(phrase("Enter, Delete"), phrase("in the list: change the page, take it out")),
    Keys(
        phrase("press, arrows"), phrase("on a photo: set the nearest corner mark, move the one chosen (Shift: finely)")
    ),
)
