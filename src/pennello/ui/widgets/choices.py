"""The foot of a page: leave it, or take what was found."""

from __future__ import annotations

from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton

from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.plain import Label


class LeaveOrTake(QHBoxLayout):
    """A swatch of the colour found, if there is one, and two buttons that end the page."""

    def __init__(self, page: QDialog, words: str) -> None:
        super().__init__()
        self.colour = Label("")
        self.colour.setFixedSize(px(90), px(28))
        self.colour.setAccessibleName(phrase("The colour found"))
        self.colour.hide()
        leave, self.take = QPushButton(phrase("Leave it")), QPushButton(words)
        leave.setProperty("chip", True)
        self.take.setProperty("main", True)
        leave.clicked.connect(page.reject)
        self.take.clicked.connect(page.accept)
        self.addWidget(self.colour)
        self.addStretch(1)
        self.addWidget(leave)
        self.addWidget(self.take)

    def show_colour(self, code: str) -> None:
        """Show a colour, "#rrggbb"."""
        self.colour.setStyleSheet(f"background: {code}; border: 1px solid {theme().line};")
        self.colour.show()
