"""The Tray: paints, cakes, brushes and sponges of the kit."""

from __future__ import annotations

from pennello.phrases import phrase
from pennello.ui.station import Action, Keys, Takes

ACTIONS = (Action("show_guide", phrase("Enter my kit ..."), "", "out"),)
TAKES = (Takes((".csv", ".gpl"), "take_in", phrase("things for the kit")),)
HELP: tuple[Keys, ...] = (
    Keys(
        phrase("search"), phrase("words, a label (eye:yes, lips:no), or white + red for cakes with both side by side")
    ),
    Keys("Ctrl+Z", phrase("takes back the last step of the kit, not of the plan")),
)
