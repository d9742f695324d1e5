"""One sentence across the top with what can be done about it; nothing stops while it is there."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QProgressBar, QPushButton, QWidget

from pennello.errors import clipped
from pennello.phrases import phrase
from pennello.ui.widgets.announcing import announce
from pennello.ui.widgets.plain import Label

MOST_SIGNS = 900


class Banner(QFrame):
    """Hidden until there is something to say."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("banner")
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(12, 6, 8, 6)
        self.words = Label("")
        self.words.setTextFormat(Qt.TextFormat.PlainText)
        self.words.setWordWrap(True)
        self._row.addWidget(self.words, 1)
        self.bar = QProgressBar()
        self.bar.setFixedSize(160, 6)
        self.bar.setTextVisible(False)
        self.bar.setRange(0, 1000)
        self.bar.setAccessibleName(phrase("How far it is"))
        self._row.addWidget(self.bar)
        self.bar.hide()
        self.buttons: list[QPushButton] = []
        self.hide()

    def say(self, sentence: str, *actions: tuple[str, Callable[[], object]]) -> None:
        """Show a sentence with buttons; the last one is always there and only closes."""
        self._show(sentence, (*actions, (phrase("Close") if not actions else phrase("Not now"), lambda: None)))

    def say_working(self, sentence: str, stop: Callable[[], object]) -> None:
        """Show what goes on in the background, how far it is, and a button that stops it."""
        self._show(sentence, ((phrase("Stop"), stop),))
        self.bar.setValue(0)
        self.bar.show()

    def show_part(self, part: float) -> None:
        """Show how far the work is, 0 to 1."""
        self.bar.setValue(round(1000 * min(max(part, 0.0), 1.0)))

    def _show(self, sentence: str, actions: tuple[tuple[str, Callable[[], object]], ...]) -> None:
        for button in self.buttons:
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.buttons = []
        self.bar.hide()
        words = clipped(sentence, MOST_SIGNS)
        self.words.setText(words)
        self.setAccessibleName(words)
        for label, act in actions:
            button = QPushButton(label)
            button.setProperty("chip", True)
            button.clicked.connect(self.hide)
            button.clicked.connect(lambda _=False, do=act: do())
            self._row.addWidget(button)
            self.buttons.append(button)
        self.show()
        announce(self, words)
