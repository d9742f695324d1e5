"""A loaded brush pulled over the chart by hand: the stroke is laid under it as it goes."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QImage, QKeyEvent, QPainter, QPen

from pennello.chart.chart import Point
from pennello.design.plan import Plan
from pennello.design.pulled import OFF_MM, Sample, pulled_stroke, with_pulled
from pennello.errors import PennelloError
from pennello.lay.canvas import Canvas
from pennello.lay.families.hold import Hold
from pennello.lay.stroke import Stroke
from pennello.lay.track import chisel_angles
from pennello.path.fit import GrowingFit
from pennello.phrases import named, phrase
from pennello.session.courtesy import HAND
from pennello.session.pull_scene import PullScene
from pennello.ui.stations.chart.model import ChartModel
from pennello.ui.stations.chart.pen import HandTouch, Pen, draw_hint
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import ChartView, draw_painted
from pennello.ui.widgets.paint import to_image

_HINT = phrase("pull. Q, E, wheel turn; F flips; 1-9 press; Shift upright; arrows, Space by keys; Esc ends.")
STEP_MM = 0.7
"""So far the hand has to go before another point is taken (a default)."""

TURN_DEG = 5.0
_SPARE_PX = 16.0
UNDER_HAND_PX_PER_MM = 2.0
"""Coarser than what is laid for good, so that the stroke keeps up with the hand."""


@dataclass(frozen=True, slots=True, eq=False)
class _UnderHand:
    """The stroke under the hand as it was laid last: what it was made of, how the chart looks there, and the chisel."""

    samples: tuple[Sample, ...]
    image: QImage
    canvas: Canvas
    chisel: Point


@dataclass(frozen=True, slots=True, eq=False)
class _Laid:
    """A stroke that is in the plan and not in the chart's picture yet: the piece, and how the chart looks there."""

    piece: str
    image: QImage
    canvas: Canvas


