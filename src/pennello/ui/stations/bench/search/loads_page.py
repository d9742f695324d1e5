"""As few loads for a plan as can be."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QPushButton, QWidget

from pennello.aim.comparison import compare
from pennello.aim.state import state_of
from pennello.colour.basis import small_basis
from pennello.design.plan import Plan
from pennello.files.picture import lab_bytes
from pennello.phrases import phrase, plural
from pennello.session.jobs import Job
from pennello.solve.kit import AtHand
from pennello.solve.plan_loads import QUALITY_DE00, Advice, Served, advise, with_advice
from pennello.ui.bench_model import BenchModel
from pennello.ui.plan_page import PlanPage, here_of
from pennello.ui.stations.bench.search.card import ShownFind, source_of
from pennello.ui.stations.bench.search.page import Board
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label
from pennello.units import de_text

QUALITY = Quantity(phrase("How far a stroke may be off for the sake of fewer loads"), 0.5, 40, 0.5, 1, phrase(" dE"))


class LoadsPage(PlanPage):
    """As few loads as can be."""

    def __init__(self, model: BenchModel, parent: QWidget) -> None:
        super().__init__(model, phrase("Fewer loads"), QSize(900, 380), parent)
        self.advice: Advice | None = None
        self._at_hand: AtHand | None = None
        self.quality = NumberField(QUALITY)
        self.quality.show_amount(QUALITY_DE00)
        self.quality.edited.connect(lambda _: self.start())
        label = Label(phrase("Strokes that come near enough may share a load. Each may be off by"))
        label.setBuddy(self.quality)
        self.head.addWidget(label)
        self.head.addWidget(self.quality)
        self.head.addStretch(1)
        self.head.addWidget(self.kit)
        self.board = Board(phrase("Loads in the order in which to load them"))
        self.column.addWidget(self.board, 1)
        self.note = Label("")
        self.note.setObjectName("note")
        self.column.addWidget(self.note)
        self.take = QPushButton(phrase("Take these loads"))
        self.take.setProperty("main", True)
        self.take.clicked.connect(self.take_loads)
        self.add_foot(self.take)
        self.start()

    def start(self) -> None:
        """Search for the plan as it is."""
        plan, kit, quality = self.model.document.committed, self.kit.isChecked(), self.quality.amount
        self.take.setEnabled(False)

        def work(job: Job[Any]) -> tuple[AtHand, Advice, list[ShownFind]]:
            here = here_of(plan, in_kit=kit)
            advice = advise(plan, here, quality, report=job.report)
            taken = with_advice(plan, advice, here.by_name)
            return here, advice, [_shown(plan, taken, one) for one in advice.served]

        self.run(work)

    def show_result(self, result: tuple[AtHand, Advice, list[ShownFind]]) -> None:
        """Show loads and what they save."""
        self._at_hand, self.advice, shown = result
        advice, worst = result[1], result[1].worst
        told = plural(
            advice.loads, "{count} load instead of {before}", "{count} loads instead of {before}", before=advice.before
        )
        if worst:
            told = phrase("{told}, worst stroke {de}", told=told, de=de_text(worst.mean_de00))
        self.words.setText(told)
        self.note.setText(
            plural(
                advice.rinses,
                "{rinses} rinse instead of {rinses_before}, {brush_changes} brush changes instead of "
                "{brush_changes_before}; found by {by}; a forecast. A brush may be turned over.",
                "{rinses} rinses instead of {rinses_before}, {brush_changes} brush changes instead of "
                "{brush_changes_before}; found by {by}; a forecast. A brush may be turned over.",
                rinses=advice.rinses,
                rinses_before=advice.rinses_before,
                brush_changes=advice.brush_changes,
                brush_changes_before=advice.brush_changes_before,
                by=advice.by,
            )
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
            self.model.edit(phrase("Fewer loads"), lambda plan, _: with_advice(plan, advice, here.by_name))
            self.close()


def _shown(before: Plan, plan: Plan, served: Served) -> ShownFind:
    """Return what a card shows of a load: the first stroke's ribbons, and all strokes that it serves."""
    brush, names = plan.brush(served.load.brush), [share.stroke for share in served.shares]
    attempt = plan.attempt(names[0])
    seen = compare(attempt.lay(1.0, small_basis(8)), attempt)
    paints = plan.paints_by_id
    source, cake, places = source_of(served.load.pickups, served.load.cakes, paints, brush)
    worst = max(share.mean_de00 for share in served.shares)
    visits = (
        "1 visit"
        if served.visits == 1
        else plural(served.visits, "{visits} visit", "{visits} visits", visits=served.visits)
    )
    lines = [
        f"{before.stroke(share.stroke).name} {phrase('as it is') if share.own else de_text(share.mean_de00)}"
        for share in served.shares
    ]
    ribbons = (lab_bytes(seen.wanted_lab), lab_bytes(seen.lab.mean(axis=0)))
    state = state_of(seen, attempt.wanted).value
    title = f"{brush.name}, {source}"
    return ShownFind(title, cake, paints, places, ribbons, state, f"{de_text(worst)} · {visits}", lines)
