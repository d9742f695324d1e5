"""The Chart: what lies on a person."""

from __future__ import annotations

from pennello.ui.station import Keys

HELP: tuple[Keys, ...] = (
    Keys("click", "takes a motif; its handles move, turn and size it; Ctrl and the wheel zoom"),
    Keys("Ctrl, up or down", "in the list of parts: paints a part or a piece earlier or later"),
    Keys("Motifs ...", "shows all as they are laid"),
    Keys("Over it", "draws lines: a pull is a line, a tap is a dot, Esc ends"),
)
