"""The Bench: one stroke at work, from the cake to the skin."""

from __future__ import annotations

from pennello.ui.station import Action, Keys, Takes

ACTIONS: tuple[Action, ...] = (
    Action("ask_picture", "Picture of the stroke (PNG) ...", "Ctrl+E", "out"),
    Action("ask_card", "Load card (PDF) ...", "", "out"),
    Action("ask_label", "Label of the cake (PDF) ...", "", "out"),
)
TAKES = (
    Takes((".svg",), "follow_drawing", "the way of this stroke"),
    Takes((".jpg", ".jpeg", ".png", ".webp"), "wish_from", "the colours that are wished for"),
)
HELP: tuple[Keys, ...] = (
    Keys("F", "flip the brush"),
    Keys("Ctrl+arrows, Del", "on a card of the load: another place, take it out"),
    Keys("double click", "on the strip of the hand page: a pressure key; on a key or a flip: takes it out"),
)
