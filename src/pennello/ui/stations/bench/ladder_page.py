"""The tone ladder: how many flowers, where the window lies for each, and the strokes at a click."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.aim.ladder import STEPS, Ladder
from pennello.design.edits import with_ladder
from pennello.design.laddering import plan_ladder
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator
from pennello.load.look import cake_colours
from pennello.phrases import phrase
from pennello.ui.bench_model import BenchModel
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import draw_note, draw_ruler, strip_image
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import foot_row
from pennello.units import length_text

FLOWERS = Quantity(phrase("How many flowers"), *STEPS, 1, 0, phrase(" flowers"))
_ROW_PX = 22


class LadderPage(QDialog):
    """Even steps of lightness on one cake.

    Signals
    -------
    failed(str)
    """

    failed = Signal(str)

    def __init__(self, model: BenchModel, cake: str, parent: QWidget) -> None:
        super().__init__(parent)
        self._model, self._cake = model, cake
        self.found: tuple[Ladder, Applicator] | None = None
        self.setWindowTitle(phrase("Tones of one cake"))
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        head = QHBoxLayout()
        self.count = NumberField(FLOWERS)
        self.count.show_amount(5)
        self.count.edited.connect(lambda _: self.work_out())
        head.addWidget(Label(phrase("One window, slid so that each is a step darker:")))
        head.addWidget(self.count)
        head.addStretch(1)
        column.addLayout(head)
        self.picture = Surface(self)
        self.picture.setMinimumSize(px(560), px(260))
        self.picture.setAccessibleName(phrase("The windows on the cake"))
        self.picture.draw = self._draw
        column.addWidget(self.picture, 1)
        self.words = Label("")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.make = QPushButton(phrase("Make a stroke of each"))
        self.make.setProperty("main", True)
        self.make.setToolTip(phrase("The stroke on the Bench, once from each window"))
        self.make.clicked.connect(self.make_strokes)
        column.addLayout(foot_row(self, self.make))
        self.work_out()

    def work_out(self) -> None:
        """Find the windows anew."""
        plan, stroke = self._model.document.committed, self._model.stroke
        brush = stroke.brush if stroke else None
        try:
            self.found = plan_ladder(plan, self._cake, round(self.count.amount), brush)
        except PennelloError as error:
            self.found = None
            self.words.setText(str(error))
        else:
            ladder, tool = self.found
            self.words.setText(
                phrase(
                    "{tool}: steps of {step:.1f} L*, none further than {worst:.2f} L* from even "
                    "(predicted, a coat of 20 µm on this skin).",
                    tool=tool.name,
                    step=ladder.step,
                    worst=ladder.worst,
                )
            )
        self.make.setEnabled(self.found is not None and self._at() is not None)
        self.picture.update()

    def _at(self) -> int | None:
        """Return which pick-up of the stroke on the Bench takes from this cake."""
        stroke = self._model.stroke
        found = [n for n, one in enumerate(stroke.recipe.pickups) if one.cake == self._cake] if stroke else []
        return found[0] if found else None

    def make_strokes(self) -> None:
        """Put a stroke for each window into the plan."""
        at = self._at()
        if self.found and at is not None:
            offsets = self.found[0].offsets_mm
            self._model.edit(
                phrase("A ladder of tones"), lambda plan, stroke: with_ladder(plan, stroke.id, at, offsets)
            )
            self.close()

    def _draw(self, painter: QPainter) -> None:
        plan, area = self._model.plan, QRectF(self.picture.rect())
        cake = plan.cake(self._cake)
        scale = min(9.0, (area.width() - px(190)) / cake.width_mm)
        pan = QRectF(14, 10, cake.width_mm * scale, 46)
        paints = plan.paints_by_id
        painter.drawImage(pan, strip_image(cake_colours(cake, paints, 200)))
        painter.setPen(QPen(QColor(theme().ink_2), 1))
        painter.drawRect(pan)
        draw_ruler(painter, pan.bottomLeft(), cake.width_mm, scale, self._model.unit)
        if self.found is None:
            return
        ladder, brush = self.found
        step = min(px(_ROW_PX), (area.height() - 70 - px(22)) / len(ladder.offsets_mm))
        for row, (offset, lightness) in enumerate(zip(ladder.offsets_mm, ladder.lightness, strict=True)):
            y = pan.bottom() + px(34) + row * step
            left, right = pan.left() + offset * scale, pan.left() + (offset + brush.width_mm) * scale
            painter.setPen(QPen(QColor(theme().accent), 3))
            painter.drawLine(QPointF(left, y), QPointF(right, y))
            words = phrase(
                "{row}: {offset} from the wall, L* {lightness:.1f}",
                row=row + 1,
                offset=length_text(offset, self._model.unit),
                lightness=lightness,
            )
            align = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
            draw_note(painter, QRectF(pan.right() + 14, y - px(9), px(180), px(18)), words, align)
