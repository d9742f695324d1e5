"""Menus that are made for one time."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu, QWidget


def passing_menu(parent: QWidget) -> QMenu:
    """Return a menu that goes when it closes."""
    menu = QMenu(parent)
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    return menu
