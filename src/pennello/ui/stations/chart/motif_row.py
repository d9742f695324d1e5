"""Below the chart: the motifs to pick up, as pictures of their own strokes."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QScrollArea, QToolButton, QWidget

from pennello.motif.catalogue import MOTIFS
from pennello.phrases import phrase
from pennello.session.motif_library import Kept
from pennello.ui.gallery import Gallery, tile
from pennello.ui.theme.text import NOTE_PT, px, type_px
from pennello.ui.widgets.bit_by_bit import BitByBit
from pennello.ui.widgets.plain import tip
from pennello.ui.widgets.true_icon import true_icon

_ICON = QSize(58, 46)


def _short_names() -> dict[str, str]:
    """Return each motif's name up to its comma, or all of it where another motif is called the same, by its key."""
    short = {key: motif.name.split(",")[0] for key, motif in MOTIFS.items()}
    often = Counter(short.values())
    return {key: MOTIFS[key].name if often[name] > 1 else name for key, name in short.items()}


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
        inner.setStyleSheet(f"QToolButton {{ font-size: {type_px(NOTE_PT)}px; padding: 2px 4px; }}")
        row = QHBoxLayout(inner)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        self.buttons: dict[str, QToolButton] = {}
        self.own: dict[str, QToolButton] = {}
        self._own: list[QToolButton] = []
        self._row = row
        short = _short_names()
        for key, motif in MOTIFS.items():
            button = self._button(short[key], f"{motif.name}: {motif.words}", motif.name)
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
        self.show_pictures()

    def _button(self, words: str, hint: str, name: str) -> QToolButton:
        button = QToolButton()
        button.setIconSize(_ICON)
        button.setText(words)
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
        button.setToolTip(tip(hint))
        button.setAccessibleName(phrase("Put on the chart: {name}", name=name))
        return button

    def show_own(self, motifs: Sequence[Kept]) -> None:
        """Show the painter's own motifs before the others."""
        for button in self._own:
            self._row.removeWidget(button)
            button.hide()
            button.deleteLater()
        self.own, self._own = {}, []
        for number, kept in enumerate(motifs):
            name = kept.own.name
            button = self._button(
                name[:16], phrase("Your own: {name}", name=name), phrase("your own, {name}", name=name)
            )
            button.setIcon(true_icon(tile(QImage.fromData(kept.picture), _ICON)))
            button.clicked.connect(lambda _=False, one=kept: self.own_picked.emit(one))
            self._row.insertWidget(number, button)
            self.own[name] = button
            self._own.append(button)  # files of others may have the same name

    def show_pictures(self) -> None:
        """Show the picture of each motif as it is now, one after the other."""
        self._icons.do([partial(self._show_picture, key) for key in self.buttons])

    def _show_picture(self, key: str) -> None:
        seen = self._gallery.seen(key)
        if seen is not None and key in self.buttons:
            self.buttons[key].setIcon(true_icon(seen.tile(_ICON)))
