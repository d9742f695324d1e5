"""Puts a palette and the typeface on the application."""

from __future__ import annotations

from importlib.resources import as_file, files
from string import Template

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from pennello.ui.theme.icons import icon_file
from pennello.ui.theme.tokens import LINEN, THEMES, Tokens, wear

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


def apply_theme(app: QApplication, name: str) -> Tokens:
    """Put a palette, "linen" or "lamp", on the application and return it."""
    tokens = wear(name if name in THEMES else LINEN.name)
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
