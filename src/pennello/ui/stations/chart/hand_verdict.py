"""The verdict on the load of the pulled stroke in the hand, as it is pulled there: a line of words, and its mends."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from PySide6.QtWidgets import QFrame, QGridLayout, QPushButton, QVBoxLayout

from pennello.aim.mend import SetPickUp, SetRecipe
from pennello.design.edits import mended, with_stroke
from pennello.design.on_chart import seat
from pennello.design.placed import SINGLE
from pennello.design.plan import Plan
from pennello.design.pulled import points_of
from pennello.phrases import phrase
from pennello.session.forecast import Outcome, fine
from pennello.session.jobs import Job
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.widgets.card_row import empty_grid
from pennello.ui.widgets.plain import Label
from pennello.ui.work import Newest

MOST_MENDS = 2


class HandVerdict(QFrame):
    """Judged once the chart is painted; a mend changes the load, for all that is laid with it."""

    def __init__(self, model: ChartModel) -> None:
        super().__init__()
        self._model = model
        self._newest = Newest(model.jobs, "verdict", self)
        self._of: object = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(3)
        self.words = Label("")
        self.words.setWordWrap(True)
        self.words.setAccessibleName(phrase("How its load comes out"))
        column.addWidget(self.words)
        self.mends = QGridLayout()
        self.mends.setSpacing(3)
        column.addLayout(self.mends)
        model.chosen_anew.connect(self.refresh)
        model.painted_anew.connect(self.refresh)
        self.hide()

    @property
    def busy(self) -> bool:
        """Whether it is still judged."""
        return self._newest.busy

    def refresh(self) -> None:
        """Judge the stroke in the hand, if it is a single one and another than before."""
        asked = self._asked()
        self.setVisible(asked is not None)
        if asked is None or asked == self._of:
            return
        self._of, (plan, load) = asked, asked
        unit = self._model.unit

        def work(job: Job[Any]) -> Outcome:
            return fine(plan, load, unit, job)

        self._newest.run(work, finished=self._show, failed=self.words.setText)

    def _asked(self) -> tuple[Plan, str] | None:
        """Return a plan with the stroke in the hand as its load's trial, and the load; None without one."""
        chosen = self._model.committed
        if chosen is None or not points_of(chosen) or chosen.way is None:
            return None
        plan = self._model.document.committed
        load = chosen.load_of[SINGLE]
        way = seat(plan, chosen).place.stroke(chosen.way)
        bare = replace(plan, motifs=(), parts=(), overlays=(), reserved=())
        return with_stroke(bare, replace(plan.stroke(load), stroke=way)), load

    def _show(self, outcome: Outcome) -> None:
        verdict = outcome.verdict
        empty_grid(self.mends)
        if verdict is None:
            return
        self.words.setText(verdict.headline)
        self.words.setObjectName(verdict.state.value)
        mends = [rated.mend for cause in verdict.causes for rated in cause.mends]
        for row, mend in enumerate([one for one in mends if isinstance(one, SetPickUp | SetRecipe)][:MOST_MENDS]):
            chip = QPushButton(mend.words)
            chip.setProperty("chip", True)
            chip.setToolTip(phrase("Changes the load, for all that is laid with it; undo takes it back"))
            # the load alone: an outcome holds films, for as long as the chip is there
            chip.clicked.connect(lambda _=False, load=outcome.stroke, which=mend: self.mend(load, which))
            self.mends.addWidget(chip, row, 0)

    def mend(self, load: str, mend: SetPickUp | SetRecipe) -> None:
        """Change the load as a mend says."""
        self._model.edit(phrase("Mend a load"), lambda plan: mended(plan, load, mend))
