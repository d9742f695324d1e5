"""The Bench: one stroke at work, from the cake to the skin."""

from __future__ import annotations

from pennello.phrases import phrase
from pennello.ui.station import Action, Keys, Takes

ACTIONS: tuple[Action, ...] = (
    Action("ask_picture", phrase("Picture of the stroke (PNG) ..."), "Ctrl+E", "out"),
    Action("ask_card", phrase("Load card (PDF) ..."), "", "out"),
    Action("ask_label", phrase("Label of the cake (PDF) ..."), "", "out"),
)
TAKES = (
    Takes((".svg",), "follow_drawing", phrase("the way of this stroke")),
    Takes((".jpg", ".jpeg", ".png", ".webp"), "wish_from", phrase("the colours that are wished for")),
)
HELP: tuple[Keys, ...] = (
    Keys("F", phrase("flip the brush")),
    Keys(phrase("Ctrl+arrows, Del"), phrase("on a card of the load: another place, take it out")),
    Keys(
        phrase("double click"),
        phrase("on the strip of the hand page: a pressure key; on a key or a flip: takes it out"),
    ),
)
