"""The chart on several skins in one strip: does the design still read on very light and on dark skin?"""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QCloseEvent, QPainter
from PySide6.QtWidgets import QDialog, QVBoxLayout, QWidget

from pennello.aim.contrast import READS
from pennello.colour.lights import Light
from pennello.colour.skin import ita_class
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan, skin_bytes
from pennello.design.reading import SKINS_ITA, Reading, on_skin, readings
from pennello.phrases import named, phrase
from pennello.session.chart_scene import ChartScene, chart_picture
from pennello.session.jobs import Jobs
from pennello.session.order_pictures import order_found
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.paint import Picture, draw_note, to_image
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.progress import ThinBar, foot_row
from pennello.ui.work import begin

_PX_PER_MM = 2.0
_Found = tuple[tuple[Picture, ...], tuple[Reading, ...]]


class SkinsPage(QDialog):
    """Five skins."""

    def __init__(self, plan: Plan, key: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(phrase("On other skins"))
        self.resize(QSize(1120, 470))
        self._plan = plan
        self.found: _Found | None = None
        self._jobs = Jobs()
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        self.surface = Surface(self)
        self.surface.setAccessibleName(phrase("The chart on five skins, from very light to dark"))
        self.surface.draw = self._draw
        column.addWidget(self.surface, 1)
        self.words = Label("")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.bar = ThinBar()
        column.addWidget(self.bar)
        column.addLayout(foot_row(self))
        mat = theme().mat
        begin(
            self._jobs,
            "skins",
            self,
            lambda running: _painted(plan, key, mat, running.report),
            finished=self._take,
            failed=self.words.setText,
            progress=self.bar.show_part,
        )

    def _take(self, found: _Found) -> None:
        self.found = found
        self.bar.hide()
        self.words.setText(self._sentence(found[1]))
        self.surface.update()

    def _sentence(self, found: tuple[Reading, ...]) -> str:
        """Say which loads hardly stand out from which skin, and how the others do."""
        weak = [one for one in found if not one.reads]
        least = min(found, key=lambda one: max(one.rim, one.heel), default=None)
        if least is None:
            return phrase("There is no stroke yet.")
        words = phrase("Contrast ratios by the WCAG formula, predicted for an even coat.") + " "
        if self._plan.light is not Light.DAYLIGHT:
            words += phrase("As they are seen in this light: {light}.", light=named(self._plan.light)) + " "
        if not weak:
            return words + phrase(
                "Every load stands out by {rim:.1f} : 1 or more on all five skins.", rim=max(least.rim, least.heel)
            )
        names = {stroke.id: stroke.name for stroke in self._plan.strokes}
        told = "; ".join(
            phrase(
                "{names} on {ita_class} skin (rim {rim:.2f} : 1, heel {heel:.2f} : 1)",
                names=names.get(one.stroke, one.stroke),
                ita_class=ita_class(one.ita_deg),
                rim=one.rim,
                heel=one.heel,
            )
            for one in weak[:4]
        )
        return words + phrase("Below {reads:g} : 1 for rim and heel, outline them: {told}.", reads=READS, told=told)

    def _draw(self, painter: QPainter) -> None:
        area = QRectF(self.surface.rect())
        wide = area.width() / len(SKINS_ITA)
        for number, ita in enumerate(SKINS_ITA):
            box = QRectF(number * wide, 0, wide - 6, area.height() - px(24))
            foot = QRectF(box.left(), box.bottom() + 4, box.width(), px(18))
            draw_note(
                painter,
                foot,
                phrase("{ita_class}, ITA {ita:.0f}°", ita_class=ita_class(ita), ita=ita),
                Qt.AlignmentFlag.AlignCenter,
            )
            if self.found is None:
                continue
            image = to_image(self.found[0][number])
            scale = min(box.width() / image.width(), box.height() / image.height())
            size = QRectF(0, 0, image.width() * scale, image.height() * scale)
            size.moveCenter(box.center())
            painter.drawImage(size, image)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self._jobs.leave()
        super().closeEvent(event)


def _painted(plan: Plan, key: str, mat: str, report: Callable[[float, str], None]) -> _Found:
    pictures = []
    for number, ita in enumerate(SKINS_ITA):
        report(number / len(SKINS_ITA), phrase("painting on other skins"))
        here = on_skin(plan, ita)
        painted = ChartScene(_PX_PER_MM).paint(here, key, order=order_found(here, key), light=plan.light)
        skin = skin_bytes(here.skin, plan.light)
        pictures.append(chart_picture(chart_of(here, key), painted, skin, _PX_PER_MM, surround=mat, light=plan.light))
    return tuple(pictures), readings(plan)
