"""Puts a palette and the typeface on the application."""

from __future__ import annotations

from importlib.resources import as_file, files
from string import Template

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication, QWidget

from pennello.ui.theme.icons import icon_file
from pennello.ui.theme.text import BODY_PT, HEADLINE_PT, NOTE_PT, STATION_PT, px, type_px
from pennello.ui.theme.tokens import LAMP, LINEN, MORE, Tokens, wear

FAMILY = "Source Sans Pro"


def add_typeface() -> None:
    """Make the shipped typeface known to Qt."""
    for name in ("SourceSansPro-Regular", "SourceSansPro-Semibold"):
        with as_file(files("pennello.files") / "fonts" / f"{name}.ttf") as path:
            QFontDatabase.addApplicationFont(str(path))


def body_font() -> QFont:
    """Return the body font: figures of one width, so that numbers do not jump."""
    font = QFont(FAMILY)
    font.setPixelSize(type_px(BODY_PT))
    font.setFeature(QFont.Tag("tnum"), 1)
    return font


def light_of(app: QApplication, name: str) -> str:
    """Return which palette a choice stands for: itself, or with "" what the desktop has, dark or not."""
    dark = app.styleHints().colorScheme() is Qt.ColorScheme.Dark
    return name if name in (LINEN.name, LAMP.name) else LAMP.name if dark else LINEN.name


def apply_theme(app: QApplication, name: str, *, more: bool = False) -> str:
    """Put a palette, "linen", "lamp" or "" as the desktop has it, on the application; return the sheet for its parts.

    The sheet lies on parts, not on the application. There it would be worked out for all stations at once, seen or
    not; and again for all that is in a station with every layout that it is put into while the station is made.

    Parameters
    ----------
    more
        With more contrast.
    """
    light = light_of(app, name)
    tokens = wear(MORE[light] if more else light)
    sheet = Template((files("pennello.ui.theme") / "sheet.qss").read_text("utf-8")).substitute(
        {field: getattr(tokens, field) for field in Tokens.__slots__},
        body=type_px(BODY_PT),
        note=type_px(NOTE_PT),
        station=type_px(STATION_PT),
        headline=type_px(HEADLINE_PT),
        field=px(20),
        line_high=px(24),
        tick=px(14),
        drop=px(14),
        arrows=px(10),
        arrow=_image(icon_file("down", tokens.ink_2)),
        check=_image(icon_file("check", tokens.on_accent)),
    )
    app.setFont(body_font())
    app.setPalette(_palette(tokens))
    return sheet


def _image(path: str) -> str:
    """Return a file as sheets name it, whatever signs its folders have; "" is none."""
    escaped = path.replace("\\", "\\\\").replace('"', '\\"')
    return f'url("{escaped}")' if path else "none"


def dress(part: QWidget, sheet: str) -> None:
    """Put a sheet on a part of a window, if it does not wear it."""
    worn = part.styleSheet()
    if worn == sheet:
        return
    if worn:
        part.setStyleSheet("")  # over another sheet every part of it would be styled many times
    part.setStyleSheet(sheet)


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
