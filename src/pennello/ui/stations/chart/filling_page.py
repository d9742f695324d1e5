"""One stroke for a drawn outline: the three best side by side on the skin, the best so far while it is looked for."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QCloseEvent, QColor, QImage, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QCheckBox, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.design.placed import PlacedMotif
from pennello.design.plan import Plan, skin_bytes
from pennello.design.pulled import outline_of
from pennello.lay.canvas import Canvas
from pennello.phrases import phrase
from pennello.session.jobs import Job, Jobs
from pennello.session.pull_scene import Patch, PullScene
from pennello.solve.fill_outline import (
    ENOUGH,
    MOST_TOLD,
    OneStroke,
    fill_outline,
    loads_to_try,
    needs_two,
    other_rim,
)
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar, foot_row
from pennello.ui.work import Runner

_SPARE_MM = 6.0
_Laid = tuple[tuple[OneStroke, Patch | None], ...]


class FillingPage(QDialog):
    """Shows strokes that fill an outline, and hands over the one that is taken.

    Signals
    -------
    taken(str, object)
        A load, and the stroke that is pulled with it.
    """

    taken = Signal(str, object)

    def __init__(self, plan: Plan, drawn: PlacedMotif, first: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("One stroke that fills {drawn}", drawn=drawn.name))
        self.resize(QSize(940, 470))
        self._plan, self._chart, self.outline = plan, drawn.chart, outline_of(drawn)
        self.shown: list[tuple[OneStroke, Canvas | None, QImage | None]] = []
        self._scene = PullScene(plan, drawn.chart, None)
        self._jobs = Jobs()
        self._runner = Runner(self._jobs, phrase("fill outline"), self)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.surface = Surface(self)
        self.surface.setAccessibleName(phrase("The strokes that fill the outline best, the best at the left"))
        self.surface.draw = self._draw
        column.addWidget(self.surface, 1)
        column.addLayout(self._takes())
        self.words = Label(phrase("Looking for the brush, the way, the chisel and the pressure ..."))
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.bar = ThinBar()
        column.addWidget(self.bar)
        self.other_side = QCheckBox(phrase("Rim on the other side"))
        self.other_side.setToolTip(
            phrase("The chisel is turned half round: corner A, with the rim, goes along the other side")
        )
        self.other_side.setEnabled(False)
        self.other_side.toggled.connect(lambda _: self._turn())
        foot = foot_row(self)
        foot.insertWidget(0, self.other_side)
        column.addLayout(foot)
        self._runner.told.connect(self.bar.show_part)
        self._runner.found.connect(self._show)
        self._runner.ended.connect(self._end)
        self._runner.failed.connect(self._fail)
        self._runner.run(lambda job: self._look(job, first))

    def _takes(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.takes = []
        for number in range(MOST_TOLD):
            button = QPushButton("")
            button.setVisible(False)
            button.setProperty("chip", True)
            button.clicked.connect(lambda _=False, at=number: self._take(at))
            self.takes.append(button)
            row.addWidget(button, 1)
        return row

    # --- what is looked for, in the background ---

    def _look(self, job: Job[_Laid], first: str) -> _Laid:
        def show(found: tuple[OneStroke, ...]) -> None:
            job.found.emit(self._laid(found))

        loads = loads_to_try(self._plan, (), first)
        return self._laid(fill_outline(self._plan, self.outline, loads, None, job.report, show))

    def _laid(self, found: Sequence[OneStroke]) -> _Laid:
        return tuple((one, self._scene.lay(one.load, one.stroke)) for one in found)

    def _turn(self) -> None:
        """Turn every chisel half round."""
        self._show(self._laid([other_rim(one) for one, *_ in self.shown]))

    # --- what is shown ---

    def _show(self, laid: _Laid) -> None:
        self.shown = [(one, there.canvas, to_image(there.rgba)) if there else (one, None, None) for one, there in laid]
        for number, button in enumerate(self.takes):
            button.setVisible(number < len(laid))
            if number < len(laid):
                one = laid[number][0]
                button.setText(phrase("Take it: {overlap:.0%} shared", overlap=one.overlap))
                button.setToolTip(
                    phrase(
                        "{stroke}: {one}. It takes the drawn line's place.",
                        stroke=self._plan.stroke(one.load).name,
                        one=one.words,
                    )
                )
        self.surface.update()

    def _end(self, laid: _Laid) -> None:
        self.bar.hide()
        self.other_side.setEnabled(True)
        self._show(laid)
        said = phrase("Predicted: how much the stroke and what you drew share.") + " "
        if needs_two([one for one, _ in laid]):
            said += phrase(
                "No single stroke shares {enough:.0%} with it: lay two, or draw it as one brush could lay it.",
                enough=ENOUGH,
            )
        else:
            said += phrase("The one that you take lies in the place of the drawn line; its handles stay yours.")
        self.words.setText(said)

    def _fail(self, words: str) -> None:
        self.bar.hide()
        self.words.setText(words)

    def _take(self, at: int) -> None:
        one = self.shown[at][0]
        self.taken.emit(one.load, one.stroke)
        self.close()

    def _draw(self, painter: QPainter) -> None:
        if not self.outline:
            return
        wide, tall = self.surface.width() / MOST_TOLD, self.surface.height() - 66.0
        xs, ys = zip(*self.outline, strict=True)
        left, top = min(xs) - _SPARE_MM, min(ys) - _SPARE_MM
        across, down = max(xs) - left + _SPARE_MM, max(ys) - top + _SPARE_MM
        for number in range(MOST_TOLD):
            box = QRectF(number * wide + 3, 0, wide - 6, tall)
            painter.save()
            painter.setClipRect(box)
            painter.fillRect(box, QColor(*skin_bytes(self._plan.skin, self._plan.light)))
            scale = min(box.width() / across, box.height() / down)
            painter.translate(box.center())
            painter.scale(scale, scale)
            painter.translate(-(left + across / 2), -(top + down / 2))
            if number < len(self.shown):
                self._draw_laid(painter, number)
            pen = QPen(QColor(theme().ink), 1.5, Qt.PenStyle.DashLine)
            pen.setCosmetic(True)
            painter.setPen(pen)
            painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in self.outline]))
            painter.restore()
            if number < len(self.shown):
                one = self.shown[number][0]
                brush = self._plan.brush(self._plan.stroke(one.load).brush).name
                words = f"{brush}, {self._plan.stroke(one.load).name}:\n{one.words}"
                painter.setPen(QColor(theme().ink))
                foot = QRectF(box.left(), tall + 4, box.width(), px(60))
                painter.drawText(foot, int(Qt.AlignmentFlag.AlignLeft) | int(Qt.TextFlag.TextWordWrap), words)

    def _draw_laid(self, painter: QPainter, number: int) -> None:
        _, canvas, image = self.shown[number]
        if canvas is None or image is None:
            return
        size = (canvas.columns / canvas.px_per_mm, canvas.rows / canvas.px_per_mm)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(QRectF(canvas.left_mm, canvas.top_mm, *size), image)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self._runner.stop()
        self._jobs.leave()
        super().closeEvent(event)
