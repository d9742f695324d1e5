"""Own glyphs, drawn on a 24 px grid as SVG in one ink."""

from __future__ import annotations

from functools import cache
from importlib.resources import files
from pathlib import Path

import platformdirs
from PySide6.QtCore import QByteArray, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QIcon, QIconEngine, QPainter, QPixmap
from PySide6.QtSvg import QSvgRenderer
from PySide6.QtWidgets import QAbstractButton

from pennello.disk import PRIVATE, make_private_folder, write_bytes
from pennello.errors import FileProblemError
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.painting import painting

GLYPH_PX = 16
"""How large a glyph on a button is where words are of the usual size, px."""


@cache
def _renderer(name: str, colour: str) -> QSvgRenderer:
    text = (files("pennello.ui.theme") / "icons" / f"{name}.svg").read_text("utf-8")
    return QSvgRenderer(QByteArray(text.replace("currentColor", colour).encode()))


@cache
def icon_file(name: str, colour: str) -> str:
    """Return a file with a glyph in a colour, for style sheets, which know no other way; "" where none can be made.

    It lies in the user's own cache folder, and is never written through a link.
    """
    text = (files("pennello.ui.theme") / "icons" / f"{name}.svg").read_text("utf-8")
    folder = Path(platformdirs.user_cache_path("pennello")) / "icons"
    path = folder / f"{name}-{colour.lstrip('#')}.svg"
    data = text.replace("currentColor", colour).encode()
    try:
        make_private_folder(folder)
        if path.is_symlink() or not path.is_file() or path.read_bytes() != data:
            write_bytes(data, path, mode=PRIVATE, follow=False)
    except (OSError, FileProblemError):
        return ""
    return path.as_posix()


def draw_icon(painter: QPainter, name: str, rect: QRectF, colour: str) -> None:
    """Draw a glyph into a rectangle, sharp at any scale."""
    _renderer(name, colour).render(painter, rect)


class _GlyphEngine(QIconEngine):
    """Draws the glyph in the ink of the palette in use, whichever that is then."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self._name = name

    def paint(self, painter: QPainter, rect: QRect, mode: QIcon.Mode, state: QIcon.State) -> None:
        inks = theme()
        colour = inks.line if mode == QIcon.Mode.Disabled else inks.ink
        draw_icon(painter, self._name, QRectF(rect), colour)

    def pixmap(self, size: QSize, mode: QIcon.Mode, state: QIcon.State) -> QPixmap:
        pixmap = QPixmap(size)
        if size.isEmpty():
            return pixmap  # nothing to paint on
        pixmap.fill(Qt.GlobalColor.transparent)
        with painting(pixmap) as painter:
            self.paint(painter, pixmap.rect(), mode, state)
        return pixmap

    def clone(self) -> QIconEngine:
        return _GlyphEngine(self._name)


def icon(name: str) -> QIcon:
    """Return a glyph as an icon that follows the theme."""
    return QIcon(_GlyphEngine(name))


def set_glyph(button: QAbstractButton, name: str) -> None:
    """Put a glyph on a button, as large as words are."""
    button.setIcon(icon(name))
    button.setIconSize(QSize(px(GLYPH_PX), px(GLYPH_PX)))


def app_picture(size: int) -> QPixmap:
    """Return the picture of the application, so many px wide and high."""
    pixmap = QPixmap(size, size)
    pixmap.fill(Qt.GlobalColor.transparent)
    drawn = QSvgRenderer(QByteArray((files("pennello.ui.theme") / "pennello.svg").read_bytes()))
    with painting(pixmap) as painter:
        drawn.render(painter, QRectF(0, 0, size, size))
    return pixmap


def app_icon() -> QIcon:
    """Return the picture of the application, for its windows."""
    found = QIcon()
    for size in (16, 32, 64, 256):
        found.addPixmap(app_picture(size))
    return found
