"""Menus that are made for one time."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu, QToolButton, QWidget


def passing_menu(parent: QWidget) -> QMenu:
    """Return a menu that goes when it closes."""
    menu = QMenu(parent)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    return menu


def empty_menu(menu: QMenu) -> None:
    """Take out all that a menu offers; `clear` alone would leave its own menus behind."""
    inner = [action.menu() for action in menu.actions()]
    menu.clear()
    for one in inner:
        if isinstance(one, QMenu):
            one.deleteLater()


def menu_button(words: str, hint: str) -> QToolButton:
    """Return a button that opens a menu, which is empty yet."""
    button = QToolButton()
    button.setText(words)
    button.setToolTip(hint)
    button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
    button.setMenu(QMenu(button))
    return button
