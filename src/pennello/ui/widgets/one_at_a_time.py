"""Pages in one place, as large as the one that is shown."""

from __future__ import annotations

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QStackedWidget


class OneAtATime(QStackedWidget):
    """Pages of which the one that is shown says how much room there has to be, and no other one."""

    def __init__(self) -> None:
        super().__init__()
        self.currentChanged.connect(lambda _: self.updateGeometry())

    def minimumSizeHint(self) -> QSize:
        """Return what the page that is shown needs."""
        page = self.currentWidget()
        return page.minimumSizeHint() if page is not None else QSize()

    def heightForWidth(self, width: int) -> int:
        """Return the same for a width: the tallest of all pages would ask for more."""
        return self.minimumSizeHint().height()
