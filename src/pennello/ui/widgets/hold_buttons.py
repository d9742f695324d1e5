"""The five ways to hold a brush as five pictures that the engine lays itself."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QWidget

from pennello.design.edits import with_stroke
from pennello.design.holds import FIVE
from pennello.design.plan import Plan
from pennello.lay.families.hold import Hold
from pennello.phrases import named, phrase
from pennello.session.catalogue import CataloguePicture, family_plan, laid
from pennello.session.jobs import Job, Jobs
from pennello.ui.gallery import tile
from pennello.ui.theme.text import px
from pennello.ui.widgets.one_of import OneOf
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.plain import tip
from pennello.ui.widgets.true_icon import true_icon
from pennello.ui.work import begin

SHOWN_BY = {
    Hold.UPRIGHT: "fingernail",
    Hold.HEEL: "shell",
    Hold.RIM: "horn",
    Hold.PUSH: "one-stroke-leaf",
    Hold.SQUARE: "fill",
}
"""Which family stands for a hold in its picture."""


class HoldButtons(QWidget):
    """Five buttons with pictures in the colours of a load.

    Signals
    -------
    chosen(object)
        A hold.
    """

    chosen = Signal(object)

    def __init__(self, picture: QSize, *, words: bool = True) -> None:
        super().__init__()
        self._picture, self._jobs = picture, Jobs()
        self._wanted: tuple[Plan, str] | None = None
        self._drawn_for: tuple[Any, ...] = ()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.group = OneOf(self)
        self.buttons: dict[Hold, QToolButton] = {}
        under = Qt.ToolButtonStyle.ToolButtonTextUnderIcon if words else Qt.ToolButtonStyle.ToolButtonIconOnly
        for hold in FIVE:
            button = QToolButton()
            button.setText(named(hold))
            button.setCheckable(True)
            button.setIconSize(picture)
            button.setIcon(true_icon(tile(QImage(), picture)))
            button.setToolButtonStyle(under)
            button.setProperty("segment", True)
            button.setStyleSheet(f"font-size: {px(11)}px; padding: 1px 3px;")
            button.setToolTip(tip(f"{named(hold)}: {hold.words}"))
            button.setAccessibleName(phrase("Held {hold}: {hold_2}", hold=named(hold), hold_2=hold.words))
            button.clicked.connect(partial(self._choose, hold))
            self.group.addButton(button)
            row.addWidget(button)
            self.buttons[hold] = button

    def _choose(self, hold: Hold, *_: object) -> None:
        self.chosen.emit(hold)

    def show_hold(self, hold: Hold | None) -> None:
        """Mark a hold, or none."""
        self.group.setExclusive(False)
        for kind, button in self.buttons.items():
            button.setChecked(kind is hold)
        self.group.setExclusive(True)

    def draw(self, plan: Plan, load: str) -> None:
        """Lay the pictures in the background, in the colours of a load; not again for the same ones."""
        self._wanted = (plan, load)
        if not self.isVisible():
            return
        stroke = plan.stroke(load)
        rests_on = (plan.skin, plan.paints, plan.cakes, stroke.recipe, stroke.brush)
        if rests_on == self._drawn_for:
            return
        self._drawn_for = rests_on

        def work(job: Job[Any]) -> None:
            for hold, family in SHOWN_BY.items():
                job.report(0.0, "")
                job.found.emit((hold, _picture(plan, load, family)))

        begin(
            self._jobs,
            "holds",
            self,
            work,
            finished=lambda _: None,
            failed=lambda _: None,
            found=lambda found: self._show_picture(*found),
        )

    def _show_picture(self, hold: Hold, one: CataloguePicture) -> None:
        self.buttons[hold].setIcon(true_icon(tile(to_image(one.picture), self._picture)))

    def showEvent(self, event: object) -> None:
        """Lay the pictures once they are seen."""
        super().showEvent(event)  # type: ignore[arg-type]
        if self._wanted is not None:
            self.draw(*self._wanted)

    def close_all(self) -> None:
        """Stop what is laid; the window closes."""
        self._jobs.close()


def _picture(plan: Plan, stroke: str, family: str) -> CataloguePicture:
    """Return a family's stroke, laid with the load of a stroke of the plan where that is across the edge."""
    made = family_plan(plan, family)
    here, new = plan.stroke(stroke), made.strokes[0]
    if here.recipe.pickups and not here.recipe.after and not plan.brush(here.brush).kind.dips:
        made = with_stroke(made, replace(new, brush=here.brush, recipe=here.recipe))
    return laid(made, family, family, 3.0, (132, 80))
