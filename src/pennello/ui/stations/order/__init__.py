"""The Order: when the hand does what, and the run at the chair."""

from __future__ import annotations

from pennello.phrases import phrase
from pennello.ui.station import Keys

HELP: tuple[Keys, ...] = (
    Keys(phrase("drag"), phrase("a step hangs it where it may hang")),
    Keys(phrase("arrows, Ctrl+arrows"), phrase("on the line of steps: choose one, move it")),
    Keys(
        phrase("Space, Backspace, S, P, V, Esc"),
        phrase("at the chair: done, back, leave out, pause, watch, end (it asks)"),
    ),
)
