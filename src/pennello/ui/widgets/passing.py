"""Pages and widgets that go, with all that they hold.

Whoever made one may still name it, and what it holds often knows it: Qt deletes what is Qt's, and what is Python's
would stay as long as the name, or until a collector comes by.
"""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QWidget


def goes_when_closed(page: QDialog) -> None:
    """Have a page deleted as it is closed, and let go of its pictures, films and plans then."""
    page.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    _lets_go(page)


def throw_away(widget: QWidget) -> None:
    """Have a widget deleted as soon as nobody is within it, and let go of all that it holds then."""
    _lets_go(widget)
    widget.deleteLater()


def taken(page: QDialog) -> bool:
    """Show a page until it is answered, and throw it away; return whether its answer is taken.

    It can be read until the window has its next turn.
    """
    accepted = page.exec() == QDialog.DialogCode.Accepted
    throw_away(page)
    return bool(accepted)


def _lets_go(widget: QWidget) -> None:
    held = vars(widget)

    def let_go() -> None:
        held.clear()

    widget.destroyed.connect(let_go)
