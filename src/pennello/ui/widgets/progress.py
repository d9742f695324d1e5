"""What stands at the foot of a page with work behind it: a thin bar, and a row that ends in Close."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QWidget

from pennello.phrases import phrase

GRAIN = 1000
"""Into so many parts the way of a bar is cut."""


class ThinBar(QProgressBar):
    """How far work is, without words."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(4)
        self.setTextVisible(False)
        self.setRange(0, GRAIN)

    def show_part(self, part: float, _: str = "") -> None:
        """Show how far it is, 0 to 1."""
        self.setValue(round(GRAIN * part))


def foot_row(page: QWidget, *buttons: QPushButton) -> QHBoxLayout:
    """Return a row with Close, which closes the page, and then these buttons."""
    foot = QHBoxLayout()
    foot.addStretch(1)
    close = QPushButton(phrase("Close"))
    close.setProperty("chip", True)
    close.clicked.connect(page.close)
    for button in (close, *buttons):
        foot.addWidget(button)
    return foot
