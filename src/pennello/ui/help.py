"""Keys and handles on one page."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape
from importlib.resources import files

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QLabel, QScrollArea, QVBoxLayout, QWidget

from pennello.ui.station import Action, Keys
from pennello.ui.stations.registry import STATIONS

_HERE = "<!-- keys -->"
_EVERYWHERE = (
    Keys("Tab", "from handle to handle and field to field"),
    Keys("arrows", "step the handle; with Shift fine, with Ctrl coarse"),
    Keys("Enter", "type the handle's number; flips on the flip grip"),
)


def help_words(actions: Sequence[Action]) -> str:
    """Return the page: words from its file, keys and gestures from those who take them."""
    with_keys = [Keys(one.keys, one.title.removesuffix(" ...")) for one in actions if one.keys]
    parts = ["<h3>Keys</h3>", _table([*_EVERYWHERE, *with_keys])]
    for one in STATIONS:
        own = [Keys(action.keys, action.title.removesuffix(" ...")) for action in one.actions if action.keys]
        parts += [f"<h3>{one.title} ({one.keys})</h3>", _table([*own, *one.help])]
    words = (files("pennello.ui") / "help_words.html").read_text("utf-8")
    return words.replace(_HERE, "\n".join(parts))


def _table(rows: Sequence[Keys]) -> str:
    cells = (f"<tr><td><b>{escape(one.keys)}</b></td><td>{escape(one.words)}</td></tr>" for one in rows)
    return f'<table cellpadding="3">{"".join(cells)}</table>'


class HelpPage(QDialog):
    """A quiet page that stays beside the work."""

    def __init__(self, parent: QWidget, actions: Sequence[Action] = ()) -> None:
        super().__init__(parent)
        self.setWindowTitle("Keys and handles")
        words = QLabel(help_words(actions))
        words.setWordWrap(True)
        words.setTextFormat(Qt.TextFormat.RichText)
        words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        words.setContentsMargins(20, 12, 20, 16)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(words)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(scroll)
        self.resize(600, 620)
