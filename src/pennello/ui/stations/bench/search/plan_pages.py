"""Pages about the whole plan: as few loads as can be, and other colours for the same design."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import closing
from datetime import date
from typing import Any

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QCloseEvent, QColor, QPainter, QPen
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.aim.comparison import compare
from pennello.aim.state import state_of
from pennello.colour.basis import small_basis
from pennello.colour.families import Family
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan, skin_bytes
from pennello.design.scene import paint_all
from pennello.files.picture import lab_bytes
from pennello.lay.engine import best
from pennello.lay.skin_film import Box
from pennello.session.chart_scene import ChartScene, chart_picture
from pennello.session.jobs import Job
from pennello.session.kit import KitSession
from pennello.solve.colourways import Colourway, colourways, with_colourway
from pennello.solve.kit import AtHand, at_hand
from pennello.solve.plan_loads import QUALITY_DE00, Advice, Served, advise, with_advice
from pennello.ui.stations.bench.model import BenchModel
from pennello.ui.stations.bench.search.card import Shown, source_of
from pennello.ui.stations.bench.search.page import Board
from pennello.ui.theme.style import theme
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import Picture, draw_note, to_image
from pennello.ui.widgets.plain import Label
from pennello.ui.work import Runner
from pennello.units import de_text

QUALITY = Quantity("How far a stroke may be off for the sake of fewer loads", 0.5, 40, 0.5, 1, " dE")
_PICTURE_PX_PER_MM = 1.5
_Ways = tuple[AtHand, tuple[Colourway, ...], tuple[Picture, ...]]


class PlanPage(QDialog):
    """A dialog with a job behind it."""

    def __init__(self, model: BenchModel, title: str, size: QSize, parent: QWidget) -> None:
        super().__init__(parent)
        self.model = model
        self.runner = Runner(model.searches, "plan", self)
        self.setWindowTitle(title)
        self.resize(size)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(16, 12, 16, 12)
        self.head = QHBoxLayout()
        self.column.addLayout(self.head)
        self.words = Label("")
        self.words.setWordWrap(True)
        self.words.setObjectName("headline")
        self.column.addWidget(self.words)
        self.kit = QCheckBox("my kit too")
        self.kit.setChecked(True)
        self.kit.setToolTip("Not only the plan's cakes; nothing that is retired or past its date")
        self.kit.toggled.connect(lambda _: self.start())
        self.runner.told.connect(self._tell)
        self.runner.ended.connect(self.show_result)
        self.runner.failed.connect(self.words.setText)

    def add_foot(self, *buttons: QPushButton) -> None:
        """Put progress, buttons and Close at the bottom."""
        self.bar = QProgressBar()
        self.bar.setFixedHeight(4)
        self.bar.setTextVisible(False)
        self.bar.setRange(0, 1000)
        self.column.addWidget(self.bar)
        self.runner.turned.connect(self.bar.setVisible)
        foot = QHBoxLayout()
        foot.addStretch(1)
        close = QPushButton("Close")
        close.setProperty("chip", True)
        close.clicked.connect(self.close)
        foot.addWidget(close)
        for button in buttons:
            foot.addWidget(button)
        self.column.addLayout(foot)

    @property
    def busy(self) -> bool:
        """Whether a search runs."""
        return self.runner.busy

    def start(self) -> None:
        """Begin anew; pages say what."""

    def run(self, work: Callable[[Job[Any]], Any]) -> None:
        """Let a worker do something."""
        self.runner.run(work)

    def _tell(self, part: float, words: str) -> None:
        self.bar.setValue(round(1000 * part))
        if words:
            self.words.setText(words[0].upper() + words[1:] + " ...")

    def show_result(self, result: Any) -> None:
        """Show the result; pages do."""

    def closeEvent(self, event: QCloseEvent) -> None:
        """Stop what runs."""
        self.runner.stop()
        super().closeEvent(event)


def _here(plan: Plan, *, in_kit: bool) -> AtHand:
    if not in_kit:
        return at_hand(plan)
    with closing(KitSession()) as session:
        return at_hand(plan, session.kit, date.today())


class LoadsPage(PlanPage):
    """As few loads as can be."""

    def __init__(self, model: BenchModel, parent: QWidget) -> None:
        super().__init__(model, "Fewer loads", QSize(900, 380), parent)
        self.advice: Advice | None = None
        self._at_hand: AtHand | None = None
        self.quality = NumberField(QUALITY)
        self.quality.show_amount(QUALITY_DE00)
        self.quality.edited.connect(lambda _: self.start())
        label = Label("Strokes that come near enough may share a load. Each may be off by")
        label.setBuddy(self.quality)
        self.head.addWidget(label)
        self.head.addWidget(self.quality)
        self.head.addStretch(1)
        self.head.addWidget(self.kit)
        self.board = Board("Loads in the order in which to load them")
        self.column.addWidget(self.board, 1)
        self.note = Label("")
        self.note.setObjectName("note")
        self.column.addWidget(self.note)
        self.take = QPushButton("Take these loads")
        self.take.setProperty("main", True)
        self.take.clicked.connect(self.take_loads)
        self.add_foot(self.take)
        self.start()

    def start(self) -> None:
        """Search for the plan as it is."""
        plan, kit, quality = self.model.document.committed, self.kit.isChecked(), self.quality.amount
        self.take.setEnabled(False)

        def work(job: Job[Any]) -> tuple[AtHand, Advice, list[Shown]]:
            here = _here(plan, in_kit=kit)
            advice = advise(plan, here, quality, report=job.report)
            taken = with_advice(plan, advice, here.by_name)
            return here, advice, [_shown(plan, taken, one) for one in advice.served]

        self.run(work)

    def show_result(self, result: tuple[AtHand, Advice, list[Shown]]) -> None:
        """Show loads and what they save."""
        self._at_hand, self.advice, shown = result
        advice, worst = result[1], result[1].worst
        self.words.setText(
            f"{advice.loads} loads instead of {advice.before}"
            + (f", worst stroke {de_text(worst.mean_de00)}" if worst else "")
        )
        self.note.setText(
            f"{advice.rinses} rinses instead of {advice.rinses_before}, {advice.brush_changes} brush changes instead "
            f"of {advice.brush_changes_before}; found by {advice.by}; a forecast. A brush may be turned over."
        )
        self.board.show_finds(shown)
        for card in self.board.cards:
            card.setEnabled(False)
        self.take.setEnabled(True)

    def take_loads(self) -> None:
        """Load all strokes so, as a step."""
        advice, here = self.advice, self._at_hand
        if advice is not None and here is not None:
            self.model.choose_pickup(None)
            self.model.edit("Fewer loads", lambda plan, _: with_advice(plan, advice, here.by_name))
            self.close()


def _shown(before: Plan, plan: Plan, served: Served) -> Shown:
    """Return what a card shows of a load: the first stroke's ribbons, and all strokes that it serves."""
    brush, names = plan.brush(served.load.brush), [share.stroke for share in served.shares]
    attempt = plan.attempt(names[0])
    seen = compare(attempt.lay(1.0, small_basis(8)), attempt)
    paints = {paint.id: paint for paint in plan.paints}
    source, cake, places = source_of(served.load.pickups, served.load.cakes, paints, brush)
    worst = max(share.mean_de00 for share in served.shares)
    visits = "1 visit" if served.visits == 1 else f"{served.visits} visits"
    lines = [
        f"{before.stroke(share.stroke).name} {'as it is' if share.own else de_text(share.mean_de00)}"
        for share in served.shares
    ]
    ribbons = (lab_bytes(seen.wanted_lab), lab_bytes(seen.lab.mean(axis=0)))
    state = state_of(seen, attempt.wanted).value
    title = f"{brush.name}, {source}"
    return Shown(title, cake, paints, places, ribbons, state, f"{de_text(worst)} · {visits}", lines)


