"""Own glyphs, drawn on a 24 px grid as SVG in one ink."""

from __future__ import annotations

import tempfile
from functools import cache
from importlib.resources import files
from pathlib import Path

from PySide6.QtCore import QByteArray, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QIcon, QIconEngine, QPainter, QPixmap
from PySide6.QtSvg import QSvgRenderer

from pennello.ui.theme import tokens as _tokens


@cache
def _renderer(name: str, colour: str) -> QSvgRenderer:
    text = (files("pennello.ui.theme") / "icons" / f"{name}.svg").read_text("utf-8")
    return QSvgRenderer(QByteArray(text.replace("currentColor", colour).encode()))


@cache
def icon_file(name: str, colour: str) -> str:
    """Return a file with a glyph in a colour, for style sheets, which know no other way."""
    text = (files("pennello.ui.theme") / "icons" / f"{name}.svg").read_text("utf-8")
    folder = Path(tempfile.gettempdir()) / f"pennello-icons-{_user()}"
    folder.mkdir(mode=0o700, exist_ok=True)
    path = folder / f"{name}-{colour.lstrip('#')}.svg"
    path.write_text(text.replace("currentColor", colour), "utf-8")
    return path.as_posix()


def _user() -> str:
    import os  # noqa: PLC0415

    return str(os.getuid()) if hasattr(os, "getuid") else "user"


def draw_icon(painter: QPainter, name: str, rect: QRectF, colour: str) -> None:
    """Draw a glyph into a rectangle, sharp at any scale."""
    _renderer(name, colour).render(painter, rect)


class _GlyphEngine(QIconEngine):
    """Draws the glyph in the ink of the palette in use, whichever that is then."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self._name = name

    def paint(self, painter: QPainter, rect: QRect, mode: QIcon.Mode, state: QIcon.State) -> None:
        from pennello.ui.theme.style import theme  # noqa: PLC0415 - style needs icons for its sheet

        inks: _tokens.Tokens = theme()
        colour = inks.line if mode == QIcon.Mode.Disabled else inks.ink
        draw_icon(painter, self._name, QRectF(rect), colour)

    def pixmap(self, size: QSize, mode: QIcon.Mode, state: QIcon.State) -> QPixmap:
        pixmap = QPixmap(size)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        self.paint(painter, pixmap.rect(), mode, state)
        painter.end()
        return pixmap

    def clone(self) -> QIconEngine:
        return _GlyphEngine(self._name)


def icon(name: str) -> QIcon:
    """Return a glyph as an icon that follows the theme."""
    return QIcon(_GlyphEngine(name))
