"""The bar on top: plan menu, title, place, skin; undo, redo, unit, theme, help."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QEvent, QRect, QSignalBlocker, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QPixmap, QResizeEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QInputDialog,
    QMenu,
    QPushButton,
    QSizePolicy,
    QToolButton,
    QWidget,
)

from pennello.colour.lab import lab_to_hex
from pennello.colour.skin import ITA_STEPS, skin_lab
from pennello.design.plan import Skin
from pennello.errors import PennelloError
from pennello.phrases import mark, phrase, told
from pennello.session.document import Document
from pennello.session.settings import Settings
from pennello.ui.binding import follow
from pennello.ui.station import UndoRedo
from pennello.ui.theme.icons import set_glyph
from pennello.ui.theme.text import px
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.name_line import NameLine
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.painting import painting
from pennello.ui.widgets.plain import tip
from pennello.ui.widgets.true_icon import true_icon

_SPACING_PX = 3
_OWN = phrase("own sample ...")


class _WordsLine(NameLine):
    """A line as wide as its words, in whatever letters the style has them."""

    def __init__(self) -> None:
        super().__init__()
        self.textChanged.connect(self.fit)

    def changeEvent(self, event: QEvent) -> None:
        """Fit other letters."""
        super().changeEvent(event)
        if event.type() in (QEvent.Type.FontChange, QEvent.Type.StyleChange):
            self.fit()

    def fit(self) -> None:
        """Be as wide as the words."""
        words = self.text() or self.placeholderText()
        self.setMaximumWidth(min(max(self.fontMetrics().horizontalAdvance(words) + 26, px(70)), px(320)))


class TopBar(QWidget):
    """What belongs to the whole plan.

    Signals
    -------
    unit_chosen(str), theme_chosen(str), help_wanted, undo_wanted, redo_wanted, failed(str)
    """

    unit_chosen = Signal(str)
    theme_chosen = Signal(str)
    help_wanted = Signal()
    undo_wanted = Signal()
    redo_wanted = Signal()
    failed = Signal(str)

    def __init__(self, document: Document, settings: Settings, light: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._light = light
        self._document = document
        self._history: UndoRedo = document
        self.menu = QMenu(self)
        self.plan_button = self._tool("plan", phrase("Plan"), phrase("Open, save, print"))
        self.plan_button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.plan_button.setMenu(self.menu)
        self.plan_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.title, self.place = self._line(phrase("Title of the plan")), self._line(phrase("Place"))
        self.title.setObjectName("station")
        self.place.setPlaceholderText(phrase("place"))
        self.skin = ChoiceBox()
        self.skin.setAccessibleName(phrase("Skin"))
        self.skin.setToolTip(phrase("The skin painted on, by its individual typology angle (ITA)"))
        self.skin.setMinimumWidth(px(120))
        self.skin.setMaximumWidth(px(210))
        self.undo = self._tool("undo", "", phrase("Undo"))
        self.redo = self._tool("redo", "", phrase("Redo"))
        self.undo.clicked.connect(self.undo_wanted)
        self.redo.clicked.connect(self.redo_wanted)
        self._build(settings)
        self.title.told.connect(self._set_title)
        self.place.told.connect(self._set_place)
        self.skin.activated.connect(self._set_skin)
        follow(self, document.changed, self.refresh)
        follow(self, document.state_changed, self.refresh)
        self.refresh()

    def _build(self, settings: Settings) -> None:
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 4, 10, 0)
        row.setSpacing(_SPACING_PX)
        for widget in (self.plan_button, self.title, self.place, self.skin):
            row.addWidget(widget, 0 if widget is self.plan_button else 4)
        row.addStretch(1)
        row.addWidget(self.undo)
        row.addWidget(self.redo)
        row.addSpacing(8)
        self.units = self._pair(row, ("mm", "in"), settings.unit, phrase("Lengths in"), self.unit_chosen)
        row.addSpacing(8)
        self.themes = self._pair(
            row, (mark("linen"), mark("lamp")), self._light, phrase("Light of the table"), self.theme_chosen
        )
        row.addSpacing(4)
        self.help = self._tool("help", "", phrase("Keys and handles (F1)"))
        self.help.clicked.connect(self.help_wanted)
        row.addWidget(self.help)

    def _tool(self, glyph: str, text: str, words: str) -> QToolButton:
        button = QToolButton()
        set_glyph(button, glyph)
        button.setText(text)
        button.setToolTip(words)
        button.setAccessibleName(words)
        return button

    def _line(self, name: str) -> _WordsLine:
        line = _WordsLine()
        line.setAccessibleName(name)
        line.setToolTip(name)
        line.setMaxLength(200)
        line.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        line.setMinimumWidth(px(60))
        return line

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Leave out what there is no room for: the place first, then the light, which the menu has too."""
        super().resizeEvent(event)
        self._fold()

    def _fold(self) -> None:
        groups = ([self.place], self.themes.buttons())
        spare = self.width() - self.minimumSizeHint().width()
        spare -= sum(_least(one) for group in groups for one in group if one.isHidden())
        for group in groups:
            left_out = spare < 0
            spare += sum(map(_least, group)) if left_out else 0
            for one in group:
                one.setHidden(left_out)

    def _pair(self, row: QHBoxLayout, names: tuple[str, str], now: str, words: str, chosen: object) -> OneOf:
        group = OneOf(self)
        for name in names:
            button = QPushButton()
            button.setText(told(name))
            button.setProperty("choice", name)
            button.setProperty("segment", True)
            button.setCheckable(True)
            button.setChecked(name == now)
            button.setToolTip(f"{words}: {told(name)}")
            button.setAccessibleName(f"{words}: {told(name)}")
            group.addButton(button)
            row.addWidget(button)
        row.setSpacing(_SPACING_PX)
        group.buttonClicked.connect(lambda button: chosen.emit(button.property("choice")))  # type: ignore[attr-defined]
        return group

    def _set_title(self, title: str) -> None:
        titled = replace(self._document.committed, title=title or phrase("Untitled"))
        self._document.edit(phrase("Title"), titled)

    def _set_place(self, place: str) -> None:
        self._document.edit(phrase("Place"), replace(self._document.committed, place=place))

    def _set_skin(self, index: int) -> None:
        skin = self.skin.itemData(index)
        if skin is None:
            skin = self._own_sample()
        if skin is not None:
            self._document.edit(phrase("Skin"), replace(self._document.committed, skin=skin))
        self.refresh()

    def _own_sample(self) -> Skin | None:
        words = phrase("Colour of the skin as measured or picked, six digits such as #c69c7b")
        code, fine = QInputDialog.getText(self, phrase("Own skin sample"), words, text="#c69c7b")
        if not fine:
            return None
        try:
            return Skin(srgb=code.strip() if code.strip().startswith("#") else f"#{code.strip()}")
        except PennelloError as error:
            self.failed.emit(str(error))
            return None

    def show_theme(self, name: str) -> None:
        """Show which palette is worn."""
        for button in self.themes.buttons():
            button.setChecked(button.text() == name)

    def show_history(self, history: UndoRedo) -> None:
        """Let undo and redo go through another history: the plan's, or the kit's at the Tray."""
        self._history = history
        self.refresh()

    def refresh(self) -> None:
        """Follow the document."""
        plan = self._document.plan
        for line, words in ((self.title, plan.title), (self.place, plan.place)):
            line.show_words(words, object())  # of another plan, it may be
            line.fit()
        self._show_skin(plan.skin)
        for button, word, label in (
            (self.undo, phrase("Undo"), self._history.undo_label),
            (self.redo, phrase("Redo"), self._history.redo_label),
        ):
            button.setEnabled(label is not None)
            button.setToolTip(tip(f"{word}: {label}") if label else phrase("Nothing to {word}", word=word.lower()))

    def _show_skin(self, skin: Skin) -> None:
        skins = [Skin(ita) for ita in ITA_STEPS]
        if skin not in skins:
            skins.append(skin)
        names = [one.name for one in skins]
        with QSignalBlocker(self.skin):
            if [self.skin.itemText(i) for i in range(self.skin.count())] != [*names, _OWN]:
                self.skin.clear()
                for one in skins:
                    self.skin.addItem(_swatch(one), one.name, one)
                self.skin.addItem(_OWN, None)
            self.skin.setCurrentIndex(skins.index(skin))


def _least(widget: QWidget) -> int:
    """Return the room that a widget needs in a row, with the space beside it, px."""
    return max(widget.minimumWidth(), widget.minimumSizeHint().width()) + _SPACING_PX


def _swatch(skin: Skin) -> QIcon:
    colour = QColor(skin.srgb or lab_to_hex(skin_lab(skin.ita_deg)))
    pixmap = QPixmap(32, 32)
    pixmap.fill(Qt.GlobalColor.transparent)
    with painting(pixmap) as painter:
        painter.fillRect(QRect(2, 2, 28, 28), colour)
    return true_icon(pixmap)
