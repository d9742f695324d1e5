"""Below the chart: the motifs to pick up, as pictures of their own strokes, and the beads of the painting order."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QToolButton, QWidget

from pennello.kit import catalogue
from pennello.lay.stroke import NibMode, Stroke, rim_line
from pennello.motif.catalogue import MOTIFS
from pennello.motif.motif import Made, Motif
from pennello.path.cubic import position
from pennello.phrases import phrase
from pennello.session.motif_library import Kept
from pennello.ui.gallery import Gallery, tile
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.announcing import announce
from pennello.ui.widgets.bit_by_bit import BitByBit
from pennello.ui.widgets.paint import draw_note
from pennello.ui.widgets.painting import painted, painting
from pennello.ui.widgets.plain import tip
from pennello.ui.widgets.qt_surface import outline_of

_ICON = QSize(58, 46)
_BEAD_PX, _STEP_PX = 22, 30


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
    return QIcon(pixmap)


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
        self.setFixedHeight(86)
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
        button.setStyleSheet("font-size: 12px; padding: 2px 4px;")
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
            button.setIcon(QIcon(tile(QImage.fromData(kept.picture), _ICON)))
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
            self.buttons[key].setIcon(QIcon(self._gallery.pictures[key].tile(_ICON)))


class Beads(QWidget):
    """The painting order as beads on a string; a bead is dragged to another place.

    Signals
    -------
    chosen(str), moved(str, int)
        A motif, and its new number on this chart.
    """

    chosen = Signal(str)
    moved = Signal(str, int)

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self._words = phrase("painting order")
        self._held: tuple[str, float] | None = None
        self._x = 0.0
        self.setFixedHeight(30)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(phrase("Order of painting: arrows choose, Ctrl and arrows move"))
        self.setToolTip(phrase("The order of painting: drag a bead to another place"))
        self._drawn: object = None
        model.shown.connect(self._follow)

    def _follow(self) -> None:
        """Draw the beads anew where they are others: not for each step of a drag."""
        beads = ([one.id for one in self._model.motifs], self._model.chosen_id)
        if beads != self._drawn:
            self._drawn = beads
            self._tell_chosen()
            self.update()

    def _tell_chosen(self) -> None:
        """Have the bead that is chosen said, with its place in the order."""
        motifs = self._model.motifs
        here = next((number for number, one in enumerate(motifs, 1) if one.id == self._model.chosen_id), 0)
        words = (
            phrase("{here} of {count}: {motifs}", here=here, count=len(motifs), motifs=motifs[here - 1].name)
            if here
            else ""
        )
        self.setAccessibleDescription(words)
        if self.hasFocus():
            announce(self, words)

    def place_of(self, number: int) -> QPointF:
        """Return where a bead lies."""
        return QPointF(self._first_px + number * _STEP_PX, self.height() / 2)

    @property
    def _first_px(self) -> float:
        """Where the first bead lies: behind the words."""
        return max(96.0, self.fontMetrics().horizontalAdvance(self._words) + 14.0)

    def _at(self, x: float) -> int:
        return round((x - self._first_px) / _STEP_PX)

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the string and its beads."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        inks, motifs = theme(), self._model.motifs
        align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        draw_note(painter, QRectF(2, 0, self._first_px - 6, self.height()), self._words, align)
        if not motifs:
            return
        painter.setPen(QPen(QColor(inks.line), 2))
        painter.drawLine(self.place_of(0), self.place_of(len(motifs) - 1))
        chosen = self._model.chosen
        for number, one in enumerate(motifs):
            at = self.place_of(number)
            if self._held is not None and self._held[0] == one.id:
                at.setX(self._x)
            here = chosen is not None and chosen.id == one.id
            painter.setPen(QPen(QColor(inks.accent if here else inks.ink_2), 2 if here else 1))
            painter.setBrush(QColor(inks.mat))
            painter.drawEllipse(at, _BEAD_PX / 2, _BEAD_PX / 2)
            draw_note(painter, QRectF(at.x() - 11, at.y() - 11, 22, 22), str(number + 1))
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(inks.accent), 1.4, Qt.PenStyle.DashLine))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a bead."""
        motifs, number = self._model.motifs, self._at(event.position().x())
        if 0 <= number < len(motifs):
            self._held, self._x = (motifs[number].id, event.position().x()), event.position().x()
            self.chosen.emit(motifs[number].id)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move it along the string."""
        if self._held is not None:
            self._x = event.position().x()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go of it."""
        if self._held is not None:
            name, start = self._held
            self._held = None
            if abs(event.position().x() - start) > _STEP_PX / 2:
                self.moved.emit(name, min(max(self._at(event.position().x()), 0), len(self._model.motifs) - 1))
            self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose with arrows, move with Ctrl."""
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()), 0)
        motifs, chosen = self._model.motifs, self._model.chosen
        if not way or not motifs:
            super().keyPressEvent(event)
            return
        here = next((n for n, one in enumerate(motifs) if chosen and one.id == chosen.id), -way)
        to = min(max(here + way, 0), len(motifs) - 1)
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and chosen is not None:
            self.moved.emit(chosen.id, to)
        else:
            self.chosen.emit(motifs[to].id)
