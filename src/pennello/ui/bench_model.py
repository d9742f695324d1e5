"""What the Bench shows: the chosen stroke, its prediction, and edits of it at three speeds."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from pennello.aim.mend import Mend
from pennello.design.edits import mended, with_pickup, with_stroke
from pennello.design.plan import Plan, PlanStroke
from pennello.errors import PennelloError
from pennello.kit.applicator import Applicator, GradientAxis
from pennello.kit.cake import Cake
from pennello.lay.stroke import Stroke
from pennello.load.recipe import PickUp
from pennello.phrases import phrase
from pennello.session.document import Document
from pennello.session.forecast import Outcome, coarse, fine, roughly_judged
from pennello.session.jobs import Job, Jobs
from pennello.ui.binding import follow
from pennello.ui.work import Newest, begin, guarded
from pennello.units import LengthUnit

SETTLE_MS, STEP_SETTLES_MS = 140, 40
"""How long a hand that drags, and a step that is taken, may be followed by the next before it is judged, ms (defaults).

A key that is held down takes a step every 30 ms or so.
"""

StrokeChange = Callable[[Plan, PlanStroke], Plan]
"""Makes another plan of the committed one and its stroke on the Bench."""


class NothingThereError(PennelloError):
    """What is to be changed is not there, or no longer."""


class NoStrokeError(NothingThereError):
    """Something is asked of a stroke while the plan has none."""

    def __init__(self) -> None:
        super().__init__(phrase("There is no stroke in this plan yet; begin with a petal."))


class BenchModel(QObject):
    """Follows the document; predicts coarsely at once and finely, with the verdict, once the hand rests.

    Signals
    -------
    shown
        The plan, the stroke or the prediction is another one.
    rested(bool)
        Another station is shown, or this one again.
    judged
        The fine prediction with its verdict is there.
    chosen, pickup_chosen
        Another stroke is on the Bench, another of its pick-ups on the cake mat.
    boundary_hovered(int)
        The hand is near the loaded boundary with this number, or -1.
    """

    shown = Signal()
    rested = Signal(bool)
    judged = Signal()
    chosen = Signal()
    pickup_chosen = Signal()
    unit_changed = Signal()
    failed = Signal(str)
    boundary_hovered = Signal(int)

    def __init__(self, document: Document, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.document = document
        self.unit = LengthUnit.MM
        self.outcome: Outcome | None = None
        self.hovered = -1
        self.states: dict[str, str] = {}
        self._jobs = jobs
        self.searches = Jobs()  # a search must not keep the prediction waiting
        self._stroke = ""
        self._pickup: int | None = None
        self._found: tuple[Plan, str, PlanStroke | None] | None = None
        self._newest = Newest(jobs, "refine", self)
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.timeout.connect(self._refine)
        self._known: Plan | None = None
        self._resting = False
        self._stale = False
        follow(self, document.changed, self._predict)
        self._predict()

    # --- what is shown ---

    @property
    def plan(self) -> Plan:
        """The plan as shown."""
        return self.document.plan

    @property
    def stroke(self) -> PlanStroke | None:
        """The stroke on the Bench, if the plan has any."""
        plan = self.plan
        if self._found is None or self._found[0] is not plan or self._found[1] != self._stroke:
            first = plan.strokes[0] if plan.strokes else None
            found = next((one for one in plan.strokes if one.id == self._stroke), first)
            self._found = (plan, self._stroke, found)  # asked for some hundred times while a hand moves
        return self._found[2]

    @property
    def pickup_index(self) -> int:
        """Number of the pick-up that is edited; -1 where the load is only a leftover."""
        recipe = self._there.recipe
        wished = recipe.main if self._pickup is None else self._pickup
        return min(wished, len(recipe.pickups) - 1)

    @property
    def pickup(self) -> PickUp | None:
        """The pick-up that is edited on the cake: the one chosen, or the one that lays the window."""
        stroke = self.stroke
        return stroke.recipe.pickups[self.pickup_index] if stroke and stroke.recipe.pickups else None

    @property
    def cake(self) -> Cake | None:
        """The cake of that pick-up; None when it is taken from a pan."""
        pickup = self.pickup
        return self.plan.cake(pickup.cake) if pickup and pickup.cake else None

    @property
    def axis(self) -> GradientAxis:
        """Which way the edge runs."""
        return self.plan.axis(self._there.id)

    @property
    def edge_mm(self) -> float:
        """Length of the loaded edge, mm."""
        return self.brush.edge_mm(self.axis)

    def committed_pickup(self) -> PickUp:
        """Return the pick-up that is edited as it is without a preview: what a drag starts from."""
        return self.committed_stroke.recipe.pickups[self.pickup_index]

    def choose_pickup(self, index: int | None) -> None:
        """Put another pick-up on the cake mat; None for the one that lays the window."""
        if index != self._pickup:
            self._pickup = index
            self.pickup_chosen.emit()

    def set_pickup(self, label: str, merge: str = "", **changes: object) -> None:
        """Change the pick-up that is edited, as a step."""
        self.edit(label, pickup_change(self.pickup_index, **changes), merge)

    def set_number(self, label: str, name: str, value: float) -> None:
        """Change one number of the pick-up that is edited; quick changes of it become one step."""
        changes: dict[str, object] = {name: value}
        self.edit(label, pickup_changes(self.pickup_index, changes), name)

    def preview_pickup(self, **changes: object) -> None:
        """Show a change of the pick-up that is edited."""
        self.preview(pickup_change(self.pickup_index, **changes))

    @property
    def brush(self) -> Applicator:
        """The stroke's brush."""
        return self.plan.brush(self._there.brush)

    @property
    def _there(self) -> PlanStroke:
        stroke = self.stroke
        if stroke is None:
            raise NoStrokeError
        return stroke

    @property
    def committed_stroke(self) -> PlanStroke:
        """The stroke on the Bench as it is without a preview: what a drag starts from."""
        return self.document.committed.stroke(self._there.id)

    def choose(self, stroke: str) -> None:
        """Put another stroke on the Bench."""
        if stroke != self._stroke:
            self.document.preview(None)
            self._stroke = stroke
            self._pickup = None
            self._predict()
            self.chosen.emit()

    def set_unit(self, unit: LengthUnit) -> None:
        """Show lengths in this unit."""
        if unit is not self.unit:
            self.unit = unit
            self.unit_changed.emit()
            self._judge_soon()

    def hover(self, boundary: int) -> None:
        """Say which loaded boundary the hand is near."""
        if boundary != self.hovered:
            self.hovered = boundary
            self.boundary_hovered.emit(boundary)

    def stop(self) -> None:
        """Stop timers and work; the window closes."""
        self._settle.stop()
        self._newest.stop()
        self.searches.close()

    # --- edits ---

    def preview(self, change: StrokeChange) -> None:
        """Show what a change to the committed plan would give; one that cannot be changes nothing."""
        self._attempt(lambda: self.document.preview(self._changed_plan(change)))

    def edit(self, label: str, change: StrokeChange, merge: str = "") -> None:
        """Make a change a step."""
        self._attempt(lambda: self.document.edit(label, self._changed_plan(change), merge))

    def commit(self, label: str) -> None:
        """Make what is previewed a step."""
        self.document.commit(label)

    def cancel(self) -> None:
        """Give back what was there before the preview."""
        self.document.preview(None)

    def _changed_plan(self, change: StrokeChange) -> Plan:
        return change(self.document.committed, self.committed_stroke)

    def _attempt(self, act: Callable[[], None]) -> None:
        guarded(act, self.failed.emit)

    def apply(self, mend: Mend) -> None:
        """Apply a mend as a step."""
        self.edit(mend.words[0].upper() + mend.words[1:], lambda plan, stroke: mended(plan, stroke.id, mend))

    def try_mend(self, mend: Mend | None) -> None:
        """Show what a mend would do, or no longer."""
        if mend is None:
            self.cancel()
        else:
            self.preview(lambda plan, stroke: mended(plan, stroke.id, mend))

    def start_job(
        self, key: str, owner: QObject, work: Callable[[Job[Any]], Any], finished: Callable[[Any], object]
    ) -> None:
        """Let a worker do something; the one before with the same key is cancelled."""
        begin(self._jobs, key, owner, work, finished=finished, failed=self.failed.emit)

    # --- prediction ---

    def rest(self, resting: bool) -> None:  # noqa: FBT001 - said of a state
        """Leave off predicting while another station is shown, which has the workers then; take it up again after."""
        self._resting = resting
        self.rested.emit(resting)
        busy = self._settle.isActive() or self._newest.busy
        if resting:
            self._stale = self._stale or busy
            self._settle.stop()
            self._newest.stop()
            self._jobs.cancel("survey")
        elif self._stale:
            self._predict()
        elif not busy:  # else the stroke on the Bench comes first
            self._survey_if_new()

    def _predict(self) -> None:
        self._stale = self._resting
        if self._resting:
            if self.outcome is not None and self.outcome.plan is not self.plan:
                self.outcome = None  # what is predicted of another plan says nothing of this one
            return
        stroke = self.stroke
        self._jobs.cancel("survey")  # the stroke on the Bench comes first
        self._newest.stop()
        if stroke is None:
            self.outcome = None
            self._settle.stop()
        else:
            try:
                self.outcome = coarse(self.plan, stroke.id)
                self.states[stroke.id] = self.outcome.state.value
                self._judge_soon()
            except PennelloError as error:
                self.outcome = None
                self.failed.emit(str(error))
        self.shown.emit()

    def _judge_soon(self) -> None:
        self._settle.start(STEP_SETTLES_MS if self.plan is self.document.committed else SETTLE_MS)

    def _refine(self) -> None:
        stroke = self.stroke
        if stroke is None:
            return
        plan, unit = self.plan, self.unit
        self._newest.run(
            lambda running: fine(plan, stroke.id, unit, running), finished=self._take, failed=self.failed.emit
        )

    def _take(self, outcome: Outcome) -> None:
        if outcome.plan is self.plan:
            self.outcome = outcome
            self.states[outcome.stroke] = outcome.state.value
            self.shown.emit()
            self.judged.emit()
            self._survey_if_new()

    def _survey_if_new(self) -> None:
        """Look at the other strokes too, for the marks on their tags, where that is not known yet."""
        plan = self.plan
        if plan is not self.document.committed or self._known is plan:
            return
        begin(
            self._jobs,
            "survey",
            self,
            lambda running: _states(plan, running),
            finished=lambda states: self._take_states(plan, states),
            failed=self.failed.emit,
        )

    def _take_states(self, plan: Plan, states: dict[str, str]) -> None:
        if plan is self.document.committed:
            self._known = plan
            self.states = states
            self.shown.emit()


