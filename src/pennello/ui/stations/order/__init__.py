"""The Order: when the hand does what, and the run at the chair."""

from __future__ import annotations

from pennello.ui.station import Keys

HELP: tuple[Keys, ...] = (
    Keys("drag", "a step hangs it where it may hang"),
    Keys("arrows, Ctrl+arrows", "on the line of steps: choose one, move it"),
    Keys("Space, Backspace, S, P, V, Esc", "at the chair: done, back, leave out, pause, watch, end (it asks)"),
)
