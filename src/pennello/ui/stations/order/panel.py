"""At the right of the line: what the order comes to, the step in the hand, what it waits for, and why it is there."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSignalBlocker, QSize, Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from pennello.design.ordering import Priority, Rule, RuleKind
from pennello.order.arrange import Arranged
from pennello.order.job import Lag, PaintJob, Why
from pennello.order.jobs import part_names
from pennello.phrases import named, phrase, plural
from pennello.ui.stations.order.model import OrderModel
from pennello.ui.stations.order.where_bar import WhereBar
from pennello.ui.theme.text import px
from pennello.ui.widgets.choice import choice
from pennello.ui.widgets.number_field import NumberField, Quantity
from pennello.ui.widgets.paint import to_image
from pennello.ui.widgets.plain import Label
from pennello.ui.widgets.told_list import ToldList
from pennello.units import clock

_AFTER = QSize(280, 240)
_AFTER_SHARE = 0.22

WORTH = Quantity(phrase("How much it adds to the look, 1 is usual"), 0.1, 10, 0.1, 1, " ×")


class StepPanel(QFrame):
    """The step in the hand, and the whole."""

    def __init__(self, model: OrderModel) -> None:
        super().__init__()
        self._model = model
        self.setObjectName("mat")
        self.setAccessibleName(phrase("The step in the hand, and the whole"))
        self.setFixedWidth(px(306))
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(6)
        self.total, self.sums, self.name, self.says = Label(""), Label(""), Label(""), Label("")
        self.total.setObjectName("headline")
        self.name.setObjectName("station")
        self.where = WhereBar()
        for label in (self.total, self.sums, self.name, self.says):
            label.setWordWrap(True)
            column.addWidget(label)
            if label is self.total:
                column.addWidget(self.where)
        self._build_part(column)
        self._build_foot(column)
        model.shown.connect(self.refresh)
        self.refresh()

    def _build_part(self, column: QVBoxLayout) -> None:
        """Put in what can be said about the part in the hand."""
        grid = QGridLayout()
        self.priority: QComboBox = choice(phrase("Whether it may be left out"))
        for priority in Priority:
            self.priority.addItem(named(priority), priority)
        self.priority.activated.connect(self._set_priority)
        self.worth = NumberField(WORTH)
        self.worth.edited.connect(self._set_worth)
        for row, (words, widget) in enumerate(
            ((phrase("this part"), self.priority), (phrase("adds to the look"), self.worth))
        ):
            label = Label(words)
            label.setObjectName("note")
            label.setBuddy(widget)
            grid.addWidget(label, row, 0)
            grid.addWidget(widget, row, 1)
        self._part = QWidget()
        self._part.setLayout(grid)
        grid.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self._part)
        self.no_wait = self._chip(
            column,
            phrase("Do not wait here"),
            phrase("Paint over it wet: it may go muddy; a rule of your own"),
            self._free,
        )
        self.let_dry = self._chip(
            column,
            phrase("Let it dry first"),
            phrase("Wait until what lies below is dry; a rule of your own"),
            self._dry,
        )

    def _chip(self, column: QVBoxLayout, words: str, hint: str, act: Callable[[], None]) -> QPushButton:
        chip = QPushButton(words)
        chip.setProperty("chip", True)
        chip.setToolTip(hint)
        chip.clicked.connect(lambda _=False: act())
        column.addWidget(chip)
        return chip

    def _build_foot(self, column: QVBoxLayout) -> None:
        """Put in the reasons, and the design after the step."""
        self.why = ToldList(phrase("Why the order is so: Enter goes to the step that it is about"))
        self.why.gone.connect(self._model.choose)
        column.addWidget(self.why, 1)
        self.after = Label("")
        self.after.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.after.setAccessibleName(phrase("The design after this step"))
        self.after_words = Label("")
        self.after_words.setObjectName("note")
        column.addWidget(self.after_words)
        column.addWidget(self.after)

    # --- following ---

    def refresh(self) -> None:
        """Follow the model."""
        view = self._model.view
        if view is None:
            self.total.setText("")
            self.sums.setText(phrase("The order is being worked out ...") if self._model.busy else "")
        else:
            self.total.setText(phrase("{total_s} min in all", total_s=clock(view.sums.total_s)))
            self.sums.setText(_sums(view))
            self.where.show_parts(view.sums.where)
        self.where.setVisible(view is not None and bool(view.jobs))
        job = self._job(view)
        for widget in (self.name, self.says, self._part):
            widget.setVisible(job is not None)
        for chip in (self.no_wait, self.let_dry):
            chip.setVisible(False)
        if job is not None and view is not None:
            self._show_job(view, job)
        self.why.show_told(_whole(view, self._model) if view is not None else ())
        self._show_after(job)

    def _show_after(self, job: PaintJob | None) -> None:
        """Show the design as it is after the step in the hand."""
        picture = self._model.after.get(job.id) if job is not None else None
        for label in (self.after, self.after_words):
            label.setVisible(picture is not None)
        if picture is not None:
            image = to_image(picture)
            ratio = self.devicePixelRatioF()
            high = min(_AFTER.height(), round(self.height() * _AFTER_SHARE))
            size = QSize(_AFTER.width(), high) * ratio
            scaled = image.scaled(size, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)
            scaled.setDevicePixelRatio(ratio)
            self.after.setPixmap(QPixmap.fromImage(scaled))
            self.after_words.setText(phrase("after this step, as predicted"))

    def _job(self, view: Arranged | None) -> PaintJob | None:
        if view is None:
            return None
        return next((job for job in view.jobs if job.id == self._model.chosen), None)

    def _show_job(self, view: Arranged, job: PaintJob) -> None:
        step = view.step(job.id)
        self.name.setText(job.name)
        lines = [
            phrase(
                "{start_s} to {end_s}, {seconds:.0f} s with the {tool}",
                start_s=clock(step.start_s),
                end_s=clock(step.end_s),
                seconds=step.seconds,
                tool=job.tool,
            )
        ]
        if job.loads:
            lines.append(_visits(job))
        waits = [lag.words for lag in view.lags if lag.after == job.id and lag.words and self._tells(lag)]
        lines += [f"· {words}" for words in waits[:4]]
        lines += [f"→ {one.words}" for one in self._model.why if one.job == job.id]
        self.says.setText("\n".join(lines))
        with QSignalBlocker(self.priority):
            self.priority.setCurrentIndex(self.priority.findData(job.priority))
        self.worth.show_amount(job.worth)
        self.no_wait.setVisible(self._held_by(view, job) is not None)
        self.let_dry.setVisible(self._wet_below(view, job) is not None)

    def _tells(self, lag: Lag) -> bool:
        return lag.least_s > 0 or lag.most_s < 1e8 or lag.why in (Why.OWN, Why.GO, Why.OVER)

    def _held_by(self, view: Arranged, job: PaintJob) -> Lag | None:
        """Return the wait that could be taken away: for paint of another part to dry."""
        waits = [step for step in view.steps if step.id == f"wait:{job.id}"]
        held = waits[0].waits_for if waits else ()
        return next(
            (lag for lag in view.lags if lag.after == job.id and lag.before in held and lag.why is Why.DRY),
            None,
        )

    def _wet_below(self, view: Arranged, job: PaintJob) -> Lag | None:
        """Return what it goes over however wet that is: a motif painted in one go, or by a rule of one's own."""
        return next(
            (
                lag
                for lag in view.lags
                if lag.after == job.id
                and lag.why in (Why.GO, Why.OVER)
                and any(one.id == lag.before for one in view.jobs)
            ),
            None,
        )

    # --- edits ---

    def _set_priority(self, at: int) -> None:
        job = self._job(self._model.view)
        if job is not None:
            priority = self.priority.itemData(at)
            self._model.set_ordering(phrase("What may be left out"), lambda one: one.with_priority(job.part, priority))

    def _set_worth(self, value: float) -> None:
        job = self._job(self._model.view)
        if job is not None:
            self._model.set_ordering(
                phrase("What it adds"),
                lambda one: one.with_worth(job.part, value),
                phrase("worth {part}", part=job.part),
            )

    def _free(self) -> None:
        self._rule(phrase("Do not wait here"), self._held_by, RuleKind.ANY)

    def _dry(self) -> None:
        self._rule(phrase("Let it dry first"), self._wet_below, RuleKind.DRY)

    def _rule(self, label: str, find: Callable[[Arranged, PaintJob], Lag | None], kind: RuleKind) -> None:
        view = self._model.view
        job = self._job(view)
        lag = find(view, job) if view is not None and job is not None else None
        if view is not None and job is not None and lag is not None:
            rule = Rule(view.job(lag.before).part, job.part, kind)
            self._model.set_ordering(label, lambda one: one.with_rule(rule))


