"""Puts a palette and the typeface on the application."""

from __future__ import annotations

from importlib.resources import as_file, files
from string import Template

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

from pennello.ui.theme.icons import icon_file
from pennello.ui.theme.tokens import LINEN, THEMES, Tokens

FAMILY = "Source Sans Pro"
BODY_PX = 14
NOTE_PX = 12

_current = [LINEN]

_SHEET = Template("""
QWidget { color: $ink; font-size: ${body}px; } QMainWindow, QDialog, #table { background: $table; } #mat {
background: $mat; border: 1px solid $line; border-radius: 6px; } #station { font-size: 17px; font-weight: 600; }
#note, QLabel[note="true"] { color: $ink_2; font-size: ${note}px; } #headline { font-size: 20px; font-weight:
600; } QToolTip { background: $mat; color: $ink; border: 1px solid $line; padding: 3px 6px; } QPushButton,
QToolButton { background: transparent; border: 1px solid transparent; border-radius: 6px; padding: 4px 8px; }
QPushButton:hover, QToolButton:hover { border-color: $line; } QPushButton:focus, QToolButton:focus {
border-color: $accent; } QPushButton:pressed, QToolButton:pressed { background: $line; } QPushButton:disabled,
QToolButton:disabled { color: $line; } QToolButton:checked { background: $well; border-color: $ink_2; }
QToolButton::menu-indicator { image: none; } QPushButton[chip="true"] {
background: $well; border: 1px solid $line; padding: 5px 10px; text-align: left; }
QPushButton[chip="true"]:hover, QPushButton[chip="true"]:focus { border-color: $accent; }
QPushButton[main="true"] { background: $accent; color: $on_accent; font-weight: 600; padding: 6px 14px; }
QPushButton[main="true"]:focus { border: 2px solid $ink; }
QPushButton[main="true"]:disabled { background: $line; color: $ink_2; } QToolButton[segment="true"] { padding: 3px 8px;
color: $ink_2; border: 1px solid $line; border-radius: 4px; } QToolButton[segment="true"]:checked { background:
$mat; color: $ink; border-color: $ink_2; font-weight: 600; } QLineEdit, QAbstractSpinBox, QComboBox {
  background: transparent; border: 1px solid transparent; border-bottom: 1px solid $line; border-radius: 0;
  padding: 2px 4px; min-height: 20px; selection-background-color: $accent; selection-color: $on_accent; }
QLineEdit:hover, QAbstractSpinBox:hover, QComboBox:hover { background: $well; } QLineEdit:focus,
QAbstractSpinBox:focus, QComboBox:focus { background: $well; border: 1px solid $accent; border-radius: 4px; }
QAbstractSpinBox QLineEdit, QAbstractSpinBox QLineEdit:focus, QAbstractSpinBox QLineEdit:hover {
  border: none; padding: 0; min-height: 0; background: transparent; }
QComboBox::drop-down { border: none; width: 14px; }
QComboBox::down-arrow { image: url($arrow); width: 10px; height: 10px; }
QComboBox QAbstractItemView, QMenu, QListView { background: $mat; color: $ink; border: 1px solid $line;
  selection-background-color: $accent; selection-color: $on_accent; outline: none; }
QCheckBox::indicator { width: 14px; height: 14px; border: 1px solid $ink_2; border-radius: 3px; background: $well; }
QCheckBox::indicator:checked { background: $accent; border-color: $accent; image: url($check); }
QCheckBox:focus { color: $accent; }
QMenu { padding: 4px; } QMenu::item { padding: 5px 26px 5px 14px; border-radius: 4px; } QMenu::item:selected {
background: $accent; color: $on_accent; } QMenu::item:disabled { color: $ink_2; } QMenu::separator { height:
1px; background: $line; margin: 4px 8px; } QScrollArea, QScrollArea > QWidget > QWidget { background:
transparent; border: none; } QScrollBar:horizontal { height: 8px; background: transparent; } QScrollBar:vertical
{ width: 8px; background: transparent; } QScrollBar::handle { background: $line; border-radius: 4px; min-width:
24px; min-height: 24px; } QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; } #banner {
background: $mat; border: 1px solid $close; border-radius: 6px; }
""")


def theme() -> Tokens:
    """Return the palette in use."""
    return _current[0]


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
    tokens = THEMES.get(name, LINEN)
    _current[0] = tokens
    sheet = _SHEET.substitute(
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
