"""Design a cake: for the stroke on the Bench, or one for several strokes."""

from __future__ import annotations

from datetime import date
from typing import Any

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QCheckBox, QGridLayout, QMenu

from pennello.aim.state import state_of
from pennello.design.plan import Plan, skin_spectrum
from pennello.files.picture import lab_bytes
from pennello.kit.paint import Paint
from pennello.phrases import phrase, plural
from pennello.session.jobs import Job
from pennello.solve.design_cake import DesignedCake, Terms, design_cake, why_not
from pennello.solve.for_plan import Trial, look_of, tried_for_real, with_design
from pennello.solve.forgiveness import Forgiveness, forgive
from pennello.solve.kit import stock
from pennello.ui.bench_model import BenchModel
from pennello.ui.stations.bench.search.card import ShownFind
from pennello.ui.stations.bench.search.page import Board, SearchPage, read_kit
from pennello.ui.widgets.menus import empty_menu, menu_button
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.plain import Label
from pennello.units import LengthUnit, de_text, length_text

STRIPES = Quantity(phrase("Stripes at most"), 2, 7, 1, 0, phrase(" stripes"))
PAN = Quantity(phrase("Width of the pan; 0 for what the brush needs"), 0, 300, 1, 1, length=True)
_TRIES = 100

_Rated = tuple[DesignedCake, Plan, str, tuple[Trial, ...], Forgiveness | None]


class DesignPage(SearchPage):
    """The board of cakes."""

    def __init__(self, model: BenchModel) -> None:
        super().__init__(model, phrase("Design a cake"), phrase("Design"))
        self.rated: tuple[_Rated, ...] = ()
        self._strokes: tuple[str, ...] = ()
        self._others: set[str] = set()
        self._kept: set[str] = set()
        self.stripes, self.pan = NumberField(STRIPES), NumberField(PAN)
        self.stripes.show_amount(5)
        self.pan.setSpecialValueText(phrase("as needed"))
        self.exactly = QCheckBox(phrase("just so many"))
        self.kit = QCheckBox(phrase("my kit's paints"))
        self.kit.setToolTip(phrase("Not only the plan's paints; nothing that is retired or past its date"))
        self.kit.setChecked(True)
        self.head.addWidget(self.kit)
        self.also = menu_button(
            phrase("Also for ..."), phrase("One cake for several strokes: the chosen ones count alike")
        )
        self.keep = menu_button(phrase("Keep ..."), phrase("Paints that must be in it"))
        self.also.menu().aboutToShow.connect(self._list_strokes)
        self.keep.menu().aboutToShow.connect(self._list_paints)
        grid = QGridLayout()
        grid.setVerticalSpacing(2)
        for row, (words, field) in enumerate(((phrase("At most"), self.stripes), (phrase("Pan"), self.pan))):
            label = Label(words)
            label.setObjectName("note")
            label.setBuddy(field)
            grid.addWidget(label, row, 0)
            grid.addWidget(field, row, 1)
        grid.addWidget(self.exactly, 0, 2, 1, 2)
        grid.addWidget(self.also, 1, 2)
        grid.addWidget(self.keep, 1, 3)
        self.side.addLayout(grid)
        self.add_foot()
        self.board = Board(phrase("Cakes, nearest first"))
        self.board.taken.connect(self.take)
        self.right.addWidget(self.board)

    def _list_strokes(self) -> None:
        here = self.model.stroke
        self._list(
            self.also.menu(),
            [(one.name, one.id) for one in self.model.plan.strokes if here is None or one.id != here.id],
            self._others,
        )

    def _list_paints(self) -> None:
        cake = self.model.cake
        names = cake.paints if cake else [paint.id for paint in self.model.plan.paints]
        self._list(self.keep.menu(), [(self.model.plan.paint(name).name, name) for name in names], self._kept)

    @staticmethod
    def _list(menu: QMenu, items: list[tuple[str, str]], chosen: set[str]) -> None:
        empty_menu(menu)
        for words, key in items:
            action = QAction(words, menu)
            action.setCheckable(True)
            action.setChecked(key in chosen)
            action.toggled.connect(lambda on, name=key: chosen.add(name) if on else chosen.discard(name))
            menu.addAction(action)

    # --- searching ---

    def refresh(self) -> None:
        """Follow the model: cakes for another stroke are taken off the board."""
        stroke = self.model.stroke
        self.pan.show_unit(self.model.unit)
        if stroke is None or (self._strokes and self._strokes[0] != stroke.id):
            self.stop()
            self._show(())
            self._strokes = ()
            self._others.clear()
            self._kept.clear()
        if stroke is not None and not self._strokes and not self.busy:
            self.words.setText(phrase("Stripes for {stroke}, as you wish for it.", stroke=stroke.name))

    def start(self) -> None:
        """Design for the stroke on the Bench and those chosen with it."""
        stroke, plan = self.model.stroke, self.model.document.committed
        if stroke is None:
            return
        known = {one.id for one in plan.strokes}
        self._strokes = (stroke.id, *(name for name in sorted(self._others) if name in known))
        pan = self.pan.amount if self.pan.amount > 0 else None
        keep, exactly = tuple(sorted(self._kept)), self.exactly.isChecked()
        count, kit, names = round(self.stripes.amount), self.kit.isChecked(), self._strokes

        def work(job: Job[Any]) -> tuple[tuple[_Rated, ...], str]:
            return _designed(job, plan, names, Terms(count, exactly, pan, keep), in_kit=kit)

        self._show(())
        self.run(work)

    def show_found(self, found: Any) -> None:
        """Show the best so far, before they are tried."""
        self._show(found)

    def show_result(self, result: tuple[tuple[_Rated, ...], str]) -> None:
        """Show the cakes, and why none can do it if so."""
        self._show(result[0])
        self.words.setText(result[1] or phrase("Click a cake to make it one of the plan, with its cut list at Make."))

    def _show(self, rated: tuple[_Rated, ...]) -> None:
        self.rated = rated
        self.board.show_finds([_shown(one, self.model.unit) for one in rated])

    def take(self, number: int) -> None:
        """Make a cake of the plan of it and load the strokes from it, as a step."""
        if number < len(self.rated):
            design, names = self.rated[number][0], self._strokes
            self.model.choose_pickup(None)
            self.model.edit(phrase("Make a designed cake"), lambda plan, _: with_design(plan, names, design)[0])
            self.words.setText(
                phrase("It is a cake of the plan now, and the stroke is loaded from it. Make has its cut list.")
            )


