"""The Chart: what lies on a person."""

from __future__ import annotations

from pennello.ui.station import Action, Keys

ACTIONS = (
    Action("ask_photo", "A photo for the chart ...", "", "out"),
    Action("draw_again", "Draw the chart again", "", "out"),
)
HELP: tuple[Keys, ...] = (
    Keys("click", "takes a motif; its handles move, turn and size it"),
    Keys("Ctrl and the wheel", "go nearer about the pointer; middle button leads; by keys: Ctrl with +, -, 0, arrows"),
    Keys("Ctrl, up or down", "in the list of parts: paints a part or a piece earlier or later"),
    Keys("Motifs ...", "shows all as they are laid"),
    Keys("Over it", "draws lines: a pull is a line, a tap is a dot, Esc ends"),
)
