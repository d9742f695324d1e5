"""At the right of the chart: the shelf of loaded brushes, the edge of each, when it is loaded anew."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QSignalBlocker, QSize, Signal
from PySide6.QtWidgets import (
    QBoxLayout,
    QComboBox,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.design.holds import FIVE, hold_of
from pennello.design.line_work import Taper, line_loads
from pennello.design.load_edits import followers, used_by, with_copy_of, with_habit, without_load, words_of
from pennello.design.on_chart import pieces_on
from pennello.design.part import PlanPart
from pennello.design.parts import listed
from pennello.design.plan import Plan, PlanStroke, Reload
from pennello.design.visits import lasting
from pennello.errors import PennelloError
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Stroke
from pennello.phrases import named, phrase, plural
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.chart.edge_icons import edge_icon
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.widgets.asking import ask_name
from pennello.ui.widgets.choice import choice, fill
from pennello.ui.widgets.hold_buttons import HoldButtons
from pennello.ui.widgets.plain import Label, Paragraph
from pennello.ui.widgets.reload_choice import ReloadChoice
from pennello.ui.widgets.true_icon import true_icon

TOLD = phrase(
    "A load is a brush with what one visit to the cakes puts on it. Pieces that follow each other with one share it."
)
_PULLS = phrase("Pull strokes on the chart with this load, held as the picture shows")
_DRAWS = phrase("Draw lines and dots on the chart with this load")
_PUTS_DOWN = phrase("The brush is in the hand: press on the chart and pull. Put it down to take pieces again")
_ICON, _HOLD = QSize(84, 22), QSize(42, 28)


class LoadShelf(QWidget):
    """Loads of the plan; the one that is chosen is pulled with, lays the piece in the hand, or is changed.

    Signals
    -------
    pulled(str, object)
        Strokes shall be pulled with a load in a hold.
    drawn(str, object)
        Lines shall be drawn with a load, thick and thin so.
    put_down
        The brush shall be put down.
    drawn_on
        The hand goes on drawing, and has the keys again.
    """

    pulled = Signal(str, object)
    drawn = Signal(str, object)
    put_down = Signal()
    drawn_on = Signal()

    def __init__(self, model: ChartModel, bench: BenchModel) -> None:
        super().__init__()
        self._model, self._bench = model, bench
        self._listed: object = None
        self._said_of: object = None
        self._holds: dict[str, Hold] = {}
        self.is_drawing: Callable[[], bool] = lambda: False
        words = Paragraph(TOLD)
        self.list = QListWidget()
        self.list.setIconSize(_ICON)
        self.list.setAccessibleName(phrase("Loads of the plan"))
        self.list.currentRowChanged.connect(lambda _: self._took_another())
        self.says = Label("")
        self.says.setWordWrap(True)
        self.says.setMinimumHeight(2 * self.says.fontMetrics().lineSpacing())
        self.reload = ReloadChoice(QBoxLayout.Direction.LeftToRight)
        self.reload.changed.connect(self._set)
        self.lay, self.more, self.gone = (
            QPushButton(phrase("Lay with it")),
            QPushButton(phrase("Copy")),
            QPushButton(phrase("Take out")),
        )
        self._build_drawing()
        self.lay.setToolTip(phrase("Lay the piece in the hand with this load"))
        self.more.setToolTip(phrase("A load like it, to be changed on the Bench"))
        self.gone.setToolTip(phrase("Take it out of the plan; nothing may be laid with it"))
        self.lay.clicked.connect(self.lay_chosen)
        self.more.clicked.connect(self.copy)
        self.gone.clicked.connect(self.remove)
        self._lay_out(words)

    def _build_drawing(self) -> None:
        """Make what a brush is taken in the hand with: how it is held or drawn with, and what that belongs to."""
        self.holds = HoldButtons(_HOLD, words=False)
        self.holds.chosen.connect(self._hold)
        self.taper: QComboBox = choice(phrase("Where lines are thick"))
        for taper in Taper:
            self.taper.addItem(phrase("lines: {taper}", taper=named(taper)), taper)
        self.taper.addItem(phrase("lines: as the hand presses"), None)
        self.taper.activated.connect(lambda _: self._draw_on())
        self.pull = QPushButton(phrase("Pull with it"))
        self.pull.setProperty("main", True)
        self.pull.clicked.connect(lambda _=False: self._draw_or_put_down())
        self.into: QComboBox = choice(phrase("The part that what you draw belongs to"))
        self.into.activated.connect(self._draw_into)

    def _lay_out(self, words: QWidget) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(words)
        column.addWidget(self.list, 1)
        column.addWidget(self.says)
        column.addWidget(self.reload)
        column.addWidget(self.holds)
        column.addWidget(self.taper)
        column.addWidget(self.into)
        for button in (self.lay, self.more, self.gone):
            button.setProperty("chip", True)
        for pair in ((self.pull, self.lay), (self.more, self.gone)):
            row = QHBoxLayout()
            for button in pair:
                row.addWidget(button)
            column.addLayout(row)

    @property
    def load(self) -> str:
        """The load that is chosen, or nothing."""
        strokes, row = self._model.plan.strokes, self.list.currentRow()
        return strokes[row].id if 0 <= row < len(strokes) else ""

    @property
    def hold(self) -> Hold | None:
        """How the chosen load is held: as last time, or as its trial stroke is; None for a touch."""
        if not self.load:
            return None
        trial = hold_of(self._model.plan.stroke(self.load).stroke)
        return self._holds.get(self.load, trial if trial in FIVE else None)

    @property
    def for_lines(self) -> bool:
        """Whether lines are drawn with the chosen load: that of a round or a liner."""
        return any(one.id == self.load for one in line_loads(self._model.plan))

    def _draw_or_put_down(self) -> None:
        if self.is_drawing():
            self.put_down.emit()
        else:
            self._draw()

    def _draw(self) -> None:
        taper = self.taper.currentData()
        if self.for_lines and taper is not None:
            self.drawn.emit(self.load, taper)
        else:
            self.pulled.emit(self.load, self.hold)

    def _draw_on(self) -> None:
        """Draw on with what is chosen now, where a brush is in the hand."""
        if self.load and self.is_drawing():
            self._draw()

    def _took_another(self) -> None:
        self._show()
        self._draw_on()

    def show_taper(self, taper: Taper) -> None:
        """Show where lines are thick."""
        self.taper.setCurrentIndex(self.taper.findData(taper))

    def show_drawing(self) -> None:
        """Say whether the brush is in the hand, and what it would do."""
        on, lines = self.is_drawing(), self.for_lines
        pull = phrase("Draw with it") if lines else phrase("Pull with it")
        self.pull.setText(phrase("Put it down") if on else pull)
        self.pull.setToolTip(_PUTS_DOWN if on else _DRAWS if lines else _PULLS)

    def _draw_into(self, row: int) -> None:
        part = self.into.itemData(row)
        if part is None:
            self._ask_part()
        else:
            self._model.draw_into(part)
        self._show_parts()
        if self.is_drawing():
            self.drawn_on.emit()

    def _ask_part(self) -> None:
        name = ask_name(self, phrase("New part"), phrase("What you call it"))
        if name:
            self._model.make_part(name)

    def _show_parts(self) -> None:
        """Offer all parts, and a new one."""
        plan, none = self._model.document.committed, phrase("what you draw: of no part")
        parts: list[tuple[str, object]] = [
            (phrase("what you draw: {part}", part=part.name), part.id)
            for _, part in listed(plan)
            if isinstance(part, PlanPart)
        ]
        fill(self.into, [(none, ""), *parts, (phrase("a new part ..."), None)], self._model.part)

    def _hold(self, hold: Hold) -> None:
        self._holds[self.load] = hold
        self._draw_on()

    def refresh(self) -> None:
        """Follow the model."""
        plan = self._model.plan
        looks = (plan.strokes, plan.cakes, plan.paints, plan.brushes, plan.motifs)
        if looks != self._listed:
            self._listed, kept = looks, self.list.currentRow()
            with QSignalBlocker(self.list):
                self.list.clear()
                for load in plan.strokes:
                    item = QListWidgetItem(true_icon(edge_icon(plan, load.id, _ICON)), _words(plan, load))
                    item.setToolTip(f"{plan.brush(load.brush).name}, {words_of(load.reload, load.reload_after)}")
                    self.list.addItem(item)
                self.list.setCurrentRow(min(max(kept, 0), len(plan.strokes) - 1))
        self._show()
        self._show_parts()

    def _show(self) -> None:
        plan, name = self._model.plan, self.load
        for widget in (self.reload, self.lay, self.more, self.gone, self.holds, self.pull):
            widget.setEnabled(bool(name))
        lines = self.for_lines
        self.taper.setVisible(lines)
        self.holds.setVisible(not lines)
        self.show_drawing()
        if not name:
            self.says.setText(phrase("No load yet: make a stroke on the Bench."))
            return
        load = plan.stroke(name)
        self._say(plan, load)
        self.reload.show_habit(load.reload, load.reload_after)
        self.holds.show_hold(self.hold)
        self.holds.draw(self._model.document.committed, name)
        self.lay.setEnabled(self._model.chosen is not None)
        self.gone.setEnabled(not used_by(plan, name) and not followers(plan, name))

    def _say(self, plan: Plan, load: PlanStroke) -> None:
        """Say at once how a load is used here; how long it lasts is worked out by a worker."""
        here = [piece.stroke for piece in pieces_on(plan, self._model.key) if piece.load == load.id]
        words = plural(
            len(here),
            "{brush}: {count} stroke on this chart",
            "{brush}: {count} strokes on this chart",
            brush=plan.brush(load.brush).name,
        )
        if not here:
            self._said_of = None
            self.says.setText(f"{words}.")
            return
        question = (load, tuple(here), plan.cakes, plan.paints, plan.brushes, plan.skin)
        if question == self._said_of:
            return
        self._said_of = question
        self.says.setText(phrase("{words}; how long one load lasts is worked out ...", words=words))

        def take(told: str) -> None:
            if self._said_of is question:
                self.says.setText(f"{told}.")

        self._model.tell(phrase("a load"), self, lambda: _lasting(words, plan, load, here), take)

    def _set(self, habit: Reload, count: int) -> None:
        name = self.load
        self._model.edit(
            phrase("When to reload"),
            lambda plan: with_habit(plan, {name}, habit, count),
            phrase("reload {name}", name=name),
        )

    def lay_chosen(self) -> None:
        """Lay the piece in the hand with the load that is chosen, all of it."""
        name = self.load
        self._model.edit_motif(
            phrase("Load of a piece"), lambda one: one.with_loads({role: name for role, _ in one.loads})
        )

    def copy(self) -> None:
        """Make a load like it, and put it on the Bench."""
        made: list[str] = []

        def change(plan: Plan) -> Plan:
            plan, new = with_copy_of(plan, self.load)
            made.append(new)
            return plan

        self._model.edit(phrase("Copy a load"), change)
        if made:
            self._bench.choose(made[-1])

    def remove(self) -> None:
        """Take it out of the plan."""
        name = self.load
        self._model.edit(phrase("Take a load out"), lambda plan: without_load(plan, name))


def _words(plan: Plan, load: PlanStroke) -> str:
    used = len(used_by(plan, load.id))
    told = plural(used, "{count} piece", "{count} pieces") if used else phrase("not used")
    return f"{load.name}\n{told}"


def _lasting(words: str, plan: Plan, load: PlanStroke, here: Sequence[Stroke]) -> str:
    """Return the words with how many strokes a load lasts for; them alone where that cannot be worked out."""
    try:
        counts = sorted({lasting(plan, load.id, stroke) for stroke in here[:12]})
    except PennelloError:
        return words
    low, high = counts[0], counts[-1]
    lasts = f"{low}" if low == high else phrase("{low} to {high}", low=low, high=high)
    return phrase("{words}; one load lasts for {lasts} of them (predicted)", words=words, lasts=lasts)
