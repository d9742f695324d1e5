"""The Day: an event with its menu, its queue and its bag; the live board; the books."""

from __future__ import annotations

from pennello.phrases import phrase
from pennello.ui.station import Keys, Takes

TAKES = (Takes((".pennello-day",), "open_file", phrase("an event")),)
HELP: tuple[Keys, ...] = (
    Keys(
        phrase("N, Space, D, G"), phrase("on today's board: somebody has come, begin the next, done, did not come back")
    ),
    Keys("Esc", phrase("on the menu board: leave the full screen")),
)
