"""What is worked out on a chart from what is in the hand: lines round it, grounds, fills, one stroke that fills."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from pennello.design.computing import LARGE, MARGIN_MM, OFF_MM, Computed, Computing, LaidBy
from pennello.design.gaps import with_gaps_filled
from pennello.design.line_work import look_of, with_usual_line_load
from pennello.design.on_chart import with_computed
from pennello.design.placed import SINGLE
from pennello.design.plan import Plan
from pennello.design.pulled import with_stroke_for
from pennello.lay.stroke import Stroke
from pennello.phrases import named, phrase
from pennello.ui.stations.chart.loads_page import LoadShelf
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.widgets.asking import ask_amount
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.passing import goes_when_closed

OUTLINE_OFF = Quantity(phrase("From the contour to the middle of the line"), *OFF_MM, 0.5, 1, length=True)
GROUND_MARGIN = Quantity(phrase("How far it reaches"), *MARGIN_MM, 1, 0, length=True)


class WorkingOut(QObject):
    """Works things out with the load that is chosen on the shelf.

    Signals
    -------
    said(str)
    """

    said = Signal(str)

    def __init__(self, model: ChartModel, shelf: LoadShelf, parent: QWidget) -> None:
        super().__init__(parent)
        self._model, self._shelf, self._parent = model, shelf, parent

    def ask(self, kind: Computing) -> None:
        """Ask how far from the piece in the hand, and work out an outline, a ground or a fill."""
        if kind is Computing.FILL:
            self.work_out(kind)
            return
        asked = {Computing.OUTLINE: (OUTLINE_OFF, 1.0), Computing.GROUND: (GROUND_MARGIN, 10.0)}
        quantity, usual = asked.get(kind, (OUTLINE_OFF, -1.2))
        value = ask_amount(self._parent, named(kind), quantity, usual, self._model.unit)
        if value is not None:
            self.work_out(kind, value)

    def work_out(self, kind: Computing, far_mm: float = 1.0) -> None:
        """Work out an outline of the part in the hand, the ground round it, or the fill of what its line encloses.

        It is drawn with the load for lines that is chosen on the shelf, or the usual one; where a broader one is chosen
        there, that goes over what is large.
        """
        chosen, shelf = self._model.seated, self._shelf.load
        if chosen is None:
            return
        border = chosen.place.stroke(chosen.way).path if kind is Computing.FILL and chosen.way is not None else None

        def make(plan: Plan) -> Plan:
            plan, load = with_usual_line_load(plan, shelf)
            broad = shelf and plan.brush(plan.stroke(shelf).brush).width_mm > look_of(plan, load)[1]
            large = {LARGE: shelf} if kind in (Computing.GROUND, Computing.FILL) and broad else {}
            of = () if kind is Computing.FILL else (chosen.part or chosen.id,)
            off, margin = (1.0, far_mm) if kind is Computing.GROUND else (far_mm, 10.0)
            made = Computed(kind, of, off, margin, border)
            name = f"{chosen.name}, {named(kind)}"
            return with_computed(plan, made, {SINGLE: load, **large}, self._model.key, name, chosen.part)[0]

        self._model.edit(phrase("Work it out"), make)

    def fill_gaps(self) -> None:
        """Fill the holes between parts with dots and drops, and take them in the hand; or say that there are none."""
        key, shelf = self._model.key, self._shelf.load
        plan, load = with_usual_line_load(self._model.document.committed, shelf)
        plan, name = with_gaps_filled(plan, key, load)
        if not name:
            self.said.emit(phrase("There are no gaps between the parts of this chart that a dot or a drop would fill."))
            return
        self._model.edit(phrase("Fill the gaps"), lambda _: plan)
        self._model.choose(name)

    def fill_zone(self, zone: str) -> None:
        """Fill a zone or closed frame of the chart with the load that is chosen on the shelf, patted with a sponge."""
        shelf, key = self._shelf.load, self._model.key
        made: list[str] = []

        def make(plan: Plan) -> Plan:
            load = shelf
            if not load:
                plan, load = with_usual_line_load(plan)
            pressed = plan.brush(plan.stroke(load).brush).kind.pressed
            by = LaidBy.PATTED if pressed else LaidBy.PULLED
            plan, name = with_computed(plan, Computed(Computing.FILL, zone=zone, by=by), {SINGLE: load}, key, zone)
            made.append(name)
            return plan

        self._model.edit(phrase("Fill a place"), make)
        if made:
            self._model.choose(made[-1])

    def show_fillings(self) -> None:
        """Look for one stroke that fills what the line in the hand encloses, the load on the shelf first."""
        from pennello.ui.stations.chart.filling_page import FillingPage  # noqa: PLC0415 - only when wanted

        chosen = self._model.seated
        if chosen is None:
            return
        self.fillings = FillingPage(self._model.document.committed, chosen, self._shelf.load, self._parent)
        goes_when_closed(self.fillings)
        self.fillings.taken.connect(lambda load, stroke: self.put_for(chosen.id, load, stroke))
        self.fillings.show()

    def put_for(self, drawn: str, load: str, stroke: Stroke) -> None:
        """Put a stroke in the place of a drawn line, and take it in the hand."""
        found: list[str] = []

        def make(plan: Plan) -> Plan:
            plan, name = with_stroke_for(plan, drawn, load, stroke)
            found.append(name)
            return plan

        self._model.edit(phrase("One stroke that fills it"), make)
        if found:
            self._model.choose(found[-1])
