"""The calibration card: print it, photograph it, and let brush and paints be one's own."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from pennello.errors import PennelloError
from pennello.phrases import phrase
from pennello.practice.fit_card import CardFit
from pennello.session.document import Document
from pennello.session.exports import card_sheet
from pennello.session.jobs import Job
from pennello.session.log import open_log
from pennello.session.practising import (
    CardWork,
    card_sentence,
    card_work,
    constants_of,
    fitted,
    simulated_card,
    taken_over,
)
from pennello.ui.exporting import Exporter, Printed
from pennello.ui.printing import PrintPage
from pennello.ui.stations.notebook.marked_photo import PhotoDialog
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.passing import goes_when_closed
from pennello.ui.widgets.plain import Label
from pennello.ui.work import guarded
from pennello.units import de_text, difference_words

SEED = 3
_LEGEND = phrase("Where the four strokes still differ: red from 6 dE on, pale where they hold")


class Residuals(Surface):
    """How far each stroke of the card is from the prediction by place: pale where it holds, red where it misses."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.draw = self._draw
        self._fit: CardFit | None = None
        self.setMinimumHeight(px(120))
        self.setMaximumHeight(px(170))
        self.setAccessibleName(phrase("How far each stroke of the card is from the prediction, place by place"))

    def show_fit(self, fit: CardFit) -> None:
        """Show a fit."""
        self._fit = fit
        self.update()

    def _draw(self, painter: QPainter) -> None:
        if self._fit is None:
            return
        strokes = self._fit.strokes_de00
        high = (self.height() - 8) / len(strokes) - 6
        for number, table in enumerate(strokes):
            columns, rows = table.shape
            wide, tall = (self.width() - 60) / 18, high / rows
            top = 6 + number * (high + 6)
            for column in range(columns):
                for row in range(rows):
                    colour = QColor(theme().misses)
                    colour.setAlphaF(min(float(table[column, row]) / 6.0, 1.0))
                    painter.fillRect(
                        int(8 + column * wide), int(top + row * tall), int(wide) + 1, int(tall) + 1, colour
                    )
            painter.setPen(QPen(QColor(theme().line), 1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(8, int(top), int(columns * wide), int(high))


class CardPage(PhotoDialog):
    """A card for a load of the plan."""

    def __init__(self, document: Document, exporter: Exporter, notebook: Path, parent: QWidget) -> None:
        super().__init__(phrase("Calibration card"), parent)
        self._document, self._exporter, self._notebook = document, exporter, notebook
        self.fit: CardFit | None = None
        self.loads = ChoiceBox()
        self.loads.setAccessibleName(phrase("The load that the card is painted with"))
        plan = document.committed
        for one in plan.strokes:
            if one.recipe.cakes:
                self.loads.addItem(one.name, one.id)
        self.loads.currentIndexChanged.connect(lambda _: self._other_load())
        self.head.addWidget(Label(phrase("Painted with")))
        self.head.addWidget(self.loads, 1)
        self.print_button = self.chip(phrase("Print it ..."), phrase("The card at true scale"), self.ask_print)
        self.photo_button = self.chip(
            phrase("Photo ..."), phrase("A photo of the painted card, dry, from above"), self.ask_photo
        )
        self.chip(
            phrase("Try it out"),
            phrase("A card that a simulated painter has painted: to see what comes of it"),
            self.try_out,
        )
        self.hint.setText(
            phrase(
                "Print the card at 100 %, paint its four fields and the dabs, let it dry, take a photo from above by "
                "daylight with all four corner marks in sight. What it tells of your brush and paints, "
                "every prediction uses."
            )
        )
        self.summary = Label("")
        self.summary.setWordWrap(True)
        self.summary.setObjectName("headline")
        self.told = QListWidget()
        self.told.setWordWrap(True)
        self.told.setAccessibleName(phrase("What the card tells; ticked is what you take over"))
        self.residuals = Residuals(self)
        for widget in (
            self.summary,
            self.told,
            Label(_LEGEND),
            self.residuals,
        ):
            self.right.addWidget(widget)
        self.take.setText(phrase("Make them mine"))
        self.left.addStretch(1)
        self._other_load()

    @property
    def load(self) -> str:
        """The load that is chosen."""
        return str(self.loads.currentData() or "")

    def work(self) -> CardWork:
        """Return the card of the load; raises PennelloError."""
        return card_work(self._document.committed, self.load)

    def _other_load(self) -> None:
        self.fit = None
        self.may_take(yes=False)
        self.told.clear()
        self.summary.setText("")
        self.words.setText(
            "" if self.load else phrase("No load of this plan takes a cake; make one on the Bench first.")
        )
        fits = bool(self.load) and guarded(self.work, self.words.setText)
        for button in (self.print_button, self.photo_button):
            button.setEnabled(fits)

    def ask_print(self) -> None:
        """Show the card as it comes out, to print it or keep it as a PDF."""
        plan, load, card = self._document.committed, self.load, self.work().card
        sheet = Printed(phrase("Calibration card"), partial(card_sheet, plan, load, card), "card")
        self.printing = PrintPage((sheet,), self._exporter, self)
        goes_when_closed(self.printing)
        self.printing.open()

    def show_photo(self, picture: Any, corners: Any) -> None:
        """Show a photo; it takes the room that was left."""
        super().show_photo(picture, corners)
        last = self.left.itemAt(self.left.count() - 1)
        if last is not None and last.spacerItem() is not None:
            self.left.removeItem(last)

    def try_out(self) -> None:
        """Let a simulated painter paint the card, and show its photo."""
        try:
            work = self.work()
        except PennelloError as error:
            self.words.setText(str(error))
            return

        def paint(job: Job[Any]) -> Any:
            job.report(0.1, phrase("a simulated painter paints the card"))
            return simulated_card(work, SEED)

        self.run(paint, lambda seen: self.show_photo(*seen))

    def start(self) -> None:
        """Fit brush and paints to the photo."""
        picture, corners, work = self.picture, self.corners, self.work()
        assert picture is not None
        self.run(lambda job: fitted(work, picture, corners, job.report), self.show_fit)

    def show_fit(self, fit: CardFit) -> None:
        """Show what was fitted."""
        self.fit = fit
        plan = self._document.committed
        before, after = (f"{difference_words(one)} ({de_text(one)})" for one in (fit.before_de00, fit.after_de00))
        self.words.setText("")
        self.summary.setText(
            phrase("Predicted before: {before}. With what the card tells: {after}.", before=before, after=after)
        )
        self.told.clear()
        named = [(fit.brush.id, fit.brush.name), *((one.id, one.name) for one in fit.paints)]
        for key, name in named:
            sentences = card_sentence(plan, fit, key)
            item = QListWidgetItem(sentences or phrase("{name}: as it was thought.", name=name))
            item.setData(Qt.ItemDataRole.UserRole, key)
            item.setCheckState(Qt.CheckState.Checked if sentences else Qt.CheckState.Unchecked)
            self.told.addItem(item)
        self.residuals.show_fit(fit)
        self.may_take(yes=True)

    def keep(self) -> None:
        """Take over what is ticked, as one step that undo takes back."""
        fit = self.fit
        items = [self.told.item(row) for row in range(self.told.count())]
        names = {str(one.data(Qt.ItemDataRole.UserRole)) for one in items if one.checkState() == Qt.CheckState.Checked}
        if fit is None or not names:
            self.words.setText(phrase("Tick what you want to take over."))
            return
        plan = self._document.committed

        def write() -> None:
            with open_log(self._notebook) as log:
                log.add_learnt(constants_of(plan, fit, names))
            self._document.edit(phrase("Take over a card"), taken_over(plan, fit, names))

        if guarded(write, self.words.setText):
            self.accept()