class StrokePen(Pen):
    """Pulls strokes of one load in one hold."""

    def __init__(self, model: ChartModel, view: Callable[[], ChartView]) -> None:
        super().__init__(model, view)
        self.load = ""
        self.laid = 0  # how often the stroke under the hand was laid
        self.holds: dict[str, Hold] = {}
        self._samples: list[Sample] = []
        self._within = (0.0, 0.0, 0.0, 0.0)
        self._down = self._flipped = False
        self._turn = 0.0
        self._pressure: float | None = None
        self._upright: float | None = None
        self._at: Point = (0.0, 0.0)
        self._scene: PullScene | None = None
        self._seen: object = None
        self._growing = GrowingFit(2 * OFF_MM)
        self._fresh: list[_Laid] = []
        self._now: _UnderHand | None = None

    @property
    def hold(self) -> Hold | None:
        """The hold that the load was last pulled in, if it was pulled."""
        return self.holds.get(self.load)

    @property
    def stroke(self) -> Stroke | None:
        """The stroke under the hand."""
        return self._stroke() if self._samples else None

    def begin(self, load: str, hold: Hold | None = None) -> None:
        """Pull strokes with a load from now on, in a hold or the one of the last time."""
        self.start()
        self.load = load
        if hold is not None:
            self.holds[load] = hold
        left, top, right, bottom = self._model.chart.bounds_mm
        self._at = ((left + right) / 2, (top + bottom) / 2)
        self._let_go()
        self._turn, self._pressure, self._upright, self._flipped = 0.0, None, None, False

    @property
    def left(self) -> bool:
        """Whether it is on, but another chart or a motif was taken, or its load is gone."""
        return super().left or (self.on and all(one.id != self.load for one in self._model.plan.strokes))

    def end(self) -> None:
        """Pull no more."""
        super().end()
        self.rest()

    def rest(self) -> None:
        """Have nothing under the hand, and no chart as it is painted."""
        self._let_go()
        self._scene = self._seen = None

    # --- the hand ---

    def _set_down(self) -> None:
        """Begin a stroke; work in the background waits for it to end."""
        self._down, self._upright, self._samples = True, None, []

    def _let_go(self) -> None:
        """Have nothing under the hand."""
        self._samples, self._down, self._now = [], False, None
        HAND.lift()

    def press(self, touch: HandTouch) -> None:
        """Set the brush down."""
        self._set_down()
        self._add(touch)

    def move(self, touch: HandTouch) -> None:
        """Pull on, or only go over the skin."""
        if self._down:
            self._add(touch)
        else:
            self._at = self._view().to_mm(touch.at)

    def release(self) -> None:
        """Lift: the stroke is there."""
        if not self._samples:
            return
        stroke, now = self._stroke(whole=True), self._now
        self._let_go()
        made: list[str] = []

        def change(plan: Plan) -> Plan:
            plan, piece = with_pulled(plan, self.load, stroke, self._model.key, self._model.part)
            made.append(piece)
            return plan

        self._model.edit(phrase("Pull a stroke"), change)
        if made:
            if self._scene is not None:
                self._scene.keep(self.load, stroke)
            if now is not None:
                self._fresh.append(_Laid(made[-1], now.image, now.canvas))

    def _add(self, touch: HandTouch) -> None:
        x, y = self._view().to_mm(touch.at)
        self._take(x, y, touch.pressure, touch.lean_deg, upright=touch.upright)

    def _take(self, x: float, y: float, pressure: float | None, lean_deg: float, *, upright: bool) -> None:
        """Take where the hand is: as another point, or where it has hardly moved in the place of the last one."""
        self._at = (x, y)
        left, top, right, bottom = self._within if self._samples else (x, y, x, y)
        self._within = (min(left, x), min(top, y), max(right, x), max(bottom, y))
        HAND.moves()
        if upright and self._upright is None:
            self._upright = self._chisel_now() - self._turn
        here = Sample(x, y, self._pressure if pressure is None else pressure, self._turn, lean_deg, self._flipped)
        near = len(self._samples) > 1 and math.dist((x, y), _place(self._samples[-2])) < STEP_MM
        if near and self._samples[-1].flipped is here.flipped:
            self._samples[-1] = here
        else:
            self._samples.append(here)

    def _chisel_now(self) -> float:
        """Return the direction of the chisel at the end of what is pulled, degrees."""
        if not self._samples:
            return self._turn + float(self._model.plan.stroke(self.load).stroke.nib.angle_deg)
        return round(math.degrees(float(chisel_angles(self._stroke(), np.array([1.0]))[0])), 1)

    def _stroke(self, *, whole: bool = False) -> Stroke:
        source = self._model.plan.stroke(self.load).stroke
        return pulled_stroke(source, self._samples, self.hold, self._upright, None if whole else self._growing)

    # --- keys and wheel ---

    def wheel(self, steps: float) -> bool:
        """Turn the chisel."""
        self._turned(steps)
        return True

    def _turned(self, steps: float) -> None:
        self._turn += steps * TURN_DEG
        if self._samples:
            self._samples[-1] = replace(self._samples[-1], turn_deg=self._turn)

    def key(self, event: QKeyEvent) -> bool:
        """Turn, flip, press harder or lighter; or lead the brush by arrows, down and up by Space."""
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Q, Qt.Key.Key_E):
            self._turned(-1 if key == Qt.Key.Key_Q else 1)
        elif key == Qt.Key.Key_F:
            self._flipped = not self._flipped
            if len(self._samples) == 1:
                self._samples[0] = replace(self._samples[0], flipped=self._flipped)
        elif Qt.Key.Key_0 <= key <= Qt.Key.Key_9:
            self._pressure = (key - Qt.Key.Key_0) / 10 or 1.0
        elif key == Qt.Key.Key_Escape and self._samples:
            self._let_go()
        elif (there := self.led(event, self._at)) is not None:
            self._lead(there, event)
        elif key == Qt.Key.Key_Space:
            self._set_or_lift()
        else:
            return False
        return True

    def _lead(self, there: Point, event: QKeyEvent) -> None:
        self._at = there
        if self._down:
            upright = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._take(*self._at, None, 0.0, upright=upright)

    def _set_or_lift(self) -> None:
        if self._down:
            self.release()
        else:
            self._set_down()
            self._take(*self._at, None, 0.0, upright=False)

    # --- drawing ---

    def reach(self) -> QRectF | None:
        """Return where the stroke under the hand may lie, and its chisel; where the hand is without one.

        The edge swings round a corner at most, splays, and lies down as far as its bristles are long.
        """
        left, top, right, bottom = self._within if self._samples else (*self._at, *self._at)
        view, source = self._view(), self._model.plan.stroke(self.load)
        brush = self._model.plan.brush(source.brush)
        wide = 1.5 * brush.width_mm + brush.thickness_mm + brush.bristle_mm + source.stroke.wiggle.width_mm
        far = (wide if self._samples else 0.0) * view.scale + px(_SPARE_PX)
        seen = QRectF(view.to_px(left, top), view.to_px(right, bottom)).normalized()
        return seen.adjusted(-far, -far, far, far)

    def draw(self, painter: QPainter, area: QRectF) -> None:
        """Draw what was pulled and is not in the picture yet, the stroke under the hand, and the chisel."""
        if not self.on:
            return
        plan, view = self._model.plan, self._view()
        hold = f", {named(self.hold)}" if self.hold is not None else ""
        draw_hint(painter, area, self.told(f"{plan.stroke(self.load).name}{hold}: {_HINT}"))
        painted = self._model.painted
        known = {one.id for one in painted.plan.motifs} if painted is not None else set()
        there = {one.id for one in plan.motifs}
        self._fresh = [one for one in self._fresh if one.piece not in known and one.piece in there]
        for one in self._fresh:
            draw_painted(painter, one.image, one.canvas, view)
        scene = self._over()
        if self._samples:
            self._lay(scene)
        if self._samples and self._now is not None:
            draw_painted(painter, self._now.image, self._now.canvas, view)
            self._draw_chisel(painter, view, self._now.chisel)
        else:
            self.draw_tip(painter, self._at)

    def _lay(self, scene: PullScene) -> None:
        """Lay the stroke under the hand, once for each picture that is drawn."""
        samples = tuple(self._samples)
        if self._now is not None and self._now.samples == samples:
            return
        stroke = self._stroke()
        try:
            patch = scene.lay(self.load, stroke)
        except PennelloError:
            return  # what cannot be laid is told when the stroke is made
        self.laid += 1
        if patch is not None:
            self._now = _UnderHand(samples, to_image(patch.rgba), patch.canvas, patch.chisel)

    def _over(self) -> PullScene:
        """Return the chart as it is painted, what was pulled since on it."""
        painted = self._model.painted
        if self._scene is None or (painted is not self._seen and not self._fresh):
            film = None if self._model.busy else self._model.film
            self._scene, self._seen = PullScene(self._model.plan, self._model.key, film, UNDER_HAND_PX_PER_MM), painted
        return self._scene

    def _draw_chisel(self, painter: QPainter, view: ChartView, chisel: Point) -> None:
        """Draw the edge where the brush is, with a dot at corner A."""
        brush = self._model.plan.brush(self._model.plan.stroke(self.load).brush)
        across, down = (brush.width_mm / 2 * part for part in chisel)
        x, y = self._at
        one, other = view.to_px(x - across, y - down), view.to_px(x + across, y + down)
        for weight, colour in ((4.0, QColor(255, 255, 255, 170)), (1.6, QColor(theme().accent))):
            painter.setPen(QPen(colour, weight))
            painter.drawLine(one, other)
        painter.setBrush(QColor(theme().accent))
        painter.drawEllipse(one, 3.5, 3.5)


def _place(sample: Sample) -> tuple[float, float]:
    return sample.x_mm, sample.y_mm
