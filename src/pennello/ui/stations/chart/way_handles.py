"""Handles on the way of the free stroke in the hand: its points, and the handles of its curves."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QLineF, QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen
from PySide6.QtWidgets import QWidget

from pennello.design.on_chart import with_motif
from pennello.design.placed import PlacedMotif
from pennello.design.pulled import points_of, with_point_at
from pennello.phrases import phrase
from pennello.ui.stations.chart.model import ChartModel, PlanChange
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import ChartView
from pennello.ui.widgets.handle import Handle, HandleWork, keep_handles
from pennello.ui.widgets.held import Held
from pennello.units import length_text

_MOST = 40
"""A way of more points is moved as a whole."""


class WayHandles:
    """One handle for each point of the way."""

    def __init__(self, model: ChartModel, board: QWidget, view: Callable[[], ChartView]) -> None:
        self._model, self._board, self._view = model, board, view
        self.points: list[Handle] = []
        self.bends: list[Handle] = []

    def place(self) -> None:
        """Lie on the points of the stroke in the hand; nowhere for any other piece."""
        chosen = self._model.seated
        points = points_of(chosen) if chosen is not None else ()
        if len(points) > _MOST:
            points = ()
        at = {number: point for number, point in enumerate(points) if number % 3 == 0}
        bends = {number: point for number, point in enumerate(points) if number % 3}
        for handles, found, shape in ((self.points, at, "square"), (self.bends, bends, "dot")):
            numbers = list(found)
            keep_handles(handles, len(numbers), partial(self._made, shape))
            for handle, number in zip(handles, numbers, strict=True):
                handle.put(self._view().to_px(*found[number]))
                handle.refresh()
                handle.raise_()

    def _made(self, shape: str, place: int) -> Handle:
        number = 3 * place if shape == "square" else 3 * (place // 2) + 1 + place % 2
        return Handle(self._board, shape, self._work(number), Qt.CursorShape.CrossCursor)

    def _work(self, number: int) -> HandleWork:
        model = self._model

        def now() -> PlacedMotif | None:
            here = model.committed_seated
            return here if here is not None and number < len(points_of(here)) else None

        def shifted(one: PlacedMotif, right_mm: float, down_mm: float) -> PlacedMotif:
            x, y = points_of(one)[number]
            return with_point_at(one, number, x + (-right_mm if self._view().mirror else right_mm), y + down_mm)

        def put(one: PlacedMotif) -> PlanChange:
            return lambda plan: with_motif(plan, one)

        def words() -> str:
            chosen = model.seated
            points = points_of(chosen) if chosen is not None else ()
            if number >= len(points):
                return ""
            return phrase(
                "{points} right, {points_2} down",
                points=length_text(points[number][0], model.unit),
                points_2=length_text(points[number][1], model.unit),
            )

        held = Held[PlacedMotif, PlanChange](
            name=phrase("A point of the way") if number % 3 == 0 else phrase("A bend of the way"),
            label=phrase("Move a point"),
            now=now,
            put=put,
            say=words,
            drag=lambda one, way: shifted(one, way.x() / self._view().scale, way.y() / self._view().scale),
            step=lambda one, x, y, factor: shifted(one, x * factor, y * factor),
            merge=lambda: phrase("point {number}", number=number),
        )
        return held.work(model)

    def draw(self, painter: QPainter) -> None:
        """Draw what ties each bend to its point."""
        chosen = self._model.seated
        points = points_of(chosen) if chosen is not None else ()
        if not points or len(points) > _MOST:
            return
        painter.setPen(QPen(QColor(theme().accent), 1))
        ties = [(n, n + 1) for n in range(len(points) - 1) if n % 3 != 1]
        pixels = [QPointF(self._view().to_px(*one)) for one in points]
        painter.drawLines([QLineF(pixels[one], pixels[other]) for one, other in ties])
