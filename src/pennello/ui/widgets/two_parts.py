"""Two rows of controls: side by side where there is room, else one under the other."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import QEvent, QSize
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QHBoxLayout, QWidget

_BETWEEN_PX = 8
_STYLED = (QEvent.Type.Show, QEvent.Type.StyleChange)


class TwoParts(QWidget):
    """A head whose second part goes below the first in a narrow window."""

    def __init__(self, first: Iterable[QWidget], second: Iterable[QWidget], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._parts = (QHBoxLayout(), QHBoxLayout())
        self._box = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self._box.setContentsMargins(0, 0, 0, 0)
        self._box.setSpacing(_BETWEEN_PX)
        for part, widgets in zip(self._parts, (first, second), strict=True):
            part.setSpacing(4)
            for widget in widgets:
                part.addWidget(widget)
        self._parts[0].addStretch(1)
        self._parts[1].insertStretch(0, 1)
        for part in self._parts:
            self._box.addLayout(part)

    def minimumSizeHint(self) -> QSize:
        """The wider of the two, so that the window may become that narrow."""
        wide = max(part.minimumSize().width() for part in self._parts)
        return QSize(wide, self._box.minimumSize().height())

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Choose the way by the width."""
        self._turn()
        super().resizeEvent(event)

    def event(self, event: QEvent) -> bool:
        """Choose it anew where a control has come to need more room; a layout that is touched asks for this again."""
        done = super().event(event)
        if event.type() in _STYLED:
            for part in self._parts:
                part.invalidate()  # what a control needs is known once it is shown in its style
        if event.type() in (*_STYLED, QEvent.Type.LayoutRequest):
            self._turn()
        return done

    def _turn(self) -> None:
        needed = sum(part.minimumSize().width() for part in self._parts) + _BETWEEN_PX
        beside = self.width() >= needed
        way = QBoxLayout.Direction.LeftToRight if beside else QBoxLayout.Direction.TopToBottom
        if way is not self._box.direction():
            self._box.setDirection(way)
            self._box.setSpacing(_BETWEEN_PX if beside else 0)
