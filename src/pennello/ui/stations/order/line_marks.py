"""Marks on the washing line: the rope, loads as drops, rinses as waves, tools, words, gates."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from pennello.design.pace import StepKind
from pennello.order.arrange import Arranged
from pennello.order.steps import Step
from pennello.phrases import phrase
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import draw_note

_LEAST_WAIT_PX = 30
_LEAST_RELOAD_PX = 8


def draw_rope(painter: QPainter, view: Arranged, x_at: Callable[[float], float], y: float) -> None:
    """Draw the line: taut where the hand works, sagging where it waits."""
    rope = QPainterPath(QPointF(x_at(0.0) - 16, y))
    for step in view.steps:
        end = x_at(step.end_s)
        if step.kind is StepKind.WAIT:
            start = x_at(step.start_s)
            rope.lineTo(start, y)
            sag = min(6 + (end - start) * 0.06, 26)
            rope.quadTo(QPointF((start + end) / 2, y + sag), QPointF(end, y))
        else:
            rope.lineTo(end, y)
    rope.lineTo(x_at(view.sums.total_s) + 16, y)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(theme().ink_2), 2))
    painter.drawPath(rope)


def draw_mark(painter: QPainter, step: Step, start: float, end: float, y: float) -> None:
    """Draw a load, a rinse, a tool, a word or a look as a mark on the line; a wait says how long."""
    if step.kind is StepKind.WAIT:
        if end - start > px(_LEAST_WAIT_PX):
            words = (
                phrase("wait {seconds:.0f} s", seconds=step.seconds)
                if end - start > 2 * px(_LEAST_WAIT_PX)
                else phrase("{seconds:.0f} s", seconds=step.seconds)
            )
            draw_note(painter, QRectF(start, y - px(16) - 6, end - start, px(16)), words)
        return
    painter.save()
    painter.translate((start + end) / 2, y)
    painter.setPen(QPen(QColor(theme().ink_2), 1.4))
    painter.setBrush(QColor(theme().mat))
    mark = _MARKS.get(step.kind)
    if mark is not None:
        mark(painter)
    painter.restore()


def draw_hand(painter: QPainter, step: Step, x_at: Callable[[float], float], y: float) -> None:
    """Draw the time that the brush is on the skin as a band on the line, and a small drop where it is loaded anew."""
    start = step.start_s
    for begins, ends in (*step.reloads_s, (step.end_s, step.end_s)):
        painter.fillRect(QRectF(x_at(start), y - 2.5, x_at(begins) - x_at(start), 5), QColor(theme().ink_2))
        start = ends
    painter.save()
    painter.setPen(QPen(QColor(theme().ink_2), 1.4))
    for begins, ends in step.reloads_s:
        if x_at(ends) - x_at(begins) < _LEAST_RELOAD_PX:
            continue
        painter.save()
        painter.translate(x_at((begins + ends) / 2), y - 1)
        painter.scale(0.6, 0.6)
        _drop(painter)
        painter.restore()
    painter.restore()


def _drop(painter: QPainter) -> None:
    drop = QPainterPath(QPointF(0, -15))
    drop.cubicTo(QPointF(7, -6), QPointF(5, 1), QPointF(0, 1))
    drop.cubicTo(QPointF(-5, 1), QPointF(-7, -6), QPointF(0, -15))
    painter.setBrush(QColor(theme().ink_2))
    painter.drawPath(drop)


def _wave(painter: QPainter) -> None:
    wave = QPainterPath(QPointF(-8, -7))
    for at in (-4, 4):
        wave.quadTo(QPointF(at - 2, -13), QPointF(at, -7))
        wave.quadTo(QPointF(at + 2, -1), QPointF(at + 4, -7))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(wave)


def _tool(painter: QPainter) -> None:
    painter.drawRect(QRectF(-2, -18, 4, 10))
    painter.drawRect(QRectF(-4, -8, 8, 6))


def _word(painter: QPainter) -> None:
    painter.drawRoundedRect(QRectF(-7, -17, 14, 10), 4, 4)
    painter.drawLine(QPointF(-2, -7), QPointF(-5, -3))


def _look(painter: QPainter) -> None:
    painter.drawEllipse(QRectF(-8, -12, 16, 9))
    painter.drawEllipse(QPointF(0, -7.5), 2, 2)


_MARKS: dict[StepKind, Callable[[QPainter], None]] = {
    StepKind.LOAD: _drop,
    StepKind.RINSE: _wave,
    StepKind.CHANGE: _tool,
    StepKind.CUE: _word,
    StepKind.CHECK: _look,
}


def draw_gate(painter: QPainter, opens: float, closes: float, y: float, *, tacky: bool) -> None:
    """Draw a window as an open gate: two posts and an arch, for glitter that sticks or paint that is wet."""
    painter.setPen(QPen(QColor(theme().holds if tacky else theme().accent), 2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for x in (opens, closes):
        painter.drawLine(QPointF(x, y - 5), QPointF(x, y + 14))
    arch = QPainterPath(QPointF(opens, y - 5))
    arch.quadTo(QPointF((opens + closes) / 2, y - 11), QPointF(closes, y - 5))
    painter.drawPath(arch)