def _states(plan: Plan, job: Job[dict[str, str]]) -> dict[str, str]:
    states = {}
    for number, stroke in enumerate(plan.strokes):
        job.report(number / len(plan.strokes), phrase("looking at the other strokes"))
        states[stroke.id] = roughly_judged(plan, stroke.id).value
    return states


def pickup_change(index: int = -1, **changes: object) -> StrokeChange:
    """Return the change that sets parts of one pick-up, the last without a number."""
    return pickup_changes(index, changes)


def pickup_changes(index: int, changes: dict[str, object]) -> StrokeChange:
    """Return the change that sets parts, by name, of one pick-up."""

    def change(plan: Plan, stroke: PlanStroke) -> Plan:
        if not -len(stroke.recipe.pickups) <= index < len(stroke.recipe.pickups):
            raise NothingThereError(phrase("This pick-up is no longer there."))
        pickup = replace(stroke.recipe.pickups[index], **changes)  # type: ignore[arg-type]
        return with_stroke(plan, with_pickup(stroke, index, pickup))

    return change


def stroke_change(make: Callable[[Stroke], Stroke]) -> StrokeChange:
    """Return the change that makes another way over the skin of the present one."""
    return lambda plan, stroke: with_stroke(plan, replace(stroke, stroke=make(stroke.stroke)))
