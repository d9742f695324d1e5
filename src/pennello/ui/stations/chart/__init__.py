"""The Chart: what lies on a person."""

from __future__ import annotations

from pennello.phrases import phrase
from pennello.ui.station import Action, Keys, Takes

ACTIONS = (
    Action("ask_photo", phrase("A photo for the chart ..."), "", "out"),
    Action("ask_painted", phrase("The painted chart (PNG, JPEG) ..."), "", "out"),
    Action("draw_again", phrase("Draw the chart again"), "", "out"),
)
TAKES = (
    Takes((".pennello-motif",), "take_motif", phrase("a motif on this chart")),
    Takes((".svg",), "take_lines", phrase("lines on this chart")),
    Takes((".jpg", ".jpeg", ".png", ".webp"), "show_photo", phrase("a photo for this chart")),
)
HELP: tuple[Keys, ...] = (
    Keys(phrase("click"), phrase("takes a motif; its handles move, turn and size it")),
    Keys(
        phrase("Ctrl and the wheel"),
        phrase("go nearer about the pointer; middle button leads; by keys: Ctrl with +, -, 0, arrows"),
    ),
    Keys(phrase("Ctrl, up or down"), phrase("in the list of parts: paints a part or a piece earlier or later")),
    Keys(phrase("Motifs ..."), phrase("shows all as they are laid")),
    Keys(phrase("Over it"), phrase("draws lines: a pull is a line, a tap is a dot, Esc ends")),
)
