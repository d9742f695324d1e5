"""What an Order without steps shows: how it will look, and the two ways to something that can be painted."""

from __future__ import annotations

from importlib.resources import files

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from pennello.phrases import phrase
from pennello.ui.widgets.plain import Label

_WIDE = 460
WAYS = (("chart", phrase("Put a motif on the Chart")), ("bench", phrase("Make a stroke on the Bench")))


class EmptyOrder(QWidget):
    """A picture, a sentence, two buttons.

    Signals
    -------
    wanted(str)
        The station that leads on.
    """

    wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        picture = QLabel()
        picture.setAccessibleName(phrase("An order: steps on a clock, and what dries below"))
        pixmap = QPixmap()
        pixmap.loadFromData((files("pennello.ui") / "help_pages" / "order.png").read_bytes())
        picture.setPixmap(pixmap.scaledToWidth(_WIDE, Qt.TransformationMode.SmoothTransformation))
        picture.setEnabled(False)
        words = Label(
            phrase("Nothing to paint yet. Here stands what the hand does when, once there is something to paint.")
        )
        words.setWordWrap(True)
        words.setAlignment(Qt.AlignmentFlag.AlignCenter)
        row = QHBoxLayout()
        row.addStretch(1)
        self.buttons: dict[str, QPushButton] = {}
        for key, title in WAYS:
            button = QPushButton(title)
            button.setProperty("main" if key == WAYS[0][0] else "chip", True)
            button.clicked.connect(lambda _=False, to=key: self.wanted.emit(to))
            self.buttons[key] = button
            row.addWidget(button)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.addStretch(1)
        column.addWidget(picture, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addSpacing(10)
        column.addWidget(words)
        column.addLayout(row)
        column.addStretch(2)
