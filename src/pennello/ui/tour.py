"""A tour of eight small steps that do real things on the plan that is open; it can be left, and found again."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Protocol

from PySide6.QtCore import QEvent, QObject, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from pennello.design.plan import Plan, Skin
from pennello.phrases import phrase
from pennello.session.document import Document
from pennello.ui.bench_model import BenchModel
from pennello.ui.binding import follow
from pennello.ui.theme.text import px
from pennello.ui.widgets.plain import Label

_DARK_ITA = -15.0
_WIDE = 430
_RAIL_WIDE, _HEAD_HIGH = 84, 84


class Toured(Protocol):
    """What the tour asks of the window."""

    document: Document
    model: BenchModel

    def station(self, key: str) -> Any:
        """Return a station, made if need be."""

    def go_to(self, key: str) -> None:
        """Show a station."""

    def undo(self) -> None:
        """Take back the last step."""

    def print_shown(self) -> None:
        """Show what there is for paper."""


@dataclass(frozen=True, slots=True)
class TourStep:
    """A small step.

    Attributes
    ----------
    station
        Where it is done.
    title, words
        What is done, and how.
    act
        Does it for the painter.
    done
        Whether it is done, by the plan as it was at the beginning of the step and as it is now.
    """

    station: str
    title: str
    words: str
    act: Callable[[Toured], object]
    done: Callable[[Plan, Plan], bool]


def _slide(window: Toured) -> None:
    pickup = window.model.pickup
    if pickup is not None:
        window.model.set_pickup(phrase("Slide the brush"), offset_mm=round(pickup.offset_mm + 1.0, 2))


def _mend(window: Toured) -> None:
    outcome = window.model.outcome
    mends = [one for cause in outcome.verdict.causes for one in cause.mends] if outcome and outcome.verdict else []
    if mends:
        window.model.apply(mends[0].mend)
    else:
        _slide(window)


def _darker(window: Toured) -> None:
    document = window.document
    document.edit(phrase("Skin"), replace(document.committed, skin=Skin(_DARK_ITA)))


def _rose(window: Toured) -> None:
    chart: Any = window.station("chart")
    chart.add_motif("rose-open")


def _mirror(window: Toured) -> None:
    chart: Any = window.station("chart")
    here = chart.model.motifs
    if here:
        chart.model.choose(here[-1].id)
        chart.model.edit_motif(phrase("Mirror image"), lambda one: replace(one, twin=not one.twin))


def _three_minutes(window: Toured) -> None:
    order: Any = window.station("order")
    order.times["3:00"].click()


def _recipes(plan: Plan) -> object:
    return tuple(one.recipe for one in plan.strokes)


def _strokes(plan: Plan) -> object:
    return tuple((one.recipe, one.stroke, one.brush, one.rim) for one in plan.strokes)


STEPS: tuple[TourStep, ...] = (
    TourStep(
        "bench",
        phrase("Slide the brush"),
        phrase("The brush lies across the cake at the left. Drag it a little: the edge and the stroke follow."),
        _slide,
        lambda before, now: _recipes(before) != _recipes(now),
    ),
    TourStep(
        "bench",
        phrase("Take a mend"),
        phrase(
            "Below, a sentence says how near the stroke is to what is wanted. Point at a mend beneath it, then "
            "click it."
        ),
        _mend,
        lambda before, now: _strokes(before) != _strokes(now),
    ),
    TourStep(
        "bench",
        phrase("See it on a darker skin"),
        phrase("The skin stands in the bar on top. Choose a dark one: everything is laid anew on it."),
        _darker,
        lambda before, now: before.skin != now.skin,
    ),
    TourStep(
        "chart",
        phrase("Put a rose on the face"),
        phrase("Take a rose from the strip below the person. It comes with the loads that suit it."),
        _rose,
        lambda before, now: len(now.motifs) > len(before.motifs),
    ),
    TourStep(
        "chart",
        phrase("The other side too"),
        phrase("With the rose in the hand, tick 'its mirror image too, live' at the right."),
        _mirror,
        lambda before, now: [one.twin for one in before.motifs] != [one.twin for one in now.motifs],
    ),
    TourStep(
        "order",
        phrase("In three minutes"),
        phrase("The line shows what the hand does when. Click 3:00: what fits is chosen."),
        _three_minutes,
        lambda before, now: before.ordering.target_s != now.ordering.target_s,
    ),
    TourStep(
        "order",
        phrase("Take it back"),
        phrase("The arrow at the top, or Ctrl+Z, takes back the last step. Any of them, as often as you like."),
        lambda window: window.undo(),
        lambda before, now: before != now,
    ),
    TourStep(
        "order",
        phrase("See it on paper"),
        phrase("Plan, Print ... shows the sheet for the chair as it comes out. Look at it, then close it."),
        lambda window: window.print_shown(),
        lambda _before, _now: False,
    ),
)


class Tour(QFrame):
    """A card over the window's lower right corner.

    Signals
    -------
    stood(int)
        It stands at a step, 1 the first; 0 when it is over.
    """

    stood = Signal(int)

    def __init__(self, window: Toured, frame: QWidget, at: int = 0) -> None:
        super().__init__(frame)
        self._window, self._frame = window, frame
        self.at = min(max(at, 0), len(STEPS) - 1)
        self._before = window.document.committed
        self.setObjectName("banner")
        self.setFixedWidth(px(_WIDE))
        self.setAccessibleName(phrase("The tour"))
        self.title, self.words = Label(""), Label("")
        self.title.setObjectName("strong")
        self.words.setWordWrap(True)
        self.back, self.do, self.next, self.end = (
            QPushButton(words)
            for words in (phrase("Back"), phrase("Do it for me"), phrase("Next"), phrase("Leave the tour"))
        )
        self._build()
        follow(self, window.document.changed, self._look)
        frame.installEventFilter(self)
        self.show()

    def _build(self) -> None:
        for button in (self.end, self.back, self.do, self.next):
            button.setProperty("chip", True)
        self.back.clicked.connect(lambda: self.go(self.at - 1))
        self.do.clicked.connect(self.do_it)
        self.next.clicked.connect(lambda: self.go(self.at + 1))
        self.end.clicked.connect(self.leave)
        foot = QHBoxLayout()
        foot.addWidget(self.end)
        foot.addStretch(1)
        for button in (self.back, self.do, self.next):
            foot.addWidget(button)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.addWidget(self.title)
        column.addWidget(self.words)
        column.addLayout(foot)

    @property
    def step(self) -> TourStep:
        """The step at which it stands."""
        return STEPS[self.at]

    @property
    def done(self) -> bool:
        """Whether that step is done."""
        return self.step.done(self._before, self._window.document.committed)

    def go(self, at: int) -> None:
        """Stand at another step; beyond the last one it is over."""
        if at >= len(STEPS):
            self.over()
            return
        self.at = max(at, 0)
        self._before = self._window.document.committed
        self._window.go_to(self.step.station)
        self.stood.emit(self.at + 1)
        self._look()
        self.raise_()

    def do_it(self) -> None:
        """Do the step for the painter."""
        self.step.act(self._window)

    def leave(self) -> None:
        """Go away; it goes on from here the next time."""
        self.hide()
        self.deleteLater()

    def over(self) -> None:
        """It was gone through: it begins anew the next time."""
        self.stood.emit(0)
        self.leave()

    def _look(self) -> None:
        """Say what is to be done, or that it is."""
        mark = "✓ " if self.done else ""
        self.title.setText(
            phrase("{mark}{at} of {count}: {step}", mark=mark, at=self.at + 1, count=len(STEPS), step=self.step.title)
        )
        self.words.setText(self.step.words)
        self.back.setEnabled(self.at > 0)
        self.next.setText(phrase("End") if self.at + 1 == len(STEPS) else phrase("Next"))
        self.adjustSize()
        self._lie()

    def _lie(self) -> None:
        """Lie where nothing is covered that the step needs."""
        room = self._frame.rect()
        right, below = room.right() - self.width() - 18, room.bottom() - self.height() - 18
        at = {"bench": (right, _HEAD_HIGH), "chart": (_RAIL_WIDE, _HEAD_HIGH + 50)}.get(
            self.step.station, (right, below)
        )
        self.move(*at)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Stay in the corner when the window is another size."""
        if watched is self._frame and event.type() == QEvent.Type.Resize:
            self._lie()
        return super().eventFilter(watched, event)