def _visits(job: PaintJob) -> str:
    if not job.anew:
        return plural(job.loads, "{count} visit to the paint", "{count} visits to the paint")
    return plural(
        job.loads,
        "{count} visit to the paint, again before stroke {strokes}",
        "{count} visits to the paint, again before stroke {strokes}",
        strokes=", ".join(map(str, job.anew)),
    )


def _sums(view: Arranged) -> str:
    sums = view.sums
    lines = [
        phrase("{counts} (predicted)", counts=sums.changes_words),
    ]
    if view.by == "your own order":
        lines.append(phrase("in your own order"))
    else:
        lines.append(f"{view.how_good[0].lower()}{view.how_good[1:]}")
    if view.missed:
        lines.append(phrase("some of it cannot be met, see below"))
    own = view.design.pace.words
    lines.append(
        phrase("your pace: {own}", own="; ".join(own)) if own else phrase("seconds are defaults until you record runs")
    )
    if view.own_total_s > view.sums.total_s + 0.5:
        lines.append(
            phrase(
                "{own_total_s:.0f} s less than in the plan's order", own_total_s=view.own_total_s - view.sums.total_s
            )
        )
    return "\n".join(lines)


def _whole(view: Arranged, model: OrderModel) -> list[tuple[str, str, str]]:
    """Return what cannot be met, what is left out, where one may stop, why steps stand as they do, with their steps."""
    there = phrase("click to go to the step")
    lines = [(phrase("Cannot be met: {lag}.", lag=lag.words), lag.after, there) for lag in view.missed_lags]
    if view.choice is not None:
        lines += [(words, "", "") for words in view.choice.words(part_names(model.plan))]
    lines += [
        (phrase("Complete as it is after {at_s}.", at_s=clock(stop.at_s)), stop.after, there)
        for stop in view.stops[:-1]
    ]
    return lines + [(f"{one.words}.", one.job, there) for one in model.why if one.job in view.order]
