"""The designs that ship with Pennello: a page of pictures, each to be opened in its own colours or in others."""

from __future__ import annotations

from functools import partial
from typing import Any

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QCloseEvent, QImage, QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import (
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from pennello.colour.skin import ita_class
from pennello.design.plan import Plan
from pennello.design.reading import SKINS_ITA
from pennello.files.demo import ShippedDesign, shipped_designs
from pennello.phrases import phrase, plural
from pennello.session.design_pictures import DesignPicture, design_picture
from pennello.session.jobs import Job, Jobs
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.bit_by_bit import BitByBit
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar, foot_row
from pennello.ui.work import begin, once_seen

COLUMNS = 4
_PICTURE = QSize(234, 156)


class DesignCard(QWidget):
    """One design.

    Signals
    -------
    wanted
        It is to be opened.
    turned
        Its other colours are to be shown, or its own.
    """

    wanted = Signal()
    turned = Signal()

    def __init__(self, design: ShippedDesign) -> None:
        super().__init__()
        self.design = design
        self._image: QImage | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(3)
        self.surface = Surface(self)
        self.surface.setMinimumSize(_PICTURE)
        self.surface.draw = self._draw
        self.surface.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(phrase("{design}: Enter opens it", design=design.title))
        column.addWidget(self.surface, 1)
        self.title, self.words = Label(design.title), Label(" ")
        self.title.setObjectName("strong")
        self.words.setObjectName("note")
        self.words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        column.addWidget(self.title)
        column.addWidget(self.words)
        row = QHBoxLayout()
        self.colours = OneOf(self)
        for number, words in enumerate((phrase("as it is"), design.colours)):
            button = QPushButton()
            button.setText(words)
            button.setCheckable(True)
            button.setChecked(number == 0)
            button.setProperty("segment", True)
            button.setAccessibleName(f"{design.title}: {words}")
            self.colours.addButton(button, number)
            row.addWidget(button)
        self.colours.idClicked.connect(lambda _: self.turned.emit())
        row.addStretch(1)
        self.open_button = QPushButton(phrase("Open"))
        self.open_button.setProperty("chip", True)
        self.open_button.setAccessibleName(phrase("Open {design}", design=design.title))
        self.open_button.clicked.connect(lambda _=False: self.wanted.emit())
        row.addWidget(self.open_button)
        column.addLayout(row)

    @property
    def other(self) -> bool:
        """Whether it is shown in its other colours."""
        return self.colours.checkedId() == 1

    @property
    def plan(self) -> Plan:
        """The design as it is shown."""
        return self.design.plan(other=self.other)

    @property
    def painted(self) -> bool:
        """Whether its picture is there."""
        return self._image is not None

    def show_picture(self, found: DesignPicture) -> None:
        """Show its picture and what it takes."""
        self._image = to_image(found.picture)
        self.words.setText(
            phrase(
                "{partition} · {minutes}, at least {minutes_2}",
                partition=found.chart.partition(",")[0],
                minutes=_minutes(found.seconds),
                minutes_2=_minutes(found.short_s),
            )
        )
        self.setToolTip(plural(found.loads, "{chart}, {count} load", "{chart}, {count} loads", chart=found.chart))
        self.title.setText(found.title)
        self.surface.update()

    def _draw(self, painter: QPainter) -> None:
        if self._image is None:
            return
        area = QRectF(self.surface.rect())
        scale = min(area.width() / self._image.width(), area.height() / self._image.height())
        width, height = self._image.width() * scale, self._image.height() * scale
        painter.setClipRect(area)
        painter.drawImage(centred(area, width, height), self._image)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """A click on the picture opens it."""
        if self.surface.geometry().contains(event.position().toPoint()):
            self.wanted.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter opens it."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.wanted.emit()
        else:
            super().keyPressEvent(event)


def _minutes(seconds: float) -> str:
    return phrase("{seconds}:{seconds_2:02} min", seconds=round(seconds) // 60, seconds_2=round(seconds) % 60)


class DesignsPage(QDialog):
    """All designs.

    Signals
    -------
    chosen(Plan)
        One is to be opened.
    """

    chosen = Signal(object)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("Designs"))
        self.resize(QSize(1180, 760))
        self._jobs = Jobs()
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 10, 16, 8)
        head = QHBoxLayout()
        words = Label(
            phrase("Whole works to begin from. Minutes are those of the order found; at least is what must be done.")
        )
        words.setObjectName("note")
        head.addWidget(words)
        head.addStretch(1)
        self.skin = ChoiceBox()
        self.skin.setAccessibleName(phrase("On which skin they are shown"))
        self.skin.addItem(phrase("each on its own skin"), None)
        for ita in SKINS_ITA:
            self.skin.addItem(phrase("on {ita_class} skin, ITA {ita:.0f}°", ita_class=ita_class(ita), ita=ita), ita)
        self.skin.activated.connect(lambda _: self.look())
        head.addWidget(self.skin)
        column.addLayout(head)
        self.cards = dict[str, DesignCard]()
        inside = QWidget()
        self._grid = QGridLayout(inside)
        self._grid.setContentsMargins(0, 0, 8, 0)
        self._grid.setHorizontalSpacing(16)
        self._grid.setVerticalSpacing(10)
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setWidget(inside)
        column.addWidget(scroll, 1)
        self.problem = Label("")
        column.addWidget(self.problem)
        self.bar = ThinBar()
        column.addWidget(self.bar)
        column.addLayout(foot_row(self))
        self.bar.show()
        self._seen_first = once_seen(self, self.look)
        designs = shipped_designs()
        self._grid.setRowStretch(len(designs), 1)  # below all cards: it has the room of those that do not lie there yet
        self._laying = BitByBit(self)
        self._laying.do([*(partial(self._lay, design) for design in designs), self._all_laid])

    def _all_laid(self) -> None:
        self._grid.setRowStretch(len(self.cards), 0)
        self._seen_first.start()

    def _lay(self, design: ShippedDesign) -> None:
        at = len(self.cards)
        self.cards[design.key] = card = self._card(design)
        self._grid.addWidget(card, at // COLUMNS, at % COLUMNS)
        self._grid.setColumnStretch(at % COLUMNS, 1)

    def _card(self, design: ShippedDesign) -> DesignCard:
        card = DesignCard(design)
        card.wanted.connect(lambda: self._choose(card))
        card.turned.connect(self.look)
        return card

    def _choose(self, card: DesignCard) -> None:
        self.chosen.emit(card.plan)
        self.close()

    @property
    def busy(self) -> bool:
        """Whether cards are still laid or pictures looked for."""
        return self.bar.isVisible()

    def look(self) -> None:
        """Look for the pictures, one after another; those that were there before are there at once."""
        asked = tuple((card.design.key, card.other) for card in self.cards.values())
        ita, mat = self.skin.currentData(), theme().mat

        def work(job: Job[Any]) -> None:
            for at, (key, other) in enumerate(asked):
                job.report(at / len(asked), "")
                job.found.emit(design_picture(key, other=other, ita_deg=ita, surround=mat, check=job.check))

        self.bar.show()
        begin(
            self._jobs,
            "designs",
            self,
            work,
            finished=lambda _: self.bar.hide(),
            failed=self._fail,
            found=self._take,
            progress=self.bar.show_part,
        )

    def _take(self, found: DesignPicture) -> None:
        card = self.cards[found.key]
        if card.other == found.other:
            card.show_picture(found)

    def _fail(self, sentence: str) -> None:
        self.bar.hide()
        self.problem.setText(sentence)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self._laying.do(())
        self._seen_first.stop()
        self._jobs.leave()
        super().closeEvent(event)