def _designed(
    job: Job[Any], plan: Plan, names: tuple[str, ...], terms: Terms, *, in_kit: bool
) -> tuple[tuple[_Rated, ...], str]:
    strokes = [plan.stroke(name) for name in names]
    kit = read_kit() if in_kit else None
    paints: list[Paint] = [
        paint for paint in stock(plan, kit, date.today()) if all(paint.allowed(one.near) for one in strokes)
    ]
    known = {paint.id: paint for paint in (*paints, *plan.paints)}
    looks = [look_of(plan, stroke, known) for stroke in strokes]
    skin = skin_spectrum(plan.skin)

    def show(designs: tuple[DesignedCake, ...]) -> None:
        job.found.emit(tuple(_rated(plan, names, design, tries=0) for design in designs[:1]))

    designs = design_cake(paints, looks, skin, terms, report=lambda p, w: job.report(0.9 * p, w), show=show)
    rated = []
    for number, design in enumerate(designs):
        job.report(0.9 + 0.1 * number / len(designs), phrase("trying them with a hand's slips"))
        rated.append(_rated(plan, names, design, tries=_TRIES))
    doubt = why_not(paints, looks[0], skin, strokes[0].wanted.tolerance_de00)
    return tuple(rated), doubt


def _rated(plan: Plan, names: tuple[str, ...], design: DesignedCake, tries: int) -> _Rated:
    made, cake = with_design(plan, names, design)
    trials = tried_for_real(made, names)
    return design, made, cake, trials, forgive(trials[0].attempt, plan.hand, tries) if tries else None


def _shown(rated: _Rated, unit: LengthUnit) -> ShownFind:
    design, plan, name, trials, forgiveness = rated
    cake, first = plan.cake(name), plan.stroke(trials[0].stroke)
    brush = plan.brush(first.brush)
    paints = plan.paints_by_id
    words = ", ".join(
        f"{paint.name} {length_text(width, unit)}" for paint, width in zip(design.paints, design.widths_mm, strict=True)
    )
    figure = f"{de_text(trials[0].seen.mean_de00)}"
    if len(trials) > 1:
        figure = " · ".join(f"{trial.seen.mean_de00:.1f}" for trial in trials) + " dE"
    lines = (
        [words] if forgiveness is None else [phrase("holds in {share:.0%} of tries", share=forgiveness.share), words]
    )
    seen = trials[0].seen
    ribbons = (lab_bytes(seen.wanted_lab), lab_bytes(seen.lab.mean(axis=0)))
    state = state_of(seen, first.wanted).value
    title = plural(
        len(design.paints),
        "{count} stripe, {width_mm} across",
        "{count} stripes, {width_mm} across",
        width_mm=length_text(cake.width_mm, unit),
    )
    return ShownFind(title, cake, paints, [(first.recipe.pickups[0], brush)], ribbons, state, figure, lines)
