"""One sentence across the top with what can be done about it; nothing stops while it is there."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QWidget


class Banner(QFrame):
    """Hidden until there is something to say."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("banner")
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(12, 6, 8, 6)
        self.words = QLabel("")
        self.words.setWordWrap(True)
        self._row.addWidget(self.words, 1)
        self.buttons: list[QPushButton] = []
        self.hide()

    def say(self, sentence: str, *actions: tuple[str, Callable[[], None]]) -> None:
        """Show a sentence with buttons; the last one is always there and only closes."""
        for button in self.buttons:
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.buttons = []
        self.words.setText(sentence)
        self.setAccessibleName(sentence)
        for words, act in (*actions, ("Close" if not actions else "Not now", lambda: None)):
            button = QPushButton(words)
            button.setProperty("chip", True)
            button.clicked.connect(self.hide)
            button.clicked.connect(lambda _=False, do=act: do())
            self._row.addWidget(button)
            self.buttons.append(button)
        self.show()