class ColourwaysPage(PlanPage):
    """The same strokes in other colours, beside what they are."""

    def __init__(self, model: BenchModel, parent: QWidget) -> None:
        super().__init__(model, "Colourways", QSize(940, 640), parent)
        self.found: _Ways | None = None
        self.words.setObjectName("note")
        label = Label("Other colours; light rims stay light and dark heels dark.")
        self.head.addWidget(label)
        self.head.addStretch(1)
        self.colour = QComboBox()
        self.colour.setAccessibleName("Colour")
        self.colour.setToolTip("What colour it should be; white, grey and black may stay")
        self.colour.addItem("any colour", None)
        for family in Family:
            self.colour.addItem(family.value, family)
        self.colour.activated.connect(lambda _: self.start())
        self.whole = QComboBox()
        self.whole.setAccessibleName("What changes")
        self.whole.addItem("the whole plan", False)
        self.whole.addItem("this stroke only", True)
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
        surface.draw = lambda painter, at=number: self._draw(painter, at)
        self.pictures.append(surface)
        column.addWidget(surface, 1)
        if number:
            take = QPushButton("Take")
            take.setProperty("chip", True)
            take.setEnabled(False)
            take.clicked.connect(lambda _=False, at=number: self.take_way(at - 1))
            self.takes.append(take)
            column.addWidget(take)
        else:
            now = Label("as it is")
            now.setAlignment(Qt.AlignmentFlag.AlignCenter)
            now.setMinimumHeight(32)
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
            here = _here(plan, in_kit=kit)
            told: Callable[[float, str], None] = lambda part, words: job.report(0.6 * part, words)  # noqa: E731
            ways = colourways(plan, here, report=told, colour=colour, strokes=strokes)
            pictures = []
            for number, one in enumerate([plan, *(with_colourway(plan, way, here.by_name) for way in ways)]):
                job.report(0.6 + 0.1 * number, "painting them")
                pictures.append(_painted(one))
            return here, ways, tuple(pictures)

        self.run(work)

    def show_result(self, result: _Ways) -> None:
        """Show the ways."""
        self.found = result
        ways = result[1]
        names = self.model.plan
        self.words.setText("Taking one is a step that undo gives back; wishes follow the new paints.")
        for number, take in enumerate(self.takes):
            take.setEnabled(number < len(ways))
            take.setText(f"Take {ways[number].name}" if number < len(ways) else "-")
            if number < len(ways):
                take.setToolTip("\n".join(_exchanges(names, ways[number])))
        for surface in self.pictures:
            surface.update()

    def take_way(self, number: int) -> None:
        """Paint the plan in other colours, as a step."""
        if self.found is not None and number < len(self.found[1]):
            here, way = self.found[0], self.found[1][number]
            self.model.choose_pickup(None)
            self.model.edit(f"Colourway {way.name}", lambda plan, _: with_colourway(plan, way, here.by_name))
            self.close()

    def _draw(self, painter: QPainter, number: int) -> None:
        area = QRectF(self.pictures[number].rect())
        if self.found is None or number >= len(self.found[2]):
            draw_note(painter, area, "" if self.busy else "nothing more")
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
        yield f"{cakes.get(old, old)} → {name}" if old != new.name else f"{name}, elsewhere on it"
    if way.staying:
        yield f"as before: {', '.join(cakes.get(name, name) for name in way.staying)}"


def _painted(plan: Plan) -> Picture:
    """Return the plan's first chart with its motifs, or where there are none its strokes on one skin."""
    if plan.motifs:
        key = plan.motifs[0].chart
        painted = ChartScene(_PICTURE_PX_PER_MM).paint(plan, key)
        over = [overlay for overlay in plan.overlays if overlay.chart == key]
        skin = skin_bytes(plan.skin)
        return chart_picture(chart_of(plan, key), painted, skin, _PICTURE_PX_PER_MM, over, surround=theme().mat)
    film = paint_all(plan, _PICTURE_PX_PER_MM, best())
    return best().picture(film, Box(0, film.canvas.rows, 0, film.canvas.columns))
