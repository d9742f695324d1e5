"""Below the chart: the motifs to pick up, as pictures of their own strokes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QImage, QPainter, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QToolButton, QWidget

from pennello.kit import catalogue
from pennello.lay.stroke import NibMode, Stroke, rim_line
from pennello.motif.catalogue import MOTIFS
from pennello.motif.motif import Made, Motif
from pennello.path.cubic import position
from pennello.phrases import phrase
from pennello.session.motif_library import Kept
from pennello.ui.gallery import Gallery, tile
from pennello.ui.theme.text import NOTE_PT, px, type_px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.bit_by_bit import BitByBit
from pennello.ui.widgets.painting import painting
from pennello.ui.widgets.plain import tip
from pennello.ui.widgets.qt_surface import outline_of
from pennello.ui.widgets.true_icon import true_icon

_ICON = QSize(58, 46)


def motif_icon(motif: Motif, size: QSize = _ICON, values: Mapping[str, float] | None = None) -> QIcon:
    """Return a motif's strokes as a small picture."""
    made = motif.made(values or {})
    widths = {part.key: catalogue.brushes()[part.tool].width_mm for part in motif.parts}
    rims = [_rim(piece.stroke, widths[piece.part]) for piece in made.pieces]
    points = np.concatenate(
        [rim if len(rim) else np.array(p.stroke.path.points_mm) for rim, p in zip(rims, made.pieces, strict=True)]
    )
    low, high = points.min(axis=0) - 4, points.max(axis=0) + 4
    scale = min(size.width() / (high[0] - low[0]), size.height() / (high[1] - low[1]))
    pixmap = QPixmap(size * 2)
    pixmap.setDevicePixelRatio(2.0)
    pixmap.fill(Qt.GlobalColor.transparent)
    with painting(pixmap) as painter:
        _draw_ways(painter, made, rims, (low + high) / 2, scale, size)
    return true_icon(pixmap)


def _rim(stroke: Stroke, width_mm: float) -> NDArray[np.floating[Any]]:
    """Return the outline that a chisel swung round its heel leaves, mm; empty for any other stroke."""
    if stroke.nib.mode is not NibMode.PIVOTING or stroke.nib.pivot_u < 1:
        return np.empty((0, 2))
    ends = position(stroke.path, np.array([0.0, stroke.path.curves]))
    return np.concatenate([ends[:1], rim_line(stroke, width_mm), ends[1:]])


def _draw_ways(
    painter: QPainter,
    made: Made,
    rims: Sequence[NDArray[np.floating[Any]]],
    middle: NDArray[np.floating[Any]],
    scale: float,
    size: QSize,
) -> None:
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(size.width() / 2, size.height() / 2)
    painter.scale(scale, scale)
    painter.translate(-float(middle[0]), -float(middle[1]))
    pen = QPen(QColor(theme().ink_2), 2.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap)
    pen.setCosmetic(True)
    painter.setPen(pen)
    for piece, rim in zip(made.pieces, rims, strict=True):
        if len(rim):
            painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in rim.tolist()]))
            continue
        painter.drawPath(outline_of(piece.stroke.path))
        (x, y), *rest = piece.stroke.path.points_mm
        if max(abs(a - x) + abs(b - y) for a, b in rest) < 0.5:  # a dot has no way to draw
            radius = max(piece.stroke.pressure * 4 / scale, 0.5)
            painter.drawEllipse(QPointF(x, y), radius, radius)


def _short(motif: Motif) -> str:
    """Return a name up to its comma, or all of it where another motif is called the same."""
    alike = [one for one in MOTIFS.values() if one.name.split(",")[0] == motif.name.split(",")[0]]
    return motif.name if len(alike) > 1 else motif.name.split(",")[0]


class MotifRow(QWidget):
    """The button of the catalogue, and all motifs in a row as they are laid; a click puts one on the chart.

    Signals
    -------
    picked(str), own_picked(Kept), catalogue_wanted
    """

    picked = Signal(str)
    own_picked = Signal(object)
    catalogue_wanted = Signal()

    def __init__(self, gallery: Gallery) -> None:
        super().__init__()
        self._gallery = gallery
        outer = QHBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(6)
        self.catalogue_button = QPushButton(phrase("Motifs ..."))
        self.catalogue_button.setToolTip(
            phrase("The catalogue: all motifs as they are laid, to be searched and played")
        )
        self.catalogue_button.setProperty("main", True)
        self.catalogue_button.clicked.connect(lambda _=False: self.catalogue_wanted.emit())
        outer.addWidget(self.catalogue_button)
        inner = QWidget()
        row = QHBoxLayout(inner)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        self.buttons: dict[str, QToolButton] = {}
        self.own: dict[str, QToolButton] = {}
        self._row = row
        for key, motif in MOTIFS.items():
            button = self._button(_short(motif), f"{motif.name}: {motif.words}", motif.name)
            button.clicked.connect(lambda _=False, name=key: self.picked.emit(name))
            row.addWidget(button)
            self.buttons[key] = button
        scroll = QScrollArea()
        scroll.setWidget(inner)
        scroll.setWidgetResizable(True)
        scroll.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        outer.addWidget(scroll, 1)
        self.setFixedHeight(_ICON.height() + px(40))
        gallery.found.connect(self._show_picture)
        self._icons = BitByBit(self)
        self.redraw()

    def _button(self, words: str, hint: str, name: str) -> QToolButton:
        button = QToolButton()
        button.setIconSize(_ICON)
        button.setText(words)
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        button.setToolTip(tip(hint))
        button.setAccessibleName(phrase("Put on the chart: {name}", name=name))
        button.setStyleSheet(f"font-size: {type_px(NOTE_PT)}px; padding: 2px 4px;")
        return button

    def show_own(self, motifs: Sequence[Kept]) -> None:
        """Show the painter's own motifs before the others."""
        for button in self.own.values():
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.own = {}
        for number, kept in enumerate(motifs):
            name = kept.own.name
            button = self._button(
                name[:16], phrase("Your own: {name}", name=name), phrase("your own, {name}", name=name)
            )
            button.setIcon(true_icon(tile(QImage.fromData(kept.picture), _ICON)))
            button.clicked.connect(lambda _=False, one=kept: self.own_picked.emit(one))
            self._row.insertWidget(number, button)
            self.own[name] = button

    def redraw(self) -> None:
        """Draw the pictures that are not there yet, in the theme's ink."""
        self._icons.do([partial(self._redraw_one, key) for key in self.buttons])

    def _redraw_one(self, key: str) -> None:
        if key in self._gallery.pictures:
            self._show_picture(key)
        else:
            self.buttons[key].setIcon(motif_icon(MOTIFS[key]))

    def _show_picture(self, key: str) -> None:
        if key in self.buttons:
            self.buttons[key].setIcon(true_icon(self._gallery.pictures[key].tile(_ICON)))
