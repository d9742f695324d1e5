"""The Bench: one stroke at work, from the cake to the skin."""

from __future__ import annotations

from pennello.ui.station import Action, Keys

ACTIONS: tuple[Action, ...] = (
    Action("ask_picture", "Picture of the stroke (PNG) ...", "Ctrl+E", "out"),
    Action("ask_card", "Load card (PDF) ...", "Ctrl+P", "out"),
    Action("ask_label", "Label of the cake (PDF) ...", "", "out"),
)
HELP: tuple[Keys, ...] = (
    Keys("F", "flip the brush"),
    Keys("Ctrl+arrows, Del", "on a card of the load: another place, take it out"),
    Keys("double click", "on the strip of the hand page: a pressure key; on a key or a flip: takes it out"),
)
