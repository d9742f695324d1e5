"""What is drawn on the skin over the paint: ribs of the nib, the path, marks of rim, heel and start, faults."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QLineF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from pennello.aim.attempt import Side
from pennello.colour.basis import FULL
from pennello.load.edge import boundaries
from pennello.phrases import phrase
from pennello.session.forecast import Outcome
from pennello.ui.stations.bench.skin_view import SkinView
from pennello.ui.theme.text import px
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.paint import draw_note

RIB_MM = 5.0


def ink_on(outcome: Outcome, alpha: int) -> QColor:
    """Return an ink that reads on the outcome's skin."""
    dark = FULL.lab(outcome.attempt.skin)[0] > 50
    return QColor(20, 20, 20, alpha) if dark else QColor(245, 245, 245, alpha)


def draw_ribs(painter: QPainter, view: SkinView, outcome: Outcome) -> None:
    """Draw the chisel every 5 mm."""
    track = outcome.laid.track
    moments = track.at(np.arange(0.0, track.length_mm, RIB_MM))
    painter.setPen(QPen(QColor(255, 255, 255, 70), 1))
    ends = track.points(moments, np.array([0.0, 1.0]))
    painter.drawLines([QLineF(view.point(*a), view.point(*b)) for a, b in ends])


def draw_path(painter: QPainter, view: SkinView, outcome: Outcome) -> None:
    """Draw the path and the lines to its handles."""
    path = outcome.attempt.stroke.path
    line = QPainterPath(view.point(*path.points_mm[0]))
    points = [view.point(*point) for point in path.points_mm]
    painter.setPen(QPen(ink_on(outcome, 120), 1, Qt.PenStyle.DotLine))
    for i in range(1, len(points), 3):
        line.cubicTo(points[i], points[i + 1], points[i + 2])
        painter.drawLine(points[i - 1], points[i])
        painter.drawLine(points[i + 1], points[i + 2])
    painter.setPen(QPen(QColor(255, 255, 255, 150), 1.2, Qt.PenStyle.DashLine))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPath(line)


def draw_marks(painter: QPainter, view: SkinView, outcome: Outcome) -> None:
    """Mark the rim by a crescent, the heel by a dot, the start by a ring."""
    track = outcome.laid.track
    rim_u = 0.0 if outcome.attempt.rim is Side.A else 1.0
    outside = QPainterPath()
    length = track.length_mm
    moments = track.at(np.linspace(0.42, 0.58, 9) * length)
    away = (rim_u - 0.5) * 2
    curve = track.points(moments, np.array([rim_u]))[:, 0] + away * track.edge[moments] * (7 / view.scale)
    outside.moveTo(view.point(*curve[0]))
    for point in curve[1:]:
        outside.lineTo(view.point(*point))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(ink_on(outcome, 210), 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    painter.drawPath(outside)
    middle = int(track.at(np.array([length / 2]))[0])
    heel = track.points(np.array([middle]), np.array([1 - rim_u]))[0, 0]
    heel = heel - away * track.edge[middle] * (8 / view.scale)
    painter.setBrush(ink_on(outcome, 210))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.drawEllipse(view.point(*heel), 3, 3)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(ink_on(outcome, 210), 1.6))
    painter.drawEllipse(view.point(*track.centre[0]), 8.5, 8.5)


def draw_boundary(painter: QPainter, view: SkinView, outcome: Outcome, hovered: int) -> None:
    """Follow the hovered boundary of the edge along the stroke."""
    found = boundaries(outcome.laid.edge)
    if not 0 <= hovered < len(found):
        return
    u = found[hovered].at_mm / outcome.laid.edge.width_mm
    track = outcome.laid.track
    line = track.points(np.arange(0, len(track.s_mm), 4), np.array([u]))[:, 0]
    painter.setPen(QPen(QColor(theme().accent), 1.4, Qt.PenStyle.DashLine))
    painter.drawPolyline([view.point(*point) for point in line])


def draw_faults(painter: QPainter, view: SkinView, outcome: Outcome) -> None:
    """Pin faults where they begin, and reloads where they are."""
    track = outcome.laid.track
    reloads = [at for at in outcome.attempt.stroke.reload_mm if at < track.length_mm]
    pins = [(at, "reload") for at in reloads]
    pins += [(fault.at_mm or 0.0, fault.code) for fault in outcome.faults]
    pins += [(at, "flip") for at in outcome.attempt.stroke.flips_mm if at < track.length_mm]
    if outcome.verdict:
        pins += [(cause.at_mm, cause.code) for cause in outcome.verdict.causes if cause.at_mm]
    for at_mm, code in pins:
        moment = int(track.at(np.array([at_mm]))[0])
        a, b = track.points(np.array([moment]), np.array([0.0, 1.0]))[0]
        words = {"pale": phrase("runs pale"), "drip": phrase("may drip"), "wrong_rim": phrase("wrong rim")}.get(
            code, code.replace("_", " ")
        )
        painter.setPen(QPen(ink_on(outcome, 220), 1.6))
        painter.drawLine(view.point(*a), view.point(*b))
        top = min(view.point(*a), view.point(*b), key=lambda p: p.y())
        label = QRectF(top.x() - px(34), top.y() - px(17) - 5, px(68), px(17))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme().mat))
        painter.drawRoundedRect(label, 8, 8)
        draw_note(painter, label, words)
