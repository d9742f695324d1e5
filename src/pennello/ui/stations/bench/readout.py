"""The read-out: wanted and laid as ribbons over one ruler, the difference along it, the verdict and its mends."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QEnterEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from pennello.aim.mend import Mend
from pennello.aim.state import State
from pennello.aim.verdict import Verdict
from pennello.aim.wish import Stop, Wanted
from pennello.design.edits import with_stroke
from pennello.design.problems import problems_of
from pennello.design.visits import MOST_FROM_ONE_LOAD
from pennello.design.wishing import with_wish_boundary
from pennello.files.picture import ribbons
from pennello.kit.applicator import GradientAxis
from pennello.kit.contact import BINS
from pennello.phrases import named, phrase, told
from pennello.session.forecast import Outcome
from pennello.ui.bench_model import BenchModel, StrokeChange
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.announcing import announce
from pennello.ui.widgets.handle import Handle, keep_handles
from pennello.ui.widgets.held import Held
from pennello.ui.widgets.mat import Surface
from pennello.ui.widgets.number_field import Quantity
from pennello.ui.widgets.paint import draw_note, draw_ruler, draw_state, strip_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.plain import Label, tip
from pennello.ui.widgets.type_box import type_over
from pennello.ui.widgets.words import Words
from pennello.units import de_text, difference_text, length_text

MOST_CHIPS = 3
_LABEL_PX, _TOP_PX = 92, 6


class StateMark(QWidget):
    """The verdict's mark: filled disc, half disc, open ring."""

    def __init__(self) -> None:
        super().__init__()
        self.word = ""
        self.setFixedSize(px(26), px(26))

    def show_word(self, word: str) -> None:
        """Show holds, close or misses."""
        self.word = word
        self.setAccessibleName(told(word))
        self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw the mark."""
        if self.word:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw_state(painter, self.word, QPointF(13, 13), 9)


class MendChip(QPushButton):
    """A mend: shown on all mats while the hand is near, applied by a click.

    Signals
    -------
    tried(bool)
        The hand is near, or gone.
    """

    tried = Signal(bool)

    def __init__(self, mend: Mend, words: str) -> None:
        super().__init__(words)
        self.mend = mend
        self.setProperty("chip", True)
        self.setAccessibleName(phrase("Mend: {words}", words=words))
        self.setToolTip(phrase("Hover to see it, click to apply it; undo takes it back"))

    def enterEvent(self, event: QEnterEvent) -> None:
        """Show what it would do."""
        super().enterEvent(event)
        self.tried.emit(True)

    def leaveEvent(self, event: object) -> None:
        """Show what is."""
        super().leaveEvent(event)  # type: ignore[arg-type]
        self.tried.emit(False)


PAGES = (
    ("wish", phrase("Wish ..."), phrase("What this stroke should look like")),
    ("find", phrase("Find a load"), phrase("Which cake, where on it, which brush: the loads at hand, nearest first")),
    ("design", phrase("Design a cake"), phrase("Which cake to make for it, or one for several strokes")),
    ("forgive", phrase("Forgiving?"), phrase("How many of 400 tries with your hand's slips still hold")),
)


class Readout(QFrame):
    """Ribbons, curve, verdict, mends, and the buttons of the searches.

    Signals
    -------
    page_wanted(str)
        A page of PAGES.
    """

    page_wanted = Signal(str)

    def __init__(self, model: BenchModel, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("mat")
        self.setAccessibleName(phrase("Read-out"))
        self._model = model
        self._judged: Outcome | None = None
        self._trying = False
        outer = QHBoxLayout(self)
        outer.setContentsMargins(12, 8, 12, 8)
        outer.setSpacing(16)
        self.surface = Surface(self)
        self.surface.draw = self._draw
        self.surface.setAccessibleName(phrase("Ribbons: wanted, laid near the start, laid near the end"))
        self.surface.resized.connect(self._place)
        self._bounds: list[Handle] = []
        outer.addWidget(self.surface, 6)
        outer.addLayout(self._build_verdict(), 5)
        outer.addLayout(self._build_pages())

    def _build_verdict(self) -> QVBoxLayout:
        box = QVBoxLayout()
        box.setSpacing(5)
        head = QHBoxLayout()
        self.mark = StateMark()
        self.headline = Label("")
        self.headline.setObjectName("headline")
        self.headline.setWordWrap(True)
        self.headline.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        head.addWidget(self.mark, 0, Qt.AlignmentFlag.AlignTop)
        head.addWidget(self.headline, 1)
        box.addLayout(head)
        self.figures = Words(2)
        box.addWidget(self.figures)
        self.causes = Label("")
        self.causes.setWordWrap(True)
        box.addWidget(self.causes)
        self.chips = QVBoxLayout()
        self.chips.setSpacing(4)
        box.addLayout(self.chips)
        box.addStretch(1)
        return box

    def _build_pages(self) -> QVBoxLayout:
        """Return the buttons of the pages that search."""
        column = QVBoxLayout()
        column.setSpacing(4)
        self.page_buttons: dict[str, QPushButton] = {}
        for page, words, hint in PAGES:
            button = QPushButton(words)
            button.setProperty("chip", True)
            button.setToolTip(hint)
            button.clicked.connect(lambda _=False, name=page: self.page_wanted.emit(name))
            button.setMinimumWidth(px(104))
            column.addWidget(button)
            self.page_buttons[page] = button
        column.addStretch(1)
        return column

    def _edit_wish(self, label: str, make: Callable[[Wanted], Wanted], merge: str = "") -> None:
        self._model.edit(label, _wish_change(make), merge)

    # --- the wish's boundaries ---

    def _boundary_handle(self, index: int) -> Handle:
        model = self._model

        def stops() -> tuple[Stop, ...]:
            return model.stroke.wanted.stops if model.stroke else ()

        def value() -> str:
            if index >= len(stops()) - 1:
                return ""
            stop, unit = stops()[index], model.unit
            start = phrase("the tip") if model.axis is GradientAxis.ALONG else "A"
            at = length_text(stop.to_u * model.edge_mm, unit)
            return phrase(
                "{at} from {start}, {blend_mm} soft", at=at, start=start, blend_mm=length_text(stop.blend_mm, unit)
            )

        def put(stop: Stop) -> StrokeChange:
            return _wish_change(lambda wanted: with_wish_boundary(wanted, index, stop.to_u, stop.blend_mm))

        def led(start: Stop, way: QPointF) -> Stop:
            return replace(start, to_u=round(start.to_u + way.x() / (model.edge_mm * self._scale), 4))

        def stepped(start: Stop, x: int, y: int, factor: float) -> Stop:
            to_u = start.to_u + x * factor * 0.5 / model.edge_mm
            return replace(start, to_u=to_u, blend_mm=start.blend_mm - y * factor * 0.5)

        def typed(handle: Handle) -> None:
            width, stop = model.edge_mm, stops()[index]
            quantity = Quantity(phrase("Wanted boundary from A"), 0.0, width, 0.5, 1, length=True)
            type_over(
                handle,
                quantity,
                model.unit,
                stop.to_u * width,
                lambda at: model.edit(phrase("Move a wanted boundary"), put(replace(stop, to_u=at / width))),
            )

        work = Held[Stop, StrokeChange](
            name=phrase("Wanted boundary {index} (up and down: softer, harder)", index=index + 1),
            label=phrase("Move a wanted boundary"),
            now=lambda: model.committed_stroke.wanted.stops[index],
            put=put,
            say=value,
            drag=led,
            step=stepped,
            merge=lambda: phrase("wish {index}", index=index),
            typed=typed,
        ).work(model)
        return Handle(self.surface, "bar", work, Qt.CursorShape.SplitHCursor)

    @property
    def _scale(self) -> float:
        return (self.surface.width() - px(_LABEL_PX + 34)) / self._model.edge_mm

    def _place(self) -> None:
        stroke = self._model.stroke if self._model.outcome else None
        count = len(stroke.wanted.stops) - 1 if stroke else 0
        keep_handles(self._bounds, count, self._boundary_handle)
        if stroke:
            for handle, stop in zip(self._bounds, stroke.wanted.stops, strict=False):
                handle.put(QPointF(px(_LABEL_PX) + stop.to_u * self._model.edge_mm * self._scale, 12))
                handle.refresh()

    # --- following ---

    def refresh(self) -> None:
        """Show the prediction; the verdict stays until the next one, greyed while the hand moves."""
        outcome = self._model.outcome
        self.surface.update()
        self._place()
        for button in self.page_buttons.values():
            button.setEnabled(outcome is not None)
        if outcome is None:
            self._clear()
            return
        self.mark.show_word(outcome.state.value)
        seen = outcome.seen
        told = (
            phrase("mean {mean}, 95 % below {most}", mean=de_text(seen.mean_de00), most=de_text(seen.p95_de00)),
            phrase("predicted; never calibrated, about 5 dE off and one in twenty over 11"),
            _lasting(outcome),
        )
        self.figures.setText(" · ".join(one for one in told if one))
        if outcome.verdict is not None and not self._trying:
            self._show_verdict(outcome)
        elif not self._trying:
            self.headline.setText(f"{named(outcome.state).capitalize()} ...")
            self.headline.setEnabled(False)

    def _clear(self) -> None:
        self.mark.show_word("")
        for label in (self.headline, self.figures, self.causes):
            label.setText("")
        self._drop_chips()

    def _show_verdict(self, outcome: Outcome) -> None:
        verdict = outcome.verdict
        if verdict is None or outcome is self._judged:
            self.headline.setEnabled(True)
            return
        self._judged = outcome
        self.headline.setEnabled(True)
        if self.headline.text() != verdict.headline:
            self.headline.setText(verdict.headline)
            announce(self.headline, verdict.headline)
        lines = _reasons(outcome, verdict)
        self.causes.setText("\n".join(lines))
        self.causes.setVisible(bool(lines))
        self._show_mends(outcome, verdict)

    def _show_mends(self, outcome: Outcome, verdict: Verdict) -> None:
        self._drop_chips()
        rated = [one for cause in verdict.causes for one in cause.mends]
        rated.sort(key=lambda one: one.mean_de00 or 0.0)
        for fault in [fault for fault in outcome.faults if fault.mends][:1]:
            words = fault.mends[0].mend.words
            chip = MendChip(fault.mends[0].mend, words[0].upper() + words[1:])
            chip.setToolTip(tip(fault.text))
            self._add_chip(chip)
        for one in rated[:MOST_CHIPS]:
            words = f"{one.mend.words}:  {difference_text(verdict.mean_de00)} → {de_text(one.mean_de00 or 0.0)}"
            self._add_chip(MendChip(one.mend, words[0].upper() + words[1:]))

    def _add_chip(self, chip: MendChip) -> None:
        chip.tried.connect(lambda near: self._try(chip.mend if near else None))
        chip.clicked.connect(lambda: self._apply(chip.mend))
        self.chips.addWidget(chip, 0, Qt.AlignmentFlag.AlignLeft)

    def _try(self, mend: Mend | None) -> None:
        self._trying = mend is not None
        self._model.try_mend(mend)

    def _apply(self, mend: Mend) -> None:
        self._trying = False
        self._model.cancel()
        self._model.apply(mend)

    def _drop_chips(self) -> None:
        while self.chips.count():
            item = self.chips.takeAt(0)
            widget = item.widget() if item else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()

    # --- drawing ---

    def _draw(self, painter: QPainter) -> None:
        outcome, area = self._model.outcome, QRectF(self.surface.rect())
        if outcome is None:
            draw_note(painter, area, phrase("What is wanted and what is laid will lie here, one above the other."))
            return
        width_mm = outcome.attempt.edge_mm
        scale = self._scale
        curve = 54.0
        height = min(34.0, (area.height() - curve - px(34) - _TOP_PX) / 3 - 3)
        track = outcome.laid.track
        late = length_text(float(outcome.seen.s_mm[-2]), self._model.unit)
        early = length_text(float(outcome.seen.s_mm[1]), self._model.unit)
        names = (
            (phrase("wanted"), phrase("laid, {early}", early=early), phrase("laid, {late}", late=late))
            if track.length_mm
            else (phrase("wanted"), phrase("laid"), phrase("laid"))
        )
        for row, (colours, name) in enumerate(zip(ribbons(outcome.seen), names, strict=True)):
            strip = QRectF(px(_LABEL_PX), _TOP_PX + row * (height + 3), width_mm * scale, height)
            painter.drawImage(strip, strip_image(colours))
            draw_note(
                painter,
                QRectF(0, strip.top(), px(_LABEL_PX) - 6, height),
                name,
                Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            )
        below = _TOP_PX + 3 * (height + 3)
        draw_ruler(painter, QPointF(px(_LABEL_PX), below), width_mm, scale, self._model.unit)
        self._draw_boundaries(painter, outcome, below, scale)
        self._draw_curve(painter, outcome, QRectF(px(_LABEL_PX), below + px(28), width_mm * scale, curve - 6))

    def _draw_boundaries(self, painter: QPainter, outcome: Outcome, below: float, scale: float) -> None:
        """Mark wanted boundaries by a tick through all ribbons, laid ones by a dot on the ruler."""
        for number, check in enumerate(outcome.seen.boundaries):
            x = px(_LABEL_PX) + check.wanted_at_mm * scale
            painter.setPen(QPen(QColor(255, 255, 255, 200), 1, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(x, _TOP_PX), QPointF(x, below))
            if check.laid is None:
                continue
            at = QPointF(px(_LABEL_PX) + check.laid.at_mm * scale, below + 1)
            near = number == self._model.hovered
            painter.setPen(QPen(QColor(theme().mat), 1))
            painter.setBrush(QColor(theme().accent if near else theme().ink))
            painter.drawEllipse(at, 4.5, 4.5)

    def _draw_curve(self, painter: QPainter, outcome: Outcome, area: QRectF) -> None:
        """Draw dE across the edge, early full and late dashed, with the tolerance as a line."""
        inks, seen = theme(), outcome.seen
        tolerance = outcome.attempt.wanted.tolerance_de00
        top = max(10.0, float(np.ceil(seen.de00[[1, -2]].max() / 10) * 10))
        painter.setPen(QPen(QColor(inks.line), 1))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        y = area.bottom() - tolerance / top * area.height()
        painter.setPen(QPen(QColor(inks.holds), 1, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
        x = area.left() + (np.arange(BINS) + 0.5) / BINS * area.width()
        for station, style in ((1, Qt.PenStyle.SolidLine), (-2, Qt.PenStyle.DashLine)):
            line = area.bottom() - np.minimum(seen.de00[station] / top, 1) * area.height()
            painter.setPen(QPen(QColor(inks.ink), 1, style))
            painter.drawPolyline([QPointF(a, b) for a, b in zip(x, line, strict=True)])
        labels = QRectF(0, area.top() - px(8), px(_LABEL_PX) - 6, px(16))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        draw_note(painter, labels, phrase("{top:.0f} dE", top=top), right)
        draw_note(painter, QRectF(0, area.bottom() - px(8), px(_LABEL_PX) - 6, px(16)), "0 dE", right)
        draw_note(
            painter, QRectF(area.right() + 3, y - px(8), px(34), px(16)), f"{tolerance:g}", Qt.AlignmentFlag.AlignLeft
        )


def _reasons(outcome: Outcome, verdict: Verdict) -> list[str]:
    """Return the causes behind the headline, then what is odd besides, each in a line."""
    others = verdict.causes if verdict.state is State.HOLDS else verdict.causes[1:]
    odd = [fault.text for fault in outcome.faults]
    told = {cause.code for cause in verdict.causes}
    odd += [one.text for one in problems_of(outcome.plan, outcome.stroke) if one.code not in told]
    return [*(cause.text for cause in others[:2]), *odd[:3]]


def _wish_change(make: Callable[[Wanted], Wanted]) -> StrokeChange:
    return lambda plan, stroke: with_stroke(plan, replace(stroke, wanted=make(stroke.wanted)))


def _lasting(outcome: Outcome) -> str:
    """Say how many such strokes one load gives."""
    count = outcome.from_one_load
    if count is None:
        return ""
    if count >= MOST_FROM_ONE_LOAD:
        return phrase("one load gives {count} of these or more", count=count)
    if not count:
        return phrase("one load does not last to its end")
    return phrase("one load gives {count} of these, pale from number {first}", count=count, first=count + 1)
