"""Numbers that are wanted now and then lie folded away: one click opens them, and they stay as they were left."""

from __future__ import annotations

from collections.abc import Callable, Collection

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QToolButton, QWidget

from pennello.phrases import phrase
from pennello.ui.theme.icons import set_glyph


class Folds:
    """Which folds stand open, as the settings keep them."""

    def __init__(self) -> None:
        self._open: set[str] = set()
        self._settle: Callable[[tuple[str, ...]], object] = lambda _: None

    def keep(self, open_ones: Collection[str], settle: Callable[[tuple[str, ...]], object]) -> None:
        """Begin with those of the settings; `settle` is told when one is opened or shut."""
        self._open, self._settle = set(open_ones), settle

    def is_open(self, name: str) -> bool:
        """Return whether a fold stands open."""
        return name in self._open

    def turn(self, name: str, *, on: bool) -> None:
        """Open or shut a fold for good."""
        if on != self.is_open(name):
            self._open ^= {name}
            self._settle(tuple(sorted(self._open)))


FOLDS = Folds()
"""Those of this program: there is one window."""


class Fold(QToolButton):
    """The button that opens a fold and shuts it."""

    def __init__(self, name: str, *folded: QWidget) -> None:
        super().__init__()
        self._name, self._folded = name, folded
        self.setCheckable(True)
        set_glyph(self, "down")
        self.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.toggled.connect(self._turn)
        self.setChecked(FOLDS.is_open(name))
        self._turn(self.isChecked())

    def _turn(self, on: bool) -> None:  # noqa: FBT001 - Qt's own signal
        for widget in self._folded:
            widget.setVisible(on)
        self.setText(phrase("Fewer") if on else phrase("More"))
        self.setAccessibleName(
            phrase("Fewer numbers of the {name}", name=self._name)
            if on
            else phrase("More numbers of the {name}", name=self._name)
        )
        self.setToolTip(
            phrase("Fold these away") if on else phrase("What is wanted now and then; it stays as you leave it")
        )
        FOLDS.turn(self._name, on=on)
