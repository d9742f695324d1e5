"""What an empty plan shows: the first thing to do as a picture, made by the engine itself, and one button."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPen
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from pennello.design.fresh import with_fresh_stroke
from pennello.design.plan import Plan, skin_bytes
from pennello.load.look import cake_colours
from pennello.phrases import phrase
from pennello.session.forecast import Outcome, coarse
from pennello.ui.bench_model import BenchModel
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Surface, centred
from pennello.ui.widgets.paint import strip_image, to_image
from pennello.ui.widgets.plain import Label

_PX_PER_MM = 5.0


class FirstPetal(QWidget):
    """A cake, the petal that it would lay on this skin, and the button that begins."""

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._model = model
        self._shown: tuple[Plan, Outcome] | None = None
        column = QVBoxLayout(self)
        column.addStretch(2)
        self.picture = Surface(self)
        self.picture.setFixedSize(560, 260)
        self.picture.setAccessibleName(phrase("A split cake and the petal that it lays"))
        self.picture.draw = self._draw
        words = Label(phrase("No stroke yet. Begin with a petal: a cake, a brush on it, and what they lay."))
        self.button = QPushButton(phrase("Pull the first petal"))
        self.button.setProperty("main", True)
        for widget, space in ((self.picture, 14), (words, 10), (self.button, 0)):
            column.addWidget(widget, 0, Qt.AlignmentFlag.AlignHCenter)
            column.addSpacing(space)
        column.addStretch(3)

    def _outcome(self) -> Outcome:
        plan = self._model.plan
        if self._shown is None or self._shown[0] is not plan:
            self._shown = (plan, coarse(*with_fresh_stroke(plan)))
        return self._shown[1]

    def _draw(self, painter: QPainter) -> None:
        outcome = self._outcome()
        area = QRectF(self.picture.rect())
        right = area.adjusted(190, 0, 0, 0)
        painter.fillRect(right, QColor(*skin_bytes(outcome.plan.skin)))
        canvas = outcome.laid.film.canvas
        scale = _PX_PER_MM / canvas.px_per_mm
        petal = centred(right, canvas.columns * scale, canvas.rows * scale)
        painter.drawImage(petal, to_image(outcome.picture))
        pan = centred(QRectF(0, 0, 190, area.height()), 140, 190)
        painter.drawImage(pan, self._cake(outcome))
        painter.setPen(QPen(QColor(theme().ink_2), 1.4))
        painter.drawRoundedRect(pan.adjusted(-1.5, -1.5, 1.5, 1.5), 4, 4)

    def _cake(self, outcome: Outcome) -> QImage:
        cake = outcome.attempt.cakes[outcome.attempt.recipe.pickups[-1].cake]
        return strip_image(cake_colours(cake, dict(outcome.attempt.paints), 140))
