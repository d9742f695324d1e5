"""The Day: an event with its menu, its queue and its bag; the live board; the books."""

from __future__ import annotations

from pennello.ui.station import Keys, Takes

TAKES = (Takes((".pennello-day",), "open_file", "an event"),)
HELP: tuple[Keys, ...] = (
    Keys("N, Space, D, G", "on today's board: somebody has come, begin the next, done, did not come back"),
    Keys("Esc", "on the menu board: leave the full screen"),
)
