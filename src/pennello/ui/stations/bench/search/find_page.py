"""Find a load: which cake, where on it, which brush, for what the stroke should look like."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QHBoxLayout

from pennello.aim.reasons import reason_of
from pennello.design.edits import with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.files.picture import lab_bytes
from pennello.kit.paint import Near, Paint
from pennello.phrases import phrase, plural
from pennello.session.jobs import Job
from pennello.solve.find_load import find_load
from pennello.solve.finds import Filters, Find, FoundLoads
from pennello.solve.for_plan import with_find
from pennello.solve.kit import AtHand, at_hand
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.search.card import ShownFind, source_of
from pennello.ui.stations.bench.search.page import Board, SearchPage, read_kit
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit, de_text

NEAR_WORDS = {Near.SKIN: phrase("plain skin"), Near.EYE: phrase("the eye area"), Near.LIPS: phrase("lips")}
_Key = tuple[str, object, object, object]


class FindPage(SearchPage):
    """The board of loads."""

    def __init__(self, model: BenchModel) -> None:
        super().__init__(model, phrase("Find a load"), phrase("Search again"))
        self.finds: tuple[Find, ...] = ()
        self._here: AtHand | None = None
        self._key: _Key | None = None
        grid = QGridLayout()
        grid.setVerticalSpacing(0)
        self.kit, self.one_cake, self.one_visit, self.keep_brush = (
            self._check(words, hint)
            for words, hint in (
                (
                    phrase("my kit too"),
                    phrase("Not only the plan's cakes and brushes; nothing that is retired or past its date"),
                ),
                (phrase("this cake only"), phrase("Only the cake that lies on the Bench")),
                (phrase("one visit only"), phrase("No touches with a corner afterwards")),
                (phrase("keep the brush"), phrase("No other width")),
            )
        )
        self.kit.setChecked(True)
        for number, box in enumerate((self.kit, self.one_cake, self.one_visit, self.keep_brush)):
            grid.addWidget(box, number // 2, number % 2)
        self.side.addLayout(grid)
        row = QHBoxLayout()
        label = Label(phrase("It lies near"))
        label.setObjectName("note")
        self.near: QComboBox = choice(phrase("What the stroke lies near: labels of paints are obeyed"))
        for near, words in NEAR_WORDS.items():
            self.near.addItem(words, near)
        self.near.activated.connect(self._set_near)
        label.setBuddy(self.near)
        row.addWidget(label)
        row.addWidget(self.near, 1)
        self.side.addLayout(row)
        self.add_foot()
        self.board = Board(phrase("Loads, nearest first"))
        self.board.taken.connect(self.take)
        self.right.addWidget(self.board)

    def _check(self, words: str, hint: str) -> QCheckBox:
        box = QCheckBox(words)
        box.setToolTip(hint)
        box.toggled.connect(lambda _: self.start())
        return box

    # --- searching ---

    def refresh(self) -> None:
        """Follow the model: another stroke or another wish begins a new search."""
        stroke = self.model.stroke
        if stroke is None or not self.isVisible():
            return
        with QSignalBlocker(self.near):
            self.near.setCurrentIndex(list(NEAR_WORDS).index(stroke.near))
        if self._key != self._now(stroke):
            self.start()

    def _now(self, stroke: PlanStroke) -> _Key:
        return (stroke.id, stroke.wanted, stroke.near, self.model.plan.skin)

    def start(self) -> None:
        """Search for the stroke on the Bench."""
        stroke, plan, kit = self.model.stroke, self.model.document.committed, self.kit.isChecked()
        if stroke is None or not self.isVisible():
            return
        cake = self.model.cake
        rules = Filters(
            cake.id if self.one_cake.isChecked() and cake else "",
            self.one_visit.isChecked(),
            self.keep_brush.isChecked(),
            stroke.near,
        )
        self._key = self._now(stroke)
        self._show(())
        self.run(lambda job: _searched(job, plan, stroke.id, rules, in_kit=kit))

    def show_found(self, found: Any) -> None:
        """Show the best so far."""
        self._here, finds = found
        self._show(finds)

    def show_result(self, result: tuple[AtHand, FoundLoads]) -> None:
        """Show the board, and how much was looked at."""
        self._here, board = result
        self._show(board.finds)
        places = f"{board.searched:,}".replace(",", " ")
        told = [plural(board.searched, "{places} place looked at.", "{places} places looked at.", places=places)]
        told += [phrase("Left out: {left_out}", left_out=one) for one in board.left_out[:1]]
        self.words.setText(" ".join(told))

    def _show(self, finds: tuple[Find, ...]) -> None:
        self.finds = tuple(find.without_films() for find in finds)
        paints = self._here.by_name if self._here else {}
        self.board.show_finds([shown_of(find, paints, self.model.unit) for find in finds])

    # --- edits ---

    def take(self, number: int) -> None:
        """Load the stroke so, as a step."""
        stroke, here = self.model.stroke, self._here
        if stroke is not None and here is not None and number < len(self.finds):
            find = self.finds[number]
            self.model.choose_pickup(None)
            self.model.edit(phrase("Take a load"), lambda plan, one: with_find(plan, one.id, find, here.by_name))
            self.words.setText(
                phrase("{shown_of} is on the Bench.", shown_of=shown_of(find, here.by_name, self.model.unit).title)
            )

    def _set_near(self, at: int) -> None:
        near = self.near.itemData(at)
        self.model.edit(phrase("What it lies near"), lambda plan, one: with_stroke(plan, replace(one, near=near)))


def _searched(job: Job[Any], plan: Plan, name: str, rules: Filters, *, in_kit: bool) -> tuple[AtHand, FoundLoads]:
    here = at_hand(plan, read_kit() if in_kit else None, date.today(), rules.near)

    def show(finds: tuple[Find, ...]) -> None:
        job.found.emit((here, finds))

    return here, find_load(plan, name, here, rules, report=job.report, show=show)


def shown_of(find: Find, paints: dict[str, Paint], unit: LengthUnit) -> ShownFind:
    """Return what a card shows of a find."""
    known = {**find.attempt.paints, **paints}
    title, cake, places = source_of(find.recipe.pickups, find.cakes, known, find.brush)
    lines = [reason_of(find.seen, find.attempt, find.laid, unit)]
    if find.forgiveness is not None:
        lines.append(phrase("holds in {share:.0%} of tries", share=find.forgiveness.share))
    if find.costs:
        lines.append(", ".join(find.costs))
    ribbons = (lab_bytes(find.seen.wanted_lab), lab_bytes(find.seen.lab.mean(axis=0)))
    return ShownFind(title, cake, known, places, ribbons, find.state.value, f"{de_text(find.mean_de00)}", lines)
