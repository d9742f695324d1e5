"""The Chart: what lies on a person."""

from __future__ import annotations

from pennello.ui.station import Action, Keys, Takes

ACTIONS = (
    Action("ask_photo", "A photo for the chart ...", "", "out"),
    Action("ask_painted", "The painted chart (PNG, JPEG) ...", "", "out"),
    Action("draw_again", "Draw the chart again", "", "out"),
)
TAKES = (
    Takes((".pennello-motif",), "take_motif", "a motif on this chart"),
    Takes((".svg",), "take_lines", "lines on this chart"),
    Takes((".jpg", ".jpeg", ".png", ".webp"), "show_photo", "a photo for this chart"),
)
HELP: tuple[Keys, ...] = (
    Keys("click", "takes a motif; its handles move, turn and size it"),
    Keys("Ctrl and the wheel", "go nearer about the pointer; middle button leads; by keys: Ctrl with +, -, 0, arrows"),
    Keys("Ctrl, up or down", "in the list of parts: paints a part or a piece earlier or later"),
    Keys("Motifs ...", "shows all as they are laid"),
    Keys("Over it", "draws lines: a pull is a line, a tap is a dot, Esc ends"),
)
