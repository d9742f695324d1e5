"""Menus that are made for one time."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu, QWidget


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
