"""How the window looks as the painter likes it: light, contrast, size, motion. Each choice is kept at once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication, QWidget

from pennello.phrases import phrase
from pennello.session.settings import SIZES_PERCENT, Settings
from pennello.ui.theme.style import apply_theme, light_of
from pennello.ui.widgets.asking import ask_amount
from pennello.ui.widgets.motion import choose_less_motion
from pennello.ui.widgets.number_field import Quantity

SIZE = Quantity(
    phrase("How large everything is, from the next start on"), SIZES_PERCENT[0], SIZES_PERCENT[-1], 25, 0, " %"
)


class Clothes(QObject):
    """Puts a palette on the application and keeps what was chosen.

    Signals
    -------
    changed(str)
        Another light, by its name, or another contrast.
    said(str)
    """

    changed = Signal(str)
    said = Signal(str)

    def __init__(
        self,
        window: QWidget,
        settings: Callable[[], Settings],
        settle: Callable[[Settings], None],
        ticked: Callable[[str], bool],
    ) -> None:
        super().__init__(window)
        self._window, self._settings, self._settle, self._ticked = window, settings, settle, ticked
        QGuiApplication.styleHints().colorSchemeChanged.connect(self.desktop_changed)
        choose_less_motion(on=settings().less_motion)

    @property
    def light(self) -> str:
        """The light of the table: as chosen, or as the desktop has it."""
        app = QApplication.instance()
        chosen = self._settings().theme
        return light_of(app, chosen) if isinstance(app, QApplication) else chosen

    def wear(self) -> None:
        """Put the palette on."""
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_theme(app, self._settings().theme, more=self._settings().more_contrast)

    def choose_theme(self, name: str) -> None:
        """Have the light of the table as chosen, "" as the desktop has it."""
        self._change(replace(self._settings(), theme=name))

    def follow_desktop(self) -> None:
        """Have the light of the table as the desktop has it, or keep what it is now."""
        self.choose_theme("" if self._ticked("follow_desktop") else self.light)

    def turn_contrast(self) -> None:
        """Have more contrast, or as much as is usual."""
        self._change(replace(self._settings(), more_contrast=self._ticked("turn_contrast")))

    def turn_motion(self) -> None:
        """Have less motion, or as much as there is."""
        self._settle(replace(self._settings(), less_motion=self._ticked("turn_motion")))
        choose_less_motion(on=self._settings().less_motion)

    def ask_size(self) -> None:
        """Ask how large everything shall be from the next start on."""
        value = ask_amount(self._window, phrase("Size of everything"), SIZE, self._settings().size_percent)
        if value is not None:
            size = min(SIZES_PERCENT, key=lambda one: abs(one - value))
            self._settle(replace(self._settings(), size_percent=size))
            self.said.emit(phrase("From the next start everything is {size} % as large.", size=size))

    def desktop_changed(self) -> None:
        """Follow the desktop's light, unless one was chosen."""
        if self._settings().follows_desktop:
            self._change(self._settings())

    def _change(self, settings: Settings) -> None:
        self._settle(settings)
        self.wear()
        self.changed.emit(self.light)
