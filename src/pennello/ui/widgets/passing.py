"""Pages that go when they are closed, with all that they hold."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog


def goes_when_closed(page: QDialog) -> None:
    """Have a page deleted as it is closed, and let go of its pictures, films and plans then.

    Whoever opened it may still name it: Qt deletes what is Qt's, and what is Python's would stay as long as the name.
    """
    page.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    held = vars(page)

    def let_go() -> None:
        held.clear()

    page.destroyed.connect(let_go)
