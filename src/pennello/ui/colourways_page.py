"""A design in other colours, beside what it is."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QGridLayout, QPushButton, QVBoxLayout, QWidget

from pennello.colour.families import ColourFamily
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan, skin_bytes
from pennello.design.scene import paint_all
from pennello.lay.engine import best
from pennello.lay.skin_film import Box
from pennello.phrases import named, phrase
from pennello.session.chart_scene import ChartScene, chart_picture
from pennello.session.jobs import Job
from pennello.session.order_pictures import order_found
from pennello.solve.colourways import Colourway, colourways, with_colourway
from pennello.solve.kit import AtHand
from pennello.ui.bench_model import BenchModel
from pennello.ui.plan_page import PlanPage, here_of
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.choice import ChoiceBox
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.paint import Picture, draw_note, to_image
from pennello.ui.widgets.plain import Label

_PICTURE_PX_PER_MM = 1.5
_Ways = tuple[AtHand, tuple[Colourway, ...], tuple[Picture, ...]]


class ColourwaysPage(PlanPage):
    """The same strokes in other colours, beside what they are."""

    def __init__(self, model: BenchModel, parent: QWidget) -> None:
        super().__init__(model, phrase("Colourways"), QSize(940, 640), parent)
        self.found: _Ways | None = None
        self.words.setObjectName("note")
        label = Label(phrase("Other colours; light rims stay light and dark heels dark."))
        self.head.addWidget(label)
        self.head.addStretch(1)
        self.colour = ChoiceBox()
        self.colour.setAccessibleName(phrase("Colour"))
        self.colour.setToolTip(phrase("What colour it should be; white, grey and black may stay"))
        self.colour.addItem(phrase("any colour"), None)
        for family in ColourFamily:
            self.colour.addItem(named(family), family)
        self.colour.activated.connect(lambda _: self.start())
        self.whole = ChoiceBox()
        self.whole.setAccessibleName(phrase("What changes"))
        self.whole.addItem(phrase("the whole plan"), False)
        self.whole.addItem(phrase("this stroke only"), True)
        self.whole.activated.connect(lambda _: self.start())
        self.head.addWidget(self.colour)
        self.head.addWidget(self.whole)
        self.head.addWidget(self.kit)
        grid = QGridLayout()
        grid.setSpacing(10)
        self.pictures: list[Surface] = []
        self.takes: list[QPushButton] = []
        for number in range(4):
            grid.addLayout(self._one(number), number // 2, number % 2)
        self.column.addLayout(grid, 1)
        self.add_foot()
        self.start()

    def _one(self, number: int) -> QVBoxLayout:
        column = QVBoxLayout()
        surface = Surface(self)

        def draw(painter: QPainter) -> None:
            self._draw(painter, number)

        surface.draw = draw
        self.pictures.append(surface)
        column.addWidget(surface, 1)
        if number:
            take = QPushButton(phrase("Take"))
            take.setProperty("chip", True)
            take.setEnabled(False)
            take.clicked.connect(lambda _=False, at=number: self.take_way(at - 1))
            self.takes.append(take)
            column.addWidget(take)
        else:
            now = Label(phrase("as it is"))
            now.setAlignment(Qt.AlignmentFlag.AlignCenter)
            now.setMinimumHeight(px(32))
            column.addWidget(now)
        return column

    def start(self) -> None:
        """Search for the plan as it is."""
        plan, kit = self.model.document.committed, self.kit.isChecked()
        colour = self.colour.currentData()
        strokes = [self.model.stroke.id] if self.whole.currentData() and self.model.stroke else []
        self.found = None
        for take in self.takes:
            take.setEnabled(False)
            take.setText("-")

        def work(job: Job[Any]) -> _Ways:
            here = here_of(plan, in_kit=kit)
            told: Callable[[float, str], None] = lambda part, words: job.report(0.6 * part, words)  # noqa: E731
            ways = colourways(plan, here, report=told, colour=colour, strokes=strokes)
            pictures = []
            for number, one in enumerate([plan, *(with_colourway(plan, way, here.by_name) for way in ways)]):
                job.report(0.6 + 0.1 * number, phrase("painting them"))
                pictures.append(_painted(one, job))
            return here, ways, tuple(pictures)

        self.run(work)

    def show_result(self, result: _Ways) -> None:
        """Show the ways."""
        self.found = result
        ways = result[1]
        names = self.model.plan
        self.words.setText(phrase("Taking one is a step that undo gives back; wishes follow the new paints."))
        for number, take in enumerate(self.takes):
            take.setEnabled(number < len(ways))
            take.setText(phrase("Take {ways}", ways=ways[number].name) if number < len(ways) else "-")
            if number < len(ways):
                take.setToolTip("\n".join(_exchanges(names, ways[number])))
        for surface in self.pictures:
            surface.update()

    def take_way(self, number: int) -> None:
        """Paint the plan in other colours, as a step."""
        if self.found is not None and number < len(self.found[1]):
            here, way = self.found[0], self.found[1][number]
            self.model.choose_pickup(None)
            self.model.edit(
                phrase("Colourway {way}", way=way.name), lambda plan, _: with_colourway(plan, way, here.by_name)
            )
            self.close()

    def _draw(self, painter: QPainter, number: int) -> None:
        area = QRectF(self.pictures[number].rect())
        if self.found is None or number >= len(self.found[2]):
            draw_note(painter, area, "" if self.busy else phrase("nothing more"))
            return
        image = to_image(self.found[2][number])
        scale = min(area.width() / image.width(), area.height() / image.height())
        size = QRectF(0, 0, image.width() * scale, image.height() * scale)
        size.moveCenter(area.center())
        painter.drawImage(size, image)
        painter.setPen(QPen(QColor(theme().line), 1))
        painter.drawRect(size)


def _exchanges(plan: Plan, way: Colourway) -> Iterator[str]:
    """Give a line for each exchange, and one for what stays."""
    cakes = {cake.id: cake.name for cake in plan.cakes}
    for old, new in way.exchanged:
        name = new.cake.name if new.cake is not None else new.name
        yield f"{cakes.get(old, old)} → {name}" if old != new.name else phrase("{name}, elsewhere on it", name=name)
    if way.staying:
        yield phrase("as before: {listed}", listed=", ".join(cakes.get(name, name) for name in way.staying))


def _painted(plan: Plan, job: Job[Any]) -> Picture:
    """Return the plan's first chart with its motifs, or where there are none its strokes on one skin."""
    if plan.motifs:
        key = plan.motifs[0].chart
        order = order_found(plan, key, job.check)
        painted = ChartScene(_PICTURE_PX_PER_MM).paint(plan, key, check=job.check, order=order, light=plan.light)
        skin = skin_bytes(plan.skin, plan.light)
        return chart_picture(
            chart_of(plan, key), painted, skin, _PICTURE_PX_PER_MM, surround=theme().mat, light=plan.light
        )
    film = paint_all(plan, _PICTURE_PX_PER_MM, best())
    return best().picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns))
