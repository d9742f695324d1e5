"""How the window looks as the painter likes it: light, contrast, size, motion. Each choice is kept at once."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication, QWidget

from pennello.phrases import phrase
from pennello.session.settings import SIZES_PERCENT, TEXTS_PERCENT, Settings
from pennello.ui.theme.style import apply_theme, dress, light_of
from pennello.ui.theme.text import BODY_PT
from pennello.ui.theme.tokens import LAMP, LINEN
from pennello.ui.widgets.asking import ask_amount
from pennello.ui.widgets.motion import choose_less_motion
from pennello.ui.widgets.number_field import Quantity

SIZE = Quantity(
    phrase("How large everything is, from the next start on"), SIZES_PERCENT[0], SIZES_PERCENT[-1], 25, 0, " %"
)
TEXT = Quantity(phrase("How large words are, from the next start on"), TEXTS_PERCENT[0], TEXTS_PERCENT[-1], 25, 0, " %")


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
        self._sheet = ""
        QGuiApplication.styleHints().colorSchemeChanged.connect(self.desktop_changed)
        choose_less_motion(on=settings().less_motion)

    @property
    def light(self) -> str:
        """The light of the table: as chosen, or as the desktop has it."""
        app = QApplication.instance()
        chosen = self._settings().theme
        return light_of(app, chosen) if isinstance(app, QApplication) else chosen

    def wear(self) -> None:
        """Put the palette on; parts of the window get its sheet by `dress`."""
        app = QApplication.instance()
        if isinstance(app, QApplication):
            self._sheet = apply_theme(app, self._settings().theme, more=self._settings().more_contrast)

    def dress(self, *parts: QWidget) -> None:
        """Put the sheet on parts of the window that do not wear it."""
        for part in parts:
            dress(part, self._sheet)

    def choose_theme(self, name: str) -> None:
        """Have the light of the table as chosen, "" as the desktop has it."""
        self._change(replace(self._settings(), theme=name))

    def turn_light(self) -> None:
        """Have the other light of the table."""
        self.choose_theme(LAMP.name if self.light == LINEN.name else LINEN.name)

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

    def ask_text(self) -> None:
        """Ask how large words shall be from the next start on; pictures stay as they are."""
        value = ask_amount(self._window, phrase("Size of words"), TEXT, self._settings().text_percent)
        if value is not None:
            text = min(TEXTS_PERCENT, key=lambda one: abs(one - value))
            self._settle(replace(self._settings(), text_percent=text))
            self.said.emit(
                phrase(
                    "From the next start words are {text} % as large, {points:g} points; pictures stay as they are.",
                    text=text,
                    points=BODY_PT * text / 100,
                )
            )

    def desktop_changed(self) -> None:
        """Follow the desktop's light, unless one was chosen."""
        if self._settings().follows_desktop:
            self._change(self._settings())

    def _change(self, settings: Settings) -> None:
        self._settle(settings)
        self.wear()
        self.changed.emit(self.light)
