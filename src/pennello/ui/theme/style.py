"""Puts a palette and the typeface on the application."""

from __future__ import annotations

from importlib.resources import as_file, files
from string import Template

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from pennello.ui.theme.icons import icon_file
from pennello.ui.theme.tokens import LAMP, LINEN, MORE, Tokens, wear

FAMILY = "Source Sans Pro"
BODY_PX = 14
NOTE_PX = 12


def add_typeface() -> None:
    """Make the shipped typeface known to Qt."""
    for name in ("SourceSansPro-Regular", "SourceSansPro-Semibold"):
        with as_file(files("pennello.files") / "fonts" / f"{name}.ttf") as path:
            QFontDatabase.addApplicationFont(str(path))


def body_font() -> QFont:
    """Return the body font: figures of one width, so that numbers do not jump."""
    font = QFont(FAMILY)
    font.setPixelSize(BODY_PX)
    font.setFeature(QFont.Tag("tnum"), 1)
    return font


def light_of(app: QApplication, name: str) -> str:
    """Return which palette a choice stands for: itself, or with "" what the desktop has, dark or not."""
    dark = app.styleHints().colorScheme() is Qt.ColorScheme.Dark
    return name if name in (LINEN.name, LAMP.name) else LAMP.name if dark else LINEN.name


def apply_theme(app: QApplication, name: str, *, more: bool = False) -> Tokens:
    """Put a palette, "linen", "lamp" or "" as the desktop has it, on the application and return it.

    Parameters
    ----------
    more
        With more contrast.
    """
    light = light_of(app, name)
    tokens = wear(MORE[light] if more else light)
    sheet = Template((files("pennello.ui.theme") / "sheet.qss").read_text("utf-8")).substitute(
        {field: getattr(tokens, field) for field in Tokens.__slots__},
        body=BODY_PX,
        note=NOTE_PX,
        arrow=icon_file("down", tokens.ink_2),
        check=icon_file("check", tokens.on_accent),
    )
    if app.styleSheet() == sheet:
        return tokens  # worn already: styling every widget again takes a quarter of a second
    app.setStyleSheet("")  # over another sheet every part would be styled many times: a second instead of a tenth
    app.setFont(body_font())
    app.setPalette(_palette(tokens))
    app.setStyleSheet(sheet)
    return tokens


def _palette(tokens: Tokens) -> QPalette:
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: tokens.table,
        QPalette.ColorRole.Base: tokens.well,
        QPalette.ColorRole.AlternateBase: tokens.mat,
        QPalette.ColorRole.Button: tokens.table,
        QPalette.ColorRole.Text: tokens.ink,
        QPalette.ColorRole.WindowText: tokens.ink,
        QPalette.ColorRole.ButtonText: tokens.ink,
        QPalette.ColorRole.ToolTipBase: tokens.mat,
        QPalette.ColorRole.ToolTipText: tokens.ink,
        QPalette.ColorRole.PlaceholderText: tokens.ink_2,
        QPalette.ColorRole.Highlight: tokens.accent,
        QPalette.ColorRole.HighlightedText: tokens.on_accent,
    }
    for role, colour in roles.items():
        palette.setColor(role, QColor(colour))
    return palette
